//! Shadows: of a shelf on the panels below it, of a top on its rails, of a piece on the wall.
//!
//! The lamp is a window, so broad that a shadow is softer the further its cause stands out, in a room so bright that
//! shadows are never black. The visible share of the window is computed on a coarse grid, once for each distance from the
//! wall, because the only fine detail of a shadow is the outline of what it falls on.

use rayon::prelude::*;
use warm_blend_piece::{Face, Outline, Part};

use crate::{
    blurred::blurred,
    grid::{self, CELL, Grid},
    lamp::Lamp,
    lay::REACHED,
    placed::Placed,
};

/// How far the window goes to either side, as a slope†.
const BROAD: f32 = 0.17;
/// How much of the light is lost where nothing of the window is seen, on the piece and on the wall behind it†.
const DEEP: f32 = 0.6;
const DEEP_BEHIND: f32 = 0.3;
/// By how much more light there is on the side of the window than in the middle, as a share, and as much less on the other†.
const FALLS: f32 = 0.07;
/// Spots of the window, a golden angle apart.
const SPOTS: usize = 24;
/// The golden angle.
const GOLDEN: f32 = 2.399_963;
/// Steps along the way of the light past what is not square.
const STEPS: usize = 7;

/// A face and its position in a picture.
pub(crate) struct Shadows<'a> {
    pub face: &'a Face,
    pub placed: &'a Placed,
    /// Index of the part at each pixel.
    pub part: &'a [u16],
    pub width: usize,
}

/// What casts a shadow, and from where on it stands out.
struct Caster<'a> {
    part: &'a Part,
    /// How far its front stands before the plane of the face, mm.
    forward: f32,
}

/// Spots of the window: how far across and down one goes towards each with each mm that one goes out.
fn spots((across, down): (f32, f32)) -> [(f32, f32); SPOTS] {
    std::array::from_fn(|n| {
        let out = BROAD * ((n as f32 + 0.5) / SPOTS as f32).sqrt();
        let (sin, cos) = (GOLDEN * n as f32).sin_cos();
        (across + out * cos, down + out * sin)
    })
}

/// What lies how far before the plane of a face: the wall behind it, and its parts.
struct Levels {
    /// From the wall on.
    all: Vec<f32>,
    /// By part the place of its level.
    of: Vec<usize>,
}

impl Levels {
    fn of(face: &Face) -> Self {
        let behind = -(face.behind as f32);
        let forward = |part: &Part| part.forward as f32;
        let mut all: Vec<f32> = face.parts.iter().map(forward).chain([behind]).collect();
        all.sort_by(f32::total_cmp);
        all.dedup();
        let place = |part| all.iter().position(|level| *level == forward(part)).unwrap_or(0);
        let of = face.parts.iter().map(place).collect();
        Self { all, of }
    }

    /// That of a part by its number; the wall where there is none.
    fn at(&self, part: u16) -> usize {
        self.of.get(usize::from(part)).copied().unwrap_or(0)
    }
}

impl Shadows<'_> {
    /// Pixels across and down.
    fn size(&self) -> (usize, usize) {
        (self.width, self.part.len() / self.width)
    }

    /// Share of a lamp's light that reaches each pixel.
    pub fn by(&self, lamp: Lamp) -> Vec<u8> {
        let (way, levels) = (lamp.way(), Levels::of(self.face));
        let hidden = self.hidden(&levels, &spots(way));
        let far = way.0.hypot(way.1).max(1e-6);
        let (wide, high) = (self.face.width as f32, self.face.height as f32);
        let mut reached = vec![0; self.part.len()];
        reached.par_chunks_exact_mut(self.width).enumerate().for_each(|(y, row)| {
            for (x, reached) in row.iter_mut().enumerate() {
                let part = self.part[y * self.width + x];
                let deep = if part == u16::MAX { DEEP_BEHIND } else { DEEP };
                let (px, py) = self.placed.at(x, y);
                let (across, down) = (2.0 * px as f32 / wide - 1.0, 2.0 * py as f32 / high - 1.0);
                let falls = 1.0 + FALLS * (across * way.0 + down * way.1) / far;
                let light = falls * (1.0 - deep * hidden[levels.at(part)].at(x, y));
                *reached = (REACHED * light).clamp(0.0, 255.0) as u8;
            }
        });
        reached
    }

    /// How much of the window is hidden from what lies at each level.
    fn hidden(&self, levels: &Levels, spots: &[(f32, f32)]) -> Vec<Grid> {
        // What is set into another and stands no further out hides nothing that the other does not.
        let all = &self.face.parts;
        let stands_out = |part: &&Part| part.on.is_none_or(|on| part.forward > all[on].forward);
        let cast = |part| Caster { part, forward: part.forward as f32 };
        let casters: Vec<Caster> = all.iter().filter(stands_out).map(cast).collect();
        // By level: whether anything of it lies in a cell.
        let (across, down) = grid::corners(self.size());
        let mut lies = vec![vec![false; across * down]; levels.all.len()];
        for (y, row) in self.part.chunks_exact(self.width).enumerate() {
            for (x, part) in row.iter().enumerate() {
                lies[levels.at(*part)][y / CELL * across + x / CELL] = true;
            }
        }
        let each = levels.all.iter().zip(&lies);
        each.map(|(level, lies)| self.hidden_at(*level, lies, &casters, spots)).collect()
    }

    /// Mean distance in front of the plane of the face within some mm of each point; the wall counts as the plane.
    pub fn forward_around(&self, mm: f64) -> Grid {
        let forward =
            |i: usize| self.face.parts.get(usize::from(self.part[i])).map_or(0.0, |part| part.forward as f32);
        Grid::of_means(self.size(), mm / self.placed.mm, forward)
    }

    /// How much of the window is hidden from spots that lie so far before the plane of the face, where any of them lies.
    fn hidden_at(&self, level: f32, lies: &[bool], casters: &[Caster], spots: &[(f32, f32)]) -> Grid {
        let (across, down) = grid::corners(self.size());
        let casters: Vec<&Caster> = casters.iter().filter(|caster| caster.forward > level).collect();
        let mut corners = vec![0f32; across * down];
        if !casters.is_empty() {
            // A corner tells of the cells around it, and by the smoothing of the next ones.
            let is_asked = |u: usize, v: usize| {
                let near = |at: usize, end: usize| at.saturating_sub(2)..(at + 2).min(end);
                near(v, down).any(|v| near(u, across).any(|u| lies[v * across + u]))
            };
            let reach: Vec<[f32; 4]> =
                casters.iter().map(|caster| caster.reach(spots, caster.forward - level)).collect();
            corners.par_chunks_exact_mut(across).enumerate().for_each(|(v, row)| {
                for (u, hidden) in row.iter_mut().enumerate().filter(|(u, _)| is_asked(*u, v)) {
                    let at = self.placed.at(u * CELL, v * CELL);
                    let (x, y) = (at.0 as f32, at.1 as f32);
                    let reaches = |[left, right, upper, lower]: [f32; 4]| {
                        (left..=right).contains(&x) && (upper..=lower).contains(&y)
                    };
                    let near = casters.iter().zip(&reach).filter(|(_, reach)| reaches(**reach));
                    let near: Vec<&Caster> = near.map(|(caster, _)| *caster).collect();
                    let is_hidden = |way: &&(f32, f32)| {
                        near.iter().any(|caster| caster.hides((x, y), **way, caster.forward - level))
                    };
                    if !near.is_empty() {
                        *hidden = spots.iter().filter(is_hidden).count() as f32 / SPOTS as f32;
                    }
                }
            });
            // From spot to spot of the window would be a step.
            corners = blurred(&corners, across, 1, None);
        }
        Grid { across, corners }
    }
}

impl Caster<'_> {
    /// From where to where across and down it can hide any of the spots, so many mm behind its front.
    fn reach(&self, spots: &[(f32, f32)], height: f32) -> [f32; 4] {
        let rect = self.part.rect;
        let ends = |from: f64, long: f64, way: fn(&(f32, f32)) -> f32| {
            let ways = spots.iter().map(way);
            let (least, most) = ways.fold((0f32, 0f32), |(least, most), way| (least.min(way), most.max(way)));
            (from as f32 - most * height, (from + long) as f32 - least * height)
        };
        let (left, right) = ends(rect.x, rect.w, |way| way.0);
        let (upper, lower) = ends(rect.y, rect.h, |way| way.1);
        [left, right, upper, lower]
    }

    /// Whether it stands in the way of the light to a spot that lies so many mm behind its front.
    fn hides(&self, (x, y): (f32, f32), way: (f32, f32), height: f32) -> bool {
        let (dx, dy) = (way.0 * height, way.1 * height);
        let rect = self.part.rect;
        // From where to where along the way it is between each two sides.
        let between = |at: f32, by: f32, from: f64, long: f64| {
            let (from, to) = (from as f32 - at, (from + long) as f32 - at);
            match by.abs() < 1e-6 {
                true if from <= 0.0 && 0.0 <= to => (0.0, 1.0),
                true => (1.0, 0.0),
                false => ((from / by).min(to / by), (from / by).max(to / by)),
            }
        };
        let (left, right) = between(x, dx, rect.x, rect.w);
        let (upper, lower) = between(y, dy, rect.y, rect.h);
        let (enters, leaves) = (left.max(upper).max(0.0), right.min(lower).min(1.0));
        if enters > leaves {
            return false;
        }
        self.part.outline == Outline::Square
            || (0..STEPS).any(|n| {
                let along = enters + (leaves - enters) * n as f32 / (STEPS - 1) as f32;
                self.part.holds(f64::from(x + along * dx), f64::from(y + along * dy))
            })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use warm_blend_piece::{PieceKind, View, Zone};

    const SIZE: (usize, usize) = (480, 360);

    /// An upright case, and how much of a lamp's light reaches a point of its face, mm.
    fn lit(lamp: Lamp) -> impl Fn(f64, f64) -> f32 {
        let built = PieceKind::UprightCase.usual().build().unwrap();
        let face = built.face(View::Front).unwrap();
        let placed = Placed::of(face, SIZE.0 as u32, SIZE.1 as u32).unwrap();
        let at = |i: usize| placed.at(i % SIZE.0, i / SIZE.0);
        let part: Vec<u16> = (0..SIZE.0 * SIZE.1)
            .map(at)
            .map(|(x, y)| face.at(x, y).map_or(u16::MAX, |part| part as u16))
            .collect();
        let reached = Shadows { face, placed: &placed, part: &part, width: SIZE.0 }.by(lamp);
        move |x, y| {
            let pixel = |at: f64, corner: f64| ((at + corner) / placed.mm) as usize;
            let at = pixel(y, placed.corner.1) * SIZE.0 + pixel(x, placed.corner.0);
            f32::from(reached[at]) / REACHED
        }
    }

    /// The shelf of an upright case: its lower edge and its middle, mm.
    fn shelf() -> (f64, f64) {
        let built = PieceKind::UprightCase.usual().build().unwrap();
        let parts = &built.face(View::Front).unwrap().parts;
        let shelf = parts.iter().rfind(|part| part.zone == Zone::Fall).unwrap();
        (shelf.rect.y + shelf.rect.h, shelf.rect.x + shelf.rect.w / 2.0)
    }

    #[test]
    fn what_stands_out_casts_a_shadow_away_from_the_lamp() {
        let (below, middle) = shelf();
        let above = lit(Lamp::from_side(0.0, false));
        // Close under the shelf nothing of the window is seen, a metre's light further down all of it.
        assert!(above(middle, below + 60.0) < 0.6, "{}", above(middle, below + 60.0));
        assert!(above(middle, below + 330.0) > 0.9);
        // Its own front is lit, and so is what lies above it.
        assert!(above(middle, below - 15.0) > 0.95 && above(middle, 250.0) > 0.95);
        // The rim is soft.
        let rim: Vec<f32> = (0..8).map(|n| above(middle, below + 90.0 + 12.0 * f64::from(n))).collect();
        assert!(rim.windows(2).all(|two| two[1] - two[0] < 0.25), "{rim:?}");
        // From below, the shadow goes up.
        let from_below = lit(Lamp::from_side(180.0, false));
        assert!(from_below(middle, below + 60.0) > 0.9);
        assert!(from_below(middle, below - 240.0) < from_below(middle, 60.0) - 0.2);
    }

    /// Turning the lamp moves light about: the face as a whole gets as much.
    #[test]
    fn the_window_side_is_lighter_and_the_middle_is_as_it_was() {
        let left = lit(Lamp::from_side(270.0, false));
        assert!(left(60.0, 200.0) > 1.02 && left(1380.0, 200.0) < 0.98);
        assert!((left(740.0, 200.0) - 1.0).abs() < 0.02);
    }
}
