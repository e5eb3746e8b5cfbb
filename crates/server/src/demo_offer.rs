//! The demo beside a painter's own workspace: at an address of its own, and discarded when the program stops.

use std::{fmt, future::Future, pin::Pin, sync::Arc};

use tokio::sync::Mutex;

use crate::problem::Problem;

/// Starts a demo for a visitor from this address.
type Start = fn(String) -> Pin<Box<dyn Future<Output = Result<Running, Problem>> + Send>>;

/// A running demo. Dropping it stops it and deletes its file.
pub struct Running {
    /// Its address.
    pub url: String,
    /// Everything that must live as long as the demo.
    #[expect(dead_code, reason = "held only to be dropped")]
    pub held: Box<dyn Send>,
}

/// The relation of a workspace to the demo.
#[derive(Clone, Default)]
pub enum LookRound {
    /// The demo is not offered.
    #[default]
    Nothing,
    /// The demo can be started, or is running.
    Offered(Start, Arc<Mutex<Option<Running>>>),
    /// This is the demo; the visitor's own workspace is at this address.
    Visited {
        /// Address of the visitor's own workspace.
        back: String,
    },
}

impl LookRound {
    /// Address of the demo, which is started if necessary; `None` if it is not offered.
    pub async fn visit(&self, back: String) -> Result<Option<String>, Problem> {
        let Self::Offered(start, running) = self else { return Ok(None) };
        let mut running = running.lock().await;
        if running.is_none() {
            *running = Some(start(back).await?);
        }
        Ok(running.as_ref().map(|running| running.url.clone()))
    }
}

impl fmt::Debug for LookRound {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::Nothing => "Nothing",
            Self::Offered(..) => "Offered",
            Self::Visited { .. } => "Visited",
        })
    }
}
