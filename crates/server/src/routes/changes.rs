//! Live notification of changes made in other windows.

use std::{convert::Infallible, time::Duration};

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use serde::Serialize;
use tokio_stream::{Stream, StreamExt, wrappers::WatchStream};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{Workspace, state::Changed};

/// How often a silent line is shown to be alive.
const ALIVE: Duration = Duration::from_secs(15);

/// A change of the file.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChangeMade {
    /// How many there were since the program was started.
    count: u64,
    /// The `Idempotency-Key` of the request that made it, where it had one: whoever sent that knows already.
    by: Option<Uuid>,
}

/// The last change, and each from now on (server-sent events, WHATWG HTML § 9.2). Where several come at once, the last alone may be shown.
#[utoipa::path(get, path = "/changes", operation_id = "watch_changes", tag = "workspace",
    responses((status = OK, body = ChangeMade, content_type = "text/event-stream")))]
pub async fn watch(State(workspace): State<Workspace>) -> Sse<impl Stream<Item = Result<Event, Infallible>>> {
    let changes = WatchStream::new(workspace.changed.subscribe());
    let answer = changes.map(|Changed { count, by }| {
        let event = Event::default().json_data(ChangeMade { count, by });
        // Numbers and ids always become JSON; a bare event makes a page ask again all the same.
        Ok(event.unwrap_or_default())
    });
    Sse::new(answer).keep_alive(KeepAlive::new().interval(ALIVE))
}
