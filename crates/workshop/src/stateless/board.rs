//! The engine alone: a strip of layers, with paints and readings of boards given in the request.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Application, Board, BoardReading, ByPlace, Deposit, Grit, Ground, KnownTin, Layer, LayerId, Letter, Load,
    Meets, MeetsLayer, Passes, Place, Share, Stack, Strip, Technique, TextureDepth, bands, learn_hand,
};
use warm_blend_learn::{Ensemble, Source};
use warm_blend_paint::{Class, FilmState, MixPart, Name, PaintId, WholeParts};
use warm_blend_spectral::Light;

use crate::{BoardSpotEntry, Checks, GivenTins, HandKnown, PlacePredicted, PredictTin, Refusal};

/// Greatest number of boards in a request.
const MOST_BOARDS: usize = 16;

/// A strip to predict.
#[derive(Deserialize, ToSchema)]
pub struct PredictBoardRequest {
    /// One to 64 paints and mediums, to which pots refer by index.
    pub paints: Vec<BoardTin>,
    /// The white of the tints, if it is none of the paints; needed only if a paint has a `tint`.
    pub white: Option<PredictTin>,
    /// The ground.
    pub ground: Ground,
    /// Layers from the ground up, at most 60.
    pub layers: Vec<PredictLayer>,
    /// Painted boards of the same hand with their readings, at most 16.
    #[serde(default)]
    pub boards: Vec<BoardRead>,
    /// Light; by default daylight.
    #[schema(example = "shop-tube")]
    pub light: Option<Light>,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
}

/// A paint or a medium.
#[derive(Deserialize, ToSchema)]
pub struct BoardTin {
    /// The tin.
    #[serde(flatten)]
    pub tin: PredictTin,
    /// True for the white of the tints.
    #[serde(default)]
    pub house_white: bool,
}

/// A layer as on a saved board, except that tins and layers are referred to by index.
#[derive(Deserialize, ToSchema)]
pub struct PredictLayer {
    /// How it is applied: see `/api/boards/choices`.
    #[schema(example = "glaze-wiped", value_type = String)]
    pub technique: Technique,
    /// Contents of the pot, with indices into `paints`; empty for clear wax, a clear coat and techniques that take paint
    /// away.
    #[serde(default)]
    pub pot: Vec<PotPart>,
    /// Load of the brush relative to the usual, ¼ to 4; by default 1.
    pub load: Option<Load>,
    /// Pressure when wiping, 0 to 1; by default ½.
    pub wipe: Option<Share>,
    /// Number of passes, 1 to 9; by default 1.
    pub passes: Option<Passes>,
    /// Texture depth, µm from tip to hollow, 0 to 1000; by default the usual of the technique.
    pub texture_um: Option<TextureDepth>,
    /// Grit of the paper: 220, 320, 400 or 600; by default 320.
    pub grit: Option<Grit>,
    /// Kinds of place where it is applied; by default everywhere.
    pub on: Option<ByPlace<bool>>,
    /// Film and coverage, instead of the technique's.
    pub print: Option<Deposit>,
    /// How it falls relative to an earlier layer, if not at random.
    pub meets: Option<MeetsBelow>,
    /// For a technique that takes paint away: index in `layers` of the layer that stays on top; by default the ground.
    pub down_to: Option<usize>,
}

/// A tin in a pot.
#[derive(Deserialize, ToSchema)]
pub struct PotPart {
    /// Index in `paints`.
    pub paint: usize,
    /// Whole parts by wet volume, 1 to 999.
    pub parts: WholeParts,
}

/// How a layer falls relative to an earlier one.
#[derive(Deserialize, ToSchema)]
pub struct MeetsBelow {
    /// Index of the earlier layer in `layers`.
    pub layer: usize,
    /// `avoids` or `seeks`.
    #[schema(value_type = String)]
    pub how: Meets,
}

/// A painted board with its reading.
#[derive(Deserialize, ToSchema)]
pub struct BoardRead {
    /// Its ground; by default that of the request.
    pub ground: Option<Ground>,
    /// Its layers; by default those of the request.
    pub layers: Option<Vec<PredictLayer>>,
    /// One to nine spots.
    pub spots: Vec<BoardSpotEntry>,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
    /// Origin: `reader` (default), `photo`, `chip` or `guess`.
    pub source: Option<Source>,
}

/// Prediction of the strip.
#[derive(Serialize, ToSchema)]
pub struct BoardPredicted {
    /// Light.
    pub light: Light,
    /// State of the film.
    pub state: FilmState,
    /// Field, recess and edge.
    pub places: Vec<PlacePredicted>,
    /// The hand as learned from the boards.
    pub hands: Vec<HandKnown>,
    /// Contradictory readings of paints or boards that were left out, as pointers into the request.
    pub questioned: Vec<String>,
}

const STRIP: Letter = Letter::ALL[0];

impl PredictBoardRequest {
    /// Predicts the strip.
    pub fn answer(&self) -> Result<BoardPredicted, Refusal> {
        let mut checks = Checks::default();
        let (light, state) = (self.light.unwrap_or_default(), self.state.unwrap_or_default());
        let tins: Vec<_> = self.paints.iter().map(|paint| (&paint.tin, paint.house_white)).collect();
        let bench = GivenTins::of(&tins, self.white.as_ref(), &mut checks);
        let count = self.paints.len();
        let board = strip(&self.ground, &self.layers, "", count, &mut checks);
        if self.boards.len() > MOST_BOARDS {
            checks
                .wrong::<()>("/boards", format!("{} boards: give at most {MOST_BOARDS}", self.boards.len()));
        }
        let read: Vec<Option<BoardReading>> = self
            .boards
            .iter()
            .take(MOST_BOARDS)
            .enumerate()
            .map(|(i, read)| read.parse(self, &format!("/boards/{i}"), &mut checks))
            .collect();
        let read = read.into_iter().collect::<Option<Vec<_>>>();
        let ((bench, board), read) = checks.done(bench.zip(board).zip(read))?;

        let classes = bench.classes();
        let (mut known, mut questioned) = bench.learn()?;
        let taught = {
            let tin =
                |paint: PaintId| place_of(paint).and_then(|at| Some((*classes.get(at)?, known.get(at)?)));
            learn_hand(&read, tin)
        };
        for (paint, strength) in &taught.strengths {
            if let Some(tin) = place_of(*paint).and_then(|at| known.get_mut(at)) {
                *tin = strength.applied_to(tin);
            }
        }
        let odd = taught
            .judged
            .iter()
            .enumerate()
            .filter(|(_, judged)| judged.as_ref().is_some_and(|j| j.questioned));
        questioned.extend(odd.map(|(i, _)| format!("/boards/{i}")));

        let tin = |paint: PaintId| -> Option<(Class, &Ensemble)> {
            let at = place_of(paint)?;
            Some((*classes.get(at)?, known.get(at)?))
        };
        let best = |paint| tin(paint).map(|(class, known)| KnownTin::new(class, known.best()));
        let ground = |error| Refusal::field("/ground/colour", error);
        let stack: Stack =
            board.stack(STRIP, best, |technique| taught.hands.habit(technique)).map_err(ground)?;
        let within = bands(&board, STRIP, tin, &taught.hands, stack.len(), (light, state)).map_err(ground)?;
        let place = |place| {
            let seen = stack.seen(place, stack.len(), state);
            PlacePredicted::of(place, &seen, *within.at(place), light, |_| None)
        };
        Ok(BoardPredicted {
            light,
            state,
            places: Place::ALL.map(place).into(),
            hands: HandKnown::all(&taught.hands),
            questioned,
        })
    }
}

/// An id for an index, because tins and layers of a request have none.
fn id(at: usize) -> Uuid {
    Uuid::from_u128(at as u128 + 1)
}

fn place_of(paint: PaintId) -> Option<usize> {
    usize::try_from(paint.0.as_u128()).ok()?.checked_sub(1)
}

/// A board of one strip, for checked paints.
fn strip(
    ground: &Ground,
    layers: &[PredictLayer],
    at: &str,
    paints: usize,
    checks: &mut Checks,
) -> Option<Board> {
    // Accepts one too many, so that the board itself reports the excess.
    let most = warm_blend_board::LAYERS + 1;
    let layers = layers
        .iter()
        .take(most)
        .enumerate()
        .map(|(n, layer)| {
            let at = format!("{at}/layers/{n}");
            for (i, part) in layer.pot.iter().enumerate().filter(|(_, part)| part.paint >= paints) {
                checks.wrong::<()>(
                    format!("{at}/pot/{i}/paint"),
                    format!("no paint {}; numbers start at 0", part.paint),
                );
            }
            let below = [layer.down_to, layer.meets.as_ref().map(|meets| meets.layer)];
            if below.into_iter().flatten().any(|below| below >= n) {
                checks.wrong::<()>(at.clone(), "choose a layer below this one; numbers start at 0");
            }
            layer.layer(n)
        })
        .collect();
    let name = Name::new("board").ok()?;
    let strips = vec![Strip { letter: STRIP, from: None, layers }];
    checks.field(format!("{at}/layers"), Board::new(name, *ground, strips))
}

impl PredictLayer {
    fn layer(&self, n: usize) -> Layer {
        let pot = self.pot.iter().map(|part| MixPart { paint: PaintId(id(part.paint)), parts: part.parts });
        let usual = Application::default();
        let hand = Application {
            load: self.load.unwrap_or(usual.load),
            wipe: self.wipe.unwrap_or(usual.wipe),
            passes: self.passes.unwrap_or(usual.passes),
            texture: self.texture_um,
            grit: self.grit,
        };
        Layer {
            id: LayerId(id(n)),
            hand,
            on: self.on.unwrap_or(ByPlace::all(true)),
            print: self.print,
            meets: self.meets.as_ref().map(|met| MeetsLayer { layer: LayerId(id(met.layer)), how: met.how }),
            down_to: self.down_to.map(|at| LayerId(id(at))),
            ..Layer::new(self.technique, pot.collect())
        }
    }
}

impl BoardRead {
    fn parse(&self, request: &PredictBoardRequest, at: &str, checks: &mut Checks) -> Option<BoardReading> {
        let (state, source) = (self.state.unwrap_or_default(), self.source.unwrap_or(Source::Reader));
        let (ground, layers) = (
            self.ground.as_ref().unwrap_or(&request.ground),
            self.layers.as_deref().unwrap_or(&request.layers),
        );
        let board = strip(ground, layers, at, request.paints.len(), checks);
        let spots = BoardSpotEntry::parse_all(&self.spots, &format!("{at}/spots"), checks);
        let reading = BoardReading::new((Uuid::nil(), &board?), STRIP, (state, source), spots);
        checks.field(format!("{at}/spots"), reading)
    }
}
