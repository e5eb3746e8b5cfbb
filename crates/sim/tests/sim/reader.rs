//! The simulated reader has the faults of a real one, and no others.

use proptest::prelude::*;
use warm_blend_device::{ColourReader, ReaderTrouble};
use warm_blend_learn::Measured;
use warm_blend_paint::{Class, CoatsToHide, FilmState, Parts};
use warm_blend_sim::{Pigment, SimulatedReader, VirtualPaint, VirtualSample, Window, tins};
use warm_blend_spectral::{Lab, Srgb, difference};

fn thick(tin: &VirtualPaint) -> VirtualSample {
    VirtualSample::thick(&[(Parts::new(1.0).unwrap(), tin)], FilmState::Dry).unwrap()
}

fn mean_lightness(reader: &mut SimulatedReader, sample: &VirtualSample, n: usize) -> f64 {
    reader.put_on(sample.clone());
    (0..n).map(|_| reader.read().unwrap().lab().l).sum::<f64>() / n as f64
}

/// A colour is off by 0.4 ΔE00 on the average square, a spectrum by less.
#[test]
fn noise_is_what_it_says() {
    for (spectra, range) in [(false, 0.33..0.50), (true, 0.05..0.40)] {
        let mut reader = SimulatedReader::new(5, spectra);
        let (mut sum, mut n) = (0.0, 0.0);
        for tin in tins() {
            let sample = thick(&tin);
            reader.put_on(sample.clone());
            for _ in 0..10 {
                sum += difference(reader.read().unwrap().lab(), sample.lab()).value().powi(2);
                n += 1.0;
            }
            reader.calibrate().unwrap();
        }
        let rms = f64::sqrt(sum / n);
        assert!(range.contains(&rms), "spectra {spectra}: {rms}");
    }
}

#[test]
fn it_drifts_until_it_is_calibrated_and_then_refuses() {
    let sample = thick(&tins()[0]);
    let mut reader = SimulatedReader::new(9, true);
    let fresh = mean_lightness(&mut reader, &sample, 20);
    mean_lightness(&mut reader, &sample, 440);
    let drifted = mean_lightness(&mut reader, &sample, 20);
    assert!(drifted < fresh - 0.5, "{fresh} {drifted}");
    while reader.read().is_ok() {}
    assert_eq!(reader.read(), Err(ReaderTrouble::NeedsCalibration));
    reader.calibrate().unwrap();
    assert!((mean_lightness(&mut reader, &sample, 20) - fresh).abs() < 0.3);
}

#[test]
fn a_smeared_window_reads_paler() {
    let dark = tins().into_iter().find(|tin| tin.name == "stove black").unwrap();
    let mut reader = SimulatedReader::new(9, true);
    let clean = mean_lightness(&mut reader, &thick(&dark), 10);
    reader.set_window(Window::Smeared);
    assert!(mean_lightness(&mut reader, &thick(&dark), 10) > clean + 3.0);
}

#[test]
fn nothing_under_it_is_no_reading() {
    assert_eq!(SimulatedReader::new(1, false).read(), Err(ReaderTrouble::NothingUnderIt));
}

/// The mean of three places is nearer than one place.
#[test]
fn three_places_are_better_than_one() {
    let sample = thick(&tins()[20]);
    let mut reader = SimulatedReader::new(3, false);
    reader.put_on(sample.clone());
    let off = |read: Measured| difference(read.lab(), sample.lab()).value().powi(2);
    let one: f64 = (0..60).map(|_| off(reader.read().unwrap())).sum::<f64>() / 60.0;
    let mut careful = || {
        reader.calibrate().unwrap();
        off(reader.read_sample().unwrap())
    };
    let three: f64 = (0..60).map(|_| careful()).sum::<f64>() / 60.0;
    assert!(three < 0.6 * one, "{three} {one}");
}

/// Whites, deep colours, strong reds and greens, near-blacks, of every class that a water-based workshop has colours in.
#[test]
fn the_shelf_is_as_wide_as_a_workshop() {
    let tins = tins();
    assert!(tins.len() >= 40 && Pigment::ALL.len() >= 14);
    let lab = |tin: &VirtualPaint| thick(tin).lab();
    assert!(tins.iter().any(|tin| lab(tin).l > 92.0) && tins.iter().any(|tin| lab(tin).l < 15.0));
    assert!(tins.iter().filter(|tin| lab(tin).chroma() > 40.0).count() >= 6);
    let elsewhere = [Class::Metallic, Class::Milk, Class::Oil, Class::Alkyd, Class::TintedWax];
    let painted = Class::ALL.into_iter().filter(|class| !class.is_medium() && !elsewhere.contains(class));
    for class in painted {
        assert!(tins.iter().any(|tin| tin.class == class), "{class:?}");
    }
    // A pigment absorbs and scatters by its own law.
    for pigment in Pigment::ALL {
        let uneven = |bands: &[f64; 36]| bands.iter().any(|v| (v / bands[17] - 1.0).abs() > 0.02);
        assert!(uneven(pigment.k()) && uneven(pigment.s()), "{pigment:?}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(16))]

    /// Behind any chip there is a tin as near its colour as three coloured pigments come, which hides about as it is said to,
    /// always the same one.
    #[test]
    fn behind_a_chip_is_a_tin_of_its_colour(rgb in proptest::array::uniform3(40u8..220), coats in 0.75..3.0f64, seed: u64) {
        let [red, green, blue] = rgb;
        let chip: Lab = Srgb { red, green, blue }.to_lab();
        prop_assume!(chip.chroma() < 45.0);
        let said = Some(CoatsToHide::new(coats).unwrap());
        let tin = VirtualPaint::behind("x", Class::Chalk, chip, said, seed);
        let off = difference(thick(&tin).lab(), chip).value();
        prop_assert!(off < 6.0, "{}", off);
        let hides = tin.coats_to_hide().unwrap().value();
        prop_assert!((0.7..1.4).contains(&(hides / coats)), "{} for {}", hides, coats);
        prop_assert_eq!(tin, VirtualPaint::behind("x", Class::Chalk, chip, said, seed));
    }
}
