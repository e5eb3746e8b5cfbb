//! Where the trade disagrees: the same strip as another school would do it.
//!
//! None is right or wrong (common practice†): each leaves a different film, allows a different working time and forgives
//! more or less. Its look is computed, and the rules of the trade are applied to it.

use warm_blend_paint::{BadPaint, Class, MixPart, PaintId, WholeParts};

use super::{Dispute, KnownTin, Layer, Load, Remedy, RemedySearch, Technique, Way, remedies::candidate};

/// A dispute and its answers.
#[derive(Debug, Clone, PartialEq)]
pub struct School {
    /// What is disputed.
    pub dispute: Dispute,
    /// Answers other than this strip's.
    pub ways: Vec<Remedy>,
}

/// Another school's way, and the layers of a strip as it applies them.
pub type AnotherWay = (Way, Vec<Layer>);

/// Load of coats that are meant to be rubbed through†.
const THIN: f64 = 0.6;

/// Ways of other schools that apply to these layers. `class` looks up the class of a tin, `of_class` a tin of a class.
pub fn other_ways(
    layers: &[Layer],
    class: impl Fn(PaintId) -> Option<Class>,
    of_class: impl Fn(Class) -> Option<PaintId>,
) -> Vec<AnotherWay> {
    [
        blending(layers),
        recesses(layers, class, of_class),
        clear_wax_first(layers),
        sealing(layers),
        distress(layers),
        coats(layers),
    ]
    .concat()
}

impl<'a, T: Fn(PaintId) -> Option<KnownTin<'a>>> RemedySearch<'_, T> {
    /// Ways of other schools that apply to this strip, and how each would look.
    pub fn schools(&self) -> Result<Vec<School>, BadPaint> {
        let layers = self.layers();
        let of_class = |class| self.shelf.iter().find(|tin| tin.class == class).map(|tin| tin.paint);
        let mut schools: Vec<School> = Vec::new();
        for (way, changed) in other_ways(&layers, |paint| (self.tin)(paint).map(|tin| tin.class), of_class) {
            let Some(dispute) = way.answers() else { continue };
            let tried = self.way(&layers, candidate(way, changed))?;
            match schools.last_mut().filter(|school| school.dispute == dispute) {
                Some(school) => school.ways.push(tried),
                None => schools.push(School { dispute, ways: vec![tried] }),
            }
        }
        Ok(schools)
    }
}

fn recesses(
    layers: &[Layer],
    class: impl Fn(PaintId) -> Option<Class>,
    of_class: impl Fn(Class) -> Option<PaintId>,
) -> Vec<AnotherWay> {
    let Some(at) =
        find(layers, |technique| matches!(technique, Technique::GlazeWiped | Technique::TintedWax))
    else {
        return Vec::new();
    };
    let bare = (Way::PlainRecesses, without(layers, at));
    let paint = layers[at].pot.iter().find(|part| class(part.paint).is_some_and(Class::makes_colours));
    let (technique, medium, parts, way) = match layers[at].technique {
        Technique::GlazeWiped => (Technique::TintedWax, Class::ClearWax, 9, Way::WaxRecesses),
        _ => (Technique::GlazeWiped, Class::GlazingLiquid, 4, Way::GlazeForWax),
    };
    let pot = paint.zip(of_class(medium)).zip(WholeParts::new(parts).ok());
    let swapped = pot.map(|((paint, medium), parts)| {
        let pot = vec![*paint, MixPart { paint: medium, parts }];
        let layers =
            instead(layers, at, |layer| Layer { id: layer.id, ..Layer::new(technique, pot.clone()) });
        (way, layers)
    });
    swapped.into_iter().chain([bare]).collect()
}

fn find(layers: &[Layer], of: impl Fn(Technique) -> bool) -> Option<usize> {
    layers.iter().rposition(|layer| !layer.muted && of(layer.technique))
}

fn instead(layers: &[Layer], at: usize, change: impl Fn(&Layer) -> Layer) -> Vec<Layer> {
    let mut layers = layers.to_vec();
    layers[at] = change(&layers[at]);
    layers
}

fn without(layers: &[Layer], at: usize) -> Vec<Layer> {
    let mut layers = layers.to_vec();
    layers.remove(at);
    layers
}

fn blending(layers: &[Layer]) -> Vec<AnotherWay> {
    let at = find(layers, |technique| matches!(technique, Technique::WetBlend | Technique::MeshedGlaze));
    let other = |at: usize| {
        let (technique, way) = match layers[at].technique {
            Technique::WetBlend => (Technique::MeshedGlaze, Way::BlendInGlaze),
            _ => (Technique::WetBlend, Way::BlendWithMister),
        };
        (way, instead(layers, at, |layer| Layer { technique, print: None, ..layer.clone() }))
    };
    at.map(other).into_iter().collect()
}

fn clear_wax_first(layers: &[Layer]) -> Vec<AnotherWay> {
    let Some(at) = find(layers, |technique| technique == Technique::TintedWax) else { return Vec::new() };
    let below = at.checked_sub(1).filter(|below| layers[*below].technique == Technique::ClearWax);
    vec![match below {
        Some(below) => (Way::DarkWaxDirect, without(layers, below)),
        None => {
            let mut with = layers.to_vec();
            with.insert(at, Layer::new(Technique::ClearWax, Vec::new()));
            (Way::ClearWaxFirst, with)
        }
    }]
}

fn sealing(layers: &[Layer]) -> Vec<AnotherWay> {
    let Some(at) = layers.len().checked_sub(1) else { return Vec::new() };
    let (technique, way) = match layers[at].technique {
        Technique::ClearWax => (Technique::ClearCoat, Way::ClearCoatForWax),
        Technique::ClearCoat => (Technique::ClearWax, Way::WaxForClearCoat),
        _ => return Vec::new(),
    };
    let swapped = instead(layers, at, |layer| Layer {
        technique,
        pot: Vec::new(),
        mix: None,
        print: None,
        ..layer.clone()
    });
    vec![(way, swapped)]
}

fn distress(layers: &[Layer]) -> Vec<AnotherWay> {
    let glaze = find(layers, |technique| technique.family() == super::Family::Glaze);
    let Some((glaze, wear)) = glaze.zip(find(layers, Technique::wears_through)) else { return Vec::new() };
    let mut moved = layers.to_vec();
    let worn = moved.remove(wear);
    // Without the wear, the glaze moves below it if the wear was above, and above it if the wear was below.
    moved.insert(glaze, worn);
    let way = if wear > glaze { Way::DistressBeforeGlaze } else { Way::DistressAfterGlaze };
    vec![(way, moved)]
}

fn coats(layers: &[Layer]) -> Vec<AnotherWay> {
    let is_coat = |layer: &Layer| matches!(layer.technique, Technique::BrushedCoat | Technique::RolledCoat);
    let worn = layers.iter().any(|layer| layer.technique.wears_through());
    let Some(last) = layers.iter().rposition(is_coat).filter(|_| worn) else { return Vec::new() };
    let thin = layers[last].hand.load.value() < 0.8;
    let (load, way) = if thin { (1.0, Way::FullCoats) } else { (THIN, Way::ThinCoats) };
    let Ok(load) = Load::new(load) else { return Vec::new() };
    let mended = instead(layers, last, |layer| {
        let mut layer = layer.clone();
        layer.hand.load = load;
        layer
    });
    vec![(way, mended)]
}
