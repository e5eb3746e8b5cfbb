//! Checks on every request, and headers of every response.
//!
//! The server listens on this machine only, but any page open in the same browser can send requests to it. So the Host
//! must be a name of this machine (otherwise a foreign name could be made to resolve to it), and a request that changes
//! something must come from our own page.
//!
//! On the network, if the painter has turned it on, the Host must be a name for which the certificate is valid, and every
//! request to the workspace needs the session of a machine that was let in.

use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::door::Door;
use crate::problem::Problem;
use crate::who::{Who, not_let_in};

/// Requests that need no session, because they lead to one.
const WITHOUT_SESSION: [&str; 3] = ["/api/network/door", "/api/network/authority.crt", "/api/network/join"];

/// Scripts and styles from here only; the page also allows its own style nonce.
const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data: blob:; \
                      connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

/// Content security policy with a nonce for the style elements that dialogs add.
pub fn policy_with_style_nonce(nonce: &str) -> String {
    POLICY.replace("style-src 'self'", &format!("style-src 'self' 'nonce-{nonce}'"))
}

/// The middleware.
pub async fn guard(State(door): State<Door>, mut request: Request, next: Next) -> Response {
    let of_api = is_of_api(&request);
    let who = door.who(request.headers());
    let needs_session = of_api && !WITHOUT_SESSION.contains(&request.uri().path());
    let mut response = match refusal(&door, &request) {
        Some(problem) => problem.into_response(),
        None if needs_session && who == Who::Stranger => not_let_in(),
        None => {
            request.extensions_mut().insert(who);
            request.extensions_mut().insert(door);
            next.run(request).await
        }
    };
    let headers = response.headers_mut();
    headers.entry(header::CONTENT_SECURITY_POLICY).or_insert(HeaderValue::from_static(POLICY));
    if of_api {
        // A browser on a shared machine keeps no copy of a workspace.
        headers.entry(header::CACHE_CONTROL).or_insert(HeaderValue::from_static("no-store"));
    }
    for (name, value) in [
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
        (HeaderName::from_static("cross-origin-resource-policy"), "same-origin"),
        (HeaderName::from_static("permissions-policy"), "camera=(), geolocation=(), microphone=()"),
    ] {
        headers.insert(name, HeaderValue::from_static(value));
    }
    response
}

fn refusal(door: &Door, request: &Request) -> Option<Problem> {
    let host =
        text(request.headers(), header::HOST).or_else(|| request.uri().authority().map(|a| a.as_str()));
    let Some(host) = host.filter(|host| door.is_ours(host)) else {
        let (status, remedy) = (StatusCode::MISDIRECTED_REQUEST, door.remedy());
        return Some(Problem::new(status, "host", "Unknown address", remedy));
    };
    is_foreign(request, &format!("{}://{host}", door.scheme())).then(|| {
        Problem::new(
            StatusCode::FORBIDDEN,
            "origin",
            "Blocked: sent by another page",
            "only Warm Blend’s own page can change the workspace; nothing was changed",
        )
    })
}

/// Whether a request comes from a page of another origin.
fn is_foreign(request: &Request, own: &str) -> bool {
    let reads = matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    let origin = text(request.headers(), header::ORIGIN);
    match origin {
        Some(origin) => !reads && origin != own,
        // A browser that sends no Origin still says where the page comes from (W3C Fetch Metadata). Following a link to
        // the first page from elsewhere is allowed.
        None => {
            let site = text(request.headers(), HeaderName::from_static("sec-fetch-site"));
            (!reads || is_of_api(request)) && matches!(site, Some("cross-site" | "same-site"))
        }
    }
}

fn is_of_api(request: &Request) -> bool {
    request.uri().path().starts_with("/api/")
}

fn text(headers: &HeaderMap, name: HeaderName) -> Option<&str> {
    headers.get(name).and_then(|value| value.to_str().ok())
}
