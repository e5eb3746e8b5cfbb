//! Stories through HTTP, each over a server and a workspace of its own.

mod archives;
mod bench;
mod boards;
mod doors;
mod files;
mod guards;
mod guide;
mod interface;
mod jars;
mod jobs;
mod log;
mod network;
mod once;
mod piece;
mod plans;
mod pours;
mod predict;
mod quotes;
mod readings;
mod recipes;
mod references;
mod together;
mod workshop;
