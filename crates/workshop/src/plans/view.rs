//! A run sheet as it is shown.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_paint::MixPart;

use crate::{FindingView, RunSheetEntry, Swatch};

/// The run sheet of a piece, planned from now on.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunSheetView {
    /// To be named when it is changed; 0 where nothing was kept yet.
    pub revision: i64,
    /// How the workshop works.
    pub entry: RunSheetEntry,
    /// The scheme that counts.
    pub scheme: String,
    /// Why nothing is to be done: lead was found, it is too cold to paint, nothing is on the piece's list.
    pub stop: Option<String>,
    /// What is still to be done, in the order it is taken up.
    pub steps: Vec<StepView>,
    /// What was done, the last first.
    pub done: Vec<DoneView>,
    /// What is done on other pieces until this one is finished: those due earlier come first, the others fit into its waits.
    pub elsewhere: Vec<ElsewhereView>,
    /// Working hours in which the painter's hands are free until then.
    pub idle: Vec<IdleView>,
    /// What has to be done first, or again, if it stays for a week as it is; the rest may wait.
    pub if_it_stays: Vec<&'static str>,
    /// When it can be handed over, RFC 3339.
    pub ends: Option<String>,
    /// Hands-on work still to do, minutes.
    pub minutes: f64,
    /// The same as far as it is known: `14 to 19 h`; none where nothing is left.
    pub work_left: Option<String>,
    /// Between when and when it can be handed over in nine cases of ten, RFC 3339.
    pub ready_between: Option<ReadyBetween>,
    /// What is too wet for the next layer.
    pub drying: Vec<DryingView>,
    /// Of all of it, done or not, the share that is done, 0 to 1, by hands-on work.
    pub share_done: f64,
    /// The day it is due.
    pub due: Option<String>,
    /// Whether that can be kept, in words.
    pub verdict: Option<String>,
    /// What else would do, and when it would be over then, the earliest first.
    pub other_ways: Vec<OtherWay>,
    /// What was taken for granted, or is worth knowing.
    pub notes: Vec<String>,
    /// What is to be mixed for what is left.
    pub pots: Vec<PotNeeded>,
    /// What is to be bought for it.
    pub shopping: Vec<ToBuy>,
    /// Where a cheaper first coat would save money.
    pub undercoats: Vec<UndercoatView>,
    /// What the whole comes to.
    pub cost: CostView,
    /// What the client is reported how to look after it.
    pub care_card: Vec<&'static str>,
    /// What each scheme of the piece would come to from here on, the one that counts too.
    pub schemes: Vec<SchemeCost>,
    /// Where the trade disagrees: what another way would take from here on.
    pub schools: Vec<SchoolCost>,
    /// What it is done with.
    pub tools: Vec<ToolView>,
    /// This painter's pace, where it was learned.
    pub paces: Vec<PaceView>,
}

/// A step still to do.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepView {
    /// Which.
    pub id: String,
    /// `Coat, brushed: 1 of 2` …
    pub name: String,
    /// What is in the pot: `5 slate blue : 1 barley`.
    pub pot: Option<String>,
    /// The same, to mix it.
    pub parts: Vec<MixPart>,
    /// How it looks.
    pub swatch: Option<Swatch>,
    /// How much of it: `260 ml`, `a little`.
    pub amount: Option<String>,
    /// Where: names of zones.
    pub zones: Vec<&'static str>,
    /// Why, where that is not plain.
    pub why: Option<&'static str>,
    /// Hands-on minutes, at this painter's pace.
    pub minutes: f64,
    /// True where nobody works: it is left alone.
    pub rests: bool,
    /// When it begins, RFC 3339.
    pub begins: String,
    /// When the hand is done with it.
    pub ends: String,
    /// When the next can go on; none after the last.
    pub dry: Option<String>,
    /// True where it is deferred to another day before it is done.
    pub split: bool,
    /// Where it pauses then: `pause after the drawer fronts`.
    pub pauses: Vec<String>,
    /// Who does it: `you`, `helper` or `both`.
    pub by: &'static str,
    /// True where a delay of it delays the whole.
    pub critical: bool,
    /// True where it can be ticked now: nothing else comes before it.
    pub ready: bool,
    /// Its clock, where it was started.
    pub clock: Option<ClockView>,
    /// True of the test for lead, whose answer is asked for.
    pub asks_lead: bool,
    /// How it is worked wet.
    pub wet_edge: Option<WetEdgeView>,
    /// What people must take care of.
    pub care: Vec<CareView>,
}

/// The first and the last day on which it can be handed over, as far as they are known.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadyBetween {
    /// If everything goes quickly, RFC 3339.
    pub first: String,
    /// If it goes slowly.
    pub last: String,
}

/// Prices as far as they are known.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct PriceBetween {
    /// If the work goes quickly.
    pub least: f64,
    /// If it goes slowly.
    pub most: f64,
}

/// Zones that are still drying.
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
    /// True where two are needed.
    pub two: bool,
}

/// Something to take care of.
#[derive(Debug, Serialize, ToSchema)]
pub struct CareView {
    /// What: in full at the first step where it applies, in a few words at the others.
    pub words: &'static str,
    /// Where it is published, or `common practice`; none of what was said in full before.
    pub source: Option<&'static str>,
}

/// A step that was done.
#[derive(Debug, Serialize, ToSchema)]
pub struct DoneView {
    /// Its place in what was done, the first 0: to take it back.
    pub at_place: usize,
    /// What.
    pub name: String,
    /// What was in the pot.
    pub pot: Option<String>,
    /// Where.
    pub zones: Vec<&'static str>,
    /// When it was over, RFC 3339.
    pub at: String,
    /// How long it took, minutes.
    pub minutes: Option<f64>,
    /// How long the usual hand takes.
    pub usual: f64,
    /// What was said of it.
    pub note: Option<String>,
    /// A photo of it, by its id.
    pub photo: Option<Uuid>,
}

/// Another way to be done.
#[derive(Debug, Serialize, ToSchema)]
pub struct OtherWay {
    /// `With a helper` …
    pub words: &'static str,
    /// When it would be over, RFC 3339.
    pub ends: String,
}

/// A pot that is needed.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotNeeded {
    /// What is in it.
    pub words: String,
    /// The same, to mix it; empty of what comes out of a tin.
    pub parts: Vec<MixPart>,
    /// How it looks.
    pub swatch: Option<Swatch>,
    /// ml, as mixed.
    pub ml: f64,
    /// The same, said.
    pub amount: String,
    /// Of each part: `slate blue 260 ml, 320 g`.
    pub amounts: Vec<String>,
}

/// Something to be bought.
#[derive(Debug, Serialize, ToSchema)]
pub struct ToBuy {
    /// The tin.
    pub name: String,
    /// ml needed in all.
    pub needed: f64,
    /// ml there are.
    pub stock: f64,
    /// How many packs to buy; 0 where there is enough; none where no pack is known.
    pub packs: Option<usize>,
    /// What a pack holds, ml.
    pub pack: Option<f64>,
    /// What they cost.
    pub cost: Option<f64>,
    /// ml left over then.
    pub left: f64,
    /// m² that the rest would still cover in one coat.
    pub covers: f64,
    /// `buy 2 × 500 ml`, `enough`.
    pub buys: String,
    /// `380 ml of 120 ml in stock; 740 ml left, a coat of 5.2 m²`
    pub words: String,
}

/// A first coat in a cheaper paint.
#[derive(Debug, Serialize, ToSchema)]
pub struct UndercoatView {
    /// `First coat in oat white, close to slate blue` …
    pub words: String,
    /// What it saves, in the workshop's money.
    pub saves: f64,
}

/// What it comes to, in the workshop's money.
#[derive(Debug, Serialize, ToSchema)]
pub struct CostView {
    /// Paints and products that are used up on the whole piece.
    pub materials: f64,
    /// Hours of work on the whole piece.
    pub hours: f64,
    /// The same as far as they are known: `42 to 58 h`.
    pub hours_words: String,
    /// Between which prices it lies in nine cases of ten.
    pub price_between: PriceBetween,
    /// What they cost.
    pub work: f64,
    /// Rent and the like.
    pub overhead: f64,
    /// What is to be asked.
    pub price: f64,
    /// The same for one `area_unit` of what is painted.
    pub price_per_area: Option<f64>,
    /// `m²` or `ft²`.
    pub area_unit: &'static str,
    /// What the brief allows.
    pub budget: Option<f64>,
    /// How soon such a palette finds a buyer.
    pub buyers: Option<FindingView>,
}

/// A scheme, from what is on the piece now.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchemeCost {
    /// What the painter calls it.
    pub name: String,
    /// True of the one that counts.
    pub chosen: bool,
    /// When it would be ready, RFC 3339; none where nothing can be planned.
    pub ends: Option<String>,
    /// Hands-on work still to do then, minutes.
    pub minutes: f64,
    /// What the paint still to be put on costs.
    pub materials: f64,
}

/// A tool.
#[derive(Debug, Serialize, ToSchema)]
pub struct ToolView {
    /// What.
    pub name: &'static str,
    /// Number of them.
    pub count: Option<usize>,
    /// Why.
    pub why: &'static str,
}

/// This painter's pace in a technique.
#[derive(Debug, Serialize, ToSchema)]
pub struct PaceView {
    /// Which.
    pub technique: &'static str,
    /// Times as long as the usual hand.
    pub factor: f64,
    /// What that is off by at most in nine cases of ten, as a factor.
    pub within: f64,
    /// From how many steps.
    pub steps: usize,
}

/// The clock of a step.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClockView {
    /// Minutes it shows now, or showed when it was stopped.
    pub minutes: f64,
    /// Whether it runs.
    pub runs: bool,
}

/// Something that is done on another piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct ElsewhereView {
    /// Which piece.
    pub piece: Uuid,
    /// What it is called.
    pub name: String,
    /// What is done on it.
    pub step: String,
    /// When, RFC 3339.
    pub begins: String,
    /// Until when.
    pub ends: String,
    /// Who does it: `you`, `helper` or `both`.
    pub by: &'static str,
}

/// Working hours with nothing to do.
#[derive(Debug, Serialize, ToSchema)]
pub struct IdleView {
    /// From when, RFC 3339.
    pub begins: String,
    /// Until when.
    pub ends: String,
}

/// What another school would take.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolCost {
    /// The question that painters answer differently.
    pub question: &'static str,
    /// The answer: `A clear coat in place of the wax` …
    pub words: &'static str,
    /// What speaks for it, and against.
    pub why: &'static str,
    /// When it would be ready, RFC 3339.
    pub ends: String,
    /// How many days later that is than as it is planned; less than 0 sooner.
    pub days: i32,
    /// How much more hands-on work it is, minutes; less than 0 less.
    pub minutes: f64,
}
