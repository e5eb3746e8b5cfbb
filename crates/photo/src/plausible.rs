//! Where the card probably is, and whether a spot can be on it.

use crate::{Card, Photo, PhotoSpot, luminance};

/// Squares across the photo that are looked at.
const ACROSS: usize = 48;
/// Spread of luminance within a square of one even thing, sd over mean†.
const EVEN: f64 = 0.06;
/// Least share of the photo that a card takes up, and the most†.
const SMALL: f64 = 0.002;
const LARGE: f64 = 0.35;
/// How much two neighbouring squares of one card differ in a channel at most†.
const ALIKE: f64 = 0.06;
/// What is so much lighter than the card is lighter than any paint beside it would be by chance†.
const LIGHTER: f64 = 1.12;
/// Beyond this it is glare or a window†.
const GLARE: f64 = 2.0;
/// Balance of the channels, the largest over the least, up to which something may be a card, and from which a card looks tinted: cameras
/// balance most of the light away†.
const NEUTRAL: f64 = 1.6;
const TINTED: f64 = 2.1;
/// Most of the light that a grey card gives back against the lightest thing in the photo, and least that a white one does†.
const GREY: f64 = 0.4;

/// What makes a square of the photo.
struct Square {
    rgb: [f64; 3],
    /// Of one even thing, and not clipped.
    even: bool,
}

struct Grid {
    across: usize,
    down: usize,
    /// Pixels along a side.
    side: usize,
    squares: Vec<Square>,
}

impl Grid {
    fn of(photo: &Photo) -> Self {
        let (width, height) = photo.size();
        let side = width.div_ceil(ACROSS).max(1);
        let (across, down) = (width.div_ceil(side), height.div_ceil(side));
        let square = |place: usize| {
            let mean = photo.mean_of_square(place % across * side, place / across * side, side)?;
            Some(Square { rgb: mean.rgb, even: mean.clipped == 0.0 && mean.spread < EVEN })
        };
        Self { across, down, side, squares: (0..across * down).filter_map(square).collect() }
    }

    fn beside(&self, place: usize) -> impl Iterator<Item = usize> {
        let (x, y) = (place % self.across, place / self.across);
        let left = (x > 0).then(|| place - 1);
        let right = (x + 1 < self.across).then(|| place + 1);
        let above = (y > 0).then(|| place - self.across);
        let below = (y + 1 < self.down).then(|| place + self.across);
        [left, right, above, below].into_iter().flatten()
    }

    /// Even squares that lie beside each other and look alike, as lists of places.
    fn regions(&self) -> Vec<Vec<usize>> {
        let alike = |one: usize, other: usize| {
            let (one, other) = (self.squares[one].rgb, self.squares[other].rgb);
            (0..3).all(|c| (one[c] - other[c]).abs() <= ALIKE * one[c].max(other[c]).max(1e-3))
        };
        let mut seen = vec![false; self.squares.len()];
        let mut regions = Vec::new();
        for start in 0..self.squares.len() {
            if seen[start] || !self.squares[start].even {
                continue;
            }
            seen[start] = true;
            let (mut region, mut next) = (Vec::new(), vec![start]);
            while let Some(place) = next.pop() {
                region.push(place);
                for neighbour in self.beside(place) {
                    if !seen[neighbour] && self.squares[neighbour].even && alike(place, neighbour) {
                        seen[neighbour] = true;
                        next.push(neighbour);
                    }
                }
            }
            regions.push(region);
        }
        regions
    }

    fn mean(&self, region: &[usize]) -> [f64; 3] {
        let sum = |c: usize| region.iter().map(|place| self.squares[*place].rgb[c]).sum::<f64>();
        std::array::from_fn(|c| sum(c) / region.len() as f64)
    }

    fn share(&self, region: &[usize]) -> f64 {
        region.len() as f64 / self.squares.len() as f64
    }
}

/// The largest channel over the least.
fn balance(rgb: [f64; 3]) -> f64 {
    let most = rgb.into_iter().fold(0.0, f64::max);
    most / rgb.into_iter().fold(f64::INFINITY, f64::min).max(1e-6)
}

impl Photo {
    /// Probable position of a white card: the lightest even area of some size with hardly any chroma. `None` if nothing
    /// looks like one.
    pub fn likely_card(&self) -> Option<PhotoSpot> {
        let grid = Grid::of(self);
        let candidates = grid.regions().into_iter().filter(|region| {
            let mean = grid.mean(region);
            (SMALL..LARGE).contains(&grid.share(region)) && balance(mean) < NEUTRAL && luminance(mean) > 0.15
        });
        // Of two that are as light the one with less colour.
        let card = candidates.max_by(|one, other| {
            let rank = |region: &[usize]| {
                let mean = grid.mean(region);
                luminance(mean) / balance(mean)
            };
            rank(one).total_cmp(&rank(other))
        })?;
        grid.middle(&card, self.size().0)
    }

    /// Reasons to doubt that a spot is on the card; `seen` is its mean in linear sRGB.
    pub(crate) fn doubts(&self, card: Card, at: PhotoSpot, seen: [f64; 3]) -> Vec<&'static str> {
        let grid = Grid::of(self);
        let scale = self.size().0 as f64;
        let far = |place: usize| {
            let middle = |along: usize| (along as f64 + 0.5) * grid.side as f64 / scale;
            let (x, y) = (middle(place % grid.across), middle(place / grid.across));
            (x - at.x).hypot(y - at.y) > 1.5 * at.radius
        };
        let own = luminance(seen);
        let elsewhere = grid.regions().into_iter().map(|region| {
            let apart: Vec<usize> = region.into_iter().filter(|place| far(*place)).collect();
            (grid.share(&apart), if apart.is_empty() { [0.0; 3] } else { grid.mean(&apart) })
        });
        let lightest = elsewhere
            .filter(|(share, mean)| *share >= SMALL && luminance(*mean) < GLARE * own.max(0.5))
            .map(|(_, mean)| luminance(mean) / own.max(1e-9))
            .fold(0.0, f64::max);
        let mut doubts = Vec::new();
        match card {
            Card::White if lightest > 1.0 / GREY => doubts.push(
                "Something else in the photo is more than twice as light as this: is it a grey card, or is the spot beside the card?",
            ),
            Card::White if lightest > LIGHTER => doubts.push(
                "Something else in the photo is lighter than this: is the spot on the card, and the card in the same light?",
            ),
            Card::Grey if lightest < 1.0 / GREY => doubts.push(
                "Nothing in the photo is much lighter than this: is it a white card rather than a grey one?",
            ),
            Card::White | Card::Grey | Card::Known(_) => {}
        }
        if !matches!(card, Card::Known(_)) && balance(seen) > TINTED {
            doubts.push("This spot looks tinted: a card is white or grey. Is the spot on the card, or the light strongly coloured?");
        }
        doubts
    }
}

impl Grid {
    /// The largest spot that lies wholly in a region.
    fn middle(&self, region: &[usize], width: usize) -> Option<PhotoSpot> {
        let mut of_it = vec![false; self.squares.len()];
        region.iter().for_each(|place| of_it[*place] = true);
        let inside = |x: i64, y: i64| {
            let within = x >= 0 && y >= 0 && (x as usize) < self.across && (y as usize) < self.down;
            within && of_it[y as usize * self.across + x as usize]
        };
        // How many rings of squares about each lie within.
        let rings = |place: usize| {
            let (x, y) = ((place % self.across) as i64, (place / self.across) as i64);
            (1..)
                .take_while(|n| {
                    (-n..=*n).all(|d| {
                        inside(x + d, y - n)
                            && inside(x + d, y + n)
                            && inside(x - n, y + d)
                            && inside(x + n, y + d)
                    })
                })
                .count()
        };
        let (place, rings) =
            region.iter().map(|place| (*place, rings(*place))).max_by_key(|(_, rings)| *rings)?;
        let unit = self.side as f64 / width as f64;
        let along = |n: usize| (n as f64 + 0.5) * unit;
        Some(PhotoSpot {
            x: along(place % self.across),
            y: along(place / self.across),
            radius: (unit * (rings as f64 + 0.4)).min(0.025),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const WIDTH: usize = 240;
    const HEIGHT: usize = 160;
    /// The card of [`scene`], from the left and the top, in pixels.
    const CARD: [std::ops::Range<usize>; 2] = [150..190, 40..90];
    const ON_CARD: PhotoSpot = PhotoSpot { x: 170.0 / 240.0, y: 65.0 / 240.0, radius: 0.025 };
    const ON_PAINT: PhotoSpot = PhotoSpot { x: 0.2, y: 0.3, radius: 0.025 };
    const OAT: [f64; 3] = [0.68, 0.61, 0.48];

    /// A chest of one paint before a darker wall, a card leaning on it, in some light.
    fn scene(paint: [f64; 3], card: [f64; 3], light: [f64; 3]) -> Photo {
        let pixel = |i: usize| {
            let (x, y) = (i % WIDTH, i / WIDTH);
            let surface = match (x, y) {
                _ if CARD[0].contains(&x) && CARD[1].contains(&y) => card,
                (_, 20..140) => paint,
                _ => [0.2, 0.22, 0.21],
            };
            std::array::from_fn(|c| (surface[c] * light[c]) as f32)
        };
        let clipped = vec![false; WIDTH * HEIGHT];
        Photo::new(WIDTH, (0..WIDTH * HEIGHT).map(pixel).collect(), clipped).unwrap()
    }

    proptest! {
        /// Whatever is painted, the card is found where it is, and nothing is said against it.
        #[test]
        fn the_card_is_found(paint in proptest::array::uniform3(0.02..0.7f64), warm in 0.85..1.0f64, cool in 0.75..1.0f64, level in 0.4..1.0f64) {
            let photo = scene(paint, [0.9; 3], [level * warm, level, level * cool]);
            let found = photo.likely_card().unwrap();
            let [x, y] = [found.x, found.y].map(|v| (v * WIDTH as f64) as usize);
            prop_assert!(CARD[0].contains(&x) && CARD[1].contains(&y), "{:?}", found);
            prop_assert!(photo.pick(Card::White, found, &[ON_PAINT]).unwrap().warnings.is_empty());
        }

        /// Any photo at all has a card or none.
        #[test]
        fn anything_is_looked_at(width in 1usize..40, height in 1usize..40, seed: u64) {
            let noise = |i: usize| ((seed.wrapping_mul(i as u64 + 7) >> 40) & 255) as f32 / 255.0;
            let pixels = (0..width * height).map(|i| [noise(i), noise(i + 1), noise(2 * i)]).collect();
            let photo = Photo::new(width, pixels, vec![false; width * height]).unwrap();
            let _ = photo.likely_card();
            let _ = photo.pick(Card::White, PhotoSpot { x: 0.5, y: 0.5, radius: 0.1 }, &[]);
        }
    }

    /// The chest painted oat does not come out white.
    #[test]
    fn a_spot_beside_the_card_is_questioned() {
        let photo = scene(OAT, [0.9; 3], [0.9, 0.9, 0.85]);
        let picked = photo.pick(Card::White, ON_PAINT, &[ON_PAINT]).unwrap();
        assert!(picked.warnings.iter().any(|warning| warning.contains("lighter than this")), "{picked:?}");
        let tinted = photo.pick(Card::White, PhotoSpot { y: 0.28, ..ON_PAINT }, &[ON_CARD]);
        assert!(tinted.is_err() || !tinted.unwrap().warnings.is_empty());
        assert!(
            photo.palette(Card::White, ON_PAINT, 8).unwrap().warnings.iter().any(|w| w.contains("lighter"))
        );
    }

    #[test]
    fn a_tinted_card_is_questioned() {
        let photo = scene([0.1; 3], [0.9, 0.7, 0.4], [0.9; 3]);
        let picked = photo.pick(Card::White, ON_CARD, &[ON_PAINT]).unwrap();
        assert!(picked.warnings.iter().any(|warning| warning.contains("tinted")), "{picked:?}");
    }

    #[test]
    fn a_grey_card_for_a_white_one_is_questioned_and_the_other_way_round() {
        let grey = scene([0.7; 3], [0.18; 3], [0.95; 3]);
        let as_white = grey.pick(Card::White, ON_CARD, &[]).unwrap();
        assert!(as_white.warnings[0].contains("grey card"), "{as_white:?}");
        assert!(grey.pick(Card::Grey, ON_CARD, &[]).unwrap().warnings.is_empty());
        let white = scene([0.5; 3], [0.9; 3], [0.9; 3]);
        let as_grey = white.pick(Card::Grey, ON_CARD, &[]).unwrap();
        assert!(as_grey.warnings[0].contains("white card"), "{as_grey:?}");
    }
}
