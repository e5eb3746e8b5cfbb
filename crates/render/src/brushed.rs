//! Direction of the brush on the parts of a piece.
//!
//! The brush follows the length of a part: on a frame along the nearer side, as its mouldings run; on a part with others
//! set into it along the stile or rail between them.

use warm_blend_piece::{Part, Rect, Shaping};

/// Direction of the brush on the parts of a face.
pub(crate) struct Brushed<'a> {
    parts: &'a [Part],
    /// By part: where others are set into it.
    set_in: Vec<Vec<Rect>>,
}

impl<'a> Brushed<'a> {
    pub(crate) fn on(parts: &'a [Part]) -> Self {
        let mut set_in = vec![Vec::new(); parts.len()];
        for part in parts.iter().filter(|part| part.shaping != Shaping::Knob) {
            if let Some(set_in) = part.on.and_then(|on| set_in.get_mut(on)) {
                set_in.push(part.rect);
            }
        }
        Self { parts, set_in }
    }

    /// True if the brush goes up and down at a point of a part, in mm.
    pub(crate) fn up_and_down(&self, at: usize, (x, y): (f64, f64)) -> bool {
        let Some(part) = self.parts.get(at) else { return false };
        let Rect { w, h, .. } = part.rect;
        if part.shaping == Shaping::Framing {
            let (u, v) = (x - part.rect.x, y - part.rect.y);
            return u.min(w - u) < v.min(h - v);
        }
        // How far a brush can go from there to either side.
        let mut across = (part.rect.x, part.rect.x + w);
        let mut down = (part.rect.y, part.rect.y + h);
        for other in &self.set_in[at] {
            if (other.y..=other.y + other.h).contains(&y) {
                across = closed_in(across, x, (other.x, other.x + other.w));
            }
            if (other.x..=other.x + other.w).contains(&x) {
                down = closed_in(down, y, (other.y, other.y + other.h));
            }
        }
        down.1 - down.0 > across.1 - across.0
    }
}

/// What is left around a place of a line of what is free, where something lies from one place to another.
fn closed_in(free: (f64, f64), at: f64, (from, to): (f64, f64)) -> (f64, f64) {
    if to <= at {
        (free.0.max(to), free.1)
    } else if from >= at {
        (free.0, free.1.min(from))
    } else {
        free
    }
}

#[cfg(test)]
mod tests {
    use warm_blend_piece::{PieceKind, View, Zone};

    use super::*;

    #[test]
    fn a_brush_follows_stiles_and_rails() {
        let elevation = PieceKind::UprightCase.usual().build().unwrap();
        let front = elevation.face(View::Front).unwrap();
        let brushed = Brushed::on(&front.parts);
        let of = |zone: Zone| front.parts.iter().enumerate().filter(move |(_, part)| part.zone == zone);
        let (case, whole) = of(Zone::Case).next().unwrap();
        let frames: Vec<Rect> = of(Zone::Mouldings).map(|(_, part)| part.rect).collect();
        let (first, second) = (frames[0], frames[1]);
        // Between two panels up and down, above them across.
        let between = (0.5 * (first.x + first.w + second.x), first.y + 0.5 * first.h);
        assert!(brushed.up_and_down(case, between));
        assert!(!brushed.up_and_down(case, (between.0, whole.rect.y + 2.0)));
        let (fall, part) = of(Zone::Fall).next().unwrap();
        assert!(!brushed.up_and_down(fall, (part.rect.x + 3.0, part.rect.y + 0.5 * part.rect.h)));
        let (leg, part) = of(Zone::Legs).next().unwrap();
        assert!(brushed.up_and_down(leg, (part.rect.x + 3.0, part.rect.y + 3.0)));
        // On a frame as its mouldings run.
        let (frame, _) = of(Zone::Mouldings).next().unwrap();
        assert!(brushed.up_and_down(frame, (first.x + 5.0, first.y + 0.5 * first.h)));
        assert!(!brushed.up_and_down(frame, (first.x + 0.5 * first.w, first.y + 5.0)));
    }
}
