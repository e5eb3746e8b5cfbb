//! A board as it is entered, and read into what is kept.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Board, Branch, ByPlace, Ground, GroundKind, Hand, Layer, LayerId, Letter, Load, Meets, Passes, Place,
    Print, Share, Strip, Technique, TextureDepth,
};
use warm_blend_paint::{MixId, Name};

use crate::refusal::shown;
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
    pub kind: String,
    /// Its colour, where it is another than the kind's.
    pub colour: Option<Colour>,
}

/// A taped strip.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct StripEntry {
    /// `A` to `F`.
    pub letter: String,
    /// Where it branches off; none where it begins at the ground.
    pub from: Option<BranchEntry>,
    /// Its own layers, in the order they lie.
    pub layers: Vec<LayerEntry>,
}

/// Where a strip branches off another.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct BranchEntry {
    /// The other.
    pub strip: String,
    /// How many layers they share, from the ground up.
    pub after: usize,
}

/// A layer.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct LayerEntry {
    /// For good.
    pub id: Uuid,
    /// How it is put on: see `/api/boards/choices`.
    #[schema(example = "glaze-wiped")]
    pub technique: String,
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
    pub on: OnPlaces,
    /// Film and coverage, where the painter says so in place of the technique.
    pub print: Option<PrintEntry>,
    /// How it falls on an earlier layer, where not at random.
    pub meets: Option<MeetsEntry>,
    /// Of what takes away: the layer that stays on top where it is worn; the ground if left out.
    pub down_to: Option<Uuid>,
    /// Left out for now.
    #[serde(default)]
    pub muted: bool,
}

/// A value for each kind of place.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct OnPlaces {
    /// On the flat.
    pub field: bool,
    /// In grooves, carving and corners.
    pub recess: bool,
    /// On arrises, tips and high points.
    pub edge: bool,
}

/// A number for each kind of place.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct AtPlaces {
    /// On the flat.
    pub field: f64,
    /// In grooves, carving and corners.
    pub recess: f64,
    /// On arrises, tips and high points.
    pub edge: f64,
}

/// What a layer leaves.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct PrintEntry {
    /// Wet film where it lies, µm, 0.1 to 3000.
    pub film_um: AtPlaces,
    /// Share of the area that it covers or takes away, 0–1.
    pub cover: AtPlaces,
}

/// How a layer falls on an earlier one.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MeetsEntry {
    /// The earlier layer.
    pub layer: Uuid,
    /// `avoids` or `seeks`.
    pub how: String,
}

impl AtPlaces {
    /// As it travels.
    pub fn of(values: ByPlace<f64>) -> Self {
        Self { field: values.field, recess: values.recess, edge: values.edge }
    }

    const fn at(&self, place: Place) -> f64 {
        match place {
            Place::Field => self.field,
            Place::Recess => self.recess,
            Place::Edge => self.edge,
        }
    }

    fn read<T: Copy, E: ToString>(
        &self,
        checks: &mut Checks,
        pointer: &str,
        one: impl Fn(f64) -> Result<T, E>,
    ) -> Option<ByPlace<T>> {
        let mut at = |place: Place| checks.field(format!("{pointer}/{}", place.id()), one(self.at(place)));
        let (field, recess, edge) = (at(Place::Field), at(Place::Recess), at(Place::Edge));
        Some(ByPlace { field: field?, recess: recess?, edge: edge? })
    }
}

impl PrintEntry {
    /// As it travels.
    pub fn of(print: Print) -> Self {
        Self {
            film_um: AtPlaces::of(ByPlace::from_fn(|place| print.film.at(place).value())),
            cover: AtPlaces::of(ByPlace::from_fn(|place| print.cover.at(place).value())),
        }
    }

    fn parse(&self, technique: Technique, checks: &mut Checks, at: &str) -> Option<Print> {
        let film = if technique.takes_away() {
            Some(technique.usual().film)
        } else {
            self.film_um.read(checks, &format!("{at}/film_um"), Print::film)
        };
        let cover = self.cover.read(checks, &format!("{at}/cover"), Share::new);
        Some(Print { film: film?, cover: cover? })
    }
}

/// The letter of a strip.
pub fn letter(text: &str) -> Result<Letter, String> {
    let mut letters = text.chars();
    match (letters.next(), letters.next()) {
        (Some(one), None) => Letter::try_from(one),
        _ => Err(format!("“{}” is no strip: strips are A to F", text.chars().take(20).collect::<String>())),
    }
}

/// A kind of ground by its id.
pub fn kind(text: &str) -> Result<GroundKind, String> {
    GroundKind::ALL.into_iter().find(|kind| kind.id() == text).ok_or_else(|| {
        let known = GroundKind::ALL.map(GroundKind::id).join(", ");
        format!("“{}” is no ground: choose one of {known}", shown(text))
    })
}

/// A kind of place by its id.
pub fn place(text: &str) -> Result<Place, String> {
    Place::ALL.into_iter().find(|place| place.id() == text).ok_or_else(|| {
        let known = Place::ALL.map(Place::id).join(", ");
        format!(
            "“{}” is no place of a board: choose one of {known}",
            text.chars().take(20).collect::<String>()
        )
    })
}

fn meets(text: &str) -> Result<Meets, String> {
    match text {
        "avoids" => Ok(Meets::Avoids),
        "seeks" => Ok(Meets::Seeks),
        _ => Err(format!("“{}”: a layer avoids or seeks another", text.chars().take(20).collect::<String>())),
    }
}

impl LayerEntry {
    /// What is kept of it; its faults stand at `at`.
    pub fn parse(&self, checks: &mut Checks, at: &str) -> Option<Layer> {
        let technique = checks.field(format!("{at}/technique"), self.technique.parse::<Technique>())?;
        let parts = self.pot.iter().enumerate();
        let pot = parts.filter_map(|(i, part)| part.component(checks, &format!("{at}/pot/{i}"))).collect();
        let load = checks.field(format!("{at}/load"), Load::new(self.load));
        let wipe = checks.field(format!("{at}/wipe"), Share::new(self.wipe));
        let passes = checks.field(format!("{at}/passes"), Passes::new(self.passes));
        let texture = self
            .texture_um
            .and_then(|depth| checks.field(format!("{at}/texture_um"), TextureDepth::new(depth)));
        let print = match &self.print {
            Some(print) => Some(print.parse(technique, checks, &format!("{at}/print"))?),
            None => None,
        };
        let meets = match &self.meets {
            Some(met) => {
                Some((LayerId(met.layer), checks.field(format!("{at}/meets/how"), meets(&met.how))?))
            }
            None => None,
        };
        Some(Layer {
            id: LayerId(self.id),
            technique,
            pot,
            mix: self.mix.map(MixId),
            hand: Hand { load: load?, wipe: wipe?, passes: passes?, texture },
            on: ByPlace { field: self.on.field, recess: self.on.recess, edge: self.on.edge },
            print,
            meets,
            down_to: self.down_to.map(LayerId),
            muted: self.muted,
        })
    }
}

impl From<&Layer> for LayerEntry {
    fn from(layer: &Layer) -> Self {
        let ByPlace { field, recess, edge } = layer.on;
        Self {
            id: layer.id.0,
            technique: layer.technique.id().to_owned(),
            pot: layer.pot.iter().map(MixPart::from).collect(),
            mix: layer.mix.map(|mix| mix.0),
            load: layer.hand.load.value(),
            wipe: layer.hand.wipe.value(),
            passes: layer.hand.passes.value(),
            texture_um: layer.hand.texture.map(TextureDepth::value),
            on: OnPlaces { field, recess, edge },
            print: layer.print.map(PrintEntry::of),
            meets: layer.meets.map(|(layer, how)| MeetsEntry {
                layer: layer.0,
                how: match how {
                    Meets::Avoids => "avoids".to_owned(),
                    Meets::Seeks => "seeks".to_owned(),
                },
            }),
            down_to: layer.down_to.map(|layer| layer.0),
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
        let mut strips = Vec::with_capacity(self.strips.len());
        for (i, strip) in self.strips.iter().take(Letter::ALL.len() + 1).enumerate() {
            strips.extend(strip.parse(&mut checks, &format!("/strips/{i}")));
        }
        let (name, ground) = checks.done(name.zip(ground))?;
        Board::new(name, ground, strips).map_err(|error| Refusal::field("/strips", error))
    }
}

impl GroundEntry {
    /// What is kept of it; its faults stand at `at`.
    pub fn parse(&self, at: &str, checks: &mut Checks) -> Option<Ground> {
        let kind = checks.field(format!("{at}/kind"), kind(&self.kind));
        let colour = match &self.colour {
            Some(colour) => Some(colour.parse(checks, &format!("{at}/colour"))?),
            None => None,
        };
        Some(Ground { kind: kind?, colour })
    }
}

impl From<Ground> for GroundEntry {
    fn from(ground: Ground) -> Self {
        Self { kind: ground.kind.id().to_owned(), colour: ground.colour.map(Colour::from) }
    }
}

impl StripEntry {
    fn parse(&self, checks: &mut Checks, at: &str) -> Option<Strip> {
        let own = checks.field(format!("{at}/letter"), letter(&self.letter));
        let from = match &self.from {
            Some(from) => {
                let strip = checks.field(format!("{at}/from/strip"), letter(&from.strip))?;
                Some(Branch { strip, after: from.after })
            }
            None => None,
        };
        // One more than may be, so that the board itself says that it is too much.
        let layers = self.layers.iter().take(warm_blend_board::LAYERS + 1).enumerate();
        let layers: Vec<Layer> =
            layers.filter_map(|(i, layer)| layer.parse(checks, &format!("{at}/layers/{i}"))).collect();
        Some(Strip { letter: own?, from, layers })
    }
}

impl From<&Board> for BoardEntry {
    fn from(board: &Board) -> Self {
        let strip = |strip: &Strip| StripEntry {
            letter: strip.letter.to_string(),
            from: strip.from.map(|from| BranchEntry { strip: from.strip.to_string(), after: from.after }),
            layers: strip.layers.iter().map(LayerEntry::from).collect(),
        };
        Self {
            name: board.name.as_str().to_owned(),
            ground: board.ground.into(),
            strips: board.strips().iter().map(strip).collect(),
        }
    }
}
