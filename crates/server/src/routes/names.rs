//! What tins are called, for sentences.

use std::collections::HashMap;

use uuid::Uuid;
use warm_blend_finish::{Component, ShelfPaint};
use warm_blend_store::{Kept, Store, StoreError};

/// Names of all tins that are or were on the shelf.
pub struct Names(HashMap<Uuid, String>);

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
        Self(tins.iter().map(|tin| (tin.id, tin.value.name.as_str().to_owned())).collect())
    }

    /// What a tin is called.
    pub fn of(&self, id: Uuid) -> String {
        self.0.get(&id).cloned().unwrap_or_else(|| "a paint that is gone".to_owned())
    }

    /// `peat brown`, or `1 peat brown : 4 glazing liquid`.
    pub fn pot(&self, pot: &[Component]) -> String {
        let one = pot.len() == 1;
        let part = |part: &Component| match one {
            true => self.of(part.paint.0),
            false => format!("{} {}", part.parts.value(), self.of(part.paint.0)),
        };
        pot.iter().map(part).collect::<Vec<_>>().join(" : ")
    }
}
