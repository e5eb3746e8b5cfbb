//! Shares of field, recess and edge.
//!
//! Carved parts are described by the area of their carving, others by their section. The figures match the relief as it
//! is drawn, †.

use std::collections::BTreeMap;

use warm_blend_board::{ByPlace, FLAT};

use crate::{Elevation, Part, Shaping, Zone};

/// How large a carving in the corner of a part is, as a share of its shorter side.
const CORNER: f64 = 0.42;
/// How wide a band of carving is, as a share of its shorter side.
const BAND: f64 = 0.2;

impl Part {
    /// Radius of the carving in its corners, mm.
    pub fn carving(&self) -> f64 {
        CORNER * self.rect.w.min(self.rect.h).max(1.0)
    }

    /// Number of cells of repeated carving, across and down: about square, as large as its bands are wide.
    pub fn cells(&self) -> (f64, f64) {
        let cell = (BAND * self.rect.w.min(self.rect.h)).clamp(30.0, 120.0);
        let whole = |length: f64| length / (length / cell).round().max(1.0);
        (whole(self.rect.w), whole(self.rect.h))
    }

    /// Shares of field, recess and edge†.
    pub fn shares(&self) -> ByPlace<f64> {
        let [field, recess, edge] = match self.shaping {
            Shaping::Flat => return FLAT,
            Shaping::Sunk => [0.93, 0.04, 0.03],
            Shaping::Raised => [0.90, 0.03, 0.07],
            Shaping::Framing => [0.50, 0.28, 0.22],
            Shaping::Running => [0.64, 0.14, 0.22],
            Shaping::Upright => [0.84, 0.02, 0.14],
            Shaping::Bands => [0.62, 0.18, 0.20],
            Shaping::CarvedAllOver => [0.36, 0.30, 0.34],
            Shaping::Knob => [0.75, 0.0, 0.25],
            Shaping::Carved => {
                // Four quarters of a circle.
                let area = self.rect.w * self.rect.h;
                return self.carved_shares(std::f64::consts::PI * self.carving().powi(2) / area.max(1.0));
            }
        };
        ByPlace { field, recess, edge }
    }

    /// The same of a part that is carved over this share of its area†, 0 to 1.
    pub fn carved_shares(&self, carved: f64) -> ByPlace<f64> {
        let (recess, edge) = (0.05 + 0.38 * carved, 0.03 + 0.50 * carved);
        ByPlace { field: 1.0 - recess - edge, recess, edge }
    }
}

impl Elevation {
    /// Shares of field, recess and edge of each zone, from its parts.
    pub fn places(&self) -> BTreeMap<Zone, ByPlace<f64>> {
        let mut sums: BTreeMap<Zone, (f64, ByPlace<f64>)> = BTreeMap::new();
        for face in &self.faces {
            for (part, net) in face.parts.iter().zip(face.net()) {
                let (area, by) = sums.entry(part.zone).or_default();
                let (net, shares) = (net.max(0.0) * f64::from(face.times), part.shares());
                *area += net;
                *by = ByPlace::from_fn(|place| by.at(place) + net * shares.at(place));
            }
        }
        let share = |(area, by): (f64, ByPlace<f64>)| {
            ByPlace::from_fn(|place| if area > 0.0 { by.at(place) / area } else { *FLAT.at(place) })
        };
        sums.into_iter().map(|(zone, sums)| (zone, share(sums))).collect()
    }
}
