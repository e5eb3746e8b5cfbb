//! The engine never sees the truth: nothing it is made of depends on this crate.

use std::fs;
use std::path::Path;

#[test]
fn the_engine_does_not_depend_on_the_virtual_workshop() {
    let crates = Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/.."));
    let engine = "spectral paint learn bench board piece photo device interchange store workshop render";
    for name in engine.split(' ') {
        let manifest = fs::read_to_string(crates.join(name).join("Cargo.toml")).unwrap();
        assert!(!manifest.contains("warm-blend-sim"), "{name} depends on the virtual workshop");
    }
    assert!(include_str!("../Cargo.toml").contains("warm-blend-paint"), "the arrow points down");
}
