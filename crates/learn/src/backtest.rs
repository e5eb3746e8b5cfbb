//! Backtesting: compares each reading with what was predicted before it was taken.
//!
//! A mix is predicted from its own tins and from earlier readings of them alone. So each forecast takes the same time
//! after years of readings as on the first day, and never depends on the reading it is compared with.

use std::collections::{HashMap, HashSet};

use rayon::prelude::*;
use warm_blend_paint::{Material, PaintId, Parts};
use warm_blend_spectral::{Lab, Light, difference};

use crate::{BadTin, Ensemble, Estimate, OfShelf, Reading, Shown};

/// 90 % quantile of |N(0, 1)|.
const NINE_OF_TEN: f64 = 1.645;

/// 90 % quantile of a three-dimensional normal distance relative to its root mean square: √(6.251/3), since χ² of three
/// degrees of freedom is 6.251 at 0.9 (handbook tables) and its mean is 3.
const NINE_COLOURS_OF_TEN: f64 = 1.4435;

/// A reading and its forecast.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Backtested {
    /// Index of the reading in the list.
    pub reading: usize,
    /// Predicted colour, in daylight.
    pub expected: Lab,
    /// Measured colour.
    pub read: Lab,
    /// Difference between the two, ΔE00.
    pub difference: f64,
    /// Predicted 90 % limit of that difference: from the mix, the reading and the measuring of its parts.
    pub within: f64,
}

impl Backtested {
    /// True if the reading lay within the predicted limit.
    pub fn held(&self) -> bool {
        self.difference <= self.within
    }
}

/// A shelf and its readings, in the order of the log.
#[derive(Debug, Clone, Copy)]
pub struct LogOf<'a> {
    /// The tins.
    pub paints: &'a [OfShelf],
    /// The readings.
    pub readings: &'a [Reading<PaintId>],
}

impl LogOf<'_> {
    /// Forecasts that are still valid: those made in `before` for the same reading, tins and earlier readings.
    pub fn keep(self, answer: &[Backtested], before: Self) -> Vec<Backtested> {
        let same = self.readings.iter().zip(before.readings).take_while(|(now, then)| now == then).count();
        let then: HashMap<PaintId, &OfShelf> = before.paints.iter().map(|tin| (tin.id, tin)).collect();
        let unchanged = self.paints.iter().filter(|tin| then.get(&tin.id) == Some(tin));
        let unchanged: HashSet<PaintId> = unchanged.map(|tin| tin.id).collect();
        let holds = |one: &&Backtested| {
            one.reading < same
                && self.readings[one.reading].of.iter().all(|(paint, _)| unchanged.contains(paint))
        };
        answer.iter().filter(holds).copied().collect()
    }
}

/// Forecasts of the last `most` thick samples, oldest first, reusing those in `known`. Samples of unknown tins are left
/// out.
pub fn backtest(
    LogOf { paints, readings }: LogOf,
    most: usize,
    known: &[Backtested],
) -> Result<Vec<Backtested>, BadTin> {
    let known: HashMap<usize, Backtested> = known.iter().map(|one| (one.reading, *one)).collect();
    let thick = |at: &usize| matches!(readings[*at].shown, Shown::Thick(_));
    let mut last: Vec<usize> = (0..readings.len()).rev().filter(thick).take(most).collect();
    last.reverse();
    let each = last.into_par_iter().map(|at| match known.get(&at) {
        Some(known) => Ok(Some(*known)),
        None => predicted(paints, readings, at),
    });
    Ok(each.collect::<Result<Vec<_>, _>>()?.into_iter().flatten().collect())
}

/// A mix as predicted from readings of its own tins alone; `None` if one of them is not among the paints.
pub fn predicted_mix<'a>(
    paints: &[OfShelf],
    read: impl Iterator<Item = &'a Reading<PaintId>>,
    mix: &[(PaintId, Parts)],
) -> Result<Option<Ensemble>, BadTin> {
    Ok(known_by(paints, read, mix)?.map(|(_, mixed)| mixed))
}

/// A mix as predicted, with its tins.
type KnownMix = (Vec<(Parts, Ensemble)>, Ensemble);

fn known_by<'a>(
    paints: &[OfShelf],
    read: impl Iterator<Item = &'a Reading<PaintId>>,
    mix: &[(PaintId, Parts)],
) -> Result<Option<KnownMix>, BadTin> {
    let inside = |paint: PaintId| mix.iter().any(|(of, _)| *of == paint);
    let tins: Vec<OfShelf> = paints.iter().filter(|tin| inside(tin.id)).copied().collect();
    let alone = |other: &&Reading<PaintId>| other.of.iter().all(|(paint, _)| inside(*paint));
    let read: Vec<Reading<PaintId>> = read.filter(alone).cloned().collect();
    let known = Estimate::of(&tins, &read)?;
    let of: Option<Vec<(Parts, Ensemble)>> =
        mix.iter().map(|(paint, parts)| Some((*parts, known.paint(*paint)?.clone()))).collect();
    let Some(of) = of else { return Ok(None) };
    let stirred: Vec<(Parts, &Ensemble)> = of.iter().map(|(parts, tin)| (*parts, tin)).collect();
    let mixed = Ensemble::mix(&stirred).ok();
    Ok(mixed.map(|mixed| (of, mixed)))
}

fn predicted(
    paints: &[OfShelf],
    readings: &[Reading<PaintId>],
    at: usize,
) -> Result<Option<Backtested>, BadTin> {
    let reading = &readings[at];
    let Shown::Thick(measured) = &reading.shown else { return Ok(None) };
    let Some((of, mixed)) = known_by(paints, readings[..at].iter(), &reading.of)? else { return Ok(None) };
    let mixed = mixed.in_state(reading.state);
    let expected = mixed.best().seen_lab(Light::Daylight);
    let read = measured.lab();
    let poured = poured(&of, reading, expected);
    let own = NINE_COLOURS_OF_TEN * reading.source.off();
    let within = mixed.doubt(Light::Daylight).within.hypot(own).hypot(poured);
    Ok(Some(Backtested {
        reading: at,
        expected,
        read,
        difference: difference(expected, read).value(),
        within,
    }))
}

/// 90 % limit of the change of colour, ΔE00, caused by errors in the parts.
fn poured(of: &[(Parts, Ensemble)], reading: &Reading<PaintId>, expected: Lab) -> f64 {
    if of.len() < 2 {
        return 0.0;
    }
    let more = (NINE_OF_TEN * reading.pour.sd()).exp();
    let moved = |one: usize| {
        let parts: Option<Vec<(Parts, &Material)>> = of
            .iter()
            .enumerate()
            .map(|(n, (parts, known))| {
                let factor = if n == one { more } else { 1.0 };
                Some((Parts::new(parts.value() * factor).ok()?, known.best()))
            })
            .collect();
        let mixed = warm_blend_paint::mix(&parts?).ok()?.in_state(reading.state);
        Some(difference(mixed.seen_lab(Light::Daylight), expected).value())
    };
    (0..of.len()).filter_map(moved).fold(0.0, f64::hypot)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Measured, PartsMethod, ShelfPaint, Source};
    use uuid::Uuid;
    use warm_blend_paint::{Class, FilmState, Masstone, Name};

    fn tin(id: u128, hex: &str) -> OfShelf {
        let name = Name::new(hex).unwrap();
        let tin = ShelfPaint::new(name, Class::Chalk, Some(Masstone::Hex(hex.parse().unwrap())));
        OfShelf { id: PaintId(Uuid::from_u128(id)), facts: tin.facts(false), at_hand: true }
    }

    fn reading(of: &[(PaintId, f64)], lab: Lab) -> Reading<PaintId> {
        Reading {
            of: of.iter().map(|(paint, parts)| (*paint, Parts::new(*parts).unwrap())).collect(),
            pour: PartsMethod::Scale,
            state: FilmState::Dry,
            shown: Shown::Thick(Measured::Colour(lab)),
            source: Source::Reader,
            sure: false,
        }
    }

    /// Where the truth is one of the shelves that are thought possible, nine forecasts of ten hold; and what was read makes the next
    /// one surer.
    #[test]
    fn nine_of_ten_hold_and_reading_helps() {
        let (mut held, mut all) = (0, 0);
        for n in 0..40u128 {
            let white = tin(1000 + n, "#f0ede6");
            let paint = tin(n + 1, ["#53687a", "#a8573f", "#27443a", "#c2953a"][n as usize % 4]);
            let known = Estimate::of(&[white, paint], &[]).unwrap();
            let member = |id| known.paint(id).unwrap().members().nth(n as usize * 3 % 100).unwrap();
            let (w, p) = (member(white.id), member(paint.id));
            let truth = |parts: [f64; 2]| {
                let of = [(Parts::new(parts[0]).unwrap(), &p), (Parts::new(parts[1]).unwrap(), &w)];
                warm_blend_paint::mix(&of).unwrap().seen_lab(Light::Daylight)
            };
            let readings = [[1.0, 1.0], [1.0, 4.0]]
                .map(|parts| reading(&[(paint.id, parts[0]), (white.id, parts[1])], truth(parts)));
            let answer = backtest(LogOf { paints: &[white, paint], readings: &readings }, 10, &[]).unwrap();
            assert_eq!(answer.len(), 2);
            assert!(answer[1].within <= answer[0].within + 0.5, "{answer:?}");
            held += usize::from(answer[0].held());
            all += 1;
        }
        let share = f64::from(u32::try_from(held).unwrap()) / f64::from(all);
        assert!((0.78..=1.0).contains(&share), "{share} of the first forecasts held");
    }

    /// Of colours that are off in three directions by the same sd, nine of ten are as near as is said of them, not nineteen of
    /// twenty.
    #[test]
    fn nine_colours_of_ten_are_as_near_as_said() {
        let off = crate::draws::unit_normals(crate::draws::Whose::Test(1), 3);
        let far: Vec<f64> = off.column_iter().map(|off| (off.norm_squared() / 3.0).sqrt()).collect();
        let share =
            |most: f64| far.iter().filter(|far| **far <= most).count() as f64 / crate::draws::MEMBERS as f64;
        assert!((NINE_COLOURS_OF_TEN.powi(2) * 3.0 - 6.251).abs() < 0.001);
        assert!((0.85..=0.95).contains(&share(NINE_COLOURS_OF_TEN)), "{}", share(NINE_COLOURS_OF_TEN));
        assert!(share(NINE_OF_TEN) > share(NINE_COLOURS_OF_TEN));
    }

    #[test]
    fn the_last_ones_and_what_is_unknown() {
        let (white, paint) = (tin(1, "#f0ede6"), tin(2, "#53687a"));
        let lab = Lab { l: 60.0, a: -3.0, b: -10.0 };
        let unknown = PaintId(Uuid::from_u128(77));
        let all = [
            reading(&[(paint.id, 1.0), (white.id, 1.0)], lab),
            reading(&[(unknown, 1.0)], lab),
            reading(&[(paint.id, 1.0)], lab),
        ];
        let paints = [white, paint];
        let log = LogOf { paints: &paints, readings: &all };
        let answer = backtest(log, 10, &[]).unwrap();
        assert_eq!(answer.iter().map(|one| one.reading).collect::<Vec<_>>(), [0, 2]);
        assert_eq!(backtest(log, 1, &[]).unwrap().len(), 1);
        // What is said of the second knows nothing of itself.
        let other = [all[0].clone(), all[1].clone(), reading(&[(paint.id, 1.0)], Lab { l: 20.0, ..lab })];
        let elsewhere = backtest(LogOf { paints: &paints, readings: &other }, 10, &[]).unwrap();
        assert_eq!(elsewhere[1].expected, answer[1].expected);
    }

    /// However the log and the shelf have changed, what is kept of what was said and shown on is what is said anew, to the bit; and
    /// what nothing has touched is kept.
    #[test]
    fn what_is_kept_is_what_would_be_said_anew() {
        let mut tins = vec![tin(1, "#f0ede6"), tin(2, "#53687a"), tin(3, "#a8573f")];
        let read = |paint: usize, parts: f64, l: f64| {
            reading(&[(tins[paint].id, 1.0), (tins[0].id, parts)], Lab { l, a: 3.0, b: -6.0 })
        };
        let all: Vec<_> = (0..6).map(|n| read(1 + n % 2, 1.0 + n as f64, 50.0 + 5.0 * n as f64)).collect();
        let before = tins.clone();
        let then = LogOf { paints: &before, readings: &all[..5] };
        let answer = backtest(then, 4, &[]).unwrap();
        assert_eq!(answer.iter().map(|one| one.reading).collect::<Vec<_>>(), [1, 2, 3, 4]);
        let kept_and_anew = |paints: &[OfShelf], readings: &[Reading<PaintId>]| {
            let now = LogOf { paints, readings };
            let kept = now.keep(&answer, then);
            assert_eq!(backtest(now, 4, &kept).unwrap(), backtest(now, 4, &[]).unwrap());
            kept.iter().map(|one| one.reading).collect::<Vec<_>>()
        };
        assert_eq!(kept_and_anew(&tins, &all), [1, 2, 3, 4]);
        // One is taken away: what came after it is another reading, or was said knowing it.
        let without: Vec<_> =
            all.iter().enumerate().filter(|(n, _)| *n != 2).map(|(_, one)| one.clone()).collect();
        assert_eq!(kept_and_anew(&tins, &without), [1]);
        // A tin is another colour, or gone: what it was in is said anew.
        tins[2] = OfShelf { id: tins[2].id, ..tin(3, "#27443a") };
        assert_eq!(kept_and_anew(&tins, &all), [2, 4]);
        assert_eq!(kept_and_anew(&tins[..2], &all), [2, 4]);
    }
}
