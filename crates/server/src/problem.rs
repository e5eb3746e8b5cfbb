//! Errors as problem documents (RFC 9457).

use std::fmt;

use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use axum::{Extension, Json};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_archive::BadArchive;
use warm_blend_board::BadBoard;
use warm_blend_paint::Units;
use warm_blend_piece::BadPiece;
use warm_blend_store::StoreError;
use warm_blend_workshop::{Fault, Refusal};

/// An error for people and programs (RFC 9457, `application/problem+json`).
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Problem {
    /// Kind of problem: `urn:warm-blend:invalid`, `stale`, `in-use`, `unknown`, …
    #[serde(rename = "type")]
    kind: Box<str>,
    /// The kind in a few words.
    title: &'static str,
    /// HTTP status.
    status: u16,
    /// What happened and what to do.
    detail: String,
    /// Faulty fields, if any.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    errors: Vec<FieldError>,
    /// What uses the paint that was to be deleted.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    used_by: Vec<UsedBy>,
    /// The missing document; used to find the field that refers to it.
    #[serde(skip)]
    missing: Option<Box<Uuid>>,
}

/// A faulty field.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FieldError {
    /// JSON pointer (RFC 6901) into the request body, such as `/paints/0/parts`.
    pub pointer: String,
    /// Problem and remedy.
    pub detail: String,
}

/// A mix, board or piece that uses a paint.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct UsedBy {
    /// `mix`, `board` or `piece`.
    pub kind: &'static str,
    /// Its id.
    pub id: Uuid,
    /// Its name, if it has one.
    pub name: Option<String>,
}

impl Problem {
    pub fn new(status: StatusCode, kind: &str, title: &'static str, detail: impl Into<String>) -> Self {
        Self {
            kind: format!("urn:warm-blend:{kind}").into(),
            title,
            status: status.as_u16(),
            detail: detail.into(),
            errors: Vec::new(),
            used_by: Vec::new(),
            missing: None,
        }
    }

    /// The picture was not drawn because too many were requested.
    pub fn too_many_pictures() -> Self {
        let detail = "more pictures were asked for than can be drawn: ask again in a moment";
        Self::new(StatusCode::SERVICE_UNAVAILABLE, "busy", "Too many pictures at once", detail)
    }

    /// Converts its measures to other units.
    pub fn restated(mut self, units: Units) -> Self {
        self.detail = units.restate(&self.detail);
        for error in &mut self.errors {
            error.detail = units.restate(&error.detail);
        }
        self
    }

    /// The document that was referred to but does not exist.
    pub fn missing(&self) -> Option<Uuid> {
        self.missing.as_deref().copied()
    }

    /// Attributes the problem to a field.
    pub fn at(self, pointer: String) -> Self {
        Self::field(pointer, self.detail)
    }

    /// A problem of invalid fields, with `detail` summarising them.
    pub fn invalid(errors: Vec<FieldError>) -> Self {
        let detail = errors.iter().map(|error| error.detail.as_str()).collect::<Vec<_>>().join("; ");
        let status = StatusCode::UNPROCESSABLE_ENTITY;
        Self { errors, ..Self::new(status, "invalid", "Check these entries", detail) }
    }

    pub fn field(pointer: impl Into<String>, detail: impl ToString) -> Self {
        Self::invalid(vec![FieldError { pointer: pointer.into(), detail: detail.to_string() }])
    }

    pub fn in_use(used_by: Vec<UsedBy>) -> Self {
        let detail = "this paint is in use. What uses it keeps its record, and undo brings the paint back";
        Self { used_by, ..Self::new(StatusCode::CONFLICT, "in-use", "This paint is in use", detail) }
    }

    pub fn not_found(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::NOT_FOUND, "unknown", "Not found", detail)
    }

    pub fn internal() -> Self {
        Self::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "internal",
            "Something went wrong",
            "the program failed; nothing was changed. Try again, and restart it if that doesn’t help",
        )
    }
}

impl Problem {
    /// A temporary file could not be written or read.
    pub fn disk(error: std::io::Error) -> Self {
        let (status, kind, detail) = match error.kind() {
            std::io::ErrorKind::StorageFull => (
                StatusCode::INSUFFICIENT_STORAGE,
                "full",
                "the disk is full; free some space and try again".to_owned(),
            ),
            _ => (StatusCode::INTERNAL_SERVER_ERROR, "storage", format!("a temporary file failed: {error}")),
        };
        Self::new(status, kind, "Problem with the disk", detail)
    }
}

impl From<BadArchive> for Problem {
    fn from(error: BadArchive) -> Self {
        match error {
            BadArchive::Disk(error) => Self::disk(error),
            error => Self::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "archive",
                "Can’t import this archive",
                error.to_string(),
            ),
        }
    }
}

/// Title for a problem with the file rather than with the request.
const FILE_FAILED: &str = "Problem with the workspace file";

impl From<Fault> for FieldError {
    fn from(Fault { pointer, detail }: Fault) -> Self {
        Self { pointer, detail }
    }
}

impl From<Refusal> for Problem {
    fn from(refusal: Refusal) -> Self {
        let conflict = |kind, title, detail| Self::new(StatusCode::CONFLICT, kind, title, detail);
        let unread = |kind, title, detail| Self::new(StatusCode::UNPROCESSABLE_ENTITY, kind, title, detail);
        match refusal {
            Refusal::Faults(faults) => Self::invalid(faults.into_iter().map(FieldError::from).collect()),
            Refusal::Stale(detail) => conflict("stale", "Out of date", detail),
            Refusal::Device(detail) => conflict("scale", "Can’t use the scale yet", detail),
            Refusal::File(detail) => unread("file", "Can’t read this file", detail),
            Refusal::Source => {
                let detail = "nothing in the file says what these L*a*b* were taken with: say whether by a reader, from a chip, from a photo or by eye";
                unread("source", "What were they taken with?", detail.to_owned())
            }
            Refusal::Percent(most) => {
                let detail = format!("reflectance goes up to {most}; are these values percent?");
                unread("percent", "Percent or not?", detail)
            }
            Refusal::Unknown(detail) => Self::not_found(detail),
            Refusal::NoTin(id) => {
                let detail = "this uses a paint that is no longer in the workspace; choose another, or undo its deletion";
                let failed = Self::new(StatusCode::INTERNAL_SERVER_ERROR, "storage", FILE_FAILED, detail);
                Self { missing: Some(Box::new(id)), ..failed }
            }
            Refusal::Broken => Self::internal(),
        }
    }
}

impl From<BadBoard> for Problem {
    fn from(error: BadBoard) -> Self {
        Refusal::from(error).into()
    }
}

impl From<BadPiece> for Problem {
    fn from(error: BadPiece) -> Self {
        Refusal::from(error).into()
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        let detail = error.to_string();
        match error {
            StoreError::Unknown { id, .. } => Self { missing: Some(Box::new(id)), ..Self::not_found(detail) },
            StoreError::Removed { .. } => Self::not_found(detail),
            StoreError::Repeated => Self::new(StatusCode::CONFLICT, "done", "Saved already", detail),
            StoreError::Overtaken => {
                Self::new(StatusCode::CONFLICT, "overtaken", "Changed elsewhere", detail)
            }
            StoreError::Stale { .. } => Self::new(StatusCode::CONFLICT, "stale", "Changed elsewhere", detail),
            StoreError::Dangling(id) | StoreError::Misfit { id, .. } | StoreError::Deleted { id, .. } => {
                Self { missing: Some(Box::new(id)), ..Self::field("", detail) }
            }
            StoreError::Full => {
                Self::new(StatusCode::INSUFFICIENT_STORAGE, "full", "The disk is full", detail)
            }
            StoreError::Busy => {
                Self::new(StatusCode::SERVICE_UNAVAILABLE, "busy", "The file is in use", detail)
            }
            StoreError::ReadOnly
            | StoreError::Newer
            | StoreError::Damaged(_)
            | StoreError::Gone { .. }
            | StoreError::Other(_) => {
                Self::new(StatusCode::INTERNAL_SERVER_ERROR, "storage", FILE_FAILED, detail)
            }
        }
    }
}

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.detail)
    }
}

impl std::error::Error for Problem {}

impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        let kind = HeaderValue::from_static("application/problem+json");
        let itself = Extension(self.clone());
        (status, [(header::CONTENT_TYPE, kind)], itself, Json(self)).into_response()
    }
}
