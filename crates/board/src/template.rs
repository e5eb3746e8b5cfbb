//! Finishes to start from, filled from the painter's own shelf.

use warm_blend_bench::SHADE;
use warm_blend_paint::{Class, Component, PaintId, WholeParts};
use warm_blend_spectral::Lab;

use super::{Hand, Layer, Load, Passes, Technique};

/// A finish by the name of its technique.
#[derive(Debug, Clone, Copy)]
pub struct Template {
    /// `aged` …
    pub id: &'static str,
    /// `Glazed, dry-brushed and rubbed` …
    pub name: &'static str,
    /// What it is good for.
    pub note: &'static str,
    steps: &'static [Step],
}

#[derive(Debug, Clone, Copy)]
struct Step {
    technique: Technique,
    colour: Option<Role>,
    /// Parts to one part of paint.
    medium: Option<(Class, u32)>,
    passes: u8,
    load: f64,
}

/// What a colour is for, told by how it stands to the main one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Role {
    Main,
    /// Three to four shades deeper, of a like hue.
    Deeper,
    /// Two to three shades lighter, of a like hue.
    Lighter,
    /// The deepest of the shelf.
    Deepest,
    /// The lightest.
    Lightest,
    /// A metallic.
    Metal,
}

/// A tin that a template may take.
#[derive(Debug, Clone, Copy)]
pub struct OnShelf {
    /// Which tin.
    pub paint: PaintId,
    /// What kind of product.
    pub class: Class,
    /// Its masstone in daylight.
    pub lab: Lab,
    /// What is left, ml.
    pub left: f64,
}

/// What the shelf lacks.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("there is no {0} on the shelf: add it first, or start from another finish")]
pub struct Lacks(String);

const fn put(technique: Technique, colour: Role) -> Step {
    Step { technique, colour: Some(colour), medium: None, passes: 1, load: 1.0 }
}

const fn with(technique: Technique, colour: Role, medium: Class, parts: u32) -> Step {
    Step { technique, colour: Some(colour), medium: Some((medium, parts)), passes: 1, load: 1.0 }
}

const fn alone(technique: Technique, load: f64) -> Step {
    Step { technique, colour: None, medium: None, passes: 1, load }
}

const fn coats(technique: Technique, colour: Role) -> Step {
    Step { technique, colour: Some(colour), medium: None, passes: 2, load: 1.0 }
}

/// A layer of a paint as it is, or of one part of it in so many of a medium; none where the shelf has no such medium.
pub fn thinned(
    shelf: &[OnShelf],
    technique: Technique,
    paint: PaintId,
    medium: Option<(Class, u32)>,
) -> Option<Layer> {
    let one = |paint, parts| Some(Component { paint, parts: WholeParts::new(parts).ok()? });
    let mut layer = Layer::new(technique, vec![one(paint, 1)?]);
    let Some((medium, parts)) = medium else { return Some(layer) };
    match shelf.iter().find(|tin| tin.class == medium) {
        Some(medium) => layer.pot.push(one(medium.paint, parts)?),
        // Water comes from the tap: without it in the list the film is so much thinner.
        None if medium == Class::Water => layer.hand.load = Load::new(1.0 / f64::from(1 + parts)).ok()?,
        None => return None,
    }
    Some(layer)
}

impl Template {
    /// The finishes to start from (common practice).
    pub const ALL: [Template; 7] = [
        Template {
            id: "aged",
            name: "Glazed, dry-brushed and rubbed",
            note: "Depth in the recesses, light on what stands out, the ground on the edges. For carved pieces.",
            steps: &[
                coats(Technique::BrushedCoat, Role::Main),
                with(Technique::GlazeWiped, Role::Deeper, Class::GlazingLiquid, 4),
                put(Technique::DryBrush, Role::Lighter),
                alone(Technique::SandBack, 0.5),
                alone(Technique::ClearWax, 1.0),
            ],
        },
        Template {
            id: "rubbed",
            name: "Rubbed through to a second colour",
            note: "A deep colour below, put there to come through on the edges.",
            steps: &[
                put(Technique::BrushedCoat, Role::Deepest),
                coats(Technique::BrushedCoat, Role::Main),
                alone(Technique::WetDistress, 0.7),
                alone(Technique::ClearWax, 1.0),
            ],
        },
        Template {
            id: "washed",
            name: "Washed with white",
            note: "Lightens and mutes what is below; brings parts together that fight.",
            steps: &[
                coats(Technique::BrushedCoat, Role::Main),
                with(Technique::WashPatted, Role::Lightest, Class::Water, 1),
                alone(Technique::ClearWax, 1.0),
            ],
        },
        Template {
            id: "dark-wax",
            name: "Clear wax, then dark wax",
            note: "Dark wax in the recesses; the clear wax below lets it be lifted again.",
            steps: &[
                coats(Technique::BrushedCoat, Role::Main),
                alone(Technique::ClearWax, 1.0),
                with(Technique::TintedWax, Role::Deepest, Class::ClearWax, 9),
            ],
        },
        Template {
            id: "stippled",
            name: "Stippled glaze",
            note: "A quiet depth over flats. The base is satin, so that the glaze can be moved.",
            steps: &[
                coats(Technique::RolledCoat, Role::Main),
                with(Technique::GlazeStippled, Role::Deeper, Class::GlazingLiquid, 4),
                alone(Technique::ClearCoat, 1.0),
            ],
        },
        Template {
            id: "ragged",
            name: "Ragged and softened glaze",
            note: "Livelier than stippling: clouds, with no edge that catches the eye.",
            steps: &[
                coats(Technique::RolledCoat, Role::Main),
                with(Technique::GlazeRaggedSoftened, Role::Deeper, Class::GlazingLiquid, 4),
                alone(Technique::ClearCoat, 1.0),
            ],
        },
        Template {
            id: "gilded",
            name: "Gilded edges",
            note: "Metal on high points and tips over quiet coats.",
            steps: &[
                coats(Technique::BrushedCoat, Role::Main),
                alone(Technique::ClearWax, 1.0),
                put(Technique::Gilding, Role::Metal),
            ],
        },
    ];

    /// By its id.
    pub fn find(id: &str) -> Option<&'static Template> {
        Self::ALL.iter().find(|template| template.id == id)
    }

    /// Its layers with tins of the shelf; `main` is the main colour, or else the paint there is most of.
    pub fn layers(&self, shelf: &[OnShelf], main: Option<PaintId>) -> Result<Vec<Layer>, Lacks> {
        let most = |tins: &mut dyn Iterator<Item = OnShelf>| tins.max_by(|a, b| a.left.total_cmp(&b.left));
        let paints =
            || shelf.iter().copied().filter(|tin| tin.class.makes_colours() && tin.class != Class::Metallic);
        let main = main
            .and_then(|main| paints().find(|tin| tin.paint == main))
            .or_else(|| most(&mut paints()))
            .ok_or_else(|| Lacks("paint".to_owned()))?;
        let nearest = |wanted: f64, hue_counts: f64| {
            let off = |tin: &OnShelf| {
                let turned = (tin.lab.a - main.lab.a).hypot(tin.lab.b - main.lab.b);
                (tin.lab.l - wanted).abs() + hue_counts * turned
            };
            let others = paints().filter(|tin| tin.paint != main.paint);
            others.min_by(|a, b| off(a).total_cmp(&off(b))).unwrap_or(main)
        };
        let tin = |role: Role| match role {
            Role::Main => Ok(main),
            Role::Deeper => Ok(nearest(main.lab.l - 3.5 * SHADE, 0.3)),
            Role::Lighter => Ok(nearest(main.lab.l + 2.5 * SHADE, 0.5)),
            Role::Deepest => Ok(nearest(0.0, 0.0)),
            Role::Lightest => Ok(nearest(100.0, 0.0)),
            Role::Metal => most(&mut shelf.iter().copied().filter(|tin| tin.class == Class::Metallic))
                .ok_or_else(|| Lacks(Class::Metallic.name().to_lowercase())),
        };
        self.steps
            .iter()
            .map(|step| {
                let mut load = step.load;
                let mut pot: Vec<(PaintId, u32)> = Vec::new();
                if let Some(role) = step.colour {
                    pot.push((tin(role)?.paint, 1));
                }
                if let Some((class, parts)) = step.medium {
                    match most(&mut shelf.iter().copied().filter(|tin| tin.class == class)) {
                        Some(medium) => pot.push((medium.paint, parts)),
                        // Water comes from the tap: without it in the list the film is so much thinner.
                        None if class == Class::Water => load /= f64::from(1 + parts),
                        None => return Err(Lacks(class.name().to_lowercase())),
                    }
                }
                let component =
                    |(paint, parts)| Some(Component { paint, parts: WholeParts::new(parts).ok()? });
                let usual = Hand::default();
                let hand = Hand {
                    passes: Passes::new(step.passes).unwrap_or(usual.passes),
                    load: Load::new(load).unwrap_or(usual.load),
                    ..usual
                };
                Ok(Layer {
                    hand,
                    ..Layer::new(step.technique, pot.into_iter().filter_map(component).collect())
                })
            })
            .collect()
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

    #[test]
    fn ids_are_found_once() {
        for template in &Template::ALL {
            assert_eq!(Template::find(template.id).unwrap().name, template.name);
            assert_eq!(Template::ALL.iter().filter(|other| other.id == template.id).count(), 1);
        }
    }
}
