//! Uploaded files.

use axum::{
    body::Bytes,
    extract::{FromRequest, Request},
};

use crate::{Workspace, body::read, problem::Problem, upload_limits::Ticket};

/// A body of at most `MOST` bytes, with its place in the upload queue.
pub struct Raw<const MOST: usize>(pub Bytes, pub Ticket);

impl<const MOST: usize> FromRequest<Workspace> for Raw<MOST> {
    type Rejection = Problem;

    async fn from_request(request: Request, workspace: &Workspace) -> Result<Self, Problem> {
        let too_large = || format!("file too large; the most is {} MB", MOST >> 20);
        let place = workspace.heavy.place().await?;
        Ok(Self(read(request, MOST, too_large).await?, place))
    }
}
