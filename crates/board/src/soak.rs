//! What soaks into bare wood and bare paint, and how that changes their colour.
//!
//! Air in wood and in chalky paint scatters light. A liquid wiped on fills the air (S. A. Twomey, C. F. Bohren and J. L.
//! Mergenthaler, *Appl. Opt.* 25 (1986) 431: a wet surface is darker because it returns less of the light that entered)
//! and carries its colour in. Pigment among scatterers darkens more than the same pigment in a clear film above, and no
//! cloth removes it (common practice). So the top of a soaked material is one film of both, with K and S added by amount.

use warm_blend_paint::{FilmState, Material, Microns, Optics, Undersurface, film::FilmTransfer};
use warm_blend_spectral::Reflectance;

use super::GroundKind;

/// Where the colour of a wet layer goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Default)]
pub enum Soaks {
    /// Nowhere: it stays on top.
    #[default]
    Nowhere,
    /// Into bare wood.
    IntoWood,
    /// Into bare wood and into the pores of bare paint.
    IntoPores,
}

/// Effect of a layer on what lies below it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Below {
    /// True if it fills the air in everything below it.
    pub seals: bool,
    /// Where its colour goes.
    pub soaks: Soaks,
}

impl Below {
    /// No effect.
    pub const LIES: Self = Self { seals: false, soaks: Soaks::Nowhere };
    /// Fills all pores and carries its colour into them, as wax does.
    pub const WAXES: Self = Self { seals: true, soaks: Soaks::IntoPores };
}

/// Depth to which colour enters bare paint, µm of dry film†.
const INTO_PAINT: f64 = 20.0;

/// Depth to which colour enters bare wood, mm†: a few cells.
const INTO_WOOD: f64 = 0.15;

/// S of bare wood, 1/mm†: half a millimetre is translucent, three are opaque.
const WOOD_SCATTERS: f64 = 5.0;

/// Share of its first uptake that bare wood takes of another layer†.
const AGAIN: f64 = 0.5;

/// Absorbent wood.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct BareWood {
    /// Reflectance below its surface, dry.
    inside: Reflectance,
    optics: Optics,
    /// φ: the factor, less 1, by which its air raises its scattering, as for a paint.
    air: f64,
    /// Wet mixture whose colour it absorbs at once, µm.
    takes: f64,
}

impl BareWood {
    /// Wood of a kind whose reflectance below its surface is known; `None` if it is not bare wood.
    ///
    /// Open-grained woods absorb more than dense and resinous ones, stained and waxed woods little (common practice†). φ
    /// is such that a clear wax lowers L\* by 3.5 to 4 on pale woods and by 8 on the others.
    pub(super) fn of(kind: GroundKind, inside: &Reflectance) -> Option<Self> {
        let (air, takes) = match kind {
            GroundKind::PaleWood => (1.4, 20.0),
            GroundKind::MidWood => (1.6, 24.0),
            GroundKind::DarkWood => (1.6, 20.0),
            GroundKind::RedWood => (1.6, 20.0),
            GroundKind::KnottyWood => (1.0, 14.0),
            GroundKind::StainedWood => (0.8, 8.0),
            GroundKind::RedStain
            | GroundKind::Varnished
            | GroundKind::OldWax
            | GroundKind::OldPaint
            | GroundKind::Laminate
            | GroundKind::PolishedMetal
            | GroundKind::PaintedMetal
            | GroundKind::WhitePrimer
            | GroundKind::GreyPrimer => return None,
        };
        Some(Self { inside: *inside, optics: Optics::of_thick_film(inside, WOOD_SCATTERS), air, takes })
    }

    /// The same wood with this factor on its air.
    pub(super) fn with_air(&self, times: f64) -> Self {
        Self { air: self.air * times, ..self.clone() }
    }

    /// Reflectance below the surface once these have soaked in, in this order; its air may be filled.
    pub(super) fn soaked(&self, by: &[&Material], filled: bool) -> Undersurface {
        let mut top = self.optics.scattering(if filled { 1.0 / (1.0 + self.air) } else { 1.0 }, 0.0);
        let mut takes = self.takes;
        for material in by {
            top.add(takes / 1000.0 / INTO_WOOD, &material.optics);
            takes *= AGAIN;
        }
        let mut seen = Undersurface::diffuse(&self.inside);
        top.sheet(Microns::of(1000.0 * INTO_WOOD)).lay_over(&mut seen);
        seen
    }
}

/// A film with a soaked top.
#[derive(Debug, Clone)]
pub(super) struct SoakedFilm {
    below: FilmTransfer,
    top: FilmTransfer,
}

impl SoakedFilm {
    /// A film `x` thick, the topmost `deep` µm of whose dry film absorbed the colour of another material.
    pub(super) fn of(film: &Material, x: Microns, filled: bool, by: &Material, deep: f64) -> Self {
        let dry = x.value() * film.stays;
        let share = if dry > 0.0 { (deep / dry).min(1.0) } else { 0.0 };
        let wet = x.value() * share;
        let optics = if filled { film.in_state(FilmState::Sealed).optics } else { film.optics.clone() };
        let mut top = optics.clone();
        if wet > 0.0 {
            // Share of air in the dry film.
            top.add(film.voids / (1.0 + film.voids) * deep / wet, &by.optics);
        }
        Self { below: optics.sheet(Microns::of(x.value() - wet)), top: top.sheet(Microns::of(wet)) }
    }

    pub(super) fn lay_over(&self, ground: &mut Undersurface) {
        self.below.lay_over(ground);
        self.top.lay_over(ground);
    }
}

/// Depth to which a wiped material enters a bare film that is `dry` µm thick, if it has already got `through` this much.
pub(super) fn into_paint(material: &Material, dry: f64, through: f64) -> f64 {
    if material.voids > 0.0 { (INTO_PAINT - through).clamp(0.0, dry) } else { 0.0 }
}
