//! What is done at the mixing bench beside mixing: match, correct, ladder, blend, measuring out. Nothing is kept.

use std::sync::Arc;

use axum::{Json, extract::State};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_bench as bench;
use warm_blend_bench::{Limits, Path, Recipe, SHADE, Tin};
use warm_blend_board::Hand;
use warm_blend_learn::{Ensemble, ShelfPaint};
use warm_blend_paint::{
    Class, Condition, HueFamily, Masstone, Material, Measure, Microns, Millilitres, PaintId, Parts, Price,
    Rounded, Seen, Units, WholeParts,
};
use warm_blend_spectral::Light;
use warm_blend_store::Kept;

use super::mixes::MixPart;
use crate::{
    Workspace,
    body::{Asked, Body},
    check::Checks,
    colour::{Colour, Judgement, Look, LookedAt, Swatch},
    known::Known,
    off_thread::{Asking, off_thread, while_asked},
    problem::Problem,
};

/// A colour to find on the shelf, and what may go into it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Wanted {
    /// The colour aimed at.
    target: Colour,
    /// Most paints in one mix, 1–4; 3 when left out.
    paints: Option<u32>,
    /// Most parts together, 1–24; 12 when left out.
    parts: Option<u32>,
    /// Paints that must be in it, three at most.
    #[serde(default)]
    with: Vec<Uuid>,
    /// Paints that must not.
    #[serde(default)]
    without: Vec<Uuid>,
    /// True to do without blacks.
    #[serde(default)]
    no_black: bool,
    /// Only paints of these classes; all when empty.
    #[serde(default)]
    classes: Vec<String>,
    /// ml that are to be mixed: what it costs, and whether the tins hold it.
    batch_ml: Option<f64>,
}

/// The mixes that come nearest, the best first.
#[derive(Debug, Serialize, ToSchema)]
pub struct Found {
    /// One mix of each set of paints.
    recipes: Vec<FoundRecipe>,
    /// What the shelf lacks, where even the best is far off: `nothing here is this yellow`.
    missing: Option<String>,
    /// How many paints were looked through.
    paints: usize,
}

/// A mix of the shelf that comes near.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundRecipe {
    /// Its parts, the most of first.
    parts: Vec<RecipePart>,
    /// How it looks, and how sure that is.
    swatch: Swatch,
    /// Against the target.
    judgement: Judgement,
    /// ΔE00 from the target in the other light: how far it strays where the two part.
    elsewhere: f64,
    /// That light: `bulb`, or `daylight` where it is looked at by the bulb.
    elsewhere_in: &'static str,
    /// What the batch costs, where every price is known; a litre where no batch is given.
    cost: Option<f64>,
    /// False where a tin holds less than the batch needs, or stock is not written down.
    enough: Option<bool>,
    /// What to think of first: classes that should not meet, tins that were frozen.
    cautions: Vec<String>,
}

/// One paint of a recipe.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct RecipePart {
    /// The paint.
    paint: Uuid,
    /// Its name.
    name: String,
    /// Whole parts.
    parts: u32,
    /// Its share of the volume, 0–1.
    share: f64,
    /// Its flat colour.
    hex: String,
}

/// Tins that may be mixed, as they are known.
struct Bench<'a> {
    tins: Vec<&'a Kept<ShelfPaint>>,
    known: Vec<Ensemble>,
    look: Look,
}

impl<'a> Bench<'a> {
    /// Those of the shelf that are paints, are still good, and are `allowed`.
    fn of(
        shelf: &'a [Kept<ShelfPaint>],
        known: &Known,
        look: Look,
        allowed: impl Fn(&Kept<ShelfPaint>) -> bool,
    ) -> Result<Self, Problem> {
        let good = |tin: &&Kept<ShelfPaint>| {
            tin.value.class.makes_colours() && tin.value.condition != Condition::Off && allowed(tin)
        };
        let tins: Vec<_> = shelf.iter().filter(good).collect();
        let known =
            tins.iter().map(|tin| Ok(known.paint(tin.id)?.clone())).collect::<Result<_, Problem>>()?;
        Ok(Self { tins, known, look })
    }

    fn tins(&self, wanted: &[Uuid]) -> Vec<Tin<'_>> {
        self.tins
            .iter()
            .zip(&self.known)
            .map(|(tin, known)| Tin {
                material: known.best(),
                price: tin.value.price.map(Price::by_ml),
                wanted: wanted.contains(&tin.id),
            })
            .collect()
    }

    fn materials(&self) -> Vec<&Material> {
        self.known.iter().map(Ensemble::best).collect()
    }

    /// Parts in words and colours, the most of first.
    fn parts(&self, of: &[(usize, u32)]) -> Vec<RecipePart> {
        let total: u32 = of.iter().map(|(_, parts)| parts).sum();
        let mut parts: Vec<RecipePart> = of
            .iter()
            .map(|(at, parts)| RecipePart {
                paint: self.tins[*at].id,
                name: self.tins[*at].value.name.as_str().to_owned(),
                parts: *parts,
                share: f64::from(*parts) / f64::from(total),
                hex: thick(self.look, self.known[*at].best()),
            })
            .collect();
        parts.sort_by_key(|part| std::cmp::Reverse(part.parts));
        parts
    }

    /// What should not be stirred together, and what was frozen.
    fn cautions(&self, of: &[(usize, u32)]) -> Vec<String> {
        let tin = |at: usize| &self.tins[at].value;
        let mut cautions = Vec::new();
        for (i, (one, _)) in of.iter().enumerate() {
            for (other, _) in &of[..i] {
                let reason = bench::clash(tin(*one).class, tin(*other).class);
                cautions.extend(reason.map(|reason| {
                    format!("{} with {}: {reason}", tin(*other).name.as_str(), tin(*one).name.as_str())
                }));
            }
            if tin(*one).condition == Condition::Frozen {
                cautions.push(format!("{} was frozen: stir a little on card first", tin(*one).name.as_str()));
            }
        }
        cautions
    }
}

/// The hex code of a material that lies thick, as it is seen.
fn thick(look: Look, material: &Material) -> String {
    look.masstone(material).screen.srgb.to_string()
}

/// What a search may use.
struct Search {
    target: Masstone,
    limits: Limits,
    classes: Vec<Class>,
    batch: Option<f64>,
}

impl Wanted {
    fn parse(&self) -> Result<Search, Problem> {
        let mut checks = Checks::default();
        let range = |value: Option<u32>, default: u32, most: u32| {
            let value = value.unwrap_or(default);
            if (1..=most).contains(&value) { Ok(value) } else { Err(format!("{value}: choose 1 to {most}")) }
        };
        let target = self.target.parse(&mut checks, "/target");
        let paints = checks.field("/paints", range(self.paints, 3, 4));
        let parts = checks.field("/parts", range(self.parts, 12, 24));
        if self.with.len() > 3 {
            let too_many: Result<(), _> = Err("three paints at most can be asked for by name");
            checks.field("/with", too_many);
        }
        let classes: Vec<Option<Class>> = self
            .classes
            .iter()
            .enumerate()
            .map(|(i, class)| checks.field(format!("/classes/{i}"), class.parse()))
            .collect();
        let batch = match self.batch_ml {
            Some(ml) => checks
                .field("/batch_ml", Millilitres::new(ml))
                .filter(|ml| ml.value() > 0.0)
                .map(|ml| ml.value()),
            None => None,
        };
        let asked = target.zip(paints).zip(parts).map(|((target, paints), parts)| Search {
            target,
            limits: Limits { paints: paints as usize, parts, recipes: RECIPES, every: bench::EVERY },
            classes: classes.into_iter().flatten().collect(),
            batch,
        });
        checks.done(asked)
    }
}

/// How many mixes are shown.
const RECIPES: usize = 12;

/// The mixes of the shelf that come nearest to a colour. Leaving off stops the search.
#[utoipa::path(post, path = "/bench/match", operation_id = "find_mixes",
    tag = "pot", params(LookedAt), request_body = Wanted,
    responses((status = OK, body = Found)))]
pub async fn find(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(wanted): Body<Wanted>,
) -> Result<Json<Found>, Problem> {
    let (look, search) = (asked.get()?, wanted.parse()?);
    let (shelf, known) = workspace.with_known(|store| store.all::<ShelfPaint>()).await?;
    while_asked(move |asking| found(&wanted, &search, &shelf, &known, look, asking)).await.map(Json)
}

fn found(
    wanted: &Wanted,
    search: &Search,
    shelf: &[Kept<ShelfPaint>],
    known: &Known,
    look: Look,
    asking: &Asking,
) -> Result<Found, Problem> {
    let bench = Bench::of(shelf, known, look, |tin| {
        let black = || {
            let lab = known.paint(tin.id).map(|paint| paint.best().seen_lab(Light::Daylight));
            wanted.no_black && lab.is_ok_and(|lab| HueFamily::of(lab) == HueFamily::Black)
        };
        let class = search.classes.is_empty() || search.classes.contains(&tin.value.class);
        wanted.with.contains(&tin.id) || class && !wanted.without.contains(&tin.id) && !black()
    })?;
    let curve = search.target.reflectance().map_err(|error| Problem::field("/target", error))?;
    let target = Seen::of(&curve, look.light).lab;
    let tins = bench.tins(&wanted.with);
    let recipes = bench::find(&tins, target, look, search.limits, |_| asking.goes_on());
    let missing = recipes.first().and_then(|best| {
        let lab = look.lab(stirred(&bench, &best.parts).ok()?.best());
        bench::missing(lab, target, best.difference)
    });
    let recipes = recipes.iter().map(|recipe| told(&bench, recipe, search)).collect::<Result<_, _>>()?;
    Ok(Found { recipes, missing, paints: tins.len() })
}

fn stirred(bench: &Bench, parts: &[(usize, u32)]) -> Result<Ensemble, Problem> {
    let of: Vec<(Parts, &Ensemble)> = parts
        .iter()
        .map(|(at, parts)| Ok((WholeParts::new(*parts)?.into(), &bench.known[*at])))
        .collect::<Result<_, warm_blend_paint::BadMix>>()
        .map_err(|_| Problem::internal())?;
    Ensemble::mix(&of).map_err(|_| Problem::internal())
}

fn told(bench: &Bench, recipe: &Recipe, search: &Search) -> Result<FoundRecipe, Problem> {
    let mixed = stirred(bench, &recipe.parts)?;
    let look = bench.look;
    let other = if look.light == Light::Bulb { Light::Daylight } else { Light::Bulb };
    let elsewhere = Judgement::of(&mixed, search.target, Look { light: other, ..look })?.difference;
    let total: f64 = recipe.parts.iter().map(|(_, parts)| f64::from(*parts)).sum();
    let enough = search.batch.and_then(|batch| {
        let each = recipe.parts.iter().map(|(at, parts)| {
            let needed = batch * f64::from(*parts) / total;
            bench.tins[*at].value.stock.map(|stock| stock.value() >= needed)
        });
        each.collect::<Option<Vec<bool>>>().map(|each| each.into_iter().all(|enough| enough))
    });
    Ok(FoundRecipe {
        parts: bench.parts(&recipe.parts),
        swatch: Swatch::of(&mixed, look),
        judgement: Judgement::of(&mixed, search.target, look)?,
        elsewhere,
        elsewhere_in: other.id(),
        cost: recipe.price.map(|price| price * search.batch.unwrap_or(1000.0)),
        enough,
        cautions: bench.cautions(&recipe.parts),
    })
}

/// A base, and how far apart its shades are.
#[derive(Debug, Deserialize, ToSchema)]
pub struct LadderOf {
    /// What is stirred together for the base: a paint, or a mix.
    base: Vec<MixPart>,
    /// L* of one shade, 1–20; 6 when left out.
    shade: Option<f64>,
    /// Or two paints that are neighbours on the painter's own card: one shade is what lies between them.
    neighbours: Option<[Uuid; 2]>,
}

impl LadderOf {
    /// By shades of the usual size.
    pub fn of(base: Vec<MixPart>) -> Self {
        Self { base, shade: None, neighbours: None }
    }
}

/// The shades of a colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct Ladder {
    /// From five darker to five lighter, the base in the middle.
    rungs: Vec<LadderRung>,
    /// L* of one shade.
    shade: f64,
}

impl Ladder {
    /// The mix of so many shades, if the shelf has one.
    pub fn into_rung(self, shades: i32) -> Option<Vec<MixPart>> {
        let rung = self.rungs.into_iter().find(|rung| rung.shade == shades)?;
        rung.made.map(|made| made.components)
    }
}

/// One shade.
#[derive(Debug, Serialize, ToSchema)]
pub struct LadderRung {
    /// Shades from the base: negative darker.
    shade: i32,
    /// L* that it should have.
    wanted: f64,
    /// Its mix; none where the shelf has none.
    made: Option<MadeRung>,
}

/// How a shade is made.
#[derive(Debug, Serialize, ToSchema)]
pub struct MadeRung {
    /// What it comes to, as a hex code.
    hex: String,
    /// L*, a*, b* in the light.
    lab: [f64; 3],
    /// How far it leans from the hue of the base, Δab.
    leans: f64,
    /// Parts of the base, as it was given.
    base: u32,
    /// What goes to it.
    more: Vec<RecipePart>,
    /// The same as one mix of the shelf, in whole parts.
    components: Vec<MixPart>,
}

/// What several paints or mixes come to.
pub async fn pots(
    workspace: &Workspace,
    pots: &[(String, &[MixPart])],
) -> Result<(Vec<Ensemble>, Vec<Kept<ShelfPaint>>, Arc<Known>), Problem> {
    let (shelf, known) = workspace.with_known(|store| store.all::<ShelfPaint>()).await?;
    let mut made = Vec::with_capacity(pots.len());
    for (pointer, parts) in pots {
        let mut of = Vec::with_capacity(parts.len());
        for (i, part) in parts.iter().enumerate() {
            let whole =
                part.parts().map_err(|error| Problem::field(format!("{pointer}/{i}/parts"), error))?;
            let paint = known.estimate().paint(PaintId(part.paint)).ok_or_else(|| {
                Problem::field(format!("{pointer}/{i}/paint"), "this paint is not on the shelf")
            })?;
            of.push((Parts::from(whole), paint));
        }
        made.push(Ensemble::mix(&of).map_err(|error| Problem::field(pointer.as_str(), error))?);
    }
    Ok((made, shelf, known))
}

/// The shades of a colour, lighter and darker, as mixes of the shelf.
#[utoipa::path(post, path = "/bench/ladder", operation_id = "make_ladder",
    tag = "pot", params(LookedAt), request_body = LadderOf,
    responses((status = OK, body = Ladder)))]
pub async fn ladder(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(of): Body<LadderOf>,
) -> Result<Json<Ladder>, Problem> {
    let look = asked.get()?;
    let (made, shelf, known) = pots(&workspace, &[("/base".to_owned(), &of.base)]).await?;
    let (shade, at) = match of.neighbours {
        None => (of.shade.unwrap_or(SHADE), "/shade"),
        Some(pair) => {
            let lightness = |i: usize| {
                let paint = known.estimate().paint(PaintId(pair[i]));
                let paint = paint.map(|paint| paint.best().seen_lab(Light::Daylight).l);
                paint.ok_or_else(|| {
                    Problem::field(format!("/neighbours/{i}"), "this paint is not on the shelf")
                })
            };
            ((lightness(0)? - lightness(1)?).abs(), "/neighbours")
        }
    };
    if !(1.0..=20.0).contains(&shade) {
        let words = match of.neighbours {
            None => "one shade is 1 to 20 L*".to_owned(),
            Some(_) => format!("these two are {shade:.1} L* apart: choose two that are 1 to 20 apart"),
        };
        return Err(Problem::field(at, words));
    }
    off_thread(move || {
        let Some(base) = made.first() else { return Err(Problem::internal()) };
        let alone = of.base.len() == 1;
        let bench = Bench::of(&shelf, &known, look, |tin| !(alone && of.base[0].paint == tin.id))?;
        let rungs = bench::ladder(base.best(), &bench.tins(&[]), look, shade);
        let total: u32 = of.base.iter().map(|part| part.parts().map_or(0, WholeParts::value)).sum();
        let rung = |rung: &bench::Rung| LadderRung {
            shade: rung.shade,
            wanted: rung.wanted,
            made: rung.made.as_ref().map(|made| {
                let mut of_all: Vec<(Parts, &Material)> = Vec::new();
                let parts = |n: u32| WholeParts::new(n).map(Parts::from);
                of_all.extend(parts(made.base).map(|parts| (parts, base.best())));
                for (at, n) in &made.more {
                    of_all.extend(parts(*n).map(|parts| (parts, bench.known[*at].best())));
                }
                let hex = warm_blend_paint::mix(&of_all).map_or(String::new(), |mixed| thick(look, &mixed));
                // One part of the base is as many parts of its paints as it was given in.
                let own = of.base.iter().map(|part| MixPart::new(part.paint, part.given() * made.base));
                let more = made.more.iter().map(|(at, n)| MixPart::new(bench.tins[*at].id, n * total));
                MadeRung {
                    hex,
                    lab: [made.lab.l, made.lab.a, made.lab.b],
                    leans: made.leans,
                    base: made.base,
                    more: bench.parts(&made.more),
                    components: MixPart::gathered(own.chain(more)),
                }
            }),
        };
        Ok(Json(Ladder { rungs: rungs.iter().map(rung).collect(), shade }))
    })
    .await
}

/// Two to five colours to be worked into each other.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BlendOf {
    /// What is stirred together for each: a paint, or a mix.
    colours: Vec<Vec<MixPart>>,
}

/// What lies between colours.
#[derive(Debug, Serialize, ToSchema)]
pub struct Blend {
    /// The ways from each to the next.
    paths: Vec<BlendPath>,
    /// Every pair that one brush might carry, and what it would make of it.
    pairs: Vec<BrushPair>,
}

/// The way from one colour to the next.
#[derive(Debug, Serialize, ToSchema)]
pub struct BlendPath {
    /// Hex codes from the one to the other, evenly by volume.
    colours: Vec<String>,
    /// Its first word: how it runs.
    words: String,
    /// Largest step over the mean: 1 where it runs evenly.
    uneven: f64,
    /// Share of the second at which it looks half-way.
    half_way: f64,
    /// That as parts of the first and of the second.
    half_way_parts: [u32; 2],
    /// Which of the two overpowers the other, 0 or 1: it goes in last and least.
    overpowers: Option<u8>,
    /// Share of the second where it goes grey, if it does.
    mud_at: Option<f64>,
    /// The paint of the shelf that bridges the two best, where one does.
    bridge: Option<RecipePart>,
}

/// Two colours on one brush.
#[derive(Debug, Serialize, ToSchema)]
pub struct BrushPair {
    /// Places of the two among the colours.
    of: [usize; 2],
    /// What half and half makes.
    hex: String,
    /// False where they may share a brush.
    apart: bool,
    /// Why, in words.
    words: String,
}

/// What lies between colours: the way, where it goes grey or turns, what bridges it, which brushes must not meet.
#[utoipa::path(post, path = "/bench/blend", operation_id = "make_blend",
    tag = "pot", params(LookedAt), request_body = BlendOf,
    responses((status = OK, body = Blend)))]
pub async fn blend(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(of): Body<BlendOf>,
) -> Result<Json<Blend>, Problem> {
    let look = asked.get()?;
    if !(2..=5).contains(&of.colours.len()) {
        return Err(Problem::field("/colours", "a blend is made of two to five colours"));
    }
    let named: Vec<(String, &[MixPart])> =
        of.colours.iter().enumerate().map(|(i, parts)| (format!("/colours/{i}"), parts.as_slice())).collect();
    let (made, shelf, known) = pots(&workspace, &named).await?;
    off_thread(move || {
        let used: Vec<Uuid> = of.colours.iter().flatten().map(|part| part.paint).collect();
        let bench = Bench::of(&shelf, &known, look, |tin| !used.contains(&tin.id))?;
        let colours: Vec<&Material> = made.iter().map(Ensemble::best).collect();
        let paths = colours.windows(2).map(|pair| path(&bench, pair[0], pair[1])).collect();
        let mut pairs = Vec::new();
        for one in 0..colours.len() {
            for other in one + 1..colours.len() {
                pairs.push(brushes([one, other], colours[one], colours[other], look));
            }
        }
        Ok(Json(Blend { paths, pairs }))
    })
    .await
}

fn path(bench: &Bench, one: &Material, other: &Material) -> BlendPath {
    let look = bench.look;
    let path = Path::between(one, other, look);
    let codes =
        bench::seen_between(one, other, look).iter().map(|seen| seen.screen.srgb.to_string()).collect();
    let bridge = bench::bridge(one, other, &bench.materials(), look);
    BlendPath {
        colours: codes,
        words: path.words(),
        uneven: path.uneven,
        half_way: path.half_way,
        half_way_parts: path.half_way_parts().into(),
        overpowers: path.stronger().map(|stronger| match stronger {
            bench::Stronger::First => 0,
            bench::Stronger::Second => 1,
        }),
        mud_at: path.mud.map(|mud| mud.share),
        bridge: bridge.and_then(|at| bench.parts(&[(at, 1)]).into_iter().next()),
    }
}

fn brushes(of: [usize; 2], one: &Material, other: &Material, look: Look) -> BrushPair {
    let path = Path::between(one, other, look);
    let seen = bench::seen_between(one, other, look);
    BrushPair {
        of,
        hex: seen.get(seen.len() / 2).map_or(String::new(), |seen| seen.screen.srgb.to_string()),
        apart: path.must_not_meet(),
        words: path.on_one_brush(),
    }
}

/// A batch to be measured out.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BatchOf {
    /// What is in it.
    components: Vec<MixPart>,
    /// How much: a number of `measure`; not read for `left`.
    #[serde(default)]
    amount: f64,
    /// `gallon`, `quart`, `pint`, `cup`, `fl-oz`, `tbsp`, `tsp`, `scoop`, `litre`, `ml` or `drop`; or `m2` or `ft2` of a surface; or
    /// `left`: all that is left of a paint.
    measure: String,
    /// Coats on the surface; 2 when left out.
    coats: Option<f64>,
    /// Which paint is used up, where it is.
    using_up: Option<Uuid>,
    /// What there is to measure with; what the workshop has when empty.
    #[serde(default)]
    owned: Vec<String>,
}

/// Ways to measure a batch out.
#[derive(Debug, Serialize, ToSchema)]
pub struct Batch {
    /// The best first: roundings that nobody sees, by how few spoonfuls they take; then by how far they move the colour; by weight;
    /// last those that come to more or less than was asked for.
    ways: Vec<MeasuredOut>,
    /// How much was asked for, ml.
    ml: f64,
    /// How it is put on: `Coat, brushed`.
    put_on: &'static str,
    /// What a coat of it costs on a square metre, put on like that.
    cost_per_m2: Option<f64>,
    /// The same on a square foot.
    cost_per_ft2: Option<f64>,
}

/// A batch in one kind of measure.
#[derive(Debug, Serialize, ToSchema)]
pub struct MeasuredOut {
    /// What it is measured with; `g` where it is weighed.
    measure: &'static str,
    /// How many of it, in the order of the components: `1½ cups`.
    amounts: Vec<String>,
    /// What the batch comes to, ml.
    ml: f64,
    /// What that costs, where every price is known.
    cost: Option<f64>,
    /// How far that goes, coats of a square metre.
    covers_m2: f64,
    /// Tins that do not hold enough for it.
    short: Vec<String>,
    /// How far the rounding moves the colour, ΔE00.
    shift: f64,
    /// That in words.
    words: String,
}

pub fn measure_of(text: &str) -> Result<Measure, String> {
    let known = Measure::ALL.into_iter().find(|measure| measure.id() == text);
    known.ok_or_else(|| {
        format!("this is no measure: choose one of {}", Measure::ALL.map(Measure::id).join(", "))
    })
}

/// What there is to measure with, of a field `owned`.
pub fn measures_of(owned: &[String]) -> Result<Vec<Measure>, Problem> {
    let mut checks = Checks::default();
    let owned = owned
        .iter()
        .enumerate()
        .filter_map(|(i, owned)| checks.field(format!("/owned/{i}"), measure_of(owned)))
        .collect();
    checks.done(Some(owned))
}

/// A batch in cups, spoons, ounces or millilitres, and what rounding to them does to the colour.
#[utoipa::path(post, path = "/bench/measure", operation_id = "measure_batch",
    tag = "pot", params(LookedAt), request_body = BatchOf,
    responses((status = OK, body = Batch)))]
pub async fn measure(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(of): Body<BatchOf>,
) -> Result<Json<Batch>, Problem> {
    let look = asked.get()?;
    let owned = measures_of(&of.owned)?;
    let named: Vec<(String, &[MixPart])> = of
        .components
        .iter()
        .enumerate()
        .map(|(i, part)| (format!("/components/{i}"), std::slice::from_ref(part)))
        .collect();
    let (made, shelf, known) = pots(&workspace, &named).await?;
    let tins: Vec<&ShelfPaint> = of
        .components
        .iter()
        .map(|part| shelf.iter().find(|tin| tin.id == part.paint).map(|tin| &tin.value))
        .collect::<Option<_>>()
        .ok_or_else(|| Problem::field("/components", "one of these is no longer on the shelf"))?;
    let shares = of.shares();
    let inside: Vec<(Class, f64)> =
        tins.iter().zip(&shares).map(|(tin, share)| (tin.class, *share)).collect();
    let technique = warm_blend_board::Technique::usual_for(bench::Kind::of(&inside));
    let film = technique.takes(Hand::default());
    let batch = of.batch(&tins, &shares, film)?;
    let mixed: Vec<(Parts, &Material)> = of
        .components
        .iter()
        .zip(&made)
        .filter_map(|(part, made)| Some((part.parts().ok()?.into(), made.best())))
        .collect();
    let owned = match (owned.as_slice(), known.workshop.value.owned.as_slice()) {
        // A scoop is for powders.
        ([], []) => Measure::ALL.into_iter().filter(|measure| *measure != Measure::Scoop).collect(),
        ([], at_hand) => at_hand.to_vec(),
        (asked, _) => asked.to_vec(),
    };
    let rounded = warm_blend_paint::measured(&mixed, batch, &owned, look.light)
        .map_err(|error| Problem::field("/components", error))?;
    let exact: Vec<f64> = shares.iter().map(|share| batch.value() * share).collect();
    let by_weight = MeasuredOut::by_weight(&tins, &exact, film);
    let cost_per_m2 = by_weight.cost.map(|cost| cost / by_weight.covers_m2);
    let mut ways: Vec<MeasuredOut> =
        rounded.iter().map(|rounded| MeasuredOut::of(rounded, &tins, film)).collect();
    ways.insert(rounded.iter().take_while(|rounded| rounded.keeps_the_batch()).count(), by_weight);
    Ok(Json(Batch {
        cost_per_ft2: cost_per_m2.map(|cost| cost * bench::SQUARE_FOOT),
        cost_per_m2,
        put_on: technique.name(),
        ml: batch.value(),
        ways,
    }))
}

impl BatchOf {
    fn shares(&self) -> Vec<f64> {
        let total: f64 = self.components.iter().map(|part| f64::from(part.given())).sum();
        self.components.iter().map(|part| f64::from(part.given()) / total).collect()
    }

    /// How much it comes to.
    fn batch(&self, tins: &[&ShelfPaint], shares: &[f64], film: Microns) -> Result<Millilitres, Problem> {
        let coats = self.coats.unwrap_or(2.0);
        let bad = |error: warm_blend_paint::BadMeasure| Problem::field("/amount", error);
        let batch = match self.measure.as_str() {
            "m2" | "ft2" if !(0.5..=12.0).contains(&coats) => {
                return Err(Problem::field("/coats", "choose half a coat to twelve"));
            }
            "m2" => bench::for_area(self.amount, Units::Metric, coats, film).map_err(bad)?,
            "ft2" => bench::for_area(self.amount, Units::Imperial, coats, film).map_err(bad)?,
            "left" => {
                let which = self.components.iter().position(|part| Some(part.paint) == self.using_up);
                let at = which
                    .ok_or_else(|| Problem::field("/using_up", "choose a paint of the mix to use up"))?;
                let left = tins[at].stock.filter(|left| left.value() > 0.0).ok_or_else(|| {
                    let name = tins[at].name.as_str();
                    Problem::field("/using_up", format!("what is left of {name} is not written down"))
                })?;
                bench::using_up(left, shares[at]).map_err(bad)?
            }
            measure => {
                let measure = measure_of(measure).map_err(|error| Problem::field("/measure", error))?;
                measure.times(self.amount).map_err(bad)?
            }
        };
        match batch.value() >= 1.0 {
            true => Ok(batch),
            false => {
                Err(Problem::field("/amount", "less than a millilitre cannot be measured out: make it more"))
            }
        }
    }
}

impl MeasuredOut {
    fn of(rounded: &Rounded, tins: &[&ShelfPaint], film: Microns) -> Self {
        let measure = rounded.measure;
        let poured: Vec<f64> = rounded.amounts().collect();
        let seen = match rounded.shift {
            shift if shift < 0.5 => "nobody sees the rounding".to_owned(),
            shift => format!("the rounding moves the colour by {shift:.1}"),
        };
        let asked = rounded.total / rounded.ratio;
        Self {
            measure: measure.id(),
            amounts: poured.iter().map(|ml| warm_blend_paint::amount(*ml, measure)).collect(),
            shift: rounded.shift,
            words: match rounded.keeps_the_batch() {
                true => seen,
                false => format!("{seen}, but it comes to {:.0} ml instead of {asked:.0}", rounded.total),
            },
            ..Self::poured(tins, &poured, film)
        }
    }

    /// So much of each tin: how much it is, what it costs, how far it goes, and which tins do not hold it.
    fn poured(tins: &[&ShelfPaint], poured: &[f64], film: Microns) -> Self {
        let each = || tins.iter().zip(poured);
        let ml: f64 = poured.iter().sum();
        Self {
            measure: "ml",
            amounts: Vec::new(),
            ml,
            cost: each().map(|(tin, ml)| Some(tin.price?.by_ml() * ml)).sum(),
            covers_m2: ml / bench::per_square_metre(film),
            short: each()
                .filter(|(tin, ml)| tin.stock.is_some_and(|stock| stock.value() < **ml))
                .map(|(tin, _)| tin.name.as_str().to_owned())
                .collect(),
            shift: 0.0,
            words: String::new(),
        }
    }

    /// The same on a scale.
    fn by_weight(tins: &[&ShelfPaint], poured: &[f64], film: Microns) -> Self {
        let (mut amounts, mut usual) = (Vec::new(), Vec::new());
        for (tin, ml) in tins.iter().zip(poured) {
            amounts.push(format!("{:.1} g", ml * tin.density()));
            if tin.specials.density.is_none() {
                usual.push(tin.name.as_str());
            }
        }
        let words = match usual.as_slice() {
            [] => "by the scale".to_owned(),
            [one] => format!("by the scale, taking {one} to be as heavy as its class usually is"),
            _ => "by the scale, taking the paints to be as heavy as their classes usually are".to_owned(),
        };
        Self { measure: "g", amounts, words, ..Self::poured(tins, poured, film) }
    }
}

/// A pot that is off its target.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PotToCorrect {
    /// What is in it.
    components: Vec<MixPart>,
    /// How much: a number of `measure`.
    amount: f64,
    /// What it was measured with: additions come in spoons of the same system, or in ml, fine enough for the pot.
    measure: String,
    /// How much the pot holds, in the same measure; four times what is in it when left out.
    room: Option<f64>,
    /// The colour aimed at.
    target: Colour,
}

/// Ways to bring a pot to its target.
#[derive(Debug, Serialize, ToSchema)]
pub struct Corrections {
    /// How it stands now.
    now: Judgement,
    /// The next single addition, to creep up on the colour; none where nothing brings it nearer.
    next: Option<Fix>,
    /// The smallest additions that bring it as near as can be seen, the best first.
    ways: Vec<Fix>,
    /// In a sentence, where it cannot be reached by adding, or need not be.
    words: Option<String>,
}

/// What to do to a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct Fix {
    /// What to take out first: `6½ tbsp`; none where nothing need be.
    discard: Option<String>,
    /// What to add.
    additions: Vec<FixPart>,
    /// What is in the pot then, in the measure.
    amount: f64,
    /// How it stands then.
    judgement: Judgement,
    /// How it looks then.
    hex: String,
    /// What is in the pot then, in whole parts.
    components: Vec<MixPart>,
}

/// One addition.
#[derive(Debug, Serialize, ToSchema)]
pub struct FixPart {
    /// The paint.
    paint: Uuid,
    /// Its name.
    name: String,
    /// How much, as it is measured: `½ tsp`.
    amount: String,
    /// The same in ml.
    ml: f64,
    /// The same in g, by its density or what its class usually has.
    grams: f64,
    /// Its flat colour.
    hex: String,
}

/// What to add to a pot so that it comes to its target.
#[utoipa::path(post, path = "/bench/correct", operation_id = "correct_pot",
    tag = "pot", params(LookedAt), request_body = PotToCorrect,
    responses((status = OK, body = Corrections)))]
pub async fn correct(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(of): Body<PotToCorrect>,
) -> Result<Json<Corrections>, Problem> {
    let look = asked.get()?;
    let mut checks = Checks::default();
    let measure = checks.field("/measure", measure_of(&of.measure));
    let target = of.target.parse(&mut checks, "/target");
    let volume = |checks: &mut Checks, pointer: &str, count: f64| {
        let ml = measure?.times(count).map_err(|error| error.to_string());
        let some = |ml: Millilitres| match ml.value() >= 1.0 {
            true => Ok(ml.value()),
            false => Err("this is less than a millilitre: give how much is in the pot".to_owned()),
        };
        checks.field(pointer, ml.and_then(some))
    };
    let ml = volume(&mut checks, "/amount", of.amount);
    let room = of.room.map_or(ml.map(|ml| 4.0 * ml), |room| volume(&mut checks, "/room", room));
    if let (Some(ml), Some(room)) = (ml, room)
        && room < ml
    {
        let over: Result<(), _> = Err("the pot holds less than is in it");
        checks.field("/room", over);
    }
    let asked = measure.zip(target).zip(ml.zip(room));
    let ((measure, target), (ml, room)) = checks.done(asked)?;
    let (made, shelf, known) = pots(&workspace, &[("/components".to_owned(), &of.components)]).await?;
    off_thread(move || {
        let bench = Bench::of(&shelf, &known, look, |_| true)?;
        let pot = made.first().ok_or_else(Problem::internal)?;
        let curve = target.reflectance().map_err(|error| Problem::field("/target", error))?;
        let aim = Seen::of(&curve, look.light).lab;
        let spoon = measure.for_additions(Millilitres::new(ml).map_err(|_| Problem::internal())?);
        let held = bench::Pot { material: pot.best(), ml, room, least: spoon.least() };
        let tins = bench.tins(&[]);
        let find = |one_at_a_time| bench::correct(held, &tins, aim, look, one_at_a_time);
        let (single, ways) = (find(true), find(false));
        let fix = |correction: &bench::Correction| {
            fixed(&bench, &of.components, held, correction, [measure, spoon], target, look)
        };
        let now = Judgement::of(pot, target, look)?;
        let best = ways.first().map_or(now.difference, |best| best.difference);
        let words = match () {
            () if now.difference < 0.5 => Some("It is there: leave it.".to_owned()),
            () if ways.is_empty() => Some("Nothing on the shelf brings it nearer.".to_owned()),
            () if best >= 3.0 => {
                Some("It cannot be reached by adding from this shelf; this comes nearest.".to_owned())
            }
            () => None,
        };
        Ok(Json(Corrections {
            next: single.first().map(fix).transpose()?,
            ways: ways.iter().map(fix).collect::<Result<_, _>>()?,
            now,
            words,
        }))
    })
    .await
}

fn fixed(
    bench: &Bench,
    inside: &[MixPart],
    pot: bench::Pot,
    correction: &bench::Correction,
    [measure, spoon]: [Measure; 2],
    target: Masstone,
    look: Look,
) -> Result<Fix, Problem> {
    let left = pot.ml - correction.discard;
    let mut of = vec![(left, pot.material)];
    of.extend(correction.additions.iter().map(|(at, ml)| (*ml, bench.known[*at].best())));
    let of: Vec<(Parts, &Material)> =
        of.into_iter().filter_map(|(ml, material)| Some((Parts::new(ml).ok()?, material))).collect();
    let mixed = warm_blend_paint::mix(&of).map_err(|_| Problem::internal())?;
    // In tenths of the least addition, which whole parts can hold.
    let total: f64 = inside.iter().map(|part| f64::from(part.given())).sum();
    let whole = |ml: f64| (10.0 * ml / pot.least).round().max(1.0) as u32;
    let was =
        inside.iter().map(|part| MixPart::new(part.paint, whole(left * f64::from(part.given()) / total)));
    let more = correction.additions.iter().map(|(at, ml)| MixPart::new(bench.tins[*at].id, whole(*ml)));
    Ok(Fix {
        discard: (correction.discard > 0.5 * pot.least)
            .then(|| warm_blend_paint::amount((correction.discard / pot.least).round() * pot.least, spoon)),
        additions: correction
            .additions
            .iter()
            .map(|(at, ml)| FixPart {
                paint: bench.tins[*at].id,
                name: bench.tins[*at].value.name.as_str().to_owned(),
                amount: warm_blend_paint::amount(*ml, spoon),
                ml: *ml,
                grams: ml * bench.tins[*at].value.density(),
                hex: thick(look, bench.known[*at].best()),
            })
            .collect(),
        amount: correction.total / measure.millilitres(),
        hex: thick(look, &mixed),
        judgement: Judgement::of(&Ensemble::certain(mixed), target, look)?,
        components: MixPart::gathered(was.chain(more)),
    })
}
