//! What has to be done to a ground before anything is painted on it (common practice†).
//!
//! | ground | preparation |
//! |---|---|
//! | raw wood | clean, rinse, sand along the grain |
//! | stained, varnished | clean, rinse, take the gloss off |
//! | waxed | take the old wax off, clean, rinse, sand |
//! | old paint, painted metal | test for lead, clean, rinse, sand |
//! | laminate, polished metal | clean, rinse, sand so that primer grips |
//! | primed | nothing |

use warm_blend_board::GroundKind;

use crate::Work;

/// What a ground needs, in its order.
pub fn preparation(ground: GroundKind) -> Vec<Work> {
    let mut all = Vec::new();
    if ground.may_hold_lead() {
        all.push(Work::LeadTest);
    }
    if ground == GroundKind::OldWax {
        all.push(Work::Dewax);
    }
    if !ground.is_primed() {
        all.extend([Work::Clean, Work::Rinse]);
        all.push(if ground.is_glossy() { Work::Deglaze } else { Work::Scuff });
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Nothing is sanded before the lead test, nothing is cleaned before old wax is off, and only a primed card needs nothing.
    #[test]
    fn each_ground_in_its_order() {
        for ground in GroundKind::ALL {
            let all = preparation(ground);
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
        assert_eq!(preparation(GroundKind::OldWax)[0], Work::Dewax);
        assert!(preparation(GroundKind::PaintedMetal).contains(&Work::LeadTest));
    }
}
