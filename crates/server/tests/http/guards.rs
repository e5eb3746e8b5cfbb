//! What is refused whoever asks, and what every answer carries.

use std::time::Duration;

use crate::bench::Bench;
use reqwest::StatusCode;
use tempfile::TempDir;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;
use warm_blend_server::{Patience, Served, Workspace, serve_with};

#[tokio::test]
async fn a_foreign_host_name_is_refused() {
    let bench = Bench::empty().await;
    let port = bench.base.rsplit(':').next().unwrap();
    let ask = async |host: String| {
        let request = bench.client.get(format!("{}/api/health", bench.base)).header("host", host);
        request.send().await.unwrap().status()
    };
    assert_eq!(ask(format!("localhost:{port}")).await, StatusCode::OK);
    for host in ["paint.example", "127.0.0.1.paint.example", "localhost.paint.example:80"] {
        assert_eq!(ask(host.to_owned()).await, StatusCode::MISDIRECTED_REQUEST, "{host}");
    }
}

#[tokio::test]
async fn changes_come_from_our_own_page_only() {
    let bench = Bench::empty().await;
    let ask = async |name: &str, value: &str| {
        let request = bench.client.post(format!("{}/api/paints", bench.base)).header(name, value);
        let request = request.header("content-type", "application/json");
        request.body(r#"{"name": "rain", "class": "water"}"#).send().await.unwrap().status()
    };
    assert_eq!(ask("origin", &bench.base).await, StatusCode::CREATED);
    for origin in ["http://paint.example", "null", "http://localhost:1", "https://127.0.0.1"] {
        assert_eq!(ask("origin", origin).await, StatusCode::FORBIDDEN, "{origin}");
    }
    // A browser that names no origin says where its page stands.
    for (site, expected) in [
        ("same-origin", StatusCode::CREATED),
        ("none", StatusCode::CREATED),
        ("cross-site", StatusCode::FORBIDDEN),
        ("same-site", StatusCode::FORBIDDEN),
    ] {
        assert_eq!(ask("sec-fetch-site", site).await, expected, "{site}");
    }
    let look = async |path: &str| {
        let request =
            bench.client.get(format!("{}{path}", bench.base)).header("sec-fetch-site", "cross-site");
        request.send().await.unwrap().status()
    };
    assert_eq!(look("/api/paints").await, StatusCode::FORBIDDEN);
    assert_eq!(look("/").await, StatusCode::OK, "a link to the first page may stand anywhere");
}

#[tokio::test]
async fn answers_are_kept_by_nobody() {
    let bench = Bench::empty().await;
    for path in ["/api/paints", "/api/history", "/api/nothing", "/api/export/csv"] {
        let answer = bench.client.get(format!("{}{path}", bench.base)).send().await.unwrap();
        assert_eq!(answer.headers()["cache-control"], "no-store", "{path}");
    }
}

#[tokio::test]
async fn no_answer_allows_inline_script_or_framing() {
    let bench = Bench::empty().await;
    for path in ["/", "/pot/1", "/api/health", "/api/nothing", "/assets/none.js"] {
        let answer = bench.client.get(format!("{}{path}", bench.base)).send().await.unwrap();
        let header = |name: &str| answer.headers()[name].to_str().unwrap().to_owned();
        let policy = header("content-security-policy");
        assert!(
            policy.contains("script-src 'self';") && policy.contains("frame-ancestors 'none'"),
            "{path}: {policy}"
        );
        assert!(!policy.contains("unsafe"), "{path}: {policy}");
        assert_eq!(header("x-content-type-options"), "nosniff");
    }
}

#[tokio::test]
async fn only_this_machine_is_listened_on() {
    assert!(Bench::empty().await.base.starts_with("http://127.0.0.1:"));
}

/// Reads until the other side closes.
async fn closed(stream: &mut TcpStream) -> bool {
    let mut rest = Vec::new();
    let read = stream.read_to_end(&mut rest);
    tokio::time::timeout(Duration::from_secs(20), read).await.is_ok()
}

async fn with_patience(patience: Patience) -> (Served, TempDir) {
    let folder = tempfile::tempdir().unwrap();
    let workspace = Workspace::open(&folder.path().join("workspace.db")).unwrap();
    (serve_with(workspace, 0, patience).await.unwrap(), folder)
}

/// Who says nothing, or half a head, is not waited for; who is silent after an answer neither.
#[tokio::test]
async fn silence_ends_a_connection() {
    let patience = Patience { head: Duration::from_millis(200), ..Patience::default() };
    let (served, _folder) = with_patience(patience).await;
    let host = served.address.to_string();
    let whole = format!("GET /api/health HTTP/1.1\r\nHost: {host}\r\n\r\n");
    for said in ["", "GET /api/health HTTP/1.1\r\nHost: ", &whole] {
        let mut stream = TcpStream::connect(served.address).await.unwrap();
        stream.write_all(said.as_bytes()).await.unwrap();
        assert!(closed(&mut stream).await, "{said:?}");
    }
    assert_eq!(reqwest::get(format!("{}/api/health", served.url())).await.unwrap().status(), StatusCode::OK);
}

/// Beyond so many connections, those go that ask nothing; who comes last is answered.
#[tokio::test]
async fn one_connection_more_sends_a_silent_one_away() {
    let (served, _folder) = with_patience(Patience { connections: 3, ..Patience::default() }).await;
    let mut silent = Vec::new();
    for _ in 0..3 {
        silent.push(TcpStream::connect(served.address).await.unwrap());
    }
    let answer = reqwest::get(format!("{}/api/health", served.url())).await.unwrap();
    assert_eq!(answer.status(), StatusCode::OK);
    assert!(closed(&mut silent[0]).await);
}
