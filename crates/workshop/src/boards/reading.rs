//! Real boards read: predicted against read, and what that says of the hand.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Board, BoardJudgement, BoardReading, BoardSpot, LearnedHand, Letter, Place, Technique,
};
use warm_blend_interchange::hex;
use warm_blend_learn::{Measured, Source};
use warm_blend_paint::{FilmState, Note, Verdict};
use warm_blend_spectral::Lab;

use crate::{Checks, Kept, MeasuredEntry, Refusal, ShelfSnapshot};

/// A spot that the reader is put on.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SpotToRead {
    /// `A` to `F`.
    #[schema(value_type = String)]
    pub strip: Letter,
    /// `field`, `recess` or `edge`.
    #[schema(value_type = String)]
    pub place: Place,
    /// `dry` (as when left out), `wet` or `sealed`.
    pub state: Option<FilmState>,
}

/// What the reader says of a spot.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpotRead {
    /// Its name. `simulated reader` is a stand-in: a made-up painter paints the board with made-up paints behind the painter's own.
    pub device: String,
    /// What it read.
    pub measured: MeasuredEntry,
    /// What a screen shows for it in daylight.
    pub hex: String,
}

/// A painted strip that was read, as it is entered.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardReadingEntry {
    /// `A` to `F`.
    #[schema(value_type = String)]
    pub strip: Letter,
    /// `dry` (as when left out), `wet` or `sealed`.
    pub state: Option<FilmState>,
    /// What it was read with: `reader` (as when left out), `photo`, `chip` or `guess`.
    pub source: Option<Source>,
    /// One to nine.
    pub spots: Vec<BoardSpotEntry>,
    /// The painter's words.
    pub note: Option<String>,
}

/// A spot that was read.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardSpotEntry {
    /// `field`, `recess` or `edge`.
    #[schema(value_type = String)]
    pub place: Place,
    /// What was read.
    pub measured: MeasuredEntry,
}

/// A painted strip that was read, with how it stands to what was predicted.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardReadingKept {
    /// Stable identifier.
    pub id: Uuid,
    /// To be named when it is changed.
    pub revision: i64,
    /// When it was made, RFC 3339.
    pub made_at: String,
    /// `A` to `F`.
    pub strip: String,
    /// `dry`, `wet` or `sealed`.
    pub state: FilmState,
    /// What was read, spot by spot.
    pub spots: Vec<SpotKept>,
    /// True where it lies so far out that no hand makes that of this board: it is left out until somebody says that it is right.
    pub questioned: bool,
    /// How far out, in standard deviations.
    pub off: f64,
    /// Mean ΔE00 of its spots from what a hand that was never read would have made.
    pub usual_difference: f64,
    /// The same from what this hand makes, as it is known now.
    pub difference: f64,
    /// The painter's words.
    pub note: Option<String>,
}

/// A spot of a reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpotKept {
    /// `field`, `recess` or `edge`.
    pub place: &'static str,
    /// What was read, on a screen in daylight.
    pub hex: String,
    /// What a hand that was never read would have made.
    pub usual_hex: Option<String>,
    /// What this hand makes, as it is known now.
    pub predicted_hex: Option<String>,
    /// ΔE00 from what was read of the first, and of the second.
    pub usual_difference: Option<f64>,
    /// See `usual_difference`.
    pub difference: Option<f64>,
    /// What was read against what is predicted now: `a touch darker than predicted`.
    pub words: String,
}

/// What a new reading of a board taught.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardReadingMade {
    /// The reading.
    pub reading: BoardReadingKept,
    /// What is known of the hand now, of the techniques on this strip.
    pub hands: Vec<HandKnown>,
}

/// What is known of a hand in one technique.
#[derive(Debug, Serialize, ToSchema)]
pub struct HandKnown {
    /// `glaze-wiped` …
    pub technique: &'static str,
    /// `Glaze, wiped` …
    pub name: &'static str,
    /// Times the usual film.
    pub film: f64,
    /// In nine cases of ten the true one is within this factor either way.
    pub within: f64,
    /// How many readings of boards say so.
    pub boards: usize,
    /// As text: `leaves about 1.4 times the usual film, and covers more`.
    pub words: String,
}

/// A board reading that is found to be right, or is annotated.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardReadingChange {
    /// True to say that it is right however odd it looks.
    pub sure: bool,
    /// The painter's words.
    pub note: Option<String>,
}

impl BoardSpotEntry {
    /// Spots of one reading; one more than may be, so that the reading itself says that it is too much.
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

    /// Of the techniques that boards were read of.
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

/// The mean of some differences; 0 of none.
fn mean(of: impl Iterator<Item = f64>) -> f64 {
    let (sum, n) = of.fold((0.0, 0.0), |(sum, n), off| (sum + off, n + 1.0));
    if n > 0.0 { sum / n } else { 0.0 }
}

impl SpotToRead {
    /// Where the reader is put, on a board that can be read there.
    pub fn parse(&self, id: Uuid, board: &Board) -> Result<(Letter, Place, FilmState), Refusal> {
        let Self { strip, place, state } = *self;
        let state = state.unwrap_or_default();
        // What cannot be kept is not read either.
        let nothing = BoardSpot { place, measured: Measured::Colour(Lab { l: 0.0, a: 0.0, b: 0.0 }) };
        BoardReading::new((id, board), strip, (state, Source::Reader), vec![nothing])
            .map_err(|error| Refusal::field("/strip", error))?;
        Ok((strip, place, state))
    }
}

impl BoardReadingEntry {
    /// What is kept of it, of a board.
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
    /// A reading changed like that.
    pub fn of(&self, mut reading: BoardReading) -> Result<BoardReading, Refusal> {
        let mut checks = Checks::default();
        let note = checks.optional("/note", self.note.as_deref().map(Note::new)).flatten();
        (reading.sure, reading.note) = (self.sure, checks.done(Some(note))?);
        Ok(reading)
    }
}

impl ShelfSnapshot {
    /// What was read of a board, the last first.
    pub fn readings_of_board(&self, board: Uuid) -> Vec<BoardReadingKept> {
        let of_board = self.boards().iter().filter(|(kept, _)| kept.value.board == board).rev();
        of_board.map(|(kept, judged)| BoardReadingKept::of(kept, judged.as_ref())).collect()
    }

    /// One reading of a board.
    pub fn board_reading(&self, id: Uuid) -> Result<BoardReadingKept, Refusal> {
        let (kept, judged) = self.boards().iter().find(|(kept, _)| kept.id == id).ok_or(Refusal::Broken)?;
        Ok(BoardReadingKept::of(kept, judged.as_ref()))
    }

    /// A new reading, and what it taught.
    pub fn taught(&self, reading: &Kept<BoardReading>) -> Result<BoardReadingMade, Refusal> {
        let techniques = reading.value.techniques().into_iter();
        let hands = techniques.map(|technique| HandKnown::of(self.hands(), technique)).collect();
        Ok(BoardReadingMade { reading: self.board_reading(reading.id)?, hands })
    }
}

impl SpotRead {
    /// What a reader of that name read.
    pub fn of(device: String, measured: Measured) -> Self {
        Self { device, hex: hex(&measured), measured: (&measured).into() }
    }
}
