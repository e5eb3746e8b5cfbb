//! What is not painted: the glass of a mirror, and books on an open shelf. All of it is grey, so that only paint has a colour.

use warm_blend_piece::{Face, Rect, Zone};

use crate::between::mixed;

/// Linear grey of the glass where it is darkest, and how much lighter it is in a streak of light.
const GLASS: f64 = 0.34;
const STREAK: f64 = 0.26;
/// Linear grey of the back of a shelf.
const BACK: f64 = 0.10;
/// Thinnest and thickest book, mm, and the height of the lowest and the highest, as shares of the shelf's.
const THIN: f64 = 16.0;
const THICK: f64 = 46.0;
const LOW: f64 = 0.52;
const HIGH: f64 = 0.86;
/// Share of a shelf that is full of books.
const FULL: f64 = 0.78;

/// Linear grey at a point of an unpainted part of a face, mm.
pub(crate) fn grey(face: &Face, part: usize, (x, y): (f64, f64)) -> f32 {
    let Rect { x: left, y: upper, w, h } = face.parts[part].rect;
    let (u, v) = ((x - left) / w, (y - upper) / h);
    let is_glass = face.parts[part].on.is_some_and(|on| face.parts[on].zone == Zone::Frame);
    let grey = if is_glass { glass(u, v * h / w) } else { shelf(x - left, (1.0 - v) * h, (w, h)) };
    grey as f32
}

/// A mirror shows a room that is not there: two slanting streaks of light.
fn glass(u: f64, v: f64) -> f64 {
    let slant = u + 0.6 * v;
    let streak = |at: f64, wide: f64| (-((slant - at) / wide).powi(2)).exp();
    GLASS + STREAK * (streak(0.55, 0.16) + 0.5 * streak(1.02, 0.07)) + 0.08 * (1.0 - v).max(0.0)
}

/// A book on a shelf, or what is behind it, so far from the left and above the bottom, mm.
fn shelf(x: f64, above: f64, (w, h): (f64, f64)) -> f64 {
    let mut from = 0.0;
    for n in 0.. {
        let (thick, high, tone) = book(n);
        if from + thick > FULL * w {
            break;
        }
        if x < from + thick {
            if above > high * h {
                break;
            }
            // Round spines, with a lighter band for a title on some.
            let across = 2.0 * (x - from) / thick - 1.0;
            let is_title = n % 3 == 0 && (0.68..0.78).contains(&(above / (high * h)));
            let tone = if is_title { 0.55 } else { tone };
            return tone * (1.0 - across.powi(4)).max(0.12).sqrt();
        }
        from += thick;
    }
    BACK
}

/// Thickness, mm, height as a share of the shelf's, and linear grey of a book.
fn book(n: u32) -> (f64, f64, f64) {
    let mixed = mixed((n + 1).wrapping_mul(0x9E37_79B1));
    let part = |shift: u32| f64::from((mixed >> shift) & 255) / 255.0;
    (THIN + (THICK - THIN) * part(0), LOW + (HIGH - LOW) * part(8), 0.10 + 0.34 * part(16))
}

#[cfg(test)]
mod tests {
    use warm_blend_piece::{PieceKind, View};

    use super::*;

    /// Greys within a row of an unpainted part of a piece, from the lower half of it.
    fn row(kind: PieceKind) -> Vec<f32> {
        let elevation = kind.usual().build().unwrap();
        let face = elevation.face(View::Front).unwrap();
        let part = face.parts.iter().position(|part| part.zone == Zone::Unpainted).unwrap();
        let Rect { x, y, w, h } = face.parts[part].rect;
        (0..200).map(|i| grey(face, part, (x + w * f64::from(i) / 200.0, y + 0.75 * h))).collect()
    }

    #[test]
    fn a_mirror_has_soft_streaks_and_a_shelf_has_books() {
        let steps = |row: &[f32]| row.windows(2).filter(|two| (two[0] - two[1]).abs() > 0.05).count();
        let (glass, shelf) = (row(PieceKind::Frame), row(PieceKind::BedSide));
        assert_eq!(steps(&glass), 0);
        assert!(steps(&shelf) > 6, "{}", steps(&shelf));
        for grey in glass.iter().chain(&shelf) {
            assert!((0.01..0.8).contains(grey), "{grey}");
        }
        // Books end before the shelf does.
        assert_eq!(shelf.last(), Some(&(BACK as f32)));
    }
}
