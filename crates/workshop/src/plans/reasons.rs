//! Why a step takes as long, dries as slowly and needs as much as it does.

use warm_blend_board::FLAT;
use warm_blend_paint::{Dimension, PaintId};
use warm_blend_plan::{Effort, Rate, Step, dries, effort};

use super::planning::Planned;

/// Difference of a factor from 1 that is worth a word.
const COUNTS: f64 = 0.03;

impl Planned<'_> {
    /// What time, drying and amount of a step are made of.
    pub(super) fn reasons(&self, step: &Step) -> Vec<String> {
        [self.time_reason(step), self.drying_reason(step), self.amount_reason(step)]
            .into_iter()
            .flatten()
            .collect()
    }

    fn time_reason(&self, step: &Step) -> Option<String> {
        let Effort { ready, rate, amount, relief } = effort(&step.work, &self.zones_of(step));
        let units = self.asked.units;
        let mut parts = Vec::new();
        if ready > 0.0 {
            parts.push(format!("{ready:.0} min to get ready and clean up"));
        }
        let by = match rate {
            Rate::SquareMetre(rate) if rate > 0.0 => {
                let each = rate * units.one(Dimension::Area);
                Some(format!(
                    "{} for {}",
                    per(each, units.unit(Dimension::Area)),
                    units.say(Dimension::Area, amount)
                ))
            }
            Rate::Metre(rate) if amount > 0.0 => {
                let each = rate * units.one(Dimension::Run);
                let edge = units.say(Dimension::Run, amount);
                Some(format!("{} for {edge} of edge", per(each, units.unit(Dimension::Run))))
            }
            _ => None,
        };
        parts.extend(by.map(|by| match relief - 1.0 > COUNTS {
            true => format!("{by}, × {relief:.1} for the carving"),
            false => by,
        }));
        let pace = self.asked.paces.for_work(&step.work);
        let own = match pace.steps {
            0 => "usual figures (common practice); time a step and yours are used".to_owned(),
            1 => format!("× {:.1}, your pace from one timed step", pace.factor),
            n => format!("× {:.1}, your pace from {n} timed steps", pace.factor),
        };
        (!parts.is_empty()).then(|| format!("Time: {}; {own}.", parts.join(", then ")))
    }

    fn drying_reason(&self, step: &Step) -> Option<String> {
        let air = self.sheet.air;
        let (usual, slower) = dries(&step.work, &|paint: PaintId| self.product(paint), air)?;
        if usual <= 0.0 {
            return None;
        }
        let usual = lasting(usual);
        let here = match slower {
            times if (times - 1.0).abs() <= COUNTS => "the same in your workshop’s air".to_owned(),
            times => format!(
                "× {times:.1} in your workshop’s air, {:.0} °C and {:.0} %",
                air.celsius,
                100.0 * air.humidity
            ),
        };
        let words = format!("Drying: {usual} at 20 °C and 50 % (common practice), {here}.");
        Some(self.asked.units.restate(&words))
    }

    fn amount_reason(&self, step: &Step) -> Option<String> {
        let laid = step.work.layers().last()?;
        let film = laid.technique.applied_over(laid.hand, &FLAT).value();
        if film < 0.5 {
            return None;
        }
        let area: f64 = self.zones_of(step).iter().map(|zone| zone.area).sum();
        let area = self.asked.units.say(Dimension::Area, area);
        let left = laid.technique.print(laid.hand).film.field.value();
        let off = if left < 0.9 * film { ", much of which comes off again" } else { "" };
        Some(format!(
            "Amount: a wet film of {film:.0} µm on {area}{off}; a tenth more stays in brush and tray."
        ))
    }
}

/// `14 min/m²`
fn per(minutes: f64, unit: &str) -> String {
    if minutes < 3.0 { format!("{minutes:.1} min/{unit}") } else { format!("{minutes:.0} min/{unit}") }
}

/// `1½ h`
pub(super) fn lasting(minutes: f64) -> String {
    match minutes {
        m if m < 60.0 => format!("{m:.0} min"),
        m if m < 24.0 * 60.0 => format!("{} h", (m / 30.0).round() / 2.0),
        m => format!("{:.0} h", m / 60.0),
    }
}
