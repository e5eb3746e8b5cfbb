//! What a strip is predicted to look like, layer by layer and place by place, with what is wrong with it.

use axum::{Json, extract::State};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Advice, Board, Caution, Fix, LayerId, Letter, OnShelf, Place, Severity, Stack, Technique, Tin, advice,
    bands, cautions,
};
use warm_blend_learn::{Certainty, Ensemble};
use warm_blend_paint::{Class, PaintId, Seen as SeenInLight, Verdict, percentages};
use warm_blend_spectral::{Light, Reflectance};

use super::{
    StripAsked,
    entry::{BoardEntry, PrintEntry},
    on_shelf,
};
use crate::{
    Workspace,
    body::{Asked, Body},
    colour::{Look, LookedAt, SeenColour},
    known::Known,
    off_thread::off_thread,
    problem::Problem,
    routes::{mixes::MixPart, names::Names},
};

/// What a strip is predicted to look like.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripPrediction {
    /// The strip.
    letter: String,
    /// Its layers from the ground up, those it shares first.
    layers: Vec<LayerPredicted>,
    /// How many of them belong to strips below it.
    shared: usize,
    /// Field, recess and edge with the layers that are on.
    places: Vec<PlacePredicted>,
    /// What is wrong with the order of layers, the worst first.
    advice: Vec<AdviceGiven>,
    /// What people must take care of.
    cautions: Vec<CautionGiven>,
}

/// A layer of a predicted strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct LayerPredicted {
    /// The layer.
    id: Uuid,
    /// `Glaze, wiped` …
    technique: &'static str,
    /// What is in its pot: `peat brown 1 : glazing liquid 4`.
    pot: String,
    /// The flat colour of its pot; none of what takes away.
    hex: Option<String>,
    /// True where it belongs to a strip below.
    shared: bool,
    /// True where it is left out for now.
    muted: bool,
    /// Film, µm wet, and share of the area, by place.
    print: PrintEntry,
    /// The strip from across the room once it is on: field, recess, edge.
    after: Vec<String>,
    /// How far it moves the place that it moves most, in words: `a little darker in the recess`.
    moves: String,
}

/// What is seen at a kind of place.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlacePredicted {
    /// `field`, `recess` or `edge`.
    place: &'static str,
    /// From across the room.
    seen: SeenColour,
    /// 90 % band, ΔE00.
    within: f64,
    /// That in words.
    certainty: &'static str,
    /// The colours that are told apart from near, the largest share first.
    colours: Vec<ShareOfColour>,
}

/// A colour and its share of an area.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShareOfColour {
    /// What the screen shows.
    hex: String,
    /// 0–1.
    share: f64,
    /// The same in percent, which add up over those that are told.
    percent: u32,
}

impl ShareOfColour {
    /// Colours of a surface, those told that take at least such a share of it.
    pub fn told(colours: &[(Reflectance, f64)], least: f64, light: Light) -> Vec<Self> {
        let told: Vec<&(Reflectance, f64)> = colours.iter().filter(|(_, share)| *share >= least).collect();
        let shares: Vec<f64> = told.iter().map(|(_, share)| *share).collect();
        let hex = |curve: &Reflectance| SeenInLight::of(curve, light).screen.srgb.to_string();
        told.into_iter()
            .zip(percentages(&shares))
            .map(|((curve, share), percent)| Self { hex: hex(curve), share: *share, percent })
            .collect()
    }
}

/// What is wrong with an order of layers.
#[derive(Debug, Serialize, ToSchema)]
pub struct AdviceGiven {
    /// The layer; none where it is about the whole.
    layer: Option<Uuid>,
    /// `note`, `care` or `fails`.
    severity: &'static str,
    /// What happens.
    what: String,
    /// Why.
    why: &'static str,
    /// What to do.
    remedy: String,
    /// Where that is from.
    source: &'static str,
    /// That in one touch, where there is one.
    fix: Option<FixOffered>,
}

/// A change that cures.
#[derive(Debug, Serialize, ToSchema)]
pub struct FixOffered {
    /// `below`: put a layer of `technique` below `layer`; `instead`: put `layer` on by `technique`;
    /// `again`: put `layer` on once more; `under`: put a brushed coat of `pot` below `layer`.
    deed: &'static str,
    /// Which layer.
    layer: Option<Uuid>,
    /// Which technique.
    technique: Option<&'static str>,
    /// What is in its pot.
    pot: Vec<MixPart>,
    /// What a button says.
    words: String,
}

/// Something that harms people.
#[derive(Debug, Serialize, ToSchema)]
pub struct CautionGiven {
    /// The layer that it stands at.
    layer: Uuid,
    /// What to do and what not.
    words: &'static str,
    /// True where it is never shortened.
    grave: bool,
    /// Where it is published, or `common practice`.
    source: &'static str,
}

impl PlacePredicted {
    /// What is seen with the lowest `layers` on, and within how much.
    pub fn of(place: Place, stack: &Stack, layers: usize, within: f64, look: Look) -> Self {
        let seen = stack.seen(place, layers, look.state);
        Self {
            place: place.id(),
            seen: SeenInLight::of(&seen.from_afar(), look.light).into(),
            within,
            certainty: Certainty::of(within).words(),
            colours: ShareOfColour::told(&seen.colours(look.light), 0.005, look.light),
        }
    }
}

/// A board with what is known of its paints.
pub(super) struct OnTheEasel<'a> {
    pub board: &'a Board,
    pub known: &'a Known,
    pub look: Look,
}

impl<'a> OnTheEasel<'a> {
    pub(super) fn new(board: &'a Board, known: &'a Known, look: Look) -> Result<Self, Problem> {
        for paint in board.paints() {
            known.estimate().paint(paint).ok_or_else(|| {
                Problem::field("/strips", "a pot holds a paint that was never on the shelf")
            })?;
        }
        Ok(Self { board, known, look })
    }

    pub(super) fn tin(&self, paint: PaintId) -> Option<Tin<'a>> {
        let (class, known) = self.ensemble(paint)?;
        Some(Tin { class, material: known.best() })
    }

    fn ensemble(&self, paint: PaintId) -> Option<(Class, &'a Ensemble)> {
        Some((self.known.estimate().class(paint)?, self.known.estimate().paint(paint)?))
    }

    pub(super) fn stack(&self, letter: Letter) -> Result<Stack, Problem> {
        self.board
            .stack(letter, |paint| self.tin(paint), |technique| self.known.hands().habit(technique))
            .map_err(|error| Problem::field("/ground/colour", error))
    }

    pub(super) fn seen_from_afar(&self, stack: &Stack, place: Place, layers: usize) -> SeenInLight {
        SeenInLight::of(&stack.seen(place, layers, self.look.state).from_afar(), self.look.light)
    }

    fn predict(
        &self,
        letter: Letter,
        layers: Option<usize>,
        (names, shelf): (&Names, &[OnShelf]),
    ) -> Result<StripPrediction, Problem> {
        let stack = self.stack(letter)?;
        let on = layers.unwrap_or(usize::MAX).min(stack.len());
        let doubts = bands(
            self.board,
            letter,
            |paint| self.ensemble(paint),
            self.known.hands(),
            on,
            (self.look.light, self.look.state),
        )
        .map_err(|error| Problem::field("/ground/colour", error))?;
        let place = |place| PlacePredicted::of(place, &stack, on, *doubts.at(place), self.look);
        let tin = |paint| self.tin(paint);
        Ok(StripPrediction {
            letter: letter.to_string(),
            layers: self.layers(letter, &stack, names),
            shared: self.shared(letter),
            places: Place::ALL.map(place).into(),
            advice: advice(self.board, letter, tin, &stack, shelf)
                .into_iter()
                .map(|advice| AdviceGiven::of(advice, names))
                .collect(),
            cautions: cautions(self.board, letter, tin).into_iter().map(CautionGiven::from).collect(),
        })
    }

    fn shared(&self, letter: Letter) -> usize {
        let own = self.board.strip(letter).map_or(0, |strip| strip.layers.len());
        self.board.layers(letter).len() - own
    }

    fn layers(&self, letter: Letter, stack: &Stack, names: &Names) -> Vec<LayerPredicted> {
        let shared = self.shared(letter);
        let seen = |layers: usize| Place::ALL.map(|place| self.seen_from_afar(stack, place, layers));
        let mut before = seen(0);
        let mut told = Vec::new();
        for (n, layer) in self.board.layers(letter).into_iter().enumerate() {
            let after = seen(n + 1);
            let moved =
                Place::ALL.map(|place| Verdict::of(after[place as usize].lab, before[place as usize].lab));
            let most =
                (0..3).max_by(|a, b| moved[*a].difference.value().total_cmp(&moved[*b].difference.value()));
            let moves = most.filter(|_| !layer.muted).map_or_else(String::new, |most| {
                let verdict = &moved[most];
                if verdict.difference.value() < 0.5 {
                    return "nobody sees it".to_owned();
                }
                let words = verdict.words.replace(" than the target", "");
                let place = ["on the field", "in the recess", "on the edge"][most];
                format!("{words} {place}")
            });
            told.push(LayerPredicted {
                id: layer.id.0,
                technique: layer.technique.name(),
                pot: names.pot(&layer.pot),
                hex: stack.material(n).map(|material| self.look.hex(material)),
                shared: n < shared,
                muted: layer.muted,
                print: PrintEntry::of(layer.left(self.known.hands().habit(layer.technique))),
                after: after.iter().map(|seen| seen.screen.srgb.to_string()).collect(),
                moves,
            });
            before = after;
        }
        told
    }
}

impl FixOffered {
    fn of(fix: Fix, names: &Names) -> Self {
        let offered = |deed, LayerId(layer), technique: Option<Technique>, words: String| Self {
            deed,
            layer: Some(layer),
            technique: technique.map(Technique::id),
            pot: Vec::new(),
            words,
        };
        let named = |technique: Technique| technique.name().to_lowercase();
        match fix {
            Fix::Below(layer, technique) => {
                offered("below", layer, Some(technique), format!("Put {} below it", named(technique)))
            }
            Fix::Instead(layer, technique) => {
                offered("instead", layer, Some(technique), format!("Make it {}", named(technique)))
            }
            Fix::Again(layer) => offered("again", layer, None, "One coat more, all of them thin".to_owned()),
            Fix::Under(layer, pot) => Self {
                pot: pot.iter().map(MixPart::from).collect(),
                ..offered("under", layer, None, format!("Put {} below it", names.pot(&pot)))
            },
        }
    }
}

impl AdviceGiven {
    fn of(advice: Advice, names: &Names) -> Self {
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
            fix: advice.fix.map(|fix| FixOffered::of(fix, names)),
        }
    }
}

impl From<Caution> for CautionGiven {
    fn from(caution: Caution) -> Self {
        Self { layer: caution.layer.0, words: caution.words, grave: caution.grave, source: caution.source }
    }
}

/// What a strip of a board would look like; nothing is kept.
#[utoipa::path(post, path = "/boards/preview", operation_id = "preview_board",
    tag = "board", params(LookedAt, StripAsked), request_body = BoardEntry,
    responses((status = OK, body = StripPrediction)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(strip): Asked<StripAsked>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<StripPrediction>, Problem> {
    let (look, board) = (asked.get()?, entry.parse()?);
    let letter = strip.of(&board)?;
    let ((names, shelf), known) = workspace.with_known(|store| Names::and_shelf(store)).await?;
    off_thread(move || {
        let shelf = on_shelf(&shelf, &known);
        OnTheEasel::new(&board, &known, look)?.predict(letter, strip.layers, (&names, &shelf))
    })
    .await
    .map(Json)
}
