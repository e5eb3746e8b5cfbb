//! What was made lately and is slow to make: kept for the next who asks.

use std::fmt;
use std::sync::{Arc, Mutex, PoisonError};

/// The last `N` of something, by what they were made of.
pub struct Recent<K, T, const N: usize> {
    kept: Mutex<Vec<Made<K, T>>>,
}

struct Made<K, T> {
    of: K,
    made: Arc<T>,
}

impl<K: PartialEq, T, const N: usize> Recent<K, T, N> {
    /// What was made of that, or is made now. What is not worth its room is not kept.
    pub fn get<E>(&self, of: K, keep: bool, make: impl FnOnce() -> Result<T, E>) -> Result<Arc<T>, E> {
        let found = |kept: &[Made<K, T>]| {
            kept.iter().find(|known| known.of == of).map(|known| Arc::clone(&known.made))
        };
        if let Some(made) = found(&self.kept.lock().unwrap_or_else(PoisonError::into_inner)) {
            return Ok(made);
        }
        // Made without the lock: others need not wait for it.
        let made = Arc::new(make()?);
        if keep {
            let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
            kept.insert(0, Made { of, made: Arc::clone(&made) });
            kept.truncate(N);
        }
        Ok(made)
    }
}

impl<K, T, const N: usize> Default for Recent<K, T, N> {
    fn default() -> Self {
        Self { kept: Mutex::default() }
    }
}

impl<K, T, const N: usize> fmt::Debug for Recent<K, T, N> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Lately").finish_non_exhaustive()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_last_few_are_made_once() {
        let lately = Recent::<u32, u32, 2>::default();
        let make = |of: u32, keep| lately.get(of, keep, || Ok::<_, ()>(10 * of)).unwrap();
        let refused = |of: u32| lately.get(of, true, || Err(())).map(|made| *made);
        assert_eq!((*make(1, true), *make(2, true), *make(3, false)), (10, 20, 30));
        assert_eq!((refused(1), refused(2), refused(3)), (Ok(10), Ok(20), Err(())));
        make(4, true);
        assert_eq!((refused(1), refused(2), refused(4)), (Err(()), Ok(20), Ok(40)));
    }
}
