//! Uncertainty as an ensemble: the most probable material and plausible alternatives.

use std::sync::{Arc, OnceLock};

use nalgebra::DMatrix;
use warm_blend_paint::{BadPaint, FilmState, Material, NothingToMix, Optics, Parts, SurfaceReflection, mix};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz, difference};

use super::discrepancy;
use super::draws::{self, MEMBERS};
use super::first_guess::{FirstGuess, Label};

/// Uncertainty that no reading removes, ΔE00†: paint is not a perfect film, and no two strokes are alike.
const NOISE_FLOOR: f64 = 0.2;

/// Probability that the truth lies within a band.
const COVERAGE: f64 = 0.9;

/// The most probable material and 128 equally plausible ones. Members of the same index belong to the same plausible
/// shelf, so ensembles can be combined member by member without losing their correlation.
#[derive(Debug, Clone)]
pub struct Ensemble {
    best: Material,
    members: Members,
}

/// Plausible materials, drawn or to be drawn.
#[derive(Debug, Clone)]
enum Members {
    /// `None` if nothing is uncertain, as for water.
    Drawn(Arc<[Plausible]>),
    /// A tin, whose members are drawn when first needed.
    OfTin(Arc<Tin>),
}

/// A tin, with what its plausible variants depend on.
#[derive(Debug)]
struct Tin {
    known: Known,
    /// Whether drawn variants are kept; not in a list of thousands of tins.
    kept: bool,
    drawn: OnceLock<Arc<[Plausible]>>,
}

#[derive(Debug)]
enum Known {
    /// A tin without readings.
    Label(Box<Label>),
    /// Coordinates × members, in single precision; the finer shapes are those drawn before any reading.
    Fitted(Arc<FirstGuess>, DMatrix<f32>),
}

impl Tin {
    /// Draws the variants; none for a label without necessary facts, which was rejected earlier.
    fn draw(&self) -> Arc<[Plausible]> {
        match &self.known {
            Known::Label(label) => {
                let guess = FirstGuess::of((**label).clone());
                guess.iter().flat_map(FirstGuess::plausible).map(Plausible::from).collect()
            }
            Known::Fitted(guess, members) => guess.plausible_at(members).map(Plausible::from).collect(),
        }
    }
}

impl Members {
    fn get(&self) -> &[Plausible] {
        match self {
            Members::Drawn(drawn) => drawn,
            Members::OfTin(tin) => tin.drawn.get_or_init(|| tin.draw()),
        }
    }
}

/// Uncertainty of a swatch in a light.
#[derive(Debug, Clone)]
pub struct Doubt {
    /// 90 % band, ΔE00.
    pub within: f64,
    /// Eight plausible colours at the edge of the band, dark to light; empty if nothing is uncertain.
    pub halo: Vec<Reflectance>,
}

/// A plausible material in single precision: accurate far beyond the band, in half the memory.
#[derive(Debug, Clone, PartialEq)]
struct Plausible {
    k: [f32; BANDS],
    s: [f32; BANDS],
    alpha: f32,
    stays: f32,
    voids: f32,
    milk: f32,
    lustre: f32,
}

impl From<Material> for Plausible {
    fn from(material: Material) -> Self {
        let single = |bands: &[f64; BANDS]| bands.map(|v| v as f32);
        Self {
            k: single(material.optics.k()),
            s: single(material.optics.s()),
            alpha: material.sheen.alpha() as f32,
            stays: material.stays as f32,
            voids: material.voids as f32,
            milk: material.milk as f32,
            lustre: material.lustre as f32,
        }
    }
}

impl From<&Plausible> for Material {
    fn from(plausible: &Plausible) -> Self {
        Self {
            optics: Optics::new(plausible.k.map(f64::from), plausible.s.map(f64::from)),
            sheen: SurfaceReflection::new(f64::from(plausible.alpha)),
            stays: f64::from(plausible.stays),
            voids: f64::from(plausible.voids),
            milk: f64::from(plausible.milk),
            lustre: f64::from(plausible.lustre),
        }
    }
}

impl Ensemble {
    /// A material without uncertainty.
    pub fn certain(best: Material) -> Self {
        Self { best, members: Members::Drawn(Arc::new([])) }
    }

    /// A tin without readings.
    pub(super) fn unread(label: Label, kept: bool) -> Result<Self, BadPaint> {
        let best = label.facts.most_probable(label.base.as_ref())?;
        if label.facts.class.is_medium() {
            return Ok(Self::certain(best));
        }
        Ok(Self::of_tin(best, Known::Label(Box::new(label)), kept))
    }

    /// A tin with readings: its most probable material, and its plausible ones as coordinates × members.
    pub(super) fn fitted(guess: &Arc<FirstGuess>, best: Material, members: DMatrix<f32>) -> Self {
        match guess.label.facts.class.is_medium() {
            true => Self::certain(best),
            false => Self::of_tin(best, Known::Fitted(Arc::clone(guess), members), true),
        }
    }

    /// Coordinates of the plausible materials of a fitted tin, one material after the other.
    pub(super) fn coordinates(&self) -> &[f32] {
        match &self.members {
            Members::OfTin(tin) => match &tin.known {
                Known::Fitted(_, members) => members.as_slice(),
                Known::Label(_) => &[],
            },
            Members::Drawn(_) => &[],
        }
    }

    fn of_tin(best: Material, known: Known, kept: bool) -> Self {
        Self { best, members: Members::OfTin(Arc::new(Tin { known, kept, drawn: OnceLock::new() })) }
    }

    /// A copy that draws its members on demand and does not keep them, for looking through thousands of tins.
    pub fn for_a_look(&self) -> Self {
        let drawn = match &self.members {
            Members::OfTin(tin) if !tin.kept => tin.drawn.get().map_or_else(|| tin.draw(), Arc::clone),
            _ => return self.clone(),
        };
        Self { best: self.best.clone(), members: Members::Drawn(drawn) }
    }

    /// An ensemble of the most probable material and those of the 128 plausible shelves.
    pub fn new(best: Material, members: impl Iterator<Item = Material>) -> Self {
        Self { best, members: Members::Drawn(members.map(Plausible::from).collect()) }
    }

    /// True if nothing was learned since `since`; a repeated fit counts as a change.
    pub fn is_unchanged(&self, since: &Self) -> bool {
        let same = match (&self.members, &since.members) {
            (Members::Drawn(now), Members::Drawn(then)) => {
                now.is_empty() && then.is_empty() || Arc::ptr_eq(now, then)
            }
            (Members::OfTin(now), Members::OfTin(then)) => Arc::ptr_eq(now, then),
            _ => false,
        };
        same && self.best == since.best
    }

    /// False of a medium, and of a material that is known for certain.
    pub fn is_uncertain(&self) -> bool {
        !self.members.get().is_empty()
    }

    /// The most probable material.
    pub fn best(&self) -> &Material {
        &self.best
    }

    /// Material on plausible shelf `i`, 0..128.
    pub fn member(&self, i: usize) -> Material {
        self.members.get().get(i).map_or_else(|| self.best.clone(), Material::from)
    }

    /// The first `n` members, each followed by its opposite; `n` is even and at most 128. Empty if nothing is uncertain.
    pub fn some(&self, n: usize) -> Vec<Material> {
        let all = self.members.get();
        draws::some(n).filter_map(|i| all.get(i)).map(Material::from).collect()
    }

    pub(crate) fn members(&self) -> impl Iterator<Item = Material> {
        self.members.get().iter().map(Material::from)
    }

    /// Changes the tinting strength by `best`, on a logarithmic scale, and that of each member by its own amount.
    pub fn with_strength(&self, best: f64, members: impl Fn(usize) -> f64) -> Self {
        let stronger = self.members().enumerate().map(|(m, member)| member.stronger(members(m)));
        Self::new(self.best.stronger(best), stronger)
    }

    /// Mixes the materials of each plausible shelf (see [`mix`]), and adds the uncertainty of what a medium does to a
    /// paint.
    pub fn mix(components: &[(Parts, &Ensemble)]) -> Result<Self, NothingToMix> {
        Self::stirred(components, discrepancy::diluted)
    }

    /// Mixes with the uncertainty of the tins alone, as if the effect of mediums were known.
    pub fn mix_with_known_media(components: &[(Parts, &Ensemble)]) -> Result<Self, NothingToMix> {
        Self::stirred(components, |mix, _, _| mix)
    }

    fn stirred(
        components: &[(Parts, &Ensemble)],
        diluted: impl Fn(Material, f64, usize) -> Material,
    ) -> Result<Self, NothingToMix> {
        let stir = |of: &dyn Fn(&Ensemble) -> Material| {
            let each: Vec<(Parts, Material)> =
                components.iter().map(|(parts, ensemble)| (*parts, of(ensemble))).collect();
            let borrowed: Vec<(Parts, &Material)> = each.iter().map(|(parts, m)| (*parts, m)).collect();
            mix(&borrowed)
        };
        let best = stir(&|ensemble| ensemble.best.clone())?;
        if !components.iter().any(|(_, ensemble)| ensemble.is_uncertain()) {
            return Ok(Self::certain(best));
        }
        let (mut clear, mut all) = (0.0, 0.0);
        for (parts, ensemble) in components {
            let stays = parts.value() * ensemble.best.stays;
            all += stays;
            // A medium is certain.
            clear += if ensemble.is_uncertain() { 0.0 } else { stays };
        }
        let clear = clear / all.max(f64::MIN_POSITIVE);
        let members = (0..MEMBERS)
            .map(|i| Ok(diluted(stir(&|ensemble| ensemble.member(i))?, clear, i)))
            .collect::<Result<Vec<_>, _>>()?;
        Ok(Self::new(best, members.into_iter()))
    }

    /// All materials in another state.
    pub fn in_state(&self, state: FilmState) -> Self {
        match state {
            FilmState::Dry => self.clone(),
            _ => Self::new(self.best.in_state(state), self.members().map(|member| member.in_state(state))),
        }
    }

    /// Uncertainty of its swatch (see [`Material::swatch_reflectance`]) in a light.
    pub fn doubt(&self, light: Light) -> Doubt {
        const RIM: usize = 32;
        const SHOWN: usize = 8;
        let hides = self.best.hides();
        let lab = |curve: &Reflectance| Lab::of(Xyz::of(curve, light), light.white());
        let best = lab(&self.best.swatch_reflectance_if(hides));
        let mut faces: Vec<(f64, f64, Reflectance)> = self
            .members()
            .map(|member| {
                let face = member.swatch_reflectance_if(hides);
                let seen = lab(&face);
                (difference(seen, best).value(), seen.l, face)
            })
            .collect();
        // The farthest tenth lies outside the band.
        faces.sort_by(|one, other| one.0.total_cmp(&other.0));
        let within = held(&faces.iter().map(|(off, ..)| *off).collect::<Vec<_>>());
        let end = ((COVERAGE * faces.len().saturating_sub(1) as f64) as usize + 1).min(faces.len());
        let mut rim = faces.get(end.saturating_sub(RIM)..end).unwrap_or_default().to_vec();
        rim.sort_by(|one, other| one.1.total_cmp(&other.1));
        let step = rim.len().div_ceil(SHOWN).max(1);
        let halo = rim.into_iter().step_by(step).map(|(_, _, face)| face).collect();
        Doubt { within, halo }
    }

    /// 90 % band, ΔE00, of a colour: in nine cases of ten the true one is within this distance of the most probable.
    pub fn within(&self, look: impl Fn(&Material) -> Lab) -> f64 {
        if self.members.get().is_empty() {
            return 0.0;
        }
        band90(look(&self.best), self.members().map(|member| look(&member)))
    }
}

/// 90 % band of plausible colours around the best: the distance, ΔE00, within which nine tenths of them lie, combined
/// with the part that no reading removes. 0 without plausible colours.
pub fn band90(best: Lab, plausible: impl Iterator<Item = Lab>) -> f64 {
    let mut off: Vec<f64> = plausible.map(|lab| difference(lab, best).value()).collect();
    off.sort_by(f64::total_cmp);
    held(&off)
}

/// 90 % quantile of sorted distances.
///
/// With 64 pairs the ninth decile is noisy, so neighbouring order statistics are averaged with triangular weights (S. J.
/// Sheather and J. S. Marron, *J. Am. Stat. Assoc.* 85 (1990) 410).
fn held(off: &[f64]) -> f64 {
    /// Half the width of the triangle, in shares of the cases.
    const WIDTH: f64 = 0.06;
    if off.is_empty() {
        return 0.0;
    }
    let n = off.len() as f64;
    let middle = COVERAGE * (n - 1.0);
    let weight = |rank: usize| (1.0 - (rank as f64 - middle).abs() / (WIDTH * n).max(1.0)).max(0.0);
    let (sum, weights) = off
        .iter()
        .enumerate()
        .fold((0.0, 0.0), |(sum, weights), (rank, off)| (sum + weight(rank) * off, weights + weight(rank)));
    (sum / weights).hypot(NOISE_FLOOR)
}
