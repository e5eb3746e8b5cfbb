//! Where the trade disagrees: the same strip as another school would do it.
//!
//! None is right or wrong (common practice†): each leaves a different film, allows a different working time and forgives
//! more or less. Its look is computed, and the rules of the trade are applied to it.

use warm_blend_paint::{BadPaint, Class, MixPart, PaintId, WholeParts};

use super::{KnownTin, Layer, Load, Remedy, RemedySearch, Technique, remedies::candidate};

/// A question that painters answer differently.
#[derive(Debug, Clone, PartialEq)]
pub struct School {
    /// The question.
    pub question: &'static str,
    /// Answers other than this strip's.
    pub ways: Vec<Remedy>,
}

/// Layers of a strip as another school applies them.
#[derive(Debug, Clone, PartialEq)]
pub struct AnotherWay {
    /// The question it answers.
    pub question: &'static str,
    /// The answer.
    pub words: &'static str,
    /// For and against.
    pub why: &'static str,
    /// The resulting layers.
    pub layers: Vec<Layer>,
}

/// Load of coats that are meant to be rubbed through†.
const THIN: f64 = 0.6;

/// Ways of other schools that apply to these layers. `class` looks up the class of a tin, `of_class` a tin of a class.
pub fn other_ways(
    layers: &[Layer],
    class: impl Fn(PaintId) -> Option<Class>,
    of_class: impl Fn(Class) -> Option<PaintId>,
) -> Vec<AnotherWay> {
    let asked = [
        ("How do two colours meet?", blending(layers)),
        ("What goes in the recesses?", recesses(layers, class, of_class)),
        ("Dark wax direct, or clear wax first?", clear_wax_first(layers)),
        ("Wax or clear coat on top?", sealing(layers)),
        ("Distress before or after the glaze?", distress(layers)),
        ("Full coats, or thin ones to rub back?", coats(layers)),
    ];
    let of = |(question, ways): (&'static str, Vec<Way>)| {
        ways.into_iter().map(move |(words, why, layers)| AnotherWay { question, words, why, layers })
    };
    asked.into_iter().flat_map(of).collect()
}

impl<'a, T: Fn(PaintId) -> Option<KnownTin<'a>>> RemedySearch<'_, T> {
    /// Ways of other schools that apply to this strip, and how each would look.
    pub fn schools(&self) -> Result<Vec<School>, BadPaint> {
        let layers = self.layers();
        let of_class = |class| self.shelf.iter().find(|tin| tin.class == class).map(|tin| tin.paint);
        let mut schools: Vec<School> = Vec::new();
        for other in other_ways(&layers, |paint| (self.tin)(paint).map(|tin| tin.class), of_class) {
            let way = self.way(&layers, candidate(other.words, other.why, other.layers))?;
            match schools.last_mut().filter(|school| school.question == other.question) {
                Some(school) => school.ways.push(way),
                None => schools.push(School { question: other.question, ways: vec![way] }),
            }
        }
        Ok(schools)
    }
}

/// Answer, reason, and resulting layers.
type Way = (&'static str, &'static str, Vec<Layer>);

fn recesses(
    layers: &[Layer],
    class: impl Fn(PaintId) -> Option<Class>,
    of_class: impl Fn(Class) -> Option<PaintId>,
) -> Vec<Way> {
    let Some(at) =
        find(layers, |technique| matches!(technique, Technique::GlazeWiped | Technique::TintedWax))
    else {
        return Vec::new();
    };
    let bare: Way = (
        "Neither: leave the colour plain",
        "nothing to go wrong, but no depth: only shadow shows the carving",
        without(layers, at),
    );
    let paint = layers[at].pot.iter().find(|part| class(part.paint).is_some_and(Class::makes_colours));
    let (technique, medium, parts, words, why) = match layers[at].technique {
        Technique::GlazeWiped => (
            Technique::TintedWax,
            Class::ClearWax,
            9,
            "Dark wax instead of glaze",
            "stays workable, and clear wax lifts it; paint won’t stick over it",
        ),
        _ => (
            Technique::GlazeWiped,
            Class::GlazingLiquid,
            4,
            "Glaze instead of wax",
            "workable for about 10 min, then permanent; paint and clear coat stick over it",
        ),
    };
    let pot = paint.zip(of_class(medium)).zip(WholeParts::new(parts).ok());
    let swapped = pot.map(|((paint, medium), parts)| -> Way {
        let pot = vec![*paint, MixPart { paint: medium, parts }];
        let layers =
            instead(layers, at, |layer| Layer { id: layer.id, ..Layer::new(technique, pot.clone()) });
        (words, why, layers)
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

fn blending(layers: &[Layer]) -> Vec<Way> {
    let at = find(layers, |technique| matches!(technique, Technique::WetBlend | Technique::MeshedGlaze));
    let way = |at: usize| {
        let (technique, words, why) = match layers[at].technique {
            Technique::WetBlend => (
                Technique::MeshedGlaze,
                "Blend them in clear glaze",
                "thinner film, long open time; more clear glaze re-opens a section; dries overnight",
            ),
            _ => (
                Technique::WetBlend,
                "Keep them wet with a mister",
                "thicker film, dries at once: quick for small areas, but drags as it dries",
            ),
        };
        (words, why, instead(layers, at, |layer| Layer { technique, print: None, ..layer.clone() }))
    };
    at.map(way).into_iter().collect()
}

fn clear_wax_first(layers: &[Layer]) -> Vec<Way> {
    let Some(at) = find(layers, |technique| technique == Technique::TintedWax) else { return Vec::new() };
    let below = at.checked_sub(1).filter(|below| layers[*below].technique == Technique::ClearWax);
    vec![match below {
        Some(below) => {
            ("Dark wax direct", "darker, and permanent on bare chalk-type paint", without(layers, below))
        }
        None => {
            let mut with = layers.to_vec();
            with.insert(at, Layer::new(Technique::ClearWax, Vec::new()));
            ("Clear wax first", "forgiving: a little clear wax lifts the dark wax off", with)
        }
    }]
}

fn sealing(layers: &[Layer]) -> Vec<Way> {
    let Some(at) = layers.len().checked_sub(1) else { return Vec::new() };
    let (technique, words, why) = match layers[at].technique {
        Technique::ClearWax => (
            Technique::ClearCoat,
            "Clear coat instead of wax",
            "hard and wipeable; looks like a film, and must never go over wax",
        ),
        Technique::ClearCoat => (
            Technique::ClearWax,
            "Wax instead of clear coat",
            "soft, buffed feel; needs renewing, and only wax goes over it",
        ),
        _ => return Vec::new(),
    };
    let swapped = instead(layers, at, |layer| Layer {
        technique,
        pot: Vec::new(),
        mix: None,
        print: None,
        ..layer.clone()
    });
    vec![(words, why, swapped)]
}

fn distress(layers: &[Layer]) -> Vec<Way> {
    let glaze = find(layers, |technique| technique.family() == super::Family::Glaze);
    let Some((glaze, wear)) = glaze.zip(find(layers, Technique::wears_through)) else { return Vec::new() };
    let mut moved = layers.to_vec();
    let worn = moved.remove(wear);
    // Without the wear, the glaze moves below it if the wear was above, and above it if the wear was below.
    moved.insert(glaze, worn);
    let (words, why) = if wear > glaze {
        ("Distress before the glaze", "the glaze tones the bare wood too: older, quieter edges")
    } else {
        ("Distress after the glaze", "bare edges stay fresh and sharp; 320 grit is enough")
    };
    vec![(words, why, moved)]
}

fn coats(layers: &[Layer]) -> Vec<Way> {
    let is_coat = |layer: &Layer| matches!(layer.technique, Technique::BrushedCoat | Technique::RolledCoat);
    let worn = layers.iter().any(|layer| layer.technique.wears_through());
    let Some(last) = layers.iter().rposition(is_coat).filter(|_| worn) else { return Vec::new() };
    let thin = layers[last].hand.load.value() < 0.8;
    let (load, words, why) = if thin {
        (1.0, "Full coats", "crisp and even, but more to rub off where you want it worn")
    } else {
        (THIN, "Thin coats, to rub back", "less to rub off later, but the ground shows a little all over")
    };
    let Ok(load) = Load::new(load) else { return Vec::new() };
    let mended = instead(layers, last, |layer| {
        let mut layer = layer.clone();
        layer.hand.load = load;
        layer
    });
    vec![(words, why, mended)]
}
