//! GIMP palettes: named 8-bit codes.

use warm_blend_learn::{Measured, Source};
use warm_blend_spectral::Srgb;

use crate::{
    sample::{BadFile, PREDICTIONS, Rows, Sample},
    table::hex,
    text::enough,
};

pub(crate) const HEAD: &str = "GIMP Palette";

/// True if the file was written by [`gpl()`].
pub(crate) fn is_ours(text: &str) -> bool {
    text.lines().any(|line| line.strip_prefix('#').is_some_and(|words| words.trim() == PREDICTIONS))
}

pub(crate) fn read(text: &str) -> Result<Rows, BadFile> {
    let mut rows = Rows::default();
    for (i, raw) in text.lines().enumerate().skip(1) {
        let (line, raw) = (i + 1, raw.trim());
        let about = ["#", "Name:", "Columns:", "Channels:"].iter().any(|word| raw.starts_with(word));
        if raw.is_empty() || about {
            continue;
        }
        enough(rows.count(), line)?;
        let name = raw.splitn(4, char::is_whitespace).nth(3).unwrap_or_default();
        rows.take(name, colour(line, raw).map(Some))?;
    }
    rows.or_none("no colours in this palette")
}

fn colour(line: usize, raw: &str) -> Result<Sample, BadFile> {
    let mut rest = raw;
    let mut channel = || {
        let (word, after) = rest.split_once(char::is_whitespace).unwrap_or((rest, ""));
        rest = after.trim_start();
        word.parse::<u8>().map_err(|_| {
            let short: String = word.chars().take(20).collect();
            let what =
                format!("“{short}” is not a colour value; use three numbers from 0 to 255, then the name");
            BadFile::at(line, what)
        })
    };
    let code = Srgb { red: channel()?, green: channel()?, blue: channel()? };
    let name = if rest.is_empty() || rest == "Untitled" { code.to_string() } else { rest.to_owned() };
    let measured = Measured::Colour(code.to_lab());
    Ok(Sample { name, line, measured, source: Source::Chip, notes: Vec::new() })
}

/// Writes predicted colours as 8-bit codes.
pub fn gpl(title: &str, samples: &[(String, Measured)]) -> String {
    let line = |text: &str| text.chars().filter(|c| !c.is_control()).collect::<String>();
    let mut out = format!("{HEAD}\nName: {}\nColumns: 8\n# {PREDICTIONS}\n", line(title));
    for (name, measured) in samples {
        // The code was made by the line above, so it is one.
        if let Ok(Srgb { red, green, blue }) = hex(measured).parse::<Srgb>() {
            out.push_str(&format!("{red:3} {green:3} {blue:3}\t{}\n", line(name)));
        }
    }
    out
}

/// Writes predicted colours as a drawing: one named field each, eight a row.
pub fn svg(title: &str, samples: &[(String, Measured)]) -> String {
    const ROW: usize = 8;
    const FIELD: usize = 120;
    let escaped = |text: &str| {
        let plain: String = text.chars().filter(|c| !c.is_control()).collect();
        quick_xml::escape::escape(plain).into_owned()
    };
    let (width, height) = (ROW * FIELD, samples.len().div_ceil(ROW).max(1) * FIELD);
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width} {height}\" font-family=\"sans-serif\" font-size=\"12\">\n\
         <title>{}</title>\n<desc>{PREDICTIONS}</desc>\n",
        escaped(title)
    );
    for (n, (name, measured)) in samples.iter().enumerate() {
        let (x, y) = (n % ROW * FIELD, n / ROW * FIELD);
        out.push_str(&format!(
            "<rect x=\"{x}\" y=\"{y}\" width=\"{FIELD}\" height=\"96\" fill=\"{}\"/>\n<text x=\"{}\" y=\"{}\">{}</text>\n",
            hex(measured),
            x + 4,
            y + 112,
            escaped(name)
        ));
    }
    out.push_str("</svg>\n");
    out
}
