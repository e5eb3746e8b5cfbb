//! The saved form of a board.

use std::fmt;

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_learn::Ensemble;
use warm_blend_paint::{
    BadMix, BadPaint, Class, Contents, Material, Microns, MixId, MixPart, Name, PaintId, Parts, Product,
    SavedMix, Specials, mix, replace_paint,
};

use super::{
    Application, Below, ByPlace, Deposit, Family, Ground, HandBias, LAYERS, Meets, Motif, NotAFilm, Place,
    Share, Stack, Technique,
};

/// Share of the dry film from which wax, clear coat or shellac fills the air in what lies below†.
const SEALS: f64 = 0.2;

/// Parts of texture powder to one of paint that make the usual peaks (two scoops per cup, common practice†), and the
/// range around it that matters, as shares of it.
const USUAL_DOSE: f64 = 0.125;
const LEAST_DOSE: f64 = 0.2;
const MOST_DOSE: f64 = 2.0;

/// Identifies a layer of a board.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LayerId(pub Uuid);

/// A taped strip, A to F.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(try_from = "String", into = "char")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(value_type = String, example = "A"))]
pub struct Letter(u8);

/// A layer of a board.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Layer {
    /// Stable identifier, by which other layers refer to this one.
    pub id: LayerId,
    /// How it is applied: see `/api/boards/choices`.
    #[cfg_attr(feature = "schema", schema(value_type = String, example = "glaze-wiped"))]
    pub technique: Technique,
    /// Contents of the pot: a copy, so that the board stays as it was painted. Empty for clear wax, a clear coat and
    /// techniques that take paint away.
    pub pot: Vec<MixPart>,
    /// The mix from which the pot was copied.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mix: Option<MixId>,
    /// How the technique was carried out.
    pub hand: Application,
    /// The kinds of place on which it was applied.
    pub on: ByPlace<bool>,
    /// Film and coverage, if the painter overrides those of the technique.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub print: Option<Deposit>,
    /// How it falls relative to an earlier layer, if not at random.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub meets: Option<MeetsLayer>,
    /// For a technique that takes paint away: the layer that stays on top where it is worn; `None` down to the ground.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub down_to: Option<LayerId>,
    /// For a stencil: its motif, if not clover.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub motif: Option<Motif>,
    /// Whether it is worked into the layer below while that is wet; if left out, as usual for the technique.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub into_wet: Option<bool>,
    /// Hidden for now, to see the strip without it.
    #[serde(default)]
    pub muted: bool,
}

/// How a layer falls relative to an earlier one.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MeetsLayer {
    /// The earlier layer.
    pub layer: LayerId,
    /// `avoids` or `seeks`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub how: Meets,
}

/// Where a strip branches off another.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Branch {
    /// The strip with which it shares its lower layers.
    pub strip: Letter,
    /// Number of layers shared, from the ground up.
    pub after: usize,
}

/// A strip of a board.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Strip {
    /// Its letter.
    pub letter: Letter,
    /// Where it branches off; `None` if it starts at the ground.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<Branch>,
    /// Its own layers, lowest first.
    pub layers: Vec<Layer>,
}

/// A sample board.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Board {
    /// Name.
    pub name: Name,
    /// The ground below all strips.
    pub ground: Ground,
    /// One to six strips.
    strips: Vec<Strip>,
}

/// A board that cannot be painted.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadBoard {
    /// No strip, or more than six.
    #[error("{0} strips is out of range; a board has 1 to 6, A to F")]
    Strips(usize),
    /// The same letter twice.
    #[error("two strips are lettered {0}; give each its own letter")]
    Twice(Letter),
    /// A strip that branches off one that does not exist.
    #[error("strip {0} starts from strip {1}, which is not on the board; choose another")]
    NoSuchStrip(Letter, Letter),
    /// A strip that branches off itself, directly or through others.
    #[error("strip {0} loops back to itself; start it from the ground or another strip")]
    Cycle(Letter),
    /// Too many layers on a strip.
    #[error("strip {0} has {1} layers; the most is {most}", most = LAYERS)]
    Layers(Letter, usize),
    /// A film that no technique leaves, with the indices of its strip and layer.
    #[error("{2}")]
    Film(usize, usize, NotAFilm),
    /// A layer without a pot whose technique needs one.
    #[error("the pot for “{}” is empty; choose a mix or a paint", .0.name())]
    EmptyPot(Technique),
    /// An invalid pot.
    #[error("pot: {0}")]
    Pot(#[from] BadMix),
    /// A ground colour that no surface can have.
    #[error("ground: {0}")]
    Ground(#[from] BadPaint),
}

/// What a board needs to know of a tin.
#[derive(Debug, Clone, Copy)]
pub struct KnownTin<'a> {
    /// Class of product.
    pub class: Class,
    /// What the tin itself states.
    pub specials: Specials,
    /// Its most probable material.
    pub material: &'a Material,
    /// Its plausible materials, if uncertainty is wanted.
    pub known: Option<&'a Ensemble>,
}

impl<'a> KnownTin<'a> {
    /// A tin that states nothing beyond its class.
    pub fn new(class: Class, material: &'a Material) -> Self {
        Self { class, specials: Specials::default(), material, known: None }
    }

    /// The product in it.
    pub const fn product(&self) -> Product {
        Product { class: self.class, specials: self.specials }
    }
}

impl BadBoard {
    /// JSON pointer to the faulty part of the board.
    pub fn pointer(&self) -> String {
        match self {
            BadBoard::Film(strip, layer, _) => format!("/strips/{strip}/layers/{layer}/print/film"),
            BadBoard::Ground(_) => "/ground/colour".to_owned(),
            _ => "/strips".to_owned(),
        }
    }
}

impl Letter {
    /// A to F.
    pub const ALL: [Letter; 6] = [Letter(0), Letter(1), Letter(2), Letter(3), Letter(4), Letter(5)];
}

impl fmt::Display for Letter {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}", char::from(*self))
    }
}

impl From<Letter> for char {
    fn from(letter: Letter) -> char {
        char::from(b'A' + letter.0)
    }
}

impl TryFrom<String> for Letter {
    type Error = String;

    fn try_from(text: String) -> Result<Self, String> {
        Letter::ALL.into_iter().find(|known| text.chars().eq([char::from(*known)])).ok_or_else(|| {
            format!("“{}” is not a strip; use A to F", text.chars().take(20).collect::<String>())
        })
    }
}

impl Layer {
    /// A layer applied in the usual way.
    pub fn new(technique: Technique, pot: Vec<MixPart>) -> Self {
        Self {
            id: LayerId(Uuid::now_v7()),
            technique,
            pot,
            mix: None,
            hand: Application::default(),
            on: ByPlace::all(true),
            print: None,
            meets: None,
            down_to: None,
            motif: None,
            into_wet: None,
            muted: false,
        }
    }

    /// Checks a film set by the painter; for a technique that takes paint away only the shares count.
    pub fn check_film(&self) -> Result<(), NotAFilm> {
        let film = self.print.filter(|_| !self.technique.takes_away()).map(|print| print.film);
        let on_each = film.iter().flat_map(|film| Place::ALL.map(|place| film.at(place).value()));
        on_each.map(Deposit::film).try_for_each(|film| film.map(drop))
    }

    /// Film and coverage: as set by the painter, or those of the technique with this hand's bias.
    pub fn left(&self, habit: HandBias) -> Deposit {
        let print = self.print.unwrap_or_else(|| habit.print(&self.technique.print(self.hand)));
        let on = |place| if *self.on.at(place) { *print.cover.at(place) } else { Share::NONE };
        Deposit { film: print.film, cover: ByPlace::from_fn(on) }
    }

    /// Classes and parts in the pot, or the usual medium of a technique that needs no pot.
    pub fn inside<'a>(&self, tin: impl Fn(PaintId) -> Option<KnownTin<'a>>) -> Vec<(Class, f64)> {
        self.contents(tin).classes()
    }

    /// Contents of the pot as the rules of the trade see it, or the usual product of a technique that needs no pot.
    pub fn contents<'a>(&self, tin: impl Fn(PaintId) -> Option<KnownTin<'a>>) -> Contents {
        if self.pot.is_empty() {
            return self.technique.product().into();
        }
        let part = |part: &MixPart| Some((tin(part.paint)?.product(), f64::from(part.parts.value())));
        self.pot.iter().filter_map(part).collect()
    }

    /// True if it is worked into the layer below while that is wet.
    pub fn goes_into_wet(&self) -> bool {
        self.into_wet.unwrap_or(self.technique.goes_into_wet()) && self.technique.can_go_into_wet()
    }

    /// True if its pot contains wax.
    pub fn is_waxed<'a>(&self, tin: impl Fn(PaintId) -> Option<KnownTin<'a>>) -> bool {
        self.inside(tin).iter().any(|(class, _)| class.is_wax())
    }

    /// Depth of the texture it leaves, µm from tip to hollow: as set by the painter, or that of the technique with this
    /// much texture powder.
    pub(super) fn rough(&self, inside: &[(Class, f64)]) -> Microns {
        let usual = self.technique.rough(self.hand);
        let powder = |of: bool| -> f64 {
            let part =
                |(class, amount): &(Class, f64)| ((*class == Class::TexturePowder) == of).then_some(*amount);
            inside.iter().filter_map(part).sum()
        };
        let dose = powder(true) / powder(false).max(f64::MIN_POSITIVE);
        // Without powder it is ready-made texture paint.
        match self.hand.texture {
            None if self.technique == Technique::TextureCoat && dose > 0.0 => {
                Microns::of(usual.value() * (dose / USUAL_DOSE).clamp(LEAST_DOSE, MOST_DOSE))
            }
            _ => usual,
        }
    }

    /// True of a coat so thick that it cracks.
    pub fn is_cracked(&self) -> bool {
        let open = |cover: ByPlace<Share>| Place::ALL.iter().any(|place| *cover.at(*place) < Share::WHOLE);
        let coat = self.print.is_none() && self.technique.family() == Family::Coat;
        coat && open(self.technique.print(self.hand).cover)
    }

    /// The mixed contents of the pot; `None` if it is empty.
    pub(super) fn stirred<'a>(&self, tin: impl Fn(PaintId) -> Option<KnownTin<'a>>) -> Option<Material> {
        if self.pot.is_empty() {
            // Mediums need no colour.
            return self.technique.product().and_then(|class| Material::of(class, None, None).ok());
        }
        let parts: Vec<(Parts, &Material)> =
            self.pot.iter().filter_map(|part| Some((part.parts.into(), tin(part.paint)?.material))).collect();
        mix(&parts).ok()
    }
}

/// Index of the first layer of wax or metal, below which paint must go because only wax sticks to wax; `None` if there is
/// no such layer.
pub fn below_the_wax<'a>(layers: &[Layer], tin: impl Fn(PaintId) -> Option<KnownTin<'a>>) -> Option<usize> {
    layers.iter().position(|layer| layer.technique.family() == Family::Gild || layer.is_waxed(&tin))
}

/// True if the contents of the pot fill the air in what lies below.
pub(super) fn seals(inside: &[(Class, f64)]) -> bool {
    let stays = |class: Class| class != Class::Water;
    let sum = |of: &dyn Fn(Class) -> bool| -> f64 {
        inside.iter().filter(|(class, _)| of(*class)).map(|(_, amount)| amount).sum()
    };
    let sealing = |class: Class| class.is_wax() || matches!(class, Class::ClearCoat | Class::Shellac);
    sum(&sealing) > SEALS * sum(&stays)
}

impl Stack {
    /// Films of layers from the ground up, for known tins and a hand with its bias in each technique.
    pub fn of_layers<'a>(
        ground: &Ground,
        layers: &[&Layer],
        tin: impl Fn(PaintId) -> Option<KnownTin<'a>>,
        habit: impl Fn(Technique) -> HandBias,
    ) -> Result<Self, BadPaint> {
        let mut stack = Stack::over(ground)?;
        // A layer can only refer to one below it.
        let below = |id: LayerId, n: usize| layers[..n].iter().position(|layer| layer.id == id);
        for (n, layer) in layers.iter().enumerate() {
            let habit = habit(layer.technique);
            let print = layer.left(habit);
            if layer.muted {
                stack.leave_out();
            } else if layer.technique.grit().is_some() {
                stack.smooth(layer.technique.planes(layer.hand));
            } else if layer.technique.takes_away() {
                stack.take_away(print, layer.down_to.and_then(|id| below(id, n)).map_or(0, |at| at + 1));
            } else if let Some(material) = layer.stirred(&tin) {
                let meets = layer.meets.and_then(|met| Some((below(met.layer, n)?, met.how)));
                let inside = layer.inside(&tin);
                let rough = habit.roughness(layer.rough(&inside));
                let below = Below { seals: seals(&inside), soaks: layer.technique.soaks() };
                stack.lay_rough(material, print, below, meets, rough);
                if layer.is_cracked() {
                    stack.crack();
                }
            } else {
                stack.leave_out();
            }
        }
        Ok(stack)
    }
}

impl Board {
    /// Makes a board of one to six strips and checks that it can be painted.
    pub fn new(name: Name, ground: Ground, strips: Vec<Strip>) -> Result<Self, BadBoard> {
        let board = Self { name, ground, strips };
        board.check().map(|()| board)
    }

    /// Checks that the board can be painted; also applied to boards that were read from a file.
    pub fn check(&self) -> Result<(), BadBoard> {
        if !(1..=Letter::ALL.len()).contains(&self.strips.len()) {
            return Err(BadBoard::Strips(self.strips.len()));
        }
        self.ground.seen()?;
        for (i, strip) in self.strips.iter().enumerate() {
            if self.strips[..i].iter().any(|other| other.letter == strip.letter) {
                return Err(BadBoard::Twice(strip.letter));
            }
            for (n, layer) in strip.layers.iter().enumerate() {
                if layer.pot.is_empty() && !layer.technique.needs_no_pot() {
                    return Err(BadBoard::EmptyPot(layer.technique));
                }
                SavedMix::new(None, layer.pot.clone(), None)?;
                layer.check_film().map_err(|error| BadBoard::Film(i, n, error))?;
            }
            self.comes_from_the_ground(strip)?;
            let layers = self.layers(strip.letter).len();
            if layers > LAYERS {
                return Err(BadBoard::Layers(strip.letter, layers));
            }
        }
        Ok(())
    }

    fn comes_from_the_ground(&self, strip: &Strip) -> Result<(), BadBoard> {
        let mut at = strip;
        for _ in 0..self.strips.len() {
            let Some(branch) = at.from else { return Ok(()) };
            let below = self.strip(branch.strip);
            at = below.ok_or(BadBoard::NoSuchStrip(at.letter, branch.strip))?;
        }
        Err(BadBoard::Cycle(strip.letter))
    }

    /// All strips.
    pub fn strips(&self) -> &[Strip] {
        &self.strips
    }

    /// The strip with this letter.
    pub fn strip(&self, letter: Letter) -> Option<&Strip> {
        self.strips.iter().find(|strip| strip.letter == letter)
    }

    /// All layers of a strip from the ground up, shared ones first; empty if there is no such strip.
    pub fn layers(&self, letter: Letter) -> Vec<&Layer> {
        self.layers_within(letter, self.strips.len())
    }

    /// The layers of a strip through at most this many others: a valid board has no cycles, and an invalid one ends here.
    fn layers_within(&self, letter: Letter, strips: usize) -> Vec<&Layer> {
        let Some(strip) = self.strip(letter).filter(|_| strips > 0) else { return Vec::new() };
        let mut layers = strip.from.map_or_else(Vec::new, |branch| {
            let mut below = self.layers_within(branch.strip, strips - 1);
            below.truncate(branch.after);
            below
        });
        layers.extend(&strip.layers);
        layers
    }

    /// Films of a strip, for known tins and a hand with its bias in each technique.
    pub fn stack<'a>(
        &self,
        letter: Letter,
        tin: impl Fn(PaintId) -> Option<KnownTin<'a>>,
        habit: impl Fn(Technique) -> HandBias,
    ) -> Result<Stack, BadPaint> {
        Stack::of_layers(&self.ground, &self.layers(letter), tin, habit)
    }

    /// A board of one strip alone, as it was painted: shared layers become its own and hidden ones are dropped. `None` if
    /// there is no such strip.
    pub fn strip_alone(&self, letter: Letter) -> Option<Self> {
        self.strip(letter)?;
        let layers = self.layers(letter).into_iter().filter(|layer| !layer.muted).cloned().collect();
        Some(self.with_layers(letter, layers))
    }

    /// A board of one strip alone, with other layers.
    pub(super) fn with_layers(&self, letter: Letter, layers: Vec<Layer>) -> Self {
        let strips = vec![Strip { letter, from: None, layers }];
        Self { name: self.name.clone(), ground: self.ground, strips }
    }

    /// Replaces one tin with another.
    pub fn with_paint_replaced(mut self, gone: PaintId, kept: PaintId) -> Self {
        for layer in self.strips.iter_mut().flat_map(|strip| &mut strip.layers) {
            replace_paint(&mut layer.pot, gone, kept);
        }
        self
    }

    /// Tins that the board refers to.
    pub fn paints(&self) -> Vec<PaintId> {
        let pots = self.strips.iter().flat_map(|strip| &strip.layers).flat_map(|layer| &layer.pot);
        let mut paints: Vec<PaintId> = pots.map(|part| part.paint).collect();
        paints.sort_unstable();
        paints.dedup();
        paints
    }

    /// Mixes that the board refers to.
    pub fn mixes(&self) -> Vec<MixId> {
        let mut mixes: Vec<MixId> =
            self.strips.iter().flat_map(|strip| &strip.layers).filter_map(|layer| layer.mix).collect();
        mixes.sort_unstable();
        mixes.dedup();
        mixes
    }
}
