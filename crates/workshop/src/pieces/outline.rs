//! Outlines of the painter's own for stencils.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_interchange::{outline_of_drawing, outline_of_word};
use warm_blend_paint::Name;
use warm_blend_piece::{Outlined, PatternRoom};

use crate::{Checks, Refusal};

/// A drawing or a word to be cut out: give one of the two.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
pub struct OutlineAsked {
    /// Name of the outline; by default the word.
    #[serde(default)]
    pub name: Option<String>,
    /// An SVG drawing, or the data of an SVG path.
    #[serde(default)]
    pub svg: Option<String>,
    /// A word, set in the lettering that ships with the program.
    #[serde(default)]
    pub word: Option<String>,
    /// The room that it is to fill.
    #[serde(default)]
    pub room: Option<PatternRoom>,
}

/// An outline of the painter's own.
#[derive(Debug, Serialize, ToSchema)]
pub struct OutlineMade {
    /// The outline.
    pub own: Outlined,
    /// Size at which it fills the room, mm; absent without one.
    pub size: Option<f64>,
}

impl OutlineAsked {
    /// The outline, in the middle of its square.
    fn outlined(&self) -> Result<Outlined, Refusal> {
        let (field, path) = match (&self.svg, &self.word) {
            (Some(svg), None) => ("/svg", outline_of_drawing(svg)),
            (None, Some(word)) => ("/word", outline_of_word(word)),
            _ => return Err(Refusal::field("/svg", "send either a drawing or a word")),
        };
        let path = path.map_err(|error| Refusal::field(field, error.to_string()))?;
        let mut checks = Checks::default();
        let called = self.name.as_deref().or(self.word.as_deref()).unwrap_or("my drawing");
        let name = checks.field("/name", Name::new(called));
        let name = checks.done(name)?;
        Outlined::new(name, &path).map_err(|error| Refusal::field(field, error.to_string()))
    }

    /// The outline, and how large it fills the room.
    pub fn made(&self) -> Result<OutlineMade, Refusal> {
        let own = self.outlined()?;
        let cut = own.cut().map_err(|error| Refusal::field("/svg", error.to_string()))?;
        let room = self.room.filter(|room| room.long > 0.0 && room.broad > 0.0);
        Ok(OutlineMade { own, size: room.map(|room| room.filled_by(&cut)) })
    }
}
