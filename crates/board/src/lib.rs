//! The sample board: layers over a ground, in strips that share their lower layers, predicted before a brush is wet.
//!
//! | question | where |
//! |---|---|
//! | what is a board, and which one cannot be? | [`Board`], [`Strip`], [`Layer`], [`BadBoard`] |
//! | what does a technique leave, and where? | [`Technique`], [`Deposit`], [`Place`] |
//! | what is seen where layers cover only in part? | [`Stack`], [`PlaceSeen`] |
//! | what soaks into bare wood and bare paint? | [`Soaks`] |
//! | how sure is that? | [`bands`] |
//! | how does this painter's hand differ? | [`HandBias`], [`LearnedHand`], [`learn_hand`] |
//! | what can be started from? | [`Template`] |
//! | which order of layers fails, and what is the remedy? | [`advice`](advice()), [`Advice`] |
//! | what saves a coat? | [`undercoat`](undercoat()), [`coats_over`] |
//! | it went wrong: what now? | [`RemedySearch`], [`Defect`] |
//! | how would another school do it? | [`RemedySearch`], [`other_ways`], [`School`] |
//! | what must people take care of? | [`cautions`](cautions()), [`cautions_of`], [`Caution`] |

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod caution;
mod document;
mod doubt;
mod grit;
mod ground;
mod habit;
mod hand;
mod motif;
mod place;
mod remedies;
mod rules;
mod school;
mod soak;
mod stack;
mod technique;
mod template;
mod texture;
mod undercoat;
mod way;

pub use caution::{Caution, TakeCare, cautions, cautions_of};
pub use document::{
    BadBoard, Board, Branch, KnownTin, Layer, LayerId, Letter, MeetsLayer, Strip, below_the_wax,
};
pub use doubt::{Varies, bands, bands_if};
pub use grit::{Grit, NotAGrit};
pub use ground::{Ground, GroundKind, Wood};
pub use habit::HandBias;
pub use hand::{BadReading, BoardJudgement, BoardReading, BoardSpot, LearnedHand, Taught, learn_hand};
pub use motif::Motif;
pub use place::{ByPlace, FLAT, Place, Share};
pub use remedies::{Defect, LayerChange, Remedy, RemedySearch};
pub use rules::{Advice, AdviceFix, Severity, advice};
pub use school::{AnotherWay, School, other_ways};
pub use soak::{Below, Soaks};
pub use stack::{AreaState, LAYERS, Meets, PlaceSeen, Present, Split, Stack, distinct_colours, lab};
pub use technique::{
    Application, Deposit, Family, Load, NotAFilm, NotATexture, NotPasses, Passes, Technique, TextureDepth,
};
pub use template::{Filled, Lacks, OnShelf, Skill, Template, thinned};
pub use texture::Level;
pub use undercoat::{Covering, Undercoat, coats_over, undercoat};
pub use way::{Dispute, Way};
