//! A simulated scale with the faults of a real one.

use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, StandardNormal};
use warm_blend_device::ScaleLine;

/// What the empty pot weighs, g.
const POT: f64 = 180.0;
/// How fast the needle follows, 1/s, and how long it must have been near to rest, s.
const FOLLOWS: f64 = 6.0;
const RESTS_AFTER: f64 = 0.4;
/// How near the needle must be to count as there, g.
const THERE: f64 = 0.06;
/// Noise of the needle and wandering of the zero in a second, g.
const NOISE: f64 = 0.02;
const DRIFT: f64 = 0.004;
/// How far a hand is from what it means to pour: a share of it, and g.
const HAND_SHARE: f64 = 0.01;
const HAND: f64 = 0.08;

/// A simulated scale that shows tenths of a gram.
#[derive(Debug)]
pub struct SimulatedScale {
    noise: ChaCha8Rng,
    /// What is in the pot, g.
    inside: f64,
    lifted: bool,
    /// What it shows where nothing stands on it, less; and how that has wandered.
    zero: f64,
    drift: f64,
    needle: f64,
    rested: f64,
}

impl SimulatedScale {
    /// A tared scale with an empty pot, with noise from `seed`.
    pub fn new(seed: u64) -> Self {
        Self {
            noise: ChaCha8Rng::seed_from_u64(seed),
            inside: 0.0,
            lifted: false,
            zero: POT,
            drift: 0.0,
            needle: 0.0,
            rested: RESTS_AFTER,
        }
    }

    fn normal(&mut self) -> f64 {
        StandardNormal.sample(&mut self.noise)
    }

    fn truth(&self) -> f64 {
        let on = if self.lifted { 0.0 } else { POT + self.inside };
        on - self.zero + self.drift
    }

    /// Pours about this much, as by hand. Without the pot on it, the scale does not react.
    pub fn pour(&mut self, grams: f64) {
        let (share, off) = (self.normal() * HAND_SHARE, self.normal() * HAND);
        self.inside += (grams * (1.0 + share) + off.clamp(-0.5 * grams, 0.5 * grams)).max(0.0);
    }

    /// Empties the pot.
    pub fn empty(&mut self) {
        self.inside = 0.0;
    }

    /// Lifts the pot.
    pub fn lift(&mut self) {
        self.lifted = true;
    }

    /// Puts the pot back.
    pub fn put_back(&mut self) {
        self.lifted = false;
    }

    /// Sets the scale to zero.
    pub fn tare(&mut self) {
        self.zero += self.truth();
        self.needle = 0.0;
        self.rested = 0.0;
    }

    /// True contents of the pot, g.
    pub fn inside(&self) -> f64 {
        self.inside
    }

    /// Lets some seconds pass and reads the scale.
    pub fn after(&mut self, seconds: f64) -> ScaleLine {
        self.drift += self.normal() * DRIFT * seconds.sqrt();
        let truth = self.truth();
        self.needle += (truth - self.needle) * (1.0 - (-FOLLOWS * seconds).exp());
        self.rested = if (truth - self.needle).abs() < THERE { self.rested + seconds } else { 0.0 };
        let steady = self.rested >= RESTS_AFTER;
        // At rest a scale averages its noise away.
        let noise = if steady { 0.3 * NOISE * self.normal() } else { 2.0 * NOISE * self.normal() };
        ScaleLine { grams: ((self.needle + noise) * 10.0).round() / 10.0, steady }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_device::Weighing;

    fn until_it_rests(scale: &mut SimulatedScale) -> ScaleLine {
        (0..100).map(|_| scale.after(0.1)).find(|line| line.steady).expect("it rests within ten seconds")
    }

    proptest! {
        /// What is recorded of a pour is what is in the pot, to the last digit of each addition and the drift between.
        #[test]
        fn weighed_as_poured(seed: u64, pours in proptest::collection::vec((0.5..120.0f64, any::<bool>()), 1..10)) {
            let mut scale = SimulatedScale::new(seed);
            let mut weighing = Weighing::default();
            let mut taken = 0.0;
            weighing.hear(until_it_rests(&mut scale));
            for (grams, lifted) in &pours {
                scale.pour(*grams);
                // The needle has to be seen moving before it rests again.
                weighing.hear(scale.after(0.1));
                if *lifted {
                    scale.lift();
                    weighing.hear(scale.after(0.1));
                    weighing.hear(until_it_rests(&mut scale));
                    prop_assert_eq!(weighing.pan(), warm_blend_device::Pan::Lifted);
                    scale.put_back();
                    weighing.hear(scale.after(0.1));
                }
                weighing.hear(until_it_rests(&mut scale));
                let addition = weighing.addition().unwrap();
                weighing.taken(addition);
                taken += addition;
            }
            let off = (taken - scale.inside()).abs();
            prop_assert!(off < 0.15 * pours.len() as f64 + 0.2, "off by {}", off);
        }
    }

    #[test]
    fn a_tared_scale_shows_nothing() {
        let mut scale = SimulatedScale::new(7);
        scale.pour(50.0);
        until_it_rests(&mut scale);
        scale.tare();
        assert!(until_it_rests(&mut scale).grams.abs() <= 0.1);
        scale.empty();
        scale.after(0.1);
        assert!((until_it_rests(&mut scale).grams + 50.0).abs() < 2.0);
    }
}
