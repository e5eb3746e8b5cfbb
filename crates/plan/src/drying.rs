//! How long what was done must be left alone before what comes next.
//!
//! | what was put on | touch-dry | next layer |
//! |---|---|---|
//! | chalk- and clay-type paint | 20 min | 1½ h |
//! | mineral paint, primer for a light coat, clear coat | 30–60 min | 2 h |
//! | satin latex | 1 h | 4 h |
//! | liquid metallic | 10 min | 10 min |
//! | pigmented shellac | 15 min | 45 min |
//! | primer, texture, thick knife work, heavy washes, water-based glaze | 1–2 h | overnight |
//! | gel stain | 4 h | a day |
//! | washes, dry brush | minutes | 20, 5 min |
//! | wax | 30 min | overnight, then buff; a day until it is moved |
//!
//! Common practice† at 20 °C and 50 %; what a tin says goes first in a workshop, and [`Air`] stretches all of it.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::Class;

use crate::{Air, Laid, Work};

const OVERNIGHT: f64 = 12.0 * 60.0;
const DAY: f64 = 24.0 * 60.0;

/// How a layer dries, minutes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Drying {
    /// Until it can be touched.
    pub touch: f64,
    /// Until the next layer.
    pub next: f64,
}

impl Drying {
    /// Of a layer with so much of each class in its pot, at 20 °C and 50 %.
    pub fn of(laid: &Laid, inside: &[(Class, f64)]) -> Self {
        let of = |touch, next| Self { touch, next };
        match laid.technique {
            Technique::TextureCoat | Technique::KnifeFlecks | Technique::WashDripped => {
                return of(120.0, OVERNIGHT);
            }
            Technique::DryBrush | Technique::Speckle | Technique::Stencil => return of(5.0, 5.0),
            Technique::SandBack | Technique::WetDistress => return of(0.0, 10.0),
            Technique::MetallicWash => return of(10.0, 10.0),
            Technique::WetWaxResist => return of(60.0, OVERNIGHT),
            _ => {}
        }
        match laid.technique.family() {
            Family::Glaze => of(60.0, OVERNIGHT),
            Family::Blend if inside.iter().any(|(class, _)| *class == Class::GlazingLiquid) => {
                of(60.0, OVERNIGHT)
            }
            Family::Wash => of(10.0, 20.0),
            Family::Wax | Family::Gild => of(30.0, OVERNIGHT),
            _ => Self::of_class(most(inside)),
        }
    }

    fn of_class(class: Option<Class>) -> Self {
        let of = |touch, next| Self { touch, next };
        match class {
            Some(Class::ClearWax) => of(30.0, OVERNIGHT),
            Some(Class::Mineral) => of(30.0, 120.0),
            Some(Class::LatexSatin) => of(60.0, 240.0),
            Some(Class::AcrylicCraft) => of(20.0, 60.0),
            Some(Class::Metallic | Class::Pearl) => of(10.0, 10.0),
            Some(Class::Primer) => of(60.0, OVERNIGHT),
            Some(Class::Shellac) => of(15.0, 45.0),
            Some(Class::GelStain) => of(240.0, DAY),
            Some(Class::GlazingLiquid | Class::Scumble | Class::Extender) => of(60.0, OVERNIGHT),
            Some(Class::ClearCoat) => of(45.0, 120.0),
            Some(Class::Chalk | Class::Clay | Class::TexturePowder | Class::Water) | None => of(20.0, 90.0),
        }
    }
}

/// The class of which there is most; of equals the first.
fn most(inside: &[(Class, f64)]) -> Option<Class> {
    let mut sums: Vec<(Class, f64)> = Vec::new();
    for (class, parts) in inside {
        match sums.iter_mut().find(|(of, _)| of == class) {
            Some((_, sum)) => *sum += parts,
            None => sums.push((*class, *parts)),
        }
    }
    let first_of_most = |best: (Class, f64), next: (Class, f64)| if next.1 > best.1 { next } else { best };
    sums.into_iter().reduce(first_of_most).map(|(class, _)| class)
}

/// Minutes between the end of one thing and the beginning of the next on the same zone. `inside` is what is in the pot of the first.
pub fn wait(done: &Work, next: &Work, inside: &[(Class, f64)], air: Air) -> f64 {
    let slower = air.slower();
    match (done, next) {
        (Work::Clean, Work::Rinse) | (Work::HardwareOff | Work::LeadTest | Work::Tape, _) => 0.0,
        (Work::Rinse, _) => 60.0 * slower,
        (Work::Deglaze | Work::WaxOff, _) => 10.0 * slower,
        (Work::Layer(laid), Work::HardwareOn) => Drying::of(laid, inside).next * slower,
        (Work::Layer(laid), Work::Buff) if laid.is_waxy() => OVERNIGHT * slower,
        (Work::Layer(laid), Work::Rest) if laid.is_waxy() => OVERNIGHT * slower,
        // The same wash or wax again needs no waiting.
        (Work::Layer(laid), Work::Layer(again))
            if laid == again && matches!(laid.technique.family(), Family::Wash) =>
        {
            0.0
        }
        (Work::Layer(laid), _) => Drying::of(laid, inside).next * slower,
        (Work::Age(_), _) => 20.0 * slower,
        _ => 0.0,
    }
}

impl Work {
    /// Minutes that it takes without a hand on it: only [`Work::Rest`] does.
    pub fn rests(&self, air: Air) -> f64 {
        match self {
            Work::Rest => DAY * air.slower(),
            _ => 0.0,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::wanted;
    use crate::work::tests::{layer, zone};
    use warm_blend_piece::Zone;

    fn laid(technique: Technique) -> Work {
        let all = wanted(&zone(Zone::Case, 1.0, vec![layer(technique, 1, 1)]), false, false);
        all.into_iter().find(|work| work.laid().is_some()).unwrap()
    }

    /// Chalk-type paint is recoated after an hour or two, a glaze and a primer after the night, wax is buffed the next day (common
    /// practice).
    #[test]
    fn as_common_practice_has_it() {
        let hours =
            |work: &Work, next: &Work, class| wait(work, next, &[(class, 1.0)], Air::default()) / 60.0;
        let coat = laid(Technique::BrushedCoat);
        assert!((1.0..=2.0).contains(&hours(&coat, &coat, Class::Chalk)));
        assert!(hours(&coat, &coat, Class::Primer) >= 8.0);
        assert!(hours(&laid(Technique::GlazeWiped), &coat, Class::GlazingLiquid) >= 8.0);
        assert!(hours(&laid(Technique::ClearWax), &Work::Buff, Class::ClearWax) >= 8.0);
        assert!((0.1..0.2).contains(&hours(&Work::Deglaze, &coat, Class::Chalk)), "about ten minutes");
        let wash = laid(Technique::WashWiped);
        assert_eq!(hours(&wash, &wash, Class::Chalk), 0.0, "again and again");
    }

    #[test]
    fn colder_air_makes_every_wait_longer_or_leaves_it() {
        let cold = Air::new(10.0, 0.7).unwrap();
        for technique in Technique::ALL {
            let (work, next) = (laid(technique), laid(Technique::BrushedCoat));
            for inside in Class::ALL.map(|class| [(class, 1.0)]) {
                assert!(wait(&work, &next, &inside, cold) >= wait(&work, &next, &inside, Air::default()));
            }
        }
    }
}
