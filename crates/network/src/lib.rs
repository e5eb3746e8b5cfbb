//! Who may reach a workspace over the workshop's network, and how they can tell that it is the right one.
//!
//! | question | where |
//! |---|---|
//! | which certificate does this machine have? | [`Identity`], [`Fingerprint`] |
//! | under which addresses is it found, and by whom? | [`own_names`], [`is_of_local_network`] |
//! | how is somebody let in? | [`Registry::invite`], [`Registry::join`] |
//! | who is asking? | [`Registry::visitor`], [`Visitor`], [`Access`] |
//! | what is kept, and where? | [`Registry`], one file beside the workspace, readable by its owner only |
//!
//! Nothing here listens or sends: the server does.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod fingerprint;
mod guesses;
mod identity;
mod invitation;
mod names;
mod registry;
mod session;

pub use fingerprint::Fingerprint;
pub use identity::{BadCertificate, Identity};
pub use invitation::{Code, Invitation};
pub use names::{is_of_local_network, own_names};
pub use registry::{Registry, RegistryError};
pub use session::{Access, NotLetIn, Session, Token, Visitor};
