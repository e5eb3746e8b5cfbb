//! What a workspace file holds to, whatever happens to it.

mod backups;
mod crashes;
mod exchange;
mod log;
mod older;
mod workspace;
