//! What pieces and the palettes on them hold to.

mod elevations;
mod palettes;
