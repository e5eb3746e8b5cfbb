//! A piece's finish on a photo of it.
//!
//! A photo is reflectance × light, channel by channel, once the camera's own scaling is removed by a card. The faces that are marked in it
//! give the camera ([`Pinhole`]), and so which point of the piece each pixel shows. The old paint or wood is taken to have nearly one
//! colour; what is left of a pixel is the light on it, after the gloss of the old varnish is taken off (it has the colour of the light:
//! S. A. Shafer, *Color Res. Appl.* 10 (1985) 210) and the old grain ([`grain`]). The new finish is the flat picture of each face, in that
//! light.

use std::{
    borrow::Borrow,
    collections::{BTreeMap, HashMap, HashSet},
};

use rayon::prelude::*;
use warm_blend_board::Place;
use warm_blend_paint::FilmState;
use warm_blend_photo::{
    BadCorners, Homography, Photo, PhotoSpot, Pinhole, Point2, Surface, blurred, check_corners, grain,
};
use warm_blend_piece::{Elevation, Face, FinishedZone, Part, Rect, Shaping, View, Zone};

use crate::{
    camera::Camera,
    flat::{FlatFace, flats},
    in_view::{Corrected, InView},
    picture::{Picture, Screen},
    solid::Solid,
    space::Point,
};

/// Where faces of a piece are seen in a photo, and what to leave alone.
#[derive(Debug, Clone, Copy)]
pub struct MarkedPhoto<'a> {
    /// Faces and their corners: upper left, upper right, lower right, lower left, in widths of the photo.
    pub faces: &'a [(View, [Point2; 4])],
    /// Outlines of what stands in front, in widths of the photo.
    pub hidden: &'a [Vec<Point2>],
    /// What a perfect white reads in each channel, linear, where the card is.
    pub white: [f64; 3],
    /// The card; the light there is that of `white`.
    pub card: Option<PhotoSpot>,
}

/// Why a finish cannot be shown on a photo.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadMarks {
    /// No face is marked.
    #[error("mark the corners of the front first")]
    NoFront,
    /// The piece has no such face.
    #[error("this piece has no such face; mark another")]
    NoFace,
    /// Wrong corners of a face, with its index.
    #[error("{1}")]
    Corners(usize, BadCorners),
    /// No camera sees the faces so.
    #[error("the marked corners do not fit together; check each of them")]
    NoCamera,
}

/// How much of a finish shows the surface below, and how it mirrors.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Worn {
    /// Share of the old surface's light and dark that is still seen through it, 0 to 1.
    pub through: f64,
    /// Gloss against that of the old varnish, 0 to 1.
    pub gloss: f64,
}

impl Worn {
    /// How a finished zone covers what is below, in a state.
    pub fn of(zone: &FinishedZone, state: FilmState) -> Self {
        let states =
            zone.coats.iter().flat_map(|coat| coat.stack.seen(Place::Field, coat.stack.len(), state).states);
        let (mut through, mut alpha, mut all) = (0.0, 0.0, 0.0);
        for state in states {
            through += state.share * state.see_through;
            alpha += state.share * state.alpha;
            all += state.share;
        }
        let all = f64::max(all, 1e-9);
        Self { through: through / all, gloss: 1.0 - alpha / all }
    }
}

/// A pixel that shows the piece.
#[derive(Debug, Clone, Copy)]
struct Pixel {
    index: u32,
    flat: u8,
    zone: u8,
    /// Share of it that shows the zone, 0–255.
    share: u8,
    over: u16,
    at: (f32, f32),
    /// Light on it, by channel, of that on the card.
    light: [f32; 3],
    /// Logarithm of the old grain.
    grain: f32,
    /// What the old varnish mirrors.
    gloss: f32,
}

/// A photo of a piece, prepared to show its finishes.
#[derive(Debug)]
pub struct OnPhoto {
    photo: Picture,
    faces: Vec<FlatFace>,
    parts: Vec<Rect>,
    pixels: Vec<Pixel>,
    /// What a perfect white reads.
    white: [f32; 3],
    error: f64,
}

/// Width of the band along an edge of a part that its shape lights differently, mm†.
const ARRIS: f64 = 5.0;
/// Side of carved corners, of the shorter side of their part†.
const CARVED: f64 = 0.36;
/// Gloss is what is lighter than this, of the usual lightness of its zone†.
const GLOSS_FROM: f32 = 1.25;
/// Width over which the haze of a glossy surface is even, of the width of the photo†.
const GLOSSY: f64 = 0.015;
/// Zones whose log ratios of channels differ by less are of one old colour†.
const ONE_COLOUR: f32 = 0.35;
/// From this reflectance of its darkest channel on, a surface shows the colour of the light on it†.
const SURE_OF_LIGHT: f32 = 0.15;
/// Samples across a pixel that tell where a zone ends.
const SAMPLES: usize = 3;

fn number(zone: Zone) -> u8 {
    Zone::ALL.iter().position(|one| *one == zone).unwrap_or(0) as u8
}

/// Whether the shape of a part changes the light at a point.
fn is_shaped(face: &Face, part: &Part, (x, y): (f64, f64)) -> bool {
    match part.shaping {
        Shaping::Flat | Shaping::Sunk | Shaping::Raised => {
            // Near its own edge, or that of what is set into it.
            let near = |other: &Part| other.inward(x, y).abs() < ARRIS;
            near(part) || face.parts.iter().any(|other| other.on.is_some() && near(other))
        }
        Shaping::Carved => {
            // Only in its corners.
            let Rect { x: left, y: upper, w, h } = part.rect;
            let across = (x - left).min(left + w - x);
            let down = (y - upper).min(upper + h - y);
            across.max(down) < CARVED * w.min(h) || part.inward(x, y) < ARRIS
        }
        _ => true,
    }
}

impl OnPhoto {
    /// Finds the camera, and the light on every pixel of the piece, in a photo scaled to `width` pixels.
    pub fn new(
        photo: &Photo,
        elevation: &Elevation,
        marked: MarkedPhoto,
        width: u32,
    ) -> Result<Self, BadMarks> {
        let (pixels, width) = scaled(photo, width.max(16) as usize);
        let height = pixels.len() / width;
        let (camera, corrected) = found_camera(elevation, &marked, width as f64, height as f64)?;
        let solid = Solid::of(elevation).ok_or(BadMarks::NoFront)?;
        let error = camera.error;
        let seen = InView::new(Camera::with_photo(&camera, width as f64), &solid);
        let faces = seen.flats(elevation, 1.0);
        let mut on = Self {
            photo: coded(&pixels, width),
            faces,
            parts: Vec::new(),
            pixels: Vec::new(),
            white: marked.white.map(|channel| channel.max(1e-4) as f32),
            error,
        };
        let surfaces = on.find_pixels(&seen, &corrected, &marked, (width, height));
        on.find_light(&pixels, &surfaces, &marked, width);
        Ok(on)
    }

    /// How far the marked corners are from where a piece of these dimensions would be seen, root mean square, in widths of the photo.
    pub fn error(&self) -> f64 {
        self.error
    }

    /// Flat pictures that [`OnPhoto::draw`] needs, unshaded: of which face, with or without its patterns, and how large.
    pub fn flats(&self) -> impl Iterator<Item = (View, bool, (u32, u32))> {
        self.faces.iter().map(|face| (face.face.view, face.patterned, face.size))
    }

    /// Memory it takes, bytes.
    pub fn bytes(&self) -> usize {
        self.photo.rgb.len() + self.pixels.len() * size_of::<Pixel>()
    }

    /// The photo as it is.
    pub fn before(&self) -> &Picture {
        &self.photo
    }

    /// Shows what zones wear, from flat pictures of the faces in the order of [`OnPhoto::flats`]. The others stay as they are.
    pub fn draw<P: Borrow<Picture> + Sync>(&self, pictures: &[P], worn: &BTreeMap<Zone, Worn>) -> Picture {
        let flats = flats(&self.faces, pictures);
        let worn: Vec<Option<Worn>> = Zone::ALL.iter().map(|zone| worn.get(zone).copied()).collect();
        let screen = Screen::get();
        let mut picture = self.photo.clone();
        let drawn = |pixel: &Pixel| {
            let pixel = *pixel;
            let worn = worn[usize::from(pixel.zone)]?;
            let (x, y) = pixel.at;
            let seen = flats
                .get(usize::from(pixel.flat))?
                .at((f64::from(x), f64::from(y)), self.parts[usize::from(pixel.over)]);
            let grain = (pixel.grain * worn.through as f32).exp();
            let gloss = pixel.gloss * worn.gloss as f32;
            let lit = |c: usize| (seen[c] * grain * pixel.light[c] + gloss) * self.white[c];
            Some((pixel, [lit(0), lit(1), lit(2)]))
        };
        let drawn: Vec<_> = self.pixels.par_iter().filter_map(drawn).collect();
        for (pixel, lit) in drawn {
            let share = f32::from(pixel.share) / 255.0;
            let codes = &mut picture.rgb[3 * pixel.index as usize..][..3];
            for (code, lit) in codes.iter_mut().zip(lit) {
                let new = f32::from(screen.code(lit));
                *code = (share * new + (1.0 - share) * f32::from(*code)).round() as u8;
            }
        }
        picture
    }

    /// Which point of the piece each pixel shows; returns what each pixel is.
    fn find_pixels(
        &mut self,
        seen: &InView,
        corrected: &Corrected,
        marked: &MarkedPhoto,
        (width, height): (usize, usize),
    ) -> Vec<Surface> {
        let by_plane = seen.by_plane(&self.faces);
        let all: Vec<usize> = (0..seen.planes.len()).collect();
        let is_hidden = |x: f64, y: f64| {
            let at = [x / width as f64, y / width as f64];
            marked.hidden.iter().any(|outline| is_inside(outline, at))
        };
        let zone_at = |x: f64, y: f64| {
            let met = seen.nearest_by(&all, x, y, corrected)?;
            let point = seen.point(&met)?;
            (point.zone.is_painted() && !is_hidden(x, y)).then_some((met, point))
        };
        let rows: Vec<Vec<(Pixel, Rect, bool)>> = (0..height)
            .into_par_iter()
            .map(|y| {
                let row = (0..width).filter_map(|x| {
                    let (met, point) = zone_at(x as f64 + 0.5, y as f64 + 0.5)?;
                    let flat = by_plane[met.plane]?;
                    let face = &self.faces[flat].face;
                    let pixel = Pixel {
                        index: (y * width + x) as u32,
                        flat: flat as u8,
                        zone: number(point.zone),
                        share: 255,
                        over: 0,
                        at: (point.at.0 as f32, point.at.1 as f32),
                        light: [1.0; 3],
                        grain: 0.0,
                        gloss: 0.0,
                    };
                    let part = face.parts.get(point.part)?;
                    Some((pixel, met.over, is_shaped(face, part, point.at)))
                });
                row.collect()
            })
            .collect();
        let mut surfaces = vec![Surface::Other; width * height];
        let mut zones = vec![u8::MAX; width * height];
        for (mut pixel, over, shaped) in rows.into_iter().flatten() {
            pixel.over = match self.parts.iter().rposition(|part| *part == over) {
                Some(known) => known as u16,
                None => {
                    self.parts.push(over);
                    (self.parts.len() - 1) as u16
                }
            };
            zones[pixel.index as usize] = pixel.zone;
            let surface = if shaped { Surface::Shaped(pixel.zone) } else { Surface::Flat(pixel.zone) };
            surfaces[pixel.index as usize] = surface;
            self.pixels.push(pixel);
        }
        // Where a zone ends within a pixel only a share of it is painted.
        let share = |pixel: &mut Pixel| {
            let (x, y) = (pixel.index as usize % width, pixel.index as usize / width);
            let alike = |x: usize, y: usize| x < width && y < height && zones[y * width + x] == pixel.zone;
            let within = alike(x + 1, y)
                && alike(x, y + 1)
                && alike(x.wrapping_sub(1), y)
                && alike(x, y.wrapping_sub(1));
            if !within {
                let of_it = (0..SAMPLES * SAMPLES).filter(|n| {
                    let part = |n: usize| (n as f64 + 0.5) / SAMPLES as f64;
                    let (u, v) = (x as f64 + part(n % SAMPLES), y as f64 + part(n / SAMPLES));
                    zone_at(u, v).is_some_and(|(_, point)| number(point.zone) == pixel.zone)
                });
                pixel.share = (255 * of_it.count() / (SAMPLES * SAMPLES)) as u8;
            }
        };
        self.pixels.par_iter_mut().for_each(share);
        surfaces
    }

    /// The light on each pixel, its old grain and its gloss.
    fn find_light(&mut self, photo: &[[f32; 3]], surfaces: &[Surface], marked: &MarkedPhoto, width: usize) {
        // As shares of what a white would read beside the card.
        let shares: Vec<[f32; 3]> =
            photo.iter().map(|rgb| std::array::from_fn(|c| (rgb[c] / self.white[c]).max(1e-4))).collect();
        let kinds: Vec<Kind> = self
            .pixels
            .iter()
            .map(|pixel| (self.faces[usize::from(pixel.flat)].face.view, pixel.zone))
            .collect();
        let mut by_kind: BTreeMap<Kind, Vec<u32>> = BTreeMap::new();
        for (pixel, kind) in self.pixels.iter().zip(&kinds) {
            by_kind.entry(*kind).or_default().push(pixel.index);
        }
        let usual: BTreeMap<Kind, [f32; 3]> = by_kind
            .iter()
            .map(|(kind, of)| (*kind, usual(of.iter().map(|at| shares[*at as usize]))))
            .collect();
        let groups = groups(&by_kind, &usual);
        let clear = clear_colours(&groups, &by_kind, &usual);
        let foreign = self.foreign(&shares, &kinds, &usual, marked, width);
        let mut surfaces = surfaces.to_vec();
        foreign.iter().for_each(|at| surfaces[*at as usize] = Surface::Other);
        let radius = (GLOSSY * width as f64) as usize;
        let near: [Vec<f32>; 3] = std::array::from_fn(|c| {
            let channel: Vec<f32> = shares.iter().map(|share| share[c]).collect();
            blurred(width, &channel, &surfaces, radius)
        });
        let mut matt = shares;
        for (pixel, kind) in self.pixels.iter_mut().zip(&kinds) {
            let at = pixel.index as usize;
            let haze = haze([near[0][at], near[1][at], near[2][at]], clear[kind]);
            let own = usual[kind].map(|channel| channel - haze);
            let gloss = haze + mirrored(matt[at].map(|channel| channel - haze), own);
            // Noise must not take all of a dark pixel.
            let gloss = gloss.min(0.6 * matt[at][0].min(matt[at][1]).min(matt[at][2]));
            matt[at] = matt[at].map(|channel| channel - gloss);
            pixel.gloss = gloss;
        }
        let of = |kind: &Kind| {
            by_kind[kind].iter().filter(|at| !foreign.contains(at)).map(|at| matt[*at as usize])
        };
        let usual: BTreeMap<Kind, [f32; 3]> =
            by_kind.keys().map(|kind| (*kind, self::usual(of(kind)))).collect();
        let olds = old_colours(&groups, &by_kind, &usual, &matt, marked, width, &surfaces);
        let grain = grain(width, &matt, &surfaces);
        for (pixel, kind) in self.pixels.iter_mut().zip(&kinds) {
            let (old, usual) = (olds[kind], usual[kind]);
            pixel.grain = grain[pixel.index as usize];
            // Light and dark from the pixel, its colour from the whole zone.
            let level = luminance(matt[pixel.index as usize]) / luminance(usual) / pixel.grain.exp();
            pixel.light = light_of(level, usual, old);
        }
        self.cover(&foreign, width);
    }

    /// Pixels near the card that show something else than the piece: the card, and whoever holds it.
    fn foreign(
        &self,
        shares: &[[f32; 3]],
        kinds: &[Kind],
        usual: &BTreeMap<Kind, [f32; 3]>,
        marked: &MarkedPhoto,
        width: usize,
    ) -> HashSet<u32> {
        let Some(card) = marked.card else { return HashSet::new() };
        let mut foreign = HashSet::new();
        let reach = (0.004 * width as f64).ceil() as i64;
        for (pixel, kind) in self.pixels.iter().zip(kinds) {
            let (x, y) = (pixel.index as usize % width, pixel.index as usize / width);
            let away = (x as f64 / width as f64 - card.x).hypot(y as f64 / width as f64 - card.y);
            let (share, usual) = (shares[pixel.index as usize], usual[kind]);
            let is_other = luminance(share) > 1.8 * luminance(usual) || tint_apart(share, usual) > 0.5;
            if away < 1.2 * card.radius || (away < 3.0 * card.radius && is_other) {
                for (dx, dy) in (-reach..=reach).flat_map(|dx| (-reach..=reach).map(move |dy| (dx, dy))) {
                    let (x, y) = (x as i64 + dx, y as i64 + dy);
                    if (0..width as i64).contains(&x) && y >= 0 {
                        foreign.insert((y * width as i64 + x) as u32);
                    }
                }
            }
        }
        foreign
    }

    /// Gives pixels that show something else the light of what is beside them.
    fn cover(&mut self, foreign: &HashSet<u32>, width: usize) {
        if foreign.is_empty() {
            return;
        }
        let at: HashMap<u32, usize> =
            self.pixels.iter().enumerate().map(|(n, pixel)| (pixel.index, n)).collect();
        let mut left: Vec<usize> = foreign.iter().filter_map(|index| at.get(index).copied()).collect();
        left.sort_unstable();
        let mut known: HashSet<u32> =
            self.pixels.iter().map(|pixel| pixel.index).filter(|index| !foreign.contains(index)).collect();
        // From the rim inwards: light changes slowly.
        while !left.is_empty() {
            let mean = |n: usize| {
                let index = self.pixels[n].index;
                let (mut sum, mut times) = ([0.0f32; 3], 0.0f32);
                for row in -4i64..=4 {
                    for column in -4i64..=4 {
                        let beside = i64::from(index) + row * width as i64 + column;
                        let Some(n) =
                            u32::try_from(beside).ok().filter(|b| known.contains(b)).and_then(|b| at.get(&b))
                        else {
                            continue;
                        };
                        (0..3).for_each(|c| sum[c] += self.pixels[*n].light[c]);
                        times += 1.0;
                    }
                }
                (times > 0.0).then(|| sum.map(|sum| sum / times))
            };
            let found: Vec<(usize, [f32; 3])> = left.iter().filter_map(|n| Some((*n, mean(*n)?))).collect();
            if found.is_empty() {
                break;
            }
            for (n, light) in &found {
                let pixel = &mut self.pixels[*n];
                (pixel.light, pixel.grain, pixel.gloss) = (*light, 0.0, 0.0);
                known.insert(pixel.index);
            }
            left.retain(|n| !known.contains(&self.pixels[*n].index));
        }
    }
}

/// Light by channel, where a surface of this old colour usually looks like that in it. The darkest channel of a dark surface tells little of
/// the colour of the light.
fn light_of(level: f32, usual: [f32; 3], old: [f32; 3]) -> [f32; 3] {
    let whole = luminance(usual) / luminance(old);
    let certain = (old[0].min(old[1]).min(old[2]) / SURE_OF_LIGHT).min(1.0);
    std::array::from_fn(|c| level * whole * (usual[c] / old[c] / whole).powf(certain))
}

fn luminance([red, green, blue]: [f32; 3]) -> f32 {
    0.2126 * red + 0.7152 * green + 0.0722 * blue
}

/// How different two colours are but for their lightness: the distance of the logarithms of the ratios of their channels.
fn tint_apart(one: [f32; 3], other: [f32; 3]) -> f32 {
    let tint = |rgb: [f32; 3]| [(rgb[0] / rgb[1]).ln(), (rgb[2] / rgb[1]).ln()];
    let (one, other) = (tint(one), tint(other));
    (one[0] - other[0]).hypot(one[1] - other[1])
}

type Kind = (View, u8);

/// Zones on faces that are of nearly one colour, in more or less light.
fn groups(by_kind: &BTreeMap<Kind, Vec<u32>>, usual: &BTreeMap<Kind, [f32; 3]>) -> Vec<Vec<Kind>> {
    let mut left: Vec<Kind> = by_kind.keys().copied().collect();
    left.sort_by_key(|kind| (kind.0 != View::Front, std::cmp::Reverse(by_kind[kind].len())));
    let mut groups = Vec::new();
    while let Some(first) = left.first().copied() {
        let alike = |kind: &Kind| tint_apart(usual[kind], usual[&first]) < ONE_COLOUR;
        let (group, others) = left.iter().partition(|kind| alike(kind));
        left = others;
        groups.push(group);
    }
    groups
}

/// The old colour of each zone without white over it: of one colour, that of the zone that is least pale.
fn clear_colours(
    groups: &[Vec<Kind>],
    by_kind: &BTreeMap<Kind, Vec<u32>>,
    usual: &BTreeMap<Kind, [f32; 3]>,
) -> BTreeMap<Kind, [f32; 3]> {
    let mut clear = BTreeMap::new();
    for group in groups {
        let pixels: usize = group.iter().map(|kind| by_kind[kind].len()).sum();
        let large = group.iter().filter(|kind| 50 * by_kind[kind].len() > pixels);
        let least_pale =
            large.map(|kind| usual[kind]).min_by(|one, other| pale(*one).total_cmp(&pale(*other)));
        clear.extend(group.iter().map(|kind| (*kind, least_pale.unwrap_or(usual[kind]))));
    }
    clear
}

/// The darkest channel of a colour by the lightest.
fn pale(rgb: [f32; 3]) -> f32 {
    rgb[0].min(rgb[1]).min(rgb[2]) / rgb[0].max(rgb[1]).max(rgb[2]).max(1e-6)
}

/// How much white lies over a colour that would be as `clear` without; none over a grey, which does not show it.
fn haze(rgb: [f32; 3], clear: [f32; 3]) -> f32 {
    let (clear, here) = (pale(clear), pale(rgb));
    if clear > 0.6 || here <= clear {
        return 0.0;
    }
    // (least − haze) / (most − haze) = clear
    let (least, most) = (rgb[0].min(rgb[1]).min(rgb[2]), rgb[0].max(rgb[1]).max(rgb[2]));
    (least - clear * most) / (1.0 - clear)
}

/// What a share mirrors: as much white as explains why it is paler than usual, where it is lighter than usual.
fn mirrored(share: [f32; 3], usual: [f32; 3]) -> f32 {
    let sum = |rgb: [f32; 3]| rgb[0] + rgb[1] + rgb[2];
    let lighter = sum(share) / sum(usual).max(1e-3);
    if lighter < GLOSS_FROM {
        return 0.0;
    }
    // share = level · usual + gloss · (1, 1, 1), least squares.
    let dot = |a: [f32; 3], b: [f32; 3]| a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    let (uu, u1, us) = (dot(usual, usual), sum(usual), dot(usual, share));
    let determinant = 3.0 * uu - u1 * u1;
    let gloss = if determinant > 0.02 * uu {
        (uu * sum(share) - u1 * us) / determinant
    } else {
        // A grey surface has the colour of its gloss: only what no light explains is taken for it.
        share[1] - 2.0 * usual[1]
    };
    let certain = ((lighter - GLOSS_FROM) / 0.5).min(1.0);
    (certain * gloss).clamp(0.0, share[0].min(share[1]).min(share[2]).max(0.0))
}

/// The geometric mean of some colours, without the darkest and the lightest: grain is centred in the same way.
fn usual(colours: impl Iterator<Item = [f32; 3]>) -> [f32; 3] {
    let mut all: Vec<[f32; 3]> = colours.collect();
    let sum = |rgb: &[f32; 3]| rgb[0] + rgb[1] + rgb[2];
    all.sort_unstable_by(|one, other| sum(one).total_cmp(&sum(other)));
    let cut = all.len() / 10;
    let middle = &all[cut..all.len() - cut];
    let n = middle.len().max(1) as f32;
    std::array::from_fn(|c| (middle.iter().map(|rgb| rgb[c].max(1e-4).ln()).sum::<f32>() / n).exp())
}

/// The old reflectance of each zone on each face: what is flat and near the card has its light.
fn old_colours(
    groups: &[Vec<Kind>],
    by_kind: &BTreeMap<Kind, Vec<u32>>,
    usual_of: &BTreeMap<Kind, [f32; 3]>,
    shares: &[[f32; 3]],
    marked: &MarkedPhoto,
    width: usize,
    surfaces: &[Surface],
) -> BTreeMap<Kind, [f32; 3]> {
    let near = |at: &&u32| {
        marked.card.is_some_and(|card| {
            let (x, y) = (**at as usize % width, **at as usize / width);
            (x as f64 / width as f64 - card.x).hypot(y as f64 / width as f64 - card.y) < 10.0 * card.radius
        }) && matches!(surfaces[**at as usize], Surface::Flat(_))
    };
    let mut olds = BTreeMap::new();
    for group in groups {
        let first = group[0];
        let of_face = group.iter().filter(|kind| kind.0 == first.0).flat_map(|kind| &by_kind[kind]);
        let beside: Vec<[f32; 3]> = of_face.filter(near).map(|at| shares[*at as usize]).collect();
        let old = if beside.len() < 60 { usual_of[&first] } else { usual(beside.into_iter()) };
        olds.extend(group.iter().map(|kind| (*kind, old)));
    }
    olds
}

/// The camera that saw the marked faces, and how each face is moved so that its corners lie where they were marked.
fn found_camera(
    elevation: &Elevation,
    marked: &MarkedPhoto,
    width: f64,
    height: f64,
) -> Result<(Pinhole, Corrected), BadMarks> {
    if !marked.faces.iter().any(|(view, _)| *view == View::Front) {
        return Err(BadMarks::NoFront);
    }
    let mut points: Vec<(Point, Point2)> = Vec::new();
    for (n, (view, corners)) in marked.faces.iter().enumerate() {
        check_corners(corners).map_err(|error| BadMarks::Corners(n, error))?;
        let is_right = *view != View::Side || is_right_of_front(marked, corners);
        let in_space = face_corners(elevation, *view, is_right).ok_or(BadMarks::NoFace)?;
        points.extend(in_space.into_iter().zip(*corners));
    }
    let camera = Pinhole::fit(&points, height / width).ok_or(BadMarks::NoCamera)?;
    if camera.error > 0.08 {
        return Err(BadMarks::NoCamera);
    }
    let mut corrected = Corrected::default();
    for ((view, corners), in_space) in marked.faces.iter().zip(points.chunks_exact(4)) {
        let seen: Option<Vec<Point2>> = in_space.iter().map(|(point, _)| camera.sees(*point)).collect();
        let seen: Option<[Point2; 4]> = seen.and_then(|seen| seen.try_into().ok());
        let pixels = |corners: [Point2; 4]| corners.map(|corner| corner.map(|v| v * width));
        let back = seen.and_then(|seen| Homography::between(&pixels(*corners), &pixels(seen)));
        corrected.set(*view, back.ok_or(BadMarks::NoCamera)?);
    }
    Ok((camera, corrected))
}

/// Whether a side lies to the right of the front in the photo.
fn is_right_of_front(marked: &MarkedPhoto, side: &[Point2; 4]) -> bool {
    let middle = |corners: &[Point2; 4]| corners.iter().map(|corner| corner[0]).sum::<f64>();
    let front = marked.faces.iter().find(|(view, _)| *view == View::Front);
    front.is_none_or(|(_, front)| middle(side) > middle(front))
}

/// Corners of a face in space, as it is seen: upper left, upper right, lower right, lower left, mm.
pub fn face_corners(elevation: &Elevation, view: View, is_right: bool) -> Option<[Point; 4]> {
    let solid = Solid::of(elevation)?;
    let (w, h, d) = (solid.front_width(), solid.front_height(), solid.depth);
    elevation.face(view)?;
    Some(match view {
        View::Front => [[0.0, 0.0, 0.0], [w, 0.0, 0.0], [w, h, 0.0], [0.0, h, 0.0]],
        View::Side if is_right => [[w, 0.0, 0.0], [w, 0.0, -d], [w, h, -d], [w, h, 0.0]],
        View::Side => [[0.0, 0.0, -d], [0.0, 0.0, 0.0], [0.0, h, 0.0], [0.0, h, -d]],
        View::Top => [[0.0, 0.0, -d], [w, 0.0, -d], [w, 0.0, 0.0], [0.0, 0.0, 0.0]],
    })
}

/// Whether a point lies inside an outline (crossings of a ray: M. Shimrat, *Commun. ACM* 5 (1962) 434).
fn is_inside(outline: &[Point2], [x, y]: Point2) -> bool {
    let crosses = |i: usize| {
        let ([ax, ay], [bx, by]) = (outline[i], outline[(i + 1) % outline.len()]);
        (ay > y) != (by > y) && x < ax + (y - ay) / (by - ay) * (bx - ax)
    };
    (0..outline.len()).filter(|i| crosses(*i)).count() % 2 == 1
}

/// The photo averaged to about this width; never enlarged.
fn scaled(photo: &Photo, width: usize) -> (Vec<[f32; 3]>, usize) {
    let (from_width, from_height) = photo.size();
    let width = width.min(from_width);
    let by = from_width as f64 / width as f64;
    let height = ((from_height as f64 / by).round() as usize).max(1);
    let pixels = photo.pixels();
    let mean = |i: usize| {
        let (x, y) = (i % width, i / width);
        let range = |at: usize, most: usize| {
            let from = ((at as f64 * by) as usize).min(most - 1);
            from..(((at + 1) as f64 * by) as usize).clamp(from + 1, most)
        };
        let (mut sum, mut n) = ([0.0f32; 3], 0.0);
        for row in range(y, from_height) {
            for column in range(x, from_width) {
                let pixel = pixels[row * from_width + column];
                (0..3).for_each(|c| sum[c] += pixel[c]);
                n += 1.0;
            }
        }
        sum.map(|channel| channel / n)
    };
    ((0..width * height).into_par_iter().map(mean).collect(), width)
}

fn coded(pixels: &[[f32; 3]], width: usize) -> Picture {
    let screen = Screen::get();
    let rgb = pixels.iter().flat_map(|rgb| rgb.map(|channel| screen.code(channel))).collect();
    Picture { width: width as u32, height: (pixels.len() / width) as u32, rgb }
}
