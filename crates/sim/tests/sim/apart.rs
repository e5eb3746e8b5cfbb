//! The engine never sees the truth: nothing it is made of depends on this crate.

use std::collections::BTreeSet;
use std::fs;
use std::path::Path;

/// The crates of the workspace that one is made of, itself among them, by what their manifests name.
fn made_of(first: &str) -> BTreeSet<String> {
    let crates = Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/.."));
    let names: Vec<String> = fs::read_dir(crates)
        .unwrap()
        .map(|entry| entry.unwrap().file_name().into_string().unwrap())
        .collect();
    let mut found = BTreeSet::from([first.to_owned()]);
    let mut open = vec![first.to_owned()];
    while let Some(name) = open.pop() {
        let manifest = fs::read_to_string(crates.join(&name).join("Cargo.toml")).unwrap();
        let named = |other: &&String| {
            let key = format!("warm-blend-{other}");
            manifest.lines().any(|line| line.split(['.', ' ', '=']).next() == Some(key.as_str()))
        };
        let more: Vec<String> = names.iter().filter(named).cloned().collect();
        open.extend(more.into_iter().filter(|other| found.insert(other.clone())));
    }
    found
}

#[test]
fn the_engine_does_not_depend_on_the_virtual_workshop() {
    for engine in
        ["learn", "mixing", "board", "piece", "plan", "photo", "render", "documents", "store", "workshop"]
    {
        let made_of = made_of(engine);
        assert!(made_of.contains("spectral"), "{engine}: {made_of:?}");
        assert!(!made_of.contains("sim"), "{engine} depends on the virtual workshop");
    }
    // The program does: its stand-ins for devices read virtual samples. So what is looked for can be found.
    assert!(made_of("server").contains("sim"));
}
