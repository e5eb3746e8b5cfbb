//! What the painter enters about a jar.

use jiff::Timestamp;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_mixing::{BadJar, JarSign, JarUse, PourRecord};
use warm_blend_paint::Name;

use crate::{Checks, Refusal};

/// What is in a jar, where it stands, and what was noticed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct JarEntry {
    /// Amount in it now, ml.
    pub left_ml: f64,
    /// Where it stands: `shelf 2`.
    #[serde(default)]
    pub place: Option<String>,
    /// Client it is kept for; it is not used up for anybody else.
    #[serde(default)]
    pub client: Option<String>,
    /// What was noticed: `loose-lid`, `frost`, `skin`, `smell`.
    #[serde(default)]
    #[schema(value_type = Vec<String>)]
    pub signs: Vec<JarSign>,
}

/// An amount taken from a jar.
#[derive(Debug, Deserialize, ToSchema)]
pub struct JarTaken {
    /// A UUID chosen by the client, so that a repeated request counts once.
    pub id: Uuid,
    /// Amount, ml.
    pub ml: f64,
}

fn refused(pointer: &str, error: BadJar) -> Refusal {
    match error {
        BadJar::StillOpen | BadJar::None | BadJar::Gone => Refusal::Stale(error.to_string()),
        _ => Refusal::field(pointer, error),
    }
}

impl JarEntry {
    /// Fills the jar of a finished pot, or corrects what is known of it.
    pub fn of(self, record: PourRecord, at: Timestamp) -> Result<PourRecord, Refusal> {
        let mut checks = Checks::default();
        let named = |text: &Option<String>| {
            let text = text.as_deref().map(str::trim).filter(|text| !text.is_empty())?;
            Some(Name::new(text))
        };
        let place = checks.optional("/place", named(&self.place));
        let client = checks.optional("/client", named(&self.client));
        let filled = checks.field("/left_ml", Ok::<_, String>(self.left_ml));
        let left = checks.done(filled)?;
        let mut signs = self.signs;
        signs.sort_unstable();
        signs.dedup();
        let record = record.in_jar(left, at).map_err(|error| refused("/left_ml", error))?;
        let noted = record.with_jar(|jar| (jar.client, jar.signs) = (client, signs));
        Ok(noted.map_err(|error| refused("/left_ml", error))?.kept_at(place))
    }
}

impl JarTaken {
    /// Takes so much out of the jar. Repeating it changes nothing.
    pub fn of(&self, record: PourRecord, at: Timestamp) -> Result<PourRecord, Refusal> {
        record.used_from_jar(JarUse { id: self.id, at, ml: self.ml }).map_err(|error| refused("/ml", error))
    }

    /// Throws the jar away with what is left in it. Repeating it changes nothing.
    pub fn all_away(record: PourRecord, at: Timestamp) -> Result<PourRecord, Refusal> {
        let away = record.with_jar(|jar| jar.gone_at = jar.gone_at.or(Some(at)));
        away.map_err(|error| refused("/id", error))
    }
}
