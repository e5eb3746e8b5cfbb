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

use warm_blend_board::GroundKind;

use crate::Work;

/// Preparation of a ground, in order.
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
