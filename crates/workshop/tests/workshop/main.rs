//! The use cases, without a file and without HTTP: a made-up shelf, questions, and changes to documents in memory.

mod batches;
mod documents;
mod entries;
mod files;
mod guidance;
mod jars;
mod log;
mod mixing;
mod pile;
mod plans;
mod pots;
mod practising;
mod quotes;
mod searches;
mod shelf;
