//! The layers at each pixel.
//!
//! Layer by layer, the pixels of each state are divided by the rank of the layer's mark there (`press`): the lowest ranks
//! are covered, exactly as much area as the engine says, whatever the shape (`rims`). A pixel on a soft edge shows two
//! states. It is on one edge at most: on an earlier one, each of the two states is either covered or not.
//!
//! Where a layer covers everything, its film varies with its strokes.

use rayon::prelude::*;
use warm_blend_board::{Level, Place, Present};

use crate::{
    Coats, Relief,
    counted::in_pieces,
    lay::{Lay, NOTHING},
    marks::swells,
    press::{BINS, Press, Pressed},
    relief::Spot,
    rims::{ALL, Cut, Lying, Rim, Step, WHOLE, tell_rims},
    rough::{HEIGHTS, Rough},
    table::Table,
};

/// Group of a pixel without paint.
pub(crate) const NO_GROUP: u16 = u16::MAX;
/// Number of groups of a coat: one for each level of each kind of place.
pub(crate) const GROUPS: usize = Place::ALL.len() * Level::ALL.len();
/// Fifths that are gone of the films' swelling below a layer that covers all.
const GONE_BELOW: i32 = 3;

/// States of all pixels.
pub(crate) struct Spots {
    /// The pixels, row by row.
    pub pixels: Vec<Pixel>,
    /// States by group.
    pub present: Vec<Vec<Present>>,
}

/// State of a pixel.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Pixel {
    /// Coat, place and level; [`NO_GROUP`] without paint.
    pub group: u16,
    /// Share of `other` that shows, 255 for all.
    pub shows: u8,
    /// Thickness of the films relative to the usual for their mark, from −127 (thin) to 127 (thick).
    pub film: i8,
    /// State within its group.
    pub state: u16,
    /// State on the other side of the nearest edge.
    pub other: u16,
}

/// Place and level of a group.
pub(crate) fn place_and_level(group: usize) -> (Place, Level) {
    (Place::ALL[group % GROUPS / 3], Level::ALL[group % 3])
}

/// The number of the middle level.
const EVEN: u16 = Level::Even as u16;

/// True where nothing of the state is left.
fn is_whole(after: &[(impl Copy, f64)]) -> bool {
    after.first().is_some_and(|(_, share)| *share == 1.0)
}

impl Spots {
    /// States of coats in their places.
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
        let films: Vec<Option<Vec<i8>>> = press
            .pressed
            .iter()
            .map(|pressed| {
                let swells = pressed.as_ref()?.swells;
                Some((0..BINS).map(|bin| Cut::OF_ALL.film(bin, swells)).collect())
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
        each.for_each(|(rims, ((step, pressed), lying))| tell_rims(rims, step, *pressed, lying));
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
