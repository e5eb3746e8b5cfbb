//! A run sheet for display.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_paint::MixPart;

use super::brushes::BrushesView;
use super::from_jars::JarForPot;
use crate::{FindingView, RunSheetEntry, Swatch};

/// The run sheet of a piece, planned from now on.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunSheetView {
    /// Revision, to be sent with a change; 0 if nothing was saved yet.
    pub revision: i64,
    /// How the workshop works.
    pub entry: RunSheetEntry,
    /// The chosen scheme.
    pub scheme: String,
    /// Why nothing can be done: lead was found, it is too cold to paint, the piece has no finish.
    pub stop: Option<String>,
    /// Remaining steps, in the order in which they start.
    pub steps: Vec<StepView>,
    /// Finished steps, latest first.
    pub done: Vec<DoneView>,
    /// Work on other pieces until this one is finished: those due earlier, and those that fit into its waits.
    pub elsewhere: Vec<ElsewhereView>,
    /// Working hours until then in which the painter is free.
    pub idle: Vec<IdleView>,
    /// What must be done first, or again, if work stops for a week.
    pub if_it_stays: Vec<&'static str>,
    /// When it is ready, RFC 3339.
    pub ends: Option<String>,
    /// Remaining hands-on work, minutes.
    pub minutes: f64,
    /// Remaining hands-on work as a range: `14 to 19 h`; absent if nothing remains.
    pub work_left: Option<String>,
    /// Period in which it is ready in nine cases of ten.
    pub ready_between: Option<ReadyBetween>,
    /// Zones too wet for the next layer.
    pub drying: Vec<DryingView>,
    /// Share of all hands-on work that is done, 0 to 1.
    pub share_done: f64,
    /// Due date.
    pub due: Option<String>,
    /// Whether the date can be met, in words.
    pub verdict: Option<String>,
    /// Ways to be ready sooner, earliest first.
    pub other_ways: Vec<OtherWay>,
    /// Assumptions and remarks.
    pub notes: Vec<String>,
    /// Pots to mix for the remaining work.
    pub pots: Vec<PotNeeded>,
    /// What must be bought for it.
    pub shopping: Vec<ToBuy>,
    /// Where a cheaper first coat would save money.
    pub undercoats: Vec<UndercoatView>,
    /// Costs of the whole piece.
    pub cost: CostView,
    /// Care instructions for the client.
    pub care_card: Vec<&'static str>,
    /// Remaining time and cost of each scheme, including the chosen one.
    pub schemes: Vec<SchemeCost>,
    /// Where the trade disagrees: time and effort of other ways from here on.
    pub schools: Vec<SchoolCost>,
    /// Tools.
    pub tools: Vec<ToolView>,
    /// Brushes: how many on which day, what to wash, and what is not washed yet.
    pub brushes: BrushesView,
    /// This painter's pace, where it was learned.
    pub paces: Vec<PaceView>,
}

/// A remaining step.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepView {
    /// Id.
    pub id: String,
    /// Name: `First coat, brushed` …
    pub name: String,
    /// Contents of the pot: `5 slate blue : 1 barley`.
    pub pot: Option<String>,
    /// Contents of the pot as parts.
    pub parts: Vec<MixPart>,
    /// Its look.
    pub swatch: Option<Swatch>,
    /// Amount: `260 ml`, `a little`.
    pub amount: Option<String>,
    /// Names of its zones.
    pub zones: Vec<&'static str>,
    /// Reason, if it is not obvious.
    pub why: Option<&'static str>,
    /// Hands-on minutes, at this painter's pace.
    pub minutes: f64,
    /// What time, drying and amount are made of, a sentence each, down to the table or the painter's own figure.
    pub reasons: Vec<String>,
    /// True if nobody works and the piece is left alone.
    pub rests: bool,
    /// Start, RFC 3339.
    pub begins: String,
    /// End of the work.
    pub ends: String,
    /// When the next layer can follow; absent for the last.
    pub dry: Option<String>,
    /// True if it continues on another day.
    pub split: bool,
    /// Where it pauses: `pause after the drawer fronts`.
    pub pauses: Vec<String>,
    /// Who works: `you`, `helper` or `both`.
    pub by: &'static str,
    /// True if delaying it delays the whole.
    pub critical: bool,
    /// True if it can be ticked off now.
    pub ready: bool,
    /// Its clock, if it was started.
    pub clock: Option<ClockView>,
    /// True for a lead test, whose result is asked for.
    pub asks_lead: bool,
    /// How it is worked wet.
    pub wet_edge: Option<WetEdgeView>,
    /// Cautions.
    pub care: Vec<CareView>,
}

/// Period in which the piece will be ready, as far as that is known.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadyBetween {
    /// Earliest, RFC 3339.
    pub first: String,
    /// Latest, RFC 3339.
    pub last: String,
}

/// Range of prices, as far as they are known.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct PriceBetween {
    /// If the work goes quickly.
    pub least: f64,
    /// If it goes slowly.
    pub most: f64,
}

/// Zones that are drying.
#[derive(Debug, Serialize, ToSchema)]
pub struct DryingView {
    /// Names of zones.
    pub zones: Vec<&'static str>,
    /// Until when, RFC 3339.
    pub until: String,
}

/// How a layer is worked wet.
#[derive(Debug, Serialize, ToSchema)]
pub struct WetEdgeView {
    /// `Open about 10 min …`
    pub words: String,
    /// True if it takes two people.
    pub two: bool,
}

/// A caution.
#[derive(Debug, Serialize, ToSchema)]
pub struct CareView {
    /// Text: in full at the first step where it applies, short at the others.
    pub words: &'static str,
    /// Published source, or `common practice`; absent for the short form.
    pub source: Option<&'static str>,
}

/// A finished step.
#[derive(Debug, Serialize, ToSchema)]
pub struct DoneView {
    /// Index among the finished steps, for undoing it.
    pub at_place: usize,
    /// Name.
    pub name: String,
    /// Contents of the pot.
    pub pot: Option<String>,
    /// Names of its zones.
    pub zones: Vec<&'static str>,
    /// When it was finished, RFC 3339.
    pub at: String,
    /// Real duration, minutes.
    pub minutes: Option<f64>,
    /// Usual duration, minutes.
    pub usual: f64,
    /// Note.
    pub note: Option<String>,
    /// Id of a photo.
    pub photo: Option<Uuid>,
    /// Who did it, if they are named.
    pub by: Option<String>,
    /// What it took out of jars: `18 ml from jar K7F`.
    pub from_jars: Vec<String>,
}

/// Another way of working.
#[derive(Debug, Serialize, ToSchema)]
pub struct OtherWay {
    /// `helper` …
    pub id: &'static str,
    /// `Get a helper` …
    pub words: &'static str,
    /// When it would be ready, RFC 3339.
    pub ends: String,
}

/// A pot that is needed.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotNeeded {
    /// Contents in words.
    pub words: String,
    /// Contents as parts; empty if it comes straight from a tin.
    pub parts: Vec<MixPart>,
    /// Its look.
    pub swatch: Option<Swatch>,
    /// Amount as mixed, ml.
    pub ml: f64,
    /// Amount as text.
    pub amount: String,
    /// Jars to use first.
    pub jars: Vec<JarForPot>,
    /// Amount that is mixed once they are used up, ml.
    pub to_mix_ml: f64,
    /// That amount as text; absent if the jars are enough.
    pub to_mix: Option<String>,
    /// Amount of each part of it: `slate blue 260 ml, 320 g`.
    pub amounts: Vec<String>,
}

/// A tin to buy, or to use from stock.
#[derive(Debug, Serialize, ToSchema)]
pub struct ToBuy {
    /// Name.
    pub name: String,
    /// Amount needed, ml.
    pub needed: f64,
    /// Amount in stock, ml.
    pub stock: f64,
    /// Number of packs to buy; 0 if there is enough, absent if no pack size is known.
    pub packs: Option<usize>,
    /// Contents of a pack, ml.
    pub pack: Option<f64>,
    /// Cost of the packs.
    pub cost: Option<f64>,
    /// Amount left over, ml.
    pub left: f64,
    /// Area that the rest would cover in one coat, m².
    pub covers: f64,
    /// Purchase as text: `buy 2 × 500 ml`, `enough`.
    pub buys: String,
    /// Details: `380 ml of 120 ml in stock; 740 ml left, a coat of 5.2 m²`
    pub words: String,
}

/// A first coat in a cheaper paint.
#[derive(Debug, Serialize, ToSchema)]
pub struct UndercoatView {
    /// `First coat in oat white, close to slate blue` …
    pub words: String,
    /// Savings, in the workshop's currency.
    pub saves: f64,
}

/// Costs of the whole piece, in the workshop's currency.
#[derive(Debug, Serialize, ToSchema)]
pub struct CostView {
    /// Paints and products.
    pub materials: f64,
    /// Hours of work.
    pub hours: f64,
    /// Hours as a range: `42 to 58 h`.
    pub hours_words: String,
    /// Range in which the price lies in nine cases of ten.
    pub price_between: PriceBetween,
    /// Each tin it takes, the dearest first, those without a price last.
    pub tins: Vec<TinCost>,
    /// Cost of the work.
    pub work: f64,
    /// Overhead.
    pub overhead: f64,
    /// Price.
    pub price: f64,
    /// Price for one `area_unit` of painted area.
    pub price_per_area: Option<f64>,
    /// `m²` or `ft²`.
    pub area_unit: &'static str,
    /// Budget, from the brief.
    pub budget: Option<f64>,
    /// How soon such a palette finds a buyer.
    pub buyers: Option<FindingView>,
}

/// What is used of a tin.
#[derive(Debug, Serialize, ToSchema)]
pub struct TinCost {
    /// The tin.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// Volume used: `271 ml`.
    pub amount: String,
    /// Its cost, in the workshop's currency; absent without a price.
    pub cost: Option<f64>,
}

/// A scheme, continued from the current state of the piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchemeCost {
    /// Name.
    pub name: String,
    /// True for the chosen scheme.
    pub chosen: bool,
    /// When it would be ready, RFC 3339; absent if it cannot be planned.
    pub ends: Option<String>,
    /// Remaining hands-on work, minutes.
    pub minutes: f64,
    /// Cost of the remaining paint.
    pub materials: f64,
}

/// A tool.
#[derive(Debug, Serialize, ToSchema)]
pub struct ToolView {
    /// Name.
    pub name: &'static str,
    /// Number.
    pub count: Option<usize>,
    /// Reason.
    pub why: &'static str,
}

/// This painter's pace in a technique.
#[derive(Debug, Serialize, ToSchema)]
pub struct PaceView {
    /// Technique.
    pub technique: &'static str,
    /// Factor on the usual time.
    pub factor: f64,
    /// Factor within which the true pace lies in nine cases of ten.
    pub within: f64,
    /// Number of steps it was learned from.
    pub steps: usize,
}

/// The clock of a step.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClockView {
    /// Minutes shown.
    pub minutes: f64,
    /// True while it runs.
    pub runs: bool,
}

/// Work on another piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct ElsewhereView {
    /// The piece.
    pub piece: Uuid,
    /// Its name.
    pub name: String,
    /// Name of the step.
    pub step: String,
    /// Start, RFC 3339.
    pub begins: String,
    /// End, RFC 3339.
    pub ends: String,
    /// Who works: `you`, `helper` or `both`.
    pub by: &'static str,
}

/// Free working hours.
#[derive(Debug, Serialize, ToSchema)]
pub struct IdleView {
    /// Start, RFC 3339.
    pub begins: String,
    /// End, RFC 3339.
    pub ends: String,
}

/// Time and effort of another school's way.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolCost {
    /// Id of the way: `clear-coat-for-wax` …
    pub id: &'static str,
    /// The question.
    pub question: &'static str,
    /// The answer: `Clear coat instead of wax` …
    pub words: &'static str,
    /// For and against.
    pub why: &'static str,
    /// When it would be ready, RFC 3339.
    pub ends: String,
    /// Days later than planned; negative if sooner.
    pub days: i32,
    /// Additional hands-on work, minutes; negative if less.
    pub minutes: f64,
}
