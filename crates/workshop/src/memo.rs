//! A cache of results that stay valid as long as their inputs.

use std::hash::Hash;

use quick_cache::sync::Cache;

/// Default number of results, of which a swatch takes about 3 kB.
const MOST: usize = 8000;

/// The `N` most useful results by key.
#[derive(Debug)]
pub struct Memo<K, V, const N: usize = MOST>(Cache<K, V>);

impl<K: Eq + Hash, V: Clone, const N: usize> Default for Memo<K, V, N> {
    fn default() -> Self {
        Self(Cache::new(N))
    }
}

impl<K: Eq + Hash, V: Clone, const N: usize> Memo<K, V, N> {
    /// The cached result, or a new one. Errors are not cached.
    pub fn get_or<E>(&self, key: K, compute: impl FnOnce() -> Result<V, E>) -> Result<V, E> {
        if let Some(known) = self.0.get(&key) {
            return Ok(known);
        }
        // Nobody waits for a result under way: a thread that computes one may be lent to another that needs the same.
        let result = compute()?;
        self.0.insert(key, result.clone());
        Ok(result)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_result_is_computed_once_and_a_failure_again() {
        let memo = Memo::<usize, usize>::default();
        assert_eq!(memo.get_or(7, || Err("fails")), Err("fails"));
        assert_eq!(memo.get_or(7, || Ok::<_, ()>(8)), Ok(8));
        assert_eq!(memo.get_or(7, || Err("computed again")), Ok(8));
        for n in 0..2 * MOST {
            assert_eq!(memo.get_or(n, || Ok::<_, ()>(n + 1)), Ok(n + 1));
        }
        assert!(memo.0.len() <= MOST);
    }
}
