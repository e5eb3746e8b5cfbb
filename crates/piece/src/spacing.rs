//! Spacing of a repeated pattern, with even margins and gaps.

/// Spacing of a pattern along a length.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spacing {
    /// Number of repeats.
    pub repeats: u32,
    /// Gap between repeats, and between either end and the nearest repeat, mm.
    pub gap: f64,
    /// Distance from the start of one repeat to that of the next, mm.
    pub step: f64,
}

/// A pattern that does not fit.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadSpacing {
    /// A single repeat is too long.
    #[error("a {0:.0} mm pattern won’t fit in {1:.0} mm; choose a smaller one")]
    TooLong(f64, f64),
    /// This many do not fit.
    #[error("{0} repeats of {1:.0} mm won’t fit in {2:.0} mm; the most is {3}")]
    TooMany(u32, f64, f64, u32),
    /// A length of zero.
    #[error("length and pattern must be more than 0 mm")]
    Nothing,
}

/// Spaces a pattern `motif` mm long over `length` mm with equal gaps at both ends and between: (length − n × motif) / (n
/// + 1). Without a number of repeats, chooses the one whose gaps are nearest to `wanted` mm.
pub fn spaced(length: f64, motif: f64, repeats: Option<u32>, wanted: f64) -> Result<Spacing, BadSpacing> {
    if !(length > 0.0 && motif > 0.0 && length.is_finite()) {
        return Err(BadSpacing::Nothing);
    }
    if motif > length {
        return Err(BadSpacing::TooLong(motif, length));
    }
    let most = ((length / motif) as u32).min(1000);
    let gap = |n: u32| (length - f64::from(n) * motif) / f64::from(n + 1);
    let n = match repeats {
        Some(n) if n == 0 || n > most => return Err(BadSpacing::TooMany(n, motif, length, most)),
        Some(n) => n,
        None => {
            let off = |n: &u32| (gap(*n) - wanted).abs();
            (1..=most).min_by(|a, b| off(a).total_cmp(&off(b))).unwrap_or(1)
        }
    };
    Ok(Spacing { repeats: n, gap: gap(n), step: gap(n) + motif })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Worked by hand: five patterns of 120 mm in 900 leave 300 mm in six gaps of 50.
    #[test]
    fn five_in_a_panel() {
        let spacing = spaced(900.0, 120.0, Some(5), 0.0).unwrap();
        assert_eq!((spacing.gap, spacing.step), (50.0, 170.0));
        assert_eq!(spaced(900.0, 120.0, None, 55.0).unwrap().repeats, 5);
        assert!(spaced(900.0, 120.0, Some(8), 0.0).unwrap_err().to_string().contains("the most is 7"));
        assert!(spaced(100.0, 120.0, None, 0.0).is_err() && spaced(f64::NAN, 1.0, None, 0.0).is_err());
    }

    proptest! {
        #[test]
        fn repeats_and_gaps_fill_the_length(length in 1.0..5000.0f64, part in 0.01..1.0f64, wanted in 0.0..300.0f64) {
            let motif = length * part;
            let spacing = spaced(length, motif, None, wanted).unwrap();
            let n = f64::from(spacing.repeats);
            prop_assert!((n * motif + (n + 1.0) * spacing.gap - length).abs() < 1e-6 * length);
            prop_assert!(spacing.gap >= -1e-9);
        }
    }
}
