//! The description of the interface: complete, unambiguous, and the one the front end was typed by.

use std::collections::HashSet;
use std::path::Path;

use serde_json::Value;

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
