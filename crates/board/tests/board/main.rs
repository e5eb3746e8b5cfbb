//! What boards, their order of work and their remedies hold to.

mod advice;
mod boards;
mod trade;
