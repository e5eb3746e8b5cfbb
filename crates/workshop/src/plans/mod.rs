//! Run sheets: as they are entered, planned, ticked off and taken away.

mod entry;
mod exports;
mod planning;
mod view;

pub use entry::{HoursEntry, RunSheetEntry, StepDone, WindowEntry};
pub use planning::{Planned, WhenAsked};
pub use view::{
    CareView, CostView, DoneView, OtherWay, PaceView, PotNeeded, RunSheetView, StepView, ToBuy, ToolView,
    WetEdgeView,
};
