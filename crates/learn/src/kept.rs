//! What was learnt of a circle, as it is kept beside the readings: a shelf of ten years is known as soon as it is opened.
//!
//! It is a copy of what can be learnt again. One that was made of other tins or readings, by another engine or of another form
//! is not believed.

use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use warm_blend_spectral::Lab;

use crate::circle::CircleData;
use crate::judged::Judged;

/// What was learnt of one circle of paints.
#[derive(Debug, Clone, PartialEq)]
pub struct KeptCircle {
    /// The circle.
    pub name: u64,
    /// What it was learnt from.
    pub said: Said,
    /// What was learnt.
    pub body: Vec<u8>,
}

/// Stands for all that was said of a circle, and for the engine that learnt from it: another, where anything else was said.
pub type Said = [u8; 32];

#[derive(Serialize, Deserialize)]
struct Body {
    found: Coordinates,
    /// By reading.
    judged: Vec<KeptJudged>,
}

#[derive(Serialize, Deserialize)]
struct KeptJudged {
    questioned: bool,
    off: f64,
    predicted: Vec<[f64; 3]>,
    difference: f64,
}

impl From<&Judged> for KeptJudged {
    fn from(judged: &Judged) -> Self {
        let Judged { questioned, off, predicted, difference } = judged;
        let predicted = predicted.iter().map(|Lab { l, a, b }| [*l, *a, *b]).collect();
        Self { questioned: *questioned, off: *off, predicted, difference: *difference }
    }
}

impl From<KeptJudged> for Judged {
    fn from(kept: KeptJudged) -> Self {
        let KeptJudged { questioned, off, predicted, difference } = kept;
        let predicted = predicted.into_iter().map(|[l, a, b]| Lab { l, a, b }).collect();
        Self { questioned, off, predicted, difference }
    }
}

/// Stands for all that is said of a circle. None of what cannot be written down, which is nothing.
pub(crate) fn told(said: &CircleData) -> Option<Said> {
    let mut hash = Sha256::new_with_prefix(env!("ENGINE"));
    hash.update(postcard::to_allocvec(said).ok()?);
    Some(hash.finalize().into())
}

/// Coordinates by paint, each with those of its plausible forms one after the other.
pub(crate) type Coordinates = Vec<(Vec<f64>, Vec<f32>)>;

impl KeptCircle {
    pub(crate) fn of(name: u64, said: Said, found: Coordinates, judged: &[Judged]) -> Option<Self> {
        let body = Body { found, judged: judged.iter().map(Into::into).collect() };
        Some(Self { name, said, body: postcard::to_allocvec(&body).ok()? })
    }

    /// What stands in it; None where it is no such thing.
    pub(crate) fn open(&self) -> Option<(Coordinates, Vec<Judged>)> {
        let Body { found, judged } = postcard::from_bytes(&self.body).ok()?;
        Some((found, judged.into_iter().map(Into::into).collect()))
    }
}
