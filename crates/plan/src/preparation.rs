//! Preparation of a ground before painting (common practice†).
//!
//! | ground | preparation |
//! |---|---|
//! | raw wood | wash, rinse, sand along the grain |
//! | stained, varnished | wash, rinse, dull the gloss |
//! | waxed | remove old wax, wash, rinse, sand |
//! | old paint, painted metal | test for lead, wash, rinse, sand |
//! | laminate, polished metal | wash, rinse, sand so that primer sticks |
//! | primed | nothing |
//!
//! Repairs come where they belong: stripping after the lead test and before anything is washed, gluing and filling on the clean wood, filler
//! is sanded flush once it is hard. What was stripped has no gloss left to dull, and is sanded.

use std::collections::BTreeSet;

use warm_blend_board::GroundKind;
use warm_blend_piece::Repair;

use crate::Work;

/// Preparation of a ground with its repairs, in order.
pub fn preparation(ground: GroundKind, repairs: &BTreeSet<Repair>) -> Vec<Work> {
    let (strips, glues, fills) = {
        let has = |repair| repairs.contains(&repair);
        (has(Repair::Strip), has(Repair::LooseVeneer), has(Repair::Fill))
    };
    // Nobody knows what lies below an old finish.
    let lead = ground.may_hold_lead() || strips && !ground.is_raw_wood();
    let washes = !ground.is_primed() || strips;
    let dulls = ground.is_glossy() && !strips;
    let steps = [
        (lead, Work::LeadTest),
        (ground == GroundKind::OldWax, Work::Dewax),
        (strips, Work::Strip),
        (washes, Work::Clean),
        (washes, Work::Rinse),
        (glues, Work::GlueDown),
        (fills, Work::Fill),
        (fills, Work::SandFlush),
        (washes && dulls, Work::Deglaze),
        (washes && !dulls, Work::Scuff),
    ];
    steps.into_iter().filter(|(needed, _)| *needed).map(|(_, work)| work).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Whatever the ground and the repairs: lead first, nothing is washed before it is stripped or glued before it is clean, filler is sanded
    /// after it was filled, and sanding is last.
    #[test]
    fn repairs_come_where_they_belong() {
        for ground in GroundKind::ALL {
            for which in 0..8u8 {
                let chosen = Repair::ALL.into_iter().enumerate().filter(|(n, _)| which & (1 << n) != 0);
                let repairs: BTreeSet<Repair> = chosen.map(|(_, repair)| repair).collect();
                let all = preparation(ground, &repairs);
                let at = |work| all.iter().position(|one| *one == work);
                assert_eq!(at(Work::Strip).is_some(), repairs.contains(&Repair::Strip));
                assert_eq!(at(Work::GlueDown).is_some(), repairs.contains(&Repair::LooseVeneer));
                let fills = repairs.contains(&Repair::Fill);
                assert_eq!((at(Work::Fill).is_some(), at(Work::SandFlush).is_some()), (fills, fills));
                if at(Work::Strip).is_some() && !ground.is_raw_wood() {
                    assert_eq!(at(Work::LeadTest), Some(0), "{ground:?}");
                }
                let order = [
                    Work::LeadTest,
                    Work::Dewax,
                    Work::Strip,
                    Work::Clean,
                    Work::Rinse,
                    Work::GlueDown,
                    Work::Fill,
                    Work::SandFlush,
                    Work::Deglaze,
                    Work::Scuff,
                ];
                let places: Vec<usize> = order.into_iter().filter_map(at).collect();
                assert!(places.is_sorted() && places.len() == all.len(), "{ground:?}: {all:?}");
                assert!(at(Work::Strip).is_none() || at(Work::Deglaze).is_none());
            }
        }
    }

    /// Nothing is sanded before the lead test, nothing is cleaned before old wax is off, and only a primed card needs nothing.
    #[test]
    fn each_ground_in_its_order() {
        for ground in GroundKind::ALL {
            let all = preparation(ground, &BTreeSet::new());
            let at = |work| all.iter().position(|one| *one == work);
            assert_eq!(all.is_empty(), ground.is_primed(), "{ground:?}");
            if ground.may_hold_lead() {
                assert_eq!(at(Work::LeadTest), Some(0), "{ground:?}");
            }
            if !ground.is_primed() {
                assert!(at(Work::Clean) < at(Work::Rinse));
                assert!(at(Work::Dewax).is_none_or(|dewax| Some(dewax) < at(Work::Clean)));
                assert!(at(Work::Deglaze).is_some() != at(Work::Scuff).is_some(), "one of both: {ground:?}");
            }
        }
        assert_eq!(preparation(GroundKind::OldWax, &BTreeSet::new())[0], Work::Dewax);
        assert!(preparation(GroundKind::PaintedMetal, &BTreeSet::new()).contains(&Work::LeadTest));
    }
}
