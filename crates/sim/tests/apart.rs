//! The engine never sees the truth: nothing it is made of depends on this crate.

#[test]
fn the_engine_does_not_depend_on_the_virtual_workshop() {
    let manifests = [
        ("spectral", include_str!("../../spectral/Cargo.toml")),
        ("finish", include_str!("../../finish/Cargo.toml")),
        ("interchange", include_str!("../../interchange/Cargo.toml")),
        ("store", include_str!("../../store/Cargo.toml")),
    ];
    for (name, manifest) in manifests {
        assert!(!manifest.contains("warm-blend-sim"), "{name} depends on the virtual workshop");
    }
    assert!(include_str!("../Cargo.toml").contains("warm-blend-finish"), "the arrow points down");
}
