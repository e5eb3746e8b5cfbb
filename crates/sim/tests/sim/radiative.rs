//! Closed loop against paints that Kubelka–Munk theory did not make: their colours come from radiative transfer
//! (`crates/spectral/data/make_paints.py`: Mie scattering of invented powders, crowded titania, adding–doubling, a refracting
//! surface). The engine is given what a painter would know about them and predicts the rest.
//!
//! `make truth` prints the table of docs/engine.md.

#[path = "radiative/paints.rs"]
mod paints;
use crate::workshop::{Figures, Recipe};
use paints::{Known, Radiative};
use warm_blend_learn::{Ensemble, PartsMethod, Reading, learn};
use warm_blend_paint::{
    Class, Material, Microns, Optics, Parts, SurfaceReflection, Undersurface, chart_black, chart_white,
    film::thick_film,
};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz, difference};

fn in_light(curve: &Reflectance, light: Light) -> Lab {
    Lab::of(Xyz::of(curve, light), light.white())
}

fn mixed(known: &[Ensemble], recipe: &Recipe) -> Ensemble {
    let of: Vec<(Parts, &Ensemble)> = recipe.iter().map(|(tin, parts)| (*parts, &known[*tin])).collect();
    Ensemble::mix(&of).unwrap()
}

fn thick(known: &[Ensemble], mixes: &[&(Recipe, Reflectance)], light: Light) -> Figures {
    Figures::of(mixes.iter().map(|(recipe, truth)| {
        let look = |material: &Material| in_light(&material.masstone(), light);
        let mix = mixed(known, recipe);
        (difference(look(mix.best()), in_light(truth, light)).value(), mix.within(look))
    }))
}

/// Films of one tin or a glaze of it: 90 µm over black and over white, and 40 µm of a glaze over another tin.
fn films(known: &[Ensemble], paints: &Radiative) -> [Figures; 2] {
    let light = Light::Daylight;
    let off = |mix: &Ensemble, truth: &Reflectance, look: &dyn Fn(&Material) -> Reflectance| {
        let look = |material: &Material| in_light(&look(material), light);
        (difference(look(mix.best()), in_light(truth, light)).value(), mix.within(look))
    };
    let drawn = paints.drawdowns.iter().map(|((tin, white), truth)| {
        let half = if *white { chart_white() } else { chart_black() };
        off(&known[*tin], truth, &|material| material.film(Microns::of(90.0), half))
    });
    let clear = Ensemble::certain(Material::of(Class::GlazingLiquid, None, None).unwrap());
    let glazed = paints.glazes.iter().map(|([tin, base], truth)| {
        let of = [(crate::workshop::parts(1.0), &known[*tin]), (crate::workshop::parts(4.0), &clear)];
        let ground = known[*base].best().optics.thick();
        off(&Ensemble::mix(&of).unwrap(), truth, &|glaze| glaze.film(Microns::of(40.0), &ground))
    });
    [Figures::of(drawn), Figures::of(glazed)]
}

/// What one way of knowing a shelf comes to: mixes of two and of three in daylight, of two in every other light, and films.
struct Row {
    two: Figures,
    three: Figures,
    others: Vec<(Light, Figures)>,
    films: [Figures; 2],
}

fn row(paints: &Radiative, known: Known) -> Row {
    let learnt = learn(&paints.facts(), &paints.readings(known)).unwrap().paints;
    let of = |n: usize| paints.mixes.iter().filter(move |(recipe, _)| recipe.len() == n);
    let (two, three): (Vec<_>, Vec<_>) = (of(2).collect(), of(3).collect());
    let others = Light::ALL.into_iter().filter(|light| *light != Light::Daylight);
    Row {
        others: others.map(|light| (light, thick(&learnt, &two, light))).collect(),
        two: thick(&learnt, &two, Light::Daylight),
        three: thick(&learnt, &three, Light::Daylight),
        films: films(&learnt, paints),
    }
}

fn row_of(seed: u64, paints: &Radiative, known: Known) -> Row {
    let row = row(paints, known);
    let shelf = if paints.class == Class::Chalk { "chalk" } else { "satin" };
    println!("{seed} {shelf} {:8} two {}   three {}", known.name(), row.two, row.three);
    for (light, figures) in &row.others {
        println!("    {light:?} {figures}");
    }
    let [drawn, glazed] = &row.films;
    println!("    90 µm over black and white {drawn}   glazes {glazed}");
    row
}

/// The figures of docs/engine.md, each with its limit. The second file was made when the model stood.
#[test]
fn paints_of_radiative_transfer() {
    for seed in paints::SEEDS {
        for paints in Radiative::read(seed) {
            for known in Known::ALL {
                let row = row_of(seed, &paints, known);
                // A code says nothing of strength: nine of ten within 8.5 hold on the matte shelf only.
                let [median, ninth] = match known {
                    Known::Codes => [3.1, 11.5],
                    Known::Tints => [0.8, 2.2],
                    Known::Spectra => [0.52, 1.3],
                };
                assert!(row.two.at(0.5) <= median && row.two.at(0.9) <= ninth, "{}", row.two);
                for held in
                    [row.two.held, row.three.held].into_iter().chain(row.others.iter().map(|(_, f)| f.held))
                {
                    assert!(held >= 0.85, "{held}");
                }
            }
        }
    }
}

/// What one tint with white leaves of the doubt in a tin is what was promised before it was made, within a third; here the tint is
/// no mix of the model's own, so that some surprise.
#[test]
fn a_tint_gives_what_it_promised() {
    use warm_blend_learn::{Beside, Reads, Test, Worth, worth};
    let mut ratios = Vec::new();
    for paints in Radiative::read(paints::SEEDS[0]) {
        let facts = paints.facts();
        let tints = paints.readings(Known::Tints);
        for tin in (1..facts.len()).step_by(5) {
            let others: Vec<usize> =
                [7, 18, 29].iter().map(|far| 1 + (tin + far) % (facts.len() - 1)).collect();
            let places: Vec<usize> = [0, tin].into_iter().chain(others).collect();
            let shelf: Vec<_> = places.iter().map(|place| facts[*place]).collect();
            let said = |readings: &[Reading]| -> Worth {
                let known = learn(&shelf, readings).unwrap().paints;
                let partners: Vec<&Material> = [0, 2, 3, 4].map(|i: usize| known[i].best()).into();
                let beside = Beside { others: &partners, white: Some(&known[0]), dark: None };
                worth(&known[1], beside, Reads::Colours)
            };
            let first = said(&[]);
            let promised = first.after.iter().find(|(test, _)| *test == Test::TintHalf).unwrap().1;
            let mut read = tints[tin - 1].clone();
            (read.of[0].0, read.of[1].0, read.pour) = (1, 0, PartsMethod::Spoons);
            ratios.push(said(&[read]).doubt / promised);
        }
    }
    ratios.sort_by(f64::total_cmp);
    let within =
        ratios.iter().filter(|ratio| (0.67..1.34).contains(*ratio)).count() as f64 / ratios.len() as f64;
    let median = ratios[ratios.len() / 2];
    println!(
        "a tint left {median:.2} of the doubt that was promised in the median, within a third in {:.0} %: {ratios:.2?}",
        100.0 * within
    );
    assert!((0.8..1.25).contains(&median) && within >= 0.95, "{median} {within}");
}

/// Thick slabs without a surface in diffuse light: adding–doubling agrees with Kubelka–Munk theory where scattering outweighs absorption,
/// with K = 2 μa and S = ¾ μs (P. S. Mudgett and L. W. Richards, *Appl. Opt.* 10 (1971) 1485).
#[test]
fn adding_doubling_is_kubelka_munk_where_it_should_be() {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/data/adding-doubling.csv");
    let mut rows = csv::ReaderBuilder::new().has_headers(false).from_path(path).unwrap();
    let mut compared = 0;
    for row in rows.records().map(Result::unwrap) {
        let [albedo, thickness, reflected, _] = [0, 1, 2, 3].map(|i| row[i].parse::<f64>().unwrap());
        if thickness < 1000.0 {
            continue;
        }
        let ours = thick_film(2.0 * (1.0 - albedo), 0.75 * albedo);
        assert!((ours - reflected).abs() < 0.007, "albedo {albedo}: {ours} {reflected}");
        compared += 1;
    }
    assert_eq!(compared, 6);
}

/// Thin films under a refracting surface, over black, grey and white: what leaves of the light that enters is off by 0.05 at most from
/// adding–doubling with many directions, and by 0.006 in the median. Two fluxes were off by 0.085 and 0.016.
#[test]
fn films_are_those_of_adding_doubling() {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/data/films.csv");
    let mut rows = csv::ReaderBuilder::new().has_headers(false).from_path(path).unwrap();
    let mut off: Vec<f64> = Vec::new();
    for row in rows.records().map(Result::unwrap) {
        let [absorbs, scatters, _, ground, seen] = [0, 1, 2, 3, 4].map(|i| row[i].parse::<f64>().unwrap());
        let film = Optics::new([2.0 * absorbs; BANDS], [0.75 * scatters; BANDS]);
        let ground = Undersurface::diffuse(&Reflectance::grey(ground));
        let ours = SurfaceReflection::new(0.0).seen(&film.over(Microns::of(40.0), &ground)).bands()[0];
        off.push((ours - seen).abs());
    }
    off.sort_by(f64::total_cmp);
    assert_eq!(off.len(), 72);
    assert!(off[36] < 0.006 && off[71] < 0.05, "{} {}", off[36], off[71]);
}
