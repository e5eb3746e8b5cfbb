//! Health check and tables of choices.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_paint::{Class, Colour, Seen, specials_of};
use warm_blend_spectral::Light;
use warm_blend_workshop::{Checks, SeenColour};

use crate::{
    body::{Answer, Json},
    problem::Problem,
};

/// Sign that the program answers.
#[derive(Serialize, ToSchema)]
pub struct Health {
    /// `ok`.
    status: &'static str,
    /// Version of the program.
    version: &'static str,
}

/// A light in which colours are viewed.
#[derive(Serialize, ToSchema)]
pub struct LightChoice {
    /// Identifier in requests.
    id: Light,
    /// Name.
    name: &'static str,
    /// One-word name.
    short: &'static str,
    /// CIE name.
    standard: &'static str,
}

/// A class of paint or medium.
#[derive(Serialize, ToSchema)]
pub struct ClassChoice {
    /// Identifier in requests.
    id: Class,
    /// Name.
    name: &'static str,
    /// True for a medium, which has no colour of its own.
    medium: bool,
    /// Fields of `specials` that it has.
    specials: Vec<&'static str>,
    /// Default share of the area covered by flakes, 0–1.
    lustre: f64,
}

/// Checks that the program answers.
#[utoipa::path(get, path = "/health", tag = "reference", responses((status = OK, body = Health)))]
pub async fn health() -> Json<Health> {
    Json(Health { status: "ok", version: env!("CARGO_PKG_VERSION") })
}

/// The seven lights.
#[utoipa::path(get, path = "/lights", tag = "reference", responses((status = OK, body = Vec<LightChoice>)))]
pub async fn lights() -> Json<Vec<LightChoice>> {
    let choice = |light: Light| LightChoice {
        id: light,
        name: light.name(),
        short: light.short_name(),
        standard: light.standard(),
    };
    Json(Light::ALL.map(choice).into())
}

/// A colour on the screen in daylight, or why no surface can have it. Needed because CSS `lab` assumes another white.
#[utoipa::path(post, path = "/colour", operation_id = "see_colour", tag = "reference",
    responses((status = OK, body = SeenColour)))]
pub async fn colour(Json(colour): Json<Colour>) -> Answer<SeenColour> {
    let mut checks = Checks::default();
    let parsed = checks.colour("", &colour);
    let curve = checks.done(parsed)?.reflectance().map_err(|error| Problem::field("", error))?;
    Ok(Json(Seen::of(&curve, Light::Daylight).into()))
}

/// Classes of paint and medium.
#[utoipa::path(get, path = "/classes", tag = "reference", responses((status = OK, body = Vec<ClassChoice>)))]
pub async fn classes() -> Json<Vec<ClassChoice>> {
    let choice = |class: Class| ClassChoice {
        id: class,
        name: class.name(),
        medium: class.is_medium(),
        specials: specials_of(class).to_vec(),
        lustre: class.lustre(),
    };
    Json(Class::ALL.map(choice).into())
}
