//! Refusals and faulty fields, collected so that all faults are shown at once.

use uuid::Uuid;
use warm_blend_board::BadBoard;
use warm_blend_piece::BadPiece;

/// A faulty field.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fault {
    /// JSON pointer (RFC 6901) into the input, such as `/components/0/parts`; `?light` for a query parameter.
    pub pointer: String,
    /// Problem and remedy.
    pub detail: String,
}

/// Why something was refused.
#[derive(Debug, Clone, PartialEq)]
pub enum Refusal {
    /// Invalid input.
    Faults(Vec<Fault>),
    /// The situation has changed since the request was prepared.
    Stale(String),
    /// A device has not delivered what is needed.
    Device(String),
    /// A file that cannot be read.
    File(String),
    /// A file whose reflectances may be percent, with the largest of them.
    Percent(f64),
    /// A file that does not state the origin of its L\*a\*b\* values.
    Source,
    /// Something that does not exist.
    Unknown(String),
    /// A reference to a tin that does not exist.
    NoTin(Uuid),
    /// An internal contradiction, reported instead of a panic.
    Broken,
}

impl Refusal {
    /// A refusal of one field.
    pub fn field(pointer: impl Into<String>, detail: impl ToString) -> Self {
        Self::Faults(vec![Fault { pointer: pointer.into(), detail: detail.to_string() }])
    }

    /// The same refusal of what stands within another field.
    pub(crate) fn within(self, at: &str) -> Self {
        let inside = |fault: Fault| Fault { pointer: format!("{at}{}", fault.pointer), ..fault };
        match self {
            Self::Faults(faults) => Self::Faults(faults.into_iter().map(inside).collect()),
            other => other,
        }
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

/// Shortens a text for a message.
pub(crate) fn shown(text: &str) -> String {
    text.chars().take(40).collect()
}

/// Faults found so far.
#[derive(Debug, Default)]
pub struct Checks {
    faults: Vec<Fault>,
}

impl Checks {
    /// Value of a field, or `None` after noting its error.
    pub fn field<T, E: ToString>(&mut self, pointer: impl Into<String>, value: Result<T, E>) -> Option<T> {
        match value {
            Ok(value) => Some(value),
            Err(error) => {
                self.faults.push(Fault { pointer: pointer.into(), detail: error.to_string() });
                None
            }
        }
    }

    /// Notes an error in a field.
    pub fn wrong<T>(&mut self, pointer: impl Into<String>, words: impl ToString) -> Option<T> {
        self.field(pointer, Err(words))
    }

    /// Value of an optional field, or `None` after noting its error.
    pub fn optional<T, E: ToString>(
        &mut self,
        pointer: impl Into<String>,
        value: Option<Result<T, E>>,
    ) -> Option<T> {
        value.and_then(|value| self.field(pointer, value))
    }

    /// The result, unless errors were noted; present whenever all required fields were valid.
    pub fn done<T>(self, value: Option<T>) -> Result<T, Refusal> {
        match value {
            Some(value) if self.faults.is_empty() => Ok(value),
            _ => Err(Refusal::Faults(self.faults)),
        }
    }
}
