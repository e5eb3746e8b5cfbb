//! A piece in true proportion: its faces, what lies on each, how large that is and what it meets.
//!
//! Every part lies wholly on the one it is set into, and takes its area from it. So the parts of a face add up to the face.
//! Lengths are mm, x to the right and y down from the upper left corner of the face.

use std::collections::BTreeMap;
use strum::VariantArray as _;

use serde::{Deserialize, Serialize};

use super::{Shaping, Zone};

/// From where it is seen.
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
    /// From the front.
    #[default]
    Front,
    /// From a side; both sides are alike.
    Side,
    /// From above.
    Top,
}

/// The outline of a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Outline {
    /// A rectangle.
    Square,
    /// A rectangle under a half circle as wide as itself.
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
    /// What it belongs to.
    pub zone: Zone,
    /// Around its outline.
    pub rect: Rect,
    /// Its outline.
    pub outline: Outline,
    /// How it is shaped.
    pub shaping: Shaping,
    /// Of what frames: how wide, mm; of the rest 0.
    pub rim: f64,
    /// The part it is set into.
    pub on: Option<usize>,
    /// How far its front stands before the plane of the face, mm; below nought behind it.
    pub forward: f64,
}

/// A face of a piece.
#[derive(Debug, Clone, PartialEq)]
pub struct Face {
    /// From where it is seen.
    pub view: View,
    /// mm.
    pub width: f64,
    /// mm.
    pub height: f64,
    /// How far its plane is from what is behind the piece: a wall, or from above the floor; mm.
    pub behind: f64,
    /// How many such faces there are.
    pub times: u32,
    /// What lies on it, each after the one it is set into.
    pub parts: Vec<Part>,
}

/// A piece in true proportion.
#[derive(Debug, Clone, PartialEq)]
pub struct Elevation {
    /// Front, side and top, as far as there are any.
    pub faces: Vec<Face>,
}

/// How large a zone is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Extent {
    /// m², net of what is set into it.
    pub area: f64,
    /// Edges around its parts, m.
    pub edge: f64,
}

/// Two zones that meet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Meeting {
    /// The two, in the order of [`Zone::ALL`].
    pub zones: (Zone, Zone),
    /// How long they meet, m.
    pub length: f64,
}

impl View {
    /// In the order they are drawn.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `front` …
    pub fn id(self) -> &'static str {
        self.into()
    }
}

impl Rect {
    /// The same, so much smaller all round.
    pub fn inset(self, by: f64) -> Self {
        Self { x: self.x + by, y: self.y + by, w: self.w - 2.0 * by, h: self.h - 2.0 * by }
    }

    /// True where another lies wholly within.
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
    /// mm², with what is set into it.
    pub fn area(&self) -> f64 {
        let Rect { w, h, .. } = self.rect;
        match self.outline {
            Outline::Square => w * h,
            Outline::Oval => std::f64::consts::PI * w * h / 4.0,
            // The rectangle up to where the half circle begins, and that.
            Outline::RoundTop => w * (h - w / 2.0) + std::f64::consts::PI * w * w / 8.0,
        }
    }

    /// mm.
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

    /// True where a point lies on it.
    pub fn holds(&self, x: f64, y: f64) -> bool {
        self.inward(x, y) >= 0.0
    }

    /// How far inside its outline a point lies, mm; below nought outside.
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

    /// The part that is seen at a point: the last that lies there.
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
    /// One of its faces.
    pub fn face(&self, view: View) -> Option<&Face> {
        self.faces.iter().find(|face| face.view == view)
    }

    /// How large each zone is, over all faces.
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

    /// Which zones meet, and how long, over all faces and round the corners between front and sides.
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
