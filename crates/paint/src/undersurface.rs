//! What lies below a surface, as light inside the paint meets it.
//!
//! Light that enters paint is bent towards the vertical (Snell), and only light that returns as steeply can leave: the
//! rest is reflected at the surface, whatever its colour. So light below a surface travels in two cones. In the *open*
//! cone it can enter and leave; in the *shut* cone it runs flat, takes a long path through every film, and stays until
//! something scatters it. Diffuse light has 0.4 of its flux in the open cone, because Saunderson's k2 = 0.6 is reflected.
//!
//! This is the method of discrete ordinates (S. Chandrasekhar, *Radiative Transfer*, 1950) with one direction for each
//! cone. For a clear film over a diffuse ground it agrees with F. C. Williams and F. R. Clapper (*J. Opt. Soc. Am.* 43
//! (1953) 595): light goes straight in and nearly straight out, where two fluxes would give it twice the path.

use warm_blend_spectral::{BANDS, Reflectance};

/// Reflection of diffuse light that meets the surface from inside (J. L. Saunderson, *J. Opt. Soc. Am.* 32 (1942) 727).
pub const K2: f64 = 0.6;

/// Share of the flux of diffuse light in the open and in the shut cone.
pub(crate) const FLUX: [f64; 2] = [1.0 - K2, K2];

/// A symmetric matrix over the two cones, in one band. It acts on the flux of each cone divided by the root of [`FLUX`]:
/// by Helmholtz reciprocity, that makes every reflection and transmission symmetric.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Cones {
    /// From the open cone to itself.
    pub(crate) open: f64,
    /// From either cone to the other.
    pub(crate) across: f64,
    /// From the shut cone to itself.
    pub(crate) shut: f64,
}

impl Cones {
    pub(crate) const ONE: Self = Self { open: 1.0, across: 0.0, shut: 1.0 };

    /// A diffuse reflector, which spreads what it reflects over the cones as diffuse light is spread.
    #[inline]
    pub(crate) fn diffuse(reflectance: f64) -> Self {
        Self {
            open: FLUX[0] * reflectance,
            across: (FLUX[0] * FLUX[1]).sqrt() * reflectance,
            shut: FLUX[1] * reflectance,
        }
    }

    /// Share of light entering in the open cone that leaves in it; the surface reflects what goes into the shut one.
    #[inline]
    pub(crate) fn leaving(self) -> f64 {
        self.open + self.across * self.across / (1.0 - self.shut).max(f64::MIN_POSITIVE)
    }

    /// Share of diffuse light that is transmitted or reflected.
    #[inline]
    pub(crate) fn of_diffuse(self) -> f64 {
        FLUX[0] * self.open + 2.0 * (FLUX[0] * FLUX[1]).sqrt() * self.across + FLUX[1] * self.shut
    }

    #[inline]
    pub(crate) fn plus(self, other: Self) -> Self {
        Self {
            open: self.open + other.open,
            across: self.across + other.across,
            shut: self.shut + other.shut,
        }
    }

    #[inline]
    pub(crate) fn times(self, by: f64) -> Self {
        Self { open: by * self.open, across: by * self.across, shut: by * self.shut }
    }

    #[inline]
    pub(crate) fn minus(self, other: Self) -> Self {
        self.plus(other.times(-1.0))
    }

    /// Inverse of an invertible matrix.
    #[inline]
    pub(crate) fn inverse(self) -> Self {
        let det = self.open * self.shut - self.across * self.across;
        Self { open: self.shut / det, across: -self.across / det, shut: self.open / det }
    }

    /// D M D, where D is diagonal.
    #[inline]
    pub(crate) fn scaled(self, [open, shut]: [f64; 2]) -> Self {
        Self {
            open: open * open * self.open,
            across: open * shut * self.across,
            shut: shut * shut * self.shut,
        }
    }

    /// Reflection of a film with reflection `self` and transmission `through` over a ground: R + T G (1 − R G)⁻¹ T, the
    /// sum of all reflections between the two.
    #[inline]
    pub(crate) fn over(self, through: Self, ground: Self) -> Self {
        // 1 − R G.
        let (a, b) = (
            1.0 - self.open * ground.open - self.across * ground.across,
            -self.open * ground.across - self.across * ground.shut,
        );
        let (c, d) = (
            -self.across * ground.open - self.shut * ground.across,
            1.0 - self.across * ground.across - self.shut * ground.shut,
        );
        let det = (a * d - b * c).max(f64::MIN_POSITIVE);
        // G (1 − R G)⁻¹, which is symmetric.
        let back = Self {
            open: (ground.open * d - ground.across * c) / det,
            across: (ground.across * a - ground.open * b) / det,
            shut: (ground.shut * a - ground.across * b) / det,
        };
        // T back T.
        let (p, q) = (
            through.open * back.open + through.across * back.across,
            through.open * back.across + through.across * back.shut,
        );
        let (r, s) = (
            through.across * back.open + through.shut * back.across,
            through.across * back.across + through.shut * back.shut,
        );
        self.plus(Self {
            open: p * through.open + q * through.across,
            across: p * through.across + q * through.shut,
            shut: r * through.across + s * through.shut,
        })
    }
}

/// Reflection of what lies below a surface, by band.
#[derive(Debug, Clone, PartialEq)]
pub struct Undersurface([Cones; BANDS]);

impl Undersurface {
    /// A diffuse reflector of this reflectance: a chart, wood, metal, or anything of unknown structure.
    pub fn diffuse(reflectance: &Reflectance) -> Self {
        Self::from_fn(|i| Cones::diffuse(reflectance.bands()[i]))
    }

    pub(crate) fn from_fn(band: impl FnMut(usize) -> Cones) -> Self {
        Self(std::array::from_fn(band))
    }

    /// The bands, from 380 nm.
    pub fn bands(&self) -> &[Cones; BANDS] {
        &self.0
    }

    pub(crate) fn bands_mut(&mut self) -> &mut [Cones; BANDS] {
        &mut self.0
    }
}
