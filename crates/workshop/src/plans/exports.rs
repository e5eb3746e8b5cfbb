//! Exports of a run sheet: calendar and tables.

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_interchange::{CalendarEvent, calendar, csv};
use warm_blend_plan::plus_minutes;

use super::planning::Planned;
use super::telling::quarter;
use crate::{Export, Refusal};

impl Planned<'_> {
    /// An export by name: `calendar`, `shopping`, `record.csv` or `record.json`.
    pub fn file(&self, file: &str, piece: Uuid, now: Timestamp) -> Result<Export, Refusal> {
        match file {
            "calendar" => Ok(self.calendar(piece, now)),
            "shopping" => self.shopping(),
            "record.csv" => self.record_table(),
            "record.json" => self.record_json(),
            _ => {
                let words = "no such file; use calendar, shopping, record.csv or record.json";
                Err(Refusal::Unknown(words.to_owned()))
            }
        }
    }

    /// The remaining work as a calendar, with an event for each stretch.
    fn calendar(&self, piece: Uuid, now: Timestamp) -> Export {
        let name = self.piece.name.as_str();
        let events: Vec<CalendarEvent> = self
            .in_order()
            .flat_map(|(step, when)| {
                let zones: Vec<&str> = step.zones.iter().map(|zone| zone.name()).collect();
                let pots: String = self.pots_of(&step.work).map(|pot| format!("\n{pot}")).collect();
                when.stretches.iter().enumerate().filter(|(_, (from, to))| from < to).map(
                    move |(n, (from, to))| CalendarEvent {
                        uid: format!("{piece}-{}-{n}@warm-blend", step.id),
                        begins: quarter(*from),
                        // No event is shorter than a quarter of an hour.
                        ends: quarter(*to).max(plus_minutes(quarter(*from), 15.0)),
                        title: format!("{}: {name}", self.name(&step.work)),
                        notes: format!("{}{pots}", zones.join(", ")),
                    },
                )
            })
            .collect();
        let bytes = calendar(name, &events, now).into_bytes();
        Export { kind: "text/calendar; charset=utf-8", name: "run-sheet.ics", bytes }
    }

    /// The shopping list with costs, as a table.
    fn shopping(&self) -> Result<Export, Refusal> {
        let head = ["product", "needed_ml", "in_stock_ml", "packs", "pack_ml", "cost", "left_ml"];
        let number = |value: f64| format!("{value:.0}");
        let rows: Vec<Vec<String>> = self
            .shopping_list()
            .iter()
            .map(|row| {
                vec![
                    row.name.clone(),
                    number(row.needed),
                    number(row.stock),
                    row.packs.map(|packs| packs.to_string()).unwrap_or_default(),
                    row.pack.map(number).unwrap_or_default(),
                    row.cost.map(|cost| format!("{cost:.2}")).unwrap_or_default(),
                    number(row.left),
                ]
            })
            .collect();
        let bytes = csv(&head, &rows).map_err(|_| Refusal::Broken)?;
        Ok(Export { kind: "text/csv; charset=utf-8", name: "shopping.csv", bytes })
    }
}
