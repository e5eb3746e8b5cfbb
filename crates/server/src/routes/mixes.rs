//! Pots: mixes of what is on the shelf.

use axum::{Json, extract::State, http::StatusCode};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::{Ensemble, ShelfPaint};
use warm_blend_paint::{Component, Name, PaintId, SavedMix, WholeParts, percentages};
use warm_blend_store::{Kept, Store, StoreError};

use super::paints::Seen;
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    check::Checks,
    colour::{Colour, Judgement, Look, LookedAt, Swatch},
    known::Known,
    problem::Problem,
};

/// A mix as the painter puts it together.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MixEntry {
    /// Its name, 1 to 80 characters; none while it is only on the bench.
    #[schema(example = "drift blue")]
    name: Option<String>,
    /// Up to eight paints, each once.
    components: Vec<MixPart>,
    /// The colour aimed at.
    target: Option<Colour>,
}

/// One paint of a mix.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MixPart {
    /// A paint of the shelf.
    pub paint: Uuid,
    /// Whole parts by wet volume, 1 to 999.
    parts: u32,
}

impl MixPart {
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
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// When it was last changed, RFC 3339.
    changed_at: String,
    /// What the painter put together.
    entry: MixEntry,
    /// How it is predicted to look.
    prediction: Prediction,
}

/// What a mix is predicted to look like, in the light and the state that were asked for.
#[derive(Debug, Serialize, ToSchema)]
pub struct Prediction {
    /// Its parts, each as it looks alone, in the order of the mix.
    parts: Vec<PredictedPart>,
    /// The whole; none while the pot is empty.
    swatch: Option<Swatch>,
    /// Against the target, if there is one and something is in the pot.
    judgement: Option<Judgement>,
}

/// One paint of a predicted mix.
#[derive(Debug, Serialize, ToSchema)]
pub struct PredictedPart {
    /// The paint.
    paint: Uuid,
    /// Its name.
    name: String,
    /// True where it is no longer on the shelf.
    removed: bool,
    /// True for a medium.
    medium: bool,
    /// Its share of the wet volume, 0–1.
    share: f64,
    /// The same in percent, which add up.
    percent: u32,
    /// Its flat colour.
    hex: String,
    /// The doubt it brings to mixes, ΔE00: see the paint.
    doubt: f64,
}

impl MixEntry {
    /// The same mix of other parts.
    pub fn of(self, components: Vec<MixPart>) -> Self {
        Self { components, ..self }
    }

    pub fn parse(&self) -> Result<SavedMix, Problem> {
        let mut checks = Checks::default();
        if self.components.len() > SavedMix::MOST {
            let too_many = warm_blend_paint::BadMix::TooMany(self.components.len());
            return Err(Problem::field("/components", too_many));
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

/// A mix with the tins it is made of.
struct Pot {
    mix: SavedMix,
    tins: Vec<Kept<ShelfPaint>>,
}

impl Pot {
    fn gather(store: &Store, mix: SavedMix) -> Result<Self, StoreError> {
        let tins = mix
            .components()
            .iter()
            .map(|component| store.get(component.paint.0))
            .collect::<Result<_, _>>()?;
        Ok(Self { mix, tins })
    }

    fn predict(&self, known: &Known, look: Look) -> Result<Prediction, Problem> {
        let paints: Vec<&Ensemble> =
            self.tins.iter().map(|tin| known.paint(tin.id)).collect::<Result<_, _>>()?;
        let components: Vec<_> = self
            .mix
            .components()
            .iter()
            .zip(&paints)
            .map(|(part, paint)| (part.parts.into(), *paint))
            .collect();
        // An empty pot has no colour, and that is no error.
        let mixed = Ensemble::mix(&components).ok();
        let parts: Vec<f64> =
            self.mix.components().iter().map(|part| f64::from(part.parts.value())).collect();
        let total: f64 = parts.iter().sum();
        let part = |(((parts, percent), tin), paint): (((&f64, u32), &Kept<ShelfPaint>), &&Ensemble)| {
            PredictedPart {
                paint: tin.id,
                name: tin.value.name.as_str().to_owned(),
                removed: tin.removed,
                medium: tin.value.class.is_medium(),
                share: parts / total,
                percent,
                hex: look.hex(paint.best()),
                doubt: known.estimate().doubt(PaintId(tin.id)),
            }
        };
        let judgement = mixed
            .as_ref()
            .zip(self.mix.target)
            .map(|(mixed, target)| Judgement::of(mixed, target, look))
            .transpose()?;
        Ok(Prediction {
            parts: parts.iter().zip(percentages(&parts)).zip(&self.tins).zip(&paints).map(part).collect(),
            swatch: mixed.map(|mixed| Swatch::of(&mixed, look)),
            judgement,
        })
    }
}

impl Mix {
    pub fn of((kept, tins): WithTins, known: &Known, look: Look) -> Result<Self, Problem> {
        let pot = Pot { mix: kept.value, tins };
        Ok(Self {
            id: kept.id,
            revision: kept.revision,
            changed_at: kept.changed_at.to_string(),
            entry: MixEntry::from(&pot.mix),
            prediction: pot.predict(known, look)?,
        })
    }
}

/// A kept mix beside its tins.
pub type WithTins = (Kept<SavedMix>, Vec<Kept<ShelfPaint>>);

pub fn with_tins(store: &Store, kept: Kept<SavedMix>) -> Result<WithTins, StoreError> {
    let pot = Pot::gather(store, kept.value)?;
    Ok((Kept { value: pot.mix, ..kept }, pot.tins))
}

/// All mixes, in the order they were begun.
#[utoipa::path(get, path = "/mixes", operation_id = "list_mixes",
    tag = "pot", params(LookedAt),
    responses((status = OK, body = Vec<Mix>)))]
pub async fn list(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
) -> Result<Json<Vec<Mix>>, Problem> {
    let look = asked.get()?;
    let (mixes, known) = workspace
        .with_known(|store| {
            store.all()?.into_iter().map(|kept| with_tins(store, kept)).collect::<Result<Vec<_>, _>>()
        })
        .await?;
    mixes.into_iter().map(|mix| Mix::of(mix, &known, look)).collect::<Result<_, _>>().map(Json)
}

/// Begin a mix.
#[utoipa::path(post, path = "/mixes", operation_id = "make_mix",
    tag = "pot", params(LookedAt), request_body = MixEntry,
    responses((status = CREATED, body = Mix)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(entry): Body<MixEntry>,
) -> Result<(StatusCode, Json<Mix>), Problem> {
    let (look, mix) = (asked.get()?, entry.parse()?);
    let (kept, known) =
        workspace.with_known(|store| store.make(mix).and_then(|kept| with_tins(store, kept))).await?;
    Ok((StatusCode::CREATED, Json(Mix::of(kept, &known, look)?)))
}

/// What a mix of the shelf would look like; nothing is kept.
#[utoipa::path(post, path = "/mixes/preview", operation_id = "preview_mix",
    tag = "pot", params(LookedAt), request_body = MixEntry,
    responses((status = OK, body = Prediction)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(entry): Body<MixEntry>,
) -> Result<Json<Prediction>, Problem> {
    let (look, mix) = (asked.get()?, entry.parse()?);
    let (pot, known) = workspace.with_known(|store| Pot::gather(store, mix)).await?;
    pot.predict(&known, look).map(Json)
}

/// One mix.
#[utoipa::path(get, path = "/mixes/{id}", operation_id = "get_mix",
    tag = "pot", params(LookedAt, ("id" = Uuid, Path)),
    responses((status = OK, body = Mix)))]
pub async fn get(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<LookedAt>,
) -> Result<Json<Mix>, Problem> {
    let look = asked.get()?;
    let (kept, known) =
        workspace.with_known(move |store| store.get(id).and_then(|kept| with_tins(store, kept))).await?;
    Mix::of(kept, &known, look).map(Json)
}

/// Change a mix.
#[utoipa::path(put, path = "/mixes/{id}", operation_id = "change_mix",
    tag = "pot", params(LookedAt, Seen, ("id" = Uuid, Path)), request_body = MixEntry,
    responses((status = OK, body = Mix)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<LookedAt>,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<MixEntry>,
) -> Result<Json<Mix>, Problem> {
    let (look, mix) = (asked.get()?, entry.parse()?);
    let (kept, known) = workspace
        .with_known(move |store| store.change(id, revision, mix).and_then(|kept| with_tins(store, kept)))
        .await?;
    Mix::of(kept, &known, look).map(Json)
}

/// Put a mix away; undo brings it back.
#[utoipa::path(delete, path = "/mixes/{id}", operation_id = "remove_mix",
    tag = "pot", params(Seen, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<SavedMix>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}
