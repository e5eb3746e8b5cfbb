//! Plausible forms of a paint side by side, number by number: so they are computed together, eight at a time on most processors.

use warm_blend_paint::Material;
use warm_blend_spectral::BANDS;

use super::draws::MEMBERS;

/// A number of each plausible shelf.
pub(crate) type Lane = [f64; MEMBERS];

/// Plausible forms of a paint.
#[derive(Debug, Clone)]
pub(crate) struct Crowd {
    /// By band.
    pub k: Vec<Lane>,
    pub s: Vec<Lane>,
    pub alpha: Lane,
    pub voids: Lane,
    /// The same for all of them.
    pub milk: f64,
    pub stays: f64,
}

impl Crowd {
    /// Of a form for each shelf.
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

/// Adds a share of another.
#[inline(always)]
fn add(to: &mut Lane, share: f64, of: &Lane) {
    for (to, of) in to.iter_mut().zip(of) {
        *to += share * of;
    }
}

/// The sum of such shares.
#[inline(always)]
pub(crate) fn sum<'a>(of: impl Iterator<Item = (f64, &'a Lane)>) -> Lane {
    let mut sum = [0.0; MEMBERS];
    for (share, of) in of {
        add(&mut sum, share, of);
    }
    sum
}
