//! The saved form of a piece.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Display;

use jiff::civil::Date;
use serde::de::{Error, IntoDeserializer};
use serde::{Deserialize, Deserializer, Serialize};
use uuid::Uuid;
use warm_blend_board::{Ground, GroundKind, Layer};
use warm_blend_paint::{Masstone, MixPart, Name, Note, PaintId, replace_paint};
use warm_blend_spectral::Light;

use super::{
    BadForm, Carving, Elevation, Extent, Finish, Form, Intent, Meeting, MovedPart, PHOTOS, PiecePhoto, Quote,
    Repair, Stencil, Windows, Zone, ZoneFinish, moved::MOVED,
};

/// Greatest number of schemes.
pub const SCHEMES: usize = 4;

/// Greatest number of layers over a scheme.
pub const OVERS: usize = 8;

/// The client's wishes.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Brief {
    /// Client.
    #[serde(skip_serializing_if = "Option::is_none", deserialize_with = "unless_blank")]
    pub client: Option<Name>,
    /// Mood in the client's words: worn, stately but tired, soft …
    #[serde(skip_serializing_if = "Option::is_none", deserialize_with = "unless_blank")]
    pub mood: Option<Note>,
    /// Target colours, at most eight.
    pub targets: Vec<Masstone>,
    /// Reference photo, uploaded to `/api/photos/kept`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub photo: Option<Uuid>,
    /// Budget, in the workshop's currency.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub budget: Option<f64>,
    /// Budget of hours.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub hours: Option<f64>,
    /// Due date, `2026-12-01`.
    #[serde(skip_serializing_if = "Option::is_none", deserialize_with = "day")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub due: Option<Date>,
    /// Lights of the room it is for, the main one first.
    pub lights: Vec<Light>,
}

/// Measurements by the painter that override the drawing.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AreaCorrection {
    /// Area, m²; as drawn if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub area: Option<f64>,
    /// Length of edges, m; as drawn if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub edge: Option<f64>,
    /// Carving; as drawn if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub carved: Option<Carving>,
}

/// A thin layer over finished zones: a wash, a glaze or a wax that brings them together.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Over {
    /// The layer.
    pub layer: Layer,
    /// Zones; all of them if empty.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Vec<String>))]
    pub zones: Vec<Zone>,
}

/// Intended contrast of two zones.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PairIntent {
    /// One zone.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub one: Zone,
    /// The other zone.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub other: Zone,
    /// `quiet`, `layered` or `bold`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub intent: Intent,
}

/// A scheme: one way to finish a piece.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Scheme {
    /// Name.
    pub name: Name,
    /// Finish of each zone. Zones left out are bare, except the sides: see [`Scheme::dress`].
    #[serde(default, deserialize_with = "by_zone")]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, ZoneFinish>))]
    pub wears: BTreeMap<Zone, ZoneFinish>,
    /// Layers over all or some zones, lowest first.
    #[serde(default)]
    pub over: Vec<Over>,
    /// Contrast intended between adjoining zones: `quiet`, `layered` or `bold`.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = String, example = "quiet", required))]
    pub intent: Intent,
    /// Pairs with another intention.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub pairs: Vec<PairIntent>,
}

/// A piece of furniture.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Piece {
    /// Name on every screen.
    pub name: Name,
    /// The client's wishes.
    #[serde(default)]
    pub brief: Brief,
    /// Kind and dimensions, if chosen.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub form: Option<Form>,
    /// What it is made of.
    #[serde(default = "red_stain")]
    #[cfg_attr(feature = "schema", schema(required))]
    pub ground: Ground,
    /// Measured zones that differ from the drawing.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty", deserialize_with = "by_zone")]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, AreaCorrection>))]
    pub corrections: BTreeMap<Zone, AreaCorrection>,
    /// What must be mended before painting, by zone.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty", deserialize_with = "by_zone")]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, Vec<Repair>>))]
    pub repairs: BTreeMap<Zone, BTreeSet<Repair>>,
    /// Parts that lie elsewhere than in the drawing.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub moved: Vec<MovedPart>,
    /// One to four schemes; none for a piece that was never dressed.
    #[serde(default)]
    pub schemes: Vec<Scheme>,
    /// Index of the chosen scheme.
    #[serde(default)]
    pub chosen: usize,
    /// Contrast windows for quiet, layered and bold.
    #[serde(default)]
    pub windows: Windows,
    /// Photos of the piece as it is, at most six, to show its finish on.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub photos: Vec<PiecePhoto>,
    /// What was quoted for it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub quote: Option<Quote>,
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

/// An invalid piece.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{message}")]
pub struct BadPiece {
    /// JSON pointer to the field.
    pub pointer: String,
    /// Problem and remedy.
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

    /// Zone from which a finish is carried round to this one: sides without a finish wear that of the front.
    pub fn carried(&self, zone: Zone) -> Option<Zone> {
        zone.carried_from().filter(|from| !self.wears.contains_key(&zone) && self.wears.contains_key(from))
    }

    /// Finish of a zone, its own or carried round.
    pub fn dress(&self, zone: Zone) -> Option<&ZoneFinish> {
        self.wears.get(&self.carried(zone).unwrap_or(zone))
    }

    /// Stencil on a zone; stencils are not carried round.
    pub fn stencil(&self, zone: Zone) -> Option<&Stencil> {
        self.wears.get(&zone)?.stencil.as_ref()
    }

    /// All pots that it has beside those of its boards.
    fn pots(&self) -> impl Iterator<Item = &Vec<MixPart>> {
        self.wears.values().flat_map(ZoneFinish::pots).chain(self.over.iter().map(|over| &over.layer.pot))
    }
}

impl Over {
    /// True if the layer lies on a zone.
    pub fn is_on(&self, zone: Zone) -> bool {
        self.zones.is_empty() || self.zones.contains(&zone)
    }
}

impl Piece {
    /// A new piece with only a name.
    pub fn named(name: Name) -> Self {
        Self {
            name,
            brief: Brief::default(),
            form: None,
            ground: red_stain(),
            corrections: BTreeMap::new(),
            repairs: BTreeMap::new(),
            moved: Vec::new(),
            schemes: Vec::new(),
            chosen: 0,
            windows: Windows::default(),
            photos: Vec::new(),
            quote: None,
        }
    }

    /// Checks that it can be built and that its schemes are valid; also applied to pieces that were read from a file.
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
        if self.moved.len() > MOVED || !self.moved.iter().all(MovedPart::is_sound) {
            let words = "a moved part lies outside what it is set into; move it back, or take the drawing";
            return Err(BadPiece::at("/moved", words));
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
        if self.photos.len() > PHOTOS {
            let words =
                format!("too many photos ({}); the most is {PHOTOS}; delete one first", self.photos.len());
            return Err(BadPiece::at("/photos", words));
        }
        for (n, photo) in self.photos.iter().enumerate() {
            photo.check().map_err(|(at, words)| BadPiece::at(format!("/photos/{n}/{at}"), words))?;
        }
        if self.quote.as_ref().is_some_and(|quote| !quote.is_sound()) {
            return Err(BadPiece::at("/quote", "not a possible quote; send it as it was given"));
        }
        let mut schemes = self.schemes.iter().enumerate();
        schemes.try_for_each(|(n, scheme)| scheme.check(&format!("/schemes/{n}")))
    }

    /// Repairs of a zone; any that it cannot need are left out.
    pub fn repairs_of(&self, zone: Zone) -> BTreeSet<Repair> {
        let own = self.repairs.get(&zone).into_iter().flatten();
        own.copied().filter(|repair| repair.applies_to(zone)).collect()
    }

    /// The chosen scheme.
    pub fn scheme(&self) -> Option<&Scheme> {
        self.schemes.get(self.chosen)
    }

    /// The piece in true proportion, with the painter's carving and parts where they were measured; `None` before its kind is chosen.
    pub fn elevation(&self) -> Option<Result<Elevation, BadForm>> {
        let mut built = self.form?.build();
        if let Ok(elevation) = &mut built {
            self.moved.iter().for_each(|moved| elevation.place(moved));
            for (zone, correction) in &self.corrections {
                if let Some(carving) = correction.carved {
                    elevation.carve(*zone, carving);
                }
            }
        }
        Some(built)
    }

    /// Size of each zone, measured or drawn.
    pub fn extents(&self, elevation: &Elevation) -> BTreeMap<Zone, Extent> {
        let mut extents = elevation.extents();
        for (zone, extent) in &mut extents {
            let measured = self.corrections.get(zone).copied().unwrap_or_default();
            extent.area = measured.area.unwrap_or(extent.area);
            extent.edge = measured.edge.unwrap_or(extent.edge);
        }
        extents
    }

    /// Painted zones that meet.
    pub fn meetings(&self, elevation: &Elevation) -> Vec<Meeting> {
        let mut meetings = elevation.meetings();
        meetings.retain(|meeting| meeting.zones.0.is_painted() && meeting.zones.1.is_painted());
        meetings
    }

    /// Replaces one tin with another.
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
                dress.stencil.iter_mut().for_each(|stencil| stencil.replace_paint(gone, kept));
            }
            scheme.over.iter_mut().for_each(|over| replace_paint(&mut over.layer.pot, gone, kept));
        }
        self
    }

    /// Boards that it wears.
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

    /// Tins that it refers to, except through boards.
    pub fn paints(&self) -> Vec<PaintId> {
        let pots = self.schemes.iter().flat_map(Scheme::pots);
        let mut paints: Vec<PaintId> = pots.flatten().map(|part| part.paint).collect();
        paints.sort_unstable();
        paints.dedup();
        paints
    }
}
