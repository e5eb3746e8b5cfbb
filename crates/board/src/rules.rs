//! Which order of layers fails or vanishes, why, and the way out. All of it is common practice†.

use warm_blend_bench::{MixtureKind, SHADE, warnings};
use warm_blend_paint::{Class, MixPart, PaintId, State};
use warm_blend_spectral::{Lab, Light};

use super::{
    Board, Family, KnownTin, Layer, LayerId, Letter, OnShelf, Place, Stack, Technique, coats_over,
    stack::lab, undercoat,
};

/// How bad it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Severity {
    /// Worth knowing.
    Note,
    /// It may go wrong, or not show.
    Care,
    /// It will fail.
    Fails,
}

/// A change that cures it in one touch.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum AdviceFix {
    /// Put such a layer below this one.
    Below(LayerId, Technique),
    /// Put the layer on another way.
    Instead(LayerId, Technique),
    /// Put it on once more, thinly.
    Again(LayerId),
    /// Put a coat of this below it.
    Under(LayerId, Vec<MixPart>),
}

/// What is wrong with an order of layers.
#[derive(Debug, Clone, PartialEq)]
pub struct Advice {
    /// The layer that it is about; none where it is about the whole.
    pub layer: Option<LayerId>,
    /// How bad it is.
    pub severity: Severity,
    /// What happens: the first words that are read.
    pub what: String,
    /// Why.
    pub why: &'static str,
    /// What to do.
    pub remedy: String,
    /// That in one touch.
    pub fix: Option<AdviceFix>,
    /// Where it is from.
    pub source: &'static str,
}

const PRACTICE: &str = "common practice";

/// Shades between a base and its glaze: fewer vanish, more shout†.
const SHADES: std::ops::RangeInclusive<f64> = 3.0..=5.0;

/// From how many shades on a step of dry brush is a jump†.
const JUMP: f64 = 4.0;

/// Nobody sees so small a part of a shade.
const NEARLY: f64 = 0.25;

/// Texture that cracks where it is put on at once, and strokes that are told of, µm†.
const CRACKS: f64 = 400.0;
const SHOWS: f64 = 60.0;

/// A layer as the rules see it.
struct Step<'a> {
    /// Its place among all layers of the strip.
    at: usize,
    layer: &'a Layer,
    kind: MixtureKind,
    inside: Vec<(Class, f64)>,
}

impl Step<'_> {
    fn is(&self, family: Family) -> bool {
        self.layer.technique.family() == family
    }

    /// True where water goes on: paint, glaze or wash rather than wax.
    fn is_water_borne(&self) -> bool {
        !self.is_wax() && !self.is(Family::Wear) && !self.has(Class::Shellac) && !self.has(Class::GelStain)
    }

    fn is_wax(&self) -> bool {
        self.has(Class::ClearWax) || self.is(Family::Gild)
    }

    fn has(&self, class: Class) -> bool {
        self.inside.iter().any(|(of, _)| *of == class)
    }

    fn is_mostly(&self, class: Class) -> bool {
        let total: f64 = self.inside.iter().map(|(_, amount)| amount).sum();
        let own: f64 = self.inside.iter().filter(|(of, _)| *of == class).map(|(_, amount)| amount).sum();
        own > 0.5 * total
    }

    /// True where it closes what lies below it.
    fn seals(&self) -> bool {
        super::document::seals(&self.inside)
    }

    /// How rough it is left, µm from tip to hollow.
    fn rough(&self) -> f64 {
        self.layer.rough(&self.inside).value()
    }

    /// True where nothing can go on the same day (common practice).
    fn dries_overnight(&self) -> bool {
        self.kind == MixtureKind::Texture || self.layer.technique.dries_overnight(self.layer.hand)
    }

    /// True where it is wet for long, or moved about wet.
    fn is_heavy_with_water(&self) -> bool {
        self.is(Family::Wash) || self.is(Family::Glaze) || self.is(Family::Blend)
    }
}

/// What is wrong with a strip, the worst first. `stack` is that of the same strip; what is on the shelf may help.
pub fn advice<'a>(
    board: &Board,
    letter: Letter,
    tin: impl Fn(PaintId) -> Option<KnownTin<'a>>,
    stack: &Stack,
    shelf: &[OnShelf],
) -> Vec<Advice> {
    let layers = board.layers(letter);
    let steps: Vec<Step> = layers
        .iter()
        .enumerate()
        .filter(|(_, layer)| !layer.muted)
        .map(|(at, layer)| {
            let inside = layer.inside(&tin);
            Step { at, layer, kind: MixtureKind::of(&inside), inside }
        })
        .collect();
    let mut found = Vec::new();
    for (n, step) in steps.iter().enumerate() {
        let below = &steps[..n];
        let about = |severity, what: &str, why, remedy: &str, fix| Advice {
            layer: Some(step.layer.id),
            severity,
            what: what.to_owned(),
            why,
            remedy: remedy.to_owned(),
            fix,
            source: PRACTICE,
        };
        let seal_below = || Some(AdviceFix::Below(step.layer.id, Technique::ClearCoat));
        let lies_on = below.iter().rev().find(|other| !other.is(Family::Wear));
        let sealed = below.iter().any(|other| other.seals());
        let last_wax = below.iter().rposition(|other| other.is_wax());
        if step.is_heavy_with_water()
            && step.is_water_borne()
            && lies_on.is_some_and(|other| other.is_mostly(Class::Clay))
        {
            found.push(about(
                Severity::Fails,
                "this lifts the clay-type paint below it",
                "clay-type paint stays soluble in water until it is sealed: a wet layer takes it off again",
                "seal the paint first, or use a wax in place of this layer",
                seal_below(),
            ));
        }
        if step.is_water_borne()
            && !step.is(Family::Seal)
            && step.layer.technique != Technique::WetWaxResist
            && last_wax.is_some()
        {
            found.push(about(
                Severity::Fails,
                "paint over wax does not hold",
                "water-borne paint finds nothing to hold on to over wax, and comes off in sheets",
                "put the wax on after this layer; as a resist it is meant to come off",
                Some(AdviceFix::Instead(step.layer.id, Technique::WetWaxResist)),
            ));
        }
        if step.layer.technique == Technique::ClearCoat && last_wax.is_some() {
            found.push(about(
                Severity::Fails,
                "a clear coat over wax beads up and peels",
                "a water-based clear coat does not wet wax",
                "finish with wax, or take the wax off before the clear coat",
                Some(AdviceFix::Instead(step.layer.id, Technique::ClearWax)),
            ));
        }
        if step.layer.technique == Technique::TintedWax && !sealed {
            let chalky =
                lies_on.is_some_and(|other| other.is_mostly(Class::Chalk) || other.is_mostly(Class::Clay));
            if chalky {
                found.push(about(
                    Severity::Care,
                    "this wax stains the bare paint for good",
                    "a porous paint drinks the colour: it cannot be lifted off again",
                    "clear wax first makes it forgiving; straight on is right where it is to stay",
                    Some(AdviceFix::Below(step.layer.id, Technique::ClearWax)),
                ));
            }
        }
        if step.is(Family::Glaze)
            && lies_on.is_some_and(|other| other.is_mostly(Class::Chalk) && !other.seals())
        {
            found.push(about(
                Severity::Care,
                "the glaze grabs at once and cannot be moved",
                "a dead matt, open base drinks the glaze where it is put",
                "a clear coat below gives it time; satin bases need none",
                seal_below(),
            ));
        }
        if last_wax.is_some_and(|at| at + 1 == n)
            && step.is_wax()
            && step.layer.technique != Technique::Gilding
        {
            found.push(about(
                Severity::Note,
                "let the wax below set first",
                "a fresh wax takes up the one below it",
                "buff the first the next day before this goes on; while it is fresh, clear wax takes tinted wax back",
                None,
            ));
        }
        let at_once = step.layer.hand.passes.value() == 1;
        let loaded = step.kind == MixtureKind::Texture && step.layer.hand.load.value() > 1.5;
        if at_once && (loaded || step.rough() > CRACKS) {
            found.push(about(
                Severity::Fails,
                "texture this thick cracks",
                "a thick layer dries from outside and tears",
                "two thinner coats in place of one",
                None,
            ));
        }
        if step.kind != MixtureKind::Texture && step.layer.is_cracked() {
            found.push(about(
                Severity::Care,
                "a coat this heavy runs and cracks",
                "what is too thick sags before it dries",
                "two thin coats, sanded lightly between",
                Some(AdviceFix::Again(step.layer.id)),
            ));
        }
        if step.layer.technique == Technique::BrushedCoat && step.rough() > SHOWS {
            found.push(about(
                Severity::Note,
                "strokes that are left to stand take more paint",
                "ridges dry slowly, and a smooth coat over them fills them again",
                "thick paint and little water, crossed every which way; leave it overnight, and what comes next thin",
                None,
            ));
        }
        if below.last().is_some_and(Step::dries_overnight) && !step.is(Family::Wear) {
            found.push(about(
                Severity::Note,
                "what lies below needs the night",
                "texture, thick knife work and heavy washes dry slowly: what goes on too soon drags and cracks them",
                "leave it overnight; everything else on this board takes an hour or two",
                None,
            ));
        }
        // A seal by itself is what it should be.
        for warning in warnings(&step.inside).into_iter().filter(|_| !step.is(Family::Seal)) {
            let severity = if warning.fails { Severity::Fails } else { Severity::Care };
            found.push(about(severity, warning.words.trim_end_matches('.'), "", "", None));
        }
    }
    found.extend(on_the_ground(board, &steps, stack, shelf, &tin));
    found.extend(contrasts(&layers, stack));
    found.extend(jumps(&layers, stack));
    found.sort_by_key(|advice| std::cmp::Reverse(advice.severity));
    found
}

/// What the ground asks for.
fn on_the_ground<'a>(
    board: &Board,
    steps: &[Step],
    stack: &Stack,
    shelf: &[OnShelf],
    tin: &impl Fn(PaintId) -> Option<KnownTin<'a>>,
) -> Vec<Advice> {
    let Some(first) = steps.iter().find(|step| !step.is(Family::Wear)) else { return Vec::new() };
    let id = first.layer.id;
    let primed = first.has(Class::Shellac) || first.has(Class::Primer);
    let about = |severity, what: String, why, remedy: String, fix| Advice {
        layer: Some(id),
        severity,
        what,
        why,
        remedy,
        fix,
        source: PRACTICE,
    };
    let paint = stack.material(first.at).filter(|_| first.is(Family::Coat) && !primed);
    let under = paint.and_then(|paint| undercoat(&board.ground, paint, shelf, tin));
    let fix = under.as_ref().map(|under| AdviceFix::Under(id, under.pot.clone()));
    let saves = under.as_ref().filter(|under| under.saves() > 0).map_or_else(String::new, |under| {
        format!(
            ": it then covers in {}, where {} are needed over the bare ground",
            coats(under.coats),
            coats(under.without)
        )
    });
    let heavy = steps.iter().find(|step| step.is(Family::Wash) && step.is_water_borne());
    if board.ground.kind.bleeds() && first.is_water_borne() && !primed {
        return vec![about(
            Severity::Care,
            "the ground bleeds through".to_owned(),
            "tannin and old stain dissolve in water-borne paint and come up pink or yellow, coat after coat",
            format!("a stain-blocking primer first, tinted near the colour to come{saves}"),
            fix,
        )];
    }
    if let Some(heavy) = heavy.filter(|_| !primed && !board.ground.kind.is_primed()) {
        return vec![Advice {
            layer: Some(heavy.layer.id),
            ..about(
                Severity::Care,
                "much water on a ground without primer".to_owned(),
                "water works its way under paint that has nothing to hold on to",
                format!("a bonding primer below everything{saves}"),
                fix,
            )
        }];
    }
    let paint = paint.filter(|_| first.layer.hand.load.value() <= 1.5);
    let Some(needed) = paint.and_then(|paint| coats_over(&board.ground, None, paint).ok().flatten()) else {
        return Vec::new();
    };
    // The same paint may lie in several layers.
    let own = steps.iter().take_while(|step| step.layer.pot == first.layer.pot && step.is(Family::Coat));
    let given: usize = own.map(|step| usize::from(step.layer.hand.passes.value())).sum();
    if given >= needed {
        return Vec::new();
    }
    vec![about(
        Severity::Note,
        format!("{} of this over the bare ground: it covers in {}", coats(given), coats(needed)),
        "the first coat is never the colour: over a darker ground it looks pale, chalky and wrong",
        match &under {
            Some(under) if under.saves() > 0 => {
                format!("thin coats until it covers, or a tinted primer below{saves}")
            }
            _ => "thin coats until it covers".to_owned(),
        },
        Some(AdviceFix::Again(id)),
    )]
}

/// `one coat`, `3 coats`; what is beyond counting is told as more than six.
fn coats(n: usize) -> String {
    match n {
        1 => "one coat".to_owned(),
        2..=6 => format!("{n} coats"),
        _ => "more than 6 coats".to_owned(),
    }
}

/// Dry brush that jumps where contrast should be built in steps.
fn jumps(layers: &[&Layer], stack: &Stack) -> Vec<Advice> {
    let dry = layers
        .iter()
        .enumerate()
        .filter(|(n, layer)| !layer.muted && layer.technique == Technique::DryBrush && *n > 0);
    dry.filter_map(|(n, layer)| {
        let below = from_afar(stack, n, Place::Edge).l;
        let shades = (stack.material(n)?.seen_lab(Light::Daylight).l - below).abs() / SHADE;
        (shades > JUMP + NEARLY).then(|| Advice {
            layer: Some(layer.id),
            severity: Severity::Note,
            what: format!("{shades:.1} shades at one step"),
            why: "contrast that is built in steps looks worn; contrast at once looks painted on",
            remedy: "a helper a couple of shades from the base first, then this".to_owned(),
            fix: None,
            source: PRACTICE,
        })
    })
    .collect()
}

fn from_afar(stack: &Stack, layers: usize, place: Place) -> Lab {
    lab(&stack.seen(place, layers, State::Dry).from_afar(), Light::Daylight)
}

/// Glazes against what they lie on, in shades.
fn contrasts(layers: &[&Layer], stack: &Stack) -> Vec<Advice> {
    let glazes = layers
        .iter()
        .enumerate()
        .filter(|(n, layer)| !layer.muted && matches!(layer.technique.family(), Family::Glaze) && *n > 0);
    glazes
        .filter_map(|(n, layer)| {
            let base = from_afar(stack, n, Place::Field).l;
            let glaze = stack.material(n)?.seen_lab(Light::Daylight).l;
            let shades = (glaze - base).abs() / SHADE;
            if (SHADES.start() - NEARLY..=SHADES.end() + NEARLY).contains(&shades) {
                return None;
            }
            let (what, remedy) = if shades < *SHADES.start() {
                (
                    "so near it vanishes",
                    "take its colour three to five shades from the base: the ladder in the Pot has it",
                )
            } else {
                ("so far it shouts", "take its colour three to five shades from the base, or wipe it thinner")
            };
            Some(Advice {
                layer: Some(layer.id),
                severity: Severity::Note,
                what: format!("{shades:.1} shades from its base: {what}"),
                why: "a glaze three to five shades from its base reads as depth",
                remedy: remedy.to_owned(),
                fix: None,
                source: PRACTICE,
            })
        })
        .collect()
}
