//! The front end, embedded in the program (in a debug build read from `web/dist`).

use axum::http::{HeaderMap, StatusCode, Uri, header};
use axum::response::{Html, IntoResponse, Response};
use rust_embed::RustEmbed;
use uuid::Uuid;

use crate::guard::policy_with_style_nonce;
use crate::problem::Problem;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Built;

/// Placeholder in the page for the nonce of a response.
const NONCE_PLACE: &str = "__NONCE__";

/// A file of the front end, or its page for every address of a screen.
pub async fn front(uri: Uri, headers: HeaderMap) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path == "api" || path.starts_with("api/") {
        return Problem::not_found(format!("nothing at {}", uri.path())).into_response();
    }
    match Built::get(path).filter(|_| path != "index.html") {
        Some(file) => {
            // Files under assets/ have a hash of their content in their name.
            let keep =
                if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
            let kind = file.metadata.mimetype().to_owned();
            let about = [(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, keep.to_owned())];
            let compressed = takes_brotli(&headers).then(|| Built::get(&format!("{path}.br"))).flatten();
            match compressed {
                Some(small) => {
                    let encoded = [(header::CONTENT_ENCODING, "br"), (header::VARY, "accept-encoding")];
                    (about, encoded, small.data).into_response()
                }
                None => (about, file.data).into_response(),
            }
        }
        None if path.contains('.') => Problem::not_found(format!("no file {path}")).into_response(),
        None => page(),
    }
}

/// Whether the client accepts Brotli (RFC 7932), with which scripts and styles are compressed at build time.
fn takes_brotli(headers: &HeaderMap) -> bool {
    let accepted = headers.get_all(header::ACCEPT_ENCODING).iter().filter_map(|value| value.to_str().ok());
    accepted.flat_map(|value| value.split(',')).any(|coding| {
        let mut parts = coding.split(';').map(str::trim);
        parts.next() == Some("br") && parts.next() != Some("q=0")
    })
}

fn page() -> Response {
    let Some(file) = Built::get("index.html") else {
        let help = "The front end is not built: run `make build` in the project's folder, then start again.";
        return (StatusCode::SERVICE_UNAVAILABLE, help).into_response();
    };
    let nonce = Uuid::new_v4().simple().to_string();
    let html = String::from_utf8_lossy(&file.data).replace(NONCE_PLACE, &nonce);
    let headers = [
        (header::CONTENT_SECURITY_POLICY, policy_with_style_nonce(&nonce)),
        (header::CACHE_CONTROL, "no-store".to_owned()),
    ];
    (headers, Html(html)).into_response()
}
