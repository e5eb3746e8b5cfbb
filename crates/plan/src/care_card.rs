//! What a client is told: how to live with the piece in its first month, how to clean it, how it is touched up. Common practice†.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::{Class, PaintId};

use crate::{Laid, Work};

/// The card for what lies on a piece, by what `class` says of tins; nothing where nothing does.
pub fn care_card<'a>(
    laid_on: impl Iterator<Item = &'a Work>,
    class: impl Fn(PaintId) -> Option<Class>,
) -> Vec<&'static str> {
    let laid: Vec<&Laid> = laid_on.filter_map(Work::laid).collect();
    if laid.is_empty() {
        return Vec::new();
    }
    let any = |of: &dyn Fn(&Laid) -> bool| laid.iter().any(|laid| of(laid));
    let waxed = any(&Laid::is_waxy);
    let coated = any(&|laid| laid.technique == Technique::ClearCoat);
    let metal = any(&|laid| {
        laid.technique.family() == Family::Gild
            || laid.inside(&class).iter().any(|(class, _)| *class == Class::Metallic)
    });
    let mut card = vec![
        "For a month nothing heavy, hot or wet on it: paint and wax are dry in a day and hard only in up to thirty.",
    ];
    if waxed {
        card.push("Dust it with a soft dry cloth. Wipe a wet ring off at once: wax turns white under water.");
        card.push("Once or twice a year a little clear wax, buffed the next day, feeds the finish.");
    } else if coated {
        card.push("Wipe it with a damp cloth and a drop of mild soap; nothing that scours, no solvents.");
    } else {
        card.push("Its paint is matt and open: dust it only, water and hands leave marks.");
    }
    if metal {
        card.push("Never polish the metal: it comes off.");
    }
    if waxed || metal {
        card.push("Not for food, cots or toys: wax and metal are decoration.");
    }
    card.push("A scratch is touched up with the same pots, layer by layer, dabbed on nearly dry: what was used is on record.");
    card
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::wanted;
    use crate::work::tests::{layer, zone};
    use warm_blend_piece::Zone;

    fn card(layers: Vec<crate::LayerWork>) -> String {
        let all = wanted(&zone(Zone::Case, 1.0, layers), true, false);
        care_card(all.iter(), |_| Some(Class::Chalk)).join(" ")
    }

    #[test]
    fn it_says_what_is_on_the_piece() {
        use Technique::{BrushedCoat, ClearCoat, ClearWax, Gilding};
        let waxed = card(vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1), layer(Gilding, 2, 1)]);
        assert!(
            waxed.contains("white under water") && waxed.contains("Never polish") && waxed.contains("cots")
        );
        let coated = card(vec![layer(BrushedCoat, 1, 2), layer(ClearCoat, 0, 1)]);
        assert!(
            coated.contains("mild soap") && !coated.contains("wax turns white") && !coated.contains("cots")
        );
        assert!(card(vec![layer(BrushedCoat, 1, 2)]).contains("matt and open"));
        assert_eq!(card(Vec::new()), "");
    }
}
