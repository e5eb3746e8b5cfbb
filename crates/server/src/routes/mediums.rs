//! What a medium makes of a pot: the usual mixtures, their limits, and the film over a ground.

use axum::{Json, extract::State};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_bench::{Kind, Preset, warnings};
use warm_blend_board::Place;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{
    Class, Condition, Masstone, Name, PaintId, SavedMix, Seen, State as Film, Verdict, nearest_whole,
};
use warm_blend_store::Kept;

use super::{
    bench::pots,
    mixes::{Mix, MixEntry, MixPart, with_tins},
    paints::Seen as Revision,
};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    check::Checks,
    colour::{Colour, LookedAt},
    problem::Problem,
};

/// A usual mixture.
#[derive(Debug, Serialize, ToSchema)]
pub struct PresetChoice {
    /// `wall-glaze` …
    id: &'static str,
    /// `Glaze, 4 to 1` …
    name: &'static str,
    /// What to know of it.
    note: &'static str,
    /// Mediums that it is made with and that are not on the shelf.
    missing: Vec<MissingMedium>,
}

/// A medium that is not on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct MissingMedium {
    /// Its class.
    class: &'static str,
    /// What it is called.
    name: &'static str,
}

/// A pot to be made into something.
#[derive(Debug, Deserialize, ToSchema)]
pub struct MadeInto {
    /// What is in it.
    components: Vec<MixPart>,
    /// Which mixture, by its id; none takes the mediums out again.
    preset: Option<String>,
}

/// What a kept mix is to be made into.
#[derive(Debug, Deserialize, ToSchema)]
pub struct MixtureWanted {
    /// Which mixture, by its id.
    preset: String,
}

/// A pot and what it lies on.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FilmOf {
    /// What is in it.
    components: Vec<MixPart>,
    /// A paint of the shelf that it lies on.
    on_paint: Option<Uuid>,
    /// Or a colour.
    on_colour: Option<Colour>,
}

/// The films that a pot leaves over a ground.
#[derive(Debug, Serialize, ToSchema)]
pub struct FilmsSeen {
    /// What the pot is: `glaze, stippled`.
    kind: &'static str,
    /// The ground, bare.
    ground: String,
    /// On the field, in a recess, on an edge.
    films: Vec<FilmSeen>,
    /// What goes wrong with it, and what to do.
    warnings: Vec<PotWarning>,
}

/// A film at one place.
#[derive(Debug, Serialize, ToSchema)]
pub struct FilmSeen {
    /// `field`, `recess` or `edge`.
    place: &'static str,
    /// Wet thickness, µm.
    wet_um: f64,
    /// What it looks like.
    hex: String,
    /// How far it moves the ground: `a little darker than the ground`.
    words: String,
    /// ΔE00.
    difference: f64,
}

/// Something that goes wrong with a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotWarning {
    /// True where it will fail, false where it needs care.
    fails: bool,
    /// What, why and what to do.
    words: &'static str,
}

/// The tin of a medium on the shelf: the fullest that is still good. Those that were removed are passed over.
fn tin_of(class: Class, shelf: &[Kept<ShelfPaint>]) -> Option<Uuid> {
    let left = |tin: &&Kept<ShelfPaint>| tin.value.stock.map_or(0.0, |left| left.value());
    shelf
        .iter()
        .filter(|tin| !tin.removed && tin.value.class == class && tin.value.condition != Condition::Off)
        .max_by(|a, b| left(a).total_cmp(&left(b)))
        .map(|tin| tin.id)
}

/// The usual mixtures, and what of them is not on the shelf.
#[utoipa::path(get, path = "/bench/presets", operation_id = "list_presets",
    tag = "pot", responses((status = OK, body = Vec<PresetChoice>)))]
pub async fn presets(State(workspace): State<Workspace>) -> Result<Json<Vec<PresetChoice>>, Problem> {
    let shelf = workspace.with(|store| store.all::<ShelfPaint>()).await?;
    let choice = |preset: &Preset| PresetChoice {
        id: preset.id,
        name: preset.name,
        note: preset.note,
        missing: preset
            .mediums
            .iter()
            .filter(|(class, _)| tin_of(*class, &shelf).is_none())
            .map(|(class, _)| MissingMedium { class: class.id(), name: class.name() })
            .collect(),
    };
    Ok(Json(Preset::ALL.iter().map(choice).collect()))
}

/// A new tin of a medium.
fn medium(class: Class) -> Result<ShelfPaint, Problem> {
    let name = Name::new(&class.name().to_lowercase()).map_err(|error| Problem::field("/preset", error))?;
    Ok(ShelfPaint::new(name, class, None))
}

/// What a pot is to be made into, once it is sure that it can be.
struct Making {
    paints: Vec<Uuid>,
    parts: Vec<u32>,
    preset: Option<Preset>,
}

impl Making {
    fn read(
        components: &[MixPart],
        preset: Option<&str>,
        shelf: &[Kept<ShelfPaint>],
    ) -> Result<Self, Problem> {
        let is_paint =
            |part: &&MixPart| shelf.iter().any(|tin| tin.id == part.paint && !tin.value.class.is_medium());
        let paints: Vec<&MixPart> = components.iter().filter(is_paint).collect();
        let mut checks = Checks::default();
        let parts: Option<Vec<u32>> = paints
            .iter()
            .enumerate()
            .map(|(i, part)| Some(checks.field(format!("/components/{i}/parts"), part.parts())?.value()))
            .collect();
        let parts = checks.done(parts)?;
        if parts.is_empty() {
            return Err(Problem::field("/components", "there is no paint in the pot: put one in first"));
        }
        let known = preset.map(|id| Preset::find(id).ok_or(id)).transpose();
        let preset = known.map_err(|id| {
            let ids = Preset::ALL.map(|preset| preset.id).join(", ");
            Problem::field("/preset", format!("“{id}” is no usual mixture: choose one of {ids}"))
        })?;
        let most = paints.len() + preset.as_ref().map_or(0, |preset| preset.mediums.len());
        if most > SavedMix::MOST {
            return Err(Problem::field("/components", warm_blend_paint::BadMix::TooMany(most)));
        }
        Ok(Self { paints: paints.iter().map(|part| part.paint).collect(), parts, preset })
    }

    /// The classes of the mediums it takes.
    fn mediums(&self) -> impl Iterator<Item = Class> {
        self.preset.iter().flat_map(|preset| preset.mediums.iter().map(|(class, _)| *class))
    }

    /// Made, with these tins for its mediums.
    fn made(&self, mediums: Vec<Uuid>) -> Vec<MixPart> {
        let whole = match &self.preset {
            None => warm_blend_paint::simplest(&self.parts),
            Some(preset) => {
                // Beyond 999 parts of one, as near as whole parts come.
                let amounts: Vec<f64> = preset.parts(&self.parts).into_iter().map(f64::from).collect();
                nearest_whole(&amounts).into_iter().map(warm_blend_paint::WholeParts::value).collect()
            }
        };
        let ids = self.paints.iter().copied().chain(mediums);
        ids.zip(whole).map(|(paint, parts)| MixPart::new(paint, parts)).collect()
    }
}

/// A pot made into a glaze, a wash, a wax …: its paints keep their ratio, its mediums are those of the mixture.
#[utoipa::path(post, path = "/bench/make-into", operation_id = "make_into",
    tag = "pot", request_body = MadeInto,
    responses((status = OK, body = Vec<MixPart>)))]
pub async fn make_into(
    State(workspace): State<Workspace>,
    Body(MadeInto { components, preset }): Body<MadeInto>,
) -> Result<Json<Vec<MixPart>>, Problem> {
    let shelf = workspace.with(|store| store.all_ever::<ShelfPaint>()).await?;
    let making = Making::read(&components, preset.as_deref(), &shelf)?;
    let found = making.mediums().map(|class| {
        tin_of(class, &shelf).ok_or_else(|| {
            let name = class.name().to_lowercase();
            Problem::field("/preset", format!("there is no {name} on the shelf: add it first"))
        })
    });
    let mediums = found.collect::<Result<_, _>>()?;
    Ok(Json(making.made(mediums)))
}

/// A kept mix made into a usual mixture; mediums that the shelf lacks are put on it. One step of undo turns back all of it.
#[utoipa::path(post, path = "/mixes/{id}/make-into", operation_id = "make_mix_into",
    tag = "pot", params(LookedAt, Revision, ("id" = Uuid, Path)), request_body = MixtureWanted,
    responses((status = OK, body = Mix)))]
pub async fn make_mix_into(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<LookedAt>,
    Asked(Revision { revision }): Asked<Revision>,
    Body(MixtureWanted { preset }): Body<MixtureWanted>,
) -> Result<Json<Mix>, Problem> {
    let look = asked.get()?;
    let (done, known) = workspace
        .with_known(move |store| {
            let (mix, shelf) = (store.get::<SavedMix>(id)?, store.all_ever::<ShelfPaint>()?);
            let parts: Vec<MixPart> = mix.value.components().iter().map(MixPart::from).collect();
            let making = match Making::read(&parts, Some(&preset), &shelf) {
                Ok(making) => making,
                Err(problem) => return Ok(Err(problem)),
            };
            let changed: Result<_, Problem> = store.together_or(|batch| {
                let mut mediums = Vec::new();
                for class in making.mediums() {
                    let tin = tin_of(class, &shelf);
                    mediums.push(tin.map_or_else(|| Ok(batch.make(medium(class)?)?.id), Ok::<_, Problem>)?);
                }
                let made = MixEntry::from(&mix.value).of(making.made(mediums));
                Ok(batch.change(id, revision, made.parse()?)?)
            });
            match changed {
                Ok(changed) => with_tins(store, changed).map(Ok),
                Err(problem) => Ok(Err(problem)),
            }
        })
        .await?;
    Mix::of(done?, &known, look).map(Json)
}

/// The films that a pot leaves over a ground, at three places of a carved surface.
#[utoipa::path(post, path = "/bench/film", operation_id = "see_film",
    tag = "pot", params(LookedAt), request_body = FilmOf,
    responses((status = OK, body = FilmsSeen)))]
pub async fn film(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(of): Body<FilmOf>,
) -> Result<Json<FilmsSeen>, Problem> {
    let look = asked.get()?;
    let mut checks = Checks::default();
    let colour: Option<Masstone> =
        of.on_colour.as_ref().and_then(|colour| colour.parse(&mut checks, "/on_colour"));
    checks.done(Some(()))?;
    let (made, shelf, known) =
        pots(&workspace, &[("/components".to_owned(), of.components.as_slice())]).await?;
    let pot = made.first().ok_or_else(Problem::internal)?.best().in_state(look.state);
    let ground = match (of.on_paint, colour) {
        (Some(paint), None) => {
            let paint = known.estimate().paint(PaintId(paint));
            let paint = paint.ok_or_else(|| Problem::field("/on_paint", "this paint is not on the shelf"))?;
            paint.best().in_state(Film::Dry)
        }
        (None, Some(colour)) => warm_blend_paint::Material::of(Class::LatexSatin, Some(colour), None)
            .map_err(|error| Problem::field("/on_colour", error))?,
        _ => return Err(Problem::field("/on_paint", "say once what it lies on: a paint, or a colour")),
    };
    let bare = Seen::of(&ground.face(), look.light);
    let inside = ground.sheen.inside(&ground.masstone());
    let classes: Vec<(Class, f64)> = of
        .components
        .iter()
        .filter_map(|part| {
            let tin = shelf.iter().find(|tin| tin.id == part.paint)?;
            Some((tin.value.class, f64::from(part.given())))
        })
        .collect();
    let kind = Kind::of(&classes);
    // As this hand leaves them, which boards have shown.
    let technique = warm_blend_board::Technique::usual_for(kind);
    let films = known.hands().habit(technique).print(&technique.usual()).film;
    let seen = |place: Place| {
        let wet = *films.at(place);
        let seen = Seen::of(&pot.film(wet, &inside), look.light);
        let verdict = Verdict::of(seen.lab, bare.lab);
        FilmSeen {
            place: place.id(),
            wet_um: wet.value(),
            hex: seen.screen.srgb.to_string(),
            difference: verdict.difference.value(),
            words: verdict.words.replace("the target", "the ground"),
        }
    };
    Ok(Json(FilmsSeen {
        kind: kind.name(),
        ground: bare.screen.srgb.to_string(),
        films: Place::ALL.map(seen).into(),
        warnings: warnings(&classes)
            .into_iter()
            .map(|warning| PotWarning { fails: warning.fails, words: warning.words })
            .collect(),
    }))
}
