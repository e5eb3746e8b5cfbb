//! The demo as a server, alone or beside a workspace.

use std::error::Error;
use std::sync::Arc;

use crate::{
    Workspace, demo,
    demo_offer::{LookRound, Running},
    problem::Problem,
    serve::{ServeError, Served, Stop, serve},
    simulated_scale,
};

/// A running demo with its temporary file and its scale. Dropping it stops it.
#[derive(Debug)]
pub struct Demo {
    /// The server.
    pub served: Served,
    _scale: Option<simulated_scale::Process>,
    _file: demo::File,
}

impl Demo {
    /// Starts a demo on the first of these ports that is free; 0 means any.
    pub async fn start(ports: &[u16]) -> Result<Self, Box<dyn Error + Send + Sync>> {
        Self::visited(LookRound::Nothing, ports).await
    }

    /// Serves until the program is asked to stop.
    pub async fn until(self, stop: Stop) {
        self.served.until(stop).await;
    }

    async fn visited(look_round: LookRound, ports: &[u16]) -> Result<Self, Box<dyn Error + Send + Sync>> {
        let file = demo::File::make()?;
        let path = file.path().to_owned();
        let mut workspace = tokio::task::spawn_blocking(move || Workspace::demo(&path)).await??;
        workspace.look_round = look_round;
        // The demo works without a scale too.
        let scale = simulated_scale::Process::start().await;
        match &scale {
            Ok(scale) => workspace.connect_scale(scale.address),
            Err(error) => eprintln!("warm-blend: the demo has no scale: {error}"),
        }
        workspace.make_ready();
        let served = serve_at_one_of(workspace, ports).await?;
        Ok(Self { served, _scale: scale.ok(), _file: file })
    }
}

async fn serve_at_one_of(workspace: Workspace, ports: &[u16]) -> Result<Served, ServeError> {
    let Some((last, first)) = ports.split_last() else { return serve(workspace, 0).await };
    for port in first {
        match serve(workspace.clone(), *port).await {
            Err(ServeError::PortTaken(_)) => {}
            served => return served,
        }
    }
    serve(workspace, *last).await
}

/// Offers a demo on any free port beside `workspace`.
pub fn offer_demo(mut workspace: Workspace) -> Workspace {
    workspace.look_round = LookRound::Offered(|back| Box::pin(start(back)), Arc::default());
    workspace
}

async fn start(back: String) -> Result<Running, Problem> {
    let demo = Demo::visited(LookRound::Visited { back }, &[0]).await.map_err(|error| {
        let status = axum::http::StatusCode::SERVICE_UNAVAILABLE;
        Problem::new(status, "no-demo", "Can’t start the demo", error.to_string())
    })?;
    Ok(Running { url: demo.served.url(), held: Box::new(demo) })
}
