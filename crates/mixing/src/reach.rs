//! Bounds on the colours that mixes of a set of paints can have.
//!
//! In a mix of at most n parts each paint has a share of at least 1/n. So mixes lie between a few corners: as much as
//! possible of one paint and one part of each other. Below the surface, K/S of a mix lies in every band between those of
//! the corners, and so does R∞; α of the mix lies between theirs too. (Seen through their surfaces the corners do not
//! bound the mix: α mixes by volume, K and S by strength.) In a state other than dry the air of the mix is filled: S is
//! divided by 1 + φ of the mix, which lies between those of all paints, so each corner is taken at both ends.
//!
//! The extremes of this box of curves are then found in five directions of colour. Lightness follows Y. For a\* = 500
//! (f(X) − f(Y)): f is concave, so f(X) lies below its tangent at the target, and f(Y) above its chord over the
//! lightnesses that are close enough; the rest is linear in the curve, with its maximum over the box found band by band.
//! Likewise for −a\*, b\* and −b\*.

use warm_blend_paint::{
    FilmState, Look, Material,
    film::thick_film,
    surface::{K1, surfaced},
};
use warm_blend_spectral::{BANDS, Lab, lab_f, lab_f_inverse, lab_f_slope};

/// Bounds for the paints of a search and its target.
pub(super) struct Reach {
    paints: Vec<Inside>,
    /// Most parts of a mix.
    parts: f64,
    /// What of S is left where the air is filled, at least and at most.
    scatters: [f64; 2],
    /// α k1 at most.
    surface: f64,
    /// X, Y and Z over the white by band.
    weights: [[f64; BANDS]; 3],
    target: Lab,
}

/// What a paint brings into a mix by volume.
#[derive(Clone, Copy)]
struct Inside {
    /// 1/mm.
    k: [f64; BANDS],
    /// 1/mm.
    s: [f64; BANDS],
    /// 1/mm, where it is looked at wet.
    milk: f64,
    stays: f64,
    /// α k1, of what stays.
    surface: f64,
}

impl Inside {
    fn of(material: &Material, state: FilmState) -> Self {
        Self {
            k: *material.optics.k(),
            s: *material.optics.s(),
            milk: if state == FilmState::Wet { material.milk } else { 0.0 },
            stays: material.stays,
            surface: material.stays * K1 * material.sheen.alpha(),
        }
    }

    const NOTHING: Self = Self { k: [0.0; BANDS], s: [0.0; BANDS], milk: 0.0, stays: 0.0, surface: 0.0 };

    /// So many parts more of another.
    fn add(&mut self, parts: f64, other: &Self) {
        for i in 0..BANDS {
            self.k[i] += parts * other.k[i];
            self.s[i] += parts * other.s[i];
        }
        self.milk += parts * other.milk;
        self.stays += parts * other.stays;
        self.surface += parts * other.surface;
    }
}

impl Reach {
    /// Bounds for mixes of at most this many parts.
    pub(super) fn new(materials: &[&Material], look: Look, target: Lab, parts: u32) -> Self {
        let fills = look.state != FilmState::Dry;
        let voids = || materials.iter().filter(|of| of.stays > 0.0).map(|of| of.voids);
        let filled = |voids: f64| if fills { 1.0 / (1.0 + voids) } else { 1.0 };
        let scatters = [voids().fold(0.0, f64::max), voids().reduce(f64::min).unwrap_or(0.0)].map(filled);
        let most_alpha = match look.state {
            FilmState::Dry => 1.0,
            FilmState::Wet => 0.0,
            FilmState::Sealed | FilmState::Buffed => look.state.seal().unwrap_or(1.0),
        };
        let white = look.light.white();
        let weights = look.light.weights();
        let over = [white.x, white.y, white.z];
        Self {
            paints: materials.iter().map(|material| Inside::of(material, look.state)).collect(),
            parts: f64::from(parts),
            scatters,
            surface: K1 * most_alpha,
            weights: std::array::from_fn(|c| weights[c].map(|w| w / over[c])),
            target,
        }
    }

    /// Region that colours within `near` of the target lie in, ΔE00.
    pub(super) fn window(&self, near: f64) -> Window {
        let Lab { l, a, b } = self.target;
        // S_L is 1.75 at most.
        let off_l = 1.75 * near;
        let off_ab = chromatic_reach(self.target, near);
        let f = |l: f64| (l + 16.0) / 116.0;
        let about = |middle: f64, scale: f64| {
            let off = off_ab / scale;
            [at_least_nothing(f(l - off_l) + middle - off), at_least_nothing(f(l + off_l) + middle + off)]
        };
        Window {
            open: near == f64::INFINITY,
            off_ab,
            x: about(a / 500.0, 500.0),
            y: [at_least_nothing(f(l - off_l)), at_least_nothing(f(l + off_l))],
            z: about(-b / 200.0, 200.0),
        }
    }

    /// What mixes of a set lie between; none where nothing of them stays, so that they have no colour to speak of.
    fn bounds(&self, set: &[usize]) -> Option<Box> {
        let mut each = Inside::NOTHING;
        for at in set {
            each.add(1.0, &self.paints[*at]);
        }
        // K over S, from and to.
        let (mut low, mut high) = ([f64::INFINITY; BANDS], [0.0f64; BANDS]);
        let (mut glossy, mut dull) = (f64::INFINITY, f64::NEG_INFINITY);
        let more = (self.parts - set.len() as f64).max(0.0);
        let [least, most] = self.scatters;
        for at in set {
            let mut corner = each;
            corner.add(more, &self.paints[*at]);
            for i in 0..BANDS {
                let (k, s) = (corner.k[i], corner.s[i]);
                low[i] = low[i].min(k / (s * most + corner.milk).max(f64::MIN_POSITIVE));
                high[i] = high[i].max(k / (s * least + corner.milk).max(f64::MIN_POSITIVE));
            }
            if corner.stays > 0.0 {
                let surface = (corner.surface / corner.stays).min(self.surface);
                (glossy, dull) = (glossy.min(surface), dull.max(surface));
            }
        }
        let seen = |ratio: f64| surfaced(0.0, thick_film(ratio, 1.0));
        (glossy <= dull).then(|| Box { least: high.map(seen), most: low.map(seen), glossy, dull })
    }

    /// False if no mix of the set lies in the window.
    pub(super) fn may_come_into(&self, window: &Window, set: &[usize]) -> bool {
        if window.open {
            return true;
        }
        let Some(Box { least, most, glossy, dull }) = self.bounds(set) else { return true };
        // The largest of Σ w R over the box and every surface.
        let largest = |w: &[f64; BANDS]| {
            let (mut sum, mut all) = (0.0, 0.0);
            for i in 0..BANDS {
                sum += w[i] * if w[i] > 0.0 { most[i] } else { least[i] };
                all += w[i];
            }
            sum + all * if all > 0.0 { dull } else { glossy }
        };
        // What of a stimulus is both in the box and in the window; empty where its ends are the wrong way round.
        let overlap = |weights: &[f64; BANDS], [low, high]: [f64; 2]| {
            [low.max(-largest(&weights.map(|w| -w))), high.min(largest(weights))]
        };
        let [x, y, z] = &self.weights;
        let Lab { l, a, b } = self.target;
        let f_y = (l + 16.0) / 116.0;
        let in_y = overlap(y, window.y);
        if in_y[0] > in_y[1] {
            return false;
        }
        // The most that scale · (f(above) − f(below)) can be.
        let most_between = |above: &[f64; BANDS],
                            f_above: f64,
                            below: &[f64; BANDS],
                            [low, high]: [f64; 2]| {
            let at = at_least_nothing(f_above);
            let tangent = lab_f_slope(at);
            let chord =
                if high - low > 1e-6 { (lab_f(high) - lab_f(low)) / (high - low) } else { lab_f_slope(low) };
            let line: [f64; BANDS] = std::array::from_fn(|i| tangent * above[i] - chord * below[i]);
            largest(&line) + f_above - tangent * at - lab_f(low) + chord * low
        };
        let may = |other: &[f64; BANDS], within: [f64; 2], f_other: f64, scale: f64, wanted: f64| {
            let in_other = overlap(other, within);
            in_other[0] <= in_other[1]
                && scale * most_between(other, f_other, y, in_y) >= wanted - window.off_ab
                && scale * most_between(y, f_y, other, in_other) >= -wanted - window.off_ab
        };
        may(x, window.x, f_y + a / 500.0, 500.0, a) && may(z, window.z, f_y - b / 200.0, 200.0, -b)
    }
}

/// What mixes of a set lie between: what comes from below the surface by band, and α k1.
struct Box {
    least: [f64; BANDS],
    most: [f64; BANDS],
    glossy: f64,
    dull: f64,
}

/// Region of colours near a target.
#[derive(Debug, Clone, Copy)]
pub(super) struct Window {
    /// Everything is near enough.
    open: bool,
    /// How far a\* and b\* may be off.
    off_ab: f64,
    /// X, Y and Z over the white, from and to.
    x: [f64; 2],
    y: [f64; 2],
    z: [f64; 2],
}

/// How far from the target a\* and b\* may be together, of colours within `near` of it, ΔE00.
///
/// The differences of chroma and hue count by S_C and S_H, of which S_C = 1 + 0.045 C̄′ is the larger, and the turn of blues
/// R_T stretches the ellipse by 1/√(1 − |R_T|/2). How strong that can be hangs on how far such colours are: it is asked
/// again with every answer. Infinite where there is no limit.
fn chromatic_reach(target: Lab, near: f64) -> f64 {
    let vivid = (1.5 * target.a).hypot(target.b);
    let mut stretch = 1.0 / (1.0 - 60f64.to_radians().sin()).sqrt();
    let mut reach = f64::INFINITY;
    for _ in 0..4 {
        let near = near * stretch;
        let left = 1.0 - 0.5 * 0.045 * near;
        reach = if left > 0.0 { near * (1.0 + 0.045 * vivid) / left } else { f64::INFINITY };
        let seventh = (vivid + 0.5 * reach).powi(7);
        let strength =
            if seventh.is_finite() { 2.0 * (seventh / (seventh + 25f64.powi(7))).sqrt() } else { 2.0 };
        // The middle of the two hues, whatever the stretch of a*; its distance from the blue where the turn is strongest.
        let dull = target.a.hypot(target.b);
        let turned = if reach < dull { 0.5 * (reach / dull).asin().to_degrees() } else { 180.0 };
        let from_blue = [1.0, 1.5]
            .map(|by| {
                let off = (target.b.atan2(by * target.a).to_degrees() - 275.0).rem_euclid(360.0);
                off.min(360.0 - off)
            })
            .into_iter()
            .fold(180.0, f64::min);
        let angle = 30.0 * (-(((from_blue - turned).max(0.0)) / 25.0).powi(2)).exp();
        let turn = strength * (2.0 * angle).to_radians().sin();
        stretch = 1.0 / (1.0 - 0.5 * turn).max(1e-3).sqrt();
    }
    reach
}

/// X, Y or Z over the white of an f; never below nothing.
fn at_least_nothing(f: f64) -> f64 {
    lab_f_inverse(f).max(0.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_paint::{Parts, mix};
    use warm_blend_spectral::{Light, difference};
    use warm_blend_testing::tins::any_paint;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(2000))]

        /// A mix is never passed over: whatever it is, a target at any distance from it is in reach of its paints.
        #[test]
        fn what_a_set_can_be_is_in_its_reach(shelf in proptest::collection::vec(any_paint(), 2..5), parts in [1u32..20, 1..20, 1..20, 1..20], i in 0usize..7, state in 0usize..4, off in [-40.0..40.0f64, -60.0..60.0, -60.0..60.0], scale in 0.0..1.0f64, more in 0u32..6) {
            let look = Look { light: Light::ALL[i], state: FilmState::ALL[state] };
            let of: Vec<(Parts, &Material)> = shelf.iter().zip(parts).map(|(paint, n)| (Parts::of(f64::from(n)), paint)).collect();
            let seen = look.lab(&mix(&of).unwrap());
            let target = Lab { l: (seen.l + scale * off[0]).clamp(0.0, 100.0), a: seen.a + scale * off[1], b: seen.b + scale * off[2] };
            let near = difference(seen, target).value() + 1e-9;
            let materials: Vec<&Material> = shelf.iter().collect();
            // In as many parts as it has, and in more.
            let total: u32 = of.iter().zip(parts).map(|(_, n)| n).sum();
            let reach = Reach::new(&materials, look, target, total + more);
            let set: Vec<usize> = (0..shelf.len()).collect();
            prop_assert!(reach.may_come_into(&reach.window(near), &set), "{:?} is {} from {:?}", seen, near, target);
        }

        /// How far a colour is off says how far a* and b* can be.
        #[test]
        fn chroma_and_hue_stay_within_their_reach(l in 5.0..95.0f64, a in -90.0..90.0f64, b in -110.0..90.0f64, off in [-30.0..30.0f64, -80.0..80.0, -80.0..80.0], scale in 0.0..1.0f64) {
            let target = Lab { l, a, b };
            let other = Lab { l: l + scale * off[0], a: a + scale * off[1], b: b + scale * off[2] };
            let near = difference(other, target).value();
            let far = (other.a - a).hypot(other.b - b);
            prop_assert!(far <= chromatic_reach(target, near) + 1e-9, "{} off at {}", far, near);
        }
    }
}
