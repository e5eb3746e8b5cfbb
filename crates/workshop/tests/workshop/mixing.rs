//! What mixes look like, their shades, and what lies between them.

use proptest::prelude::*;
use uuid::Uuid;
use warm_blend_learn::Ensemble;
use warm_blend_paint::{Colour, Look, Masstone, MixPart, Parts, SavedMix};
use warm_blend_workshop::{BlendOf, FilmOf, LadderOf, NarrowedBy, PotToShade};

use crate::pile::*;

fn look() -> Look {
    LIGHT.into()
}

#[test]
fn an_empty_pot_has_no_colour_and_is_no_error() {
    let answer = pile().shelf().predict(&mix(&[]), look()).unwrap();
    assert!(answer.swatch.is_none() && answer.judgement.is_none() && answer.parts.is_empty());
}

/// A paint alone is that paint; against its own colour there is nothing to say.
#[test]
fn one_paint_alone_is_itself() {
    let pile = pile();
    let shelf = pile.shelf();
    let alone = shelf.predict(&mix(&[(BLUE, 7)]), look()).unwrap();
    let (swatch, part) = (alone.swatch.unwrap(), &alone.parts[0]);
    assert_eq!(swatch.wedge.face.hex, part.hex);
    assert_eq!((part.percent, part.share, part.medium, part.removed), (100, 1.0, false, false));
    let [l, a, b] = swatch.wedge.face.lab;
    let target = Masstone::Lab(warm_blend_spectral::Lab { l, a, b });
    let aimed = SavedMix::new(None, components(&[(BLUE, 1)]), Some(target)).unwrap();
    let judged = shelf.predict(&aimed, look()).unwrap().judgement.unwrap();
    assert!(judged.difference < 0.05, "{judged:?}");
}

/// A tin that was removed goes on in its mixes, and is marked; a medium is shown as one.
#[test]
fn what_was_removed_is_still_known_in_its_mixes() {
    let mut pile = pile();
    warm_blend_documents::Documents::remove::<warm_blend_learn::ShelfPaint>(&mut pile, id(BLUE), 1).unwrap();
    let shelf = pile.shelf();
    let answer = shelf.predict(&mix(&[(BLUE, 1), (GLAZE, 4)]), look()).unwrap();
    assert!(answer.parts[0].removed && !answer.parts[0].medium && answer.parts[1].medium);
    assert_eq!(shelf.name(id(BLUE)), "harbour");
    assert_eq!(
        shelf.pot_words(&components(&[(BLUE, 1), (GLAZE, 4)])),
        "1 harbour (no longer on the shelf) : 4 glazing liquid"
    );
    assert_eq!(shelf.pot_words(&components(&[(WHITE, 3)])), "chimney white");
    assert_eq!(shelf.name(id(77)), "a deleted paint");
}

/// A test of a tin helps where tins are in doubt; where it is the medium, a sample on a board.
#[test]
fn what_would_narrow_a_mix_is_what_its_doubt_hangs_on() {
    let mut pile = pile();
    let narrowed =
        |pile: &Pile, parts: &[(u128, u32)]| pile.shelf().predict(&mix(parts), look()).unwrap().narrowed_by;
    let test = |n: u128, name: &str| Some(NarrowedBy::Test { paint: id(n), name: name.to_owned() });
    assert_eq!(narrowed(&pile, &[(BLUE, 1)]), None);
    assert_eq!(narrowed(&pile, &[(BLUE, 1), (WHITE, 1)]), test(BLUE, "harbour"));
    assert_eq!(narrowed(&pile, &[(BLUE, 4), (GLAZE, 1)]), test(BLUE, "harbour"));
    // Read alone and in white, the blue is known; in glazing liquid it is not.
    for (n, white) in [(300, 1.0), (301, 4.0), (302, 16.0)] {
        let of = [(BLUE, 1.0), (WHITE, white)];
        let tins = of.map(|(tin, _)| pile.shelf().paint(id(tin)).unwrap().clone());
        let parts = of.map(|(_, parts)| Parts::new(parts).unwrap());
        let stirred = Ensemble::mix(&[(parts[0], &tins[0]), (parts[1], &tins[1])]).unwrap();
        let lab = stirred.best().seen_lab(LIGHT);
        pile.put(Uuid::from_u128(n), crate::pile::reading(&of, lab));
    }
    assert_eq!(narrowed(&pile, &[(BLUE, 1), (WHITE, 1)]), None);
    assert_eq!(narrowed(&pile, &[(BLUE, 1), (GLAZE, 4)]), Some(NarrowedBy::Board));
}

#[test]
fn a_shade_keeps_the_mediums_and_as_much_paint() {
    let shelf = pile().shelf();
    for (base, shades) in [(BLUE, 2), (BROWN, 1), (BLACK, 3)] {
        let pot = components(&[(base, 2), (GLAZE, 8)]);
        let before = shelf.predict(&mix(&[(base, 1)]), look()).unwrap().swatch.unwrap().wedge.face.lab[0];
        let shaded = shelf.shade(PotToShade { pot, shades }, look()).unwrap();
        let total: u32 = shaded.iter().map(|part| part.parts.value()).sum();
        let glaze = shaded.iter().find(|part| part.paint.0 == id(GLAZE)).unwrap().parts.value();
        assert!((f64::from(glaze) / f64::from(total) - 0.8).abs() < 0.01, "{shaded:?}");
        let paints: Vec<(u128, u32)> = shaded
            .iter()
            .filter(|part| part.paint.0 != id(GLAZE))
            .map(|part| (part.paint.0.as_u128(), part.parts.value()))
            .collect();
        let after = shelf.predict(&mix(&paints), look()).unwrap().swatch.unwrap().wedge.face.lab[0];
        // One shade is 6 L* where nothing else is said.
        assert!((after - before - 6.0 * f64::from(shades)).abs() < 2.5, "{before} {after}");
    }
    let pot = components(&[(BLUE, 2), (GLAZE, 8)]);
    assert_eq!(
        pointers(shelf.shade(PotToShade { pot: components(&[(GLAZE, 1)]), shades: 1 }, look())),
        ["/pot"]
    );
    assert_eq!(pointers(shelf.shade(PotToShade { pot, shades: 40 }, look())), ["/shades"]);
}

#[test]
fn the_shades_of_a_colour_rise_with_the_base_in_the_middle() {
    let shelf = pile().shelf();
    let ladder = shelf
        .ladder(&LadderOf { base: components(&[(BLUE, 1)]), shade: None, neighbours: None }, look())
        .unwrap();
    let lightness: Vec<f64> =
        ladder.rungs.iter().filter_map(|rung| rung.made.as_ref().map(|made| made.lab[0])).collect();
    assert!(lightness.len() > 5 && lightness.is_sorted(), "{lightness:?}");
    let middle = ladder.rungs.iter().find(|rung| rung.shade == 0).unwrap();
    assert_eq!(middle.made.as_ref().unwrap().components.len(), 1);
    let neighbours =
        LadderOf { base: components(&[(BLUE, 1)]), shade: None, neighbours: Some([id(WHITE), id(WHITE)]) };
    assert_eq!(pointers(shelf.ladder(&neighbours, look())), ["/neighbours"]);
    let huge = LadderOf { base: components(&[(BLUE, 1)]), shade: Some(f64::NAN), neighbours: None };
    assert_eq!(pointers(shelf.ladder(&huge, look())), ["/shade"]);
}

/// Yellow and blue make green, and that is said before one brush carries both (common practice).
#[test]
fn brushes_that_make_a_third_colour_stay_apart() {
    let shelf = pile().shelf();
    let of = |colours: &[u128]| BlendOf {
        colours: colours.iter().map(|paint| components(&[(*paint, 1)])).collect(),
    };
    let blend = shelf.blend(&of(&[YELLOW, BLUE, BLACK]), look()).unwrap();
    assert_eq!((blend.paths.len(), blend.pairs.len()), (2, 3));
    let pair = |a, b| blend.pairs.iter().find(|pair| pair.of == [a, b]).unwrap();
    assert!(pair(0, 1).apart, "{}", pair(0, 1).words);
    assert!(!pair(1, 2).apart, "{}", pair(1, 2).words);
    assert_eq!(pointers(shelf.blend(&of(&[BLUE]), look())), ["/colours"]);
    assert_eq!(pointers(shelf.blend(&of(&[BLUE, 66]), look())), ["/colours/1/0/paint"]);
}

#[test]
fn a_film_darkens_what_it_lies_on_most_where_it_gathers() {
    let shelf = pile().shelf();
    let of = |components, on_paint, on_colour| FilmOf { components, on_paint, on_colour };
    let glaze = components(&[(BROWN, 1), (GLAZE, 4)]);
    let seen = shelf.film(&of(glaze.clone(), Some(id(WHITE)), None), look()).unwrap();
    let at = |place: &str| seen.films.iter().find(|film| film.place == place).unwrap();
    assert!(at("recess").wet_um >= at("edge").wet_um && at("recess").difference > at("edge").difference);
    let white = Colour { hex: Some("#ffffff".to_owned()), lab: None };
    assert_eq!(pointers(shelf.film(&of(glaze.clone(), Some(id(WHITE)), Some(white)), look())), ["/on_paint"]);
    assert_eq!(pointers(shelf.film(&of(glaze.clone(), None, None), look())), ["/on_paint"]);
    let bad = Colour { hex: Some("#zz".to_owned()), lab: None };
    assert_eq!(pointers(shelf.film(&of(glaze, None, Some(bad)), look())), ["/on_colour/hex"]);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Percents add up, shares are those of the parts, and whole numbers of the same ratio are the same colour.
    #[test]
    fn only_the_ratio_counts(a in 1u32..60, b in 1u32..60, c in 1u32..60, times in 2u32..16) {
        let shelf = pile().shelf();
        let of = |times: u32| mix(&[(WHITE, a * times), (BLUE, b * times), (YELLOW, c * times)]);
        let (one, many) = (shelf.predict(&of(1), look()).unwrap(), shelf.predict(&of(times), look()).unwrap());
        prop_assert_eq!(one.parts.iter().map(|part| part.percent).sum::<u32>(), 100);
        let total: f64 = one.parts.iter().map(|part| part.share).sum();
        prop_assert!((total - 1.0).abs() < 1e-12);
        let (one, many) = (one.swatch.unwrap(), many.swatch.unwrap());
        prop_assert_eq!(one.wedge.face.hex, many.wedge.face.hex);
        prop_assert!((one.within - many.within).abs() < 1e-6);
    }

    /// The same paints gathered: each once, in their ratio, in whole parts that a pot takes.
    #[test]
    fn gathered_parts_keep_their_ratio(of in proptest::collection::vec((0u128..4, 1u32..400), 1..9)) {
        let given: Vec<MixPart> = components(&of);
        let once = MixPart::gathered(given.iter().map(|part| (part.paint, part.parts.value())));
        let sum = |of: &mut dyn Iterator<Item = &MixPart>| f64::from(of.map(|part| part.parts.value()).sum::<u32>());
        let (total, all) = (sum(&mut once.iter()), sum(&mut given.iter()));
        for part in &once {
            let same = sum(&mut given.iter().filter(|one| one.paint == part.paint));
            let off = f64::from(part.parts.value()) / total - same / all;
            prop_assert!(off.abs() < 2e-3, "{once:?}");
            prop_assert!((1..=999).contains(&part.parts.value()));
        }
        let mut paints: Vec<_> = once.iter().map(|part| part.paint).collect();
        paints.dedup();
        prop_assert_eq!(paints.len(), once.len());
    }
}
