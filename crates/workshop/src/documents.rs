//! Access to documents within one transaction, for use cases.

use uuid::Uuid;

use crate::{Document, Kept, Revision};

/// The documents of a workspace within one transaction.
pub trait Documents {
    /// Why it could not be.
    type Error;

    /// A document as it is now.
    fn get<T: Document>(&self, id: Uuid) -> Result<Kept<T>, Self::Error>;

    /// The documents of a kind that speak of one, and are not removed.
    fn users<T: Document>(&self, of: Uuid) -> Result<Vec<Kept<T>>, Self::Error>;

    /// Keeps a new one.
    fn make<T: Document>(&mut self, value: T) -> Result<Kept<T>, Self::Error>;

    /// Changes one that was seen at a revision.
    fn change<T: Document>(&mut self, id: Uuid, seen: Revision, value: T) -> Result<Kept<T>, Self::Error>;

    /// Takes one away that was seen at a revision.
    fn remove<T: Document>(&mut self, id: Uuid, seen: Revision) -> Result<(), Self::Error>;
}
