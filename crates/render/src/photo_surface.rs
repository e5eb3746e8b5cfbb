//! How the shape of a piece changes the light on what a pixel shows.

use warm_blend_photo::{Run, Surface};
use warm_blend_piece::{Face, Rect, Shaping, Zone};

/// Width of the band along an edge of a part that its shape lights differently, mm†.
const ARRIS: f64 = 5.0;
/// Side of carved corners, of the shorter side of their part†.
const CARVED: f64 = 0.36;
/// Width of a run, in steps of the photo: a moulding is a few steps wide†.
const RUN: f64 = 0.6;

/// The number of a zone, its place in the list of all.
pub(crate) fn zone_number(zone: Zone) -> u8 {
    Zone::ALL.iter().position(|one| *one == zone).unwrap_or(0) as u8
}

/// An edge along which the shape of a surface runs on.
#[derive(Clone, Copy)]
struct Edge {
    /// 0 left, 1 right, 2 upper, 3 lower.
    side: u8,
    /// Distance from it, mm; negative outside.
    inward: f64,
    along: f64,
}

/// The edge of a rectangle that a point is nearest to.
fn nearest_edge(rect: Rect, (x, y): (f64, f64)) -> Edge {
    let inward = [x - rect.x, rect.x + rect.w - x, y - rect.y, rect.y + rect.h - y];
    let side = (0..4).min_by(|one, other| inward[*one].abs().total_cmp(&inward[*other].abs())).unwrap_or(0);
    Edge { side: side as u8, inward: inward[side], along: if side < 2 { y } else { x } }
}

/// What is seen at a point of part `n` of the face with number `flat`; `step` is how far a step of the photo is there, mm.
pub(crate) fn surface_at(face: &Face, flat: usize, n: usize, at: (f64, f64), step: f64) -> Option<Surface> {
    let part = face.parts.get(n)?;
    let (x, y) = at;
    let number = (1000 * flat + n.min(999)).min(usize::from(u16::MAX)) as u16;
    let run = |of: usize, edge: Edge, with_grain: bool| {
        let across = (edge.inward / (RUN * step.max(1e-3))).floor().clamp(-2000.0, 2000.0) as i64 + 2048;
        let key = [flat as u64, n as u64, of as u64, u64::from(edge.side), across as u64];
        // 8, 16, 16, 2 and 12 bits.
        let line = key.into_iter().zip([0, 16, 16, 2, 12]).fold(0, |line, (key, bits)| line << bits | key);
        Run { line, along: edge.along as f32, with_grain }
    };
    // Shaped near its own edge, and, unless only that counts, near the edge of what is set into something.
    let shaped = |own_only: bool| {
        let near = |of: &usize| face.parts[*of].inward(x, y).abs() < ARRIS;
        let set_in = (0..face.parts.len()).filter(|of| !own_only && face.parts[*of].on.is_some());
        match std::iter::once(n).chain(set_in).find(near) {
            Some(of) => Surface::Shaped(number, Some(run(of, nearest_edge(face.parts[of].rect, at), false))),
            None => Surface::Flat(number),
        }
    };
    let Rect { x: left, y: upper, w, h } = part.rect;
    let lengthwise = |is_across: bool| match is_across {
        true => Edge { side: 2, inward: y - upper, along: x },
        false => Edge { side: 0, inward: x - left, along: y },
    };
    Some(match part.shaping {
        Shaping::Flat | Shaping::Sunk | Shaping::Raised => shaped(false),
        Shaping::Carved => {
            // Only in its corners.
            let (across, down) = ((x - left).min(left + w - x), (y - upper).min(upper + h - y));
            if across.max(down) < CARVED * w.min(h) { Surface::Carved(number) } else { shaped(true) }
        }
        Shaping::Bands | Shaping::CarvedAllOver => Surface::Carved(number),
        Shaping::Framing => Surface::Shaped(number, Some(run(n, nearest_edge(part.rect, at), false))),
        Shaping::Running => Surface::Shaped(number, Some(run(n, lengthwise(w >= h), true))),
        Shaping::Upright => Surface::Shaped(number, Some(run(n, lengthwise(false), true))),
        Shaping::Knob => Surface::Shaped(number, None),
    })
}
