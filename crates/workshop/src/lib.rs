//! What can be asked of a workspace: one method and one result type for each use case.
//!
//! | question | where |
//! |---|---|
//! | what is known of the shelf? | [`ShelfSnapshot`] |
//! | what does a paint or a mix look like? | [`Swatch`], [`ShelfSnapshot::predict`], [`PaintPage`] |
//! | which mix is closest, and what should be added? | [`ShelfSnapshot::find`], [`ShelfSnapshot::correct`] |
//! | shades, transitions, glazes and waxes? | [`ShelfSnapshot::ladder`], [`ShelfSnapshot::blend`],
//! [`ShelfSnapshot::making`], [`ShelfSnapshot::film`] |
//! | what does a prediction rest on? | [`ShelfSnapshot::reasons`] |
//! | what does a word of the trade mean? | [`ShelfSnapshot::terms`] |
//! | how is a batch measured, and what does it cost? | [`ShelfSnapshot::measure_out`] |
//! | how far is a pour? | [`PourView`], [`PotLabel`] |
//! | what does a board look like, what is wrong with it, and how is it mended? | [`ShelfSnapshot::predict_strip`],
//! [`ShelfSnapshot::ways_back`], [`SeenBoard`] |
//! | and a whole piece? | [`Room`] |
//! | what must be done on it, when, and with how much paint? | [`Room::plan`], [`RunSheetView`] |
//! | what is left in jars, and is it still good? | [`JarView`], [`ShelfSnapshot::jars_near`] |
//! | what did a reading change? | [`ShelfSnapshot::news`], [`ShelfSnapshot::taught`] |
//! | what would an import do, and what does an export contain? | [`Import`], [`ShelfSnapshot::export`] |
//! | what was done, and how is it repeated? | [`ShelfSnapshot::log_page`], [`ShelfSnapshot::make_again`],
//! [`ShelfSnapshot::like`] |
//! | what should a newcomer do next? | [`FirstHour`] |
//! | which tins are the same? | [`Merge`] |
//! | why was something refused? | [`Refusal`], [`Checks`] |
//!
//! Input is parsed into documents here, and every result has its schema here. Storage (behind [`warm_blend_documents::Documents`]), HTTP,
//! pictures and devices are elsewhere: this crate does no input or output.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod appearance;
mod batch;
mod blending;
mod boards;
mod by_eye;
mod choices;
mod colour;
mod correcting;
mod exports;
mod first_hour;
mod imports;
mod jars;
mod label;
mod log;
mod matching;
mod memo;
mod merge;
mod mixable;
mod mixes;
mod mixtures;
mod paint_page;
mod paints;
mod pane;
mod photos;
mod pieces;
mod plans;
mod pours;
mod practice;
mod quotes;
mod readings;
mod refusal;
mod shades;
mod snapshot;
mod stateless;
mod terms;
mod why;

pub use appearance::{AgainstTarget, Hex, Lustre, SeenColour, Swatch, Wedge};
pub use batch::{BatchIn, BatchMeasured, BatchOf, MeasuredOut};
pub use blending::{Blend, BlendOf, BlendPath, BrushPair};
pub use boards::{
    AdviceGiven, BoardChoices, BoardInList, BoardKept, BoardReadingChange, BoardReadingEntry,
    BoardReadingKept, BoardReadingMade, BoardReasons, BoardSpotEntry, CautionGiven, FixOffered, GroundChoice,
    HandKnown, LayerChangeView, LayerPredicted, MotifChoice, NewBoard, PlacePredicted, ReadyFinish,
    RemediesView, RemedyView, SchoolView, SchoolsView, SeenBoard, ShareOfColour, SpotKept, SpotRead,
    SpotToRead, StripPrediction, TechniqueChoice, TemplateChoice, TroubleChoice, strip_of,
};
pub use by_eye::{NamedColour, Neighbour, NeighboursAsked, chart};
pub use choices::{WorkshopEntry, WorkshopKept};
pub use correcting::{Corrections, PotFix, PotFixPart, PotToCorrect};
pub use exports::Export;
pub use first_hour::{FirstHour, FirstStep, FirstStepView, MadeSoFar};
pub use imports::{FileRead, HowToImport, Import, ImportPlan, ImportRow};
pub use jars::{
    JarEntry, JarNear, JarSignChoice, JarTaken, JarUsed, JarView, JarsView, JarsWanted, held_in_jars,
};
pub use label::{LabelPart, square};
pub use log::{
    CameOut, FinishOnPhoto, FinishRequest, LikePot, LogAsked, LogDay, LogEntryView, LogGroup, LogNoteEntry,
    LogPage, MadeAgain, MixLike, PhotoOfPiece, SaidThen, SkillLearned, SkillPoint, Surprise, TruthPoint,
    TruthView, ZoneOnPhoto,
};
pub use matching::{Found, FoundRecipe, Wanted};
pub use merge::Merge;
pub use mixable::RecipePart;
pub use mixes::{Mix, MixEntry, NarrowedBy, PredictedPart, Prediction, mix_of_parts};
pub use mixtures::{
    FilmOf, FilmSeen, FilmsSeen, MadeInto, Making, MissingMedium, MixtureWanted, PotWarning, PresetChoice,
    medium,
};
pub use paint_page::{LookInLight, LooksInState, PaintPage, TestPart, TestWorth};
pub use paints::{HowSure, Paint, PaintEntry, TinPrice};
pub use pane::Pane;
pub use photos::{
    PaletteColour, PaletteRecipe, PaletteRequest, PhotoPalette, PickRequest, PickedColour, PickedColours,
    SpotEntry,
};
pub use pieces::{
    AskChoice, CarvingChoice, DimensionView, FaceView, FindingView, FinishedPiece, FittingForm, FrontOutline,
    KindChoice, OutlineAsked, OutlineMade, PairView, PartOnPhoto, PartPlaced, PartView, PhotoPoint,
    PieceChoice, PieceChoices, PieceInList, PieceKept, PieceName, PieceOnPhoto, PiecePrediction,
    PieceReasons, PullView, RepairChoice, Room, StencilTemplate, StencilView, TemplateSheet, UnifyFound,
    UnifyStep, UnifyWay, ZoneGround, ZoneView, elevation_of, not_said, on_photo, scheme_of, template_of,
    worn,
};
pub use plans::{
    BrushCounted, BrushDayView, BrushKindView, BrushNeedView, BrushesNow, BrushesView, CareView, ClockSet,
    ClockView, CostView, Dab, DayHoursEntry, DoneView, DryingView, ElsewhereView, HoursEntry, IdleView,
    JarForPot, JarToUse, JobEstimate, LayerRecord, OnTheBench, OtherWay, PaceView, PartToMend, PieceRecord,
    Planned, PotNeeded, PriceBetween, ReadyBetween, RunSheetEntry, RunSheetView, SchemeCost, SchoolCost,
    SheetChange, SpotMended, StepDone, StepView, TinCost, ToBuy, ToolView, TouchUp, TouchedUpView,
    UndercoatView, UnwashedView, WashedEntry, WetEdgeView, WhenAsked, ZoneRecord,
};
pub use pours::{
    AgainstPlan, AmountsIn, OnScale, PageSquare, PotAtHand, PotLabel, PotReading, PourBegun, PourLine,
    PourStep, PourView, PouredBy, PouredPaint, StepEntry, keep_pour, refused,
};
pub use practice::{
    AnswerChecked, AnswerGiven, ChoiceShown, PracticeView, Question, QuestionAsked, SkillView, WeekView,
};
pub use quotes::{
    Accepted, FinishAsked, QuoteAsked, QuoteCompared, QuoteView, QuotesView, TermsEntry, quote_of,
};
pub use readings::{
    DrawdownEntry, MeasuredEntry, News, PendingReadings, ReadOut, ReadPart, ReadingEntry, ReadingKept,
    ReadingMade, ToRead, shown_entry, wet,
};
pub use refusal::{Checks, Fault, Refusal};
pub use shades::{Ladder, LadderOf, LadderRung, MadeRung, PotToShade};
pub use snapshot::{ShelfDocuments, ShelfSnapshot, house_white};
pub use stateless::{
    BoardPredicted, BoardRead, BoardTin, GivenTins, MeetsBelow, PotPart, PredictBoardRequest, PredictLayer,
    PredictPaint, PredictReading, PredictRequest, PredictTin, Predicted,
};
pub use terms::{Term, TermView};
pub use why::{Evidence, Guess, MixReasons, NextTest};
