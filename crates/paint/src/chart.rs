//! A chart of common colour names, to start a tin from when there is no chip, reader or photo.
//!
//! The colours are our own choice for everyday words; no maker's card is behind them.

use warm_blend_spectral::Srgb;

use crate::HueFamily;

/// A colour with an everyday name.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ChartColour {
    /// Name: `duck egg`.
    pub name: &'static str,
    /// Colour†.
    pub colour: Srgb,
}

impl ChartColour {
    /// Heading under which it stands.
    pub fn family(&self) -> HueFamily {
        HueFamily::of(self.colour.to_lab())
    }
}

const fn named(name: &'static str, rgb: u32) -> ChartColour {
    let [_, red, green, blue] = rgb.to_be_bytes();
    ChartColour { name, colour: Srgb { red, green, blue } }
}

/// The chart.
pub const CHART: [ChartColour; 56] = [
    named("chalk white", 0xf4f2ec),
    named("ivory", 0xf2ead7),
    named("cream", 0xefe2c0),
    named("linen", 0xe6dcc8),
    named("oyster", 0xdcd6c9),
    named("pearl grey", 0xc8c6c1),
    named("dove grey", 0xb3b0ab),
    named("stone", 0xb3a894),
    named("putty", 0xc2b59b),
    named("mushroom", 0x9c8f80),
    named("pewter", 0x868683),
    named("slate", 0x5c656b),
    named("lead grey", 0x54575a),
    named("charcoal", 0x3b3c3d),
    named("soot", 0x2a2a2b),
    named("ink black", 0x1f2227),
    named("sand", 0xcdb891),
    named("biscuit", 0xc3a27b),
    named("clay", 0xa97e63),
    named("tobacco", 0x7a5838),
    named("walnut", 0x5b4433),
    named("chestnut", 0x6a3d2c),
    named("coffee", 0x4a3729),
    named("blush", 0xe3c3b6),
    named("rose", 0xc98f8c),
    named("brick", 0x9c4a3a),
    named("rust", 0x96482a),
    named("crimson", 0x8d2530),
    named("oxblood", 0x5f2326),
    named("apricot", 0xe3b184),
    named("terracotta", 0xb9683f),
    named("pumpkin", 0xc66b25),
    named("primrose", 0xecdc94),
    named("straw", 0xd9c27c),
    named("barley", 0xc9a862),
    named("mustard", 0xbf9327),
    named("ochre", 0xb88838),
    named("pistachio", 0xc0cba0),
    named("sage", 0x9aa58c),
    named("moss", 0x71773f),
    named("olive", 0x63623a),
    named("bottle green", 0x234a38),
    named("pine", 0x2f4f42),
    named("verdigris", 0x63a08c),
    named("mist blue", 0xb4cad6),
    named("duck egg", 0xb6cdc6),
    named("sky", 0x9cbccf),
    named("cornflower", 0x6c8fbf),
    named("petrol", 0x1f5c68),
    named("teal", 0x2b7474),
    named("denim", 0x47637f),
    named("navy", 0x232f48),
    named("lilac", 0xbfb0c8),
    named("heather", 0x8f7d97),
    named("plum", 0x5e3a4e),
    named("aubergine", 0x3c2836),
];

#[cfg(test)]
mod tests {
    use std::collections::HashSet;

    use super::*;
    use crate::Masstone;

    #[test]
    fn names_are_unique_and_every_colour_can_be_painted() {
        let names: HashSet<_> = CHART.iter().map(|row| row.name).collect();
        assert_eq!(names.len(), CHART.len());
        for row in CHART {
            assert!(Masstone::Hex(row.colour).reflectance().is_ok(), "{}", row.name);
        }
    }
}
