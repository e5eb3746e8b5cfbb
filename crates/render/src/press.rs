//! The marks of a layer on a surface: the rank of each pixel.
//!
//! The rank is that of the mark's tile, shifted by patches that extend over all parts and by position.

use warm_blend_board::{Family, Technique};
use warm_blend_piece::{Age, DENSE, Mark};

use crate::{
    Relief,
    lay::{InMotif, Lay},
    marks::{RANKS, SIDE, TILE_MM, Texture, softness, swells},
    on_tile::{ON_TILE, OnTile},
    relief::Spot,
};

/// Number of bins of ranks.
pub(crate) const BINS: usize = 2048;
/// Ranks of one bin.
const BIN: usize = RANKS as usize / BINS;
/// Half the width of the narrowest rim where a pixel is coarse, as a share of all ranks: it goes over about a pixel.
const LEAST_SOFT: f32 = 0.12;

/// How far the ranks of a mark are moved, as a share of all, by where a spot is†: where it stands out by a millimetre, on an
/// outline, at the bottom of its part. On what stands out comes what is drawn across it or worn off it; into what lies low
/// comes what is wiped or runs.
struct Moved {
    out: f32,
    near: f32,
    low: f32,
}

impl Moved {
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
            Mark::Through(_)
            | Mark::Repeated
            | Mark::Wisped
            | Mark::InTurn(_)
            | Mark::Shaded
            | Mark::Cracked => by(0.0, 0.0, 0.0),
            Mark::Aged(Age::Wear) => by(-0.5, -0.7, 0.0),
            Mark::Aged(Age::Grime) => by(0.3, -0.5, -0.35),
            Mark::Aged(Age::WaterMarks) => by(0.0, 0.0, 0.5),
            Mark::Aged(Age::SunFade) => by(0.0, 0.2, 0.9),
            Mark::Aged(Age::Verdigris) => by(0.4, -0.2, -0.6),
        }
    }
}

/// The mark of a layer, prepared for drawing.
pub(crate) struct Pressed {
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
    /// Half the width of an edge, as a share of all ranks.
    pub soft: f32,
    /// Swelling of its film: see [`swells`].
    pub swells: f32,
    /// How it lies on the repeats of a pattern, if only there.
    pub pattern: Option<Filled>,
}

impl Pressed {
    pub fn new(mark: Mark, coarse: bool) -> Self {
        let texture = Texture::of(mark);
        let Moved { out, near, low } = Moved::of(mark);
        let least = -out.abs() + near.min(0.0) + low.min(0.0);
        let most = 1.0 + out.abs() + near.max(0.0) + low.max(0.0);
        // Ranks are spread so that none falls off either end.
        let spread = 1.0 / (most - least);
        let patches = match mark {
            Mark::By(Technique::Stencil | Technique::Freehand) | Mark::Through(_) => 0.03,
            Mark::Repeated | Mark::InTurn(_) | Mark::Shaded => 0.03,
            // A second colour lies where the hand happened to go.
            Mark::Wisped => 0.75,
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
            pattern: match mark {
                Mark::Repeated => Some(Filled::FromMiddle),
                Mark::Wisped => Some(Filled::InWisps),
                Mark::InTurn(turn) => Some(Filled::InTurn(turn)),
                Mark::Shaded => Some(Filled::FromEdge),
                _ => None,
            },
        }
    }

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

/// How many ranks are computed at once.
const AT_ONCE: usize = 64;

/// How much it counts for a spot in a motif how far it is from the middle; the rest is how the brush was pressed.
const FROM_MIDDLE: f32 = 0.6;

/// How the motifs of a pattern are filled.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Filled {
    /// From their middles out.
    FromMiddle,
    /// Over what fills them already, where it is this turn or a later one.
    InTurn(u8),
    /// In patches, over what fills them already.
    InWisps,
    /// From the edge of what fills them already towards their middles.
    FromEdge,
}

/// The rank of a spot in a pattern: motifs come first, each as broken as the brush left it. Where the pattern fades
/// to a share of its strength, only that share of the spots is within it. Further colours lie on the first and nowhere else.
fn in_pattern(InMotif { before, strength, turn, pressed }: InMotif, rank: f32, filled: Filled) -> f32 {
    let outside = 0.5 * (RANKS + rank).min(2.0 * RANKS - 1.0);
    if strength == 0 {
        return outside;
    }
    let share = |v: u8| (f32::from(v) + 0.5) / 256.0;
    let place = evenly(FROM_MIDDLE * share(before) + (1.0 - FROM_MIDDLE) * share(pressed));
    let faded = place * 255.0 / f32::from(strength);
    let (reach, on_the_first) = (DENSE as f32, faded < DENSE as f32);
    match filled {
        Filled::FromMiddle if faded < 1.0 => 0.5 * RANKS * faded,
        Filled::InTurn(from) if on_the_first && turn >= from => 0.5 * RANKS * faded,
        Filled::InWisps if on_the_first => 0.5 * rank.min(RANKS - 1.0),
        Filled::FromEdge if on_the_first => 0.5 * RANKS * (reach - faded) / reach,
        _ => outside,
    }
}

/// Share of places below one, where a place is the sum of two values that are spread evenly, up to [`FROM_MIDDLE`] and up to what is left of
/// 1: the integral of a trapezoid.
fn evenly(place: f32) -> f32 {
    const LONG: f32 = FROM_MIDDLE;
    const SHORT: f32 = 1.0 - FROM_MIDDLE;
    match place {
        p if p < SHORT => p * p / (2.0 * LONG * SHORT),
        p if p < LONG => (p - 0.5 * SHORT) / LONG,
        p => 1.0 - (1.0 - p).max(0.0).powi(2) / (2.0 * LONG * SHORT),
    }
}

/// The marks of a layer, each where its coat lies.
pub(crate) struct Press<'a> {
    pub relief: &'a Relief,
    lay: &'a Lay<'a>,
    pub pressed: &'a [Option<Pressed>],
    on_tile: OnTile<'a>,
    /// Where on a tile columns and rows are of a mark's patches.
    wide: Vec<usize>,
    tall: Vec<usize>,
}

impl<'a> Press<'a> {
    pub fn new(relief: &'a Relief, lay: &'a Lay<'a>, pressed: &'a [Option<Pressed>], layer: usize) -> Self {
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

    /// Writes the bins of ranks of a row. Pixels without a mark do not change.
    pub fn row(&self, y: usize, bins: &mut [u16]) {
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
            // Some pixels at a time, so that many are computed at once.
            let beside = bins[from..to].chunks_mut(AT_ONCE).zip(spots.chunks(AT_ONCE));
            for (n, (bins, spots)) in beside.enumerate() {
                let x = from + AT_ONCE * n;
                let mut ranks = [pressed.least; AT_ONCE];
                let ranks = &mut ranks[..bins.len()];
                for ((rank, fine), wide) in ranks.iter_mut().zip(&*bins).zip(&self.wide[x..]) {
                    *rank += pressed.fine * f32::from(*fine)
                        + pressed.broad * f32::from(cloud[*wide & ON_TILE as usize]);
                }
                pressed.stand(ranks, spots);
                if let Some(filled) = pressed.pattern {
                    for (i, rank) in ranks.iter_mut().enumerate() {
                        *rank = in_pattern(self.lay.in_motif(y * width + x + i), *rank, filled);
                    }
                }
                for (bin, rank) in bins.iter_mut().zip(ranks) {
                    *bin = (rank.max(0.0) as u16) / BIN as u16;
                }
            }
        }
    }
}
