//! Where on a carved surface a layer lies.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;
use warm_blend_paint::{BadMeasure, quantity::in_range};

/// A kind of place on a surface; a technique leaves a different film on each.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    Hash,
    PartialOrd,
    Ord,
    Serialize,
    Deserialize,
    strum::IntoStaticStr,
    strum::VariantArray,
)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
pub enum Place {
    /// Flat surfaces.
    Field,
    /// Grooves, carving and corners.
    Recess,
    /// Arrises, tips and high points.
    Edge,
}

/// One value for each kind of place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ByPlace<T> {
    /// On the flat.
    pub field: T,
    /// In grooves, carving and corners.
    pub recess: T,
    /// On arrises, tips and high points.
    pub edge: T,
}

/// Share of an area, 0..=1.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Share(f64);

/// Shares of field, recess and edge on a flat board with arrises†.
pub const FLAT: ByPlace<f64> = ByPlace { field: 0.94, recess: 0.02, edge: 0.04 };

impl Place {
    /// All kinds of place, in the order in which they are named.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `field`, `recess` or `edge`.
    pub fn id(self) -> &'static str {
        self.into()
    }
}

impl<T> ByPlace<T> {
    /// The same value at every place.
    pub fn all(value: T) -> Self
    where
        T: Clone,
    {
        Self { field: value.clone(), recess: value.clone(), edge: value }
    }

    /// The value at one place.
    pub const fn at(&self, place: Place) -> &T {
        match place {
            Place::Field => &self.field,
            Place::Recess => &self.recess,
            Place::Edge => &self.edge,
        }
    }

    /// Computes a value for each place.
    pub fn from_fn(mut of: impl FnMut(Place) -> T) -> Self {
        Self { field: of(Place::Field), recess: of(Place::Recess), edge: of(Place::Edge) }
    }
}

impl Share {
    /// Nothing.
    pub const NONE: Share = Share(0.0);
    /// Everything.
    pub const WHOLE: Share = Share(1.0);

    /// Accepts 0 to 1.
    pub fn new(share: f64) -> Result<Self, BadMeasure> {
        in_range(share, 0.0, 1.0).map(Self)
    }

    /// Takes a computed or tabulated share and clamps it to 0..=1; NaN becomes 0.
    pub const fn of(share: f64) -> Self {
        Self(share.max(0.0).min(1.0))
    }

    /// The number.
    pub const fn value(self) -> f64 {
        self.0
    }
}

impl TryFrom<f64> for Share {
    type Error = BadMeasure;

    fn try_from(share: f64) -> Result<Self, BadMeasure> {
        Self::new(share)
    }
}

impl From<Share> for f64 {
    fn from(share: Share) -> f64 {
        share.0
    }
}
