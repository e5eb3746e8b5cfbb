//! A ladder of shades: lighter and darker mixes of a colour.
//!
//! One shade is 6 L*† unless the painter's own card says otherwise (common practice). Each rung is the mix of the base
//! with one or two tins that comes nearest to its lightness at the hue of the base. Hue counts for more than chroma,
//! because a tint with white is always weaker. The best by the most probable tins are ranked by how far off they will
//! probably be: see [`super::likely`].

use warm_blend_paint::{Look, Material, Parts, mix};
use warm_blend_spectral::Lab;

use super::{
    likely::{DoubtfulTin, InDoubt, Stirred, expected_of},
    matching::Ratios,
    reduced_bands::ManyMixes,
};

/// L* of one shade†.
pub const SHADE: f64 = 6.0;
/// Number of shades in each direction.
pub const SHADES: i32 = 5;
/// Most parts of one rung together†.
const PARTS: u32 = 12;
/// How many mixes of a rung are ranked by what is likely.
const CANDIDATES: usize = 6;
/// How far a rung may be from its lightness, and how far its colour may lean from the base's, ΔL* and Δab.
const MISSED: f64 = 2.0;
const LEANED: f64 = 5.0;

/// One rung of the ladder.
#[derive(Debug, Clone, PartialEq)]
pub struct Shade {
    /// Number of shades from the base: negative is darker, positive lighter.
    pub shade: i32,
    /// Desired L*.
    pub wanted: f64,
    /// The mix, if the shelf allows one.
    pub made: Option<MadeShade>,
}

/// A mix for a shade.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeShade {
    /// Parts of the base.
    pub base: u32,
    /// Further tins: index and parts.
    pub more: Vec<(usize, u32)>,
    /// Resulting colour.
    pub lab: Lab,
    /// Deviation from the hue of the base, Δab across it.
    pub leans: f64,
    /// Probable distance from the desired lightness and hue, in L\*a\*b\*: the mean over the plausible shelves.
    pub expected: f64,
}

/// Shades of a base from five darker to five lighter; `shade` is one shade in L*. The base itself is rung 0.
pub fn ladder(base: InDoubt, tins: &[DoubtfulTin], look: impl Into<Look>, shade: f64) -> Vec<Shade> {
    let look = look.into();
    let home = look.lab(base.best);
    let mut best: Vec<Vec<Candidate>> = vec![Vec::new(); 2 * SHADES as usize + 1];
    let materials: Vec<&Material> =
        std::iter::once(base.best).chain(tins.iter().map(|tin| tin.tin.material)).collect();
    let homes: Vec<Lab> = base.plausible.iter().map(|base| look.lab(base)).collect();
    let stirred = |candidate: &Candidate| -> Vec<Stirred> {
        let part = |(at, parts): &(usize, u32)| {
            let own = at.checked_sub(1).map_or(base, |tin| tins[tin].material());
            (Parts::of(f64::from(*parts)), own)
        };
        candidate.parts.iter().map(part).collect()
    };
    let sweep = ManyMixes::new(&materials, look);
    let mut judge = |set: &[usize], ratios: &Ratios, labs: &[Lab]| {
        for (lab, parts) in labs.iter().zip(&ratios.all) {
            Candidate::judge(home, shade, *lab, set, parts, &mut best);
        }
    };
    let (two, three) = (Ratios::of(2, PARTS), Ratios::of(3, PARTS));
    for one in 1..materials.len() {
        let set = [0, one];
        judge(&set, &two, &sweep.labs(&set, &two.rows));
        for other in one + 1..materials.len() {
            let set = [0, one, other];
            judge(&set, &three, &sweep.labs(&set, &three.rows));
        }
    }
    (-SHADES..=SHADES)
        .map(|n| {
            let wanted = home.l + shade * f64::from(n);
            let made = if n == 0 {
                Some(MadeShade { base: 1, more: Vec::new(), lab: home, leans: 0.0, expected: 0.0 })
            } else {
                let missed =
                    |home: Lab, lab: Lab| (lab.l - home.l - shade * f64::from(n)).hypot(drift(home, lab).1);
                let made = best[(n + SHADES) as usize].iter().map(|found| {
                    let mut made = found.made(home, &materials, look);
                    // Each plausible shelf has its own base to be lighter or darker than.
                    made.expected = expected_of(&stirred(found), &homes, |shelf, mixed| {
                        missed(shelf.map_or(home, |base| *base), look.lab(mixed))
                    });
                    made
                });
                made.filter(|made| (made.lab.l - wanted).abs() <= MISSED && made.leans <= LEANED)
                    .min_by(|one, other| one.effort().total_cmp(&other.effort()))
            };
            Shade { shade: n, wanted, made }
        })
        .collect()
}

/// A mix that might be a rung.
#[derive(Debug, Clone)]
struct Candidate {
    parts: Vec<(usize, u32)>,
    cost: f64,
}

impl Candidate {
    fn judge(home: Lab, shade: f64, lab: Lab, set: &[usize], parts: &[u32], best: &mut [Vec<Candidate>]) {
        let n = ((lab.l - home.l) / shade).round();
        if n == 0.0 || n.abs() > f64::from(SHADES) {
            return;
        }
        let off = lab.l - home.l - shade * n;
        let (along, across) = drift(home, lab);
        let cost = (off * off + across * across + 0.1 * along * along).sqrt()
            + bother(set.len(), parts.iter().sum());
        let slot = &mut best[(n as i32 + SHADES) as usize];
        let at = slot.partition_point(|better| better.cost <= cost);
        if at < CANDIDATES {
            let parts = set.iter().copied().zip(parts.iter().copied()).collect();
            slot.insert(at, Candidate { parts, cost });
            slot.truncate(CANDIDATES);
        }
    }

    /// Predicted in full.
    fn made(&self, home: Lab, materials: &[&Material], look: Look) -> MadeShade {
        let of: Vec<(Parts, &Material)> =
            self.parts.iter().map(|(at, parts)| (Parts::of(f64::from(*parts)), materials[*at])).collect();
        let lab = mix(&of).map_or(home, |mixed| look.lab(&mixed));
        MadeShade {
            base: self.parts[0].1,
            more: self.parts[1..].iter().map(|(at, parts)| (at - 1, *parts)).collect(),
            lab,
            leans: drift(home, lab).1,
            expected: 0.0,
        }
    }
}

impl MadeShade {
    /// How far off it is likely to be, with what it costs to mix it.
    fn effort(&self) -> f64 {
        let parts = self.base + self.more.iter().map(|(_, parts)| parts).sum::<u32>();
        self.expected + bother(1 + self.more.len(), parts)
    }
}

/// A paint more must be worth half a unit, a part more a thirtieth: a ladder is mixed by hand.
fn bother(paints: usize, parts: u32) -> f64 {
    0.5 * paints.saturating_sub(2) as f64 + 0.03 * f64::from(parts)
}

/// How far a colour is from another along its hue (stronger or weaker), and across it. Around grey all of it is across.
fn drift(home: Lab, lab: Lab) -> (f64, f64) {
    const NEUTRAL: f64 = 6.0;
    let (da, db) = (lab.a - home.a, lab.b - home.b);
    let chroma = home.chroma();
    if chroma < NEUTRAL {
        return (0.0, da.hypot(db));
    }
    let along = (da * home.a + db * home.b) / chroma;
    let across = (db * home.a - da * home.b) / chroma;
    // A weaker colour leans by as much less as it is weaker.
    (along, across.abs())
}
