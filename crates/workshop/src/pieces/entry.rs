//! A piece as it is entered, and read into what is kept.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::Share;
use warm_blend_paint::{Component, Name, Note};
use warm_blend_piece::{
    Age, Ageing, AreaCorrection, Band, BlendDirection, Brief, Finish, Form, Intent, Motif, Over, Piece,
    Scheme, Stencil, Windows, Zone, ZoneFinish,
};
use warm_blend_spectral::Light;

use crate::refusal::shown;
use crate::{Checks, Colour, GroundEntry, LayerEntry, MixPart, Refusal, letter};

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
    pub windows: WindowsEntry,
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
    pub zone: String,
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
    #[schema(example = "quiet")]
    pub intent: String,
    /// Of pairs that should be otherwise.
    #[serde(default)]
    pub pairs: Vec<PairIntentEntry>,
}

/// What a zone wears.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct WornEntry {
    /// Which zone: see the preview's zones.
    #[schema(example = "drawers")]
    pub zone: String,
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
    pub ageing: AgeingEntry,
}

/// A pattern that is repeated along each part of a zone.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct StencilEntry {
    /// `rosette` …: see `/api/piece/choices`.
    #[schema(example = "rosette")]
    pub motif: String,
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
    pub strip: String,
}

/// Colours that go over into each other.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct BlendEntry {
    /// `down`, `across` or `outward`.
    #[schema(example = "down")]
    pub way: String,
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

/// How old a zone looks: each 0 to 1.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct AgeingEntry {
    /// Rubbed through on edges.
    pub wear: f64,
    /// Dirt in recesses and corners.
    pub grime: f64,
    /// Pale streaks from the top.
    pub water: f64,
    /// Bleached high up.
    pub fade: f64,
    /// Copper green, low and in recesses.
    pub verdigris: f64,
}

/// A thin layer over zones that are dressed already.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct OverEntry {
    /// The layer.
    pub layer: LayerEntry,
    /// Where; everywhere if empty.
    #[serde(default)]
    pub zones: Vec<String>,
}

/// How far apart a pair of zones should be.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct PairIntentEntry {
    /// A zone.
    pub one: String,
    /// Another.
    pub other: String,
    /// `quiet`, `layered` or `bold`.
    pub intent: String,
}

/// Least and most contrast of neighbours, ΔE00.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct WindowsEntry {
    /// For `quiet`.
    pub quiet: [f64; 2],
    /// For `layered`.
    pub layered: [f64; 2],
    /// For `bold`.
    pub bold: [f64; 2],
}

impl Default for WindowsEntry {
    fn default() -> Self {
        Windows::default().into()
    }
}

impl From<Windows> for WindowsEntry {
    fn from(windows: Windows) -> Self {
        let pair = |(least, most)| [least, most];
        Self { quiet: pair(windows.quiet), layered: pair(windows.layered), bold: pair(windows.bold) }
    }
}

/// A zone by its id.
pub fn zone(text: &str) -> Result<Zone, String> {
    Zone::find(text).ok_or_else(|| {
        let known = Zone::ALL.map(Zone::id).join(", ");
        format!("“{}” is no zone: choose one of {known}", shown(text))
    })
}

fn intent(text: &str) -> Result<Intent, String> {
    Intent::find(text).ok_or_else(|| format!("“{}”: choose quiet, layered or bold", shown(text)))
}

fn way(text: &str) -> Result<BlendDirection, String> {
    match text {
        "down" => Ok(BlendDirection::Down),
        "across" => Ok(BlendDirection::Across),
        "outward" => Ok(BlendDirection::Outward),
        _ => Err(format!("“{}”: a blend goes down, across or outward", shown(text))),
    }
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

impl AgeingEntry {
    fn parse(self, checks: &mut Checks, at: &str) -> Option<Ageing> {
        let mut share = |age: Age, value: f64| checks.field(format!("{at}/{}", age.id()), Share::new(value));
        Some(Ageing {
            wear: share(Age::Wear, self.wear)?,
            grime: share(Age::Grime, self.grime)?,
            water: share(Age::WaterMarks, self.water)?,
            fade: share(Age::SunFade, self.fade)?,
            verdigris: share(Age::Verdigris, self.verdigris)?,
        })
    }
}

impl From<Ageing> for AgeingEntry {
    fn from(ageing: Ageing) -> Self {
        Self {
            wear: ageing.wear.value(),
            grime: ageing.grime.value(),
            water: ageing.water.value(),
            fade: ageing.fade.value(),
            verdigris: ageing.verdigris.value(),
        }
    }
}

fn pot(parts: &[MixPart], checks: &mut Checks, at: &str) -> Option<Vec<Component>> {
    parts.iter().enumerate().map(|(i, part)| part.component(checks, &format!("{at}/{i}"))).collect()
}

impl StencilEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Stencil> {
        let motif = Motif::find(&self.motif).ok_or_else(|| {
            let known = Motif::ALL.map(Motif::id).join(", ");
            format!("“{}” is no motif: choose one of {known}", shown(&self.motif))
        });
        let motif = checks.field(format!("{at}/motif"), motif);
        let pot = pot(&self.pot, checks, &format!("{at}/pot"));
        let stencil = Stencil { motif: motif?, size: self.size_mm, repeats: self.repeats, pot: pot? };
        checks.field(at.to_owned(), stencil.check())?;
        Some(stencil)
    }
}

impl From<&Stencil> for StencilEntry {
    fn from(stencil: &Stencil) -> Self {
        Self {
            motif: stencil.motif.id().to_owned(),
            size_mm: stencil.size,
            repeats: stencil.repeats,
            pot: stencil.pot.iter().map(MixPart::from).collect(),
        }
    }
}

impl BlendEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Finish> {
        let way = checks.field(format!("{at}/way"), way(&self.way))?;
        let mut bands = Vec::with_capacity(self.bands.len());
        for (i, band) in self.bands.iter().take(6).enumerate() {
            let pot = pot(&band.pot, checks, &format!("{at}/bands/{i}/pot"))?;
            bands.push(Band { pot, at: band.at });
        }
        Some(Finish::Blend { way, bands })
    }
}

impl WornEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<(Zone, ZoneFinish)> {
        let zone = checks.field(format!("{at}/zone"), zone(&self.zone))?;
        let wears = match (&self.strip, &self.blend) {
            (Some(worn), _) => {
                let strip = checks.field(format!("{at}/strip/strip"), letter(&worn.strip))?;
                Finish::Strip { board: worn.board, strip }
            }
            (None, Some(blend)) => blend.parse(checks, &format!("{at}/blend"))?,
            (None, None) => Finish::Bare,
        };
        let ground = match &self.ground {
            Some(ground) => Some(ground.parse(&format!("{at}/ground"), checks)?),
            None => None,
        };
        let ageing = self.ageing.parse(checks, &format!("{at}/ageing"))?;
        let stencil = match &self.stencil {
            Some(stencil) => Some(stencil.parse(checks, &format!("{at}/stencil"))?),
            None => None,
        };
        Some((zone, ZoneFinish { wears, ground, stencil, ageing }))
    }

    fn of((zone, dress): (&Zone, &ZoneFinish)) -> Self {
        let (strip, blend) = match &dress.wears {
            Finish::Bare => (None, None),
            Finish::Strip { board, strip } => {
                (Some(StripWorn { board: *board, strip: strip.to_string() }), None)
            }
            Finish::Blend { way, bands } => {
                let way = match way {
                    BlendDirection::Down => "down",
                    BlendDirection::Across => "across",
                    BlendDirection::Outward => "outward",
                };
                let band = |band: &Band| BandEntry {
                    pot: band.pot.iter().map(MixPart::from).collect(),
                    at: band.at,
                };
                (None, Some(BlendEntry { way: way.to_owned(), bands: bands.iter().map(band).collect() }))
            }
        };
        Self {
            zone: zone.id().to_owned(),
            strip,
            blend,
            ground: dress.ground.map(GroundEntry::from),
            stencil: dress.stencil.as_ref().map(StencilEntry::from),
            ageing: dress.ageing.into(),
        }
    }
}

impl OverEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Over> {
        let layer = self.layer.parse(checks, &format!("{at}/layer"))?;
        let mut zones = Vec::with_capacity(self.zones.len());
        for (i, id) in self.zones.iter().enumerate() {
            zones.push(checks.field(format!("{at}/zones/{i}"), zone(id))?);
        }
        Some(Over { layer, zones })
    }
}

impl From<&Over> for OverEntry {
    fn from(over: &Over) -> Self {
        Self {
            layer: LayerEntry::from(&over.layer),
            zones: over.zones.iter().map(|zone| zone.id().to_owned()).collect(),
        }
    }
}

impl SchemeEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Scheme> {
        let name = checks.field(format!("{at}/name"), Name::new(&self.name));
        let meant = checks.field(format!("{at}/intent"), intent(&self.intent));
        let mut wears = BTreeMap::new();
        for (i, worn) in self.wears.iter().take(Zone::ALL.len()).enumerate() {
            wears.extend(worn.parse(checks, &format!("{at}/wears/{i}")));
        }
        let mut over = Vec::with_capacity(self.over.len());
        for (i, entry) in self.over.iter().enumerate() {
            over.extend(entry.parse(checks, &format!("{at}/over/{i}")));
        }
        let mut pairs = Vec::with_capacity(self.pairs.len());
        for (i, pair) in self.pairs.iter().enumerate() {
            let at = format!("{at}/pairs/{i}");
            let one = checks.field(format!("{at}/one"), zone(&pair.one));
            let other = checks.field(format!("{at}/other"), zone(&pair.other));
            let meant = checks.field(format!("{at}/intent"), intent(&pair.intent));
            pairs.push((one?, other?, meant?));
        }
        Some(Scheme { name: name?, wears, over, intent: meant?, pairs })
    }
}

impl From<&Scheme> for SchemeEntry {
    fn from(scheme: &Scheme) -> Self {
        let pair = |(one, other, intent): &(Zone, Zone, Intent)| PairIntentEntry {
            one: one.id().to_owned(),
            other: other.id().to_owned(),
            intent: intent.id().to_owned(),
        };
        Self {
            name: scheme.name.as_str().to_owned(),
            wears: scheme.wears.iter().map(WornEntry::of).collect(),
            over: scheme.over.iter().map(OverEntry::from).collect(),
            intent: scheme.intent.id().to_owned(),
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
        let mut corrections = BTreeMap::new();
        for (i, correction) in self.corrections.iter().take(Zone::ALL.len()).enumerate() {
            let zone = checks.field(format!("/corrections/{i}/zone"), zone(&correction.zone));
            let correction = AreaCorrection { area: correction.area_m2, edge: correction.edge_m };
            corrections.extend(zone.map(|zone| (zone, correction)));
        }
        let mut schemes = Vec::with_capacity(self.schemes.len());
        for (i, scheme) in self.schemes.iter().take(warm_blend_piece::SCHEMES + 1).enumerate() {
            schemes.extend(scheme.parse(&mut checks, &format!("/schemes/{i}")));
        }
        let ((name, brief), ground) = checks.done(name.zip(brief).zip(ground))?;
        let pair = |[least, most]: [f64; 2]| (least, most);
        let WindowsEntry { quiet, layered, bold } = self.windows;
        let piece = Piece {
            name,
            brief,
            form: self.form,
            ground,
            corrections,
            schemes,
            chosen: self.chosen,
            windows: Windows { quiet: pair(quiet), layered: pair(layered), bold: pair(bold) },
        };
        piece.check().map_err(|error| Refusal::field(&error.pointer, error.message))?;
        Ok(piece)
    }
}

impl From<&Piece> for PieceEntry {
    fn from(piece: &Piece) -> Self {
        let correction = |(zone, correction): (&Zone, &AreaCorrection)| CorrectionEntry {
            zone: zone.id().to_owned(),
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
            windows: piece.windows.into(),
        }
    }
}
