//! A sample board or a piece as pixels, from the physics of its layers.
//!
//! | question | where |
//! |---|---|
//! | what is the board carved like? | [`Relief::panelled`] |
//! | and a piece? | `shapes` |
//! | which pixel is field, recess or edge? | `places` |
//! | which way does a brush go on a part? | `brushed` |
//! | what does a technique's mark look like? | `marks` |
//! | where on the tile of a mark is a pixel? | `on_tile` |
//! | what is its rank in the mark of a layer? | `press` |
//! | where does a mark end? | `rims` |
//! | how high does a coat's texture stand there? | `rough` |
//! | which layers lie at a pixel? | `masks` |
//! | what colour is that? | `colours` |
//! | where does the light come from? | [`Lamp`], [`Shading`] |
//! | and what is in its way? | `shadows` |
//! | how many times is a pixel drawn? | [`Fineness`] |
//! | all of it | [`draw`], [`Front::draw`], [`Coats`], [`Picture`] |
//!
//! The picture says what the engine says: at each kind of place every state of the layers takes exactly its share of the
//! pixels, and with the shading off the mean colour is the one seen from across the room. What is drawn beyond that, the
//! shape of a mark, how a film pools within it, the grain, averages out.
//!
//! Everything is a function of its arguments: the same board is the same picture.
//!
//! What this crate leaves out: which layers there are (that is the board of `warm-blend-board`), and how a picture
//! travels. The board's relief is one invented piece of panelling, and a piece's is generic, not the painter's.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod blurred;
mod brushed;
mod coats;
mod colours;
mod counted;
mod draw;
mod fineness;
mod front;
mod grid;
mod lamp;
mod lay;
mod marks;
mod masks;
mod on_tile;
mod picture;
mod placed;
mod places;
mod plate;
mod press;
mod relief;
mod rims;
mod rough;
mod shadows;
mod shapes;
mod table;

pub use coats::Coats;
pub use draw::draw;
pub use fineness::Fineness;
pub use front::Front;
pub use lamp::{Lamp, Shading};
pub use marks::make_ready;
pub use picture::Picture;
pub use placed::{Closer, Placed};
pub use relief::{BadSize, Relief};
