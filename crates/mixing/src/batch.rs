//! Batch sizes: for an area and coats, or to use up what is left of a paint.

use warm_blend_paint::{BadMeasure, Microns, Millilitres, Units, quantity::in_range};

/// Square metres in a square foot: NIST Special Publication 811 (2008), appendix B.8.
pub const SQUARE_FOOT: f64 = 0.092_903_04;
/// What stays in brush, tray and pot, as a share of what lies on the piece†.
const LEFT_BEHIND: f64 = 0.1;

/// Volume for an area in m² or ft², ml: applied film (`Technique::applied_over`) times area and coats, plus a tenth† for
/// brush and tray. A micrometre on a square metre is a millilitre.
pub fn for_area(area: f64, units: Units, coats: f64, film: Microns) -> Result<Millilitres, BadMeasure> {
    let area = match units {
        Units::Metric => in_range(area, 0.01, 1000.0)?,
        Units::Imperial => in_range(area, 0.1, 10_000.0)? * SQUARE_FOOT,
    };
    let coats = in_range(coats, 0.5, 12.0)?;
    Millilitres::new(area * coats * per_square_metre(film))
}

/// Volume of one coat on a square metre, ml, including what stays in brush and tray.
pub fn per_square_metre(film: Microns) -> f64 {
    1000.0 / film.spreading_rate() * (1.0 + LEFT_BEHIND)
}

/// Batch that uses up what is left of one of its paints, ml.
pub fn using_up(left: Millilitres, share: f64) -> Result<Millilitres, BadMeasure> {
    Millilitres::new(left.value() / in_range(share, 1e-6, 1.0)?)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// 231 in³ a gallon on 1604 ft² is a thousandth of an inch: the geometry of spreading rates.
    #[test]
    fn a_mil_on_1604_square_feet_is_a_gallon() {
        let mil = Microns::of(25.4);
        let ml = 1604.0 * SQUARE_FOOT / mil.spreading_rate() * 1000.0;
        assert!((ml / 3785.412 - 1.0).abs() < 1e-3, "{ml}");
    }

    proptest! {
        #[test]
        fn twice_the_area_takes_twice_as_much(area in 0.02..400.0f64, coats in 1.0..6.0f64, share in 0.01..1.0f64, left in 1.0..900.0f64) {
            let of = |area, units, coats| for_area(area, units, coats, Microns::of(35.0)).unwrap().value();
            let ml = |area, coats| of(area, Units::Metric, coats);
            prop_assert!((of(area / SQUARE_FOOT, Units::Imperial, coats) / ml(area, coats) - 1.0).abs() < 1e-12);
            prop_assert!((ml(2.0 * area, coats) - 2.0 * ml(area, coats)).abs() < 1e-6);
            prop_assert!((ml(area, 2.0 * coats) - 2.0 * ml(area, coats)).abs() < 1e-6);
            let batch = using_up(Millilitres::new(left).unwrap(), share).unwrap().value();
            prop_assert!((batch * share - left).abs() < 1e-9);
        }
    }
}
