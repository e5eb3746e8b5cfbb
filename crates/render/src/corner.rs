//! A piece from a corner, in perspective.
//!
//! A ray through each pixel meets the nearest plane of the solid, and the flat picture of a face gives the colour of that point: so marks
//! keep their size in mm, and seams meet at the corners.

use std::borrow::Borrow;

use rayon::prelude::*;
use warm_blend_piece::{Elevation, View};

use crate::{
    camera::{Camera, Viewpoint},
    fineness::{Drawn, Fineness},
    flat::{FlatFace, flats},
    in_view::InView,
    lamp::{Lamp, Shading},
    picture::{Picture, Screen},
    placed::Closer,
    relief::BadSize,
    solid::Solid,
    space::{Point, sum},
};

/// Gap between a piece and the wall behind it, mm.
const GAP: f64 = 40.0;
/// Linear grey of wall and floor.
const WALL: f32 = 0.62;
const FLOOR: f32 = 0.50;

/// A piece from a corner at a size in pixels.
#[derive(Debug)]
pub struct Corner {
    seen: InView,
    faces: Vec<FlatFace>,
    /// Leftmost and rightmost point, and height, mm.
    sides: (f64, f64),
    height: f64,
    is_on_floor: bool,
    width: usize,
    rows: usize,
    times: usize,
}

impl Corner {
    /// Prepares a piece; `None` if it has no front.
    pub fn new(
        elevation: &Elevation,
        from: Viewpoint,
        (width, height): (u32, u32),
        closer: Closer,
        fineness: Fineness,
    ) -> Result<Option<Self>, BadSize> {
        let Drawn { width, height: rows, times } = Drawn::of((width, height), fineness)?;
        let Some(solid) = Solid::of(elevation) else { return Ok(None) };
        let (least, most) = solid.bounds();
        let camera = Camera::of(least, most, from, (width as f64, rows as f64), closer);
        let seen = InView::new(camera, &solid);
        let faces = seen.flats(times as f64);
        Ok(Some(Self {
            seen,
            faces,
            sides: (least[0], most[0]),
            height: most[1],
            is_on_floor: elevation.face(View::Front).is_some_and(|front| front.behind >= 60.0),
            width,
            rows,
            times,
        }))
    }

    /// Flat pictures that [`Corner::draw`] needs: of which face, with or without its patterns, and how large.
    pub fn flats(&self) -> impl Iterator<Item = (View, bool, (u32, u32))> {
        self.faces.iter().map(|face| (face.face.view, face.patterned, face.size))
    }

    /// Draws it from flat pictures of its faces, in the order of [`Corner::flats`].
    pub fn draw<P: Borrow<Picture>>(&self, pictures: &[P], shading: Shading) -> Picture {
        let flats = flats(&self.faces, pictures);
        let flat_of = self.seen.by_plane(&self.faces);
        let lit: Vec<f32> = self.seen.planes.iter().map(|plane| lit(plane.normal(), shading)).collect();
        let screen = Screen::get();
        let mut rgb = vec![0; 3 * self.width * self.rows];
        rgb.par_chunks_exact_mut(3 * self.width).enumerate().for_each(|(y, row)| {
            let here = self.seen.row(y as f64 + 0.5);
            for (x, pixel) in row.chunks_exact_mut(3).enumerate() {
                let (px, py) = (x as f64 + 0.5, y as f64 + 0.5);
                let seen = match self.seen.nearest(&here, px, py) {
                    Some(met) => {
                        let flat = flat_of[met.plane].map(|n| flats[n].at(met.flat, met.over));
                        flat.unwrap_or_default().map(|channel| channel * lit[met.plane])
                    }
                    None => [self.behind(self.seen.camera.ray(px, py), shading); 3],
                };
                for (to, channel) in pixel.iter_mut().zip(seen) {
                    *to = screen.code(channel);
                }
            }
        });
        let picture = Picture { width: self.width as u32, height: self.rows as u32, rgb };
        Picture::from_finer(picture, self.times)
    }

    /// Wall and floor where a ray misses the piece, with its shadow.
    fn behind(&self, ray: Point, shading: Shading) -> f32 {
        let (at, depth) = (self.seen.camera.at, self.seen.depth);
        let (left, right) = self.sides;
        let lamp = shading.lamp().unwrap_or(Lamp::WINDOW).way();
        let to_wall = (-depth - GAP - at[2]) / ray[2];
        let wall = sum(at, ray, to_wall);
        let is_floor = self.is_on_floor && ray[1] > 0.0 && {
            let to_floor = (self.height - at[1]) / ray[1];
            to_floor > 0.0 && (to_floor < to_wall || to_wall <= 0.0)
        };
        if is_floor {
            let [x, _, z] = sum(at, ray, (self.height - at[1]) / ray[1]);
            // Beneath the piece it is dark, and on the side away from the lamp.
            let aside = -0.25 * f64::from(lamp.0) * self.height;
            let near = covered(x, left, right, 40.0) * covered(z, -depth, 0.0, 40.0);
            let far = covered(x, left + aside, right + aside, 0.22 * self.height)
                * covered(z, -depth, 0.12 * self.height, 0.16 * self.height);
            let wall = 0.16 * (1.0 - ((z + depth + GAP) / 260.0).clamp(0.0, 1.0));
            return FLOOR * (1.0 - 0.55 * near).min(1.0 - 0.34 * far) as f32 * (1.0 - wall) as f32;
        }
        if to_wall <= 0.0 {
            return WALL;
        }
        let (aside, lower) =
            (-0.5 * f64::from(lamp.0) * (depth + GAP), -0.3 * f64::from(lamp.1) * (depth + GAP));
        let soft = 0.35 * depth + 60.0;
        let shadow = covered(wall[0], left + aside, right + aside, soft)
            * covered(wall[1], lower, self.height + soft, soft);
        let floor = if self.is_on_floor {
            0.10 * (1.0 - ((self.height - wall[1]) / 300.0).clamp(0.0, 1.0))
        } else {
            0.0
        };
        WALL * (1.0 - 0.30 * shadow) as f32 * (1.0 - floor) as f32
    }
}

/// How much of a soft edge of this width is within two bounds, 0 to 1.
fn covered(at: f64, from: f64, to: f64, soft: f64) -> f64 {
    let rise = |v: f64| {
        let t = (v / soft + 0.5).clamp(0.0, 1.0);
        t * t * (3.0 - 2.0 * t)
    };
    rise(at - from) * rise(to - at)
}

/// Light on a plane against that on the front.
fn lit([x, y, z]: Point, shading: Shading) -> f32 {
    let Some(lamp) = shading.lamp() else { return 1.0 };
    let (across, down) = lamp.way();
    let facing = (x as f32 * across + y as f32 * down + z as f32).clamp(0.0, 1.3);
    // What faces the ceiling gets more of the room's light.
    let room = if y < 0.0 { 0.72 } else { 0.52 };
    room + 0.48 * facing
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use warm_blend_piece::{PieceKind, Zone};

    use super::*;
    use crate::space::dot;

    fn any_piece() -> impl Strategy<Value = Elevation> {
        proptest::sample::select(PieceKind::ALL.to_vec()).prop_map(|kind| kind.usual().build().unwrap())
    }

    fn corner(elevation: &Elevation, turn: f64, up: f64) -> Corner {
        let from = Viewpoint::new(turn, up);
        Corner::new(elevation, from, (240, 180), Closer::WHOLE, Fineness::Quick).unwrap().unwrap()
    }

    /// Flat pictures of one grey for each face.
    fn greys(corner: &Corner) -> Vec<Picture> {
        let grey = |(view, _, (width, height)): (View, bool, (u32, u32))| {
            let code = match view {
                View::Front => 250,
                View::Side => 120,
                View::Top => 60,
            };
            Picture { width, height, rgb: vec![code; 3 * (width * height) as usize] }
        };
        corner.flats().map(grey).collect()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        /// In perspective the middle of a rectangle is where its diagonals cross (R. Hartley and A. Zisserman, *Multiple View Geometry
        /// in Computer Vision*, 2nd ed. (2004), §2.3: a projection keeps lines and where they meet).
        #[test]
        fn diagonals_cross_in_the_middle(piece in any_piece(), turn in -80.0..80.0f64, up in 0.0..60.0f64) {
            let corner = corner(&piece, turn, up);
            let (w, h) = (piece.faces[0].width, piece.faces[0].height);
            let seen = |x: f64, y: f64| corner.seen.camera.project([x, y, 0.0]).unwrap();
            let ((ax, ay), (bx, by)) = (seen(0.0, 0.0), seen(w, h));
            let ((cx, cy), (dx, dy)) = (seen(w, 0.0), seen(0.0, h));
            // a + t (b − a) = c + s (d − c)
            let crossed = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx);
            let t = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / crossed;
            let (mx, my) = seen(0.5 * w, 0.5 * h);
            prop_assert!((ax + t * (bx - ax) - mx).hypot(ay + t * (by - ay) - my) < 1e-6);
        }

        /// The ray through the pixel of a point leads to that point.
        #[test]
        fn rays_lead_back(turn in -80.0..80.0f64, up in 0.0..60.0f64, x in 0.0..1000.0f64, y in 0.0..900.0f64, z in -450.0..0.0f64) {
            let corner = corner(&PieceKind::ChestOfDrawers.usual().build().unwrap(), turn, up);
            let (px, py) = corner.seen.camera.project([x, y, z]).unwrap();
            let ray = corner.seen.camera.ray(px, py);
            let to = sum([x, y, z], corner.seen.camera.at, -1.0);
            let along = dot(to, ray) / dot(ray, ray);
            let off = sum(to, ray, -along);
            prop_assert!(along > 0.0 && dot(off, off).sqrt() < 1e-6);
        }

        /// Every kind of piece is seen whole, from every side, and only planes that face the camera.
        #[test]
        fn every_piece_is_seen_whole(piece in any_piece(), turn in -80.0..80.0f64, up in 0.0..60.0f64) {
            let corner = corner(&piece, turn, up);
            for plane in &corner.seen.planes {
                prop_assert!(dot(sum(corner.seen.camera.at, plane.least, -1.0), plane.normal()) > 0.0);
                for point in [plane.least, plane.most] {
                    let (x, y) = corner.seen.camera.project(point).unwrap();
                    prop_assert!((0.0..240.0).contains(&x) && (0.0..180.0).contains(&y), "{} {}", x, y);
                }
            }
            let picture = corner.draw(&greys(&corner), Shading::None);
            prop_assert!(picture.rgb.contains(&250));
        }
    }

    /// Unshaded, a plane has the colour of its flat picture; from the right the right side is seen, from the left the left.
    #[test]
    fn planes_have_their_flat_colours() {
        let chest = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let of = |turn: f64, up: f64| {
            let corner = corner(&chest, turn, up);
            let picture = corner.draw(&greys(&corner), Shading::None);
            let share = |code: u8, right: bool| {
                let at = (0..picture.width as usize * picture.height as usize)
                    .filter(|i| (i % picture.width as usize >= picture.width as usize / 2) == right);
                at.filter(|i| picture.rgb[3 * i] == code).count()
            };
            [
                share(250, false),
                share(250, true),
                share(120, false),
                share(120, true),
                share(60, false) + share(60, true),
            ]
        };
        let [front, _, left, right, top] = of(40.0, 20.0);
        assert!(front > 1000 && left == 0 && right > 1000 && top > 300, "{front} {left} {right} {top}");
        let [_, front, left, right, _] = of(-40.0, 20.0);
        assert!(front > 1000 && left > 1000 && right == 0, "{front} {left} {right}");
        let [_, _, left, right, top] = of(0.0, 0.0);
        assert_eq!([left, right, top], [0, 0, 0]);
    }

    /// What stands out hides what lies behind it: the shelf of an upright case hides part of the panels below from above.
    #[test]
    fn near_parts_hide_far_ones() {
        let case = PieceKind::UprightCase.usual().build().unwrap();
        let front = case.face(View::Front).unwrap();
        let below = front
            .parts
            .iter()
            .find(|part| {
                part.forward > 0.0
                    && part.zone == Zone::Fall
                    && part.shaping == warm_blend_piece::Shaping::Running
            })
            .unwrap();
        let corner = corner(&case, 0.0, 40.0);
        // Just below the shelf, on the case behind it.
        let hidden = [0.5 * front.width, below.rect.y + below.rect.h + 10.0, 0.0];
        let (x, y) = corner.seen.camera.project(hidden).unwrap();
        let ray = corner.seen.camera.ray(x, y);
        let nearest = corner
            .seen
            .planes
            .iter()
            .filter_map(|plane| plane.met(corner.seen.camera.at, ray, f64::INFINITY))
            .map(|(_, point)| point[2])
            .max_by(f64::total_cmp)
            .unwrap();
        assert!(nearest > 50.0, "{nearest}");
    }

    /// A table stands on four legs, with nothing between them.
    #[test]
    fn a_table_is_open_below() {
        let table = PieceKind::Table.usual().build().unwrap();
        let solid = Solid::of(&table).unwrap();
        let (w, h) = (table.faces[0].width, table.faces[0].height);
        let low = 0.8 * h;
        assert!(solid.inside([0.5 * w, low, -0.5 * solid.depth]).is_none());
        let leg = table.faces[0].parts.iter().find(|part| part.zone == Zone::Legs).unwrap().rect;
        let at = leg.x + 0.5 * leg.w;
        for x in [at, w - at] {
            for z in [-at, at - solid.depth] {
                assert!(solid.inside([x, low, z]).is_some(), "{x} {z}");
            }
            assert!(solid.inside([x, low, -0.5 * solid.depth]).is_none());
        }
    }
}
