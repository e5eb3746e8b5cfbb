//! A server over a workspace of its own, and a client that reads its answers.

use std::path::Path;

use reqwest::{Client, Method, Response, StatusCode};
use serde_json::Value;
use tempfile::TempDir;
use warm_blend_server::{Served, Workspace, serve};
use warm_blend_store::TraceEvent;

/// Every list of documents, and what is chosen for the workshop.
pub const LISTS: [&str; 7] = [
    "/api/paints",
    "/api/mixes",
    "/api/boards",
    "/api/pieces",
    "/api/pours",
    "/api/readings",
    "/api/workshop",
];

pub struct Bench {
    pub client: Client,
    pub base: String,
    _served: Served,
    folder: TempDir,
}

impl Bench {
    /// A new workspace with nothing on the shelf.
    pub async fn empty() -> Self {
        Self::with(|file| Workspace::open(file).unwrap()).await
    }

    /// The demo workspace.
    pub async fn demo() -> Self {
        Self::with(|file| Workspace::demo(file).unwrap()).await
    }

    /// The demo workspace with a simulated scale.
    pub async fn demo_with_scale() -> Self {
        let scale = warm_blend_server::simulated_scale::run(0).await.unwrap();
        Self::with(|file| {
            let workspace = Workspace::demo(file).unwrap();
            workspace.connect_scale(scale);
            workspace
        })
        .await
    }

    /// The demo workspace, its SQL reported.
    pub async fn demo_traced(report: fn(TraceEvent<'_>)) -> Self {
        Self::with(|file| {
            let workspace = Workspace::demo(file).unwrap();
            workspace.trace_statements(report);
            workspace
        })
        .await
    }

    /// The workspace of a file.
    pub async fn of(file: &Path) -> Result<Self, String> {
        let folder = tempfile::tempdir().unwrap();
        let workspace = Workspace::open(file).map_err(|error| error.to_string())?;
        let served = serve(workspace, 0).await.unwrap();
        Ok(Self { client: Client::new(), base: served.url(), _served: served, folder })
    }

    async fn with(open: impl FnOnce(&Path) -> Workspace) -> Self {
        let folder = tempfile::tempdir().unwrap();
        let served = serve(open(&folder.path().join("workspace.db")), 0).await.unwrap();
        Self { client: Client::new(), base: served.url(), _served: served, folder }
    }

    /// Where its file is.
    pub fn folder(&self) -> &Path {
        self.folder.path()
    }

    pub async fn raw(
        &self,
        method: Method,
        path: &str,
        kind: &str,
        body: impl Into<reqwest::Body>,
    ) -> Response {
        let request = self.client.request(method, format!("{}{path}", self.base));
        request.header("content-type", kind).body(body).send().await.unwrap()
    }

    /// Sends JSON, expects a status, reads JSON (null where there is none).
    pub async fn call(&self, method: Method, path: &str, body: Value, expected: StatusCode) -> Value {
        let answer = self.raw(method.clone(), path, "application/json", body.to_string()).await;
        let (status, text) = (answer.status(), answer.text().await.unwrap());
        assert_eq!(status, expected, "{method} {path} {body}: {text}");
        serde_json::from_str(&text).unwrap_or(Value::Null)
    }

    pub async fn get(&self, path: &str) -> Value {
        self.call(Method::GET, path, Value::Null, StatusCode::OK).await
    }

    /// A long list, part by part, each where the one before says that it is.
    pub async fn in_parts(&self, path: &str) -> Vec<Value> {
        let mut next = Some(path.to_owned());
        let mut list = Vec::new();
        while let Some(part) = next {
            let answer = self.client.get(format!("{}{part}", self.base)).send().await.unwrap();
            next = answer.headers().get("link").map(|link| {
                let link = link.to_str().unwrap();
                let (at, how) = link.trim_start_matches('<').split_once('>').unwrap();
                assert_eq!(how, "; rel=\"next\"");
                at.to_owned()
            });
            list.extend(answer.json::<Vec<Value>>().await.unwrap());
        }
        list
    }

    pub async fn post(&self, path: &str, body: Value, expected: StatusCode) -> Value {
        self.call(Method::POST, path, body, expected).await
    }

    /// Undoes the newest change.
    pub async fn undo(&self) -> Value {
        let change = self.get("/api/history").await["undo"]["change"].clone();
        self.post("/api/undo", serde_json::json!({ "change": change }), StatusCode::OK).await
    }

    /// Makes the change again that was undone last.
    pub async fn redo(&self) -> Value {
        let change = self.get("/api/history").await["redo"]["change"].clone();
        self.post("/api/redo", serde_json::json!({ "change": change }), StatusCode::OK).await
    }

    /// Sends JSON, reads an answer that comes line by line.
    pub async fn lines(&self, path: &str, body: Value) -> Vec<Value> {
        let request =
            self.client.post(format!("{}{path}", self.base)).header("accept", "application/x-ndjson");
        let answer = request.json(&body).send().await.unwrap();
        assert_eq!(answer.headers()["content-type"], "application/x-ndjson");
        answer.text().await.unwrap().lines().map(|line| serde_json::from_str(line).unwrap()).collect()
    }

    /// The id of a demo paint.
    pub async fn paint(&self, name: &str) -> String {
        let shelf = self.get("/api/paints").await;
        let found = shelf.as_array().unwrap().iter().find(|paint| paint["entry"]["name"] == name).unwrap();
        found["id"].as_str().unwrap().to_owned()
    }
}

/// The message about a field of a problem; fails with the whole problem where there is none.
pub fn about<'a>(problem: &'a Value, pointer: &str) -> &'a str {
    let errors = problem["errors"].as_array().unwrap_or_else(|| panic!("no field errors: {problem}"));
    let found = errors.iter().find(|error| error["pointer"] == pointer);
    found.unwrap_or_else(|| panic!("nothing about {pointer}: {problem}"))["detail"].as_str().unwrap()
}

/// Codes of a screen, 0 to 255, as they are in so much of the light of each channel: by the curve of sRGB (IEC 61966-2-1).
pub fn in_light(code: [f64; 3], light: [f64; 3]) -> [f64; 3] {
    let curve = |v: f64| if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) };
    let back = |v: f64| if v <= 0.003_130_8 { 12.92 * v } else { 1.055 * v.powf(1.0 / 2.4) - 0.055 };
    std::array::from_fn(|c| 255.0 * back(light[c] * curve(code[c] / 255.0)))
}
