//! Collecting what is wrong with several fields, so that all of it is said at once.

use crate::problem::{FieldError, Problem};

/// Field errors found so far.
#[derive(Debug, Default)]
pub struct Checks {
    errors: Vec<FieldError>,
}

impl Checks {
    /// The value of a field, or None with its error noted.
    pub fn field<T, E: ToString>(&mut self, pointer: impl Into<String>, value: Result<T, E>) -> Option<T> {
        match value {
            Ok(value) => Some(value),
            Err(error) => {
                self.errors.push(FieldError { pointer: pointer.into(), detail: error.to_string() });
                None
            }
        }
    }

    /// The same for a field that may be left out.
    pub fn optional<T, E: ToString>(
        &mut self,
        pointer: impl Into<String>,
        value: Option<Result<T, E>>,
    ) -> Option<T> {
        value.and_then(|value| self.field(pointer, value))
    }

    /// What was put together, if nothing was wrong. It is made only where every field it needs was there.
    pub fn done<T>(self, value: Option<T>) -> Result<T, Problem> {
        match value {
            Some(value) if self.errors.is_empty() => Ok(value),
            _ => Err(Problem::invalid(self.errors)),
        }
    }
}
