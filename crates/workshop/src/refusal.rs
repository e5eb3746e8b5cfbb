//! Why something cannot be done, and the faults of what was entered, so that all of them are shown at once.

use uuid::Uuid;
use warm_blend_board::BadBoard;
use warm_blend_piece::BadPiece;

/// One field at fault.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fault {
    /// JSON pointer (RFC 6901) into what was entered, such as `/components/0/parts`; `?light` for what was asked in the address.
    pub pointer: String,
    /// What is wrong with it and what to write instead.
    pub detail: String,
}

/// Why something cannot be done.
#[derive(Debug, Clone, PartialEq)]
pub enum Refusal {
    /// Some of what was entered cannot be.
    Faults(Vec<Fault>),
    /// It was so when it was asked for and is not any more.
    Stale(String),
    /// A device has not said what is needed.
    Device(String),
    /// A file that cannot be read.
    File(String),
    /// A file whose reflectances may be percent: the largest of them.
    Percent(f64),
    /// A file that does not say what its L\*a\*b\* were taken with.
    Source,
    /// There is no such thing.
    Unknown(String),
    /// Something speaks of a tin that is not in the file.
    NoTin(Uuid),
    /// The program contradicts itself: reported instead of a panic.
    Broken,
}

impl Refusal {
    /// A field that makes no sense.
    pub fn field(pointer: impl Into<String>, detail: impl ToString) -> Self {
        Self::Faults(vec![Fault { pointer: pointer.into(), detail: detail.to_string() }])
    }
}

impl From<BadBoard> for Refusal {
    fn from(error: BadBoard) -> Self {
        Self::field(error.pointer(), error)
    }
}

impl From<BadPiece> for Refusal {
    fn from(BadPiece { pointer, message }: BadPiece) -> Self {
        Self::field(pointer, message)
    }
}

/// As much of a text as a message repeats.
pub(crate) fn shown(text: &str) -> String {
    text.chars().take(40).collect()
}

/// Faults that were found so far.
#[derive(Debug, Default)]
pub struct Checks {
    faults: Vec<Fault>,
}

impl Checks {
    /// The value of a field, or None with its error noted.
    pub fn field<T, E: ToString>(&mut self, pointer: impl Into<String>, value: Result<T, E>) -> Option<T> {
        match value {
            Ok(value) => Some(value),
            Err(error) => {
                self.faults.push(Fault { pointer: pointer.into(), detail: error.to_string() });
                None
            }
        }
    }

    /// Notes what is wrong with a field.
    pub fn wrong<T>(&mut self, pointer: impl Into<String>, words: impl ToString) -> Option<T> {
        self.field(pointer, Err(words))
    }

    /// The value of a field that may be left out, or None with its error noted.
    pub fn optional<T, E: ToString>(
        &mut self,
        pointer: impl Into<String>,
        value: Option<Result<T, E>>,
    ) -> Option<T> {
        value.and_then(|value| self.field(pointer, value))
    }

    /// What was put together, if nothing was wrong. It is made only where every field it needs was there.
    pub fn done<T>(self, value: Option<T>) -> Result<T, Refusal> {
        match value {
            Some(value) if self.faults.is_empty() => Ok(value),
            _ => Err(Refusal::Faults(self.faults)),
        }
    }
}
