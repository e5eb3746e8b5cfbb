//! Parts whose place was measured on the piece itself, where it differs from the drawing.

use serde::{Deserialize, Serialize};

use crate::{Elevation, Face, Part, Rect, View, Zone};

/// Shortest side of a part that is moved, and how far two stay apart, mm†.
const SHORTEST: f64 = 15.0;
const APART: f64 = 1.0;

/// Greatest number of moved parts.
pub(crate) const MOVED: usize = 200;

/// A part with its place as measured. It keeps its shares of what it is set into, so that it follows other dimensions.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MovedPart {
    /// The face: `front`, `side` or `top`.
    pub view: View,
    /// Its zone.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub zone: Zone,
    /// Which of the parts of its zone on that face, from 0.
    pub nth: usize,
    /// Left, upper, right and lower edge, as shares of the width and height of what it is set into, 0 to 1.
    pub within: [f64; 4],
}

impl MovedPart {
    /// True if its edges are in order.
    pub(crate) fn is_sound(&self) -> bool {
        let [left, upper, right, lower] = self.within;
        let inside = self.within.iter().all(|share| (0.0..=1.0).contains(share));
        inside && left < right && upper < lower
    }

    /// True if it moves the same part as another.
    pub fn is_of(&self, other: &Self) -> bool {
        (self.view, self.zone, self.nth) == (other.view, other.zone, other.nth)
    }
}

/// Whether two rectangles overlap.
fn overlap(one: Rect, other: Rect) -> bool {
    one.x < other.x + other.w
        && other.x < one.x + one.w
        && one.y < other.y + other.h
        && other.y < one.y + one.h
}

/// Where the length of a part goes when that of what it is set into goes from `old` to `new`: one that fills most of it keeps its distance
/// from both ends as far as there is room, a smaller one its length.
fn carried((at, length): (f64, f64), old: (f64, f64), new: (f64, f64)) -> (f64, f64) {
    if length > 0.5 * old.1 {
        let beside = old.1 - length;
        let new_length = (new.1 - beside).max(0.1 * new.1);
        let before = if beside > 0.0 { (at - old.0) / beside } else { 0.0 };
        return (new.0 + before * (new.1 - new_length), new_length);
    }
    let middle = (at + 0.5 * length - old.0) / old.1;
    let length = length.min(new.1);
    (new.0 + (middle * new.1 - 0.5 * length).clamp(0.0, new.1 - length), length)
}

impl Face {
    /// Moves a part, and with it what is set into it.
    fn place(&mut self, n: usize, rect: Rect) {
        let old = std::mem::replace(&mut self.parts[n].rect, rect);
        for inner in n + 1..self.parts.len() {
            if self.parts[inner].on == Some(n) {
                let Rect { x, y, w, h } = self.parts[inner].rect;
                let (x, w) = carried((x, w), (old.x, old.w), (rect.x, rect.w));
                let (y, h) = carried((y, h), (old.y, old.h), (rect.y, rect.h));
                self.place(inner, Rect { x, y, w, h });
            }
        }
    }

    /// Whether what is set into each part lies within it, one beside the other.
    fn adds_up(&self) -> bool {
        let within = |part: &Part| part.on.is_none_or(|on| self.parts[on].rect.holds(part.rect));
        self.parts.iter().all(within) && self.net().iter().all(|net| *net > -1e-3)
    }

    /// Parts that are set into the same part as another.
    fn beside(&self, n: usize) -> impl Iterator<Item = Rect> {
        let on = self.parts[n].on;
        let others = self.parts.iter().enumerate().filter(move |(other, part)| *other != n && part.on == on);
        others.map(|(_, part)| part.rect)
    }
}

impl Elevation {
    /// Puts a part where it was measured; where there is no room for it, or no such part, the drawing stays.
    pub(crate) fn place(&mut self, moved: &MovedPart) {
        let Some(face) = self.faces.iter_mut().find(|face| face.view == moved.view) else { return };
        let of_zone = face.parts.iter().enumerate().filter(|(_, part)| part.zone == moved.zone);
        let Some((n, on)) = of_zone.map(|(n, part)| (n, part.on)).nth(moved.nth) else { return };
        let Some(on) = on.map(|on| face.parts[on].rect) else { return };
        let [left, upper, right, lower] = moved.within;
        let rect = Rect {
            x: on.x + left * on.w,
            y: on.y + upper * on.h,
            w: (right - left) * on.w,
            h: (lower - upper) * on.h,
        };
        let has_room =
            rect.w.min(rect.h) >= 0.99 * SHORTEST && !face.beside(n).any(|other| overlap(rect, other));
        let mut placed = face.clone();
        placed.place(n, rect);
        // What is set into it needs room too.
        if has_room && placed.adds_up() {
            *face = placed;
        }
    }

    /// A part of a face as it would lie with these edges, mm: as near to them as there is room. `None` for what is set into nothing.
    pub fn moved(&self, view: View, n: usize, wanted: Rect) -> Option<MovedPart> {
        let face = self.face(view)?;
        let part = face.parts.get(n)?;
        let on = face.parts[part.on?].rect;
        let length = |from: f64, length: f64, least: f64, most: f64| {
            let from = from.clamp(least, (most - SHORTEST).max(least));
            (from, length.max(SHORTEST).min(most - from))
        };
        let (x, w) = length(wanted.x, wanted.w, on.x, on.x + on.w);
        let (y, h) = length(wanted.y, wanted.h, on.y, on.y + on.h);
        let mut rect = Rect { x, y, w, h };
        for other in face.beside(n) {
            rect = clear(rect, part.rect, other);
        }
        let share = |at: f64, from: f64, length: f64| ((at - from) / length.max(1e-9)).clamp(0.0, 1.0);
        let within = [
            share(rect.x, on.x, on.w),
            share(rect.y, on.y, on.h),
            share(rect.x + rect.w, on.x, on.w),
            share(rect.y + rect.h, on.y, on.h),
        ];
        Some(MovedPart { view, zone: part.zone, nth: face.nth(n), within })
    }
}

/// A rectangle cut off where it would lie over another, on the side on which it was before.
fn clear(rect: Rect, before: Rect, other: Rect) -> Rect {
    let Rect { mut x, mut y, mut w, mut h } = rect;
    if !overlap(rect, other) {
        return rect;
    }
    let (right, lower) = (x + w, y + h);
    if before.x + before.w <= other.x + 1e-6 {
        w = other.x - APART - x;
    } else if before.x >= other.x + other.w - 1e-6 {
        x = other.x + other.w + APART;
        w = right - x;
    } else if before.y + before.h <= other.y + 1e-6 {
        h = other.y - APART - y;
    } else {
        y = other.y + other.h + APART;
        h = lower - y;
    }
    Rect { x, y, w, h }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;
    use crate::{Form, PieceKind};

    fn any_form() -> impl Strategy<Value = Form> {
        let kinds = PieceKind::ALL.len();
        (0..kinds).prop_map(|n| PieceKind::ALL[n].usual())
    }

    proptest! {
        /// Wherever a part is put, the parts of a face still add up to the face, and each lies within what it is set into.
        #[test]
        fn parts_still_add_up(
            form in any_form(),
            view in 0usize..3,
            pick: prop::sample::Index,
            at in prop::array::uniform4(-0.3f64..1.3),
        ) {
            let mut elevation = form.build().unwrap();
            let Some(face) = elevation.face(View::ALL[view]).cloned() else { return Ok(()) };
            let n = pick.index(face.parts.len());
            let (x, y) = (at[0].min(at[2]) * face.width, at[1].min(at[3]) * face.height);
            let wanted = Rect {
                x,
                y,
                w: at[0].max(at[2]) * face.width - x,
                h: at[1].max(at[3]) * face.height - y,
            };
            let moved = elevation.moved(face.view, n, wanted);
            prop_assert_eq!(moved.is_some(), face.parts[n].on.is_some());
            let Some(moved) = moved else { return Ok(()) };
            if moved.is_sound() {
                elevation.place(&moved);
            }
            let placed = elevation.face(face.view).unwrap();
            for (part, old) in placed.parts.iter().zip(&face.parts) {
                prop_assert_eq!(part.zone, old.zone);
                prop_assert!(part.rect.w > 0.0 && part.rect.h > 0.0, "{:?}", part);
                if let Some(on) = part.on {
                    prop_assert!(placed.parts[on].rect.holds(part.rect), "{:?} on {:?}", part, placed.parts[on]);
                }
            }
            let outer: f64 = placed.parts.iter().filter(|part| part.on.is_none()).map(Part::area).sum();
            prop_assert!((placed.net().iter().sum::<f64>() - outer).abs() < 1e-3);
            prop_assert!(placed.net().iter().all(|net| *net > -1e-3), "{:?}", placed.net());
        }
    }

    /// A drawer that is made lower lies where it was put, keeps its knobs, and stays as high as that at other dimensions in proportion.
    #[test]
    fn a_drawer_lies_where_it_was_put() {
        let form = PieceKind::ChestOfDrawers.usual();
        let mut elevation = form.build().unwrap();
        let front = elevation.face(View::Front).unwrap();
        let n = front.parts.iter().position(|part| part.zone == Zone::Drawers).unwrap();
        let old = front.parts[n].rect;
        let wanted = Rect { y: old.y + 20.0, h: old.h - 40.0, ..old };
        let moved = elevation.moved(View::Front, n, wanted).unwrap();
        assert!(moved.is_sound() && moved.nth == 0 && moved.zone == Zone::Drawers);
        elevation.place(&moved);
        let placed = elevation.face(View::Front).unwrap();
        let now = placed.parts[n].rect;
        assert!((now.y - wanted.y).abs() < 1e-6 && (now.h - wanted.h).abs() < 1e-6, "{now:?}");
        let knobs = placed.parts.iter().filter(|part| part.on == Some(n));
        for knob in knobs {
            assert!(
                (knob.rect.h - knob.rect.w).abs() < 1e-6 && (knob.rect.h - 34.0).abs() < 1e-6,
                "{knob:?}"
            );
        }
        let mut larger = Form { height: 1.2 * form.height, ..form }.build().unwrap();
        let before = larger.face(View::Front).unwrap().parts[n].rect.h;
        larger.place(&moved);
        assert!(larger.face(View::Front).unwrap().parts[n].rect.h < before - 30.0);
        // What does not fit any more leaves the drawing as it is.
        let mut stale = form.build().unwrap();
        stale.place(&MovedPart { within: [0.0, 0.0, 1.0, 1.0], ..moved });
        stale.place(&MovedPart { nth: 99, ..moved });
        assert_eq!(stale, form.build().unwrap());
    }
}
