//! Warm Blend over HTTP, with its front end inside.
//!
//! | part | what it is |
//! |---|---|
//! | [`app()`] | every route, behind the guards: what the binary serves and the tests use |
//! | [`serve()`] | the app on an address of this machine, until it is stopped |
//! | [`openapi()`] | description of the interface, generated from the types |
//! | [`demo`] | the demo workspace |
//! | [`simulated_scale`] | the simulated scale |
//!
//! A handler parses, calls one function of the crates below, and maps the result. It contains no rule of the job.

mod app;
mod archives;
mod backups;
mod body;
mod connections;
pub mod demo;
mod demo_offer;
mod demo_server;
mod device;
mod door;
mod easel;
mod front;
mod guard;
mod kinds;
mod network;
mod off_thread;
mod once;
mod photos;
mod pictures;
mod problem;
mod raw;
mod recent;
mod routes;
mod scale;
mod serve;
mod shelf_cache;
pub mod simulated_scale;
mod state;
mod to_disk;
mod upload_limits;
mod who;
mod wire;

pub use app::{app, openapi};
pub use connections::Patience;
pub use demo_server::{Demo, offer_demo};
pub use serve::{ServeError, Served, Stop, serve, serve_network, serve_with};
pub use state::Workspace;
