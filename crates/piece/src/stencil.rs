//! A stencilled pattern, repeated along the parts of a zone.
//!
//! It lies on flat, sunk, raised or carved parts, centred across and evenly spaced along the longer side, or as a border along
//! all four sides; not on parts with others than hardware set into them, nor where it does not fit. Stencilling takes very little
//! paint: the film is that of [`Technique::Stencil`], and some of each motif stays bare. By hand it is a loaded brush's.

use serde::{Deserialize, Serialize};
use warm_blend_board::{Motif, Share};
use warm_blend_paint::{MixPart, PaintId, replace_paint};

use super::{BadFinish, Cut, Outlined};

/// The least and the largest motif, mm.
pub(super) const SIZES: (f64, f64) = (10.0, 1000.0);
/// Most repeats on one part.
const MOST: u32 = 100;

/// How the paint of a pattern fades along and across each part: strongest in one place, weakest where it is farthest from there.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Fade {
    /// Cover where it is weakest, as a share of that where it is strongest, 0 to 1.
    pub weakest: f64,
    /// Where along the longer side it is strongest, 0 to 1: from the left, or from above.
    pub along: f64,
    /// Where across it is strongest, 0 to 1; it does not fade across if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub across: Option<f64>,
    /// How patchy the pressure of the hand leaves it, 0 to 1.
    #[serde(default)]
    pub patchy: f64,
}

impl Fade {
    pub(super) fn check(&self) -> bool {
        let shares = [self.weakest, self.along, self.across.unwrap_or(0.0), self.patchy];
        shares.iter().all(|share| (0.0..=1.0).contains(share))
    }

    /// Cover at a place, as a share of that where it is strongest, before the hand makes it patchy.
    pub(super) fn at(&self, along: f64, across: f64) -> f64 {
        // As smooth as a hand that presses less and less.
        let near = |at: f64, strongest: f64| {
            let off = (at - strongest).abs() / strongest.max(1.0 - strongest);
            0.5 * (1.0 + (std::f64::consts::PI * off.min(1.0)).cos())
        };
        let near = near(along, self.along) * self.across.map_or(1.0, |strongest| near(across, strongest));
        self.weakest + (1.0 - self.weakest) * near
    }
}

/// A pattern as a border along all four sides of each part.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Border {
    /// Distance from the edge of the part, 0 to 1000 mm.
    pub inset: f64,
    /// Motif in the corners, turned to fit each; corners stay free if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub corner: Option<Motif>,
}

/// How a pattern is made fainter once it is on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Softening {
    /// Wiped back with a damp cloth while it is wet: a thinner film everywhere.
    Wiped,
    /// Sanded into the coat once it is dry: gone where the brush had pressed least.
    Sanded,
}

/// A pattern made fainter.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Softened {
    /// How.
    pub how: Softening,
    /// Share of the paint that goes, 0 to 1.
    #[cfg_attr(feature = "schema", schema(value_type = f64))]
    pub share: Share,
}

/// A stencilled pattern on a zone.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stencil {
    /// Motif, `rosette` …: see `/api/piece/choices`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub motif: Motif,
    /// The painter's own outline, which takes the place of the motif.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub own: Option<Outlined>,
    /// True if every second repeat is mirrored.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub mirrored: bool,
    /// Length and width of one repeat, 10 to 1000 mm.
    pub size: f64,
    /// Repeats on each part, 1 to 100; as many as are well spaced if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub repeats: Option<u32>,
    /// Gap between repeats, 0 to 1000 mm: 0 makes a running border; evenly spaced if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gap: Option<f64>,
    /// A border along all four sides of each part; in a row along the longer side if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub around: Option<Border>,
    /// How it fades; as strong everywhere if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fade: Option<Fade>,
    /// How it is made fainter once it is on.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub softened: Option<Softened>,
    /// True if it is painted by hand, with a pointed brush and without a stencil.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub by_hand: bool,
    /// Contents of the pot.
    pub pot: Vec<MixPart>,
    /// Up to three more pots, wisped over the pattern in different places.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub wisps: Vec<Vec<MixPart>>,
    /// True if further pots lie on petals in turn, or on repeats in turn where a motif has no petals; wisped if left out.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub in_turn: bool,
    /// A pot for the edges of its motifs: darker for shade, lighter for a highlight.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub edge: Option<Vec<MixPart>>,
}

impl Stencil {
    /// Greatest number of colours.
    pub const COLOURS: usize = 4;

    /// A plain pattern: as many repeats as are well spaced, in one colour.
    pub const fn new(motif: Motif, size: f64, pot: Vec<MixPart>) -> Self {
        Self {
            motif,
            own: None,
            mirrored: false,
            size,
            repeats: None,
            gap: None,
            around: None,
            fade: None,
            softened: None,
            by_hand: false,
            pot,
            wisps: Vec::new(),
            in_turn: false,
            edge: None,
        }
    }

    /// Checks that it can be cut and painted.
    pub fn check(&self) -> Result<(), BadFinish> {
        if !(SIZES.0..=SIZES.1).contains(&self.size) {
            return Err(BadFinish::StencilSize(self.size));
        }
        if self.repeats.is_some_and(|n| !(1..=MOST).contains(&n)) {
            return Err(BadFinish::StencilRepeats);
        }
        if self.gap.is_some_and(|gap| !(0.0..=SIZES.1).contains(&gap)) {
            return Err(BadFinish::StencilGap);
        }
        if self.around.is_some_and(|around| !(0.0..=SIZES.1).contains(&around.inset)) {
            return Err(BadFinish::StencilInset);
        }
        if self.fade.is_some_and(|fade| !fade.check()) {
            return Err(BadFinish::StencilFade);
        }
        self.own.as_ref().map_or(Ok(()), Outlined::check)?;
        if self.pots().count() > Self::COLOURS {
            return Err(BadFinish::StencilWisps(self.pots().count()));
        }
        if self.pots().any(Vec::is_empty) { Err(BadFinish::StencilPot) } else { Ok(()) }
    }

    /// Its pots: of the whole pattern, of what lies over it, of its edges.
    pub fn pots(&self) -> impl Iterator<Item = &Vec<MixPart>> {
        std::iter::once(&self.pot).chain(&self.wisps).chain(&self.edge)
    }

    /// Replaces one tin with another.
    pub(super) fn replace_paint(&mut self, gone: PaintId, kept: PaintId) {
        let pots = std::iter::once(&mut self.pot).chain(&mut self.wisps).chain(&mut self.edge);
        pots.for_each(|pot| replace_paint(pot, gone, kept));
    }

    /// Share of the paint that is wiped off, and share of the motifs that is sanded off.
    pub(super) fn taken_off(&self) -> (f64, f64) {
        match self.softened {
            Some(Softened { how: Softening::Wiped, share }) => (share.value(), 0.0),
            Some(Softened { how: Softening::Sanded, share }) => (0.0, share.value()),
            None => (0.0, 0.0),
        }
    }

    /// What is cut out of it.
    pub fn cut(&self) -> Result<Cut, BadFinish> {
        Ok(self.own.as_ref().map(Outlined::cut).transpose()?.unwrap_or(Cut::Motif(self.motif)))
    }

    /// Name of the pattern: `Rosettes`, or what the painter calls it.
    pub fn name(&self) -> &str {
        self.own.as_ref().map_or(self.motif.name(), |own| own.name.as_str())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Mark, PatternRoom, PieceKind, Rect, Repeats, SHADED, Side, View, WISPED, Zone};
    use proptest::prelude::*;
    use uuid::Uuid;
    use warm_blend_board::{Layer, Meets, MeetsLayer, Technique};

    fn stencil(motif: Motif, size: f64, repeats: Option<u32>) -> Stencil {
        let paint = PaintId(Uuid::from_u128(1));
        let pot = vec![MixPart { paint, parts: warm_blend_paint::WholeParts::new(1).unwrap() }];
        Stencil { repeats, ..Stencil::new(motif, size, pot) }
    }

    /// A flag to one side: half of a square, in its lower left.
    fn flag() -> Outlined {
        Outlined::new(warm_blend_paint::Name::new("flag").unwrap(), "M0 0V10H10Z").unwrap()
    }

    proptest! {
        /// Counted point by point, motifs on a part take what their number and share say.
        #[test]
        fn repeats_take_their_share_of_a_part(
            at in 0usize..Motif::ALL.len(), size in 15.0..160.0f64, n in prop::option::of(1u32..6), own in any::<bool>(), mirrored in any::<bool>(), around in around(),
        ) {
            let stencil = Stencil { own: own.then(flag), mirrored, around, ..stencil(Motif::ALL[at], size, n) };
            let mut form = PieceKind::ChestOfDrawers.usual();
            form.drawers = 3;
            let elevation = form.build().unwrap();
            let face = elevation.face(View::Front).unwrap();
            let drawer = face.parts.iter().position(|part| part.zone == Zone::Drawers).unwrap();
            let Some(repeats) = stencil.on(face, drawer) else { return Ok(()) };
            let rect = face.parts[drawer].rect;
            // Points of the additive recurrence of the plastic number: a grid would fall in with the veins of leaves.
            const POINTS: usize = 200_000;
            let inside = (0..POINTS)
                .map(|i| (i as f64 + 0.5) / 1.324_717_957_244_746)
                .map(|p| (p.fract(), (p / 1.324_717_957_244_746).fract()))
                .filter(|(x, y)| repeats.depth(rect.x + x * rect.w, rect.y + y * rect.h) > 0.0)
                .count() as f64 / POINTS as f64;
            let shown = repeats.painted() / (rect.w * rect.h);
            let n: u32 = repeats.sides().iter().map(|side| match side.side { Side::Middle => 1, Side::Each => 4, _ => 2 } * side.spacing.repeats).sum();
            let corners = around.map_or(0.0, |around| around.corner.map_or(0.0, |motif| 4.0 * motif.share()));
            let by_hand = size * size * (f64::from(n) * stencil.cut().unwrap().share() + corners) / (rect.w * rect.h);
            prop_assert!((shown - by_hand).abs() < 1e-9, "{shown} {by_hand}");
            prop_assert!((inside - shown).abs() < 0.05 * shown + 0.002, "{inside} {shown}");
            prop_assert!(repeats.sides().iter().all(|side| side.spacing.gap >= 0.0));
        }
    }

    /// In a row, or as a border with or without a motif in its corners.
    fn around() -> impl Strategy<Value = Option<Border>> {
        let corner = prop::option::of((0..Motif::ALL.len()).prop_map(|at| Motif::ALL[at]));
        prop::option::of((0.0..30.0f64, corner).prop_map(|(inset, corner)| Border { inset, corner }))
    }

    /// The pattern on the front of a drawer, and that drawer.
    fn on_a_drawer(stencil: &Stencil) -> Option<(Repeats, Rect)> {
        let mut form = PieceKind::ChestOfDrawers.usual();
        form.drawers = 3;
        let elevation = form.build().unwrap();
        let face = elevation.face(View::Front).unwrap();
        let drawer = face.parts.iter().position(|part| part.zone == Zone::Drawers).unwrap();
        Some((stencil.on(face, drawer)?, face.parts[drawer].rect))
    }

    proptest! {
        /// Fading keeps the mean cover that is predicted: counted point by point, the strength of the motifs is on average what the layer is
        /// computed with; it is never above the strongest, never below the weakest, and strongest where it is said to be.
        #[test]
        fn fading_keeps_the_mean_cover(
            at in 0usize..Motif::ALL.len(), size in 20.0..120.0f64, gap in prop::option::of(0.0..60.0f64),
            weakest in 0.0..1.0f64, along in 0.0..1.0f64, across in prop::option::of(0.0..1.0f64), patchy in 0.0..1.0f64, mirrored in any::<bool>(),
            around in around(), sanded in prop_oneof![Just(0.0), 0.0..0.9f64],
        ) {
            let fade = Fade { weakest, along, across, patchy };
            let own = mirrored.then(flag);
            let softened = Some(Softened { how: Softening::Sanded, share: Share::of(sanded) });
            let stencil = Stencil { gap, fade: Some(fade), own, mirrored, around, softened, ..stencil(Motif::ALL[at], size, None) };
            prop_assert_eq!(stencil.check(), Ok(()));
            let Some((repeats, rect)) = on_a_drawer(&stencil) else { return Ok(()) };
            // Points at random: those of a lattice fall in with the repeats.
            let mut chance = proptest::test_runner::TestRng::deterministic_rng(proptest::test_runner::RngAlgorithm::ChaCha);
            let mut at_random = || f64::from(chance.next_u32()) / f64::from(u32::MAX);
            let (mut sum, mut n) = (0.0, 0.0);
            for _ in 0..150_000 {
                let (x, y) = (rect.x + at_random() * rect.w, rect.y + at_random() * rect.h);
                let patch = at_random();
                if repeats.depth(x, y) > 0.0 {
                    let strength = repeats.strength(x, y, patch);
                    let least = if sanded > 0.0 { 0.0 } else { weakest * (1.0 - patchy) };
                    prop_assert!((least - 1e-9..=1.0 + 1e-9).contains(&strength));
                    sum += strength;
                    n += 1.0;
                }
            }
            let mean = repeats.mean_strength();
            prop_assert!((sum / n - mean).abs() < 0.02, "{} {}", sum / n, mean);
            let (x, y) = (rect.x + along * rect.w, rect.y + across.unwrap_or(0.3) * rect.h);
            prop_assert!((repeats.strength(x, y, 0.0) - 1.0).abs() < 1e-9);
            prop_assert!(mean <= 1.0 - sanded + 1e-9);
        }
    }

    proptest! {
        /// Counted point by point, colours that take turns share what is painted as is predicted, and each later one lies within the one before it.
        #[test]
        fn colours_in_turn_share_the_pattern(
            at in 0usize..Motif::ALL.len(), size in 30.0..100.0f64, more in 1usize..4, around in around(), along in prop::option::of(0.0..1.0f64),
        ) {
            let fade = along.map(|along| Fade { weakest: 0.2, along, across: None, patchy: 0.0 });
            let plain = stencil(Motif::ALL[at], size, None);
            let stencil = Stencil { in_turn: true, wisps: vec![plain.pot.clone(); more], around, fade, ..plain };
            let Some((repeats, rect)) = on_a_drawer(&stencil) else { return Ok(()) };
            let (mut theirs, mut all) = (vec![0.0; more + 1], 0.0);
            let chance = |i: usize, by: f64| ((i as f64 + 0.5) / by).fract();
            for i in 0..60_000 {
                let (x, y) = (rect.x + chance(i, 1.324_717_957_244_746) * rect.w, rect.y + chance(i, 1.754_877_666_246_693) * rect.h);
                if repeats.depth(x, y) > 0.0 {
                    let strength = repeats.strength(x, y, 0.0);
                    theirs[..=repeats.in_motif(x, y).unwrap().1].iter_mut().for_each(|sum| *sum += strength);
                    all += strength;
                }
            }
            prop_assume!(all > 500.0);
            let from_turn = repeats.from_turn();
            for (turn, theirs) in theirs.into_iter().enumerate() {
                let predicted = from_turn[turn];
                prop_assert!((theirs / all - predicted).abs() < 0.06, "{turn}: {} {predicted}", theirs / all);
                prop_assert!(turn == 0 || predicted <= from_turn[turn - 1] + 1e-9);
            }
            prop_assert!((from_turn[0] - 1.0).abs() < 1e-9);
        }
    }

    /// Three colours on five petals in turn: the second and the third take three of five, the third one of them, each over the one before
    /// it. Petals are 1.28, 1.39, 1.5, 1.39 and 1.28 long, and of one shape: of 9.39 in all, the three take 1.93 + 2.25 + 1.64, and the one
    /// in the middle 2.25. A colour without a petal or a repeat of its own is refused.
    #[test]
    fn petals_take_turns() {
        let elevation = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let plain = stencil(Motif::Petals, 60.0, None);
        let three = Stencil { in_turn: true, wisps: vec![plain.pot.clone(); 2], ..plain.clone() };
        let layers = three.layers(&elevation, Zone::Drawers).unwrap();
        let marks: Vec<Mark> = layers.iter().map(|(_, mark)| *mark).collect();
        assert_eq!(marks, [Mark::Repeated, Mark::InTurn(1), Mark::InTurn(2)]);
        let cover: Vec<f64> =
            layers.iter().map(|(layer, _)| layer.print.unwrap().cover.field.value()).collect();
        assert!(
            (cover[1] / cover[0] - 5.82 / 9.39).abs() < 0.02
                && (cover[2] / cover[0] - 2.25 / 9.39).abs() < 0.02,
            "{cover:?}"
        );
        for (n, (layer, _)) in layers.iter().enumerate().skip(1) {
            assert_eq!(layer.meets, Some(MeetsLayer { layer: layers[n - 1].0.id, how: Meets::Seeks }));
        }
        let one = Stencil { motif: Motif::Ring, repeats: Some(1), ..three };
        assert_eq!(one.layers(&elevation, Zone::Drawers), Err(BadFinish::StencilTurns));
        assert!(Stencil { in_turn: false, ..one }.layers(&elevation, Zone::Drawers).is_ok());
    }

    /// Every second repeat of a flag points the other way; without mirroring all point one way.
    #[test]
    fn every_second_repeat_is_mirrored() {
        let of = |mirrored| {
            let stencil = Stencil { own: Some(flag()), mirrored, ..stencil(Motif::Ring, 60.0, Some(4)) };
            let (repeats, rect) = on_a_drawer(&stencil).unwrap();
            let points = |n: usize| {
                let centre = rect.x + repeats.sides()[0].centres()[n];
                let at = |off: f64| repeats.depth(centre + off, rect.y + 0.5 * rect.h + 10.0) > 0.0;
                (at(-25.0), at(25.0))
            };
            [0, 1, 2, 3].map(points)
        };
        let (left, right) = ((true, false), (false, true));
        assert_eq!((of(false), of(true)), ([left; 4], [left, right, left, right]));
    }

    /// A border looks alike from all four sides: turned by a quarter about the middle of a square, it is the same; its corners too.
    #[test]
    fn a_border_turns_at_its_corners() {
        let around = Some(Border { inset: 10.0, corner: Some(Motif::Corner) });
        let stencil = Stencil { around, own: Some(flag()), ..stencil(Motif::Ring, 60.0, Some(3)) };
        let mut face = PieceKind::ChestOfDrawers.usual().build().unwrap().face(View::Front).unwrap().clone();
        let drawer = face.parts.iter().position(|part| part.zone == Zone::Drawers).unwrap();
        face.parts[drawer].rect = Rect { x: 100.0, y: 40.0, w: 400.0, h: 400.0 };
        let repeats = stencil.on(&face, drawer).unwrap();
        let (mut inside, middle) = (0, (300.0, 240.0));
        for n in 0..10_000 {
            let (a, b) = (f64::from(n % 100) * 4.0 - 198.317, f64::from(n / 100) * 4.0 - 198.713);
            let depth = |a: f64, b: f64| repeats.depth(middle.0 + a, middle.1 + b);
            let all = [depth(a, b), depth(-b, a), depth(-a, -b), depth(b, -a)];
            assert!(all.iter().all(|one| (one - all[0]).abs() < 1e-6), "{a} {b}: {all:?}");
            inside += usize::from(all[0] > 0.0);
        }
        assert!(inside > 500);
        // The upper left corner is as it was drawn, and a flag of the upper side has its lower left filled.
        assert!((repeats.depth(140.0 - 18.6, 80.0 - 18.6) - Motif::Corner.depth(-0.62, -0.62)).abs() < 1e-9);
        let first = 100.0 + repeats.sides()[0].centres()[0];
        assert!(
            repeats.depth(first - 20.0, 80.0 + 10.0) > 0.0 && repeats.depth(first + 20.0, 80.0 - 10.0) <= 0.0
        );
        let sides = repeats.sides();
        assert_eq!((sides.len(), sides[0].side, sides[0].spacing.repeats), (1, Side::Each, 3));
        assert!((sides[0].length() - 400.0).abs() < 1e-9);
    }

    /// On a part that is higher than wide, a pattern is turned, not mirrored: reading from above, a flag has its lower left filled.
    #[test]
    fn an_upright_pattern_is_turned() {
        let stencil = Stencil { own: Some(flag()), ..stencil(Motif::Ring, 60.0, Some(1)) };
        let mut face = PieceKind::ChestOfDrawers.usual().build().unwrap().face(View::Front).unwrap().clone();
        let drawer = face.parts.iter().position(|part| part.zone == Zone::Drawers).unwrap();
        face.parts[drawer].rect = Rect { x: 0.0, y: 0.0, w: 100.0, h: 400.0 };
        let repeats = stencil.on(&face, drawer).unwrap();
        // Turned clockwise, what was at the lower left is at the upper left.
        assert!(
            repeats.depth(50.0 - 20.0, 200.0 - 20.0) > 0.0 && repeats.depth(50.0 + 20.0, 200.0 + 20.0) <= 0.0
        );
        assert!(
            repeats.depth(50.0 - 10.0, 200.0 - 25.0) > 0.0 && repeats.depth(50.0 + 25.0, 200.0 - 10.0) <= 0.0
        );
    }

    /// Wiped back, it lies as thin as what is left and covers as much; sanded in, as thick and covers less, and is sanded last.
    #[test]
    fn wiping_thins_and_sanding_takes_away() {
        let elevation = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let of = |softened| {
            let stencil = Stencil { softened, ..stencil(Motif::Ring, 60.0, None) };
            let layers = stencil.layers(&elevation, Zone::Drawers).unwrap();
            let print = layers[0].0.print.unwrap();
            (print.film.field.value(), print.cover.field.value(), layers.len(), layers[0].0.hand)
        };
        let softened = |how| Some(Softened { how, share: Share::of(0.6) });
        let (plain, wiped, sanded) =
            (of(None), of(softened(Softening::Wiped)), of(softened(Softening::Sanded)));
        assert!((wiped.0 - 0.4 * plain.0).abs() < 1e-9 && wiped.1 == plain.1 && wiped.2 == 1);
        assert!(sanded.0 == plain.0 && (sanded.1 - 0.4 * plain.1).abs() < 1e-6 && sanded.2 == 2);
        assert_eq!(Technique::Stencil.how(wiped.3), Some("wiped back while it is wet"));
        assert_eq!((Technique::Stencil.how(plain.3), Technique::Stencil.how(sanded.3)), (None, None));
    }

    /// A long word fits a part that is lower than the word is long.
    #[test]
    fn a_long_outline_fits_a_low_part() {
        let long = Outlined::new(warm_blend_paint::Name::new("long").unwrap(), "M0 0H50V5H0Z").unwrap();
        let wide = Stencil { own: Some(long), ..stencil(Motif::Ring, 400.0, Some(1)) };
        assert!(on_a_drawer(&wide).is_some() && on_a_drawer(&stencil(Motif::Ring, 400.0, Some(1))).is_none());
    }

    /// What is to fill a part fits it and takes four fifths of its length or width, to 5 mm; a border fits round it.
    #[test]
    fn a_word_fills_the_longest_part() {
        let elevation = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let face = elevation.face(View::Front).unwrap();
        let drawers = || (0..face.parts.len()).filter(|at| face.parts[*at].zone == Zone::Drawers);
        let room = PatternRoom::of(&elevation, Zone::Drawers);
        let longest = drawers().map(|at| face.parts[at].rect.w).fold(0.0, f64::max);
        assert_eq!(room.long, longest);
        for (path, tall) in [("M0 0H50V5H0Z", 0.1), ("M0 0H50V25H0Z", 0.5), ("M0 0H50V50H0Z", 1.0)] {
            let own = Outlined::new(warm_blend_paint::Name::new("own").unwrap(), path).unwrap();
            let size = room.filled_by(&own.cut().unwrap());
            let wanted = (0.8 * room.long).min(0.8 * room.broad / tall).min(1000.0);
            assert!(size % 5.0 == 0.0 && (0.0..5.2).contains(&(wanted - size)), "{tall}: {size} of {wanted}");
            let word = Stencil { own: Some(own), ..stencil(Motif::Ring, size, Some(1)) };
            assert!(drawers().any(|at| word.on(face, at).is_some()), "{tall} {size}");
        }
        let around = Some(Border { inset: room.inset, corner: None });
        let border = Stencil { around, ..stencil(Motif::Ring, room.border, None) };
        assert!(room.border >= 20.0 && drawers().any(|at| border.on(face, at).is_some()), "{room:?}");
        let none = PatternRoom::of(&elevation, Zone::Hardware);
        assert_eq!((none.long, none.border, none.inset), (0.0, 0.0, 0.0));
    }

    /// Each further colour covers its share of the first, and nothing beside it.
    #[test]
    fn further_colours_lie_on_the_first() {
        let elevation = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let plain = stencil(Motif::Ring, 60.0, None);
        let wisped =
            Stencil { wisps: vec![plain.pot.clone(); 2], edge: Some(plain.pot.clone()), ..plain.clone() };
        let cover = |layer: &(Layer, Mark)| layer.0.print.unwrap().cover.field.value();
        let one = plain.layers(&elevation, Zone::Drawers).unwrap();
        let three = wisped.layers(&elevation, Zone::Drawers).unwrap();
        assert_eq!((one.len(), three.len(), cover(&one[0])), (1, 4, cover(&three[0])));
        let marks: Vec<Mark> = three.iter().map(|(_, mark)| *mark).collect();
        assert_eq!(marks, [Mark::Repeated, Mark::Wisped, Mark::Wisped, Mark::Shaded]);
        for (layer, share) in three[1..].iter().zip([WISPED, WISPED, SHADED]) {
            assert!((cover(layer) / cover(&three[0]) - share).abs() < 1e-6);
            assert_eq!(layer.0.meets, Some(MeetsLayer { layer: three[0].0.id, how: Meets::Seeks }));
        }
    }

    #[test]
    fn what_cannot_be_is_refused() {
        let elevation = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let layer = |stencil: Stencil, zone| stencil.layers(&elevation, zone);
        for size in [0.0, -1.0, f64::NAN, 1e9] {
            assert!(matches!(
                layer(stencil(Motif::Ring, size, None), Zone::Drawers),
                Err(BadFinish::StencilSize(_))
            ));
        }
        assert_eq!(layer(stencil(Motif::Ring, 40.0, Some(0)), Zone::Drawers), Err(BadFinish::StencilRepeats));
        let nowhere = layer(stencil(Motif::Ring, 900.0, None), Zone::Drawers).unwrap_err();
        assert!(nowhere.to_string().contains("smaller"), "{nowhere}");
        let empty = Stencil { pot: vec![], ..stencil(Motif::Ring, 40.0, None) };
        assert_eq!(layer(empty, Zone::Drawers), Err(BadFinish::StencilPot));
        assert!(layer(stencil(Motif::Ring, 40.0, None), Zone::Drawers).is_ok());
        let many = Stencil {
            wisps: vec![stencil(Motif::Ring, 40.0, None).pot; 4],
            ..stencil(Motif::Ring, 40.0, None)
        };
        assert_eq!(many.check(), Err(BadFinish::StencilWisps(5)));
        let hollow = Stencil { wisps: vec![Vec::new()], ..stencil(Motif::Ring, 40.0, None) };
        assert_eq!(hollow.check(), Err(BadFinish::StencilPot));
        let line = Outlined { path: "M0 0L9 9".to_owned(), ..flag() };
        let thin = Stencil { own: Some(line), ..stencil(Motif::Ring, 40.0, None) };
        assert!(thin.check().unwrap_err().to_string().contains("enclose no area"));
        for gap in [-1.0, f64::NAN, f64::INFINITY, 2000.0] {
            let wrong = Stencil { gap: Some(gap), ..stencil(Motif::Ring, 40.0, None) };
            assert_eq!(wrong.check(), Err(BadFinish::StencilGap), "{gap}");
        }
        for inset in [-1.0, f64::NAN, f64::INFINITY, 2000.0] {
            let around = Some(Border { inset, corner: None });
            let wrong = Stencil { around, ..stencil(Motif::Ring, 40.0, None) };
            assert_eq!(wrong.check(), Err(BadFinish::StencilInset), "{inset}");
        }
        let deep = Stencil {
            around: Some(Border { inset: 900.0, corner: None }),
            ..stencil(Motif::Ring, 40.0, None)
        };
        assert!(matches!(layer(deep, Zone::Drawers), Err(BadFinish::StencilNowhere(_))));
        for share in [-0.1, 1.1, f64::NAN, f64::INFINITY] {
            let fade = Fade { weakest: 0.2, along: share, across: None, patchy: 0.0 };
            let wrong = Stencil { fade: Some(fade), ..stencil(Motif::Ring, 40.0, None) };
            assert_eq!(wrong.check(), Err(BadFinish::StencilFade), "{share}");
        }
    }
}
