//! Export of the shelf.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_documents::{Kept, KeptLine};
use warm_blend_interchange::{Samples, cgats, csv, cxf, gpl, hex, svg};
use warm_blend_learn::{LoggedReading, Measured, ShelfPaint};
use warm_blend_paint::{CoatsToHide, Masstone, Price, SavedMix};

use crate::{Refusal, ShelfSnapshot};

/// A whole shelf as JSON, in the form in which it is saved.
#[derive(Debug, Serialize, Deserialize)]
pub(crate) struct WholeShelf {
    pub format: WholeShelfForm,
    pub paints: Vec<WithId<ShelfPaint>>,
    pub readings: Vec<WithId<LoggedReading>>,
}

/// Version of the format; others are refused.
#[derive(Debug, Serialize, Deserialize)]
pub(crate) enum WholeShelfForm {
    #[serde(rename = "warm-blend shelf 1")]
    First,
}

#[derive(Debug, Serialize, Deserialize)]
pub(crate) struct WithId<T> {
    pub id: Uuid,
    #[serde(flatten)]
    pub value: T,
}

/// An exported file.
#[derive(Debug)]
pub struct Export {
    /// Media type.
    pub kind: &'static str,
    /// Suggested name.
    pub name: &'static str,
    /// Contents.
    pub bytes: Vec<u8>,
}

impl ShelfSnapshot {
    /// Exports the shelf: `cgats` and `cxf` contain a predicted spectrum and Lab of every paint, marked as predictions;
    /// `csv` the tins as entered; `gpl` a palette of this title; `json` all paints and readings.
    pub fn export(&self, format: &str, title: &str, now: Timestamp) -> Result<Export, Refusal> {
        let text = |kind, name, text: String| Export { kind, name, bytes: text.into_bytes() };
        Ok(match format {
            "cgats" => text(
                "text/plain; charset=utf-8",
                "shelf.cgats.txt",
                cgats(Samples::Predictions, &self.predicted()?),
            ),
            "cxf" => {
                let bytes = cxf(Samples::Predictions, &self.predicted()?, &now.to_string())
                    .map_err(|_| Refusal::Broken)?;
                Export { kind: "application/xml", name: "shelf.cxf", bytes }
            }
            "gpl" => text("text/plain; charset=utf-8", "shelf.gpl", gpl(title, &self.predicted()?)),
            "csv" => {
                let bytes = table(self.tins()).map_err(|_| Refusal::Broken)?;
                Export { kind: "text/csv; charset=utf-8", name: "shelf.csv", bytes }
            }
            "json" => {
                let bytes = serde_json::to_vec_pretty(&self.whole()).map_err(|_| Refusal::Broken)?;
                Export { kind: "application/json", name: "shelf.json", bytes }
            }
            _ => {
                let detail = "not a valid format; use cgats, cxf, csv, gpl or json";
                return Err(Refusal::Unknown(detail.to_owned()));
            }
        })
    }

    /// The workspace for other programs, as it stands beside the documents in an archive.
    pub fn for_other_programs(
        &self,
        title: &str,
        now: Timestamp,
        mixes: &[Kept<SavedMix>],
        log: &[KeptLine],
    ) -> Result<Vec<Export>, Refusal> {
        let (spectra, colours): (Vec<_>, Vec<_>) =
            self.read_samples().partition(|(_, measured)| matches!(measured, Measured::Spectrum(_)));
        let text = |kind, name, text: String| Export { kind, name, bytes: text.into_bytes() };
        let cgats =
            |name, samples| text("text/plain; charset=utf-8", name, cgats(Samples::Readings, samples));
        let table = |name, head: &[&str], rows: Vec<Vec<String>>| {
            let bytes = csv(head, &rows).map_err(|_| Refusal::Broken)?;
            Ok::<_, Refusal>(Export { kind: "text/csv; charset=utf-8", name, bytes })
        };
        let named = |mix: &Kept<SavedMix>| {
            let name = mix.value.name.as_ref().map(|name| name.as_str().to_owned());
            vec![name.unwrap_or_default(), self.pot_words(mix.value.components()), mix.made_at.to_string()]
        };
        let line = |line: &KeptLine| {
            vec![line.at.to_string(), line.kind.id().to_owned(), line.words.clone(), line.detail.clone()]
        };
        let mut files = vec![
            self.export("csv", title, now)?,
            self.export("gpl", title, now)?,
            text("image/svg+xml", "shelf.svg", svg(title, &self.predicted()?)),
            cgats("spectra.cgats.txt", &spectra),
            cgats("colours.cgats.txt", &colours),
            table("mixes.csv", &["name", "parts", "made_at"], mixes.iter().map(named).collect())?,
            table("log.csv", &["at", "kind", "what", "detail"], log.iter().map(line).collect())?,
        ];
        let readings = [spectra, colours].concat();
        let bytes = cxf(Samples::Readings, &readings, &now.to_string()).map_err(|_| Refusal::Broken)?;
        files.push(Export { kind: "application/xml", name: "readings.cxf", bytes });
        Ok(files)
    }

    /// What was measured of real samples, by what they are of.
    fn read_samples(&self) -> impl Iterator<Item = (String, Measured)> {
        let real = self.readings().filter(|(kept, _)| !kept.value.is_practice());
        real.flat_map(|(kept, _)| {
            let reading = &kept.value.reading;
            let of = self.reading_words(reading);
            reading.measured().map(|measured| (of.clone(), measured.clone())).collect::<Vec<_>>()
        })
    }

    /// Predicted curve of every paint.
    fn predicted(&self) -> Result<Vec<(String, Measured)>, Refusal> {
        let paints = self.tins().filter(|tin| !tin.value.class.is_medium());
        let curve = |tin: &Kept<ShelfPaint>| {
            let masstone = self.paint(tin.id)?.best().masstone();
            Ok((tin.value.name.as_str().to_owned(), Measured::spectrum(masstone)))
        };
        paints.map(curve).collect()
    }

    fn whole(&self) -> WholeShelf {
        WholeShelf {
            format: WholeShelfForm::First,
            paints: self.tins().map(|tin| WithId { id: tin.id, value: tin.value.clone() }).collect(),
            readings: self
                .readings()
                .map(|(kept, _)| WithId { id: kept.id, value: kept.value.clone() })
                .collect(),
        }
    }
}

fn table<'a>(tins: impl Iterator<Item = &'a Kept<ShelfPaint>>) -> Result<Vec<u8>, impl std::fmt::Debug> {
    let head = [
        "name",
        "class",
        "hex",
        "L",
        "a",
        "b",
        "source",
        "coats_to_hide",
        "price",
        "tin_ml",
        "left_ml",
        "condition",
    ];
    let number = |value: Option<f64>| value.map(|value| value.to_string()).unwrap_or_default();
    let row = |tin: &Kept<ShelfPaint>| {
        let tin = &tin.value;
        let lab = tin.masstone.map(Masstone::lab);
        let shown = lab.map(|lab| hex(&Measured::Colour(lab))).unwrap_or_default();
        let rounded = |value: f64| (value * 100.0).round() / 100.0;
        vec![
            tin.name.as_str().to_owned(),
            tin.class.id().to_owned(),
            shown,
            number(lab.map(|lab| rounded(lab.l))),
            number(lab.map(|lab| rounded(lab.a))),
            number(lab.map(|lab| rounded(lab.b))),
            tin.source.id().to_owned(),
            number(tin.coats_to_hide.map(CoatsToHide::value)),
            number(tin.price.map(Price::amount)),
            number(tin.price.map(|price| price.tin().value())),
            number(tin.stock.map(|stock| stock.value())),
            tin.condition.id().to_owned(),
        ]
    };
    csv(&head, &tins.map(row).collect::<Vec<_>>())
}
