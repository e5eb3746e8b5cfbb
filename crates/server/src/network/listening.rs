//! Listening on the network, by TLS.

use std::io;
use std::net::Ipv4Addr;
use std::sync::Arc;

use axum::Router;
use tokio::net::TcpListener;
use tokio::task::JoinHandle;
use tokio_rustls::TlsAcceptor;
use warm_blend_network::Identity;

use crate::connections::{self, Patience};

/// Connections at once: those of the network never use up those of this machine.
const CONNECTIONS: usize = 256;

/// Makes all routes for machines of the network, behind this identity.
#[derive(Clone)]
pub struct Doors(Arc<dyn Fn(Arc<Identity>) -> Router + Send + Sync>);

impl Doors {
    /// From what makes them.
    pub fn new(make: impl Fn(Arc<Identity>) -> Router + Send + Sync + 'static) -> Self {
        Self(Arc::new(make))
    }
}

/// A listener and its connections, until it ends.
#[derive(Debug)]
pub struct Listening {
    port: u16,
    identity: Arc<Identity>,
    task: JoinHandle<()>,
}

impl Listening {
    /// Listens on all IPv4 addresses of this machine; machines that are not of a local network are not answered.
    pub async fn begin(port: u16, identity: Identity, doors: &Doors) -> Result<Self, String> {
        let listener =
            TcpListener::bind((Ipv4Addr::UNSPECIFIED, port)).await.map_err(|error| match error.kind() {
                io::ErrorKind::AddrInUse => format!("port {port} is in use; choose another, such as 7844"),
                io::ErrorKind::PermissionDenied => {
                    format!("the system does not allow port {port}; choose one from 1024 to 65535")
                }
                _ => format!("can’t listen on port {port}: {error}"),
            })?;
        let config = identity.server_config().map_err(|error| error.to_string())?;
        let tls = TlsAcceptor::from(Arc::new(config));
        let identity = Arc::new(identity);
        let app = (doors.0)(Arc::clone(&identity));
        let patience = Patience { connections: CONNECTIONS, ..Patience::default() };
        let task = connections::serve(listener, app, patience, Some(tls));
        Ok(Self { port, identity, task: tokio::spawn(task) })
    }

    /// Its port.
    pub fn port(&self) -> u16 {
        self.port
    }

    /// Its certificate.
    pub fn identity(&self) -> &Identity {
        &self.identity
    }

    /// Ends it and its connections; the port is free afterwards.
    pub async fn end(self) {
        self.task.abort();
        // It was aborted.
        drop(self.task.await);
    }
}
