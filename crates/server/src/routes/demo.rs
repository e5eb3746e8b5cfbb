//! The demo that a new painter may explore.

use axum::{
    extract::State,
    http::{HeaderMap, StatusCode, header},
};
use serde::Serialize;
use utoipa::ToSchema;

use crate::{
    Workspace,
    body::{Answer, Json},
    demo_offer::LookRound,
    problem::Problem,
    who::Who,
};

/// Whether a demo is offered or running.
#[derive(Serialize, ToSchema)]
pub struct DemoOffer {
    /// True if the demo can be explored.
    offered: bool,
    /// In the demo itself: where its visitor came from.
    back: Option<String>,
}

/// A running demo.
#[derive(Serialize, ToSchema)]
pub struct DemoRunning {
    /// Its address.
    url: String,
}

/// Whether a demo is offered, or this is one.
#[utoipa::path(get, path = "/demo", operation_id = "get_demo", tag = "workspace",
    responses((status = OK, body = DemoOffer)))]
pub async fn get(State(workspace): State<Workspace>) -> Json<DemoOffer> {
    // Its address is for the workshop's machine only.
    let here = Who::now() == Who::Painter;
    Json(match &workspace.look_round {
        LookRound::Nothing => DemoOffer { offered: false, back: None },
        LookRound::Offered(..) => DemoOffer { offered: here, back: None },
        LookRound::Visited { back } => DemoOffer { offered: false, back: Some(back.clone()) },
    })
}

/// Start the demo: a workspace of its own at an address of its own, discarded when the program stops.
#[utoipa::path(post, path = "/demo", operation_id = "visit_demo", tag = "workspace",
    responses((status = OK, body = DemoRunning)))]
pub async fn visit(State(workspace): State<Workspace>, headers: HeaderMap) -> Answer<DemoRunning> {
    let host = headers.get(header::HOST).and_then(|host| host.to_str().ok()).unwrap_or_default();
    let url = workspace.look_round.visit(format!("http://{host}")).await?;
    let none = || {
        let detail = "can’t start a demo from here; run `warm-blend demo`";
        Problem::new(StatusCode::NOT_FOUND, "no-demo", "No demo here", detail)
    };
    url.map(|url| Json(DemoRunning { url })).ok_or_else(none)
}
