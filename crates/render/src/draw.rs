//! Drawing of the picture.

use rayon::prelude::*;
use warm_blend_board::{Level, Technique};
use warm_blend_paint::FilmState;
use warm_blend_piece::Mark;
use warm_blend_spectral::Light;

use crate::{
    Coats, Relief,
    colours::{Linear, Tone, tones},
    lamp::{Lit, Shading},
    lay::{COATS, Lay, NOTHING},
    marks::{RANKS, SIDE, Texture},
    masks::{GROUPS, NO_GROUP, Pixel, Spots, place_and_level},
    on_tile::{OnTile, RowOnTile},
    picture::{Picture, Screen},
    relief::Spot,
    rims::ALL,
    rough::Rough,
    table::Table,
};

/// Draws strips side by side on a relief in a light and state. Without strips the picture is black.
pub fn draw(relief: &Relief, strips: &[Coats], light: Light, state: FilmState, shading: Shading) -> Picture {
    let (width, n) = (relief.width, strips.len());
    let at = |i: usize| i % width + relief.from.0;
    let strip = |i: usize| if n == 0 { NOTHING } else { (at(i) * n / relief.whole).min(n - 1) as u8 };
    let lay: Vec<u8> = (0..relief.pixels.len()).into_par_iter().map(strip).collect();
    let drawn = draw_laid(
        relief,
        &Lay { coats: &lay, pattern: &[], parts: &[], large: &[], reached: &[] },
        strips,
        (light, state),
        shading,
    );
    Picture::from_finer(drawn, relief.times)
}

/// Draws coats in their places. Coats beyond the greatest number are left out.
pub(crate) fn draw_laid(
    relief: &Relief,
    lay: &Lay,
    coats: &[Coats],
    (light, state): (Light, FilmState),
    shading: Shading,
) -> Picture {
    let coats = &coats[..coats.len().min(COATS)];
    let mut rgb = vec![0; 3 * lay.coats.len()];
    if !coats.is_empty() {
        let mut spots = Spots::of(relief, lay, coats);
        let tones: Vec<Vec<Tone>> = spots
            .present
            .par_iter()
            .enumerate()
            .map(|(group, present)| {
                let coat = &coats[group / GROUPS];
                tones(coat, place_and_level(group), present, light, state)
            })
            .collect();
        paint(relief, lay, coats, &mut spots, &tones, shading, &mut rgb);
    }
    Picture { width: relief.width as u32, height: relief.height as u32, rgb }
}

fn paint(
    relief: &Relief,
    lay: &Lay,
    coats: &[Coats],
    spots: &mut Spots,
    tones: &[Vec<Tone>],
    shading: Shading,
    rgb: &mut [u8],
) {
    let width = relief.width;
    let rough: Vec<Option<Rough>> = coats.iter().map(|coats| Rough::of(coats, relief.is_coarse())).collect();
    let furrows: Vec<Furrows> = coats.iter().map(|coats| Furrows::of(coats, relief.is_coarse())).collect();
    let texture =
        Roughness { furrows: &furrows, rough: &rough, on_tile: Rough::on_tile(relief, lay), step: relief.mm };
    let grained = Grained {
        relief,
        tiles: coats
            .iter()
            .map(|coats| coats.stack.wood().map(Texture::of_wood))
            .map(|grain| grain.map(|grain| grain.tile(relief.is_coarse())))
            .collect(),
        on_tile: OnTile::of(relief, (lay.parts, lay.large), 0),
    };
    let raw = Table::of(tones, |_, _, tone| *tone);
    let mut heights = vec![0.0; relief.pixels.len()];
    let pooled = pooled(&mut spots.pixels, &mut heights, (relief, &texture, &grained), (tones, &raw));
    let spots = &*spots;
    // What pools on average is taken out, so that a state's mean stays what it is.
    let tones = Table::of(tones, |group, state, tone| {
        let [thick, thin, n] = pooled.at(group as u16, state).map(|sum| sum as f32);
        let (thick, thin) = (thick / 127.0 / n.max(1.0), thin / 127.0 / n.max(1.0));
        let usual = |c: usize| tone.usual[c] - thick * tone.thick[c] - thin * tone.thin[c];
        Tone { usual: std::array::from_fn(usual), ..*tone }
    });
    let screen = Screen::get();
    // From film to film is a step of one pixel; what is as steep as a wall is lit as a steep slope.
    let steep = 0.5 / relief.mm.max(0.2) as f32;
    let lit = shading.lamp().map(|lamp| lamp.lit());
    rgb.par_chunks_exact_mut(3 * width).enumerate().for_each(|(y, row)| {
        let on_tile = texture.on_tile.row(y);
        for (x, pixel) in row.chunks_exact_mut(3).enumerate() {
            let i = y * width + x;
            let shows = &spots.pixels[i];
            if shows.group == NO_GROUP {
                continue;
            }
            let tone = tones.at(shows.group, shows.state);
            let film = |tone: &Tone| if tone.bare { grained.at(x, y, shows.group) } else { shows.film };
            let mut colour = pooling(tone, film(tone));
            if shows.shows > 0 {
                let beyond = tones.at(shows.group, shows.other);
                let other = pooling(beyond, film(beyond));
                let part = f32::from(shows.shows) * (1.0 / 255.0);
                for c in 0..3 {
                    colour[c] += part * (other[c] - colour[c]);
                }
            }
            if let Some(lit) = &lit {
                let spot = &relief.pixels[i];
                let (slope, open) = texture.at(&on_tile, x, usize::from(shows.group) / GROUPS, spot);
                let beside = |next: usize| heights.get(next).map_or(0.0, |next| next - heights[i]);
                let right = if x + 1 < width { beside(i + 1) } else { 0.0 };
                let films = (steep * right, steep * beside(i + width));
                colour =
                    shaded(colour, tone, (slope.0 + films.0, slope.1 + films.1), lit, open, lay.reached(i));
            }
            for c in 0..3 {
                pixel[c] = screen.code(colour[c]);
            }
        }
    });
}

/// How much of the height of a film goes along with its swelling.
const SWELLS: f32 = 0.3;

/// Lets films pool in the relief and in the texture too, and tells by pixel how high they stand, mm: a chip has a lip, a thick stroke
/// an edge. By state: how much thicker than usual all of it is, how much thinner, and how much of it there is.
fn pooled(
    pixels: &mut [Pixel],
    heights: &mut [f32],
    (relief, texture, grained): (&Relief, &Roughness, &Grained),
    (tones, raw): (&[Vec<Tone>], &Table<Tone>),
) -> Table<[i64; 3]> {
    let width = relief.width;
    let none = || Table::of(tones, |_, _, _| [0i64; 3]);
    let many = relief.height.div_ceil(2 * rayon::current_num_threads()).max(1) * width;
    let parts = pixels.par_chunks_mut(many).zip(heights.par_chunks_mut(many)).enumerate();
    let part = |(n, (pixels, heights)): (usize, (&mut [Pixel], &mut [f32]))| {
        let mut pooled = none();
        let rows = pixels.chunks_exact_mut(width).zip(heights.chunks_exact_mut(width));
        for (y, (pixels, heights)) in (n * many / width..).zip(rows) {
            let on_tile = texture.on_tile.row(y);
            let spots = &relief.pixels[y * width..][..width];
            for (x, ((pixel, height), spot)) in pixels.iter_mut().zip(heights).zip(spots).enumerate() {
                let Pixel { group, shows, state, other, film } = *pixel;
                if group == NO_GROUP {
                    continue;
                }
                let pools = i32::from(spot.pools) + texture.pools(&on_tile, x, group);
                pixel.film = (i32::from(film) + pools).clamp(-127, 127) as i8;
                let mut add = |state: u16, shows: u8| {
                    let tone = raw.at(group, state);
                    let film = if tone.bare { grained.at(x, y, group) } else { pixel.film };
                    let [thick, thin, n] = pooled.at_mut(group, state);
                    let (film, shows) = (i64::from(film), i64::from(shows));
                    *thick += shows * film.max(0);
                    *thin += shows * (-film).max(0);
                    *n += shows;
                    tone.height
                };
                *height = add(state, ALL - shows);
                if shows > 0 {
                    *height += f32::from(shows) * (1.0 / 255.0) * (add(other, shows) - *height);
                }
                *height *= 1.0 + SWELLS / 127.0 * f32::from(pixel.film);
            }
        }
        pooled
    };
    let sum = |mut pooled: Table<[i64; 3]>, mut more: Table<[i64; 3]>| {
        for (sums, more) in pooled.values_mut().iter_mut().zip(more.values_mut()) {
            for (sum, more) in sums.iter_mut().zip(more) {
                *sum += *more;
            }
        }
        pooled
    };
    parts.map(part).reduce(none, sum)
}

/// The grain of bare wood.
struct Grained<'a> {
    relief: &'a Relief,
    /// By coats.
    tiles: Vec<Option<&'static [u16]>>,
    on_tile: OnTile<'a>,
}

impl Grained<'_> {
    /// −127 light to 127 dark: dark bands have the lowest ranks.
    #[inline]
    fn at(&self, x: usize, y: usize, group: u16) -> i8 {
        let Some(tile) = self.tiles[usize::from(group) / GROUPS] else { return 0 };
        let upright = self.relief.pixels[y * self.relief.width + x].upright;
        (127 - i32::from(tile[self.on_tile.row(y).at(x, upright)] >> 8)) as i8
    }
}

/// How much a film pools from the top to the bottom of a texture, 127 for all it can.
const WITHIN_A_LEVEL: f32 = 600.0;

/// What a tool leaves in the surface of a coat however smooth it is meant, and how steep that is at most†.
#[derive(Debug, Clone, Copy)]
enum Furrows {
    /// Strokes of bristles.
    Bristles(f32),
    /// The orange peel of a roller.
    Peel(&'static [u16], f32),
}

/// Half a tile on, for the slope the other way.
const ELSEWHERE: usize = SIDE * SIDE / 2 + SIDE / 2;

impl Furrows {
    /// Of what was put on last; what lies over it fills them in part, sanding takes off their crests.
    fn of(coats: &Coats, coarse: bool) -> Self {
        let mut furrows = Furrows::Bristles(0.03);
        for (layer, mark) in coats.marks.iter().enumerate().take(coats.layers) {
            let Mark::By(technique) = *mark else { continue };
            furrows = match technique {
                Technique::SandBack | Technique::SmoothSand | Technique::WetDistress => furrows.less(0.7),
                _ if coats.stack.material(layer).is_none() => furrows,
                Technique::BrushedCoat | Technique::WetBlend => Furrows::Bristles(0.11),
                Technique::RolledCoat | Technique::TextureCoat => {
                    Furrows::Peel(Texture::Rolled.tile(coarse), 0.05)
                }
                Technique::ClearCoat | Technique::ClearWax | Technique::TintedWax => furrows.less(0.6),
                _ => furrows,
            };
        }
        furrows
    }

    fn less(self, by: f32) -> Self {
        match self {
            Self::Bristles(steep) => Self::Bristles(by * steep),
            Self::Peel(tile, steep) => Self::Peel(tile, by * steep),
        }
    }

    /// How they slope at a pixel.
    #[inline]
    fn at(&self, on_tile: &RowOnTile, x: usize, spot: &Spot) -> (f32, f32) {
        match self {
            Self::Bristles(steep) => {
                let slope = steep * f32::from(spot.furrow) * (1.0 / 127.0);
                if spot.upright { (slope, 0.0) } else { (0.0, slope) }
            }
            Self::Peel(tile, steep) => {
                let place = on_tile.at(x, false);
                let slope = |place: usize| steep * (f32::from(tile[place]) * (2.0 / RANKS) - 1.0);
                (slope((place + ELSEWHERE) % tile.len()), slope(place))
            }
        }
    }
}

/// How the surface of coats slopes.
struct Roughness<'a> {
    furrows: &'a [Furrows],
    rough: &'a [Option<Rough>],
    on_tile: OnTile<'a>,
    /// mm by pixel.
    step: f64,
}

impl Roughness<'_> {
    /// How films pool within the level of a pixel: the lower, the thicker.
    #[inline]
    fn pools(&self, on_tile: &RowOnTile, x: usize, group: u16) -> i32 {
        let Some(Some(rough)) = self.rough.get(usize::from(group) / GROUPS) else { return 0 };
        let (_, level) = place_and_level(usize::from(group));
        let middle = match level {
            Level::Hollow => 0.5 * Level::Hollow.share(),
            Level::Even => 0.5,
            Level::Tip => 1.0 - 0.5 * Level::Tip.share(),
        };
        (WITHIN_A_LEVEL * (middle as f32 - rough.height(on_tile, x, (0, 0)))) as i32
    }

    /// The slope of a pixel of a coat, and how much of the light reaches it.
    #[inline]
    fn at(&self, on_tile: &RowOnTile, x: usize, coat: usize, spot: &Spot) -> ((f32, f32), u8) {
        let (of_relief, furrows) = (spot.slope(), self.furrows[coat].at(on_tile, x, spot));
        let slope = (of_relief.0 + furrows.0, of_relief.1 + furrows.1);
        let Some(Some(rough)) = self.rough.get(coat) else { return (slope, spot.open) };
        let height = |aside: (usize, usize)| rough.height(on_tile, x, aside);
        let here = height((0, 0));
        let by = rough.depth / self.step.max(0.2) as f32;
        let (across, down) = (by * (height((1, 0)) - here), by * (height((0, 1)) - here));
        // Less light comes into deep hollows.
        let dims = 1.0 - (1.0 - here) * (0.8 * rough.depth).min(0.3);
        ((slope.0 + across, slope.1 + down), (f32::from(spot.open) * dims) as u8)
    }
}

/// A colour in the light of a lamp, of which so much reaches it.
#[inline]
fn shaded(colour: Linear, tone: &Tone, slope: (f32, f32), lit: &Lit, open: u8, reached: f32) -> Linear {
    if tone.lustre == 0.0 && tone.gloss <= 0.05 {
        let light = lit.on(slope, open) * reached;
        return colour.map(|channel| channel * light);
    }
    let (light, mirrored) = lit.on_and_mirrored(slope, open);
    let (light, mirrored) = (light * reached, mirrored * reached);
    if tone.lustre > 0.0 {
        // A metal mirrors what is around it: bright towards the lamp, dark away from it.
        let metal = (0.3 + 1.6 * (mirrored + lit.by_the_flat())) * light.min(1.2);
        let brightest = colour[0].max(colour[1]).max(colour[2]).max(1e-4);
        return std::array::from_fn(|c| {
            let glint = 0.35 * mirrored.max(0.0) * (colour[c] / brightest).sqrt();
            colour[c] * light + tone.lustre * (colour[c] * (metal - light) + glint)
        });
    }
    let glint = 0.5 * tone.gloss * tone.gloss * mirrored.max(0.0);
    colour.map(|channel| channel * light + glint)
}

#[inline]
fn pooling(tone: &Tone, pool: i8) -> Linear {
    let pool = f32::from(pool) * (1.0 / 127.0);
    let (by, change) = if pool > 0.0 { (pool, &tone.thick) } else { (-pool, &tone.thin) };
    std::array::from_fn(|c| tone.usual[c] + by * change[c])
}
