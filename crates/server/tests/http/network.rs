//! Access over the network: who is let in, and what they may do. The TLS client verifies certificates without our code.

use std::collections::BTreeSet;
use std::net::TcpListener;
use std::sync::Arc;
use std::time::Duration;

use http_body_util::{BodyExt, Full};
use hyper::body::{Bytes, Incoming};
use hyper::header::{COOKIE, HOST, ORIGIN, SET_COOKIE};
use hyper::http::request::Builder;
use hyper::{Method, Request, Response, StatusCode};
use hyper_util::rt::TokioIo;
use rustls::{ClientConfig, RootCertStore};
use rustls_pki_types::pem::PemObject;
use rustls_pki_types::{CertificateDer, ServerName};
use serde_json::{Value, json};
use tokio_rustls::TlsConnector;

use crate::bench::Bench;

/// What guests may ask by another method than GET: questions, which change nothing.
const QUESTIONS: [&str; 35] = [
    "/api/bench/blend",
    "/api/bench/correct",
    "/api/bench/film",
    "/api/bench/ladder",
    "/api/bench/make-into",
    "/api/bench/match",
    "/api/bench/measure",
    "/api/boards/picture",
    "/api/boards/preview",
    "/api/boards/rescue",
    "/api/boards/schools",
    "/api/boards/shade",
    "/api/boards/why",
    "/api/colour",
    "/api/mixes/of-parts",
    "/api/mixes/preview",
    "/api/mixes/why",
    "/api/network/join",
    "/api/paints/preview",
    "/api/photos/kept/{id}/snap",
    "/api/photos/{id}/palette",
    "/api/photos/{id}/pick",
    "/api/piece/on-photo",
    "/api/piece/on-photo/part",
    "/api/piece/on-photo/picture",
    "/api/piece/picture",
    "/api/piece/outline",
    "/api/piece/preview",
    "/api/piece/why",
    "/api/quotes/preview",
    "/api/quotes/picture",
    "/api/piece/unify",
    "/api/pieces/{id}/on-photo",
    "/api/predict",
    "/api/predict/board",
];

/// What only the workshop's machine may do.
const HERE: [&str; 7] = [
    "/api/network",
    "/api/network/invitation",
    "/api/network/sessions/{id}",
    "/api/network/certificate",
    "/api/backups/folder",
    "/api/backups/{name}/restore",
    "/api/demo",
];

/// What takes the workspace away, or shows the machine: not for guests.
const NOT_FOR_GUESTS: [&str; 9] = [
    "/api/archive",
    "/api/backups",
    "/api/trash",
    "/api/set-aside",
    "/api/export/{format}",
    "/api/jars",
    "/api/jars/labels",
    "/api/pours/{id}/jar",
    "/api/quotes",
];

/// A workspace on the network, and a client that trusts its authority.
struct Workshop {
    bench: Bench,
    port: u16,
    base: String,
    client: Client,
}

/// A client that trusts one certificate only.
struct Client(TlsConnector);

impl Client {
    fn trusting(pem: &str) -> Self {
        let mut roots = RootCertStore::empty();
        roots.add(CertificateDer::from_pem_slice(pem.as_bytes()).unwrap()).unwrap();
        let config = ClientConfig::builder_with_provider(Arc::new(rustls::crypto::ring::default_provider()))
            .with_safe_default_protocol_versions()
            .unwrap()
            .with_root_certificates(roots)
            .with_no_client_auth();
        Self(TlsConnector::from(Arc::new(config)))
    }

    /// Sends a request over a connection of its own; fails where the certificate is not trusted.
    async fn open(&self, port: u16, request: Builder, body: &Value) -> Result<Response<Incoming>, String> {
        let stream = tokio::net::TcpStream::connect(("127.0.0.1", port)).await.unwrap();
        let name = ServerName::try_from("localhost").unwrap();
        let stream = self.0.connect(name, stream).await.map_err(|error| error.to_string())?;
        let (mut sender, connection) =
            hyper::client::conn::http1::handshake(TokioIo::new(stream)).await.unwrap();
        tokio::spawn(connection);
        let request = request.body(Full::<Bytes>::from(body.to_string())).unwrap();
        sender.send_request(request).await.map_err(|error| error.to_string())
    }
}

/// Body of an answer as text.
async fn text(answer: Response<Incoming>) -> String {
    String::from_utf8_lossy(&answer.into_body().collect().await.unwrap().to_bytes()).into_owned()
}

/// A machine that was let in.
struct Machine {
    cookie: String,
    id: String,
}

fn free_port() -> u16 {
    TcpListener::bind("0.0.0.0:0").unwrap().local_addr().unwrap().port()
}

impl Workshop {
    async fn open() -> Self {
        let bench = Bench::demo().await;
        let port = free_port();
        let on = json!({"is_on": true, "port": port, "painter": "Ada"});
        let state = bench.call(Method::PUT, "/api/network", on, StatusCode::OK).await;
        assert_eq!(state["words"].as_array().unwrap().len(), 6, "{state}");
        // As a painter would carry it to another machine by hand.
        let kept = std::fs::read(bench.folder().join("workspace.network.json")).unwrap();
        let kept: Value = serde_json::from_slice(&kept).unwrap();
        let authority = kept["authority"]["own"]["certificate"].as_str().unwrap();
        let client = Client::trusting(authority);
        let workshop = Self { bench, port, base: format!("https://localhost:{port}"), client };
        let answer = workshop.send(workshop.from(None, Method::GET, "/api/network/authority.crt")).await;
        assert_eq!(answer.headers()["content-type"], "application/x-x509-ca-cert");
        assert_eq!(text(answer).await, authority);
        workshop
    }

    async fn let_in(&self, name: &str, role: &str) -> Machine {
        let invited = json!({"name": name, "role": role});
        let state = self.bench.post("/api/network/invitation", invited, StatusCode::OK).await;
        let joined = self.join(state["invitation"]["code"].as_str().unwrap()).await;
        assert_eq!(joined.status(), StatusCode::NO_CONTENT);
        let cookie = joined.headers()[SET_COOKIE].to_str().unwrap().to_owned();
        for part in ["__Host-warm-blend=", "HttpOnly", "Secure", "SameSite=Strict", "Path=/"] {
            assert!(cookie.contains(part), "{part} in {cookie}");
        }
        let state = self.bench.get("/api/network").await;
        assert_eq!(state["invitation"], Value::Null);
        let session = state["sessions"].as_array().unwrap().last().unwrap().clone();
        assert_eq!((&session["name"], &session["role"]), (&json!(name), &json!(role)));
        let id = session["id"].as_str().unwrap().to_owned();
        Machine { cookie: cookie.split(';').next().unwrap().to_owned(), id }
    }

    async fn join(&self, code: &str) -> Response<Incoming> {
        let request = self.from(None, Method::POST, "/api/network/join");
        self.client.open(self.port, request, &json!({"code": code})).await.unwrap()
    }

    /// A request of our own page.
    fn from(&self, machine: Option<&Machine>, method: Method, path: &str) -> Builder {
        let request = Request::builder()
            .method(method)
            .uri(path)
            .header(HOST, format!("localhost:{}", self.port))
            .header("content-type", "application/json")
            .header(ORIGIN, &self.base);
        match machine {
            Some(machine) => request.header(COOKIE, &machine.cookie),
            None => request,
        }
    }

    async fn send(&self, request: Builder) -> Response<Incoming> {
        self.client.open(self.port, request, &json!({})).await.unwrap()
    }

    async fn ask(&self, machine: &Machine, method: Method, path: &str, body: Value) -> (StatusCode, Value) {
        let request = self.from(Some(machine), method, path);
        let answer = self.client.open(self.port, request, &body).await.unwrap();
        let status = answer.status();
        (status, serde_json::from_str(&text(answer).await).unwrap_or(Value::Null))
    }
}

/// Every operation of the description: method and path as it stands there.
fn operations() -> Vec<(Method, String)> {
    let description = serde_json::to_value(warm_blend_server::openapi()).unwrap();
    let paths = description["paths"].as_object().unwrap().clone();
    let of = |(path, methods): (String, Value)| {
        let methods: Vec<String> = methods.as_object().unwrap().keys().cloned().collect();
        methods.into_iter().map(move |method| (method.to_uppercase().parse().unwrap(), path.clone()))
    };
    let all: Vec<_> = paths.into_iter().flat_map(of).collect();
    assert!(all.len() > 120, "{}", all.len());
    all
}

/// The path with something in its places.
fn filled(path: &str) -> String {
    let id = "0198c2a4-7d1e-7c3b-9a51-2f6f0d3b8e11";
    let places = [("{format}", "csv"), ("{place}", "0"), ("{step}", "0"), ("{line}", "1"), ("{id}", id)];
    let filled = places.iter().fold(path.to_owned(), |path, (place, with)| path.replace(place, with));
    filled.replace("{name}", "x.db").replace("{scene}", "card").replace("{file}", "calendar.ics")
}

/// These go on for as long as they are listened to.
fn never_ends(path: &str) -> bool {
    path == "/api/changes"
}

#[tokio::test]
async fn every_route_refuses_without_a_session() {
    let workshop = Workshop::open().await;
    let open = ["/api/network/door", "/api/network/authority.crt", "/api/network/join"];
    for (method, path) in operations() {
        for cookie in [None, Some("__Host-warm-blend=AAAA"), Some("__Host-warm-blend=")] {
            let request = workshop.from(None, method.clone(), &filled(&path));
            let request = cookie.iter().fold(request, |request, cookie| request.header(COOKIE, *cookie));
            let answer = workshop.send(request).await;
            let (status, text) = (answer.status(), text(answer).await);
            if open.contains(&&*path) {
                assert_ne!(status, StatusCode::UNAUTHORIZED, "{method} {path}");
            } else {
                assert_eq!(status, StatusCode::UNAUTHORIZED, "{method} {path}: {text}");
                assert!(text.contains("urn:warm-blend:join"), "{text}");
            }
        }
    }
    let description = workshop.send(workshop.from(None, Method::GET, "/api/openapi.json")).await;
    assert_eq!(description.status(), StatusCode::UNAUTHORIZED);
    // The page itself holds nothing of the workspace.
    let page = workshop.send(workshop.from(None, Method::GET, "/shelf")).await;
    assert_eq!(page.status(), StatusCode::OK);
}

#[tokio::test]
async fn a_guest_changes_nothing() {
    let workshop = Workshop::open().await;
    let guest = workshop.let_in("The client", "guest").await;
    let history = workshop.bench.get("/api/history").await;
    let mut asked = BTreeSet::new();
    for (method, path) in operations().into_iter().filter(|(_, path)| !never_ends(path)) {
        let (status, _) = workshop.ask(&guest, method.clone(), &filled(&path), json!({})).await;
        let refused = status == StatusCode::FORBIDDEN;
        let reads = method == Method::GET;
        if reads && (HERE[..1].contains(&&*path) || NOT_FOR_GUESTS.contains(&&*path)) {
            assert!(refused, "{method} {path}: {status}");
        } else if reads || QUESTIONS.contains(&&*path) {
            assert!(!refused && status != StatusCode::UNAUTHORIZED, "{method} {path}: {status}");
            asked.insert(path);
        } else {
            assert!(refused, "{method} {path}: {status}");
        }
    }
    assert!(QUESTIONS.iter().all(|path| asked.contains(*path)), "a question that is none");
    assert_eq!(workshop.bench.get("/api/history").await, history);
    // With bodies that would be accepted from somebody else.
    let paint = json!({"name": "rain", "class": "water"});
    let (status, problem) = workshop.ask(&guest, Method::POST, "/api/paints", paint).await;
    assert_eq!((status, &problem["type"]), (StatusCode::FORBIDDEN, &json!("urn:warm-blend:guest")));
    let (status, me) = workshop.ask(&guest, Method::GET, "/api/network/me", Value::Null).await;
    assert_eq!((status, me), (StatusCode::OK, json!({"name": "The client", "role": "guest"})));
    assert_eq!(workshop.bench.get("/api/history").await, history);
}

#[tokio::test]
async fn a_helper_works_under_their_name() {
    let workshop = Workshop::open().await;
    let helper = workshop.let_in("Robin", "helper").await;
    let paint = json!({"name": "rain", "class": "chalk", "colour": {"hex": "#8899aa"}});
    let (status, _) = workshop.ask(&helper, Method::POST, "/api/paints", paint).await;
    assert_eq!(status, StatusCode::CREATED);
    let own = json!({"name": "hail", "class": "chalk", "colour": {"hex": "#ccccd0"}});
    workshop.bench.post("/api/paints", own, StatusCode::CREATED).await;
    let log = workshop.bench.get("/api/log?search=new+shelf").await;
    let lines: Vec<&Value> = log["days"][0]["groups"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|group| group["entries"].as_array().unwrap())
        .collect();
    let by = |name: &str| {
        let told = |line: &&&Value| line["words"].as_str().unwrap().contains(name);
        lines.iter().find(told).unwrap()["by"].clone()
    };
    assert_eq!((by("rain"), by("hail")), (json!("Robin"), json!("Ada")));
    // The log is searched by who did it.
    let found = workshop.bench.get("/api/log?search=robin").await;
    assert!(found.to_string().contains("rain") && !found.to_string().contains("hail"), "{found}");
    // What concerns the machine itself is done there.
    for (method, path) in operations().into_iter().filter(|(_, path)| HERE.contains(&&**path)) {
        if (&method, &*path) != (&Method::GET, "/api/demo") {
            let (status, _) = workshop.ask(&helper, method.clone(), &filled(&path), json!({})).await;
            assert_eq!(status, StatusCode::FORBIDDEN, "{method} {path}");
        }
    }
}

#[tokio::test]
async fn a_step_on_the_run_sheet_says_who_did_it() {
    let workshop = Workshop::open().await;
    let helper = workshop.let_in("Robin", "helper").await;
    let piece = workshop.bench.get("/api/piece").await["id"].as_str().unwrap().to_owned();
    let sheet = workshop.bench.get(&format!("/api/pieces/{piece}/run-sheet")).await;
    let step = sheet["steps"].as_array().unwrap().iter().find(|step| step["ready"] == true).unwrap();
    let done = json!({"step": step["id"], "lead": false});
    let path = format!("/api/pieces/{piece}/run-sheet/done?revision={}", sheet["revision"]);
    let (status, sheet) = workshop.ask(&helper, Method::POST, &path, done).await;
    assert_eq!(status, StatusCode::OK, "{sheet}");
    assert_eq!(sheet["done"][0]["by"], "Robin");
    let log = workshop.bench.get("/api/log?kinds=step&search=robin").await;
    assert_eq!(log["days"][0]["groups"][0]["entries"][0]["by"], "Robin", "{log}");
}

#[tokio::test]
async fn who_is_shut_out_is_out_at_once() {
    let workshop = Workshop::open().await;
    let helper = workshop.let_in("Robin", "helper").await;
    let other = workshop.let_in("Sam", "helper").await;
    let mut watched = workshop.send(workshop.from(Some(&helper), Method::GET, "/api/changes")).await;
    assert_eq!(watched.status(), StatusCode::OK);
    watched.frame().await.unwrap().unwrap();
    let path = format!("/api/network/sessions/{}", helper.id);
    let state = workshop.bench.call(Method::DELETE, &path, Value::Null, StatusCode::OK).await;
    assert_eq!(state["sessions"].as_array().unwrap().len(), 1);
    // What it was watching ends, too.
    let rest = tokio::time::timeout(Duration::from_secs(5), async {
        while let Some(Ok(_)) = watched.frame().await {}
    });
    rest.await.expect("the stream goes on");
    let (status, _) = workshop.ask(&helper, Method::GET, "/api/paints", Value::Null).await;
    assert_eq!(status, StatusCode::UNAUTHORIZED);
    let (status, _) = workshop.ask(&other, Method::GET, "/api/paints", Value::Null).await;
    assert_eq!(status, StatusCode::OK);
    let again = workshop.bench.raw(Method::DELETE, &path, "application/json", "").await;
    assert_eq!(again.status(), StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn a_hostile_page_in_the_same_browser_changes_nothing() {
    let workshop = Workshop::open().await;
    let helper = workshop.let_in("Robin", "helper").await;
    let post = async |origin: &str| {
        let mut request = workshop.from(Some(&helper), Method::POST, "/api/paints");
        request.headers_mut().unwrap().insert(ORIGIN, origin.parse().unwrap());
        let rain = json!({"name": "rain", "class": "water"});
        workshop.client.open(workshop.port, request, &rain).await.unwrap().status()
    };
    let http = workshop.base.replace("https", "http");
    for origin in ["https://paint.example", "null", &http, "https://localhost", &workshop.bench.base] {
        assert_eq!(post(origin).await, StatusCode::FORBIDDEN, "{origin}");
    }
    assert_eq!(post(&workshop.base).await, StatusCode::CREATED);
    // A name that was made to resolve to this machine.
    for host in ["paint.example", "localhost.paint.example:7843", "192.0.2.1", "[::", ""] {
        let mut request = workshop.from(Some(&helper), Method::GET, "/api/paints");
        request.headers_mut().unwrap().insert(HOST, host.parse().unwrap());
        let status = workshop.send(request).await.status();
        assert_eq!(status, StatusCode::MISDIRECTED_REQUEST, "{host}");
    }
    // A session is one of the network: at the machine itself it means nothing, and the machine needs none.
    let here = workshop.bench.client.get(format!("{}/api/network/me", workshop.bench.base));
    let here: Value = here.header(COOKIE, &helper.cookie).send().await.unwrap().json().await.unwrap();
    assert_eq!(here, json!({"name": "Ada", "role": null}));
}

#[tokio::test]
async fn a_code_cannot_be_guessed() {
    let workshop = Workshop::open().await;
    let invited = json!({"name": "Robin", "role": "helper"});
    let state = workshop.bench.post("/api/network/invitation", invited, StatusCode::OK).await;
    let code = state["invitation"]["code"].as_str().unwrap().to_owned();
    let mut answers = Vec::new();
    for guess in 0..300 {
        let typed = format!("{guess:08}");
        if typed == code.replace(' ', "") {
            continue;
        }
        answers.push(workshop.join(&typed).await.status());
    }
    assert_eq!(answers.iter().filter(|status| **status == StatusCode::UNPROCESSABLE_ENTITY).count(), 5);
    assert!(answers[5..].iter().all(|status| *status == StatusCode::TOO_MANY_REQUESTS));
    // The right one comes too late, and the painter sees why.
    assert_eq!(workshop.join(&code).await.status(), StatusCode::TOO_MANY_REQUESTS);
    let state = workshop.bench.get("/api/network").await;
    assert_eq!((&state["invitation"]["is_open"], &state["invitation"]["wrong"]), (&json!(false), &json!(5)));
}

#[tokio::test]
async fn it_is_off_until_it_is_turned_on() {
    let bench = Bench::demo().await;
    let state = bench.get("/api/network").await;
    assert_eq!((&state["is_on"], &state["addresses"]), (&json!(false), &json!([])));
    let taken = TcpListener::bind("0.0.0.0:0").unwrap();
    let (taken_port, port) = (taken.local_addr().unwrap().port(), free_port());
    let set = |is_on: bool, port: u16| json!({"is_on": is_on, "port": port, "painter": null});
    for (port, why) in [(80, "from 1024"), (taken_port, "in use")] {
        let refused =
            bench.call(Method::PUT, "/api/network", set(true, port), StatusCode::UNPROCESSABLE_ENTITY);
        let refused = refused.await;
        assert_eq!(refused["errors"][0]["pointer"], "/port");
        assert!(refused["detail"].as_str().unwrap().contains(why), "{refused}");
    }
    assert_eq!(bench.get("/api/network").await["is_on"], false);
    let reachable = || std::net::TcpStream::connect(("127.0.0.1", port)).is_ok();
    bench.call(Method::PUT, "/api/network", set(true, port), StatusCode::OK).await;
    assert!(reachable());
    // A port that is taken leaves the network as it was.
    bench.call(Method::PUT, "/api/network", set(true, taken_port), StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(reachable());
    assert_eq!(bench.get("/api/network").await["port"], port);
    bench.call(Method::PUT, "/api/network", set(false, port), StatusCode::OK).await;
    assert!(!reachable());
}

#[tokio::test]
async fn a_certificate_of_ones_own() {
    let workshop = Workshop::open().await;
    let words = workshop.bench.get("/api/network").await["words"].clone();
    let bad = json!({"certificate": "hello", "key": "hello"});
    let status = StatusCode::UNPROCESSABLE_ENTITY;
    let refused = workshop.bench.call(Method::PUT, "/api/network/certificate", bad, status).await;
    assert_eq!(refused["errors"][0]["pointer"], "/certificate");
    let pair = rcgen::generate_simple_self_signed(["localhost".to_owned()]).unwrap();
    let own = json!({"certificate": pair.cert.pem(), "key": pair.signing_key.serialize_pem()});
    let state = workshop.bench.call(Method::PUT, "/api/network/certificate", own, StatusCode::OK).await;
    assert_ne!(state["words"], words);
    let client = Client::trusting(&pair.cert.pem());
    let door = workshop.from(None, Method::GET, "/api/network/door");
    let door = text(client.open(workshop.port, door, &Value::Null).await.unwrap()).await;
    let door: Value = serde_json::from_str(&door).unwrap();
    assert_eq!((&door["words"], &door["has_authority"]), (&state["words"], &json!(false)));
    // Whoever trusted the workshop's does not trust this one.
    let request = workshop.from(None, Method::GET, "/api/network/door");
    assert!(workshop.client.open(workshop.port, request, &Value::Null).await.is_err());
    let state =
        workshop.bench.call(Method::DELETE, "/api/network/certificate", Value::Null, StatusCode::OK).await;
    assert_eq!(state["words"], words);
}

#[tokio::test]
async fn damaged_settings_are_neither_used_nor_overwritten() {
    let folder = tempfile::tempdir().unwrap();
    let (file, settings) = (folder.path().join("w.db"), folder.path().join("w.network.json"));
    std::fs::write(&settings, r#"{"is_on": true, "port""#).unwrap();
    let bench = Bench::of(&file).await.unwrap();
    let problem = bench.call(Method::GET, "/api/network", Value::Null, StatusCode::CONFLICT).await;
    assert!(problem["detail"].as_str().unwrap().contains("Move it away"), "{problem}");
    let on = json!({"is_on": true, "port": free_port(), "painter": null});
    bench.call(Method::PUT, "/api/network", on, StatusCode::CONFLICT).await;
    assert_eq!(std::fs::read_to_string(&settings).unwrap(), r#"{"is_on": true, "port""#);
    // Everything else works.
    assert!(bench.get("/api/paints").await.is_array());
}
