//! Which layers lie at each pixel.
//!
//! Layer by layer, the pixels of each state are divided by the rank of the technique's mark there: the lowest ranks are
//! covered, as much of the area as the engine says, whatever the shape. Where a mark's rim is soft, cover falls from all to
//! nothing across it, and a pixel on it shows two states. What a pixel shows of a state counts for that state's area, and the
//! rim is laid where all that is covered is what is wanted, so that nothing is given or taken by softness. A pixel has one
//! rim at most: on an older one, each of the two states is covered whole or not at all.

use rayon::prelude::*;
use warm_blend_board::{Family, Place, Present, Technique};
use warm_blend_piece::{Age, DENSE, Mark};

use crate::{
    Coats, Relief,
    relief::Spot,
    texture::{SIDE, TILE_MM, Texture, softness},
};

/// Ranks that are told apart.
const BINS: usize = 2048;
/// Ranks of one bin.
const BIN: usize = RANKS as usize / BINS;
/// All ranks.
const RANKS: f32 = 65536.0;
/// All that a pixel can show.
pub(crate) const ALL: u8 = 255;
/// The group of a pixel that nothing is painted on.
pub(crate) const NOTHING: u8 = 255;
/// So many coats can be told apart in one picture.
pub(crate) const COATS: usize = NOTHING as usize / Place::ALL.len();

/// Where coats lie.
pub(crate) struct Lay<'a> {
    /// By pixel the number of a coat, [`NOTHING`] where none does.
    pub coats: &'a [u8],
    /// By pixel how deep inside a motif it is, 0 outside; empty where there is no pattern.
    pub pattern: &'a [u8],
}

impl Lay<'_> {
    fn depth(&self, i: usize) -> u8 {
        self.pattern.get(i).copied().unwrap_or(0)
    }
}

/// The states of all pixels.
pub(crate) struct Spots {
    /// Row by row.
    pub pixels: Vec<Pixel>,
    /// By group (coat and place): the states.
    pub present: Vec<Vec<Present>>,
}

/// What a pixel shows.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Pixel {
    /// Coat and place; [`NOTHING`] where nothing is painted.
    pub group: u8,
    /// How much of `other` shows, 255 for all.
    pub shows: u8,
    /// Which state of its group.
    pub state: u16,
    /// The state beyond the rim it is near to.
    pub other: u16,
}

/// A state that a layer does not divide.
const WHOLE: u16 = u16::MAX;

/// What a layer does to each state of a group.
#[derive(Clone, Copy)]
struct Step {
    covered: u16,
    share: f64,
}

impl Spots {
    /// Of coats that lie so.
    pub(crate) fn of(relief: &Relief, lay: &Lay, strips: &[Coats]) -> Self {
        let n = lay.coats.len();
        let groups = strips.len() * Place::ALL.len();
        let pixel = |(coat, spot): (&u8, &Spot)| {
            let group = if *coat == NOTHING { NOTHING } else { 3 * coat + spot.place };
            Pixel { group, shows: 0, state: 0, other: 0 }
        };
        let mut spots = Self {
            pixels: lay.coats.par_iter().zip(&relief.pixels).map(pixel).collect(),
            present: vec![vec![0]; groups],
        };
        let splits: Vec<_> =
            strips.iter().flat_map(|strip| Place::ALL.map(|place| strip.stack.splits(place))).collect();
        let most = strips.iter().map(|strip| strip.layers.min(strip.stack.len())).max().unwrap_or(0);
        let mut bins = vec![0u16; n];
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
            let pressed: Vec<Option<Pressed>> = strips
                .iter()
                .enumerate()
                .map(|(coat, strip)| {
                    let divides = steps[3 * coat..3 * coat + 3].iter().any(broken);
                    let mark = strip.marks.get(layer).filter(|_| divides)?;
                    Some(Pressed::new(*mark))
                })
                .collect();
            if steps.iter().any(broken) {
                spots.divide(&steps, &Press::new(relief, lay, &pressed, layer), &mut bins);
            } else {
                spots.cover(&steps);
            }
        }
        spots
    }

    /// A layer that covers states whole.
    fn cover(&mut self, steps: &[Vec<Option<Step>>]) {
        let after = Table::of(steps, |_, before, step| step.map_or(before, |step| step.covered));
        self.pixels.par_iter_mut().with_min_len(1 << 14).for_each(|pixel| {
            if pixel.group != NOTHING {
                pixel.state = *after.at(pixel.group, pixel.state);
                pixel.other = *after.at(pixel.group, pixel.other);
            }
        });
    }

    /// A layer that divides states by rank. `bins` are room for the ranks of its mark.
    fn divide(&mut self, steps: &[Vec<Option<Step>>], press: &Press, bins: &mut [u16]) {
        // Those that are divided, by their number.
        let mut divided = Vec::new();
        let number = Table::of(steps, |group, _, step| {
            let Some(step) = *step else { return WHOLE };
            divided.push((step, press.pressed[group / 3].as_ref()));
            (divided.len() - 1) as u16
        });
        let none = || -> Vec<Lying> { divided.iter().map(|_| Lying::default()).collect() };
        let rows =
            bins.par_chunks_exact_mut(press.relief.width).zip(self.pixels.par_chunks(press.relief.width));
        let many = press.relief.height.div_ceil(2 * rayon::current_num_threads()).max(1);
        let lying = rows
            .enumerate()
            .with_min_len(many)
            .fold(none, |mut lying, (y, (bins, pixels))| {
                press.row(y, bins);
                for (bin, pixel) in bins.iter().zip(pixels) {
                    if pixel.group != NOTHING {
                        count(&mut lying, &number, usize::from(*bin), pixel);
                    }
                }
                lying
            })
            .reduce(none, |mut lying, more| {
                for (lying, more) in lying.iter_mut().zip(&more) {
                    lying.add(more);
                }
                lying
            });
        let cuts: Vec<(u16, Vec<u8>)> = divided
            .par_iter()
            .zip(&lying)
            .map(|((step, pressed), lying)| {
                let (soft, repeated) =
                    pressed.map_or((0.0, false), |pressed| (pressed.soft, pressed.repeated));
                let cut = Cut::of(step.share, lying, soft, repeated);
                (step.covered, (0..BINS).map(|bin| cut.cover(bin)).collect())
            })
            .collect();
        let cut = |group: u8, state: u16, bin: u16| {
            let (covered, cover) = cuts.get(usize::from(*number.at(group, state)))?;
            Some((*covered, cover[usize::from(bin)]))
        };
        let pixels = self.pixels.par_iter_mut().zip(bins);
        pixels.with_min_len(1 << 14).for_each(|(pixel, bin)| {
            let Pixel { group, shows, state, other } = *pixel;
            if group == NOTHING {
                return;
            }
            if shows == 0 {
                let Some((covered, cover)) = cut(group, state, *bin) else { return };
                *pixel = if cover > ALL / 2 {
                    Pixel { group, shows: ALL - cover, state: covered, other: state }
                } else {
                    Pixel { group, shows: cover, state, other: covered }
                };
                return;
            }
            let after = |before: u16| match cut(group, before, *bin) {
                Some((covered, cover)) if cover > ALL / 2 => covered,
                _ => before,
            };
            (pixel.state, pixel.other) = (after(state), after(other));
            if pixel.state == pixel.other {
                pixel.shows = 0;
            }
        });
    }
}

/// Counts what a pixel shows of states that are divided.
#[inline]
fn count(lying: &mut [Lying], number: &Table<u16>, bin: usize, pixel: &Pixel) {
    let here = *number.at(pixel.group, pixel.state);
    if here != WHOLE {
        let lying = &mut lying[usize::from(here)];
        match pixel.shows {
            0 => lying.whole[bin] += 1,
            shows => lying.rim[bin] += u32::from(ALL - shows),
        }
    }
    if pixel.shows > 0 {
        let beyond = *number.at(pixel.group, pixel.other);
        if beyond != WHOLE {
            lying[usize::from(beyond)].rim[bin] += u32::from(pixel.shows);
        }
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
    /// Lays the rim where a share is covered; `soft` is half the rim's width as a share of all ranks. What is repeated lies in its
    /// motifs only.
    fn of(share: f64, lying: &Lying, soft: f32, repeated: bool) -> Self {
        // A rim fades no wider than there is on its narrower side, and within a bin in any case.
        let room = share.min(1.0 - share) as f32;
        let width = (BINS as f32 * soft.min(room)).max(0.5);
        let mut below = vec![0u64; BINS + 1];
        for bin in 0..BINS {
            below[bin + 1] =
                below[bin] + u64::from(lying.whole[bin]) * u64::from(ALL) + u64::from(lying.rim[bin]);
        }
        // Of a pattern there is none between the motifs, and of each as much as the paint takes, however many are in the picture.
        let (share, of) = if repeated { (DENSE, below[BINS / 2]) } else { (share, below[BINS]) };
        let wanted = (share * of as f64).round() as u64;
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

/// How far the ranks of a mark are moved, as a share of all, by where a spot is†: where it stands out by a millimetre, on an
/// outline, at the bottom of its part. On what stands out comes what is drawn across it or worn off it; into what lies low
/// comes what is wiped or runs.
struct Drawn {
    out: f32,
    near: f32,
    low: f32,
}

impl Drawn {
    fn of(mark: Mark) -> Self {
        let by = |out, near, low| Self { out, near, low };
        match mark {
            Mark::By(technique) => by(
                match technique.family() {
                    Family::Wear => -0.55,
                    Family::Gild => -1.1,
                    _ if technique == Technique::DryBrush => -0.55,
                    Family::Glaze | Family::Wash | Family::Wax | Family::Blend => 0.275,
                    _ => 0.0,
                },
                0.0,
                0.0,
            ),
            Mark::Repeated => by(0.0, 0.0, 0.0),
            Mark::Aged(Age::Wear) => by(-0.5, -0.7, 0.0),
            Mark::Aged(Age::Grime) => by(0.3, -0.5, -0.35),
            Mark::Aged(Age::WaterMarks) => by(0.0, 0.0, 0.5),
            Mark::Aged(Age::SunFade) => by(0.0, 0.2, 0.9),
            Mark::Aged(Age::Verdigris) => by(0.4, -0.2, -0.6),
        }
    }
}

/// A layer's mark, ready to be pressed.
struct Pressed {
    tile: &'static [u16],
    /// Only what follows the brush turns with it.
    turns: bool,
    /// The mark's own ranks, fine and in patches.
    fine: f32,
    broad: f32,
    /// What a spot adds by how it stands, and what keeps all ranks above nought.
    out: f32,
    near: f32,
    low: f32,
    least: f32,
    /// Half the width of a rim, as a share of all ranks.
    soft: f32,
    /// It lies where repeats of a pattern are, and nowhere else.
    repeated: bool,
}

impl Pressed {
    fn new(mark: Mark) -> Self {
        let texture = Texture::of(mark);
        let Drawn { out, near, low } = Drawn::of(mark);
        let least = -out.abs() + near.min(0.0) + low.min(0.0);
        let most = 1.0 + out.abs() + near.max(0.0) + low.max(0.0);
        // Ranks are spread so that none falls off either end.
        let spread = 1.0 / (most - least);
        let patches = match mark {
            Mark::By(Technique::Stencil) | Mark::Repeated => 0.05,
            Mark::By(_) | Mark::Aged(Age::Wear) => 0.22,
            Mark::Aged(_) => 0.4,
        };
        Self {
            tile: texture.tile(),
            turns: texture == Texture::Streaks,
            fine: spread * (1.0 - patches),
            broad: spread * patches,
            out: spread * out * RANKS / 127.0,
            near: spread * near * RANKS / 255.0,
            low: spread * low * RANKS / 255.0,
            least: -spread * least * RANKS,
            soft: softness(mark) * spread,
            repeated: mark == Mark::Repeated,
        }
    }
}

/// The rank of a spot in a pattern, so deep inside a motif, 0 outside: motifs come first, from their middles out, each as
/// broken as the brush left it.
fn in_pattern(depth: u8, rank: f32) -> f32 {
    if depth == 0 {
        return 0.5 * (RANKS + rank).min(2.0 * RANKS - 1.0);
    }
    let out = 1.0 - f32::from(depth) / 255.0;
    0.5 * (0.6 * out.powi(3) * RANKS + 0.4 * rank)
}

/// The marks of a layer, each where its coat lies.
struct Press<'a> {
    relief: &'a Relief,
    lay: &'a Lay<'a>,
    pressed: &'a [Option<Pressed>],
    /// Where on a tile columns and rows are, of the mark and of its patches.
    across: Vec<usize>,
    down: Vec<usize>,
    wide: Vec<usize>,
    tall: Vec<usize>,
}

impl<'a> Press<'a> {
    fn new(relief: &'a Relief, lay: &'a Lay<'a>, pressed: &'a [Option<Pressed>], layer: usize) -> Self {
        let scale = relief.mm * SIDE as f64 / TILE_MM;
        // Each layer begins elsewhere on the tile.
        let (ox, oy) = ((layer * 197 + 61) % SIDE, (layer * 331 + 17) % SIDE);
        let on_tile = |n: usize, offset: usize, scale: f64| -> Vec<usize> {
            (0..n).map(|v| ((v as f64 * scale) as usize + offset) % SIDE).collect()
        };
        let most = relief.width.max(relief.height);
        Self {
            relief,
            lay,
            pressed,
            across: on_tile(most, ox, scale),
            down: on_tile(most, oy, scale),
            wide: on_tile(relief.width, oy, 0.23 * scale),
            tall: on_tile(relief.height, ox, 0.23 * scale),
        }
    }

    /// The bins of ranks of a row. Where no mark is, they stay as they are.
    fn row(&self, y: usize, bins: &mut [u16]) {
        let width = self.relief.width;
        let (spots, lay) = (&self.relief.pixels[y * width..], &self.lay.coats[y * width..]);
        let cloud = &Texture::Cloud.tile()[self.tall[y] * SIDE..][..SIDE];
        let (along, upon) = (self.down[y] * SIDE, self.across[y]);
        for (x, bin) in bins.iter_mut().enumerate() {
            let Some(Some(pressed)) = self.pressed.get(usize::from(lay[x])) else { continue };
            let spot = &spots[x];
            let turns = pressed.turns && spot.upright;
            let at = if turns { self.down[x] * SIDE + upon } else { along + self.across[x] };
            let (fine, broad) = (f32::from(pressed.tile[at]), f32::from(cloud[self.wide[x]]));
            let rank = pressed.least
                + pressed.fine * fine
                + pressed.broad * broad
                + pressed.out * f32::from(spot.stands_out)
                + pressed.near * f32::from(spot.near)
                + pressed.low * f32::from(spot.low);
            let rank = match pressed.repeated {
                true => in_pattern(self.lay.depth(y * width + x), rank),
                false => rank,
            };
            *bin = (rank.max(0.0) as u16) / BIN as u16;
        }
    }
}
