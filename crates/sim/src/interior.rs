//! A simulated photograph of a piece in a room: window light, shadows, old wood or paint with its grain and gloss, and a camera with noise.
//!
//! Only the shape of the piece comes from its elevation. Light, wood and camera are the simulation's own: soft light from a window (an
//! even rectangle: irradiance by samples of its area), light from all around less what the piece itself hides, an interior's wall and
//! floor, grain that changes colour, arrises that are rounded, mouldings in profile, and varnish that mirrors the window (J. F. Blinn,
//! *Computer Graphics* 11 (1977) 192).

use palette::encoding::{FromLinear, Srgb as Coding};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::StandardNormal;
use rayon::prelude::*;
use warm_blend_photo::{Pinhole, Point2, check_corners};
use warm_blend_piece::{Elevation, Face, Form, PieceKind, Shaping, View};
use warm_blend_render::{Picture, SeenPoint, Stage, face_corners};

type Point = [f64; 3];
type Rgb = [f64; 3];

/// What a surface does to light.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SurfaceCoat {
    /// Linear reflectance in the channels of the camera, 0–1.
    pub reflects: Rgb,
    /// How strongly it mirrors the window: 1 for varnish, 0 for dead matt.
    pub gloss: f64,
}

/// What is on a piece before it is painted.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Old {
    /// Brown-red stained and varnished wood.
    Varnish,
    /// Old green paint, dull and a little worn.
    Paint,
}

/// Where a piece stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Room {
    /// Boarded wall, concrete floor.
    Shed,
    /// Plastered wall with a dado, wooden floor.
    Hall,
}

/// A piece in a room, before a camera.
#[derive(Debug, Clone, Copy)]
pub struct Interior {
    /// Stable identifier.
    pub id: &'static str,
    /// Name.
    pub name: &'static str,
    kind: PieceKind,
    /// The photograph, as it was taken by `examples/interiors.rs`: a JPEG file.
    pub photo: &'static [u8],
    old: Old,
    room: Room,
    /// Degrees to the right and above, and distance in diagonals of the piece.
    from: (f64, f64, f64),
    /// Colour of the window's light, and of what comes from all around.
    window: Rgb,
    around: Rgb,
    /// Where the window is: to the right of the middle, above it, and before it, in heights of the piece.
    window_at: (f64, f64, f64),
    /// What the camera's white balance leaves.
    cast: Rgb,
    exposure: f64,
}

/// All of them.
pub const INTERIORS: [Interior; 2] = [
    Interior {
        id: "chest-in-shed",
        name: "Green chest in a shed",
        kind: PieceKind::ChestOfDrawers,
        photo: include_bytes!("../photos/chest-in-shed.jpg"),
        old: Old::Paint,
        room: Room::Shed,
        from: (28.0, 16.0, 1.45),
        window: [1.0, 1.0, 1.02],
        around: [0.96, 1.0, 1.05],
        window_at: (-1.1, -0.7, 2.0),
        cast: [0.94, 1.0, 1.04],
        exposure: 0.92,
    },
    Interior {
        id: "piano-in-hall",
        name: "Piano in a hall",
        kind: PieceKind::UprightCase,
        photo: include_bytes!("../photos/piano-in-hall.jpg"),
        old: Old::Varnish,
        room: Room::Hall,
        from: (-24.0, 15.0, 1.4),
        window: [1.0, 0.97, 0.90],
        around: [1.0, 0.95, 0.86],
        window_at: (1.3, -0.8, 1.8),
        cast: [1.05, 1.0, 0.90],
        exposure: 0.95,
    },
];

/// Focal length of the camera, in widths of the photo.
const FOCAL: f64 = 0.8;
/// Side of the white card on the front, mm.
const CARD: f64 = 110.0;
/// What it gives back.
const CARD_REFLECTS: f64 = 0.9;
/// Samples of the window, across and down, and of all around.
const SAMPLES: usize = 4;
/// Share of the light that comes from all around.
const AROUND: f64 = 0.42;
/// Radius of arrises, mm.
const ARRIS: f64 = 3.5;

/// A photograph, and what is known of it.
#[derive(Debug, Clone)]
pub struct Photograph {
    /// The photo.
    pub picture: Picture,
    /// Faces that are seen, with their corners in widths of the photo.
    pub faces: Vec<(View, [Point2; 4])>,
    /// Centre and radius of the white card, in widths of the photo.
    pub card: (Point2, f64),
    /// By pixel, the point of the piece it shows; `None` for the card and the room.
    pub points: Vec<Option<SeenPoint>>,
}

fn dot(a: Point, b: Point) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

fn plus(a: Point, b: Point, times: f64) -> Point {
    std::array::from_fn(|axis| a[axis] + times * b[axis])
}

fn unit(a: Point) -> Point {
    let length = dot(a, a).sqrt().max(1e-12);
    a.map(|v| v / length)
}

fn hash(x: i64, y: i64, seed: u64) -> f64 {
    let mut h = (x as u64).wrapping_mul(0x9E37_79B9_7F4A_7C15)
        ^ (y as u64).wrapping_mul(0xC2B2_AE3D_27D4_EB4F)
        ^ seed;
    h = (h ^ (h >> 29)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
    h = (h ^ (h >> 32)).wrapping_mul(0x94D0_49BB_1331_11EB);
    ((h ^ (h >> 31)) >> 11) as f64 / (1u64 << 53) as f64
}

/// Smooth noise, 0 to 1, with a period of about 1.
fn noise(x: f64, y: f64, seed: u64) -> f64 {
    let (i, j) = (x.floor(), y.floor());
    let ease = |t: f64| t * t * (3.0 - 2.0 * t);
    let (u, v) = (ease(x - i), ease(y - j));
    let at = |dx: i64, dy: i64| hash(i as i64 + dx, j as i64 + dy, seed);
    (1.0 - v) * ((1.0 - u) * at(0, 0) + u * at(1, 0)) + v * ((1.0 - u) * at(0, 1) + u * at(1, 1))
}

/// Noise of several sizes, 0 to 1.
fn rough(x: f64, y: f64, seed: u64) -> f64 {
    (0..4)
        .map(|n| noise(x * f64::from(1 << n), y * f64::from(1 << n), seed + n as u64) / f64::from(2 << n))
        .sum::<f64>()
        / 0.9375
}

fn mixed(a: Rgb, b: Rgb, t: f64) -> Rgb {
    std::array::from_fn(|c| a[c] + t * (b[c] - a[c]))
}

/// Wood along a board: `u` along it and `v` across, mm; 0 for early wood to 1 for late.
fn wood(u: f64, v: f64, seed: u64) -> f64 {
    let sway = 2.2 * rough(u / 700.0, v / 120.0, seed);
    let ring = 0.5 + 0.5 * (std::f64::consts::TAU * (v / 26.0 + sway)).sin();
    let fibre = noise(u / 60.0, v / 1.1, seed + 9);
    let broad = rough(u / 500.0, v / 40.0, seed + 5);
    (0.5 * ring * ring + 0.28 * fibre + 0.22 * broad).clamp(0.0, 1.0)
}

/// Along and across the longer side of a part.
fn along(face: &Face, point: &SeenPoint) -> (f64, f64) {
    let rect = face.parts[point.part].rect;
    let (x, y) = point.at;
    if rect.w >= rect.h { (x, y) } else { (y, x) }
}

impl Old {
    fn coat(self, face: &Face, point: &SeenPoint) -> SurfaceCoat {
        let (u, v) = along(face, point);
        let seed = 31 * point.part as u64 + 7 * point.view as u64;
        match self {
            Old::Varnish => {
                let late = wood(u, v, seed);
                SurfaceCoat {
                    reflects: mixed([0.205, 0.082, 0.043], [0.085, 0.026, 0.013], late),
                    gloss: 0.8,
                }
            }
            Old::Paint => {
                // Old paint has faded unevenly, and is dirty in places.
                let faded = rough(u / 260.0, v / 180.0, seed);
                let brush = noise(u / 90.0, v / 1.6, seed + 3);
                let green = mixed([0.115, 0.190, 0.105], [0.150, 0.225, 0.130], 0.75 * faded + 0.25 * brush);
                SurfaceCoat { reflects: green, gloss: 0.25 }
            }
        }
    }
}

impl Room {
    fn wall(self, x: f64, y: f64) -> Rgb {
        match self {
            Room::Shed => {
                let board = (x / 145.0).floor();
                let gap = x.rem_euclid(145.0);
                let late = wood(y, x, 900 + board as i64 as u64 % 97);
                let tone = 0.85 + 0.3 * hash(board as i64, 3, 5);
                let grey = mixed([0.34, 0.31, 0.27], [0.20, 0.175, 0.15], late).map(|c| c * tone);
                if gap < 5.0 { grey.map(|c| 0.25 * c) } else { grey }
            }
            Room::Hall => {
                let plaster = 0.94 + 0.06 * rough(x / 300.0, y / 300.0, 40);
                [0.66, 0.62, 0.54].map(|c| c * plaster)
            }
        }
    }

    fn floor(self, x: f64, z: f64) -> Rgb {
        match self {
            Room::Shed => {
                let stain = rough(x / 500.0, z / 500.0, 50);
                let grit = noise(x / 4.0, z / 4.0, 51);
                [0.30, 0.29, 0.27].map(|c| c * (0.72 + 0.4 * stain + 0.08 * grit))
            }
            Room::Hall => {
                let board = (z / 90.0).floor();
                let late =
                    wood(x + 400.0 * hash(board as i64, 1, 8), z, 700 + (board as i64).rem_euclid(89) as u64);
                let tone = 0.8 + 0.4 * hash(board as i64, 2, 9);
                let seam = if z.rem_euclid(90.0) < 2.0 { 0.35 } else { 1.0 };
                mixed([0.40, 0.26, 0.14], [0.26, 0.15, 0.075], late).map(|c| c * tone * seam)
            }
        }
    }
}

/// Slope of a surface by its shape: how far its normal leans to the right and down on its face.
fn lean(face: &Face, point: &SeenPoint) -> (f64, f64) {
    let part = &face.parts[point.part];
    let (x, y) = point.at;
    let rect = part.rect;
    let (left, right, upper, lower) = (x - rect.x, rect.x + rect.w - x, y - rect.y, rect.y + rect.h - y);
    let round = |near: f64, far: f64, radius: f64| {
        let bend = |d: f64| if d < radius { (1.0 - d / radius).powi(2) } else { 0.0 };
        bend(far) - bend(near)
    };
    let profile = |d: f64, width: f64| {
        // A cyma: hollow, then round.
        let t = (d / width).clamp(0.0, 1.0);
        if t > 0.0 && t < 1.0 { 0.75 * (std::f64::consts::TAU * t).sin() } else { 0.0 }
    };
    match part.shaping {
        Shaping::Running => {
            if rect.w >= rect.h {
                (0.0, profile(upper, rect.h))
            } else {
                (profile(left, rect.w), 0.0)
            }
        }
        Shaping::Framing => {
            let rim = part.rim.max(8.0);
            let nearest = left.min(right).min(upper).min(lower);
            let slope = profile(nearest, rim);
            if nearest == left {
                (-slope, 0.0)
            } else if nearest == right {
                (slope, 0.0)
            } else if nearest == upper {
                (0.0, -slope)
            } else {
                (0.0, slope)
            }
        }
        Shaping::Upright => {
            let t = (2.0 * left / rect.w.max(1.0) - 1.0).clamp(-1.0, 1.0);
            (0.8 * t, 0.0)
        }
        Shaping::Knob => {
            let (u, v) = (2.0 * left / rect.w.max(1.0) - 1.0, 2.0 * upper / rect.h.max(1.0) - 1.0);
            (0.9 * u, 0.9 * v)
        }
        shaping => {
            let arris = (round(left, right, ARRIS), round(upper, lower, ARRIS));
            let (near, far) = if rect.w < rect.h { (left, right) } else { (upper, lower) };
            let is_carved = match shaping {
                Shaping::CarvedAllOver => true,
                Shaping::Bands => near.min(far) < 0.22 * rect.w.min(rect.h),
                Shaping::Carved => left.min(right).max(upper.min(lower)) < 90.0,
                _ => false,
            };
            if is_carved { (arris.0 + carved(x, y).0, arris.1 + carved(x, y).1) } else { arris }
        }
    }
}

/// Slopes of carved leaves and scrolls: waves that bend round each other.
fn carved(x: f64, y: f64) -> (f64, f64) {
    let height = |x: f64, y: f64| {
        let (bent, sway) = (rough(x / 90.0, y / 90.0, 61), rough(x / 70.0, y / 70.0, 67));
        7.0 * (x / 11.0 + 9.0 * bent).sin() * (y / 13.0 + 8.0 * sway).cos()
    };
    let slope = |dx: f64, dy: f64| (height(x - dx, y - dy) - height(x + dx, y + dy)) / 2.4;
    (slope(1.2, 0.0).clamp(-1.1, 1.1), slope(0.0, 1.2).clamp(-1.1, 1.1))
}

/// A normal that leans on its face.
fn bent(normal: Point, (right, down): (f64, f64)) -> Point {
    let axes = if normal[2].abs() > 0.5 {
        ([1.0, 0.0, 0.0], [0.0, 1.0, 0.0])
    } else if normal[0].abs() > 0.5 {
        ([0.0, 0.0, -1.0], [0.0, 1.0, 0.0])
    } else {
        ([1.0, 0.0, 0.0], [0.0, 0.0, 1.0])
    };
    unit(plus(plus(normal, axes.0, right), axes.1, down))
}

/// A point that a pixel shows.
struct Shown {
    point: Point,
    normal: Point,
    coat: SurfaceCoat,
    is_card: bool,
    seen: Option<SeenPoint>,
}

impl Interior {
    /// Finds an interior by its id.
    pub fn find(id: &str) -> Option<&'static Interior> {
        INTERIORS.iter().find(|one| one.id == id)
    }

    /// What stands there.
    pub fn form(&self) -> Form {
        match self.kind {
            // The piano of the demo.
            PieceKind::UprightCase => {
                Form { panels: 3, moulding: 34.0, carved: true, ..PieceKind::UprightCase.usual() }
            }
            kind => kind.usual(),
        }
    }

    /// The camera, before a piece of this size.
    fn camera(&self, (least, most): (Point, Point), high: f64) -> Pinhole {
        let (turn, up, diagonals) = self.from;
        let (sin, cos) = turn.to_radians().sin_cos();
        let (above, level) = up.to_radians().sin_cos();
        let forward = [-sin * level, above, -cos * level];
        let size = plus(most, least, -1.0);
        let middle = plus(least, size, 0.5);
        let at = plus(middle, forward, -diagonals * dot(size, size).sqrt());
        let (right, down) = ([cos, 0.0, -sin], [sin * above, level, cos * above]);
        Pinhole { at, forward, right, down, focal: FOCAL, centre: [0.5, 0.5 * high], error: 0.0, misfit: 0.0 }
    }

    /// Photographs a piece; `finish` tells what a point of it wears, or `None` where it is as it was. The same each time.
    pub fn photograph(
        &self,
        elevation: &Elevation,
        (width, height): (u32, u32),
        finish: impl Fn(&SeenPoint) -> Option<SurfaceCoat> + Sync,
    ) -> Option<Photograph> {
        let high = f64::from(height) / f64::from(width);
        // The shape first, since the camera stands before its middle.
        let front = elevation.face(View::Front)?;
        let depth = elevation.face(View::Side).map_or(front.behind, |side| side.width);
        let camera = self.camera(([0.0, 0.0, -depth], [front.width, front.height, 0.0]), high);
        let stage = Stage::new(elevation, &camera, width)?;
        let (least, most) = stage.bounds();
        // The card is held against a flat place of the front, in the middle of its upper half.
        let card = [0.5 * front.width - 0.5 * CARD, 0.30 * front.height - 0.5 * CARD];
        let on_card = |point: &SeenPoint| {
            point.view == View::Front
                && point.normal[2] > 0.5
                && (card[0]..card[0] + CARD).contains(&point.point[0])
                && (card[1]..card[1] + CARD).contains(&point.point[1])
        };
        let shown: Vec<Option<Shown>> = (0..(width * height) as usize)
            .into_par_iter()
            .map(|i| {
                let (x, y) = ((i % width as usize) as f64 + 0.5, (i / width as usize) as f64 + 0.5);
                if let Some(seen) = stage.seen(x, y) {
                    let face = elevation.face(seen.view)?;
                    let is_card = on_card(&seen);
                    let coat = match is_card {
                        true => SurfaceCoat { reflects: [CARD_REFLECTS; 3], gloss: 0.0 },
                        false => finish(&seen).unwrap_or_else(|| self.old.coat(face, &seen)),
                    };
                    let slope = if is_card { (0.0, 0.0) } else { lean(face, &seen) };
                    let normal = bent(seen.normal, slope);
                    return Some(Shown { point: seen.point, normal, coat, is_card, seen: Some(seen) });
                }
                let ray = stage.ray(x, y);
                let wall = least[2] - 60.0;
                let to_wall = (wall - camera.at[2]) / ray[2];
                let to_floor = (most[1] - camera.at[1]) / ray[1];
                let is_floor = to_floor > 0.0 && (to_floor < to_wall || to_wall <= 0.0);
                let way = if is_floor { to_floor } else { to_wall };
                let point = plus(camera.at, ray, way.max(0.0));
                let (normal, reflects) = match is_floor {
                    true => ([0.0, -1.0, 0.0], self.room.floor(point[0], point[2])),
                    false => ([0.0, 0.0, 1.0], self.room.wall(point[0], point[1])),
                };
                let gloss = if is_floor && self.room == Room::Hall { 0.3 } else { 0.0 };
                Some(Shown {
                    point,
                    normal,
                    coat: SurfaceCoat { reflects, gloss },
                    is_card: false,
                    seen: None,
                })
            })
            .collect();
        let light = self.light(&stage, front, &camera, &shown, width as usize);
        let picture = self.developed(&shown, &light, (width, height));
        let views = [View::Front, View::Side, View::Top];
        let is_right = self.from.0 > 0.0;
        let corners = |view: View| {
            let corners = face_corners(elevation, view, is_right)?;
            let seen: Vec<Point2> = corners.iter().filter_map(|corner| camera.sees(*corner)).collect();
            let seen = seen.try_into().ok()?;
            check_corners(&seen).ok().map(|()| (view, seen))
        };
        let middle = camera.sees([card[0] + 0.5 * CARD, card[1] + 0.5 * CARD, 0.0])?;
        let edge = camera.sees([card[0], card[1] + 0.5 * CARD, 0.0])?;
        let points = shown
            .iter()
            .map(|shown| shown.as_ref().filter(|shown| !shown.is_card).and_then(|shown| shown.seen))
            .collect();
        Some(Photograph {
            picture,
            faces: views.into_iter().filter_map(corners).collect(),
            card: (middle, 0.6 * (middle[0] - edge[0]).abs()),
            points,
        })
    }

    /// Light on each pixel, and what it mirrors of the window.
    fn light(
        &self,
        stage: &Stage,
        front: &Face,
        camera: &Pinhole,
        shown: &[Option<Shown>],
        width: usize,
    ) -> Vec<(Rgb, f64)> {
        let h = front.height;
        let middle = [0.5 * front.width, 0.5 * h, 0.0];
        let (right, above, before) = self.window_at;
        let window = plus(middle, [right * h, above * h, before * h], 1.0);
        let facing = unit(plus(middle, window, -1.0));
        let (side, upright) = (0.55 * h, 0.7 * h);
        let across = unit([-facing[2], 0.0, facing[0]]);
        // Where samples lie on the window, turned from pixel to pixel.
        let sample = |n: usize, x: usize, y: usize| {
            let jitter = |k: usize| hash((x % 4 + 4 * k) as i64, (y % 4) as i64, 77 + n as u64);
            let (u, v) = ((n % SAMPLES) as f64, (n / SAMPLES) as f64);
            let (u, v) = ((u + jitter(0)) / SAMPLES as f64 - 0.5, (v + jitter(1)) / SAMPLES as f64 - 0.5);
            plus(plus(window, across, u * side), [0.0, 1.0, 0.0], v * upright)
        };
        let from_window = |point: Point, normal: Point, x: usize, y: usize| {
            let each = (0..SAMPLES * SAMPLES).map(|n| {
                let to = plus(sample(n, x, y), point, -1.0);
                let way = unit(to);
                let cosines = dot(way, normal).max(0.0) * -dot(way, facing).min(0.0);
                if cosines == 0.0 || stage.blocks(plus(point, normal, 1.0), way) {
                    return 0.0;
                }
                cosines / dot(to, to)
            });
            each.sum::<f64>() / (SAMPLES * SAMPLES) as f64
        };
        let from_around = |point: Point, normal: Point, x: usize, y: usize| {
            let open = (0..SAMPLES * SAMPLES).filter(|n| {
                // Directions spread by the cosine.
                let jitter = |k: usize| hash((x % 4 + 4 * k) as i64, (y % 4) as i64, 177 + *n as u64);
                let (u, v) = ((n % SAMPLES) as f64 + jitter(0), (n / SAMPLES) as f64 + jitter(1));
                let (r, turn) = ((u / SAMPLES as f64).sqrt(), std::f64::consts::TAU * v / SAMPLES as f64);
                let side =
                    if normal[1].abs() < 0.9 { unit([normal[2], 0.0, -normal[0]]) } else { [1.0, 0.0, 0.0] };
                let up = [
                    normal[1] * side[2] - normal[2] * side[1],
                    normal[2] * side[0] - normal[0] * side[2],
                    normal[0] * side[1] - normal[1] * side[0],
                ];
                let (a, b, c) = (r * turn.cos(), r * turn.sin(), (1.0 - r * r).max(0.0).sqrt());
                let way = plus(plus(normal.map(|v| c * v), side, a), up, b);
                !stage.blocks(plus(point, normal, 1.0), way)
            });
            let sky = 0.5 - 0.5 * normal[1];
            open.count() as f64 / (SAMPLES * SAMPLES) as f64 * (0.7 + 0.45 * sky)
        };
        // As much on the middle of the front as a window gives there.
        let whole = {
            let to = plus(window, middle, -1.0);
            unit(to)[2].max(0.2) / dot(to, to)
        };
        let raw: Vec<(f64, f64, f64)> = shown
            .par_iter()
            .enumerate()
            .map(|(i, shown)| {
                let Some(shown) = shown else { return (0.0, 0.0, 0.0) };
                let (x, y) = (i % width, i / width);
                let direct = from_window(shown.point, shown.normal, x, y) / whole;
                let eye = unit(plus(camera.at, shown.point, -1.0));
                let half = unit(plus(unit(plus(window, shown.point, -1.0)), eye, 1.0));
                let mirrors = dot(half, shown.normal).max(0.0).powi(70);
                (direct, from_around(shown.point, shown.normal, x, y), mirrors * direct.min(1.0))
            })
            .collect();
        let smooth = smoothed(&raw, shown, width);
        let lit = |(direct, open, mirrors): &(f64, f64, f64)| {
            let rgb = std::array::from_fn(|c| {
                (1.0 - AROUND) * direct * self.window[c] + AROUND * open * self.around[c]
            });
            (rgb, *mirrors)
        };
        smooth.iter().map(lit).collect()
    }

    /// What the camera makes of it.
    fn developed(
        &self,
        shown: &[Option<Shown>],
        light: &[(Rgb, f64)],
        (width, height): (u32, u32),
    ) -> Picture {
        let mut chance = ChaCha8Rng::seed_from_u64(11);
        let (w, h) = (f64::from(width), f64::from(height));
        let mut rgb = Vec::with_capacity(3 * shown.len());
        for (i, (shown, (lit, mirrors))) in shown.iter().zip(light).enumerate() {
            let (x, y) = ((i % width as usize) as f64 / w - 0.5, (i / width as usize) as f64 / h - 0.5);
            let falls = 1.0 - 0.18 * (x * x + y * y);
            let coat =
                shown.as_ref().map_or(SurfaceCoat { reflects: [0.0; 3], gloss: 0.0 }, |shown| shown.coat);
            for (c, lit) in lit.iter().enumerate() {
                let mirrored = 0.30 * coat.gloss * mirrors * self.window[c];
                let seen = (coat.reflects[c] * lit + mirrored) * falls * self.exposure * self.cast[c];
                let spread = (0.000_003 + 0.000_06 * seen.max(0.0)).sqrt();
                let grainy = seen + spread * chance.sample::<f64, _>(StandardNormal);
                rgb.push(Coding::from_linear(grainy.clamp(0.0, 1.0) as f32));
            }
        }
        Picture { width, height, rgb }
    }
}

/// Means over what lies beside each point on the same plane.
fn smoothed(raw: &[(f64, f64, f64)], shown: &[Option<Shown>], width: usize) -> Vec<(f64, f64, f64)> {
    let height = raw.len() / width;
    (0..raw.len())
        .into_par_iter()
        .map(|i| {
            let Some(here) = &shown[i] else { return raw[i] };
            let (x, y) = (i % width, i / width);
            let (mut sum, mut n) = ((0.0, 0.0), 0.0);
            for row in y.saturating_sub(2)..(y + 3).min(height) {
                for column in x.saturating_sub(2)..(x + 3).min(width) {
                    let at = row * width + column;
                    let Some(beside) = &shown[at] else { continue };
                    let off = plus(beside.point, here.point, -1.0);
                    if dot(beside.normal, here.normal) > 0.985 && dot(off, here.normal).abs() < 2.0 {
                        sum = (sum.0 + raw[at].0, sum.1 + raw[at].1);
                        n += 1.0;
                    }
                }
            }
            (sum.0 / n, sum.1 / n, raw[i].2)
        })
        .collect()
}
