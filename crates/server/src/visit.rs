//! Starts a demo beside a workspace that is served.

use std::sync::Arc;

use crate::{
    Workspace, demo,
    look_round::{LookRound, Running},
    off_thread::off_thread,
    problem::Problem,
    serve::serve,
    simulated_scale,
};

/// A demo beside `workspace`, at a free port of this machine.
pub fn offer_demo(mut workspace: Workspace) -> Workspace {
    workspace.look_round = LookRound::Offered(|back| Box::pin(start(back)), Arc::default());
    workspace
}

async fn start(back: String) -> Result<Running, Problem> {
    let (file, mut workspace) = off_thread(|| {
        let file = demo::File::make().map_err(|error| failed(&error))?;
        let workspace = Workspace::demo(file.path()).map_err(|error| failed(&error))?;
        Ok((file, workspace))
    })
    .await?;
    workspace.look_round = LookRound::Visited { back };
    // Without a scale it can still be looked round in.
    let scale = simulated_scale::Process::start().await.ok();
    if let Some(scale) = &scale {
        workspace.connect_scale(scale.address);
    }
    workspace.make_ready_to_draw();
    let served = serve(workspace, 0).await.map_err(|error| failed(&error))?;
    Ok(Running { url: served.url(), held: Box::new((served, scale, file)) })
}

fn failed(error: &dyn std::error::Error) -> Problem {
    let status = axum::http::StatusCode::SERVICE_UNAVAILABLE;
    Problem::new(status, "no-demo", "The demo cannot be started", error.to_string())
}
