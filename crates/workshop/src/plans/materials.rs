//! Materials of a plan: what it takes from the shelf, and what must be bought.

use warm_blend_board::GroundKind;
use warm_blend_documents::Kept;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Contents, Dimension, Measure, MixPart, PaintId, Parts, WholeParts, shares};
use warm_blend_piece::{Age, poured_together};
use warm_blend_plan::{Needed, Step, amounts, packs};
use warm_blend_spectral::{Light, difference};

use super::planning::Planned;
use super::view::{PotNeeded, TinCost, ToBuy, UndercoatView};
use crate::{Refusal, Room, Swatch};

/// Volume below which an amount has a decimal, ml†.
const A_LITTLE: f64 = 10.0;
/// Greatest number of drops that anybody counts†.
pub(super) const COUNTED: f64 = 60.0;
/// Share of the price from which a first coat in another pot is worthwhile†.
const CHEAPER: f64 = 0.75;
/// Greatest difference of a first coat from the colour, ΔE00, and how much lighter it may be, L*†.
const CLOSE: f64 = 7.0;
const LIGHTER: f64 = 2.0;
/// Parts of a cheaper paint to parts of the pot that it replaces.
const TINTED: [(u32, u32); 5] = [(6, 1), (4, 1), (3, 1), (2, 1), (1, 1)];

impl<'a> Room<'a> {
    /// Tin for a product without a pot: the fullest of its class.
    pub(super) fn tin_of(&self, class: Class) -> Option<&'a Kept<ShelfPaint>> {
        let of_class = self.shelf.tins().filter(|tin| tin.value.class == class);
        of_class.max_by(|a, b| stock(&a.value).total_cmp(&stock(&b.value)))
    }
}

/// Pots with their swatches.
pub(super) type Swatches = [(Vec<MixPart>, Swatch)];

pub(super) fn swatch_of(pot: &[MixPart], swatches: &Swatches) -> Option<Swatch> {
    swatches.iter().find(|(of, _)| of == pot).map(|(_, swatch)| swatch.clone())
}

pub(super) fn stock(tin: &ShelfPaint) -> f64 {
    tin.stock.map_or(0.0, |stock| stock.value())
}

impl<'a> Planned<'a> {
    /// Swatches of some pots.
    pub(super) fn swatches(&self, needed: &[Needed]) -> Result<Vec<(Vec<MixPart>, Swatch)>, Refusal> {
        let mut all = Vec::new();
        for pot in needed.iter().filter(|pot| !pot.pot.is_empty()) {
            let parts: Vec<(PaintId, Parts)> =
                pot.pot.iter().map(|part| (part.paint, part.parts.into())).collect();
            if let Some(stirred) = self.room.shelf.stirred(&parts)? {
                all.push((pot.pot.clone(), Swatch::of(&stirred, self.room.look)));
            }
        }
        Ok(all)
    }

    /// Amount of each tin in some pots, ml.
    pub(super) fn by_tin(&self, needed: &[Needed]) -> Vec<(&'a Kept<ShelfPaint>, f64, f64)> {
        let mut all: Vec<(&Kept<ShelfPaint>, f64, f64)> = Vec::new();
        let mut add = |tin: &'a Kept<ShelfPaint>, ml: f64, each: f64| match all
            .iter_mut()
            .find(|(other, ..)| other.id == tin.id)
        {
            Some((_, sum, thickest)) => {
                *sum += ml;
                *thickest = thickest.max(each);
            }
            None => all.push((tin, ml, each)),
        };
        for pot in needed {
            let each = pot.by_square_metre;
            if let Some(tin) = pot.product.and_then(|class| self.room.tin_of(class)) {
                add(tin, pot.ml, each);
            }
            for (paint, share) in shares(&pot.pot) {
                if let Ok(tin) = self.room.shelf.tin(paint.0) {
                    add(tin, pot.ml * share, each);
                }
            }
        }
        all
    }

    /// Shopping for some pots, missing tins first.
    pub(super) fn to_buy(&self, needed: &[Needed]) -> Vec<ToBuy> {
        let units = self.asked.units;
        let row = |(tin, ml, each): (&Kept<ShelfPaint>, f64, f64)| {
            let (value, stock) = (&tin.value, stock(&tin.value));
            let short = (ml - stock).max(0.0);
            let sizes = value.price.map(|price| (price.tin().value(), price.amount()));
            let bought = sizes.map_or(Ok(None), |size| packs(short, &[size]));
            let count = match &bought {
                _ if short <= 0.0 => Some(0),
                Ok(packs) => packs.as_ref().map(|packs| packs[0]),
                Err(_) => None,
            };
            let held = count.zip(sizes).map_or(0.0, |(n, (size, _))| n as f64 * size);
            let left = (stock + held - ml).max(0.0);
            let covers = left / each;
            let buys = match (count, sizes) {
                _ if bought.is_err() => bought.map_or_else(|wrong| wrong.to_string(), |_| String::new()),
                (Some(0), _) => "enough".to_owned(),
                (Some(n), Some((size, _))) => format!("buy {n} × {}", units.say_volume(size)),
                _ => "buy; pack size not set".to_owned(),
            };
            let rest = format!(
                "; {} left over, one coat on {}",
                units.say_volume(left),
                units.say(Dimension::Area, covers)
            );
            let rest = if left >= 1.0 { rest } else { String::new() };
            let words =
                format!("{} needed, {} in stock{rest}", units.say_volume(ml), units.say_volume(stock));
            ToBuy {
                name: value.name.as_str().to_owned(),
                needed: ml,
                stock,
                packs: count,
                pack: sizes.map(|(size, _)| size),
                cost: count.zip(sizes).map(|(n, (_, price))| n as f64 * price),
                left,
                covers,
                buys,
                words,
            }
        };
        // Water comes from the tap.
        let sold = self.by_tin(needed).into_iter().filter(|(tin, ..)| tin.value.class != Class::Water);
        let mut rows: Vec<ToBuy> = sold.map(row).collect();
        rows.sort_by_key(|row| row.packs == Some(0));
        rows
    }

    /// Shopping for the rest of the plan.
    pub(super) fn shopping_list(&self) -> Vec<ToBuy> {
        self.to_buy(&self.after_jars(&amounts(&self.steps, &self.zones)))
    }

    pub(super) fn pots(&self, needed: &[Needed], swatches: &Swatches) -> Vec<PotNeeded> {
        let one = |pot: &Needed| {
            let words = match pot.product {
                Some(class) => class.name().to_owned(),
                None => self.room.shelf.pot_words(&pot.pot),
            };
            let jars = self.jars_to_use(pot);
            let to_mix = (pot.ml - jars.iter().map(|jar| jar.ml).sum::<f64>()).max(0.0);
            let amount = |(paint, share): (PaintId, f64)| {
                let ml = to_mix * share;
                let density = self.room.shelf.tin(paint.0).map_or(1.0, |tin| tin.value.density());
                let units = self.asked.units;
                let name = self.room.shelf.name(paint.0);
                format!("{name} {}, {}", units.say_volume(ml), units.say_weight(ml * density))
            };
            let several = pot.pot.len() > 1 && to_mix > 0.0;
            PotNeeded {
                words,
                parts: pot.pot.clone(),
                swatch: swatch_of(&pot.pot, swatches),
                ml: pot.ml,
                amount: self.amount(pot.ml),
                amounts: if several { shares(&pot.pot).map(amount).collect() } else { Vec::new() },
                to_mix: (to_mix > 0.0).then(|| self.amount(to_mix)),
                to_mix_ml: to_mix,
                jars,
            }
        };
        needed.iter().map(one).collect()
    }

    /// An amount as text; small amounts in drops too.
    pub(super) fn amount(&self, ml: f64) -> String {
        if ml >= A_LITTLE {
            return self.asked.units.say_volume(ml);
        }
        let drops = (ml / Measure::Drop.millilitres()).round().max(1.0);
        let counted = if drops <= COUNTED {
            format!(" ({drops} {})", Measure::Drop.names()[usize::from(drops > 1.0)])
        } else {
            String::new()
        };
        format!("{}{counted}", self.asked.units.say_drop(ml))
    }

    /// First coats in a cheaper, tinted paint that would save money: close to the final colour, and not too light to
    /// cover (common practice).
    pub(super) fn undercoats(&self) -> Vec<UndercoatView> {
        let first = |step: &&Step| {
            let laid = step.work.layers().first();
            laid.is_some_and(|laid| laid.coat.0 == 1 && laid.coat.1 > 1 && !self.blocks(laid))
        };
        let save = |step: &Step| {
            let laid = step.work.laid()?;
            let whole: f64 =
                amounts(std::slice::from_ref(step), &self.zones).iter().map(|needed| needed.ml).sum();
            let (saves, pot) = self.cheaper(&laid.pot)?;
            let words = format!(
                "First coat in {}, close to {}",
                self.room.shelf.pot_words(&pot),
                self.room.shelf.pot_words(&laid.pot)
            );
            Some(UndercoatView { words, saves: saves * whole })
        };
        self.steps.iter().filter(first).filter_map(save).collect()
    }

    /// The pot that saves most per ml as a first coat below another: a cheaper paint, plain or tinted with the other pot,
    /// which is charged.
    fn cheaper(&self, coat: &[MixPart]) -> Option<(f64, Vec<MixPart>)> {
        let seen = |pot: &[MixPart]| {
            let parts: Vec<(PaintId, Parts)> =
                pot.iter().map(|part| (part.paint, part.parts.into())).collect();
            Some(self.room.shelf.most_probable(&parts).ok()??.seen_lab(Light::Daylight))
        };
        let (target, price) = (seen(coat)?, self.room.cost(coat, 1.0)?);
        let cheap = self.room.shelf.tins().filter(|tin| {
            let value = &tin.value;
            value.class.makes_water_based_colours()
                && stock(value) > 0.0
                && value.price_by_ml().is_some_and(|own| own < price)
        });
        let pots = cheap.flat_map(|tin| {
            let plain = WholeParts::new(1).map(|parts| vec![MixPart { paint: PaintId(tin.id), parts }]).ok();
            let tinted = plain.clone().into_iter().flat_map(move |plain| {
                TINTED.into_iter().filter_map(move |(parts, tint)| poured_together(&plain, parts, coat, tint))
            });
            plain.into_iter().chain(tinted)
        });
        let close = pots.filter_map(|pot| {
            let (own, lab) = (self.room.cost(&pot, 1.0)?, seen(&pot)?);
            let near = difference(lab, target).value() <= CLOSE && lab.l - target.l <= LIGHTER;
            (near && own < CHEAPER * price).then_some((price - own, pot))
        });
        close.max_by(|one, other| one.0.total_cmp(&other.0))
    }

    /// Assumptions.
    pub(super) fn assumptions(&self, needed: &[Needed]) -> Vec<String> {
        let mut notes = self.notes.clone();
        for pot in needed {
            if let Some(class) = pot.product
                && self.room.tin_of(class).is_none()
            {
                let name = class.name().to_lowercase();
                notes.push(format!("No {name} on the shelf, so its price and stock are not counted."));
            }
        }
        let unpriced: Vec<&str> = self
            .by_tin(needed)
            .into_iter()
            .filter(|(tin, ..)| tin.value.price_by_ml().is_none())
            .map(|(tin, ..)| tin.value.name.as_str())
            .collect();
        if !unpriced.is_empty() {
            notes.push(format!("Not in the cost, no price set: {}.", unpriced.join(", ")));
        }
        if self.sheet.rates.hour.is_none() {
            notes.push("No hourly rate set: the price covers materials only.".to_owned());
        }
        notes.extend(self.unprimed());
        let to_come = self.sheet.done.iter().filter(|done| done.at > self.asked.now).count();
        if to_come > 0 {
            let steps = if to_come == 1 { "A step was" } else { "Some steps were" };
            notes.push(format!(
                "{steps} ticked at a time that is still to come: check the clock of this computer. Until then, drying counts from that time."
            ));
        }
        if self.zones.iter().any(|zone| zone.ages.iter().any(|age| *age != Age::Wear)) {
            notes.push(
                "The ageing has no product: time is planned, paint is not. Add it to a board to include the paint."
                    .to_owned(),
            );
        }
        notes
    }

    /// Zones whose ground needs a primer and gets none.
    fn unprimed(&self) -> Vec<String> {
        let tins = |paint: PaintId| self.product(paint);
        let without = |serves: &dyn Fn(GroundKind) -> bool, primes: &dyn Fn(&Contents) -> bool| {
            let bare = self.zones.iter().filter(|zone| serves(zone.ground)).filter(|zone| {
                let first = zone.layers.iter().find(|layer| !layer.technique.takes_away());
                first.is_some_and(|layer| {
                    let laid = layer.coats(&tins);
                    laid.first().is_some_and(|laid| !primes(&laid.contents(&tins)))
                })
            });
            let names: Vec<String> = bare.map(|zone| zone.zone.name().to_lowercase()).collect();
            names.join(", ")
        };
        let bleeding =
            without(&GroundKind::bleeds, &|contents| contents.blocks_stains() || contents.is_solvent_borne());
        let slick = without(&GroundKind::is_slick, &|contents| {
            contents.is_mostly(|product| matches!(product.class, Class::Primer | Class::Shellac))
        });
        let mut notes = Vec::new();
        if !bleeding.is_empty() {
            notes.push(format!(
                "The ground will bleed through on {bleeding}: there is no stain-blocking primer under the paint."
            ));
        }
        if !slick.is_empty() {
            notes.push(format!("Paint does not grip the ground without a bonding primer: {slick}."));
        }
        notes
    }

    /// Cost of some pots, as far as prices are known.
    pub(super) fn materials(&self, needed: &[Needed]) -> f64 {
        let priced = self.by_tin(needed).into_iter();
        priced.filter_map(|(tin, ml, _)| cost_of(tin, ml)).fold(0.0, |sum, cost| sum + cost)
    }

    /// What is used of each tin, the dearest first, those without a price last. Water that costs nothing is left out.
    pub(super) fn tin_costs(&self, needed: &[Needed]) -> Vec<TinCost> {
        let used = self.by_tin(needed).into_iter().map(|(tin, ml, _)| TinCost {
            paint: tin.id,
            name: tin.value.name.as_str().to_owned(),
            amount: self.asked.units.say_volume(ml),
            cost: cost_of(tin, ml),
        });
        let mut used: Vec<TinCost> = used.filter(|tin| tin.cost != Some(0.0)).collect();
        used.sort_by(|one, other| other.cost.unwrap_or(-1.0).total_cmp(&one.cost.unwrap_or(-1.0)));
        used
    }
}

/// Cost of so much from a tin; `None` without a price.
fn cost_of(tin: &Kept<ShelfPaint>, ml: f64) -> Option<f64> {
    Some(tin.value.price_by_ml()? * ml)
}
