//! Sampling of a picture.

use rayon::prelude::*;

use crate::{
    picture::{LINEAR, Picture, Screen},
    relief::{BadSize, sized},
};

/// Number of samples per pixel.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum Fineness {
    /// One sample, for interaction.
    #[default]
    Quick,
    /// Four samples, averaged in linear light: edges are smooth, and details smaller than a pixel show in proportion. A
    /// very large picture still gets one.
    Fine,
}

/// Larger pictures are not drawn more finely, pixels as they are drawn.
const MOST: u64 = 4_200_000;

impl Fineness {
    /// How often across and down each pixel of a picture of this size is drawn.
    fn times(self, width: u32, height: u32) -> usize {
        match self {
            Self::Fine if u64::from(width).saturating_mul(4 * u64::from(height)) <= MOST => 2,
            _ => 1,
        }
    }
}

/// Size in samples.
pub(crate) struct Drawn {
    pub width: usize,
    pub height: usize,
    /// Samples per pixel in each direction.
    pub times: usize,
}

impl Drawn {
    /// Size in samples of a picture in pixels.
    pub fn of((width, height): (u32, u32), fineness: Fineness) -> Result<Self, BadSize> {
        let times = fineness.times(width, height);
        let (width, height) = sized(width, height)?;
        Ok(Self { width: times * width, height: times * height, times })
    }
}

impl Picture {
    /// Averages this many samples in each direction.
    pub(crate) fn from_finer(finer: Self, times: usize) -> Self {
        if times < 2 {
            return finer;
        }
        let linear = &*LINEAR;
        let screen = Screen::get();
        let (width, from) = (finer.width as usize / times, 3 * finer.width as usize);
        let share = 1.0 / (times * times) as f32;
        let mut rgb = vec![0; 3 * width * (finer.height as usize / times)];
        rgb.par_chunks_exact_mut(3 * width).zip(finer.rgb.par_chunks_exact(times * from)).for_each(
            |(row, rows)| {
                for (x, pixel) in row.chunks_exact_mut(3).enumerate() {
                    let mut sum = [0.0; 3];
                    for finer in rows.chunks_exact(from) {
                        for (i, code) in finer[3 * times * x..][..3 * times].iter().enumerate() {
                            sum[i % 3] += linear[usize::from(*code)];
                        }
                    }
                    for (to, sum) in pixel.iter_mut().zip(sum) {
                        *to = screen.code(share * sum);
                    }
                }
            },
        );
        Self { width: finer.width / times as u32, height: finer.height / times as u32, rgb }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn light_adds_up_and_plain_colours_stay() {
        let chequered = |one: u8, other: u8| {
            let rgb = (0..16).flat_map(|i| [if (i + i / 4) % 2 == 0 { one } else { other }; 3]).collect();
            Picture::from_finer(Picture { width: 4, height: 4, rgb }, 2)
        };
        for code in 0..=255 {
            assert_eq!(chequered(code, code), Picture { width: 2, height: 2, rgb: vec![code; 12] });
        }
        // Half of the light of white is the code 188 of IEC 61966-2-1.
        assert_eq!(chequered(0, 255).rgb, vec![188; 12]);
    }

    #[test]
    fn large_pictures_are_drawn_once() {
        let times = |size, fineness| Drawn::of(size, fineness).map(|drawn| drawn.times);
        assert_eq!(times((840, 420), Fineness::Fine), Ok(2));
        assert_eq!(times((840, 420), Fineness::Quick), Ok(1));
        assert_eq!(times((2400, 1200), Fineness::Fine), Ok(1));
        assert!(times((u32::MAX, u32::MAX), Fineness::Fine).is_err());
    }
}
