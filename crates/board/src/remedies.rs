//! Remedies for a board gone wrong, each tried by the engine and shown with its effect.
//!
//! The remedies are common practice†. Which tin serves, and whether a remedy helps on this board, is computed; those that
//! do not help are left out.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;
use warm_blend_mixing::SHADE;
use warm_blend_paint::{BadPaint, Class, FilmState, MixPart, PaintId, WholeParts};
use warm_blend_spectral::{Lab, Light, Reflectance, difference};

use super::{
    Board, ByPlace, KnownTin, Layer, LayerId, LearnedHand, Letter, OnShelf, Place, Stack, Technique, Way,
    below_the_wax, stack::lab, template::thinned,
};

/// What went wrong.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, strum::IntoStaticStr, strum::VariantArray,
)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Defect {
    /// Everything, or a wax or glaze, is too dark.
    TooDark,
    /// An accent, or everything, is too bright a colour.
    TooBright,
    /// One part jumps out.
    JumpsOut,
    /// Nothing stands out.
    Dull,
    /// The first coat looks pale and chalky.
    WashedOut,
    /// The paint was lifted by what went over it.
    Lifted,
    /// Cracks, runs, blobs.
    Cracked,
}

/// A remedy.
#[derive(Debug, Clone, PartialEq)]
pub struct Remedy {
    /// What is done.
    pub way: Way,
    /// True if wax comes off first and goes on again.
    pub through_wax: bool,
    /// The new layer, if any: its pot completes the sentence.
    pub pot: Option<Layer>,
    /// Changes to the strip.
    pub changes: Vec<LayerChange>,
    /// Colour from across the room afterwards.
    pub after: ByPlace<Reflectance>,
}

impl Remedy {
    /// What to do; without the pot, if there is one.
    pub fn words(&self) -> String {
        let words = self.way.words();
        if !self.through_wax {
            return words.to_owned();
        }
        let mut rest = words.chars();
        let first = rest.next().into_iter().flat_map(char::to_lowercase).collect::<String>();
        format!("Remove the wax, then {first}{}", rest.as_str())
    }
}

/// A change to the layers of a strip.
#[derive(Debug, Clone, PartialEq)]
pub enum LayerChange {
    /// Adds a layer, below another or on top.
    Put(Layer, Option<LayerId>),
    /// Replaces the layer with the same id.
    Instead(Layer),
    /// Removes a layer.
    Take(LayerId),
}

/// Greatest number of remedies shown.
const TOLD: usize = 4;

/// Least improvement, ΔE00 or L*.
const HELPS: f64 = 0.8;

/// Greatest change of the field, ΔE00; beyond it is another finish.
const ANOTHER: f64 = 25.0;

impl Defect {
    /// All defects, in the order in which they are offered.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `too-dark` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// Name, as a painter says it.
    pub const fn name(self) -> &'static str {
        match self {
            Defect::TooDark => "Too dark",
            Defect::TooBright => "Too bright",
            Defect::JumpsOut => "One part stands out",
            Defect::Dull => "Dull: lacks contrast",
            Defect::WashedOut => "The first coat looks washed out",
            Defect::Lifted => "The layer below lifted",
            Defect::Cracked => "Cracks, runs or blobs",
        }
    }

    /// What to do before adding any layer.
    pub const fn first(self) -> &'static str {
        match self {
            Defect::TooDark => {
                "First stand back and look at it in the light of its room. Fresh wax can still be lifted."
            }
            Defect::TooBright => {
                "Keep separate brushes for colours that must not mix. Swap a colour that is too strong for a greyer one."
            }
            Defect::JumpsOut => "A thin layer over everything mutes it all. Use less than you think.",
            Defect::Dull => "Build contrast in steps, not all at once.",
            Defect::WashedOut => "Let it dry first: the first coat never shows the true colour.",
            Defect::Lifted => {
                "Let it dry hard, sand the edge of the damage flat, touch in the base, and seal before any wet layer."
            }
            Defect::Cracked => {
                "Let it dry hard, sand flat (wet or with extraction), then recoat thinly. Offload the brush first."
            }
        }
    }
}

fn in_daylight(seen: &ByPlace<Reflectance>) -> ByPlace<Lab> {
    ByPlace::from_fn(|place| lab(seen.at(place), Light::Daylight))
}

/// The last full coat of paint.
fn top_coat(layers: &[Layer]) -> Option<usize> {
    layers.iter().rposition(|layer| matches!(layer.technique, Technique::BrushedCoat | Technique::RolledCoat))
}

/// True if it brings water over a large part of what lies below.
fn is_wet(layer: &Layer) -> bool {
    use super::Family::{Blend, Glaze, Wash};
    !layer.muted && matches!(layer.technique.family(), Wash | Glaze | Blend)
}

/// Largest difference between two kinds of place, ΔE00.
fn contrast(seen: &ByPlace<Lab>) -> f64 {
    let off = |one, other| difference(*seen.at(one), *seen.at(other)).value();
    off(Place::Field, Place::Recess).max(off(Place::Field, Place::Edge)).max(off(Place::Recess, Place::Edge))
}

/// A strip with the tins and the hand available to mend it.
pub struct RemedySearch<'a, T> {
    /// The board.
    pub board: &'a Board,
    /// The strip to mend.
    pub letter: Letter,
    /// Tins on the shelf.
    pub shelf: &'a [OnShelf],
    /// Looks up a tin.
    pub tin: T,
    /// The painter's hand.
    pub hands: &'a LearnedHand,
}

/// A way that has not been tried yet.
pub(super) struct Candidate {
    way: Way,
    through_wax: bool,
    /// Layers of the strip afterwards.
    layers: Vec<Layer>,
    /// A new layer whose pot completes the sentence.
    named: Option<Layer>,
}

pub(super) fn candidate(way: Way, layers: Vec<Layer>) -> Candidate {
    Candidate { way, through_wax: false, layers, named: None }
}

impl<'a, T: Fn(PaintId) -> Option<KnownTin<'a>>> RemedySearch<'_, T> {
    /// Remedies, most helpful first.
    pub fn ways(&self, trouble: Defect) -> Result<Vec<Remedy>, BadPaint> {
        let layers = self.layers();
        let before = in_daylight(&self.seen(&layers)?);
        let mut ways = Vec::new();
        for candidate in self.thoughts(trouble, &layers, &before) {
            let mended = candidate.layers.clone();
            let way = self.way(&layers, candidate)?;
            let after = in_daylight(&way.after);
            let helps = self.better(trouble, (&layers, &before), (&mended, &after));
            if helps >= HELPS && difference(after.field, before.field).value() < ANOTHER {
                ways.push((way, helps));
            }
        }
        ways.sort_by(|one, other| other.1.total_cmp(&one.1));
        // Of one action with several tins only the best is shown.
        let mut offered: Vec<Remedy> = Vec::new();
        for (way, _) in ways {
            if offered.iter().all(|other| other.way != way.way) {
                offered.push(way);
            }
        }
        offered.truncate(TOLD);
        Ok(offered)
    }

    /// Improvement of one strip over another for a defect, ΔE00 or L*.
    fn better(
        &self,
        trouble: Defect,
        (was, before): (&[Layer], &ByPlace<Lab>),
        (is, after): (&[Layer], &ByPlace<Lab>),
    ) -> f64 {
        let mean = |of: &dyn Fn(&Lab) -> f64, seen: &ByPlace<Lab>| {
            Place::ALL.iter().map(|place| of(seen.at(*place))).sum::<f64>() / 3.0
        };
        let gain = |of: &dyn Fn(&Lab) -> f64| mean(of, after) - mean(of, before);
        let cured = |cured: bool| if cured { HELPS } else { 0.0 };
        match trouble {
            Defect::TooDark => gain(&|lab| lab.l),
            Defect::TooBright => -gain(&|lab| lab.chroma()),
            Defect::JumpsOut => contrast(before) - contrast(after),
            Defect::Dull => contrast(after) - contrast(before),
            Defect::WashedOut => {
                let own = top_coat(was).and_then(|n| was[n].stirred(&self.tin));
                own.map_or(0.0, |own| {
                    let own = own.seen_lab(Light::Daylight);
                    difference(before.field, own).value() - difference(after.field, own).value()
                })
            }
            Defect::Lifted => cured(self.dissolving(is) < self.dissolving(was)),
            Defect::Cracked => {
                let thinner = |layer: &Layer| {
                    let now = is.iter().find(|other| other.id == layer.id);
                    now.is_some_and(|now| now.hand.load.value() < layer.hand.load.value())
                };
                cured(was.iter().any(thinner))
            }
        }
    }

    /// Number of wet layers that reach something their water dissolves.
    fn dissolving(&self, layers: &[Layer]) -> usize {
        let seals = |layer: &&Layer| super::document::seals(&layer.inside(&self.tin));
        let lies = |layer: &&Layer| !layer.muted && !layer.technique.takes_away();
        let wet = layers.iter().enumerate().filter(|(_, layer)| is_wet(layer));
        wet.filter(|(n, _)| !layers[..*n].iter().rfind(lies).is_some_and(|below| seals(&below))).count()
    }

    pub(super) fn layers(&self) -> Vec<Layer> {
        self.board.layers(self.letter).into_iter().cloned().collect()
    }

    /// Tries a remedy.
    pub(super) fn way(&self, before: &[Layer], candidate: Candidate) -> Result<Remedy, BadPaint> {
        let Candidate { way, through_wax, layers, named } = candidate;
        let after = self.seen(&layers)?;
        Ok(Remedy { way, through_wax, pot: named, changes: changes(before, &layers), after })
    }

    fn seen(&self, layers: &[Layer]) -> Result<ByPlace<Reflectance>, BadPaint> {
        let alone = self.board.with_layers(self.letter, layers.to_vec());
        let stack: Stack = alone.stack(self.letter, &self.tin, |technique| self.hands.habit(technique))?;
        Ok(ByPlace::from_fn(|place| stack.seen(place, stack.len(), FilmState::Dry).from_afar()))
    }

    fn thoughts(&self, trouble: Defect, layers: &[Layer], seen: &ByPlace<Lab>) -> Vec<Candidate> {
        match trouble {
            Defect::TooDark => self.lighter(layers, seen),
            Defect::TooBright => self.calmer(layers),
            Defect::JumpsOut => self.together(layers, seen),
            Defect::Dull => self.livelier(layers, seen),
            Defect::WashedOut => self.again(layers),
            Defect::Lifted => self.sealed(layers),
            Defect::Cracked => self.starting_over(layers),
        }
    }

    fn lighter(&self, layers: &[Layer], seen: &ByPlace<Lab>) -> Vec<Candidate> {
        let mut of = Vec::new();
        for (n, layer) in layers.iter().enumerate() {
            let wiped = layer.technique.is_wiped() && !layer.muted;
            let darkens =
                layer.stirred(&self.tin).is_some_and(|pot| pot.seen_lab(Light::Daylight).l < seen.field.l);
            if !wiped || !darkens {
                continue;
            }
            let wax = layer.technique == Technique::TintedWax;
            let mut mended = layers.to_vec();
            mended[n].hand.wipe = super::Share::of(layer.hand.wipe.value().max(0.5) + 0.35);
            of.push(if wax { candidate(Way::LiftWax, mended) } else { candidate(Way::WipeBack, mended) });
        }
        for pale in self.paints(|lab| lab.l > seen.field.l + SHADE) {
            of.extend(self.on_top(
                layers,
                Technique::WashPatted,
                pale,
                Some((Class::Water, 1)),
                Way::PaleWash,
            ));
            of.extend(self.on_top(layers, Technique::DryBrush, pale, None, Way::PaleDryBrush));
        }
        of
    }

    fn calmer(&self, layers: &[Layer]) -> Vec<Candidate> {
        let base = layers.iter().find(|layer| !layer.pot.is_empty() && !layer.technique.takes_away());
        let mut of = Vec::new();
        if let Some(base) = base {
            let mut dusted = Layer::new(Technique::DryBrush, base.pot.clone());
            dusted.mix = base.mix;
            of.push(self.laid(layers, dusted, Way::DustBaseColour));
        }
        for calm in self.paints(|lab| lab.chroma() < 12.0) {
            of.extend(self.on_top(
                layers,
                Technique::WashPatted,
                calm,
                Some((Class::Water, 1)),
                Way::GreyWash,
            ));
            of.extend(self.on_top(
                layers,
                Technique::GlazeWiped,
                calm,
                Some((Class::GlazingLiquid, 4)),
                Way::QuietGlaze,
            ));
        }
        of
    }

    fn together(&self, layers: &[Layer], seen: &ByPlace<Lab>) -> Vec<Candidate> {
        let mut of = Vec::new();
        for near in self.paints(|lab| difference(*lab, seen.field).value() < 25.0) {
            of.extend(self.on_top(
                layers,
                Technique::WashPatted,
                near,
                Some((Class::Water, 1)),
                Way::WashOverAll,
            ));
            of.extend(self.on_top(
                layers,
                Technique::GlazeStippled,
                near,
                Some((Class::GlazingLiquid, 4)),
                Way::GlazeOverAll,
            ));
        }
        for metal in self.shelf.iter().filter(|tin| tin.class == Class::Metallic) {
            of.extend(self.on_top(
                layers,
                Technique::MetallicWash,
                metal.paint,
                Some((Class::Water, 2)),
                Way::MetallicWash,
            ));
        }
        of
    }

    fn livelier(&self, layers: &[Layer], seen: &ByPlace<Lab>) -> Vec<Candidate> {
        let mut of = Vec::new();
        for light in self.paints(|lab| lab.l > seen.field.l + 2.0 * SHADE) {
            of.extend(self.on_top(layers, Technique::DryBrush, light, None, Way::DryBrushDetail));
        }
        for deep in self.paints(|lab| lab.l < seen.field.l - 3.0 * SHADE) {
            of.extend(self.on_top(
                layers,
                Technique::GlazeWiped,
                deep,
                Some((Class::GlazingLiquid, 4)),
                Way::GlazeRecesses,
            ));
        }
        let hue = |lab: &Lab| {
            (lab.a - seen.field.a).hypot(lab.b - seen.field.b) > 15.0 && (lab.l - seen.field.l).abs() < 15.0
        };
        for other in self.paints(hue) {
            of.extend(self.on_top(layers, Technique::DryBrush, other, None, Way::DryBrushNearbyHue));
        }
        of
    }

    fn again(&self, layers: &[Layer]) -> Vec<Candidate> {
        let Some(n) = top_coat(layers) else { return Vec::new() };
        let more = layers[n].hand.passes.value() + 1;
        let Ok(passes) = super::Passes::new(more) else { return Vec::new() };
        let mut mended = layers.to_vec();
        mended[n].hand.passes = passes;
        vec![candidate(Way::AnotherCoat, mended)]
    }

    fn sealed(&self, layers: &[Layer]) -> Vec<Candidate> {
        let Some(n) = layers.iter().rposition(is_wet) else { return Vec::new() };
        let (mut sealed, mut waxed) = (layers.to_vec(), layers.to_vec());
        sealed.insert(n, Layer::new(Technique::ClearCoat, Vec::new()));
        let mut of = vec![candidate(Way::Seal, sealed)];
        let colour = layers[n]
            .pot
            .iter()
            .find(|part| (self.tin)(part.paint).is_some_and(|tin| tin.class.makes_colours()));
        let wax = self.shelf.iter().find(|tin| tin.class == Class::ClearWax);
        if let (Some(colour), Some(wax), Ok(nine)) = (colour, wax, WholeParts::new(9)) {
            let pot = vec![*colour, MixPart { paint: wax.paint, parts: nine }];
            waxed[n] = Layer { id: layers[n].id, ..Layer::new(Technique::TintedWax, pot) };
            of.push(candidate(Way::WaxTheColour, waxed));
        }
        of
    }

    fn starting_over(&self, layers: &[Layer]) -> Vec<Candidate> {
        let heavy =
            |layer: &&Layer| layer.hand.load.value() > 1.0 || layer.technique == Technique::TextureCoat;
        let at = layers.iter().rposition(|layer| heavy(&layer)).or_else(|| layers.len().checked_sub(1));
        let Some(n) = at.filter(|n| !layers[*n].technique.takes_away()) else { return Vec::new() };
        let mut mended = layers.to_vec();
        let hand = &mut mended[n].hand;
        let Ok(load) = super::Load::new((hand.load.value().min(1.0) / 2.0).max(super::Load::LEAST)) else {
            return Vec::new();
        };
        hand.load = load;
        hand.passes = super::Passes::new(hand.passes.value() + 1).unwrap_or(hand.passes);
        vec![candidate(Way::ThinCoatsAfterSanding, mended)]
    }

    /// Paints of a kind of colour, at most five, spread from dark to light.
    fn paints(&self, of: impl Fn(&Lab) -> bool) -> Vec<PaintId> {
        let right = |tin: &&OnShelf| tin.class.makes_water_based_colours() && of(&tin.lab);
        let mut tins: Vec<&OnShelf> = self.shelf.iter().filter(right).collect();
        tins.sort_by(|one, other| one.lab.l.total_cmp(&other.lab.l));
        let step = tins.len().div_ceil(5).max(1);
        tins.into_iter().step_by(step).map(|tin| tin.paint).collect()
    }

    /// A layer on top of one paint, with or without a medium; `None` if the shelf has no such medium.
    fn on_top(
        &self,
        layers: &[Layer],
        technique: Technique,
        paint: PaintId,
        medium: Option<(Class, u32)>,
        way: Way,
    ) -> Option<Candidate> {
        let layer = thinned(self.shelf, technique, paint, medium)?;
        Some(Candidate { named: Some(layer.clone()), ..self.laid(layers, layer, way) })
    }

    /// A new layer of paint on top. Only wax sticks to wax, so wax comes off first and goes on again.
    fn laid(&self, layers: &[Layer], layer: Layer, way: Way) -> Candidate {
        let wax = below_the_wax(layers, &self.tin);
        let mut laid = layers.to_vec();
        laid.insert(wax.unwrap_or(layers.len()), layer);
        Candidate { through_wax: wax.is_some(), ..candidate(way, laid) }
    }
}

/// Changes from one strip to another: layers that are gone or moved are taken out first.
fn changes(before: &[Layer], after: &[Layer]) -> Vec<LayerChange> {
    let ids = |layers: &[Layer], but: Option<LayerId>| -> Vec<LayerId> {
        layers.iter().map(|layer| layer.id).filter(|id| Some(*id) != but).collect()
    };
    let (old, new) = (ids(before, None), ids(after, None));
    let stays: Vec<LayerId> = old.iter().copied().filter(|id| new.contains(id)).collect();
    let kept: Vec<LayerId> = new.iter().copied().filter(|id| old.contains(id)).collect();
    // At most one layer was moved: the one without which the order is the same.
    let moved = (stays != kept)
        .then(|| {
            let but = |ids: &[LayerId], but: LayerId| {
                ids.iter().copied().filter(|id| *id != but).collect::<Vec<_>>()
            };
            stays.iter().copied().find(|id| but(&stays, *id) == but(&kept, *id))
        })
        .flatten();
    let gone =
        old.iter().copied().filter(|id| !new.contains(id) || Some(*id) == moved).map(LayerChange::Take);
    let known = |id: LayerId| before.iter().find(|layer| layer.id == id && Some(id) != moved);
    let put = after.iter().enumerate().filter_map(|(n, layer)| match known(layer.id) {
        None => Some(LayerChange::Put(layer.clone(), after.get(n + 1).map(|above| above.id))),
        Some(old) if old != layer => Some(LayerChange::Instead(layer.clone())),
        Some(_) => None,
    });
    gone.chain(put).collect()
}
