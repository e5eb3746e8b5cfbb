//! Carving of a zone, if the painter overrides the drawing.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

use crate::{Elevation, Shaping, Zone};

/// How much of a zone is carved or moulded, which determines its shares of field, recess and edge, and so colour, amount
/// and time.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Carving {
    /// Flat, with arrises only.
    Flat,
    /// A moulding all round.
    Mouldings,
    /// Carved in the corners.
    Corners,
    /// Bands of carving.
    Bands,
    /// Carved all over.
    AllOver,
}

impl Carving {
    /// All choices, least carved first.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `all-over` …
    pub const fn id(self) -> &'static str {
        match self {
            Carving::Flat => "flat",
            Carving::Mouldings => "mouldings",
            Carving::Corners => "corners",
            Carving::Bands => "bands",
            Carving::AllOver => "all-over",
        }
    }

    /// `Carved all over` …
    pub const fn name(self) -> &'static str {
        match self {
            Carving::Flat => "Flat",
            Carving::Mouldings => "Moulded all round",
            Carving::Corners => "Carved corners",
            Carving::Bands => "Bands of carving",
            Carving::AllOver => "Carved all over",
        }
    }

    const fn shaping(self) -> Shaping {
        match self {
            Carving::Flat => Shaping::Flat,
            Carving::Mouldings => Shaping::Framing,
            Carving::Corners => Shaping::Carved,
            Carving::Bands => Shaping::Bands,
            Carving::AllOver => Shaping::CarvedAllOver,
        }
    }
}

impl Elevation {
    /// Applies a carving to all parts of a zone except knobs.
    pub(crate) fn carve(&mut self, zone: Zone, carving: Carving) {
        for part in self.faces.iter_mut().flat_map(|face| &mut face.parts) {
            if part.zone == zone && part.shaping != Shaping::Knob {
                part.shaping = carving.shaping();
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::PieceKind;
    use warm_blend_board::{ByPlace, Place};

    /// The more it is carved, the less of it is field; its shares are all of it; nothing else changes.
    #[test]
    fn more_carving_is_more_relief() {
        let drawn = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let field = |carving| {
            let mut elevation = drawn.clone();
            elevation.carve(Zone::Drawers, carving);
            let places = elevation.places();
            let sum = |shares: &ByPlace<f64>| Place::ALL.iter().map(|place| shares.at(*place)).sum::<f64>();
            assert!((sum(&places[&Zone::Drawers]) - 1.0).abs() < 1e-9);
            assert_eq!(places[&Zone::Case], drawn.places()[&Zone::Case]);
            assert_eq!(elevation.extents(), drawn.extents());
            places[&Zone::Drawers].field
        };
        let fields = [Carving::Flat, Carving::Corners, Carving::Bands, Carving::AllOver].map(field);
        assert!(fields.windows(2).all(|two| two[0] > two[1]), "{fields:?}");
        assert!((0.3..0.45).contains(&fields[3]), "most of it is relief");
    }
}
