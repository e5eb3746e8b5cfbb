//! All readings fitted, from the labels or from wherever the shelf may be near.

use super::{found::Fit, off::AGREES_SD, remembered::Remembered, system::System};

impl System<'_> {
    /// The fit of all readings; those that are left out beforehand stay out.
    pub fn anew(&self, mut left_out: Vec<bool>, near: &[Option<&[f64]>]) -> Fit {
        let forced = left_out.clone();
        let mut here = self.look(self.places.gathered(near));
        let mut factor = self.settle(&mut here, &left_out);
        let mut noises = self.noises(&here, None);
        let mut spread = self.spread(&factor, &noises, &left_out);
        let mut off = self.off(&here, &factor, &spread, &left_out, |_| None);
        // Take out the oddest and look again; then let back in, once, whom the rest has come to agree with.
        let mut let_back = false;
        loop {
            let odd = (0..self.readings.len()).filter(|i| self.is_odd(*i, &off, &left_out));
            if let Some(oddest) = odd.max_by(|a, b| off[*a].total_cmp(&off[*b])) {
                left_out[oddest] = true;
            } else if !let_back {
                let_back = true;
                let back = |i: &usize| left_out[*i] && !forced[*i] && off[*i] < AGREES_SD;
                let agreed: Vec<usize> = (0..self.readings.len()).filter(back).collect();
                if agreed.is_empty() {
                    break;
                }
                agreed.into_iter().for_each(|i| left_out[i] = false);
            } else {
                break;
            }
            factor = self.settle(&mut here, &left_out);
            noises = self.noises(&here, None);
            spread = self.spread(&factor, &noises, &left_out);
            off = self.off(&here, &factor, &spread, &left_out, |_| None);
        }
        let forms = self.forms(&here, &spread, None);
        let pulls = self.pulls(&here, &forms, &left_out, None);
        self.straighten(&factor, &mut spread, &pulls, &left_out);
        let remembered = Remembered::of(self, &here, noises, forms, pulls, &off, &left_out);
        self.found(here, spread, off, left_out, remembered)
    }
}
