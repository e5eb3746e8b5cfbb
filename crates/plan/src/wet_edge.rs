//! The wet edge: how large a section can be worked before it sets, and whether one person can manage.
//!
//! Working wet means returning to the edge of each section while it is still open. A zone is worked in strips across its
//! shorter side; sections end where the eye stops: at an edge, a moulding or the gap between two drawers. Open times are
//! common practice† at 20 °C and 50 %, unless the tin states its own; air that dries faster shortens them.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::Class;
use warm_blend_piece::Zone;

use crate::effort::{by_relief, by_square_metre};
use crate::{Air, DriesBy, Laid, Tins, Work, ZoneWork};

/// Share of the open time that is worked: the rest is for the joint†.
const WORKED: f64 = 0.7;
/// Width of the strip that is laid at a time across the shorter side of a part, m†: an arm's easy reach with a roller or a wide brush.
const STRIP: f64 = 0.3;
/// Minutes by the square metre for which one of two only applies: by roller or wide brush†.
const APPLYING: f64 = 7.0;

/// How a step is worked wet.
#[derive(Debug, Clone, PartialEq)]
pub struct WetEdge {
    /// Open time, minutes.
    pub open: f64,
    /// Largest section for one person, m².
    pub section: f64,
    /// Number of sections.
    pub sections: usize,
    /// For two people, if one cannot keep the edge wet.
    pub shared: Option<Shared>,
}

/// Two people at work: one applies, the other works the paint.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shared {
    /// Largest section for two people, m².
    pub section: f64,
    /// Number of sections.
    pub sections: usize,
    /// Share of one person's minutes that two take, 0 to 1.
    pub share: f64,
}

impl WetEdge {
    /// For a work on some zones; `None` for what is applied and left, or stays open for as long as anybody works.
    pub fn of(work: &Work, zones: &[&ZoneWork], tins: Tins, air: Air) -> Option<Self> {
        let layers = work.layers();
        let open = layers.iter().filter_map(|laid| open_minutes(laid, tins, air)).reduce(f64::max);
        // What is worked wet into something is worked wet, whatever it is.
        let open = match work {
            Work::Wet(_) => open.or(Some(PAINT_OPEN * air.slower(DriesBy::Water)))?,
            _ => open?,
        };
        let area: f64 = zones.iter().map(|zone| zone.area).sum();
        if area <= 0.0 || open <= 0.0 {
            return None;
        }
        let rate: f64 = layers.iter().map(by_square_metre).sum();
        // Minutes by the square metre as these zones are shaped.
        let shaped = zones.iter().map(|zone| zone.area * by_relief(zone)).sum::<f64>() / area;
        let within = |rate: f64| WORKED * open / (rate * shaped).max(1e-6);
        let sections = |section: f64| (area / section).ceil().max(1.0) as usize;
        let section = within(rate);
        let edge = zones.iter().flat_map(|zone| &zone.parts).map(|part| part.narrow).fold(0.0, f64::max);
        let shared = (takes_two(layers) && edge * STRIP > section).then(|| {
            // Each does the longer of both halves of the work while the other does the shorter.
            let share = (rate - APPLYING).max(APPLYING).min(rate) / rate.max(1e-6);
            let section = within(rate * share);
            Shared { section, sections: sections(section), share }
        });
        Some(Self { open, section, sections: sections(section), shared })
    }
}

/// True of what one can apply while another works it: glazes, and colours meshed in one. Waxing and washing is one person's work.
fn takes_two(layers: &[Laid]) -> bool {
    layers
        .iter()
        .any(|laid| laid.technique.family() == Family::Glaze || laid.technique == Technique::MeshedGlaze)
}

/// Where a section of a zone can end without a visible joint (common practice†).
pub const fn breaks_at(zone: Zone) -> &'static str {
    match zone {
        Zone::Panels => "one panel at a time",
        Zone::Drawers => "one drawer front at a time",
        Zone::Doors => "one door at a time",
        Zone::Legs => "one leg at a time",
        Zone::Mouldings | Zone::Frame => "mitre to mitre",
        Zone::Top | Zone::Seat => "with the grain, edge to edge",
        Zone::Wall => "from corner to corner",
        _ => "stop at an edge, corner or moulding",
    }
}

/// Minutes that thin paint stays wet enough to be worked into, kept misted†.
const PAINT_OPEN: f64 = 8.0;

/// Minutes that a layer stays workable in some air; `None` of what is put on and left.
fn open_minutes(laid: &Laid, tins: Tins, air: Air) -> Option<f64> {
    let contents = laid.contents(tins);
    let slow = if contents.has(Class::Extender) { 2.0 } else { 1.0 };
    let usual = match laid.technique.family() {
        Family::Glaze if contents.has(Class::Scumble) => 20.0,
        Family::Glaze | Family::Stain => 10.0,
        Family::Blend if laid.technique == Technique::MeshedGlaze => 20.0,
        Family::Blend => PAINT_OPEN,
        Family::Wash => 6.0,
        Family::Wax => 30.0,
        _ if laid.technique == Technique::WetWaxResist => 10.0,
        _ if laid.technique == Technique::KnifeFlecks => 15.0,
        _ => return None,
    };
    Some(contents.open_minutes().unwrap_or(usual * slow) * air.slower(laid.dries_by(tins)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::PartSize;
    use crate::work::tests::{chalk, layer, zone};
    use proptest::prelude::*;
    use warm_blend_paint::{PaintId, Product, Specials};

    fn work(technique: Technique) -> Work {
        Work::Layer(layer(technique, 1, 1).coats(&chalk).remove(0))
    }

    /// A zone of one part, wide and high in m.
    fn part(at: Zone, wide: f64, high: f64) -> ZoneWork {
        let part = PartSize { area: wide * high, narrow: wide.min(high) };
        ZoneWork { parts: vec![part], ..zone(at, wide * high, Vec::new()) }
    }

    fn edge(technique: Technique, on: &ZoneWork) -> Option<WetEdge> {
        WetEdge::of(&work(technique), &[on], &chalk, Air::default())
    }

    /// On a wall one rolls and the other works the glaze; on the side of a chest one person is enough; nobody needs a second person to
    /// wax a top or to wash a side (common practice).
    #[test]
    fn two_for_a_wall_one_for_a_chest() {
        let (wall, side, top) =
            (part(Zone::Wall, 4.0, 2.5), part(Zone::Sides, 0.5, 0.8), part(Zone::Top, 1.8, 0.9));
        assert_eq!(edge(Technique::BrushedCoat, &wall), None);
        for glaze in [Technique::GlazeStippled, Technique::GlazeRagged] {
            let alone = edge(glaze, &wall).unwrap();
            assert_eq!(alone.open, 10.0, "about ten minutes (common practice)");
            let shared = alone.shared.expect("two on a wall");
            assert!(shared.section > alone.section && shared.share < 1.0, "{shared:?}");
            assert_eq!(edge(glaze, &side).unwrap().shared, None);
        }
        for technique in [Technique::TintedWax, Technique::WashWiped, Technique::WashPatted] {
            for zone in [&wall, &side, &top] {
                assert_eq!(edge(technique, zone).unwrap().shared, None, "{technique:?}");
            }
        }
    }

    /// A tin that states its open time is believed; warm dry air shortens that of a glaze.
    #[test]
    fn the_tin_and_the_air_count() {
        let side = part(Zone::Sides, 0.5, 0.8);
        let stated = |_: PaintId| {
            let specials = Specials { open_minutes: Some(25.0), ..Specials::default() };
            Some(Product { class: Class::GlazingLiquid, specials })
        };
        let open =
            |tins: Tins, air| WetEdge::of(&work(Technique::GlazeRagged), &[&side], tins, air).unwrap().open;
        assert_eq!(open(&stated, Air::default()), 25.0);
        assert!(open(&stated, Air::new(28.0, 0.35).unwrap()) < 15.0);
    }

    proptest! {
        /// Sections cover the area and none is missing; each is finished within the open time, wet layers together too; a longer open
        /// time needs no more of them, and two people need no more than one.
        #[test]
        fn sections_are_finished_while_they_are_open(
            wide in 0.1..6.0f64,
            high in 0.1..3.0f64,
            group in proptest::collection::vec(proptest::sample::select(vec![Technique::WetBlend, Technique::GlazeRagged, Technique::KnifeFlecks, Technique::WetWaxResist]), 1..4),
            humid in 0.5..0.8f64,
        ) {
            let zone = part(Zone::Wall, wide, high);
            let layers: Vec<Laid> = group.iter().map(|technique| layer(*technique, 1, 1).coats(&chalk).remove(0)).collect();
            let work = Work::Wet(layers.clone());
            let of = |humidity| WetEdge::of(&work, &[&zone], &chalk, Air::new(20.0, humidity).unwrap()).unwrap();
            let (short, long) = (of(0.5), of(humid));
            let rate: f64 = layers.iter().map(by_square_metre).sum();
            for edge in [&short, &long] {
                prop_assert!(edge.section * edge.sections as f64 >= zone.area - 1e-9);
                prop_assert!(edge.section * (edge.sections - 1) as f64 <= zone.area);
                prop_assert!(rate * edge.section <= edge.open);
                if let Some(shared) = edge.shared {
                    prop_assert!(rate * shared.share * shared.section <= edge.open);
                    prop_assert!(shared.sections <= edge.sections && shared.share <= 1.0);
                }
            }
            prop_assert!(long.sections <= short.sections);
        }
    }
}
