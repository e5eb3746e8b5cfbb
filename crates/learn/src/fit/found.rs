//! Result of a fit.

use std::sync::Arc;

use nalgebra::DMatrix;

use super::{
    plausible::SaidOfAll,
    remembered::Remembered,
    system::{Here, System},
};
use crate::{factor::Factor, residual::WhitenedResidual};

/// The most probable state of paints with readings.
pub(crate) struct Fit {
    /// Coordinates by paint, in the order of the shelf; zeros without readings.
    pub best: Vec<Vec<f64>>,
    /// Coordinates of the members, by paint: coordinates × members.
    pub members: Vec<DMatrix<f64>>,
    /// Distance of each reading from what the others predict, in standard deviations.
    pub off: Vec<f64>,
    /// Whether each reading was left out.
    pub left_out: Vec<bool>,
    /// Residual of each reading at the best fit.
    pub sights: Vec<Arc<WhitenedResidual>>,
    /// What the next incremental fit needs, if it is to be kept.
    pub remembered: Option<Remembered>,
}

impl System<'_> {
    /// Computes the result of a fit; tins marked in `before` keep their plausible variants.
    #[expect(clippy::too_many_arguments, reason = "all that was reckoned on the way")]
    pub fn found(
        &self,
        here: Here,
        factor: &Factor,
        noises: SaidOfAll,
        mut spread: Vec<DMatrix<f64>>,
        off: Vec<f64>,
        left_out: Vec<bool>,
        before: Option<(&Remembered, &[bool])>,
    ) -> Fit {
        let forms = self.forms(&here, &spread, before.map(|(before, alike)| (&*before.forms, alike)));
        let was = before.map(|(before, _)| (&*before.forms, &before.pulls));
        let pulls = self.pulls(&here, &forms, &left_out, was);
        self.straighten(factor, &mut spread, &pulls);
        let best: Vec<_> = (0..self.tins.len()).map(|paint| self.of_paint(&here.theta, paint)).collect();
        for (best, spread) in best.iter().zip(&mut spread) {
            for mut member in spread.column_iter_mut() {
                member.iter_mut().zip(best).for_each(|(at, best)| *at += best);
            }
        }
        let sights = here.sights.clone();
        let remembered = self.kept.then(|| Remembered {
            places: self.places.clone(),
            pattern: Arc::clone(&self.pattern),
            here,
            noises,
            pulls,
            off: off.clone(),
            left_out: left_out.clone(),
            forms,
        });
        Fit { best, members: spread, off, left_out, sights, remembered }
    }
}
