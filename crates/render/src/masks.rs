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
pub(crate) const ALL: u8 = 255;

/// The states of all pixels.
pub(crate) struct Spots {
    /// By pixel: strip and place.
    pub group: Vec<u8>,
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
        let mut spots = Self {
            group: (0..n).into_par_iter().map(|i| group(plate, i, strips.len())).collect(),
            state: vec![0; n],
            other: vec![0; n],
            shows: vec![0; n],
            present: vec![vec![0]; groups],
        };
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
                spots.divide(&steps, &soft, &ranks);
            } else {
                spots.cover(&steps);
            }
        }
        spots
    }

    /// A layer that covers states whole.
    fn cover(&mut self, steps: &[Vec<Option<Step>>]) {
        let after = Table::of(steps, |_, before, step| step.map_or(before, |step| step.covered));
        let pixels = self.state.iter_mut().zip(&mut self.other).zip(&self.group);
        for ((state, other), group) in pixels {
            *state = *after.at(*group, *state);
            *other = *after.at(*group, *other);
        }
    }

    /// A layer that divides states by rank.
    fn divide(&mut self, steps: &[Vec<Option<Step>>], soft: &[f32], ranks: &[u16]) {
        // Those that are divided, by their number.
        let mut divided = Vec::new();
        let number = Table::of(steps, |group, _, step| {
            let step = (*step)?;
            divided.push((step, soft[group / 3]));
            Some(divided.len() - 1)
        });
        let lying = in_pieces(
            ranks.len(),
            |pixels| {
                let mut lying: Vec<Lying> = divided.iter().map(|_| Lying::default()).collect();
                for i in pixels {
                    let (bin, shows) = (usize::from(ranks[i]) / BIN, self.shows[i]);
                    if let Some(number) = number.at(self.group[i], self.state[i]) {
                        match shows {
                            0 => lying[*number].whole[bin] += 1,
                            _ => lying[*number].rim[bin] += u32::from(ALL - shows),
                        }
                    }
                    if shows > 0
                        && let Some(number) = number.at(self.group[i], self.other[i])
                    {
                        lying[*number].rim[bin] += u32::from(shows);
                    }
                }
                lying
            },
            |lying, more| {
                for (lying, more) in lying.iter_mut().zip(&more) {
                    lying.add(more);
                }
            },
        );
        let cuts: Vec<(u16, Vec<u8>)> = divided
            .par_iter()
            .zip(&lying)
            .map(|((step, soft), lying)| {
                let cut = Cut::of(step.share, lying, *soft);
                (step.covered, (0..BINS).map(|bin| cut.cover(bin)).collect())
            })
            .collect();
        let cut = |group: u8, state: u16, rank: u16| {
            let (covered, cover) = &cuts[(*number.at(group, state))?];
            Some((*covered, cover[usize::from(rank) / BIN]))
        };
        let pixels = self.state.par_iter_mut().zip(&mut self.other).zip(&mut self.shows);
        pixels.zip(&self.group).zip(ranks).with_min_len(1 << 14).for_each(
            |((((state, other), shows), group), rank)| {
                if *shows == 0 {
                    let Some((covered, cover)) = cut(*group, *state, *rank) else { return };
                    (*state, *other, *shows) = if cover > ALL / 2 {
                        (covered, *state, ALL - cover)
                    } else {
                        (*state, covered, cover)
                    };
                    return;
                }
                let after = |before: u16| match cut(*group, before, *rank) {
                    Some((covered, cover)) if cover > ALL / 2 => covered,
                    _ => before,
                };
                (*state, *other) = (after(*state), after(*other));
                if state == other {
                    *shows = 0;
                }
            },
        );
    }
}

/// Counts something over all pixels, a piece for each thread, and adds the pieces up.
pub(crate) fn in_pieces<T: Send>(
    n: usize,
    count: impl Fn(std::ops::Range<usize>) -> T + Sync,
    add: impl Fn(&mut T, T),
) -> T {
    let piece = n.div_ceil(rayon::current_num_threads()).max(1);
    let pieces: Vec<T> =
        (0..n.div_ceil(piece)).into_par_iter().map(|i| count(i * piece..((i + 1) * piece).min(n))).collect();
    let mut pieces = pieces.into_iter();
    let mut sum = pieces.next().unwrap_or_else(|| count(0..0));
    for piece in pieces {
        add(&mut sum, piece);
    }
    sum
}

/// A value for each state of each group.
pub(crate) struct Table<T> {
    begins: Vec<usize>,
    values: Vec<T>,
}

impl<T> Table<T> {
    /// Made of what is there for each state, by group and state.
    pub fn of<S>(of: &[Vec<S>], mut value: impl FnMut(usize, u16, &S) -> T) -> Self {
        let (mut begins, mut values) = (Vec::new(), Vec::new());
        for (group, states) in of.iter().enumerate() {
            begins.push(values.len());
            values.extend(states.iter().enumerate().map(|(state, known)| value(group, state as u16, known)));
        }
        Self { begins, values }
    }

    #[inline]
    pub fn at(&self, group: u8, state: u16) -> &T {
        &self.values[self.begins[usize::from(group)] + usize::from(state)]
    }

    /// All values, in the order of groups and states.
    pub fn values_mut(&mut self) -> &mut [T] {
        &mut self.values
    }

    #[inline]
    pub fn at_mut(&mut self, group: u8, state: u16) -> &mut T {
        &mut self.values[self.begins[usize::from(group)] + usize::from(state)]
    }
}

/// How much of a state lies at each bin of ranks.
struct Lying {
    /// Pixels that show nothing else.
    whole: [u32; BINS],
    /// What pixels on a rim show of it, [`ALL`] for a whole one.
    rim: [u32; BINS],
}

impl Lying {
    fn add(&mut self, more: &Self) {
        for bin in 0..BINS {
            self.whole[bin] += more.whole[bin];
            self.rim[bin] += more.rim[bin];
        }
    }
}

impl Default for Lying {
    fn default() -> Self {
        Self { whole: [0; BINS], rim: [0; BINS] }
    }
}

/// Where the ranks of a state are cut.
struct Cut {
    /// Bin at which half is covered, and how many on either side of it until all is, or nothing.
    rim: f32,
    width: f32,
}

impl Cut {
    /// Lays the rim where a share is covered; `soft` is half the rim's width as a share of all ranks.
    fn of(share: f64, lying: &Lying, soft: f32) -> Self {
        // A rim fades no wider than there is on its narrower side, and within a bin in any case.
        let room = share.min(1.0 - share) as f32;
        let width = (BINS as f32 * soft.min(room)).max(0.5);
        let mut below = vec![0u64; BINS + 1];
        for bin in 0..BINS {
            below[bin + 1] =
                below[bin] + u64::from(lying.whole[bin]) * u64::from(ALL) + u64::from(lying.rim[bin]);
        }
        let wanted = (share * below[BINS] as f64).round() as u64;
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
        let mut cut = Self { rim: high, width };
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
fn group(plate: &Plate, i: usize, strips: usize) -> u8 {
    let strip = if strips == 1 { 0 } else { strip_of(i % plate.width, plate.width, strips) };
    strip as u8 * 3 + plate.pixels[i].place
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
