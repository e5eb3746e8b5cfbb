//! CGATS.17 text: keywords, a line of field names, and a line for each sample.
//!
//! ```text
//! CGATS.17
//! ILLUMINATION_NAME "D65"
//! BEGIN_DATA_FORMAT
//! SAMPLE_NAME LAB_L LAB_A LAB_B nm380 … nm730
//! END_DATA_FORMAT
//! BEGIN_DATA
//! "oat white" 88.9 0.2 12.1 0.31 … 0.79
//! END_DATA
//! ```
//!
//! (ANSI CGATS.17:2009; ISO 28178.) If a sample has both, its spectrum is used.

use warm_blend_learn::{Measured, Source};
use warm_blend_spectral::{BANDS, wavelength};

use crate::{
    sample::{BadFile, MAKER, Rows, Sample, Samples, Told, Viewing, curve},
    text::{enough, number},
};

/// The words of a line; quoted ones may hold spaces, and quotes that are doubled.
fn words(line: &str) -> Vec<String> {
    let mut words = Vec::new();
    let mut rest = line.trim();
    while !rest.is_empty() {
        if let Some(quoted) = rest.strip_prefix('"') {
            let mut word = String::new();
            let mut after = quoted;
            loop {
                let end = after.find('"').unwrap_or(after.len());
                word.push_str(&after[..end]);
                after = after.get(end + 1..).unwrap_or("");
                match after.strip_prefix('"') {
                    Some(more) => {
                        word.push('"');
                        after = more;
                    }
                    None => break,
                }
            }
            words.push(word);
            rest = after.trim_start();
        } else {
            let end = rest.find(char::is_whitespace).unwrap_or(rest.len());
            words.push(rest[..end].to_owned());
            rest = rest[end..].trim_start();
        }
    }
    words
}

/// What a field holds.
enum Field {
    Id,
    Name,
    Lab(usize),
    Band(f64),
    Other,
}

fn field(name: &str) -> Field {
    let upper = name.to_ascii_uppercase();
    match upper.as_str() {
        "SAMPLE_ID" | "SAMPLEID" => return Field::Id,
        "SAMPLE_NAME" => return Field::Name,
        "LAB_L" => return Field::Lab(0),
        "LAB_A" => return Field::Lab(1),
        "LAB_B" => return Field::Lab(2),
        _ => {}
    }
    // `SPECTRAL_NM380`, `SPECTRAL_380`, `NM380`, `R_380`, as instruments write them.
    let digits = ["SPECTRAL_NM_", "SPECTRAL_NM", "SPECTRAL_", "NM_", "NM", "R_"]
        .iter()
        .find_map(|prefix| upper.strip_prefix(prefix))
        .and_then(|digits| digits.parse::<f64>().ok());
    match digits {
        Some(nm) if (300.0..=830.0).contains(&nm) => Field::Band(nm),
        _ => Field::Other,
    }
}

/// True if the file was written by [`cgats()`] of any version.
pub(crate) fn is_ours(text: &str) -> bool {
    text.lines()
        .take_while(|line| line.trim() != "BEGIN_DATA")
        .any(|line| matches!(&words(line)[..], [key, value, ..] if key == "ORIGINATOR" && value == MAKER))
}

pub(crate) fn read(text: &str, told: Told) -> Result<Rows, BadFile> {
    let (mut illuminant, mut observer) = (String::new(), String::new());
    let (mut fields, mut rows) = (Vec::new(), Rows::default());
    let mut within = "";
    let mut last = 0;
    for (i, raw) in text.lines().enumerate() {
        let line = i + 1;
        last = line;
        let raw = raw.trim();
        if raw.is_empty() || raw.starts_with('#') {
            continue;
        }
        match raw {
            "BEGIN_DATA_FORMAT" => within = "format",
            "BEGIN_DATA" if fields.is_empty() => {
                return Err(BadFile::at(
                    line,
                    "BEGIN_DATA_FORMAT is missing: field names must come before the data",
                ));
            }
            "BEGIN_DATA" => within = "data",
            "END_DATA_FORMAT" | "END_DATA" => within = "",
            _ if within == "format" => fields.extend(words(raw).iter().map(|name| field(name))),
            _ if within == "data" => {
                enough(rows.count(), line)?;
                // The light is that of all rows.
                let viewing = Viewing::named(&illuminant, &observer)
                    .map_err(|what| BadFile::Whole(format!("line {line}: {what}")))?;
                let words = words(raw);
                let named = fields.iter().position(|field| matches!(field, Field::Name));
                let name = named.and_then(|at| words.get(at)).map_or("", String::as_str);
                rows.take(name, sample(&words, &fields, viewing, told, line).map(Some))?;
            }
            _ => {
                let words = words(raw);
                let value = words.get(1).cloned().unwrap_or_default();
                match words[0].as_str() {
                    "ILLUMINATION_NAME" | "ILLUMINANT" | "MEASUREMENT_ILLUMINANT" => illuminant = value,
                    "OBSERVER" | "OBSERVER_ANGLE" | "STANDARD_OBSERVER" => observer = value,
                    _ => {}
                }
            }
        }
    }
    if within == "data" {
        return Err(BadFile::at(last, "incomplete file: END_DATA is missing"));
    }
    rows.or_none("no samples: BEGIN_DATA … END_DATA is missing or empty")
}

fn sample(
    words: &[String],
    fields: &[Field],
    viewing: Viewing,
    told: Told,
    line: usize,
) -> Result<Sample, BadFile> {
    if words.len() != fields.len() {
        let what = format!(
            "{} values for {} fields; is a name with spaces missing its quotes?",
            words.len(),
            fields.len()
        );
        return Err(BadFile::at(line, what));
    }
    let (mut id, mut name, mut lab, mut points) = (None, None, [None; 3], Vec::new());
    for (word, field) in words.iter().zip(fields) {
        let value =
            || number(word, true).ok_or_else(|| BadFile::at(line, format!("“{word}” is not a number")));
        match field {
            Field::Id => id = Some(word.clone()),
            Field::Name => name = Some(word.clone()),
            Field::Lab(i) => lab[*i] = Some(value()?),
            Field::Band(nm) => points.push((*nm, value()?)),
            Field::Other => {}
        }
    }
    let mut notes = Vec::new();
    let measured = match lab {
        _ if !points.is_empty() => Measured::spectrum(curve(line, &points, told, &mut notes)?),
        [Some(l), Some(a), Some(b)] => Measured::Colour(viewing.to_daylight([l, a, b], line, &mut notes)?),
        _ => {
            return Err(BadFile::at(line, "no colour: export a spectrum, or LAB_L, LAB_A, LAB_B"));
        }
    };
    let name = name.or(id).filter(|name| !name.trim().is_empty()).unwrap_or_else(|| format!("sample {line}"));
    Ok(Sample { name, line, measured, source: Source::Reader, notes })
}

/// Writes samples: Lab in daylight and, if all have one, the spectrum.
pub fn cgats(what: Samples, samples: &[(String, Measured)]) -> String {
    let statement = what.statement();
    let spectra = samples.iter().all(|(_, measured)| matches!(measured, Measured::Spectrum(_)));
    let mut out = format!(
        "CGATS.17\nORIGINATOR \"{MAKER}\"\nDESCRIPTOR \"{statement}\"\nILLUMINATION_NAME \"D65\"\nOBSERVER \"2\"\n"
    );
    let mut names = vec![
        "SAMPLE_ID".to_owned(),
        "SAMPLE_NAME".to_owned(),
        "LAB_L".to_owned(),
        "LAB_A".to_owned(),
        "LAB_B".to_owned(),
    ];
    if spectra {
        names.extend((0..BANDS).map(|i| format!("nm{}", wavelength(i))));
    }
    out.push_str(&format!(
        "NUMBER_OF_FIELDS {}\nBEGIN_DATA_FORMAT\n{}\nEND_DATA_FORMAT\n",
        names.len(),
        names.join("\t")
    ));
    out.push_str(&format!("NUMBER_OF_SETS {}\nBEGIN_DATA\n", samples.len()));
    for (i, (name, measured)) in samples.iter().enumerate() {
        let lab = measured.lab();
        let plain: String = name.chars().filter(|c| !c.is_control()).collect();
        let quoted = plain.replace('"', "\"\"");
        out.push_str(&format!("{}\t\"{quoted}\"\t{:.4}\t{:.4}\t{:.4}", i + 1, lab.l, lab.a, lab.b));
        if let (true, Measured::Spectrum(bands)) = (spectra, measured) {
            for r in bands.bands() {
                out.push_str(&format!("\t{r:.6}"));
            }
        }
        out.push('\n');
    }
    out.push_str("END_DATA\n");
    out
}
