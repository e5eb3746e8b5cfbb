//! Readings of real boards: comparison with predictions, and what they reveal about the hand.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Board, BoardJudgement, BoardReading, BoardSpot, LearnedHand, Letter, Place, Technique,
};
use warm_blend_documents::Kept;
use warm_blend_interchange::hex;
use warm_blend_learn::{Measured, Source};
use warm_blend_paint::{FilmState, Note, Verdict};
use warm_blend_spectral::Lab;

use crate::{Checks, MeasuredEntry, Refusal, ShelfSnapshot};

/// A spot to read.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SpotToRead {
    /// `A` to `F`.
    #[schema(value_type = String)]
    pub strip: Letter,
    /// `field`, `recess` or `edge`.
    #[schema(value_type = String)]
    pub place: Place,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
}

/// Reading of a spot.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpotRead {
    /// Name of the device. `simulated reader` is a simulation: a virtual painter paints the board with virtual paints.
    pub device: String,
    /// The measurement.
    pub measured: MeasuredEntry,
    /// Its colour on a screen in daylight.
    pub hex: String,
}

/// A reading of a painted strip, as entered.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardReadingEntry {
    /// `A` to `F`.
    #[schema(value_type = String)]
    pub strip: Letter,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
    /// Origin: `reader` (default), `photo`, `chip` or `guess`.
    pub source: Option<Source>,
    /// One to nine spots.
    pub spots: Vec<BoardSpotEntry>,
    /// The painter's note.
    pub note: Option<String>,
}

/// A measured spot.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardSpotEntry {
    /// `field`, `recess` or `edge`.
    #[schema(value_type = String)]
    pub place: Place,
    /// The measurement.
    pub measured: MeasuredEntry,
}

/// A reading of a painted strip, compared with its prediction.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardReadingKept {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision, to be sent with a change.
    pub revision: i64,
    /// Time of the reading, RFC 3339.
    pub made_at: String,
    /// `A` to `F`.
    pub strip: String,
    /// `dry`, `wet` or `sealed`.
    pub state: FilmState,
    /// Measured spots.
    pub spots: Vec<SpotKept>,
    /// True if it is so unlikely that it is left out until the painter confirms it.
    pub questioned: bool,
    /// Distance from the prediction, in standard deviations.
    pub off: f64,
    /// Mean ΔE00 of its spots from the prediction for an average hand.
    pub usual_difference: f64,
    /// Mean ΔE00 of its spots from the prediction for this hand.
    pub difference: f64,
    /// The painter's note.
    pub note: Option<String>,
}

/// A spot of a reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpotKept {
    /// `field`, `recess` or `edge`.
    pub place: &'static str,
    /// Measured colour on a screen in daylight.
    pub hex: String,
    /// Colour predicted for an average hand.
    pub usual_hex: Option<String>,
    /// Colour predicted for this hand.
    pub predicted_hex: Option<String>,
    /// ΔE00 between reading and the prediction for an average hand.
    pub usual_difference: Option<f64>,
    /// ΔE00 between reading and the prediction for this hand.
    pub difference: Option<f64>,
    /// The reading compared with the current prediction: `a touch darker than predicted`.
    pub words: String,
}

/// What a new reading of a board revealed.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardReadingMade {
    /// The reading.
    pub reading: BoardReadingKept,
    /// This hand in the techniques of the strip.
    pub hands: Vec<HandKnown>,
}

/// This hand in one technique.
#[derive(Debug, Serialize, ToSchema)]
pub struct HandKnown {
    /// `glaze-wiped` …
    pub technique: &'static str,
    /// `Glaze, wiped` …
    pub name: &'static str,
    /// Factor on the usual film.
    pub film: f64,
    /// Factor within which the true film lies in nine cases of ten.
    pub within: f64,
    /// Number of readings of boards.
    pub boards: usize,
    /// As text: `leaves about 1.4 times the usual film, and covers more`.
    pub words: String,
}

/// A change of a board reading.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardReadingChange {
    /// True to confirm it although it is unlikely.
    pub sure: bool,
    /// The painter's note.
    pub note: Option<String>,
}

impl BoardSpotEntry {
    /// Spots of one reading. Accepts one too many, so that the reading itself reports the excess.
    pub fn parse_all(spots: &[Self], at: &str, checks: &mut Checks) -> Vec<BoardSpot> {
        let spots = spots.iter().take(BoardReading::SPOTS + 1).enumerate();
        spots
            .filter_map(|(i, spot)| {
                let measured = spot.measured.parse(checks, &format!("{at}/{i}/measured"))?;
                Some(BoardSpot { place: spot.place, measured })
            })
            .collect()
    }
}

impl HandKnown {
    fn of(hands: &LearnedHand, technique: Technique) -> Self {
        let (habit, within) = (hands.habit(technique), hands.within(technique));
        Self {
            technique: technique.id(),
            name: technique.name(),
            film: habit.film,
            within,
            boards: hands.boards(technique),
            words: habit.words(technique),
        }
    }

    /// The hand in all techniques with readings.
    pub fn all(hands: &LearnedHand) -> Vec<Self> {
        let read = Technique::ALL.into_iter().filter(|technique| hands.boards(*technique) > 0);
        read.map(|technique| Self::of(hands, technique)).collect()
    }
}

impl BoardReadingKept {
    fn of(kept: &Kept<BoardReading>, judged: Option<&BoardJudgement>) -> Self {
        let reading = &kept.value;
        let spot = |(i, spot): (usize, &BoardSpot)| {
            let shown =
                |of: fn(&BoardJudgement) -> &Vec<Lab>| judged.and_then(|judged| of(judged).get(i).copied());
            let (usual, predicted) = (shown(|judged| &judged.usual), shown(|judged| &judged.predicted));
            let read = spot.measured.lab();
            let off = |lab: Lab| Verdict::of(read, lab).difference.value();
            SpotKept {
                place: spot.place.id(),
                hex: hex(&spot.measured),
                usual_hex: usual.map(|lab| hex(&Measured::Colour(lab))),
                predicted_hex: predicted.map(|lab| hex(&Measured::Colour(lab))),
                usual_difference: usual.map(off),
                difference: predicted.map(off),
                words: predicted
                    .map_or_else(String::new, |lab| Verdict::against(read, lab, "predicted").words()),
            }
        };
        let spots: Vec<SpotKept> = reading.spots().iter().enumerate().map(spot).collect();
        let off = |of: fn(&SpotKept) -> Option<f64>| mean(spots.iter().filter_map(of));
        Self {
            usual_difference: off(|spot| spot.usual_difference),
            difference: off(|spot| spot.difference),
            id: kept.id,
            revision: kept.revision,
            made_at: kept.made_at.to_string(),
            strip: reading.letter().to_string(),
            state: reading.state,
            spots,
            questioned: judged.is_some_and(|judged| judged.questioned),
            off: judged.map_or(0.0, |judged| judged.off),
            note: reading.note.clone().map(String::from),
        }
    }
}

/// Mean of some differences; 0 without any.
fn mean(of: impl Iterator<Item = f64>) -> f64 {
    let (sum, n) = of.fold((0.0, 0.0), |(sum, n), off| (sum + off, n + 1.0));
    if n > 0.0 { sum / n } else { 0.0 }
}

impl SpotToRead {
    /// The spot on a board.
    pub fn parse(&self, id: Uuid, board: &Board) -> Result<(Letter, Place, FilmState), Refusal> {
        let Self { strip, place, state } = *self;
        let state = state.unwrap_or_default();
        // A reading that could not be saved is refused before it is made.
        let nothing = BoardSpot { place, measured: Measured::Colour(Lab { l: 0.0, a: 0.0, b: 0.0 }) };
        BoardReading::new((id, board), strip, (state, Source::Reader), vec![nothing])
            .map_err(|error| Refusal::field("/strip", error))?;
        Ok((strip, place, state))
    }
}

impl BoardReadingEntry {
    /// The reading of a board.
    pub fn parse(&self, id: Uuid, board: &Board) -> Result<BoardReading, Refusal> {
        let mut checks = Checks::default();
        let note = checks.optional("/note", self.note.as_deref().map(Note::new)).flatten();
        let spots = BoardSpotEntry::parse_all(&self.spots, "/spots", &mut checks);
        checks.done(Some(()))?;
        let read_with = (self.state.unwrap_or_default(), self.source.unwrap_or(Source::Reader));
        let mut reading = BoardReading::new((id, board), self.strip, read_with, spots)
            .map_err(|error| Refusal::field("/spots", error))?;
        reading.note = note;
        Ok(reading)
    }
}

impl BoardReadingChange {
    /// Applies the change to a reading.
    pub fn applied_to(&self, mut reading: BoardReading) -> Result<BoardReading, Refusal> {
        let mut checks = Checks::default();
        let note = checks.optional("/note", self.note.as_deref().map(Note::new)).flatten();
        (reading.sure, reading.note) = (self.sure, checks.done(Some(note))?);
        Ok(reading)
    }
}

impl ShelfSnapshot {
    /// Readings of a board, latest first.
    pub fn readings_of_board(&self, board: Uuid) -> Vec<BoardReadingKept> {
        let of_board = self.boards().iter().filter(|(kept, _)| kept.value.board == board).rev();
        of_board.map(|(kept, judged)| BoardReadingKept::of(kept, judged.as_ref())).collect()
    }

    /// One reading of a board.
    pub fn board_reading(&self, id: Uuid) -> Result<BoardReadingKept, Refusal> {
        let (kept, judged) = self.boards().iter().find(|(kept, _)| kept.id == id).ok_or(Refusal::Broken)?;
        Ok(BoardReadingKept::of(kept, judged.as_ref()))
    }

    /// A new reading, and what it revealed.
    pub fn taught(&self, reading: &Kept<BoardReading>) -> Result<BoardReadingMade, Refusal> {
        let techniques = reading.value.techniques().into_iter();
        let hands = techniques.map(|technique| HandKnown::of(self.hands(), technique)).collect();
        Ok(BoardReadingMade { reading: self.board_reading(reading.id)?, hands })
    }
}

impl SpotRead {
    /// The reading of a device.
    pub fn of(device: String, measured: Measured) -> Self {
        Self { device, hex: hex(&measured), measured: (&measured).into() }
    }
}
