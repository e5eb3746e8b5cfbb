//! What mixing, matching, blending and correcting hold to.

mod blends;
mod corrections;
mod matching;
