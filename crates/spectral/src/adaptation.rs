//! Chromatic adaptation: what a colour seen in one light looks like in another.

use crate::Xyz;

/// CAT16, XYZ to sharpened cone responses (Li et al., *Color Research and Application* 42 (2017) 703; CIE 248:2022).
const CAT16: [[f64; 3]; 3] =
    [[0.401288, 0.650173, -0.051461], [-0.250268, 1.204414, 0.045854], [-0.002079, 0.048952, 0.953127]];

/// How completely the eye has adapted to a light: 0 not at all, 1 so that white looks white.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Degree(f64);

impl Degree {
    /// Fully adapted.
    pub const FULL: Degree = Degree(1.0);

    /// Not adapted at all: the raw stimulus.
    pub const NONE: Degree = Degree(0.0);

    /// Degree of adaptation that an eye reaches under an adapting luminance in cd/m², in an average surround: D = 1 −
    /// exp((−L_A − 42)/92)/3.6 (CIE 248:2022, with F = 1). Treats negative and NaN luminances as 0.
    pub fn under(luminance: f64) -> Self {
        Degree((1.0 - ((-luminance.max(0.0) - 42.0) / 92.0).exp() / 3.6).clamp(0.0, 1.0))
    }

    /// The number, 0..=1.
    pub const fn value(self) -> f64 {
        self.0
    }
}

/// Corresponding colour: looks under `to` as `colour` looks under `from`, to an eye adapted by `degree`. Scales CAT16
/// responses by von Kries; both whites have Y = 1.
pub fn adapt(colour: Xyz, from: Xyz, to: Xyz, degree: Degree) -> Xyz {
    let [seen, from, to] = [colour, from, to].map(|xyz| times(&CAT16, xyz.as_array()));
    let adapted = std::array::from_fn(|i| seen[i] * (degree.0 * to[i] / from[i] + 1.0 - degree.0));
    Xyz::from_array(solve(&CAT16, adapted))
}

fn times(m: &[[f64; 3]; 3], v: [f64; 3]) -> [f64; 3] {
    m.map(|row| row[0] * v[0] + row[1] * v[1] + row[2] * v[2])
}

/// The x of m x = v by Cramer's rule; `m` is the constant above and is regular.
fn solve(m: &[[f64; 3]; 3], v: [f64; 3]) -> [f64; 3] {
    let det = |m: &[[f64; 3]; 3]| {
        m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) - m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0])
            + m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0])
    };
    let whole = det(m);
    std::array::from_fn(|column| {
        let mut swapped = *m;
        for row in 0..3 {
            swapped[row][column] = v[row];
        }
        det(&swapped) / whole
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Light;
    use proptest::prelude::*;

    fn near(a: Xyz, b: [f64; 3], within: f64) -> bool {
        a.as_array().iter().zip(b).all(|(a, b)| (a - b).abs() < within)
    }

    proptest! {
        #[test]
        fn adapting_there_and_back_is_nothing(x in 0.0..1.0, y in 0.0..1.0, z in 0.0..1.0, i in 0usize..7, j in 0usize..7) {
            let (one, other) = (Light::ALL[i].white(), Light::ALL[j].white());
            let there = adapt(Xyz { x, y, z }, one, other, Degree::FULL);
            prop_assert!(near(adapt(there, other, one, Degree::FULL), [x, y, z], 1e-9));
        }
    }

    #[test]
    fn a_settled_eye_takes_white_to_white_and_an_unsettled_one_changes_nothing() {
        let (bulb, day) = (Light::Bulb.white(), Light::Daylight.white());
        assert!(near(adapt(bulb, bulb, day, Degree::FULL), day.as_array(), 1e-12));
        assert!(near(adapt(bulb, bulb, day, Degree::NONE), bulb.as_array(), 1e-12));
    }

    /// colour-science 0.4.7: `colour.adaptation.chromatic_adaptation_VonKries([0.3, 0.25, 0.1],
    /// [1.0985, 1, 0.35585], [0.95047, 1, 1.08883], transform="CAT16")`.
    #[test]
    fn agrees_with_a_general_library() {
        let from = Xyz { x: 1.0985, y: 1.0, z: 0.35585 };
        let to = Xyz { x: 0.95047, y: 1.0, z: 1.08883 };
        let got = adapt(Xyz { x: 0.3, y: 0.25, z: 0.1 }, from, to, Degree::FULL);
        assert!(near(got, CAT16_REFERENCE, 1e-6), "{got:?}");
    }

    const CAT16_REFERENCE: [f64; 3] = [0.264641795, 0.2492211556, 0.3031823213];

    /// D at L_A = 318.31 cd/m² is 0.994 by the formula in plain arithmetic.
    #[test]
    fn bright_light_settles_the_eye() {
        assert!((Degree::under(318.31).value() - 0.9945).abs() < 1e-3);
        assert!(Degree::under(20.0).value() < Degree::under(200.0).value());
        assert!(Degree::under(f64::NAN).value() < 1.0);
    }
}
