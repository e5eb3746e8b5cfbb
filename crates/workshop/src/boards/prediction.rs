//! Prediction of a strip by layer and place, with advice.

use std::borrow::Cow;

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Advice, AdviceFix, AreaState, Board, Caution, Deposit, Layer, LayerId, Letter, Place, PlaceSeen,
    Severity, Stack, Technique, advice, bands, cautions, lab,
};
use warm_blend_learn::Certainty;
use warm_blend_paint::{Look, MixPart, PaintId, Seen as SeenInLight, Verdict, percentages};
use warm_blend_spectral::{Lab, Light, Reflectance, difference};

use crate::appearance::{Hex, in_each_light};
use crate::{Refusal, SeenColour, ShelfSnapshot};

/// Prediction of a strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripPrediction {
    /// The strip.
    pub letter: String,
    /// Its layers from the ground up, shared ones first.
    pub layers: Vec<LayerPredicted>,
    /// Number of layers shared with other strips.
    pub shared: usize,
    /// Field, recess and edge with the current layers.
    pub places: Vec<PlacePredicted>,
    /// Field and recess from across the room in each light, in the order of `/api/lights`.
    #[schema(value_type = Vec<Vec<String>>)]
    pub lights: Vec<[Hex; 2]>,
    /// Problems with the order of layers, worst first.
    pub advice: Vec<AdviceGiven>,
    /// Cautions.
    pub cautions: Vec<CautionGiven>,
}

/// A layer of a predicted strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct LayerPredicted {
    /// The layer.
    pub id: Uuid,
    /// `Glaze, wiped` …
    pub technique: Cow<'static, str>,
    /// How it is carried out, where that is not the usual way: `hardly any paint on the brush`.
    pub how: Option<&'static str>,
    /// Contents of its pot: `peat brown 1 : glazing liquid 4`.
    pub pot: String,
    /// Flat colour of its pot; absent if it takes paint away.
    pub hex: Option<String>,
    /// True if it belongs to a strip that this one shares layers with.
    pub shared: bool,
    /// True if it is hidden.
    pub muted: bool,
    /// Wet film in µm and share of the area, by place.
    pub print: Deposit,
    /// Texture of the strip with this layer, µm from tip to hollow; 0 if smooth.
    pub texture_um: f64,
    /// The strip from across the room with this layer: field, recess, edge.
    pub after: Vec<String>,
    /// Change at the place that changes most, in words: `a little darker in the recess`.
    pub moves: String,
}

/// Prediction of a kind of place.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlacePredicted {
    /// `field`, `recess` or `edge`.
    pub place: &'static str,
    /// Colour from across the room.
    pub seen: SeenColour,
    /// 90 % band, ΔE00.
    pub within: f64,
    /// Certainty in words.
    pub certainty: &'static str,
    /// Colours close up, largest share first.
    pub colours: Vec<ShareOfColour>,
}

/// A colour and its share of an area.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShareOfColour {
    /// Colour on the screen.
    pub hex: String,
    /// Share, 0–1.
    pub share: f64,
    /// Percentage; the percentages shown add up.
    pub percent: u32,
    /// The paint it looks most like, or the ground: `slate blue`, `dark red stain`; absent for a surface without named
    /// layers.
    pub of: Option<String>,
}

impl ShareOfColour {
    /// Colours of a surface with at least this share.
    pub fn list(colours: &[(Reflectance, f64)], least: f64, light: Light) -> Vec<Self> {
        let shown: Vec<&(Reflectance, f64)> = colours.iter().filter(|(_, share)| *share >= least).collect();
        let shares: Vec<f64> = shown.iter().map(|(_, share)| *share).collect();
        let hex = |curve: &Reflectance| SeenInLight::of(curve, light).screen.srgb.to_string();
        shown
            .into_iter()
            .zip(percentages(&shares))
            .map(|((curve, share), percent)| Self { hex: hex(curve), share: *share, percent, of: None })
            .collect()
    }
}

/// Advice on an order of layers.
#[derive(Debug, Serialize, ToSchema)]
pub struct AdviceGiven {
    /// The layer; absent if it concerns the whole strip.
    pub layer: Option<Uuid>,
    /// `note`, `care` or `fails`.
    pub severity: &'static str,
    /// What happens.
    pub what: String,
    /// Reason.
    pub why: &'static str,
    /// Remedy.
    pub remedy: String,
    /// Source.
    pub source: &'static str,
    /// Remedy in one touch, if there is one.
    pub fix: Option<FixOffered>,
}

/// A change that solves a problem.
#[derive(Debug, Serialize, ToSchema)]
pub struct FixOffered {
    /// `below`: adds a layer of `technique` below `layer`; `instead`: applies `layer` with `technique`; `again`: repeats
    /// `layer`; `under`: adds a brushed coat of `pot` below `layer`; `down-to`: wears `layer` down to `down_to`.
    pub action: &'static str,
    /// The layer.
    pub layer: Option<Uuid>,
    /// The technique.
    pub technique: Option<&'static str>,
    /// Contents of its pot.
    pub pot: Vec<MixPart>,
    /// The layer that stays on top where it is worn.
    pub down_to: Option<Uuid>,
    /// Label of the button.
    pub words: String,
}

/// A caution for people.
#[derive(Debug, Serialize, ToSchema)]
pub struct CautionGiven {
    /// The layer at which it stands.
    pub layer: Uuid,
    /// What to do and what to avoid.
    pub words: &'static str,
    /// Short form: `solvent: windows open, no flames, gloves`.
    pub short: &'static str,
    /// True if it is never shortened.
    pub grave: bool,
    /// Published source, or `common practice`.
    pub source: &'static str,
}

impl PlacePredicted {
    /// Prediction of a place with its band, ΔE00; `named` names the paint that a state looks like.
    pub fn of(
        place: Place,
        seen: &PlaceSeen,
        within: f64,
        light: Light,
        named: impl Fn(&AreaState) -> Option<String>,
    ) -> Self {
        let distinguished = seen.colours(light);
        let mut colours = ShareOfColour::list(&distinguished, 0.005, light);
        for (colour, (curve, _)) in colours.iter_mut().zip(&distinguished) {
            colour.of = seen.states.iter().find(|state| state.seen == *curve).and_then(&named);
        }
        Self {
            place: place.id(),
            seen: SeenInLight::of(&seen.from_afar(), light).into(),
            within,
            certainty: Certainty::of(within).words(),
            colours,
        }
    }
}

/// A board with its known paints.
#[derive(Debug, Clone, Copy)]
pub struct SeenBoard<'a> {
    /// The board.
    pub board: &'a Board,
    /// The shelf.
    pub shelf: &'a ShelfSnapshot,
    /// Light and state.
    pub look: Look,
}

impl<'a> SeenBoard<'a> {
    /// Checks that all paints of a board are known.
    pub fn new(board: &'a Board, shelf: &'a ShelfSnapshot, look: Look) -> Result<Self, Refusal> {
        match board.paints().into_iter().all(|paint| shelf.known(paint).is_some()) {
            true => Ok(Self { board, shelf, look }),
            false => Err(Refusal::field("/strips", "a pot contains a paint that is not on the shelf")),
        }
    }

    /// A strip as composed layers, applied by this painter's hand.
    pub fn stack(&self, letter: Letter) -> Result<Stack, Refusal> {
        let habit = |technique| self.shelf.hands().habit(technique);
        let stack = self.board.stack(letter, |paint| self.shelf.material(paint), habit);
        stack.map_err(|error| Refusal::field("/ground/colour", error))
    }

    pub(crate) fn look_at(&self, stack: &Stack, place: Place, layers: usize) -> SeenInLight {
        SeenInLight::of(&stack.seen(place, layers, self.look.state).from_afar(), self.look.light)
    }

    fn predict(&self, letter: Letter, layers: Option<usize>) -> Result<StripPrediction, Refusal> {
        let stack = self.stack(letter)?;
        let on = layers.unwrap_or(usize::MAX).min(stack.len());
        let Look { light, state } = self.look;
        let known = |paint| self.shelf.known(paint);
        let doubts = bands(self.board, letter, known, self.shelf.hands(), on, (light, state))
            .map_err(|error| Refusal::field("/ground/colour", error))?;
        let painted = self.painted(letter, &stack);
        let seen = Place::ALL.map(|place| stack.seen(place, on, state));
        let at = |place: Place| &seen[place as usize];
        let place = |place| {
            let ground = lab(&stack.seen(place, 0, state).from_afar(), light);
            let named = |state: &AreaState| Some(self.looks_like(&painted, ground, state));
            PlacePredicted::of(place, at(place), *doubts.at(place), light, named)
        };
        let afar = |place| in_each_light(&at(place).from_afar());
        let (field, recess) = (afar(Place::Field), afar(Place::Recess));
        let tin = |paint| self.shelf.material(paint);
        let advice = advice(self.board, letter, tin, &stack, &self.shelf.on_shelf());
        Ok(StripPrediction {
            letter: letter.to_string(),
            layers: self.layers(letter, &stack),
            shared: self.shared(letter),
            places: Place::ALL.map(place).into(),
            lights: field.into_iter().zip(recess).map(|(field, recess)| [field, recess]).collect(),
            advice: advice.into_iter().map(|advice| AdviceGiven::of(advice, self.shelf)).collect(),
            cautions: cautions(self.board, letter, tin).into_iter().map(CautionGiven::from).collect(),
        })
    }

    /// Layers of paint: index, name of the main paint, and flat colour.
    fn painted(&self, letter: Letter, stack: &Stack) -> Vec<(usize, String, Lab)> {
        let is_paint =
            |paint: PaintId| self.shelf.product(paint).is_some_and(|product| !product.class.is_medium());
        let named = |(n, layer): (usize, &Layer)| {
            let paints = layer.pot.iter().filter(|part| is_paint(part.paint));
            let main = paints.max_by_key(|part| part.parts.value())?.paint;
            Some((n, self.shelf.name(main.0).to_owned(), self.look.lab(stack.material(n)?)))
        };
        self.board.layers(letter).into_iter().enumerate().filter_map(named).collect()
    }

    /// The paint or ground that a state looks most like.
    fn looks_like(&self, painted: &[(usize, String, Lab)], ground: Lab, state: &AreaState) -> String {
        let seen = lab(&state.seen, self.look.light);
        let off = |own: Lab| difference(own, seen).value();
        let here = painted.iter().filter(|(n, ..)| state.present >> n & 1 == 1);
        let nearest = here.min_by(|one, other| off(one.2).total_cmp(&off(other.2)));
        match nearest.filter(|(.., own)| off(*own) <= off(ground)) {
            Some((_, name, _)) => name.clone(),
            None => self.board.ground.kind.name().to_lowercase(),
        }
    }

    fn shared(&self, letter: Letter) -> usize {
        let own = self.board.strip(letter).map_or(0, |strip| strip.layers.len());
        self.board.layers(letter).len() - own
    }

    fn layers(&self, letter: Letter, stack: &Stack) -> Vec<LayerPredicted> {
        let shared = self.shared(letter);
        let seen = |layers: usize| Place::ALL.map(|place| self.look_at(stack, place, layers));
        let mut before = seen(0);
        let mut answer = Vec::new();
        for (n, layer) in self.board.layers(letter).into_iter().enumerate() {
            let after = seen(n + 1);
            let moved =
                Place::ALL.map(|place| Verdict::of(after[place as usize].lab, before[place as usize].lab));
            let most =
                (0..3).max_by(|a, b| moved[*a].difference.value().total_cmp(&moved[*b].difference.value()));
            let moves = most.filter(|_| !layer.muted).map_or_else(String::new, |most| {
                let verdict = &moved[most];
                if !verdict.can_be_seen() {
                    return "won’t show".to_owned();
                }
                let place = ["on the flat", "in the recess", "on the edge"][most];
                format!("{} {place}", verdict.lean())
            });
            answer.push(LayerPredicted {
                id: layer.id.0,
                technique: layer.technique.named(layer.hand),
                how: layer.technique.how(layer.hand),
                pot: self.shelf.pot_words(&layer.pot),
                hex: stack.material(n).map(|material| self.look.hex(material)),
                shared: n < shared,
                muted: layer.muted,
                print: layer.left(self.shelf.hands().habit(layer.technique)),
                texture_um: stack.texture(n + 1).value(),
                after: after.iter().map(|seen| seen.screen.srgb.to_string()).collect(),
                moves,
            });
            before = after;
        }
        answer
    }
}

impl FixOffered {
    fn of(fix: AdviceFix, shelf: &ShelfSnapshot) -> Self {
        let offered = |action, LayerId(layer), technique: Option<Technique>, words: String| Self {
            action,
            layer: Some(layer),
            technique: technique.map(Technique::id),
            pot: Vec::new(),
            down_to: None,
            words,
        };
        let named = |technique: Technique| technique.name().to_lowercase();
        match fix {
            AdviceFix::Below(layer, technique) => {
                offered("below", layer, Some(technique), format!("Add {} below", named(technique)))
            }
            AdviceFix::Instead(layer, technique) => {
                offered("instead", layer, Some(technique), format!("Use {} instead", named(technique)))
            }
            AdviceFix::Again(layer) => {
                offered("again", layer, None, "Add a coat; keep every coat thin".to_owned())
            }
            AdviceFix::DownTo(layer, LayerId(to)) => Self {
                down_to: Some(to),
                ..offered("down-to", layer, None, "Wear it down to the colour below".to_owned())
            },
            AdviceFix::Under(layer, pot) => Self {
                pot: pot.clone(),
                ..offered("under", layer, None, format!("Add {} below", shelf.pot_words(&pot)))
            },
        }
    }
}

impl AdviceGiven {
    fn of(advice: Advice, shelf: &ShelfSnapshot) -> Self {
        Self {
            layer: advice.layer.map(|LayerId(id)| id),
            severity: match advice.severity {
                Severity::Note => "note",
                Severity::Care => "care",
                Severity::Fails => "fails",
            },
            what: advice.what,
            why: advice.why,
            remedy: advice.remedy,
            source: advice.source,
            fix: advice.fix.map(|fix| FixOffered::of(fix, shelf)),
        }
    }
}

impl From<Caution> for CautionGiven {
    fn from(Caution { layer, care }: Caution) -> Self {
        Self { layer: layer.0, words: care.words, short: care.short, grave: care.grave, source: care.source }
    }
}

/// The requested strip, by default the first.
pub fn strip_of(board: &Board, asked: Option<Letter>) -> Result<Letter, Refusal> {
    let letters = || board.strips().iter().map(|strip| strip.letter);
    let Some(asked) = asked else { return letters().next().ok_or(Refusal::Broken) };
    letters().find(|letter| *letter == asked).ok_or_else(|| {
        let letters: Vec<String> = letters().map(|letter| letter.to_string()).collect();
        Refusal::field("?strip", format!("no such strip; this board has {}", letters.join(", ")))
    })
}

impl ShelfSnapshot {
    /// Predicts a strip with its lowest `layers`.
    pub fn predict_strip(
        &self,
        board: &Board,
        strip: Option<Letter>,
        layers: Option<usize>,
        look: Look,
    ) -> Result<StripPrediction, Refusal> {
        let letter = strip_of(board, strip)?;
        SeenBoard::new(board, self, look)?.predict(letter, layers)
    }
}
