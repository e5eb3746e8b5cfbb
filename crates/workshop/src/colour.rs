//! Entry of colours.

use warm_blend_paint::{BadColour, Colour, Masstone};

use crate::Checks;

impl Checks {
    /// Checks that the colour in a field can be that of a surface.
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
