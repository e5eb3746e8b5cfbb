//! Broad differences of an old surface that look like light.
//!
//! Boards are of different wood, and varnish mirrors a whole room. Yet a plane face is lit evenly, but for shadows.

use std::collections::BTreeMap;

use warm_blend_photo::{PlaneLight, Surface, blurred};

use crate::photo_pixel::Pixel;

/// Pixels of a face that its usual light is fitted to, about.
const SAMPLED: usize = 4000;
/// From how many usual deviations of the grain on, a different light is a shadow; twice as much certainly is one†.
const SHADOW: f32 = 1.5;
/// Width of what counts as broad, of the width of the photo†.
const BROAD: f64 = 0.012;

/// What of the light on flat surfaces is broad grain after all, by pixel: it differs from the usual light of its face, but by no more than
/// this wood or paint differs in any case. `lit` is the logarithm of the light on each pixel.
pub(crate) fn broad_grain(pixels: &[Pixel], lit: &[f32], surfaces: &[Surface], width: usize) -> Vec<f32> {
    let flat = |pixel: &Pixel| matches!(surfaces[pixel.index as usize], Surface::Flat(_));
    let mut by_face: BTreeMap<u8, Vec<usize>> = BTreeMap::new();
    for (i, pixel) in pixels.iter().enumerate().filter(|(_, pixel)| flat(pixel)) {
        by_face.entry(pixel.flat).or_default().push(i);
    }
    let (mut apart, mut weights) = (vec![0.0; surfaces.len()], vec![0.0; surfaces.len()]);
    for of in by_face.into_values() {
        let at = |i: &usize| [pixels[*i].at.0, pixels[*i].at.1];
        let every = of.len() / SAMPLED + 1;
        let some: Vec<_> = of.iter().step_by(every).map(|i| (at(i), lit[*i])).collect();
        let Some(light) = PlaneLight::fit(&some) else { continue };
        let square: f32 = of.iter().map(|i| pixels[*i].grain.powi(2)).sum();
        let usual = (square / of.len() as f32).sqrt();
        for i in of {
            let differs = lit[i] - light.at(at(&i));
            let far = (differs.abs() / (SHADOW * usual.max(1e-3)) - 1.0).clamp(0.0, 1.0);
            apart[pixels[i].index as usize] = (1.0 - far) * differs;
            weights[pixels[i].index as usize] = 1.0;
        }
    }
    let radius = ((BROAD * width as f64) as usize).max(2);
    let (apart, weights) =
        (blurred(width, &apart, surfaces, radius), blurred(width, &weights, surfaces, radius));
    let of = |pixel: &Pixel| {
        let at = pixel.index as usize;
        if weights[at] > 0.05 { apart[at] / weights[at] } else { 0.0 }
    };
    pixels.iter().map(of).collect()
}
