//! The licences of all that is shipped are in the program: who adds a crate or a package runs `make licences`.

use std::collections::BTreeSet;
use std::path::Path;
use std::process::Command;

use serde_json::Value;

fn read(file: &str) -> Value {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(file);
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

/// `name version` of everything whose licence is shown.
fn licences() -> BTreeSet<String> {
    let gathered = read("web/public/licences.json");
    let answer = gathered.as_array().unwrap().iter().flat_map(|licence| {
        assert!(licence["text"].as_str().unwrap().len() > 200, "{licence}");
        licence["of"].as_array().unwrap()
    });
    answer.map(|of| of.as_str().unwrap().to_owned()).collect()
}

#[test]
fn every_crate_that_is_shipped_is_told() {
    let tree = ["tree", "--locked", "--offline", "-p", "warm-blend-server", "-e", "normal"];
    let asked =
        Command::new(env!("CARGO")).args(tree).args(["--prefix", "none", "-f", "{p}"]).output().unwrap();
    assert!(asked.status.success(), "{}", String::from_utf8_lossy(&asked.stderr));
    let answer = licences();
    let listed = String::from_utf8(asked.stdout).unwrap();
    let shipped: BTreeSet<String> = listed
        .lines()
        .filter(|line| !line.starts_with("warm-blend") && !line.contains("(proc-macro)"))
        .filter_map(|line| line.split_once(" v"))
        .map(|(name, rest)| format!("{name} {}", rest.split(' ').next().unwrap_or(rest)))
        .collect();
    assert!(shipped.len() > 100, "{shipped:?}");
    let missing: Vec<_> = shipped.difference(&answer).collect();
    assert!(missing.is_empty(), "run `make licences`: {missing:?}");
}

#[test]
fn every_package_that_is_shipped_is_told() {
    let answer = licences();
    for name in read("web/package.json")["dependencies"].as_object().unwrap().keys() {
        let answer = answer.iter().any(|of| of.rsplit_once(' ').is_some_and(|(answer, _)| answer == name));
        assert!(answer, "run `make licences`: {name}");
    }
}
