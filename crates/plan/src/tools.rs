//! Tools besides brushes, of which each day has its own list.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::MixPart;

use crate::{Laid, Step, Tins, Work, work::is_wax};

/// A kind of tool, its number and the reason.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Tool {
    /// `Flat brushes` …
    pub name: &'static str,
    /// Number; `None` if any will do.
    pub count: Option<usize>,
    /// Reason or advice.
    pub why: &'static str,
}

/// Tools for some steps.
pub fn tools(steps: &[Step], tins: Tins) -> Vec<Tool> {
    let laid: Vec<_> = steps.iter().flat_map(|step| step.work.layers()).collect();
    let pots = |of: &dyn Fn(Technique) -> bool| {
        let mut pots: Vec<&Vec<MixPart>> = Vec::new();
        for laid in laid.iter().filter(|laid| of(laid.technique)) {
            if !pots.contains(&&laid.pot) {
                pots.push(&laid.pot);
            }
        }
        pots.len()
    };
    let any = |of: &dyn Fn(Technique) -> bool| laid.iter().any(|laid| of(laid.technique));
    let mut all = Vec::new();
    let mut need = |name, count: usize, why| {
        if count > 0 {
            all.push(Tool { name, count: Some(count), why });
        }
    };
    need(
        "Cheap brushes",
        pots(&|t| t == Technique::TextureCoat),
        "texture ruins them; worn-out flat brushes will do",
    );
    need("Putty knives", pots(&|t| t == Technique::KnifeFlecks), "one per extra colour");
    need(
        "Pointed round brushes",
        pots(&|t| t == Technique::Freehand),
        "one per colour, each with a good point",
    );
    need("Fan brush", usize::from(any(&|t| t == Technique::Gilding)), "or a fingertip");
    need("Stippler", usize::from(any(&|t| t == Technique::GlazeStippled)), "wipe it dry as you go");
    let worked =
        |t: Technique| matches!(t.family(), Family::Glaze | Family::Wash | Family::Blend | Family::Stain);
    need("Mister with clean water", usize::from(any(&worked)), "re-wets paint that drags");
    let mut have = |name, there: bool, why| {
        if there {
            all.push(Tool { name, count: None, why });
        }
    };
    let wiped = |t: Technique| t.is_wiped() || matches!(t.family(), Family::Wash | Family::Glaze);
    have("Lint-free cloths", any(&wiped) || any(&is_wax), "turn them often; damp for glaze, dry for wax");
    have(
        "Sandpaper, 100 to 320",
        any(&|t| t.family() == Family::Wear || t == Technique::BrushedCoat),
        "fine between coats, coarse to show wood",
    );
    let does = |work: &Work| steps.iter().any(|step| step.work == *work);
    have("Stripper, scraper and fine steel wool", does(&Work::Strip), "no heat gun: it makes lead fumes");
    have("Wood glue, clamps and baking paper", does(&Work::GlueDown), "paper keeps the clamp from sticking");
    have("Filler and a filling knife", does(&Work::Fill), "fill a little proud: it shrinks");
    have(
        "A drill and a drilling template",
        does(&Work::Drill),
        "drill from the front, over tape: the veneer stays whole",
    );
    have("Stain-blocking shellac", does(&Work::BlockStains), "two thin coats on knots and stains");
    have("A lidded tub and an old toothbrush", does(&Work::Soak), "hot water with a little soap, overnight");
    have(
        "Metal polish and fine steel wool",
        does(&Work::Polish),
        "wash the polish off, or paint won’t stick",
    );
    let solvent = laid.iter().any(|laid| laid.contents(tins).is_solvent_borne());
    let oily = solvent || laid.iter().any(|laid| laid.contents(tins).has_wax()) || any(&is_wax);
    let oil_paint = |laid: &&Laid| laid.contents(tins).share(|product| product.class.is_oil_paint()) > 0.0;
    have(
        "Mineral spirits",
        laid.iter().any(oil_paint),
        "thins oil-based paint and cleans its brushes; gloves, windows open",
    );
    have(
        "Lidded metal can of water",
        oily,
        "for wax and oil rags, or dry them flat outdoors: in a heap they self-ignite",
    );
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{chalk, layer, zone};
    use crate::{Air, steps, wanted};
    use warm_blend_piece::Zone;

    /// Waxed and oily rags go into a can of water; worn-out brushes will do for texture.
    #[test]
    fn a_can_for_the_rags() {
        use Technique::{BrushedCoat, ClearWax, TextureCoat};
        let tools_for = |layers| {
            let zones = [zone(Zone::Case, 1.0, layers)];
            let left = [wanted(&zones[0], false, &chalk)];
            tools(&steps(&zones, &left, &chalk, Air::default()), &chalk)
        };
        let has = |all: &[Tool], name: &str| all.iter().any(|tool| tool.name.contains(name));
        let waxed = tools_for(vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1)]);
        assert!(has(&waxed, "metal can") && !has(&waxed, "Cheap"));
        let rough = tools_for(vec![layer(TextureCoat, 1, 1)]);
        assert!(has(&rough, "Cheap") && !has(&rough, "metal can"));
    }
}
