//! A face of a piece as pixels: its parts in relief, each zone in its finish.

use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};

use rayon::prelude::*;
use warm_blend_board::Place;
use warm_blend_paint::FilmState;
use warm_blend_piece::{BlendDirection, Face, FinishedZone, Part, Rect, Repeats, View, Zone};
use warm_blend_spectral::Light;

use crate::{
    Coats, Picture,
    draw::draw_laid,
    fineness::{Drawn, Fineness},
    lamp::{Lamp, Shading},
    lay::{COATS, InMotif, Lay, NOTHING},
    marks::{SIDE, TILE_MM, Texture},
    photo_carving::SeenCarving,
    picture::Screen,
    placed::{Closer, Placed},
    relief::{BadSize, Relief},
    shadows::Shadows,
    shapes::Shapes,
    unpainted,
};

/// Marks of a brush are drawn as if a pixel were no larger than this, mm: on a whole piece they would be too fine to be seen.
const MARKS: f64 = 0.7;
/// How wide a picture of a piece usually is, pixels.
const USUAL: f64 = 960.0;
/// The size of the picture of the whole that places are distinguished by from closer by.
const WHOLE: (usize, usize) = (720, 540);
/// What is thinner than this hangs on a wall, mm.
const HANGS: f64 = 60.0;
/// Linear grey of the wall and of the floor behind a piece.
const WALL: f32 = 0.66;
const FLOOR: f32 = 0.55;

/// A face of a piece at a size in pixels, prepared for repeated drawing.
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
    /// Prepares a face at this size and fineness.
    pub fn new(
        face: &Face,
        width: u32,
        height: u32,
        closer: Closer,
        fineness: Fineness,
    ) -> Result<Self, BadSize> {
        Self::carved(face, (width, height), closer, fineness, &SeenCarving::default())
    }

    /// The same with carving as a photo shows it, where it does.
    pub fn carved(
        face: &Face,
        size: (u32, u32),
        closer: Closer,
        fineness: Fineness,
        carving: &SeenCarving,
    ) -> Result<Self, BadSize> {
        let Drawn { width, height, times } = Drawn::of(size, fineness)?;
        let placed = Placed::within(face, width, height).closer(closer);
        let shapes = Shapes::of(face, &placed, (width, height), carving);
        let is_closer = closer.by > 1.0;
        // Larger pictures of the whole show the same marks larger; from closer by they are as they are.
        let larger = if is_closer { 1.0 } else { width as f64 / USUAL };
        let marks = placed.mm * (MARKS / (placed.mm * larger.max(times as f64))).min(1.0);
        let out = shapes.out();
        let resolved = shapes.resolved(&out, marks);
        let bounds = if is_closer {
            // Places are distinguished as on the whole.
            let whole = Placed::within(face, WHOLE.0, WHOLE.1);
            let shapes = Shapes::of(face, &whole, WHOLE, carving);
            shapes.bounds(&shapes.resolved(&shapes.out(), whole.mm.min(MARKS)))
        } else {
            shapes.bounds(&resolved)
        };
        let relief = shapes.relief((&out, &resolved), &bounds, marks, times);
        let wall = shapes.wall();
        let floor = match face.view {
            View::Top => 0,
            // What is flat hangs on the wall.
            _ if face.behind < HANGS => height,
            _ => ((placed.corner.1 + face.height) / placed.mm - 0.018 * height as f64).max(0.0) as usize,
        };
        let part = shapes.part;
        Ok(Self { relief, part, face: face.clone(), wall, placed, floor, last: Mutex::default() })
    }

    /// Memory it takes including its lighting, bytes.
    pub fn bytes(&self) -> usize {
        let pixels = self.part.len();
        self.relief.bytes() + pixels * size_of::<u16>() + self.wall.len() + pixels
    }

    /// Zone at a pixel; `None` for the wall behind.
    pub fn zone(&self, x: usize, y: usize) -> Option<Zone> {
        let part = self.part[y * self.relief.width + x];
        self.face.parts.get(usize::from(part)).map(|part| part.zone)
    }

    /// Kind of place at a pixel.
    pub fn place(&self, x: usize, y: usize) -> Place {
        self.relief.place(x, y)
    }

    /// Draws its zones in their finishes in a light and state. Zones without a finish are grey.
    pub fn draw(
        &self,
        dressed: &BTreeMap<Zone, FinishedZone>,
        light: Light,
        state: FilmState,
        shading: Shading,
    ) -> Picture {
        // Where the coats of each zone begin among all.
        let mut begins: BTreeMap<Zone, (u8, usize, Option<BlendDirection>)> = BTreeMap::new();
        let mut coats: Vec<Coats> = Vec::new();
        let is_here = |zone: &Zone| self.face.parts.iter().any(|part| part.zone == *zone);
        for (zone, dressed) in dressed.iter().filter(|(zone, _)| is_here(zone)) {
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

    /// By pixel its place in a motif; empty where no zone has a pattern.
    fn pattern(&self, dressed: &BTreeMap<Zone, FinishedZone>) -> Vec<InMotif> {
        let repeats: Vec<Option<Repeats>> = (0..self.face.parts.len())
            .map(|at| dressed.get(&self.face.parts[at].zone)?.stencil.as_ref()?.on(&self.face, at))
            .collect();
        if repeats.iter().all(Option::is_none) {
            return Vec::new();
        }
        let mut pattern = vec![InMotif::default(); self.part.len()];
        let width = self.relief.width;
        let (cloud, stippled) = (Texture::Clouded.tile(false), Texture::Stippled.tile(false));
        pattern.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            for (x, pixel) in row.iter_mut().enumerate() {
                let part = usize::from(self.part[y * width + x]);
                let Some(Some(repeats)) = repeats.get(part) else { continue };
                let (px, py) = self.placed.at(x, y);
                let Some((before, turn)) = repeats.in_motif(px, py) else { continue };
                let on_tile = |mm: f64| (mm.max(0.0) * SIDE as f64 / TILE_MM) as usize % SIDE;
                let at = on_tile(py) * SIDE + on_tile(px);
                let patch = f64::from(cloud[at]) / 65536.0;
                *pixel = InMotif {
                    before: (255.0 * before) as u8,
                    strength: (255.0 * repeats.strength(px, py, patch)).round() as u8,
                    turn: turn as u8,
                    pressed: (stippled[at] >> 8) as u8,
                };
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
                        let face = match part.zone {
                            Zone::Unpainted => {
                                unpainted::grey(&self.face, usize::from(self.part[i]), self.placed.at(x, y))
                            }
                            _ => 0.42,
                        };
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
