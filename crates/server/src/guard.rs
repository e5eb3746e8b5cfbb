//! Checks on every request, and headers of every response.
//!
//! The server listens on this machine only, but any page open in the same browser can send requests to it. So the Host
//! must be a name of this machine (otherwise a foreign name could be made to resolve to it), and a request that changes
//! something must come from our own page.
//!
//! On the network, if the painter has turned it on, the Host must be a name for which the certificate is valid, and every
//! request to the workspace needs the session of a machine that was let in.

use std::sync::Arc;

use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use cookie::Cookie;
use warm_blend_network::Identity;

use crate::network::Network;
use crate::problem::Problem;
use crate::who::{Who, not_let_in};

/// By which way requests come.
#[derive(Debug, Clone)]
pub enum Door {
    /// From this machine.
    Machine,
    /// From the network, by TLS.
    Network {
        /// Who is let in.
        network: Network,
        /// What this machine proves itself with.
        identity: Arc<Identity>,
    },
}

/// Cookie with the token of a session. Browsers accept one of this name from this host by TLS only (RFC 6265bis,
/// section 4.1.3.2).
pub const SESSION: &str = "__Host-warm-blend";

/// Requests that need no session, because they lead to one.
const WITHOUT_SESSION: [&str; 3] =
    ["/api/network/door", "/api/network/authority.crt", "/api/network/join"];

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
    let mut response = match door.refusal(&request) {
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

impl Door {
    /// Who asks.
    fn who(&self, headers: &HeaderMap) -> Who {
        let Self::Network { network, .. } = self else { return Who::Painter };
        let cookies = headers.get_all(header::COOKIE).iter().filter_map(|value| value.to_str().ok());
        let cookies = cookies.flat_map(|text| Cookie::split_parse(text).flatten());
        let mut sessions = cookies.filter(|cookie| cookie.name() == SESSION);
        let visitor = sessions.find_map(|cookie| network.visitor(cookie.value()));
        visitor.map_or(Who::Stranger, Who::Visitor)
    }

    fn refusal(&self, request: &Request) -> Option<Problem> {
        let host =
            text(request.headers(), header::HOST).or_else(|| request.uri().authority().map(|a| a.as_str()));
        let Some(host) = host.filter(|host| self.is_ours(host)) else {
            let remedy = match self {
                Self::Machine => "open http://127.0.0.1 or http://localhost with the port printed at startup",
                Self::Network { .. } => "open one of the addresses that the workshop’s machine shows under Network",
            };
            return Some(Problem::new(
                StatusCode::MISDIRECTED_REQUEST,
                "host",
                "Unknown address",
                remedy,
            ));
        };
        let scheme = match self {
            Self::Machine => "http",
            Self::Network { .. } => "https",
        };
        is_foreign(request, &format!("{scheme}://{host}")).then(|| {
            Problem::new(
                StatusCode::FORBIDDEN,
                "origin",
                "Blocked: sent by another page",
                "only Warm Blend’s own page can change the workspace; nothing was changed",
            )
        })
    }

    /// Whether this is a name under which we are found.
    fn is_ours(&self, host: &str) -> bool {
        match self {
            Self::Machine => is_this_machine(host),
            Self::Network { identity, .. } => {
                let name = host.rsplit_once(':').filter(|(_, port)| is_port(port));
                identity.is_for(name.map_or(host, |(name, _)| name))
            }
        }
    }
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

/// `localhost`, `127.0.0.1` or `[::1]`, with or without a port.
fn is_this_machine(host: &str) -> bool {
    ["localhost", "127.0.0.1", "[::1]"].iter().any(|name| {
        host.strip_prefix(name).is_some_and(|rest| {
            rest.is_empty() || rest.strip_prefix(':').is_some_and(is_port)
        })
    })
}

fn is_port(text: &str) -> bool {
    !text.is_empty() && text.bytes().all(|b| b.is_ascii_digit())
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
