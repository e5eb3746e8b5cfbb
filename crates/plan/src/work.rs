//! Things that are done on a zone, and what a zone is to become.

use serde::{Deserialize, Serialize};
use warm_blend_board::{Application, ByPlace, FLAT, Family, GroundKind, Layer, Place, Technique};
use warm_blend_paint::{Contents, MixPart, PaintId, Product};
use warm_blend_piece::{Age, Zone};

/// The product in a tin; `None` for a tin that is not in the file.
pub type Tins<'a> = &'a dyn Fn(PaintId) -> Option<Product>;

/// A thing that is done on one zone or on several at once.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Work {
    /// Handles, hinges, keys and what else comes off.
    HardwareOff,
    /// Old paint is tested for lead, before anything is sanded.
    LeadTest,
    /// Old wax taken off with solvent.
    Dewax,
    /// Washed down.
    Clean,
    /// Rinsed with clear water.
    Rinse,
    /// The gloss taken off with a liquid; it dries in about ten minutes, without rinsing.
    Deglaze,
    /// Sanded lightly so that paint grips.
    Scuff,
    /// Taped where paint stops.
    Tape,
    /// A layer of the finish, or one coat of several.
    Layer(Laid),
    /// Layers worked into each other while they are wet: one stretch of work, and all of it dries together.
    Wet(Vec<Laid>),
    /// What makes it look old, where no layer of a board does.
    Age(Age),
    /// Wax of this finish taken off again: what follows would not hold on it.
    WaxOff,
    /// A layer that is no longer wanted is scuffed, so that what covers it holds.
    ScuffBack,
    /// Tape removed while the edge is soft.
    TapeOff,
    /// Waxes buffed.
    Buff,
    /// Hardware refitted. On sheets from before tape had a step of its own, tape came off with it.
    HardwareOn,
    /// Left alone until it can be moved.
    Rest,
}

/// One coat of a layer.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Laid {
    /// How.
    pub technique: Technique,
    /// What was in the pot.
    pub pot: Vec<MixPart>,
    /// How it is done, once.
    pub hand: Application,
    /// Which coat of how many.
    pub coat: (u8, u8),
}

/// A layer that is to lie on a zone.
#[derive(Debug, Clone, PartialEq)]
pub struct LayerWork {
    /// How.
    pub technique: Technique,
    /// What is in the pot; nothing where the technique says what.
    pub pot: Vec<MixPart>,
    /// How it is done.
    pub hand: Application,
    /// Whether it is worked into the layer below while that is wet.
    pub into_wet: bool,
}

/// A part that is painted from edge to edge without a break.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PartSize {
    /// m².
    pub area: f64,
    /// Its shorter side, m: how long a wet edge across it is.
    pub narrow: f64,
}

/// What a zone is to become.
#[derive(Debug, Clone, PartialEq)]
pub struct ZoneWork {
    /// Which.
    pub zone: Zone,
    /// m².
    pub area: f64,
    /// Shares of field, recess and edge.
    pub places: ByPlace<f64>,
    /// Its parts: a natural break lies between any two.
    pub parts: Vec<PartSize>,
    /// Edge that is taped, m.
    pub taped: f64,
    /// What is there as found.
    pub ground: GroundKind,
    /// From the ground up.
    pub layers: Vec<LayerWork>,
    /// What makes it look old on top.
    pub ages: Vec<Age>,
}

impl From<&Layer> for LayerWork {
    fn from(layer: &Layer) -> Self {
        Self {
            technique: layer.technique,
            pot: layer.pot.clone(),
            hand: layer.hand,
            into_wet: layer.goes_into_wet(),
        }
    }
}

impl ZoneWork {
    /// Share of it that is recess and edge beyond that of a flat board: 0 flat, about 0.6 carved all over.
    pub fn relief(&self) -> f64 {
        let raised = |places: &ByPlace<f64>| places.at(Place::Recess) + places.at(Place::Edge);
        (raised(&self.places) - raised(&FLAT)).max(0.0)
    }
}

impl LayerWork {
    /// Coat by coat where each dries before the next; else all of it at once.
    pub fn coats(&self, tins: Tins) -> Vec<Laid> {
        let passes = self.hand.passes.value();
        let whole = Laid { technique: self.technique, pot: self.pot.clone(), hand: self.hand, coat: (1, 1) };
        if passes == 1 || !whole.dries_between_passes(tins) {
            return vec![whole];
        }
        let once = Application { passes: Application::default().passes, ..self.hand };
        (1..=passes).map(|coat| Laid { hand: once, coat: (coat, passes), ..whole.clone() }).collect()
    }
}

impl Work {
    /// The layers it lays: one, several worked wet, or none of what is no layer.
    pub fn layers(&self) -> &[Laid] {
        match self {
            Work::Layer(laid) => std::slice::from_ref(laid),
            Work::Wet(layers) => layers,
            _ => &[],
        }
    }

    /// The layer it begins with, where it lays any.
    pub fn laid(&self) -> Option<&Laid> {
        self.layers().first()
    }

    /// The technique whose pace it goes by: of layers worked wet that of the last, which is worked into the others.
    pub fn technique(&self) -> Option<Technique> {
        self.layers().last().map(|laid| laid.technique)
    }

    /// True of what lies on the piece afterwards, or has worn what lies there.
    pub fn lies(&self) -> bool {
        matches!(self, Work::Layer(_) | Work::Wet(_) | Work::Age(_))
    }

    /// True if any of it is wax or metallic wax: only wax holds on it.
    pub fn is_waxy(&self, tins: Tins) -> bool {
        self.layers().iter().any(|laid| laid.is_waxy(tins))
    }

    /// True of what is done to the ground before anything is laid on it.
    pub const fn prepares(&self) -> bool {
        matches!(self, Work::LeadTest | Work::Dewax | Work::Clean | Work::Rinse | Work::Deglaze | Work::Scuff)
    }
}

impl Laid {
    /// What is in the pot; the usual product of a technique that needs none.
    pub fn contents(&self, tins: Tins) -> Contents {
        if self.pot.is_empty() {
            return self.technique.product().into();
        }
        let part = |part: &MixPart| Some((tins(part.paint)?, f64::from(part.parts.value())));
        self.pot.iter().filter_map(part).collect()
    }

    /// True of wax, clear or tinted, of what holds wax, and of gilding.
    pub fn is_waxy(&self, tins: Tins) -> bool {
        is_wax(self.technique) || self.technique.family() == Family::Gild || self.contents(tins).has_wax()
    }

    /// True of what dries between one pass and the next: coats, glazes, toners, clear coats and stains.
    fn dries_between_passes(&self, tins: Tins) -> bool {
        use warm_blend_paint::Class::GelStain;
        let stain = self.contents(tins).is_mostly(|product| product.class == GelStain);
        stain
            || matches!(self.technique.family(), Family::Coat | Family::Seal | Family::Glaze | Family::Stain)
    }

    /// True of what stays wet long enough for something to be worked into it.
    pub(crate) fn stays_wet(&self, tins: Tins) -> bool {
        match self.technique {
            Technique::ClearWax | Technique::WetWaxResist | Technique::KnifeFlecks => true,
            technique => {
                let primer = self.contents(tins).is_mostly(Product::blocks_stains);
                !primer
                    && matches!(
                        technique.family(),
                        Family::Coat | Family::Blend | Family::Glaze | Family::Wash
                    )
            }
        }
    }
}

impl Work {
    /// True of wax that is buffed: gilding wax is left as it lies.
    pub fn needs_buffing(&self) -> bool {
        self.layers().iter().any(|laid| is_wax(laid.technique) || laid.technique == Technique::WetWaxResist)
    }
}

/// True of wax, clear or tinted.
pub(crate) const fn is_wax(technique: Technique) -> bool {
    matches!(technique, Technique::ClearWax) || matches!(technique.family(), Family::Wax)
}

#[cfg(test)]
pub(crate) mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_board::Passes;
    use warm_blend_paint::{Class, WholeParts};

    pub(crate) fn pot(paint: u128) -> Vec<MixPart> {
        vec![MixPart { paint: PaintId(uuid::Uuid::from_u128(paint)), parts: WholeParts::new(1).unwrap() }]
    }

    pub(crate) fn layer(technique: Technique, paint: u128, passes: u8) -> LayerWork {
        let pot = if technique.needs_no_pot() { Vec::new() } else { pot(paint) };
        let hand = Application { passes: Passes::new(passes).unwrap(), ..Application::default() };
        LayerWork { technique, pot, hand, into_wet: technique.goes_into_wet() }
    }

    /// A flat zone, in parts of at most half a square metre.
    pub(crate) fn zone(zone: Zone, area: f64, layers: Vec<LayerWork>) -> ZoneWork {
        ZoneWork {
            zone,
            area,
            places: FLAT,
            parts: vec![
                PartSize { area: area / (2.0 * area).ceil(), narrow: 0.5 };
                (2.0 * area).ceil() as usize
            ],
            taped: 0.0,
            ground: GroundKind::RedStain,
            layers,
            ages: Vec::new(),
        }
    }

    /// Every tin holds chalk-type paint.
    pub(crate) fn chalk(_: PaintId) -> Option<Product> {
        Some(Class::Chalk.into())
    }

    pub(crate) fn any_layers() -> impl Strategy<Value = Vec<LayerWork>> {
        let technique = proptest::sample::select(Technique::ALL.to_vec());
        proptest::collection::vec((technique, 0u128..4, 1u8..4), 1..7).prop_map(|all| {
            all.into_iter().map(|(technique, paint, passes)| layer(technique, paint, passes)).collect()
        })
    }
}
