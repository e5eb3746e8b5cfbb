//! Mending a spot: what to dab on, in which order, from which pot or mixed anew.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_board::FLAT;
use warm_blend_mixing::mixed_again;
use warm_blend_paint::{Look, Material, Measure, MixPart, Name, Note, PaintId, Parts, shares};
use warm_blend_piece::Zone;
use warm_blend_plan::{Laid, Lying, Spot, TouchedUp, wait};

use super::from_jars::JarToUse;
use super::materials::COUNTED;
use super::planning::Planned;
use super::reasons::lasting;
use super::sheet_change::SheetChange;
use crate::Refusal;

/// A spot that was mended.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct SpotMended {
    /// The part, `drawers` …
    #[schema(value_type = String)]
    pub zone: Zone,
    /// Its size.
    #[serde(default)]
    pub spot: Spot,
    /// How it came out.
    #[serde(default)]
    pub note: Option<String>,
}

/// How spots of a piece are mended.
#[derive(Debug, Serialize, ToSchema)]
pub struct TouchUp {
    /// Name of the piece.
    pub piece: String,
    /// The client.
    pub client: Option<String>,
    /// Parts on which something was painted.
    pub parts: Vec<PartToMend>,
}

/// A part, and the layers to dab on from the ground up.
#[derive(Debug, Serialize, ToSchema)]
pub struct PartToMend {
    /// `drawers` …
    pub zone: &'static str,
    /// `Drawer fronts` …
    pub name: &'static str,
    /// Layers in their order.
    pub dabs: Vec<Dab>,
}

/// A layer on the spot.
#[derive(Debug, Serialize, ToSchema)]
pub struct Dab {
    /// How it is put on: `Brushed coat, 1 of 2`.
    pub how: String,
    /// Contents of the pot in words.
    pub pot: Option<String>,
    /// Contents of the pot as parts, to mix it by a reading of the old finish.
    pub parts: Vec<MixPart>,
    /// Colour of the pot, opaque.
    pub hex: Option<String>,
    /// What the spot takes: `0.3 ml`, `less than a drop`; absent if paint is taken away.
    pub amount: Option<String>,
    /// The least that can be mixed in drops at the right ratio: `5 drops slate blue`, `1 drop barley`.
    pub drops: Vec<String>,
    /// A pot that was poured by this recipe.
    pub jar: Option<JarToUse>,
    /// 90 % band of the difference from the old coat if it is mixed anew from the same tins, ΔE00, in the client's light where it shows most;
    /// absent where a jar or one tin is used.
    pub within: Option<f64>,
    /// How much that shows: `nobody will see it`.
    pub shows: Option<&'static str>,
    /// How long it dries before the next layer: `2 h`.
    pub dries: Option<String>,
}

impl Planned<'_> {
    /// How a spot of each part is mended.
    pub fn touch_up(&self, spot: Spot) -> Result<TouchUp, Refusal> {
        let parts = self.on.zones().filter(|(_, on)| !on.lies().is_empty());
        let parts = parts.map(|(zone, on)| {
            let dabs = on.lies().iter().enumerate().map(|(n, lying)| {
                let mut dabs = self.dabs(lying, spot)?;
                if let (Some(last), Some(next)) = (dabs.last_mut(), on.lies().get(n + 1)) {
                    let tins = |paint| self.product(paint);
                    let minutes = wait(&lying.work, &next.work, &tins, self.sheet.air);
                    last.dries = (minutes > 0.0).then(|| lasting(minutes));
                }
                Ok(dabs)
            });
            let dabs = dabs.collect::<Result<Vec<_>, Refusal>>()?.into_iter().flatten().collect();
            Ok(PartToMend { zone: zone.id(), name: zone.name(), dabs })
        });
        Ok(TouchUp {
            piece: self.piece.name.as_str().to_owned(),
            client: self.piece.brief.client.as_ref().map(|client| client.as_str().to_owned()),
            parts: parts.collect::<Result<_, Refusal>>()?,
        })
    }

    /// The sheet after somebody mended a spot, and the pots whose jars it took from.
    pub fn touched_up(&self, said: &SpotMended, by: Option<Name>) -> Result<SheetChange, Refusal> {
        let note = said.note.as_deref().map(Note::new).transpose();
        let note = note.map_err(|error| Refusal::field("/note", error))?.flatten();
        let on = self.on.zones().find(|(zone, on)| *zone == said.zone && !on.lies().is_empty());
        let none = || Refusal::field("/zone", "nothing was ticked off on this part yet; choose another");
        let lies = on.ok_or_else(none)?.1.lies();
        let layers = lies.iter().flat_map(|lying| lying.work.layers());
        let dabs = layers.filter(|laid| !laid.technique.takes_away());
        let wanted = dabs.map(|laid| (laid.pot.as_slice(), spot_ml(laid, said.spot)));
        let (at, mut sheet) = (self.asked.now, self.sheet.clone());
        let (from_jars, pours) = self.dabbed_from_jars(wanted, at);
        let (zone, spot) = (said.zone, said.spot);
        sheet.touched_up.push(TouchedUp { at, zone, spot, note, by, from_jars });
        sheet.check().map_err(|error| Refusal::field(error.pointer, error.message))?;
        Ok(SheetChange { sheet, pours })
    }

    fn dabs(&self, lying: &Lying, spot: Spot) -> Result<Vec<Dab>, Refusal> {
        let bare = |how| Dab {
            how,
            pot: None,
            parts: Vec::new(),
            hex: None,
            amount: None,
            drops: Vec::new(),
            jar: None,
            within: None,
            shows: None,
            dries: None,
        };
        match lying.work.layers() {
            [] => Ok(vec![bare(self.name(&lying.work))]),
            layers => layers.iter().map(|laid| self.dab(laid, spot, bare(self.layer_name(laid)))).collect(),
        }
    }

    fn dab(&self, laid: &Laid, spot: Spot, bare: Dab) -> Result<Dab, Refusal> {
        if laid.technique.takes_away() {
            return Ok(bare);
        }
        let ml = spot_ml(laid, spot);
        let jar = self.pot_left(&laid.pot, ml);
        let of: Vec<(PaintId, Parts)> = laid.pot.iter().map(|part| (part.paint, part.parts.into())).collect();
        let mixed = if of.is_empty() { None } else { self.room.shelf.stirred(&of)? };
        let look = self.room.look;
        // A tin alone is the tin that it was.
        let anew = jar.is_none() && laid.pot.len() > 1;
        let within = if anew { Some(self.off_again(&laid.pot, ml)?) } else { None };
        Ok(Dab {
            pot: self.pot(laid),
            parts: laid.pot.clone(),
            hex: mixed.as_ref().map(|mixed| look.hex(mixed.best())),
            amount: Some(match ml {
                ml if ml < Measure::Drop.millilitres() => "less than a drop".to_owned(),
                ml => self.asked.units.say_drop(ml),
            }),
            drops: self.drops(&laid.pot, ml),
            within,
            shows: within.map(shows),
            jar,
            ..bare
        })
    }

    /// 90 % band of a pot mixed anew in drops from the same tins, ΔE00, in that light of the client's in which it is widest.
    fn off_again(&self, pot: &[MixPart], ml: f64) -> Result<f64, Refusal> {
        let of = |part: &MixPart| Ok((part.parts.into(), self.room.shelf.paint(part.paint.0)?.best()));
        let of = pot.iter().map(of).collect::<Result<Vec<(Parts, &Material)>, Refusal>>()?;
        let times = times(pot, ml);
        let drops: Vec<f64> = pot.iter().map(|part| times * f64::from(part.parts.value())).collect();
        let lights = self.piece.brief.lights.iter().copied().chain([self.room.look.light]);
        let looks = lights.map(|light| Look { light, ..self.room.look });
        Ok(looks.map(|look| mixed_again(&of, &drops, look)).fold(0.0, f64::max))
    }

    /// The least amount of a pot in whole drops at its ratio that covers the spot; in ml where nobody would count the drops.
    fn drops(&self, pot: &[MixPart], ml: f64) -> Vec<String> {
        let drop = Measure::Drop.millilitres();
        let all: f64 = pot.iter().map(|part| f64::from(part.parts.value())).sum();
        let times = times(pot, ml);
        let one = |(part, (paint, share)): (&MixPart, (PaintId, f64))| {
            let name = self.room.shelf.name(paint.0);
            match times * f64::from(part.parts.value()) {
                n if n > COUNTED => format!("{} {name}", self.amount(times * drop * all * share)),
                n => format!("{n} {} {name}", Measure::Drop.names()[usize::from(n > 1.0)]),
            }
        };
        pot.iter().zip(shares(pot)).map(one).collect()
    }
}

/// What a layer takes on a spot, ml.
fn spot_ml(laid: &Laid, spot: Spot) -> f64 {
    spot.square_metres() * laid.technique.ml_by_square_metre(laid.hand, &FLAT)
}

/// How often a recipe is taken in whole drops to cover a spot of so much, ml.
fn times(pot: &[MixPart], ml: f64) -> f64 {
    let all: f64 = pot.iter().map(|part| f64::from(part.parts.value())).sum();
    (ml / (Measure::Drop.millilitres() * all)).ceil().max(1.0)
}

/// How much a difference shows beside the old coat†.
fn shows(difference: f64) -> &'static str {
    match difference {
        d if d < 1.0 => "nobody will see it",
        d if d < 2.5 => "seen only by who looks for it",
        _ => "it may show: feather it out to an edge or a moulding",
    }
}
