//! A cache of recent results that are slow to compute.

use std::fmt;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// Something whose memory can be measured.
pub trait Bulky {
    /// Memory it takes, bytes.
    fn bytes(&self) -> usize;
}

/// A cache of results by their inputs, limited in bytes.
pub struct Recent<K, T> {
    room: usize,
    kept: Mutex<Vec<Made<K, T>>>,
}

struct Made<K, T> {
    of: K,
    made: Arc<T>,
}

impl<K: PartialEq, T: Bulky> Recent<K, T> {
    /// A cache of at most this many bytes.
    pub fn within(room: usize) -> Self {
        Self { room, kept: Mutex::default() }
    }

    /// Returns the cached result or computes it. A result larger than the whole cache is not kept.
    pub fn get<E>(&self, of: K, make: impl FnOnce() -> Result<T, E>) -> Result<Arc<T>, E> {
        if let Some(made) = self.kept().iter().find(|known| known.of == of) {
            return Ok(Arc::clone(&made.made));
        }
        // Computed without the lock, so that others need not wait.
        let made = Arc::new(make()?);
        if made.bytes() <= self.room {
            let mut kept = self.kept();
            kept.insert(0, Made { of, made: Arc::clone(&made) });
            let mut bytes = 0;
            kept.retain(|known| {
                bytes += known.made.bytes();
                bytes <= self.room
            });
        }
        Ok(made)
    }

    /// Empties the cache.
    pub fn forget(&self) {
        self.kept().clear();
    }

    fn kept(&self) -> MutexGuard<'_, Vec<Made<K, T>>> {
        self.kept.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

impl<K, T> fmt::Debug for Recent<K, T> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Recent").field("room", &self.room).finish_non_exhaustive()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    impl Bulky for u32 {
        fn bytes(&self) -> usize {
            *self as usize
        }
    }

    #[test]
    fn as_much_as_there_is_room_for_is_made_once() {
        let recent = Recent::<u32, u32>::within(60);
        let make = |of: u32| *recent.get(of, || Ok::<_, ()>(10 * of)).unwrap();
        let kept = |of: u32| recent.get(of, || Err(())).map(|made| *made);
        assert_eq!((make(1), make(2), make(7)), (10, 20, 70));
        assert_eq!((kept(1), kept(2), kept(7)), (Ok(10), Ok(20), Err(())));
        make(4);
        assert_eq!((kept(1), kept(2), kept(4)), (Err(()), Ok(20), Ok(40)));
        make(5);
        assert_eq!((kept(2), kept(4), kept(5)), (Err(()), Err(()), Ok(50)));
        recent.forget();
        assert_eq!(kept(5), Err(()));
    }
}
