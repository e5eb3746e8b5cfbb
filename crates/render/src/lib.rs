//! Pictures of a sample board or a piece, from the physics of their layers.
//!
//! | question | where |
//! |---|---|
//! | relief of a sample board | [`Relief::panelled`] |
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
//! | what is the shape of a piece in space? | `solid` |
//! | from a corner | [`Corner`] |
//! | on a photo | [`OnPhoto`]; where its faces are: [`MarkedPhoto`]; what light falls on it: `photo_light` |
//! | all of it | [`draw`], [`Front::draw`], [`Coats`], [`Picture`] |
//!
//! The picture agrees with the engine: at each kind of place every state of the layers covers exactly its share of the
//! pixels, and without shading the mean colour is that seen from across the room. Everything else that is drawn (the
//! shape of a mark, pooling within it, grain) averages out.
//!
//! Pictures are deterministic: the same board always gives the same picture.
//!
//! The layers come from `warm-blend-board`; encoding and transport of pictures are elsewhere. The relief of a board is an
//! invented panel, and that of a piece is generic.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod between;
mod blurred;
mod broad_grain;
mod brushed;
mod camera;
mod coats;
mod colours;
mod corner;
mod counted;
mod draw;
mod fineness;
mod flat;
mod front;
mod grid;
mod in_view;
mod lamp;
mod lay;
mod marked;
mod marks;
mod masks;
mod old_surface;
mod on_photo;
mod on_tile;
mod photo_carving;
mod photo_cover;
mod photo_light;
mod photo_pixel;
mod photo_surface;
mod picture;
mod placed;
mod places;
mod plate;
mod press;
mod proportions;
mod relief;
mod rims;
mod rough;
mod seen_parts;
mod shadows;
mod shapes;
mod solid;
mod space;
mod stage;
mod table;
mod unpainted;

pub use camera::Viewpoint;
pub use coats::Coats;
pub use corner::Corner;
pub use draw::draw;
pub use fineness::Fineness;
pub use front::Front;
pub use in_view::SeenPoint;
pub use lamp::{Lamp, Shading};
pub use marked::{BadMarks, MarkedPhoto, face_corners};
pub use marks::make_ready;
pub use on_photo::{OnPhoto, Worn};
pub use photo_carving::SeenCarving;
pub use picture::Picture;
pub use placed::{Closer, Placed};
pub use proportions::Proportions;
pub use relief::{BadSize, Relief};
pub use seen_parts::SeenPart;
pub use stage::Stage;
