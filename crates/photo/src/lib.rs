//! Colours from a photo that includes a white or grey card.
//!
//! A camera's values combine light, lens and the camera's own processing. A card of known reflectance in the same light
//! removes most of that: in linear light each channel is scaled so that the card becomes neutral (von Kries scaling of
//! the camera's channels). Photos that are clipped, too dark or uneven at the card are refused.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod corner;
mod homography;
mod palette;
mod pinhole;
mod plane_light;
mod plausible;
mod retinex;

use warm_blend_spectral::{Lab, Light, from_linear_srgb};

pub use homography::{BadCorners, Homography, Point2, check_corners};
pub use palette::{Palette, PhotoColour};
pub use pinhole::Pinhole;
pub use plane_light::PlaneLight;
pub use retinex::{Run, Surface, blurred, grain};

/// A photo in linear light.
#[derive(Debug, Clone)]
pub struct Photo {
    width: usize,
    /// Linear sRGB, 0–1, row by row from the top left.
    pixels: Vec<[f32; 3]>,
    /// Which of them had a channel at its end.
    clipped: Vec<bool>,
}

/// A round spot of a photo; lengths are relative to the width of the photo.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PhotoSpot {
    /// Distance from the left, 0–1.
    pub x: f64,
    /// Distance from the top, in widths.
    pub y: f64,
    /// Radius, in widths.
    pub radius: f64,
}

/// The median of at least one value, the upper one of two; orders them on the way.
pub fn median(values: &mut [f32]) -> f32 {
    let middle = values.len() / 2;
    *values.select_nth_unstable_by(middle, f32::total_cmp).1
}

/// What a photo is judged by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Card {
    /// A white card, reflectance 90 %†.
    White,
    /// A photographer's grey card, reflectance 18 % (common practice).
    Grey,
    /// A surface whose linear sRGB reflectances in daylight are known, each 0–1.
    Known([f64; 3]),
}

impl Card {
    /// Reflectance in each channel.
    fn reflects(self) -> [f64; 3] {
        match self {
            Self::White => [0.90; 3],
            Self::Grey => [0.18; 3],
            Self::Known(channels) => channels,
        }
    }
}

/// Why no colour can be picked.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadPick {
    /// Outside the photo, or without a size.
    #[error("the spot is outside the photo; move it inside")]
    Outside,
    /// The card is overexposed.
    #[error("the card is overexposed; take the photo again a little darker")]
    CardClipped,
    /// The card is too dark.
    #[error("the card is too dark to judge colours by; take the photo again with more light")]
    CardDark,
    /// A known colour with a channel that is nearly black.
    #[error("this colour is too dark or too pure to judge the light by; use a paler one, or a white card")]
    KnownTooDark,
    /// Not evenly coloured.
    #[error("the spot on the card is uneven; move it fully onto the card, out of shadow and glare")]
    CardUneven,
    /// The spot is overexposed.
    #[error("glare or overexposure here; pick beside it, or take the photo again a little darker")]
    SpotClipped,
    /// The spot is too dark.
    #[error("this spot is too dark to read; take the photo again with more light")]
    SpotDark,
    /// Brighter than any surface.
    #[error("too bright to be paint: glare here, or the card is in shadow")]
    Glare,
}

/// A spot from which no colour can be picked.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("{why}")]
pub struct NotPicked {
    /// Index of the spot; `None` for the card.
    pub spot: Option<usize>,
    /// The reason.
    pub why: BadPick,
}

impl From<BadPick> for NotPicked {
    fn from(why: BadPick) -> Self {
        Self { spot: None, why }
    }
}

/// Picked colours.
#[derive(Debug, Clone, PartialEq)]
pub struct Picked {
    /// Colours in daylight (D65, 2°), in the order of the spots.
    pub colours: Vec<Lab>,
    /// Reasons for doubt.
    pub warnings: Vec<&'static str>,
}

/// Least luminance of a card and of a spot, of full scale.
const CARD_DARK: f64 = 0.03;
const SPOT_DARK: f64 = 0.0015;
/// Least reflectance in a channel of a known colour†.
const KNOWN_DARK: f64 = 0.03;
/// Share of clipped pixels that is let through.
const SOME: f64 = 0.01;
/// Spread of an even card, sd over mean.
const EVEN: f64 = 0.12;
/// Change of the balance of channels across the card from which the light is mixed.
const MIXED: f64 = 0.05;

/// What the brightest surface of a room gives back†.
const BRIGHTEST: f64 = 0.75;

/// A photo by its card.
struct Weighed {
    /// What each channel is scaled by, so that the card comes out as the neutral it is.
    gains: [f64; 3],
    /// What may be wrong with that.
    warnings: Vec<&'static str>,
}

/// What a part of a photo comes to.
struct Mean {
    rgb: [f64; 3],
    /// Spread of luminance, sd over mean.
    spread: f64,
    pixels: f64,
    /// How many of them are clipped.
    clipped: f64,
}

impl Mean {
    fn clipped_share(&self) -> f64 {
        self.clipped / self.pixels
    }
}

impl Photo {
    /// A photo of linear pixels in rows; `None` if there is no complete row.
    pub fn new(width: usize, pixels: Vec<[f32; 3]>, clipped: Vec<bool>) -> Option<Self> {
        let whole = width > 0
            && !pixels.is_empty()
            && pixels.len().is_multiple_of(width)
            && clipped.len() == pixels.len();
        whole.then_some(Self { width, pixels, clipped })
    }

    /// Width and height in pixels.
    pub fn size(&self) -> (usize, usize) {
        (self.width, self.pixels.len() / self.width)
    }

    /// Pixels in linear sRGB, 0–1, row by row from the top left.
    pub fn pixels(&self) -> &[[f32; 3]] {
        &self.pixels
    }

    /// Weighs the photo by its card.
    fn weighed(&self, card: Card, at: PhotoSpot) -> Result<Weighed, BadPick> {
        let seen = self.mean(at, |_, _| true)?;
        if seen.clipped_share() > SOME {
            return Err(BadPick::CardClipped);
        }
        if luminance(seen.rgb) < CARD_DARK {
            return Err(BadPick::CardDark);
        }
        if seen.spread > EVEN {
            return Err(BadPick::CardUneven);
        }
        let reflects = card.reflects();
        if reflects.iter().any(|channel| *channel < KNOWN_DARK) {
            return Err(BadPick::KnownTooDark);
        }
        let gains = std::array::from_fn(|c| reflects[c] / seen.rgb[c].max(1e-6));
        let mut warnings = self.doubts(card, at, seen.rgb);
        if self.mixed(at)? {
            warnings.push(
                "Mixed light: one side of the card is warmer. Turn off the lamps or close the blind, and take it again",
            );
        }
        Ok(Weighed { gains, warnings })
    }

    /// What a perfect white would read in each channel where the card is, linear, and reasons for doubt.
    pub fn white(&self, card: Card, at: PhotoSpot) -> Result<([f64; 3], Vec<&'static str>), BadPick> {
        let Weighed { gains, warnings } = self.weighed(card, at)?;
        Ok((gains.map(|gain| 1.0 / gain), warnings))
    }

    /// The same without a card: the brightest things in the photo are taken for nearly white. Approximate.
    pub fn guessed_white(&self) -> [f64; 3] {
        let mut bright: Vec<[f32; 3]> = self.pixels.iter().step_by(7).copied().collect();
        let of = |rgb: &[f32; 3]| luminance(rgb.map(f64::from));
        let upper = bright.len() * 97 / 100;
        bright.select_nth_unstable_by(upper, |one, other| of(one).total_cmp(&of(other)));
        let top = &bright[upper..];
        std::array::from_fn(|c| {
            let mean = top.iter().map(|rgb| f64::from(rgb[c])).sum::<f64>() / top.len() as f64;
            (mean / BRIGHTEST).max(1e-3)
        })
    }

    /// Picks colours at spots, relative to the card.
    pub fn pick(&self, card: Card, at: PhotoSpot, spots: &[PhotoSpot]) -> Result<Picked, NotPicked> {
        let Weighed { gains, warnings } = self.weighed(card, at)?;
        let pick = |(n, spot): (usize, &PhotoSpot)| {
            self.colour(*spot, gains).map_err(|why| NotPicked { spot: Some(n), why })
        };
        let colours = spots.iter().enumerate().map(pick).collect::<Result<_, _>>()?;
        Ok(Picked { colours, warnings })
    }

    /// The colour of a spot of a photo that was weighed.
    fn colour(&self, spot: PhotoSpot, gains: [f64; 3]) -> Result<Lab, BadPick> {
        let mean = self.mean(spot, |_, _| true)?;
        if mean.clipped_share() > SOME {
            return Err(BadPick::SpotClipped);
        }
        if luminance(mean.rgb) < SPOT_DARK {
            return Err(BadPick::SpotDark);
        }
        let weighed: [f64; 3] = std::array::from_fn(|c| mean.rgb[c] * gains[c]);
        if luminance(weighed) > 1.05 {
            return Err(BadPick::Glare);
        }
        Ok(Lab::of(from_linear_srgb(weighed), Light::Daylight.white()))
    }

    /// Whether the balance of channels changes from one half of the card to the other.
    fn mixed(&self, at: PhotoSpot) -> Result<bool, BadPick> {
        let balance = |half: [f64; 3]| [half[0] / half[1].max(1e-6), half[2] / half[1].max(1e-6)];
        let far = |one: Mean, other: Mean| {
            let (one, other) = (balance(one.rgb), balance(other.rgb));
            (0..2).any(|i| (one[i] / other[i].max(1e-6) - 1.0).abs() > MIXED)
        };
        let across = far(self.mean(at, |x, _| x < 0.0)?, self.mean(at, |x, _| x >= 0.0)?);
        Ok(across || far(self.mean(at, |_, y| y < 0.0)?, self.mean(at, |_, y| y >= 0.0)?))
    }

    /// The mean over a spot, of the pixels whose place about the middle is wanted.
    fn mean(&self, spot: PhotoSpot, wanted: impl Fn(f64, f64) -> bool) -> Result<Mean, BadPick> {
        let (width, height) = self.size();
        let scale = width as f64;
        let sound = [spot.x, spot.y, spot.radius].iter().all(|v| v.is_finite()) && spot.radius > 0.0;
        if !sound || spot.radius > 0.5 {
            return Err(BadPick::Outside);
        }
        // At least the pixel in the middle, however small the spot.
        let (x, y, radius) = (spot.x * scale, spot.y * scale, (spot.radius * scale).max(0.75));
        let range = |middle: f64, most: usize| {
            let (from, to) = ((middle - radius).floor().max(0.0), (middle + radius).ceil().min(most as f64));
            from as usize..to.max(0.0) as usize
        };
        let inside = |(column, row): &(usize, usize)| {
            let (dx, dy) = (*column as f64 + 0.5 - x, *row as f64 + 0.5 - y);
            dx * dx + dy * dy <= radius * radius && wanted(dx, dy)
        };
        let all = range(y, height).flat_map(|row| range(x, width).map(move |column| (column, row)));
        self.mean_of(all.filter(inside)).ok_or(BadPick::Outside)
    }

    /// The mean over a square, as far as the photo reaches: `left` and `top` lie in it.
    fn mean_of_square(&self, left: usize, top: usize, side: usize) -> Option<Mean> {
        let (width, height) = self.size();
        let columns = left..(left + side).min(width);
        let rows = top..(top + side).min(height);
        self.mean_of(rows.flat_map(|row| columns.clone().map(move |column| (column, row))))
    }

    /// The mean over pixels, by column and row; none of nothing.
    fn mean_of(&self, pixels: impl Iterator<Item = (usize, usize)>) -> Option<Mean> {
        let (mut n, mut sum, mut square, mut clipped) = (0.0, [0.0; 3], 0.0, 0.0);
        for (column, row) in pixels {
            let i = row * self.width + column;
            let rgb = self.pixels[i].map(f64::from);
            n += 1.0;
            clipped += f64::from(u8::from(self.clipped[i]));
            square += luminance(rgb).powi(2);
            for (sum, channel) in sum.iter_mut().zip(rgb) {
                *sum += channel;
            }
        }
        if n == 0.0 {
            return None;
        }
        let rgb = sum.map(|channel| channel / n);
        let mean = luminance(rgb);
        let spread = (square / n - mean * mean).max(0.0).sqrt() / mean.max(1e-9);
        Some(Mean { rgb, spread, pixels: n, clipped })
    }
}

/// Y of linear sRGB (IEC 61966-2-1).
pub fn luminance([red, green, blue]: [f64; 3]) -> f64 {
    0.2126 * red + 0.7152 * green + 0.0722 * blue
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_spectral::{Srgb, difference};

    /// A card on the left half, a paint on the right, under light of some balance.
    fn scene(paint: [f64; 3], light: [f64; 3], right: [f64; 3]) -> Photo {
        let pixel = |i: usize| {
            let (x, card) = (i % 100, [0.9; 3]);
            let surface = if x < 50 { card } else { paint };
            let along = x as f64 / 50.0;
            let falls: [f64; 3] = std::array::from_fn(|c| {
                if x < 50 { light[c] * (1.0 - along) + right[c] * along } else { light[c] }
            });
            std::array::from_fn(|c| (surface[c] * falls[c]) as f32)
        };
        Photo::new(100, (0..6000).map(pixel).collect(), vec![false; 6000]).unwrap()
    }

    const CARD: PhotoSpot = PhotoSpot { x: 0.25, y: 0.3, radius: 0.2 };
    const PAINT: PhotoSpot = PhotoSpot { x: 0.75, y: 0.3, radius: 0.15 };

    fn linear(code: Srgb) -> [f64; 3] {
        ::palette::Srgb::new(code.red, code.green, code.blue).into_format::<f64>().into_linear().into()
    }

    proptest! {
        #[test]
        fn the_light_is_taken_out(code in any::<[u8; 3]>(), warm in 0.6..1.0f64, cool in 0.5..1.0f64, level in 0.3..1.0f64) {
            let code = Srgb { red: code[0].max(24), green: code[1].max(24), blue: code[2].max(24) };
            let light = [level * warm, level, level * cool];
            let picked = scene(linear(code), light, light).pick(Card::White, CARD, &[PAINT]).unwrap();
            prop_assert!(difference(picked.colours[0], code.to_lab()).value() < 0.05);
            prop_assert!(picked.warnings.is_empty());
        }

        #[test]
        fn any_spot_is_a_colour_or_a_message(x in -2.0..2.0f64, y in -2.0..2.0f64, radius in -0.5..0.9f64) {
            let photo = scene([0.2; 3], [0.8; 3], [0.8; 3]);
            let spot = PhotoSpot { x, y, radius };
            let _ = photo.pick(Card::Grey, CARD, &[spot]);
            let _ = photo.pick(Card::White, spot, &[PAINT]);
        }
    }

    #[test]
    fn what_cannot_be_helped_is_refused() {
        let even = [0.8; 3];
        let photo = scene([0.2; 3], even, even);
        assert_eq!(
            photo.pick(Card::White, PhotoSpot { x: 0.5, ..CARD }, &[PAINT]),
            Err(BadPick::CardUneven.into())
        );
        assert_eq!(
            photo.pick(Card::White, CARD, &[PAINT, PhotoSpot { x: 3.0, ..PAINT }]),
            Err(NotPicked { spot: Some(1), why: BadPick::Outside })
        );
        let dark = scene([0.2; 3], [0.01; 3], [0.01; 3]);
        assert_eq!(dark.pick(Card::White, CARD, &[PAINT]), Err(BadPick::CardDark.into()));
        assert_eq!(
            scene([0.0005; 3], even, even).pick(Card::White, CARD, &[PAINT]),
            Err(NotPicked { spot: Some(0), why: BadPick::SpotDark })
        );
        assert_eq!(photo.pick(Card::Grey, CARD, &[CARD]).unwrap().colours.len(), 1);
        assert_eq!(
            scene([0.9; 3], even, even).pick(Card::Grey, PAINT, &[PAINT]).map(|p| p.colours.len()),
            Ok(1)
        );
        let clipped = Photo { clipped: vec![true; 6000], ..photo };
        assert_eq!(clipped.pick(Card::White, CARD, &[PAINT]), Err(BadPick::CardClipped.into()));
    }

    #[test]
    fn mixed_light_is_warned_of() {
        let mixed = scene([0.2; 3], [0.8, 0.8, 0.8], [0.8, 0.7, 0.5]);
        assert_eq!(
            mixed.pick(Card::White, PhotoSpot { radius: 0.1, ..CARD }, &[PAINT]).unwrap().warnings.len(),
            1
        );
    }

    #[test]
    fn rows_must_be_whole() {
        assert!(Photo::new(0, vec![], vec![]).is_none());
        assert!(Photo::new(3, vec![[0.0; 3]; 4], vec![false; 4]).is_none());
        assert!(Photo::new(2, vec![[0.0; 3]; 4], vec![false; 3]).is_none());
    }
}
