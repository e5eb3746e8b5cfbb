//! Lighter and darker shades of a colour, as real mixes of the shelf.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::Ensemble;
use warm_blend_mixing as bench;
use warm_blend_mixing::SHADE;
use warm_blend_paint::{Look, Material, MixPart, PaintId, Parts, WholeParts, nearest_whole};
use warm_blend_spectral::Light;

use crate::matching::likely_words;
use crate::mixable::{DoubtfulPot, Mixable, thick};
use crate::{RecipePart, Refusal, ShelfSnapshot};

/// A base colour and the size of a shade.
#[derive(Debug, Deserialize, ToSchema)]
pub struct LadderOf {
    /// Components of the base: a paint or a mix.
    pub base: Vec<MixPart>,
    /// Size of a shade in L*, 1–20; by default 6.
    pub shade: Option<f64>,
    /// Alternatively, two paints next to each other on the painter's own card, one shade apart.
    pub neighbours: Option<[Uuid; 2]>,
}

impl LadderOf {
    /// With shades of the usual size.
    fn of(base: Vec<MixPart>) -> Self {
        Self { base, shade: None, neighbours: None }
    }
}

/// Shades of a colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct Ladder {
    /// Shades from five darker to five lighter, with the base in the middle.
    pub rungs: Vec<LadderRung>,
    /// Size of a shade in L*.
    pub shade: f64,
}

impl Ladder {
    /// Mix of a rung, if the shelf allows one.
    fn into_rung(self, shades: i32) -> Option<Vec<MixPart>> {
        let rung = self.rungs.into_iter().find(|rung| rung.shade == shades)?;
        rung.made.map(|made| made.components)
    }
}

/// A shade.
#[derive(Debug, Serialize, ToSchema)]
pub struct LadderRung {
    /// Number of shades from the base; negative is darker.
    pub shade: i32,
    /// Desired L*.
    pub wanted: f64,
    /// Its mix, if the shelf allows one.
    pub made: Option<MadeRung>,
}

/// A mix for a shade.
#[derive(Debug, Serialize, ToSchema)]
pub struct MadeRung {
    /// Its colour on the screen.
    pub hex: String,
    /// L*, a*, b* in the light.
    pub lab: [f64; 3],
    /// Deviation from the hue of the base, Δab.
    pub leans: f64,
    /// Expected distance from the shade in words: `likely within 2`.
    pub likely: String,
    /// Parts of the base, as it was given.
    pub base: u32,
    /// Additions.
    pub more: Vec<RecipePart>,
    /// The mix as parts of tins.
    pub components: Vec<MixPart>,
}

/// A pot to make lighter or darker.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PotToShade {
    /// Contents.
    pub pot: Vec<MixPart>,
    /// Number of shades, −5 to 5; negative is darker.
    #[schema(example = -1)]
    pub shades: i32,
}

impl ShelfSnapshot {
    /// Lighter and darker shades of a colour.
    pub fn ladder(&self, of: &LadderOf, look: Look) -> Result<Ladder, Refusal> {
        let base = self.pot("/base", &of.base)?;
        let shade = self.size_of_shade(of)?;
        let alone = of.base.len() == 1;
        let with: Vec<Uuid> = of.base.iter().map(|part| part.paint.0).collect();
        let mixable = self.mixable(look, &with, |tin| !(alone && of.base[0].paint.0 == tin.id))?;
        let doubtful = DoubtfulPot::of(&base);
        let rungs = bench::ladder(doubtful.material(), &mixable.doubtful(&[]), look, shade);
        let rung = |rung: &bench::Shade| LadderRung {
            shade: rung.shade,
            wanted: rung.wanted,
            made: rung.made.as_ref().map(|made| MadeRung::of(made, &of.base, &base, &mixable)),
        };
        Ok(Ladder { rungs: rungs.iter().map(rung).collect(), shade })
    }

    /// Size of a shade, L*.
    fn size_of_shade(&self, of: &LadderOf) -> Result<f64, Refusal> {
        let usual = 1.0..=20.0;
        let Some(pair) = of.neighbours else {
            let shade = of.shade.unwrap_or(SHADE);
            let wrong = || Refusal::field("/shade", "a shade must be 1 to 20 L*");
            return if usual.contains(&shade) { Ok(shade) } else { Err(wrong()) };
        };
        let lightness = |i: usize| {
            let paint = self.on_shelf_at(&format!("/neighbours/{i}"), pair[i])?;
            Ok::<_, Refusal>(paint.best().seen_lab(Light::Daylight).l)
        };
        let shade = (lightness(0)? - lightness(1)?).abs();
        let words = || format!("these two differ by {shade:.1} L*; choose two that differ by 1 to 20");
        if usual.contains(&shade) { Ok(shade) } else { Err(Refusal::field("/neighbours", words())) }
    }

    /// Makes a pot lighter or darker: adds paint from the ladder in proportion, and keeps its mediums.
    pub fn shade(&self, of: PotToShade, look: Look) -> Result<Vec<MixPart>, Refusal> {
        let PotToShade { pot, shades } = of;
        let is_medium =
            |part: &MixPart| self.estimate().class(part.paint).is_some_and(|class| class.is_medium());
        let (mediums, paints): (Vec<MixPart>, Vec<MixPart>) = pot.into_iter().partition(is_medium);
        if paints.is_empty() {
            return Err(Refusal::field("/pot", "no paint in the pot; add one first"));
        }
        let sum = |parts: &[MixPart]| parts.iter().map(|part| f64::from(part.parts.value())).sum::<f64>();
        let painted = sum(&paints);
        let made = self.ladder(&LadderOf::of(paints), look)?;
        let Some(shaded) = made.into_rung(shades) else {
            let which = if shades < 0 { "darker" } else { "lighter" };
            return Err(Refusal::field("/shades", format!("nothing on the shelf mixes that much {which}")));
        };
        // As much paint relative to the mediums as before.
        let scale = painted / sum(&shaded);
        let amounts: Vec<f64> = shaded
            .iter()
            .map(|part| f64::from(part.parts.value()) * scale)
            .chain(mediums.iter().map(|part| f64::from(part.parts.value())))
            .collect();
        let parts = shaded.iter().chain(&mediums).zip(nearest_whole(&amounts));
        Ok(parts.map(|(part, parts)| MixPart { parts, ..*part }).collect())
    }
}

impl MadeRung {
    fn of(made: &bench::MadeShade, base: &[MixPart], known: &Ensemble, mixable: &Mixable<'_>) -> Self {
        let parts = |n: u32| WholeParts::new(n).map(Parts::from);
        let mut of_all: Vec<(Parts, &Material)> = Vec::new();
        of_all.extend(parts(made.base).map(|parts| (parts, known.best())));
        for (at, n) in &made.more {
            of_all.extend(parts(*n).map(|parts| (parts, mixable.known[*at].best())));
        }
        let hex = warm_blend_paint::mix(&of_all).map_or(String::new(), |mixed| thick(mixable.look, &mixed));
        // One part of the base is the total of its own parts.
        let total: u32 = base.iter().map(|part| part.parts.value()).sum();
        let own = base.iter().map(|part| (part.paint, part.parts.value() * made.base));
        let more = made.more.iter().map(|(at, n)| (PaintId(mixable.tins[*at].id), n * total));
        Self {
            hex,
            lab: [made.lab.l, made.lab.a, made.lab.b],
            leans: made.leans,
            likely: likely_words(made.expected),
            base: made.base,
            more: mixable.parts(&made.more),
            components: MixPart::gathered(own.chain(more)),
        }
    }
}
