//! Certainty of a colour, in a painter's words.

/// A 90 % band in words†.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
pub enum Certainty {
    /// Too small to see side by side.
    Measured,
    /// Just visible side by side.
    Good,
    /// Visible on a piece.
    Rough,
    /// Could be a different colour.
    Guess,
}

impl Certainty {
    /// Certainty of a band in ΔE00.
    pub fn of(band: f64) -> Self {
        match band {
            b if b <= 1.25 => Certainty::Measured,
            b if b <= 3.0 => Certainty::Good,
            b if b <= 6.0 => Certainty::Rough,
            _ => Certainty::Guess,
        }
    }

    /// `measured`, `good`, `rough` or `guess`.
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// The word for a mix: `measured`.
    pub const fn words(self) -> &'static str {
        match self {
            Certainty::Measured => "measured",
            Certainty::Good => "reliable",
            Certainty::Rough => "roughly known",
            Certainty::Guess => "a first guess",
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn wider_bands_are_less_sure() {
        let words = [0.3, 2.0, 4.1, 9.0].map(|band| Certainty::of(band).words());
        assert_eq!(words, ["measured", "reliable", "roughly known", "a first guess"]);
    }
}
