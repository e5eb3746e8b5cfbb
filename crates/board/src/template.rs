//! Ready finishes, filled from the painter's own shelf.

use warm_blend_mixing::SHADE;
use warm_blend_paint::{Class, MixPart, PaintId, WholeParts};
use warm_blend_spectral::Lab;

use super::{
    Application, Branch, Family, Layer, Letter, Load, Passes, Share, Strip, Technique, TextureDepth,
};

mod finishes;

/// A ready finish, named after its techniques.
#[derive(Debug, Clone, Copy)]
pub struct Template {
    /// `aged` …
    pub id: &'static str,
    /// `Glazed, dry-brushed and rubbed` …
    pub name: &'static str,
    /// What it looks like.
    pub note: &'static str,
    /// What it suits.
    pub suits: &'static str,
    /// Skill it takes.
    pub skill: Skill,
    /// Kind of main colour, if the painter names none.
    tone: Tone,
    /// Steps that all strips share, from the ground up.
    shared: &'static [Step],
    /// Further steps of each strip, starting with A; empty for a single strip.
    ends: &'static [&'static [Step]],
}

/// Skill that a finish takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Skill {
    /// Forgiving.
    Easy,
    /// Try it on a board first.
    Practice,
    /// Quick to set, or hard to undo.
    SureHand,
}

/// Kind of main colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Tone {
    /// Pale, but not white.
    Light,
    /// Half-way.
    Middle,
    /// Dark.
    Dark,
    /// The most vivid on the shelf.
    Strong,
}

impl Skill {
    /// `easy` …
    pub const fn words(self) -> &'static str {
        match self {
            Skill::Easy => "easy",
            Skill::Practice => "needs some practice",
            Skill::SureHand => "needs a steady hand",
        }
    }
}

/// A ready finish filled with tins of a shelf.
#[derive(Debug, Clone, PartialEq)]
pub struct Filled {
    /// Layers that all strips share, from the ground up.
    pub shared: Vec<Layer>,
    /// Further layers of each strip; at least one strip, possibly without any.
    pub ends: Vec<Vec<Layer>>,
}

impl Filled {
    /// Converts it to strips of a board, beginning with A.
    pub fn strips(self) -> Vec<Strip> {
        let Self { shared, ends } = self;
        let after = shared.len();
        let mut shared = Some(shared);
        let strips = Letter::ALL.into_iter().zip(ends).map(|(letter, end)| match shared.take() {
            Some(shared) => Strip { letter, from: None, layers: shared.into_iter().chain(end).collect() },
            None => {
                let from = (after > 0).then_some(Branch { strip: Letter::ALL[0], after });
                Strip { letter, from, layers: end }
            }
        });
        strips.collect()
    }
}

#[derive(Debug, Clone, Copy)]
struct Step {
    technique: Technique,
    colour: Option<Role>,
    /// Medium, and its parts to one part of paint.
    medium: Option<(Class, u32)>,
    passes: u8,
    load: f64,
    /// Pressure when wiping, if it is wiped: 0 none, ½ usual, 1 as hard as possible.
    wipe: f64,
    /// Texture, µm, if rougher than usual.
    texture: Option<f64>,
}

/// Role of a colour, relative to the main one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Role {
    Main,
    /// Three to four shades deeper, of a similar hue.
    Deeper,
    /// Two to three shades lighter, of a similar hue.
    Lighter,
    /// The deepest on the shelf.
    Deepest,
    /// The lightest.
    Lightest,
    /// Dark and warm, like grime.
    Earth,
    /// Of another hue, similarly light and muted.
    Cousin,
    /// The most vivid of another hue.
    Bold,
    /// A metallic.
    Metal,
}

/// A tin that a ready finish may use.
#[derive(Debug, Clone, Copy)]
pub struct OnShelf {
    /// The tin.
    pub paint: PaintId,
    /// Class of product.
    pub class: Class,
    /// Its masstone in daylight.
    pub lab: Lab,
    /// Amount left, ml.
    pub left: f64,
}

/// What the shelf lacks for a finish.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("no {0} on the shelf; add one, or choose another finish")]
pub struct Lacks(String, Option<Class>);

impl Lacks {
    /// The medium that is missing, if it is one.
    pub const fn medium(&self) -> Option<Class> {
        self.1
    }

    fn product(class: Class) -> Self {
        Self(class.name().to_lowercase(), Some(class).filter(|class| class.is_medium()))
    }
}

/// A step without a pot.
const fn alone(technique: Technique) -> Step {
    Step { technique, colour: None, medium: None, passes: 1, load: 1.0, wipe: 0.5, texture: None }
}

/// A step with a pure colour.
const fn put(technique: Technique, colour: Role) -> Step {
    Step { colour: Some(colour), ..alone(technique) }
}

impl Step {
    /// The step with the colour in this many parts of a medium.
    const fn in_parts(self, medium: Class, parts: u32) -> Self {
        Self { medium: Some((medium, parts)), ..self }
    }

    const fn times(self, passes: u8) -> Self {
        Self { passes, ..self }
    }

    const fn wiped(self, wipe: f64) -> Self {
        Self { wipe, ..self }
    }

    const fn load(self, load: f64) -> Self {
        Self { load, ..self }
    }

    /// The step left rough, µm from tip to hollow.
    const fn rough(self, texture: f64) -> Self {
        Self { texture: Some(texture), ..self }
    }
}

/// A layer of paint, pure or as one part in so many of a medium; `None` if the shelf has no such medium.
pub fn thinned(
    shelf: &[OnShelf],
    technique: Technique,
    paint: PaintId,
    medium: Option<(Class, u32)>,
) -> Option<Layer> {
    let one = |paint, parts| Some(MixPart { paint, parts: WholeParts::new(parts).ok()? });
    let mut layer = Layer::new(technique, vec![one(paint, 1)?]);
    let Some((medium, parts)) = medium else { return Some(layer) };
    match shelf.iter().find(|tin| tin.class == medium) {
        Some(medium) => layer.pot.push(one(medium.paint, parts)?),
        // Water comes from the tap: if it is not in the list, the film is correspondingly thinner.
        None if medium == Class::Water => layer.hand.load = Load::new(1.0 / f64::from(1 + parts)).ok()?,
        None => return None,
    }
    Some(layer)
}

impl Template {
    /// Finds a finish by its id.
    pub fn find(id: &str) -> Option<&'static Template> {
        Self::ALL.iter().find(|template| template.id == id)
    }

    /// Layers of its first strip from tins of the shelf. `main` is the main colour; by default, a paint that suits the
    /// finish.
    pub fn layers(&self, shelf: &[OnShelf], main: Option<PaintId>) -> Result<Vec<Layer>, Lacks> {
        let Filled { mut shared, ends } = self.filled(shelf, main)?;
        shared.extend(ends.into_iter().next().unwrap_or_default());
        Ok(shared)
    }

    /// The whole finish from tins of the shelf.
    pub fn filled(&self, shelf: &[OnShelf], main: Option<PaintId>) -> Result<Filled, Lacks> {
        let cast = Cast::of(shelf, main, self.tone)?;
        let layers = |steps: &[Step]| steps.iter().map(|step| cast.layer(step)).collect::<Result<_, _>>();
        let ends = match self.ends {
            [] => vec![Vec::new()],
            ends => ends.iter().map(|steps| layers(steps)).collect::<Result<_, _>>()?,
        };
        let mut shared = layers(self.shared)?;
        wear_to_the_colour_below(&mut shared);
        Ok(Filled { shared, ends })
    }
}

/// Wears down to an earlier colour that is meant to show, rather than to the ground.
fn wear_to_the_colour_below(layers: &mut [Layer]) {
    for at in 0..layers.len() {
        let (below, rest) = layers.split_at_mut(at);
        let coats = || below.iter().filter(|layer| layer.technique.family() == Family::Coat);
        let top = coats().next_back().map(|top| &top.pot);
        let hidden = coats().rfind(|layer| Some(&layer.pot) != top);
        if let (true, Some(hidden)) = (rest[0].technique.wears_through(), hidden) {
            rest[0].down_to = Some(hidden.id);
        }
    }
}

/// Tins of a shelf in their roles.
struct Cast<'a> {
    shelf: &'a [OnShelf],
    main: OnShelf,
}

fn most(tins: impl Iterator<Item = OnShelf>) -> Option<OnShelf> {
    tins.max_by(|a, b| a.left.total_cmp(&b.left))
}

fn paints(shelf: &[OnShelf]) -> impl Iterator<Item = OnShelf> {
    shelf.iter().copied().filter(|tin| tin.class.makes_water_based_colours())
}

fn chroma(tin: &OnShelf) -> f64 {
    tin.lab.a.hypot(tin.lab.b)
}

/// Difference of two colours in hue and chroma alone.
fn turned(one: &OnShelf, other: &OnShelf) -> f64 {
    (one.lab.a - other.lab.a).hypot(one.lab.b - other.lab.b)
}

impl<'a> Cast<'a> {
    fn of(shelf: &'a [OnShelf], main: Option<PaintId>, tone: Tone) -> Result<Self, Lacks> {
        let suits = |tin: &OnShelf| match tone {
            Tone::Light => (tin.lab.l - 80.0).abs(),
            Tone::Middle => (tin.lab.l - 58.0).abs(),
            Tone::Dark => (tin.lab.l - 35.0).abs(),
            Tone::Strong => -chroma(tin),
        };
        let main = main
            .and_then(|main| paints(shelf).find(|tin| tin.paint == main))
            .or_else(|| paints(shelf).min_by(|a, b| suits(a).total_cmp(&suits(b))))
            .ok_or_else(|| Lacks("paint".to_owned(), None))?;
        Ok(Self { shelf, main })
    }

    /// The other paint with the least `off`, or the main one if there is no other. Clay-type paint comes last, because
    /// water lifts it again.
    fn least(&self, off: impl Fn(&OnShelf) -> f64) -> OnShelf {
        let lifts = |tin: &OnShelf| tin.class == Class::Clay;
        let others = paints(self.shelf).filter(|tin| tin.paint != self.main.paint);
        let least = others.min_by(|a, b| lifts(a).cmp(&lifts(b)).then(off(a).total_cmp(&off(b))));
        least.unwrap_or(self.main)
    }

    /// The paint nearest to a lightness, with this weight on its difference in hue from the main one.
    fn nearest(&self, lightness: f64, by_hue: f64) -> OnShelf {
        self.least(|tin| (tin.lab.l - lightness).abs() + by_hue * turned(tin, &self.main))
    }

    fn tin(&self, role: Role) -> Result<OnShelf, Lacks> {
        let l = self.main.lab.l;
        Ok(match role {
            Role::Main => self.main,
            Role::Deeper => self.nearest(l - 3.5 * SHADE, 0.3),
            Role::Lighter => self.nearest(l + 2.5 * SHADE, 0.5),
            Role::Deepest => self.nearest(0.0, 0.0),
            Role::Lightest => self.nearest(100.0, 0.0),
            Role::Earth => self.least(|tin| {
                (tin.lab.l - 25.0).abs() + (8.0 - tin.lab.b).max(0.0) + (chroma(tin) - 15.0).max(0.0)
            }),
            Role::Cousin => self
                .least(|tin| (tin.lab.l - l).abs() - turned(tin, &self.main).min(40.0) + 0.3 * chroma(tin)),
            Role::Bold => self.least(|tin| -turned(tin, &self.main) - 0.5 * chroma(tin)),
            Role::Metal => most(self.shelf.iter().copied().filter(|tin| tin.class == Class::Metallic))
                .ok_or_else(|| Lacks::product(Class::Metallic))?,
        })
    }

    fn layer(&self, step: &Step) -> Result<Layer, Lacks> {
        let mut load = step.load;
        let mut pot: Vec<(PaintId, u32)> = Vec::new();
        if let Some(role) = step.colour {
            pot.push((self.tin(role)?.paint, 1));
        }
        if let Some((class, parts)) = step.medium {
            match most(self.shelf.iter().copied().filter(|tin| tin.class == class)) {
                Some(medium) => pot.push((medium.paint, parts)),
                // Water comes from the tap: if it is not in the list, the film is correspondingly thinner.
                None if class == Class::Water => load /= f64::from(1 + parts),
                None => return Err(Lacks::product(class)),
            }
        }
        let component = |(paint, parts)| Some(MixPart { paint, parts: WholeParts::new(parts).ok()? });
        let usual = Application::default();
        let hand = Application {
            passes: Passes::new(step.passes).unwrap_or(usual.passes),
            load: Load::new(load).unwrap_or(usual.load),
            wipe: Share::new(step.wipe).unwrap_or(usual.wipe),
            grit: None,
            texture: step.texture.and_then(|texture| TextureDepth::new(texture).ok()),
        };
        Ok(Layer { hand, ..Layer::new(step.technique, pot.into_iter().filter_map(component).collect()) })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use uuid::Uuid;

    fn tin(n: u128, class: Class, l: f64, left: f64) -> OnShelf {
        OnShelf { paint: PaintId(Uuid::from_u128(n)), class, lab: Lab { l, a: 0.0, b: 8.0 }, left }
    }

    #[test]
    fn colours_are_chosen_by_how_they_stand_to_the_main_one() {
        let shelf = [
            tin(1, Class::Chalk, 60.0, 900.0),
            tin(2, Class::Chalk, 40.0, 100.0),
            tin(3, Class::Chalk, 74.0, 100.0),
            tin(4, Class::Chalk, 15.0, 100.0),
            tin(5, Class::GlazingLiquid, 90.0, 10.0),
        ];
        let layers = Template::ALL[0].layers(&shelf, None).unwrap();
        let first = |layer: &Layer| layer.pot.first().map(|part| part.paint.0.as_u128());
        assert_eq!(layers.iter().map(first).collect::<Vec<_>>(), [Some(1), Some(2), Some(3), None, None]);
        let dark = Template::find("dark-wax").unwrap().layers(&shelf, Some(shelf[2].paint));
        assert!(dark.unwrap_err().to_string().contains("clear wax"));
        assert!(Template::ALL[0].layers(&[], None).is_err());
    }

    /// Grime is dark and warm, never the strongest red; a clay-type paint is the last to help, and a main colour that nobody named
    /// suits the finish.
    #[test]
    fn roles_are_cast_as_a_painter_would() {
        let of = |n, class, l, a, b| OnShelf { lab: Lab { l, a, b }, ..tin(n, class, l, 100.0) };
        let shelf = [
            of(1, Class::Chalk, 82.0, 0.0, 6.0),
            of(2, Class::Chalk, 22.0, 30.0, 14.0),
            of(3, Class::Chalk, 27.0, 6.0, 9.0),
            of(4, Class::Chalk, 21.0, 2.0, -16.0),
            of(5, Class::Clay, 61.0, 1.0, 4.0),
            of(6, Class::Chalk, 64.0, -4.0, 12.0),
            of(7, Class::Metallic, 60.0, 5.0, 30.0),
        ];
        let named = |tin: OnShelf| tin.paint.0.as_u128();
        let cast = |tone| Cast::of(&shelf, None, tone).unwrap();
        assert_eq!(named(cast(Tone::Light).main), 1);
        assert_eq!(named(cast(Tone::Strong).main), 2, "flakes are no colour");
        let light = cast(Tone::Light);
        assert_eq!(named(light.tin(Role::Earth).unwrap()), 3);
        assert_eq!(named(light.tin(Role::Deeper).unwrap()), 6, "the clay-type one would be nearer");
        assert_eq!(named(light.tin(Role::Metal).unwrap()), 7);
        assert!(matches!(Cast::of(&shelf[6..], None, Tone::Light), Err(Lacks(..))));
    }

    /// A shelf with one of everything fills every finish; each is a board that can be painted.
    #[test]
    fn every_finish_is_a_board() {
        let colours = [
            (60.0, -8.0, -12.0),
            (40.0, 3.0, 8.0),
            (74.0, 0.0, 14.0),
            (15.0, 1.0, 2.0),
            (93.0, 0.0, 4.0),
            (38.0, 40.0, 22.0),
        ];
        let paints = colours.iter().zip(1u128..).map(|((l, a, b), n)| OnShelf {
            lab: Lab { l: *l, a: *a, b: *b },
            ..tin(n, Class::Chalk, *l, 100.0 * n as f64)
        });
        let mediums = [
            Class::GlazingLiquid,
            Class::ClearWax,
            Class::ClearCoat,
            Class::Pearl,
            Class::Scumble,
            Class::Water,
            Class::Metallic,
        ];
        let mediums = mediums.into_iter().zip(20u128..).map(|(class, n)| tin(n, class, 70.0, 50.0));
        let shelf: Vec<OnShelf> = paints.chain(mediums).collect();
        for template in &Template::ALL {
            let filled = template.filled(&shelf, Some(shelf[0].paint)).unwrap();
            let several = filled.ends.len();
            let strips = filled.strips();
            assert_eq!(strips.len(), several);
            let name = warm_blend_paint::Name::new(template.name).unwrap();
            let board =
                crate::Board::new(name, crate::Ground::of(crate::GroundKind::RedStain), strips).unwrap();
            let first: Vec<Technique> =
                board.layers(Letter::ALL[0]).iter().map(|layer| layer.technique).collect();
            let alone: Vec<Technique> = template
                .layers(&shelf, Some(shelf[0].paint))
                .unwrap()
                .iter()
                .map(|layer| layer.technique)
                .collect();
            assert_eq!(first, alone);
            assert!(first.len() > 1 && !template.suits.is_empty(), "{}", template.id);
        }
    }

    #[test]
    fn ids_are_found_once() {
        for template in &Template::ALL {
            assert_eq!(Template::find(template.id).unwrap().name, template.name);
            assert_eq!(Template::ALL.iter().filter(|other| other.id == template.id).count(), 1);
        }
    }
}
