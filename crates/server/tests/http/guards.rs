//! What is refused whoever asks, and what every answer carries.

use crate::bench::Bench;
use reqwest::StatusCode;

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
    let ask = async |origin: &str| {
        let request = bench.client.post(format!("{}/api/undo", bench.base)).header("origin", origin);
        request.send().await.unwrap().status()
    };
    assert_eq!(ask(&bench.base).await, StatusCode::OK);
    for origin in ["http://paint.example", "null", "http://localhost:1", "https://127.0.0.1"] {
        assert_eq!(ask(origin).await, StatusCode::FORBIDDEN, "{origin}");
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
