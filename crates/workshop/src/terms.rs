//! Terms of the trade and of colour, each in two sentences and a small picture made from the painter's own tins.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Application, Place, Technique};
use warm_blend_learn::Ensemble;
use warm_blend_mixing::{MixtureKind, Preset, SHADE};
use warm_blend_paint::{
    Class, Drawdown, Look, Masstone, Material, Microns, Parts, Undersurface, chart_black, hiding::COAT, mix,
};
use warm_blend_spectral::{Lab, Light, OnScreen, Reflectance, Srgb, difference};

use crate::pane::{Pane, hex, pane, shown as code};
use crate::{Refusal, ShelfSnapshot};

/// A term with its explanation.
#[derive(Debug, Serialize, ToSchema)]
pub struct TermView {
    /// Identifier.
    pub term: Term,
    /// The term.
    pub name: &'static str,
    /// What it means, in two sentences.
    pub words: &'static str,
    /// Panes of its picture, side by side.
    pub panes: Vec<Pane>,
}

/// A term that is explained where it appears.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, ToSchema, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
pub enum Term {
    /// Colour of a thick film.
    Masstone,
    /// Colour of a thin film over white.
    Undertone,
    /// Effect of a paint in a mix.
    TintStrength,
    /// Step of lightness.
    Shade,
    /// Colour in a slow clear medium.
    Glaze,
    /// Colour in water.
    Wash,
    /// Colour in scumble medium.
    Scumble,
    /// Groove or corner.
    Recess,
    /// Difference of two colours.
    DeltaE,
    /// How far off a prediction may be.
    Band,
    /// Border at which work goes on.
    WetEdge,
    /// Paint rolled on and paint that stays.
    AppliedAndLeft,
    /// Colour from thick to thin over black and white.
    Drawdown,
    /// Coats until the ground no longer shows.
    CoatsToCover,
    /// Colours without a name of their own.
    Mud,
}

impl Term {
    /// The term that explains a kind of mixture.
    pub(crate) const fn of(kind: MixtureKind) -> Option<Self> {
        match kind {
            MixtureKind::Glaze | MixtureKind::DetailGlaze | MixtureKind::Pearl => Some(Self::Glaze),
            MixtureKind::Scumble => Some(Self::Scumble),
            MixtureKind::Wash => Some(Self::Wash),
            _ => None,
        }
    }

    /// The term, and what it means.
    const fn words(self) -> (&'static str, &'static str) {
        match self {
            Self::Masstone => (
                "masstone",
                "The colour of a paint where it is thick enough that nothing shows through. It is what you see on the lid.",
            ),
            Self::Undertone => (
                "undertone",
                "The colour a paint shows when it is thin over white. It can surprise: a grey may turn out brown.",
            ),
            Self::TintStrength => (
                "tint strength",
                "How much a paint changes what it is mixed with. One part of a strong colour does what four parts of a weak one do.",
            ),
            Self::Shade => (
                "shade",
                "One step lighter or darker, 6 units of lightness. Three to five steps make a glaze that shows without shouting.",
            ),
            Self::Glaze => (
                "glaze",
                "Paint in a clear, slow medium, brushed on and then broken with a brush, rag or cloth. The base shows through it.",
            ),
            Self::Wash => (
                "wash",
                "Paint let down with water, brushed on and wiped or patted. It stays in the grooves and tints the rest.",
            ),
            Self::Scumble => (
                "scumble",
                "Paint in scumble medium, which keeps it wet long enough to work. On mouldings the high points are wiped clean.",
            ),
            Self::Recess => (
                "recess",
                "Grooves, carving and corners, where wiped layers and wax stay. Edges lose them first.",
            ),
            Self::DeltaE => (
                "ΔE00",
                "The standard number for how different two colours look. Below 1 nobody notices; 3 shows side by side; 6 is another colour.",
            ),
            Self::Band => (
                "±",
                "How far off a prediction may be. In nine mixes of ten, the real colour lies within it.",
            ),
            Self::WetEdge => (
                "wet edge",
                "The border where you go on before it dries. If it dries first, the overlap is a double film and shows as a stripe.",
            ),
            Self::AppliedAndLeft => (
                "applied and left",
                "What you brush on, and what stays after wiping or ragging. You buy the first and see the second.",
            ),
            Self::Drawdown => (
                "drawdown",
                "A paint drawn out from thick to thin over a strip of white and a strip of black. It shows masstone, undertone and hiding at once.",
            ),
            Self::CoatsToCover => (
                "coats to cover",
                "Brushed coats until black and white no longer show through. The first coat over a dark ground is never the colour.",
            ),
            Self::Mud => (
                "mud",
                "What two colours turn into when each takes the life out of the other. Keep their brushes apart, or set a third colour between them.",
            ),
        }
    }
}

/// The paints of a picture.
struct Palette {
    white: Material,
    base: Material,
    strong: Material,
    /// The least known tin.
    doubtful: Option<Ensemble>,
}

/// Wet film of a brush that went over the same place with a dry edge: twice the film.
const LAP: f64 = 2.0;

fn face(material: &Material) -> String {
    hex(&material.swatch_reflectance())
}

/// A chalk-type paint of a colour.
fn plain(code: [u8; 3]) -> Result<Material, Refusal> {
    let [red, green, blue] = code;
    Material::of(Class::Chalk, Some(Masstone::Hex(Srgb { red, green, blue })), None)
        .map_err(|_| Refusal::Broken)
}

/// Two materials in these parts.
fn stirred(one: (f64, &Material), other: (f64, &Material)) -> Result<Material, Refusal> {
    mix(&[(Parts::of(one.0), one.1), (Parts::of(other.0), other.1)]).map_err(|_| Refusal::Broken)
}

impl Palette {
    fn of(shelf: &ShelfSnapshot) -> Result<Self, Refusal> {
        let tins: Vec<&Ensemble> = shelf
            .tins()
            .filter(|tin| !tin.value.class.is_medium())
            .map(|tin| shelf.paint(tin.id))
            .collect::<Result<_, _>>()?;
        let lab = |tin: &&Ensemble| Look::default().face(tin.best()).lab;
        let nearest = |l: f64| {
            let off = |tin: &&&Ensemble| ((lab(tin).l - l).abs() * 1e6) as i64;
            tins.iter()
                .min_by_key(off)
                .filter(|tin| (lab(tin).l - l).abs() < 18.0)
                .map(|tin| tin.best().clone())
        };
        let white = shelf.house_white().and_then(|white| Some(shelf.paint(white.0).ok()?.best().clone()));
        let strong = tins.iter().filter(|tin| lab(tin).l < 55.0);
        let strong = strong.max_by(|one, other| lab(one).chroma().total_cmp(&lab(other).chroma()));
        let worst = tins.iter().max_by(|one, other| {
            one.doubt(Light::Daylight).within.total_cmp(&other.doubt(Light::Daylight).within)
        });
        Ok(Self {
            white: white.map_or_else(|| plain([0xf0, 0xed, 0xe6]), Ok)?,
            base: nearest(72.0).map_or_else(|| plain([0xb8, 0xb4, 0xa0]), Ok)?,
            strong: strong.map_or_else(|| plain([0x2f, 0x4d, 0x6b]), |tin| Ok(tin.best().clone()))?,
            doubtful: worst.map(|tin| (*tin).clone()),
        })
    }

    /// The strong colour made into a usual mixture, with the technique that usually lays it.
    fn mixture(&self, preset: &str) -> Result<(Material, Technique), Refusal> {
        let preset = Preset::find(preset).ok_or(Refusal::Broken)?;
        let mut parts = vec![(Parts::of(f64::from(preset.paint)), self.strong.clone())];
        let mut classes = vec![(Class::Chalk, f64::from(preset.paint))];
        for (class, n) in preset.mediums {
            let medium = Material::of(*class, None, None).map_err(|_| Refusal::Broken)?;
            parts.push((Parts::of(f64::from(*n)), medium));
            classes.push((*class, f64::from(*n)));
        }
        let parts: Vec<(Parts, &Material)> = parts.iter().map(|(parts, of)| (*parts, of)).collect();
        let mixed = mix(&parts).map_err(|_| Refusal::Broken)?;
        Ok((mixed, Technique::usual_for(MixtureKind::of(&classes))))
    }

    /// A mixture over the base at each place, as the painter's hand leaves it: edge, flat, recess.
    fn laid(&self, shelf: &ShelfSnapshot, preset: &str) -> Result<Vec<String>, Refusal> {
        let (mixed, technique) = self.mixture(preset)?;
        let ground = self.base.optics.thick();
        let bare = self.base.swatch_reflectance();
        let deposit = shelf.hands().habit(technique).print(&technique.usual());
        let at = |place: Place| {
            let film = mixed.film(*deposit.film.at(place), &ground);
            let cover = deposit.cover.at(place).value();
            hex(&Reflectance::from_fn(|band| cover * film.bands()[band] + (1.0 - cover) * bare.bands()[band]))
        };
        Ok([Place::Edge, Place::Field, Place::Recess].map(at).into())
    }

    fn film(&self, of: &Material, microns: f64, over: &Undersurface) -> String {
        hex(&of.film(Microns::of(microns), over))
    }

    fn panes(&self, term: Term, shelf: &ShelfSnapshot) -> Result<Vec<Pane>, Refusal> {
        let ground = self.base.optics.thick();
        let base = || pane("base alone", vec![face(&self.base)]);
        let layer =
            |preset, words: &str| Ok::<_, Refusal>(vec![base(), pane(words, self.laid(shelf, preset)?)]);
        Ok(match term {
            Term::Masstone => vec![pane("thick", vec![face(&self.strong)])],
            Term::Undertone => {
                let Drawdown { over_white, .. } = Drawdown::of(&self.strong, Light::Daylight);
                let stops = over_white.iter().step_by(3).map(|stop| stop.srgb.to_string());
                vec![pane("thick to thin over white", stops.collect())]
            }
            Term::Drawdown => {
                let Drawdown { over_white, over_black } = Drawdown::of(&self.strong, Light::Daylight);
                let codes = |stops: &[OnScreen]| {
                    stops.iter().step_by(3).map(|stop| stop.srgb.to_string()).collect::<Vec<_>>()
                };
                vec![Pane {
                    words: "thick to thin, over white and black".to_owned(),
                    cells: codes(&over_white),
                    below: codes(&over_black),
                }]
            }
            Term::TintStrength => {
                // A quarter of the strength.
                let weak = self.strong.stronger(-4f64.ln());
                let tint =
                    |of: &Material| Ok::<_, Refusal>(vec![face(&stirred((1.0, of), (4.0, &self.white))?)]);
                vec![pane("strong, 1 : 4 with white", tint(&self.strong)?), pane("weak, 1 : 4", tint(&weak)?)]
            }
            Term::Shade => {
                let at = Look::default().face(&self.base).lab;
                let rung = |n: i32| code(Lab { l: at.l + f64::from(n) * SHADE, ..at });
                vec![pane("three shades down to three up", (-3..=3).map(rung).collect())]
            }
            Term::Glaze => layer("wall-glaze", "under a glaze: edge, flat, recess")?,
            Term::Wash => layer("wash", "under a wash: edge, flat, recess")?,
            Term::Scumble => layer("scumble", "under scumble: edge, flat, recess")?,
            Term::Recess => vec![pane("edge, flat, recess", self.laid(shelf, "scumble")?)],
            Term::DeltaE => {
                let at = Look::default().face(&self.base).lab;
                let pair =
                    |far: f64| pane(format!("{far:.0} apart"), vec![code(at), code(darker_by(at, far))]);
                vec![pair(1.0), pair(3.0), pair(6.0)]
            }
            Term::Band => {
                let halo =
                    self.doubtful.as_ref().map(|tin| tin.doubt(Light::Daylight).halo).unwrap_or_default();
                let mut cells: Vec<String> = halo.iter().map(hex).collect();
                if let Some(tin) = &self.doubtful {
                    cells.insert(cells.len() / 2, face(tin.best()));
                }
                vec![pane("what it may turn out to be", cells)]
            }
            Term::WetEdge => {
                let (glaze, technique) = self.mixture("wall-glaze")?;
                let film = technique.usual().film.field.value();
                let once = self.film(&glaze, film, &ground);
                let twice = self.film(&glaze, LAP * film, &ground);
                vec![
                    pane("kept wet", vec![once.clone(), once.clone(), once.clone()]),
                    pane("gone dry", vec![once.clone(), twice, once]),
                ]
            }
            Term::AppliedAndLeft => {
                let (wash, technique) = self.mixture("wash")?;
                let hand = Application::default();
                let applied = technique.applied(hand).field.value();
                let left = technique.print(hand).film.field.value();
                vec![
                    pane("brushed on", vec![self.film(&wash, applied, &ground)]),
                    pane("left after wiping", vec![self.film(&wash, left, &ground)]),
                ]
            }
            Term::CoatsToCover => {
                let coats = [1.0, 2.0, 3.0];
                let over = |coats: f64| self.film(&self.white, coats * COAT, chart_black());
                vec![pane("one, two and three coats of white over black", coats.map(over).into())]
            }
            Term::Mud => {
                let one = plain([0xc9, 0x9a, 0x2e])?;
                let other = plain([0x6a, 0x4a, 0x86])?;
                let cells = [(1.0, 0.0), (3.0, 1.0), (1.0, 1.0), (1.0, 3.0), (0.0, 1.0)];
                let stir = |(a, b): (f64, f64)| match (a, b) {
                    (_, 0.0) => Ok(face(&one)),
                    (0.0, _) => Ok(face(&other)),
                    _ => Ok(face(&stirred((a, &one), (b, &other))?)),
                };
                let cells = cells.into_iter().map(stir).collect::<Result<_, Refusal>>()?;
                vec![pane("a yellow into a violet", cells)]
            }
        })
    }
}

/// The darker colour of the same a* and b* at this ΔE00, by halving.
fn darker_by(from: Lab, far: f64) -> Lab {
    let (mut near, mut off) = (0.0, from.l.min(3.0 * far + 1.0));
    for _ in 0..40 {
        let middle = (near + off) / 2.0;
        match difference(from, Lab { l: from.l - middle, ..from }).value() < far {
            true => near = middle,
            false => off = middle,
        }
    }
    Lab { l: from.l - near, ..from }
}

impl ShelfSnapshot {
    /// All terms, with pictures made from the tins of this shelf, or of plain paints where it has none; those of one paint
    /// show this one.
    pub fn terms(&self, paint: Option<Uuid>) -> Result<Vec<TermView>, Refusal> {
        let mut palette = Palette::of(self)?;
        if let Some(paint) =
            paint.filter(|paint| self.tin(*paint).is_ok_and(|tin| !tin.value.class.is_medium()))
        {
            palette.strong = self.paint(paint)?.best().clone();
        }
        let view = |term: &Term| {
            let (name, words) = term.words();
            Ok(TermView { term: *term, name, words, panes: palette.panes(*term, self)? })
        };
        <Term as strum::VariantArray>::VARIANTS.iter().map(view).collect()
    }
}
