//! The engine alone: paints, mixes and strips given in a request; nothing is saved.

mod board;
mod mix;
mod tins;

pub use board::{
    BoardPredicted, BoardRead, BoardTin, MeetsBelow, PotPart, PredictBoardRequest, PredictLayer,
};
pub use mix::{PredictPaint, PredictRequest, Predicted};
pub use tins::{GivenTins, PredictReading, PredictTin};
