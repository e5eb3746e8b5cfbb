//! Reducing a photo while it is decoded: a photo of 64 megapixels is never held in more than 8 bits per channel, and a
//! PNG file not at all.

use std::{fmt, io::Cursor};

use image::{DynamicImage, GrayImage, ImageFormat, ImageReader, Rgb32FImage, metadata::Orientation};
use palette::encoding::IntoLinear;

/// From this code on a channel is taken for cut off by the camera.
const CLIPPED: u8 = 254;

/// A photo reduced block by block, in linear light (IEC 61966-2-1).
pub struct Blocks {
    pub across: usize,
    /// Means of the blocks.
    pub pixels: Vec<[f32; 3]>,
    /// True for blocks with a clipped pixel.
    pub clipped: Vec<bool>,
}

impl Blocks {
    /// Reads a file, with this many pixels across and down for each block.
    pub fn of<R: AsRef<[u8]>>(
        reader: ImageReader<Cursor<R>>,
        (width, step): (usize, usize),
    ) -> Result<Self, BadPixels> {
        let mut blocks = Gathering::new(width, step);
        match reader.format() {
            Some(ImageFormat::Png) => png_rows(reader.into_inner(), |row, samples| blocks.row(row, samples))?,
            _ => {
                let image = reader.decode().map_err(BadPixels::of)?;
                let is_coarse = image.color().bytes_per_pixel() == image.color().channel_count();
                let image = if is_coarse { image } else { image.into_rgb8().into() };
                let samples = usize::from(image.color().channel_count());
                for row in image.as_bytes().chunks_exact(samples * image.width() as usize) {
                    blocks.row(row, samples);
                }
            }
        }
        Ok(blocks.done)
    }

    /// Applies the camera's orientation.
    pub fn turned(self, as_held: Orientation) -> Self {
        if as_held == Orientation::NoTransforms {
            return self;
        }
        let (across, down) = (self.across as u32, (self.pixels.len() / self.across.max(1)) as u32);
        let turn = |image: Option<DynamicImage>| {
            let mut image = image.unwrap_or_default();
            image.apply_orientation(as_held);
            image
        };
        let pixels = Rgb32FImage::from_raw(across, down, self.pixels.into_flattened());
        let clipped = self.clipped.into_iter().map(u8::from).collect();
        let clipped = turn(GrayImage::from_raw(across, down, clipped).map(Into::into)).into_luma8();
        let pixels = turn(pixels.map(Into::into)).into_rgb32f();
        Self {
            across: pixels.width() as usize,
            pixels: pixels.pixels().map(|pixel| pixel.0).collect(),
            clipped: clipped.iter().map(|clipped| *clipped > 0).collect(),
        }
    }
}

/// The decoder's error message.
pub struct BadPixels(pub String);

impl BadPixels {
    fn of(error: impl fmt::Display) -> Self {
        Self(error.to_string())
    }
}

/// Rows of pixels on their way to blocks.
struct Gathering {
    step: usize,
    linear: [f32; 256],
    /// Of the row of blocks at hand.
    sums: Vec<[f32; 3]>,
    ends: Vec<bool>,
    /// How many rows of pixels are in them.
    rows: usize,
    done: Blocks,
}

impl Gathering {
    fn new(width: usize, step: usize) -> Self {
        let across = width / step;
        Self {
            step,
            linear: std::array::from_fn(|code| palette::encoding::Srgb::into_linear(code as u8)),
            sums: vec![[0.0; 3]; across],
            ends: vec![false; across],
            rows: 0,
            done: Blocks { across, pixels: Vec::new(), clipped: Vec::new() },
        }
    }

    /// Takes a row in: grey or colours, with or without an opacity.
    fn row(&mut self, row: &[u8], samples: usize) {
        let blocks = row.chunks_exact(samples * self.step);
        for ((block, sum), end) in blocks.zip(&mut self.sums).zip(&mut self.ends) {
            for pixel in block.chunks_exact(samples) {
                let rgb = match *pixel {
                    [red, green, blue, ..] => [red, green, blue],
                    [grey, ..] => [grey; 3],
                    [] => continue,
                };
                *end |= rgb.iter().any(|channel| *channel >= CLIPPED);
                for (sum, channel) in sum.iter_mut().zip(rgb) {
                    *sum += self.linear[usize::from(channel)];
                }
            }
        }
        self.rows += 1;
        if self.rows == self.step {
            let share = 1.0 / (self.step * self.step) as f32;
            self.done.pixels.extend(self.sums.iter().map(|sum| sum.map(|channel| channel * share)));
            self.done.clipped.extend(&self.ends);
            self.sums.fill([0.0; 3]);
            self.ends.fill(false);
            self.rows = 0;
        }
    }
}

/// The rows of a PNG file as they are decoded, with how many samples there are for a pixel. Of one whose rows do not come in order
/// (Adam7), all are held.
fn png_rows<R: AsRef<[u8]>>(file: Cursor<R>, mut each: impl FnMut(&[u8], usize)) -> Result<(), BadPixels> {
    let mut decoder = png::Decoder::new(file);
    decoder.set_transformations(png::Transformations::normalize_to_color8());
    let mut reader = decoder.read_info().map_err(BadPixels::of)?;
    let samples = reader.output_color_type().0.samples();
    if reader.info().interlaced {
        let size = reader.output_buffer_size().ok_or(BadPixels("too many pixels".to_owned()))?;
        let width = reader.info().width as usize;
        let mut all = vec![0; size];
        reader.next_frame(&mut all).map_err(BadPixels::of)?;
        all.chunks_exact(width * samples).for_each(|row| each(row, samples));
        return Ok(());
    }
    while let Some(row) = reader.next_row().map_err(BadPixels::of)? {
        each(row.data(), samples);
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use image::{DynamicImage, RgbImage};

    use super::*;

    fn blocks(file: &[u8], width: usize, step: usize) -> Result<Blocks, BadPixels> {
        Blocks::of(ImageReader::new(Cursor::new(file)).with_guessed_format().unwrap(), (width, step))
    }

    fn png(image: impl Into<DynamicImage>) -> Vec<u8> {
        let mut file = Cursor::new(Vec::new());
        image.into().write_to(&mut file, ImageFormat::Png).unwrap();
        file.into_inner()
    }

    fn chequered() -> RgbImage {
        RgbImage::from_fn(18, 12, |x, y| {
            image::Rgb([(14 * x) as u8, (20 * y) as u8, 7 * ((x + y) % 2) as u8])
        })
    }

    /// Whatever the depth, with and without an opacity: the same pixels.
    #[test]
    fn pixels_are_the_same_in_any_depth() {
        let plain = DynamicImage::from(chequered());
        let expected = blocks(&png(plain.clone()), 18, 1).map_err(|bad| bad.0).unwrap();
        let linear: f32 = palette::encoding::Srgb::into_linear(14u8 * 5);
        assert_eq!((expected.across, expected.pixels.len(), expected.pixels[5][0]), (18, 18 * 12, linear));
        let others =
            [plain.to_rgba8().into(), plain.to_rgb16().into(), DynamicImage::from(plain.to_rgba16())];
        for other in others {
            let seen = blocks(&png(other), 18, 1).map_err(|bad| bad.0).unwrap();
            assert_eq!((seen.pixels, seen.clipped), (expected.pixels.clone(), expected.clipped.clone()));
        }
        let grey = |image: DynamicImage| blocks(&png(image), 18, 1).map_err(|bad| bad.0).unwrap().pixels;
        let shallow = grey(plain.to_luma8().into());
        assert!(shallow.iter().all(|[red, green, blue]| red == green && green == blue));
        assert_eq!(shallow, grey(plain.to_luma_alpha8().into()));
        assert_eq!(shallow, grey(DynamicImage::from(plain.to_luma8()).to_luma16().into()));
    }

    /// A file whose rows come in seven passes (Adam7).
    #[test]
    fn rows_that_come_out_of_order_are_put_in_order() {
        let seen =
            blocks(include_bytes!("../tests/data/interlaced.png"), 16, 1).map_err(|bad| bad.0).unwrap();
        for (i, pixel) in seen.pixels.iter().enumerate() {
            let codes = [16 * (i % 16) as u8, 16 * (i / 16) as u8, 128];
            assert_eq!(
                *pixel,
                codes.map(|code| -> f32 { palette::encoding::Srgb::into_linear(code) }),
                "{i}"
            );
        }
    }

    /// Light adds up over a block, what is left over at the rims is left out, and one pixel that is clipped clips its block.
    #[test]
    fn a_block_is_the_mean_of_its_light() {
        let image = RgbImage::from_fn(17, 11, |x, y| {
            let lit = (x + y) % 2 == 0;
            image::Rgb([if (x, y) == (6, 6) { 255 } else { 100 }, if lit { 200 } else { 50 }, 30])
        });
        let seen = blocks(&png(image), 17, 4).map_err(|bad| bad.0).unwrap();
        assert_eq!((seen.across, seen.pixels.len()), (4, 8));
        let linear = |code: u8| -> f32 { palette::encoding::Srgb::into_linear(code) };
        for [_, green, _] in &seen.pixels {
            assert!((green - (linear(200) + linear(50)) / 2.0).abs() < 1e-5);
        }
        assert_eq!(seen.clipped.iter().position(|clipped| *clipped), Some(5));
        assert_eq!(seen.clipped.iter().filter(|clipped| **clipped).count(), 1);
    }
}
