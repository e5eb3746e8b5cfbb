//! The workspace file: one SQLite database with everything a painter saves.
//!
//! | part | what it is |
//! |---|---|
//! | [`Store`] | an open file: create, read, change and delete documents |
//! | [`warm_blend_documents::Document`] | what can be saved: a paint, a reading, a mix, the piece, settings |
//! | [`ChangeSet`] | several changes as one step of undo |
//! | [`warm_blend_documents::Kept`] | a document with its id and revision |
//! | [`Store::keep_photo`], [`Store::photo`] | photos that documents refer to |
//! | [`Store::log`], [`Store::pots`] | log lines derived from documents, searchable by words, kind, piece, paint and day
//! |
//! | [`Store::learnt`], [`Store::learnt_from`], [`Store::keep_learnt`] | stored results of learning |
//! | [`HistoryEntry`], [`History`] | what undo and redo would do |
//! | [`Deed`] | idempotency key of a change |
//! | [`SetAside`] | unusable entries of an older file |
//! | [`Store::rescue`], [`Rescued`] | recovery of a damaged file |
//! | [`Store::backup`], [`Store::restore`], [`BackupState`], [`backups_in`], [`check`] | dated copies, and how one takes the place of the file |
//! | [`Store::moment`], [`Store::compare`], [`ChangeSet::merge`] | documents for an archive, and from one |
//! | [`Store::deleted_since`], [`ChangeSet::bring_back`] | the trash |
//! | [`Depth`] | result of a deep check |
//! | [`Notice`] | what the painter should know about the file |
//! | [`OpenError`], [`StoreError`] | errors, in sentences a painter can act on |
//!
//! A change is one transaction: the document, its references and its history are written together or not at all, and are
//! on disk when the call returns. A change based on an outdated revision is refused with [`StoreError::Stale`], which
//! carries the current one, so that neither side is lost. Deleted documents stay in the file, because undo restores them
//! and mixes may still refer to them.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod backup;
mod deed;
mod depth;
mod error;
mod exchange;
mod fields;
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
mod practice;
mod rescue;
mod rows;
mod set_aside;
mod store;
mod trash;
mod written;

pub use backup::{
    Attempt, Backup, BackupError, BackupMade, BackupState, Checked, Restored, back_up, backups_in, check,
};
pub use deed::Deed;
pub use depth::Depth;
pub use error::StoreError;
pub use exchange::{Brought, Comparison, Differing, Merged, Moment, Stays};
pub use history::{ChangeKind, History, HistoryEntry};
pub use notice::Notice;
pub use open::OpenError;
pub use rescue::Rescued;
pub use rusqlite::trace::TraceEvent;

pub use set_aside::SetAside;
pub use store::{ChangeSet, Store};
pub use trash::Deleted;
