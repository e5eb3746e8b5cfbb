//! Idempotency: a change requested twice under one key is made once and answered the same both times.
//!
//! A request that changes something may carry a key (`Idempotency-Key`, a UUID; IETF draft
//! draft-ietf-httpapi-idempotency-key-header-07). A client that never received the answer repeats the request with the
//! same key and gets the same answer while this program runs. The key is stored in the file in the transaction of the
//! change, so that a program killed in between does not make the change twice either: it then answers that the change was
//! saved (`urn:warm-blend:done`).

use std::{future::Future, sync::Arc};

use axum::body::{Body, Bytes, to_bytes};
use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, StatusCode};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use quick_cache::{Weighter, sync::Cache};
use tokio::sync::OnceCell;
use uuid::Uuid;
use warm_blend_store::Deed;

use crate::{problem::Problem, who::Who};

/// Header with the key.
pub const KEY: HeaderName = HeaderName::from_static("idempotency-key");

/// Greatest number of stored answers, and of their bytes.
const ANSWERS: usize = 512;
const BYTES: u64 = 8 << 20;

tokio::task_local! {
    static DEED: Arc<Deed>;
}

/// The change requested under a key, if the current request has one.
pub fn deed() -> Option<Arc<Deed>> {
    DEED.try_with(Arc::clone).ok()
}

/// Stored answers to requests with keys.
#[derive(Debug, Clone)]
pub struct Answers(Arc<Cache<Uuid, Asked, ByBytes>>);

/// A request with its answer, if final: an answer that may differ next time is not stored.
#[derive(Debug, Clone)]
struct Asked {
    what: Arc<str>,
    /// Bytes of its answer that count towards the limit.
    bytes: u64,
    answer: Arc<OnceCell<Answer>>,
}

#[derive(Debug, Clone)]
struct Answer {
    status: StatusCode,
    headers: HeaderMap,
    body: Bytes,
}

#[derive(Debug, Clone)]
struct ByBytes;

impl Weighter<Uuid, Asked> for ByBytes {
    fn weight(&self, _: &Uuid, asked: &Asked) -> u64 {
        256 + asked.bytes
    }
}

impl Default for Answers {
    fn default() -> Self {
        Self(Arc::new(Cache::with_weighter(ANSWERS, BYTES, ByBytes)))
    }
}

impl Answers {
    /// The answer to a request with a key: the stored one, or that of `run`, which continues even if nobody waits.
    async fn to(
        &self,
        key: Uuid,
        what: Arc<str>,
        run: impl Future<Output = Response> + Send + 'static,
    ) -> Response {
        let new = Asked { what: Arc::clone(&what), bytes: 0, answer: Arc::default() };
        let Ok(mut asked) = self.0.get_or_insert_with(&key, || Ok::<_, std::convert::Infallible>(new));
        if asked.what != what {
            let detail = "this Idempotency-Key was used for another request: make a new one for each change";
            return Problem::new(StatusCode::UNPROCESSABLE_ENTITY, "key", "A key of another request", detail)
                .into_response();
        }
        let answers = self.clone();
        let answered = tokio::spawn(async move {
            let run = async { Answer::of(DEED.scope(Arc::new(Deed::new(key)), run).await).await.if_final() };
            let answer = asked.answer.get_or_try_init(|| run).await.cloned();
            let answer = answer.unwrap_or_else(|passing| *passing);
            asked.bytes = answer.body.len() as u64;
            answers.0.insert(key, asked);
            answer
        });
        answered.await.map_or_else(|_| Problem::internal().into_response(), Answer::into_response)
    }
}

impl Answer {
    async fn of(response: Response) -> Self {
        let (parts, body) = response.into_parts();
        match to_bytes(body, usize::MAX).await {
            Ok(body) => Self { status: parts.status, headers: parts.headers, body },
            Err(_) => Self {
                status: StatusCode::INTERNAL_SERVER_ERROR,
                headers: HeaderMap::new(),
                body: Bytes::new(),
            },
        }
    }

    /// An error if the same request may be answered differently next time.
    fn if_final(self) -> Result<Self, Box<Self>> {
        if self.status.is_server_error() { Err(Box::new(self)) } else { Ok(self) }
    }

    fn into_response(self) -> Response {
        (self.status, self.headers, Body::from(self.body)).into_response()
    }
}

/// The middleware.
pub async fn once(State(answers): State<Answers>, request: Request, next: Next) -> Response {
    let Some(key) = request.headers().get(KEY) else {
        return next.run(request).await;
    };
    let Some(key) = key.to_str().ok().and_then(|key| key.trim_matches('"').parse().ok()) else {
        let detail = "the header Idempotency-Key holds a UUID, such as 0198c2a4-7d1e-7c3b-9a51-2f6f0d3b8e11";
        return Problem::new(StatusCode::BAD_REQUEST, "key", "No key", detail).into_response();
    };
    // One machine is never given the answer to another.
    let who = request.extensions().get::<Who>().map(Who::id).unwrap_or_default();
    let what = format!("{} {} {who}", request.method(), request.uri()).into();
    answers.to(key, what, next.run(request)).await
}
