//! What is kept of a fit, that a few readings more are learnt from.

use std::sync::Arc;

use super::{
    plausible::{Forms, SaidOfAll},
    system::{Here, Places},
};
use crate::factor::Pattern;

/// From how many readings on a component is learnt from where it stood before.
pub(crate) const MANY: usize = 200;

/// What a shelf was when it was last learnt.
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
