//! Readings that are impossible, whatever the paints.

use warm_blend_paint::FilmState;
use warm_blend_spectral::Lab;

use super::reading::{Measured, Reading, Shown, Source};

/// Greatest number of paints in a sample.
const MOST: usize = 8;

/// Why a reading is impossible. Indices refer to [`Reading::of`].
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum Senseless {
    /// A sample of nothing.
    #[error("set what was read: one paint, or a mix with its parts")]
    OfNothing,
    /// More paints than a painter mixes.
    #[error("{0} paints in one sample; the most is {MOST}")]
    TooMany(usize),
    /// One paint named twice.
    #[error("the same paint is listed twice; choose a different second paint")]
    AgainstItself,
    /// A mix lighter than the lightest of its paints.
    #[error(
        "not possible: L* {read:.1} is lighter than any paint in it (L* {most:.1}). Wet dab, dirty reader, wrong dab? If it is right, read the lightest paint alone"
    )]
    Lighter {
        /// Measured L*.
        read: f64,
        /// L* of the lightest paint.
        most: f64,
    },
    /// A mix darker than the darkest of its paints.
    #[error(
        "not possible: L* {read:.1} is darker than any paint in it (L* {least:.1}). Wrong dab? If it is right, read the darkest paint alone"
    )]
    Darker {
        /// Measured L*.
        read: f64,
        /// L* of the darkest paint.
        least: f64,
    },
    /// A drawdown that is lighter over black than over white.
    #[error("L* {black:.1} over black can’t be lighter than L* {white:.1} over white. Were the two swapped?")]
    Exchanged {
        /// L* over black.
        black: f64,
        /// L* over white.
        white: f64,
    },
    /// A drawdown of a mix that is not dry.
    #[error("read drawdowns dry; choose dry, or read a thick dab wet or sealed")]
    WetDrawdown,
}

/// Tolerance in L\* before a reading is called impossible: three standard deviations of both readings, plus a unit for
/// brushing out.
fn slack(source: Source) -> f64 {
    1.0 + 3.0 * source.off().hypot(Source::Chip.off())
}

/// Checks a reading against the dry masstones of its paints in daylight, in the order of [`Reading::of`]; `None` for a
/// medium.
pub fn make_sense<P: PartialEq>(reading: &Reading<P>, masstones: &[Option<Lab>]) -> Result<(), Senseless> {
    let n = reading.of.len();
    if n == 0 {
        return Err(Senseless::OfNothing);
    }
    if n > MOST {
        return Err(Senseless::TooMany(n));
    }
    if (0..n).any(|i| reading.of[..i].iter().any(|(paint, _)| *paint == reading.of[i].0)) {
        return Err(Senseless::AgainstItself);
    }
    match &reading.shown {
        Shown::Drawdown { .. } if reading.state != FilmState::Dry => Err(Senseless::WetDrawdown),
        Shown::Drawdown { over_black, over_white, .. } => {
            let (black, white) = (over_black.lab().l, over_white.lab().l);
            let chance = 3.0 * reading.source.off();
            if black > white + chance { Err(Senseless::Exchanged { black, white }) } else { Ok(()) }
        }
        Shown::Thick(measured) => between(reading, measured, masstones),
    }
}

/// Absorption and scattering add, so a thick dry mix is never lighter than its lightest paint or darker than its darkest,
/// band by band. What the painter insists on is accepted.
fn between<P>(reading: &Reading<P>, measured: &Measured, masstones: &[Option<Lab>]) -> Result<(), Senseless> {
    let Some(known) = masstones.iter().copied().collect::<Option<Vec<Lab>>>() else { return Ok(()) };
    if reading.of.len() < 2 || reading.state != FilmState::Dry || reading.sure {
        return Ok(());
    }
    let most = known.iter().map(|lab| lab.l).fold(f64::NEG_INFINITY, f64::max);
    let least = known.iter().map(|lab| lab.l).fold(f64::INFINITY, f64::min);
    let read = measured.lab().l;
    // Two hues of the same lightness make a darker mix, because absorption adds. So the lower limit applies only if one
    // of the paints is nearly neutral, as in a tint.
    let tint = known.iter().any(|lab| lab.chroma() < 12.0);
    let slack = slack(reading.source);
    if read > most + slack {
        Err(Senseless::Lighter { read, most })
    } else if tint && read < least - slack {
        Err(Senseless::Darker { read, least })
    } else {
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::PartsMethod;
    use warm_blend_paint::{Microns, Parts};

    fn lab(l: f64) -> Lab {
        Lab { l, a: 0.0, b: 2.0 }
    }

    fn tint(of: &[u8], l: f64) -> Reading<u8> {
        Reading {
            of: of.iter().map(|paint| (*paint, Parts::new(1.0).unwrap())).collect(),
            pour: PartsMethod::Spoons,
            state: FilmState::Dry,
            shown: Shown::Thick(Measured::Colour(lab(l))),
            source: Source::Reader,
            sure: false,
        }
    }

    #[test]
    fn a_tint_lies_between_its_paints() {
        let known = [Some(lab(30.0)), Some(lab(93.0))];
        assert_eq!(make_sense(&tint(&[1, 2], 61.0), &known), Ok(()));
        assert!(matches!(make_sense(&tint(&[1, 2], 99.0), &known), Err(Senseless::Lighter { .. })));
        assert!(matches!(make_sense(&tint(&[1, 2], 20.0), &known), Err(Senseless::Darker { .. })));
        assert_eq!(make_sense(&Reading { sure: true, ..tint(&[1, 2], 99.0) }, &known), Ok(()));
        assert_eq!(make_sense(&tint(&[1, 1], 61.0), &known), Err(Senseless::AgainstItself));
        assert_eq!(make_sense(&tint(&[], 61.0), &[]), Err(Senseless::OfNothing));
        assert_eq!(
            make_sense(&tint(&[1, 2], 99.0), &[Some(lab(30.0)), None]),
            Ok(()),
            "a medium is not known"
        );
    }

    #[test]
    fn over_white_is_never_the_darker() {
        let drawdown = |black, white, state| Reading {
            state,
            shown: Shown::Drawdown {
                wet: Microns::new(90.0).unwrap(),
                over_black: Measured::Colour(lab(black)),
                over_white: Measured::Colour(lab(white)),
            },
            ..tint(&[1], 0.0)
        };
        assert_eq!(make_sense(&drawdown(60.0, 70.0, FilmState::Dry), &[Some(lab(72.0))]), Ok(()));
        let exchanged = make_sense(&drawdown(70.0, 60.0, FilmState::Dry), &[Some(lab(72.0))]);
        assert!(matches!(exchanged, Err(Senseless::Exchanged { .. })));
        let wet = make_sense(&drawdown(60.0, 70.0, FilmState::Wet), &[Some(lab(72.0))]);
        assert_eq!(wet, Err(Senseless::WetDrawdown));
    }
}
