//! Tins of the demo.

use warm_blend_documents::Kept;
use warm_blend_learn::ShelfPaint;
use warm_blend_store::StoreError;

/// Tins of the demo by name.
pub type DemoShelf = Vec<(&'static str, Kept<ShelfPaint>)>;

pub fn unsound(text: &str) -> StoreError {
    StoreError::Damaged(format!("the demo is wrong about {text}"))
}

pub fn tin<'a>(shelf: &'a DemoShelf, name: &str) -> Result<&'a Kept<ShelfPaint>, StoreError> {
    shelf.iter().find(|(known, _)| *known == name).map(|(_, tin)| tin).ok_or_else(|| unsound(name))
}
