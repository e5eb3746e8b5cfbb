//! Closed loop of the bench: a target is matched from paints that are known by code and one tint each, measured in spoons,
//! poured onto the simulated scale, read, and corrected once. The virtual paints say how far the pot then is from the target.

use std::ops::ControlFlow;

use crate::workshop::{Recipe, SEED, Workshop, parts, truth};
use rand::{Rng, SeedableRng, seq::IteratorRandom};
use rand_chacha::ChaCha8Rng;
use warm_blend_learn::{Ensemble, PartsMethod, Reading, learn};
use warm_blend_mixing as bench;
use warm_blend_mixing::{DoubtfulTin, EVERY, InDoubt, Limits, MatchTin, Pot};
use warm_blend_paint::{Measure, Millilitres, Parts};
use warm_blend_sim::SimulatedScale;
use warm_blend_spectral::{Lab, Light, difference};

/// Targets that are tried, tins on the shelf they are matched from, and ml of a pot.
const TARGETS: usize = 80;
const SHELF: usize = 20;
const BATCH: f64 = 240.0;
/// From which predicted difference on a target counts as out of reach.
const REACHED: f64 = 1.0;

/// A pot: what was recorded, and what is in it in truth.
struct Poured {
    told: Recipe,
    real: Recipe,
}

/// Pours so much of each tin onto the scale, as a hand does, and records what it shows.
fn pour(amounts: &[(usize, f64)], density: impl Fn(usize) -> f64, scale: &mut SimulatedScale) -> Poured {
    let (mut told, mut real) = (Vec::new(), Vec::new());
    for (tin, ml) in amounts {
        let before = (rest(scale), scale.inside());
        scale.pour(ml * density(*tin));
        let (shown, inside) = (rest(scale) - before.0, scale.inside() - before.1);
        told.push((*tin, parts((shown / density(*tin)).max(0.05))));
        real.push((*tin, parts((inside / density(*tin)).max(0.05))));
    }
    Poured { told, real }
}

fn rest(scale: &mut SimulatedScale) -> f64 {
    scale.after(0.1);
    (0..100).map(|_| scale.after(0.1)).find(|line| line.steady).expect("it is steady").grams
}

/// How many plausible shelves the program asks.
const SHELVES: usize = 32;

/// The tins of a shelf as they are known.
fn on<'a>(shelf: &[usize], known: &'a [Ensemble]) -> Vec<DoubtfulTin<'a>> {
    let tin = |tin: &usize| DoubtfulTin {
        tin: MatchTin { material: known[*tin].best(), price: None, wanted: false },
        plausible: known[*tin].some(SHELVES),
    };
    shelf.iter().map(tin).collect()
}

fn volume(recipe: &Recipe) -> f64 {
    recipe.iter().map(|(_, parts)| parts.value()).sum()
}

fn together(one: &Recipe, other: &Recipe) -> Recipe {
    let mut sum = one.clone();
    for (tin, more) in other {
        match sum.iter_mut().find(|(known, _)| known == tin) {
            Some((_, parts)) => *parts = crate::workshop::parts(parts.value() + more.value()),
            None => sum.push((*tin, *more)),
        }
    }
    sum
}

#[test]
fn matched_poured_and_corrected_once() {
    let mut workshop = Workshop::new(SEED);
    let facts = workshop.codes();
    let tints: Vec<Reading> =
        (1..workshop.tins.len()).map(|tin| workshop.tint(tin, 1.0, PartsMethod::Scale, false)).collect();
    let known = learn(&facts, &tints).unwrap().paints;
    let mut chance = ChaCha8Rng::seed_from_u64(SEED);
    let light = Light::Daylight;
    let (mut first, mut second, mut out_of_reach) = (Vec::new(), Vec::new(), 0);
    for _ in 0..TARGETS {
        // The house white is always there.
        let mut shelf: Vec<usize> = (1..workshop.tins.len()).choose_multiple(&mut chance, SHELF - 1);
        shelf.push(0);
        let of: Recipe = shelf
            .iter()
            .copied()
            .choose_multiple(&mut chance, 3)
            .into_iter()
            .map(|tin| (tin, parts(f64::from(chance.random_range(1..=6u8)))))
            .collect();
        let target = truth(&of, &workshop.tins);
        let classes: Vec<_> = workshop.tins.iter().map(|tin| tin.class).collect();
        let density = |tin: usize| classes[tin].density();
        let limits = Limits { paints: 3, parts: 12, recipes: 1, every: EVERY };
        let goes_on = || ControlFlow::Continue(());
        let found = bench::find_likely(&on(&shelf, &known), target, light, limits, |_| goes_on());
        let Some(recipe) =
            found.first().map(|likely| &likely.recipe).filter(|recipe| recipe.difference <= REACHED)
        else {
            out_of_reach += 1;
            continue;
        };
        let recipe: Recipe = recipe.parts.iter().map(|(at, n)| (shelf[*at], parts(f64::from(*n)))).collect();

        // In the spoons that round best, then as a hand pours them onto the scale.
        let mixed: Vec<(Parts, _)> = recipe.iter().map(|(tin, parts)| (*parts, known[*tin].best())).collect();
        let spoons = [Measure::Cup, Measure::Tablespoon, Measure::Teaspoon];
        let batch = Millilitres::new(BATCH).unwrap();
        let rounded = &warm_blend_paint::measured(&mixed, batch, &spoons, None, light).unwrap()[0];
        let amounts: Vec<(usize, f64)> =
            recipe.iter().zip(rounded.amounts()).map(|((tin, _), ml)| (*tin, ml)).collect();
        let mut scale = SimulatedScale::new(chance.random());
        let pot = pour(&amounts, density, &mut scale);
        let off = |recipe: &Recipe| difference(truth(recipe, &workshop.tins), target).value();
        first.push(off(&pot.real));

        // A dab is read, the estimate learns from it, and the best addition by syringe goes in.
        let dab = workshop.dab(&pot.told, &pot.real);
        let mut readings = tints.clone();
        readings.push(dab);
        let learnt = learn(&facts, &readings).unwrap().paints;
        let inside: Vec<(Parts, _)> = pot.told.iter().map(|(tin, ml)| (*ml, &learnt[*tin])).collect();
        let inside = Ensemble::mix(&inside).unwrap();
        let held = Pot {
            inside: InDoubt { best: inside.best(), plausible: &inside.some(SHELVES) },
            ml: volume(&pot.told),
            room: 4.0 * BATCH,
            least: 0.5,
        };
        let fix =
            bench::correct(held, &on(&shelf, &learnt), target, light, false, goes_on).into_iter().next();
        let corrected = match fix {
            Some(fix) => {
                let more: Vec<(usize, f64)> =
                    fix.additions.iter().map(|(at, ml)| (shelf[*at], *ml)).collect();
                together(&pot.real, &pour(&more, density, &mut scale).real)
            }
            None => pot.real,
        };
        second.push(difference(truth(&corrected, &workshop.tins), target).value());
    }
    let at = |errors: &mut Vec<f64>, share: f64| {
        errors.sort_by(f64::total_cmp);
        errors[((errors.len() - 1) as f64 * share).round() as usize]
    };
    let figures: [Vec<f64>; 2] =
        [&mut first, &mut second].map(|errors| [0.5, 0.9, 1.0].map(|share| at(errors, share)).into());
    println!(
        "seed {SEED}, {} targets within reach of {SHELF} tins ({out_of_reach} not), ΔE00 from the target: median, 90 %, worst",
        first.len()
    );
    println!("poured           {:.2?}\ncorrected once   {:.2?}", figures[0], figures[1]);
    assert!(first.len() > TARGETS / 2, "too few are in reach to say anything");
    assert!(figures[0][1] <= 1.75 && figures[1][1] <= 0.85, "{figures:?}");
    assert!(figures[1][0] < figures[0][0], "a correction should help");
}

/// The colours that are compared are the ones that a reader would say.
#[test]
fn the_truth_of_a_pot_is_what_is_in_it() {
    let workshop = Workshop::new(1);
    let pot: Recipe = vec![(1, parts(3.0)), (5, parts(1.0))];
    let more: Recipe = vec![(5, parts(2.0)), (7, parts(1.0))];
    let sum = together(&pot, &more);
    assert_eq!(
        sum.iter().map(|(tin, parts)| (*tin, parts.value())).collect::<Vec<_>>(),
        [(1, 3.0), (5, 3.0), (7, 1.0)]
    );
    let lab: Lab = truth(&sum, &workshop.tins);
    assert!(lab.l > 0.0 && (volume(&sum) - 7.0).abs() < 1e-12);
}
