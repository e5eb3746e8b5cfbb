//! What a finish cannot wait for if work stops for a week (common practice†).

use crate::Work;

/// What must be repeated, or done first, if `last` was done on a zone and `next` follows a week later; `None` if it can
/// wait.
pub fn if_it_stays(last: &Work, next: &Work) -> Option<&'static str> {
    match (last, next) {
        (Work::Tape, _) => Some("replace the tape: old tape tears and lifts paint"),
        (Work::Deglaze, _) => Some("degloss again just before painting"),
        (
            Work::Dewax
            | Work::Strip
            | Work::Clean
            | Work::Rinse
            | Work::SandFlush
            | Work::Drill
            | Work::BlockStains
            | Work::Scuff
            | Work::ScuffBack
            | Work::WaxOff,
            _,
        ) => Some("wipe down again before painting: dust and finger marks"),
        (work, Work::Buff) if work.needs_buffing() => {
            Some("buff the wax before you leave it: set wax won’t polish")
        }
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{chalk, layer, zone};
    use warm_blend_board::Technique::{BrushedCoat, ClearWax};
    use warm_blend_piece::Zone;

    #[test]
    fn a_dry_coat_may_wait_and_what_was_prepared_may_not() {
        let layers = vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1)];
        let taped = crate::ZoneWork { taped: 1.0, ..zone(Zone::Case, 1.0, layers) };
        let all = crate::wanted(&taped, false, &chalk);
        let shown: Vec<bool> = all.windows(2).map(|two| if_it_stays(&two[0], &two[1]).is_some()).collect();
        // Clean, rinse, deglaze, tape, two coats, tape off, wax, buff, rest.
        assert_eq!(shown, [true, true, true, true, false, false, false, true, false], "{all:?}");
        let wax = Work::Layer(layer(ClearWax, 0, 1).coats(&chalk).remove(0));
        assert!(if_it_stays(&wax, &Work::Buff).is_some());
    }
}
