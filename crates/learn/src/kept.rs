//! Stored form of what was learned, so that years of readings are available as soon as a workspace opens.
//!
//! It is a cache. If it was made from other tins or readings, or by another version of the engine, it is ignored.

use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use warm_blend_paint::{Material, Optics, SurfaceReflection};
use warm_blend_spectral::Lab;

use crate::component::CircleData;
use crate::judged::Judged;

/// What was learned of a connected group of paints.
#[derive(Debug, Clone, PartialEq)]
pub struct KeptComponent {
    /// Key of the component.
    pub name: u64,
    /// Hash of the data it was learned from.
    pub said: Said,
    /// What was learned, encoded.
    pub body: Vec<u8>,
}

/// Hash of the data of a component and of the version of the engine.
pub type Said = [u8; 32];

#[derive(Serialize, Deserialize)]
struct Body {
    /// By paint.
    found: Vec<Numbers>,
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

/// Hash of the data of a component; `None` if it cannot be encoded.
pub(crate) fn fingerprint(said: &CircleData) -> Option<Said> {
    let mut hash = Sha256::new_with_prefix(env!("ENGINE"));
    hash.update(postcard::to_allocvec(said).ok()?);
    Some(hash.finalize().into())
}

/// A fitted tin.
pub(crate) struct KeptTin {
    /// Its coordinates.
    pub at: Vec<f64>,
    /// Its most probable material.
    pub best: Material,
    /// Coordinates of its plausible variants, one variant after the other.
    pub members: Vec<f32>,
}

/// A tin as plain numbers.
#[derive(Serialize, Deserialize)]
struct Numbers {
    at: Vec<f64>,
    k: Vec<f64>,
    s: Vec<f64>,
    film: [f64; 5],
    members: Vec<f32>,
}

impl From<KeptTin> for Numbers {
    fn from(tin: KeptTin) -> Self {
        let KeptTin { at, best: Material { optics, sheen, stays, voids, milk, lustre }, members } = tin;
        let (k, s) = (optics.k().to_vec(), optics.s().to_vec());
        Self { at, k, s, film: [sheen.alpha(), stays, voids, milk, lustre], members }
    }
}

impl Numbers {
    /// Decodes a tin; `None` if the numbers are invalid.
    fn tin(self) -> Option<KeptTin> {
        let Self { at, k, s, film, members } = self;
        let finite = |numbers: &[f64]| numbers.iter().all(|number| number.is_finite());
        let sound =
            [&at[..], &k, &s, &film].into_iter().all(finite) && members.iter().all(|at| at.is_finite());
        let (k, s) = (k.try_into().ok().filter(|_| sound)?, s.try_into().ok()?);
        let [alpha, stays, voids, milk, lustre] = film;
        let (optics, sheen) = (Optics::new(k, s), SurfaceReflection::new(alpha));
        Some(KeptTin { at, best: Material { optics, sheen, stays, voids, milk, lustre }, members })
    }
}

impl KeptComponent {
    pub(crate) fn of(
        name: u64,
        said: Said,
        found: impl Iterator<Item = KeptTin>,
        judged: &[Judged],
    ) -> Option<Self> {
        let body =
            Body { found: found.map(Into::into).collect(), judged: judged.iter().map(Into::into).collect() };
        Some(Self { name, said, body: postcard::to_allocvec(&body).ok()? })
    }

    /// Decodes it; `None` if it is damaged.
    pub(crate) fn open(&self) -> Option<(Vec<KeptTin>, Vec<Judged>)> {
        let Body { found, judged } = postcard::from_bytes(&self.body).ok()?;
        let found = found.into_iter().map(Numbers::tin).collect::<Option<_>>()?;
        Some((found, judged.into_iter().map(Into::into).collect()))
    }
}
