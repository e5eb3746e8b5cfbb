//! How long what was done must be left alone before what comes next.
//!
//! | what was put on | until the next layer |
//! |---|---|
//! | chalk- and clay-type paint | 1½ h |
//! | mineral paint, clear coat | 2 h |
//! | satin latex, acrylic craft paint | 4 h, 1 h |
//! | liquid metallic, pigmented shellac | 10, 45 min |
//! | primer, texture, thick knife work, heavy washes, water-based glaze | overnight |
//! | gel stain | a day |
//! | washes, dry brush | 20, 5 min |
//! | wax | overnight, then it is buffed; a day until it is moved |
//!
//! Common practice† at 20 °C and 50 %; [`Air`] stretches all of it.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::Class;

use crate::{Air, Laid, Work};

const OVERNIGHT: f64 = 12.0 * 60.0;
const DAY: f64 = 24.0 * 60.0;

/// Minutes until the next layer can go on one with so much of each class in its pot, at 20 °C and 50 %.
fn dry(laid: &Laid, inside: &[(Class, f64)]) -> f64 {
    match laid.technique {
        technique if technique.dries_overnight(laid.hand) => return OVERNIGHT,
        Technique::WetWaxResist => return OVERNIGHT,
        Technique::DryBrush | Technique::Speckle | Technique::Stencil => return 5.0,
        Technique::SandBack | Technique::WetDistress | Technique::MetallicWash => return 10.0,
        _ => {}
    }
    match laid.technique.family() {
        Family::Glaze | Family::Wax | Family::Gild => OVERNIGHT,
        Family::Blend if inside.iter().any(|(class, _)| *class == Class::GlazingLiquid) => OVERNIGHT,
        Family::Wash => 20.0,
        _ => dry_class(most(inside)),
    }
}

fn dry_class(class: Option<Class>) -> f64 {
    match class {
        Some(Class::ClearWax | Class::Primer | Class::GlazingLiquid | Class::Scumble | Class::Extender) => {
            OVERNIGHT
        }
        Some(Class::GelStain) => DAY,
        Some(Class::LatexSatin) => 240.0,
        Some(Class::Mineral | Class::ClearCoat) => 120.0,
        Some(Class::AcrylicCraft) => 60.0,
        Some(Class::Shellac) => 45.0,
        Some(Class::Metallic | Class::Pearl) => 10.0,
        Some(Class::Chalk | Class::Clay | Class::TexturePowder | Class::Water) | None => 90.0,
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
        (Work::Layer(laid), Work::Buff | Work::Rest) if laid.is_waxy() => OVERNIGHT * slower,
        // The same wash or wax again needs no waiting.
        (Work::Layer(laid), Work::Layer(again))
            if laid == again && matches!(laid.technique.family(), Family::Wash) =>
        {
            0.0
        }
        (Work::Layer(laid), _) => dry(laid, inside) * slower,
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

    /// Strokes that are left to stand need the night, as texture does.
    #[test]
    fn what_stands_dries_overnight() {
        let mut rough = laid(Technique::BrushedCoat);
        let Work::Layer(coat) = &mut rough else { panic!("a coat") };
        coat.hand.texture = Some(warm_blend_board::TextureDepth::new(150.0).unwrap());
        let hours = |work: &Work| {
            wait(work, &laid(Technique::DryBrush), &[(Class::Chalk, 1.0)], Air::default()) / 60.0
        };
        assert!(hours(&rough) >= 8.0 && hours(&laid(Technique::TextureCoat)) >= 8.0);
        assert!(hours(&laid(Technique::BrushedCoat)) < 3.0);
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
