//! A cache of results that stay valid as long as their inputs.

use std::{
    collections::HashMap,
    hash::Hash,
    sync::{Mutex, PoisonError},
};

/// Default number of results, of which a swatch takes about 3 kB.
const MOST: usize = 8000;

/// Results by key; when there are too many, all are discarded.
#[derive(Debug)]
pub struct Memo<K, V, const N: usize = MOST>(Mutex<HashMap<K, V>>);

impl<K, V, const N: usize> Default for Memo<K, V, N> {
    fn default() -> Self {
        Self(Mutex::default())
    }
}

impl<K: Eq + Hash, V: Clone, const N: usize> Memo<K, V, N> {
    /// The cached result, or a new one, which is computed without locking out others. Errors are not cached.
    pub fn get_or<E>(&self, key: K, reckon: impl FnOnce() -> Result<V, E>) -> Result<V, E> {
        let known = || self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(answer) = known().get(&key) {
            return Ok(answer.clone());
        }
        let answer = reckon()?;
        let mut known = known();
        if known.len() >= N {
            known.clear();
        }
        known.insert(key, answer.clone());
        Ok(answer)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_was_asked_before_is_not_reckoned_again_and_not_everything_is_kept() {
        let memo = Memo::<usize, usize>::default();
        let ask = |n: usize| memo.get_or(n, || Ok::<_, ()>(n + 1));
        assert!((0..=MOST).all(|n| ask(n) == Ok(n + 1)));
        let again = |n: usize| memo.get_or(n, || Err("reckoned again"));
        assert_eq!([again(MOST), again(0)], [Ok(MOST + 1), Err("reckoned again")]);
        // What failed was not kept.
        assert_eq!(ask(0), Ok(1));
    }
}
