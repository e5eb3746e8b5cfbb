//! Fit of all readings, from the first guess or any other starting point.

use super::{found::Fit, system::System};

impl System<'_> {
    /// Fits all readings, except those left out beforehand.
    pub fn fit_all(&self, mut left_out: Vec<bool>, near: &[Option<&[f64]>]) -> Fit {
        let forced = left_out.clone();
        let mut here = self.look(self.places.gathered(near));
        // Removes the worst outlier and fits again, then readmits once those that now agree with the rest.
        let mut let_back = false;
        loop {
            let factor = self.settle(&mut here, &left_out);
            let noises = self.noises(&here, &left_out, None);
            let spread = self.spread(&factor, &noises);
            let off = self.off(&here, &factor, &spread, &left_out, |_| None);
            let all = 0..self.readings.len();
            let odd = all.clone().filter(|i| self.is_odd(*i, &off, &left_out));
            if let Some(oddest) = odd.max_by(|a, b| off[*a].total_cmp(&off[*b])) {
                left_out[oddest] = true;
                continue;
            }
            let back = all.filter(|i| !let_back && self.comes_back(*i, &off, &left_out, &forced));
            let back: Vec<usize> = back.collect();
            let_back = true;
            if back.is_empty() {
                return self.found(here, &factor, noises, spread, off, left_out, None);
            }
            back.into_iter().for_each(|i| left_out[i] = false);
        }
    }
}
