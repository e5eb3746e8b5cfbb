//! The workspace file: one SQLite database that holds everything a painter keeps.
//!
//! | part | what it is |
//! |---|---|
//! | [`Store`] | an open file: make, read, change and remove documents |
//! | [`Document`] | what can be kept: a paint, a reading, a mix, the piece, the workshop's choices |
//! | [`ChangeSet`] | several changes at once, undone at once |
//! | [`Kept`] | a document with its id and revision |
//! | [`Store::keep_photo`], [`Store::photo`] | photos that documents speak of |
//! | [`Store::log`], [`Store::pots`] | the lines that documents tell of what was done, found by words, kind, piece, paint and day |
//! | [`Store::learnt`], [`Store::learnt_from`], [`Store::keep_learnt`] | what was learnt of the readings, so that it need not be learnt again |
//! | [`HistoryEntry`], [`History`] | what undo and redo would do |
//! | [`Deed`] | the key of a change that may be asked for again |
//! | [`SetAside`] | entries of an older file that name what cannot be |
//! | [`Store::rescue`], [`Rescued`] | what can be read of a damaged file, in a new one |
//! | [`Depth`] | what a look over all of a file found |
//! | [`Notice`] | what whoever works with the file should know |
//! | [`OpenError`], [`StoreError`] | what went wrong, in a sentence a painter can act on |
//!
//! A change is one transaction: the document, what it refers to, and the history of it are written together or not at
//! all, and are on the disk when the call returns. A change made to an older revision than the one kept is refused
//! with [`StoreError::Stale`], which carries the kept one, so that neither side is lost. Removed documents stay in the
//! file, because undo brings them back and mixes may still speak of them.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod deed;
mod depth;
mod error;
mod history;
mod kinship;
mod learnt;
mod log;
mod log_pages;
mod migrate;
mod notice;
mod on_disk;
mod open;
mod photos;
mod rescue;
mod rows;
mod set_aside;
mod store;
mod written;

pub use deed::Deed;
pub use depth::Depth;
pub use error::StoreError;
pub use history::{ChangeKind, History, HistoryEntry};
pub use notice::Notice;
pub use open::OpenError;
pub use rescue::Rescued;
pub use rusqlite::trace::TraceEvent;

pub use set_aside::SetAside;
pub use store::{ChangeSet, Store};
pub use warm_blend_workshop::{Document, Id, Kept, Revision};
