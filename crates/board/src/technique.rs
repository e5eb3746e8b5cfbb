//! Techniques, and what each leaves where.
//!
//! | technique | lays | field, recess, edge |
//! |---|---|---|
//! | coats | a closed film | alike |
//! | wiped glazes, washes, waxes | a closed film | little, much, next to none |
//! | stippled, ragged, patted | a broken film | more in recesses |
//! | dry brush, gilding | a broken film | on edges, none in recesses |
//! | sand-back, wet distress | takes away | on edges |
//!
//! Films and coverages are those of an average hand (common practice†); each painter's own are learned.

use std::borrow::Cow;

use serde::{Deserialize, Serialize};
use warm_blend_mixing::MixtureKind;
use warm_blend_paint::{BadMeasure, Class, Microns, hiding::COAT};

use super::{ByPlace, Grit, Place, Share, Soaks};

/// A technique that applies a layer or takes paint away.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Technique {
    /// A brushed coat.
    BrushedCoat,
    /// A rolled coat.
    RolledCoat,
    /// Texture paint, stippled.
    TextureCoat,
    /// A second colour worked into the wet one beside it and feathered.
    WetBlend,
    /// Colours tapped together in a slow clear glaze.
    MeshedGlaze,
    /// Glaze rolled on and broken up with a stippler.
    GlazeStippled,
    /// Glaze broken up with a rag.
    GlazeRagged,
    /// Ragged, then softened.
    GlazeRaggedSoftened,
    /// Glaze wiped off, so that it stays in recesses.
    GlazeWiped,
    /// Wash brushed on and wiped off.
    WashWiped,
    /// Wash patted with a cloth.
    WashPatted,
    /// Wash left to run down.
    WashDripped,
    /// Wash drawn into streaks with a dry brush.
    WashDragged,
    /// A nearly dry brush without pressure, across the relief.
    DryBrush,
    /// Watery paint over tacky clear wax, wiped to streaks.
    WetWaxResist,
    /// Tinted or dark wax, wiped.
    TintedWax,
    /// Metallic paint thinned to a wash.
    MetallicWash,
    /// Fine drops from a brush.
    Speckle,
    /// A pattern through a stencil, with a nearly dry brush.
    Stencil,
    /// Flecks knifed in wet.
    KnifeFlecks,
    /// Sanding through on the edges.
    SandBack,
    /// Rubbing through with a wet cloth.
    WetDistress,
    /// Clear wax, buffed.
    ClearWax,
    /// A clear coat.
    ClearCoat,
    /// Metallic wax applied by fingertip to high points.
    Gilding,
    /// Sanding smooth with fine paper, which wears nothing through. The more it is rubbed, the finer the grit, from 220
    /// to 1000.
    SmoothSand,
    /// Stain or toner on bare wood: soaks in, and the excess is wiped off.
    StainWiped,
    /// A pattern by hand, with a loaded pointed brush.
    Freehand,
}

/// Group of techniques, for choosing and for the rules of the trade.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Family {
    /// Closed coats of paint.
    Coat,
    /// Colours worked into each other.
    Blend,
    /// Glazes.
    Glaze,
    /// Washes of paint and water.
    Wash,
    /// Paint that catches on the relief, drops, patterns.
    Broken,
    /// Coloured waxes.
    Wax,
    /// Taking paint away.
    Wear,
    /// Clear seals.
    Seal,
    /// Colour within bare wood.
    Stain,
    /// Metal.
    Gild,
}

/// Wet film that a layer leaves and the share of the area it covers, by place. For a technique that takes paint away only
/// the shares count.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Deposit {
    /// Wet film where it lies, µm, 0.1 to 3000.
    pub film: ByPlace<Microns>,
    /// Share of the area covered, or taken away.
    pub cover: ByPlace<Share>,
}

/// A film that no technique leaves.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("film thickness: {0}; use 0.1 to 3000 µm, or set coverage to 0 for none")]
pub struct NotAFilm(BadMeasure);

/// How a technique is carried out: what a painter varies.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Application {
    /// Load of the brush relative to the usual, ¼ to 4.
    pub load: Load,
    /// Pressure when wiping, for what is wiped: 0 none, ½ usual, 1 as hard as possible.
    pub wipe: Share,
    /// Number of passes, 1 to 9.
    pub passes: Passes,
    /// Texture depth, if not the usual; see [`Technique::texture`].
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub texture: Option<TextureDepth>,
    /// Grit of the paper, if not the usual; see [`Technique::grit`].
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub grit: Option<Grit>,
}

/// Depth of a texture from tip to hollow, µm, 0 to 1000.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TextureDepth(f64);

/// A texture that no paint holds.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("texture depth: {0}; use 0 (smooth) to 1000 µm (1 mm peaks)")]
pub struct NotATexture(BadMeasure);

impl TextureDepth {
    /// Greatest depth, µm.
    pub const MOST: f64 = 1000.0;

    /// Accepts 0 to 1000 µm.
    pub fn new(depth: f64) -> Result<Self, NotATexture> {
        warm_blend_paint::quantity::in_range(depth, 0.0, Self::MOST).map(Self).map_err(NotATexture)
    }

    /// The number.
    pub const fn value(self) -> f64 {
        self.0
    }
}

impl TryFrom<f64> for TextureDepth {
    type Error = NotATexture;

    fn try_from(depth: f64) -> Result<Self, NotATexture> {
        Self::new(depth)
    }
}

impl From<TextureDepth> for f64 {
    fn from(depth: TextureDepth) -> f64 {
        depth.0
    }
}

/// ¼ to 4 times the usual.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Load(f64);

/// 1 to 9.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "u8", into = "u8")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Passes(u8);

/// An impossible number of passes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("{0} passes is out of range; use 1 to 9, or remove the layer")]
pub struct NotPasses(u8);

impl Load {
    /// Least load relative to the usual.
    pub const LEAST: f64 = 0.25;

    /// Accepts a quarter of the usual load to four times it.
    pub fn new(load: f64) -> Result<Self, BadMeasure> {
        warm_blend_paint::quantity::in_range(load, Self::LEAST, 4.0).map(Self)
    }

    /// The number.
    pub const fn value(self) -> f64 {
        self.0
    }
}

impl TryFrom<f64> for Load {
    type Error = BadMeasure;

    fn try_from(load: f64) -> Result<Self, BadMeasure> {
        Self::new(load)
    }
}

impl From<Load> for f64 {
    fn from(load: Load) -> f64 {
        load.0
    }
}

impl Passes {
    /// Accepts 1 to 9.
    pub fn new(passes: u8) -> Result<Self, NotPasses> {
        if (1..=9).contains(&passes) { Ok(Self(passes)) } else { Err(NotPasses(passes)) }
    }

    /// The number.
    pub const fn value(self) -> u8 {
        self.0
    }
}

impl TryFrom<u8> for Passes {
    type Error = NotPasses;

    fn try_from(passes: u8) -> Result<Self, NotPasses> {
        Self::new(passes)
    }
}

impl From<Passes> for u8 {
    fn from(passes: Passes) -> u8 {
        passes.0
    }
}

impl Default for Application {
    /// The usual way, once.
    fn default() -> Self {
        Self { load: Load(1.0), wipe: Share::of(0.5), passes: Passes(1), texture: None, grit: None }
    }
}

struct Row {
    id: &'static str,
    name: &'static str,
    family: Family,
    /// Film on field, recess and edge, µm.
    film: [f64; 3],
    /// Coverage of field, recess and edge.
    cover: [f64; 3],
    /// Wet film that roller, brush, cloth or finger applies before any of it is broken up or removed, µm.
    applied: [f64; 3],
    /// Share of the area to which it is applied.
    spread: [f64; 3],
    /// True if pressure when wiping decides how much stays.
    wiped: bool,
}

impl Row {
    /// The row if more is applied than stays.
    const fn from(self, applied: [f64; 3], spread: [f64; 3]) -> Self {
        Self { applied, spread, ..self }
    }
}

impl Technique {
    /// The usual technique for a kind of mixture, which determines its film.
    pub const fn usual_for(kind: MixtureKind) -> Self {
        match kind {
            MixtureKind::Paint => Technique::BrushedCoat,
            MixtureKind::Glaze | MixtureKind::Pearl => Technique::GlazeStippled,
            MixtureKind::Scumble | MixtureKind::DetailGlaze => Technique::GlazeWiped,
            MixtureKind::Wash => Technique::WashWiped,
            MixtureKind::TintedWax => Technique::TintedWax,
            MixtureKind::Texture => Technique::TextureCoat,
            MixtureKind::TintedSealer => Technique::ClearCoat,
        }
    }

    /// All techniques, in the order in which they are offered.
    pub const ALL: [Technique; 28] = [
        Technique::BrushedCoat,
        Technique::RolledCoat,
        Technique::TextureCoat,
        Technique::WetBlend,
        Technique::MeshedGlaze,
        Technique::GlazeStippled,
        Technique::GlazeRagged,
        Technique::GlazeRaggedSoftened,
        Technique::GlazeWiped,
        Technique::StainWiped,
        Technique::WashWiped,
        Technique::WashPatted,
        Technique::WashDripped,
        Technique::WashDragged,
        Technique::DryBrush,
        Technique::WetWaxResist,
        Technique::MetallicWash,
        Technique::Speckle,
        Technique::Stencil,
        Technique::Freehand,
        Technique::KnifeFlecks,
        Technique::TintedWax,
        Technique::SandBack,
        Technique::WetDistress,
        Technique::ClearWax,
        Technique::ClearCoat,
        Technique::Gilding,
        Technique::SmoothSand,
    ];

    /// Table of an average hand†: common practice.
    const fn row(self) -> Row {
        use Family::{Blend, Broken, Coat, Gild, Glaze, Seal, Stain, Wash, Wax, Wear};
        const fn laid(
            id: &'static str,
            name: &'static str,
            family: Family,
            film: [f64; 3],
            cover: [f64; 3],
        ) -> Row {
            Row { id, name, family, film, cover, applied: film, spread: cover, wiped: false }
        }
        const fn wiped(
            id: &'static str,
            name: &'static str,
            family: Family,
            film: [f64; 3],
            applied: [f64; 3],
        ) -> Row {
            Row { id, name, family, film, cover: ALL, applied, spread: ALL, wiped: true }
        }
        const fn worn(id: &'static str, name: &'static str, share: [f64; 3]) -> Row {
            laid(id, name, Wear, [0.0; 3], share)
        }
        const ALL: [f64; 3] = [1.0; 3];
        const GLAZE: [f64; 3] = [60.0, 80.0, 45.0];
        const WASH: [f64; 3] = [68.0, 80.0, 50.0];
        const WAX: [f64; 3] = [40.0, 60.0, 30.0];
        const STAIN: [f64; 3] = [75.0, 80.0, 70.0];
        match self {
            Self::BrushedCoat => laid("brushed-coat", "Brushed coat", Coat, [COAT, 110.0, 70.0], ALL),
            Self::RolledCoat => laid("rolled-coat", "Rolled coat", Coat, [60.0, 45.0, 50.0], ALL),
            Self::TextureCoat => laid("texture-coat", "Texture coat", Coat, [400.0, 500.0, 250.0], ALL),
            Self::WetBlend => laid("wet-blend", "Feathered wet blend", Blend, [60.0, 60.0, 45.0], [0.5; 3]),
            Self::MeshedGlaze => {
                laid("meshed-glaze", "Glaze blend", Blend, [40.0, 55.0, 20.0], [0.5; 3]).from(GLAZE, [0.5; 3])
            }
            Self::GlazeStippled => {
                laid("glaze-stippled", "Stippled glaze", Glaze, [40.0, 60.0, 20.0], [0.96, 0.98, 0.85])
                    .from(GLAZE, ALL)
            }
            Self::GlazeRagged => {
                laid("glaze-ragged", "Ragged glaze", Glaze, [36.0, 55.0, 12.0], [0.55, 0.8, 0.4])
                    .from(GLAZE, ALL)
            }
            Self::GlazeRaggedSoftened => laid(
                "glaze-ragged-softened",
                "Ragged and softened glaze",
                Glaze,
                [30.0, 52.0, 10.0],
                [0.72, 0.86, 0.5],
            )
            .from(GLAZE, ALL),
            Self::GlazeWiped => wiped("glaze-wiped", "Wiped glaze", Glaze, [2.5, 60.0, 0.7], GLAZE),
            Self::StainWiped => wiped("stain-wiped", "Stain or toner, wiped", Stain, [2.0, 8.0, 1.0], STAIN),
            Self::WashWiped => wiped("wash-wiped", "Wiped wash", Wash, [15.0, 45.0, 5.0], WASH),
            Self::WashPatted => {
                laid("wash-patted", "Patted wash", Wash, [15.0, 45.0, 6.0], [0.7, 0.9, 0.5]).from(WASH, ALL)
            }
            Self::WashDripped => {
                laid("wash-dripped", "Dripped wash", Wash, [20.0, 40.0, 10.0], [0.25, 0.45, 0.15])
            }
            Self::WashDragged => {
                laid("wash-dragged", "Dragged wash", Wash, [15.0, 40.0, 6.0], [0.6, 0.8, 0.5]).from(WASH, ALL)
            }
            Self::DryBrush => laid("dry-brush", "Dry brush", Broken, [25.0; 3], [0.2, 0.02, 0.45]),
            Self::WetWaxResist => {
                laid("wet-wax-resist", "Wet-wax resist", Broken, [25.0, 40.0, 15.0], [0.45, 0.7, 0.3])
                    .from(WASH, ALL)
            }
            Self::MetallicWash => {
                laid("metallic-wash", "Metallic wash", Wash, [10.0, 30.0, 4.0], [0.8, 0.95, 0.5])
                    .from(WASH, ALL)
            }
            Self::Speckle => laid("speckle", "Speckle", Broken, [30.0; 3], [0.04, 0.03, 0.04]),
            Self::Stencil => laid("stencil", "Stencil", Broken, [20.0, 20.0, 15.0], [0.3, 0.02, 0.1]),
            Self::Freehand => laid("freehand", "Painted by hand", Broken, [70.0; 3], [0.15, 0.02, 0.05]),
            Self::KnifeFlecks => {
                laid("knife-flecks", "Knifed-in flecks", Broken, [150.0; 3], [0.25, 0.1, 0.2])
            }
            Self::TintedWax => wiped("tinted-wax", "Tinted wax", Wax, [2.0, 40.0, 1.0], WAX),
            Self::SandBack => worn("sand-back", "Sand back", [0.03, 0.0, 0.9]),
            Self::SmoothSand => worn("smooth-sand", "Sanded smooth", [0.0, 0.0, 0.0]),
            Self::WetDistress => worn("wet-distress", "Wet distressing", [0.03, 0.0, 0.6]),
            Self::ClearWax => laid("clear-wax", "Clear wax", Seal, [6.0, 15.0, 3.0], ALL).from(WAX, ALL),
            Self::ClearCoat => laid("clear-coat", "Clear coat", Seal, [70.0, 90.0, 50.0], ALL),
            Self::Gilding => laid("gilding", "Gilding wax", Gild, [60.0; 3], [0.02, 0.0, 0.45]),
        }
    }

    /// `glaze-wiped` …
    pub const fn id(self) -> &'static str {
        self.row().id
    }

    /// `Wiped glaze` …
    pub const fn name(self) -> &'static str {
        self.row().name
    }

    /// Family that the technique belongs to.
    pub const fn family(self) -> Family {
        self.row().family
    }

    /// True if it takes paint away.
    pub const fn takes_away(self) -> bool {
        matches!(self.family(), Family::Wear)
    }

    /// Where its colour goes on a bare surface (common practice): wax into everything, what is worked in wet into wood.
    /// How much of a wash or glaze bare paint absorbs is part of its film.
    pub const fn soaks(self) -> Soaks {
        match self.family() {
            Family::Wax | Family::Stain => Soaks::IntoPores,
            Family::Glaze | Family::Wash => Soaks::IntoWood,
            Family::Coat | Family::Blend | Family::Broken | Family::Wear | Family::Seal | Family::Gild => {
                Soaks::Nowhere
            }
        }
    }

    /// True if it wears through to what lies below rather than only smoothing it.
    pub const fn wears_through(self) -> bool {
        self.takes_away() && !matches!(self, Self::SmoothSand)
    }

    /// How it is carried out, where that is not the usual way: `hardly any paint on the brush`.
    pub fn how(self, hand: Application) -> Option<&'static str> {
        let (load, wipe) = (hand.load.0, hand.wipe.value());
        match (self.is_wiped(), self.takes_away()) {
            (true, _) if wipe < 0.4 => Some("wiped lightly"),
            (true, _) if wipe > 0.6 => Some("wiped hard"),
            (false, true) if load < 0.75 => Some("rubbed briefly"),
            (false, true) if load > 1.5 => Some("rubbed for long"),
            _ if self == Self::Stencil && wipe > 0.5 => Some("wiped back while it is wet"),
            (false, false) if load < 0.75 => Some("hardly any paint on the brush"),
            (false, false) if load > 1.5 => Some("a full brush"),
            _ => None,
        }
    }

    /// True if it leaves a pattern of motifs.
    pub const fn is_a_pattern(self) -> bool {
        matches!(self, Self::Stencil | Self::Freehand)
    }

    /// True if what was applied is wiped off again.
    pub fn is_wiped(self) -> bool {
        self.row().wiped
    }

    /// Usual depth of the texture, µm from tip to hollow†; `None` if the painter has no control over it and the surface
    /// follows what lies below.
    pub const fn texture(self) -> Option<f64> {
        match self {
            Technique::TextureCoat => Some(250.0),
            Technique::KnifeFlecks => Some(80.0),
            // The usual texture of a brush or stencil is buried by the next coat.
            Technique::BrushedCoat | Technique::Stencil => Some(0.0),
            _ => None,
        }
    }

    /// Usual grit of the paper; `None` if it needs no paper, or works with any.
    pub const fn grit(self) -> Option<Grit> {
        match self {
            Technique::SmoothSand => Some(Grit::P320),
            _ => None,
        }
    }

    /// Grit of the paper when carried out like this.
    pub fn grit_of(self, hand: Application) -> Option<Grit> {
        self.grit().map(|usual| hand.grit.unwrap_or(usual))
    }

    /// Name when carried out like this: `Sanded smooth, 320 grit`; otherwise its plain name.
    pub fn named(self, hand: Application) -> Cow<'static, str> {
        match self.grit_of(hand) {
            Some(grit) => format!("{}, {} grit", self.name(), grit.number()).into(),
            None => self.name().into(),
        }
    }

    /// How far smoothing like this lowers the ridges of a texture, µm: a share of the grain diameter at each rub.
    pub fn planes(self, hand: Application) -> f64 {
        let rubs = hand.load.0 * f64::from(hand.passes.0);
        self.grit_of(hand).map_or(0.0, |grit| PLANED * grit.grain() * rubs)
    }

    /// True if it needs no pot: clear wax, a clear coat, and what takes paint away.
    pub const fn needs_no_pot(self) -> bool {
        matches!(self.family(), Family::Wear | Family::Seal)
    }

    /// The product used if its pot is empty.
    pub const fn product(self) -> Option<Class> {
        match self {
            Technique::ClearWax => Some(Class::ClearWax),
            Technique::ClearCoat => Some(Class::ClearCoat),
            _ => None,
        }
    }

    /// True if nothing can follow on the same day, whatever is in the pot (common practice†): heavy washes, and anything
    /// left standing.
    pub fn dries_overnight(self, hand: Application) -> bool {
        matches!(self, Technique::TextureCoat | Technique::KnifeFlecks | Technique::WashDripped)
            || self.rough(hand).value() >= STANDS
    }

    /// Deposit when carried out as usual.
    pub fn usual(self) -> Deposit {
        let row = self.row();
        let of = |values: [f64; 3]| move |place: Place| values[place as usize];
        Deposit {
            film: ByPlace::from_fn(|place| Microns::of(of(row.film)(place))),
            cover: ByPlace::from_fn(|place| Share::of(of(row.cover)(place))),
        }
    }

    /// Deposit when carried out like this.
    ///
    /// Film is proportional to load; for a technique that takes paint away, load is the time spent rubbing. Wiping harder
    /// reduces the film by ratio: everything stays at 0, the usual amount at ½, and values between and beyond lie evenly
    /// on a logarithmic scale. Each pass adds its film; if one pass covers a random share c, n passes cover 1 − (1 − c)ⁿ,
    /// with n times the paint. A coat applied too thick at once cracks as it shrinks and shows what is below; another
    /// coat closes it.
    pub fn print(self, hand: Application) -> Deposit {
        let (row, usual) = (self.row(), self.usual());
        let n = f64::from(hand.passes.0);
        let often = if self.takes_away() { n * hand.load.0 } else { n };
        let cracks = |place: Place| self.cracks(usual.film.at(place).value() * hand.load.0);
        let once = |place: Place| usual.cover.at(place).value() * (1.0 - cracks(place));
        let cover = ByPlace::from_fn(|place| Share::of(1.0 - (1.0 - once(place)).powf(often)));
        let film = ByPlace::from_fn(|place| {
            let (film, unwiped) = (usual.film.at(place).value(), row.applied[place as usize]);
            let left = match row.wiped {
                true if film > 0.0 => (unwiped / film).powf(1.0 - 2.0 * hand.wipe.value()),
                _ => 1.0,
            };
            // The rest of the coat is drawn together by the cracks.
            let all = usual.cover.at(place).value();
            let thicker = if all > 0.0 { n * all / cover.at(place).value() } else { n };
            Microns::of((film * left * hand.load.0 * thicker).min(Deposit::THICKEST))
        });
        Deposit { film, cover }
    }
}

impl Technique {
    /// Share of the area opened by cracks if a wet film this thick is applied at once†: thick paint dries from the
    /// outside and tears. Powder holds a texture together.
    fn cracks(self, film: f64) -> f64 {
        let from = match (self, self.family()) {
            (Technique::TextureCoat, _) => TEXTURE_CRACKS,
            (_, Family::Coat) => COAT_CRACKS,
            _ => return 0.0,
        };
        MOST_CRACKS * (1.0 - from / film).max(0.0)
    }

    /// Mean wet film applied at each place, µm over its whole area: what roller, brush, cloth or finger lays down before
    /// any of it is ragged, stippled, wiped or patted. Determines amounts, drying and cost; colour follows what stays
    /// ([`Technique::print`]).
    pub fn applied(self, hand: Application) -> ByPlace<Microns> {
        let row = self.row();
        // The usual texture is included in the usual film.
        let rougher = (self.rough(hand).value() - self.texture().unwrap_or(0.0)).max(0.0);
        ByPlace::from_fn(|place| {
            let (film, spread) = (row.applied[place as usize], row.spread[place as usize]);
            let once = (film * hand.load.0 + ROUGH_TAKES * rougher) * spread;
            Microns::of(if self.takes_away() { 0.0 } else { f64::from(hand.passes.0) * once })
        })
    }

    /// Mean wet film applied, µm, to a surface with these shares of field, recess and edge; for a flat board,
    /// [`crate::FLAT`].
    pub fn applied_over(self, hand: Application, shares: &ByPlace<f64>) -> Microns {
        let applied = self.applied(hand);
        Microns::of(Place::ALL.iter().map(|place| applied.at(*place).value() * shares.at(*place)).sum())
    }

    /// Amount for a square metre, ml, including what stays in brush and tray. Pot, board and run sheet all use it.
    pub fn ml_by_square_metre(self, hand: Application, shares: &ByPlace<f64>) -> f64 {
        warm_blend_mixing::per_square_metre(self.applied_over(hand, shares))
    }

    /// True if it is usually worked into the wet layer below rather than applied to a dry one (common practice).
    pub const fn goes_into_wet(self) -> bool {
        matches!(self, Self::WetBlend | Self::MeshedGlaze | Self::KnifeFlecks | Self::WetWaxResist)
    }

    /// True if it can be worked into a wet layer: anything except texture, waxes, seals, metal and what takes paint away.
    pub const fn can_go_into_wet(self) -> bool {
        !matches!(self, Self::TextureCoat)
            && matches!(
                self.family(),
                Family::Coat | Family::Blend | Family::Glaze | Family::Wash | Family::Broken
            )
    }

    /// Depth of the texture that the technique gives its film, µm from peak to valley.
    pub fn rough(self, hand: Application) -> Microns {
        let usual = self.texture();
        Microns::of(usual.map_or(0.0, |usual| hand.texture.map_or(usual, TextureDepth::value)))
    }
}

/// Wet films from which a coat and a texture crack, µm, and the greatest share of cracks†: in recesses, where paint lies
/// thickest, with half as much again on the brush.
const COAT_CRACKS: f64 = 165.0;
const TEXTURE_CRACKS: f64 = 750.0;
const MOST_CRACKS: f64 = 0.2;
/// Texture from which strokes stand up and dry slowly, µm†.
const STANDS: f64 = 100.0;
/// Height that paper takes off ridges in one usual rub, as a share of its grain†.
const PLANED: f64 = 0.25;
/// Additional paint for a rough film, as a share of its depth: tips stand above hollows†.
const ROUGH_TAKES: f64 = 0.5;

impl Deposit {
    /// Greatest film of a layer, µm.
    pub(super) const THICKEST: f64 = 3000.0;

    /// Accepts a film of 0.1 µm to 3 mm.
    pub fn film(microns: f64) -> Result<Microns, NotAFilm> {
        warm_blend_paint::quantity::in_range(microns, 0.1, Self::THICKEST).map(Microns::of).map_err(NotAFilm)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::FLAT;
    use proptest::prelude::*;

    fn technique() -> impl Strategy<Value = Technique> {
        proptest::sample::select(Technique::ALL.to_vec())
    }

    fn hand(load: f64, wipe: f64, passes: u8) -> Application {
        Application {
            load: Load::new(load).unwrap(),
            wipe: Share::new(wipe).unwrap(),
            passes: Passes::new(passes).unwrap(),
            texture: None,
            grit: None,
        }
    }

    #[test]
    fn as_usual_is_what_the_table_says() {
        for technique in Technique::ALL {
            let (usual, done) = (technique.usual(), technique.print(Application::default()));
            for place in Place::ALL {
                assert!((usual.film.at(place).value() - done.film.at(place).value()).abs() < 1e-9);
                assert!((usual.cover.at(place).value() - done.cover.at(place).value()).abs() < 1e-12);
            }
            assert_eq!(serde_json::to_string(&technique).unwrap(), format!("\"{}\"", technique.id()));
        }
    }

    proptest! {
        #[test]
        fn a_firmer_wipe_never_leaves_more(technique in technique(), wipe in 0.0..0.9f64, more in 0.0..0.1f64) {
            let left = |wipe| technique.print(hand(1.0, wipe, 1));
            for place in Place::ALL {
                prop_assert!(left(wipe + more).film.at(place).value() <= left(wipe).film.at(place).value() * (1.0 + 1e-12));
            }
        }

        /// What is on the surface, film times share, is as much as all passes laid.
        #[test]
        fn passes_add_up(technique in technique(), passes in 1u8..=9) {
            let laid = |passes| {
                let print = technique.print(hand(1.0, 0.5, passes));
                ByPlace::from_fn(|place| print.film.at(place).value() * print.cover.at(place).value())
            };
            for place in Place::ALL {
                let wanted = f64::from(passes) * laid(1).at(place);
                prop_assert!(*laid(passes).at(place) <= wanted + 1e-9);
                prop_assert!((laid(passes).at(place) - wanted).abs() < 1e-9 || technique == Technique::TextureCoat);
            }
        }
    }

    proptest! {
        /// A coat as it is usually put on is closed; the thicker it is put on at once, the more it cracks; the same paint in two coats
        /// cracks less; and there is as much paint on the surface.
        #[test]
        fn thick_coats_crack(
            technique in proptest::sample::select(vec![Technique::BrushedCoat, Technique::RolledCoat, Technique::TextureCoat]),
            load in 0.25..=3.9f64,
            more in 0.0..0.1f64,
        ) {
            let laid = |load, passes| technique.print(hand(load, 0.5, passes));
            for place in Place::ALL {
                let open = |print: &Deposit| 1.0 - print.cover.at(place).value();
                prop_assert_eq!(open(&laid(1.0, 1)), 0.0);
                prop_assert!(open(&laid(load + more, 1)) >= open(&laid(load, 1)));
                if load >= 0.5 {
                    prop_assert!(open(&laid(0.5 * load, 2)) <= open(&laid(load, 1)));
                }
                let (thick, paint) = (laid(load, 1), load * technique.usual().film.at(place).value());
                prop_assert!((thick.film.at(place).value() * thick.cover.at(place).value() - paint).abs() < 1e-9);
            }
        }
    }

    /// A tin of half a litre of wax covers some 12 m² however little of it stays, a litre of paint 11; a wall-type glaze takes 60 to
    /// 70 ml/m² before it is broken, wax 40 to 50, a wash 75, with what stays in tray and brush (common practice).
    #[test]
    fn what_is_wiped_off_is_used_up_too() {
        use Technique::*;
        let flat = |technique: Technique| technique.applied_over(Application::default(), &FLAT).value();
        assert!((10.0..15.0).contains(&(500.0 / flat(TintedWax))));
        assert!((10.0..13.0).contains(&(1000.0 / flat(BrushedCoat))));
        let bought = |technique| warm_blend_mixing::per_square_metre(Microns::of(flat(technique)));
        for glaze in [GlazeStippled, GlazeRagged, GlazeRaggedSoftened, GlazeWiped] {
            assert!((60.0..=70.0).contains(&bought(glaze)), "{glaze:?}: {}", bought(glaze));
        }
        assert!((40.0..=50.0).contains(&bought(ClearWax)) && (40.0..=50.0).contains(&bought(TintedWax)));
        assert!((70.0..=80.0).contains(&bought(WashWiped)) && (70.0..=80.0).contains(&bought(WashPatted)));
        for technique in Technique::ALL {
            let wiped_hard = technique.applied_over(hand(1.0, 1.0, 1), &FLAT).value();
            assert_eq!(flat(technique), wiped_hard, "whatever is wiped");
        }
    }

    proptest! {
        /// No more stays than was applied, at any place, however it is done.
        #[test]
        fn no_more_stays_than_is_applied(technique in technique(), load in 0.25..=4.0f64, wipe in 0.0..=1.0f64, passes in 1u8..=9) {
            let hand = hand(load, wipe, passes);
            let (print, applied) = (technique.print(hand), technique.applied(hand));
            prop_assume!(!technique.takes_away());
            for place in Place::ALL {
                let stays = print.film.at(place).value() * print.cover.at(place).value();
                prop_assert!(stays <= applied.at(place).value() * (1.0 + 1e-9), "{technique:?} {place:?}");
            }
        }
    }

    proptest! {
        /// Ridges take more paint than an even film, and never less the higher they stand.
        #[test]
        fn rough_films_take_more(technique in technique(), depth in 0.0..900.0f64, more in 0.0..100.0f64) {
            let of = |depth: f64| Application { texture: Some(TextureDepth::new(depth).unwrap()), ..Application::default() };
            prop_assert!(technique.applied_over(of(depth + more), &FLAT) >= technique.applied_over(of(depth), &FLAT));
            prop_assert_eq!(technique.rough(of(depth)).value() > 0.0, technique.texture().is_some() && depth > 0.0);
        }
    }

    #[test]
    fn textures_that_cannot_be_are_refused() {
        for bad in [-1.0, 1001.0, f64::NAN, f64::INFINITY] {
            assert!(TextureDepth::new(bad).unwrap_err().to_string().contains("0 (smooth)"));
            assert!(serde_json::from_str::<TextureDepth>(&bad.to_string()).is_err());
        }
        // Boards from before there was texture are as they were.
        let old: Application = serde_json::from_str(r#"{"load":1.0,"wipe":0.5,"passes":2}"#).unwrap();
        assert_eq!(old.texture, None);
        assert!(!serde_json::to_string(&old).unwrap().contains("texture"));
    }

    #[test]
    fn films_that_cannot_be_are_refused() {
        for bad in [0.0, -1.0, 10_000.0, f64::NAN, f64::INFINITY] {
            assert!(Deposit::film(bad).unwrap_err().to_string().contains("coverage to 0"));
        }
        assert!(Load::new(0.0).is_err() && Passes::new(0).is_err() && Share::new(1.1).is_err());
    }
}
