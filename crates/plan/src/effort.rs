//! Minutes of hands-on work.
//!
//! A step has a fixed time for getting ready and cleaning up, a time per square metre that increases with relief, and for
//! tape a time per metre of edge. All are common practice†, chosen so that a large carved piece in an aged finish takes
//! 50 to 60 hours.

use warm_blend_board::Technique;
use warm_blend_piece::Zone;

use crate::{Laid, Work, ZoneWork};

/// Minutes to get ready and to clean up.
const READY: f64 = 6.0;
/// Minutes for the light sanding before a further coat, by the square metre.
const BETWEEN_COATS: f64 = 4.0;
/// How many times as long a piece that is all relief would take beyond what a flat one does: one that is carved all over (six tenths of
/// it relief) takes twice as long as a flat one.
const BY_RELIEF: f64 = 1.65;
/// Minutes for a metre of edge to tape, and to remove the tape again.
const TAPE: f64 = 1.2;
const TAPE_OFF: f64 = 0.3;

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
        Technique::GlazeWiped => 36.0,
        Technique::StainWiped => 20.0,
        Technique::WashWiped | Technique::WashPatted | Technique::WashDragged => 26.0,
        Technique::WashDripped => 18.0,
        Technique::DryBrush => 22.0,
        Technique::WetWaxResist => 26.0,
        Technique::MetallicWash => 22.0,
        Technique::Speckle => 6.0,
        Technique::Stencil => 70.0,
        Technique::Freehand => 110.0,
        Technique::KnifeFlecks => 45.0,
        Technique::TintedWax => 30.0,
        Technique::SandBack => 14.0,
        Technique::SmoothSand => 8.0,
        Technique::WetDistress => 18.0,
        Technique::ClearWax => 16.0,
        Technique::Gilding => 45.0,
    }
}

/// What the minutes of a step are made of at the usual pace: `ready + rate × amount × relief`.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Effort {
    /// Minutes to get ready and to clean up.
    pub ready: f64,
    /// Minutes for a unit of the amount.
    pub rate: Rate,
    /// Area, m², or length of edge, m.
    pub amount: f64,
    /// Factor for relief, by area; 1 for edges.
    pub relief: f64,
}

/// Minutes for a unit of work.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Rate {
    /// For a square metre of a flat board.
    SquareMetre(f64),
    /// For a metre of edge.
    Metre(f64),
}

/// What the minutes of a step on some zones are made of.
pub fn effort(work: &Work, zones: &[&ZoneWork]) -> Effort {
    let (rate, ready) = (rate(work), setup(work, zones));
    let area: f64 = zones.iter().map(|zone| zone.area).sum();
    match rate {
        Rate::Metre(_) => {
            let amount = zones.iter().map(|zone| zone.taped).sum();
            Effort { ready, rate, amount, relief: 1.0 }
        }
        Rate::SquareMetre(_) => {
            let raised: f64 = zones.iter().map(|zone| zone.area * by_relief(zone)).sum();
            let relief = if area > 0.0 { raised / area } else { 1.0 };
            Effort { ready, rate, amount: area, relief }
        }
    }
}

/// Minutes of hands-on work on some zones at the usual pace.
pub fn minutes(work: &Work, zones: &[&ZoneWork]) -> f64 {
    setup(work, zones) + zones.iter().map(|zone| on_zone(work, zone)).sum::<f64>()
}

/// Work between two natural breaks: one part of a zone.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Unit {
    /// The zone.
    pub zone: Zone,
    /// Minutes at the usual pace.
    pub minutes: f64,
}

/// Units of work that must not be interrupted: layers and ageing, part by part. Empty for work that can stop at any time.
/// Getting ready belongs to the first unit.
pub fn units(work: &Work, zones: &[&ZoneWork]) -> Vec<Unit> {
    if !work.lies() {
        return Vec::new();
    }
    let mut all: Vec<Unit> = Vec::new();
    for zone in zones {
        let (whole, drawn) = (on_zone(work, zone), zone.parts.iter().map(|part| part.area).sum::<f64>());
        match drawn > 0.0 {
            true => all.extend(
                zone.parts.iter().map(|part| Unit { zone: zone.zone, minutes: whole * part.area / drawn }),
            ),
            false => all.push(Unit { zone: zone.zone, minutes: whole }),
        }
    }
    if let Some(first) = all.first_mut() {
        first.minutes += setup(work, zones);
    }
    all
}

/// Minutes to get ready and to clean up, whatever the area.
fn setup(work: &Work, zones: &[&ZoneWork]) -> f64 {
    match work {
        Work::HardwareOff => 15.0,
        Work::HardwareOn => 20.0,
        Work::LeadTest => 10.0,
        Work::Clean
        | Work::Deglaze
        | Work::Dewax
        | Work::Strip
        | Work::GlueDown
        | Work::Fill
        | Work::SandFlush
        | Work::Soak
        | Work::Polish
        | Work::BlockStains
        | Work::Scuff
        | Work::Layer(_)
        | Work::Wet(_)
        | Work::Age(_)
        | Work::WaxOff
        | Work::ScuffBack => READY,
        // Marking out takes longest†.
        Work::Drill => 20.0,
        Work::TapeOff => 3.0,
        Work::Tape | Work::Rinse | Work::Buff | Work::Rest => 0.0,
    }
    .min(if zones.is_empty() { 0.0 } else { f64::INFINITY })
}

/// Minutes of the work itself on one zone.
fn on_zone(work: &Work, zone: &ZoneWork) -> f64 {
    match rate(work) {
        Rate::Metre(rate) => rate * zone.taped,
        Rate::SquareMetre(rate) => rate * zone.area * by_relief(zone),
    }
}

/// Minutes for a unit of the work itself.
fn rate(work: &Work) -> Rate {
    Rate::SquareMetre(match work {
        Work::HardwareOff | Work::HardwareOn | Work::LeadTest | Work::Drill | Work::Rest => 0.0,
        Work::Clean => 9.0,
        Work::Rinse => 5.0,
        Work::Deglaze => 6.0,
        Work::Dewax | Work::WaxOff => 20.0,
        Work::Scuff => 12.0,
        // Stripper, scraper and a second go in the corners†.
        Work::Strip => 60.0,
        Work::GlueDown => 15.0,
        Work::Fill => 12.0,
        Work::SandFlush => 8.0,
        Work::BlockStains => 5.0,
        // A square metre of hardware is that of dozens of small fittings, each of them handled†.
        Work::Soak => 60.0,
        Work::Polish => 240.0,
        Work::Tape => return Rate::Metre(TAPE),
        Work::TapeOff => return Rate::Metre(TAPE_OFF),
        Work::Layer(_) | Work::Wet(_) => work.layers().iter().map(by_square_metre).sum(),
        Work::Age(_) => 22.0,
        Work::ScuffBack => 10.0,
        Work::Buff => 9.0,
    })
}

/// Minutes for one coat on a square metre of flat board, without getting ready.
pub(crate) fn by_square_metre(laid: &Laid) -> f64 {
    let sanded = if laid.coat.0 > 1 { BETWEEN_COATS } else { 0.0 };
    // Twice the paint does not take twice as long, unless it is rubbed for that long.
    let load = laid.hand.load.value();
    let load = if laid.technique.takes_away() { load } else { load.sqrt() };
    sanded + by_area(laid.technique) * load * f64::from(laid.hand.passes.value())
}

/// Factor on the time of a flat board for the relief of a zone.
pub(crate) fn by_relief(zone: &ZoneWork) -> f64 {
    1.0 + BY_RELIEF * zone.relief()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{any_layers, chalk, layer, zone};
    use crate::{PartSize, wanted};
    use proptest::prelude::*;
    use warm_blend_board::{ByPlace, FLAT};

    const CARVED_ALL_OVER: ByPlace<f64> = ByPlace { field: 0.36, recess: 0.30, edge: 0.34 };

    /// A heavily carved case of seven square metres in an aged finish of eight layers took 50 to 60 hours by hand; a flat one about half
    /// (common practice).
    #[test]
    fn a_large_carved_piece_takes_fifty_to_sixty_hours() {
        use Technique::*;
        let layers = vec![
            layer(BrushedCoat, 0, 1),
            layer(BrushedCoat, 1, 2),
            layer(ClearCoat, 0, 1),
            layer(GlazeWiped, 2, 1),
            layer(DryBrush, 3, 1),
            layer(DryBrush, 4, 1),
            layer(TintedWax, 5, 1),
            layer(Gilding, 6, 1),
        ];
        let hours = |places| {
            let case = ZoneWork { places, taped: 12.0, ..zone(Zone::Case, 7.0, layers.clone()) };
            let minutes = |work: &Work| minutes(work, &[&case]);
            wanted(&case, true, &chalk).iter().map(minutes).sum::<f64>() / 60.0
        };
        let (carved, flat) = (hours(CARVED_ALL_OVER), hours(FLAT));
        assert!((50.0..=60.0).contains(&carved), "{carved} h");
        assert!((0.4..=0.6).contains(&(flat / carved)), "{flat} h flat, {carved} h carved");
    }

    proptest! {
        #[test]
        fn more_of_it_and_more_relief_take_longer(layers in any_layers(), area in 0.1..20.0f64, more in 1.0..3.0f64, recess in 0.0..0.4f64) {
            let small = zone(Zone::Case, area, layers.clone());
            let places = ByPlace { field: FLAT.field - recess, recess: FLAT.recess + recess, edge: FLAT.edge };
            let large = ZoneWork { places, ..zone(Zone::Case, area * more, layers) };
            for work in wanted(&small, true, &chalk) {
                prop_assert!(minutes(&work, &[&large]) >= minutes(&work, &[&small]) - 1e-9);
            }
        }

        /// The parts of an effort add up to the minutes of the step.
        #[test]
        fn the_reasons_add_up(layers in any_layers(), area in 0.1..20.0f64, other in 0.1..20.0f64, recess in 0.0..0.4f64, taped in 0.0..9.0f64) {
            let flat = ZoneWork { taped, ..zone(Zone::Case, area, layers.clone()) };
            let places = ByPlace { field: FLAT.field - recess, recess: FLAT.recess + recess, edge: FLAT.edge };
            let carved = ZoneWork { places, ..zone(Zone::Panels, other, layers) };
            let both = [&flat, &carved];
            for work in wanted(&flat, true, &chalk) {
                let Effort { ready, rate, amount, relief } = effort(&work, &both);
                let (Rate::SquareMetre(rate) | Rate::Metre(rate)) = rate;
                prop_assert!((ready + rate * amount * relief - minutes(&work, &both)).abs() < 1e-9);
            }
        }

        /// Its units are all of a layer, whatever its parts.
        #[test]
        fn units_are_all_of_it(layers in any_layers(), areas in proptest::collection::vec(0.01..3.0f64, 1..9), measured in 0.1..9.0f64) {
            let parts = areas.iter().map(|area| PartSize { area: *area, narrow: 0.1 }).collect();
            let panels = ZoneWork { parts, ..zone(Zone::Panels, measured, layers) };
            for work in wanted(&panels, true, &chalk) {
                let sum: f64 = units(&work, &[&panels]).iter().map(|unit| unit.minutes).sum();
                let whole = if work.lies() { minutes(&work, &[&panels]) } else { 0.0 };
                prop_assert!((sum - whole).abs() < 1e-6);
            }
        }
    }
}
