//! A piece in true proportion: its faces and their parts, sizes and edges.
//!
//! Every part lies completely on the part it is set into, and takes away that much of its area, so that the parts of a
//! face add up to the face. Lengths are mm; x points right and y down from the upper left corner of the face.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

use super::{Shaping, Zone};

/// Direction of view.
#[derive(
    Debug,
    Clone,
    Copy,
    Default,
    PartialEq,
    Eq,
    Hash,
    PartialOrd,
    Ord,
    Serialize,
    Deserialize,
    strum::IntoStaticStr,
    strum::VariantArray,
)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum View {
    /// The front.
    #[default]
    Front,
    /// One of the two sides, which are alike.
    Side,
    /// From above.
    Top,
}

/// The outline of a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Outline {
    /// A rectangle.
    Square,
    /// A rectangle below a half circle of the same width.
    RoundTop,
    /// An ellipse.
    Oval,
}

/// A rectangle, mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Rect {
    /// Left.
    pub x: f64,
    /// Upper edge.
    pub y: f64,
    /// Width.
    pub w: f64,
    /// Height.
    pub h: f64,
}

/// A part of a face.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Part {
    /// Zone it belongs to.
    pub zone: Zone,
    /// Bounding rectangle.
    pub rect: Rect,
    /// Its outline.
    pub outline: Outline,
    /// Shape of its surface.
    pub shaping: Shaping,
    /// Width of a frame, mm; 0 for other parts.
    pub rim: f64,
    /// Index of the part it is set into.
    pub on: Option<usize>,
    /// Distance of its front from the plane of the face, mm; negative behind it.
    pub forward: f64,
}

/// A face of a piece.
#[derive(Debug, Clone, PartialEq)]
pub struct Face {
    /// Direction of view.
    pub view: View,
    /// Width, mm.
    pub width: f64,
    /// Height, mm.
    pub height: f64,
    /// Distance of its plane from the wall behind the piece, or from the floor when seen from above, mm.
    pub behind: f64,
    /// Number of such faces.
    pub times: u32,
    /// Its parts, each after the one it is set into.
    pub parts: Vec<Part>,
}

/// A piece in true proportion.
#[derive(Debug, Clone, PartialEq)]
pub struct Elevation {
    /// Front, side and top, as far as the piece has them.
    pub faces: Vec<Face>,
}

/// Size of a zone.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Extent {
    /// Area without what is set into it, m².
    pub area: f64,
    /// Total edge of its parts, m.
    pub edge: f64,
}

/// Two zones that meet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Meeting {
    /// The zones, in the order of [`Zone::ALL`].
    pub zones: (Zone, Zone),
    /// Length of their common edge, m.
    pub length: f64,
}

impl View {
    /// All views, in the order in which they are drawn.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `front` …
    pub fn id(self) -> &'static str {
        self.into()
    }
}

impl Rect {
    /// The rectangle reduced by this much on every side.
    pub fn inset(self, by: f64) -> Self {
        Self { x: self.x + by, y: self.y + by, w: self.w - 2.0 * by, h: self.h - 2.0 * by }
    }

    /// Its middle.
    pub fn middle(self) -> (f64, f64) {
        (self.x + 0.5 * self.w, self.y + 0.5 * self.h)
    }

    /// True if it contains another rectangle.
    pub fn holds(self, other: Rect) -> bool {
        const NEARLY: f64 = 1e-6;
        other.x >= self.x - NEARLY
            && other.y >= self.y - NEARLY
            && other.x + other.w <= self.x + self.w + NEARLY
            && other.y + other.h <= self.y + self.h + NEARLY
    }

    /// How long its sides lie along another's, where neither is within the other.
    fn along(self, other: Rect) -> f64 {
        const NEARLY: f64 = 1e-6;
        let overlap = |a: f64, b: f64, c: f64, d: f64| (b.min(d) - a.max(c)).max(0.0);
        let touch = |a: f64, b: f64| (a - b).abs() < NEARLY;
        let upright = overlap(self.y, self.y + self.h, other.y, other.y + other.h);
        let level = overlap(self.x, self.x + self.w, other.x, other.x + other.w);
        let mut length = 0.0;
        if touch(self.x + self.w, other.x) || touch(other.x + other.w, self.x) {
            length += upright;
        }
        if touch(self.y + self.h, other.y) || touch(other.y + other.h, self.y) {
            length += level;
        }
        length
    }
}

impl Part {
    /// Area including what is set into it, mm².
    pub fn area(&self) -> f64 {
        let Rect { w, h, .. } = self.rect;
        match self.outline {
            Outline::Square => w * h,
            Outline::Oval => std::f64::consts::PI * w * h / 4.0,
            // The rectangle up to where the half circle begins, and that.
            Outline::RoundTop => w * (h - w / 2.0) + std::f64::consts::PI * w * w / 8.0,
        }
    }

    /// Perimeter, mm.
    pub fn around(&self) -> f64 {
        let Rect { w, h, .. } = self.rect;
        match self.outline {
            Outline::Square => 2.0 * (w + h),
            // S. Ramanujan, *Quart. J. Pure Appl. Math.* 45 (1914) 350.
            Outline::Oval => {
                let (a, b) = (w / 2.0, h / 2.0);
                std::f64::consts::PI * (3.0 * (a + b) - ((3.0 * a + b) * (a + 3.0 * b)).sqrt())
            }
            Outline::RoundTop => w + 2.0 * (h - w / 2.0) + std::f64::consts::PI * w / 2.0,
        }
    }

    /// True if a point lies on it.
    pub fn holds(&self, x: f64, y: f64) -> bool {
        self.inward(x, y) >= 0.0
    }

    /// Distance of a point inside its outline, mm; negative outside.
    pub fn inward(&self, x: f64, y: f64) -> f64 {
        let Rect { x: left, y: upper, w, h } = self.rect;
        let (u, v) = (x - left, y - upper);
        let square = u.min(w - u).min(v).min(h - v);
        match self.outline {
            Outline::Square => square,
            Outline::RoundTop => {
                let r = w / 2.0;
                if v < r { u.min(w - u).min(r - (u - r).hypot(v - r)) } else { u.min(w - u).min(h - v) }
            }
            Outline::Oval => {
                let (a, b) = (w / 2.0, h / 2.0);
                let out = ((u - a) / a).hypot((v - b) / b);
                (1.0 - out) * a.min(b)
            }
        }
    }
}

impl Face {
    /// Net area of each part, mm².
    pub fn net(&self) -> Vec<f64> {
        let mut net: Vec<f64> = self.parts.iter().map(Part::area).collect();
        for part in &self.parts {
            if let Some(on) = part.on {
                net[on] -= part.area();
            }
        }
        net
    }

    /// How many parts of the same zone come before a part.
    pub fn nth(&self, n: usize) -> usize {
        self.parts[..n].iter().filter(|other| other.zone == self.parts[n].zone).count()
    }

    /// Index of the part visible at a point: the last one that contains it.
    pub fn at(&self, x: f64, y: f64) -> Option<usize> {
        self.parts.iter().rposition(|part| part.holds(x, y))
    }
}

/// An end of a face.
#[derive(Clone, Copy)]
enum End {
    Left,
    Right,
}

impl Face {
    /// What is outermost at one end, from the top down: from where to where, mm, which zone.
    fn outermost(&self, end: End) -> Vec<(f64, f64, Zone)> {
        let mut heights: Vec<f64> =
            self.parts.iter().flat_map(|part| [part.rect.y, part.rect.y + part.rect.h]).collect();
        heights.sort_by(f64::total_cmp);
        heights.dedup_by(|one, other| (*one - *other).abs() < 1e-6);
        let out = |part: &Part| match end {
            End::Left => -part.rect.x,
            End::Right => part.rect.x + part.rect.w,
        };
        let between = |two: &[f64]| {
            let at = (two[0] + two[1]) / 2.0;
            let here = self.parts.iter().filter(|part| part.rect.y < at && at < part.rect.y + part.rect.h);
            // Of two that reach as far, the one set into the other is seen.
            let outermost = here.max_by(|one, other| out(one).total_cmp(&out(other)))?;
            Some((two[0], two[1], outermost.zone))
        };
        heights.windows(2).filter_map(between).collect()
    }
}

impl Elevation {
    /// The face in a view.
    pub fn face(&self, view: View) -> Option<&Face> {
        self.faces.iter().find(|face| face.view == view)
    }

    /// Size of each zone over all faces.
    pub fn extents(&self) -> BTreeMap<Zone, Extent> {
        let mut extents = BTreeMap::new();
        for face in &self.faces {
            let times = f64::from(face.times);
            for (part, net) in face.parts.iter().zip(face.net()) {
                let extent = extents.entry(part.zone).or_insert(Extent { area: 0.0, edge: 0.0 });
                extent.area += times * net / 1e6;
                extent.edge += times * part.around() / 1e3;
            }
        }
        extents
    }

    /// Zones that meet, with lengths, over all faces and round the corners between front and sides.
    pub fn meetings(&self) -> Vec<Meeting> {
        let mut lengths: BTreeMap<(Zone, Zone), f64> = BTreeMap::new();
        let mut meet = |one: Zone, other: Zone, length: f64| {
            if one != other && length > 0.0 {
                *lengths.entry((one.min(other), one.max(other))).or_insert(0.0) += length / 1e3;
            }
        };
        for face in &self.faces {
            let times = f64::from(face.times);
            for (n, part) in face.parts.iter().enumerate() {
                if let Some(on) = part.on {
                    meet(part.zone, face.parts[on].zone, times * part.around());
                }
                for other in face.parts[..n].iter().filter(|other| other.on == part.on) {
                    meet(part.zone, other.zone, times * part.rect.along(other.rect));
                }
            }
        }
        if let (Some(front), Some(side)) = (self.face(View::Front), self.face(View::Side)) {
            let times = f64::from(front.times);
            for end in [End::Left, End::Right] {
                for (from, to, one) in front.outermost(end) {
                    // A side is looked at with the front at its left.
                    for (above, below, other) in side.outermost(End::Left) {
                        meet(one, other, times * (to.min(below) - from.max(above)).max(0.0));
                    }
                }
            }
        }
        lengths.into_iter().map(|(zones, length)| Meeting { zones, length }).collect()
    }
}
