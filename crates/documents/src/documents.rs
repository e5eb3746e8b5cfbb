//! Access to documents within one transaction, for use cases.

use uuid::Uuid;

use crate::document::{Document, Kept, Revision};

/// The documents of a workspace within one transaction.
pub trait Documents {
    /// Error of a document operation.
    type Error;

    /// Reads a document.
    fn get<T: Document>(&self, id: Uuid) -> Result<Kept<T>, Self::Error>;

    /// Documents of a kind that refer to one and are not deleted.
    fn users<T: Document>(&self, of: Uuid) -> Result<Vec<Kept<T>>, Self::Error>;

    /// Creates a document.
    fn make<T: Document>(&mut self, value: T) -> Result<Kept<T>, Self::Error>;

    /// Changes a document that has the revision seen.
    fn change<T: Document>(&mut self, id: Uuid, seen: Revision, value: T) -> Result<Kept<T>, Self::Error>;

    /// Deletes a document that has the revision seen.
    fn remove<T: Document>(&mut self, id: Uuid, seen: Revision) -> Result<(), Self::Error>;
}
