//! Ids, times and names as they stand in the file.

use jiff::Timestamp;
use serde::Deserialize;
use warm_blend_documents::Id;
use warm_blend_paint::Name;

use crate::StoreError;

pub(crate) fn parse_id(text: &str) -> Result<Id, StoreError> {
    text.parse().map_err(|error| StoreError::Damaged(format!("{error}")))
}

pub(crate) fn parse_time(text: &str) -> Result<Timestamp, StoreError> {
    text.parse().map_err(|error: jiff::Error| StoreError::Damaged(error.to_string()))
}

/// A person's name; one that is none, as a hand may have written it, is left out.
pub(crate) fn parse_by(text: Option<String>) -> Option<Name> {
    text.and_then(|text| Name::new(&text).ok())
}

/// Name in a body, if it has one.
pub(crate) fn name_in(body: &str) -> Option<String> {
    #[derive(Deserialize)]
    struct Named {
        name: Option<String>,
    }
    serde_json::from_str::<Named>(body).ok()?.name
}
