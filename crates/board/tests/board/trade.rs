//! What each technique does to the colour, as the trade knows it (common practice).

use warm_blend_board::{
    Application, Below, Board, Ground, GroundKind, Layer, LearnedHand, Letter, Passes, Place, PlaceSeen,
    Share, Stack, Strip, Technique, bands,
};
use warm_blend_learn::Ensemble;
use warm_blend_paint::{Class, FilmState, Masstone, Material, Parts, mix};
use warm_blend_spectral::{Lab, Light, Reflectance, Srgb, Xyz, difference};
use warm_blend_testing::shelf::{named, paint};

const CREAM: [u8; 3] = [226, 213, 181];
const BROWN: [u8; 3] = [74, 58, 47];
const BLACK: [u8; 3] = [30, 29, 31];
const GREYS: [[u8; 3]; 2] = [[120, 140, 150], [90, 95, 98]];

fn medium(class: Class) -> Material {
    Material::of(class, None, None).unwrap()
}

/// One part of a paint in so many of a medium.
fn with(code: [u8; 3], parts: f64, class: Class) -> Material {
    let own = paint(Class::Chalk, code, 1.25);
    mix(&[(Parts::new(1.0).unwrap(), &own), (Parts::new(parts).unwrap(), &medium(class))]).unwrap()
}

/// Two coats of a paint on a primer.
fn painted(class: Class, code: [u8; 3]) -> Stack {
    let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
    for _ in 0..2 {
        stack.lay(paint(class, code, 1.0), Technique::BrushedCoat.usual(), Below::LIES, None);
    }
    stack
}

fn put(mut stack: Stack, technique: Technique, pot: &Material, hand: Application) -> Stack {
    use warm_blend_board::Family::{Seal, Wax};
    let seals = matches!(technique.family(), Wax | Seal);
    stack.lay(pot.clone(), technique.print(hand), Below { seals, soaks: technique.soaks() }, None);
    stack
}

fn done(stack: Stack, technique: Technique, pot: &Material) -> Stack {
    put(stack, technique, pot, Application::default())
}

fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

fn at(stack: &Stack, place: Place) -> PlaceSeen {
    stack.seen(place, stack.len(), FilmState::Dry)
}

fn afar(stack: &Stack, place: Place) -> Lab {
    lab(&at(stack, place).from_afar())
}

fn apart(one: Lab, other: Lab) -> f64 {
    difference(one, other).value()
}

/// How far its colours lie from their mean, root mean square over the field, ΔE00.
fn unrest(stack: &Stack) -> f64 {
    let (seen, mean) = (at(stack, Place::Field), afar(stack, Place::Field));
    let square = seen.states.iter().map(|state| state.share * apart(lab(&state.seen), mean).powi(2));
    square.sum::<f64>().sqrt()
}

#[test]
fn stippling_is_quiet_ragging_strong_and_softened_lies_between() {
    for base in [CREAM, GREYS[0], GREYS[1], [150, 75, 60]] {
        for glaze in [[169, 103, 76], BROWN, BLACK] {
            let glaze = with(glaze, 4.0, Class::GlazingLiquid);
            let of = |technique| unrest(&done(painted(Class::LatexSatin, base), technique, &glaze));
            let (stippled, softened, ragged) = (
                of(Technique::GlazeStippled),
                of(Technique::GlazeRaggedSoftened),
                of(Technique::GlazeRagged),
            );
            assert!(stippled < 0.7 * softened && softened < 0.9 * ragged, "{stippled} {softened} {ragged}");
        }
    }
}

/// A detail glaze, one part of paint in one of a clear coat and wiped wet, tones the whole slightly and fills the detail.
#[test]
fn a_detail_glaze_tones_the_flat_and_fills_the_recesses() {
    for base in [CREAM, GREYS[0], GREYS[1]] {
        for glaze in [BROWN, BLACK] {
            let before = painted(Class::LatexSatin, base);
            let after = done(before.clone(), Technique::GlazeWiped, &with(glaze, 1.0, Class::ClearCoat));
            let moved = |place| apart(afar(&before, place), afar(&after, place));
            assert!((0.5..6.0).contains(&moved(Place::Field)), "{base:?}: {}", moved(Place::Field));
            assert!(moved(Place::Recess) > 4.0 * moved(Place::Field), "{base:?}: {}", moved(Place::Recess));
            assert!(moved(Place::Edge) < moved(Place::Field));
        }
    }
}

#[test]
fn sanding_back_bares_the_edges_and_leaves_the_flat() {
    let usual = Technique::SandBack.usual();
    assert!(usual.cover.edge.value() >= 0.85, "{:?}", usual.cover.edge);
    assert!(usual.cover.field.value() <= 0.05 && usual.cover.recess.value() == 0.0);
    let mut stack = Stack::over(&Ground::of(GroundKind::MidWood)).unwrap();
    let wood = afar(&stack, Place::Edge);
    for _ in 0..2 {
        stack.lay(paint(Class::Chalk, CREAM, 1.0), Technique::BrushedCoat.usual(), Below::LIES, None);
    }
    let cream = afar(&stack, Place::Edge);
    stack.take_away(usual, 0);
    let worn = afar(&stack, Place::Edge);
    assert!(apart(worn, wood) < 0.25 * apart(worn, cream), "{worn:?}");
}

#[test]
fn each_pass_of_pearl_is_stronger() {
    let drop = paint(Class::AcrylicCraft, [160, 30, 60], 1.0);
    let pearl = mix(&[(Parts::new(1.0).unwrap(), &medium(Class::Pearl)), (Parts::new(0.01).unwrap(), &drop)])
        .unwrap();
    for base in [CREAM, GREYS[0], [60, 70, 90]] {
        let before = painted(Class::LatexSatin, base);
        let passes = |n| {
            let hand = Application { passes: Passes::new(n).unwrap(), ..Application::default() };
            let after = put(before.clone(), Technique::GlazeStippled, &pearl, hand);
            apart(afar(&before, Place::Field), afar(&after, Place::Field))
        };
        let all = [1, 2, 3, 4, 5].map(passes);
        assert!(all.is_sorted() && all[1] > 1.05 * all[0] && all[2] > all[1] + 0.2, "{all:?}");
    }
}

/// On bare chalk-type paint a dark wax goes darker, and stays when it is lifted; over clear wax it can be taken back.
#[test]
fn dark_wax_stains_bare_paint_and_lifts_off_clear_wax() {
    for (base, wax) in [(CREAM, BROWN), (CREAM, BLACK), (GREYS[0], BLACK)] {
        let dark = with(wax, 4.0, Class::ClearWax);
        let bare = painted(Class::Chalk, base);
        let clear = done(bare.clone(), Technique::ClearWax, &medium(Class::ClearWax));
        let lifted = Application { wipe: Share::new(0.9).unwrap(), ..Application::default() };
        for place in [Place::Field, Place::Edge] {
            let l = |stack: &Stack| afar(stack, place).l;
            let dark_on = |stack: &Stack, hand| put(stack.clone(), Technique::TintedWax, &dark, hand);
            let (straight, over) =
                (dark_on(&bare, Application::default()), dark_on(&clear, Application::default()));
            assert!(l(&straight) < l(&over) - 0.4, "{base:?}: {} and {}", l(&straight), l(&over));
            // Lifted, it is as good as gone over clear wax; on bare paint most of what it did beyond the wax itself is there.
            let left = |stack: &Stack| apart(afar(&dark_on(stack, lifted), place), afar(&clear, place));
            let did = |stack: &Stack| {
                apart(afar(&dark_on(stack, Application::default()), place), afar(&clear, place))
            };
            // What is off by 0.2 nobody sees.
            let gone = (0.3 * did(&clear)).max(0.2);
            assert!(left(&clear) < gone, "{} of {}", left(&clear), did(&clear));
            // On an edge, which takes little, what it did may be too little to be seen.
            let seen = did(&bare) > 1.0;
            assert!(seen || place == Place::Edge, "{}", did(&bare));
            assert!(!seen || left(&bare) > 0.5 * did(&bare), "{} of {}", left(&bare), did(&bare));
        }
    }
    // A satin paint has no open pores: clear wax first changes nothing.
    let satin = painted(Class::LatexSatin, CREAM);
    let clear = done(satin.clone(), Technique::ClearWax, &medium(Class::ClearWax));
    let dark = with(BROWN, 4.0, Class::ClearWax);
    let on = |stack: &Stack| afar(&done(stack.clone(), Technique::TintedWax, &dark), Place::Field);
    assert!(apart(on(&satin), on(&clear)) < 0.8, "{}", apart(on(&satin), on(&clear)));
}

const WOODS: [GroundKind; 5] = [
    GroundKind::PaleWood,
    GroundKind::MidWood,
    GroundKind::DarkWood,
    GroundKind::RedWood,
    GroundKind::KnottyWood,
];

fn bare(kind: GroundKind) -> Stack {
    Stack::over(&Ground::of(kind)).unwrap()
}

/// Wetted, waxed or clear-coated, bare wood is darker, and a pale one more of a colour; what is varnished already is not.
#[test]
fn bare_wood_darkens_when_it_is_wetted_or_sealed() {
    for kind in WOODS {
        let dry = afar(&bare(kind), Place::Field);
        let wet = lab(&bare(kind).seen(Place::Field, 0, FilmState::Wet).from_afar());
        assert!((3.0..16.0).contains(&(dry.l - wet.l)), "{kind:?} wet: {dry:?} {wet:?}");
        for (technique, class) in
            [(Technique::ClearWax, Class::ClearWax), (Technique::ClearCoat, Class::ClearCoat)]
        {
            let sealed = afar(&done(bare(kind), technique, &medium(class)), Place::Field);
            assert!((2.5..12.0).contains(&(dry.l - sealed.l)), "{kind:?} {technique:?}: {dry:?} {sealed:?}");
            assert!(dry.l < 50.0 || sealed.chroma() > dry.chroma() + 3.0, "{kind:?}: {dry:?} {sealed:?}");
        }
    }
    let varnished = bare(GroundKind::Varnished);
    let waxed = done(varnished.clone(), Technique::ClearWax, &medium(Class::ClearWax));
    assert!(apart(afar(&varnished, Place::Field), afar(&waxed, Place::Field)) < 1.0);
}

/// A walnut stain, or a toner of one part of brown in one of clear coat, gives pale woods an even brown: darker with a second coat,
/// more red than the wood and never vivid, alike on flat and edge.
#[test]
fn stain_tones_bare_wood_evenly_and_never_vividly() {
    let walnut =
        Material::of(Class::GelStain, Some(Masstone::Hex(Srgb { red: 94, green: 67, blue: 48 })), None)
            .unwrap();
    for stain in [walnut, with(BROWN, 1.0, Class::ClearCoat)] {
        for kind in [GroundKind::PaleWood, GroundKind::MidWood, GroundKind::KnottyWood] {
            let coats =
                |n: usize| (0..n).fold(bare(kind), |stack, _| done(stack, Technique::StainWiped, &stain));
            let [dry, once, twice] = [0, 1, 2].map(|n| afar(&coats(n), Place::Field));
            assert!(once.l < dry.l - 3.0 && twice.l < once.l - 1.0, "{kind:?}: {dry:?} {once:?} {twice:?}");
            assert!(once.l - twice.l < dry.l - once.l, "the second coat does less");
            for toned in [once, twice] {
                assert!(toned.chroma() < dry.chroma() + 7.0, "{kind:?}: {dry:?} {toned:?}");
            }
            assert!(apart(once, afar(&coats(1), Place::Edge)) < 2.5);
            assert!(unrest(&coats(1)) < 0.1);
            // A film of the same on top would be more vivid than what soaked in.
            let mut film = bare(kind);
            let print = Technique::GlazeRagged.usual();
            let whole =
                warm_blend_board::Deposit { cover: warm_blend_board::ByPlace::all(Share::WHOLE), ..print };
            film.lay(stain.clone(), whole, Below::LIES, None);
            assert!(afar(&film, Place::Field).chroma() > once.chroma(), "{kind:?}");
        }
    }
}

/// How much a wood drinks is not known to better than a quarter of what wax does to it, and the band says so.
#[test]
fn the_band_of_waxed_wood_is_honest() {
    let [a, ..] = Letter::ALL;
    let within = |kind, layers: Vec<Layer>| {
        let n = layers.len();
        let strips = vec![Strip { letter: a, from: None, layers }];
        let board = Board::new(named("oak"), Ground::of(kind), strips).unwrap();
        let tins = |_| None::<(Class, &Ensemble)>;
        bands(&board, a, tins, &LearnedHand::default(), n, (Light::Daylight, FilmState::Dry)).unwrap().field
    };
    let wax = || vec![Layer::new(Technique::ClearWax, Vec::new())];
    for kind in WOODS {
        let [dry, waxed] = [bare(kind), done(bare(kind), Technique::ClearWax, &medium(Class::ClearWax))]
            .map(|stack| afar(&stack, Place::Field));
        let share = within(kind, wax()) / apart(dry, waxed);
        assert!((0.25..0.9).contains(&share), "{kind:?} ±{}", within(kind, wax()));
        assert!(within(kind, Vec::new()) <= 0.2, "bare, it is what it is");
    }
}
