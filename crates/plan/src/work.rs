//! Work on a zone, and what a zone is to become.

use std::collections::BTreeSet;

use serde::{Deserialize, Serialize};
use warm_blend_board::{Application, ByPlace, FLAT, Family, GroundKind, Layer, Place, Technique};
use warm_blend_paint::{Contents, MixPart, PaintId, Product};
use warm_blend_piece::{Age, Repair, Zone};

/// Looks up the product in a tin; `None` for an unknown tin.
pub type Tins<'a> = &'a dyn Fn(PaintId) -> Option<Product>;

/// A work on one zone or several at once.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Work {
    /// Hardware removed: handles, hinges, keys and the like.
    HardwareOff,
    /// Old paint tested for lead, before anything is sanded.
    LeadTest,
    /// Old wax removed with solvent.
    Dewax,
    /// Old finish stripped.
    Strip,
    /// Washed.
    Clean,
    /// Rinsed with clear water.
    Rinse,
    /// Loose veneer glued down and clamped.
    GlueDown,
    /// Dents and holes filled.
    Fill,
    /// Filler sanded flush.
    SandFlush,
    /// Holes for new pulls drilled.
    Drill,
    /// Knots and stains blocked, so that they do not bleed through.
    BlockStains,
    /// Hardware soaked until old paint and grime come off.
    Soak,
    /// Hardware polished.
    Polish,
    /// Gloss dulled with a liquid that dries in ten minutes and needs no rinsing.
    Deglaze,
    /// Sanded lightly so that paint sticks.
    Scuff,
    /// Edges taped.
    Tape,
    /// A layer of the finish, or one coat of several.
    Layer(Laid),
    /// Layers worked into each other wet, in one go; they dry together.
    Wet(Vec<Laid>),
    /// Ageing that is not a layer of a board.
    Age(Age),
    /// Wax of this finish removed, because what follows would not stick to it.
    WaxOff,
    /// An unwanted layer scuffed, so that what covers it sticks.
    ScuffBack,
    /// Tape removed while the paint is soft.
    TapeOff,
    /// Waxes buffed.
    Buff,
    /// Hardware refitted. On sheets older than the step for tape, tape came off with it.
    HardwareOn,
    /// Left alone until the piece can be moved.
    Rest,
}

/// One coat of a layer.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Laid {
    /// Technique.
    pub technique: Technique,
    /// Contents of the pot.
    pub pot: Vec<MixPart>,
    /// How the technique is carried out, once.
    pub hand: Application,
    /// Number of this coat, and of all coats.
    pub coat: (u8, u8),
}

/// A layer planned for a zone.
#[derive(Debug, Clone, PartialEq)]
pub struct LayerWork {
    /// Technique.
    pub technique: Technique,
    /// Contents of the pot; empty if the technique names its product.
    pub pot: Vec<MixPart>,
    /// How the technique is carried out.
    pub hand: Application,
    /// True if it is worked into the layer below while that is wet.
    pub into_wet: bool,
}

/// A part that is painted without a break.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PartSize {
    /// Area, m².
    pub area: f64,
    /// Shorter side, m: the length of a wet edge across it.
    pub narrow: f64,
}

/// What a zone is to become.
#[derive(Debug, Clone, PartialEq)]
pub struct ZoneWork {
    /// The zone.
    pub zone: Zone,
    /// Area, m².
    pub area: f64,
    /// Shares of field, recess and edge.
    pub places: ByPlace<f64>,
    /// Its parts, with a natural break between any two.
    pub parts: Vec<PartSize>,
    /// Length of taped edge, m.
    pub taped: f64,
    /// The ground as found.
    pub ground: GroundKind,
    /// What must be mended first.
    pub repairs: BTreeSet<Repair>,
    /// Layers, lowest first.
    pub layers: Vec<LayerWork>,
    /// Ageing on top.
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
    /// False of a part that stays as it is.
    pub fn is_painted(&self) -> bool {
        !self.layers.is_empty() || !self.ages.is_empty()
    }

    /// Share of recess and edge in excess of a flat board: 0 flat, about 0.6 carved all over.
    pub fn relief(&self) -> f64 {
        let raised = |places: &ByPlace<f64>| places.at(Place::Recess) + places.at(Place::Edge);
        (raised(&self.places) - raised(&FLAT)).max(0.0)
    }
}

impl LayerWork {
    /// All of its passes as one.
    fn at_once(&self) -> Laid {
        Laid { technique: self.technique, pot: self.pot.clone(), hand: self.hand, coat: (1, 1) }
    }

    /// True if it keeps tannin and old stain from bleeding through.
    pub fn blocks_stains(&self, tins: Tins) -> bool {
        self.at_once().contents(tins).blocks_stains()
    }

    /// Single coats if each dries before the next; otherwise everything at once.
    pub fn coats(&self, tins: Tins) -> Vec<Laid> {
        let passes = self.hand.passes.value();
        let whole = self.at_once();
        if passes == 1 || !whole.dries_between_passes(tins) {
            return vec![whole];
        }
        let once = Application { passes: Application::default().passes, ..self.hand };
        (1..=passes).map(|coat| Laid { hand: once, coat: (coat, passes), ..whole.clone() }).collect()
    }
}

impl Work {
    /// Layers that it lays: one, several worked wet, or none.
    pub fn layers(&self) -> &[Laid] {
        match self {
            Work::Layer(laid) => std::slice::from_ref(laid),
            Work::Wet(layers) => layers,
            _ => &[],
        }
    }

    /// The first layer that it lays, if any.
    pub fn laid(&self) -> Option<&Laid> {
        self.layers().first()
    }

    /// The technique that determines its pace; for layers worked wet the last, which is worked into the others.
    pub fn technique(&self) -> Option<Technique> {
        self.layers().last().map(|laid| laid.technique)
    }

    /// True if it leaves something on the piece or wears what lies there.
    pub fn lies(&self) -> bool {
        matches!(self, Work::Layer(_) | Work::Wet(_) | Work::Age(_))
    }

    /// True if it contains wax or metallic wax, to which only wax sticks.
    pub fn is_waxy(&self, tins: Tins) -> bool {
        self.layers().iter().any(|laid| laid.is_waxy(tins))
    }

    /// True if it prepares the ground.
    pub const fn prepares(&self) -> bool {
        matches!(
            self,
            Work::LeadTest
                | Work::Dewax
                | Work::Strip
                | Work::Clean
                | Work::Rinse
                | Work::GlueDown
                | Work::Fill
                | Work::SandFlush
                | Work::Drill
                | Work::BlockStains
                | Work::Soak
                | Work::Polish
                | Work::Deglaze
                | Work::Scuff
        )
    }
}

impl Laid {
    /// Contents of the pot, or the usual product of a technique that needs none.
    pub fn contents(&self, tins: Tins) -> Contents {
        if self.pot.is_empty() {
            return self.technique.product().into();
        }
        let part = |part: &MixPart| Some((tins(part.paint)?, f64::from(part.parts.value())));
        self.pot.iter().filter_map(part).collect()
    }

    /// True of wax, clear or tinted, of anything that contains wax, and of gilding.
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

    /// True if it stays wet long enough for something to be worked into it.
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
    /// True of wax that is buffed; gilding wax is not.
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
            repairs: BTreeSet::new(),
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
