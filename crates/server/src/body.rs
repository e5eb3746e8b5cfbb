//! Bodies of requests and responses. If something cannot be read, the problem names the field.
//!
//! The names are those of axum's extractors, so that utoipa can describe handlers from their types.

use std::cell::RefCell;

use axum::body::Bytes;
use axum::extract::rejection::PathRejection;
use axum::extract::{self, FromRequest, FromRequestParts, Request, path::ErrorKind};
use axum::http::request::Parts;
use axum::http::{StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use serde::{Serialize, de::DeserializeOwned};
use serde_json::Value;

use crate::connections::BODY;
use crate::problem::Problem;

/// Largest JSON body of a request, bytes.
pub const LARGEST_BODY: usize = 1 << 20;

/// A JSON body.
pub struct Json<T>(pub T);

/// Response of a handler.
pub type Answer<T> = Result<Json<T>, Problem>;

/// Query parameters.
pub struct Query<T>(pub T);

/// Path parameters, such as an id.
pub struct Path<T>(pub T);

impl<T: DeserializeOwned, S: Sync> FromRequest<S> for Json<T> {
    type Rejection = Problem;

    async fn from_request(request: Request, _: &S) -> Result<Self, Problem> {
        let kind =
            request.headers().get(header::CONTENT_TYPE).and_then(|kind| kind.to_str().ok()).unwrap_or("");
        let essence = kind.split(';').next().unwrap_or("").trim();
        if !essence.eq_ignore_ascii_case("application/json") {
            let detail = format!(
                "send JSON with the header Content-Type: application/json (this came as “{essence}”)"
            );
            return Err(Problem::new(StatusCode::UNSUPPORTED_MEDIA_TYPE, "media-type", "Not JSON", detail));
        }
        let bytes = read(request, LARGEST_BODY, || {
            format!("request too large; the most is {} kB", LARGEST_BODY / 1024)
        })
        .await?;
        // Absent in tests of a single route.
        drop(SENT.try_with(|sent| sent.replace(bytes.clone())));
        parse(&bytes).map(Json)
    }
}

tokio::task_local! {
    /// Body of the request being answered.
    static SENT: RefCell<Bytes>;
}

/// Adds the name of a field to a problem about a missing document: the store knows only the id, the request knows where
/// it stands.
pub async fn name_the_field(request: Request, next: Next) -> Response {
    SENT.scope(RefCell::default(), async {
        let response = next.run(request).await;
        let Some(problem) = response.extensions().get::<Problem>() else { return response };
        let sent = SENT.with(|sent| serde_json::from_slice(&sent.borrow()).unwrap_or_default());
        // An id in the address is not in the body; that stays a 404.
        match problem.missing().and_then(|id| field_of(&sent, &id.to_string())) {
            Some(at) => problem.clone().at(at).into_response(),
            None => response,
        }
    })
    .await
}

/// JSON pointer (RFC 6901) of a text in a document.
fn field_of(document: &Value, text: &str) -> Option<String> {
    match document {
        Value::String(found) => found.eq_ignore_ascii_case(text).then(String::new),
        Value::Array(items) => items
            .iter()
            .enumerate()
            .find_map(|(i, item)| field_of(item, text).map(|rest| format!("/{i}{rest}"))),
        Value::Object(fields) => fields
            .iter()
            .find_map(|(key, field)| field_of(field, text).map(|rest| format!("/{}{rest}", escaped(key)))),
        Value::Null | Value::Bool(_) | Value::Number(_) => None,
    }
}

/// A key, escaped for a pointer.
fn escaped(key: &str) -> String {
    key.replace('~', "~0").replace('/', "~1")
}

/// Reads a whole body within limits of size and time.
pub async fn read(
    request: Request,
    most: usize,
    too_large: impl FnOnce() -> String,
) -> Result<Bytes, Problem> {
    match tokio::time::timeout(BODY, axum::body::to_bytes(request.into_body(), most)).await {
        Ok(Ok(bytes)) => Ok(bytes),
        Ok(Err(_)) => Err(Problem::new(StatusCode::PAYLOAD_TOO_LARGE, "too-large", "Too large", too_large())),
        Err(_) => {
            let detail = format!("timed out after {} seconds; send it again", BODY.as_secs());
            Err(Problem::new(StatusCode::REQUEST_TIMEOUT, "timeout", "Too slow", detail))
        }
    }
}

fn parse<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, Problem> {
    let mut json = serde_json::Deserializer::from_slice(bytes);
    let value = serde_path_to_error::deserialize(&mut json).map_err(|error| {
        let pointer = pointer(error.path());
        let cause = error.into_inner();
        match cause.classify() {
            serde_json::error::Category::Data => Problem::field(pointer, in_words(&cause.to_string())),
            _ => not_json(cause),
        }
    })?;
    json.end().map_err(not_json)?;
    Ok(value)
}

/// What is wrong with a value; its pointer says where.
fn in_words(said: &str) -> String {
    let said = said.rsplit_once(" at line ").map_or(said, |(said, _)| said);
    let Some((given, known)) =
        said.strip_prefix("unknown variant `").and_then(|rest| rest.split_once("`, expected "))
    else {
        return said.to_owned();
    };
    let given: String = given.chars().take(40).collect();
    format!("“{given}” is not a valid choice; use {}", known.replace('`', ""))
}

fn not_json(cause: serde_json::Error) -> Problem {
    let detail = format!("incomplete or invalid JSON: {cause}");
    Problem::new(StatusCode::BAD_REQUEST, "syntax", "Not JSON", detail)
}

/// JSON pointer (RFC 6901) of a path.
fn pointer(path: &serde_path_to_error::Path) -> String {
    use serde_path_to_error::Segment;
    path.iter()
        .map(|segment| match segment {
            Segment::Seq { index } => format!("/{index}"),
            Segment::Map { key } => format!("/{}", escaped(key)),
            Segment::Enum { .. } | Segment::Unknown => String::new(),
        })
        .collect()
}

impl<T: Serialize> IntoResponse for Json<T> {
    fn into_response(self) -> Response {
        axum::Json(self.0).into_response()
    }
}

impl<T: DeserializeOwned, S: Sync> FromRequestParts<S> for Query<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, Problem> {
        let asked = form_urlencoded::parse(parts.uri.query().unwrap_or_default().as_bytes());
        let asked = serde_path_to_error::deserialize(serde_urlencoded::Deserializer::new(asked));
        asked.map(Query).map_err(|error| {
            let (field, said) = (error.path().to_string(), error.into_inner().to_string());
            let missing = said.strip_prefix("missing field `").and_then(|rest| rest.split('`').next());
            let detail = match (missing, &*said) {
                (Some(missing), _) => format!("{missing} is missing from the address"),
                (_, "invalid digit found in string") => "not a whole number; enter one".to_owned(),
                (_, "invalid float literal") => "write a number".to_owned(),
                _ => in_words(&said),
            };
            Problem::field(format!("?{}", missing.unwrap_or(field.trim_matches('.'))), detail)
        })
    }
}

impl<T: DeserializeOwned + Send, S: Send + Sync> FromRequestParts<S> for Path<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let named = extract::Path::<T>::from_request_parts(parts, state).await;
        named.map(|extract::Path(named)| Path(named)).map_err(|error| match error {
            PathRejection::FailedToDeserializePathParams(error) => not_named(error.kind()),
            error => Problem::not_found(error.body_text()),
        })
    }
}

fn not_named(why: &ErrorKind) -> Problem {
    let (ErrorKind::ParseError { value, .. }
    | ErrorKind::ParseErrorAtKey { value, .. }
    | ErrorKind::ParseErrorAtIndex { value, .. }
    | ErrorKind::DeserializeError { value, .. }) = why
    else {
        return Problem::not_found(format!("nothing at this address: {why}"));
    };
    let short: String = value.chars().take(60).collect();
    Problem::not_found(format!("“{short}” is not an id in this workspace"))
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde::Deserialize;

    #[derive(Debug, Deserialize)]
    struct Pot {
        #[serde(rename = "paints/tins")]
        #[expect(dead_code, reason = "only its parsing is of interest")]
        tins: Vec<f64>,
    }

    #[test]
    fn a_wrong_value_is_found_by_its_pointer() {
        let problem = parse::<Pot>(br#"{"paints/tins": [1, "two"]}"#).unwrap_err();
        let text = serde_json::to_string(&problem).unwrap();
        assert!(text.contains(r#""pointer":"/paints~1tins/1""#), "{text}");
    }

    #[derive(Debug, Deserialize)]
    #[serde(rename_all = "kebab-case")]
    enum Coat {
        Brushed,
        Rolled,
        TwoByTwo,
    }

    #[test]
    fn what_is_not_known_is_answered_with_what_is() {
        let problem = parse::<Vec<Coat>>(br#"["brushed", "rolled", "two-by-two", "flung"]"#).unwrap_err();
        let text = serde_json::to_string(&problem).unwrap();
        let said = "“flung” is not a valid choice; use one of brushed, rolled, two-by-two";
        assert!(text.contains(&format!(r#"{{"pointer":"/3","detail":"{said}"}}"#)), "{text}");
    }

    #[test]
    fn broken_json_is_said_to_be_broken() {
        for broken in ["", "{", "{\"paints/tins\": [NaN]}", "{\"paints/tins\": []} trailing"] {
            let text = serde_json::to_string(&parse::<Pot>(broken.as_bytes()).unwrap_err()).unwrap();
            assert!(text.contains("urn:warm-blend:syntax"), "{broken}: {text}");
        }
    }
}
