//! What soaks into bare wood and bare paint, and what that does to their colour.
//!
//! Air in wood and in chalky paint scatters light. What is wiped on fills it (S. A. Twomey, C. F. Bohren and J. L. Mergenthaler,
//! *Appl. Opt.* 25 (1986) 431: what is wet is darker because less of the light that went in is turned back), and carries its colour
//! in: pigment among what scatters darkens more than the same pigment in a clear film above, and no cloth takes it out again
//! (common practice). So the top of what is soaked is one film of both, K and S added by their amounts.

use warm_blend_paint::{FilmState, Material, Microns, Optics, Undersurface, film::FilmTransfer};
use warm_blend_spectral::Reflectance;

use super::GroundKind;

/// Where the colour of what is wet goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Default)]
pub enum Soaks {
    /// Nowhere: it lies on top.
    #[default]
    Nowhere,
    /// Into bare wood.
    IntoWood,
    /// Into bare wood and into the pores of bare paint.
    IntoPores,
}

/// What a layer does to what it lies on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Below {
    /// It fills the air in all that lies below it.
    pub seals: bool,
    /// Where its colour goes.
    pub soaks: Soaks,
}

impl Below {
    /// It lies there, and that is all.
    pub const LIES: Self = Self { seals: false, soaks: Soaks::Nowhere };
    /// It fills all pores, and carries its colour into them, as wax does.
    pub const WAXES: Self = Self { seals: true, soaks: Soaks::IntoPores };
}

/// How deep colour gets into bare paint, µm of what stays†.
const INTO_PAINT: f64 = 20.0;

/// How deep colour gets into bare wood, mm†: a few cells.
const INTO_WOOD: f64 = 0.15;

/// S of bare wood, 1/mm†: half a millimetre of it is translucent, three hide.
const WOOD_SCATTERS: f64 = 5.0;

/// How much of what it took first bare wood takes again of another layer†.
const AGAIN: f64 = 0.5;

/// A wood that drinks.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct BareWood {
    /// Below its surface, dry.
    inside: Reflectance,
    optics: Optics,
    /// φ: share by which its air adds to its scattering, as of a paint.
    air: f64,
    /// µm of a wet mixture whose colour it takes in at once.
    takes: f64,
}

impl BareWood {
    /// Of a kind whose colour below its surface is known; none of what is no bare wood.
    ///
    /// Open woods drink more than dense and resinous ones; what is stained or waxed drinks little (common practice†). By φ a clear
    /// wax takes pale woods 3.5 to 4 down in L\*, and the others 8.
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

    /// The same wood where its air is so many times what is usual.
    pub(super) fn with_air(&self, times: f64) -> Self {
        Self { air: self.air * times, ..self.clone() }
    }

    /// What is seen below the surface where these have soaked in, the first first; its air may be filled.
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

/// A film whose top is soaked.
#[derive(Debug, Clone)]
pub(super) struct SoakedFilm {
    below: FilmTransfer,
    top: FilmTransfer,
}

impl SoakedFilm {
    /// Of `x` of a material, of whose dry film the topmost `deep` µm took in the colour of another.
    pub(super) fn of(film: &Material, x: Microns, filled: bool, by: &Material, deep: f64) -> Self {
        let dry = x.value() * film.stays;
        let share = if dry > 0.0 { (deep / dry).min(1.0) } else { 0.0 };
        let wet = x.value() * share;
        let optics = if filled { film.in_state(FilmState::Sealed).optics } else { film.optics.clone() };
        let mut top = optics.clone();
        if wet > 0.0 {
            // Of the dry film so much is air.
            top.add(film.voids / (1.0 + film.voids) * deep / wet, &by.optics);
        }
        Self { below: optics.sheet(Microns::of(x.value() - wet)), top: top.sheet(Microns::of(wet)) }
    }

    pub(super) fn lay_over(&self, ground: &mut Undersurface) {
        self.below.lay_over(ground);
        self.top.lay_over(ground);
    }
}

/// How deep what is wiped on gets into a bare film that is `dry` µm thick where it has got through so much already.
pub(super) fn into_paint(material: &Material, dry: f64, through: f64) -> f64 {
    if material.voids > 0.0 { (INTO_PAINT - through).clamp(0.0, dry) } else { 0.0 }
}
