//! What paints hold to, mixed and in every state.

mod mixes;
mod states;
