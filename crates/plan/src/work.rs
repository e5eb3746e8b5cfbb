//! What is to be done on a zone, from bare to handed over, and what of it is done.

use serde::{Deserialize, Serialize};
use warm_blend_board::{Family, GroundKind, Hand, Layer, Technique};
use warm_blend_paint::{Class, MixPart};
use warm_blend_piece::{Age, Zone};

/// A thing that is done on one zone or on several at one go.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Work {
    /// Handles, hinges, keys and what else comes off.
    HardwareOff,
    /// Old paint is tested for lead, before anything is sanded.
    LeadTest,
    /// Washed down.
    Clean,
    /// Rinsed with clear water.
    Rinse,
    /// The gloss taken off with a liquid; it dries in about ten minutes, without rinsing.
    Deglaze,
    /// The gloss taken off by sanding.
    Scuff,
    /// What stays as it is is taped.
    Tape,
    /// A layer of the finish, or one coat of several.
    Layer(Laid),
    /// What makes it look old, where no layer of a board does.
    Age(Age),
    /// Wax taken off again: what follows would not hold on it.
    WaxOff,
    /// A layer that is not wanted any more is scuffed, so that what covers it holds.
    ScuffBack,
    /// What came off comes back on, and tape off.
    HardwareOn,
    /// Waxes buffed.
    Buff,
    /// Left alone until it can be moved.
    Rest,
}

/// One coat of a layer.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Laid {
    /// How.
    pub technique: Technique,
    /// What was in the pot.
    pub pot: Vec<MixPart>,
    /// How it is done, once.
    pub hand: Hand,
    /// Which coat of how many.
    pub coat: (u8, u8),
}

/// A layer that is to lie on a zone.
#[derive(Debug, Clone, PartialEq)]
pub struct LayerWork {
    /// How.
    pub technique: Technique,
    /// What is in the pot; nothing where the technique says what.
    pub pot: Vec<MixPart>,
    /// How it is done.
    pub hand: Hand,
}

/// What a zone is to become.
#[derive(Debug, Clone, PartialEq)]
pub struct ZoneWork {
    /// Which.
    pub zone: Zone,
    /// m².
    pub area: f64,
    /// Edges, m.
    pub edge: f64,
    /// Share of it that is recess and edge, beyond that of a flat board: 0 flat, 0.5 carved.
    pub relief: f64,
    /// The largest of its parts that have no break in them, m².
    pub largest: f64,
    /// What is there now.
    pub ground: GroundKind,
    /// From the ground up.
    pub layers: Vec<LayerWork>,
    /// What makes it look old on top.
    pub ages: Vec<Age>,
}

impl From<&Layer> for LayerWork {
    fn from(layer: &Layer) -> Self {
        Self { technique: layer.technique, pot: layer.pot.clone(), hand: layer.hand }
    }
}

impl LayerWork {
    /// Coat by coat where each dries before the next; else all of it at one go.
    pub fn coats(&self) -> impl Iterator<Item = Laid> {
        let coats = if is_coat(self.technique) { self.hand.passes.value() } else { 1 };
        let once = Hand { passes: Hand::default().passes, ..self.hand };
        let hand = if coats > 1 { once } else { self.hand };
        (1..=coats).map(move |coat| Laid {
            technique: self.technique,
            pot: self.pot.clone(),
            hand,
            coat: (coat, coats),
        })
    }
}

impl Work {
    /// The layer, where it is one.
    pub const fn laid(&self) -> Option<&Laid> {
        match self {
            Work::Layer(laid) => Some(laid),
            _ => None,
        }
    }
}

impl Laid {
    /// What is in the pot by class and parts, by what `class` says of tins; the usual product of a technique without a pot.
    pub fn inside(&self, class: impl Fn(warm_blend_paint::PaintId) -> Option<Class>) -> Vec<(Class, f64)> {
        if self.pot.is_empty() {
            return self.technique.product().into_iter().map(|class| (class, 1.0)).collect();
        }
        self.pot.iter().filter_map(|part| Some((class(part.paint)?, f64::from(part.parts.value())))).collect()
    }

    /// True of wax, clear or with colour, and of gilding: nothing but wax holds on it.
    pub const fn is_waxy(&self) -> bool {
        is_wax(self.technique) || matches!(self.technique.family(), Family::Gild)
    }
}

/// All that is to be done on a zone, in its order.
pub fn wanted(zone: &ZoneWork, hardware: bool, taped: bool) -> Vec<Work> {
    let mut all = Vec::new();
    if hardware {
        all.push(Work::HardwareOff);
    }
    if zone.ground.may_hold_lead() {
        all.push(Work::LeadTest);
    }
    if !zone.ground.is_primed() {
        all.extend([Work::Clean, Work::Rinse]);
        // A liquid on what is varnished or stained; bare wood is sanded along its grain.
        all.push(match zone.ground {
            GroundKind::RedStain => Work::Deglaze,
            _ => Work::Scuff,
        });
    }
    if taped {
        all.push(Work::Tape);
    }
    for layer in &zone.layers {
        all.extend(layer.coats().map(Work::Layer));
    }
    all.extend(zone.ages.iter().map(|age| Work::Age(*age)));
    if hardware || taped {
        all.push(Work::HardwareOn);
    }
    if zone.layers.iter().any(|layer| is_wax(layer.technique)) {
        all.push(Work::Buff);
    }
    all.push(Work::Rest);
    all
}

/// True of what dries between one coat and the next.
const fn is_coat(technique: Technique) -> bool {
    matches!(technique.family(), Family::Coat | Family::Seal)
}

/// True of wax, clear or with colour.
pub(crate) const fn is_wax(technique: Technique) -> bool {
    matches!(technique, Technique::ClearWax) || matches!(technique.family(), Family::Wax)
}

/// What is still to be done where some was done already, in the order it was done.
///
/// As long as what was done is what is wanted, it goes on from there. Where the painter has changed their mind, what lies there and
/// is not wanted is covered: wax comes off first, or else it is scuffed, and the work goes on from the last closed coat, which hides
/// it. Preparation is not done twice.
pub fn still_to_do(wanted: &[Work], done: &[&Work]) -> Vec<Work> {
    let lies = |work: &&Work| matches!(work, Work::Layer(_) | Work::Age(_));
    let layers: Vec<&Work> = wanted.iter().filter(lies).collect();
    // How many of the wanted layers lie there, and whether the unwanted on top of them are waxed.
    let (mut good, mut unwanted) = (0, None);
    for work in done {
        match work {
            Work::WaxOff | Work::ScuffBack if unwanted.take().is_some() => {
                good = hidden_from(&layers, good);
            }
            work if lies(work) => {
                if unwanted.is_none() && layers.get(good) == Some(work) {
                    good += 1;
                } else {
                    let waxy = work.laid().is_some_and(Laid::is_waxy);
                    unwanted = Some(waxy || unwanted == Some(true));
                }
            }
            _ => {}
        }
    }
    let bridge = unwanted.map(|waxy| if waxy { Work::WaxOff } else { Work::ScuffBack });
    let from = if bridge.is_some() { hidden_from(&layers, good) } else { good };
    let begun_again = from < layers.len();
    let first = wanted.iter().position(|work| lies(&work)).unwrap_or(wanted.len());
    let last = wanted.iter().rposition(|work| lies(&work)).map_or(first, |last| last + 1);
    let left = |work: &&Work| !done.contains(work);
    let before = wanted[..first].iter().filter(left).cloned();
    let finish = wanted[last..].iter().filter(|work| begun_again || left(work)).cloned();
    before.chain(bridge).chain(layers[from..].iter().map(|work| (*work).clone())).chain(finish).collect()
}

/// From which layer on it is laid anew, so that what lies on the first `good` is hidden: the last closed coat that comes no later, or
/// the first layer of all.
fn hidden_from(layers: &[&Work], good: usize) -> usize {
    let hides = |work: &Work| {
        work.laid().is_some_and(|laid| laid.technique.family() == Family::Coat && laid.coat.0 == 1)
    };
    (0..layers.len().min(good + 1)).rev().find(|at| hides(layers[*at])).unwrap_or(0)
}

#[cfg(test)]
pub(crate) mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_board::Passes;
    use warm_blend_paint::{PaintId, WholeParts};

    pub(crate) fn pot(paint: u128) -> Vec<MixPart> {
        vec![MixPart { paint: PaintId(uuid::Uuid::from_u128(paint)), parts: WholeParts::new(1).unwrap() }]
    }

    pub(crate) fn layer(technique: Technique, paint: u128, passes: u8) -> LayerWork {
        let pot = if technique.needs_no_pot() { Vec::new() } else { pot(paint) };
        LayerWork { technique, pot, hand: Hand { passes: Passes::new(passes).unwrap(), ..Hand::default() } }
    }

    pub(crate) fn zone(zone: Zone, area: f64, layers: Vec<LayerWork>) -> ZoneWork {
        ZoneWork {
            zone,
            area,
            edge: 4.0,
            relief: 0.0,
            largest: area,
            ground: GroundKind::RedStain,
            layers,
            ages: Vec::new(),
        }
    }

    pub(crate) fn any_layers() -> impl Strategy<Value = Vec<LayerWork>> {
        let technique = proptest::sample::select(Technique::ALL.to_vec());
        proptest::collection::vec((technique, 0u128..4, 1u8..4), 1..7).prop_map(|all| {
            all.into_iter().map(|(technique, paint, passes)| layer(technique, paint, passes)).collect()
        })
    }

    fn of(layers: Vec<LayerWork>) -> Vec<Work> {
        wanted(&zone(Zone::Case, 1.0, layers), true, true)
    }

    proptest! {
        /// Whatever was done of it, what was done and what is left are all there is, in that order.
        #[test]
        fn it_goes_on_where_it_was_left(layers in any_layers(), done in 0.0..1.0f64) {
            let all = of(layers);
            let n = (done * all.len() as f64) as usize;
            let left = still_to_do(&all, &all[..n].iter().collect::<Vec<_>>());
            prop_assert_eq!(&left, &all[n..]);
        }

        /// After a change of mind every wanted layer lies on top in its order, and begins with one that hides what was there,
        /// or with the first.
        #[test]
        fn a_change_of_mind_ends_as_it_is_wanted(first in any_layers(), then in any_layers(), done in 0.0..1.0f64) {
            let (before, after) = (of(first), of(then));
            let n = (done * before.len() as f64) as usize;
            let done: Vec<&Work> = before[..n].iter().collect();
            let left = still_to_do(&after, &done);
            let layers = |all: &[Work]| all.iter().filter(|work| work.laid().is_some()).cloned().collect::<Vec<_>>();
            let (wanted, planned) = (layers(&after), layers(&left));
            prop_assert!(wanted.ends_with(&planned), "{:?} for {:?}", planned, wanted);
            let kept = wanted.len() - planned.len();
            let laid = layers(&before[..n]);
            prop_assert_eq!(&laid[..kept.min(laid.len())], &wanted[..kept]);
            prop_assert!(left.last() == Some(&Work::Rest) || (planned.is_empty() && done.contains(&&Work::Rest)));
        }
    }

    #[test]
    fn over_wax_the_wax_comes_off_first() {
        use Technique::{BrushedCoat, ClearWax, DryBrush, TintedWax};
        let waxed = of(vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1)]);
        let other = of(vec![layer(BrushedCoat, 2, 2), layer(DryBrush, 3, 1), layer(TintedWax, 3, 1)]);
        let done: Vec<&Work> = waxed.iter().collect();
        let left = still_to_do(&other, &done);
        assert_eq!(left.first(), Some(&Work::WaxOff));
        assert_eq!(left.iter().filter(|work| work.laid().is_some()).count(), 4, "all of it anew: {left:?}");
        assert!(!left.contains(&Work::Clean), "it is clean");
        assert!(left.contains(&Work::Buff) && left.contains(&Work::Rest));
    }
}
