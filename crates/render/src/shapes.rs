//! The parts of a face as heights, and the resulting surface at each pixel.

use rayon::prelude::*;
use warm_blend_piece::{Face, Part, Rect, Shaping, Zone};

use crate::{
    brushed::Brushed,
    grid::Grid,
    photo_carving::SeenCarving,
    placed::Placed,
    places::{Bounds, Heights, Ragged, bounds_by_share},
    plate::{CARVED, MOULDING, carving, moulding},
    relief::{Relief, Shaped},
    shadows::Shadows,
};

/// How far from an outline is near, mm.
const NEAR: f64 = 70.0;
/// How far around what stands out takes light from what lies beside it, mm, and how much for each mm.
const OVER: f64 = 28.0;
const TAKES: f32 = 0.012;
/// The same of what stands far out.
const FAR_OVER: f64 = 56.0;
const FAR_TAKES: f32 = 0.0025;
/// No more of the light is lost to either.
const MOST: f32 = 0.3;
/// How much darker the wall is beside a piece.
const BESIDE: f32 = 0.28;

/// How far behind a piece the wall is, mm: it is never an edge of it.
const BACK: f32 = -14.0;

/// The level of each part, mm: what it is set into, and by how much it stands out from that or lies below.
fn levels(face: &Face) -> Vec<f32> {
    let mut levels: Vec<f32> = Vec::with_capacity(face.parts.len());
    for part in &face.parts {
        let below = part.on.map_or(0.0, |on| {
            let inside = match face.parts[on].shaping {
                Shaping::Framing => -5.0,
                _ => 0.0,
            };
            levels[on] + inside
        });
        let own = match part.shaping {
            Shaping::Flat => match part.zone {
                Zone::Top | Zone::Seat => 14.0,
                Zone::Apron => -8.0,
                _ => 0.0,
            },
            Shaping::Sunk if part.zone == Zone::Unpainted => -40.0,
            Shaping::Sunk | Shaping::Carved | Shaping::CarvedAllOver => -4.0,
            Shaping::Raised => 3.5,
            Shaping::Framing | Shaping::Bands => 0.0,
            Shaping::Running => match part.zone {
                Zone::Cornice => 30.0,
                _ => 6.0,
            },
            Shaping::Upright => 2.0,
            Shaping::Knob => 4.0,
        };
        levels.push(below + own);
    }
    levels
}

/// The parts of a face in a picture.
pub(crate) struct Shapes<'a> {
    face: &'a Face,
    placed: &'a Placed,
    carving: &'a SeenCarving,
    width: usize,
    /// Index of the part at each pixel; `u16::MAX` without one.
    pub part: Vec<u16>,
    /// mm.
    heights: Vec<f32>,
}

impl<'a> Shapes<'a> {
    /// `carving` replaces the drawn carving where a photo shows the real one.
    pub fn of(
        face: &'a Face,
        placed: &'a Placed,
        (width, height): (usize, usize),
        carving: &'a SeenCarving,
    ) -> Self {
        let n = width * height;
        let levels = levels(face);
        let (mut part, mut heights) = (vec![u16::MAX; n], vec![BACK; n]);
        part.par_chunks_exact_mut(width).zip(heights.par_chunks_exact_mut(width)).enumerate().for_each(
            |(y, (row, heights))| {
                for x in 0..width {
                    let (px, py) = placed.at(x, y);
                    if let Some(at) = face.at(px, py) {
                        row[x] = at as u16;
                        let carved = carving.at(at, (px, py));
                        heights[x] = levels[at] + relief(&face.parts[at], (px, py), placed.mm, carved);
                    }
                }
            },
        );
        Self { face, placed, carving, width, part, heights }
    }

    fn part_at(&self, i: usize) -> Option<&'a Part> {
        self.face.parts.get(usize::from(self.part[i]))
    }

    fn size(&self) -> (usize, usize) {
        (self.width, self.part.len() / self.width)
    }

    /// Height of each pixel relative to its surroundings, mm.
    pub fn out(&self) -> Vec<f32> {
        let grown = |i: usize| self.part_at(i).map_or(1.0, grown);
        let Self { width, heights, .. } = self;
        Heights { width: *width, mm: self.placed.mm, heights, beyond: None, grown: &grown }.out()
    }

    /// The same with ragged boundaries, where marks are drawn for pixels of this size in mm.
    pub fn resolved(&self, out: &[f32], marks: f64) -> Vec<f32> {
        Ragged::at(self.placed.mm, marks, self.placed.from).resolved(out, self.width)
    }

    /// Bounds of kinds of place, by part.
    pub fn bounds(&self, resolved: &[f32]) -> Vec<Bounds> {
        let parts = self.face.parts.iter().enumerate();
        let shares: Vec<_> = parts.map(|(n, part)| self.carving.shares(n, part)).collect();
        bounds_by_share(&self.part, resolved, &shares)
    }

    /// The surface at each pixel, where marks are drawn for pixels of this size in mm.
    pub fn relief(
        &self,
        (out, resolved): (&[f32], &[f32]),
        bounds: &[Bounds],
        marks: f64,
        times: usize,
    ) -> Relief {
        let Self { face, placed, width, part, heights, .. } = self;
        let brushed = Brushed::on(&face.parts);
        let at = |x: usize, y: usize| y * width + x;
        let stands = |x: usize, y: usize| {
            let Some(part) = self.part_at(at(x, y)) else { return (0, 0) };
            let (px, py) = placed.at(x, y);
            let near = 1.0 - part.inward(px, py) / NEAR.min(0.5 * part.rect.w.min(part.rect.h));
            let low = (py - part.rect.y) / part.rect.h;
            ((255.0 * near.clamp(0.0, 1.0)) as u8, (255.0 * low.clamp(0.0, 1.0)) as u8)
        };
        let mut relief = Relief::of(&Shaped {
            width: *width,
            mm: placed.mm,
            marks,
            from: placed.from,
            whole: *width,
            times,
            heights,
            out,
            resolved,
            bounds: &|i| bounds.get(usize::from(part[i])).copied().unwrap_or(Bounds::NONE),
            upright: &|x, y| brushed.up_and_down(usize::from(part[at(x, y)]), placed.at(x, y)),
            stands: &stands,
        });
        self.dim(&mut relief);
        relief
    }

    /// Light is lost under what stands out, over some centimetres, and under what stands far out over some more.
    fn dim(&self, relief: &mut Relief) {
        let Self { face, placed, width, part, heights, .. } = self;
        let over = Grid::of_means(self.size(), OVER / placed.mm, |i| heights[i]);
        let far_over = Shadows { face, placed, part, width: *width }.forward_around(FAR_OVER);
        relief.pixels.par_iter_mut().enumerate().with_min_len(1 << 14).for_each(|(i, spot)| {
            let Some(own) = self.part_at(i) else { return };
            let (x, y) = (i % width, i / width);
            let near = (TAKES * (over.at(x, y) - heights[i])).clamp(-0.05, MOST);
            let far = (FAR_TAKES * (far_over.at(x, y) - own.forward as f32)).clamp(0.0, MOST);
            spot.open = (f32::from(spot.open) * (1.0 - near - far)).clamp(20.0, 255.0) as u8;
        });
    }

    /// Light that reaches the wall behind each pixel, 255 for all.
    pub fn wall(&self) -> Vec<u8> {
        let (width, height) = self.size();
        let stands = |i: usize| f32::from(u8::from(self.part_at(i).is_some()));
        let near = Grid::of_means((width, height), width.min(height) as f64 / 40.0, stands);
        let lit = |i: usize| (255.0 * (1.0 - BESIDE * near.at(i % width, i / width).clamp(0.0, 1.0))) as u8;
        (0..self.part.len()).into_par_iter().with_min_len(1 << 14).map(lit).collect()
    }
}

/// By how much the shapes of a part are larger than those of a sample board.
fn grown(part: &Part) -> f64 {
    match part.shaping {
        Shaping::Framing => part.rim.max(4.0) / MOULDING,
        Shaping::Carved => part.carving() / CARVED,
        Shaping::Bands | Shaping::CarvedAllOver => {
            let (across, down) = part.cells();
            0.5 * across.min(down) / CARVED
        }
        _ => 1.0,
    }
}

/// The height of a part at a point above its level, mm. What is finer than a pixel is drawn as wide as one.
fn relief(part: &Part, (px, py): (f64, f64), mm: f64, carved: Option<f32>) -> f32 {
    let inward = part.inward(px, py);
    let Rect { x, y, w, h } = part.rect;
    let (u, v) = (px - x, py - y);
    let arris = (3.0f64).max(1.2 * mm);
    let rounded = |rim: f64| if rim < arris { -1.6 * (1.0 - rim / arris).powi(2) } else { 0.0 };
    if let Some(carved) = carved {
        return carved + rounded(inward) as f32;
    }
    let height = match part.shaping {
        Shaping::Flat => rounded(inward),
        Shaping::Raised => {
            // A gap all round, then a rounded lip.
            let gap = (2.2f64).max(1.05 * mm);
            if inward < gap { -9.0 } else { 1.6 * rounded((inward - gap) / 1.8) }
        }
        Shaping::Sunk => {
            let corner = (6.0f64).max(1.5 * mm);
            if inward < corner { -1.2 * (1.0 - inward / corner) } else { 0.0 }
        }
        Shaping::Framing => {
            // The board's own section, as wide as this frame.
            let grown = grown(part);
            grown.clamp(1.0, 3.0) * moulding((inward / grown).min(MOULDING - 0.1))
        }
        Shaping::Running => {
            // Levels from the top: fillet, cove, bead, fillet.
            let t = v / h;
            let high = 0.16 * h.min(120.0);
            let round = |u: f64| (1.0 - u * u).max(0.0).sqrt();
            let profile = match t {
                t if t < 0.14 => 1.0,
                t if t < 0.18 => 0.86,
                t if t < 0.62 => 0.86 - 0.72 * (1.0 - round((t - 0.18) / 0.44)),
                t if t < 0.66 => 0.02,
                t if t < 0.86 => 0.05 + 0.22 * round((t - 0.76) / 0.10),
                _ => 0.0,
            };
            high * profile + rounded(u.min(w - u))
        }
        Shaping::Upright => {
            let t = (2.0 * u / w - 1.0).clamp(-1.0, 1.0);
            0.18 * w * (1.0 - t.powi(4)).max(0.0).sqrt() - 0.18 * w
        }
        Shaping::Knob => {
            let r = 0.5 * w.min(h);
            let out = ((u - w / 2.0) / (w / 2.0)).hypot((v - h / 2.0) / (h / 2.0)).min(1.0);
            0.75 * r * (1.0 - out * out).max(0.0).sqrt()
        }
        Shaping::Carved => {
            // A fan in each corner, as on the board.
            let grown = grown(part);
            let (dx, dy) = (u.min(w - u) - 4.0, v.min(h - v) - 4.0);
            let fan = if dx > 0.0 && dy > 0.0 { carving(dx.hypot(dy) / grown, dy.atan2(dx)) } else { 0.0 };
            fan * grown.clamp(0.8, 1.5) + rounded(inward)
        }
        Shaping::Bands | Shaping::CarvedAllOver => {
            // Rosettes in cells: everywhere, or along both ends of the shorter side.
            let grown = grown(part);
            let (across, down) = part.cells();
            let band = if w >= h { v < down || v > h - down } else { u < across || u > w - across };
            let carved = part.shaping == Shaping::CarvedAllOver || band;
            let (dx, dy) =
                ((u.rem_euclid(across) - 0.5 * across).abs(), (v.rem_euclid(down) - 0.5 * down).abs());
            let rosette = if carved { carving(dx.hypot(dy) / grown, dy.atan2(dx)) } else { 0.0 };
            rosette * grown.clamp(0.5, 1.5) + rounded(inward)
        }
    };
    height as f32
}
