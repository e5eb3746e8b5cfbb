//! The documents of a workspace, and what can be asked of them.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod settings;

pub use settings::Workshop;
