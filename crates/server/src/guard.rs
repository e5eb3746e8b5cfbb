//! Checks on every request, and headers of every response.
//!
//! The server listens on this machine only, but any page open in the same browser can send requests to it. So the Host
//! must be a name of this machine (otherwise a foreign name could be made to resolve to it), and a request that changes
//! something must come from our own page.

use axum::extract::Request;
use axum::http::{HeaderMap, HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::problem::Problem;

/// Scripts and styles from here only; the page also allows its own style nonce.
const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data: blob:; \
                      connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

/// Content security policy with a nonce for the style elements that dialogs add.
pub fn policy_with_style_nonce(nonce: &str) -> String {
    POLICY.replace("style-src 'self'", &format!("style-src 'self' 'nonce-{nonce}'"))
}

/// The middleware.
pub async fn guard(request: Request, next: Next) -> Response {
    let of_api = is_of_api(&request);
    let mut response = match refusal(&request) {
        Some(problem) => problem.into_response(),
        None => next.run(request).await,
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

fn refusal(request: &Request) -> Option<Problem> {
    let host =
        text(request.headers(), header::HOST).or_else(|| request.uri().authority().map(|a| a.as_str()));
    let Some(host) = host.filter(|host| is_this_machine(host)) else {
        return Some(Problem::new(
            StatusCode::MISDIRECTED_REQUEST,
            "host",
            "Unknown address",
            "open http://127.0.0.1 or http://localhost with the port printed at startup",
        ));
    };
    let reads = matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    let origin = text(request.headers(), header::ORIGIN);
    let foreign = match origin {
        Some(origin) => !reads && origin != format!("http://{host}"),
        // A browser that sends no Origin still says where the page comes from (W3C Fetch Metadata). Following a link to
        // the first page from elsewhere is allowed.
        None => {
            let site = text(request.headers(), HeaderName::from_static("sec-fetch-site"));
            (!reads || is_of_api(request)) && matches!(site, Some("cross-site" | "same-site"))
        }
    };
    if foreign {
        return Some(Problem::new(
            StatusCode::FORBIDDEN,
            "origin",
            "Blocked: sent by another page",
            "only Warm Blend’s own page can change the workspace; nothing was changed",
        ));
    }
    None
}

fn is_of_api(request: &Request) -> bool {
    request.uri().path().starts_with("/api/")
}

fn text(headers: &HeaderMap, name: HeaderName) -> Option<&str> {
    headers.get(name).and_then(|value| value.to_str().ok())
}

/// `localhost`, `127.0.0.1` or `[::1]`, with or without a port.
fn is_this_machine(host: &str) -> bool {
    ["localhost", "127.0.0.1", "[::1]"].iter().any(|name| {
        host.strip_prefix(name).is_some_and(|rest| {
            rest.is_empty()
                || rest
                    .strip_prefix(':')
                    .is_some_and(|port| !port.is_empty() && port.bytes().all(|b| b.is_ascii_digit()))
        })
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_names_of_this_machine_count() {
        for good in ["localhost", "127.0.0.1:7878", "[::1]:80", "localhost:1"] {
            assert!(is_this_machine(good), "{good}");
        }
        for bad in
            ["", "localhost.example", "127.0.0.1.example:80", "localhost:", "localhost:80x", "192.168.0.7"]
        {
            assert!(!is_this_machine(bad), "{bad}");
        }
    }
}
