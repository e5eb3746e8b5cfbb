//! A piece as it is kept.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_board::{Ground, GroundKind, Layer};
use warm_blend_paint::{Component, Masstone, Name, Note, PaintId, replace_paint};
use warm_blend_spectral::Light;

use super::{Elevation, Extent, Finish, Form, Intent, Meeting, Stencil, Windows, Zone, ZoneFinish};

/// Most schemes of a piece.
pub const SCHEMES: usize = 4;

/// Most treatments over a scheme.
pub const OVERS: usize = 8;

/// What the client wants.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct Brief {
    /// For whom.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub client: Option<Name>,
    /// Worn, stately but tired, soft …: in the client's words.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub mood: Option<Note>,
    /// Colours to aim at.
    pub targets: Vec<Masstone>,
    /// A photo of what it should be like, by its id.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub photo: Option<Uuid>,
    /// What it may cost, in the workshop's money.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub budget: Option<f64>,
    /// Hours it may take.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub hours: Option<f64>,
    /// When it is to be done.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub due: Option<jiff::civil::Date>,
    /// The lights of the room it goes to, the main one first.
    #[serde(with = "by_id")]
    pub lights: Vec<Light>,
}

/// What the painter measured where the drawing is not the piece.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
pub struct AreaCorrection {
    /// m².
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub area: Option<f64>,
    /// m.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub edge: Option<f64>,
}

/// A thin layer over zones that are already dressed: a wash, a glaze, a wax that brings them together.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Over {
    /// The layer.
    pub layer: Layer,
    /// Where; everywhere if empty.
    #[serde(default)]
    pub zones: Vec<Zone>,
}

/// One way to dress a piece.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Scheme {
    /// What the painter calls it.
    pub name: Name,
    /// What each zone wears; what is not named is bare, but for sides: see [`Scheme::dress`].
    #[serde(default)]
    pub wears: BTreeMap<Zone, ZoneFinish>,
    /// What lies over all or some of them, the first lowest.
    #[serde(default)]
    pub over: Vec<Over>,
    /// How far apart neighbours should be.
    #[serde(default)]
    pub intent: Intent,
    /// Of pairs that should be otherwise.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub pairs: Vec<(Zone, Zone, Intent)>,
}

/// The piece of furniture at hand.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
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
    pub ground: Ground,
    /// Zones as they were measured.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub corrections: BTreeMap<Zone, AreaCorrection>,
    /// One to four ways to dress it; a piece that was never dressed has none.
    #[serde(default)]
    pub schemes: Vec<Scheme>,
    /// Which of them is the one.
    #[serde(default)]
    pub chosen: usize,
    /// How far apart is meant by quiet, layered and bold.
    #[serde(default)]
    pub windows: Windows,
}

/// Lights by their ids.
mod by_id {
    use serde::{Deserialize, Deserializer, Serialize, Serializer, de::Error};
    use warm_blend_spectral::Light;

    pub fn serialize<S: Serializer>(lights: &[Light], to: S) -> Result<S::Ok, S::Error> {
        lights.iter().map(|light| light.id()).collect::<Vec<_>>().serialize(to)
    }

    pub fn deserialize<'de, D: Deserializer<'de>>(from: D) -> Result<Vec<Light>, D::Error> {
        let ids: Vec<String> = Vec::deserialize(from)?;
        ids.iter().map(|id| id.parse().map_err(D::Error::custom)).collect()
    }
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

impl Scheme {
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
    fn pots(&self) -> impl Iterator<Item = &Vec<Component>> {
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

    /// That it can be built, and that its schemes are in order.
    pub fn check(&self) -> Result<(), BadPiece> {
        let bad = |pointer: String, message: String| Err(BadPiece { pointer, message });
        if let Some(form) = &self.form
            && let Err(error) = form.build()
        {
            return bad(format!("/form/{}", error.field), error.message);
        }
        for (zone, correction) in &self.corrections {
            for (what, value) in [("area", correction.area), ("edge", correction.edge)] {
                if let Some(value) = value
                    && !(value > 0.0 && value <= 1000.0)
                {
                    return bad(
                        format!("/corrections/{}/{what}", zone.id()),
                        format!(
                            "{value}: an {what} is more than 0 and at most 1000; leave it out to take the drawing’s"
                        ),
                    );
                }
            }
        }
        if self.schemes.len() > SCHEMES {
            return bad(
                "/schemes".into(),
                format!("{} schemes: {SCHEMES} are the most; take one out first", self.schemes.len()),
            );
        }
        if self.chosen >= self.schemes.len().max(1) {
            return bad("/chosen".into(), "there is no such scheme".into());
        }
        for (n, scheme) in self.schemes.iter().enumerate() {
            if scheme.over.len() > OVERS {
                return bad(
                    format!("/schemes/{n}/over"),
                    format!("{} layers over all: {OVERS} are the most", scheme.over.len()),
                );
            }
        }
        for (what, value, most) in [("budget", self.brief.budget, 1e9), ("hours", self.brief.hours, 1e5)] {
            if let Some(value) = value
                && !(0.0..=most).contains(&value)
            {
                return bad(format!("/brief/{what}"), format!("{value}: 0 to {most}"));
            }
        }
        if self.brief.targets.len() > 8 || self.brief.lights.len() > Light::ALL.len() {
            return bad("/brief/targets".into(), "eight colours are the most".into());
        }
        self.windows.check().map_err(|message| BadPiece { pointer: "/windows".into(), message })
    }

    /// The scheme that counts.
    pub fn scheme(&self) -> Option<&Scheme> {
        self.schemes.get(self.chosen)
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
                if let Finish::Blend { bands, .. } = &mut dress.wears {
                    bands.iter_mut().for_each(|band| replace_paint(&mut band.pot, gone, kept));
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
