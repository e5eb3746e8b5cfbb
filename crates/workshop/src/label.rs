//! Label of a pot: a short code, and a QR code that any reader shows as plain text.

use qrcode::{Color, EcLevel, QrCode};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// A paint on a label.
#[derive(Debug, Serialize, ToSchema)]
pub struct LabelPart {
    /// Its name.
    pub name: String,
    /// Whole parts.
    pub parts: u32,
    /// Amount, ml.
    pub ml: f64,
    /// Amount as text.
    pub amount: String,
}

/// Six letters and digits that cannot be confused (Crockford's base 32), from the random part of the id.
pub fn code(id: Uuid) -> String {
    const ALPHABET: &[u8; 32] = b"0123456789ABCDEFGHJKMNPQRSTVWXYZ";
    let bits = id.as_u128() as u32;
    (0..6).rev().map(|i| char::from(ALPHABET[(bits >> (5 * i)) as usize % 32])).collect()
}

/// The record as a few plain lines, readable without this program.
pub fn text(
    name: Option<&str>,
    parts: &[LabelPart],
    total: &str,
    day: &str,
    place: Option<&str>,
    code: &str,
) -> String {
    let recipe: Vec<String> = parts.iter().map(|part| format!("{} {}", part.parts, part.name)).collect();
    let mut lines = vec![name.unwrap_or("Unnamed mix").to_owned(), recipe.join(" : ")];
    lines.push(format!("{total}, {day}"));
    lines.extend(place.map(str::to_owned));
    lines.push(format!("record {code}"));
    lines.join("\n")
}

/// A QR code (ISO/IEC 18004, error correction M, or L for long texts): number of modules along a side, and the dark ones
/// as an SVG path. `None` if the text is too long.
pub fn square(text: &str) -> Option<(usize, String)> {
    let made = QrCode::with_error_correction_level(text, EcLevel::M)
        .or_else(|_| QrCode::with_error_correction_level(text, EcLevel::L))
        .ok()?;
    let size = made.width();
    let mut path = String::new();
    for (y, row) in made.to_colors().chunks(size).enumerate() {
        let mut x = 0;
        while x < size {
            let run = row[x..].iter().take_while(|module| **module == Color::Dark).count();
            if run > 0 {
                path.push_str(&format!("M{x} {y}h{run}v1h-{run}z"));
            }
            x += run.max(1);
        }
    }
    Some((size, path))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_square_has_its_three_finders() {
        let (size, path) = square("3 dove grey : 1 night blue").unwrap();
        assert!(size >= 21 && (size - 21).is_multiple_of(4));
        // ISO/IEC 18004: a finder is seven modules wide, in three of the corners.
        for corner in ["M0 0h7v1".to_owned(), format!("M{} 0h7v1", size - 7), format!("M0 {}h7v1", size - 7)]
        {
            assert!(path.contains(&corner), "{corner} in {path}");
        }
        assert!(square(&"x".repeat(5000)).is_none());
    }

    #[test]
    fn a_code_has_six_plain_letters() {
        let one = code(Uuid::from_u128(0x0199_0000_0000_7000_8000_0000_3fff_ffff));
        assert_eq!(one, "ZZZZZZ");
        assert_ne!(code(Uuid::now_v7()), code(Uuid::now_v7()));
    }
}
