//! Tins of the shelf that may be mixed, with what is known of them.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_learn::{Ensemble, ShelfPaint};
use warm_blend_mixing as bench;
use warm_blend_mixing::{DoubtfulTin, InDoubt, MatchTin};
use warm_blend_paint::{Base, Condition, Look, Material, MixPart, PaintId, Parts, Price, WholeParts};

use crate::{Refusal, ShelfSnapshot};

/// Number of plausible shelves by which mixes are ranked.
const SHELVES: usize = 32;

/// A paint of a recipe.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct RecipePart {
    /// The paint.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// Whole parts.
    pub parts: u32,
    /// Share of the volume, 0–1.
    pub share: f64,
    /// Its flat colour.
    pub hex: String,
}

/// Contents of a pot for a recipe.
pub(crate) fn pot_of(recipe: &[RecipePart]) -> Vec<MixPart> {
    MixPart::gathered(recipe.iter().map(|part| (PaintId(part.paint), part.parts)))
}

/// A pot with its uncertainty.
pub(crate) struct DoubtfulPot<'a> {
    best: &'a Material,
    plausible: Vec<Material>,
}

impl<'a> DoubtfulPot<'a> {
    pub fn of(pot: &'a Ensemble) -> Self {
        Self { best: pot.best(), plausible: pot.some(SHELVES) }
    }

    pub fn material(&self) -> InDoubt<'_> {
        InDoubt { best: self.best, plausible: &self.plausible }
    }
}

/// Tins that may be mixed.
pub(crate) struct Mixable<'a> {
    pub tins: Vec<&'a Kept<ShelfPaint>>,
    pub known: Vec<&'a Ensemble>,
    pub look: Look,
}

impl ShelfSnapshot {
    /// Paints that are in good condition, can be mixed with the tins in `with`, and are `allowed`. If `with` is empty,
    /// those that can be mixed with most of the shelf.
    pub(crate) fn mixable(
        &self,
        look: Look,
        with: &[Uuid],
        allowed: impl Fn(&Kept<ShelfPaint>) -> bool,
    ) -> Result<Mixable<'_>, Refusal> {
        let good = |tin: &&Kept<ShelfPaint>| {
            tin.value.class.makes_plain_colours() && tin.value.condition != Condition::Off && allowed(tin)
        };
        let mut tins: Vec<_> = self.tins().filter(good).collect();
        let base = |tin: &Kept<ShelfPaint>| tin.value.product().base();
        let count = |of: &Base| tins.iter().filter(|tin| base(tin) == *of).count();
        // The last of equals wins.
        let usual = [Base::Alcohol, Base::Oil, Base::Water].into_iter().max_by_key(count);
        let given: Vec<Base> = self.tins().filter(|tin| with.contains(&tin.id)).map(base).collect();
        let stirs = |of: Base| if given.is_empty() { Some(of) == usual } else { given.contains(&of) };
        tins.retain(|tin| with.contains(&tin.id) || stirs(base(tin)));
        let known = tins.iter().map(|tin| self.paint(tin.id)).collect::<Result<_, Refusal>>()?;
        Ok(Mixable { tins, known, look })
    }
}

impl Mixable<'_> {
    pub fn tins(&self, wanted: &[Uuid]) -> Vec<MatchTin<'_>> {
        self.tins
            .iter()
            .zip(&self.known)
            .map(|(tin, known)| MatchTin {
                material: known.best(),
                price: tin.value.price.map(Price::by_ml),
                wanted: wanted.contains(&tin.id),
            })
            .collect()
    }

    /// The tins with their uncertainty; `wanted` must be in the mix.
    pub fn doubtful(&self, wanted: &[Uuid]) -> Vec<DoubtfulTin<'_>> {
        let tins = self.tins(wanted).into_par_iter().zip(&self.known);
        tins.map(|(tin, known)| DoubtfulTin { tin, plausible: known.some(SHELVES) }).collect()
    }

    /// Parts with names and colours, largest first.
    pub fn parts(&self, of: &[(usize, u32)]) -> Vec<RecipePart> {
        let total: u32 = of.iter().map(|(_, parts)| parts).sum();
        let mut parts: Vec<RecipePart> = of
            .iter()
            .map(|(at, parts)| RecipePart {
                paint: self.tins[*at].id,
                name: self.tins[*at].value.name.as_str().to_owned(),
                parts: *parts,
                share: f64::from(*parts) / f64::from(total),
                hex: thick(self.look, self.known[*at].best()),
            })
            .collect();
        parts.sort_by_key(|part| std::cmp::Reverse(part.parts));
        parts
    }

    /// What should not be mixed, and what was frozen.
    pub fn cautions(&self, of: &[(usize, u32)]) -> Vec<String> {
        let tin = |at: usize| &self.tins[at].value;
        let mut cautions = Vec::new();
        for (i, (one, _)) in of.iter().enumerate() {
            for (other, _) in &of[..i] {
                let reason = bench::clash(tin(*one).class, tin(*other).class);
                cautions.extend(reason.map(|reason| {
                    format!("{} with {}: {reason}", tin(*other).name.as_str(), tin(*one).name.as_str())
                }));
            }
            if tin(*one).condition == Condition::Frozen {
                cautions.push(format!(
                    "{} has been frozen: test a little on card first",
                    tin(*one).name.as_str()
                ));
            }
        }
        cautions
    }

    /// The mix of these parts.
    pub fn stirred(&self, parts: &[(usize, u32)]) -> Result<Ensemble, Refusal> {
        let of: Vec<(Parts, &Ensemble)> = parts
            .iter()
            .map(|(at, parts)| Ok((WholeParts::new(*parts)?.into(), self.known[*at])))
            .collect::<Result<_, warm_blend_paint::BadMix>>()
            .map_err(|_| Refusal::Broken)?;
        Ensemble::mix(&of).map_err(|_| Refusal::Broken)
    }
}

/// Hex code of a thick material.
pub(crate) fn thick(look: Look, material: &Material) -> String {
    look.masstone(material).screen.srgb.to_string()
}
