//! A recipe: which tins are mixed, in how many parts, and for which target.

use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::{Masstone, Name, Parts};

/// Identifies a tin on the shelf.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PaintId(pub Uuid);

/// Identifies a mix.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MixId(pub Uuid);

/// Whole parts by wet volume, 1 to 999.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "u32", into = "u32")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WholeParts(u32);

/// Greatest common divisor.
pub fn divisor(a: u32, b: u32) -> u32 {
    if b == 0 { a } else { divisor(b, a % b) }
}

/// Share of each tin in a pot, 0 to 1.
pub fn shares(pot: &[MixPart]) -> impl Iterator<Item = (PaintId, f64)> {
    let total: f64 = pot.iter().map(|part| f64::from(part.parts.value())).sum();
    pot.iter().map(move |part| (part.paint, f64::from(part.parts.value()) / total))
}

/// Replaces one tin with another in the contents of a pot.
pub fn replace_paint(pot: &mut Vec<MixPart>, gone: PaintId, kept: PaintId) {
    // A pot is checked like a mix, and stays one.
    if let Ok(mix) = SavedMix::new(None, pot.clone(), None) {
        *pot = mix.with_paint_replaced(gone, kept).components;
    }
}

/// The smallest whole numbers of the same ratio; if one would exceed 999, the nearest ratio within that limit.
pub fn simplest(parts: &[u32]) -> Vec<u32> {
    let common = parts.iter().copied().fold(0, divisor).max(1);
    let most = parts.iter().copied().max().unwrap_or(0) / common;
    let too_many = f64::from(most) / f64::from(WholeParts::MOST);
    let whole = |parts: &u32| match parts / common {
        parts if too_many <= 1.0 => parts,
        parts => ((f64::from(parts) / too_many).round() as u32).max(1),
    };
    parts.iter().map(whole).collect()
}

/// The fewest whole parts within 2 % of every amount and 0.5 % of the whole; amounts that differ too much for that get
/// the nearest ratio of up to a thousand parts.
pub fn nearest_whole(amounts: &[f64]) -> Vec<WholeParts> {
    whole_within(amounts, 0.02, 0.005, WholeParts::MOST)
}

/// The fewest whole parts within 10 % of every amount and 2 % of the whole, up to thirty in all†; amounts that differ too
/// much for that are treated as by [`nearest_whole`].
pub fn measurable(amounts: &[f64]) -> Vec<WholeParts> {
    let found = whole_within(amounts, 0.1, 0.02, 30);
    let counts: f64 = found.iter().map(|parts| f64::from(parts.value())).sum();
    let total: f64 = amounts.iter().sum();
    let near = |(parts, amount): (&WholeParts, &f64)| {
        (f64::from(parts.value()) / counts / (amount / total) - 1.0).abs() <= 0.1
    };
    if found.iter().zip(amounts).all(near) { found } else { nearest_whole(amounts) }
}

/// The fewest whole parts, `most` in all at most, that come to within a share of every amount and a share of the whole.
fn whole_within(amounts: &[f64], of_each: f64, of_whole: f64, most: u32) -> Vec<WholeParts> {
    let total: f64 = amounts.iter().sum();
    let whole = |parts: f64| {
        let count = |amount: &f64| ((amount / total * parts).round() as u32).clamp(1, WholeParts::MOST);
        amounts.iter().map(count).collect::<Vec<u32>>()
    };
    let near = |counts: &Vec<u32>| {
        let sum: f64 = counts.iter().map(|count| f64::from(*count)).sum();
        counts.iter().zip(amounts).all(|(count, amount)| {
            let (share, wanted) = (f64::from(*count) / sum, amount / total);
            (share - wanted).abs() <= of_whole && (share / wanted - 1.0).abs() <= of_each
        })
    };
    let found = (1..=most).map(|parts| whole(f64::from(parts))).find(near);
    let counts = found.unwrap_or_else(|| whole(f64::from(most)));
    simplest(&counts).into_iter().map(WholeParts).collect()
}

/// One tin's share of a mix.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MixPart {
    /// The tin.
    pub paint: PaintId,
    /// Whole parts by wet volume, 1 to 999.
    pub parts: WholeParts,
}

impl MixPart {
    /// Merges repeated tins and reduces the parts to the smallest whole numbers of the same ratio.
    pub fn gathered(parts: impl Iterator<Item = (PaintId, u32)>) -> Vec<Self> {
        let mut once: Vec<(PaintId, u32)> = Vec::new();
        for (paint, parts) in parts {
            match once.iter_mut().find(|(other, _)| *other == paint) {
                Some((_, more)) => *more += parts,
                None => once.push((paint, parts)),
            }
        }
        let ratio = simplest(&once.iter().map(|(_, parts)| *parts).collect::<Vec<_>>());
        let part =
            |((paint, _), parts): (&(PaintId, u32), u32)| Self { paint: *paint, parts: WholeParts(parts) };
        once.iter().zip(ratio).map(part).collect()
    }
}

/// A recipe that is not possible.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum BadMix {
    /// Parts outside 1–999.
    #[error("{0} parts is out of range; use 1 to {most}, or remove the paint", most = WholeParts::MOST)]
    Parts(u32),
    /// More paints than a painter stirs together.
    #[error("{0} paints in one pot; the most is {most}", most = SavedMix::MOST)]
    TooMany(usize),
    /// The same tin listed twice.
    #[error("the same paint is in the pot twice; add the parts together")]
    Twice,
}

impl WholeParts {
    /// Greatest number of parts of one tin.
    pub const MOST: u32 = 999;

    /// Accepts 1 to 999.
    pub fn new(parts: u32) -> Result<Self, BadMix> {
        if (1..=Self::MOST).contains(&parts) { Ok(Self(parts)) } else { Err(BadMix::Parts(parts)) }
    }

    /// The number.
    pub const fn value(self) -> u32 {
        self.0
    }
}

impl From<WholeParts> for Parts {
    fn from(parts: WholeParts) -> Parts {
        Parts::of(f64::from(parts.0))
    }
}

impl TryFrom<u32> for WholeParts {
    type Error = BadMix;

    fn try_from(parts: u32) -> Result<Self, BadMix> {
        Self::new(parts)
    }
}

impl From<WholeParts> for u32 {
    fn from(parts: WholeParts) -> u32 {
        parts.0
    }
}

/// A saved mix. One without a name is still in progress.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct SavedMix {
    /// Name, if it has one.
    pub name: Option<Name>,
    /// Up to eight tins, each once, in the order they were put in; may be empty.
    components: Vec<MixPart>,
    /// Target colour.
    pub target: Option<Masstone>,
}

impl SavedMix {
    /// Greatest number of tins in one mix.
    pub const MOST: usize = 8;

    /// Makes a mix of up to eight different tins.
    pub fn new(
        name: Option<Name>,
        components: Vec<MixPart>,
        target: Option<Masstone>,
    ) -> Result<Self, BadMix> {
        if components.len() > Self::MOST {
            return Err(BadMix::TooMany(components.len()));
        }
        let twice = |i: usize| components[..i].iter().any(|c| c.paint == components[i].paint);
        if (0..components.len()).any(twice) {
            return Err(BadMix::Twice);
        }
        Ok(Self { name, components, target })
    }

    /// Replaces one tin with another; if the mix had both, their parts are added.
    pub fn with_paint_replaced(mut self, gone: PaintId, kept: PaintId) -> Self {
        let Some(at) = self.components.iter().position(|part| part.paint == gone) else { return self };
        let moved = self.components[at].parts;
        match self.components.iter_mut().find(|part| part.paint == kept) {
            Some(part) => {
                part.parts = WholeParts((part.parts.0 + moved.0).min(WholeParts::MOST));
                self.components.remove(at);
            }
            None => self.components[at].paint = kept,
        }
        self
    }

    /// The tins and their parts.
    pub fn components(&self) -> &[MixPart] {
        &self.components
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn component(n: u128) -> MixPart {
        MixPart { paint: PaintId(Uuid::from_u128(n)), parts: WholeParts(1) }
    }

    /// A label says what a person can measure: 317 ml to 61 are five parts to one, not 317 to 61.
    #[test]
    fn a_label_says_what_can_be_measured() {
        let parts =
            |amounts: &[f64]| measurable(amounts).iter().map(|parts| parts.value()).collect::<Vec<_>>();
        assert_eq!(parts(&[317.0, 61.0]), [5, 1]);
        assert_eq!(parts(&[100.0, 98.0]), [1, 1]);
        assert_eq!(parts(&[118.0, 41.0, 19.5]), [6, 2, 1]);
        // A drop in a cup is no part in thirty: it is said as it is.
        let drop = parts(&[236.0, 1.0]);
        assert!((f64::from(drop[0]) / f64::from(drop[1]) / 236.0 - 1.0).abs() < 0.03, "{drop:?}");
    }

    #[test]
    fn parts_are_made_simple() {
        assert_eq!(simplest(&[6, 2]), [3, 1]);
        assert_eq!(simplest(&[4, 1]), [4, 1]);
        assert_eq!(simplest(&[1998, 2]), [999, 1]);
        assert_eq!(simplest(&[5000, 3]), [999, 1]);
        assert!(simplest(&[]).is_empty());
    }

    #[test]
    fn amounts_become_few_parts() {
        let whole = |ml: &[f64]| nearest_whole(ml).into_iter().map(WholeParts::value).collect::<Vec<_>>();
        assert_eq!(whole(&[177.4, 59.1]), [3, 1]);
        assert_eq!(whole(&[100.2, 99.9, 50.1]), [2, 2, 1]);
        assert_eq!(whole(&[5.0]), [1]);
        assert_eq!(whole(&[5000.0, 0.5]), [999, 1]);
        assert!(whole(&[]).is_empty());
    }

    #[test]
    fn recipes_that_cannot_be_are_refused() {
        assert_eq!(WholeParts::new(0), Err(BadMix::Parts(0)));
        assert_eq!(WholeParts::new(1000), Err(BadMix::Parts(1000)));
        assert_eq!(SavedMix::new(None, (0..9).map(component).collect(), None), Err(BadMix::TooMany(9)));
        assert_eq!(SavedMix::new(None, vec![component(1), component(1)], None), Err(BadMix::Twice));
        assert!(SavedMix::new(None, vec![], None).is_ok());
    }
}
