//! What a step or a touch-up changes.

use warm_blend_documents::Kept;
use warm_blend_mixing::PourRecord;
use warm_blend_plan::RunSheet;

/// A pot before and after some was taken out of its jar, or put back.
pub type PourChange = (Kept<PourRecord>, PourRecord);

/// A run sheet and the pots that change with it.
#[derive(Debug)]
pub struct SheetChange {
    /// The sheet.
    pub sheet: RunSheet,
    /// The pots, each once.
    pub pours: Vec<PourChange>,
}

impl From<RunSheet> for SheetChange {
    fn from(sheet: RunSheet) -> Self {
        Self { sheet, pours: Vec::new() }
    }
}
