//! Percentages for display.

/// Whole percentages that add up to 100, each within 1 of the true share, by the method of largest remainders (of equal
/// remainders, the first is rounded up). All 0 if the amounts are.
pub fn percentages(amounts: &[f64]) -> Vec<u32> {
    let amounts: Vec<f64> = amounts.iter().map(|amount| amount.max(0.0)).collect();
    let total: f64 = amounts.iter().sum();
    if !(total > 0.0 && total.is_finite()) {
        return vec![0; amounts.len()];
    }
    let exact: Vec<f64> = amounts.iter().map(|amount| 100.0 * amount / total).collect();
    let mut whole: Vec<u32> = exact.iter().map(|share| share.floor() as u32).collect();
    let missing = 100_u32.saturating_sub(whole.iter().sum()) as usize;
    let mut by_rest: Vec<usize> = (0..exact.len()).collect();
    by_rest.sort_by(|one, other| exact[*other].fract().total_cmp(&exact[*one].fract()));
    for at in by_rest.into_iter().take(missing) {
        whole[at] += 1;
    }
    whole
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn examples() {
        // 60.6, 22.7 and 16.7 were shown as 61, 23 and 17: 101 in all; eight equal parts as eight times 13.
        assert_eq!(percentages(&[8.0, 3.0, 2.2]), [60, 23, 17]);
        assert_eq!(percentages(&[1.0; 8]), [13, 13, 13, 13, 12, 12, 12, 12]);
        assert_eq!(percentages(&[1.0, 1.0, 1.0]), [34, 33, 33]);
        assert_eq!(percentages(&[]), [0; 0]);
        assert_eq!(percentages(&[0.0, 0.0]), [0, 0]);
        assert_eq!(percentages(&[f64::NAN, f64::NAN]), [0, 0]);
    }

    proptest! {
        #[test]
        fn they_add_up(amounts in proptest::collection::vec(0.0..1e6f64, 1..30)) {
            prop_assume!(amounts.iter().any(|amount| *amount > 0.0));
            let answer = percentages(&amounts);
            prop_assert_eq!(answer.iter().sum::<u32>(), 100);
            let total: f64 = amounts.iter().sum();
            for (one, amount) in answer.iter().zip(&amounts) {
                prop_assert!((f64::from(*one) - 100.0 * amount / total).abs() < 1.0 + 1e-9);
            }
        }
    }
}
