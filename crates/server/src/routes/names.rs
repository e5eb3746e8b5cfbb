//! What tins are called, for sentences.

use std::collections::HashMap;

use uuid::Uuid;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::Component;
use warm_blend_store::{Kept, Store, StoreError};

/// Names of all tins that are or were on the shelf, and which of them still are.
pub struct Names(HashMap<Uuid, (String, bool)>);

impl Names {
    pub fn gather(store: &Store) -> Result<Self, StoreError> {
        Ok(Self::of_tins(&store.all_ever()?))
    }

    /// Names, and the tins that are on the shelf now.
    pub fn and_shelf(store: &Store) -> Result<(Self, Vec<Kept<ShelfPaint>>), StoreError> {
        let mut tins = store.all_ever()?;
        let names = Self::of_tins(&tins);
        tins.retain(|tin| !tin.removed);
        Ok((names, tins))
    }

    fn of_tins(tins: &[Kept<ShelfPaint>]) -> Self {
        Self(tins.iter().map(|tin| (tin.id, (tin.value.name.as_str().to_owned(), !tin.removed))).collect())
    }

    /// What a tin is called.
    pub fn of(&self, id: Uuid) -> String {
        self.0.get(&id).map_or_else(|| "a paint that is gone".to_owned(), |(name, _)| name.clone())
    }

    /// The same, marked where it is not on the shelf any more.
    fn marked(&self, id: Uuid) -> String {
        match self.0.get(&id) {
            Some((name, false)) => format!("{name} (no longer on the shelf)"),
            _ => self.of(id),
        }
    }

    /// `peat brown`, or `1 peat brown : 4 glazing liquid`.
    pub fn pot(&self, pot: &[Component]) -> String {
        let one = pot.len() == 1;
        let part = |part: &Component| match one {
            true => self.marked(part.paint.0),
            false => format!("{} {}", part.parts.value(), self.marked(part.paint.0)),
        };
        pot.iter().map(part).collect::<Vec<_>>().join(" : ")
    }
}
