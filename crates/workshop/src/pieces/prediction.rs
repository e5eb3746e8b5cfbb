//! Prediction of a scheme by zone, with a verdict on how its parts go together.

use std::collections::BTreeMap;
use std::iter;

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::Place;
use warm_blend_paint::{Dimension, MixPart, Seen, Units, percentages};
use warm_blend_piece::{
    Elevation, Finding, Finish, Form, FormField, Intent, Pair, PatternRoom, Piece, Pull, Scheme, Side,
    SideSpacing, Spacing, Stands, View, With, Zone, ZoneSeen, pulls, shared_paint,
};
use warm_blend_render::Placed;
use warm_blend_spectral::difference;

use crate::appearance::{Hex, in_each_light};
use crate::pieces::{ZoneGround, room::PieceSeen};
use crate::{Refusal, Room, SeenColour, ShareOfColour};

/// Prediction of a scheme.
#[derive(Debug, Serialize, ToSchema)]
pub struct PiecePrediction {
    /// Front, side and top.
    pub faces: Vec<FaceView>,
    /// Zones.
    pub zones: Vec<ZoneView>,
    /// Two main colours from across the room in each light, in the order of `/api/lights`; one if all zones are alike,
    /// none if nothing is painted.
    #[schema(value_type = Vec<Vec<String>>)]
    pub lights: Vec<Vec<Hex>>,
    /// Whether its parts belong together.
    pub verdict: PieceVerdict,
    /// Adjoining zones, furthest outside their window first.
    pub pairs: Vec<PairView>,
    /// Faults and other findings, most important first.
    pub findings: Vec<FindingView>,
    /// Colours mixed towards that of an adjoining zone.
    pub pulls: Vec<PullView>,
    /// Painted area, m².
    pub area_m2: f64,
    /// Dimensions, as text.
    pub dimensions: Vec<DimensionView>,
}

/// Whether the parts of a piece belong together.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct PieceVerdict {
    /// Verdict in a few words: `Panels and mouldings clash`.
    pub headline: String,
    /// Reason: `Too far apart for a quiet piece.`; empty if there is nothing to compare.
    pub detail: String,
}

impl PieceVerdict {
    /// Verdict on adjoining zones, furthest outside their window first.
    fn of(pairs: &[Pair], intent: Intent, painted: bool) -> Self {
        let off: Vec<&Pair> = pairs.iter().filter(|pair| pair.stands() != Stands::In).collect();
        let (headline, detail) = match off.as_slice() {
            _ if !painted => {
                let next = "Choose a finish for one part, then dress the rest like it.";
                ("Nothing painted yet".to_owned(), next.to_owned())
            }
            [] if pairs.is_empty() => ("Nothing to compare yet".to_owned(), String::new()),
            [] => {
                ("It holds together".to_owned(), format!("All adjoining parts suit a {} piece.", intent.id()))
            }
            [pair] => {
                let headline = format!("{} {}", named_together(pair.zones), pair.stands().words());
                let why = if pair.stands() == Stands::Near { "Too little contrast" } else { "Too far apart" };
                (headline, format!("{why} for a {} piece.", pair.intent.id()))
            }
            [worst, ..] => (
                format!("{} pairs of adjoining parts clash", off.len()),
                format!("The worst: {}.", named_together(worst.zones).to_lowercase()),
            ),
        };
        Self { headline, detail }
    }
}

/// A dimension of the piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct DimensionView {
    /// `width` …
    pub id: &'static str,
    /// Value in the requested units: `1000 mm`, `3`.
    pub said: String,
}

/// A stencilled pattern on a zone.
#[derive(Debug, Serialize, ToSchema)]
pub struct StencilView {
    /// Size of a motif: `80 mm`.
    pub size: String,
    /// Gap that is set between repeats; absent if they are evenly spaced.
    pub gap: Option<String>,
    /// Distance of a border from the edge of the part; absent without one.
    pub inset: Option<String>,
    /// Spacing: `5 repeats, 50 mm between and at the ends`; absent if it fits nowhere.
    pub spread: Option<String>,
    /// Where to mark centre lines on each length of part: `On 900 mm: 70, 240, 410, 580, 750 mm`.
    pub marks: Vec<String>,
}

/// A face of a piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct FaceView {
    /// `front`, `side` or `top`.
    pub view: &'static str,
    /// Width, mm.
    pub width: f64,
    /// Height, mm.
    pub height: f64,
    /// Number of such faces.
    pub times: u32,
    /// Its parts, each after the one it is set into.
    pub parts: Vec<PartView>,
}

/// A part of a face.
#[derive(Debug, Serialize, ToSchema)]
pub struct PartView {
    /// Zone it belongs to.
    pub zone: &'static str,
    /// Position in a picture of the requested size, as shares: left, top, width, height.
    pub at: [f64; 4],
}

/// A zone.
#[derive(Debug, Serialize, ToSchema)]
pub struct ZoneView {
    /// `drawers` …
    pub zone: &'static str,
    /// `Drawer fronts` …
    pub name: &'static str,
    /// Net area, m², measured or drawn.
    pub area_m2: f64,
    /// Area in the requested units: `0.98 m²`.
    pub area: String,
    /// Length of edges, m.
    pub edge_m: f64,
    /// Length of edges in the requested units: `9.8 m`.
    pub edge: String,
    /// Share of the area of the piece.
    pub share: f64,
    /// Percentage of the painted area; absent for a bare zone.
    pub percent: Option<u32>,
    /// Finish: `aged drift blue for the case, strip B`, `a blend of 3 colours`, `bare`.
    pub wears: String,
    /// The zone whose finish it wears by default.
    pub takes_after: Option<&'static str>,
    /// The zone whose finish it wears now, if it has none of its own.
    pub carried_from: Option<&'static str>,
    /// Pot of its main colour, if its strip has one.
    pub main: Vec<MixPart>,
    /// Pots of its colours, the main one first.
    pub pots: Vec<Vec<MixPart>>,
    /// Its stencilled pattern.
    pub stencil: Option<StencilView>,
    /// How large a pattern may well be on its parts.
    pub pattern_room: PatternRoom,
    /// Ground below the finish; absent if it stays bare.
    pub ground: Option<ZoneGround>,
    /// Why it cannot have this finish, if it cannot.
    pub refused: Option<String>,
    /// Colour from across the room.
    pub seen: Option<SeenColour>,
    /// Chroma of that colour, C*ab.
    pub chroma: Option<f64>,
    /// Colours of field, recess and edge.
    pub places: Vec<String>,
    /// Colours close up, largest share first.
    pub colours: Vec<ShareOfColour>,
}

/// Two adjoining zones.
#[derive(Debug, Serialize, ToSchema)]
pub struct PairView {
    /// One zone.
    pub one: &'static str,
    /// The other zone.
    pub other: &'static str,
    /// `Case and drawer fronts`.
    pub name: String,
    /// Length of their common edge, m.
    pub length_m: f64,
    /// Contrast from across the room, ΔE00.
    pub contrast: f64,
    /// `quiet`, `layered` or `bold`.
    pub intent: &'static str,
    /// Least contrast intended, ΔE00.
    pub least: f64,
    /// Greatest contrast intended, ΔE00.
    pub most: f64,
    /// `in`, `near` or `far`.
    pub stands: &'static str,
}

/// A finding on the palette.
#[derive(Debug, Serialize, ToSchema)]
pub struct FindingView {
    /// The finding as text.
    pub what: String,
    /// The figures behind it.
    pub from: String,
    /// Weight; 0 for information only.
    pub weight: f64,
    /// Zones concerned.
    pub zones: Vec<&'static str>,
}

/// A colour mixed towards that of an adjoining zone.
#[derive(Debug, Serialize, ToSchema)]
pub struct PullView {
    /// Zone to repaint.
    pub zone: &'static str,
    /// `Mix the plinth’s colour towards the case’s: 3 parts to 1`.
    pub words: String,
    /// The resulting pot.
    pub pot: Vec<MixPart>,
    /// The pot in words.
    pub recipe: String,
    /// Contrast of the pair before, ΔE00.
    pub before: f64,
    /// Contrast of the pair afterwards, ΔE00.
    pub after: f64,
}

/// `Case and drawer fronts`.
pub(crate) fn named_together((one, other): (Zone, Zone)) -> String {
    format!("{} and {}", one.name(), other.name().to_lowercase())
}

impl PairView {
    pub(crate) fn of(pair: &Pair) -> Self {
        let (one, other) = pair.zones;
        Self {
            one: one.id(),
            other: other.id(),
            name: named_together(pair.zones),
            length_m: pair.length,
            contrast: pair.contrast,
            intent: pair.intent.id(),
            least: pair.window.0,
            most: pair.window.1,
            stands: match pair.stands() {
                Stands::In => "in",
                Stands::Near => "near",
                Stands::Far => "far",
            },
        }
    }
}

impl From<Finding> for FindingView {
    fn from(finding: Finding) -> Self {
        Self {
            what: finding.what,
            from: finding.from,
            weight: finding.weight,
            zones: finding.zones.iter().map(|zone| zone.id()).collect(),
        }
    }
}

/// The painted zone with the largest area, and the largest of those that differ from it.
fn main_colours_in_lights(zones: &[ZoneSeen]) -> Vec<Vec<Hex>> {
    /// Difference from which two zones count as two colours, ΔE00.
    const DIFFERS: f64 = 5.0;
    let largest = |zones: &mut dyn Iterator<Item = &ZoneSeen>| {
        zones
            .max_by(|a, b| a.extent.area.total_cmp(&b.extent.area))
            .map(|zone| (zone.lab, in_each_light(&zone.seen)))
    };
    let mut painted = zones.iter().filter(|zone| zone.painted);
    let Some((main, main_in)) = largest(&mut painted) else { return Vec::new() };
    let mut others = zones.iter().filter(|zone| zone.painted && difference(zone.lab, main).value() > DIFFERS);
    let second_in = largest(&mut others).map(|(_, lights)| lights);
    let in_light = |n: usize| iter::once(main_in[n]).chain(second_in.map(|lights| lights[n])).collect();
    (0..main_in.len()).map(in_light).collect()
}

impl Room<'_> {
    /// Predicts a scheme; positions of parts refer to pictures of this size. Empty if the piece has no kind yet.
    pub fn predict(
        &self,
        piece: &Piece,
        scheme: &Scheme,
        size: (u32, u32),
        units: Units,
    ) -> Result<PiecePrediction, Refusal> {
        let none = PiecePrediction {
            faces: Vec::new(),
            zones: Vec::new(),
            lights: Vec::new(),
            verdict: PieceVerdict::of(&[], scheme.intent, false),
            pairs: Vec::new(),
            findings: Vec::new(),
            pulls: Vec::new(),
            area_m2: 0.0,
            dimensions: Vec::new(),
        };
        let Some(standing) = self.stand(piece, scheme)? else { return Ok(none) };
        let looked = standing.looked(piece, scheme, self.look);
        let mut pairs = looked.pairs();
        let mut found = looked.findings(units);
        let paints: Vec<_> =
            standing.in_dress.dressed.iter().map(|(zone, worn)| (*zone, worn.paints.clone())).collect();
        found.extend(shared_paint(&paints, |paint| self.shelf.name(paint.0).to_owned()));
        found.sort_by(|a, b| b.weight.total_cmp(&a.weight));
        let elevation = &standing.in_dress.elevation;
        let pulls = self.with(elevation, |wardrobe| pulls(&looked, wardrobe));
        let pulls = pulls.map_err(|error| Refusal::field("/schemes", error))?;
        pairs.sort_by(|a, b| b.off().total_cmp(&a.off()).then(b.contrast.total_cmp(&a.contrast)));
        let area: f64 = standing.zones.iter().map(|seen| seen.extent.area).fold(0.0, |a, b| a + b);
        Ok(PiecePrediction {
            faces: faces(&standing, size)?,
            zones: self.zones(piece, scheme, &standing, area, units),
            lights: main_colours_in_lights(&standing.zones),
            verdict: PieceVerdict::of(&pairs, scheme.intent, standing.zones.iter().any(|seen| seen.painted)),
            pairs: pairs.iter().map(PairView::of).collect(),
            findings: found.into_iter().map(FindingView::from).collect(),
            pulls: pulls.iter().map(|pull| self.pull(pull)).collect(),
            area_m2: area,
            dimensions: dimensions(&standing.in_dress.form, units),
        })
    }

    fn zones(
        &self,
        piece: &Piece,
        scheme: &Scheme,
        standing: &PieceSeen,
        area: f64,
        units: Units,
    ) -> Vec<ZoneView> {
        let hex = |seen: &ZoneSeen| {
            let on_screen = |place| Seen::of(seen.places.at(place), self.look.light).screen.srgb.to_string();
            Place::ALL.map(on_screen).to_vec()
        };
        let painted = || standing.zones.iter().filter(|seen| seen.painted);
        let areas: Vec<f64> = painted().map(|seen| seen.extent.area).collect();
        let percent: BTreeMap<Zone, u32> = painted().map(|seen| seen.zone).zip(percentages(&areas)).collect();
        let takes_after = |zone: Zone| zone.carried_from().filter(|from| standing.extents.contains_key(from));
        standing
            .extents
            .iter()
            .map(|(zone, extent)| {
                let seen = standing.zones.iter().find(|seen| seen.zone == *zone);
                let refused = standing.in_dress.refused.iter().find(|(refused, _)| refused == zone);
                let worn = standing.in_dress.dressed.get(zone);
                ZoneView {
                    zone: zone.id(),
                    name: zone.name(),
                    area_m2: extent.area,
                    area: units.say(Dimension::Area, extent.area),
                    edge_m: extent.edge,
                    edge: units.say(Dimension::Run, extent.edge),
                    share: if area > 0.0 && seen.is_some() { extent.area / area } else { 0.0 },
                    percent: percent.get(zone).copied(),
                    wears: self.words(scheme, *zone),
                    takes_after: takes_after(*zone).map(Zone::name),
                    carried_from: scheme.carried(*zone).map(Zone::name),
                    main: worn.map_or_else(Vec::new, |worn| worn.main.clone()),
                    pots: self.pots_of(scheme, *zone, worn.map_or(&[], |worn| worn.main.as_slice())),
                    stencil: stencil_view(scheme, &standing.in_dress.elevation, *zone, units),
                    pattern_room: PatternRoom::of(&standing.in_dress.elevation, *zone),
                    ground: self.ground_of(piece, scheme, standing, *zone),
                    refused: refused.map(|(_, error)| error.to_string()),
                    seen: seen.map(|seen| Seen::of(&seen.seen, self.look.light).into()),
                    chroma: seen.map(|seen| seen.lab.chroma()),
                    places: seen.map(hex).unwrap_or_default(),
                    colours: seen.map_or_else(Vec::new, |seen| {
                        ShareOfColour::list(&seen.colours, 0.01, self.look.light)
                    }),
                }
            })
            .collect()
    }

    /// Finish of a zone in words.
    fn words(&self, scheme: &Scheme, zone: Zone) -> String {
        let finish = match scheme.dress(zone).map(|dress| &dress.wears) {
            None | Some(Finish::Bare) => "bare".to_owned(),
            Some(Finish::Strip { board, strip }) => match self.boards.get(board) {
                Some(board) if board.strips().len() == 1 => board.name.as_str().to_owned(),
                Some(board) => format!("{}, strip {strip}", board.name.as_str()),
                None => "a missing board".to_owned(),
            },
            Some(Finish::Paint { pot }) => self.shelf.mix_words(pot),
            Some(Finish::Blend { bands, .. }) => format!("a blend of {} colours", bands.len()),
        };
        match scheme.stencil(zone) {
            Some(stencil) => format!("{finish}, with {}", stencil.name().to_lowercase()),
            None => finish,
        }
    }

    pub(crate) fn pull(&self, pull: &Pull) -> PullView {
        let (own, more) = pull.parts;
        let zone = pull.zone.name().to_lowercase();
        PullView {
            zone: pull.zone.id(),
            words: match pull.with {
                With::Neighbour(toward) => {
                    let toward = toward.name().to_lowercase();
                    format!("Mix some of the {toward} colour into the {zone} colour: {own} to {more}")
                }
                With::Paint(paint) => {
                    let calms = self.shelf.name(paint.0);
                    format!("Tone down the {zone} colour with {calms}: {own} to {more}")
                }
            },
            pot: pull.pot.clone(),
            recipe: self.shelf.pot_words(&pull.pot),
            before: pull.contrast.0,
            after: pull.contrast.1,
        }
    }
}

/// A stencilled pattern on a zone, in words.
pub(super) fn stencil_view(
    scheme: &Scheme,
    elevation: &Elevation,
    zone: Zone,
    units: Units,
) -> Option<StencilView> {
    let stencil = scheme.stencil(zone)?;
    let said = |mm: f64| units.say(Dimension::Length, mm);
    let words = |SideSpacing { side, spacing, .. }: &SideSpacing| {
        let Spacing { repeats, gap, end, .. } = spacing;
        let row = match repeats {
            1 => format!("1 repeat, {} at each end", said(*end)),
            _ if *gap == 0.0 && *end < 0.5 => format!("{repeats} repeats that join from end to end"),
            _ if *gap == 0.0 => format!("{repeats} repeats that join, {} at each end", said(*end)),
            _ if (gap - end).abs() < 0.5 => {
                format!("{repeats} repeats, {} between them and at each end", said(*gap))
            }
            _ => format!("{repeats} repeats, {} between them, {} at each end", said(*gap), said(*end)),
        };
        let along = |sides: &str| match repeats {
            1 => format!("1 along {sides}"),
            _ if *gap == 0.0 => format!("{repeats} along {sides}, joined"),
            _ => format!("{repeats} along {sides}, {} apart", said(*gap)),
        };
        match side {
            Side::Middle => row,
            Side::Longer => along("the longer sides"),
            Side::Shorter => along("the shorter sides"),
            Side::Each => along("each side"),
        }
    };
    let marks = |side: &SideSpacing| {
        // The unit once, at the end.
        let unit = format!(" {}", units.unit(Dimension::Length));
        let bare = |mm: f64| said(mm).trim_end_matches(&unit).to_owned();
        let lines: Vec<String> = side.centres().into_iter().map(bare).collect();
        format!("On {}: {}{unit}", said(side.length()), lines.join(", "))
    };
    let spread = stencil.spread(elevation, zone);
    let words: Vec<String> = spread.iter().map(words).collect();
    Some(StencilView {
        size: said(stencil.size),
        gap: stencil.gap.map(said),
        inset: stencil.around.map(|around| said(around.inset)),
        spread: (!words.is_empty()).then(|| words.join("; ")),
        marks: spread.iter().map(marks).collect(),
    })
}

pub(crate) fn dimensions(form: &Form, units: Units) -> Vec<DimensionView> {
    let said = |asks: &FormField| {
        let value = asks.value_in(form);
        if asks.is_count() { value.to_string() } else { units.say(Dimension::Length, value) }
    };
    form.kind.asks().iter().map(|asks| DimensionView { id: asks.id(), said: said(asks) }).collect()
}

fn faces(standing: &PieceSeen, size: (u32, u32)) -> Result<Vec<FaceView>, Refusal> {
    let (width, height) = size;
    let mut faces: Vec<_> = standing.in_dress.elevation.faces.iter().collect();
    faces.sort_by_key(|face| View::ALL.iter().position(|view| *view == face.view));
    faces
        .into_iter()
        .map(|face| {
            let placed = Placed::of(face, width, height).map_err(|error| Refusal::field("?width", error))?;
            Ok(FaceView {
                view: face.view.id(),
                width: face.width,
                height: face.height,
                times: face.times,
                parts: face
                    .parts
                    .iter()
                    .map(|part| PartView { zone: part.zone.id(), at: placed.share(part.rect) })
                    .collect(),
            })
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn pair(zones: (Zone, Zone), contrast: f64, window: (f64, f64)) -> Pair {
        Pair { zones, length: 1.0, contrast, intent: Intent::Quiet, window }
    }

    #[test]
    fn the_verdict_names_what_clashes() {
        let verdict = |pairs: &[Pair]| {
            let PieceVerdict { headline, detail } = PieceVerdict::of(pairs, Intent::Quiet, true);
            [headline, detail]
        };
        let fine = pair((Zone::Case, Zone::Top), 10.0, (0.0, 24.0));
        let far = pair((Zone::Panels, Zone::Mouldings), 33.0, (0.0, 24.0));
        let near = pair((Zone::Case, Zone::Drawers), 2.0, (6.0, 38.0));
        assert_eq!(verdict(&[]), ["Nothing to compare yet", ""]);
        assert_eq!(
            verdict(std::slice::from_ref(&fine)),
            ["It holds together", "All adjoining parts suit a quiet piece."]
        );
        let bare = PieceVerdict::of(std::slice::from_ref(&fine), Intent::Quiet, false);
        assert_eq!(bare.headline, "Nothing painted yet", "bare wood beside bare wood is no harmony");
        let clash = ["Panels and mouldings clash", "Too far apart for a quiet piece."];
        assert_eq!(verdict(&[far.clone(), fine.clone()]), clash);
        let alike = ["Case and drawer fronts look too alike", "Too little contrast for a quiet piece."];
        assert_eq!(verdict(std::slice::from_ref(&near)), alike);
        let both = ["2 pairs of adjoining parts clash", "The worst: panels and mouldings."];
        assert_eq!(verdict(&[far, near, fine]), both);
    }
}
