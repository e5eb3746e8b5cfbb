//! How sure the verdict on a piece is, and which paints it hangs on.
//!
//! The piece is dressed from many plausible shelves: tins as they may be, after all that is known of them. The painter's touch does not
//! vary, so the answer is about paint alone.

use std::collections::{BTreeSet, HashMap};

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_paint::{Material, PaintId};
use warm_blend_piece::{BadFinish, Looked, Pair, Piece, Scheme};

use super::prediction::named_together;
use super::room::PieceSeen;
use crate::{Guess, Refusal, Room};

/// Number of plausible shelves from which the piece is dressed.
const SHELVES: usize = 24;

/// Share of plausible shelves from which a verdict is sure.
const SURE: f64 = 0.95;

/// Share of plausible shelves within a band.
const WITHIN: f64 = 0.9;

/// How sure the verdict on a piece is.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceReasons {
    /// The answer in a sentence, with the pair of parts that comes closest to another verdict.
    pub words: String,
    /// False where tins as they may be would change the verdict.
    pub sure: bool,
    /// 90 % band of the contrast of that pair, ΔE00.
    pub within: f64,
    /// Paints whose colour is guessed, the one that moves the contrast most first.
    pub guesses: Vec<Guess>,
}

/// A pair of adjoining parts, and its contrast on each plausible shelf.
struct Tried {
    pair: Pair,
    contrasts: Vec<f64>,
}

impl Tried {
    /// Share of shelves on which the verdict is the same.
    fn same(&self) -> f64 {
        let same = self.contrasts.iter().filter(|contrast| {
            Pair { contrast: **contrast, ..self.pair.clone() }.stands() == self.pair.stands()
        });
        same.count() as f64 / self.contrasts.len().max(1) as f64
    }

    /// 90 % band of the contrast, ΔE00.
    fn within(&self) -> f64 {
        let mut off: Vec<f64> =
            self.contrasts.iter().map(|contrast| (contrast - self.pair.contrast).abs()).collect();
        off.sort_by(f64::total_cmp);
        let at = (WITHIN * off.len() as f64).ceil() as usize;
        off.get(at.saturating_sub(1)).copied().unwrap_or(0.0)
    }

    /// Distance of the contrast from the nearest limit, ΔE00.
    fn to_the_limit(&self) -> f64 {
        let (least, most) = self.pair.window;
        (self.pair.contrast - least).abs().min((self.pair.contrast - most).abs())
    }
}

impl Room<'_> {
    /// How sure the verdict on a scheme is, and which paints it hangs on.
    pub fn piece_reasons(&self, piece: &Piece, scheme: &Scheme) -> Result<PieceReasons, Refusal> {
        let nothing = || PieceReasons {
            words: "There is nothing to compare yet.".to_owned(),
            sure: true,
            within: 0.0,
            guesses: Vec::new(),
        };
        let Some(standing) = self.stand(piece, scheme)? else { return Ok(nothing()) };
        let may_be = self.shelf.plausible(SHELVES);
        let asked = Asked { room: self, piece, scheme, standing: &standing, may_be };
        let mut tried = asked.tried(None)?;
        tried.sort_by(|one, other| {
            one.same().total_cmp(&other.same()).then(one.to_the_limit().total_cmp(&other.to_the_limit()))
        });
        let Some(closest) = tried.first() else { return Ok(nothing()) };
        let (sure, within) = (closest.same() >= SURE, closest.within());
        Ok(PieceReasons { words: words(closest), sure, within, guesses: asked.guesses(closest)? })
    }
}

fn words(closest: &Tried) -> String {
    let Pair { zones, contrast, intent, window: (least, most), .. } = &closest.pair;
    let names = named_together(*zones).to_lowercase();
    let numbers = format!(
        "contrast {contrast:.0}, give or take {:.0}, where {} allows {least:.0} to {most:.0}",
        closest.within(),
        intent.id()
    );
    match closest.same() {
        same if same < SURE => format!("Not sure: {names} could go either way ({numbers})."),
        _ => format!("Sure, as far as the paints are known. The closest call is {names} ({numbers})."),
    }
}

/// A scheme of a piece, to be dressed from other shelves.
struct Asked<'a> {
    room: &'a Room<'a>,
    piece: &'a Piece,
    scheme: &'a Scheme,
    standing: &'a PieceSeen,
    /// Tins on each plausible shelf.
    may_be: HashMap<PaintId, Vec<Material>>,
}

impl Asked<'_> {
    /// Pairs with their contrasts where all paints, or one alone, are as they may be, and the others as they most likely are.
    fn tried(&self, alone: Option<PaintId>) -> Result<Vec<Tried>, Refusal> {
        let Self { room, piece, scheme, standing, may_be } = self;
        let pairs = standing.looked(piece, scheme, room.look).pairs();
        let mut tried: Vec<Tried> =
            pairs.into_iter().map(|pair| Tried { pair, contrasts: Vec::new() }).collect();
        for shelf in 0..SHELVES {
            let tin = |paint| match alone.is_none_or(|alone| alone == paint) {
                true => room.shelf.plausible_tin(may_be, shelf, paint),
                false => room.shelf.material(paint),
            };
            let pairs = room
                .with_tins(&tin, &standing.in_dress.elevation, |wardrobe| {
                    let zones = standing.seen_by(wardrobe, piece, scheme, room.look)?;
                    Ok(Looked { zones: &zones, ..standing.looked(piece, scheme, room.look) }.pairs())
                })
                .map_err(|error: BadFinish| Refusal::field("/schemes", error))?;
            for (one, pair) in tried.iter_mut().zip(pairs) {
                one.contrasts.push(pair.contrast);
            }
        }
        Ok(tried)
    }

    /// What each paint of a pair alone does to its contrast.
    fn guesses(&self, closest: &Tried) -> Result<Vec<Guess>, Refusal> {
        let (one, other) = closest.pair.zones;
        let dressed = &self.standing.in_dress.dressed;
        let paints: BTreeSet<PaintId> = [one, other]
            .iter()
            .filter_map(|zone| dressed.get(zone))
            .flat_map(|zone| zone.paints.clone())
            .collect();
        let mut guesses = Vec::new();
        for paint in paints {
            let alone = self.tried(Some(paint))?;
            let same = alone.iter().find(|tried| tried.pair.zones == closest.pair.zones);
            let within = same.map_or(0.0, Tried::within);
            if within > 0.0 {
                guesses.push(self.room.shelf.paint_guess(paint, within));
            }
        }
        Guess::in_order(&mut guesses, closest.within());
        Ok(guesses)
    }
}
