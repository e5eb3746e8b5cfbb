//! What a painter does, at the real interface.

mod everyone;
mod keeping;
mod pot;
mod pouring;
mod shelf;
mod tests_of_paint;
