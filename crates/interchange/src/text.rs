//! Bytes as text: UTF-8, with or without a byte order mark.

use crate::BadFile;

/// Largest file of readings or paints, bytes.
pub const LARGEST_FILE: usize = 8 << 20;
/// Greatest number of samples in a file.
pub(crate) const MOST_SAMPLES: usize = 5000;

pub(crate) fn text(bytes: &[u8]) -> Result<&str, BadFile> {
    if bytes.is_empty() {
        return Err(BadFile::Whole("the file is empty: choose another".to_owned()));
    }
    if bytes.len() > LARGEST_FILE {
        let what = format!(
            "file too large ({} MB); the most is {} MB. Split it",
            bytes.len() >> 20,
            LARGEST_FILE >> 20
        );
        return Err(BadFile::Whole(what));
    }
    if bytes.starts_with(b"PK\x03\x04") || bytes.starts_with(&[0x1f, 0x8b]) {
        return Err(BadFile::Whole(
            "this is a compressed archive: unpack it and choose the file inside".to_owned(),
        ));
    }
    const PICTURES: [&[u8]; 6] = [b"\x89PNG", b"\xff\xd8\xff", b"GIF8", b"RIFF", b"II*\0", b"MM\0*"];
    if PICTURES.iter().any(|head| bytes.starts_with(head)) || bytes.get(4..8) == Some(b"ftyp") {
        let what = "this is a picture, not a table: choose the file that your reader or spreadsheet saved. Colours are picked out of \
                    a photo in the Pot, at its target";
        return Err(BadFile::Whole(what.to_owned()));
    }
    if bytes.starts_with(&[0xff, 0xfe]) || bytes.starts_with(&[0xfe, 0xff]) {
        return Err(BadFile::Whole("this is UTF-16 text; save it as UTF-8".to_owned()));
    }
    let bytes = bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes);
    std::str::from_utf8(bytes).map_err(|error| {
        let line = bytes[..error.valid_up_to()].iter().filter(|byte| **byte == b'\n').count() + 1;
        BadFile::at(line, "not UTF-8 text; save the file as UTF-8")
    })
}

/// Parses a number with a decimal point, or with a comma if the file uses commas.
pub(crate) fn number(text: &str, commas: bool) -> Option<f64> {
    let text = text.trim();
    let value = if commas && !text.contains('.') { text.replace(',', ".").parse() } else { text.parse() };
    value.ok().filter(|value: &f64| value.is_finite())
}

pub(crate) fn enough(samples: usize, line: usize) -> Result<(), BadFile> {
    if samples >= MOST_SAMPLES {
        return Err(BadFile::at(line, format!("more than {MOST_SAMPLES} samples: split the file")));
    }
    Ok(())
}
