//! Drying: how long each layer must be left alone before the next.
//!
//! | layer | until the next |
//! |---|---|
//! | chalk-type, clay-type and milk paint | 1½ h |
//! | mineral paint, clear coat | 2 h |
//! | satin latex, acrylic craft paint | 4 h, 1 h |
//! | liquid metallic, pigmented shellac | 10, 45 min |
//! | primer, texture, thick knife work, heavy washes, water-based glaze | overnight |
//! | gel stain, oil-based enamel | a day |
//! | oil paint | two days |
//! | washes, dry brush | 20, 5 min |
//! | wax | overnight, then buffed; a day until the piece is moved |
//!
//! Common practice† at 20 °C and 50 %. [`Air`] scales everything: water-based layers with the vapour-pressure deficit,
//! wax, shellac and solvent-borne layers with temperature alone.

use warm_blend_board::{Family, Technique};
use warm_blend_paint::{Class, Contents};

use crate::{Air, DriesBy, Laid, Tins, Work};

const OVERNIGHT: f64 = 12.0 * 60.0;
/// How long filler takes to harden, minutes†.
const FILLER: f64 = 120.0;
const DAY: f64 = 24.0 * 60.0;

/// Minutes until the next layer can go on one, at 20 °C and 50 %. Oil dries slowly however thin it lies.
fn dry(laid: &Laid, contents: &Contents) -> f64 {
    let oil = contents.main_class().filter(|class| class.is_oil_paint());
    oil.map_or(0.0, |class| dry_class(Some(class))).max(dry_as_laid(laid, contents))
}

fn dry_as_laid(laid: &Laid, contents: &Contents) -> f64 {
    match laid.technique {
        technique if technique.dries_overnight(laid.hand) => return OVERNIGHT,
        Technique::WetWaxResist => return OVERNIGHT,
        Technique::DryBrush | Technique::Speckle | Technique::Stencil => return 5.0,
        Technique::SmoothSand => return 0.0,
        Technique::SandBack | Technique::WetDistress | Technique::MetallicWash => return 10.0,
        _ => {}
    }
    match laid.technique.family() {
        Family::Glaze | Family::Wax | Family::Gild => OVERNIGHT,
        Family::Stain if contents.main_class() != Some(Class::GelStain) => OVERNIGHT,
        Family::Blend if contents.has(Class::GlazingLiquid) => OVERNIGHT,
        Family::Wash if contents.main_class() != Some(Class::GelStain) => 20.0,
        _ => dry_class(contents.main_class()),
    }
}

fn dry_class(class: Option<Class>) -> f64 {
    match class {
        Some(
            Class::ClearWax
            | Class::TintedWax
            | Class::Primer
            | Class::GlazingLiquid
            | Class::Scumble
            | Class::Extender,
        ) => OVERNIGHT,
        Some(Class::GelStain | Class::Alkyd) => DAY,
        Some(Class::Oil) => 2.0 * DAY,
        Some(Class::LatexSatin) => 240.0,
        Some(Class::Mineral | Class::ClearCoat) => 120.0,
        Some(Class::AcrylicCraft) => 60.0,
        Some(Class::Shellac) => 45.0,
        Some(Class::Metallic | Class::Pearl) => 10.0,
        Some(Class::Chalk | Class::Clay | Class::Milk | Class::TexturePowder | Class::Water) | None => 90.0,
    }
}

/// Minutes until one layer of a work is dry, in some air.
fn dries_in(laid: &Laid, tins: Tins, air: Air) -> f64 {
    dry(laid, &laid.contents(tins)) * air.slower(laid.dries_by(tins))
}

/// Minutes until the layers of a work are dry at 20 °C and 50 %, and how many times as long that takes in some air; `None`
/// if it lays nothing. Of layers that are worked wet into each other, the slowest counts.
pub fn dries(work: &Work, tins: Tins, air: Air) -> Option<(f64, f64)> {
    let each =
        work.layers().iter().map(|laid| (dry(laid, &laid.contents(tins)), air.slower(laid.dries_by(tins))));
    each.max_by(|one, other| (one.0 * one.1).total_cmp(&(other.0 * other.1)))
}

/// How a finished work dries in some air, prepared for several questions.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Drying<'a> {
    done: &'a Work,
    air: Air,
    waxy: bool,
    /// Minutes until its layers are dry.
    dries: f64,
}

impl<'a> Drying<'a> {
    pub(crate) fn of(done: &'a Work, tins: Tins, air: Air) -> Self {
        // Layers that were worked wet into each other dry together: the slowest of them counts.
        let dries = done.layers().iter().map(|laid| dries_in(laid, tins, air)).fold(0.0, f64::max);
        Self { done, air, waxy: done.is_waxy(tins), dries }
    }

    /// Minutes until another work can begin on the same zone, ignoring any work between them.
    pub(crate) fn until(&self, next: &Work) -> f64 {
        let slower = |by| self.air.slower(by);
        match (self.done, next) {
            // The edge is still soft.
            (_, Work::TapeOff) | (Work::Clean, Work::Rinse) | (Work::Strip, Work::Clean) => 0.0,
            // Glue dries overnight, filler in two hours†.
            (Work::GlueDown, _) => OVERNIGHT * slower(DriesBy::Water),
            (Work::Fill, _) => FILLER * slower(DriesBy::Water),
            // However warm it is: old paint needs a night to come loose†.
            (Work::Soak, _) => OVERNIGHT,
            (Work::BlockStains, _) => dry_class(Some(Class::Shellac)) * slower(DriesBy::Solvent),
            (Work::Rinse, _) => 60.0 * slower(DriesBy::Water),
            (Work::Deglaze | Work::Dewax | Work::WaxOff, _) => 10.0 * slower(DriesBy::Solvent),
            (_, Work::Buff | Work::HardwareOn | Work::Rest) if self.waxy => {
                self.dries.max(OVERNIGHT * slower(DriesBy::Solvent))
            }
            // The same wash again needs no waiting.
            (Work::Layer(laid), Work::Layer(again))
                if laid == again && matches!(laid.technique.family(), Family::Wash) =>
            {
                0.0
            }
            (Work::Layer(_) | Work::Wet(_), _) => self.dries,
            (Work::Age(_), _) => 20.0 * slower(DriesBy::Water),
            _ => 0.0,
        }
    }
}

/// Minutes from the end of one work to the beginning of another on the same zone, ignoring any work between them.
pub fn wait(done: &Work, next: &Work, tins: Tins, air: Air) -> f64 {
    Drying::of(done, tins, air).until(next)
}

impl Laid {
    /// What it gives off as it dries: solvent if it is waxy or solvent-borne, otherwise water.
    pub(crate) fn dries_by(&self, tins: Tins) -> DriesBy {
        let solvent = self.is_waxy(tins) || self.contents(tins).is_solvent_borne();
        if solvent { DriesBy::Solvent } else { DriesBy::Water }
    }
}

impl Work {
    /// Minutes of waiting that the work itself consists of; only [`Work::Rest`] has any. Wax hardens regardless of
    /// humidity.
    pub fn rests(&self, air: Air) -> f64 {
        match self {
            Work::Rest => DAY * air.slower(DriesBy::Solvent),
            _ => 0.0,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{chalk, layer};
    use warm_blend_paint::{PaintId, Product, Specials};

    fn laid(technique: Technique) -> Work {
        Work::Layer(layer(technique, 1, 1).coats(&chalk).remove(0))
    }

    /// A tin of a class.
    fn tin_of(class: Class) -> impl Fn(PaintId) -> Option<Product> {
        move |_| Some(class.into())
    }

    /// Chalk-type paint is recoated after an hour or two, a glaze and a primer after the night, wax is buffed the next day (common
    /// practice).
    #[test]
    fn as_common_practice_has_it() {
        let hours = |work: &Work, next: &Work, class| wait(work, next, &tin_of(class), Air::default()) / 60.0;
        let coat = laid(Technique::BrushedCoat);
        assert!((1.0..=2.0).contains(&hours(&coat, &coat, Class::Chalk)));
        assert!(hours(&coat, &coat, Class::Primer) >= 8.0);
        assert!(hours(&laid(Technique::GlazeWiped), &coat, Class::GlazingLiquid) >= 8.0);
        assert!(hours(&laid(Technique::ClearWax), &Work::Buff, Class::ClearWax) >= 8.0);
        assert!((0.1..0.2).contains(&hours(&Work::Deglaze, &coat, Class::Chalk)), "about ten minutes");
        let wash = laid(Technique::WashWiped);
        assert_eq!(hours(&wash, &wash, Class::Chalk), 0.0, "again and again");
        assert_eq!(hours(&coat, &Work::TapeOff, Class::Chalk), 0.0, "while the edge is soft");
    }

    /// Oil takes a day and more, however thinly it is brushed (common practice).
    #[test]
    fn oil_is_slow() {
        let hours = |technique, class| {
            wait(&laid(technique), &laid(Technique::BrushedCoat), &tin_of(class), Air::default()) / 60.0
        };
        for technique in [Technique::BrushedCoat, Technique::DryBrush, Technique::WashWiped] {
            assert!((16.0..=24.0).contains(&hours(technique, Class::Alkyd)), "{technique:?}");
            assert!(hours(technique, Class::Oil) > hours(technique, Class::Alkyd), "{technique:?}");
        }
        let damp = Air::new(20.0, 0.8).unwrap();
        let coat = laid(Technique::BrushedCoat);
        assert_eq!(
            wait(&coat, &coat, &tin_of(Class::Alkyd), damp),
            wait(&coat, &coat, &tin_of(Class::Alkyd), Air::default())
        );
    }

    /// Strokes that are left to stand need the night, as texture does.
    #[test]
    fn what_stands_dries_overnight() {
        let mut rough = laid(Technique::BrushedCoat);
        let Work::Layer(coat) = &mut rough else { panic!("a coat") };
        coat.hand.texture = Some(warm_blend_board::TextureDepth::new(150.0).unwrap());
        let hours = |work: &Work| wait(work, &laid(Technique::DryBrush), &chalk, Air::default()) / 60.0;
        assert!(hours(&rough) >= 8.0 && hours(&laid(Technique::TextureCoat)) >= 8.0);
        assert!(hours(&laid(Technique::BrushedCoat)) < 3.0);
    }

    /// Stone takes one night: the coat and both flecks in it dry as long as the slowest of them (common practice).
    #[test]
    fn what_was_worked_wet_dries_together() {
        let one = |technique| layer(technique, 1, 1).coats(&chalk).remove(0);
        let (coat, flecks) = (one(Technique::BrushedCoat), one(Technique::KnifeFlecks));
        let stone = Work::Wet(vec![coat, flecks.clone(), flecks]);
        let minutes = wait(&stone, &laid(Technique::ClearCoat), &chalk, Air::default());
        assert_eq!(
            minutes,
            wait(&laid(Technique::KnifeFlecks), &laid(Technique::ClearCoat), &chalk, Air::default())
        );
    }

    /// At 20 °C and 85 % water takes 3.3 times as long; wax, shellac and an oil stain as long as ever; a water-based stain, which its
    /// tin states, as long as water.
    #[test]
    fn damp_air_holds_up_water_and_not_solvent() {
        let damp = Air::new(20.0, 0.85).unwrap();
        let times =
            |work: &Work, tins: Tins| wait(work, work, tins, damp) / wait(work, work, tins, Air::default());
        let coat = laid(Technique::BrushedCoat);
        assert!((times(&coat, &chalk) - 10.0 / 3.0).abs() < 1e-9);
        for class in [Class::Shellac, Class::GelStain, Class::ClearWax] {
            assert_eq!(times(&coat, &tin_of(class)), 1.0, "{class:?}");
        }
        assert_eq!(times(&laid(Technique::TintedWax), &chalk), 1.0);
        let water_based = |_| {
            let specials = Specials { solvent_borne: Some(false), ..Specials::default() };
            Some(Product { class: Class::GelStain, specials })
        };
        assert!(times(&coat, &water_based) > 3.0);
    }

    #[test]
    fn colder_air_makes_every_wait_longer_or_leaves_it() {
        let cold = Air::new(10.0, 0.7).unwrap();
        for technique in Technique::ALL {
            let (work, next) = (laid(technique), laid(Technique::BrushedCoat));
            for class in Class::ALL {
                assert!(
                    wait(&work, &next, &tin_of(class), cold)
                        >= wait(&work, &next, &tin_of(class), Air::default())
                );
            }
        }
    }
}
