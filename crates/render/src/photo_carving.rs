//! Carving as a photo shows it.
//!
//! In light from all round what lies deep is dark (M. S. Langer and H. H. Bülthoff, *Perception* 29 (2000) 649). So where carving is
//! lighter than its surroundings it is taken to stand out, and where it is darker to lie deep.

use std::collections::BTreeMap;

use warm_blend_board::ByPlace;
use warm_blend_piece::{Face, Part, Rect, Shaping};

use crate::{between::between, blurred::blurred};

/// Smallest cell, mm: carving has no finer detail.
const FINEST: f64 = 1.5;
/// Radius, in cells, over which a cell without a pixel is filled from its neighbours.
const FILLS: usize = 1;
/// Radius of the surroundings that a detail is compared with, as a share of the width of the carving†.
const AROUND: f64 = 0.16;
/// Spread of the logarithm of the light from which there is carving in the photo, and not only grain and noise†.
const LEAST: f32 = 0.03;
/// Spread of the heights of carving, mm, as it is drawn.
const HIGH: f32 = 1.4;

/// Heights of the carved parts of a face.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct SeenCarving(BTreeMap<usize, Cells>);

/// Heights over the rectangle of a part, mm.
#[derive(Debug, Clone, PartialEq)]
struct Cells {
    over: Rect,
    across: usize,
    heights: Vec<f32>,
    /// Share of it that is carved.
    carved: f64,
}

/// The light on a point of a face.
pub(crate) struct Lit {
    /// mm.
    pub at: (f64, f64),
    pub light: f32,
    /// True where carving is seen.
    pub carved: bool,
}

impl SeenCarving {
    /// The carving of a face from the light at points of it, mm.
    pub(crate) fn of(face: &Face, lit: &[Lit]) -> Self {
        let is_carved =
            |part: &Part| matches!(part.shaping, Shaping::Carved | Shaping::Bands | Shaping::CarvedAllOver);
        let mut points: BTreeMap<usize, Vec<&Lit>> = BTreeMap::new();
        for lit in lit {
            if let Some(n) = face.at(lit.at.0, lit.at.1).filter(|n| is_carved(&face.parts[*n])) {
                points.entry(n).or_default().push(lit);
            }
        }
        let cells = |(n, points): (usize, Vec<_>)| Some((n, Cells::of(&face.parts[n], &points)?));
        Self(points.into_iter().filter_map(cells).collect())
    }

    /// Shares of field, recess and edge of a part: of carved corners by how much of it the photo shows to be carved.
    pub(crate) fn shares(&self, n: usize, part: &Part) -> ByPlace<f64> {
        match self.0.get(&n) {
            Some(cells) if part.shaping == Shaping::Carved => part.carved_shares(cells.carved),
            _ => part.shares(),
        }
    }

    /// Height at a point of a part, mm; `None` where the photo shows none.
    pub(crate) fn at(&self, part: usize, (x, y): (f64, f64)) -> Option<f32> {
        self.0.get(&part).map(|cells| cells.at(x, y))
    }
}

impl Cells {
    fn of(part: &Part, points: &[&Lit]) -> Option<Self> {
        let over = part.rect;
        // About as fine as the photo.
        let cell = (part.area() / points.len() as f64).sqrt().max(FINEST);
        let (across, down) = ((over.w / cell).round() as usize, (over.h / cell).round() as usize);
        if across < 8 || down < 8 {
            return None;
        }
        let number = |at: f64, from: f64, length: f64, n: usize| ((at - from) / length * n as f64) as usize;
        let mut sums = vec![0f32; across * down];
        let (mut times, mut shares) = (sums.clone(), sums.clone());
        for Lit { at: (x, y), light, carved } in points.iter().copied() {
            let (u, v) = (number(*x, over.x, over.w, across), number(*y, over.y, over.h, down));
            let at = v.min(down - 1) * across + u.min(across - 1);
            sums[at] += light.max(1e-4).ln();
            times[at] += 1.0;
            shares[at] += f32::from(u8::from(*carved));
        }
        // In perspective some cells have no pixel: they are like those beside them.
        let means = |of: &[f32], around: usize| -> Vec<f32> {
            let (of, times) = (blurred(of, across, around, None), blurred(&times, across, around, None));
            of.into_iter().zip(times).map(|(of, times)| of / times.max(1e-6)).collect()
        };
        let around = ((AROUND * part.carving() / cell).round() as usize).max(2);
        let (own, near, share) = (means(&sums, FILLS), means(&sums, around), means(&shares, FILLS));
        let lighter: Vec<f32> = (0..own.len()).map(|i| share[i] * (own[i] - near[i])).collect();
        let carved = share.iter().sum::<f32>();
        let spread = (lighter.iter().map(|v| v * v).sum::<f32>() / carved.max(1.0)).sqrt();
        if spread < LEAST {
            return None;
        }
        let heights: Vec<f32> =
            lighter.iter().map(|lighter| HIGH * (lighter / spread).clamp(-2.5, 2.5)).collect();
        let carved = f64::from(carved) / heights.len() as f64;
        Some(Self { over, across, heights, carved })
    }

    /// Interpolated between cells.
    fn at(&self, x: f64, y: f64) -> f32 {
        let down = self.heights.len() / self.across;
        let place = |at: f64, from: f64, length: f64, cells: usize| {
            let at = ((at - from) / length * cells as f64 - 0.5).clamp(0.0, (cells - 1) as f64);
            let first = (at as usize).min(cells - 2);
            (first, (at - first as f64) as f32)
        };
        let (column, u) = place(x, self.over.x, self.over.w, self.across);
        let (row, v) = place(y, self.over.y, self.over.h, down);
        between((u, v), |right, below| self.heights[(row + below) * self.across + column + right])
    }
}
