//! The client's yes to a quote.

use jiff::Timestamp;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::LogNote;
use warm_blend_paint::{Name, Note};
use warm_blend_piece::Piece;

use crate::{Refusal, scheme_of};

/// Who says yes to a quote.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Accepted {
    /// Name, as the client types it.
    #[schema(example = "Ina Holm")]
    pub name: String,
}

impl Accepted {
    /// The piece with its quote accepted, and what the log says of it.
    pub fn by(&self, id: Uuid, mut piece: Piece, at: Timestamp) -> Result<(Piece, LogNote), Refusal> {
        let name = Name::new(&self.name).map_err(|error| Refusal::field("/name", error))?;
        let scheme = scheme_of(&piece, None)?.name;
        let Some(quote) = piece.quote.as_mut() else {
            return Err(Refusal::field("/quote", "nothing was quoted for this piece; make a quote first"));
        };
        if let Some(before) = &quote.accepted_by {
            return Err(Refusal::Stale(format!("{} has already said yes to this quote", before.as_str())));
        }
        let currency =
            quote.currency.map(|currency| format!(" {}", String::from(currency))).unwrap_or_default();
        let words = format!(
            "{} said yes to {:.2}{currency}, deposit {:.2}, ready by {}.",
            name.as_str(),
            quote.sum.likely,
            quote.deposit,
            quote.ready_by
        );
        let words = Note::new(&words).map_err(|error| Refusal::field("/name", error))?;
        quote.accepted_by = Some(name);
        quote.accepted_at = Some(at);
        let due = quote.ready_by;
        piece.brief.due.get_or_insert(due);
        Ok((piece, LogNote { at, words, piece: Some(id), photo: None, agreed: Some(scheme) }))
    }
}
