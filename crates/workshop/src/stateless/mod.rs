//! The engine alone: paints, mixes and strips that are given in a request and not kept.

mod board;
mod mix;
mod tins;

pub use board::{
    BoardPredicted, BoardRead, BoardTin, MeetsBelow, PotPart, PredictBoardRequest, PredictLayer,
};
pub use mix::{PredictPaint, PredictRequest, Predicted};
pub use tins::{GivenTins, PredictReading, PredictTin};
