//! Live notification of changes made in other windows.

use std::{convert::Infallible, time::Duration};

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use serde::Serialize;
use tokio_stream::{Stream, StreamExt, wrappers::WatchStream};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{Workspace, state::Changed};

/// Interval of signs of life on a silent connection.
const ALIVE: Duration = Duration::from_secs(15);

/// A change of the file.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChangeMade {
    /// Number of changes since the program was started.
    count: u64,
    /// The `Idempotency-Key` of the request that made it, if it had one, so that its sender can ignore it.
    by: Option<Uuid>,
}

/// The last change, and each from now on (server-sent events, WHATWG HTML § 9.2). Of several at once, only the last may
/// be sent.
#[utoipa::path(get, path = "/changes", operation_id = "watch_changes", tag = "workspace",
    responses((status = OK, body = ChangeMade, content_type = "text/event-stream")))]
pub async fn watch(State(workspace): State<Workspace>) -> Sse<impl Stream<Item = Result<Event, Infallible>>> {
    let changes = WatchStream::new(workspace.changed.subscribe());
    let answer = changes.map(|Changed { count, by }| {
        let event = Event::default().json_data(ChangeMade { count, by });
        // Numbers and ids always serialise; an empty event still makes a page refresh.
        Ok(event.unwrap_or_default())
    });
    Sse::new(answer).keep_alive(KeepAlive::new().interval(ALIVE))
}
