//! The engine by itself: a mix from paints given in the request, known by whatever was read of them.

use axum::Json;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_finish::learn::{Certainty, Ensemble, Facts, Pour, Reading, Shown, learn, make_sense};
use warm_blend_finish::{CoatsToHide, Material, Parts, Seen};
use warm_blend_spectral::{BANDS, wavelength};

use super::paints::source;
use super::readings::{MeasuredEntry, pour, wet};
use crate::body::Body;
use crate::check::Checks;
use crate::colour::{Colour, Judgement, Look, light, state};
use crate::problem::Problem;

/// Most paints in one request, and readings of each.
const MOST_PAINTS: usize = 64;
const MOST_READINGS: usize = 32;

/// A mix to predict.
#[derive(Deserialize, ToSchema)]
pub struct PredictRequest {
    /// One to 64 paints and mediums.
    paints: Vec<PredictPaint>,
    /// The white that tints were made with, where it is none of the paints; needed only where a paint has a `tint`.
    white: Option<PredictTin>,
    /// The light to see it in; daylight if left out.
    #[schema(example = "shop-tube")]
    light: Option<String>,
    /// `dry` (as when left out), `wet` or `sealed`.
    state: Option<String>,
    /// A colour to judge the mix against.
    target: Option<Colour>,
}

/// What is known of a tin.
#[derive(Deserialize, ToSchema)]
pub struct PredictTin {
    /// Its class, such as `chalk` or `glazing-liquid`: see `/api/classes`.
    #[schema(example = "chalk")]
    class: String,
    /// Its dry, thick, unsealed colour; a medium needs none.
    colour: Option<Colour>,
    /// What that colour was taken from: `chip` (as when left out), `reader`, `photo` or `guess`.
    source: Option<String>,
    /// Coats it needs to hide black and white; by class if left out.
    coats_to_hide: Option<f64>,
    /// What was read of it, at most 32.
    #[serde(default)]
    readings: Vec<PredictReading>,
}

/// One paint of the mix.
#[derive(Deserialize, ToSchema)]
pub struct PredictPaint {
    #[serde(flatten)]
    tin: PredictTin,
    /// Parts by wet volume, 0.001 to 100 000.
    #[schema(example = 3.0)]
    parts: f64,
    /// True of the white that tints were made with.
    #[serde(default)]
    house_white: bool,
}

/// One reading of a paint. With `tint` it is of the paint with white; with `over_black` and `over_white` of a drawdown; else
/// `of` the paint by itself, thick.
#[derive(Deserialize, ToSchema)]
pub struct PredictReading {
    /// What was read of a thick sample.
    of: Option<MeasuredEntry>,
    /// Parts of the paint and of the white.
    #[schema(example = json!([1, 1]))]
    tint: Option<[f64; 2]>,
    /// Wet thickness of a drawdown, µm.
    wet_um: Option<f64>,
    /// Read over black.
    over_black: Option<MeasuredEntry>,
    /// Read over white.
    over_white: Option<MeasuredEntry>,
    /// `dry` (as when left out), `wet` or `sealed`.
    state: Option<String>,
    /// `reader` (as when left out), `photo`, `chip` or `guess`.
    source: Option<String>,
    /// How the parts were measured: `spoons` (as when left out), `eye` or `scale`.
    pour: Option<String>,
}

/// What the mix is predicted to look like, thick, in the state that was asked for.
#[derive(Serialize, ToSchema)]
pub struct Predicted {
    /// The light it is seen in.
    light: &'static str,
    /// The state of the film.
    state: &'static str,
    /// Wavelengths of the bands, nm.
    wavelengths: Vec<u32>,
    /// Reflectance factor in each band, 0–1.
    reflectance: Vec<f64>,
    /// L*, a*, b* relative to the white of the light (2°).
    lab: [f64; 3],
    /// What a screen shows for it, adapted to the light.
    hex: String,
    /// False where the screen cannot show it.
    in_gamut: bool,
    /// 90 % band, ΔE00: the true colour is nearer in nine cases of ten.
    within: f64,
    /// That in words.
    certainty: &'static str,
    /// Brushed coats until black and white no longer show; null for a glaze.
    hides_in: Option<f64>,
    /// Against the target, if one was given.
    judgement: Option<Judgement>,
    /// Readings that contradict the others and were left out, as pointers into the request.
    questioned: Vec<String>,
}

/// The tins of a request and what was read of them; each reading with its place in the request.
struct Bench {
    facts: Vec<Facts>,
    readings: Vec<(String, Reading)>,
}

/// Predict a mix from paints given here; nothing is kept.
#[utoipa::path(post, path = "/predict", tag = "engine", request_body = PredictRequest,
    responses((status = OK, body = Predicted), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn predict(Body(request): Body<PredictRequest>) -> Result<Json<Predicted>, Problem> {
    // A request with many readings takes a while, and must not hold up others.
    tokio::task::spawn_blocking(move || answer(&request)).await.map_err(|_| Problem::internal())?.map(Json)
}

fn answer(request: &PredictRequest) -> Result<Predicted, Problem> {
    let mut checks = Checks::default();
    if request.paints.is_empty() || request.paints.len() > MOST_PAINTS {
        let detail = format!("{} paints: give 1 to {MOST_PAINTS}", request.paints.len());
        return Err(Problem::field("/paints", detail));
    }
    let light = checks.field("/light", light(request.light.as_deref()));
    let state = checks.field("/state", state(request.state.as_deref()));
    let target = request.target.as_ref().and_then(|target| target.parse(&mut checks, "/target"));
    let parts: Vec<Option<Parts>> = request
        .paints
        .iter()
        .enumerate()
        .map(|(i, paint)| checks.field(format!("/paints/{i}/parts"), Parts::new(paint.parts)))
        .collect();
    let bench = Bench::of(request, &mut checks);
    let parts = parts.into_iter().collect::<Option<Vec<_>>>();
    let (look, parts, bench) = checks.done(
        light
            .zip(state)
            .zip(parts.zip(bench))
            .map(|((light, state), (parts, bench))| (Look { light, state }, parts, bench)),
    )?;

    let (places, readings): (Vec<String>, Vec<Reading>) = bench.readings.into_iter().unzip();
    let learnt = learn(&bench.facts, &readings).map_err(|bad| {
        let at = if bad.paint < request.paints.len() {
            format!("/paints/{}/colour", bad.paint)
        } else {
            "/white/colour".to_owned()
        };
        Problem::field(at, bad.error)
    })?;
    let components: Vec<(Parts, &Ensemble)> = parts.into_iter().zip(&learnt.paints).collect();
    let mixed = Ensemble::mix(&components).map_err(|error| Problem::field("/paints", error))?;
    let shown = mixed.in_state(look.state);
    let masstone = shown.best().masstone();
    let seen = Seen::of(&masstone, look.light);
    let within = shown.within(|material: &Material| Seen::of(&material.masstone(), look.light).lab);
    let questioned = places.into_iter().zip(&learnt.judged).filter(|(_, judged)| judged.questioned);
    Ok(Predicted {
        light: look.light.id(),
        state: look.state.id(),
        wavelengths: (0..BANDS).map(wavelength).collect(),
        reflectance: masstone.bands().to_vec(),
        lab: [seen.lab.l, seen.lab.a, seen.lab.b],
        hex: seen.screen.srgb.to_string(),
        in_gamut: seen.screen.in_gamut,
        within,
        certainty: Certainty::of(within).words(),
        hides_in: CoatsToHide::of(mixed.best()).map(CoatsToHide::value),
        judgement: target.map(|target| Judgement::of(&mixed, target, look)).transpose()?,
        questioned: questioned.map(|(place, _)| place).collect(),
    })
}

impl Bench {
    fn of(request: &PredictRequest, checks: &mut Checks) -> Option<Self> {
        let tins = request
            .paints
            .iter()
            .enumerate()
            .map(|(i, paint)| (format!("/paints/{i}"), &paint.tin))
            .chain(request.white.iter().map(|white| ("/white".to_owned(), white)));
        let marked = request.paints.iter().position(|paint| paint.house_white);
        let white = marked.or(request.white.as_ref().map(|_| request.paints.len()));
        if marked.is_some() && request.white.is_some() {
            let help: Result<(), _> = Err("one of the paints is the house white already: leave this out");
            checks.field("/white", help);
        }
        let (mut facts, mut readings) = (Vec::new(), Vec::new());
        for (paint, (at, tin)) in tins.enumerate() {
            facts.push(tin.facts(checks, &at, Some(paint) == white));
            if tin.readings.len() > MOST_READINGS {
                let help: Result<(), _> =
                    Err(format!("{} readings: give at most {MOST_READINGS} of a paint", tin.readings.len()));
                checks.field(format!("{at}/readings"), help);
                continue;
            }
            for (i, reading) in tin.readings.iter().enumerate() {
                let at = format!("{at}/readings/{i}");
                readings.push(reading.parse(checks, &at, paint, white).map(|reading| (at, reading)));
            }
        }
        let facts: Vec<Facts> = facts.into_iter().collect::<Option<_>>()?;
        let readings: Vec<(String, Reading)> = readings.into_iter().collect::<Option<_>>()?;
        for (at, reading) in &readings {
            let masstone = |paint: usize| {
                facts[paint]
                    .masstone
                    .filter(|_| !facts[paint].class.is_medium())
                    .map(|masstone| masstone.lab())
            };
            let masstones: Vec<_> = reading.of.iter().map(|(paint, _)| masstone(*paint)).collect();
            checks.field(at.clone(), make_sense(reading, &masstones));
        }
        Some(Self { facts, readings })
    }
}

impl PredictTin {
    fn facts(&self, checks: &mut Checks, at: &str, house_white: bool) -> Option<Facts> {
        let class = checks.field(format!("{at}/class"), self.class.parse());
        let coats_to_hide =
            checks.optional(format!("{at}/coats_to_hide"), self.coats_to_hide.map(CoatsToHide::new));
        let source = checks.field(format!("{at}/source"), source(self.source.as_deref().unwrap_or("chip")));
        let masstone = match &self.colour {
            Some(colour) => Some(colour.parse(checks, &format!("{at}/colour"))?),
            None => None,
        };
        let (class, source) = (class?, source?);
        checks.field(format!("{at}/colour"), Material::of(class, masstone, coats_to_hide))?;
        Some(Facts { class, masstone, source, coats_to_hide, lustre: None, house_white })
    }
}

impl PredictReading {
    fn parse(&self, checks: &mut Checks, at: &str, paint: usize, white: Option<usize>) -> Option<Reading> {
        let state = checks.field(format!("{at}/state"), state(self.state.as_deref()));
        let source = checks.field(format!("{at}/source"), source(self.source.as_deref().unwrap_or("reader")));
        let pour = match self.pour.as_deref() {
            None => Some(Pour::Spoons),
            Some(text) => checks.field(format!("{at}/pour"), pour(text)),
        };
        let one = Parts::new(1.0).ok()?;
        let of = match self.tint {
            None => Some(vec![(paint, one)]),
            Some([own, more]) => {
                let own = checks.field(format!("{at}/tint/0"), Parts::new(own));
                let more = checks.field(format!("{at}/tint/1"), Parts::new(more));
                let white = white
                    .filter(|white| *white != paint)
                    .ok_or("say which white the tint was made with: mark one of the paints as house_white, or give it in /white; the white itself has none");
                let white = checks.field(format!("{at}/tint"), white);
                own.zip(more).zip(white).map(|((own, more), white)| vec![(paint, own), (white, more)])
            }
        };
        let shown =
            match (&self.of, &self.over_black, &self.over_white) {
                (Some(of), None, None) => of.parse(checks, &format!("{at}/of")).map(Shown::Thick),
                (None, Some(black), Some(white)) => {
                    let wet = checks.field(format!("{at}/wet_um"), wet(self.wet_um.unwrap_or(90.0)));
                    let over_black = black.parse(checks, &format!("{at}/over_black"));
                    let over_white = white.parse(checks, &format!("{at}/over_white"));
                    wet.zip(over_black.zip(over_white)).map(|(wet, (over_black, over_white))| {
                        Shown::Drawdown { wet, over_black, over_white }
                    })
                }
                _ => {
                    let help: Result<(), _> =
                        Err("give what was read once: `of` a thick sample, or `over_black` and `over_white`");
                    checks.field(at, help);
                    None
                }
            };
        Some(Reading { of: of?, pour: pour?, state: state?, shown: shown?, source: source?, sure: false })
    }
}
