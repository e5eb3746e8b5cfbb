//! Outside devices, as the rest of the program sees them: a colour reader and a scale.

mod reader;
mod scale;

pub use reader::{ColourReader, PLACES, ReaderTrouble};
pub use scale::{BadLine, NotYet, Pan, ScaleLine, Weighing};
