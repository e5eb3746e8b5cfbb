//! Cautions for people, at the layer where they apply.
//!
//! Each names its published source; “common practice” means that none is cited. Local rules and licensed practice take
//! precedence.

use warm_blend_paint::{Class, Contents, PaintId, Product};

use super::{Board, Family, GroundKind, KnownTin, LayerId, Letter, Technique};

/// A caution at a layer of a strip.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Caution {
    /// The layer at which it stands.
    pub layer: LayerId,
    /// The caution.
    pub care: TakeCare,
}

const LEAD: &str = "Old paint may contain lead. Test before sanding or stripping. If it does, stop, follow local rules and use a licensed contractor.";
const LEAD_SOURCE: &str = "US EPA, Renovation, Repair and Painting rule, 40 CFR Part 745 (before 1978 in the US; other \
                           countries have their own)";
const DUST: &str = "Wet-sand or use dust extraction, and wear a dust respirator. Never sweep dry.";
const DUST_SOURCE: &str = "29 CFR 1910.134 on respirators; local rules come first";
const RAGS: &str = "Rags with oil, oil stain or some waxes self-ignite. Dry them flat outdoors, or keep them under water in a lidded metal can.";
const RAGS_SOURCE: &str = "NFPA 921 on self-heating, from memory; follow the tin";
const SOLVENT: &str = "Wax, stain and shellac contain solvent: open windows, no flames, wear gloves.";
const POWDER: &str = "Don’t breathe in metal powder: wear a respirator, stir it in slowly, out of draughts.";
const FOOD: &str =
    "No decorative wax or metal on food surfaces, cots or toys, unless the product is rated for it.";
const FOOD_SOURCE: &str = "EN 71-3 on migration from toys (from memory); local rules come first";
const PRACTICE: &str = "common practice";

/// Cautions of a strip, from the ground up; each one once, at the first layer where it applies.
pub fn cautions<'a>(
    board: &Board,
    letter: Letter,
    tin: impl Fn(PaintId) -> Option<KnownTin<'a>>,
) -> Vec<Caution> {
    let mut said: Vec<Caution> = Vec::new();
    for layer in board.layers(letter).into_iter().filter(|layer| !layer.muted) {
        for care in cautions_of(layer.technique, &layer.contents(&tin), board.ground.kind) {
            if said.iter().all(|caution| caution.care != care) {
                said.push(Caution { layer: layer.id, care });
            }
        }
    }
    said
}

/// A caution, independent of where it applies.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TakeCare {
    /// What to do and what to avoid.
    pub words: &'static str,
    /// Short form, used where the full text stands elsewhere.
    pub short: &'static str,
    /// True if a board never shortens it.
    pub grave: bool,
    /// Published source, or `common practice`.
    pub source: &'static str,
}

impl TakeCare {
    /// Old paint may contain lead.
    pub const LEAD: Self =
        Self { words: LEAD, short: "lead: test before sanding", grave: true, source: LEAD_SOURCE };
    /// Sanding dust.
    pub const DUST: Self =
        Self { words: DUST, short: "dust: wet-sand, wear a respirator", grave: false, source: DUST_SOURCE };
    /// Rags soaked with oil heat up and can catch fire.
    pub const RAGS: Self = Self {
        words: RAGS,
        short: "rags self-ignite: dry flat outdoors, or in the can of water",
        grave: false,
        source: RAGS_SOURCE,
    };
    /// Solvents.
    pub const SOLVENT: Self = Self {
        words: SOLVENT,
        short: "solvent: windows open, no flames, gloves",
        grave: false,
        source: PRACTICE,
    };
    /// Metal powders.
    pub const POWDER: Self =
        Self { words: POWDER, short: "metal powder: respirator, no draught", grave: false, source: PRACTICE };
    /// Surfaces that touch food, cots and toys.
    pub const FOOD: Self =
        Self { words: FOOD, short: "not on food surfaces, cots or toys", grave: false, source: FOOD_SOURCE };
}

/// Cautions for a technique with this pot over this ground. What the tin itself states takes precedence over its class.
pub fn cautions_of(technique: Technique, contents: &Contents, ground: GroundKind) -> Vec<TakeCare> {
    // A resist is worked into wax, whatever its own pot contains.
    let on_wax = technique == Technique::WetWaxResist;
    let solvent = contents.share(Product::is_solvent_borne) > 0.0 || on_wax;
    let oily = |product: &Product| product.is_solvent_borne() && product.class != Class::Shellac;
    let mut of = Vec::new();
    if technique.family() == Family::Wear {
        if ground.may_hold_lead() {
            of.push(TakeCare::LEAD);
        }
        of.push(TakeCare::DUST);
    }
    if contents.share(oily) > 0.0 || on_wax {
        of.push(TakeCare::RAGS);
    }
    if solvent {
        of.push(TakeCare::SOLVENT);
    }
    if contents.has(Class::Metallic) {
        of.push(TakeCare::POWDER);
    }
    if contents.has(Class::Metallic) || matches!(technique.family(), Family::Wax | Family::Gild) {
        of.push(TakeCare::FOOD);
    }
    of
}
