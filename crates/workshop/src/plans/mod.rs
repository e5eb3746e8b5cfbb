//! Run sheets: entry, planning, ticking off and export.

mod bench;
mod brushes;
mod entry;
mod estimate;
mod exports;
mod from_jars;
mod materials;
mod planning;
mod reasons;
mod record;
mod sheet_change;
mod telling;
mod touch_up;
mod view;
mod ways;

pub use bench::OnTheBench;
pub use brushes::{
    BrushCounted, BrushDayView, BrushKindView, BrushNeedView, BrushesView, UnwashedView, WashedEntry,
};
pub(crate) use entry::timestamp;
pub use entry::{ClockSet, DayHoursEntry, HoursEntry, RunSheetEntry, StepDone};
pub use estimate::JobEstimate;
pub use from_jars::{JarForPot, JarToUse};
pub use planning::{BrushesNow, Planned, WhenAsked};
pub use record::{LayerRecord, PieceRecord, TouchedUpView, ZoneRecord};
pub use sheet_change::SheetChange;
pub use touch_up::{Dab, PartToMend, SpotMended, TouchUp};
pub use view::{
    CareView, ClockView, CostView, DoneView, DryingView, ElsewhereView, IdleView, OtherWay, PaceView,
    PotNeeded, PriceBetween, ReadyBetween, RunSheetView, SchemeCost, SchoolCost, StepView, TinCost, ToBuy,
    ToolView, UndercoatView, WetEdgeView,
};
