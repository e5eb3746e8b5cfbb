//! A piece as it is kept.

use std::collections::BTreeMap;
use std::fmt::Display;

use jiff::civil::Date;
use serde::de::{Error, IntoDeserializer};
use serde::{Deserialize, Deserializer, Serialize};
use uuid::Uuid;
use warm_blend_board::{Ground, GroundKind, Layer};
use warm_blend_paint::{Masstone, MixPart, Name, Note, PaintId, replace_paint};
use warm_blend_spectral::Light;

use super::{
    BadForm, Carving, Elevation, Extent, Finish, Form, Intent, Meeting, Stencil, Windows, Zone, ZoneFinish,
};

/// Most schemes of a piece.
pub const SCHEMES: usize = 4;

/// Most treatments over a scheme.
pub const OVERS: usize = 8;

/// What the client wants.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Brief {
    /// For whom.
    #[serde(skip_serializing_if = "Option::is_none", deserialize_with = "unless_blank")]
    pub client: Option<Name>,
    /// Worn, stately but tired, soft …: in the client's words.
    #[serde(skip_serializing_if = "Option::is_none", deserialize_with = "unless_blank")]
    pub mood: Option<Note>,
    /// Colours to aim at, at most eight.
    pub targets: Vec<Masstone>,
    /// A photo of what it should be like, brought to `/api/photos/kept`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub photo: Option<Uuid>,
    /// What it may cost, in the workshop's money.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub budget: Option<f64>,
    /// Hours it may take.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub hours: Option<f64>,
    /// The day it is to be done, `2026-12-01`.
    #[serde(skip_serializing_if = "Option::is_none", deserialize_with = "day")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub due: Option<Date>,
    /// The lights of the room it goes to, the main one first.
    pub lights: Vec<Light>,
}

/// What the painter measured where the drawing is not the piece.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AreaCorrection {
    /// m²; as drawn if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub area: Option<f64>,
    /// Edges, m; as drawn if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub edge: Option<f64>,
    /// How carved it is; as drawn if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub carved: Option<Carving>,
}

/// A thin layer over zones that are already dressed: a wash, a glaze, a wax that brings them together.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Over {
    /// The layer.
    pub layer: Layer,
    /// Where; everywhere if empty.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Vec<String>))]
    pub zones: Vec<Zone>,
}

/// How far apart a pair of zones should be.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PairIntent {
    /// A zone.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub one: Zone,
    /// Another.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub other: Zone,
    /// `quiet`, `layered` or `bold`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub intent: Intent,
}

/// One way to dress a piece.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Scheme {
    /// What the painter calls it.
    pub name: Name,
    /// What each zone wears; what is not named is bare, but for sides: see [`Scheme::dress`].
    #[serde(default, deserialize_with = "by_zone")]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, ZoneFinish>))]
    pub wears: BTreeMap<Zone, ZoneFinish>,
    /// What lies over all or some of them, the first lowest.
    #[serde(default)]
    pub over: Vec<Over>,
    /// `quiet`, `layered` or `bold`: how far apart neighbours should be.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = String, example = "quiet", required))]
    pub intent: Intent,
    /// Of pairs that should be otherwise.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub pairs: Vec<PairIntent>,
}

/// The piece of furniture at hand.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Piece {
    /// What it is called on every screen.
    pub name: Name,
    /// What the client wants.
    #[serde(default)]
    pub brief: Brief,
    /// What it is, where that was said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub form: Option<Form>,
    /// What it is made of.
    #[serde(default = "red_stain")]
    #[cfg_attr(feature = "schema", schema(required))]
    pub ground: Ground,
    /// Zones as they were measured, where the drawing is not the piece.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty", deserialize_with = "by_zone")]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, AreaCorrection>))]
    pub corrections: BTreeMap<Zone, AreaCorrection>,
    /// One to four ways to dress it; a piece that was never dressed has none.
    #[serde(default)]
    pub schemes: Vec<Scheme>,
    /// Which of them is the one, from 0.
    #[serde(default)]
    pub chosen: usize,
    /// How far apart is meant by quiet, layered and bold.
    #[serde(default)]
    pub windows: Windows,
}

/// Something of each zone. What stands at one is shown with its name where it is wrong: readers lose track of a key that is no text.
fn by_zone<'de, T: Deserialize<'de>, D: Deserializer<'de>>(from: D) -> Result<BTreeMap<Zone, T>, D::Error> {
    let named = BTreeMap::<String, T>::deserialize(from)?;
    named.into_iter().map(|(zone, of)| Ok((Zone::deserialize(zone.into_deserializer())?, of))).collect()
}

/// What is written; nothing of a blank.
fn written<'de, D: Deserializer<'de>>(from: D) -> Result<Option<String>, D::Error> {
    Ok(Option::<String>::deserialize(from)?.filter(|text| !text.trim().is_empty()))
}

fn unless_blank<'de, T: TryFrom<String, Error: Display>, D: Deserializer<'de>>(
    from: D,
) -> Result<Option<T>, D::Error> {
    written(from)?.map(T::try_from).transpose().map_err(D::Error::custom)
}

fn day<'de, D: Deserializer<'de>>(from: D) -> Result<Option<Date>, D::Error> {
    let day = written(from)?.map(|text| text.trim().parse()).transpose();
    day.map_err(|_| D::Error::custom("not a valid date; use 2026-12-01"))
}

fn red_stain() -> Ground {
    Ground::of(GroundKind::RedStain)
}

/// A piece that cannot be.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{message}")]
pub struct BadPiece {
    /// Where: a JSON pointer.
    pub pointer: String,
    /// What is wrong, and what would do.
    pub message: String,
}

impl BadPiece {
    fn at(pointer: impl Into<String>, message: impl ToString) -> Self {
        Self { pointer: pointer.into(), message: message.to_string() }
    }
}

impl Brief {
    fn check(&self) -> Result<(), BadPiece> {
        for (what, value, most) in [("budget", self.budget, 1e9), ("hours", self.hours, 1e5)] {
            if let Some(value) = value.filter(|value| !(0.0..=most).contains(value)) {
                return Err(BadPiece::at(
                    format!("/brief/{what}"),
                    format!("{value} is out of range; use 0 to {most}"),
                ));
            }
        }
        if self.targets.len() > 8 || self.lights.len() > Light::ALL.len() {
            return Err(BadPiece::at("/brief/targets", "too many target colours; the most is 8"));
        }
        for (i, target) in self.targets.iter().enumerate() {
            target.reflectance().map_err(|error| BadPiece::at(format!("/brief/targets/{i}"), error))?;
        }
        Ok(())
    }
}

impl Scheme {
    fn check(&self, at: &str) -> Result<(), BadPiece> {
        if self.over.len() > OVERS {
            let words = format!("too many layers over everything ({}); the most is {OVERS}", self.over.len());
            return Err(BadPiece::at(format!("{at}/over"), words));
        }
        for (i, over) in self.over.iter().enumerate() {
            let film = over.layer.check_film();
            film.map_err(|error| BadPiece::at(format!("{at}/over/{i}/layer/print/film"), error))?;
        }
        for (zone, dress) in &self.wears {
            let at = |what| format!("{at}/wears/{}/{what}", zone.id());
            let ground = dress.ground.map_or(Ok(()), |ground| ground.seen().map(drop));
            ground.map_err(|error| BadPiece::at(at("ground/colour"), error))?;
            let stencil = dress.stencil.as_ref().map_or(Ok(()), Stencil::check);
            stencil.map_err(|error| BadPiece::at(at("stencil"), error))?;
        }
        Ok(())
    }

    /// The zone whose finish is carried round to one: sides of which nothing is said wear what the front does.
    pub fn carried(&self, zone: Zone) -> Option<Zone> {
        zone.carried_from().filter(|from| !self.wears.contains_key(&zone) && self.wears.contains_key(from))
    }

    /// What a zone wears: its own finish, or one that is carried round to it.
    pub fn dress(&self, zone: Zone) -> Option<&ZoneFinish> {
        self.wears.get(&self.carried(zone).unwrap_or(zone))
    }

    /// The pattern on a zone: it is not carried round.
    pub fn stencil(&self, zone: Zone) -> Option<&Stencil> {
        self.wears.get(&zone)?.stencil.as_ref()
    }

    /// All pots that it has beside those of its boards.
    fn pots(&self) -> impl Iterator<Item = &Vec<MixPart>> {
        self.wears.values().flat_map(ZoneFinish::pots).chain(self.over.iter().map(|over| &over.layer.pot))
    }
}

impl Over {
    /// True where it lies on a zone.
    pub fn is_on(&self, zone: Zone) -> bool {
        self.zones.is_empty() || self.zones.contains(&zone)
    }
}

impl Piece {
    /// One that has a name and nothing else yet.
    pub fn named(name: Name) -> Self {
        Self {
            name,
            brief: Brief::default(),
            form: None,
            ground: red_stain(),
            corrections: BTreeMap::new(),
            schemes: Vec::new(),
            chosen: 0,
            windows: Windows::default(),
        }
    }

    /// That it can be built, and that its schemes are in order: one that was read is as sound as one that was made only then.
    pub fn check(&self) -> Result<(), BadPiece> {
        if let Some(form) = &self.form {
            form.build().map_err(|error| BadPiece::at(format!("/form/{}", error.field), error))?;
        }
        self.ground.seen().map_err(|error| BadPiece::at("/ground/colour", error))?;
        for (zone, correction) in &self.corrections {
            for (what, value) in [("area", correction.area), ("edge", correction.edge)] {
                if let Some(value) = value.filter(|value| !(*value > 0.0 && *value <= 1000.0)) {
                    let words = format!(
                        "{value} is out of range; enter an {what} up to 1000, or leave blank to use the drawing"
                    );
                    return Err(BadPiece::at(format!("/corrections/{}/{what}", zone.id()), words));
                }
            }
        }
        let schemes = self.schemes.len();
        if schemes > SCHEMES {
            let words = format!("too many schemes ({schemes}); the most is {SCHEMES}; delete one first");
            return Err(BadPiece::at("/schemes", words));
        }
        if self.chosen >= schemes.max(1) {
            return Err(BadPiece::at("/chosen", "no such scheme; choose another"));
        }
        self.brief.check()?;
        self.windows.check().map_err(|error| BadPiece::at("/windows", error))?;
        let mut schemes = self.schemes.iter().enumerate();
        schemes.try_for_each(|(n, scheme)| scheme.check(&format!("/schemes/{n}")))
    }

    /// The scheme that counts.
    pub fn scheme(&self) -> Option<&Scheme> {
        self.schemes.get(self.chosen)
    }

    /// The piece in true proportion, carved as the painter says; `None` before its kind is chosen.
    pub fn elevation(&self) -> Option<Result<Elevation, BadForm>> {
        let mut built = self.form?.build();
        if let Ok(elevation) = &mut built {
            for (zone, correction) in &self.corrections {
                if let Some(carving) = correction.carved {
                    elevation.carve(*zone, carving);
                }
            }
        }
        Some(built)
    }

    /// How large each zone is: as measured, or as drawn.
    pub fn extents(&self, elevation: &Elevation) -> BTreeMap<Zone, Extent> {
        let mut extents = elevation.extents();
        for (zone, extent) in &mut extents {
            let measured = self.corrections.get(zone).copied().unwrap_or_default();
            extent.area = measured.area.unwrap_or(extent.area);
            extent.edge = measured.edge.unwrap_or(extent.edge);
        }
        extents
    }

    /// Which painted zones meet.
    pub fn meetings(&self, elevation: &Elevation) -> Vec<Meeting> {
        let mut meetings = elevation.meetings();
        meetings.retain(|meeting| meeting.zones.0.is_painted() && meeting.zones.1.is_painted());
        meetings
    }

    /// The same piece with one tin in place of another.
    pub fn with_paint_replaced(mut self, gone: PaintId, kept: PaintId) -> Self {
        for scheme in &mut self.schemes {
            for dress in scheme.wears.values_mut() {
                match &mut dress.wears {
                    Finish::Paint { pot } => replace_paint(pot, gone, kept),
                    Finish::Blend { bands, .. } => {
                        bands.iter_mut().for_each(|band| replace_paint(&mut band.pot, gone, kept));
                    }
                    Finish::Bare | Finish::Strip { .. } => {}
                }
                dress.stencil.iter_mut().for_each(|stencil| replace_paint(&mut stencil.pot, gone, kept));
            }
            scheme.over.iter_mut().for_each(|over| replace_paint(&mut over.layer.pot, gone, kept));
        }
        self
    }

    /// The boards it wears.
    pub fn boards(&self) -> Vec<Uuid> {
        let dresses = self.schemes.iter().flat_map(|scheme| scheme.wears.values());
        let mut boards: Vec<Uuid> = dresses
            .filter_map(|dress| match &dress.wears {
                Finish::Strip { board, .. } => Some(*board),
                _ => None,
            })
            .collect();
        boards.sort_unstable();
        boards.dedup();
        boards
    }

    /// The tins it speaks of, apart from those of its boards.
    pub fn paints(&self) -> Vec<PaintId> {
        let pots = self.schemes.iter().flat_map(Scheme::pots);
        let mut paints: Vec<PaintId> = pots.flatten().map(|part| part.paint).collect();
        paints.sort_unstable();
        paints.dedup();
        paints
    }
}
