//! Photos: from JPEG, PNG or WebP to linear light.

use std::{fmt, io::Cursor};

use image::{
    DynamicImage, ImageDecoder, ImageError, ImageFormat, ImageReader, Limits, RgbImage,
    codecs::jpeg::JpegEncoder,
};
use jiff::civil::DateTime;
use palette::encoding::FromLinear;
use warm_blend_photo::Photo;

use crate::{
    jpeg,
    pixels::{BadPixels, Blocks},
};

/// Largest photo file, bytes.
pub const LARGEST_PHOTO: usize = 40 << 20;

/// Longest side that is decoded, and most pixels.
const LONGEST: u32 = 16_000;
const MOST: u64 = 64_000_000;

/// Most memory for the coefficients of a progressive JPEG file, bytes: enough for the most pixels with colour at half resolution.
const MOST_COEFFICIENTS: u64 = 256 << 20;

/// Fewest pixels of its shorter side after that.
const NARROWEST: usize = 8;

/// Longest side that is kept: colours are picked from spots, not from pixels.
const KEPT: usize = 1600;

/// A file that is not a usable photo.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadPhoto {
    /// The file is empty.
    #[error("the file is empty: choose a photo")]
    Empty,
    /// The file is too large.
    #[error("file too large ({0} MB); the most is {most} MB. Save the photo smaller", most = LARGEST_PHOTO >> 20)]
    TooLarge(usize),
    /// HEIC or similar.
    #[error("HEIC photos can’t be read; save it as JPEG, or set the phone camera to “most compatible”")]
    Heic,
    /// An unknown format.
    #[error("this photo can’t be read; save it as JPEG, PNG or WebP")]
    Unknown,
    /// Too many pixels.
    #[error(
        "photo too large ({0} × {1} pixels); the most is 64 megapixels and 16 000 a side. Save it smaller"
    )]
    TooManyPixels(u32, u32),
    /// All its coefficients would have to be held at once.
    #[error(
        "the photo is a progressive JPEG of {0} × {1} pixels, too large to decode: save it as a standard (baseline) JPEG, or smaller"
    )]
    Progressive(u32, u32),
    /// Too few pixels.
    #[error("photo too small ({0} × {1} pixels) to show a card and a paint; take it from closer")]
    TooFewPixels(u32, u32),
    /// A very narrow strip.
    #[error("photo too narrow ({0} × {1} pixels) to show a card and a paint; choose the whole photo")]
    TooNarrow(u32, u32),
    /// Truncated.
    #[error("the photo is incomplete; copy it from the camera again")]
    CutShort,
    /// Damaged.
    #[error("the photo is damaged or incomplete ({0}); save it again")]
    Damaged(String),
}

/// Decodes a photo within safe limits into linear light, reduced to 1600 pixels on its longer side.
pub fn photo(bytes: &[u8]) -> Result<Photo, BadPhoto> {
    let Blocks { across, pixels, clipped } = decoded(bytes, |longer| longer.div_ceil(KEPT))?;
    // The rows are whole by construction, and there is one at least: a photo has 8 × 8 pixels or more.
    Ok(Photo::new(across, pixels, clipped).unwrap_or_else(|| unreachable!("whole rows")))
}

/// Converts a photo for saving: a JPEG file of at most 1600 pixels on its longer side, without the camera's metadata.
pub fn kept_photo(bytes: &[u8]) -> Result<Vec<u8>, BadPhoto> {
    let Blocks { across, pixels, .. } = decoded(bytes, |longer| (longer / KEPT).max(1))?;
    let (image, most) = (DynamicImage::from(encoded(across, &pixels)), KEPT as u32);
    let small = if image.width().max(image.height()) > most { image.thumbnail(most, most) } else { image };
    encode_jpeg(&small).map_err(damaged)
}

/// A decoded photo as a JPEG file, for display.
pub fn photo_as_jpeg(photo: &Photo) -> Result<Vec<u8>, ImageError> {
    encode_jpeg(&encoded(photo.size().0, photo.pixels()).into())
}

/// Pixels in linear light as codes of a screen (IEC 61966-2-1).
fn encoded(across: usize, pixels: &[[f32; 3]]) -> RgbImage {
    let codes = pixels.iter().flatten().map(|linear| palette::encoding::Srgb::from_linear(*linear)).collect();
    RgbImage::from_raw(across as u32, (pixels.len() / across.max(1)) as u32, codes).unwrap_or_default()
}

fn encode_jpeg(image: &DynamicImage) -> Result<Vec<u8>, ImageError> {
    let mut jpeg = Vec::new();
    image.write_with_encoder(JpegEncoder::new_with_quality(&mut jpeg, 85))?;
    Ok(jpeg)
}

/// When the photo was taken, by the camera's clock, if stated (EXIF 2.32, tag 0x9003, or 0x9004 for scanned film).
pub fn taken(bytes: &[u8]) -> Option<DateTime> {
    let told = exif::Reader::new().read_from_container(&mut Cursor::new(bytes)).ok()?;
    [exif::Tag::DateTimeOriginal, exif::Tag::DateTimeDigitized].into_iter().find_map(|tag| {
        let exif::Value::Ascii(said) = &told.get_field(tag, exif::In::PRIMARY)?.value else { return None };
        DateTime::strptime("%Y:%m:%d %H:%M:%S", std::str::from_utf8(said.first()?).ok()?.trim_end()).ok()
    })
}

fn damaged(error: impl fmt::Display) -> BadPhoto {
    BadPhoto::Damaged(error.to_string().chars().take(120).collect())
}

/// The photo as it was held. How many of its pixels become one, across and down, follows from its longer side.
fn decoded(bytes: &[u8], step: impl Fn(usize) -> usize) -> Result<Blocks, BadPhoto> {
    if bytes.is_empty() {
        return Err(BadPhoto::Empty);
    }
    if bytes.len() > LARGEST_PHOTO {
        return Err(BadPhoto::TooLarge(bytes.len() >> 20));
    }
    let format = format(bytes)?;
    let reader = || {
        let mut reader = ImageReader::with_format(Cursor::new(bytes), format);
        let mut limits = Limits::default();
        limits.max_image_width = Some(LONGEST);
        limits.max_image_height = Some(LONGEST);
        limits.max_alloc = Some(512 << 20);
        reader.limits(limits);
        reader
    };
    let (width, height) = reader().into_dimensions().map_err(damaged)?;
    if width > LONGEST || height > LONGEST || u64::from(width) * u64::from(height) > MOST {
        return Err(BadPhoto::TooManyPixels(width, height));
    }
    if width < 8 || height < 8 {
        return Err(BadPhoto::TooFewPixels(width, height));
    }
    let longer = width.max(height) as usize;
    if (width.min(height) as usize) < NARROWEST * longer.div_ceil(KEPT) {
        return Err(BadPhoto::TooNarrow(width, height));
    }
    if format == ImageFormat::Jpeg {
        if !jpeg::is_complete(bytes) {
            return Err(BadPhoto::CutShort);
        }
        if jpeg::held_coefficients(bytes) > MOST_COEFFICIENTS {
            return Err(BadPhoto::Progressive(width, height));
        }
    }
    let as_held = reader().into_decoder().and_then(|mut decoder| decoder.orientation()).map_err(damaged)?;
    let blocks =
        Blocks::of(reader(), (width as usize, step(longer))).map_err(|BadPixels(why)| damaged(why))?;
    Ok(blocks.turned(as_held))
}

fn format(bytes: &[u8]) -> Result<ImageFormat, BadPhoto> {
    // ISO base media files name their brand at byte 8.
    if bytes.get(4..8) == Some(b"ftyp") {
        let brand = bytes.get(8..12).unwrap_or_default();
        let still = [b"heic", b"heix", b"hevc", b"mif1", b"msf1", b"avif"];
        return Err(if still.iter().any(|known| *known == brand) {
            BadPhoto::Heic
        } else {
            BadPhoto::Unknown
        });
    }
    match image::guess_format(bytes) {
        Ok(format @ (ImageFormat::Jpeg | ImageFormat::Png | ImageFormat::WebP)) => Ok(format),
        _ => Err(BadPhoto::Unknown),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// A small JPEG file that says when it was taken.
    fn taken_at(when: &[u8; 19]) -> Vec<u8> {
        let mut plain = Vec::new();
        let image = image::RgbImage::from_pixel(16, 16, image::Rgb([120, 130, 140]));
        image.write_with_encoder(JpegEncoder::new_with_quality(&mut plain, 90)).unwrap();
        warm_blend_testing::exif::taken_at(&plain, when)
    }

    #[test]
    fn a_camera_says_when_it_was() {
        let when = |text: &[u8; 19]| taken(&taken_at(text)).map(|at| at.to_string());
        assert_eq!(when(b"2026:11-03 14:20:11"), None);
        assert_eq!(when(b"2026:11:03 14:20:11").as_deref(), Some("2026-11-03T14:20:11"));
        assert_eq!(when(b"2026:13:45 14:20:11"), None);
        assert_eq!(when(b"    :  :     :  :  "), None, "as cameras write that whose clock was never set");
        assert_eq!(when(b"\xff\xfe26:11:03 14:20:11"), None);
        let file = taken_at(b"2026:11:03 14:20:11");
        for cut in 0..file.len().min(200) {
            taken(&file[..cut]);
        }
        assert_eq!(taken(b"no photo"), None);
        assert_eq!(taken(&kept_photo(&file).unwrap()), None, "what is kept says nothing of it");
    }

    /// The corners of a photo by the way the camera was held (EXIF 2.32, tag 0x0112): top left and top right as they are seen,
    /// of a picture whose file has red, green over blue, white.
    #[test]
    fn a_photo_stands_as_the_camera_was_held() {
        const SIDE: u32 = 64;
        let [red, green, blue, white] = [[220u8, 30, 30], [30, 200, 30], [30, 30, 220], [240, 240, 240]];
        let corner = |x: u32, y: u32| match (x < SIDE, y < SIDE / 2) {
            (true, true) => red,
            (false, true) => green,
            (true, false) => blue,
            (false, false) => white,
        };
        let image = image::RgbImage::from_fn(2 * SIDE, SIDE, |x, y| image::Rgb(corner(x, y)));
        let mut plain = Vec::new();
        image.write_with_encoder(JpegEncoder::new_with_quality(&mut plain, 95)).unwrap();
        let seen = [
            (red, green),
            (green, red),
            (white, blue),
            (blue, white),
            (red, blue),
            (blue, red),
            (white, green),
            (green, white),
        ];
        for (held, (left, right)) in (1u8..).zip(seen) {
            let mut exif = b"\xff\xe1\x00\x22Exif\0\0II*\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0".to_vec();
            exif.extend([held, 0, 0, 0, 0, 0, 0, 0]);
            let file = [&plain[..2], &exif, &plain[2..]].concat();
            let upright = if held < 5 { (2 * SIDE, SIDE) } else { (SIDE, 2 * SIDE) };
            let kept = image::load_from_memory(&kept_photo(&file).unwrap()).unwrap().into_rgb8();
            assert_eq!(kept.dimensions(), upright, "held {held}");
            let seen = decoded(&file, |_| 1).unwrap();
            assert_eq!(photo(&file).unwrap().size(), (upright.0 as usize, upright.1 as usize));
            for (x, wanted) in [(8, left), (kept.width() - 8, right)] {
                let at = seen.pixels[8 * seen.across + x as usize];
                let picked: [u8; 3] = at.map(palette::encoding::Srgb::from_linear);
                for pixel in [kept.get_pixel(x, 8).0, picked] {
                    assert!(
                        pixel.iter().zip(wanted).all(|(one, other)| one.abs_diff(other) < 40),
                        "held {held}: {pixel:?} for {wanted:?}"
                    );
                }
            }
        }
    }

    /// Wherever a JPEG file breaks off, it is refused; what phones hang on behind it is not looked at.
    #[test]
    fn half_a_photo_is_refused() {
        let image = image::RgbImage::from_fn(200, 100, |x, y| image::Rgb([x as u8, (x * y) as u8, y as u8]));
        let mut jpeg = Vec::new();
        image.write_with_encoder(JpegEncoder::new_with_quality(&mut jpeg, 80)).unwrap();
        for length in 1..jpeg.len() {
            assert!(photo(&jpeg[..length]).is_err(), "the first {length} of {} bytes", jpeg.len());
        }
        assert!(photo(&[&jpeg[..], b"something else"].concat()).is_ok());
    }

    /// A large progressive file is refused by its header, unless its colour is at half resolution.
    #[test]
    fn a_progressive_photo_must_fit_into_memory() {
        let mut plain = Vec::new();
        let image = image::RgbImage::from_pixel(16, 16, image::Rgb([120, 130, 140]));
        image.write_with_encoder(JpegEncoder::new_with_quality(&mut plain, 90)).unwrap();
        let frame = plain.windows(2).position(|marker| marker == [0xff, 0xc0]).unwrap();
        let made = |marker: u8, side: u16, sampling: u8| {
            let mut file = plain.clone();
            file[frame + 1] = marker;
            file[frame + 5..frame + 7].copy_from_slice(&side.to_be_bytes());
            file[frame + 7..frame + 9].copy_from_slice(&side.to_be_bytes());
            file[frame + 11] = sampling;
            file
        };
        let is_too_large = |file: &[u8]| matches!(photo(file), Err(BadPhoto::Progressive(..)));
        assert!(is_too_large(&made(0xc2, 8000, 0x11)));
        for fits in [made(0xc2, 8000, 0x22), made(0xc2, 6000, 0x11)] {
            assert!(!is_too_large(&fits));
        }
        assert_eq!(jpeg::held_coefficients(&made(0xc2, 8000, 0x11)), 3 * 2 * 8000 * 8000);
        assert_eq!(jpeg::held_coefficients(&made(0xc2, 8000, 0x22)), 3 * 8000 * 8000);
        assert_eq!(jpeg::held_coefficients(&plain), 0);
        assert!(photo(&plain).is_ok());
    }

    /// A strip is refused with the reason, and never a panic.
    #[test]
    fn a_strip_is_refused() {
        for (width, height) in [(16_000, 8), (8, 16_000), (12_800, 60)] {
            let mut png = Vec::new();
            image::RgbImage::new(width, height)
                .write_to(&mut Cursor::new(&mut png), ImageFormat::Png)
                .unwrap();
            assert!(matches!(photo(&png), Err(BadPhoto::TooNarrow(..))), "{width} x {height}");
            assert!(matches!(kept_photo(&png), Err(BadPhoto::TooNarrow(..))));
        }
    }

    /// What is kept is no longer than it may be and looks the same; what is no photo is refused like any other.
    #[test]
    fn a_photo_is_kept_small() {
        let image =
            image::RgbImage::from_fn(2000, 500, |x, _| image::Rgb([if x < 1000 { 200 } else { 40 }, 90, 60]));
        let mut png = Vec::new();
        image.write_to(&mut Cursor::new(&mut png), ImageFormat::Png).unwrap();
        let jpeg = kept_photo(&png).unwrap();
        let kept = image::load_from_memory_with_format(&jpeg, ImageFormat::Jpeg).unwrap().into_rgb8();
        assert_eq!(kept.dimensions(), (1600, 400));
        for (x, red) in [(200, 200u8), (1400, 40)] {
            let pixel = kept.get_pixel(x, 200).0;
            assert!(pixel[0].abs_diff(red) < 8 && pixel[1].abs_diff(90) < 8, "{pixel:?}");
        }
        assert!(matches!(kept_photo(b""), Err(BadPhoto::Empty)));
        assert!(kept_photo(&png[..200]).is_err());
        assert!(kept_photo(b"GIF89a").is_err());
    }

    /// Photos in other colour modes show the colours that Pillow 13.0.0 reads in them (`tests/data/modes.py`).
    #[test]
    fn other_colour_modes_show_the_same_colours() {
        let colours = [[176, 141, 87], [60, 80, 92]];
        let greys = [[145; 3], [75; 3]];
        // 16-bit codes 40000 and 12000 of 65535.
        let deep = [[156; 3], [47; 3]];
        for (name, bytes, halves) in [
            ("cmyk.jpg", include_bytes!("../tests/data/cmyk.jpg").as_slice(), colours),
            ("grey.jpg", include_bytes!("../tests/data/grey.jpg"), greys),
            ("indexed.png", include_bytes!("../tests/data/indexed.png"), colours),
            ("alpha.png", include_bytes!("../tests/data/alpha.png"), colours),
            ("grey16.png", include_bytes!("../tests/data/grey16.png"), deep),
        ] {
            let read = photo(bytes).unwrap();
            assert_eq!(read.size(), (64, 48), "{name}");
            let shown = encoded(64, read.pixels());
            for (x, expected) in [(12, halves[0]), (52, halves[1])] {
                let pixel = shown.get_pixel(x, 24).0;
                let most =
                    pixel.iter().zip(expected).map(|(one, other): (&u8, u8)| one.abs_diff(other)).max();
                assert!(most <= Some(2), "{name}: {pixel:?}, not {expected:?}");
            }
            assert!(kept_photo(bytes).is_ok(), "{name}");
        }
    }

    fn png(width: u32, height: u32) -> Vec<u8> {
        let image = image::RgbImage::from_fn(width, height, |x, _| {
            image::Rgb([if x < width / 2 { 200 } else { 90 }; 3])
        });
        let mut bytes = Vec::new();
        image.write_to(&mut Cursor::new(&mut bytes), ImageFormat::Png).unwrap();
        bytes
    }

    #[test]
    fn a_large_photo_is_reduced() {
        assert_eq!(photo(&png(64, 48)).unwrap().size(), (64, 48));
        let (width, height) = photo(&png(4000, 1000)).unwrap().size();
        assert_eq!((width, height), (1333, 333));
    }

    #[test]
    fn what_is_no_photo_is_named() {
        assert_eq!(photo(b"").unwrap_err(), BadPhoto::Empty);
        assert_eq!(photo(b"name,L,a,b\n").unwrap_err(), BadPhoto::Unknown);
        assert_eq!(photo(b"\0\0\0\x18ftypheic\0\0\0\0mif1").unwrap_err(), BadPhoto::Heic);
        assert_eq!(photo(b"\0\0\0\x18ftypisom").unwrap_err(), BadPhoto::Unknown);
        assert_eq!(photo(&png(3, 3)).unwrap_err(), BadPhoto::TooFewPixels(3, 3));
        let whole = png(64, 48);
        assert!(matches!(photo(&whole[..whole.len() / 2]).unwrap_err(), BadPhoto::Damaged(_)));
    }

    /// A header that promises 100 megapixels is refused before anything of it is decoded.
    #[test]
    fn a_huge_photo_is_refused_by_its_header() {
        let mut bytes = png(8, 8);
        bytes[16..24].copy_from_slice(&[0, 0, 0x27, 0x10, 0, 0, 0x27, 0x10]);
        // The checksum of the header is that of 10 000 × 10 000.
        let crc = crc(&bytes[12..29]);
        bytes[29..33].copy_from_slice(&crc.to_be_bytes());
        assert_eq!(photo(&bytes).unwrap_err(), BadPhoto::TooManyPixels(10_000, 10_000));
    }

    fn crc(bytes: &[u8]) -> u32 {
        !bytes.iter().fold(u32::MAX, |mut crc, byte| {
            crc ^= u32::from(*byte);
            for _ in 0..8 {
                crc = (crc >> 1) ^ (0xedb8_8320 & 0u32.wrapping_sub(crc & 1));
            }
            crc
        })
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]

        #[test]
        fn mutated_photos_never_panic(at in 8usize..400, byte: u8, cut in 20usize..2000) {
            let mut bytes = png(24, 24);
            let at = at % bytes.len();
            bytes[at] = byte;
            bytes.truncate(cut);
            let _ = photo(&bytes);
        }
    }
}
