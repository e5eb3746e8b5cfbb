//! The light on what a card or a hand covers in a photo.
//!
//! It has no more change than there is at the rim: a membrane (P. Pérez, M. Gangnet and A. Blake, *ACM Trans. Graph.* 22 (2003) 313), relaxed
//! step by step (D. M. Young, *Trans. Am. Math. Soc.* 76 (1954) 92).

use std::collections::{BTreeMap, HashMap, HashSet};

use crate::{old_surface::Kind, photo_pixel::Pixel};

/// Rounds of relaxation, and how far each goes beyond the mean of what is beside.
const ROUNDS: usize = 240;
const OVER: f32 = 1.9;

/// A pixel beside a covered one.
enum Beside {
    /// Logarithm of the light on it, by channel.
    Seen([f32; 3]),
    /// Covered too: its number among those.
    Covered(usize),
}

fn logs(pixel: &Pixel) -> [f32; 3] {
    pixel.light.map(|channel| channel.max(1e-4).ln())
}

/// Gives covered pixels the light of what is beside them in their zone.
pub(crate) fn cover(pixels: &mut [Pixel], kinds: &[Kind], covered: &HashSet<u32>, width: usize) {
    if covered.is_empty() {
        return;
    }
    let at: HashMap<u32, usize> = pixels.iter().enumerate().map(|(n, pixel)| (pixel.index, n)).collect();
    let mut covered: Vec<usize> = covered.iter().filter_map(|index| at.get(index).copied()).collect();
    covered.sort_unstable();
    let numbers: HashMap<usize, usize> = covered.iter().enumerate().map(|(number, n)| (*n, number)).collect();
    let beside = |n: &usize| -> Vec<Beside> {
        let (index, row) = (i64::from(pixels[*n].index), width as i64);
        let next = [index - 1, index + 1, index - row, index + row].into_iter();
        let next = next.filter_map(|index| at.get(&u32::try_from(index).ok()?).copied());
        let of_it = next.filter(|next| kinds[*next] == kinds[*n]);
        let known = |next: usize| match numbers.get(&next) {
            Some(number) => Beside::Covered(*number),
            None => Beside::Seen(logs(&pixels[next])),
        };
        of_it.map(known).collect()
    };
    let besides: Vec<Vec<Beside>> = covered.iter().map(beside).collect();
    let mut light = begun(pixels, kinds, &covered, &besides);
    for _ in 0..ROUNDS {
        for (number, beside) in besides.iter().enumerate().filter(|(_, beside)| !beside.is_empty()) {
            let mut sum = [0f32; 3];
            for next in beside {
                let of = match next {
                    Beside::Seen(light) => light,
                    Beside::Covered(number) => &light[*number],
                };
                (0..3).for_each(|c| sum[c] += of[c]);
            }
            let own = light[number];
            light[number] = std::array::from_fn(|c| own[c] + OVER * (sum[c] / beside.len() as f32 - own[c]));
        }
    }
    for (n, light) in covered.into_iter().zip(light) {
        let pixel = &mut pixels[n];
        pixel.light = light.map(f32::exp);
        (pixel.grain, pixel.gloss, pixel.carved) = (0.0, 0.0, false);
    }
}

/// The mean light at the rim of each zone; a zone that is covered whole keeps what it has.
fn begun(pixels: &[Pixel], kinds: &[Kind], covered: &[usize], besides: &[Vec<Beside>]) -> Vec<[f32; 3]> {
    let mut rims: BTreeMap<Kind, ([f32; 3], f32)> = BTreeMap::new();
    for (n, beside) in covered.iter().zip(besides) {
        for next in beside {
            if let Beside::Seen(light) = next {
                let (sum, times) = rims.entry(kinds[*n]).or_default();
                (0..3).for_each(|c| sum[c] += light[c]);
                *times += 1.0;
            }
        }
    }
    let mean = |n: &usize| match rims.get(&kinds[*n]) {
        Some((sum, times)) => sum.map(|sum| sum / times),
        None => logs(&pixels[*n]),
    };
    covered.iter().map(mean).collect()
}

#[cfg(test)]
mod tests {
    use warm_blend_piece::View;

    use super::*;

    /// In light that falls off evenly a covered square gets just that light; the light of another zone does not bleed in.
    #[test]
    fn a_covered_square_has_the_light_around_it() {
        let (width, height) = (60u32, 40u32);
        let lit = |x: u32, y: u32| (-0.01 * x as f32 + 0.004 * y as f32).exp();
        let pixel = |index: u32| {
            let (x, y) = (index % width, index / width);
            // Another zone to the right, three times as light.
            let light = if x >= 40 { 3.0 } else { lit(x, y) };
            Pixel {
                index,
                flat: 0,
                over: 0,
                zone: u8::from(x >= 40),
                share: 255,
                at: (0.0, 0.0),
                light: [light; 3],
                grain: 0.3,
                gloss: 0.2,
                carved: true,
            }
        };
        let mut pixels: Vec<Pixel> = (0..width * height).map(pixel).collect();
        let kinds: Vec<Kind> = pixels.iter().map(|pixel| (View::Front, pixel.zone)).collect();
        let is_covered = |x: u32, y: u32| (20..45).contains(&x) && (10..30).contains(&y);
        let covered: HashSet<u32> =
            (0..width * height).filter(|i| is_covered(i % width, i / width)).collect();
        for index in &covered {
            pixels[*index as usize].light = [40.0; 3];
        }
        cover(&mut pixels, &kinds, &covered, width as usize);
        for index in covered {
            let (x, y) = (index % width, index / width);
            let Pixel { light, grain, gloss, .. } = pixels[index as usize];
            assert_eq!((grain, gloss), (0.0, 0.0));
            // Where zones meet it has no rim, and is as light as the rest.
            let expected = if x >= 40 { 3.0 } else { lit(x, y) };
            assert!((light[1] / expected - 1.0).abs() < 0.08, "{x} {y}: {} for {expected}", light[1]);
        }
    }
}
