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
//! is sanded flush once it is hard, and holes are drilled through it; what bleeds is blocked on the sanded wood. What was stripped has no
//! gloss left to dull, and is sanded. Hardware is soaked rather than washed, and polished last. A part that stays as it is gets its repairs
//! alone.

use std::collections::BTreeSet;

use warm_blend_board::GroundKind;
use warm_blend_piece::Repair;

use crate::Work;

/// Preparation of a ground with its repairs, in order; `paints` is false for a part that stays as it is.
pub fn preparation(ground: GroundKind, repairs: &BTreeSet<Repair>, paints: bool) -> Vec<Work> {
    let has = |repair| repairs.contains(&repair);
    let (strips, soaks) = (has(Repair::Strip), has(Repair::Soak));
    let fills = has(Repair::Fill) || has(Repair::NewPulls);
    // Nobody knows what lies below an old finish.
    let disturbs = paints || strips || soaks || fills;
    let lead = disturbs && (ground.may_hold_lead() || strips && !ground.is_raw_wood());
    let washes = paints && (!ground.is_primed() || strips);
    let dulls = ground.is_glossy() && !strips;
    let steps = [
        (lead, Work::LeadTest),
        (paints && ground == GroundKind::OldWax, Work::Dewax),
        (soaks, Work::Soak),
        (strips, Work::Strip),
        (washes && !soaks, Work::Clean),
        (washes || soaks, Work::Rinse),
        (has(Repair::LooseVeneer), Work::GlueDown),
        (fills, Work::Fill),
        (fills, Work::SandFlush),
        (has(Repair::NewPulls), Work::Drill),
        (washes && dulls, Work::Deglaze),
        (washes && !dulls, Work::Scuff),
        (paints && has(Repair::Bleeds), Work::BlockStains),
        (has(Repair::Polish), Work::Polish),
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
            for which in 0..1u8 << Repair::ALL.len() {
                let chosen = Repair::ALL.into_iter().enumerate().filter(|(n, _)| which & (1 << n) != 0);
                let repairs: BTreeSet<Repair> = chosen.map(|(_, repair)| repair).collect();
                let all = preparation(ground, &repairs, true);
                let at = |work| all.iter().position(|one| *one == work);
                let asked = [
                    (Work::Strip, Repair::Strip),
                    (Work::GlueDown, Repair::LooseVeneer),
                    (Work::Drill, Repair::NewPulls),
                    (Work::BlockStains, Repair::Bleeds),
                    (Work::Soak, Repair::Soak),
                    (Work::Polish, Repair::Polish),
                ];
                for (work, repair) in asked {
                    assert_eq!(at(work).is_some(), repairs.contains(&repair), "{repair:?}");
                }
                let fills = repairs.contains(&Repair::Fill) || repairs.contains(&Repair::NewPulls);
                // A part that is not painted gets nothing but its repairs, the lead test before them, and rinses what was soaked.
                let alone = preparation(ground, &repairs, false);
                assert!(
                    alone.iter().all(|work| all.contains(work))
                        && alone.is_empty() == repairs.iter().all(|r| *r == Repair::Bleeds)
                );
                let washed = [Work::Clean, Work::Deglaze, Work::Scuff, Work::Dewax];
                assert!(washed.iter().all(|work| !alone.contains(work)));
                assert_eq!((at(Work::Fill).is_some(), at(Work::SandFlush).is_some()), (fills, fills));
                if at(Work::Strip).is_some() && !ground.is_raw_wood() {
                    assert_eq!(at(Work::LeadTest), Some(0), "{ground:?}");
                }
                let order = [
                    Work::LeadTest,
                    Work::Dewax,
                    Work::Soak,
                    Work::Strip,
                    Work::Clean,
                    Work::Rinse,
                    Work::GlueDown,
                    Work::Fill,
                    Work::SandFlush,
                    Work::Drill,
                    Work::Deglaze,
                    Work::Scuff,
                    Work::BlockStains,
                    Work::Polish,
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
            let all = preparation(ground, &BTreeSet::new(), true);
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
        assert_eq!(preparation(GroundKind::OldWax, &BTreeSet::new(), true)[0], Work::Dewax);
        assert!(preparation(GroundKind::PaintedMetal, &BTreeSet::new(), true).contains(&Work::LeadTest));
    }
}
