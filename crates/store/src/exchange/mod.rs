//! Documents on their way to another workspace, and from one.

mod merge;
mod moment;

pub use merge::{Brought, Comparison, Differing, Merged, Stays};
pub use moment::Moment;
