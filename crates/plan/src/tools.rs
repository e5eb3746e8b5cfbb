//! Brushes and cloths: one brush for each colour, or the second colour picks up the first (common practice†).

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
    let brushed = |t: Technique| {
        matches!(
            t,
            Technique::BrushedCoat | Technique::ClearCoat | Technique::WetBlend | Technique::MeshedGlaze
        ) || matches!(t.family(), Family::Wash | Family::Stain)
    };
    let mut all = Vec::new();
    let mut need = |name, count: usize, why| {
        if count > 0 {
            all.push(Tool { name, count: Some(count), why });
        }
    };
    need("Flat brushes", pots(&brushed), "one per colour: a shared brush mixes them");
    need("Rollers and trays", pots(&|t| t == Technique::RolledCoat), "one per colour");
    need("Cheap brushes", pots(&|t| t == Technique::TextureCoat), "texture ruins them");
    need(
        "Wide soft brushes for dry brushing",
        pots(&|t| t == Technique::DryBrush),
        "one per colour; keep it dry",
    );
    need("Stencil brushes", pots(&|t| t == Technique::Stencil), "almost no paint on them");
    need("Putty knives", pots(&|t| t == Technique::KnifeFlecks), "one per extra colour");
    need("Wax brushes", pots(&is_wax), "one per tint: dark wax never washes out");
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

    #[test]
    fn one_brush_a_colour_and_a_can_for_the_rags() {
        use Technique::{BrushedCoat, ClearWax, DryBrush, TintedWax};
        let layers = vec![
            layer(BrushedCoat, 1, 2),
            layer(BrushedCoat, 2, 1),
            layer(DryBrush, 3, 1),
            layer(ClearWax, 0, 1),
            layer(TintedWax, 4, 1),
        ];
        let zones = [zone(Zone::Case, 1.0, layers)];
        let left = [wanted(&zones[0], false, &chalk)];
        let all = tools(&steps(&zones, &left, &chalk, Air::default()), &chalk);
        let count =
            |name: &str| all.iter().find(|tool| tool.name.starts_with(name)).and_then(|tool| tool.count);
        assert_eq!((count("Flat brushes"), count("Wide soft"), count("Wax")), (Some(2), Some(1), Some(2)));
        assert_eq!(count("Cheap"), None);
        assert!(all.iter().any(|tool| tool.name.contains("metal can")));
    }
}
