//! Connections: a limited number, each with time limits.
//!
//! | what | limit |
//! |---|---|
//! | head of a request, and idle time between two | [`Patience::head`] |
//! | body of a request | [`BODY`] |
//! | connections at once | [`Patience::connections`]; one more closes an idle one, or else the oldest |
//! | by TLS: the handshake | [`Patience::head`]; only machines of local networks are answered |

use std::convert::Infallible;
use std::future::Future;
use std::net::SocketAddr;
use std::pin::Pin;
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::Duration;

use axum::Router;
use axum::body::Body;
use axum::response::Response;
use hyper::Request;
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper::service::Service;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::service::TowerToHyperService;
use tokio::io::{AsyncRead, AsyncWrite};
use tokio::net::{TcpListener, TcpStream};
use tokio::task::JoinHandle;
use tokio::time::timeout;
use tokio_rustls::TlsAcceptor;
use warm_blend_network::is_of_local_network;

/// Time limit for the body of a request.
pub const BODY: Duration = Duration::from_secs(60);
/// Pause when the system has no more file handles.
const BREATH: Duration = Duration::from_millis(50);

/// Limits of the server.
#[derive(Debug, Clone, Copy)]
pub struct Patience {
    /// Time limit for the head of a request, from when the connection was opened or last answered.
    pub head: Duration,
    /// Greatest number of connections.
    pub connections: usize,
}

impl Default for Patience {
    /// Ten seconds. A browser holds six connections, a workshop several browsers, and a process has 1024 files by
    /// default.
    fn default() -> Self {
        Self { head: Duration::from_secs(10), connections: 512 }
    }
}

/// Address from which a request comes; in its extensions.
#[derive(Debug, Clone, Copy)]
pub struct Peer(pub SocketAddr);

/// Accepts and serves connections, encrypted where there is an acceptor.
pub async fn serve(listener: TcpListener, app: Router, patience: Patience, tls: Option<TlsAcceptor>) {
    let mut guests: Vec<Guest> = Vec::new();
    loop {
        let Ok((stream, from)) = listener.accept().await else {
            // The client left before it was accepted, or there is no file handle for it.
            tokio::time::sleep(BREATH).await;
            continue;
        };
        if !is_of_local_network(from.ip()) {
            continue;
        }
        guests.retain(|guest| !guest.task.is_finished());
        if guests.len() >= patience.connections {
            let asks_nothing = guests.iter().position(|guest| guest.asks.load(Ordering::Relaxed) == 0);
            guests.remove(asks_nothing.unwrap_or(0));
        }
        guests.push(Guest::of((stream, Peer(from)), app.clone(), patience.head, tls.clone()));
    }
}

/// A connection, closed when dropped.
struct Guest {
    task: JoinHandle<()>,
    /// Requests that are not answered yet.
    asks: Arc<AtomicUsize>,
}

impl Guest {
    fn of((stream, peer): (TcpStream, Peer), app: Router, head: Duration, tls: Option<TlsAcceptor>) -> Self {
        let asks = Arc::new(AtomicUsize::new(0));
        let counted = Counted { app: TowerToHyperService::new(app), asks: Arc::clone(&asks), peer };
        let task = tokio::spawn(async move {
            // Sends small answers at once; if that cannot be set, they arrive a little later.
            drop(stream.set_nodelay(true));
            match tls {
                None => answer(stream, counted, head).await,
                Some(acceptor) => {
                    if let Ok(Ok(stream)) = timeout(head, acceptor.accept(stream)).await {
                        answer(stream, counted, head).await;
                    }
                }
            }
        });
        Self { task, asks }
    }
}

/// Answers the requests of a connection until it ends.
async fn answer(stream: impl AsyncRead + AsyncWrite + Unpin + Send + 'static, app: Counted, head: Duration) {
    let connection = http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(head)
        .serve_connection(TokioIo::new(stream), app);
    // A client that left or keeps silent needs no answer.
    drop(connection.await);
}

impl Drop for Guest {
    fn drop(&mut self) {
        self.task.abort();
    }
}

/// The app, with a count of open requests.
struct Counted {
    app: TowerToHyperService<Router>,
    asks: Arc<AtomicUsize>,
    peer: Peer,
}

impl Service<Request<Incoming>> for Counted {
    type Response = Response<Body>;
    type Error = Infallible;
    type Future = Pin<Box<dyn Future<Output = Result<Self::Response, Infallible>> + Send>>;

    fn call(&self, mut request: Request<Incoming>) -> Self::Future {
        request.extensions_mut().insert(self.peer);
        let (answer, asked) = (self.app.call(request), Asked::of(&self.asks));
        Box::pin(async move {
            let answer = answer.await;
            drop(asked);
            answer
        })
    }
}

/// An open request, counted until it is answered or its connection breaks.
struct Asked(Arc<AtomicUsize>);

impl Asked {
    fn of(asks: &Arc<AtomicUsize>) -> Self {
        asks.fetch_add(1, Ordering::Relaxed);
        Self(Arc::clone(asks))
    }
}

impl Drop for Asked {
    fn drop(&mut self) {
        self.0.fetch_sub(1, Ordering::Relaxed);
    }
}
