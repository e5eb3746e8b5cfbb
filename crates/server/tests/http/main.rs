//! Stories through HTTP, each over a server and a workspace of its own.

mod bench;
mod guards;
mod predict;
mod workshop;
