//! Treatments that bring the parts of a piece together.
//!
//! Tries every wash, glaze and tinted wax that the shelf allows: on all zones, on those of faulty pairs, on the smaller
//! zone of each such pair, and on each of these alone. Treatments that bring every pair into its window without making
//! [`mud`](mud()) are ranked by how little they change the piece; if there are none, by how much remains wrong. The
//! search is exhaustive. The best are then judged by expected result: on each plausible shelf the piece looks a little
//! different, and so does the treatment.
//!
//! The alternative is to mix a colour towards its neighbour, or to mute it: [`pulls`], [`calms`].

use std::{collections::BTreeMap, ops::ControlFlow};

use rayon::prelude::*;
use warm_blend_board::{Application, ByPlace, FLAT, Layer, OnShelf, Passes, Share, Technique, lab, thinned};
use warm_blend_paint::{Base, Class, FilmState, MixPart, PaintId, Units, WholeParts};
use warm_blend_spectral::{Lab, Light, difference};

use super::{
    BadFinish, Finding, FinishContext, Meeting, Over, Pair, Piece, Scheme, Stands, Washed, Zone, ZoneSeen,
    cohesion::{elsewhere, findings, of_palette, pairs_of},
    mud, off, poured_together,
};

/// A fault that weighs so little more than before is no new one, ΔE00 or the like†.
const NEW: f64 = 0.5;
/// How many ways are shown.
const TOLD: usize = 6;
/// How many are judged on the plausible shelves, and of how many strengths of one wash.
const JUDGED: usize = 24;
const STRENGTHS: usize = 2;
/// Ways whose expected amounts are as near as this, ΔE00, count as alike: the lightest of them comes first†.
const ALIKE: f64 = 0.5;

/// A treatment that brings parts together, and its effect.
#[derive(Debug, Clone, PartialEq)]
pub struct Unified {
    /// The layer and its zones.
    pub over: Over,
    /// All pairs afterwards.
    pub pairs: Vec<Pair>,
    /// Total distance of pairs outside their windows, ΔE00.
    pub off: f64,
    /// Mean change of the piece by area, ΔE00.
    pub moved: f64,
    /// Pairs further outside their windows than before.
    pub worse: Vec<(Zone, Zone)>,
    /// Other faults that are new or worse.
    pub faults: Vec<Finding>,
    /// Their total weight, comparable with that of pairs.
    pub amiss: f64,
    /// How much it muddies the palette, in the same measure.
    pub mud: f64,
    /// Mean over the plausible shelves of everything wrong afterwards (pairs, faults and mud); never less than on the
    /// most probable shelf.
    pub expected: f64,
    /// Amount of the mixture, ml.
    pub ml: f64,
    /// Hours of work, without waiting.
    pub hours: f64,
}

/// What a colour is mixed with.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum With {
    /// The colour of an adjoining zone.
    Neighbour(Zone),
    /// A paint that mutes it.
    Paint(PaintId),
}

/// A zone repainted in a colour mixed from its own.
#[derive(Debug, Clone, PartialEq)]
pub struct Pull {
    /// The zone.
    pub zone: Zone,
    /// What its colour is mixed with.
    pub with: With,
    /// Parts of its own colour and of the other.
    pub parts: (u32, u32),
    /// The resulting pot.
    pub pot: Vec<MixPart>,
    /// Contrast of the pair before and after, ΔE00.
    pub contrast: (f64, f64),
}

/// Progress of a search.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Searched {
    /// Share of treatments tried, 0..=1.
    pub done: f64,
}

/// A scheme in one light and state.
pub struct Looked<'a> {
    /// The piece.
    pub piece: &'a Piece,
    /// The scheme.
    pub scheme: &'a Scheme,
    /// Appearance of its zones.
    pub zones: &'a [ZoneSeen],
    /// Shares of field, recess and edge by zone.
    pub places: &'a BTreeMap<Zone, ByPlace<f64>>,
    /// Which zones meet.
    pub meetings: &'a [Meeting],
    /// Light and state of the film.
    pub look: (Light, FilmState),
}

/// A mixture and how it is put on.
#[derive(Clone, Copy)]
struct Treatment {
    technique: Technique,
    /// With parts of it to one of paint; none of what is put on as it is.
    medium: Option<(Class, u32)>,
    wipes: &'static [f64],
    passes: &'static [u8],
    /// Hours by m²†.
    hours: f64,
    /// Of metallics only; the others are never of metallics.
    metallic: bool,
}

/// What is tried (common practice).
const KINDS: [Treatment; 9] = {
    use Technique::{Gilding, GlazeStippled, GlazeWiped, MetallicWash, TintedWax, WashPatted, WashWiped};
    const fn of(
        technique: Technique,
        medium: Class,
        parts: u32,
        wipes: &'static [f64],
        hours: f64,
    ) -> Treatment {
        Treatment { technique, medium: Some((medium, parts)), wipes, passes: &[1], hours, metallic: false }
    }
    const fn metallic(kind: Treatment) -> Treatment {
        Treatment { metallic: true, ..kind }
    }
    [
        Treatment { passes: &[1, 2], ..of(WashPatted, Class::Water, 1, &[0.5], 0.35) },
        of(WashWiped, Class::Water, 1, &[0.2, 0.5, 0.8], 0.35),
        of(WashWiped, Class::Water, 3, &[0.3, 0.6], 0.35),
        of(GlazeWiped, Class::GlazingLiquid, 4, &[0.1, 0.35, 0.6], 0.5),
        of(GlazeStippled, Class::GlazingLiquid, 4, &[0.5], 0.6),
        of(TintedWax, Class::ClearWax, 6, &[0.2, 0.5], 0.45),
        // A metallic between two that fight: on what stands out, as a shimmer, in the wax.
        Treatment {
            technique: Gilding,
            medium: None,
            wipes: &[0.5],
            passes: &[1],
            hours: 0.8,
            metallic: true,
        },
        metallic(of(MetallicWash, Class::Water, 2, &[0.5], 0.35)),
        metallic(of(TintedWax, Class::ClearWax, 6, &[0.2, 0.5], 0.45)),
    ]
};

/// Further strengths of a pale or grey wash, which is what usually pulls a loud piece together (common practice).
const PALE_KINDS: [Treatment; 3] = {
    use Technique::{GlazeWiped, WashPatted, WashWiped};
    const fn of(
        technique: Technique,
        medium: Class,
        parts: u32,
        wipes: &'static [f64],
        passes: &'static [u8],
    ) -> Treatment {
        Treatment { technique, medium: Some((medium, parts)), wipes, passes, hours: 0.35, metallic: false }
    }
    [
        of(WashPatted, Class::Water, 2, &[0.5], &[1, 2, 3]),
        of(WashWiped, Class::Water, 1, &[0.0, 0.1, 0.35], &[1, 2]),
        of(GlazeWiped, Class::GlazingLiquid, 3, &[0.0, 0.2], &[1]),
    ]
};

/// True of a white, a cream or a grey.
fn is_pale_or_grey(colour: Lab) -> bool {
    colour.chroma() < 10.0 && colour.l > 35.0 || colour.chroma() < 20.0 && colour.l > 75.0
}

/// Layers that the shelf allows: one for each kind, paint and way to wipe it.
pub fn treatments(shelf: &[OnShelf]) -> Vec<Layer> {
    let paints = shelf.iter().filter(|tin| tin.class.makes_colours() && tin.class.base() == Base::Water);
    let mut layers = Vec::new();
    for tin in paints {
        let pale = PALE_KINDS.into_iter().filter(|_| is_pale_or_grey(tin.lab));
        let kinds = KINDS.into_iter().chain(pale);
        for kind in kinds.filter(|kind| kind.metallic == (tin.class == Class::Metallic)) {
            for wipe in kind.wipes {
                for passes in kind.passes {
                    let layer = thinned(shelf, kind.technique, tin.paint, kind.medium);
                    layers.extend(layer.zip(Passes::new(*passes).ok()).map(|(layer, passes)| {
                        let hand = Application { wipe: Share::of(*wipe), passes, ..layer.hand };
                        Layer { hand, ..layer }
                    }));
                }
            }
        }
    }
    layers
}

impl Looked<'_> {
    fn lab(&self, zone: Zone) -> Option<Lab> {
        self.zones.iter().find(|seen| seen.zone == zone).map(|seen| seen.lab)
    }

    /// m².
    fn area(&self, zone: Zone) -> f64 {
        self.zones.iter().find(|seen| seen.zone == zone).map_or(0.0, |seen| seen.extent.area)
    }

    /// A pair, its smaller zone first.
    fn smaller_first(&self, (one, other): (Zone, Zone)) -> (Zone, Zone) {
        if self.area(one) > self.area(other) { (other, one) } else { (one, other) }
    }

    /// Its pairs, with other colours in some zones.
    fn pairs_with(&self, labs: &BTreeMap<Zone, Lab>) -> Vec<Pair> {
        let seen = |zone| labs.get(&zone).copied().or_else(|| self.lab(zone));
        pairs_of(seen, self.meetings, self.scheme, &self.piece.windows)
    }

    /// Its pairs as they are.
    pub fn pairs(&self) -> Vec<Pair> {
        self.pairs_with(&BTreeMap::new())
    }

    /// What a zone looks like with a layer more over it.
    fn with(&self, wardrobe: &FinishContext, seen: &ZoneSeen, layer: &Layer) -> Result<ZoneSeen, BadFinish> {
        let mut over = self.scheme.over.clone();
        over.push(Over { layer: layer.clone(), zones: vec![seen.zone] });
        let dressed = wardrobe.dress(seen.zone, self.scheme, self.piece.ground, &over, None)?;
        let (light, state) = self.look;
        Ok(dressed.look_from_afar(seen.zone, seen.extent, &self.places_of(seen.zone), light, state))
    }

    /// Pairs that leave their window in the other lights it is to be seen in: those of the brief, or the evening where the brief
    /// names none.
    fn in_other_lights(&self, zones: &[ZoneSeen], pairs: &[Pair]) -> Vec<Finding> {
        let light = self.look.0;
        let mut found = Vec::new();
        let evening = if light == Light::Bulb { Light::Daylight } else { Light::Bulb };
        let lights = match self.piece.brief.lights.as_slice() {
            [] => vec![evening],
            lights => lights.iter().copied().filter(|other| *other != light).collect(),
        };
        for light in lights {
            let labs: BTreeMap<Zone, Lab> =
                zones.iter().map(|seen| (seen.zone, lab(&seen.seen, light))).collect();
            let seen = |zone| labs.get(&zone).copied();
            let then = pairs_of(seen, self.meetings, self.scheme, &self.piece.windows);
            found.extend(elsewhere(pairs, &then, light));
        }
        found
    }

    /// What is to be said of it as a whole, in every light.
    fn said(&self, zones: &[ZoneSeen], pairs: &[Pair]) -> Vec<Finding> {
        let mut found = of_palette(zones, pairs);
        found.extend(self.in_other_lights(zones, pairs));
        found
    }

    /// Findings, most important first, with lengths in these units.
    pub fn findings(&self, units: Units) -> Vec<Finding> {
        let pairs = self.pairs();
        let mut found = findings(self.zones, &pairs, units);
        found.extend(self.in_other_lights(self.zones, &pairs));
        found.extend(crate::buyers(self.zones, &pairs));
        found.sort_by(|a, b| b.weight.total_cmp(&a.weight));
        found
    }

    fn places_of(&self, zone: Zone) -> ByPlace<f64> {
        self.places.get(&zone).copied().unwrap_or(FLAT)
    }

    /// Zones that a treatment can lie on: those that are painted.
    fn painted(&self) -> Vec<Zone> {
        self.zones.iter().filter(|seen| seen.painted).map(|seen| seen.zone).collect()
    }

    /// Where treatments are tried: everywhere, on the pairs that are off, on the smaller zone of each such pair, on each zone
    /// of one.
    fn sets(&self, now: &[Pair]) -> Vec<Vec<Zone>> {
        let painted = self.painted();
        let of_pairs = |zones: &dyn Fn(&Pair) -> Vec<Zone>| {
            let off = now.iter().filter(|pair| pair.stands() != Stands::In);
            let mut of: Vec<Zone> = off.flat_map(zones).filter(|zone| painted.contains(zone)).collect();
            of.sort_unstable();
            of.dedup();
            of
        };
        let small = of_pairs(&|pair| vec![self.smaller_first(pair.zones).0]);
        let off = of_pairs(&|pair| vec![pair.zones.0, pair.zones.1]);
        let mut sets = vec![painted, off.clone(), small];
        sets.extend(off.into_iter().map(|zone| vec![zone]));
        let mut kept: Vec<Vec<Zone>> = Vec::new();
        for set in sets {
            if !set.is_empty() && !kept.contains(&set) {
                kept.push(set);
            }
        }
        kept
    }
}

/// Visits a plausible shelf: the scheme as it looks there, and the context to dress it.
pub type Visit<'v> = dyn FnMut(&Looked, &FinishContext) -> Result<ControlFlow<()>, BadFinish> + 'v;

/// Visits each plausible shelf until the visitor stops.
pub type PlausibleShelves<'p> = dyn Fn(&mut Visit) -> Result<(), BadFinish> + 'p;

/// The lightest treatments that bring every pair into its window without another fault, best first; if there are none,
/// those that leave least wrong. Empty if nothing is wrong. `watch` is given the progress and may stop the search; what
/// was found so far is the result.
pub fn unify(
    looked: &Looked,
    wardrobe: &FinishContext,
    shelf: &[OnShelf],
    watch: impl FnMut(Searched) -> ControlFlow<()>,
) -> Result<Vec<Unified>, BadFinish> {
    unify_likely(looked, wardrobe, shelf, &|_| Ok(()), watch)
}

/// The same search, ranked by expected result over the plausible shelves.
pub fn unify_likely(
    looked: &Looked,
    wardrobe: &FinishContext,
    shelf: &[OnShelf],
    plausible: &PlausibleShelves,
    mut watch: impl FnMut(Searched) -> ControlFlow<()>,
) -> Result<Vec<Unified>, BadFinish> {
    let now = looked.pairs();
    let off_now = off(&now);
    if off_now <= 0.0 {
        return Ok(Vec::new());
    }
    let sets = looked.sets(&now);
    let painted = looked.painted();
    let said = looked.said(looked.zones, &now);
    let layers = treatments(shelf);
    let (mut found, mut stopped): (Vec<Unified>, bool) = (Vec::new(), false);
    const AT_ONCE: usize = 16;
    for (n, chunk) in layers.chunks(AT_ONCE).enumerate() {
        let tried: Vec<Vec<Unified>> = chunk
            .par_iter()
            .map(|layer| {
                let treated = looked
                    .zones
                    .iter()
                    .filter(|seen| seen.painted)
                    .map(|seen| Ok((seen.zone, looked.with(wardrobe, seen, layer)?)))
                    .collect::<Result<BTreeMap<Zone, ZoneSeen>, BadFinish>>()?;
                let wash = colour_of(layer, shelf);
                let reply =
                    sets.iter().map(|set| tell(looked, (layer, wash), set, painted.len(), &treated, &now));
                let helps = reply.filter(|way| way.off + way.mud < off_now);
                // What else becomes of the piece is asked only of what helps.
                Ok(helps
                    .map(|way| way.with_faults(looked, &treated, &said))
                    .filter(|way| way.amount() < off_now)
                    .collect())
            })
            .collect::<Result<_, BadFinish>>()?;
        found.extend(tried.into_iter().flatten());
        let done = JUDGING * ((n + 1) * AT_ONCE) as f64 / layers.len() as f64;
        stopped = watch(Searched { done: done.min(JUDGING) }).is_break();
        if stopped {
            break;
        }
    }
    found.sort_by(|a, b| a.amount().total_cmp(&b.amount()).then(a.moved.total_cmp(&b.moved)));
    let metals: Vec<PaintId> =
        shelf.iter().filter(|tin| tin.class == Class::Metallic).map(|tin| tin.paint).collect();
    let shines = |way: &Unified| way.over.layer.pot.first().is_some_and(|part| metals.contains(&part.paint));
    let mut judged = worth_judging(found, shines);
    let none: &PlausibleShelves = &|_| Ok(());
    expect(&mut judged, shelf, if stopped { none } else { plausible }, watch)?;
    Ok(one_of_each(judged, shines))
}

/// What share of a search is over when what was found is judged.
const JUDGING: f64 = 0.7;

/// The best, a few strengths of each wash, and the best that shines: a metallic between two is another idea again.
fn worth_judging(found: Vec<Unified>, shines: impl Fn(&Unified) -> bool) -> Vec<Unified> {
    let shining = found.iter().find(|way| shines(way)).cloned();
    let mut kept: Vec<Unified> = Vec::new();
    for way in found {
        if kept.len() == JUDGED {
            break;
        }
        if kept.iter().filter(|other| way.is_like(other)).count() < STRENGTHS {
            kept.push(way);
        }
    }
    kept.extend(shining.filter(|_| !kept.iter().any(&shines)));
    kept
}

/// Judges ways by the plausible shelves.
fn expect(
    ways: &mut [Unified],
    shelf: &[OnShelf],
    plausible: &PlausibleShelves,
    mut watch: impl FnMut(Searched) -> ControlFlow<()>,
) -> Result<(), BadFinish> {
    let (mut sums, mut shelves) = (vec![0.0; ways.len()], 0.0);
    plausible(&mut |looked, wardrobe| {
        let now = looked.pairs();
        let said = looked.said(looked.zones, &now);
        let amount = |way: &Unified| way.amount_where(looked, wardrobe, shelf, (&now, &said));
        let amounts: Vec<f64> = ways.par_iter().map(amount).collect::<Result<_, BadFinish>>()?;
        sums.iter_mut().zip(amounts).for_each(|(sum, amount)| *sum += amount);
        shelves += 1.0;
        Ok(watch(Searched { done: 1.0 - (1.0 - JUDGING) / (1.0 + shelves) }))
    })?;
    for (way, sum) in ways.iter_mut().zip(sums) {
        way.expected = (sum / f64::max(shelves, 1.0)).max(way.amount());
    }
    Ok(())
}

/// One of each paint and technique, the likeliest first, of those that are alike the lightest: the next is another idea, not the same a
/// little firmer. What shines has the last place where it does as much as the first.
fn one_of_each(mut judged: Vec<Unified>, shines: impl Fn(&Unified) -> bool) -> Vec<Unified> {
    let step = |way: &Unified| (way.expected / ALIKE).round();
    judged.sort_by(|a, b| step(a).total_cmp(&step(b)).then(a.moved.total_cmp(&b.moved)));
    let shining = judged.iter().find(|way| shines(way)).cloned();
    let mut shown: Vec<Unified> = Vec::new();
    for way in judged {
        if shown.len() < TOLD && !shown.iter().any(|other| way.is_like(other)) {
            shown.push(way);
        }
    }
    if let (Some(shining), Some(best)) = (shining, shown.first())
        && !shown.iter().any(&shines)
        && step(&shining) <= step(best)
    {
        shown.truncate(TOLD - 1);
        shown.push(shining);
    }
    shown
}

/// The colour of what a layer is made of; white where it is not on the shelf.
fn colour_of(layer: &Layer, shelf: &[OnShelf]) -> Lab {
    let tin = layer.pot.first().and_then(|part| shelf.iter().find(|tin| tin.paint == part.paint));
    tin.map_or(Lab { l: 100.0, a: 0.0, b: 0.0 }, |tin| tin.lab)
}

fn tell(
    looked: &Looked,
    (layer, wash): (&Layer, Lab),
    set: &[Zone],
    all: usize,
    treated: &BTreeMap<Zone, ZoneSeen>,
    now: &[Pair],
) -> Unified {
    let changed: BTreeMap<Zone, Lab> =
        set.iter().filter_map(|zone| Some((*zone, treated.get(zone)?.lab))).collect();
    let pairs = looked.pairs_with(&changed);
    let worse = pairs.iter().zip(now).filter(|(then, now)| then.off() > now.off() + 1e-9);
    let worse = worse.map(|(pair, _)| pair.zones).collect();
    let whole: f64 = looked.zones.iter().map(|seen| seen.extent.area).fold(0.0, |a, b| a + b);
    let moved = changed
        .iter()
        .filter_map(|(zone, lab)| Some(looked.area(*zone) * difference(looked.lab(*zone)?, *lab).value()));
    let moved = moved.fold(0.0, |a, b| a + b) / whole.max(f64::MIN_POSITIVE);
    let area: f64 = set.iter().map(|zone| looked.area(*zone)).fold(0.0, |a, b| a + b);
    let hours = KINDS.iter().find(|kind| kind.technique == layer.technique).map_or(0.5, |kind| kind.hours);
    let washed: Vec<Washed> = looked
        .zones
        .iter()
        .filter(|seen| seen.painted)
        .map(|seen| Washed {
            area: seen.extent.area,
            before: seen.lab,
            after: changed.get(&seen.zone).copied().unwrap_or(seen.lab),
        })
        .collect();
    let contrasts: Vec<(Pair, Pair)> = now.iter().cloned().zip(pairs.iter().cloned()).collect();
    let mud = mud(&washed, wash, &contrasts);
    let zones = if set.len() == all { Vec::new() } else { set.to_vec() };
    Unified {
        off: off(&pairs),
        moved,
        worse,
        faults: Vec::new(),
        amiss: 0.0,
        mud,
        expected: 0.0,
        ml: layer.technique.ml_by_square_metre(layer.hand, &FLAT) * area,
        hours: hours * area * f64::from(layer.hand.passes.value()),
        over: Over { layer: layer.clone(), zones },
        pairs,
    }
}

impl Unified {
    /// Total of what is wrong with it: pairs, other faults and mud.
    pub fn amount(&self) -> f64 {
        self.off + self.amiss + self.mud
    }

    /// Whether it is the same idea: a wash of one paint.
    fn is_like(&self, other: &Self) -> bool {
        let (one, two) = (&self.over.layer, &other.over.layer);
        one.technique == two.technique
            && one.pot.first().map(|part| part.paint) == two.pot.first().map(|part| part.paint)
    }

    /// How much is off with it elsewhere: where `now` and `said` are the pairs and findings without it.
    fn amount_where(
        &self,
        looked: &Looked,
        wardrobe: &FinishContext,
        shelf: &[OnShelf],
        (now, said): (&[Pair], &[Finding]),
    ) -> Result<f64, BadFinish> {
        let (layer, painted) = (&self.over.layer, looked.painted());
        let zones = if self.over.zones.is_empty() { &painted } else { &self.over.zones };
        let lies_on = looked.zones.iter().filter(|seen| zones.contains(&seen.zone));
        let treated = lies_on
            .map(|seen| Ok((seen.zone, looked.with(wardrobe, seen, layer)?)))
            .collect::<Result<BTreeMap<Zone, ZoneSeen>, BadFinish>>()?;
        let reply = tell(looked, (layer, colour_of(layer, shelf)), zones, painted.len(), &treated, now);
        Ok(reply.with_faults(looked, &treated, said).amount())
    }

    /// With the faults that it makes: what was said before is none.
    fn with_faults(self, looked: &Looked, treated: &BTreeMap<Zone, ZoneSeen>, before: &[Finding]) -> Self {
        let lies_on = |zone| self.over.zones.is_empty() || self.over.zones.contains(&zone);
        let then: Vec<ZoneSeen> = looked
            .zones
            .iter()
            .map(|seen| treated.get(&seen.zone).filter(|_| lies_on(seen.zone)).unwrap_or(seen).clone())
            .collect();
        let said = looked.said(&then, &self.pairs).into_iter();
        let new = said.map(|finding| (finding.beyond(before), finding)).filter(|(beyond, _)| *beyond > NEW);
        let (beyond, faults): (Vec<f64>, Vec<Finding>) = new.unzip();
        Self { faults, amiss: beyond.iter().sum(), ..self }
    }
}

/// The ratios of a colour to what is mixed into it, the least of that first.
const RATIOS: [(u32, u32); 7] = [(7, 1), (5, 1), (4, 1), (3, 1), (2, 1), (3, 2), (1, 1)];

/// By how much weaker, C*ab, a colour must become to count as calmed, and how much lighter or darker it may, L*†.
const CALMED: (f64, f64) = (2.0, 10.0);

/// For each pair with too much contrast, the smaller zone mixed just far enough towards the larger: the first of the
/// ratios 7:1, 5:1 … 1:1 that brings the pair into its window. Skips zones without a main colour, and pairs for which 1:1
/// is not enough.
pub fn pulls(looked: &Looked, wardrobe: &FinishContext) -> Result<Vec<Pull>, BadFinish> {
    let mut found = Vec::new();
    let now = looked.pairs();
    for pair in now.iter().filter(|pair| pair.stands() == Stands::Far) {
        let (zone, toward) = looked.smaller_first(pair.zones);
        let main = |zone| looked.main(wardrobe, zone);
        let (own, other) = (main(zone)?, main(toward)?);
        let in_window = |_: Lab, contrast: f64| contrast <= pair.window.1;
        let mixed = Mixed { zone, with: With::Neighbour(toward), own: &own, other: &other };
        found.extend(looked.least(wardrobe, pair, &mixed, in_window)?.map(|(pull, _)| pull));
    }
    Ok(found)
}

/// For each pair with too much contrast, the more vivid colour muted: mixed with the paint that brings the pair into its
/// window with the smallest addition, lowering chroma without much change in lightness.
pub fn calms(looked: &Looked, wardrobe: &FinishContext, shelf: &[OnShelf]) -> Result<Vec<Pull>, BadFinish> {
    let mut found: Vec<Pull> = Vec::new();
    let now = looked.pairs();
    let paints = |tin: &&OnShelf| tin.class.makes_water_based_colours();
    for pair in now.iter().filter(|pair| pair.stands() == Stands::Far) {
        let (one, other) = pair.zones;
        let chroma = |zone| looked.lab(zone).map_or(0.0, Lab::chroma);
        let zone = if chroma(one) > chroma(other) { one } else { other };
        let own = looked.main(wardrobe, zone)?;
        let Some(before) = looked.lab(zone) else { continue };
        let calmer = |lab: Lab, contrast: f64| {
            contrast <= pair.window.1
                && lab.chroma() < before.chroma() - CALMED.0
                && (lab.l - before.l).abs() < CALMED.1
        };
        let tried = shelf.iter().filter(paints).map(|tin| {
            let pot = [MixPart { paint: tin.paint, parts: WholeParts::new(1).ok()? }];
            let mixed = Mixed { zone, with: With::Paint(tin.paint), own: &own, other: &pot };
            looked.least(wardrobe, pair, &mixed, calmer).transpose()
        });
        let ways = tried.flatten().collect::<Result<Vec<(Pull, Lab)>, BadFinish>>()?;
        let weight = |(pull, lab): &(Pull, Lab)| (pull.more(), (lab.l - before.l).abs());
        let best = ways.into_iter().min_by(|one, other| {
            let (one, other) = (weight(one), weight(other));
            one.0.total_cmp(&other.0).then(one.1.total_cmp(&other.1))
        });
        // A zone that fights with two is calmed once, as much as the louder of them asks for.
        if let Some((pull, _)) = best {
            match found.iter_mut().find(|known| known.zone == pull.zone) {
                Some(known) if known.more() >= pull.more() => {}
                Some(known) => *known = pull,
                None => found.push(pull),
            }
        }
    }
    Ok(found)
}

impl Pull {
    /// How much goes into one part of the zone's own colour.
    fn more(&self) -> f64 {
        f64::from(self.parts.1) / f64::from(self.parts.0)
    }
}

/// A zone's colour and what goes into it.
struct Mixed<'a> {
    zone: Zone,
    with: With,
    own: &'a [MixPart],
    other: &'a [MixPart],
}

impl Looked<'_> {
    /// The pot of a zone's main colour.
    fn main(&self, wardrobe: &FinishContext, zone: Zone) -> Result<Vec<MixPart>, BadFinish> {
        Ok(wardrobe.dress(zone, self.scheme, self.piece.ground, &self.scheme.over, None)?.main)
    }

    /// The least that has to go in until what becomes of it, and of the contrast of the pair, will do.
    fn least(
        &self,
        wardrobe: &FinishContext,
        pair: &Pair,
        mixed: &Mixed,
        will_do: impl Fn(Lab, f64) -> bool,
    ) -> Result<Option<(Pull, Lab)>, BadFinish> {
        let &Mixed { zone, with, own, other } = mixed;
        let neighbour = if pair.zones.0 == zone { pair.zones.1 } else { pair.zones.0 };
        let Some(there) = self.lab(neighbour).filter(|_| !own.is_empty() && !other.is_empty()) else {
            return Ok(None);
        };
        for (parts, more) in RATIOS {
            let Some(pot) = poured_together(own, parts, other, more) else { continue };
            let dressed =
                wardrobe.dress(zone, self.scheme, self.piece.ground, &self.scheme.over, Some(&pot))?;
            let seen = dressed.lab(&self.places_of(zone), self.look.0, self.look.1);
            let contrast = difference(seen, there).value();
            if will_do(seen, contrast) {
                let contrast = (pair.contrast, contrast);
                return Ok(Some((Pull { zone, with, parts: (parts, more), pot, contrast }, seen)));
            }
        }
        Ok(None)
    }
}
