//! A connection between page and program that can be made faulty.

use std::convert::Infallible;
use std::net::SocketAddr;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use axum::body::{Body, Bytes, to_bytes};
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper::service::service_fn;
use hyper::{Method, Request, Response, header};
use hyper_util::rt::TokioIo;
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::mpsc;
use tokio::task::JoinHandle;
use tokio_stream::wrappers::ReceiverStream;

/// Fate of a request.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Mishap {
    /// It never arrives.
    LoseRequest,
    /// It is carried out, but its answer is lost.
    LoseAnswer,
    /// It is carried out, but its answer is cut off.
    BreakAnswer,
    /// Something in between answers instead of the program.
    Answer(u16),
    /// The answer is delayed.
    Late(Duration),
}

type Judge = dyn Fn(&Method, &str) -> Option<Mishap> + Send + Sync;

/// A connection that exists until dropped.
pub struct Line {
    address: SocketAddr,
    ends: Arc<Ends>,
    task: JoinHandle<()>,
}

struct Ends {
    program: Mutex<SocketAddr>,
    judge: Mutex<Arc<Judge>>,
    client: reqwest::Client,
}

/// The connection ends here.
#[derive(Debug, thiserror::Error)]
#[error("the line is cut")]
struct Cut;

impl Line {
    /// A connection to a program, without faults.
    pub async fn to(program: SocketAddr) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").await.expect("a port");
        let address = listener.local_addr().expect("an address");
        let ends = Arc::new(Ends {
            program: Mutex::new(program),
            judge: Mutex::new(Arc::new(|_: &Method, _: &str| None)),
            client: reqwest::Client::new(),
        });
        let shared = Arc::clone(&ends);
        let task = tokio::spawn(async move {
            while let Ok((stream, _)) = listener.accept().await {
                tokio::spawn(carry(stream, Arc::clone(&shared)));
            }
        });
        Self { address, ends, task }
    }

    /// URL for the page.
    pub fn url(&self) -> String {
        format!("http://{}", self.address)
    }

    /// Decides the fate of each request from now on by its method and path.
    pub fn fails(&self, judge: impl Fn(&Method, &str) -> Option<Mishap> + Send + Sync + 'static) {
        *self.ends.judge.lock().unwrap_or_else(PoisonError::into_inner) = Arc::new(judge);
    }

    /// Lets everything arrive from now on.
    pub fn works(&self) {
        self.fails(|_, _| None);
    }

    /// Connects to another program from now on.
    pub fn leads_to(&self, program: SocketAddr) {
        *self.ends.program.lock().unwrap_or_else(PoisonError::into_inner) = program;
    }
}

impl Drop for Line {
    fn drop(&mut self) {
        self.task.abort();
    }
}

async fn carry(stream: TcpStream, ends: Arc<Ends>) {
    let service = service_fn(move |request| {
        let ends = Arc::clone(&ends);
        async move { ends.answer(request).await }
    });
    // A cut line ends in an error, as it should.
    drop(http1::Builder::new().serve_connection(TokioIo::new(stream), service).await);
}

impl Ends {
    async fn answer(&self, request: Request<Incoming>) -> Result<Response<Body>, Cut> {
        let path = request.uri().path().to_owned();
        let judge = Arc::clone(&self.judge.lock().unwrap_or_else(PoisonError::into_inner));
        match judge(request.method(), &path) {
            None => self.forward(request).await,
            Some(Mishap::LoseRequest) => Err(Cut),
            Some(Mishap::LoseAnswer) => {
                self.forward(request).await?;
                Err(Cut)
            }
            Some(Mishap::BreakAnswer) => {
                let (parts, _) = self.forward(request).await?.into_parts();
                let broken = [Ok(Bytes::from_static(b"{\"id\": ")), Err(std::io::Error::other(Cut))];
                Ok(Response::from_parts(parts, Body::from_stream(tokio_stream::iter(broken))))
            }
            Some(Mishap::Answer(status)) => {
                Response::builder().status(status).body(Body::from("something in between")).map_err(|_| Cut)
            }
            Some(Mishap::Late(by)) => {
                let answer = self.forward(request).await;
                tokio::time::sleep(by).await;
                answer
            }
        }
    }

    async fn forward(&self, request: Request<Incoming>) -> Result<Response<Body>, Cut> {
        let (parts, body) = request.into_parts();
        let body = to_bytes(Body::new(body), usize::MAX).await.map_err(|_| Cut)?;
        let program = *self.program.lock().unwrap_or_else(PoisonError::into_inner);
        let asked = self.client.request(parts.method, format!("http://{program}{}", parts.uri));
        let mut answer = asked.headers(parts.headers).body(body).send().await.map_err(|_| Cut)?;
        let mut shown = Response::builder().status(answer.status());
        for (name, value) in answer.headers() {
            if name != header::TRANSFER_ENCODING && name != header::CONTENT_LENGTH {
                shown = shown.header(name, value);
            }
        }
        // Piece by piece: a stream of events has no end.
        let (piece, pieces) = mpsc::channel::<Result<Bytes, Infallible>>(8);
        tokio::spawn(async move {
            while let Ok(Some(next)) = answer.chunk().await {
                if piece.send(Ok(next)).await.is_err() {
                    break;
                }
            }
        });
        shown.body(Body::from_stream(ReceiverStream::new(pieces))).map_err(|_| Cut)
    }
}
