//! Plausible variants of a paint, stored number by number so that they are computed with vector instructions.

use warm_blend_paint::Material;
use warm_blend_spectral::BANDS;

use super::draws::MEMBERS;

/// One number of each plausible shelf.
pub(crate) type Lane = [f64; MEMBERS];

/// The plausible variants of a paint.
#[derive(Debug, Clone)]
pub(crate) struct Crowd {
    /// K by band.
    pub k: Vec<Lane>,
    pub s: Vec<Lane>,
    pub alpha: Lane,
    pub voids: Lane,
    /// The same for all variants.
    pub milk: f64,
    pub stays: f64,
}

impl Crowd {
    /// Collects the variant of each shelf.
    pub(crate) fn of(member: impl Fn(usize) -> Material) -> Self {
        let nothing = [0.0; MEMBERS];
        let mut crowd = Self {
            k: vec![nothing; BANDS],
            s: vec![nothing; BANDS],
            alpha: nothing,
            voids: nothing,
            milk: 0.0,
            stays: 0.0,
        };
        for m in 0..MEMBERS {
            let material = member(m);
            for i in 0..BANDS {
                crowd.k[i][m] = material.optics.k()[i];
                crowd.s[i][m] = material.optics.s()[i];
            }
            crowd.alpha[m] = material.sheen.alpha();
            crowd.voids[m] = material.voids;
            (crowd.milk, crowd.stays) = (material.milk, material.stays);
        }
        crowd
    }
}

/// Adds a multiple of another lane.
#[inline(always)]
fn add(to: &mut Lane, share: f64, of: &Lane) {
    for (to, of) in to.iter_mut().zip(of) {
        *to += share * of;
    }
}

/// Weighted sum of lanes.
#[inline(always)]
pub(crate) fn sum<'a>(of: impl Iterator<Item = (f64, &'a Lane)>) -> Lane {
    let mut sum = [0.0; MEMBERS];
    for (share, of) in of {
        add(&mut sum, share, of);
    }
    sum
}
