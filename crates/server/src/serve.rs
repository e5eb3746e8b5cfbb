//! Listening on an address of this machine.

use std::io;
use std::net::{Ipv4Addr, SocketAddr};

use tokio::net::TcpListener;
#[cfg(unix)]
use tokio::signal::unix::{Signal, SignalKind, signal};
use tokio::task::JoinHandle;

use crate::app::doors;
use crate::connections::{self, Patience};
use crate::{Workspace, app};

/// A running server, until it is dropped.
#[derive(Debug)]
pub struct Served {
    /// Its address.
    pub address: SocketAddr,
    task: JoinHandle<()>,
}

/// Why it cannot listen.
#[derive(Debug, thiserror::Error)]
pub enum ServeError {
    /// The port is in use.
    #[error("port {0} is in use; choose another with --port N, or --port 0 for any free one")]
    PortTaken(u16),
    /// Any other error of the system.
    #[error("cannot listen on port {port}: {error}")]
    Listen {
        /// The port.
        port: u16,
        /// Message of the system.
        error: io::Error,
    },
}

/// Listens on 127.0.0.1; port 0 means any free port.
pub async fn serve(workspace: Workspace, port: u16) -> Result<Served, ServeError> {
    serve_with(workspace, port, Patience::default()).await
}

/// Serves the workspace on the network too, if the painter has turned that on.
pub async fn serve_network(workspace: &Workspace) {
    workspace.network.start(&doors(workspace.clone())).await;
}

/// Listens on 127.0.0.1 with other limits.
pub async fn serve_with(workspace: Workspace, port: u16, patience: Patience) -> Result<Served, ServeError> {
    let listener =
        TcpListener::bind((Ipv4Addr::LOCALHOST, port)).await.map_err(|error| match error.kind() {
            io::ErrorKind::AddrInUse => ServeError::PortTaken(port),
            _ => ServeError::Listen { port, error },
        })?;
    let address = listener.local_addr().map_err(|error| ServeError::Listen { port, error })?;
    let task = tokio::spawn(connections::serve(listener, app(workspace), patience, None));
    Ok(Served { address, task })
}

impl Served {
    /// URL to open in a browser.
    pub fn url(&self) -> String {
        format!("http://{}", self.address)
    }

    /// Serves until the program is asked to stop. Changes are on disk before they are acknowledged, so there is nothing
    /// to wait for.
    pub async fn until(self, stop: Stop) {
        stop.asked().await;
    }
}

impl Drop for Served {
    fn drop(&mut self) {
        self.task.abort();
    }
}

/// A request to stop: Ctrl-C, a signal of the system, or a closed terminal. Listens from its creation, so the program can
/// be stopped as soon as its address is printed.
#[derive(Debug)]
pub struct Stop {
    #[cfg(unix)]
    heard: Option<[Signal; 3]>,
}

impl Stop {
    /// Begins to listen.
    pub fn listen() -> Self {
        Self {
            #[cfg(unix)]
            heard: [SignalKind::interrupt(), SignalKind::terminate(), SignalKind::hangup()]
                .map(signal)
                .into_iter()
                .collect::<Result<Vec<_>, _>>()
                .ok()
                .and_then(|heard| heard.try_into().ok()),
        }
    }

    async fn asked(self) {
        #[cfg(unix)]
        if let Some([mut interrupt, mut terminate, mut hangup]) = self.heard {
            tokio::select! {
                _ = interrupt.recv() => {}
                _ = terminate.recv() => {}
                _ = hangup.recv() => {}
            }
            return;
        }
        // Without a signal handler the program can only be killed.
        if tokio::signal::ctrl_c().await.is_err() {
            std::future::pending::<()>().await;
        }
    }
}
