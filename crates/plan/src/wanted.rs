//! All work on a zone, from as found to finished.

use warm_blend_board::{Application, Technique};
use warm_blend_piece::Repair;

use crate::{Laid, LayerWork, Tins, Work, ZoneWork, preparation};

/// All work on a zone, in order.
pub fn wanted(zone: &ZoneWork, hardware: bool, tins: Tins) -> Vec<Work> {
    let mut all = Vec::new();
    if hardware {
        all.push(Work::HardwareOff);
    }
    let paints = zone.is_painted();
    let mut repairs = zone.repairs.clone();
    if zone.layers.first().is_some_and(|layer| layer.blocks_stains(tins)) {
        repairs.remove(&Repair::Bleeds);
    }
    all.extend(preparation(zone.ground, &repairs, paints));
    let taped = zone.taped > 0.0;
    if taped {
        all.push(Work::Tape);
    }
    let first = all.len();
    all.extend(laid_in_order(&zone.layers, tins));
    all.extend(zone.ages.iter().map(|age| Work::Age(*age)));
    if taped {
        // While the edge is soft: after the last layer that is not wax.
        let last = all[first..].iter().rposition(|work| !work.is_waxy(tins));
        all.insert(last.map_or(all.len(), |last| first + last + 1), Work::TapeOff);
    }
    if all.iter().any(|work| work.needs_buffing()) {
        all.push(Work::Buff);
    }
    if hardware {
        all.push(Work::HardwareOn);
    }
    if paints {
        all.push(Work::Rest);
    }
    all
}

/// Layers as they are worked: coat by coat, and into each other where one goes into the wet one below it.
fn laid_in_order(layers: &[LayerWork], tins: Tins) -> Vec<Work> {
    let mut all: Vec<Work> = Vec::new();
    for layer in layers {
        if layer.technique == Technique::WetWaxResist {
            lay_resist_wax(&mut all, layer.hand);
        }
        for (n, laid) in layer.coats(tins).into_iter().enumerate() {
            let below = all.last().filter(|_| n == 0 && layer.into_wet);
            let wet = below.and_then(|work| work.layers().last()).is_some_and(|laid| laid.stays_wet(tins));
            match all.pop_if(|_| wet) {
                Some(Work::Wet(mut group)) => {
                    group.push(laid);
                    all.push(Work::Wet(group));
                }
                Some(below) => all.push(Work::Wet([below.layers(), &[laid]].concat())),
                None => all.push(Work::Layer(laid)),
            }
        }
    }
    all
}

/// The generous coat of clear wax that a resist is worked into, unless that is there already.
fn lay_resist_wax(all: &mut Vec<Work>, hand: Application) {
    let below = all.last().and_then(|work| work.layers().last());
    let waxed =
        below.is_some_and(|laid| matches!(laid.technique, Technique::ClearWax | Technique::WetWaxResist));
    if !waxed {
        let hand = Application { passes: Application::default().passes, texture: None, ..hand };
        let wax = Laid { technique: Technique::ClearWax, pot: Vec::new(), hand, coat: (1, 1) };
        all.push(Work::Layer(wax));
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{chalk, layer, zone};
    use warm_blend_paint::{Class, Product};
    use warm_blend_piece::Zone;

    /// Stone: two coats, into the wet second of which flecks of two colours are knifed, then a clear coat. One night, not three.
    #[test]
    fn flecks_go_into_the_wet_second_coat() {
        use Technique::{BrushedCoat, ClearCoat, KnifeFlecks};
        let stone = [
            layer(BrushedCoat, 1, 2),
            layer(KnifeFlecks, 2, 1),
            layer(KnifeFlecks, 3, 1),
            layer(ClearCoat, 0, 1),
        ];
        let works = laid_in_order(&stone, &chalk);
        assert_eq!(works.len(), 3, "{works:?}");
        let Work::Wet(group) = &works[1] else { panic!("worked wet: {works:?}") };
        let how: Vec<Technique> = group.iter().map(|laid| laid.technique).collect();
        assert_eq!(how, [BrushedCoat, KnifeFlecks, KnifeFlecks]);
        assert_eq!(group[0].coat, (2, 2));
    }

    /// A resist brings its own sticky wax, once for all its colours, and is buffed.
    #[test]
    fn a_resist_lies_on_wax() {
        use Technique::{BrushedCoat, ClearWax, WetWaxResist};
        let layers = vec![layer(BrushedCoat, 1, 1), layer(WetWaxResist, 2, 1), layer(WetWaxResist, 3, 1)];
        let all = wanted(&zone(Zone::Top, 1.0, layers.clone()), false, &chalk);
        let wet = all.iter().find(|work| matches!(work, Work::Wet(_))).unwrap();
        let how: Vec<Technique> = wet.layers().iter().map(|laid| laid.technique).collect();
        assert_eq!(how, [ClearWax, WetWaxResist, WetWaxResist]);
        assert!(all.contains(&Work::Buff) && wet.is_waxy(&chalk));
        let own_wax = [layers[0].clone(), layer(ClearWax, 0, 1), layers[1].clone()];
        assert_eq!(laid_in_order(&own_wax, &chalk).len(), 2, "the wax that lies there is the one");
    }

    /// Two passes of a glaze, of a toner and of a stain dry in between; washes do not.
    #[test]
    fn passes_of_a_glaze_are_two_steps() {
        use Technique::{GlazeRagged, GlazeWiped, WashWiped};
        let stain = |_| Some(Product::from(Class::GelStain));
        let steps = |technique, tins: Tins| laid_in_order(&[layer(technique, 1, 2)], tins).len();
        assert_eq!(
            (steps(GlazeRagged, &chalk), steps(GlazeWiped, &chalk), steps(WashWiped, &chalk)),
            (2, 2, 1)
        );
        assert_eq!(steps(WashWiped, &stain), 2);
    }

    /// What is dry takes nothing in, and the first layer has nothing to go into.
    #[test]
    fn nothing_is_worked_into_what_is_dry() {
        use Technique::{BrushedCoat, DryBrush, WetBlend};
        let works =
            laid_in_order(&[layer(WetBlend, 1, 1), layer(DryBrush, 2, 1), layer(WetBlend, 3, 1)], &chalk);
        assert!(works.iter().all(|work| matches!(work, Work::Layer(_))), "{works:?}");
        let mut streaks = layer(DryBrush, 2, 1);
        streaks.into_wet = true;
        let works = laid_in_order(&[layer(BrushedCoat, 1, 2), streaks], &chalk);
        assert!(matches!(works.as_slice(), [Work::Layer(_), Work::Wet(_)]), "{works:?}");
    }

    /// Brass that stays brass is soaked, rinsed and polished while it is off, and nothing else; a primer that blocks stains needs no
    /// blocking before it.
    #[test]
    fn what_is_repaired_only_where_it_is_needed() {
        let mut brass = zone(Zone::Hardware, 0.05, Vec::new());
        brass.repairs = [Repair::Soak, Repair::Polish].into();
        let off_and_on = [Work::HardwareOff, Work::Soak, Work::Rinse, Work::Polish, Work::HardwareOn];
        assert_eq!(wanted(&brass, true, &chalk), off_and_on);
        let knots = |tins: Tins| {
            let mut knots = zone(Zone::Case, 1.0, vec![layer(Technique::BrushedCoat, 1, 1)]);
            knots.repairs = [Repair::Bleeds].into();
            wanted(&knots, false, tins).contains(&Work::BlockStains)
        };
        assert!(knots(&chalk) && !knots(&|_| Some(Product::from(Class::Shellac))));
    }

    /// Tape is on before the first layer and off after the last that is not wax.
    #[test]
    fn tape_comes_off_while_the_edge_is_soft() {
        use Technique::{BrushedCoat, ClearWax};
        let mut taped = zone(Zone::Top, 1.0, vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1)]);
        assert!(!wanted(&taped, true, &chalk).contains(&Work::Tape));
        taped.taped = 2.0;
        let all = wanted(&taped, true, &chalk);
        let at = |work: &Work| all.iter().position(|one| one == work).unwrap();
        let (on, off) = (at(&Work::Tape), at(&Work::TapeOff));
        assert!(all[..on].iter().all(|work| work.layers().is_empty()));
        assert_eq!(all[off - 1].laid().unwrap().technique, BrushedCoat);
        assert_eq!(all[off + 1].laid().unwrap().technique, ClearWax);
        assert!(at(&Work::Buff) < at(&Work::HardwareOn) && all.last() == Some(&Work::Rest));
    }
}
