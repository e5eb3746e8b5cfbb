//! Photos from which colours are being picked: kept in memory while in use, never on disk.

use std::{
    collections::VecDeque,
    sync::{Arc, Mutex, PoisonError},
};

use uuid::Uuid;
use warm_blend_photo::Photo;

/// Number of photos kept; a new one replaces the oldest.
const KEPT: usize = 3;

type AtHand = (Uuid, Arc<Photo>);

/// Photos in use.
#[derive(Debug, Clone, Default)]
pub struct Photos {
    kept: Arc<Mutex<VecDeque<AtHand>>>,
}

impl Photos {
    /// Keeps a photo for a while.
    pub fn keep(&self, photo: Photo) -> Uuid {
        let id = Uuid::now_v7();
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        if kept.len() == KEPT {
            kept.pop_front();
        }
        kept.push_back((id, Arc::new(photo)));
        id
    }

    /// A photo, if it is still kept.
    pub fn get(&self, id: Uuid) -> Option<Arc<Photo>> {
        let kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        kept.iter().find(|(known, _)| *known == id).map(|(_, photo)| Arc::clone(photo))
    }
}
