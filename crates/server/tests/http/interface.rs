//! The description of the interface: complete, unambiguous, and the one the front end was typed by.

use std::collections::HashSet;
use std::path::Path;

use serde_json::Value;

use crate::bench::Bench;

/// `web/src/api/openapi.json` is what the front end's types are made from; `make api` writes it anew.
#[test]
fn the_front_end_is_typed_by_this_interface() {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/api/openapi.json");
    let kept: Value = serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap();
    let now = serde_json::to_value(warm_blend_server::openapi()).unwrap();
    assert!(kept == now, "the interface has changed: run `make api` and commit web/src/api/openapi.json");
}

#[test]
fn every_operation_has_a_name_of_its_own() {
    let now = serde_json::to_value(warm_blend_server::openapi()).unwrap();
    let mut names = HashSet::new();
    for operations in now["paths"].as_object().unwrap().values() {
        for operation in operations.as_object().unwrap().values() {
            let name = operation["operationId"].as_str().unwrap();
            assert!(names.insert(name.to_owned()), "{name} stands twice");
        }
    }
    assert!(names.len() > 15);
}

/// Scripts come as small as they were made, to who takes them so, and as they are to who does not.
#[tokio::test]
async fn the_front_end_comes_compressed() {
    let bench = Bench::empty().await;
    let page = bench.client.get(&bench.base).send().await.unwrap().text().await.unwrap();
    let script = page.split('"').find(|part| part.starts_with("/assets/") && part.ends_with(".js")).unwrap();
    let ask = async |takes: &str| {
        let asked = bench.client.get(format!("{}{script}", bench.base)).header("accept-encoding", takes);
        let answer = asked.send().await.unwrap();
        let header = |name| answer.headers().get(name).map(|value| value.to_str().unwrap().to_owned());
        let about = (header("content-encoding"), header("content-type").unwrap());
        (about, answer.bytes().await.unwrap().len())
    };
    let ((plain, kind), whole) = ask("identity").await;
    assert_eq!(plain, None);
    for takes in ["br", "gzip, deflate, br", "gzip;q=0.5, br;q=1.0"] {
        let ((coding, own), length) = ask(takes).await;
        assert_eq!((coding.as_deref(), &own), (Some("br"), &kind), "{takes}");
        assert!(3 * length < whole, "{length} of {whole}");
    }
    for takes in ["br;q=0", "gzip", "brotli"] {
        assert_ne!(ask(takes).await.0.0.as_deref(), Some("br"), "{takes}");
    }
}
