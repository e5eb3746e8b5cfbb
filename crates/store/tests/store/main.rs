//! What a workspace file holds to, whatever happens to it.

mod crashes;
mod log;
mod older;
mod workspace;
