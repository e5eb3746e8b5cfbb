//! Usual mixtures (glazes, washes, waxes …): making a pot into one, and the films that it leaves over a ground.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Place, Technique};
use warm_blend_documents::{Documents, Kept, Revision};
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::{MixtureKind, Preset, warnings};
use warm_blend_paint::{
    BadMix, Class, Colour, Condition, FilmState, Look, Material, Millilitres, MixPart, Name, PaintId,
    SavedMix, Seen, Verdict, nearest_whole,
};

use crate::{Checks, MixEntry, Refusal, ShelfSnapshot, Term};

/// A usual mixture.
#[derive(Debug, Serialize, ToSchema)]
pub struct PresetChoice {
    /// `wall-glaze` …
    pub id: &'static str,
    /// `Glaze, 4 to 1` …
    pub name: &'static str,
    /// A note for the painter.
    pub note: &'static str,
    /// Mediums that it needs and the shelf lacks.
    pub missing: Vec<MissingMedium>,
}

/// A medium that the shelf lacks.
#[derive(Debug, Serialize, ToSchema)]
pub struct MissingMedium {
    /// Its class.
    pub class: &'static str,
    /// Its name.
    pub name: &'static str,
}

impl MissingMedium {
    pub(crate) fn of(class: Class) -> Self {
        Self { class: class.id(), name: class.name() }
    }
}

/// A pot to be made into a mixture.
#[derive(Debug, Deserialize, ToSchema)]
pub struct MadeInto {
    /// Contents.
    pub components: Vec<MixPart>,
    /// Id of the mixture; if absent, mediums are removed.
    pub preset: Option<String>,
}

/// The mixture that a saved mix is to be made into.
#[derive(Debug, Deserialize, ToSchema)]
pub struct MixtureWanted {
    /// Id of the mixture.
    pub preset: String,
}

/// A pot and the ground below it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FilmOf {
    /// Contents.
    pub components: Vec<MixPart>,
    /// Ground as a paint of the shelf.
    pub on_paint: Option<Uuid>,
    /// Ground as a colour.
    pub on_colour: Option<Colour>,
}

/// Films of a pot over a ground.
#[derive(Debug, Serialize, ToSchema)]
pub struct FilmsSeen {
    /// Kind of mixture: `glaze, stippled`.
    pub kind: &'static str,
    /// The term that explains it.
    pub term: Option<Term>,
    /// Colour of the bare ground.
    pub ground: String,
    /// Films on field, recess and edge.
    pub films: Vec<FilmSeen>,
    /// Problems and remedies.
    pub warnings: Vec<PotWarning>,
}

/// A film at one place.
#[derive(Debug, Serialize, ToSchema)]
pub struct FilmSeen {
    /// `field`, `recess` or `edge`.
    pub place: &'static str,
    /// Wet thickness, µm.
    pub wet_um: f64,
    /// Colour.
    pub hex: String,
    /// Change of the ground: `a little darker than the ground`.
    pub words: String,
    /// ΔE00.
    pub difference: f64,
}

/// A problem with a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotWarning {
    /// True if it will fail, false if it needs care.
    pub fails: bool,
    /// Problem, reason and remedy.
    pub words: &'static str,
}

/// A new tin of a medium.
pub fn medium(class: Class) -> Result<ShelfPaint, Refusal> {
    let name = Name::new(&class.name().to_lowercase()).map_err(|error| Refusal::field("/preset", error))?;
    Ok(ShelfPaint::new(name, class, None))
}

/// Mediums that most finishes need (common practice).
const USUAL_MEDIUMS: [Class; 5] =
    [Class::GlazingLiquid, Class::Extender, Class::Water, Class::ClearCoat, Class::ClearWax];

/// A mixture to be made, known to be possible.
#[derive(Debug)]
pub struct Making {
    paints: Vec<MixPart>,
    preset: Option<Preset>,
}

impl ShelfSnapshot {
    /// The tin of a medium: the fullest in good condition.
    pub fn fullest(&self, class: Class) -> Option<Uuid> {
        let left = |tin: &&Kept<ShelfPaint>| tin.value.stock.map_or(0.0, Millilitres::value);
        self.tins()
            .filter(|tin| tin.value.class == class && tin.value.condition != Condition::Off)
            .max_by(|a, b| left(a).total_cmp(&left(b)))
            .map(|tin| tin.id)
    }

    /// The usual mixtures, with the mediums that the shelf lacks.
    pub fn presets(&self) -> Vec<PresetChoice> {
        let missing = |(class, _): &&(Class, u32)| self.fullest(*class).is_none();
        let medium = |(class, _): &(Class, u32)| MissingMedium::of(*class);
        let choice = |preset: &Preset| PresetChoice {
            id: preset.id,
            name: preset.name,
            note: preset.note,
            missing: preset.mediums.iter().filter(missing).map(medium).collect(),
        };
        Preset::ALL.iter().map(choice).collect()
    }

    /// Checks that a pot can be made into a mixture.
    pub fn making(&self, components: &[MixPart], preset: Option<&str>) -> Result<Making, Refusal> {
        let is_paint = |part: &&MixPart| self.tin(part.paint.0).is_ok_and(|tin| !tin.value.class.is_medium());
        let paints: Vec<MixPart> = components.iter().filter(is_paint).copied().collect();
        if paints.is_empty() {
            return Err(Refusal::field("/components", "no paint in the pot; add one first"));
        }
        let known = preset.map(|id| Preset::find(id).ok_or(id)).transpose();
        let preset = known.map_err(|id| {
            let ids = Preset::ALL.map(|preset| preset.id).join(", ");
            Refusal::field("/preset", format!("“{id}” is not a standard mixture; use one of {ids}"))
        })?;
        let most = paints.len() + preset.as_ref().map_or(0, |preset| preset.mediums.len());
        if most > SavedMix::MOST {
            return Err(Refusal::field("/components", BadMix::TooMany(most)));
        }
        Ok(Making { paints, preset })
    }

    /// Makes a pot into a glaze, a wash, a wax …: its paints keep their ratio, and its mediums are replaced.
    pub fn made_into(&self, wanted: &MadeInto) -> Result<Vec<MixPart>, Refusal> {
        let making = self.making(&wanted.components, wanted.preset.as_deref())?;
        let found = making.mediums().map(|class| {
            self.fullest(class).ok_or_else(|| {
                let name = class.name().to_lowercase();
                Refusal::field("/preset", format!("no {name} on the shelf; add it first"))
            })
        });
        let mediums = found.collect::<Result<_, _>>()?;
        Ok(making.made(mediums))
    }

    /// Films of a pot over a ground at three places of a carved surface, by this painter's hand.
    pub fn film(&self, of: &FilmOf, look: Look) -> Result<FilmsSeen, Refusal> {
        let ground = self.ground_of(of)?;
        let pot = self.pot("/components", &of.components)?.best().in_state(look.state);
        let bare = Seen::of(&ground.swatch_reflectance(), look.light);
        let below = ground.optics.thick();
        let class = |part: &MixPart| {
            let class = self.tin(part.paint.0).ok()?.value.class;
            Some((class, f64::from(part.parts.value())))
        };
        let classes: Vec<(Class, f64)> = of.components.iter().filter_map(class).collect();
        let kind = MixtureKind::of(&classes);
        let technique = Technique::usual_for(kind);
        let films = self.hands().habit(technique).print(&technique.usual()).film;
        let seen = |place: Place| {
            let wet = *films.at(place);
            let seen = Seen::of(&pot.film(wet, &below), look.light);
            let verdict = Verdict::against(seen.lab, bare.lab, "the ground");
            FilmSeen {
                place: place.id(),
                wet_um: wet.value(),
                hex: seen.screen.srgb.to_string(),
                difference: verdict.difference.value(),
                words: verdict.words(),
            }
        };
        Ok(FilmsSeen {
            kind: kind.name(),
            term: Term::of(kind),
            ground: bare.screen.srgb.to_string(),
            films: Place::ALL.map(seen).into(),
            warnings: warnings(&classes)
                .into_iter()
                .map(|warning| PotWarning { fails: warning.fails, words: warning.words })
                .collect(),
        })
    }

    fn ground_of(&self, of: &FilmOf) -> Result<Material, Refusal> {
        let mut checks = Checks::default();
        let colour = of.on_colour.as_ref().map(|colour| checks.colour("/on_colour", colour));
        checks.done(Some(()))?;
        match (of.on_paint, colour.flatten()) {
            (Some(paint), None) => Ok(self.on_shelf_at("/on_paint", paint)?.best().in_state(FilmState::Dry)),
            (None, Some(colour)) => Material::of(Class::LatexSatin, Some(colour), None)
                .map_err(|error| Refusal::field("/on_colour", error)),
            _ => Err(Refusal::field("/on_paint", "set the surface once: a paint or a colour")),
        }
    }
}

impl Making {
    /// Classes of the mediums it needs.
    pub fn mediums(&self) -> impl Iterator<Item = Class> {
        self.preset.iter().flat_map(|preset| preset.mediums.iter().map(|(class, _)| *class))
    }

    /// Contents with these tins as mediums.
    pub fn made(&self, mediums: Vec<Uuid>) -> Vec<MixPart> {
        let Some(preset) = &self.preset else {
            return MixPart::gathered(self.paints.iter().map(|part| (part.paint, part.parts.value())));
        };
        let parts: Vec<u32> = self.paints.iter().map(|part| part.parts.value()).collect();
        // The nearest ratio, if one part would exceed 999.
        let amounts: Vec<f64> = preset.parts(&parts).into_iter().map(f64::from).collect();
        let paints = self.paints.iter().map(|part| part.paint).chain(mediums.into_iter().map(PaintId));
        paints.zip(nearest_whole(&amounts)).map(|(paint, parts)| MixPart { paint, parts }).collect()
    }
}

impl ShelfSnapshot {
    /// Makes a saved mix of a given revision into a usual mixture, adding mediums that the shelf lacks.
    pub fn make_mix_into<D: Documents, E: From<D::Error> + From<Refusal>>(
        &self,
        documents: &mut D,
        (id, seen): (Uuid, Revision),
        wanted: &MixtureWanted,
    ) -> Result<Kept<SavedMix>, E> {
        let mix = documents.get::<SavedMix>(id)?;
        let making = self.making(mix.value.components(), Some(&wanted.preset))?;
        let mut mediums = Vec::new();
        for class in making.mediums() {
            mediums.push(match self.fullest(class) {
                Some(tin) => tin,
                None => documents.make(medium(class)?)?.id,
            });
        }
        let made = MixEntry::from(&mix.value).with_components(making.made(mediums)).parse()?;
        Ok(documents.change(id, seen, made)?)
    }

    /// Adds the usual mediums that the shelf lacks, and returns them.
    pub fn add_usual_mediums<D: Documents, E: From<D::Error> + From<Refusal>>(
        &self,
        documents: &mut D,
    ) -> Result<Vec<Kept<ShelfPaint>>, E> {
        let missing = USUAL_MEDIUMS.into_iter().filter(|class| self.fullest(*class).is_none());
        missing.map(|class| Ok(documents.make(medium(class)?)?)).collect()
    }
}
