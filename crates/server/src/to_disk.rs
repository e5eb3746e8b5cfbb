//! Uploads that may be larger than memory.

use std::{fs::File, time::Duration};

use axum::{
    body::Body,
    extract::{FromRequest, Request},
    http::StatusCode,
};
use tokio::io::{AsyncSeekExt as _, AsyncWriteExt as _};
use tokio_stream::StreamExt as _;

use crate::{Workspace, connections::BODY, problem::Problem, upload_limits::Ticket};

/// Greatest size of an archive, bytes.
const MOST: u64 = 2 << 30;
/// Longest silence within an upload.
const SILENCE: Duration = BODY;

/// A body in a temporary file without a name, which vanishes with it, and its place in the upload queue.
pub struct ToDisk(pub File, pub Ticket);

impl FromRequest<Workspace> for ToDisk {
    type Rejection = Problem;

    async fn from_request(request: Request, workspace: &Workspace) -> Result<Self, Problem> {
        let place = workspace.heavy.place().await?;
        Ok(Self(written(request.into_body()).await?, place))
    }
}

async fn written(body: Body) -> Result<File, Problem> {
    let mut file = tokio::fs::File::from_std(tempfile::tempfile().map_err(Problem::disk)?);
    let mut parts = body.into_data_stream();
    let mut bytes = 0;
    while let Some(part) = tokio::time::timeout(SILENCE, parts.next()).await.map_err(|_| slow())? {
        let part = part.map_err(|_| cut_off())?;
        bytes += part.len() as u64;
        if bytes > MOST {
            let detail = format!("file too large; the most is {} GB", MOST >> 30);
            return Err(Problem::new(StatusCode::PAYLOAD_TOO_LARGE, "too-large", "Too large", detail));
        }
        file.write_all(&part).await.map_err(Problem::disk)?;
    }
    file.flush().await.map_err(Problem::disk)?;
    file.rewind().await.map_err(Problem::disk)?;
    Ok(file.into_std().await)
}

fn slow() -> Problem {
    let detail = format!("nothing arrived for {} seconds; send it again", SILENCE.as_secs());
    Problem::new(StatusCode::REQUEST_TIMEOUT, "timeout", "Too slow", detail)
}

fn cut_off() -> Problem {
    Problem::new(
        StatusCode::BAD_REQUEST,
        "cut-off",
        "Cut off",
        "the file did not arrive whole; send it again",
    )
}
