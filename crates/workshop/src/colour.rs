//! Colours as they are entered.

use warm_blend_paint::{BadColour, Colour, Masstone};

use crate::Checks;

impl Checks {
    /// The colour of a surface in a field: one that can be.
    pub fn colour(&mut self, pointer: &str, colour: &Colour) -> Option<Masstone> {
        let masstone = colour.of_a_surface();
        let form = match masstone {
            Err(BadColour::NotOnce) => "",
            _ if colour.hex.is_some() => "/hex",
            _ => "/lab",
        };
        self.field(format!("{pointer}{form}"), masstone)
    }
}
