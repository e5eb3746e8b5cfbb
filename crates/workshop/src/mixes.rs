//! Mixes and their predictions.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::{Documents, Kept, pot_words};
use warm_blend_learn::{Certainty, Ensemble};
use warm_blend_paint::{Colour, Look, MixPart, Name, PaintId, Parts, SavedMix, percentages};

use crate::{AgainstTarget, Checks, Refusal, ShelfSnapshot, Swatch};

/// A mix as entered.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MixEntry {
    /// Name, 1 to 80 characters; absent while it is in progress.
    #[schema(example = "drift blue")]
    pub name: Option<String>,
    /// Up to eight paints, each once.
    pub components: Vec<MixPart>,
    /// Target colour.
    pub target: Option<Colour>,
}

/// A saved mix.
#[derive(Debug, Serialize, ToSchema)]
pub struct Mix {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision, to be sent with a change.
    pub revision: i64,
    /// Time of the last change, RFC 3339.
    pub changed_at: String,
    /// The mix.
    pub entry: MixEntry,
    /// Its prediction.
    pub prediction: Prediction,
}

/// Prediction of a mix in the requested light and state.
#[derive(Debug, Serialize, ToSchema)]
pub struct Prediction {
    /// Its parts, each as it looks alone, in the order of the mix.
    pub parts: Vec<PredictedPart>,
    /// The mix; absent if the pot is empty.
    pub swatch: Option<Swatch>,
    /// Comparison with the target, if there is one and the pot is not empty.
    pub judgement: Option<AgainstTarget>,
    /// What would narrow the band; absent for a single paint, or if the band is as narrow as a reading.
    pub narrowed_by: Option<NarrowedBy>,
}

/// What would narrow the band of a mix most.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum NarrowedBy {
    /// A test of its least known paint.
    Test {
        /// The paint.
        paint: Uuid,
        /// Its name.
        name: String,
    },
    /// A sample on a board: the tins are known, but not what the medium does to them.
    Board,
}

/// A paint of a predicted mix.
#[derive(Debug, Serialize, ToSchema)]
pub struct PredictedPart {
    /// The paint.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// True if it was deleted from the shelf.
    pub removed: bool,
    /// True for a medium.
    pub medium: bool,
    /// Its share of the wet volume, 0–1.
    pub share: f64,
    /// Percentage; all of them add up to 100.
    pub percent: u32,
    /// Its flat colour.
    pub hex: String,
    /// Uncertainty that it brings to mixes, ΔE00: see the paint.
    pub doubt: f64,
}

impl MixEntry {
    /// The same mix with other components.
    pub fn with_components(self, components: Vec<MixPart>) -> Self {
        Self { components, ..self }
    }

    /// Checks and converts the mix.
    pub fn parse(&self) -> Result<SavedMix, Refusal> {
        let mut checks = Checks::default();
        if self.components.len() > SavedMix::MOST {
            let too_many = warm_blend_paint::BadMix::TooMany(self.components.len());
            return Err(Refusal::field("/components", too_many));
        }
        let name = checks.optional("/name", self.name.as_deref().map(Name::new));
        let target = self.target.as_ref().and_then(|target| checks.colour("/target", target));
        let mix = checks.field("/components", SavedMix::new(name, self.components.clone(), target));
        checks.done(mix)
    }
}

/// The existing mix of these parts, preferably a named one, then the oldest; otherwise a new mix.
pub fn mix_of_parts<D: Documents>(documents: &mut D, mix: SavedMix) -> Result<Kept<SavedMix>, D::Error> {
    let known = match mix.components().first() {
        Some(part) => documents.users::<SavedMix>(part.paint.0)?,
        None => Vec::new(),
    };
    let same = known.into_iter().filter(|known| known.value.components() == mix.components());
    match same.min_by_key(|known| (known.value.name.is_none(), known.id)) {
        Some(same) => Ok(same),
        None => documents.make(mix),
    }
}

impl ShelfSnapshot {
    /// `5 slate blue : 1 barley`
    pub(crate) fn mix_words(&self, parts: &[MixPart]) -> String {
        let parts: Vec<_> =
            parts.iter().map(|part| (part.parts.value(), self.name(part.paint.0).to_owned())).collect();
        pot_words(&parts)
    }
}

impl From<&SavedMix> for MixEntry {
    fn from(mix: &SavedMix) -> Self {
        Self {
            name: mix.name.clone().map(String::from),
            components: mix.components().to_vec(),
            target: mix.target.map(Colour::from),
        }
    }
}

impl Mix {
    /// A saved mix with its prediction.
    pub fn of(kept: Kept<SavedMix>, shelf: &ShelfSnapshot, look: Look) -> Result<Self, Refusal> {
        Ok(Self {
            id: kept.id,
            revision: kept.revision,
            changed_at: kept.changed_at.to_string(),
            entry: MixEntry::from(&kept.value),
            prediction: shelf.predict(&kept.value, look)?,
        })
    }
}

impl ShelfSnapshot {
    /// Predicts a mix.
    pub fn predict(&self, mix: &SavedMix, look: Look) -> Result<Prediction, Refusal> {
        let components: Vec<(PaintId, Parts)> =
            mix.components().iter().map(|part| (part.paint, part.parts.into())).collect();
        let parts: Vec<f64> = components.iter().map(|(_, parts)| parts.value()).collect();
        let total: f64 = parts.iter().sum();
        let part = |((paint, parts), percent): (&(PaintId, Parts), u32)| {
            let tin = self.tin(paint.0)?;
            Ok(PredictedPart {
                paint: tin.id,
                name: tin.value.name.as_str().to_owned(),
                removed: tin.removed,
                medium: tin.value.class.is_medium(),
                share: parts.value() / total,
                percent,
                hex: self.face_of(*paint, look)?,
                doubt: self.estimate().doubt(*paint),
            })
        };
        let against = |target| {
            let mixed = self.most_probable(&components)?;
            mixed.map(|mixed| AgainstTarget::of(&mixed, target, look)).transpose()
        };
        let parts: Vec<PredictedPart> =
            components.iter().zip(percentages(&parts)).map(part).collect::<Result<_, Refusal>>()?;
        // An empty pot has no colour, which is not an error.
        let swatch = self.swatch_of(&components, look)?;
        let within = swatch.as_ref().map_or(0.0, |swatch| swatch.within);
        Ok(Prediction {
            narrowed_by: self.narrowed_by(&components, &parts, within, look)?,
            parts,
            swatch,
            judgement: mix.target.map(against).transpose()?.flatten(),
        })
    }

    /// What would narrow the band of a mix, now `within` ΔE00.
    fn narrowed_by(
        &self,
        of: &[(PaintId, Parts)],
        parts: &[PredictedPart],
        within: f64,
        look: Look,
    ) -> Result<Option<NarrowedBy>, Refusal> {
        if of.len() < 2 || Certainty::of(within) == Certainty::Measured {
            return Ok(None);
        }
        if parts.iter().any(|part| part.medium) {
            let tins = self.within_by_tins(of, look)?.ok_or(Refusal::Broken)?;
            // Most of the variance comes from the medium.
            if tins.powi(2) < 0.5 * within.powi(2) {
                return Ok(Some(NarrowedBy::Board));
            }
        }
        let tins = parts.iter().filter(|part| !part.medium && !part.removed);
        let worst = tins.max_by(|one, other| one.doubt.total_cmp(&other.doubt));
        Ok(worst.map(|tin| NarrowedBy::Test { paint: tin.paint, name: tin.name.clone() }))
    }

    /// The mixture of these parts; errors refer to `pointer`.
    pub(crate) fn pot(&self, pointer: &str, parts: &[MixPart]) -> Result<Ensemble, Refusal> {
        let parts = parts.iter().enumerate();
        let of = parts.map(|(i, part)| self.part(&format!("{pointer}/{i}"), part));
        let of = of.collect::<Result<Vec<_>, _>>()?;
        Ensemble::mix(&of).map_err(|error| Refusal::field(pointer, error))
    }

    /// A part with its tin.
    pub(crate) fn part(&self, pointer: &str, part: &MixPart) -> Result<(Parts, &Ensemble), Refusal> {
        Ok((part.parts.into(), self.on_shelf_at(&format!("{pointer}/paint"), part.paint.0)?))
    }

    /// The tin in a field.
    pub(crate) fn on_shelf_at(&self, pointer: &str, paint: Uuid) -> Result<&Ensemble, Refusal> {
        let known = self.estimate().paint(PaintId(paint));
        known.ok_or_else(|| Refusal::field(pointer, "this paint is not on the shelf"))
    }
}
