//! How large a section can be worked before it sets.
//!
//! Who works wet must come back to the edge of what is done while it is still open. Sections end where the eye ends: at an edge, a
//! moulding, between two drawers. Open times are common practice† at 20 °C and 50 %, what a tin says goes first; warm and dry
//! air shortens them as it shortens drying.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::Class;
use warm_blend_piece::Zone;

use crate::{Air, Laid, ZoneWork, effort::laying};

/// Share of the open time that is worked: the rest is for the joint†.
const WORKED: f64 = 0.7;

/// How one layer is worked wet.
#[derive(Debug, Clone, PartialEq)]
pub struct WetEdge {
    /// Minutes that it can be worked.
    pub open: f64,
    /// m² that one person can work before it sets.
    pub section: f64,
    /// How many sections.
    pub sections: usize,
    /// True where one part without a break is larger than one person can work: somebody puts on and another works it.
    pub two: bool,
}

impl WetEdge {
    /// Of a layer on some zones; none of what is not worked wet. `open` is what a tin says of what is in the pot.
    pub fn of(
        laid: &Laid,
        zones: &[&ZoneWork],
        inside: &[(Class, f64)],
        open: Option<f64>,
        air: Air,
    ) -> Option<Self> {
        let usual = usual_open(laid.technique, inside)?;
        let open = open.unwrap_or(usual) * air.slower();
        let area: f64 = zones.iter().map(|zone| zone.area).sum();
        if area <= 0.0 || open <= 0.0 {
            return None;
        }
        // Minutes by the square metre as these zones are shaped.
        let each = laying(laid, zones).max(1e-6) / area;
        let section = WORKED * open / each;
        let largest = zones.iter().map(|zone| zone.largest).fold(0.0, f64::max);
        Some(Self {
            open,
            section,
            sections: (area / section).ceil().max(1.0) as usize,
            two: largest > section,
        })
    }
}

/// Where a section of a zone ends, so that no joint is seen (common practice†).
pub const fn breaks_at(zone: Zone) -> &'static str {
    match zone {
        Zone::Panels => "one panel after the other",
        Zone::Drawers => "one drawer front after the other",
        Zone::Doors => "one door after the other",
        Zone::Legs => "one leg after the other",
        Zone::Mouldings | Zone::Frame => "from mitre to mitre",
        Zone::Top | Zone::Seat => "along the grain, from edge to edge",
        _ => "up to an edge, a corner or a moulding",
    }
}

/// Minutes that a layer is usually worked; none of what is put on and left.
fn usual_open(technique: Technique, inside: &[(Class, f64)]) -> Option<f64> {
    let has = |class| inside.iter().any(|(of, _)| *of == class);
    let slow = if has(Class::Extender) { 2.0 } else { 1.0 };
    let minutes = match technique.family() {
        Family::Glaze if has(Class::Scumble) => 20.0,
        Family::Glaze => 10.0,
        Family::Blend if technique == Technique::MeshedGlaze => 20.0,
        Family::Blend => 8.0,
        Family::Wash => 6.0,
        Family::Wax => 30.0,
        _ if technique == Technique::WetWaxResist => 10.0,
        _ if technique == Technique::KnifeFlecks => 15.0,
        _ => return None,
    };
    Some(minutes * slow)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::wanted;
    use crate::work::tests::{layer, zone};
    use proptest::prelude::*;

    fn laid(technique: Technique) -> Laid {
        let all = wanted(&zone(Zone::Case, 1.0, vec![layer(technique, 1, 1)]), false, false);
        all.iter().find_map(|work| work.laid().cloned()).unwrap()
    }

    #[test]
    fn a_coat_is_put_on_and_left_a_glaze_is_worked() {
        let case = zone(Zone::Case, 3.0, Vec::new());
        let of =
            |technique, class| WetEdge::of(&laid(technique), &[&case], &[(class, 1.0)], None, Air::default());
        assert_eq!(of(Technique::BrushedCoat, Class::Chalk), None);
        let glaze = of(Technique::GlazeStippled, Class::GlazingLiquid).unwrap();
        assert_eq!(glaze.open, 10.0, "about ten minutes (common practice)");
        assert!(
            glaze.two && glaze.sections > 3,
            "two people for anything large (common practice): {glaze:?}"
        );
    }

    proptest! {
        /// Sections cover the area and none is missing; a longer open time needs no more of them.
        #[test]
        fn sections_cover_the_area(area in 0.05..20.0f64, open in 1.0..60.0f64, more in 1.0..3.0f64) {
            let case = zone(Zone::Case, area, Vec::new());
            let of = |open| WetEdge::of(&laid(Technique::GlazeWiped), &[&case], &[], Some(open), Air::default()).unwrap();
            let (short, long) = (of(open), of(open * more));
            prop_assert!(short.section * short.sections as f64 >= area - 1e-9);
            prop_assert!(short.section * (short.sections - 1) as f64 <= area);
            prop_assert!(long.sections <= short.sections);
        }
    }
}
