//! A face of a piece as pixels: its parts in relief, each zone in what it wears.

use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};

use rayon::prelude::*;
use warm_blend_board::Place;
use warm_blend_paint::State;
use warm_blend_piece::{BlendDirection, Face, FinishedZone, Part, Rect, Repeats, Shaping, View, Zone};
use warm_blend_spectral::Light;

use crate::{
    Coats, Picture,
    brushed::Brushed,
    draw::draw_laid,
    fineness::{Drawn, Fineness},
    grid::Grid,
    lamp::{Lamp, Shading},
    marks::{SIDE, TILE_MM, Texture},
    masks::{COATS, Lay, NOTHING},
    picture::Screen,
    placed::{Closer, Placed},
    places::{Bounds, Heights, Ragged, bounds_by_share},
    plate::{CARVED, MOULDING, carving, moulding},
    relief::{BadSize, Relief, Shaped},
    shadows::Shadows,
};

/// Marks of a brush are drawn as if a pixel were no larger than this, mm: on a whole piece they would be too fine to be seen.
const MARKS: f64 = 0.7;
/// How wide a picture of a piece usually is, pixels.
const USUAL: f64 = 960.0;
/// The size of the picture of the whole that places are told apart by from closer by.
const WHOLE: (usize, usize) = (720, 540);
/// How far from an outline is near, mm.
const NEAR: f64 = 70.0;
/// What is thinner than this hangs on a wall, mm.
const HANGS: f64 = 60.0;
/// How much of the light is lost under what stands a mm further out on average, and how far around that is, mm.
const UNDER: f32 = 0.0025;
const UNDER_OVER: f64 = 56.0;
/// Linear grey of the wall and of the floor behind a piece.
const WALL: f32 = 0.66;
const FLOOR: f32 = 0.55;

/// A face of a piece at a size in pixels: made once, drawn on often.
#[derive(Debug)]
pub struct Front {
    relief: Relief,
    /// By pixel the number of a part; `u16::MAX` where there is none.
    part: Vec<u16>,
    face: Face,
    /// By pixel of the wall: how much light reaches it, 255 for all.
    wall: Vec<u8>,
    placed: Placed,
    /// From which row on the floor is behind it.
    floor: usize,
    /// How much of the light of the last lamp reached each pixel.
    last: Mutex<Option<(Lamp, Arc<Vec<u8>>)>>,
}

impl Front {
    /// A face in a picture of this size, drawn so finely.
    pub fn new(
        face: &Face,
        width: u32,
        height: u32,
        closer: Closer,
        fineness: Fineness,
    ) -> Result<Self, BadSize> {
        let Drawn { width, height, times } = Drawn::of((width, height), fineness)?;
        let placed = Placed::within(face, width, height).closer(closer);
        let (mm, corner) = (placed.mm, placed.corner);
        let place = |x: usize, y: usize| placed.at(x, y);
        let shapes = Shapes::of(face, &placed, width, height);
        let out = shapes.out(face);
        // Larger pictures of the whole show the same marks larger; from closer by they are as they are.
        let pixel = match closer.by > 1.0 {
            false => mm * (width as f64 / USUAL).max(times as f64),
            true => mm * times as f64,
        };
        let marks = mm * (MARKS / pixel).min(1.0);
        let bounds = match closer.by > 1.0 {
            false => shapes.bounds(face, &out, marks),
            // From closer by places are told apart as on the whole.
            true => {
                let whole = Placed::within(face, WHOLE.0, WHOLE.1);
                let shapes = Shapes::of(face, &whole, WHOLE.0, WHOLE.1);
                shapes.bounds(face, &shapes.out(face), whole.mm.min(MARKS))
            }
        };
        let Shapes { part, heights, .. } = shapes;
        let face = face.clone();
        let parts = &face.parts;
        let brushed = Brushed::on(parts);
        let upright = |x: usize, y: usize| brushed.up_and_down(usize::from(part[y * width + x]), place(x, y));
        let of_part = |i: usize| bounds.get(usize::from(part[i])).copied().unwrap_or(Bounds::NONE);
        let stands = |x: usize, y: usize| {
            let Some(part) = parts.get(usize::from(part[y * width + x])) else { return (0, 0) };
            let (px, py) = place(x, y);
            let near = 1.0 - part.inward(px, py) / NEAR.min(0.5 * part.rect.w.min(part.rect.h));
            let low = (py - part.rect.y) / part.rect.h;
            ((255.0 * near.clamp(0.0, 1.0)) as u8, (255.0 * low.clamp(0.0, 1.0)) as u8)
        };
        let shaped = Shaped {
            width,
            mm,
            marks,
            times,
            heights: &heights,
            out: &out,
            bounds: &of_part,
            upright: &upright,
            stands: &stands,
        };
        let mut relief = Relief::of(&shaped);
        // Light is lost under what stands out, over some centimetres.
        let over = Grid::of_means((width, height), 28.0 / mm, |i| heights[i]);
        // And under what stands far out, over some decimetres.
        let far_over =
            Shadows { face: &face, placed: &placed, part: &part, width }.forward_around(UNDER_OVER);
        relief.pixels.par_iter_mut().enumerate().with_min_len(1 << 14).for_each(|(i, spot)| {
            if let Some(own) = parts.get(usize::from(part[i])) {
                let (x, y) = (i % width, i / width);
                let under = far_over.at(x, y) - own.forward as f32;
                let hidden = ((over.at(x, y) - heights[i]) * 0.012).clamp(-0.05, 0.3)
                    + (under * UNDER).clamp(0.0, 0.3);
                spot.open = (f32::from(spot.open) * (1.0 - hidden)).clamp(20.0, 255.0) as u8;
            }
        });
        let standing = |i: usize| if part[i] == u16::MAX { 0.0 } else { 1.0 };
        let near = Grid::of_means((width, height), width.min(height) as f64 / 40.0, standing);
        let lit = |i: usize| (255.0 * (1.0 - 0.28 * near.at(i % width, i / width).clamp(0.0, 1.0))) as u8;
        let wall = (0..part.len()).into_par_iter().with_min_len(1 << 14).map(lit).collect();
        let floor = match face.view {
            View::Top => 0,
            // What is flat hangs on the wall.
            _ if face.behind < HANGS => height,
            _ => ((corner.1 + face.height) / mm - 0.018 * height as f64).max(0.0) as usize,
        };
        Ok(Self { relief, part, face, wall, placed, floor, last: Mutex::default() })
    }

    /// Which zone a pixel shows as it is drawn; none of the wall behind.
    pub fn zone(&self, x: usize, y: usize) -> Option<Zone> {
        let part = self.part[y * self.relief.width + x];
        self.face.parts.get(usize::from(part)).map(|part| part.zone)
    }

    /// Which kind of place a pixel is.
    pub fn place(&self, x: usize, y: usize) -> Place {
        self.relief.place(x, y)
    }

    /// Draws it in what its zones wear, as they look in a light and a state. Zones that are not named are left grey.
    pub fn draw(
        &self,
        dressed: &BTreeMap<Zone, FinishedZone>,
        light: Light,
        state: State,
        shading: Shading,
    ) -> Picture {
        // Where the coats of each zone begin among all.
        let mut begins: BTreeMap<Zone, (u8, usize, Option<BlendDirection>)> = BTreeMap::new();
        let mut coats: Vec<Coats> = Vec::new();
        for (zone, dressed) in dressed {
            if coats.len() + dressed.coats.len() > COATS || dressed.coats.is_empty() {
                continue;
            }
            begins.insert(*zone, (coats.len() as u8, dressed.coats.len(), dressed.way));
            coats.extend(dressed.coats.iter().map(|coat| Coats {
                stack: &coat.stack,
                marks: &coat.marks,
                layers: coat.stack.len(),
            }));
        }
        let by_part: Vec<Option<Lies>> = self
            .face
            .parts
            .iter()
            .map(|part| {
                let (first, n, way) = begins.get(&part.zone).copied()?;
                let over = match way {
                    Some(BlendDirection::Down | BlendDirection::Across) => self.around(part.zone),
                    _ => part.rect,
                };
                Some(Lies { first, steps: n as f64 - 1.0, way, over })
            })
            .collect();
        let width = self.relief.width;
        let cloud = Texture::Brushed.tile(false);
        let mut lay = vec![NOTHING; self.part.len()];
        lay.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            for (x, lay) in row.iter_mut().enumerate() {
                let part = self.part[y * width + x];
                let Some(Some(lies)) = by_part.get(usize::from(part)) else { continue };
                *lay = lies.first;
                if let Some(way) = lies.way {
                    // A rim between two steps is ragged, as brush strokes are.
                    let ragged = f32::from(cloud[(y % SIDE) * SIDE + x % SIDE]) / 65536.0 - 0.5;
                    let along = self.along(way, &lies.over, x, y) * lies.steps + 0.9 * f64::from(ragged);
                    *lay += along.round().clamp(0.0, lies.steps) as u8;
                }
            }
        });
        let pattern = self.pattern(dressed);
        let reached = shading.lamp().map_or_else(Arc::default, |lamp| self.reached(lamp));
        let tile = TILE_MM / self.relief.mm * self.placed.mm;
        let is_large = |part: &Part| part.rect.w.max(part.rect.h) > tile;
        let large: Vec<bool> = self.face.parts.iter().map(is_large).collect();
        let laid =
            Lay { coats: &lay, pattern: &pattern, parts: &self.part, large: &large, reached: &reached };
        let mut picture = draw_laid(&self.relief, &laid, &coats, (light, state), shading);
        self.behind(&laid, shading, &mut picture);
        Picture::from_finer(picture, self.relief.times)
    }

    /// By pixel how much of a lamp's light reaches it; as it was for the last picture where the lamp stands where it stood.
    fn reached(&self, lamp: Lamp) -> Arc<Vec<u8>> {
        let last = || self.last.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some((known, reached)) = &*last()
            && *known == lamp
        {
            return Arc::clone(reached);
        }
        let (face, placed) = (&self.face, &self.placed);
        let shadows = Shadows { face, placed, part: &self.part, width: self.relief.width };
        let reached = Arc::new(shadows.by(lamp));
        *last() = Some((lamp, Arc::clone(&reached)));
        reached
    }

    /// By pixel how deep inside a motif it is; empty where no zone has a pattern.
    fn pattern(&self, dressed: &BTreeMap<Zone, FinishedZone>) -> Vec<u8> {
        let repeats: Vec<Option<Repeats>> = (0..self.face.parts.len())
            .map(|at| dressed.get(&self.face.parts[at].zone)?.stencil.as_ref()?.on(&self.face, at))
            .collect();
        if repeats.iter().all(Option::is_none) {
            return Vec::new();
        }
        let mut pattern = vec![0; self.part.len()];
        let width = self.relief.width;
        pattern.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            for (x, depth) in row.iter_mut().enumerate() {
                let part = usize::from(self.part[y * width + x]);
                if let Some(Some(repeats)) = repeats.get(part) {
                    let (px, py) = self.placed.at(x, y);
                    *depth = (255.0 * repeats.depth(px, py)).ceil() as u8;
                }
            }
        });
        pattern
    }

    /// The rectangle around all parts of a zone, mm.
    fn around(&self, zone: Zone) -> Rect {
        let parts = self.face.parts.iter().filter(|part| part.zone == zone);
        let (mut x0, mut y0, mut x1, mut y1) =
            (f64::INFINITY, f64::INFINITY, f64::NEG_INFINITY, f64::NEG_INFINITY);
        for Part { rect, .. } in parts {
            (x0, y0) = (x0.min(rect.x), y0.min(rect.y));
            (x1, y1) = (x1.max(rect.x + rect.w), y1.max(rect.y + rect.h));
        }
        Rect { x: x0, y: y0, w: (x1 - x0).max(1e-9), h: (y1 - y0).max(1e-9) }
    }

    /// How far along a blend a pixel is, 0..=1.
    fn along(&self, way: BlendDirection, over: &Rect, x: usize, y: usize) -> f64 {
        let (px, py) = self.placed.at(x, y);
        let (u, v) = ((px - over.x) / over.w, (py - over.y) / over.h);
        match way {
            BlendDirection::Down => v,
            BlendDirection::Across => u,
            BlendDirection::Outward => {
                ((2.0 * u - 1.0).hypot(2.0 * v - 1.0) / std::f64::consts::SQRT_2).min(1.0)
            }
        }
    }

    /// What is not painted: the wall and the floor behind, glass, and zones that wear nothing yet.
    fn behind(&self, lay: &Lay, shading: Shading, picture: &mut Picture) {
        let (width, screen) = (self.relief.width, Screen::get());
        let lamp = shading.lamp().unwrap_or(Lamp::WINDOW).lit();
        picture.rgb.par_chunks_exact_mut(3 * width).enumerate().for_each(|(y, row)| {
            for (x, pixel) in row.chunks_exact_mut(3).enumerate() {
                let i = y * width + x;
                if lay.coats[i] != NOTHING {
                    continue;
                }
                let grey = match self.face.parts.get(usize::from(self.part[i])) {
                    Some(part) => {
                        let face = if part.zone == Zone::Unpainted { 0.10 } else { 0.42 };
                        let spot = &self.relief.pixels[i];
                        screen.code(face * lamp.on(spot.slope(), spot.open) * lay.reached(i))
                    }
                    None => {
                        let back = if y < self.floor { WALL } else { FLOOR };
                        screen.code(back * f32::from(self.wall[i]) / 255.0 * lay.reached(i))
                    }
                };
                pixel.fill(grey);
            }
        });
    }
}

/// What lies on a part.
struct Lies {
    /// The first of its coats, and how many steps there are from it to the last.
    first: u8,
    steps: f64,
    /// Which way they go, and over what.
    way: Option<BlendDirection>,
    over: Rect,
}

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
            Shaping::Sunk | Shaping::Carved => -4.0,
            Shaping::Raised => 3.5,
            Shaping::Framing => 0.0,
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

/// What a picture shows of the parts of a face.
struct Shapes {
    width: usize,
    mm: f64,
    /// By pixel the number of a part; `u16::MAX` where there is none.
    part: Vec<u16>,
    /// mm.
    heights: Vec<f32>,
}

impl Shapes {
    fn of(face: &Face, placed: &Placed, width: usize, height: usize) -> Self {
        let n = width * height;
        let levels = levels(face);
        let (mut part, mut heights) = (vec![u16::MAX; n], vec![BACK; n]);
        part.par_chunks_exact_mut(width).zip(heights.par_chunks_exact_mut(width)).enumerate().for_each(
            |(y, (row, heights))| {
                for x in 0..width {
                    let (px, py) = placed.at(x, y);
                    if let Some(at) = face.at(px, py) {
                        row[x] = at as u16;
                        heights[x] = levels[at] + relief(&face.parts[at], px, py, placed.mm);
                    }
                }
            },
        );
        Self { width, mm: placed.mm, part, heights }
    }

    /// How far each pixel stands out from its surroundings, mm.
    fn out(&self, face: &Face) -> Vec<f32> {
        let grown = |i: usize| face.parts.get(usize::from(self.part[i])).map_or(1.0, grown);
        let Self { width, mm, heights, .. } = self;
        Heights { width: *width, mm: *mm, heights, beyond: None, grown: &grown }.out()
    }

    /// What kinds of place are told apart by, part by part, where marks are drawn as if a pixel were so many mm.
    fn bounds(&self, face: &Face, out: &[f32], marks: f64) -> Vec<Bounds> {
        let shares: Vec<_> = face.parts.iter().map(|part| part.shares()).collect();
        bounds_by_share(self.width, (&self.part, out), &Ragged::at(self.mm, marks), &shares)
    }
}

/// By how much the shapes of a part are larger than those of a sample board.
fn grown(part: &Part) -> f64 {
    match part.shaping {
        Shaping::Framing => part.rim.max(4.0) / MOULDING,
        Shaping::Carved => part.carving() / CARVED,
        _ => 1.0,
    }
}

/// The height of a part at a point above its level, mm. What is finer than a pixel is drawn as wide as one.
fn relief(part: &Part, px: f64, py: f64, mm: f64) -> f32 {
    let inward = part.inward(px, py);
    let Rect { x, y, w, h } = part.rect;
    let (u, v) = (px - x, py - y);
    let arris = (3.0f64).max(1.2 * mm);
    let rounded = |rim: f64| if rim < arris { -1.6 * (1.0 - rim / arris).powi(2) } else { 0.0 };
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
            // A fan in each corner, as on the board, and a rosette in the middle of what is large.
            let grown = grown(part);
            let (dx, dy) = (u.min(w - u) - 4.0, v.min(h - v) - 4.0);
            let fan = if dx > 0.0 && dy > 0.0 { carving(dx.hypot(dy) / grown, dy.atan2(dx)) } else { 0.0 };
            fan * grown.clamp(0.8, 1.5) + rounded(inward)
        }
    };
    height as f32
}
