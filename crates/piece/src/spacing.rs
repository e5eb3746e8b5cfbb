//! Spacing of a repeated pattern, with even margins and gaps.

/// Spacing of a pattern along a length.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spacing {
    /// Number of repeats.
    pub repeats: u32,
    /// Gap between repeats, mm.
    pub gap: f64,
    /// Gap between either end and the nearest repeat, mm.
    pub end: f64,
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
    Ok(Spacing { repeats: n, gap: gap(n), end: gap(n), step: gap(n) + motif })
}

/// Spaces a pattern `motif` mm long over `length` mm with a fixed gap between repeats, as many as fit or no more than said; what is left is
/// shared between both ends.
pub fn spaced_by(length: f64, motif: f64, gap: f64, repeats: Option<u32>) -> Result<Spacing, BadSpacing> {
    spaced(length, motif, Some(1), 0.0)?;
    let gap = if gap.is_finite() { gap.max(0.0) } else { return Err(BadSpacing::Nothing) };
    let most = (((length + gap) / (motif + gap)) as u32).clamp(1, 1000);
    let n = match repeats {
        Some(n) if n == 0 || n > most => return Err(BadSpacing::TooMany(n, motif, length, most)),
        n => n.unwrap_or(most),
    };
    let taken = f64::from(n) * motif + f64::from(n - 1) * gap;
    Ok(Spacing { repeats: n, gap, end: (0.5 * (length - taken)).max(0.0), step: gap + motif })
}

impl Spacing {
    /// Centre lines of the repeats, mm from either end.
    pub fn centres(&self) -> Vec<f64> {
        let motif = self.step - self.gap;
        (0..self.repeats).map(|n| self.end + 0.5 * motif + f64::from(n) * self.step).collect()
    }

    /// Length over which it is spaced, mm.
    pub fn length(&self) -> f64 {
        2.0 * self.end + f64::from(self.repeats) * self.step - self.gap
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Worked by hand: eleven waves of 80 mm in 900 leave 10 mm at each end; with gaps of 40 there are seven, and 50 mm at each end.
    #[test]
    fn a_running_border() {
        let border = spaced_by(900.0, 80.0, 0.0, None).unwrap();
        assert_eq!((border.repeats, border.end, border.step), (11, 10.0, 80.0));
        let apart = spaced_by(900.0, 80.0, 40.0, None).unwrap();
        assert_eq!((apart.repeats, apart.end), (7, 50.0));
        assert_eq!(apart.centres()[..2], [90.0, 210.0]);
        assert_eq!(spaced_by(900.0, 80.0, 40.0, Some(8)), Err(BadSpacing::TooMany(8, 80.0, 900.0, 7)));
        assert!(spaced_by(60.0, 80.0, 0.0, None).is_err() && spaced_by(900.0, 80.0, f64::NAN, None).is_err());
    }

    proptest! {
        /// Whatever is asked, repeats lie within the length, evenly about its middle.
        #[test]
        fn centre_lines_lie_about_the_middle(length in 60.0..2000.0f64, motif in 10.0..200.0f64, gap in prop::option::of(0.0..100.0f64)) {
            let spacing = match gap {
                Some(gap) => spaced_by(length, motif, gap, None),
                None => spaced(length, motif, None, 0.6 * motif),
            };
            let Ok(spacing) = spacing else { prop_assert!(motif > length); return Ok(()) };
            let centres = spacing.centres();
            let (first, last) = (centres[0], centres[centres.len() - 1]);
            prop_assert!(first >= 0.5 * motif - 1e-9 && (first + last - length).abs() < 1e-6);
            prop_assert!((spacing.length() - length).abs() < 1e-6);
            prop_assert!(centres.windows(2).all(|two| two[1] - two[0] >= motif - 1e-9));
        }
    }

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
