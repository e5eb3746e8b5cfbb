//! Which orders of layers fail or have no effect, why, and what to do. All of it is common practice†.

use warm_blend_mixing::{MixtureKind, SHADE, warnings};
use warm_blend_paint::{Class, Contents, FilmState, MixPart, PaintId};
use warm_blend_spectral::{Lab, Light};

use super::{
    Board, Covering, Family, Grit, Ground, GroundKind, KnownTin, Layer, LayerId, Letter, OnShelf, Place,
    Stack, Technique, coats_over, stack::lab, undercoat,
};

/// Severity of a problem.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Severity {
    /// Worth knowing.
    Note,
    /// May go wrong, or not show.
    Care,
    /// Will fail.
    Fails,
}

/// A change that solves a problem in one touch.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum AdviceFix {
    /// Puts such a layer below this one.
    Below(LayerId, Technique),
    /// Applies the layer with another technique.
    Instead(LayerId, Technique),
    /// Repeats the layer, thinly.
    Again(LayerId),
    /// Puts a coat of this pot below the layer.
    Under(LayerId, Vec<MixPart>),
    /// Wears the layer down to another layer instead of the ground.
    DownTo(LayerId, LayerId),
}

/// A problem with an order of layers.
#[derive(Debug, Clone, PartialEq)]
pub struct Advice {
    /// The layer concerned; `None` for the whole strip. If several fail for one reason, the lowest.
    pub layer: Option<LayerId>,
    /// Severity.
    pub severity: Severity,
    /// What happens: the headline.
    pub what: String,
    /// Why.
    pub why: &'static str,
    /// What to do.
    pub remedy: String,
    /// The remedy in one touch.
    pub fix: Option<AdviceFix>,
    /// Source.
    pub source: &'static str,
}

const PRACTICE: &str = "common practice";

impl Advice {
    /// A problem of a layer, by common practice.
    fn of_practice(
        layer: LayerId,
        severity: Severity,
        what: impl Into<String>,
        why: &'static str,
        remedy: impl Into<String>,
        fix: Option<AdviceFix>,
    ) -> Self {
        let (what, remedy) = (what.into(), remedy.into());
        Self { layer: Some(layer), severity, what, why, remedy, fix, source: PRACTICE }
    }
}

/// Shades between a base and its glaze: fewer do not show, more are too strong†.
const SHADES: std::ops::RangeInclusive<f64> = 3.0..=5.0;

/// Number of shades from which a step of dry brush is a jump†.
const JUMP: f64 = 4.0;

/// Fraction of a shade that nobody sees.
const NEARLY: f64 = 0.25;

/// Texture that cracks if applied at once, and texture worth mentioning, µm†.
const CRACKS: f64 = 400.0;
const SHOWS: f64 = 60.0;
/// Loads from which texture and knifed flecks are too thick at once†.
const THICK_TEXTURE: f64 = 1.5;
const THICK_FLECKS: f64 = 2.0;
/// Share of clay-type paint from which a dry film can be wetted again†.
const REWETS: f64 = 0.2;

/// A layer with what the rules need.
struct Step<'a> {
    /// Index among all layers of the strip.
    at: usize,
    layer: &'a Layer,
    kind: MixtureKind,
    contents: Contents,
}

impl Step<'_> {
    fn is(&self, family: Family) -> bool {
        self.layer.technique.family() == family
    }

    /// True if it brings water: paint, glaze or wash, but not wax or anything made with solvent.
    fn is_water_borne(&self) -> bool {
        !self.is_wax() && !self.is(Family::Wear) && !self.contents.is_solvent_borne()
    }

    /// True if only wax sticks to it: wax, clear or tinted, gilding wax, and a resist, which is worked into wax.
    fn is_wax(&self) -> bool {
        self.contents.has_wax() || self.is(Family::Gild) || self.layer.technique == Technique::WetWaxResist
    }

    fn is_mostly(&self, class: Class) -> bool {
        self.contents.is_mostly(|product| product.class == class)
    }

    fn is_porous(&self) -> bool {
        self.contents.is_mostly(|product| product.class.is_porous())
    }

    /// True of dry paint that water takes off again: it contains enough clay-type paint.
    fn rewets(&self) -> bool {
        self.contents.share(|product| product.class == Class::Clay) >= REWETS
    }

    /// True of paint that a wet cloth rubs off: chalk-type, clay-type and milk paint.
    fn rubs_off_wet(&self) -> bool {
        self.contents.share(|product| product.class.is_porous()) >= 0.5
    }

    /// True if it closes what lies below.
    fn seals(&self) -> bool {
        super::document::seals(&self.contents.classes())
    }

    /// True of a film without gaps, which separates what lies below from what follows.
    fn is_closed(&self) -> bool {
        let everywhere = Place::ALL.iter().all(|place| *self.layer.on.at(*place));
        everywhere
            && self.layer.print.is_none()
            && !self.layer.is_cracked()
            && matches!(self.layer.technique.family(), Family::Coat | Family::Seal)
    }

    /// True of a coat that blocks stains from below.
    fn blocks_stains(&self) -> bool {
        self.contents.blocks_stains()
    }

    /// True of a coat that is there for later layers to stick to.
    fn primes(&self) -> bool {
        self.contents.is_mostly(|product| matches!(product.class, Class::Primer | Class::Shellac))
    }

    /// Depth of its texture, µm from tip to hollow.
    fn rough(&self) -> f64 {
        self.layer.rough(&self.contents.classes()).value()
    }

    /// True if nothing can follow on the same day (common practice).
    fn dries_overnight(&self) -> bool {
        self.kind == MixtureKind::Texture || self.layer.technique.dries_overnight(self.layer.hand)
    }

    /// True if it is wet for long, or moved about while wet.
    fn is_heavy_with_water(&self) -> bool {
        self.is(Family::Wash) || self.is(Family::Glaze) || self.is(Family::Blend)
    }
}

/// From the top down, layers reached through the gaps of those above; the first that seals is the last of them.
fn exposed<'s, 'l>(below: &'s [Step<'l>]) -> impl Iterator<Item = &'s Step<'l>> {
    let mut covered = false;
    below.iter().rev().filter(|step| !step.is(Family::Wear)).take_while(move |step| {
        let reached = !covered;
        covered |= step.is_closed();
        reached
    })
}

/// Problems of a strip, worst first, each cause once. `stack` belongs to the same strip; tins on the shelf may solve a
/// problem.
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
            let contents = layer.contents(&tin);
            Step { at, layer, kind: MixtureKind::of(&contents.classes()), contents }
        })
        .collect();
    let mut found: Vec<(Option<LayerId>, Advice)> = Vec::new();
    for n in 0..steps.len() {
        found.extend(of_layer(&steps, n));
    }
    // Problems with one cause are reported once, at the lowest layer affected.
    let mut causes: Vec<(LayerId, String)> = Vec::new();
    found.retain(|(cause, advice)| {
        let Some(cause) = cause else { return true };
        let known = (*cause, advice.what.clone());
        let new = !causes.contains(&known);
        causes.push(known);
        new
    });
    let mut found: Vec<Advice> = found.into_iter().map(|(_, advice)| advice).collect();
    found.extend(on_the_ground(board, &steps, stack, shelf, &tin));
    found.extend(stains(&board.ground, &steps));
    found.extend(worn_past(&board.ground, &steps));
    found.extend(contrasts(&steps, stack));
    found.extend(jumps(&steps, stack));
    found.sort_by_key(|advice| std::cmp::Reverse(advice.severity));
    found
}

/// Problems of a layer where it lies, each with the layer below that causes it.
fn of_layer(steps: &[Step], n: usize) -> Vec<(Option<LayerId>, Advice)> {
    let (step, below) = (&steps[n], &steps[..n]);
    let mut found = Vec::new();
    let mut add = |cause: Option<&Step>, severity, what: &str, why, remedy: &str, fix| {
        let advice = Advice::of_practice(step.layer.id, severity, what, why, remedy, fix);
        found.push((cause.map(|cause| cause.layer.id), advice));
    };
    let technique = step.layer.technique;
    let seal_below = || Some(AdviceFix::Below(step.layer.id, Technique::ClearCoat));
    // The topmost paint that is reached, and whether a seal closes it.
    let bare = |of: &dyn Fn(&Step) -> bool| {
        let open = exposed(below).take_while(|other| !(other.seals() && other.is_closed()));
        open.into_iter().find(|other| of(other) && !other.seals())
    };
    let lies_on = below.iter().rev().find(|other| !other.is(Family::Wear));
    let sealed = lies_on.is_some() && bare(&|_| true).is_none();
    let wax = below.iter().rfind(|other| other.is_wax());
    if let Some(clay) =
        bare(&|other| other.rewets()).filter(|_| step.is_heavy_with_water() && step.is_water_borne())
    {
        add(
            Some(clay),
            Severity::Fails,
            "this will lift the clay-type paint below",
            "clay-type paint re-wets until it is sealed all over, and a wet layer takes it off",
            "seal the paint first, or use a wax instead of this layer",
            seal_below(),
        );
    }
    let paints = step.is_water_borne() && !step.is(Family::Seal);
    if let Some(wax) = wax.filter(|_| paints) {
        add(
            Some(wax),
            Severity::Fails,
            "paint over wax does not stick",
            "water-based paint has no grip on wax and peels off in sheets",
            "wax after this layer, unless the wax is a resist",
            Some(AdviceFix::Instead(step.layer.id, Technique::WetWaxResist)),
        );
    }
    let oil_paint = |other: &Step| other.contents.is_mostly(|product| product.class.is_oil_paint());
    if let Some(oil) = lies_on.filter(|other| oil_paint(other) && step.is_water_borne() && !step.primes()) {
        add(
            Some(oil),
            Severity::Care,
            "water-based layers may peel off oil-based paint",
            "oil-based paint dries hard and slick, and goes on curing for weeks",
            "let it cure, sand it dull, and put a bonding primer between",
            None,
        );
    }
    if let Some(wax) = wax.filter(|_| oil_paint(step)) {
        add(
            Some(wax),
            Severity::Fails,
            "paint over wax does not stick",
            "the wax softens in oil-based paint: it stays tacky and peels off",
            "wax after this layer",
            None,
        );
    }
    let closed = lies_on.filter(|other| !other.is_porous() && !other.primes());
    if let Some(closed) = closed.filter(|_| step.is(Family::Coat) && step.is_mostly(Class::Milk)) {
        add(
            Some(closed),
            Severity::Care,
            "milk paint flakes off a closed surface",
            "it grips bare wood and porous paint only",
            "stir its bonding agent into the first coat, or leave it if you want it to chip",
            None,
        );
    }
    if let Some(wax) = wax.filter(|_| step.is_mostly(Class::GelStain)) {
        add(
            Some(wax),
            Severity::Fails,
            "stain over wax does not dry",
            "the wax keeps the stain out of the surface: it stays sticky and wipes off",
            "stain before the wax, or tint the wax instead",
            Some(AdviceFix::Instead(step.layer.id, Technique::TintedWax)),
        );
    }
    if let Some(wax) = wax.filter(|_| technique == Technique::ClearCoat) {
        add(
            Some(wax),
            Severity::Fails,
            "clear coat over wax will bead up and peel",
            "water-based clear coat won’t spread on wax",
            "finish with wax, or remove it before the clear coat",
            Some(AdviceFix::Instead(step.layer.id, Technique::ClearWax)),
        );
    }
    if let Some(porous) = bare(&|other| other.is_porous()).filter(|_| technique == Technique::TintedWax) {
        add(
            Some(porous),
            Severity::Care,
            "this wax stains the bare paint permanently",
            "porous paint soaks up the colour; you can’t lift it off",
            "put clear wax on first so you can lift it; go direct only where it should stay",
            Some(AdviceFix::Below(step.layer.id, Technique::ClearWax)),
        );
    }
    if step.is(Family::Glaze)
        && lies_on.is_some_and(|other| other.is_porous() && !other.is_mostly(Class::Clay) && !other.seals())
    {
        add(
            lies_on,
            Severity::Care,
            "the glaze will grab at once; you can’t work it",
            "a dead-matt base soaks up the glaze where it lands",
            "clear-coat the base first to gain time; a satin base doesn’t need it",
            seal_below(),
        );
    }
    let fresh = below.last().filter(|other| other.is_wax());
    if let Some(fresh) =
        fresh.filter(|_| step.is_wax() && !matches!(technique, Technique::Gilding | Technique::WetWaxResist))
    {
        add(
            Some(fresh),
            Severity::Note,
            "let the wax below set first",
            "fresh wax picks up the wax below",
            "buff the first wax the next day, then add this; over fresh tinted wax, clear wax lifts it off",
            None,
        );
    }
    if let Some(grit) = technique.grit_of(step.layer.hand) {
        let scratched = lies_on.filter(|other| !other.is(Family::Coat) && grit < Grit::P320);
        if let Some(scratched) = scratched {
            add(
                Some(scratched),
                Severity::Care,
                "paper this coarse leaves scratches that show",
                "a glaze, a wash or a seal is too thin to hide them, and what is wiped on next stays in them",
                "smooth with 320 or finer",
                None,
            );
        }
    }
    if technique == Technique::WetDistress {
        let top = exposed(below).find(|other| !other.is(Family::Gild));
        if let Some(top) = top.filter(|top| top.seals() || !top.rubs_off_wet()) {
            add(
                Some(top),
                Severity::Care,
                "a wet cloth does not rub this off",
                "only bare chalk-type, clay-type and milk paint softens under water; other paint, and whatever is sealed, stays",
                "sand it back instead",
                Some(AdviceFix::Instead(step.layer.id, Technique::SandBack)),
            );
        }
    }
    let load = step.layer.hand.load.value();
    let at_once = step.layer.hand.passes.value() == 1;
    let textured = step.kind == MixtureKind::Texture || technique == Technique::TextureCoat;
    if (textured && load > THICK_TEXTURE) || (at_once && step.rough() > CRACKS) {
        add(
            None,
            Severity::Fails,
            "texture this thick will crack",
            "a thick layer skins over and cracks",
            "use two thinner coats",
            None,
        );
    }
    if technique == Technique::KnifeFlecks && load > THICK_FLECKS {
        add(
            None,
            Severity::Fails,
            "flecks this thick will crack",
            "thick paint dries from outside and tears",
            "less on the knife, pressed flatter; more of them if they are too few",
            None,
        );
    }
    if !textured && step.layer.is_cracked() {
        add(
            None,
            Severity::Care,
            "a coat this heavy will run and crack",
            "thick paint sags before it dries",
            "two thin coats, sanded lightly between",
            Some(AdviceFix::Again(step.layer.id)),
        );
    }
    if technique == Technique::BrushedCoat && step.rough() > SHOWS {
        add(
            None,
            Severity::Note,
            "standing brush strokes need more paint",
            "ridges dry slowly, and a smooth coat fills them in",
            "thick paint, little water, brushed every which way; leave overnight, then keep the next layer thin",
            None,
        );
    }
    let slow = below.last().filter(|other| other.dries_overnight());
    if let Some(slow) = slow.filter(|_| !step.is(Family::Wear) && !step.layer.goes_into_wet()) {
        add(
            Some(slow),
            Severity::Note,
            "leave the layer below overnight",
            "texture, thick knife work and heavy washes dry slowly; too soon, and the next layer drags and cracks them",
            "leave it overnight; everything else here dries in an hour or two",
            None,
        );
    }
    // A seal alone is fine; a strong tint needs no warning over a seal.
    for warning in warnings(&step.contents.classes()).into_iter().filter(|_| !step.is(Family::Seal)) {
        if sealed && warning.needs_seal {
            continue;
        }
        let severity = if warning.fails { Severity::Fails } else { Severity::Care };
        add(None, severity, warning.words.trim_end_matches('.'), "", "", None);
    }
    found
}

/// Wear that goes past an earlier colour down to bare wood.
fn worn_past(ground: &Ground, steps: &[Step]) -> Vec<Advice> {
    let worn = steps
        .iter()
        .enumerate()
        .filter(|(_, step)| step.layer.technique.wears_through() && step.layer.down_to.is_none());
    let past = worn.filter_map(|(n, step)| {
        let coats: Vec<&Step> =
            steps[..n].iter().filter(|other| other.is(Family::Coat) && !other.primes()).collect();
        let top = coats.last()?;
        // The last colour that differs from the one on top.
        let hidden = coats.iter().rfind(|other| other.layer.pot != top.layer.pot)?;
        ground.kind.wood().is_some().then(|| Advice {
            layer: Some(step.layer.id),
            severity: Severity::Note,
            what: "this wears through to the bare wood, past the colour below".to_owned(),
            why: "an earlier colour is put there to show where the top one is worn",
            remedy: "wear it down to that colour only".to_owned(),
            fix: Some(AdviceFix::DownTo(step.layer.id, hidden.layer.id)),
            source: PRACTICE,
        })
    });
    past.collect()
}

/// Stains and toners: what they need to soak in.
fn stains(ground: &Ground, steps: &[Step]) -> Vec<Advice> {
    let laid = || steps.iter().filter(|step| !step.is(Family::Wear));
    let on_wood = laid().take_while(|step| step.is(Family::Stain)).count();
    let drinks = ground.kind.is_raw_wood() || ground.kind == GroundKind::StainedWood;
    let lies = laid().skip(if drinks { on_wood } else { 0 }).find(|step| step.is(Family::Stain));
    let lies = lies.map(|step| {
        Advice::of_practice(
            step.layer.id,
            Severity::Care,
            "this stain does not soak in",
            "a stain colours bare wood from within; on paint, varnish or wax it lies on top as a film, and dries slowly",
            "bare the wood first, or use it as a wiped glaze",
            Some(AdviceFix::Instead(step.layer.id, Technique::GlazeWiped)),
        )
    });
    let first = laid().next().filter(|step| drinks && step.is(Family::Stain) && step.is_water_borne());
    let mist = first.map(|step| {
        Advice::of_practice(
            step.layer.id,
            Severity::Note,
            "damp wood takes a toner evenly",
            "water opens the grain, and fills what would drink the most",
            "mist the wood, wait a minute, then wipe the toner on and off; a second coat goes darker",
            None,
        )
    });
    lies.into_iter().chain(mist).collect()
}

/// Requirements of the ground.
fn on_the_ground<'a>(
    board: &Board,
    steps: &[Step],
    stack: &Stack,
    shelf: &[OnShelf],
    tin: &impl Fn(PaintId) -> Option<KnownTin<'a>>,
) -> Vec<Advice> {
    // Anything that colours or seals the wood itself may let its tannin show.
    let covers = |step: &&Step| !step.is(Family::Wear) && !step.is(Family::Stain) && !step.is(Family::Seal);
    let Some(first) = steps.iter().find(covers) else { return Vec::new() };
    let id = first.layer.id;
    let (primed, blocked) = (first.primes(), first.blocks_stains());
    let about = |severity, what: String, why, remedy: String, fix| {
        Advice::of_practice(id, severity, what, why, remedy, fix)
    };
    let paint = stack.material(first.at).filter(|_| first.is(Family::Coat) && !primed);
    let covering = paint.map(|best| Covering { best, pot: &first.layer.pot });
    let under = covering.and_then(|paint| undercoat(&board.ground, paint, shelf, tin));
    let fix = under.as_ref().map(|under| AdviceFix::Under(id, under.pot.clone()));
    let saves = under.as_ref().filter(|under| under.saves() > 0).map_or_else(String::new, |under| {
        format!(
            ": covers in {}, not the {} needed over the bare ground",
            coats(under.coats),
            coats(under.without)
        )
    });
    let heavy = steps.iter().find(|step| step.is(Family::Wash) && step.is_water_borne());
    if board.ground.kind.bleeds() && first.is_water_borne() && !blocked {
        return vec![about(
            Severity::Care,
            "the ground will bleed through".to_owned(),
            "tannin and old stain bleed pink or yellow through water-based paint, coat after coat",
            format!("stain-blocking primer first, tinted close to the top colour{saves}"),
            fix,
        )];
    }
    if board.ground.kind.is_slick() && !primed {
        return vec![about(
            Severity::Fails,
            "paint does not grip this ground".to_owned(),
            "laminate and metal give paint nothing to hold: it scratches and peels off",
            format!("sand it dull, then bonding primer under everything{saves}"),
            fix,
        )];
    }
    if board.ground.kind == GroundKind::OldWax && !first.is_wax() {
        return vec![about(
            Severity::Fails,
            "paint over old wax does not stick".to_owned(),
            "water-based paint has no grip on wax and peels off in sheets",
            "take the old wax off with solvent and fine steel wool first, or finish with wax alone"
                .to_owned(),
            None,
        )];
    }
    if let Some(heavy) = heavy.filter(|_| !primed && !board.ground.kind.is_primed()) {
        return vec![Advice {
            layer: Some(heavy.layer.id),
            ..about(
                Severity::Care,
                "very wet layer on an unprimed ground".to_owned(),
                "water gets under paint that has no grip",
                format!("bonding primer under everything{saves}"),
                fix,
            )
        }];
    }
    let paint = paint.filter(|_| first.layer.hand.load.value() <= 1.5);
    let Some(needed) = paint.and_then(|paint| coats_over(&board.ground, None, paint).ok().flatten()) else {
        return Vec::new();
    };
    // The same paint may form several layers; sanding between them is not a coat.
    let laid = steps.iter().filter(|step| !step.is(Family::Wear));
    let own = laid.take_while(|step| step.layer.pot == first.layer.pot && step.is(Family::Coat));
    let given: usize = own.map(|step| usize::from(step.layer.hand.passes.value())).sum();
    if given >= needed {
        return Vec::new();
    }
    vec![about(
        Severity::Note,
        format!("only {} over the bare ground: it takes {} to cover", coats(given), coats(needed)),
        "the first coat never shows the true colour: over a darker ground it looks pale and chalky",
        match &under {
            Some(under) if under.saves() > 0 => {
                format!("thin coats until it covers, or a tinted primer first{saves}")
            }
            _ => "thin coats until it covers".to_owned(),
        },
        Some(AdviceFix::Again(id)),
    )]
}

/// `one coat`, `3 coats`; very many are `more than six`.
fn coats(n: usize) -> String {
    match n {
        1 => "one coat".to_owned(),
        2..=6 => format!("{n} coats"),
        _ => "more than 6 coats".to_owned(),
    }
}

/// Dry brush that jumps where contrast should be built in steps.
fn jumps(steps: &[Step], stack: &Stack) -> Vec<Advice> {
    let dry = steps.iter().filter(|step| step.layer.technique == Technique::DryBrush && step.at > 0);
    dry.filter_map(|step| {
        let (n, layer) = (step.at, step.layer);
        let below = from_afar(stack, n, Place::Edge).l;
        let shades = (stack.material(n)?.seen_lab(Light::Daylight).l - below).abs() / SHADE;
        (shades > JUMP + NEARLY).then(|| Advice {
            layer: Some(layer.id),
            severity: Severity::Note,
            what: format!("too big a jump: {shades:.1} shades in one step"),
            why: "contrast built in steps looks worn; all at once it looks painted on",
            remedy: "dry-brush an in-between colour first, a couple of shades from the base".to_owned(),
            fix: None,
            source: PRACTICE,
        })
    })
    .collect()
}

fn from_afar(stack: &Stack, layers: usize, place: Place) -> Lab {
    lab(&stack.seen(place, layers, FilmState::Dry).from_afar(), Light::Daylight)
}

/// Contrast of glazes with what they lie on, in shades.
fn contrasts(steps: &[Step], stack: &Stack) -> Vec<Advice> {
    // Pearl is translucent and has no shade of its own.
    let opaque = |step: &&Step| step.contents.share(|product| product.class == Class::Pearl) < 0.3;
    let glazes = steps.iter().filter(|step| step.is(Family::Glaze) && step.at > 0).filter(opaque);
    glazes
        .filter_map(|step| {
            let (n, layer) = (step.at, step.layer);
            let base = from_afar(stack, n, Place::Field).l;
            let glaze = stack.material(n)?.seen_lab(Light::Daylight).l;
            let shades = (glaze - base).abs() / SHADE;
            if (SHADES.start() - NEARLY..=SHADES.end() + NEARLY).contains(&shades) {
                return None;
            }
            let (what, remedy) = if shades < *SHADES.start() {
                ("too close to show", "keep glazes 3 to 5 shades away; pick one from the Ladder in the Pot")
            } else {
                ("too strong", "keep glazes 3 to 5 shades away, or wipe it thinner")
            };
            Some(Advice {
                layer: Some(layer.id),
                severity: Severity::Note,
                what: format!("glaze is {shades:.1} shades from its base: {what}"),
                why: "a glaze 3 to 5 shades from its base reads as depth",
                remedy: remedy.to_owned(),
                fix: None,
                source: PRACTICE,
            })
        })
        .collect()
}
