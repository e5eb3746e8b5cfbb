//! Templates of a stencil, to print at size and cut out.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::Motif;
use warm_blend_paint::{Dimension, Units};
use warm_blend_piece::{Piece, Stencil, UNITS, Zone};

use super::prediction::stencil_view;
use crate::{Refusal, elevation_of, scheme_of};

/// What fits on a sheet of A4 and of Letter paper alike, width and height, mm.
const SHEET: [f64; 2] = [180.0, 220.0];
/// Distance between points of an outline, mm, and the most cells along a motif.
const FINE: f64 = 0.5;
const MOST: usize = 400;

/// A template.
#[derive(Debug, Serialize, ToSchema)]
pub struct StencilTemplate {
    /// Name of the piece.
    pub piece: String,
    /// Name of the part.
    pub part: &'static str,
    /// What is cut out: the motif, and that of the corners of a border.
    pub cuts: Vec<TemplateCut>,
    /// Length and width of the motif, mm.
    pub size_mm: f64,
    /// Size as text.
    pub size: String,
    /// True if it is painted by hand, and only traced.
    pub by_hand: bool,
    /// Sheets that each is printed on, row by row.
    pub sheets: Vec<TemplateSheet>,
    /// Spacing on the piece; absent if it fits nowhere.
    pub spread: Option<String>,
    /// Where to mark centre lines on each length of part.
    pub marks: Vec<String>,
}

/// Something that is cut out of a template.
#[derive(Debug, Serialize, ToSchema)]
pub struct TemplateCut {
    /// Its name.
    pub name: String,
    /// Its outline as an SVG path.
    pub outline: String,
    /// Units of the outline to a mm.
    pub scale: f64,
}

/// A sheet of a template.
#[derive(Debug, Serialize, ToSchema)]
pub struct TemplateSheet {
    /// `1 of 4`.
    pub name: String,
    /// What it shows of the motif, mm: left and upper edge, width and height.
    pub x: f64,
    /// See `x`.
    pub y: f64,
    /// See `x`.
    pub w: f64,
    /// See `x`.
    pub h: f64,
}

/// The template of the stencil on a zone of a piece.
pub fn template_of(piece: &Piece, zone: Zone, units: Units) -> Result<StencilTemplate, Refusal> {
    let (elevation, scheme) = (elevation_of(piece)?, scheme_of(piece, None)?);
    let none = || Refusal::field("?zone", "there is no pattern on this part; choose one first");
    let stencil = scheme.stencil(zone).ok_or_else(none)?;
    let view = stencil_view(&scheme, &elevation, zone, units).ok_or_else(none)?;
    Ok(StencilTemplate {
        piece: piece.name.as_str().to_owned(),
        part: zone.name(),
        cuts: cuts(stencil),
        size_mm: stencil.size,
        size: units.say(Dimension::Length, stencil.size),
        by_hand: stencil.by_hand,
        sheets: sheets(stencil.size),
        spread: view.spread,
        marks: view.marks,
    })
}

/// Sheets that a motif of a size is printed on, row by row.
fn sheets(size: f64) -> Vec<TemplateSheet> {
    let [across, down] = SHEET.map(|room| (size / room).ceil().max(1.0) as usize);
    let (w, h) = (size / across as f64, size / down as f64);
    let all = across * down;
    (0..all)
        .map(|n| TemplateSheet {
            name: format!("{} of {all}", n + 1),
            x: (n % across) as f64 * w,
            y: (n / across) as f64 * h,
            w,
            h,
        })
        .collect()
}

/// What is cut out for a pattern: a motif in mm, the painter's own as it was brought; then the motif of its corners.
fn cuts(stencil: &Stencil) -> Vec<TemplateCut> {
    let size = stencil.size;
    let of_motif = |motif: Motif| {
        let name = motif.name().to_owned();
        TemplateCut { name, outline: outline(motif, size), scale: 1.0 }
    };
    let first = stencil.own.as_ref().map_or_else(
        || of_motif(stencil.motif),
        |own| TemplateCut {
            name: own.name.as_str().to_owned(),
            outline: own.path.clone(),
            scale: f64::from(UNITS) / size,
        },
    );
    let corner = stencil.around.and_then(|around| around.corner);
    std::iter::once(first).chain(corner.map(of_motif)).collect()
}

/// Outline of a motif as an SVG path in mm: where its depth is 0, by marching squares with straight pieces between the edges of cells.
fn outline(motif: Motif, size: f64) -> String {
    let cells = ((size / FINE) as usize).clamp(40, MOST);
    // A little beyond the square, so that what touches its edge is closed.
    let at = |i: usize| (2.0 * i as f64 / cells as f64 - 1.0) * 1.01;
    let mm = |u: f64| 0.5 * size * (u + 1.0);
    let depth = |u: f64, v: f64| if u.abs() > 1.0 || v.abs() > 1.0 { -0.02 } else { motif.depth(u, v) };
    let mut path = String::new();
    for y in 0..cells {
        for x in 0..cells {
            let corners = [(x, y), (x + 1, y), (x + 1, y + 1), (x, y + 1)].map(|(x, y)| {
                let (u, v) = (at(x), at(y));
                (u, v, depth(u, v))
            });
            let crossing = |n: usize| {
                let ((u, v, one), (s, t, other)) = (corners[n], corners[(n + 1) % 4]);
                // From the inside out, and never the same both ways.
                ((one > 0.0) != (other > 0.0)).then(|| {
                    let share = one / (one - other);
                    (mm(u + share * (s - u)), mm(v + share * (t - v)))
                })
            };
            let crossings: Vec<(f64, f64)> = (0..4).filter_map(crossing).collect();
            for pair in crossings.chunks_exact(2) {
                let [(x0, y0), (x1, y1)] = [pair[0], pair[1]];
                path.push_str(&format!("M{x0:.2} {y0:.2}L{x1:.2} {y1:.2}"));
            }
        }
    }
    path
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Points of a path.
    fn points(path: &str) -> Vec<(f64, f64)> {
        let number = |text: &str| text.parse::<f64>().unwrap();
        path.split(['M', 'L'])
            .filter(|text| !text.is_empty())
            .map(|text| {
                let (x, y) = text.split_once(' ').unwrap();
                (number(x), number(y))
            })
            .collect()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(40))]

        /// An outline lies where the motif ends: a step to one side is in it, a step to the other is not; it is as large as it is said to be.
        #[test]
        fn an_outline_is_where_the_motif_ends(which in 0..Motif::ALL.len(), size in 20.0..400.0f64) {
            let motif = Motif::ALL[which];
            let points = points(&outline(motif, size));
            prop_assert!(points.len() > 60);
            let step = (1.2 * size / (size / FINE).clamp(40.0, MOST as f64)) / size * 2.0;
            let inside = |u: f64, v: f64| u.abs() <= 1.0 && v.abs() <= 1.0 && motif.depth(u, v) > 0.0;
            for (x, y) in &points {
                prop_assert!((-0.02 * size..=1.02 * size).contains(x) && (-0.02 * size..=1.02 * size).contains(y));
                let (u, v) = (2.0 * x / size - 1.0, 2.0 * y / size - 1.0);
                let eight = [(1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0), (1.0, 1.0), (-1.0, -1.0), (1.0, -1.0), (-1.0, 1.0)];
                // Near, too: a step from the vein of a small leaf may be on its other side.
                let around: Vec<(f64, f64)> = [step, 0.3 * step].into_iter().flat_map(|far| eight.map(|(du, dv)| (far * du, far * dv))).collect();
                let n = around.iter().filter(|(du, dv)| inside(u + du, v + dv)).count();
                prop_assert!(n > 0 && n < around.len(), "{motif:?} {u} {v}: {n}");
            }
        }

        /// Sheets cover the motif once, and each fits on paper.
        #[test]
        fn sheets_cover_the_motif(size in 10.0..1000.0f64) {
            let all = sheets(size);
            let area: f64 = all.iter().map(|sheet| sheet.w * sheet.h).sum();
            prop_assert!((area - size * size).abs() < 1e-6 * size * size);
            prop_assert!(all.iter().all(|sheet| sheet.w <= SHEET[0] + 1e-9 && sheet.h <= SHEET[1] + 1e-9));
            prop_assert_eq!(all.last().unwrap().name.clone(), format!("{0} of {0}", all.len()));
        }
    }
}
