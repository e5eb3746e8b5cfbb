//! The scale under the pot.

use axum::{extract::State, http::StatusCode};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_device::Pan;

use crate::{
    Workspace,
    body::{Answer, Json},
    problem::Problem,
    scale::ScaleAtHand,
};

/// Current state of the scale.
#[derive(Debug, Serialize, ToSchema)]
pub struct ScaleNow {
    /// What it calls itself; none where no scale is connected.
    name: Option<String>,
    /// True of a stand-in, which accepts simulated events.
    simulated: bool,
    /// `silent`, `lifted`, `moving` or `steady`.
    pan: &'static str,
    /// What has gone in since the last addition, g.
    grams: f64,
    /// What is wrong, and what to do about it.
    trouble: Option<String>,
}

impl ScaleNow {
    fn of(scale: &ScaleAtHand) -> Self {
        let standing = scale.standing();
        let (pan, trouble) = match standing.pan {
            _ if standing.name.is_none() => ("silent", None),
            Pan::Silent => ("silent", Some(warm_blend_device::NotYet::Silent.to_string())),
            Pan::Lifted => ("lifted", Some(warm_blend_device::NotYet::Lifted.to_string())),
            Pan::Moving => ("moving", None),
            Pan::Steady => ("steady", None),
        };
        Self {
            simulated: standing.simulated(),
            name: standing.name,
            pan,
            grams: standing.net,
            trouble: standing.trouble.or(trouble),
        }
    }
}

/// An action on a simulated scale.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ScaleAction {
    /// `pour`, `lift`, `put back`, `empty` or `unplug`: for three seconds.
    action: String,
    /// How much is poured, g.
    grams: Option<f64>,
}

/// How the scale stands. Ask as often as the needle should move.
#[utoipa::path(get, path = "/scale", operation_id = "get_scale", tag = "pot",
    responses((status = OK, body = ScaleNow)))]
pub async fn get(State(workspace): State<Workspace>) -> Json<ScaleNow> {
    Json(ScaleNow::of(&workspace.scale))
}

/// Begin an addition here, whatever went in before.
#[utoipa::path(post, path = "/scale/begin", operation_id = "begin_weighing", tag = "pot",
    responses((status = OK, body = ScaleNow)))]
pub async fn begin(State(workspace): State<Workspace>) -> Answer<ScaleNow> {
    workspace.scale.weighing(|weighing| weighing.begin()).map_err(|why| not_yet(&why))?;
    Ok(Json(ScaleNow::of(&workspace.scale)))
}

/// Pour, lift or unplug where the scale is a simulated one.
#[utoipa::path(post, path = "/scale/simulated", operation_id = "act_on_simulated_scale", tag = "pot",
    responses((status = NO_CONTENT)))]
pub async fn act(
    State(workspace): State<Workspace>,
    Json(ScaleAction { action, grams }): Json<ScaleAction>,
) -> Result<StatusCode, Problem> {
    let command = match (action.as_str(), grams) {
        ("pour", Some(grams)) if (0.1..=5000.0).contains(&grams) => format!("pour {grams}"),
        ("pour", _) => return Err(Problem::field("/grams", "pour 0.1 to 5000 g")),
        ("lift" | "put back" | "empty" | "unplug", _) => action,
        _ => return Err(Problem::field("/action", "choose pour, lift, put back, empty or unplug")),
    };
    match workspace.scale.command(command) {
        true => Ok(StatusCode::NO_CONTENT),
        false => {
            let detail = "no simulated scale connected; start one first";
            Err(Problem::new(StatusCode::CONFLICT, "no-scale", "No scale", detail))
        }
    }
}

/// Why nothing can be recorded from the scale.
pub fn not_yet(why: &warm_blend_device::NotYet) -> Problem {
    Problem::new(StatusCode::CONFLICT, "scale", "Can’t use the scale yet", why.to_string())
}
