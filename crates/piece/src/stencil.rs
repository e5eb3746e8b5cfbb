//! A stencilled pattern, repeated along the parts of a zone.
//!
//! It lies on flat, sunk, raised or carved parts, centred across and evenly spaced along the longer side; not on parts
//! with others than hardware set into them, nor where it does not fit. Stencilling takes very little paint: the film is
//! that of [`Technique::Stencil`], and some of each motif stays bare.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_board::{
    Application, ByPlace, Deposit, Layer, LayerId, Meets, MeetsLayer, Motif, Share, Technique,
};
use warm_blend_paint::{MixPart, PaintId, replace_paint};

use super::{
    BadFinish, Cut, Elevation, Face, Outline, Outlined, Part, Rect, Shaping, Spacing, Zone, spaced, spaced_by,
};

/// Share of a motif that is covered†.
pub const DENSE: f64 = 0.85;
/// Share of a pattern that each further colour is wisped over†.
const WISPED: f64 = 0.35;
/// The gap where nothing else is said, as a share of the motif†.
const GAP: f64 = 0.6;
/// The least and the largest motif, mm.
const SIZES: (f64, f64) = (10.0, 1000.0);
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
    fn check(&self) -> bool {
        let shares = [self.weakest, self.along, self.across.unwrap_or(0.0), self.patchy];
        shares.iter().all(|share| (0.0..=1.0).contains(share))
    }

    /// Cover at a place, as a share of that where it is strongest, before the hand makes it patchy.
    fn at(&self, along: f64, across: f64) -> f64 {
        // As smooth as a hand that presses less and less.
        let near = |at: f64, strongest: f64| {
            let off = (at - strongest).abs() / strongest.max(1.0 - strongest);
            0.5 * (1.0 + (std::f64::consts::PI * off.min(1.0)).cos())
        };
        let near = near(along, self.along) * self.across.map_or(1.0, |strongest| near(across, strongest));
        self.weakest + (1.0 - self.weakest) * near
    }

    /// What patchy pressure leaves on average.
    fn left(&self) -> f64 {
        1.0 - 0.5 * self.patchy
    }
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
    /// How it fades; as strong everywhere if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fade: Option<Fade>,
    /// Contents of the pot.
    pub pot: Vec<MixPart>,
    /// Up to three more pots, wisped over the pattern in different places.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub wisps: Vec<Vec<MixPart>>,
}

/// Repeats on one part.
#[derive(Debug, Clone)]
pub struct Repeats {
    /// What is cut out.
    pub cut: Cut,
    mirrored: bool,
    size: f64,
    /// Their spacing.
    pub spacing: Spacing,
    fade: Option<Fade>,
    rect: Rect,
}

impl Repeats {
    /// Depth of a point of the face, in mm, inside a motif: 1 at most, 0 outside.
    pub fn depth(&self, x: f64, y: f64) -> f64 {
        let (along, across) = self.lengthwise(x, y);
        let within = along - self.spacing.end;
        let n = (within / self.spacing.step).floor();
        if n < 0.0 || n >= f64::from(self.spacing.repeats) {
            return 0.0;
        }
        let half = self.size / 2.0;
        let (u, v) = ((within - n * self.spacing.step) / half - 1.0, across / half);
        let u = if self.is_mirrored(n as usize) { -u } else { u };
        if u.abs() > 1.0 || v.abs() > 1.0 { 0.0 } else { self.cut.depth(u, v).max(0.0) }
    }

    const fn is_mirrored(&self, n: usize) -> bool {
        self.mirrored && n % 2 == 1
    }

    /// Distance of a point of the face from the start along the longer side, and from the middle across, mm.
    fn lengthwise(&self, x: f64, y: f64) -> (f64, f64) {
        let Rect { x: left, y: upper, w, h } = self.rect;
        if w >= h { (x - left, y - upper - h / 2.0) } else { (y - upper, x - left - w / 2.0) }
    }

    /// Cover at a point of the face, as a share of that where the pattern is strongest; `patch` is how little the hand pressed there, 0 to
    /// 1, evenly spread.
    pub fn strength(&self, x: f64, y: f64, patch: f64) -> f64 {
        let (along, across) = self.lengthwise(x, y);
        self.fade.map_or(1.0, |fade| self.faded(&fade, along, across) * (1.0 - fade.patchy * patch))
    }

    fn faded(&self, fade: &Fade, along: f64, across: f64) -> f64 {
        let (length, width) = (self.rect.w.max(self.rect.h), self.rect.w.min(self.rect.h));
        fade.at(along / length, across / width + 0.5)
    }

    /// Mean of [`Repeats::strength`] over all motifs.
    pub fn mean_strength(&self) -> f64 {
        const CELLS: usize = 24;
        let Some(fade) = self.fade else { return 1.0 };
        let half = self.size / 2.0;
        let at = |i: usize| (2 * i + 1) as f64 / CELLS as f64 - 1.0;
        let cells = (0..CELLS * CELLS).map(|i| (at(i % CELLS), at(i / CELLS)));
        let cut_out: Vec<(f64, f64)> = cells.filter(|(u, v)| self.cut.depth(*u, *v) > 0.0).collect();
        let centres = self.spacing.centres();
        let all = centres.iter().enumerate().flat_map(|(n, centre)| {
            let way = if self.is_mirrored(n) { -half } else { half };
            cut_out.iter().map(move |(u, v)| (centre + way * u, half * v))
        });
        let sum: f64 = all.map(|(along, across)| self.faded(&fade, along, across)).sum();
        fade.left() * sum / (centres.len() * cut_out.len()).max(1) as f64
    }
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
            fade: None,
            pot,
            wisps: Vec::new(),
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
        if self.fade.is_some_and(|fade| !fade.check()) {
            return Err(BadFinish::StencilFade);
        }
        self.own.as_ref().map_or(Ok(()), Outlined::check)?;
        if self.pots().count() > Self::COLOURS {
            return Err(BadFinish::StencilWisps(self.pots().count()));
        }
        if self.pots().any(Vec::is_empty) { Err(BadFinish::StencilPot) } else { Ok(()) }
    }

    /// Its pots, the one of the whole pattern first.
    pub fn pots(&self) -> impl Iterator<Item = &Vec<MixPart>> {
        std::iter::once(&self.pot).chain(&self.wisps)
    }

    /// Replaces one tin with another.
    pub(super) fn replace_paint(&mut self, gone: PaintId, kept: PaintId) {
        std::iter::once(&mut self.pot).chain(&mut self.wisps).for_each(|pot| replace_paint(pot, gone, kept));
    }

    /// What is cut out of it.
    pub fn cut(&self) -> Result<Cut, BadFinish> {
        Ok(self.own.as_ref().map(Outlined::cut).transpose()?.unwrap_or(Cut::Motif(self.motif)))
    }

    /// Name of the pattern: `Rosettes`, or what the painter calls it.
    pub fn name(&self) -> &str {
        self.own.as_ref().map_or(self.motif.name(), |own| own.name.as_str())
    }

    /// Repeats on a part of a face; `None` where it does not go.
    pub fn on(&self, face: &Face, at: usize) -> Option<Repeats> {
        let part = face.parts.get(at)?;
        let (rect, shaping) = (within(part), part.shaping);
        let plain = matches!(shaping, Shaping::Flat | Shaping::Sunk | Shaping::Raised | Shaping::Carved);
        let holds = face.parts.iter().any(|part| part.on == Some(at) && part.zone != Zone::Hardware);
        let (length, width) = (rect.w.max(rect.h), rect.w.min(rect.h));
        if !plain || holds || self.size > length {
            return None;
        }
        let cut = self.cut().ok().filter(|cut| self.size * cut.across() <= width)?;
        let spacing = match self.gap {
            Some(gap) => spaced_by(length, self.size, gap, self.repeats),
            None => spaced(length, self.size, self.repeats, GAP * self.size),
        };
        let (size, fade, mirrored) = (self.size, self.fade, self.mirrored);
        Some(Repeats { cut, mirrored, size, spacing: spacing.ok()?, fade, rect })
    }

    /// The pattern as layers of a zone, one for each pot: the share of the flats that its motifs cover, and of that what is wisped.
    pub(super) fn layers(&self, elevation: &Elevation, zone: Zone) -> Result<Vec<Layer>, BadFinish> {
        self.check()?;
        let share = self.cut()?.share();
        let (mut flats, mut motifs) = (0.0, 0.0);
        for face in &elevation.faces {
            for (at, (part, net)) in face.parts.iter().zip(face.net()).enumerate() {
                if part.zone != zone {
                    continue;
                }
                let times = f64::from(face.times);
                flats += times * net.max(0.0) * part.shares().field;
                let n = self
                    .on(face, at)
                    .map_or(0.0, |repeats| f64::from(repeats.spacing.repeats) * repeats.mean_strength());
                motifs += times * n * self.size * self.size * share;
            }
        }
        if motifs <= 0.0 {
            return Err(BadFinish::StencilNowhere(self.size));
        }
        // Face areas are mm², as motifs are.
        let whole = DENSE * (motifs / flats).min(1.0);
        let film = Technique::Stencil.print(Application::default()).film;
        let layer = |(n, pot): (usize, &Vec<MixPart>)| {
            let field = Share::of(if n == 0 { whole } else { WISPED * whole });
            let cover = ByPlace { field, recess: Share::NONE, edge: Share::NONE };
            let on_the_first = MeetsLayer { layer: layer_id(0), how: Meets::Seeks };
            Layer {
                id: layer_id(n),
                print: Some(Deposit { film, cover }),
                meets: (n > 0).then_some(on_the_first),
                ..Layer::new(Technique::Stencil, pot.clone())
            }
        };
        Ok(self.pots().enumerate().map(layer).collect())
    }

    /// Spacing for each length of part, once: `5 of 120 mm, 50 mm between and at the ends`.
    pub fn spread(&self, elevation: &Elevation, zone: Zone) -> Vec<Spacing> {
        let mut spread: Vec<Spacing> = Vec::new();
        for face in &elevation.faces {
            for (at, part) in face.parts.iter().enumerate() {
                if let Some(repeats) = (part.zone == zone).then(|| self.on(face, at)).flatten()
                    && !spread.iter().any(|known| {
                        known.repeats == repeats.spacing.repeats
                            && (known.gap - repeats.spacing.gap).abs() < 0.5
                            && (known.end - repeats.spacing.end).abs() < 0.5
                    })
                {
                    spread.push(repeats.spacing);
                }
            }
        }
        spread
    }
}

/// Identifies the layer of a colour of a pattern.
const fn layer_id(n: usize) -> LayerId {
    LayerId(Uuid::from_u128(0x5700 + n as u128))
}

/// The rectangle of a part that a pattern lies in: below most of an arch, in the middle of an oval.
fn within(Part { rect, outline, .. }: &Part) -> Rect {
    match outline {
        Outline::Square => *rect,
        Outline::RoundTop => {
            let arch = (0.35 * rect.w).min(0.5 * rect.h);
            Rect { y: rect.y + arch, h: rect.h - arch, ..*rect }
        }
        Outline::Oval => {
            let (aside, above) = (0.15 * rect.w, 0.15 * rect.h);
            Rect { x: rect.x + aside, y: rect.y + above, w: rect.w - 2.0 * aside, h: rect.h - 2.0 * above }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{PieceKind, View};
    use proptest::prelude::*;

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
            at in 0usize..Motif::ALL.len(), size in 20.0..160.0f64, n in prop::option::of(1u32..6), own in any::<bool>(), mirrored in any::<bool>(),
        ) {
            let stencil = Stencil { own: own.then(flag), mirrored, ..stencil(Motif::ALL[at], size, n) };
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
            let shown = f64::from(repeats.spacing.repeats) * size * size * stencil.cut().unwrap().share() / (rect.w * rect.h);
            prop_assert!((inside - shown).abs() < 0.05 * shown + 0.002, "{inside} {shown}");
            prop_assert!(repeats.spacing.gap >= 0.0);
        }
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
            at in 0usize..Motif::ALL.len(), size in 30.0..120.0f64, gap in prop::option::of(0.0..60.0f64),
            weakest in 0.0..1.0f64, along in 0.0..1.0f64, across in prop::option::of(0.0..1.0f64), patchy in 0.0..1.0f64, mirrored in any::<bool>(),
        ) {
            let fade = Fade { weakest, along, across, patchy };
            let own = mirrored.then(flag);
            let stencil = Stencil { gap, fade: Some(fade), own, mirrored, ..stencil(Motif::ALL[at], size, None) };
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
                    prop_assert!((weakest * (1.0 - patchy) - 1e-9..=1.0 + 1e-9).contains(&strength));
                    sum += strength;
                    n += 1.0;
                }
            }
            let mean = repeats.mean_strength();
            prop_assert!((sum / n - mean).abs() < 0.02, "{} {}", sum / n, mean);
            let (x, y) = (rect.x + along * rect.w, rect.y + across.unwrap_or(0.3) * rect.h);
            prop_assert!((repeats.strength(x, y, 0.0) - 1.0).abs() < 1e-9);
            prop_assert!(mean <= 1.0 && (weakest < 0.999 || patchy > 0.0 || (mean - 1.0).abs() < 1e-3));
        }
    }

    /// Every second repeat of a flag points the other way; without mirroring all point one way.
    #[test]
    fn every_second_repeat_is_mirrored() {
        let of = |mirrored| {
            let stencil = Stencil { own: Some(flag()), mirrored, ..stencil(Motif::Ring, 60.0, Some(4)) };
            let (repeats, rect) = on_a_drawer(&stencil).unwrap();
            let points = |n: usize| {
                let centre = rect.x + repeats.spacing.centres()[n];
                let at = |off: f64| repeats.depth(centre + off, rect.y + 0.5 * rect.h + 10.0) > 0.0;
                (at(-25.0), at(25.0))
            };
            [0, 1, 2, 3].map(points)
        };
        let (left, right) = ((true, false), (false, true));
        assert_eq!((of(false), of(true)), ([left; 4], [left, right, left, right]));
    }

    /// A long word fits a part that is lower than the word is long.
    #[test]
    fn a_long_outline_fits_a_low_part() {
        let long = Outlined::new(warm_blend_paint::Name::new("long").unwrap(), "M0 0H50V5H0Z").unwrap();
        let wide = Stencil { own: Some(long), ..stencil(Motif::Ring, 400.0, Some(1)) };
        assert!(on_a_drawer(&wide).is_some() && on_a_drawer(&stencil(Motif::Ring, 400.0, Some(1))).is_none());
    }

    /// Each further colour covers its share of the first, and nothing beside it.
    #[test]
    fn further_colours_lie_on_the_first() {
        let elevation = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let plain = stencil(Motif::Ring, 60.0, None);
        let wisped = Stencil { wisps: vec![plain.pot.clone(); 2], ..plain.clone() };
        let cover = |layer: &Layer| layer.print.unwrap().cover.field.value();
        let one = plain.layers(&elevation, Zone::Drawers).unwrap();
        let three = wisped.layers(&elevation, Zone::Drawers).unwrap();
        assert_eq!((one.len(), three.len(), cover(&one[0])), (1, 3, cover(&three[0])));
        for wisp in &three[1..] {
            assert!((cover(wisp) / cover(&three[0]) - WISPED).abs() < 1e-6);
            assert_eq!(wisp.meets, Some(MeetsLayer { layer: three[0].id, how: Meets::Seeks }));
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
        for share in [-0.1, 1.1, f64::NAN, f64::INFINITY] {
            let fade = Fade { weakest: 0.2, along: share, across: None, patchy: 0.0 };
            let wrong = Stencil { fade: Some(fade), ..stencil(Motif::Ring, 40.0, None) };
            assert_eq!(wrong.check(), Err(BadFinish::StencilFade), "{share}");
        }
    }
}
