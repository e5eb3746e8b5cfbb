//! A demo to look round in: a workspace of its own beside the painter's, at an address of its own, discarded when the program
//! stops.

use std::{fmt, future::Future, pin::Pin, sync::Arc};

use tokio::sync::Mutex;

use crate::problem::Problem;

/// Starts a demo that says where its visitor came from, and gives what holds it and its address.
type Start = fn(String) -> Pin<Box<dyn Future<Output = Result<Running, Problem>> + Send>>;

/// A demo that is running: it ends, and its file goes, when this is dropped.
pub struct Running {
    /// Where it is.
    pub url: String,
    /// What ends with it.
    #[expect(dead_code, reason = "held only to be dropped")]
    pub held: Box<dyn Send>,
}

/// What a workspace has to do with a demo.
#[derive(Clone, Default)]
pub enum LookRound {
    /// None is offered.
    #[default]
    Nothing,
    /// It can be started, and was perhaps.
    Offered(Start, Arc<Mutex<Option<Running>>>),
    /// This is the demo, and there is the workspace that its visitor came from.
    Visited {
        /// The address to go back to.
        back: String,
    },
}

impl LookRound {
    /// The address of the demo, which is started if it is not running yet; None where none is offered.
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
