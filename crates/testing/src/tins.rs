//! Arbitrary paints for property tests.

use crate::shelf::paint;
use proptest::prelude::*;
use warm_blend_paint::{Class, CoatsToHide, Masstone, Material};
use warm_blend_spectral::Srgb;

pub fn tin(class: Class, masstone: Option<Masstone>, coats: Option<f64>) -> Material {
    Material::of(class, masstone, coats.map(|coats| CoatsToHide::new(coats).unwrap())).unwrap()
}

pub fn any_class() -> impl Strategy<Value = Class> {
    (0..Class::ALL.len()).prop_map(|i| Class::ALL[i]).prop_filter("a paint", |class| !class.is_medium())
}

/// A paint that hides in a known number of coats.
pub fn any_paint() -> impl Strategy<Value = Material> {
    (any::<[u8; 3]>(), 0usize..9, 0.5..6.0f64)
        .prop_map(|(code, class, coats)| paint(Class::ALL[class], code, coats))
}

pub fn any_tin() -> impl Strategy<Value = Material> {
    (any::<[u8; 3]>(), any_class(), proptest::option::of(0.25..12.0f64)).prop_map(
        |([red, green, blue], class, coats)| {
            tin(class, Some(Masstone::Hex(Srgb { red, green, blue })), coats)
        },
    )
}
