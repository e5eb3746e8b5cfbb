//! Corners that a marked point snaps to, and a first guess of a face.

use crate::{Photo, PhotoSpot, Point2, check_corners, homography::turn, luminance};

/// Half the width of the window that a corner is judged in, pixels.
const WINDOW: i64 = 3;

impl Photo {
    /// The strongest corner within `reach` of a point, both in widths of the photo: where brightness changes in every direction (J. Shi and C.
    /// Tomasi, *Proc. IEEE Conf. Computer Vision and Pattern Recognition* (1994) 593). `None` where there is none.
    pub fn snapped(&self, at: Point2, reach: f64) -> Option<Point2> {
        let (width, height) = self.size();
        let scale = width as f64;
        let reach = (reach * scale).clamp(2.0, 60.0);
        let (x, y) = ((at[0] * scale) as i64, (at[1] * scale) as i64);
        let inside = |x: i64, y: i64| {
            let margin = WINDOW + 1;
            (margin..width as i64 - margin).contains(&x) && (margin..height as i64 - margin).contains(&y)
        };
        let far = reach as i64;
        let places = (-far..=far).flat_map(|dy| (-far..=far).map(move |dx| (dx, dy)));
        let near =
            places.filter(|(dx, dy)| ((dx * dx + dy * dy) as f64) <= reach * reach && inside(x + dx, y + dy));
        let scored = near.map(|(dx, dy)| {
            // Of two alike the nearer.
            let away = ((dx * dx + dy * dy) as f64).sqrt() / reach;
            (self.cornered(x + dx, y + dy) * (1.0 - 0.4 * away), [x + dx, y + dy])
        });
        let (strength, [x, y]) = scored.max_by(|one, other| one.0.total_cmp(&other.0))?;
        (strength > 1e-4).then(|| [(x as f64 + 0.5) / scale, (y as f64 + 0.5) / scale])
    }

    /// The least change of brightness around a pixel in any direction.
    fn cornered(&self, x: i64, y: i64) -> f64 {
        let (width, _) = self.size();
        let light = |x: i64, y: i64| {
            luminance(self.pixels()[y as usize * width + x as usize].map(f64::from)).max(0.0).sqrt()
        };
        let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
        for v in y - WINDOW..=y + WINDOW {
            for u in x - WINDOW..=x + WINDOW {
                let (dx, dy) = (light(u + 1, v) - light(u - 1, v), light(u, v + 1) - light(u, v - 1));
                // What is nearest counts most, so that the corner itself is the strongest place.
                let weight = (-((u - x).pow(2) + (v - y).pow(2)) as f64 / 4.0).exp();
                (xx, xy, yy) = (xx + weight * dx * dx, xy + weight * dx * dy, yy + weight * dy * dy);
            }
        }
        0.5 * (xx + yy - ((xx - yy).powi(2) + 4.0 * xy * xy).sqrt())
    }

    /// A first guess of the corners of a face whose width is `ratio` times its height: the outline of what differs from the border of the
    /// photo, or a rectangle in the middle.
    pub fn guessed_face(&self, ratio: f64) -> [Point2; 4] {
        let (width, height) = self.size();
        let high = height as f64 / width as f64;
        self.outlined().unwrap_or_else(|| {
            let w = 0.5f64.min(0.6 * high * ratio);
            let (left, upper) = (0.5 - 0.5 * w, 0.5 * high - 0.5 * w / ratio);
            let (right, lower) = (left + w, upper + w / ratio);
            [[left, upper], [right, upper], [right, lower], [left, lower]]
        })
    }

    /// Probable position of a white card held against a face: the lightest even spot within its corners, much lighter than the face.
    pub fn card_on(&self, corners: &[Point2; 4]) -> Option<PhotoSpot> {
        let (width, height) = self.size();
        let side = (width / 100).max(2);
        let scale = width as f64;
        let inside = |at: Point2| (0..4).all(|i| turn(corners[i], corners[(i + 1) % 4], at) > 0.0);
        let mut squares: Vec<(f64, Point2, bool)> = Vec::new();
        for top in (0..height).step_by(side) {
            for left in (0..width).step_by(side) {
                let middle =
                    [(left as f64 + 0.5 * side as f64) / scale, (top as f64 + 0.5 * side as f64) / scale];
                let Some(mean) = self.mean_of_square(left, top, side).filter(|_| inside(middle)) else {
                    continue;
                };
                let even = mean.spread < 0.08 && mean.clipped_share() < 0.01;
                squares.push((luminance(mean.rgb), middle, even));
            }
        }
        squares.sort_by(|one, other| one.0.total_cmp(&other.0));
        let usual = squares.get(squares.len() / 2)?.0;
        let lightest = squares.iter().rfind(|square| square.2)?;
        if lightest.0 < 2.0 * usual {
            return None;
        }
        // All of the card is about as light, and lies together.
        let of_card = |square: &&(f64, Point2, bool)| {
            let away = (square.1[0] - lightest.1[0]).hypot(square.1[1] - lightest.1[1]);
            square.2 && square.0 > 0.85 * lightest.0 && away < 0.12
        };
        let all: Vec<Point2> = squares.iter().filter(of_card).map(|square| square.1).collect();
        let n = all.len() as f64;
        let [x, y] = [0, 1].map(|axis| all.iter().map(|at| at[axis]).sum::<f64>() / n);
        let radius = 0.35 * n.sqrt() * side as f64 / scale;
        Some(PhotoSpot { x, y, radius: radius.clamp(0.004, 0.04) })
    }

    /// The outermost points along the diagonals of what differs from the border.
    fn outlined(&self) -> Option<[Point2; 4]> {
        let (width, height) = self.size();
        let side = (width / 160).max(1);
        let (across, down) = (width / side, height / side);
        let colour = |x: usize, y: usize| {
            let rgb = self.pixels()[(y * side + side / 2) * width + x * side + side / 2].map(f64::from);
            let sum = (rgb[0] + rgb[1] + rgb[2]).max(1e-3);
            [rgb[0] / sum, rgb[1] / sum, 0.15 * (luminance(rgb).max(1e-4)).ln()]
        };
        let is_border = |x: usize, y: usize| x < across / 14 || x >= across - across / 14 || y < down / 14;
        let mut border: Vec<[f64; 3]> = Vec::new();
        for y in 0..down {
            border.extend((0..across).filter(|x| is_border(*x, y)).map(|x| colour(x, y)));
        }
        let n = border.len().max(1) as f64;
        let mean: [f64; 3] = std::array::from_fn(|c| border.iter().map(|b| b[c]).sum::<f64>() / n);
        let spread: [f64; 3] = std::array::from_fn(|c| {
            (border.iter().map(|b| (b[c] - mean[c]).powi(2)).sum::<f64>() / n).sqrt().max(0.01)
        });
        let differs = |x: usize, y: usize| {
            let here = colour(x, y);
            (0..2).map(|c| ((here[c] - mean[c]) / spread[c]).powi(2)).sum::<f64>() > 9.0
        };
        let mut corners: [Option<(f64, Point2)>; 4] = [None; 4];
        let mut area = 0;
        for y in 0..down {
            for x in 0..across {
                // A single square is noise.
                let sure =
                    differs(x, y) && x + 1 < across && y + 1 < down && differs(x + 1, y) && differs(x, y + 1);
                if !sure {
                    continue;
                }
                area += 1;
                let at = [(x as f64 + 0.5) / across as f64, (y as f64 + 0.5) / across as f64];
                for (n, way) in [[-1.0, -1.0], [1.0, -1.0], [1.0, 1.0], [-1.0, 1.0]].into_iter().enumerate() {
                    let far = at[0] * way[0] + at[1] * way[1];
                    if corners[n].is_none_or(|(known, _)| far > known) {
                        corners[n] = Some((far, at));
                    }
                }
            }
        }
        let corners = corners.map(|corner| corner.map(|(_, at)| at));
        let [a, b, c, d] = [corners[0]?, corners[1]?, corners[2]?, corners[3]?];
        let found = [a, b, c, d];
        let enough = area * 12 > across * down && area * 10 < 9 * across * down;
        (enough && check_corners(&found).is_ok()).then_some(found)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const WIDTH: usize = 320;
    const HEIGHT: usize = 240;

    /// A dark box before a pale wall.
    fn scene(left: f64, upper: f64, right: f64, lower: f64) -> Photo {
        let pixel = |i: usize| {
            let (x, y) = ((i % WIDTH) as f64, (i / WIDTH) as f64);
            if (left..right).contains(&x) && (upper..lower).contains(&y) {
                [0.2, 0.08, 0.04]
            } else {
                [0.6, 0.58, 0.52]
            }
        };
        Photo::new(WIDTH, (0..WIDTH * HEIGHT).map(pixel).collect(), vec![false; WIDTH * HEIGHT]).unwrap()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(32))]

        /// A point that was set down near a corner lands on it, and the box is found.
        #[test]
        fn corners_are_found(left in 50..110i32, upper in 40..90i32, right in 200..270i32, lower in 150..215i32, dx in -6.0..6.0f64, dy in -6.0..6.0f64) {
            let [left, upper, right, lower] = [left, upper, right, lower].map(f64::from);
            let photo = scene(left, upper, right, lower);
            let scale = WIDTH as f64;
            let [x, y] = photo.snapped([(left + dx) / scale, (upper + dy) / scale], 0.04).unwrap();
            prop_assert!((x * scale - left).hypot(y * scale - upper) < 3.0, "{} {}", x * scale, y * scale);
            let guess = photo.guessed_face(1.2);
            for ([x, y], true_one) in guess.into_iter().zip([[left, upper], [right, upper], [right, lower], [left, lower]]) {
                prop_assert!((x * scale - true_one[0]).hypot(y * scale - true_one[1]) < 6.0);
            }
        }
    }

    /// A card on the box is found; without one none is.
    #[test]
    fn a_card_on_a_face_is_found() {
        let plain = scene(60.0, 50.0, 250.0, 200.0);
        let face = plain.guessed_face(1.2);
        assert_eq!(plain.card_on(&face), None);
        let pixels = plain.pixels().iter().enumerate().map(|(i, pixel)| {
            let on_card = (120..140).contains(&(i % WIDTH)) && (90..110).contains(&(i / WIDTH));
            if on_card { [0.8, 0.78, 0.7] } else { *pixel }
        });
        let with = Photo::new(WIDTH, pixels.collect(), vec![false; WIDTH * HEIGHT]).unwrap();
        let card = with.card_on(&face).unwrap();
        let scale = WIDTH as f64;
        assert!((card.x * scale - 130.0).abs() < 4.0 && (card.y * scale - 100.0).abs() < 4.0, "{card:?}");
        assert!(card.radius * scale < 11.0, "{card:?}");
    }

    #[test]
    fn where_nothing_is_nothing_is_found() {
        let photo = scene(0.0, 0.0, 0.0, 0.0);
        assert_eq!(photo.snapped([0.5, 0.4], 0.05), None);
        assert_eq!(photo.snapped([-3.0, 9.0], 0.05), None);
        assert!(check_corners(&photo.guessed_face(0.6)).is_ok());
    }
}
