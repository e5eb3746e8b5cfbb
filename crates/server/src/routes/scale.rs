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
    /// Its name; absent if no scale is connected.
    name: Option<String>,
    /// True for a simulated scale, which accepts simulated events.
    simulated: bool,
    /// `silent`, `lifted`, `moving` or `steady`.
    pan: &'static str,
    /// Amount added since the last recorded addition, g.
    grams: f64,
    /// Problem and remedy.
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
    /// `pour`, `lift`, `put back`, `empty` or `unplug` (for three seconds).
    action: String,
    /// Amount to pour, g.
    grams: Option<f64>,
}

/// State of the scale. Poll as often as the display should change.
#[utoipa::path(get, path = "/scale", operation_id = "get_scale", tag = "pot",
    responses((status = OK, body = ScaleNow)))]
pub async fn get(State(workspace): State<Workspace>) -> Json<ScaleNow> {
    Json(ScaleNow::of(&workspace.scale))
}

/// Start an addition now, ignoring what was added before.
#[utoipa::path(post, path = "/scale/begin", operation_id = "begin_weighing", tag = "pot",
    responses((status = OK, body = ScaleNow)))]
pub async fn begin(State(workspace): State<Workspace>) -> Answer<ScaleNow> {
    workspace.scale.weighing(|weighing| weighing.begin()).map_err(|why| not_yet(&why))?;
    Ok(Json(ScaleNow::of(&workspace.scale)))
}

/// Pour, lift or unplug, if the scale is simulated.
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
