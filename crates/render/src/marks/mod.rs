//! Marks of tools: square tiles of ranks that repeat without a seam.
//!
//! | tool | where |
//! |---|---|
//! | bristles | `strokes` |
//! | a bunched cloth, a pad | `cloth` |
//! | cracks in shrinking paint | `cracks` |
//! | points, drops, smears, rivulets, rubbing and sanding through | `dabs` |
//! | wood grain | `grain` |
//! | a stencil | `motif` |
//! | random numbers and fields | `field` |
//!
//! A layer covers the pixels of lowest rank first. Each tile contains every rank equally often, so a share of the ranks
//! is a share of the area; where a layer covers everything, ranks determine the thickness of its film.

mod cloth;
mod cracks;
mod dabs;
mod field;
mod grain;
mod motif;
mod strokes;

use std::f32::consts::PI;
use std::sync::OnceLock;

use strum::VariantArray as _;
use warm_blend_board::{Family, Motif, Technique, Wood};
use warm_blend_piece::{Age, Mark};

use field::{Field, noise, ranked, rough, softened, sum};
pub(crate) use field::{SIDE, TILE_MM};
use strokes::Brush;

/// Texture of a mark.
#[derive(Debug, Clone, Copy, PartialEq, Eq, strum::VariantArray)]
pub(crate) enum Texture {
    /// Brush strokes side by side and over one another.
    Brushed,
    /// Short strokes in all directions.
    Crossed,
    /// Long strokes of a dry brush or a knife through wet paint.
    Dragged,
    /// Long light strokes that skip.
    Skipping,
    /// Watery paint that drew back from wax.
    DrawnBack,
    /// Many points.
    Stippled,
    /// Orange peel of a roller.
    Rolled,
    /// Peaks of thick paint.
    Peaked,
    /// Islands between cracks.
    Cracked,
    /// Facets and creases of a cloth.
    Ragged,
    /// Facets and creases of a cloth, softened.
    Softened,
    /// Mottles left by a pad.
    Patted,
    /// Tongues and eddies.
    Meshed,
    /// Short strokes across the border of two colours.
    Feathered,
    /// Rivulets.
    Running,
    /// Drops.
    Flung,
    /// Smears of a knife.
    Smeared,
    /// Rubbed through, with chips and scratches.
    Rubbed,
    /// Rubbed on by fingertip.
    Fingered,
    /// A repeated motif.
    Clovers,
    Lozenges,
    Rings,
    Rosettes,
    Leaves,
    Waves,
    Sprigs,
    /// Soft patches.
    Clouded,
    /// Wood grain: with dark bands, with open pores, or in swaying streaks.
    Banded,
    OpenGrained,
    Streaked,
    /// Sanded through in the direction of the paper.
    Sanded,
    /// Further motifs.
    Corners,
    Medallions,
    Petals,
}

/// Width over which the edge of a mark fades, as a share of all ranks.
pub(crate) const fn softness(mark: Mark) -> f32 {
    match mark {
        Mark::By(Technique::WetBlend) => 0.9,
        Mark::By(Technique::MeshedGlaze) => 0.45,
        Mark::By(Technique::GlazeRaggedSoftened) => 0.3,
        Mark::By(Technique::WashPatted | Technique::MetallicWash) => 0.3,
        Mark::By(Technique::GlazeStippled) => 0.15,
        Mark::By(Technique::GlazeRagged) => 0.1,
        Mark::By(Technique::WashDripped) => 0.05,
        Mark::By(Technique::Speckle) => 0.004,
        Mark::By(Technique::KnifeFlecks) => 0.2,
        Mark::By(Technique::Stencil | Technique::Freehand) | Mark::Through(_) => 0.03,
        Mark::By(Technique::DryBrush) => 0.08,
        Mark::Repeated | Mark::InTurn(_) | Mark::Cracked => 0.02,
        Mark::Wisped | Mark::Shaded => 0.1,
        Mark::By(_) | Mark::Aged(Age::Wear) => 0.06,
        Mark::Aged(Age::WaterMarks | Age::Verdigris) => 0.2,
        Mark::Aged(Age::Grime | Age::SunFade) => 0.5,
    }
}

/// How much thicker the film of a mark is where it starts than at its edge, −1 to 1. A drying wash or drop is thickest at
/// the edge†.
pub(crate) const fn swells(mark: Mark) -> f32 {
    match mark {
        Mark::By(technique) => match technique {
            Technique::WashPatted | Technique::WashDripped | Technique::Speckle => -0.8,
            Technique::MetallicWash => -0.4,
            Technique::DryBrush | Technique::KnifeFlecks | Technique::Gilding => 0.9,
            Technique::ClearWax | Technique::ClearCoat => 0.0,
            _ => match technique.family() {
                Family::Coat => 0.35,
                Family::Wear => 0.0,
                _ => 0.7,
            },
        },
        Mark::Through(_) => 0.7,
        Mark::Repeated | Mark::Wisped | Mark::InTurn(_) | Mark::Shaded => 0.6,
        // The rims of its islands curl up.
        Mark::Cracked => -0.4,
        Mark::Aged(Age::WaterMarks | Age::Verdigris) => -0.7,
        Mark::Aged(Age::Grime) => 0.7,
        Mark::Aged(Age::Wear | Age::SunFade) => 0.0,
    }
}

/// A tile of each texture, once it was asked for.
type Tiles = [OnceLock<Vec<u16>>; Texture::ALL.len()];

/// Number of ranks.
pub(crate) const RANKS: f32 = 65536.0;

/// Size of a pixel, mm, from which a tile is sampled coarsely.
pub(crate) const COARSE: f64 = 0.45;

/// Steps of a tile for each pixel below which its values go over into each other: on coarser pixels a step is not seen.
pub(crate) const UP_CLOSE: f64 = 0.6;

/// Computes the tiles of marks in advance, one after another. A tile takes 2 MB: those of other marks are computed when they are drawn.
pub fn make_ready(marks: impl IntoIterator<Item = Mark>) {
    for mark in marks {
        Texture::of(mark).tile(false);
        Texture::of_relief(mark).tile(false);
    }
}

impl Texture {
    const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// Grain of a wood; dark bands have the lowest ranks.
    pub(crate) const fn of_wood(wood: Wood) -> Self {
        match wood {
            Wood::Banded => Texture::Banded,
            Wood::Open => Texture::OpenGrained,
            Wood::Streaked => Texture::Streaked,
        }
    }

    /// Of a stencil out of which something is cut.
    const fn through(motif: Motif) -> Self {
        match motif {
            Motif::Clover => Texture::Clovers,
            Motif::Lozenge => Texture::Lozenges,
            Motif::Ring => Texture::Rings,
            Motif::Rosette => Texture::Rosettes,
            Motif::Leaves => Texture::Leaves,
            Motif::Wave => Texture::Waves,
            Motif::Sprig => Texture::Sprigs,
            Motif::Corner => Texture::Corners,
            Motif::Medallion => Texture::Medallions,
            Motif::Petals => Texture::Petals,
        }
    }

    /// True if repetition goes unnoticed.
    pub(crate) const fn is_even(self) -> bool {
        matches!(
            self,
            Texture::Clovers
                | Texture::Lozenges
                | Texture::Rings
                | Texture::Rosettes
                | Texture::Leaves
                | Texture::Waves
                | Texture::Sprigs
                | Texture::Corners
                | Texture::Medallions
                | Texture::Petals
        )
    }

    const fn is_grain(self) -> bool {
        matches!(self, Texture::Banded | Texture::OpenGrained | Texture::Streaked)
    }

    pub(crate) const fn of(mark: Mark) -> Self {
        let technique = match mark {
            Mark::By(technique) => technique,
            Mark::Through(motif) => return Self::through(motif),
            // The brush of a stencil stipples; the pattern is laid by where its repeats are.
            Mark::Repeated | Mark::Wisped | Mark::InTurn(_) | Mark::Shaded => return Texture::Stippled,
            Mark::Cracked => return Texture::Cracked,
            Mark::Aged(Age::Wear) => return Texture::Rubbed,
            Mark::Aged(Age::WaterMarks) => return Texture::Running,
            Mark::Aged(Age::Grime | Age::SunFade | Age::Verdigris) => return Texture::Clouded,
        };
        match technique {
            Technique::BrushedCoat | Technique::ClearWax | Technique::ClearCoat => Texture::Brushed,
            Technique::RolledCoat => Texture::Rolled,
            Technique::TextureCoat => Texture::Peaked,
            Technique::WetBlend => Texture::Feathered,
            Technique::MeshedGlaze => Texture::Meshed,
            Technique::GlazeStippled => Texture::Stippled,
            Technique::GlazeRagged => Texture::Ragged,
            Technique::GlazeRaggedSoftened => Texture::Softened,
            Technique::GlazeWiped
            | Technique::StainWiped
            | Technique::WashWiped
            | Technique::TintedWax
            | Technique::WashDragged => Texture::Dragged,
            Technique::WashPatted | Technique::MetallicWash => Texture::Patted,
            Technique::WashDripped => Texture::Running,
            Technique::DryBrush => Texture::Skipping,
            Technique::WetWaxResist => Texture::DrawnBack,
            Technique::Speckle => Texture::Flung,
            Technique::Stencil | Technique::Freehand => Texture::Clovers,
            Technique::KnifeFlecks => Texture::Smeared,
            Technique::SandBack | Technique::SmoothSand => Texture::Sanded,
            Technique::WetDistress => Texture::Rubbed,
            Technique::Gilding => Texture::Fingered,
        }
    }

    /// Relief of a layer that is left rough; high where ranks are low.
    pub(crate) const fn of_relief(mark: Mark) -> Self {
        match mark {
            Mark::By(Technique::BrushedCoat) => Texture::Crossed,
            _ => Self::of(mark),
        }
    }

    /// True if it follows the direction of the brush.
    pub(crate) const fn turns(self) -> bool {
        self.is_grain()
            || matches!(
                self,
                Texture::Brushed
                    | Texture::Dragged
                    | Texture::Skipping
                    | Texture::DrawnBack
                    | Texture::Feathered
                    | Texture::Sanded
            )
    }

    /// Ranks, row by row, each of `0..=u16::MAX` equally often; computed when first needed. If `coarse`, only about every
    /// third pixel is sampled, so finer detail is smoothed to prevent glitter.
    pub(crate) fn tile(self, coarse: bool) -> &'static [u16] {
        static FINE: Tiles = [const { OnceLock::new() }; Texture::ALL.len()];
        static COARSE: Tiles = [const { OnceLock::new() }; Texture::ALL.len()];
        if coarse {
            return COARSE[self as usize].get_or_init(|| {
                let fine: Field = self.tile(false).iter().map(|rank| f32::from(*rank)).collect();
                ranked(softened(&fine, 1), Vec::new())
            });
        }
        FINE[self as usize].get_or_init(|| {
            // What stays lies below what is drawn on the way, so that all of that goes back to the system.
            let ranks = Vec::with_capacity(SIDE * SIDE);
            let mut field = self.drawn();
            // What comes first has the lowest rank.
            field.iter_mut().for_each(|value| *value = -*value);
            ranked(field, ranks)
        })
    }

    /// High where paint comes first, or lies thickest.
    fn drawn(self) -> Field {
        let seed = 1000 * (1 + self as u32);
        let brush = Brush {
            length: (60.0, 170.0),
            width: (18.0, 34.0),
            turn: 0.05,
            over: 3.0,
            dry: 0.5,
            bristles: 0.6,
        };
        match self {
            Texture::Brushed => brush.closed(seed),
            Texture::Crossed => Brush {
                length: (28.0, 70.0),
                width: (16.0, 28.0),
                turn: PI,
                over: 4.0,
                bristles: 0.8,
                ..brush
            }
            .closed(seed),
            Texture::Dragged => {
                Brush { length: (150.0, 240.0), turn: 0.012, over: 2.0, dry: 0.2, bristles: 0.9, ..brush }
                    .closed(seed)
            }
            Texture::Skipping => {
                Brush { length: (60.0, 190.0), width: (12.0, 30.0), dry: 0.7, bristles: 0.75, ..brush }
                    .broken(seed)
            }
            Texture::DrawnBack => sum(&[
                (1.0, noise(110.0, 4.5, seed)),
                (0.7, noise(60.0, 1.8, seed + 1)),
                (0.6, noise(180.0, 26.0, seed + 2)),
                (0.35, rough(&[(0.8, 1.0), (2.5, 0.6)], seed + 3)),
            ]),
            Texture::Stippled => dabs::stippled(seed),
            Texture::Rolled => dabs::rolled(seed),
            Texture::Peaked => dabs::peaks(seed),
            Texture::Cracked => cracks::cracked(seed),
            Texture::Ragged => cloth::ragged(seed),
            Texture::Softened => cloth::softly_brushed(Texture::Ragged.tile(false), seed),
            Texture::Patted => cloth::patted(seed),
            Texture::Meshed => {
                // Tapped and drawn into each other by a brush: where the colours meet its strokes show.
                let tapped = Brush {
                    length: (16.0, 48.0),
                    width: (10.0, 22.0),
                    turn: PI,
                    over: 4.0,
                    dry: 0.9,
                    bristles: 0.5,
                };
                sum(&[(0.75, dabs::meshed(seed)), (0.75, softened(&tapped.closed(seed), 4))])
            }
            Texture::Feathered => {
                let worked = Brush {
                    length: (45.0, 110.0),
                    width: (14.0, 26.0),
                    turn: 0.5,
                    over: 4.0,
                    dry: 0.9,
                    bristles: 0.55,
                };
                sum(&[
                    (1.0, softened(&worked.closed(seed), 3)),
                    (0.3, rough(&[(30.0, 1.0), (9.0, 0.4)], seed + 3)),
                ])
            }
            Texture::Running => dabs::running(seed),
            Texture::Flung => dabs::flung(seed),
            Texture::Smeared => dabs::smeared(seed),
            Texture::Rubbed => dabs::rubbed(seed),
            Texture::Sanded => dabs::sanded(seed),
            Texture::Fingered => {
                let rubbed = Brush {
                    length: (8.0, 26.0),
                    width: (6.0, 12.0),
                    turn: 0.7,
                    over: 2.5,
                    dry: 0.5,
                    bristles: 0.25,
                };
                sum(&[
                    (1.0, rubbed.broken(seed)),
                    (0.3, rough(&[(0.7, 1.0), (2.0, 0.8), (8.0, 0.8)], seed + 7)),
                ])
            }
            Texture::Clovers => motif::stencilled(Motif::Clover, seed),
            Texture::Lozenges => motif::stencilled(Motif::Lozenge, seed),
            Texture::Rings => motif::stencilled(Motif::Ring, seed),
            Texture::Rosettes => motif::stencilled(Motif::Rosette, seed),
            Texture::Leaves => motif::stencilled(Motif::Leaves, seed),
            Texture::Waves => motif::stencilled(Motif::Wave, seed),
            Texture::Sprigs => motif::stencilled(Motif::Sprig, seed),
            Texture::Corners => motif::stencilled(Motif::Corner, seed),
            Texture::Medallions => motif::stencilled(Motif::Medallion, seed),
            Texture::Petals => motif::stencilled(Motif::Petals, seed),
            Texture::Clouded => dabs::clouded(seed),
            Texture::Banded => grain::banded(seed),
            Texture::OpenGrained => grain::open(seed),
            Texture::Streaked => grain::streaked(seed),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// How alike a tile is to itself so many pixels aside and down, −1 to 1.
    fn alike(tile: &[u16], dx: usize, dy: usize) -> f64 {
        let at = |x: usize, y: usize| f64::from(tile[(y % SIDE) * SIDE + x % SIDE]) / 32768.0 - 1.0;
        let spots = (0..SIDE).step_by(2).flat_map(|y| (0..SIDE).step_by(2).map(move |x| (x, y)));
        let product: f64 = spots.map(|(x, y)| at(x, y) * at(x + dx, y + dy)).sum();
        // Ranks are spread evenly over −1..1: their square is a third on average.
        product / ((SIDE / 2) * (SIDE / 2)) as f64 * 3.0
    }

    /// Nothing comes again within a tile, at no distance, along, down or aslant, but the motif of a stencil; and what has no
    /// direction by its tool has none.
    #[test]
    fn marks_have_no_period_and_no_lattice() {
        for texture in Texture::ALL.into_iter().filter(|texture| !texture.is_even()) {
            let tile = texture.tile(false);
            // Strokes go on for a hand's breadth along, rivulets down, grain for the plank.
            let (far_x, far_y) = match texture {
                Texture::Dragged => (SIDE, 150),
                _ if texture.is_grain() => (SIDE, 150),
                Texture::Running => (60, SIDE),
                _ if texture.turns() => (420, 150),
                _ => (330, 330),
            };
            for away in (0..SIDE / 2).step_by(23) {
                if away >= far_x {
                    assert!(
                        alike(tile, away, 0).abs() < 0.25,
                        "{texture:?}: {away} aside, {}",
                        alike(tile, away, 0)
                    );
                }
                if away >= far_y {
                    assert!(
                        alike(tile, 0, away).abs() < 0.25,
                        "{texture:?}: {away} down, {}",
                        alike(tile, 0, away)
                    );
                }
                if away >= far_x.min(far_y) {
                    assert!(alike(tile, away, away).abs() < 0.25, "{texture:?}: {away} aslant");
                }
            }
            let by_tool = texture.turns() || matches!(texture, Texture::Running | Texture::Fingered);
            if !by_tool {
                let (along, down, aslant) = (alike(tile, 10, 0), alike(tile, 0, 10), alike(tile, 7, 7));
                let apart = (along - down).abs().max((along - aslant).abs());
                assert!(apart < 0.12, "{texture:?}: {along} {down} {aslant}");
            }
        }
    }

    #[test]
    fn every_rank_is_there_equally_often() {
        for texture in Texture::ALL {
            let mut tenths = [0usize; 10];
            for rank in texture.tile(false) {
                tenths[usize::from(*rank) * 10 / 65536] += 1;
            }
            let each = SIDE * SIDE / 10;
            assert!(tenths.iter().all(|n| n.abs_diff(each) < 80), "{texture:?} {tenths:?}");
        }
    }
}
