//! A piece as it is entered, and read into what is kept.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Letter, Motif};
use warm_blend_paint::{Component, Name, Note};
use warm_blend_piece::{
    Ageing, AreaCorrection, Band, BlendDirection, Brief, Finish, Form, Intent, Over, Piece, Scheme, Stencil,
    Windows, Zone, ZoneFinish,
};
use warm_blend_spectral::Light;

use crate::{Checks, Colour, GroundEntry, LayerEntry, MixPart, Refusal};

/// A piece as the painter describes and dresses it.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct PieceEntry {
    /// Its name, 1 to 80 characters.
    #[schema(example = "Upright piano and stool")]
    pub name: String,
    /// What the client wants.
    #[serde(default)]
    pub brief: BriefEntry,
    /// What it is; none where that was not said yet.
    pub form: Option<Form>,
    /// What it is made of.
    pub ground: GroundEntry,
    /// Zones as they were measured, where the drawing is not the piece.
    #[serde(default)]
    pub corrections: Vec<CorrectionEntry>,
    /// At most four ways to dress it.
    #[serde(default)]
    pub schemes: Vec<SchemeEntry>,
    /// Which of them is the one, from 0.
    #[serde(default)]
    pub chosen: usize,
    /// How far apart is meant by quiet, layered and bold.
    #[serde(default)]
    pub windows: Windows,
}

/// What the client wants.
#[derive(Debug, Clone, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct BriefEntry {
    /// For whom.
    pub client: Option<String>,
    /// In the client's words: worn, stately but tired, soft …
    pub mood: Option<String>,
    /// Colours to aim at, at most eight.
    pub targets: Vec<Colour>,
    /// A photo of what it should be like, brought to `/api/photos/kept`.
    pub photo: Option<Uuid>,
    /// What it may cost, in the workshop's money.
    pub budget: Option<f64>,
    /// Hours it may take.
    pub hours: Option<f64>,
    /// The day it is to be done, `2026-12-01`.
    pub due: Option<String>,
    /// Lights of the room it goes to, the main one first.
    pub lights: Vec<String>,
}

/// A zone as it was measured.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct CorrectionEntry {
    /// Which.
    #[schema(value_type = String)]
    pub zone: Zone,
    /// m²; as drawn if left out.
    pub area_m2: Option<f64>,
    /// Edges, m; as drawn if left out.
    pub edge_m: Option<f64>,
}

/// One way to dress a piece.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct SchemeEntry {
    /// Its name.
    #[schema(example = "as in the photo")]
    pub name: String,
    /// What each zone wears; what is not named is bare, but for sides, which wear what the case does.
    #[serde(default)]
    pub wears: Vec<WornEntry>,
    /// What lies over all or some of them, the first lowest.
    #[serde(default)]
    pub over: Vec<OverEntry>,
    /// `quiet`, `layered` or `bold`: how far apart neighbours should be.
    #[schema(example = "quiet", value_type = String)]
    pub intent: Intent,
    /// Of pairs that should be otherwise.
    #[serde(default)]
    pub pairs: Vec<PairIntentEntry>,
}

/// What a zone wears.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct WornEntry {
    /// Which zone: see the preview's zones.
    #[schema(example = "drawers", value_type = String)]
    pub zone: Zone,
    /// A strip of a board.
    pub strip: Option<StripWorn>,
    /// Colours that go over into each other. With neither, the zone is bare.
    pub blend: Option<BlendEntry>,
    /// What is under it, where that is not what its board lies on.
    pub ground: Option<GroundEntry>,
    /// A pattern on it.
    pub stencil: Option<StencilEntry>,
    /// How old it looks.
    #[serde(default)]
    pub ageing: Ageing,
}

/// A pattern that is repeated along each part of a zone.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct StencilEntry {
    /// `rosette` …: see `/api/piece/choices`.
    #[schema(example = "rosette", value_type = String)]
    pub motif: Motif,
    /// How long and wide one is, 10 to 1000 mm.
    pub size_mm: f64,
    /// How many on each part, 1 to 100; as many as are spaced well if left out.
    pub repeats: Option<u32>,
    /// What it is painted with.
    pub pot: Vec<MixPart>,
}

/// A strip of a board.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct StripWorn {
    /// The board. One that was put away is still worn as it was.
    pub board: Uuid,
    /// `A` to `F`.
    #[schema(value_type = String)]
    pub strip: Letter,
}

/// Colours that go over into each other.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct BlendEntry {
    /// `down`, `across` or `outward`.
    #[schema(example = "down", value_type = String)]
    pub way: BlendDirection,
    /// Two to five, in their order.
    pub bands: Vec<BandEntry>,
}

/// A colour of a blend.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct BandEntry {
    /// What is in its pot.
    pub pot: Vec<MixPart>,
    /// Where it is pure, 0 to 1.
    pub at: f64,
}

/// A thin layer over zones that are dressed already.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct OverEntry {
    /// The layer.
    pub layer: LayerEntry,
    /// Where; everywhere if empty.
    #[serde(default)]
    #[schema(value_type = Vec<String>)]
    pub zones: Vec<Zone>,
}

/// How far apart a pair of zones should be.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct PairIntentEntry {
    /// A zone.
    #[schema(value_type = String)]
    pub one: Zone,
    /// Another.
    #[schema(value_type = String)]
    pub other: Zone,
    /// `quiet`, `layered` or `bold`.
    #[schema(value_type = String)]
    pub intent: Intent,
}

fn amount(value: f64) -> Result<f64, String> {
    if value.is_finite() { Ok(value) } else { Err("a number is missing".to_owned()) }
}

impl BriefEntry {
    fn parse(&self, checks: &mut Checks) -> Option<Brief> {
        let named =
            |text: &Option<String>| text.as_deref().filter(|text| !text.trim().is_empty()).map(Name::new);
        let client = checks.optional("/brief/client", named(&self.client));
        let mood = checks.optional("/brief/mood", self.mood.as_deref().map(Note::new)).flatten();
        let due = self.due.as_deref().filter(|due| !due.is_empty());
        let due = due.map(|due| due.parse().map_err(|_| "a day as 2026-12-01".to_owned()));
        let due = checks.optional("/brief/due", due);
        let mut targets = Vec::with_capacity(self.targets.len());
        for (i, target) in self.targets.iter().take(9).enumerate() {
            targets.push(target.parse(checks, &format!("/brief/targets/{i}"))?);
        }
        let mut lights = Vec::new();
        for (i, light) in self.lights.iter().take(Light::ALL.len() + 1).enumerate() {
            lights.push(checks.field(format!("/brief/lights/{i}"), light.parse::<Light>())?);
        }
        let budget = checks.optional("/brief/budget", self.budget.map(amount));
        let hours = checks.optional("/brief/hours", self.hours.map(amount));
        Some(Brief { client, mood, targets, photo: self.photo, budget, hours, due, lights })
    }
}

impl From<&Brief> for BriefEntry {
    fn from(brief: &Brief) -> Self {
        Self {
            client: brief.client.clone().map(String::from),
            mood: brief.mood.as_ref().map(|mood| mood.as_str().to_owned()),
            targets: brief.targets.iter().copied().map(Colour::from).collect(),
            photo: brief.photo,
            budget: brief.budget,
            hours: brief.hours,
            due: brief.due.map(|due| due.to_string()),
            lights: brief.lights.iter().map(|light| light.id().to_owned()).collect(),
        }
    }
}

fn pot(parts: &[MixPart], checks: &mut Checks, at: &str) -> Option<Vec<Component>> {
    parts.iter().enumerate().map(|(i, part)| part.component(checks, &format!("{at}/{i}"))).collect()
}

impl StencilEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Stencil> {
        let pot = pot(&self.pot, checks, &format!("{at}/pot"))?;
        let stencil = Stencil { motif: self.motif, size: self.size_mm, repeats: self.repeats, pot };
        checks.field(at.to_owned(), stencil.check())?;
        Some(stencil)
    }
}

impl From<&Stencil> for StencilEntry {
    fn from(stencil: &Stencil) -> Self {
        Self {
            motif: stencil.motif,
            size_mm: stencil.size,
            repeats: stencil.repeats,
            pot: stencil.pot.iter().map(MixPart::from).collect(),
        }
    }
}

impl BlendEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Finish> {
        let mut bands = Vec::with_capacity(self.bands.len());
        for (i, band) in self.bands.iter().take(6).enumerate() {
            let pot = pot(&band.pot, checks, &format!("{at}/bands/{i}/pot"))?;
            bands.push(Band { pot, at: band.at });
        }
        Some(Finish::Blend { way: self.way, bands })
    }
}

impl WornEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<(Zone, ZoneFinish)> {
        let wears = match (&self.strip, &self.blend) {
            (Some(worn), _) => Finish::Strip { board: worn.board, strip: worn.strip },
            (None, Some(blend)) => blend.parse(checks, &format!("{at}/blend"))?,
            (None, None) => Finish::Bare,
        };
        let ground = match &self.ground {
            Some(ground) => Some(ground.parse(&format!("{at}/ground"), checks)?),
            None => None,
        };
        let stencil = match &self.stencil {
            Some(stencil) => Some(stencil.parse(checks, &format!("{at}/stencil"))?),
            None => None,
        };
        Some((self.zone, ZoneFinish { wears, ground, stencil, ageing: self.ageing }))
    }

    fn of((zone, dress): (&Zone, &ZoneFinish)) -> Self {
        let (strip, blend) = match &dress.wears {
            Finish::Bare => (None, None),
            Finish::Strip { board, strip } => (Some(StripWorn { board: *board, strip: *strip }), None),
            Finish::Blend { way, bands } => {
                let band = |band: &Band| BandEntry {
                    pot: band.pot.iter().map(MixPart::from).collect(),
                    at: band.at,
                };
                (None, Some(BlendEntry { way: *way, bands: bands.iter().map(band).collect() }))
            }
        };
        Self {
            zone: *zone,
            strip,
            blend,
            ground: dress.ground.map(GroundEntry::from),
            stencil: dress.stencil.as_ref().map(StencilEntry::from),
            ageing: dress.ageing,
        }
    }
}

impl OverEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Over> {
        Some(Over { layer: self.layer.parse(checks, &format!("{at}/layer"))?, zones: self.zones.clone() })
    }
}

impl From<&Over> for OverEntry {
    fn from(over: &Over) -> Self {
        Self { layer: LayerEntry::from(&over.layer), zones: over.zones.clone() }
    }
}

impl SchemeEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Scheme> {
        let name = checks.field(format!("{at}/name"), Name::new(&self.name));
        let mut wears = BTreeMap::new();
        for (i, worn) in self.wears.iter().take(Zone::ALL.len()).enumerate() {
            wears.extend(worn.parse(checks, &format!("{at}/wears/{i}")));
        }
        let mut over = Vec::with_capacity(self.over.len());
        for (i, entry) in self.over.iter().enumerate() {
            over.extend(entry.parse(checks, &format!("{at}/over/{i}")));
        }
        let pairs = self.pairs.iter().map(|pair| (pair.one, pair.other, pair.intent)).collect();
        Some(Scheme { name: name?, wears, over, intent: self.intent, pairs })
    }
}

impl From<&Scheme> for SchemeEntry {
    fn from(scheme: &Scheme) -> Self {
        let pair = |&(one, other, intent): &(Zone, Zone, Intent)| PairIntentEntry { one, other, intent };
        Self {
            name: scheme.name.as_str().to_owned(),
            wears: scheme.wears.iter().map(WornEntry::of).collect(),
            over: scheme.over.iter().map(OverEntry::from).collect(),
            intent: scheme.intent,
            pairs: scheme.pairs.iter().map(pair).collect(),
        }
    }
}

impl PieceEntry {
    /// What is to be kept, or everything that is wrong with it.
    pub fn parse(&self) -> Result<Piece, Refusal> {
        let mut checks = Checks::default();
        let name = checks.field("/name", Name::new(&self.name));
        let brief = self.brief.parse(&mut checks);
        let ground = self.ground.parse("/ground", &mut checks);
        let correction =
            |of: &CorrectionEntry| (of.zone, AreaCorrection { area: of.area_m2, edge: of.edge_m });
        let corrections = self.corrections.iter().map(correction).collect();
        let mut schemes = Vec::with_capacity(self.schemes.len());
        for (i, scheme) in self.schemes.iter().take(warm_blend_piece::SCHEMES + 1).enumerate() {
            schemes.extend(scheme.parse(&mut checks, &format!("/schemes/{i}")));
        }
        let ((name, brief), ground) = checks.done(name.zip(brief).zip(ground))?;
        let piece = Piece {
            name,
            brief,
            form: self.form,
            ground,
            corrections,
            schemes,
            chosen: self.chosen,
            windows: self.windows,
        };
        piece.check().map_err(|error| Refusal::field(&error.pointer, error.message))?;
        Ok(piece)
    }
}

impl From<&Piece> for PieceEntry {
    fn from(piece: &Piece) -> Self {
        let correction = |(zone, correction): (&Zone, &AreaCorrection)| CorrectionEntry {
            zone: *zone,
            area_m2: correction.area,
            edge_m: correction.edge,
        };
        Self {
            name: piece.name.as_str().to_owned(),
            brief: BriefEntry::from(&piece.brief),
            form: piece.form,
            ground: piece.ground.into(),
            corrections: piece.corrections.iter().map(correction).collect(),
            schemes: piece.schemes.iter().map(SchemeEntry::from).collect(),
            chosen: piece.chosen,
            windows: piece.windows,
        }
    }
}
