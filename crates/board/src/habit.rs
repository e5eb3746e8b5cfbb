//! How a painter's hand differs from the table of techniques.

use warm_blend_paint::Microns;

use super::{ByPlace, Deposit, Share, Technique, TextureDepth};

/// How a hand differs from the table in one technique.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HandBias {
    /// Factor on the usual film.
    pub film: f64,
    /// Added to ln(c/(1 − c)) of the usual coverage c, so that full coverage stays full and none stays none.
    pub cover: f64,
    /// Factor on the texture depth that the painter sets or the technique usually leaves.
    pub rough: f64,
}

impl HandBias {
    /// No difference from the table.
    pub const USUAL: HandBias = HandBias { film: 1.0, cover: 0.0, rough: 1.0 };

    /// Deposit of this hand where the table has `usual`.
    pub fn print(self, usual: &Deposit) -> Deposit {
        Deposit {
            film: ByPlace::from_fn(|place| {
                Microns::of((usual.film.at(place).value() * self.film).min(Deposit::THICKEST))
            }),
            cover: ByPlace::from_fn(|place| self.share(*usual.cover.at(place))),
        }
    }

    /// As text: `leaves 1.4 times the usual film and covers more`.
    pub fn words(self, technique: Technique) -> String {
        /// Difference that nobody would mention.
        const NEARLY: f64 = 0.1;
        let thicker = !technique.takes_away() && self.film.ln().abs() > NEARLY;
        let wider = self.cover.abs() > NEARLY;
        let film = thicker.then(|| format!("lays it {:.1} times as thick as usual", self.film));
        let cover = wider.then(|| match (technique.takes_away(), self.cover > 0.0) {
            (true, true) => "rubs off more than usual",
            (true, false) => "rubs off less than usual",
            (false, true) => "covers more than usual",
            (false, false) => "covers less than usual",
        });
        let rougher = technique.texture().is_some() && self.rough.ln().abs() > NEARLY;
        let rough = rougher.then(|| format!("leaves it {:.1} times as rough as usual", self.rough));
        let shown: Vec<String> = [film, cover.map(str::to_owned), rough].into_iter().flatten().collect();
        match &*shown {
            [] => "as usual".to_owned(),
            [one] => one.clone(),
            [firsts @ .., last] => format!("{}, and {last}", firsts.join(", ")),
        }
    }

    /// Texture depth of this hand where the table has `usual`.
    pub fn roughness(self, usual: Microns) -> Microns {
        Microns::of((usual.value() * self.rough).min(TextureDepth::MOST))
    }

    /// Coverage of this hand where the table has `usual`.
    pub fn share(self, usual: Share) -> Share {
        let (c, times) = (usual.value(), self.cover.exp());
        Share::of(c * times / (1.0 - c + c * times))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Place;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_hand_and_its_opposite_are_the_usual(film in 0.2..5.0f64, cover in -3.0..3.0f64, at in 0usize..25) {
            let usual = Technique::ALL[at].usual();
            let hand = HandBias { film, cover, rough: 1.0 };
            let back = HandBias { film: 1.0 / film, cover: -cover, rough: 1.0 };
            let again = back.print(&hand.print(&usual));
            for place in Place::ALL {
                prop_assert!((again.cover.at(place).value() - usual.cover.at(place).value()).abs() < 1e-9);
                prop_assert!((again.film.at(place).value() - usual.film.at(place).value()).abs() < 1e-9);
            }
        }
    }

    #[test]
    fn a_habit_is_told_in_words() {
        let words = |film, cover, technique| HandBias { film, cover, rough: 1.0 }.words(technique);
        assert_eq!(words(1.42, 0.0, Technique::GlazeWiped), "lays it 1.4 times as thick as usual");
        assert_eq!(
            words(0.5, -0.4, Technique::DryBrush),
            "lays it 0.5 times as thick as usual, and covers less than usual"
        );
        assert_eq!(words(1.0, 0.4, Technique::SandBack), "rubs off more than usual");
        assert_eq!(words(1.05, 0.0, Technique::BrushedCoat), "as usual");
        let rough = |technique| HandBias { film: 0.7, cover: 0.5, rough: 1.5 }.words(technique);
        assert_eq!(
            rough(Technique::KnifeFlecks),
            "lays it 0.7 times as thick as usual, covers more than usual, and leaves it 1.5 times as rough as usual"
        );
        // What has no texture of its own is not told of as rough.
        assert_eq!(rough(Technique::DryBrush), words(0.7, 0.5, Technique::DryBrush));
    }

    #[test]
    fn what_is_closed_stays_closed() {
        let heavy = HandBias { cover: 2.0, ..HandBias::USUAL };
        assert_eq!(heavy.share(Share::WHOLE), Share::WHOLE);
        assert_eq!(heavy.share(Share::NONE), Share::NONE);
    }
}
