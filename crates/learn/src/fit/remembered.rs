//! State of a fit that allows an incremental fit of the next readings.

use std::sync::Arc;

use super::{
    plausible::{Forms, SaidOfAll},
    system::{Here, Places},
};
use crate::factor::Pattern;

/// Number of readings from which a component is fitted incrementally.
pub(crate) const MANY: usize = 200;

/// The shelf when it was last fitted.
#[derive(Debug)]
pub(crate) struct Remembered {
    pub(super) places: Places,
    pub(super) pattern: Arc<Pattern>,
    pub(super) here: Here,
    pub(super) noises: SaidOfAll,
    pub(super) pulls: SaidOfAll,
    /// By reading.
    pub(super) off: Vec<f64>,
    pub(super) left_out: Vec<bool>,
    /// By paint.
    pub(super) forms: Vec<Arc<Forms>>,
}
