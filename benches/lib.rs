//! Nothing but benches: see `engine.rs`. Run with `make bench`.
