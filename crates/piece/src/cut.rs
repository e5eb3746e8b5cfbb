//! What is cut out of a stencil: a motif, or an outline of the painter's own.

use std::sync::{Arc, OnceLock};

use quick_cache::sync::Cache;
use serde::{Deserialize, Serialize};
use svgtypes::{SimplePathSegment, SimplifyingPathParser};
use tiny_skia::{FillRule, Mask, Path, PathBuilder, Transform};
use warm_blend_board::Motif;
use warm_blend_paint::Name;

/// Side of the square that outlines are kept in.
pub const UNITS: f32 = 1000.0;
/// Cells along the side of the square that an outline is computed in: 2 mm of a motif a metre long.
const CELLS: usize = 512;
/// Most characters of an outline.
const LONGEST: usize = 100_000;
/// The least share of its square that an outline must take.
const THINNEST: f64 = 0.004;
/// How many outlines are kept computed.
const KEPT: usize = 32;

/// An outline of the painter's own.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Outlined {
    /// What the painter calls it.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub name: Name,
    /// SVG path data within a square of 1000 by 1000, filled by the nonzero rule.
    pub path: String,
}

/// An outline that cannot be cut.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadOutline {
    /// Not SVG path data.
    #[error("this is not a readable path; export the drawing as plain SVG with paths")]
    Unreadable,
    /// Too much of it.
    #[error("the drawing is too detailed to cut ({0} characters; the most is {LONGEST}); simplify its paths")]
    TooLong(usize),
    /// Nothing is enclosed, or only hairlines.
    #[error("the paths enclose no area; close them, and turn strokes into outlines")]
    NothingInside,
}

/// What is cut out of a stencil.
#[derive(Debug, Clone)]
pub enum Cut {
    /// A motif that ships with the program.
    Motif(Motif),
    /// The painter's own.
    Own(Arc<Drawn>),
}

/// An outline, cell by cell.
#[derive(Debug)]
pub struct Drawn {
    /// By cell, row by row: distance to the edge as a share of the greatest, 0 outside.
    depths: Vec<f32>,
    /// All depths inside, in order.
    sorted: Vec<f32>,
    /// Its height as a share of its width, 1 at most.
    across: f64,
}

impl Cut {
    /// Depth of a point: 1 at most, 0 or less outside. `u` and `v` run from −1 to 1.
    pub fn depth(&self, u: f64, v: f64) -> f64 {
        match self {
            Cut::Motif(motif) => motif.depth(u, v),
            Cut::Own(drawn) => drawn.depth(u, v),
        }
    }

    /// Which petal a point is on; `None` if it has no petals.
    pub fn petal(&self, u: f64, v: f64) -> Option<usize> {
        match self {
            Cut::Motif(motif) => motif.petal(u, v),
            Cut::Own(_) => None,
        }
    }

    /// Share of it that paint reaches before a depth: 0 in its middle, 1 at its edges.
    pub fn before(&self, depth: f64) -> f64 {
        match self {
            Cut::Motif(motif) => motif.before(depth),
            Cut::Own(drawn) => {
                // In the middle of those that are as deep.
                let shallower = drawn.sorted.partition_point(|one| f64::from(*one) < depth);
                let no_deeper = drawn.sorted.partition_point(|one| f64::from(*one) <= depth);
                1.0 - 0.5 * (shallower + no_deeper) as f64 / drawn.sorted.len().max(1) as f64
            }
        }
    }

    /// Share of its square that it takes.
    pub fn share(&self) -> f64 {
        match self {
            Cut::Motif(motif) => motif.share(),
            Cut::Own(drawn) => drawn.sorted.len() as f64 / (CELLS * CELLS) as f64,
        }
    }

    /// Its height as a share of its width, 1 at most.
    pub fn across(&self) -> f64 {
        match self {
            Cut::Motif(_) => 1.0,
            Cut::Own(drawn) => drawn.across,
        }
    }
}

/// Path data as a path.
fn read(path: &str) -> Result<Path, BadOutline> {
    if path.len() > LONGEST {
        return Err(BadOutline::TooLong(path.len()));
    }
    let mut all = PathBuilder::new();
    for segment in SimplifyingPathParser::from(path) {
        match segment.map_err(|_| BadOutline::Unreadable)? {
            SimplePathSegment::MoveTo { x, y } => all.move_to(x as f32, y as f32),
            SimplePathSegment::LineTo { x, y } => all.line_to(x as f32, y as f32),
            SimplePathSegment::Quadratic { x1, y1, x, y } => {
                all.quad_to(x1 as f32, y1 as f32, x as f32, y as f32);
            }
            SimplePathSegment::CurveTo { x1, y1, x2, y2, x, y } => {
                all.cubic_to(x1 as f32, y1 as f32, x2 as f32, y2 as f32, x as f32, y as f32);
            }
            SimplePathSegment::ClosePath => all.close(),
        }
    }
    all.finish().ok_or(BadOutline::NothingInside)
}

/// A path as path data, to a tenth of a unit.
fn written(path: &Path) -> String {
    use tiny_skia::PathSegment::{Close, CubicTo, LineTo, MoveTo, QuadTo};
    let tenth = |v: f32| (10.0 * v).round() / 10.0;
    let point = |p: tiny_skia::Point| format!("{} {}", tenth(p.x), tenth(p.y));
    let one = |segment| match segment {
        MoveTo(to) => format!("M{}", point(to)),
        LineTo(to) => format!("L{}", point(to)),
        QuadTo(by, to) => format!("Q{} {}", point(by), point(to)),
        CubicTo(by, then, to) => format!("C{} {} {}", point(by), point(then), point(to)),
        Close => "Z".to_owned(),
    };
    path.segments().map(one).collect()
}

impl Outlined {
    /// An outline of this path data, whatever its size and place: it is moved to the middle of the square and made as large as that allows.
    pub fn new(name: Name, path: &str) -> Result<Self, BadOutline> {
        let path = read(path)?;
        let bounds = path.compute_tight_bounds().ok_or(BadOutline::NothingInside)?;
        let long = bounds.width().max(bounds.height());
        if !(long.is_finite() && long > 0.0) {
            return Err(BadOutline::NothingInside);
        }
        let scale = UNITS / long;
        let middle = |from: f32, to: f32| 0.5 * (UNITS - scale * (from + to));
        let placed = Transform::from_row(
            scale,
            0.0,
            0.0,
            scale,
            middle(bounds.left(), bounds.right()),
            middle(bounds.top(), bounds.bottom()),
        );
        let path = path.transform(placed).ok_or(BadOutline::Unreadable)?;
        let own = Self { name, path: written(&path) };
        own.check()?;
        Ok(own)
    }

    /// Checks that it can be cut; also applied to outlines that were read from a file.
    pub fn check(&self) -> Result<(), BadOutline> {
        let cut = self.cut()?;
        if cut.share() < THINNEST { Err(BadOutline::NothingInside) } else { Ok(()) }
    }

    /// The cut-out; computed once.
    pub fn cut(&self) -> Result<Cut, BadOutline> {
        static DRAWN: OnceLock<Cache<String, Arc<Drawn>>> = OnceLock::new();
        let known = DRAWN.get_or_init(|| Cache::new(KEPT));
        let drawn = || Ok(Arc::new(Drawn::of(&read(&self.path)?)));
        known.get_or_insert_with(&self.path, drawn).map(Cut::Own)
    }
}

impl Drawn {
    fn of(path: &Path) -> Self {
        let bounds = path.bounds();
        let scale = CELLS as f32 / UNITS;
        let inside = Mask::new(CELLS as u32, CELLS as u32).map(|mut mask| {
            mask.fill_path(path, FillRule::Winding, false, Transform::from_scale(scale, scale));
            mask.data().iter().map(|cell| *cell > 0).collect()
        });
        let mut depths = to_the_edge(inside.unwrap_or_else(|| vec![false; CELLS * CELLS]));
        let deepest = depths.iter().copied().fold(1.0, f32::max);
        depths.iter_mut().for_each(|depth| *depth /= deepest);
        let mut sorted: Vec<f32> = depths.iter().copied().filter(|depth| *depth > 0.0).collect();
        sorted.sort_by(f32::total_cmp);
        Self { depths, sorted, across: f64::from(bounds.height() / bounds.width()).clamp(0.01, 1.0) }
    }

    fn depth(&self, u: f64, v: f64) -> f64 {
        let cell = |at: f64| ((0.5 * (at + 1.0) * CELLS as f64) as usize).min(CELLS - 1);
        if u.abs() > 1.0 || v.abs() > 1.0 { 0.0 } else { self.depths[cell(v) * CELLS + cell(u)].into() }
    }
}

/// Distance from each cell to the next one outside, in cells, 0 outside: two passes with steps of 3 and 4 (G. Borgefors, *Computer Vision,
/// Graphics, and Image Processing* 34 (1986) 344).
fn to_the_edge(inside: Vec<bool>) -> Vec<f32> {
    const FAR: u32 = u32::MAX / 2;
    // A cell wider on every side, so that what touches the square's edge ends there.
    let wide = CELLS + 2;
    let mut all = vec![0u32; wide * wide];
    for (n, _) in inside.iter().enumerate().filter(|(_, inside)| **inside) {
        all[(n / CELLS + 1) * wide + n % CELLS + 1] = FAR;
    }
    let (back, ahead) = ([(1, 3), (wide + 1, 4), (wide, 3), (wide - 1, 4)], 1..=CELLS);
    for y in ahead.clone() {
        for x in ahead.clone() {
            let at = y * wide + x;
            let nearest = back.iter().map(|(by, far)| all[at - by] + far).min();
            all[at] = all[at].min(nearest.unwrap_or(FAR));
        }
    }
    for y in ahead.clone().rev() {
        for x in ahead.clone().rev() {
            let at = y * wide + x;
            let nearest = back.iter().map(|(by, far)| all[at + by] + far).min();
            all[at] = all[at].min(nearest.unwrap_or(FAR));
        }
    }
    let rows = ahead.flat_map(|y| (1..=CELLS).map(move |x| y * wide + x));
    rows.map(|at| all[at] as f32 / 3.0).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn outlined(path: &str) -> Result<Outlined, BadOutline> {
        Outlined::new(Name::new("own").unwrap(), path)
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]

        /// A triangle takes half of the box around it, wherever it lies and however large it is; a rectangle its own shape; what lies in the
        /// middle of the longer side is inside, and a corner of the square is not unless the drawing reaches it.
        #[test]
        fn it_takes_its_own_area(x in -1e4..1e4f64, y in -1e4..1e4f64, w in 1.0..5e3f64, tall in 0.1..1.0f64) {
            let h = w * tall;
            let triangle = outlined(&format!("M{x} {y}h{w}l{} {h}z", -w / 2.0)).unwrap();
            let cut = triangle.cut().unwrap();
            prop_assert!((cut.share() - 0.5 * tall).abs() < 0.01, "{} {tall}", cut.share());
            prop_assert!((cut.across() - tall).abs() < 0.01);
            let oblong = outlined(&format!("M{x} {y}h{w}v{h}h{}z", -w)).unwrap().cut().unwrap();
            prop_assert!((oblong.share() - tall).abs() < 0.01);
            prop_assert!(oblong.depth(0.0, 0.0) > 0.9 && oblong.depth(0.0, tall + 0.02) <= 0.0);
            // A quarter of it lies within the outer quarter.
            let all: Vec<f64> = (0..200 * 200)
                .map(|n| oblong.depth(f64::from(n % 200) / 100.0 - 0.995, f64::from(n / 200) / 100.0 - 0.995))
                .filter(|depth| *depth > 0.0)
                .collect();
            let reached = all.iter().filter(|depth| oblong.before(**depth) <= 0.75).count() as f64;
            prop_assert!((reached / all.len() as f64 - 0.75).abs() < 0.1);
        }
    }

    /// A circle of arcs takes π/4 of its square; with a smaller one wound the other way cut out of it, less.
    #[test]
    fn a_ring_has_a_hole() {
        let circle = "M0 50a50 50 0 1 0 100 0a50 50 0 1 0 -100 0z";
        let hole = "M25 50a25 25 0 1 1 50 0a25 25 0 1 1 -50 0z";
        let whole = outlined(circle).unwrap().cut().unwrap();
        assert!((whole.share() - std::f64::consts::FRAC_PI_4).abs() < 0.004, "{}", whole.share());
        let ring = outlined(&format!("{circle}{hole}")).unwrap().cut().unwrap();
        assert!((ring.share() - 0.75 * std::f64::consts::FRAC_PI_4).abs() < 0.004, "{}", ring.share());
        assert!(ring.depth(0.0, 0.0) <= 0.0 && ring.depth(0.75, 0.0) > 0.9);
    }

    /// It comes back from a file as it was.
    #[test]
    fn it_is_kept_as_it_is() {
        let own = outlined("M3 4C10 -5 20 30 40 4Q20 60 3 4z").unwrap();
        let back: Outlined = serde_json::from_str(&serde_json::to_string(&own).unwrap()).unwrap();
        assert_eq!(back, own);
        assert_eq!(Outlined::new(own.name.clone(), &own.path).unwrap().path, own.path);
    }

    #[test]
    fn what_cannot_be_cut_is_refused() {
        let long = format!("M0 0{}", "l1 1l-1 2".repeat(20_000));
        for (path, why) in [
            ("", "enclose no area"),
            ("M0 0", "enclose no area"),
            ("M0 0L100 100", "enclose no area"),
            ("M0 0L100 0.01L0 0z", "enclose no area"),
            ("M0 0 L nowhere", "not a readable path"),
            ("<script>alert(1)</script>", "not a readable path"),
            ("M1e300 0L2e300 0L0 9e300z", "enclose no area"),
            (long.as_str(), "too detailed"),
        ] {
            let error = outlined(path).unwrap_err().to_string();
            assert!(error.contains(why), "{path:.40}: {error}");
        }
    }
}
