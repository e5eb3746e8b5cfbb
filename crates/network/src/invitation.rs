//! The code with which one machine is let in.

use jiff::{SignedDuration, Timestamp};
use uuid::Uuid;
use warm_blend_paint::Name;

use crate::{Access, guesses::MOST};

/// How long a code is valid.
pub(crate) const VALID: SignedDuration = SignedDuration::from_mins(10);

/// Numbers that a code can be.
const CODES: u32 = 100_000_000;

/// Eight figures, drawn at random.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Code(u32);

impl Code {
    pub(crate) fn draw() -> Result<Self, getrandom::Error> {
        loop {
            let drawn = getrandom::u32()?;
            // The rest would make some codes likelier than others.
            if drawn < u32::MAX / CODES * CODES {
                return Ok(Self(drawn % CODES));
            }
        }
    }

    /// Reads a code as people type it: spaces and hyphens do not count.
    pub fn read(typed: &str) -> Option<Self> {
        let figures: String = typed.chars().filter(|c| !c.is_whitespace() && *c != '-').collect();
        let is_code = figures.len() == 8 && figures.bytes().all(|b| b.is_ascii_digit());
        is_code.then(|| figures.parse().ok().map(Self)).flatten()
    }

    /// In two groups: `0419 2277`.
    pub fn shown(self) -> String {
        format!("{:04} {:04}", self.0 / 10_000, self.0 % 10_000)
    }
}

/// An open invitation.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Invitation {
    /// Its id, which is that of the session it leads to.
    pub id: Uuid,
    /// Who is invited.
    pub name: Name,
    /// As what.
    pub role: Access,
    /// The code.
    pub code: Code,
    /// Until when it is valid.
    pub until: Timestamp,
    /// Wrong codes so far.
    pub wrong: u32,
}

impl Invitation {
    /// Whether it can still be accepted.
    pub fn is_open(&self, now: Timestamp) -> bool {
        now < self.until && self.wrong < MOST
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn codes_are_read_as_they_are_shown() {
        for number in [0, 7, 4_192_277, CODES - 1] {
            assert_eq!(Code::read(&Code(number).shown()), Some(Code(number)));
        }
        assert_eq!(Code::read("0419-2277"), Some(Code(4_192_277)));
        for bad in ["", "1234567", "123456789", "+1234567", "1234567x", "١٢٣٤٥٦٧٨", "-1234567"] {
            assert_eq!(Code::read(bad), None, "{bad}");
        }
    }

    #[test]
    fn codes_are_spread_over_all_figures() {
        // 4000 codes of 8 figures: each of the ten figures 3200 times, standard deviation 54.
        let codes: String = (0..4000).map(|_| Code::draw().unwrap().shown().replace(' ', "")).collect();
        for figure in '0'..='9' {
            let count = codes.chars().filter(|c| *c == figure).count();
            assert!((2870..3530).contains(&count), "{figure}: {count}");
        }
    }
}
