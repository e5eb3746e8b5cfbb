//! Which layers lie at each pixel.
//!
//! Layer by layer, the pixels of each state are divided by the rank of the technique's mark there: the lowest ranks are
//! covered, as much of the area as the engine says, whatever the shape. Where a mark's rim is soft, cover falls from all to
//! nothing across it, and a pixel on it shows two states. What a pixel shows of a state counts for that state's area, and the
//! rim is laid where all that is covered is what is wanted, so that nothing is given or taken by softness. A pixel has one
//! rim at most: on an older one, each of the two states is covered whole or not at all. Where wear goes through several films,
//! the rings of what lies between follow each other by rank, each with an edge of its own.
//!
//! Within a mark the film swells or thins from where paint came first to the rim; where a layer covers all, as its strokes
//! go.

use rayon::prelude::*;
use warm_blend_board::{Family, Level, Place, Present, Technique};
use warm_blend_piece::{Age, DENSE, Mark};

use crate::{
    Coats, Relief,
    counted::in_pieces,
    marks::{SIDE, TILE_MM, Texture, softness, swells},
    on_tile::{OnTile, RowOnTile},
    relief::Spot,
    table::Table,
};

/// Ranks that are told apart.
const BINS: usize = 2048;
/// Ranks of one bin.
const BIN: usize = RANKS as usize / BINS;
/// All ranks.
pub(crate) const RANKS: f32 = 65536.0;
/// What stands for as much light as the middle of a face gets.
pub(crate) const REACHED: f32 = 200.0;
/// All that a pixel can show.
pub(crate) const ALL: u8 = 255;
/// The coat of a pixel that nothing is painted on.
pub(crate) const NOTHING: u8 = 255;
/// The group of such a pixel.
pub(crate) const NO_GROUP: u16 = u16::MAX;
/// So many coats can be told apart in one picture.
pub(crate) const COATS: usize = NOTHING as usize;
/// Groups of a coat: each level of each kind of place.
pub(crate) const GROUPS: usize = Place::ALL.len() * Level::ALL.len();
/// Where the texture of a coat begins on its tile: elsewhere than the marks of any layer.
const OF_TEXTURE: usize = 77;
/// Half the width of the narrowest rim where a pixel is coarse, as a share of all ranks: it goes over about a pixel.
const LEAST_SOFT: f32 = 0.12;
/// Fifths that are gone of the films' swelling below a layer that covers all.
const GONE_BELOW: i32 = 3;

/// Where coats lie.
pub(crate) struct Lay<'a> {
    /// By pixel the number of a coat, [`NOTHING`] where none does.
    pub coats: &'a [u8],
    /// By pixel how deep inside a motif it is, 0 outside; empty where there is no pattern.
    pub pattern: &'a [u8],
    /// By pixel the number of a part: each is painted by itself. Empty where all is one.
    pub parts: &'a [u16],
    /// By part whether it is longer or wider than the tile of a mark.
    pub large: &'a [bool],
    /// By pixel how much of the light reaches it, [`REACHED`] for as much as the middle of a face gets; empty where nothing casts a
    /// shadow.
    pub reached: &'a [u8],
}

impl Lay<'_> {
    /// How much of the light reaches a pixel, 1 for as much as the middle of a face gets.
    #[inline]
    pub fn reached(&self, i: usize) -> f32 {
        self.reached.get(i).map_or(1.0, |reached| f32::from(*reached) * (1.0 / REACHED))
    }

    fn depth(&self, i: usize) -> u8 {
        self.pattern.get(i).copied().unwrap_or(0)
    }
}

/// The states of all pixels.
pub(crate) struct Spots {
    /// Row by row.
    pub pixels: Vec<Pixel>,
    /// By group: the states.
    pub present: Vec<Vec<Present>>,
}

/// What a pixel shows.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Pixel {
    /// Coat, place and level; [`NO_GROUP`] where nothing is painted.
    pub group: u16,
    /// How much of `other` shows, 255 for all.
    pub shows: u8,
    /// How thick its films are against the usual of their mark, −127 thin to 127 thick.
    pub film: i8,
    /// Which state of its group.
    pub state: u16,
    /// The state beyond the rim it is near to.
    pub other: u16,
}

/// The place and the level of a group.
pub(crate) fn place_and_level(group: usize) -> (Place, Level) {
    (Place::ALL[group % GROUPS / 3], Level::ALL[group % 3])
}

/// The number of the middle level.
const EVEN: u16 = Level::Even as u16;

/// Heights of a texture that are told apart.
const HEIGHTS: usize = 1024;

/// The texture of a coat.
pub(crate) struct Rough {
    tile: &'static [u16],
    /// mm from tip to hollow.
    pub depth: f32,
}

impl Rough {
    /// None where it is smooth.
    pub(crate) fn of(coats: &Coats, coarse: bool) -> Option<Self> {
        let layer = coats.stack.roughest(coats.layers)?;
        let mark = coats.marks.get(layer)?;
        let depth = coats.stack.texture(coats.layers).millimetres() as f32;
        Some(Self { tile: Texture::of_relief(*mark).tile(coarse), depth })
    }

    /// Where on its tile pixels are.
    pub(crate) fn on_tile<'a>(relief: &Relief, lay: &Lay<'a>) -> OnTile<'a> {
        OnTile::of(relief, (lay.parts, lay.large), OF_TEXTURE)
    }

    /// How high it is at a pixel of a row, or at one next to it, 0 to 1.
    #[inline]
    pub(crate) fn height(&self, row: &RowOnTile, x: usize, aside: (usize, usize)) -> f32 {
        1.0 - f32::from(row.rank(self.tile, x, aside, false)) * (1.0 / RANKS)
    }

    fn bin(&self, row: &RowOnTile, x: usize) -> usize {
        ((self.height(row, x, (0, 0)) * HEIGHTS as f32) as usize).min(HEIGHTS - 1)
    }
}

/// A state that a layer does not divide.
const WHOLE: u16 = u16::MAX;

/// What a layer does to a state of a group: what it becomes, with its share, from the lowest ranks on.
type Step = Vec<(u16, f64)>;

/// True where nothing of the state is left.
fn is_whole(after: &[(impl Copy, f64)]) -> bool {
    after.first().is_some_and(|(_, share)| *share == 1.0)
}

impl Spots {
    /// Of coats that lie so.
    pub(crate) fn of(relief: &Relief, lay: &Lay, strips: &[Coats]) -> Self {
        let n = lay.coats.len();
        let groups = strips.len() * GROUPS;
        let pixel = |(coat, spot): (&u8, &Spot)| {
            let group = match *coat {
                NOTHING => NO_GROUP,
                coat => GROUPS as u16 * u16::from(coat) + 3 * u16::from(spot.place) + EVEN,
            };
            Pixel { group, shows: 0, film: 0, state: 0, other: 0 }
        };
        let mut spots = Self {
            pixels: lay.coats.par_iter().zip(&relief.pixels).map(pixel).collect(),
            present: vec![vec![0]; groups],
        };
        spots.level(relief, lay, strips);
        let of_group = |group: usize| {
            let stack = strips[group / GROUPS].stack;
            let (place, level) = place_and_level(group);
            let there = stack.levels(strips[group / GROUPS].layers).contains(&level);
            if there { stack.splits(place, level) } else { Vec::new() }
        };
        let splits: Vec<_> = (0..groups).map(of_group).collect();
        let most = strips.iter().map(|strip| strip.layers.min(strip.stack.len())).max().unwrap_or(0);
        // The last layer of each coat that covers all and has strokes: those below it show no more.
        let last: Vec<Option<usize>> = strips
            .iter()
            .enumerate()
            .map(|(coat, strip)| {
                let closes = |layer: &usize| {
                    let places = &splits[GROUPS * coat..][..GROUPS];
                    let here = || places.iter().filter_map(|splits| splits.get(*layer)).flatten();
                    let swells = strip.marks.get(*layer).is_some_and(|mark| swells(*mark) != 0.0);
                    swells && here().next().is_some() && here().all(|split| is_whole(&split.after))
                };
                (0..strip.layers.min(strip.stack.len())).rev().find(closes)
            })
            .collect();
        let mut bins = vec![0u16; n];
        for layer in 0..most {
            let steps: Vec<Vec<Option<Step>>> = (0..groups)
                .map(|group| {
                    let on = layer < strips[group / GROUPS].layers;
                    let none = Vec::new();
                    let splits = if on { splits[group].get(layer).unwrap_or(&none) } else { &none };
                    let known = &mut spots.present[group];
                    let mut steps = vec![None; known.len()];
                    for split in splits {
                        let Some(before) = known.iter().position(|present| *present == split.before) else {
                            continue;
                        };
                        let mut number = |after: Present| {
                            known.iter().position(|present| *present == after).unwrap_or_else(|| {
                                known.push(after);
                                known.len() - 1
                            }) as u16
                        };
                        let after = split.after.iter().map(|(after, share)| (number(*after), *share));
                        steps[before] = Some(after.collect());
                    }
                    steps
                })
                .collect();
            let broken = |steps: &Vec<Option<Step>>| steps.iter().flatten().any(|step| !is_whole(step));
            let pressed: Vec<Option<Pressed>> = strips
                .iter()
                .zip(&last)
                .enumerate()
                .map(|(coat, (strip, last))| {
                    let divides = steps[GROUPS * coat..][..GROUPS].iter().any(broken);
                    let mark = strip.marks.get(layer).filter(|_| divides || *last == Some(layer))?;
                    Some(Pressed::new(*mark, relief.is_coarse()))
                })
                .collect();
            let press = Press::new(relief, lay, &pressed, layer);
            if steps.iter().any(broken) {
                spots.divide(&steps, &press, &mut bins);
            } else {
                spots.cover(&steps, &press);
            }
        }
        spots
    }

    /// Divides each kind of place of a rough coat into its levels, by the height of the texture there.
    fn level(&mut self, relief: &Relief, lay: &Lay, strips: &[Coats]) {
        let rough: Vec<Option<Rough>> =
            strips.iter().map(|coats| Rough::of(coats, relief.is_coarse())).collect();
        if rough.iter().all(Option::is_none) {
            return;
        }
        let (on_tile, width) = (Rough::on_tile(relief, lay), relief.width);
        let height = |i: usize, pixel: &Pixel| {
            let rough = rough.get(usize::from(pixel.group) / GROUPS)?.as_ref()?;
            Some(rough.bin(&on_tile.row(i / width), i % width))
        };
        let groups = strips.len() * GROUPS;
        let known = in_pieces(
            self.pixels.len(),
            |pixels| {
                let mut known = vec![vec![0u32; HEIGHTS]; groups];
                for i in pixels {
                    if let Some(bin) = height(i, &self.pixels[i]) {
                        known[usize::from(self.pixels[i].group)][bin] += 1;
                    }
                }
                known
            },
            |known, more| {
                for (known, more) in known.iter_mut().flatten().zip(more.iter().flatten()) {
                    *known += more;
                }
            },
        );
        // Up to which height hollows go, and from which on tips.
        let bounds: Vec<(usize, usize)> = known
            .iter()
            .map(|known| {
                let all: u32 = known.iter().sum();
                let up_to = |share: f64| {
                    let mut below = 0;
                    let within = known.iter().take_while(|n| {
                        below += **n;
                        f64::from(below) < share * f64::from(all)
                    });
                    within.count()
                };
                (up_to(Level::Hollow.share()), up_to(1.0 - Level::Tip.share()))
            })
            .collect();
        self.pixels.par_iter_mut().enumerate().with_min_len(1 << 14).for_each(|(i, pixel)| {
            let Some(bin) = height(i, pixel) else { return };
            let (hollow, tip) = bounds[usize::from(pixel.group)];
            if bin <= hollow {
                pixel.group -= 1;
            } else if bin > tip {
                pixel.group += 1;
            }
        });
    }

    /// A layer that covers states whole: its films swell as its strokes go.
    fn cover(&mut self, steps: &[Vec<Option<Step>>], press: &Press) {
        let after = Table::of(steps, |_, before, step| step.as_ref().map_or(before, |step| step[0].0));
        let width = press.relief.width;
        let whole = Cut { rim: BINS as f32, width: 0.5 };
        let films: Vec<Option<Vec<i8>>> = press
            .pressed
            .iter()
            .map(|pressed| {
                let swells = pressed.as_ref()?.swells;
                Some((0..BINS).map(|bin| whole.film(bin, swells)).collect())
            })
            .collect();
        let pressed = films.iter().any(Option::is_some);
        self.pixels.par_chunks_exact_mut(width).enumerate().with_min_len(16).for_each(|(y, row)| {
            let mut bins = vec![0; if pressed { width } else { 0 }];
            press.row(y, &mut bins);
            for (x, pixel) in row.iter_mut().enumerate() {
                if pixel.group == NO_GROUP {
                    continue;
                }
                if let Some(Some(films)) = films.get(usize::from(pixel.group) / GROUPS) {
                    pixel.film = mingled(pixel.film, films[usize::from(bins[x])], ALL);
                }
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
            let Some(step) = step else { return WHOLE };
            divided.push((step, press.pressed[group / GROUPS].as_ref()));
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
                    if pixel.group != NO_GROUP {
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
        // By state and bin, one after the other.
        let mut all = vec![Rim::NONE; divided.len() * BINS];
        let each = all.par_chunks_exact_mut(BINS).zip(divided.par_iter().zip(&lying));
        each.for_each(|(to, ((step, pressed), lying))| {
            to.iter_mut().zip(rims(step, *pressed, lying)).for_each(|(to, rim)| *to = rim);
        });
        // Of a state that is not divided there is none.
        let rim = |group: u16, state: u16, bin: u16| {
            all.get(usize::from(*number.at(group, state)) * BINS + usize::from(bin))
        };
        let pixels = self.pixels.par_iter_mut().zip(bins);
        pixels.with_min_len(1 << 14).for_each(|(pixel, bin)| {
            let Pixel { group, shows, state, other, film } = *pixel;
            if group == NO_GROUP {
                return;
            }
            if shows == 0 {
                let Some(rim) = rim(group, state, *bin) else { return };
                let (film, outside) = (mingled(film, rim.film, rim.within), rim.outside(state));
                *pixel = if rim.cover > ALL / 2 {
                    Pixel { group, shows: ALL - rim.cover, film, state: rim.inside, other: outside }
                } else {
                    Pixel { group, shows: rim.cover, film, state: outside, other: rim.inside }
                };
                return;
            }
            let mut over = None;
            let mut after = |before: u16| {
                let Some(rim) = rim(group, before, *bin) else { return before };
                if rim.within > ALL / 2 {
                    over = Some(rim.film);
                }
                if rim.cover > ALL / 2 { rim.inside } else { rim.outside(before) }
            };
            (pixel.state, pixel.other) = (after(state), after(other));
            if let Some(over) = over {
                pixel.film = mingled(film, over, ALL);
            }
            if pixel.state == pixel.other {
                pixel.shows = 0;
            }
        });
    }
}

/// The rim that is nearest to a bin of ranks.
#[derive(Debug, Clone, Copy)]
struct Rim {
    /// The state inside it, and the one outside; [`WHOLE`] for the one that was there before.
    inside: u16,
    outside: u16,
    /// How much of a pixel lies inside it, and how much within the mark as a whole.
    cover: u8,
    within: u8,
    /// How thick the film is.
    film: i8,
}

impl Rim {
    /// Where nothing lies.
    const NONE: Self = Self { inside: WHOLE, outside: WHOLE, cover: 0, within: 0, film: 0 };

    fn outside(&self, before: u16) -> u16 {
        if self.outside == WHOLE { before } else { self.outside }
    }
}

/// The rims of a mark by bins of ranks: one where it ends, and one around each ring within it. None of what lies nowhere.
fn rims(step: &[(u16, f64)], pressed: Option<&Pressed>, lying: &Lying) -> Vec<Rim> {
    let (soft, repeated, swells) =
        pressed.map_or((0.0, false, 0.0), |pressed| (pressed.soft, pressed.repeated, pressed.swells));
    let below = lying.below();
    if below[BINS] == 0 {
        return Vec::new();
    }
    let up_to: Vec<f64> = step
        .iter()
        .scan(0.0, |up_to, (_, share)| {
            *up_to += share;
            Some(*up_to)
        })
        .collect();
    // A rim fades no further than half-way to the next.
    let hard = |share: &f64| below.partition_point(|lies| (*lies as f64) < share * below[BINS] as f64);
    let hard: Vec<f32> = up_to.iter().map(|share| hard(share) as f32).collect();
    let cut = |(nth, share): (usize, &f64)| {
        let near = hard.windows(2).enumerate().filter(|(gap, _)| *gap == nth || gap + 1 == nth);
        let room = near.map(|(_, rims)| 0.5 * (rims[1] - rims[0]) / BINS as f32);
        Cut::of(*share, (lying, &below), room.fold(soft, f32::min), repeated)
    };
    let cuts: Vec<Cut> = up_to.iter().enumerate().map(cut).collect();
    let rim = |bin: usize| {
        let mark = &cuts[cuts.len() - 1];
        let nearest = cuts.iter().position(|cut| cut.cover(bin) > 0).unwrap_or(cuts.len() - 1);
        let outside = step.get(nearest + 1).map_or(WHOLE, |(state, _)| *state);
        let (cover, within) = (cuts[nearest].cover(bin), mark.cover(bin));
        Rim { inside: step[nearest].0, outside, cover, within, film: mark.film(bin, swells) }
    };
    (0..BINS).map(rim).collect()
}

/// How thick films are where a layer of its own thickness covers so much of a pixel.
#[inline]
fn mingled(below: i8, over: i8, cover: u8) -> i8 {
    let (below, over, cover) = (i32::from(below), i32::from(over), i32::from(cover));
    (below + cover * (5 * over - GONE_BELOW * below) / (5 * i32::from(ALL))).clamp(-127, 127) as i8
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

/// How much of a state lies at each bin of ranks.
struct Lying {
    /// Pixels that show nothing else.
    whole: [u32; BINS],
    /// What pixels on a rim show of it, [`ALL`] for a whole one.
    rim: [u32; BINS],
}

impl Lying {
    /// How much lies before each bin, [`ALL`] for a whole pixel.
    fn below(&self) -> Vec<u64> {
        let mut below = vec![0u64; BINS + 1];
        for bin in 0..BINS {
            below[bin + 1] =
                below[bin] + u64::from(self.whole[bin]) * u64::from(ALL) + u64::from(self.rim[bin]);
        }
        below
    }

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
    fn of(share: f64, (lying, below): (&Lying, &[u64]), soft: f32, repeated: bool) -> Self {
        // A rim fades no wider than there is on its narrower side, and within a bin in any case.
        let room = share.min(1.0 - share) as f32;
        let width = (BINS as f32 * soft.min(room)).max(0.5);
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

    /// How thick the film is, −127 to 127: it swells by so much from the rim to where paint comes first.
    fn film(&self, bin: usize, swells: f32) -> i8 {
        let depth = ((self.rim - bin as f32) / self.rim.max(1.0)).clamp(0.0, 1.0);
        let film = if swells < 0.0 {
            // What dries leaves its rim thickest.
            -swells * (1.5 * (-depth / 0.1).exp() - 0.3)
        } else {
            swells * (1.7 * depth.sqrt() - 1.0)
        };
        (127.0 * film).clamp(-127.0, 127.0) as i8
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
                // A vignette goes from the middle to the rim.
                if technique == Technique::WetBlend { -2.6 } else { 0.0 },
                0.0,
            ),
            Mark::Through(_) | Mark::Repeated | Mark::Cracked => by(0.0, 0.0, 0.0),
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
    /// It is as even as what it is laid through.
    even: bool,
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
    /// How its film swells: see [`swells`].
    swells: f32,
    /// It lies where repeats of a pattern are, and nowhere else.
    repeated: bool,
}

impl Pressed {
    fn new(mark: Mark, coarse: bool) -> Self {
        let texture = Texture::of(mark);
        let Drawn { out, near, low } = Drawn::of(mark);
        let least = -out.abs() + near.min(0.0) + low.min(0.0);
        let most = 1.0 + out.abs() + near.max(0.0) + low.max(0.0);
        // Ranks are spread so that none falls off either end.
        let spread = 1.0 / (most - least);
        let patches = match mark {
            Mark::By(Technique::Stencil) | Mark::Through(_) | Mark::Repeated => 0.03,
            Mark::By(Technique::WetBlend | Technique::MeshedGlaze) => 0.1,
            // Where paint lay thickest it tears most.
            Mark::Cracked => 0.35,
            Mark::By(_) | Mark::Aged(Age::Wear) => 0.22,
            Mark::Aged(_) => 0.4,
        };
        Self {
            tile: texture.tile(coarse),
            turns: texture.turns(),
            even: texture.is_even(),
            fine: spread * (1.0 - patches),
            broad: spread * patches,
            out: spread * out * RANKS / 127.0,
            near: spread * near * RANKS / 255.0,
            low: spread * low * RANKS / 255.0,
            least: -spread * least * RANKS,
            soft: softness(mark).max(if coarse { LEAST_SOFT } else { 0.0 }) * spread,
            swells: swells(mark),
            repeated: mark == Mark::Repeated,
        }
    }
}

impl Pressed {
    /// Adds to ranks what spots add by how they stand.
    fn stand(&self, ranks: &mut [f32], spots: &[Spot]) {
        let mut add = |by: f32, of: fn(&Spot) -> f32| {
            if by != 0.0 {
                ranks.iter_mut().zip(spots).for_each(|(rank, spot)| *rank += by * of(spot));
            }
        };
        add(self.out, |spot| f32::from(spot.stands_out));
        add(self.near, |spot| f32::from(spot.near));
        add(self.low, |spot| f32::from(spot.low));
    }
}

/// How many ranks are reckoned at once.
const AT_ONCE: usize = 64;

/// What keeps a number within a tile.
const ON_TILE: usize = SIDE - 1;

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
    on_tile: OnTile<'a>,
    /// Where on a tile columns and rows are of a mark's patches.
    wide: Vec<usize>,
    tall: Vec<usize>,
}

impl<'a> Press<'a> {
    fn new(relief: &'a Relief, lay: &'a Lay<'a>, pressed: &'a [Option<Pressed>], layer: usize) -> Self {
        // Patches are broad, and lie over all parts.
        let scale = 0.23 * relief.mm * SIDE as f64 / TILE_MM;
        let line = |n: usize, offset: usize| -> Vec<usize> {
            (0..n).map(|v| ((v as f64 * scale) as usize + offset) % SIDE).collect()
        };
        Self {
            relief,
            lay,
            pressed,
            on_tile: OnTile::of(relief, (lay.parts, lay.large), layer),
            wide: line(relief.width, layer * 631 + 17),
            tall: line(relief.height, layer * 397 + 61),
        }
    }

    /// The bins of ranks of a row. Where no mark is, they stay as they are.
    fn row(&self, y: usize, bins: &mut [u16]) {
        let width = self.relief.width;
        let (spots, lay) = (&self.relief.pixels[y * width..], &self.lay.coats[y * width..]);
        let cloud = &Texture::Clouded.tile(false)[self.tall[y] * SIDE..][..SIDE];
        let on_tile = self.on_tile.row(y);
        let mut x = 0;
        // Coat by coat: they lie side by side.
        for run in lay[..bins.len()].chunk_by(|one, next| one == next) {
            let (from, to) = (x, x + run.len());
            x = to;
            let Some(Some(pressed)) = self.pressed.get(usize::from(run[0])) else { continue };
            let spots = &spots[from..to];
            let turned = |x: usize| pressed.turns && spots[x - from].upright;
            on_tile.ranks(pressed.tile, !pressed.even, from, &mut bins[from..to], turned);
            // Some pixels at a time, so that many are reckoned at once.
            let beside = bins[from..to].chunks_mut(AT_ONCE).zip(spots.chunks(AT_ONCE));
            for (n, (bins, spots)) in beside.enumerate() {
                let x = from + AT_ONCE * n;
                let mut ranks = [pressed.least; AT_ONCE];
                let ranks = &mut ranks[..bins.len()];
                for ((rank, fine), wide) in ranks.iter_mut().zip(&*bins).zip(&self.wide[x..]) {
                    *rank +=
                        pressed.fine * f32::from(*fine) + pressed.broad * f32::from(cloud[*wide & ON_TILE]);
                }
                pressed.stand(ranks, spots);
                if pressed.repeated {
                    for (i, rank) in ranks.iter_mut().enumerate() {
                        *rank = in_pattern(self.lay.depth(y * width + x + i), *rank);
                    }
                }
                for (bin, rank) in bins.iter_mut().zip(ranks) {
                    *bin = (rank.max(0.0) as u16) / BIN as u16;
                }
            }
        }
    }
}
