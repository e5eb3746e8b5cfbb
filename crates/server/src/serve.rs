//! Listening on an address of this machine.

use std::io;
use std::net::{Ipv4Addr, SocketAddr};

use tokio::net::TcpListener;
use tokio::task::JoinHandle;

use crate::{Workspace, app};

/// A server that is running.
#[derive(Debug)]
pub struct Served {
    /// Where it listens.
    pub address: SocketAddr,
    task: JoinHandle<io::Result<()>>,
}

/// Why it does not listen.
#[derive(Debug, thiserror::Error)]
pub enum ServeError {
    /// The port is in use.
    #[error(
        "port {0} is taken by another program: choose another with --port N, or --port 0 for any free one"
    )]
    PortTaken(u16),
    /// Anything else the system says.
    #[error("cannot listen on port {port}: {error}")]
    Listen {
        /// The port.
        port: u16,
        /// What the system says.
        error: io::Error,
    },
}

/// Listens on 127.0.0.1; port 0 takes a free one.
pub async fn serve(workspace: Workspace, port: u16) -> Result<Served, ServeError> {
    let listener =
        TcpListener::bind((Ipv4Addr::LOCALHOST, port)).await.map_err(|error| match error.kind() {
            io::ErrorKind::AddrInUse => ServeError::PortTaken(port),
            _ => ServeError::Listen { port, error },
        })?;
    let address = listener.local_addr().map_err(|error| ServeError::Listen { port, error })?;
    let task = tokio::spawn(async move { axum::serve(listener, app(workspace)).await });
    Ok(Served { address, task })
}

impl Served {
    /// What to open in a browser.
    pub fn url(&self) -> String {
        format!("http://{}", self.address)
    }

    /// Serves until the program is asked to stop. Changes are on the disk before they are acknowledged, so there is
    /// nothing to wait for.
    pub async fn until_asked_to_stop(self) {
        asked_to_stop().await;
        self.task.abort();
    }
}

async fn asked_to_stop() {
    #[cfg(unix)]
    {
        use tokio::signal::unix::{SignalKind, signal};
        if let Ok(mut terminate) = signal(SignalKind::terminate()) {
            tokio::select! {
                _ = tokio::signal::ctrl_c() => {}
                _ = terminate.recv() => {}
            }
            return;
        }
    }
    // Without a handler there is no way to be asked: serve until killed.
    if tokio::signal::ctrl_c().await.is_err() {
        std::future::pending::<()>().await;
    }
}
