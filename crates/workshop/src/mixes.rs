//! Mixes of the shelf, and what they are predicted to look like.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::Ensemble;
use warm_blend_paint::{Component, Look, Name, PaintId, Parts, SavedMix, WholeParts, percentages};

use crate::pot_words::pot_words;
use crate::{AgainstTarget, Checks, Colour, Documents, Kept, Refusal, ShelfSnapshot, Swatch};

/// A mix as the painter puts it together.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MixEntry {
    /// Its name, 1 to 80 characters; none while it is only on the bench.
    #[schema(example = "drift blue")]
    pub name: Option<String>,
    /// Up to eight paints, each once.
    pub components: Vec<MixPart>,
    /// The colour aimed at.
    pub target: Option<Colour>,
}

/// One paint of a mix.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct MixPart {
    /// A paint of the shelf.
    pub paint: Uuid,
    /// Whole parts by wet volume, 1 to 999.
    pub parts: u32,
}

impl MixPart {
    /// So many parts of a tin.
    pub fn new(paint: Uuid, parts: u32) -> Self {
        Self { paint, parts }
    }

    /// Its parts, as they were given.
    pub fn given(&self) -> u32 {
        self.parts
    }

    /// Its parts, checked.
    pub fn parts(&self) -> Result<WholeParts, warm_blend_paint::BadMix> {
        WholeParts::new(self.parts)
    }

    /// The same read into what a pot holds, or what is wrong with it, at `at`.
    pub fn component(&self, checks: &mut Checks, at: &str) -> Option<Component> {
        let parts = checks.field(format!("{at}/parts"), self.parts())?;
        Some(Component { paint: PaintId(self.paint), parts })
    }

    /// The same paints each once, in the smallest whole parts of the same ratio that a pot takes.
    pub fn gathered(parts: impl Iterator<Item = MixPart>) -> Vec<MixPart> {
        let mut once: Vec<MixPart> = Vec::new();
        for part in parts {
            match once.iter_mut().find(|other| other.paint == part.paint) {
                Some(other) => other.parts += part.parts,
                None => once.push(part),
            }
        }
        let ratio = warm_blend_paint::simplest(&once.iter().map(|part| part.parts).collect::<Vec<_>>());
        once.iter().zip(ratio).map(|(part, parts)| MixPart::new(part.paint, parts)).collect()
    }
}

/// A mix that is kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct Mix {
    /// For good.
    pub id: Uuid,
    /// To be named when it is changed.
    pub revision: i64,
    /// When it was last changed, RFC 3339.
    pub changed_at: String,
    /// What the painter put together.
    pub entry: MixEntry,
    /// How it is predicted to look.
    pub prediction: Prediction,
}

/// What a mix is predicted to look like, in the light and the state that were asked for.
#[derive(Debug, Serialize, ToSchema)]
pub struct Prediction {
    /// Its parts, each as it looks alone, in the order of the mix.
    pub parts: Vec<PredictedPart>,
    /// The whole; none while the pot is empty.
    pub swatch: Option<Swatch>,
    /// Against the target, if there is one and something is in the pot.
    pub judgement: Option<AgainstTarget>,
}

/// One paint of a predicted mix.
#[derive(Debug, Serialize, ToSchema)]
pub struct PredictedPart {
    /// The paint.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// True where it is no longer on the shelf.
    pub removed: bool,
    /// True for a medium.
    pub medium: bool,
    /// Its share of the wet volume, 0–1.
    pub share: f64,
    /// The same in percent, which add up.
    pub percent: u32,
    /// Its flat colour.
    pub hex: String,
    /// The doubt it brings to mixes, ΔE00: see the paint.
    pub doubt: f64,
}

impl MixEntry {
    /// The same mix of other parts.
    pub fn of(self, components: Vec<MixPart>) -> Self {
        Self { components, ..self }
    }

    /// What is kept of it.
    pub fn parse(&self) -> Result<SavedMix, Refusal> {
        let mut checks = Checks::default();
        if self.components.len() > SavedMix::MOST {
            let too_many = warm_blend_paint::BadMix::TooMany(self.components.len());
            return Err(Refusal::field("/components", too_many));
        }
        let name = checks.optional("/name", self.name.as_deref().map(Name::new));
        let target = self.target.as_ref().and_then(|target| target.parse(&mut checks, "/target"));
        let parts = self.components.iter().enumerate();
        let components =
            parts.filter_map(|(i, part)| part.component(&mut checks, &format!("/components/{i}"))).collect();
        let mix = checks.field("/components", SavedMix::new(name, components, target));
        checks.done(mix)
    }
}

/// The mix that such parts are already: one that has a name first, then the one begun first; a new one where there is none.
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
        let parts: Vec<_> = parts.iter().map(|part| (part.parts, self.name(part.paint).to_owned())).collect();
        pot_words(&parts)
    }
}

impl From<&Component> for MixPart {
    fn from(part: &Component) -> Self {
        Self { paint: part.paint.0, parts: part.parts.value() }
    }
}

impl From<&SavedMix> for MixEntry {
    fn from(mix: &SavedMix) -> Self {
        Self {
            name: mix.name.clone().map(String::from),
            components: mix.components().iter().map(MixPart::from).collect(),
            target: mix.target.map(Colour::from),
        }
    }
}

impl Mix {
    /// A kept mix as it looks.
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
    /// What a mix looks like.
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
        Ok(Prediction {
            parts: components.iter().zip(percentages(&parts)).map(part).collect::<Result<_, Refusal>>()?,
            // An empty pot has no colour, and that is no error.
            swatch: self.swatch_of(&components, look)?,
            judgement: mix.target.map(against).transpose()?.flatten(),
        })
    }

    /// What some paints and parts come to; faults stand at `pointer`.
    pub(crate) fn pot(&self, pointer: &str, parts: &[MixPart]) -> Result<Ensemble, Refusal> {
        let parts = parts.iter().enumerate();
        let of = parts.map(|(i, part)| self.part(&format!("{pointer}/{i}"), part));
        let of = of.collect::<Result<Vec<_>, _>>()?;
        Ensemble::mix(&of).map_err(|error| Refusal::field(pointer, error))
    }

    /// One of them.
    pub(crate) fn part(&self, pointer: &str, part: &MixPart) -> Result<(Parts, &Ensemble), Refusal> {
        let whole = part.parts().map_err(|error| Refusal::field(format!("{pointer}/parts"), error))?;
        Ok((whole.into(), self.on_shelf_at(&format!("{pointer}/paint"), part.paint)?))
    }

    /// A tin that a field names.
    pub(crate) fn on_shelf_at(&self, pointer: &str, paint: Uuid) -> Result<&Ensemble, Refusal> {
        let known = self.estimate().paint(PaintId(paint));
        known.ok_or_else(|| Refusal::field(pointer, "this paint is not on the shelf"))
    }
}
