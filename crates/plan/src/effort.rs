//! How long a hand takes.
//!
//! A step takes time to get ready for and to clean up after, then time by the square metre, more where there is relief for the brush to
//! follow, and for tape by the metre of edge. All of it is common practice†, set so that a large carved piece in an aged finish
//! takes 50 to 60 hours by hand.

use warm_blend_board::Technique;

use crate::{Laid, Work, ZoneWork};

/// Minutes to get ready and to clean up.
const READY: f64 = 6.0;
/// Minutes for the light sanding before a further coat, by the square metre.
const BETWEEN_COATS: f64 = 4.0;
/// How many times as long a piece that is all relief would take beyond what a flat one does.
const BY_RELIEF: f64 = 2.0;

/// Minutes by the square metre of a flat board, at the usual load, once.
const fn by_area(technique: Technique) -> f64 {
    match technique {
        Technique::RolledCoat => 7.0,
        Technique::BrushedCoat => 14.0,
        Technique::ClearCoat => 11.0,
        Technique::TextureCoat => 30.0,
        Technique::WetBlend => 50.0,
        Technique::MeshedGlaze => 55.0,
        Technique::GlazeStippled => 30.0,
        Technique::GlazeRagged => 26.0,
        Technique::GlazeRaggedSoftened => 32.0,
        Technique::GlazeWiped => 40.0,
        Technique::WashWiped | Technique::WashPatted | Technique::WashDragged => 26.0,
        Technique::WashDripped => 18.0,
        Technique::DryBrush => 22.0,
        Technique::WetWaxResist => 38.0,
        Technique::MetallicWash => 22.0,
        Technique::Speckle => 6.0,
        Technique::Stencil => 70.0,
        Technique::KnifeFlecks => 45.0,
        Technique::TintedWax => 34.0,
        Technique::SandBack => 14.0,
        Technique::WetDistress => 18.0,
        Technique::ClearWax => 16.0,
        Technique::Gilding => 45.0,
    }
}

/// Minutes of hands-on work of one thing on some zones, by the usual hand.
pub fn minutes(work: &Work, zones: &[&ZoneWork]) -> f64 {
    let over = |rate: f64| rate * surface(zones);
    match work {
        Work::HardwareOff => 15.0,
        Work::LeadTest => 10.0,
        Work::Clean => READY + over(9.0),
        Work::Rinse => over(5.0),
        Work::Deglaze => READY + over(6.0),
        Work::Scuff => READY + over(12.0),
        Work::Tape => zones.iter().map(|zone| 1.2 * zone.edge).sum(),
        Work::Layer(laid) => READY + laying(laid, zones),
        Work::Age(_) => READY + over(22.0),
        Work::WaxOff => READY + over(20.0),
        Work::ScuffBack => READY + over(10.0),
        Work::HardwareOn => 20.0,
        Work::Buff => over(9.0),
        Work::Rest => 0.0,
    }
}

/// Square metres of a flat board that would take as long.
fn surface(zones: &[&ZoneWork]) -> f64 {
    zones.iter().map(|zone| zone.area * (1.0 + BY_RELIEF * zone.relief)).sum()
}

/// Minutes that a layer takes by itself, without getting ready for it.
pub(crate) fn laying(laid: &Laid, zones: &[&ZoneWork]) -> f64 {
    let sanded = if laid.coat.0 > 1 { BETWEEN_COATS } else { 0.0 };
    // Twice the paint does not take twice as long, unless it is rubbed for that long.
    let load = laid.hand.load.value();
    let load = if laid.technique.takes_away() { load } else { load.sqrt() };
    let once = by_area(laid.technique) * load * f64::from(laid.hand.passes.value());
    (sanded + once) * surface(zones)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::wanted;
    use crate::work::tests::{any_layers, layer, zone};
    use proptest::prelude::*;
    use warm_blend_piece::Zone;

    /// A large carved piece by hand took 50 to 60 hours (common practice): seven square metres, of which two thirds are carved, in an aged
    /// and layered finish.
    #[test]
    fn a_large_carved_piece_takes_fifty_to_sixty_hours() {
        use Technique::*;
        let mut case = zone(
            Zone::Case,
            7.0,
            vec![
                layer(BrushedCoat, 0, 1),
                layer(BrushedCoat, 1, 2),
                layer(ClearCoat, 0, 1),
                layer(GlazeWiped, 2, 1),
                layer(DryBrush, 3, 1),
                layer(DryBrush, 4, 1),
                layer(SandBack, 0, 1),
                layer(ClearWax, 0, 1),
                layer(TintedWax, 5, 1),
                layer(Gilding, 6, 1),
            ],
        );
        (case.relief, case.edge) = (0.35, 60.0);
        let hours: f64 =
            wanted(&case, true, true).iter().map(|work| minutes(work, &[&case])).sum::<f64>() / 60.0;
        assert!((0.75 * 50.0..=1.25 * 60.0).contains(&hours), "{hours} h");
    }

    proptest! {
        #[test]
        fn more_of_it_and_more_relief_take_longer(layers in any_layers(), area in 0.1..20.0f64, more in 1.0..3.0f64, relief in 0.0..0.5f64) {
            let small = zone(Zone::Case, area, layers.clone());
            let large = crate::ZoneWork { relief, ..zone(Zone::Case, area * more, layers) };
            for work in wanted(&small, true, true) {
                prop_assert!(minutes(&work, &[&large]) >= minutes(&work, &[&small]) - 1e-9);
            }
        }
    }
}
