//! The record for the client: layers and pots on the piece, care and touching up.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::FLAT;
use warm_blend_interchange::csv;
use warm_blend_plan::{Laid, Lying, Spot, TouchedUp, care_card};

use super::planning::Planned;
use crate::{Export, Refusal, scheme_of};

/// Record of a piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceRecord {
    /// Name of the piece.
    pub piece: String,
    /// Client.
    pub client: Option<String>,
    /// The chosen scheme.
    pub scheme: String,
    /// False if work remains: the record shows what was done so far.
    pub finished: bool,
    /// Parts.
    pub zones: Vec<ZoneRecord>,
    /// Spots mended since, earliest first.
    pub touched_up: Vec<TouchedUpView>,
    /// Care instructions.
    pub care: Vec<&'static str>,
}

/// Record of a zone.
#[derive(Debug, Serialize, ToSchema)]
pub struct ZoneRecord {
    /// `Drawer fronts` …
    pub zone: &'static str,
    /// Layers, lowest first.
    pub layers: Vec<LayerRecord>,
}

/// A mended spot of the record.
#[derive(Debug, Serialize, ToSchema)]
pub struct TouchedUpView {
    /// `Drawer fronts, a chip`.
    pub words: String,
    /// How it came out.
    pub note: Option<String>,
    /// Time, RFC 3339.
    pub at: String,
}

/// A layer of the record.
#[derive(Debug, Serialize, ToSchema)]
pub struct LayerRecord {
    /// How it was applied.
    pub how: String,
    /// Contents of the pot.
    pub pot: Option<String>,
    /// Time, RFC 3339.
    pub at: String,
    /// The painter's note.
    pub note: Option<String>,
    /// Amount that mends a spot the size of a palm: `1.4 ml`; absent if it takes paint away.
    pub mends: Option<String>,
}

fn touched_up(TouchedUp { zone, spot, note, at, .. }: &TouchedUp) -> TouchedUpView {
    TouchedUpView {
        words: format!("{}, {}", zone.name(), spot.words()),
        note: note.as_ref().map(|note| note.as_str().to_owned()),
        at: at.to_string(),
    }
}

impl Planned<'_> {
    /// Record of a piece from its finished steps, whatever its scheme is now.
    pub fn record(&self) -> Result<PieceRecord, Refusal> {
        let tins = |paint| self.product(paint);
        let mends = |laid: &Laid| {
            let put_on = !laid.technique.takes_away();
            let ml = Spot::Palm.square_metres() * laid.technique.ml_by_square_metre(laid.hand, &FLAT);
            put_on.then(|| self.asked.units.say_drop(ml))
        };
        let record = |lying: &Lying, how: String, laid: Option<&Laid>| LayerRecord {
            how,
            pot: laid.and_then(|laid| self.pot(laid)),
            at: lying.at.to_string(),
            note: lying.note.as_ref().map(|note| note.as_str().to_owned()),
            mends: laid.and_then(mends),
        };
        let layers = |lying: &Lying| match lying.work.layers() {
            [] => vec![record(lying, self.name(&lying.work), None)],
            layers => layers.iter().map(|laid| record(lying, self.layer_name(laid), Some(laid))).collect(),
        };
        let zones = self.on.zones().filter(|(_, on)| !on.lies().is_empty());
        let zones = zones.map(|(zone, on)| ZoneRecord {
            zone: zone.name(),
            layers: on.lies().iter().flat_map(layers).collect(),
        });
        let lies = self.on.zones().map(|(_, on)| on.lies().iter().map(|lying| &lying.work).collect());
        Ok(PieceRecord {
            piece: self.piece.name.as_str().to_owned(),
            client: self.piece.brief.client.as_ref().map(|client| client.as_str().to_owned()),
            scheme: scheme_of(self.piece, None)?.name.as_str().to_owned(),
            finished: self.steps.is_empty(),
            zones: zones.collect(),
            touched_up: self.sheet.touched_up.iter().map(touched_up).collect(),
            care: care_card(lies, &tins),
        })
    }

    /// The record as a table.
    pub(super) fn record_table(&self) -> Result<Export, Refusal> {
        let head = ["part", "layer", "how", "pot", "at", "note", "mends_a_palm"];
        let record = self.record()?;
        let rows = record.zones.iter().flat_map(|zone| {
            zone.layers.iter().enumerate().map(|(n, layer)| {
                let text = |text: &Option<String>| text.clone().unwrap_or_default();
                vec![
                    zone.zone.to_owned(),
                    (n + 1).to_string(),
                    layer.how.clone(),
                    text(&layer.pot),
                    layer.at.clone(),
                    text(&layer.note),
                    text(&layer.mends),
                ]
            })
        });
        let bytes = csv(&head, &rows.collect::<Vec<_>>()).map_err(|_| Refusal::Broken)?;
        Ok(Export { kind: "text/csv; charset=utf-8", name: "record.csv", bytes })
    }

    /// The record as JSON.
    pub(super) fn record_json(&self) -> Result<Export, Refusal> {
        let bytes = serde_json::to_vec_pretty(&self.record()?).map_err(|_| Refusal::Broken)?;
        Ok(Export { kind: "application/json", name: "record.json", bytes })
    }
}
