//! The page of a paint: its look in every light and state, what is known of it, and the next test.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_learn::{Ensemble, Estimate, Reads, ShelfPaint, Test};
use warm_blend_paint::{Drawdown, FilmState, Look, PaintId, Parts, Seen, Verdict};
use warm_blend_spectral::{Light, OnScreen};

use crate::{Paint, ReadingKept, Refusal, ShelfSnapshot};

/// The page of a paint.
#[derive(Debug, Serialize, ToSchema)]
pub struct PaintPage {
    /// The paint.
    pub paint: Paint,
    /// Drawdowns in every light (columns) and state (rows: wet, dry, sealed, buffed).
    pub looks: Vec<LooksInState>,
    /// Next step, in a sentence.
    pub advice: String,
    /// Benefit of each test, best first.
    pub tests: Vec<TestWorth>,
    /// Readings that include it, newest first.
    pub readings: Vec<ReadingKept>,
}

/// Look of a paint in one state.
#[derive(Debug, Serialize, ToSchema)]
pub struct LooksInState {
    /// `wet`, `dry` or `sealed`.
    pub state: FilmState,
    /// Looks by light, in the order of `/api/lights`.
    pub lights: Vec<LookInLight>,
    /// Difference from dry in daylight: `clearly darker`; empty for dry.
    pub words: String,
}

/// A drawdown in one light and state.
#[derive(Debug, Serialize, ToSchema)]
pub struct LookInLight {
    /// Its flat colour, a hex code.
    pub face: String,
    /// Colours over the white half, thick to thin, evenly spaced.
    pub over_white: Vec<String>,
    /// Colours over the black half.
    pub over_black: Vec<String>,
}

/// Benefit of a test.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestWorth {
    /// `tint-1-1`, `tint-1-4`, `darkened`, `masstone`, `drawdown` or `sealed`.
    pub test: &'static str,
    /// Current uncertainty of mixes, ΔE00.
    pub now: f64,
    /// Expected uncertainty after the test, ΔE00.
    pub after: f64,
    /// Sample of the test.
    pub of: Vec<TestPart>,
    /// In a sentence: `A 1 : 1 dab with chimney white would bring mixes with it from within ±4.1 to ±0.9.`
    pub words: String,
}

/// A part of the sample of a test.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestPart {
    /// Id of the paint.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// Parts by volume.
    pub parts: f64,
}

impl TestPart {
    fn new(paint: PaintId, parts: Parts, shelf: &ShelfSnapshot) -> Self {
        Self { paint: paint.0, name: shelf.name(paint.0).to_owned(), parts: parts.value() }
    }
}

impl PaintPage {
    /// The page of a tin; `used_in` is the number of mixes that use it.
    pub fn of(
        tin: &Kept<ShelfPaint>,
        used_in: usize,
        shelf: &ShelfSnapshot,
        look: Look,
    ) -> Result<Self, Refusal> {
        let mut readings: Vec<ReadingKept> =
            shelf.readings_of(tin.id).map(|(kept, judged)| ReadingKept::of(kept, judged, shelf)).collect();
        readings.reverse();
        let tests = tests(shelf, tin.id);
        Ok(Self {
            looks: looks(shelf.paint(tin.id)?),
            advice: advice(shelf, tin.id, &tests),
            tests,
            readings,
            paint: Paint::of(tin, used_in, shelf, look)?,
        })
    }
}

fn looks(ensemble: &Ensemble) -> Vec<LooksInState> {
    let lab = |state| Look { light: Light::Daylight, state }.face(ensemble.best()).lab;
    let row = |state: FilmState| {
        let material = ensemble.best().in_state(state);
        let face = material.swatch_reflectance();
        // Every third stop is enough for a small picture.
        let codes = |stops: &[OnScreen]| stops.iter().step_by(3).map(|stop| stop.srgb.to_string()).collect();
        let in_light = |light| {
            let Drawdown { over_white, over_black } = Drawdown::of(&material, light);
            LookInLight {
                face: Seen::of(&face, light).screen.srgb.to_string(),
                over_white: codes(&over_white),
                over_black: codes(&over_black),
            }
        };
        LooksInState {
            state,
            lights: Light::ALL.map(in_light).into(),
            words: match state {
                FilmState::Dry => String::new(),
                _ => Verdict::against(lab(state), lab(FilmState::Dry), "dry").words(),
            },
        }
    };
    FilmState::ALL.map(row).into()
}

/// Tests of a paint, most helpful first.
fn tests(shelf: &ShelfSnapshot, id: Uuid) -> Vec<TestWorth> {
    let worth = shelf.estimate().worth(PaintId(id), Reads::Spectra);
    let tell = |(test, after): (Test, f64)| {
        let sample = shelf.estimate().sample(test, PaintId(id)).unwrap_or_default();
        let other =
            sample.get(1).map_or("the house white".to_owned(), |(other, _)| shelf.name(other.0).to_owned());
        let how = match test {
            Test::TintHalf => format!("A 1 : 1 tint with {other}"),
            Test::TintFifth => format!("A tint with 4 parts {other}"),
            Test::Darkened => format!("A mix of 4 parts with 1 part {other}"),
            Test::Masstone => "A thick dry dab of it alone".to_owned(),
            Test::Drawdown => "A drawdown over black and white".to_owned(),
            Test::Sealed => "The dab under clear wax".to_owned(),
        };
        // The benefit must show with one decimal.
        let words = if after < worth.doubt - 0.05 {
            format!("{how} would make its mixes surer: ±{after:.1}, not ±{:.1}.", worth.doubt)
        } else {
            format!("{how} would add little.")
        };
        TestWorth {
            test: test.id(),
            now: worth.doubt,
            after,
            of: sample.iter().map(|(paint, parts)| TestPart::new(*paint, *parts, shelf)).collect(),
            words,
        }
    };
    worth.after.into_iter().map(tell).collect()
}

/// The next step.
fn advice(shelf: &ShelfSnapshot, id: Uuid, tests: &[TestWorth]) -> String {
    let estimate: &Estimate = shelf.estimate();
    let questioned = shelf.readings_of(id).any(|(kept, judged)| shelf.asks_about(id, kept, judged));
    if questioned {
        return "A reading contradicts the others. Choose below which one is right.".to_owned();
    }
    if shelf.house_white().is_none() {
        return "Choose the house white first: one tint with it tells most about a paint.".to_owned();
    }
    let next = match tests.iter().find(|test| test.after < 0.85 * test.now) {
        Some(best) => format!("Test next: {}", best.words),
        None if tests.is_empty() => "Nothing to test.".to_owned(),
        None => format!(
            "Good enough: ±{:.1} in mixes. No single test would improve it much.",
            estimate.doubt(PaintId(id))
        ),
    };
    match shelf.is_house_white(id) {
        true => format!("This is the house white: make every tint with {}. {next}", shelf.name(id)),
        false => next,
    }
}
