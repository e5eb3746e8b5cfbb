//! Colours picked from a photo, and its main colours with mixes for them.

use std::cell::LazyCell;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_board::{Application, Family, Layer, Passes, Technique};
use warm_blend_interchange::hex;
use warm_blend_learn::Measured;
use warm_blend_paint::{Class, CoatsToHide, Look, Masstone, Material, MixPart, Seen, percentages};
use warm_blend_photo::{Card, NotPicked, Photo, PhotoColour, PhotoSpot};
use warm_blend_piece::Age;
use warm_blend_spectral::{Lab, Light, difference};

use crate::mixable::pot_of;
use crate::{AgainstTarget, MadeInto, Refusal, ShelfSnapshot};

/// Positions of the card and of the spots to pick. Lengths are in widths of the photo, from the left and from the top.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PickRequest {
    /// `white` or `grey`.
    pub card: String,
    /// A spot completely on the card.
    pub card_at: SpotEntry,
    /// One to sixteen spots to pick.
    pub spots: Vec<SpotEntry>,
}

/// A round spot.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct SpotEntry {
    /// Distance from the left, in widths of the photo.
    pub x: f64,
    /// Distance from the top, in widths of the photo.
    pub y: f64,
    /// Radius, in widths of the photo.
    pub radius: f64,
}

/// Picked colours.
#[derive(Debug, Serialize, ToSchema)]
pub struct PickedColours {
    /// Colours, in the order of the spots.
    pub colours: Vec<PickedColour>,
    /// Reasons for doubt.
    pub warnings: Vec<&'static str>,
}

/// A picked colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct PickedColour {
    /// L*, a*, b* in daylight (D65, 2°).
    pub lab: [f64; 3],
    /// Its colour on the screen.
    pub hex: String,
}

impl From<PhotoSpot> for SpotEntry {
    fn from(PhotoSpot { x, y, radius }: PhotoSpot) -> Self {
        Self { x, y, radius }
    }
}

impl From<SpotEntry> for PhotoSpot {
    fn from(SpotEntry { x, y, radius }: SpotEntry) -> Self {
        Self { x, y, radius }
    }
}

impl PickRequest {
    /// Picks the colours, relative to the card.
    pub fn pick(self, photo: &Photo) -> Result<PickedColours, Refusal> {
        let card = card_of(&self.card)?;
        if self.spots.is_empty() || self.spots.len() > 16 {
            return Err(Refusal::field("/spots", "pick 1 to 16 spots"));
        }
        let spots: Vec<PhotoSpot> = self.spots.into_iter().map(PhotoSpot::from).collect();
        let picked =
            photo.pick(card, self.card_at.into(), &spots).map_err(|NotPicked { spot, why }| match spot {
                None => Refusal::field("/card_at", why),
                Some(n) => Refusal::field(format!("/spots/{n}"), why),
            })?;
        let colour = |lab: Lab| PickedColour { lab: [lab.l, lab.a, lab.b], hex: hex(&Measured::Colour(lab)) };
        Ok(PickedColours {
            colours: picked.colours.into_iter().map(colour).collect(),
            warnings: picked.warnings,
        })
    }
}

/// Position of the card in a photo.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PaletteRequest {
    /// `white` or `grey`.
    pub card: String,
    /// A spot completely on the card.
    pub card_at: SpotEntry,
}

/// Main colours of a photo, with mixes for them.
#[derive(Debug, Serialize, ToSchema)]
pub struct PhotoPalette {
    /// Colours, largest first.
    pub colours: Vec<PaletteColour>,
    /// Reasons for doubt.
    pub warnings: Vec<&'static str>,
}

/// A main colour of a photo.
#[derive(Debug, Serialize, ToSchema)]
pub struct PaletteColour {
    /// L*, a*, b* in daylight (D65, 2°).
    pub lab: [f64; 3],
    /// Its colour on the screen in daylight.
    pub hex: String,
    /// Its colour in the requested light, as if the subject were moved there.
    pub in_light: String,
    /// Percentage of the photo without the card.
    pub percent: u32,
    /// A point of this colour, in widths of the photo from the left and from the top.
    pub at: [f64; 2],
    /// Index of the colour of which this may be the shadow; it gets no mix.
    pub shade_of: Option<usize>,
    /// Index of the colour that may lie below it under signs of age.
    pub weathered_of: Option<usize>,
    /// The closest mix; absent for a shadow.
    pub recipe: Option<PaletteRecipe>,
    /// The layer that it would be on a board; absent for a shadow.
    pub layer: Option<Layer>,
    /// The layer in words: `the base, in two coats`.
    pub how: String,
}

/// A mix for a colour of a photo.
#[derive(Debug, Serialize, ToSchema)]
pub struct PaletteRecipe {
    /// Recipe in words.
    pub words: String,
    /// Parts.
    pub parts: Vec<MixPart>,
    /// Its colour on the screen.
    pub hex: String,
    /// Comparison with the colour of the photo.
    pub judgement: AgainstTarget,
}

/// A colour that age may have changed.
struct Weathered {
    of: usize,
    by: Age,
}

/// Difference, ΔE00, within which a colour may be another one under signs of age†.
const LIKE_AGED: f64 = 3.5;
/// Signs of age lie in patches whose boundary is this many times that of a square†.
const SCATTERED: f64 = 2.0;
/// Greatest amount of ageing, in usual films†.
const MOST_AGED: f64 = 2.0;

/// Greatest number of colours in a palette.
const COLOURS: usize = 8;
/// Difference in L* from the base beyond which a colour lies on tips or in recesses†.
const OFF_THE_BASE: f64 = 6.0;

/// A colour measured in daylight as it looks in the current light. A colour that no surface can have is shown unchanged.
fn in_the_light(lab: Lab, look: Look) -> String {
    let read = Measured::Colour(lab);
    match Masstone::Lab(lab).reflectance() {
        Ok(curve) => Seen::of(&curve, look.light).screen.srgb.to_string(),
        Err(_) => hex(&read),
    }
}

pub(crate) fn card_of(text: &str) -> Result<Card, Refusal> {
    match text {
        "white" => Ok(Card::White),
        "grey" => Ok(Card::Grey),
        _ => Err(Refusal::field("/card", "choose which card is in the photo: white or grey")),
    }
}

/// For each colour, the one it may be under signs of age: a larger colour next to it, if its own areas are patches.
/// Shadows are excluded.
fn weathered(colours: &[PhotoColour]) -> Vec<Option<Weathered>> {
    let under: Vec<LazyCell<Vec<(Age, Lab)>, _>> =
        colours.iter().map(|coat| LazyCell::new(|| aged(coat.lab))).collect();
    let mut found: Vec<Option<Weathered>> = Vec::new();
    for colour in colours {
        let free = colour.shade_of.is_none() && colour.scattered >= SCATTERED;
        let below = colour.beside.iter().copied().filter(|of| {
            let is_paint = colours[*of].shade_of.is_none() && found.get(*of).is_some_and(Option::is_none);
            free && is_paint && colours[*of].share > colour.share
        });
        let far = |of: usize| {
            let seen = under[of].iter();
            seen.map(move |(by, lab)| (difference(*lab, colour.lab).value(), Weathered { of, by: *by }))
        };
        let near = below.flat_map(far).filter(|(far, _)| *far <= LIKE_AGED);
        let nearest = near.min_by(|one, other| one.0.total_cmp(&other.0));
        found.push(nearest.map(|(_, weathered)| weathered));
    }
    found
}

/// What increasing ageing makes of a coat of this colour; empty if no paint has it.
fn aged(coat: Lab) -> Vec<(Age, Lab)> {
    let hides = CoatsToHide::new(1.5).ok();
    let Ok(coat) = Material::of(Class::Chalk, Some(Masstone::Lab(coat)), hides) else { return Vec::new() };
    let under = |by: Age| {
        let seen = by.over(&coat, MOST_AGED).unwrap_or_default().into_iter().skip(1);
        seen.map(move |seen| (by, Seen::of(&seen, Light::Daylight).lab))
    };
    Age::ALL.into_iter().flat_map(under).collect()
}

impl ShelfSnapshot {
    /// Main colours of a photo, each with the closest mix and the layer that it would be: the largest is the base, darker
    /// colours lie in recesses like grime, lighter ones are dry-brushed on top (common practice).
    pub fn palette(
        &self,
        asked: &PaletteRequest,
        photo: &Photo,
        look: Look,
    ) -> Result<PhotoPalette, Refusal> {
        let card = card_of(&asked.card)?;
        let found = photo
            .palette(card, asked.card_at.into(), COLOURS)
            .map_err(|error| Refusal::field("/card_at", error))?;
        let shares: Vec<f64> = found.colours.iter().map(|colour| colour.share).collect();
        let percent = percentages(&shares);
        let base = found.colours.iter().position(|colour| colour.shade_of.is_none());
        let aged = weathered(&found.colours);
        let mut colours = Vec::new();
        for (n, colour) in found.colours.iter().enumerate() {
            let Lab { l, a, b } = colour.lab;
            let recipe = if colour.shade_of.is_some() { None } else { self.recipe_for(colour.lab, look)? };
            let lighter = base.map_or(0.0, |base| l - found.colours[base].lab.l);
            let technique = match lighter {
                _ if base == Some(n) => Technique::BrushedCoat,
                lighter if lighter < -OFF_THE_BASE => Technique::GlazeWiped,
                lighter if lighter > OFF_THE_BASE => Technique::DryBrush,
                _ => Technique::GlazeRagged,
            };
            let layer = recipe.as_ref().and_then(|recipe| self.layer_of(technique, &recipe.parts));
            let how = match (colour.shade_of, &layer) {
                (Some(of), _) => format!("probably colour {} in shadow", of + 1),
                (None, Some(_)) if base == Some(n) => "the base, in two coats".to_owned(),
                (None, Some(layer)) => {
                    let name = layer.technique.name();
                    format!("as a layer: {}", name.to_lowercase())
                }
                (None, None) => "nothing on the shelf mixes it".to_owned(),
            };
            let how = match &aged[n] {
                Some(Weathered { of, by }) => {
                    format!("probably colour {} under {}; {how}", of + 1, by.name().to_lowercase())
                }
                None => how,
            };
            colours.push(PaletteColour {
                lab: [l, a, b],
                hex: hex(&Measured::Colour(colour.lab)),
                in_light: in_the_light(colour.lab, look),
                percent: percent[n],
                at: [colour.at.0, colour.at.1],
                shade_of: colour.shade_of,
                weathered_of: aged[n].as_ref().map(|aged| aged.of),
                recipe,
                layer,
                how,
            });
        }
        Ok(PhotoPalette { colours, warnings: found.warnings })
    }

    fn recipe_for(&self, lab: Lab, look: Look) -> Result<Option<PaletteRecipe>, Refusal> {
        let target = Masstone::Lab(lab);
        // A camera may record a colour that no paint has.
        if target.reflectance().is_err() {
            return Ok(None);
        }
        let best = self.nearest(target, Vec::new(), look)?;
        Ok(best.map(|best| {
            let parts = pot_of(&best.parts);
            PaletteRecipe {
                words: self.mix_words(&parts),
                hex: best.swatch.wedge.face.hex,
                judgement: best.judgement,
                parts,
            }
        }))
    }

    /// A layer of a mix. A glaze is thinned as for walls; if that is impossible, it is a dry brush.
    fn layer_of(&self, technique: Technique, parts: &[MixPart]) -> Option<Layer> {
        let (technique, parts) = match technique.family() {
            Family::Glaze => {
                let wanted = MadeInto { components: parts.to_vec(), preset: Some(GLAZE.to_owned()) };
                self.made_into(&wanted)
                    .map_or_else(|_| (Technique::DryBrush, parts.to_vec()), |glaze| (technique, glaze))
            }
            _ => (technique, parts.to_vec()),
        };
        let coats = if technique == Technique::BrushedCoat { 2 } else { 1 };
        let hand = Application { passes: Passes::new(coats).ok()?, ..Application::default() };
        Some(Layer { hand, ..Layer::new(technique, parts) })
    }
}

/// The usual mixture for a glaze.
const GLAZE: &str = "wall-glaze";
