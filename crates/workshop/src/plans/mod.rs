//! Run sheets: as they are entered, planned, ticked off and taken away.

mod entry;
mod exports;
mod planning;
mod view;

pub use entry::{DayHoursEntry, HoursEntry, RunSheetEntry, StepDone};
pub use planning::{Planned, WhenAsked};
pub use view::{
    CareView, CostView, DoneView, OtherWay, PaceView, PotNeeded, RunSheetView, SchemeCost, StepView, ToBuy,
    ToolView, WetEdgeView,
};
