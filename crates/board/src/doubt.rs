//! Uncertainty of a board: from its paints, and from the hand that paints it.

use std::collections::BTreeMap;

use rayon::prelude::*;
use warm_blend_learn::{
    Ensemble,
    draws::{self, Whose},
    ensemble::band90,
};
use warm_blend_paint::{BadPaint, Class, FilmState, Material, PaintId};
use warm_blend_spectral::Light;

use super::{Board, ByPlace, KnownTin, LearnedHand, Letter, Place, Stack, stack::lab};

/// Number of plausible boards: fewer than plausible shelves, because each must be composed.
const BOARDS: usize = 32;

/// sd of ln of how much filled air darkens bare wood†, from plank to plank of one kind.
const AIR_OF_WOOD: f64 = 0.5;

/// What varies in a band, while everything else keeps its most probable value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Varies {
    /// Everything.
    All,
    /// One paint.
    Paint(PaintId),
    /// What the hand leaves and covers, in every technique.
    Touch,
    /// How much bare wood darkens.
    Wood,
}

impl Varies {
    fn has(self, part: Self) -> bool {
        self == Self::All || self == part
    }
}

/// 90 % band, ΔE00, of the colour from across the room at each kind of place, with the lowest `layers` of a strip on.
pub fn bands<'a>(
    board: &Board,
    letter: Letter,
    known: impl Fn(PaintId) -> Option<(Class, &'a Ensemble)> + Sync,
    hands: &LearnedHand,
    layers: usize,
    look: (Light, FilmState),
) -> Result<ByPlace<f64>, BadPaint> {
    bands_if(Varies::All, board, letter, known, hands, layers, look)
}

/// The same band if only this varied.
pub fn bands_if<'a>(
    varies: Varies,
    board: &Board,
    letter: Letter,
    known: impl Fn(PaintId) -> Option<(Class, &'a Ensemble)> + Sync,
    hands: &LearnedHand,
    layers: usize,
    (light, state): (Light, FilmState),
) -> Result<ByPlace<f64>, BadPaint> {
    let seen =
        |stack: &Stack| ByPlace::from_fn(|place| lab(&stack.seen(place, layers, state).from_afar(), light));
    let paints = board.paints();
    let stack = |member: Option<usize>| {
        let plausible: BTreeMap<PaintId, Material> = member.map_or_else(BTreeMap::new, |member| {
            let of = |paint| Some((paint, known(paint)?.1.member(member)));
            paints.iter().copied().filter(|paint| varies.has(Varies::Paint(*paint))).filter_map(of).collect()
        });
        let tin = |paint| {
            let (class, ensemble) = known(paint)?;
            Some(KnownTin::new(class, plausible.get(&paint).unwrap_or(ensemble.best())))
        };
        board.stack(letter, tin, |technique| match member {
            Some(member) if varies.has(Varies::Touch) => hands.plausible(technique, member),
            _ => hands.habit(technique),
        })
    };
    let best = seen(&stack(None)?);
    let air = draws::unit_normals(Whose::Ground, 1);
    let members = draws::some(BOARDS)
        .collect::<Vec<_>>()
        .into_par_iter()
        .map(|member| {
            let stack = stack(Some(member))?;
            let wood = if varies.has(Varies::Wood) { AIR_OF_WOOD * air[(0, member)] } else { 0.0 };
            Ok(seen(&stack.with_air_of_wood(wood.exp())))
        })
        .collect::<Result<Vec<_>, BadPaint>>()?;
    Ok(ByPlace::from_fn(|place: Place| {
        band90(*best.at(place), members.iter().map(|member| *member.at(place)))
    }))
}
