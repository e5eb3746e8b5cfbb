//! Measured spectra of masstones, which replace stated colours.

use warm_blend_spectral::{Reflectance, difference};

use crate::fit::deviations;
use crate::prior::Facts;
use crate::reading::{Measured, Reading};

/// Distance, in standard deviations, from which a spectrum is doubted rather than the stated colour.
pub(crate) const OUTLIER_SD: f64 = 3.0;

/// Measured spectra of masstones, which replace stated colours.
pub(crate) struct Bases {
    /// Spectrum by paint.
    pub spectra: Vec<Option<Reflectance>>,
    /// By reading: distance of a masstone spectrum from the stated colour, in standard deviations.
    pub odd: Vec<Option<f64>>,
    /// By reading: true if it serves as a masstone or is doubted, and so is not fitted.
    pub not_fitted: Vec<bool>,
}

impl Bases {
    pub fn of(paints: &[Facts], readings: &[Reading]) -> Self {
        let mut found: Vec<Vec<usize>> = vec![Vec::new(); paints.len()];
        let mut odd: Vec<Option<f64>> = readings
            .iter()
            .enumerate()
            .map(|(at, reading)| {
                let (paint, curve) = reading.masstone_spectrum()?;
                let facts = &paints[*paint];
                let stated = facts.masstone.filter(|_| !facts.class.is_medium() && !reading.sure);
                let off = stated.map_or(0.0, |stated| {
                    let noise = facts.source.off().hypot(reading.source.off());
                    apart(difference(stated.lab(), Measured::spectrum(*curve).lab()).value(), noise)
                });
                if off <= OUTLIER_SD {
                    found[*paint].push(at);
                }
                Some(off)
            })
            .collect();
        let curves = |of: &[usize]| -> Vec<&Reflectance> {
            of.iter().filter_map(|at| readings[*at].masstone_spectrum()).map(|(_, curve)| curve).collect()
        };
        let mean = |curves: Vec<&Reflectance>| {
            let n = curves.len() as f64;
            (n > 0.0).then(|| {
                Reflectance::from_fn(|i| curves.iter().map(|curve| curve.bands()[i]).sum::<f64>() / n)
            })
        };
        for of_paint in &mut found {
            // Compares them with each other: the one farthest from the rest is questioned, of two the later.
            while let Some((place, off)) = farthest(readings, of_paint, &|of| mean(curves(of))) {
                odd[of_paint.remove(place)] = Some(off);
            }
        }
        let not_fitted = odd.iter().map(Option::is_some).collect();
        Self { spectra: found.iter().map(|of| mean(curves(of))).collect(), odd, not_fitted }
    }
}

/// Index of the spectrum of a masstone farthest from the mean of the others, and its distance in standard deviations, if
/// that is more than chance explains. Never one that the painter has confirmed.
fn farthest(
    readings: &[Reading],
    of: &[usize],
    mean: &dyn Fn(&[usize]) -> Option<Reflectance>,
) -> Option<(usize, f64)> {
    let off = |place: usize| {
        let others: Vec<usize> =
            of.iter().enumerate().filter(|(i, _)| *i != place).map(|(_, at)| *at).collect();
        let noise = |at: usize| readings[at].source.off();
        let of_mean = others.iter().map(|at| noise(*at).powi(2)).sum::<f64>().sqrt() / others.len() as f64;
        let (rest, own) = (mean(&others)?, mean(&of[place..=place])?);
        let lab = |curve| Measured::spectrum(curve).lab();
        Some(apart(difference(lab(own), lab(rest)).value(), noise(of[place]).hypot(of_mean)))
    };
    (0..of.len())
        .filter(|place| !readings[of[*place]].sure)
        .filter_map(|place| Some((place, off(place)?)))
        .filter(|(_, off)| *off > OUTLIER_SD)
        .max_by(|one, other| one.1.total_cmp(&other.1))
}

/// Distance between two colours with errors of `noise`, root mean square, in standard deviations of a normal: χ² of three
/// degrees of freedom by Wilson and Hilferty (1931).
fn apart(distance: f64, noise: f64) -> f64 {
    deviations(3.0 * (distance / noise).powi(2), 3.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// χ² of three degrees is 6.251 at 0.9, where a normal is at 1.282, and 11.345 at 0.99, where it is at 2.326 (handbook tables).
    #[test]
    fn distances_of_colours_have_three_directions() {
        for (squared, normal) in [(6.251f64, 1.282), (11.345, 2.326)] {
            let off = apart((squared / 3.0).sqrt() * 0.4, 0.4);
            assert!((off - normal).abs() < 0.03, "{off} {normal}");
        }
    }
}
