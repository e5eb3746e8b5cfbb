//! Who sent a request.

use std::future::Future;

use axum::extract::Request;
use axum::http::StatusCode;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use warm_blend_network::{Access, Visitor};

use crate::problem::Problem;

/// Sender of a request, as the guard recognised them; in the extensions of every request it lets through.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Who {
    /// Whoever sits at the workshop's machine.
    Painter,
    /// Somebody at another machine of the network.
    Visitor(Visitor),
    /// Somebody at another machine who was not let in.
    Stranger,
}

tokio::task_local! {
    static WHO: Who;
}

impl Who {
    /// Sender of the current request; the program's own work is the painter's.
    pub fn now() -> Self {
        WHO.try_with(Clone::clone).unwrap_or(Self::Painter)
    }

    /// Runs the work of a request.
    pub fn scope<F: Future>(self, work: F) -> impl Future<Output = F::Output> {
        WHO.scope(self, work)
    }

    /// Identifies a sender.
    pub fn id(&self) -> String {
        match self {
            Self::Painter => "painter".to_owned(),
            Self::Visitor(visitor) => visitor.session.to_string(),
            Self::Stranger => "stranger".to_owned(),
        }
    }

    fn of(request: &Request) -> Self {
        request.extensions().get().cloned().unwrap_or(Self::Stranger)
    }
}

/// Middleware: from here on [`Who::now`] is who the guard recognised.
pub async fn remember(request: Request, next: Next) -> Response {
    Who::of(&request).scope(next.run(request)).await
}

/// Middleware of routes for the painter and helpers.
pub async fn no_guests(request: Request, next: Next) -> Response {
    match Who::of(&request) {
        Who::Painter | Who::Visitor(Visitor { role: Access::Helper, .. }) => next.run(request).await,
        Who::Visitor(Visitor { role: Access::Guest, .. }) => {
            let detail =
                "you are a guest here: you can look at everything, but not change it. Nothing was changed";
            Problem::new(StatusCode::FORBIDDEN, "guest", "Guests only look", detail).into_response()
        }
        Who::Stranger => not_let_in(),
    }
}

/// Middleware of routes that concern the workshop's machine itself.
pub async fn at_this_machine(request: Request, next: Next) -> Response {
    match Who::of(&request) {
        Who::Painter => next.run(request).await,
        Who::Visitor(_) => {
            let detail = "this can only be done at the workshop’s machine. Nothing was changed";
            Problem::new(StatusCode::FORBIDDEN, "elsewhere", "Not from here", detail).into_response()
        }
        Who::Stranger => not_let_in(),
    }
}

/// The answer to whoever was not let in.
pub fn not_let_in() -> Response {
    let detail = "this machine is not let in: ask for a code at the workshop’s machine";
    Problem::new(StatusCode::UNAUTHORIZED, "join", "Not let in", detail).into_response()
}
