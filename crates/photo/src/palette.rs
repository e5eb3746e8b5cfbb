//! Main colours of a photo by area, relative to the card, with shadow distinguished from paint as far as possible.
//!
//! The photo is divided into small squares; those that contain an edge count only for area. Squares are binned in
//! L\*a\*b\*, and the closest bins are merged until all can be told apart (centroid clustering: R. R. Sokal and C. D.
//! Michener, *Univ. Kansas Sci. Bull.* 38 (1958) 1409). Each square is assigned to its nearest colour, and the value of a
//! colour is the median of its even squares. Paint in shadow reflects the same shares of a weaker light, so a\*/(L\* +
//! 16) and b\*/(L\* + 16) do not change (from the cube roots of CIE 15), and shadow lies next to what it falls on.

use warm_blend_spectral::{Lab, Light, from_linear_srgb};

use crate::{BadPick, Card, Photo, PhotoSpot, SPOT_DARK, Weighed, luminance};

/// About how many squares a photo is looked at in.
const SQUARES: f64 = 30_000.0;
/// Colours nearer than this, ΔE\*ab, are one.
const APART: f64 = 9.0;
/// Width of a bin, L\*a\*b\*.
const BIN: f64 = 5.0;
/// A colour takes such a share at least†.
const LEAST: f64 = 0.015;
/// A square with a spread of luminance beyond this holds an edge.
const EVEN: f64 = 0.10;
/// How far the two shares that shade leaves alone may be apart†.
const SAME_SHARES: f64 = 0.022;
/// How much weaker the light of a shade is†.
const SHADE: (f64, f64) = (0.2, 0.92);
/// Of the rim of a shade such a share lies beside what it falls on, at least†.
const BESIDE: f64 = 0.12;
/// What is as near to the card as this and joined to it is the card.
const CARD: f64 = 6.0;

/// A main colour of a photo.
#[derive(Debug, Clone, PartialEq)]
pub struct PhotoColour {
    /// Colour in daylight (D65, 2°).
    pub lab: Lab,
    /// Share of the area examined, 0–1.
    pub share: f64,
    /// A point of this colour, in widths of the photo from the left and from the top.
    pub at: (f64, f64),
    /// Index of the colour of which this may be the shadow.
    pub shade_of: Option<usize>,
    /// Indices of the colours along much of its boundary, longest first.
    pub beside: Vec<usize>,
    /// Length of its boundary relative to that of a square of its size: paint lies in one area, dirt and wear in patches.
    pub scattered: f64,
}

/// The main colours of a photo.
#[derive(Debug, Clone, PartialEq)]
pub struct Palette {
    /// Colours, largest first.
    pub colours: Vec<PhotoColour>,
    /// Reasons for doubt.
    pub warnings: Vec<&'static str>,
}

struct Squares {
    across: usize,
    /// The colour of each; none of what is clipped, too dark or the card.
    lab: Vec<Option<Lab>>,
    even: Vec<bool>,
}

impl Photo {
    /// Main colours relative to the card; `most` at most.
    pub fn palette(&self, card: Card, at: PhotoSpot, most: usize) -> Result<Palette, BadPick> {
        let Weighed { gains, mut warnings } = self.weighed(card, at)?;
        let (mut squares, lost) = self.squares(gains);
        let (width, _) = self.size();
        let side = width as f64 / squares.across as f64;
        let middle = |v: f64| (v * width as f64 / side) as usize;
        squares.take_out(middle(at.y) * squares.across + middle(at.x).min(squares.across - 1));
        let mut means = squares.means();
        let mut of = squares.nearest(&means);
        // What takes too little room goes to its nearest.
        loop {
            let all = of.iter().flatten().count().max(1) as f64;
            let count = |k: usize| of.iter().flatten().filter(|own| **own == k).count() as f64 / all;
            let small = (0..means.len()).min_by(|a, b| count(*a).total_cmp(&count(*b)));
            let Some(small) = small.filter(|k| means.len() > most || count(*k) < LEAST) else { break };
            means.remove(small);
            if means.is_empty() {
                break;
            }
            of = squares.nearest(&means);
        }
        let mut colours = squares.colours(&means, &of);
        colours.sort_by(|a, b| b.0.share.total_cmp(&a.0.share));
        let order: Vec<usize> = colours.iter().map(|(_, k)| *k).collect();
        let beside = squares.beside(means.len(), &of);
        let mut list: Vec<PhotoColour> = colours.into_iter().map(|(colour, _)| colour).collect();
        let all = of.iter().flatten().count() as f64;
        for i in 0..list.len() {
            let rims = |j: usize| beside[order[i]][order[j]];
            let rim: f64 = beside[order[i]].iter().sum();
            let mut near: Vec<usize> =
                (0..list.len()).filter(|j| *j != i && rims(*j) >= BESIDE * rim.max(1.0)).collect();
            near.sort_by(|a, b| rims(*b).total_cmp(&rims(*a)));
            let falls_on = |j: &&usize| list[**j].shade_of.is_none() && in_shade(list[i].lab, list[**j].lab);
            list[i].shade_of = near.iter().find(falls_on).copied();
            list[i].scattered = rim / (4.0 * (list[i].share * all).sqrt()).max(1.0);
            list[i].beside = near;
        }
        if lost > 0.1 {
            warnings.push("More than a tenth of the photo is overexposed or black; those areas are left out");
        }
        Ok(Palette { colours: list, warnings })
    }

    /// The photo in squares, weighed; and the share of them that is lost.
    fn squares(&self, gains: [f64; 3]) -> (Squares, f64) {
        let (width, height) = self.size();
        let side = ((width * height) as f64 / SQUARES).sqrt().ceil().max(1.0) as usize;
        let (across, down) = (width.div_ceil(side), height.div_ceil(side));
        let (mut lab, mut even, mut lost) = (Vec::new(), Vec::new(), 0usize);
        for place in 0..across * down {
            let (left, top) = (place % across * side, place / across * side);
            let Some(mean) = self.mean_of_square(left, top, side) else { continue };
            let weighed: [f64; 3] = std::array::from_fn(|c| mean.rgb[c] * gains[c]);
            let sound = mean.clipped < 0.05 * mean.pixels
                && luminance(mean.rgb) >= SPOT_DARK
                && luminance(weighed) <= 1.05;
            lost += usize::from(!sound);
            lab.push(sound.then(|| Lab::of(from_linear_srgb(weighed), Light::Daylight.white())));
            even.push(mean.spread <= EVEN);
        }
        let share = lost as f64 / (across * down).max(1) as f64;
        (Squares { across, lab, even }, share)
    }
}

/// Whether one may be the other in shade.
fn in_shade(dark: Lab, light: Lab) -> bool {
    let shares = |lab: Lab| (lab.a / (lab.l + 16.0), lab.b / (lab.l + 16.0));
    let ((a, b), (c, d)) = (shares(dark), shares(light));
    let weaker = ((dark.l + 16.0) / (light.l + 16.0)).powi(3);
    (a - c).hypot(b - d) < SAME_SHARES && weaker > SHADE.0 && weaker < SHADE.1
}

fn apart(one: Lab, other: Lab) -> f64 {
    ((one.l - other.l).powi(2) + (one.a - other.a).powi(2) + (one.b - other.b).powi(2)).sqrt()
}

impl Squares {
    /// The four beside a place.
    fn around(&self, place: usize) -> impl Iterator<Item = usize> + use<> {
        let (across, all) = (self.across, self.lab.len());
        let (column, left) = (place % across, place.checked_sub(1));
        let left = left.filter(|_| column > 0);
        let right = (column + 1 < across).then_some(place + 1).filter(|next| *next < all);
        let below = Some(place + across).filter(|next| *next < all);
        [left, right, place.checked_sub(across), below].into_iter().flatten()
    }

    /// Takes the card out: what is joined to a place and of its colour.
    fn take_out(&mut self, from: usize) {
        let Some(Some(card)) = self.lab.get(from).copied() else { return };
        let mut next = vec![from];
        while let Some(place) = next.pop() {
            if self.lab[place].is_some_and(|lab| apart(lab, card) < CARD) {
                self.lab[place] = None;
                next.extend(self.around(place));
            }
        }
    }

    /// Colours that are distinguished.
    fn means(&self) -> Vec<Lab> {
        let mut bins: std::collections::BTreeMap<[i32; 3], ([f64; 3], f64)> = Default::default();
        for (lab, even) in self.lab.iter().zip(&self.even) {
            let Some(lab) = lab.filter(|_| *even) else { continue };
            let key = [lab.l, lab.a, lab.b].map(|value| (value / BIN).floor() as i32);
            let (sum, n) = bins.entry(key).or_default();
            for (sum, value) in sum.iter_mut().zip([lab.l, lab.a, lab.b]) {
                *sum += value;
            }
            *n += 1.0;
        }
        let mean = |sum: [f64; 3], n: f64| Lab { l: sum[0] / n, a: sum[1] / n, b: sum[2] / n };
        let mut groups: Vec<(Lab, f64)> = bins.into_values().map(|(sum, n)| (mean(sum, n), n)).collect();
        loop {
            let mut nearest: Option<(f64, usize, usize)> = None;
            for i in 0..groups.len() {
                for j in 0..i {
                    let far = apart(groups[i].0, groups[j].0);
                    if far < nearest.map_or(APART, |(least, ..)| least) {
                        nearest = Some((far, i, j));
                    }
                }
            }
            let Some((_, i, j)) = nearest else { break };
            let (one, n) = groups.swap_remove(i);
            let (other, m) = groups[j];
            let both = |f: fn(Lab) -> f64| (f(one) * n + f(other) * m) / (n + m);
            groups[j] = (Lab { l: both(|lab| lab.l), a: both(|lab| lab.a), b: both(|lab| lab.b) }, n + m);
        }
        groups.into_iter().map(|(lab, _)| lab).collect()
    }

    fn nearest(&self, means: &[Lab]) -> Vec<Option<usize>> {
        let near = |lab: Lab| {
            (0..means.len()).min_by(|a, b| apart(lab, means[*a]).total_cmp(&apart(lab, means[*b])))
        };
        self.lab.iter().map(|lab| near((*lab)?)).collect()
    }

    /// Each colour with its number among the means.
    fn colours(&self, means: &[Lab], of: &[Option<usize>]) -> Vec<(PhotoColour, usize)> {
        let all = of.iter().flatten().count().max(1) as f64;
        let median = |mut values: Vec<f64>| {
            values.sort_by(f64::total_cmp);
            values[values.len() / 2]
        };
        let colour = |k: usize| {
            let own: Vec<usize> = (0..of.len()).filter(|place| of[*place] == Some(k)).collect();
            let even: Vec<usize> = own.iter().copied().filter(|place| self.even[*place]).collect();
            let sure = if even.is_empty() { &own } else { &even };
            let labs: Vec<Lab> = sure.iter().filter_map(|place| self.lab[*place]).collect();
            if labs.is_empty() {
                return None;
            }
            let of = |value: fn(&Lab) -> f64| median(labs.iter().map(value).collect());
            let lab = Lab { l: of(|lab| lab.l), a: of(|lab| lab.a), b: of(|lab| lab.b) };
            // The place of it that is nearest to the middle of all of it.
            let spot =
                |place: usize| ((place % self.across) as f64 + 0.5, (place / self.across) as f64 + 0.5);
            let sum =
                own.iter().map(|place| spot(*place)).fold((0.0, 0.0), |sum, at| (sum.0 + at.0, sum.1 + at.1));
            let middle = (sum.0 / own.len() as f64, sum.1 / own.len() as f64);
            let far = |place: usize| (spot(place).0 - middle.0).hypot(spot(place).1 - middle.1);
            let place = *sure.iter().min_by(|a, b| far(**a).total_cmp(&far(**b)))?;
            let across = self.across as f64;
            let at = (spot(place).0 / across, spot(place).1 / across);
            let share = own.len() as f64 / all;
            Some((PhotoColour { lab, share, at, shade_of: None, beside: Vec::new(), scattered: 0.0 }, k))
        };
        (0..means.len()).filter_map(colour).collect()
    }

    /// How often each colour lies beside each other.
    fn beside(&self, n: usize, of: &[Option<usize>]) -> Vec<Vec<f64>> {
        let mut beside = vec![vec![0.0; n]; n];
        for place in 0..of.len() {
            for next in self.around(place) {
                if let (Some(one), Some(other)) = (of[place], of[next])
                    && one != other
                {
                    beside[one][other] += 1.0;
                }
            }
        }
        beside
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_spectral::difference;

    const WIDE: usize = 300;
    const HIGH: usize = 200;
    const AT: PhotoSpot = PhotoSpot { x: 0.06, y: 0.06, radius: 0.03 };

    /// Bands of paint side by side with a card in the corner, seen in a light; the lower third in shade; with some noise.
    fn scene(paints: &[[f64; 3]], shares: &[f64], light: [f64; 3], shade: f64, noise: f64) -> Photo {
        let mut chance = 1u32;
        let mut pixels = Vec::new();
        for i in 0..WIDE * HIGH {
            let (x, y) = (i % WIDE, i / WIDE);
            let along = x as f64 / WIDE as f64;
            let mut end = 0.0;
            let paint = shares.iter().position(|share| {
                end += share;
                along < end
            });
            let surface = if x < 36 && y < 36 { [0.9; 3] } else { paints[paint.unwrap_or(paints.len() - 1)] };
            let weaker = if y * 3 > HIGH * 2 { shade } else { 1.0 };
            chance = chance.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            let off = 1.0 + noise * (f64::from(chance >> 8) / f64::from(1u32 << 24) - 0.5);
            pixels.push(std::array::from_fn(|c| (surface[c] * light[c] * weaker * off) as f32));
        }
        Photo::new(WIDE, pixels, vec![false; WIDE * HIGH]).unwrap()
    }

    fn lab(paint: [f64; 3]) -> Lab {
        Lab::of(from_linear_srgb(paint), Light::Daylight.white())
    }

    /// An ochre, a slate, a dark red and an off-white, linear.
    const PAINTS: [[f64; 3]; 4] =
        [[0.42, 0.26, 0.07], [0.09, 0.14, 0.20], [0.11, 0.02, 0.02], [0.75, 0.70, 0.60]];

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(32))]

        /// The paints of a scene and the room they take, whatever the light.
        #[test]
        fn the_paints_of_a_scene_are_found(shares in proptest::array::uniform4(0.1..1.0f64), warm in 0.6..1.0f64, cool in 0.5..1.0f64, noise in 0.0..0.2f64) {
            let all: f64 = shares.iter().sum();
            let shares = shares.map(|share| share / all);
            let photo = scene(&PAINTS, &shares, [0.9 * warm, 0.9, 0.9 * cool], 1.0, noise);
            let palette = photo.palette(Card::White, AT, 12).unwrap();
            prop_assert_eq!(palette.colours.len(), 4, "{:?}", palette);
            let card = 36.0 * 36.0 / (WIDE * HIGH) as f64;
            for (n, (paint, share)) in PAINTS.iter().zip(shares).enumerate() {
                let near = |colour: &&PhotoColour| difference(colour.lab, lab(*paint)).value() < 3.0;
                let found: Vec<&PhotoColour> = palette.colours.iter().filter(near).collect();
                prop_assert_eq!(found.len(), 1, "{:?}", palette);
                // The card hides some of the first.
                let room = if n == 0 { (share - card.min(share)) / (1.0 - card) } else { share / (1.0 - card) };
                prop_assert!((found[0].share - room).abs() < 0.1, "{} for {}", found[0].share, room);
                prop_assert_eq!(found[0].shade_of, None);
            }
            let sum: f64 = palette.colours.iter().map(|colour| colour.share).sum();
            prop_assert!((sum - 1.0).abs() < 1e-9);
        }

        /// Of a paint that is partly in shade the shade is shown, and paints are never taken for each other's.
        #[test]
        fn shade_is_told_from_paint(shade in 0.35..0.6f64, at in 0usize..4) {
            // What is hardly darker is one colour with it.
            prop_assume!(apart(lab(PAINTS[at]), lab(PAINTS[at].map(|channel| channel * shade))) > 14.0);
            let share: [f64; 4] = std::array::from_fn(|n| if n == at { 0.7 } else { 0.1 });
            let photo = scene(&PAINTS, &share, [0.8, 0.7, 0.5], shade, 0.05);
            let palette = photo.palette(Card::White, AT, 12).unwrap();
            let near = |want: Lab| palette.colours.iter().position(|colour| difference(colour.lab, want).value() < 4.0);
            let full = near(lab(PAINTS[at])).expect("the paint in full light");
            let dark = near(lab(PAINTS[at].map(|channel| channel * shade))).expect("the same in shade");
            prop_assert_eq!(palette.colours[dark].shade_of, Some(full), "{:?}", palette);
            prop_assert_eq!(palette.colours[full].shade_of, None);
        }
    }

    proptest! {
        /// Any photo, any card, any number: a palette whose shares add up, or a message; never a panic.
        #[test]
        fn any_photo_has_a_palette_or_a_message(
            wide in 1usize..40, high in 1usize..40, seed: u32, x in 0.0..1.0f64, y in 0.0..1.0f64, radius in 0.001..0.4f64, most in 0usize..10,
        ) {
            let mut chance = seed;
            let mut pixel = || {
                chance = chance.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
                (chance >> 8) as f32 / (1u32 << 24) as f32
            };
            let pixels: Vec<[f32; 3]> = (0..wide * high).map(|_| [pixel(), pixel(), pixel()]).collect();
            let clipped = pixels.iter().map(|pixel| pixel[0] > 0.98).collect();
            let photo = Photo::new(wide, pixels, clipped).unwrap();
            for card in [Card::White, Card::Grey] {
                let Ok(palette) = photo.palette(card, PhotoSpot { x, y, radius }, most) else { continue };
                prop_assert!(palette.colours.len() <= most.max(1));
                let sum: f64 = palette.colours.iter().map(|colour| colour.share).sum();
                prop_assert!(palette.colours.is_empty() || (sum - 1.0).abs() < 1e-9);
                for (n, colour) in palette.colours.iter().enumerate() {
                    prop_assert!(colour.shade_of.is_none_or(|of| of != n && palette.colours[of].shade_of.is_none()));
                    prop_assert!((0.0..=1.0).contains(&colour.at.0) && colour.at.1 >= 0.0);
                }
            }
        }
    }

    #[test]
    fn what_cannot_be_read_is_said() {
        let photo = scene(&PAINTS, &[0.25; 4], [0.8; 3], 1.0, 0.0);
        assert_eq!(photo.palette(Card::White, PhotoSpot { x: 3.0, ..AT }, 8).unwrap_err(), BadPick::Outside);
        let two = photo.palette(Card::White, AT, 2).unwrap();
        assert_eq!(two.colours.len(), 2, "no more than asked for");
        let Photo { width, pixels, .. } = photo;
        let glare: Vec<bool> = (0..pixels.len()).map(|i| i % WIDE > 200).collect();
        let clipped = Photo::new(width, pixels, glare).unwrap().palette(Card::White, AT, 8).unwrap();
        assert!(clipped.warnings[0].contains("overexposed"), "{:?}", clipped.warnings);
    }
}
