//! A board as it is entered, and read into what is kept.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Board, Branch, ByPlace, Ground, GroundKind, Hand, Layer, LayerId, Letter, Load, Meets, Motif, Passes,
    Place, Print, Share, Strip, Technique, TextureDepth,
};
use warm_blend_paint::{MixId, Name};

use crate::{Checks, Colour, MixPart, Refusal};

/// A board as the painter puts it together.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct BoardEntry {
    /// Its name, 1 to 80 characters.
    #[schema(example = "aged oat over red stain")]
    pub name: String,
    /// What it is laid on.
    pub ground: GroundEntry,
    /// One to six strips.
    pub strips: Vec<StripEntry>,
}

/// What a board is laid on.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct GroundEntry {
    /// `pale-wood`, `mid-wood`, `dark-wood`, `red-stain`, `old-paint`, `white-primer` or `grey-primer`.
    #[schema(value_type = String)]
    pub kind: GroundKind,
    /// Its colour, where it is another than the kind's.
    pub colour: Option<Colour>,
}

/// A taped strip.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct StripEntry {
    /// `A` to `F`.
    #[schema(value_type = String)]
    pub letter: Letter,
    /// Where it branches off; none where it begins at the ground.
    pub from: Option<Branch>,
    /// Its own layers, in the order they lie.
    pub layers: Vec<LayerEntry>,
}

/// A layer.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct LayerEntry {
    /// For good.
    pub id: Uuid,
    /// How it is put on: see `/api/boards/choices`.
    #[schema(example = "glaze-wiped", value_type = String)]
    pub technique: Technique,
    /// What is in the pot; empty for clear wax, a clear coat and what takes away.
    pub pot: Vec<MixPart>,
    /// The mix it is a copy of.
    pub mix: Option<Uuid>,
    /// How much was on the brush against the usual, ¼ to 4; of what takes away, how long.
    #[schema(example = 1.0)]
    pub load: f64,
    /// How firmly it was wiped: 0 not at all, ½ as usual, 1 as firmly as one can.
    #[schema(example = 0.5)]
    pub wipe: f64,
    /// How often, 1 to 9.
    #[schema(example = 1)]
    pub passes: u8,
    /// How rough it was left, µm from tip to hollow, 0 to 1000; as the technique usually does if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub texture_um: Option<f64>,
    /// Where it was put at all.
    pub on: ByPlace<bool>,
    /// Film and coverage, where the painter says so in place of the technique.
    pub print: Option<PrintEntry>,
    /// How it falls on an earlier layer, where not at random.
    pub meets: Option<MeetsEntry>,
    /// Of what takes away: the layer that stays on top where it is worn; the ground if left out.
    pub down_to: Option<Uuid>,
    /// Of a stencil: what is cut out of it, `lozenge` …: see `/api/boards/choices`; clover if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<String>)]
    pub motif: Option<Motif>,
    /// Left out for now.
    #[serde(default)]
    pub muted: bool,
}

/// What a layer leaves.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct PrintEntry {
    /// Wet film where it lies, µm, 0.1 to 3000.
    pub film_um: ByPlace<f64>,
    /// Share of the area that it covers or takes away, 0–1.
    pub cover: ByPlace<f64>,
}

/// How a layer falls on an earlier one.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct MeetsEntry {
    /// The earlier layer.
    pub layer: Uuid,
    /// `avoids` or `seeks`.
    #[schema(value_type = String)]
    pub how: Meets,
}

impl PrintEntry {
    /// As it travels.
    pub fn of(print: Print) -> Self {
        Self {
            film_um: ByPlace::from_fn(|place| print.film.at(place).value()),
            cover: ByPlace::from_fn(|place| print.cover.at(place).value()),
        }
    }

    fn parse(&self, technique: Technique, checks: &mut Checks, at: &str) -> Option<Print> {
        let film = if technique.takes_away() {
            Some(technique.usual().film)
        } else {
            checked(&self.film_um, checks, &format!("{at}/film_um"), Print::film)
        };
        let cover = checked(&self.cover, checks, &format!("{at}/cover"), Share::new);
        Some(Print { film: film?, cover: cover? })
    }
}

/// A number of each place, checked.
fn checked<T, E: ToString>(
    values: &ByPlace<f64>,
    checks: &mut Checks,
    at: &str,
    one: impl Fn(f64) -> Result<T, E>,
) -> Option<ByPlace<T>> {
    let mut of = |place: Place| checks.field(format!("{at}/{}", place.id()), one(*values.at(place)));
    let (field, recess, edge) = (of(Place::Field), of(Place::Recess), of(Place::Edge));
    Some(ByPlace { field: field?, recess: recess?, edge: edge? })
}

impl LayerEntry {
    /// What is kept of it; its faults stand at `at`.
    pub fn parse(&self, checks: &mut Checks, at: &str) -> Option<Layer> {
        let parts = self.pot.iter().enumerate();
        let pot = parts.filter_map(|(i, part)| part.component(checks, &format!("{at}/pot/{i}"))).collect();
        let load = checks.field(format!("{at}/load"), Load::new(self.load));
        let wipe = checks.field(format!("{at}/wipe"), Share::new(self.wipe));
        let passes = checks.field(format!("{at}/passes"), Passes::new(self.passes));
        let texture = self
            .texture_um
            .and_then(|depth| checks.field(format!("{at}/texture_um"), TextureDepth::new(depth)));
        let print = match &self.print {
            Some(print) => Some(print.parse(self.technique, checks, &format!("{at}/print"))?),
            None => None,
        };
        Some(Layer {
            id: LayerId(self.id),
            technique: self.technique,
            pot,
            mix: self.mix.map(MixId),
            hand: Hand { load: load?, wipe: wipe?, passes: passes?, texture },
            on: self.on,
            print,
            meets: self.meets.map(|met| (LayerId(met.layer), met.how)),
            down_to: self.down_to.map(LayerId),
            motif: self.motif,
            muted: self.muted,
        })
    }
}

impl From<&Layer> for LayerEntry {
    fn from(layer: &Layer) -> Self {
        Self {
            id: layer.id.0,
            technique: layer.technique,
            pot: layer.pot.iter().map(MixPart::from).collect(),
            mix: layer.mix.map(|mix| mix.0),
            load: layer.hand.load.value(),
            wipe: layer.hand.wipe.value(),
            passes: layer.hand.passes.value(),
            texture_um: layer.hand.texture.map(TextureDepth::value),
            on: layer.on,
            print: layer.print.map(PrintEntry::of),
            meets: layer.meets.map(|(layer, how)| MeetsEntry { layer: layer.0, how }),
            down_to: layer.down_to.map(|layer| layer.0),
            motif: layer.motif,
            muted: layer.muted,
        }
    }
}

impl BoardEntry {
    /// What is to be kept, or everything that is wrong with it.
    pub fn parse(&self) -> Result<Board, Refusal> {
        let mut checks = Checks::default();
        let name = checks.field("/name", Name::new(&self.name));
        let ground = self.ground.parse("/ground", &mut checks);
        let strips = self.strips.iter().take(Letter::ALL.len() + 1).enumerate();
        let strips = strips.map(|(i, strip)| strip.parse(&mut checks, &format!("/strips/{i}"))).collect();
        let (name, ground) = checks.done(name.zip(ground))?;
        Board::new(name, ground, strips).map_err(|error| Refusal::field("/strips", error))
    }
}

impl GroundEntry {
    /// What is kept of it; its faults stand at `at`.
    pub fn parse(&self, at: &str, checks: &mut Checks) -> Option<Ground> {
        let colour = match &self.colour {
            Some(colour) => Some(colour.parse(checks, &format!("{at}/colour"))?),
            None => None,
        };
        Some(Ground { kind: self.kind, colour })
    }
}

impl From<Ground> for GroundEntry {
    fn from(ground: Ground) -> Self {
        Self { kind: ground.kind, colour: ground.colour.map(Colour::from) }
    }
}

impl StripEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Strip {
        // One more than may be, so that the board itself says that it is too much.
        let layers = self.layers.iter().take(warm_blend_board::LAYERS + 1).enumerate();
        let layers = layers.filter_map(|(i, layer)| layer.parse(checks, &format!("{at}/layers/{i}")));
        Strip { letter: self.letter, from: self.from, layers: layers.collect() }
    }
}

impl From<&Board> for BoardEntry {
    fn from(board: &Board) -> Self {
        let strip = |strip: &Strip| StripEntry {
            letter: strip.letter,
            from: strip.from,
            layers: strip.layers.iter().map(LayerEntry::from).collect(),
        };
        Self {
            name: board.name.as_str().to_owned(),
            ground: board.ground.into(),
            strips: board.strips().iter().map(strip).collect(),
        }
    }
}
