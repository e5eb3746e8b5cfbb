//! Which layers lie at each pixel.
//!
//! Layer by layer, the pixels of each state are divided by the rank of the technique's mark there: the lowest ranks are
//! covered, as much of the area as the engine says, whatever the shape. Where a mark's rim is soft, cover falls from all to
//! nothing across it, and a pixel on it shows two states. What a pixel shows of a state counts for that state's area, and the
//! rim is laid where all that is covered is what is wanted, so that nothing is given or taken by softness. A pixel has one
//! rim at most: on an older one, each of the two states is covered whole or not at all.

use rayon::prelude::*;
use warm_blend_finish::board::{Family, Place, Present, Technique};

use crate::texture::{SIDE, TILE_MM, Texture, softness};
use crate::{Coats, Plate};

/// Ranks that are told apart.
const BINS: usize = 2048;
/// Ranks of one bin.
const BIN: usize = RANKS as usize / BINS;
/// All ranks.
const RANKS: f32 = 65536.0;
/// All that a pixel can show.
const ALL: u8 = 255;

/// The states of all pixels.
pub(crate) struct Spots {
    /// By pixel: which state of its group.
    pub state: Vec<u16>,
    /// By pixel: the state beyond the rim it is near to.
    pub other: Vec<u16>,
    /// By pixel: how much of that shows, 255 for all.
    pub shows: Vec<u8>,
    /// By group (strip and place): the states.
    pub present: Vec<Vec<Present>>,
}

/// Which strip each column belongs to.
fn strip_of(x: usize, width: usize, strips: usize) -> usize {
    (x * strips / width).min(strips - 1)
}

/// What a layer does to each state of a group.
#[derive(Clone, Copy)]
struct Step {
    covered: u16,
    share: f64,
}

impl Spots {
    pub(crate) fn of(plate: &Plate, strips: &[Coats]) -> Self {
        let n = plate.width * plate.height;
        let groups = strips.len() * Place::ALL.len();
        let mut spots =
            Self { state: vec![0; n], other: vec![0; n], shows: vec![0; n], present: vec![vec![0]; groups] };
        let splits: Vec<_> =
            strips.iter().flat_map(|strip| Place::ALL.map(|place| strip.stack.splits(place))).collect();
        let most = strips.iter().map(|strip| strip.layers.min(strip.stack.len())).max().unwrap_or(0);
        let mut ranks = vec![0u16; n];
        for layer in 0..most {
            let steps: Vec<Vec<Option<Step>>> = (0..groups)
                .map(|group| {
                    let on = layer < strips[group / 3].layers;
                    let none = Vec::new();
                    let splits = if on { splits[group].get(layer).unwrap_or(&none) } else { &none };
                    let known = &mut spots.present[group];
                    let mut steps = vec![None; known.len()];
                    for split in splits {
                        let Some(before) = known.iter().position(|present| *present == split.before) else {
                            continue;
                        };
                        let covered =
                            known.iter().position(|present| *present == split.covered).unwrap_or_else(|| {
                                known.push(split.covered);
                                known.len() - 1
                            });
                        steps[before] = Some(Step { covered: covered as u16, share: split.share });
                    }
                    steps
                })
                .collect();
            let broken = |steps: &Vec<Option<Step>>| steps.iter().flatten().any(|step| step.share < 1.0);
            let soft: Vec<f32> = strips
                .iter()
                .map(|strip| {
                    let technique = strip.techniques.get(layer);
                    technique.map_or(0.0, |technique| softness(*technique) * spread(*technique))
                })
                .collect();
            if steps.iter().any(broken) {
                for (x0, x1, strip) in bands(plate.width, strips.len()) {
                    if let Some(technique) = strips[strip].techniques.get(layer) {
                        mark(plate, *technique, layer, x0..x1, &mut ranks);
                    }
                }
                spots.divide(plate, strips.len(), &steps, &soft, &ranks);
            } else {
                spots.cover(plate, strips.len(), &steps);
            }
        }
        spots
    }

    /// What a pixel shows: states and their shares of it.
    #[inline]
    pub(crate) fn at(&self, i: usize) -> impl Iterator<Item = (u16, f64)> {
        let shows = f64::from(self.shows[i]) / f64::from(ALL);
        let other = (self.shows[i] > 0).then_some((self.other[i], shows));
        std::iter::once((self.state[i], 1.0 - shows)).chain(other)
    }

    /// A layer that covers states whole.
    fn cover(&mut self, plate: &Plate, strips: usize, steps: &[Vec<Option<Step>>]) {
        for i in 0..self.state.len() {
            let steps = &steps[group(plate, i, strips)];
            let after = |state: u16| {
                steps.get(usize::from(state)).copied().flatten().map_or(state, |step| step.covered)
            };
            self.state[i] = after(self.state[i]);
            self.other[i] = after(self.other[i]);
        }
    }

    /// A layer that divides states by rank.
    fn divide(
        &mut self,
        plate: &Plate,
        strips: usize,
        steps: &[Vec<Option<Step>>],
        soft: &[f32],
        ranks: &[u16],
    ) {
        let mut lying: Vec<Vec<Option<Box<Lying>>>> = steps
            .iter()
            .map(|steps| steps.iter().map(|step| step.map(|_| Box::default())).collect())
            .collect();
        for i in 0..self.state.len() {
            let by_state = &mut lying[group(plate, i, strips)];
            let bin = usize::from(ranks[i]) / BIN;
            let mut count = |state: u16, shows: u8| {
                if let Some(Some(lying)) = by_state.get_mut(usize::from(state)) {
                    if shows == ALL { lying.whole[bin] += 1 } else { lying.rim[bin] += u32::from(shows) }
                }
            };
            count(self.state[i], ALL - self.shows[i]);
            if self.shows[i] > 0 {
                count(self.other[i], self.shows[i]);
            }
        }
        let cuts: Vec<Vec<Option<Cut>>> = steps
            .iter()
            .zip(&lying)
            .enumerate()
            .map(|(group, (steps, lying))| {
                let cut = |(step, lying): (&Option<Step>, &Option<Box<Lying>>)| {
                    Some(Cut::of((*step)?, lying.as_ref()?, soft[group / 3]))
                };
                steps.iter().zip(lying).map(cut).collect()
            })
            .collect();
        for i in 0..self.state.len() {
            let cuts = &cuts[group(plate, i, strips)];
            let bin = usize::from(ranks[i]) / BIN;
            let cut = |state: u16| cuts.get(usize::from(state))?.as_ref();
            if self.shows[i] == 0 {
                let before = self.state[i];
                let Some(cut) = cut(before) else { continue };
                let cover = cut.cover(bin);
                (self.state[i], self.other[i], self.shows[i]) = if cover > ALL / 2 {
                    (cut.covered, before, ALL - cover)
                } else {
                    (before, cut.covered, cover)
                };
            } else {
                let after = |before: u16| match cut(before) {
                    Some(cut) if cut.cover(bin) > ALL / 2 => cut.covered,
                    _ => before,
                };
                (self.state[i], self.other[i]) = (after(self.state[i]), after(self.other[i]));
                if self.state[i] == self.other[i] {
                    self.shows[i] = 0;
                }
            }
        }
    }
}

/// How much of a state lies at each bin of ranks.
struct Lying {
    /// Pixels that show nothing else.
    whole: [u32; BINS],
    /// What pixels on a rim show of it, [`ALL`] for a whole one.
    rim: [u32; BINS],
}

impl Default for Lying {
    fn default() -> Self {
        Self { whole: [0; BINS], rim: [0; BINS] }
    }
}

/// Where the ranks of a state are cut.
struct Cut {
    covered: u16,
    /// Bin at which half is covered, and how many on either side of it until all is, or nothing.
    rim: f32,
    width: f32,
}

impl Cut {
    /// Lays the rim where as much is covered as is wanted; `soft` is half the rim's width as a share of all ranks.
    fn of(step: Step, lying: &Lying, soft: f32) -> Self {
        // A rim fades no wider than there is on its narrower side, and within a bin in any case.
        let room = step.share.min(1.0 - step.share) as f32;
        let width = (BINS as f32 * soft.min(room)).max(0.5);
        let mut below = vec![0u64; BINS + 1];
        for bin in 0..BINS {
            below[bin + 1] =
                below[bin] + u64::from(lying.whole[bin]) * u64::from(ALL) + u64::from(lying.rim[bin]);
        }
        let wanted = (step.share * below[BINS] as f64).round() as u64;
        let covered = |cut: &Self| {
            let fades = cut.fades();
            let fading = fades.clone().map(|bin| {
                let cover = cut.cover(bin);
                let rim = if cover > ALL / 2 { lying.rim[bin] } else { 0 };
                u64::from(lying.whole[bin]) * u64::from(cover) + u64::from(rim)
            });
            below[fades.start] + fading.sum::<u64>()
        };
        let (mut low, mut high) = (-width, BINS as f32 + width);
        let mut cut = Self { covered: step.covered, rim: high, width };
        while high - low > 1.0 / 64.0 {
            cut.rim = 0.5 * (low + high);
            if covered(&cut) < wanted { low = cut.rim } else { high = cut.rim }
        }
        cut.rim = high;
        cut
    }

    /// The bins that are covered in part; those before them are covered.
    fn fades(&self) -> std::ops::Range<usize> {
        let bin = |rank: f32| (rank.max(0.0) as usize).min(BINS);
        bin(self.rim - self.width)..bin(self.rim + self.width + 1.0)
    }

    /// How much of a pixel is covered.
    fn cover(&self, bin: usize) -> u8 {
        let inside = (self.rim - (bin as f32 + 0.5)) / (2.0 * self.width) + 0.5;
        (f32::from(ALL) * inside + 0.5) as u8
    }
}

/// The group of a pixel: strip and place.
#[inline]
pub(crate) fn group(plate: &Plate, i: usize, strips: usize) -> usize {
    let strip = if strips == 1 { 0 } else { strip_of(i % plate.width, plate.width, strips) };
    strip * 3 + usize::from(plate.pixels[i].place)
}

/// Columns of each strip.
fn bands(width: usize, strips: usize) -> impl Iterator<Item = (usize, usize, usize)> {
    let begins = move |strip: usize| (strip * width).div_ceil(strips);
    (0..strips).map(move |strip| (begins(strip), begins(strip + 1), strip))
}

/// How far the ranks of a mark are moved where a spot stands out by a millimetre, as a share of all: on what stands out comes
/// what is drawn across it or worn off it; into what lies low comes what is wiped or runs†.
fn drawn(technique: Technique) -> f32 {
    match technique.family() {
        Family::Wear => -0.55,
        Family::Gild => -1.1,
        _ if technique == Technique::DryBrush => -0.55,
        Family::Glaze | Family::Wash | Family::Wax | Family::Blend => 0.275,
        _ => 0.0,
    }
}

/// What is left of a mark's own ranks where they are moved.
fn spread(technique: Technique) -> f32 {
    1.0 / (1.0 + 2.0 * drawn(technique).abs())
}

/// Ranks of a technique's mark over some columns.
fn mark(
    plate: &Plate,
    technique: Technique,
    layer: usize,
    columns: std::ops::Range<usize>,
    ranks: &mut [u16],
) {
    let tile = Texture::of(technique).tile();
    let cloud = Texture::Cloud.tile();
    let scale = plate.mm * SIDE as f64 / TILE_MM;
    // Each layer begins elsewhere on the tile.
    let (ox, oy) = ((layer * 197 + 61) % SIDE, (layer * 331 + 17) % SIDE);
    let on_tile = |n: usize, offset: usize, scale: f64| -> Vec<usize> {
        (0..n).map(|v| ((v as f64 * scale) as usize + offset) % SIDE).collect()
    };
    let most = plate.width.max(plate.height);
    let (across, down) = (on_tile(most, ox, scale), on_tile(most, oy, scale));
    let (wide, tall) = (on_tile(plate.width, oy, 0.23 * scale), on_tile(plate.height, ox, 0.23 * scale));
    // Ranks are spread so that none falls off either end.
    let (drawn, spread) = (drawn(technique), spread(technique));
    let (mark_by, drawn_by, least) = (spread, spread * drawn * RANKS / 127.0, spread * drawn.abs() * RANKS);
    let patches = if technique == Technique::Stencil { 0.05 } else { 0.22 };
    // Only what follows the brush turns with it.
    let turns = Texture::of(technique) == Texture::Streaks;
    ranks.par_chunks_exact_mut(plate.width).enumerate().for_each(|(y, row)| {
        let spots = &plate.pixels[y * plate.width..];
        for x in columns.clone() {
            let at = if turns && spots[x].upright {
                down[x] * SIDE + across[y]
            } else {
                down[y] * SIDE + across[x]
            };
            let (fine, broad) = (f32::from(tile[at]), f32::from(cloud[tall[y] * SIDE + wide[x]]));
            let mark = (1.0 - patches) * fine + patches * broad;
            row[x] = (least + mark_by * mark + drawn_by * f32::from(spots[x].stands_out)) as u16;
        }
    });
}
