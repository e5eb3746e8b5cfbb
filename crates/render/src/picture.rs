//! Pixels, and the conversion of light to their codes.

use std::sync::{LazyLock, OnceLock};

use palette::encoding::{FromLinear, IntoLinear};

/// A picture: pixels, row by row.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Picture {
    /// Width, pixels.
    pub width: u32,
    /// Height, pixels.
    pub height: u32,
    /// sRGB red, green and blue of each pixel.
    pub rgb: Vec<u8>,
}

/// Steps of the table from linear to 8-bit channels: fine enough for the dark end, where 255 steps are narrowest.
const STEPS: usize = 16384;

/// Table that converts linear channels to 8-bit sRGB.
pub(crate) struct Screen(Vec<u8>);

impl Screen {
    /// The table, computed when first needed.
    pub(crate) fn get() -> &'static Self {
        static SCREEN: OnceLock<Screen> = OnceLock::new();
        let code = |i: usize| palette::encoding::Srgb::from_linear(i as f64 / (STEPS - 1) as f64);
        SCREEN.get_or_init(|| Screen((0..STEPS).map(code).collect()))
    }

    #[inline]
    pub(crate) fn code(&self, linear: f32) -> u8 {
        self.0[(linear.clamp(0.0, 1.0) * (STEPS - 1) as f32 + 0.5) as usize]
    }
}

/// Linear channel of each 8-bit sRGB code.
pub(crate) static LINEAR: LazyLock<[f32; 256]> =
    LazyLock::new(|| std::array::from_fn(|code| palette::encoding::Srgb::into_linear(code as u8)));

impl Picture {
    /// Encodes the picture as PNG.
    pub fn to_png(&self) -> Vec<u8> {
        use image::ImageEncoder;
        use image::codecs::png::{CompressionType, FilterType, PngEncoder};
        let mut png = Vec::new();
        let encoder = PngEncoder::new_with_quality(&mut png, CompressionType::Fast, FilterType::Sub);
        // Writing to memory fails only for a picture whose size is not its own.
        let written = encoder.write_image(&self.rgb, self.width, self.height, image::ExtendedColorType::Rgb8);
        debug_assert!(written.is_ok());
        png
    }
}
