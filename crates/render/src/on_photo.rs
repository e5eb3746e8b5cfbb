//! A piece's finish on a photo of it.
//!
//! A photo is reflectance × light, channel by channel, once the camera's own scaling is removed by a card. The faces that are marked in it
//! give the camera, and so which point of the piece each pixel shows. What is left of a pixel without the old colour, its gloss and its grain
//! is the light on it (`photo_light`). The new finish is the flat picture of each face, in that light.

use std::{borrow::Borrow, collections::BTreeMap};

use rayon::prelude::*;
use warm_blend_board::Place;
use warm_blend_paint::{FilmState, Seen};
use warm_blend_photo::{Photo, Surface};
use warm_blend_piece::{Elevation, FinishedZone, Rect, View, Zone};
use warm_blend_spectral::{Light, Reflectance};

use crate::{
    camera::Camera,
    flat::{FlatFace, flats},
    in_view::{Corrected, InView},
    marked::{BadMarks, MarkedPhoto, found_camera},
    old_surface::{Kind, luminance},
    photo_carving::{Lit, SeenCarving},
    photo_light::find_light,
    photo_pixel::Pixel,
    photo_surface::{surface_at, zone_number},
    picture::{Picture, Screen},
    solid::Solid,
};

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

/// A photo of a piece, prepared to show its finishes.
#[derive(Debug)]
pub struct OnPhoto {
    photo: Picture,
    faces: Vec<FlatFace>,
    parts: Vec<Rect>,
    pixels: Vec<Pixel>,
    /// What a perfect white reads.
    white: [f32; 3],
    /// By face, as far as it is carved.
    carvings: BTreeMap<View, SeenCarving>,
}

/// A white that casts are read off.
const WHITE: f64 = 0.4;
/// Samples across a pixel that tell where a zone ends.
const SAMPLES: usize = 3;

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
        let seen = InView::new(Camera::with_photo(&camera, width as f64), &solid);
        let faces = seen.flats(1.0);
        let mut on = Self {
            photo: coded(&pixels, width),
            faces,
            parts: Vec::new(),
            pixels: Vec::new(),
            white: marked.white.map(|channel| channel.max(1e-4) as f32),
            carvings: BTreeMap::new(),
        };
        let surfaces = on.find_pixels(&seen, &corrected, &marked, (width, height));
        let white = on.white;
        let shares =
            pixels.iter().map(|rgb| std::array::from_fn(|c| (rgb[c] / white[c]).max(1e-4))).collect();
        let kind = |pixel: &Pixel| (on.faces[usize::from(pixel.flat)].face.view, pixel.zone);
        let kinds: Vec<Kind> = on.pixels.iter().map(kind).collect();
        find_light(&mut on.pixels, &kinds, shares, surfaces, marked.card, width);
        on.carvings = on.carvings();
        Ok(on)
    }

    /// The carving that is seen on each face.
    fn carvings(&self) -> BTreeMap<View, SeenCarving> {
        let patterned = self.faces.iter().enumerate().filter(|(_, face)| face.patterned);
        let carving = |(n, face): (usize, &FlatFace)| {
            let pixels =
                self.pixels.iter().filter(|pixel| usize::from(pixel.flat) == n && pixel.share == 255);
            let lit = pixels.map(|pixel| {
                let (x, y) = pixel.at;
                Lit { at: (f64::from(x), f64::from(y)), light: luminance(pixel.light), carved: pixel.carved }
            });
            (face.face.view, SeenCarving::of(&face.face, &lit.collect::<Vec<_>>()))
        };
        patterned.map(carving).collect()
    }

    /// The carving of a face as the photo shows it, for its flat picture.
    pub fn carving(&self, view: View) -> SeenCarving {
        self.carvings.get(&view).cloned().unwrap_or_default()
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

    /// Shows what zones wear, from flat pictures of the faces in the order of [`OnPhoto::flats`], drawn in the light of the photo's room. The
    /// others stay as they are.
    pub fn draw<P: Borrow<Picture> + Sync>(
        &self,
        pictures: &[P],
        worn: &BTreeMap<Zone, Worn>,
        light: Light,
    ) -> Picture {
        // The photo has the cast of its light already: of the flat pictures it is taken off.
        let cast =
            Seen::linear(&Reflectance::grey(WHITE), light).map(|channel| (WHITE / channel.max(1e-3)) as f32);
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
            let lit = |c: usize| (seen[c] * cast[c] * grain * pixel.light[c] + gloss) * self.white[c];
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
        let zone_at = |x: f64, y: f64| {
            let met = seen.nearest_by(x, y, corrected)?;
            let point = seen.point(&met)?;
            (point.zone.is_painted() && !marked.hides([x / width as f64, y / width as f64]))
                .then_some((met, point))
        };
        let rows: Vec<Vec<(Pixel, Rect, Surface)>> = (0..height)
            .into_par_iter()
            .map(|y| {
                let row = (0..width).filter_map(|x| {
                    let (met, point) = zone_at(x as f64 + 0.5, y as f64 + 0.5)?;
                    let flat = by_plane[met.plane]?;
                    let face = &self.faces[flat].face;
                    let pixel = Pixel {
                        index: (y * width + x) as u32,
                        flat: flat as u8,
                        zone: zone_number(point.zone),
                        share: 255,
                        over: 0,
                        at: (point.at.0 as f32, point.at.1 as f32),
                        light: [1.0; 3],
                        grain: 0.0,
                        gloss: 0.0,
                        carved: false,
                    };
                    let step = face.width / f64::from(self.faces[flat].size.0.max(1));
                    Some((pixel, met.over, surface_at(face, flat, point.part, point.at, step)?))
                });
                row.collect()
            })
            .collect();
        let mut surfaces = vec![Surface::Other; width * height];
        let mut zones = vec![u8::MAX; width * height];
        for (mut pixel, over, surface) in rows.into_iter().flatten() {
            pixel.over = match self.parts.iter().rposition(|part| *part == over) {
                Some(known) => known as u16,
                None => {
                    self.parts.push(over);
                    (self.parts.len() - 1) as u16
                }
            };
            zones[pixel.index as usize] = pixel.zone;
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
                    zone_at(u, v).is_some_and(|(_, point)| zone_number(point.zone) == pixel.zone)
                });
                pixel.share = (255 * of_it.count() / (SAMPLES * SAMPLES)) as u8;
            }
        };
        self.pixels.par_iter_mut().for_each(share);
        surfaces
    }
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
