//! What is left of pots, in jars.

mod entry;
mod near;
mod view;

pub use entry::{JarEntry, JarTaken};
pub use near::{JarNear, JarsWanted};
pub use view::{JarSignChoice, JarUsed, JarView, JarsView, held_in_jars};
