//! Drives the real interface in headless Chromium, by roles and labels, on a server of its own.
//!
//! Elements are found in the browser's accessibility tree by the role and name that a screen reader would announce, and
//! waited for. Chromium and ChromeDriver are Debian's (`make test` installs them).

mod hand;
mod line;
mod painter;
mod pressing;
pub mod strings;

pub use hand::Hand;
pub use line::{Line, Mishap};
pub use painter::Painter;
