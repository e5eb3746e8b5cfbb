//! What a stencil leaves on the parts of a zone, as layers.

use uuid::Uuid;
use warm_blend_board::{Application, ByPlace, Deposit, Layer, LayerId, Meets, MeetsLayer, Share, Technique};
use warm_blend_paint::{Microns, MixPart};

use super::{BadFinish, Elevation, Face, Mark, Repeats, SideSpacing, Stencil, Zone};

/// Share of a motif that is covered†.
pub const DENSE: f64 = 0.85;
/// Share of a pattern that each further colour is wisped over†.
pub const WISPED: f64 = 0.35;
/// Share of a pattern that its shaded edge takes†.
pub const SHADED: f64 = 0.3;
/// The thinnest film that wiping leaves, µm†.
const WIPED_THIN: f64 = 0.5;

impl Stencil {
    /// Repeats on a part of a face; `None` where it does not go.
    pub fn on(&self, face: &Face, at: usize) -> Option<Repeats> {
        Repeats::on(self, face, at)
    }

    /// The pattern as layers of a zone with their marks, one for each pot: the share of the flats that its motifs cover, and of that what
    /// lies over it and what its edges take. What is sanded in is sanded last.
    pub(super) fn layers(&self, elevation: &Elevation, zone: Zone) -> Result<Vec<(Layer, Mark)>, BadFinish> {
        self.check()?;
        let (mut flats, mut motifs, mut in_turn) = (0.0, 0.0, [0.0; Self::COLOURS]);
        for face in &elevation.faces {
            for (at, (part, net)) in face.parts.iter().zip(face.net()).enumerate() {
                if part.zone != zone {
                    continue;
                }
                let times = f64::from(face.times);
                flats += times * net.max(0.0) * part.shares().field;
                let Some(repeats) = self.on(face, at) else { continue };
                let painted = times * repeats.painted();
                motifs += painted;
                if self.in_turn {
                    in_turn
                        .iter_mut()
                        .zip(repeats.from_turn())
                        .for_each(|(sum, share)| *sum += painted * share);
                }
            }
        }
        if motifs <= 0.0 {
            return Err(BadFinish::StencilNowhere(self.size));
        }
        let in_turn = in_turn.map(|sum| sum / motifs);
        if self.in_turn && in_turn[self.wisps.len()] <= 0.0 {
            return Err(BadFinish::StencilTurns);
        }
        // Face areas are mm², as motifs are.
        let whole = DENSE * (motifs / flats).min(1.0);
        let (wiped, sanded) = self.taken_off();
        let technique = if self.by_hand { Technique::Freehand } else { Technique::Stencil };
        let full = technique.print(Application::default()).film;
        let film =
            ByPlace::from_fn(|place| Microns::of(((1.0 - wiped) * full.at(place).value()).max(WIPED_THIN)));
        let usual = Application::default();
        let hand = Application { wipe: Share::of(0.5 + 0.5 * wiped), ..usual };
        let layer = |(n, pot): (usize, &Vec<MixPart>)| {
            let mark = match n {
                0 => Mark::Repeated,
                n if n > self.wisps.len() => Mark::Shaded,
                n if self.in_turn => Mark::InTurn(n as u8),
                _ => Mark::Wisped,
            };
            let share = match mark {
                Mark::Wisped => WISPED,
                Mark::InTurn(turn) => in_turn[usize::from(turn)],
                Mark::Shaded => SHADED,
                _ => 1.0,
            };
            let cover = ByPlace { field: Share::of(share * whole), recess: Share::NONE, edge: Share::NONE };
            // In turn, each lies on those petals of the one before it that are not its own.
            let below = if let Mark::InTurn(turn) = mark { usize::from(turn) - 1 } else { 0 };
            let on_it = MeetsLayer { layer: layer_id(below), how: Meets::Seeks };
            let layer = Layer {
                id: layer_id(n),
                print: Some(Deposit { film, cover }),
                meets: (n > 0).then_some(on_it),
                hand,
                ..Layer::new(technique, pot.clone())
            };
            (layer, mark)
        };
        let mut layers: Vec<(Layer, Mark)> = self.pots().enumerate().map(layer).collect();
        if sanded > 0.0 {
            let smooth =
                Layer { id: layer_id(layers.len()), ..Layer::new(Technique::SmoothSand, Vec::new()) };
            layers.push((smooth, Mark::By(Technique::SmoothSand)));
        }
        Ok(layers)
    }

    /// Spacing for each length of part, once: `5 of 120 mm, 50 mm between and at the ends`.
    pub fn spread(&self, elevation: &Elevation, zone: Zone) -> Vec<SideSpacing> {
        let mut spread: Vec<SideSpacing> = Vec::new();
        for face in &elevation.faces {
            for (at, _) in face.parts.iter().enumerate().filter(|(_, part)| part.zone == zone) {
                for side in self.on(face, at).into_iter().flat_map(|repeats| repeats.sides()) {
                    if !spread.iter().any(|known| known.is_alike(&side)) {
                        spread.push(side);
                    }
                }
            }
        }
        spread
    }
}

/// Identifies the layer of a colour of a pattern.
const fn layer_id(n: usize) -> LayerId {
    LayerId(Uuid::from_u128(0x5700 + n as u128))
}
