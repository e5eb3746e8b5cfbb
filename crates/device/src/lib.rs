//! Interfaces of outside devices: colour reader and scale.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod reader;
mod scale;

pub use reader::{ColourReader, PLACES, ReaderTrouble};
pub use scale::{BadLine, NotYet, Pan, ScaleLine, Weighing};
