//! Cracks: islands of paint that shrank as they dried.

use super::cloth::between_facets;
use super::field::{Field, bent, rough, sum};

/// Islands of two sizes: the large ones separate first, then the small ones within them. High in their middles.
pub(super) fn cracked(seed: u32) -> Field {
    let (large, small) = (between_facets(16.0, seed + 1), between_facets(6.0, seed + 2));
    let islands: Field =
        large.iter().zip(&small).map(|(large, small)| (1.1 * large).min(0.45 + small)).collect();
    // Somewhere paint lies thicker, and tears wider.
    let drawn = bent(&islands, 0.7, &[(4.0, 1.0), (1.2, 0.5)], [seed + 3, seed + 7]);
    sum(&[(1.0, drawn), (0.03, rough(&[(30.0, 1.0), (8.0, 0.4)], seed + 11))])
}
