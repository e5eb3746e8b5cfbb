//! The care card for a client: the first month, cleaning and touching up. Common practice†.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::Class;

use crate::{Tins, Work};

/// Care instructions for the layers on a piece, by zone and from the ground up; empty for an unfinished piece. The
/// outermost layer of each zone decides.
pub fn care_card<'a>(zones: impl Iterator<Item = Vec<&'a Work>>, tins: Tins) -> Vec<&'static str> {
    let zones: Vec<Vec<&Work>> = zones.filter(|works| works.iter().any(|work| work.lies())).collect();
    if zones.is_empty() {
        return Vec::new();
    }
    let outermost: Vec<Outside> = zones.iter().map(|works| Outside::of(works, tins)).collect();
    let any = |outside: Outside| outermost.contains(&outside);
    let (waxed, coated, open) = (any(Outside::Wax), any(Outside::ClearCoat), any(Outside::Paint));
    let several = usize::from(waxed) + usize::from(coated) + usize::from(open) > 1;
    let metal = zones
        .iter()
        .flatten()
        .flat_map(|work| work.layers())
        .any(|laid| laid.technique.family() == Family::Gild || laid.contents(tins).has(Class::Metallic));
    let mut card = vec![
        "Put nothing heavy, hot or wet on it for a month. It dries in a day but takes up to 30 days to harden.",
    ];
    if waxed {
        card.push(if several {
            "Where it is waxed, dust it with a soft dry cloth. Wipe a wet ring off at once: wax turns white under water."
        } else {
            "Dust with a soft dry cloth. Wipe off water at once: it turns wax white."
        });
        card.push("Once or twice a year, put on a little clear wax and buff it the next day.");
    }
    if coated {
        card.push(if several {
            "Where it has a clear coat, wipe it with a damp cloth and a drop of mild soap; nothing that scours, no solvents."
        } else {
            "Wipe with a damp cloth and a drop of mild soap. No scourers or solvents."
        });
    }
    if open {
        card.push(if several {
            "Where its paint is matt and open, dust it only: water and hands leave marks."
        } else {
            "The paint is matt and unsealed: dust only. Water and hands leave marks."
        });
    }
    if metal {
        card.push("Never polish the metallic areas: the metal rubs off.");
    }
    if waxed || metal {
        card.push("Not for food, cots or toys: wax and metal are decorative only.");
    }
    card.push("Touch up scratches with the same mixes, layer by layer, dabbed on nearly dry. We have the recipes on record.");
    card
}

/// What a zone has outermost.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Outside {
    Wax,
    ClearCoat,
    Paint,
}

impl Outside {
    /// Of works from the ground up. Broken layers, metal and wear leave what lies below them in the open.
    fn of(works: &[&Work], tins: Tins) -> Self {
        let layers = works.iter().flat_map(|work| work.layers());
        let closed = |technique: Technique| {
            !technique.takes_away() && !matches!(technique.family(), Family::Gild | Family::Broken)
        };
        let mut outside = Outside::Paint;
        for laid in layers {
            outside = match laid.technique {
                _ if laid.is_waxy(tins) && laid.technique.family() != Family::Gild => Outside::Wax,
                // It is worked into its wax, which stays outermost.
                Technique::WetWaxResist => Outside::Wax,
                _ if laid.contents(tins).is_mostly(|product| product.class == Class::ClearCoat) => {
                    Outside::ClearCoat
                }
                technique if closed(technique) => Outside::Paint,
                _ => outside,
            };
        }
        outside
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{chalk, layer, zone};
    use crate::{LayerWork, wanted};
    use warm_blend_piece::Zone;

    fn card(zones: &[Vec<LayerWork>]) -> String {
        let all: Vec<Vec<Work>> =
            zones.iter().map(|layers| wanted(&zone(Zone::Case, 1.0, layers.clone()), true, &chalk)).collect();
        care_card(all.iter().map(|works| works.iter().collect()), &chalk).join(" ")
    }

    #[test]
    fn it_says_what_is_on_the_piece() {
        use Technique::{BrushedCoat, ClearCoat, ClearWax, Gilding, WetWaxResist};
        let base = || layer(BrushedCoat, 1, 2);
        let waxed = card(&[vec![base(), layer(ClearWax, 0, 1), layer(Gilding, 2, 1)]]);
        assert!(waxed.contains("wax white") && waxed.contains("Never polish") && waxed.contains("cots"));
        let coated = card(&[vec![base(), layer(ClearCoat, 0, 1)]]);
        assert!(coated.contains("mild soap") && !coated.contains("wax white") && !coated.contains("cots"));
        assert!(card(&[vec![base()]]).contains("matt and unsealed"));
        assert!(card(&[vec![base(), layer(WetWaxResist, 2, 1)]]).contains("wax white"));
        assert_eq!(card(&[]), "");
    }

    /// The outermost layer counts, zone by zone: a waxed case with a clear-coated top needs both, and a seal between layers is no finish.
    #[test]
    fn the_outermost_layer_counts() {
        use Technique::{BrushedCoat, ClearCoat, ClearWax, GlazeWiped};
        let base = || layer(BrushedCoat, 1, 2);
        let both = card(&[vec![base(), layer(ClearWax, 0, 1)], vec![base(), layer(ClearCoat, 0, 1)]]);
        assert!(both.contains("Where it is waxed") && both.contains("Where it has a clear coat"), "{both}");
        let sealed_between = card(&[vec![base(), layer(ClearCoat, 0, 1), layer(GlazeWiped, 2, 1)]]);
        assert!(sealed_between.contains("matt and unsealed") && !sealed_between.contains("mild soap"));
    }
}
