//! Closed loop: the engine predicts, the virtual workshop answers, the error is measured.
//!
//! The engine is given what a painter would know: the 8-bit code of each tin, or what the simulated reader says of it. It
//! predicts mixes at random; the virtual paints say what comes out. The figures are printed (`-- --nocapture`) and stand
//! in `docs/engine.md`.

use crate::workshop::{Figures, MIXES, Recipe, SEED, Workshop, lab, truth};
use warm_blend_learn::{PartsMethod, Reading, learn};
use warm_blend_paint::Parts;
use warm_blend_sim::tins;
use warm_blend_spectral::{Reflectance, difference};

/// Averaging linear light, as a program that knows nothing of paint would.
fn averaged(recipes: &[Recipe], workshop: &Workshop) -> Figures {
    let error = |recipe: &Recipe| {
        let total: f64 = recipe.iter().map(|(_, parts)| parts.value()).sum();
        let share = |(tin, parts): &(usize, Parts), i: usize| {
            parts.value() / total * workshop.tins[*tin].masstone().bands()[i]
        };
        let curve = Reflectance::from_fn(|i| recipe.iter().map(|part| share(part, i)).sum());
        (difference(lab(&curve), truth(recipe, &workshop.tins)).value(), f64::INFINITY)
    };
    Figures::of(recipes.iter().map(error))
}

/// The figures this issue of the engine stands by, each with its limit.
#[test]
fn known_by_codes_then_by_a_tint_each_then_by_spectra() {
    let mut workshop = Workshop::new(SEED);
    let tins = 0..workshop.tins.len();
    let (two, three) = (workshop.recipes(2), workshop.recipes(3));
    println!(
        "seed {SEED}, {MIXES} mixes each of two and three parts of {} tins, ΔE00: median, 90 %, mean band, held",
        tins.len()
    );
    let tell = |name: &str, [two, three]: &[Figures; 2]| println!("{name:28} two {two}   three {three}");

    let average = [averaged(&two, &workshop), averaged(&three, &workshop)];
    tell("averaging light", &average);

    let facts = workshop.codes();
    let judge = |name: &str, readings: &[Reading], workshop: &Workshop| {
        let learnt = learn(&facts, readings).unwrap();
        let figures =
            [&two, &three].map(|recipes| Figures::predicted(&learnt.paints, recipes, &workshop.tins));
        tell(name, &figures);
        (figures, learnt.judged.iter().filter(|judged| judged.questioned).count())
    };
    let (codes, _) = judge("8-bit codes", &[], &workshop);
    let tints: Vec<Reading> =
        tins.clone().skip(1).map(|tin| workshop.tint(tin, 1.0, PartsMethod::Scale, false)).collect();
    let (tinted, odd) = judge("and one 1:1 tint each", &tints, &workshop);
    let mut spectra: Vec<Reading> = tins.clone().map(|tin| workshop.masstone(tin, true)).collect();
    spectra.extend(tins.skip(1).map(|tin| workshop.tint(tin, 1.0, PartsMethod::Scale, true)));
    let (measured, _) = judge("spectra of both", &spectra, &workshop);

    let within = |figures: &Figures, median: f64, ninth: f64| {
        assert!(figures.at(0.5) <= median && figures.at(0.9) <= ninth, "{figures} against {median}, {ninth}");
    };
    assert!(average[0].at(0.5) > 5.0, "the paints are too easy");
    assert!(codes[0].at(0.5) < 0.5 * average[0].at(0.5));
    within(&codes[0], 3.2, 8.2);
    within(&tinted[0], 0.66, 1.75);
    within(&tinted[1], 0.8, 1.9);
    within(&measured[0], 0.38, 1.0);
    within(&measured[1], 0.45, 1.15);
    assert!(odd <= 1, "{odd} honest readings were questioned");
}

/// Codes that are off as chips are, parts that are off as spoons are, one reading each: bands hold as often as they say.
#[test]
fn nine_bands_of_ten_hold() {
    let (mut held, mut bands) = (Vec::new(), Vec::new());
    for seed in 1..=8 {
        let mut workshop = Workshop::new(seed);
        let facts = workshop.chips();
        let recipes: Vec<Recipe> = [2, 3].iter().flat_map(|n| workshop.recipes(*n)).collect();
        let tints: Vec<Reading> =
            (1..workshop.tins.len()).map(|tin| workshop.tint(tin, 1.0, PartsMethod::Spoons, false)).collect();
        let fifths: Vec<Reading> =
            (1..workshop.tins.len()).map(|tin| workshop.tint(tin, 4.0, PartsMethod::Spoons, false)).collect();
        let stages = [vec![], tints.clone(), [tints, fifths].concat()];
        let figures = stages.map(|readings| {
            let learnt = learn(&facts, &readings).unwrap();
            Figures::predicted(&learnt.paints, &recipes, &workshop.tins)
        });
        held.push(figures.each_ref().map(|figures| figures.held));
        bands.push(figures.each_ref().map(|figures| figures.band));
    }
    let mean = |of: &[[f64; 3]], i: usize| of.iter().map(|stage| stage[i]).sum::<f64>() / of.len() as f64;
    for (i, known) in ["chips", "a 1:1 tint each", "and a 1:4 tint each"].iter().enumerate() {
        println!("{known:20} held {:.1} %  mean band {:.2}", 100.0 * mean(&held, i), mean(&bands, i));
        assert!((0.85..=0.97).contains(&mean(&held, i)), "{known}: {}", mean(&held, i));
    }
    assert!(mean(&bands, 1) < 0.5 * mean(&bands, 0) && mean(&bands, 2) < mean(&bands, 1));
}

/// A reading that is honest but one, three standard deviations and more out: it is asked about, and changes nothing.
#[test]
fn a_wrong_reading_is_questioned_and_not_absorbed() {
    let mut workshop = Workshop::new(SEED);
    let facts = workshop.codes();
    let mut readings: Vec<Reading> = (1..12)
        .flat_map(|tin| [1.0, 4.0].map(|white| (tin, white)))
        .map(|(tin, white)| workshop.tint(tin, white, PartsMethod::Scale, false))
        .collect();
    let honest = learn(&facts, &readings).unwrap();
    assert!(honest.judged.iter().all(|judged| !judged.questioned));
    // The painter read the neighbour's dab: the tint of an orange entered as that of a grey.
    let mut wrong = workshop.tint(13, 1.0, PartsMethod::Scale, false);
    wrong.of[0].0 = 6;
    readings.push(wrong);
    let learnt = learn(&facts, &readings).unwrap();
    let (last, others) = learnt.judged.split_last().unwrap();
    assert!(last.questioned && last.off > 3.0 && last.difference > 5.0, "{last:?}");
    assert!(others.iter().all(|judged| !judged.questioned));
    for (with, without) in learnt.paints.iter().zip(&honest.paints) {
        let moved = difference(lab(&with.best().masstone()), lab(&without.best().masstone())).value();
        assert!(moved < 0.01, "moved by {moved}");
    }
    // Insisted on, it counts.
    readings.last_mut().unwrap().sure = true;
    let insisted = learn(&facts, &readings).unwrap();
    assert!(!insisted.judged.last().unwrap().questioned);
    assert_ne!(insisted.paints[6].best(), honest.paints[6].best());
}

/// Coats to hide over black and white, by a read drawdown: strengths come out as the virtual tins are.
#[test]
fn a_drawdown_tells_the_hiding() {
    let mut workshop = Workshop::new(SEED);
    let facts = workshop.codes();
    let tins = tins();
    let readings: Vec<Reading> = (0..tins.len()).map(|tin| workshop.drawdown(tin, 90.0)).collect();
    let learnt = learn(&facts, &readings).unwrap();
    let mut off: Vec<f64> = tins
        .iter()
        .zip(&learnt.paints)
        .filter_map(|(tin, paint)| {
            let (true_coats, coats) = (tin.coats_to_hide()?, paint.best().coats_to_hide()?);
            // A paint that hides in half a coat shows the same over black and white: its drawdown says no more than that.
            (true_coats.value() > 0.6).then(|| (coats.value() / true_coats.value()).ln().abs())
        })
        .collect();
    off.sort_by(f64::total_cmp);
    println!(
        "coats to hide after one drawdown each: {} tins, median {:.0} % off, worst {:.0} %",
        off.len(),
        100.0 * off[off.len() / 2],
        100.0 * off[off.len() - 1]
    );
    assert!(off.len() > 15 && off[off.len() / 2] < 0.1, "{off:?}");
}
