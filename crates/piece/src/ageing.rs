//! Signs of age on a finish, and where they appear.
//!
//! | | where | effect |
//! |---|---|---|
//! | wear | on arrises, around handles | removes the finish down to the ground |
//! | grime | in recesses and corners, low down | thin dark film |
//! | water marks | downwards from the top | pale streaks |
//! | sun fade | high up, on flat surfaces | thin pale film |
//! | verdigris | where water collects: low, in recesses | green film |
//!
//! Places and greatest amounts are common practice†.

use std::sync::OnceLock;

use serde::{Deserialize, Serialize};
use warm_blend_board::{Below, ByPlace, Deposit, Ground, GroundKind, Layer, Place, Share, Stack, Technique};
use warm_blend_paint::{BadPaint, Class, CoatsToHide, FilmState, Masstone, Material, Microns, Parts, mix};
use warm_blend_spectral::{Reflectance, Srgb};

/// A coat that hides whatever is below it, µm wet.
const HIDES: f64 = 900.0;
/// In how many steps a film is shown.
const STEPS: usize = 8;

/// A sign of age.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Age {
    /// Rubbed through.
    Wear,
    /// Ingrained dirt.
    Grime,
    /// Lime left by water.
    WaterMarks,
    /// Bleached by the sun.
    SunFade,
    /// Copper green.
    Verdigris,
}

/// Amount of each sign of age, from 0 (none) to 1 (most).
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ageing {
    /// Edges rubbed through.
    pub wear: Share,
    /// Dirt in recesses and corners.
    pub grime: Share,
    /// Pale streaks from the top.
    pub water: Share,
    /// Bleached high up.
    pub fade: Share,
    /// Copper green, low down and in recesses.
    pub verdigris: Share,
}

impl Default for Ageing {
    fn default() -> Self {
        let none = Share::NONE;
        Self { wear: none, grime: none, water: none, fade: none, verdigris: none }
    }
}

struct Row {
    id: &'static str,
    name: &'static str,
    /// None of what takes away.
    colour: Option<Srgb>,
    /// µm where it lies.
    film: f64,
    /// Share of field, recess and edge at the most.
    cover: [f64; 3],
}

impl Age {
    /// In the order in which they arise: wear first, dirt last.
    pub const ALL: [Age; 5] = [Age::Wear, Age::SunFade, Age::WaterMarks, Age::Verdigris, Age::Grime];

    const fn row(self) -> Row {
        const fn row(
            id: &'static str,
            name: &'static str,
            [red, green, blue]: [u8; 3],
            film: f64,
            cover: [f64; 3],
        ) -> Row {
            Row { id, name, colour: Some(Srgb { red, green, blue }), film, cover }
        }
        match self {
            Age::Wear => Row { id: "wear", name: "Wear", colour: None, film: 0.0, cover: [0.05, 0.0, 0.7] },
            Age::Grime => row("grime", "Grime", [0x3a, 0x30, 0x28], 22.0, [0.35, 0.95, 0.08]),
            Age::WaterMarks => row("water", "Water marks", [0xd8, 0xd4, 0xca], 30.0, [0.3, 0.25, 0.15]),
            Age::SunFade => row("fade", "Sun fade", [0xde, 0xd8, 0xc8], 26.0, [0.85, 0.4, 0.9]),
            Age::Verdigris => row("verdigris", "Verdigris", [0x6f, 0xa5, 0x94], 40.0, [0.15, 0.75, 0.05]),
        }
    }

    /// `wear` …
    pub const fn id(self) -> &'static str {
        self.row().id
    }

    /// `Wear` …
    pub const fn name(self) -> &'static str {
        self.row().name
    }

    /// Film that this amount leaves, or share that it removes.
    pub fn print(self, amount: Share) -> Deposit {
        let Row { film, cover: [field, recess, edge], .. } = self.row();
        let cover = ByPlace { field, recess, edge };
        Deposit {
            film: ByPlace::all(Microns::of(film)),
            cover: ByPlace::from_fn(|place| Share::of(cover.at(place) * amount.value())),
        }
    }

    /// Adds this amount to a finish; false if it removes rather than adds.
    pub fn lay_on(self, stack: &mut Stack, amount: Share) -> bool {
        let Some(material) = self.material() else { return false };
        stack.lay(material.clone(), self.print(amount), Below::LIES, None);
        true
    }

    /// Look of an opaque coat without it, then under increasing amounts up to `most` times its usual film. Empty if it
    /// removes rather than adds.
    pub fn over(self, coat: &Material, most: f64) -> Result<Vec<Reflectance>, BadPaint> {
        let Some(material) = self.material() else { return Ok(Vec::new()) };
        let all_over = |microns: f64| Deposit {
            film: ByPlace::all(Microns::of(microns)),
            cover: ByPlace::all(Share::of(1.0)),
        };
        let under = |step: usize| {
            let mut stack = Stack::over(&Ground::of(GroundKind::PaleWood))?;
            stack.lay(coat.clone(), all_over(HIDES), Below::LIES, None);
            if step > 0 {
                let film = self.row().film * most * step as f64 / STEPS as f64;
                stack.lay(material.clone(), all_over(film), Below::LIES, None);
            }
            Ok(stack.seen(Place::Field, stack.len(), FilmState::Dry).from_afar())
        };
        (0..=STEPS).map(under).collect()
    }

    /// What it lays: one part of a colour in six of a clear medium; none of what takes away. Made when first asked for.
    fn material(self) -> Option<&'static Material> {
        static MADE: [OnceLock<Option<Material>>; Age::ALL.len()] =
            [const { OnceLock::new() }; Age::ALL.len()];
        let colour = self.row().colour?;
        let make = || {
            let coats = CoatsToHide::new(1.5).ok();
            let colour = Material::of(Class::Chalk, Some(Masstone::Hex(colour)), coats).ok()?;
            let medium = Material::of(Class::GlazingLiquid, None, None).ok()?;
            mix(&[(Parts::of(1.0), &colour), (Parts::of(6.0), &medium)]).ok()
        };
        MADE[self as usize].get_or_init(make).as_ref()
    }
}

impl Ageing {
    /// Amount of one sign.
    pub const fn amount(&self, age: Age) -> Share {
        match age {
            Age::Wear => self.wear,
            Age::Grime => self.grime,
            Age::WaterMarks => self.water,
            Age::SunFade => self.fade,
            Age::Verdigris => self.verdigris,
        }
    }

    /// Signs with an amount above zero.
    pub fn there(&self) -> impl Iterator<Item = (Age, Share)> {
        Age::ALL.into_iter().map(|age| (age, self.amount(age))).filter(|(_, amount)| amount.value() > 0.0)
    }

    /// The layer that represents wear, if any; it belongs below the wax.
    pub(super) fn worn(&self) -> Option<Layer> {
        (self.wear.value() > 0.0).then(|| Layer {
            print: Some(Age::Wear.print(self.wear)),
            ..Layer::new(Technique::SandBack, Vec::new())
        })
    }

    /// Adds the signs that leave a film, and returns them.
    pub(super) fn lay_on(&self, stack: &mut Stack) -> Vec<Age> {
        let mut laid = Vec::new();
        for (age, amount) in self.there() {
            if age.lay_on(stack, amount) {
                laid.push(age);
            }
        }
        laid
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_paint::Seen;
    use warm_blend_spectral::{Light, difference};

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]

        /// None of it is the coat itself; ever more of it goes ever further from the coat, towards the colour of what lies on it.
        #[test]
        fn more_of_it_is_further_from_the_coat(red in 20u8..240, green in 20u8..240, blue in 20u8..240) {
            let code = Masstone::Hex(Srgb { red, green, blue });
            let coat = Material::of(Class::Chalk, Some(code), CoatsToHide::new(1.5).ok()).unwrap();
            let lab = |seen: &Reflectance| Seen::of(seen, Light::Daylight).lab;
            for age in Age::ALL {
                let under: Vec<_> = age.over(&coat, 2.0).unwrap().iter().map(lab).collect();
                let Some(dirt) = age.row().colour else {
                    prop_assert!(under.is_empty());
                    continue;
                };
                prop_assert!(difference(under[0], coat.seen_lab(Light::Daylight)).value() < 0.6);
                let to_dirt = |seen: &warm_blend_spectral::Lab| {
                    let to = dirt.to_lab();
                    (seen.l - to.l).hypot(seen.a - to.a).hypot(seen.b - to.b)
                };
                // Where coat and dirt are one there is nowhere to go.
                prop_assume!(to_dirt(&under[0]) > 12.0);
                // The first film fills the coat's own surface, which deepens it; from there on it is the dirt that shows.
                prop_assert!(under[1..].windows(2).all(|two| to_dirt(&two[1]) < to_dirt(&two[0])), "{age:?} {under:?}");
                prop_assert!(to_dirt(&under[STEPS]) < to_dirt(&under[0]), "{age:?} {under:?}");
            }
        }
    }
}
