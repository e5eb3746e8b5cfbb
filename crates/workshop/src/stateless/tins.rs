//! Paints given in a request, with their readings.

use serde::Deserialize;
use utoipa::ToSchema;
use warm_blend_learn::{Ensemble, Facts, PartsMethod, Reading, Shown, Source, learn, make_sense};
use warm_blend_paint::{Class, CoatsToHide, Colour, FilmState, Material, Parts};

use crate::{Checks, MeasuredEntry, Refusal, wet};

/// Greatest number of paints in a request, and of readings of each.
const MOST_PAINTS: usize = 64;

const MOST_READINGS: usize = 32;

/// Facts about a tin.
#[derive(Deserialize, ToSchema)]
pub struct PredictTin {
    /// Its class, such as `chalk` or `glazing-liquid`: see `/api/classes`.
    #[schema(example = "chalk")]
    pub class: Class,
    /// Colour of a thick, dry, unsealed film; a medium needs none.
    pub colour: Option<Colour>,
    /// Origin of that colour: `chip` (default), `reader`, `photo` or `guess`.
    pub source: Option<Source>,
    /// Coats it needs to hide black and white; by default as usual for its class.
    pub coats_to_hide: Option<f64>,
    /// Its readings, at most 32.
    #[serde(default)]
    pub readings: Vec<PredictReading>,
}

/// A reading of a paint: with `tint`, of the paint mixed with white; with `over_black` and `over_white`, of a drawdown;
/// otherwise `of` the paint alone in a thick sample.
#[derive(Deserialize, ToSchema)]
pub struct PredictReading {
    /// Measurement of a thick sample.
    pub of: Option<MeasuredEntry>,
    /// Parts of the paint and of the white.
    #[schema(example = json!([1, 1]))]
    pub tint: Option<[f64; 2]>,
    /// Wet thickness of a drawdown, µm.
    pub wet_um: Option<f64>,
    /// Measurement over black.
    pub over_black: Option<MeasuredEntry>,
    /// Measurement over white.
    pub over_white: Option<MeasuredEntry>,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
    /// Origin: `reader` (default), `photo`, `chip` or `guess`.
    pub source: Option<Source>,
    /// How the parts were measured: `spoons` (default), `eye` or `scale`.
    pub pour: Option<PartsMethod>,
}

/// Tins of a request with their readings, each with its position in the request.
pub struct GivenTins {
    /// Number of tins that are paints of the request; a separate white follows them.
    paints: usize,
    facts: Vec<Facts>,
    readings: Vec<(String, Reading)>,
}

impl GivenTins {
    /// Takes `paints`, each with whether it is the white of the tints, or else that white alone.
    pub fn of(
        paints: &[(&PredictTin, bool)],
        alone: Option<&PredictTin>,
        checks: &mut Checks,
    ) -> Option<Self> {
        if paints.is_empty() || paints.len() > MOST_PAINTS {
            return checks.wrong("/paints", format!("{} paints: give 1 to {MOST_PAINTS}", paints.len()));
        }
        let tins = paints
            .iter()
            .enumerate()
            .map(|(i, (tin, _))| (format!("/paints/{i}"), *tin))
            .chain(alone.map(|white| ("/white".to_owned(), white)));
        let marked = paints.iter().position(|(_, white)| *white);
        let white = marked.or(alone.map(|_| paints.len()));
        if marked.is_some() && alone.is_some() {
            checks.wrong::<()>("/white", "one paint is already the house white; leave this out");
        }
        let (mut facts, mut readings) = (Vec::new(), Vec::new());
        for (paint, (at, tin)) in tins.enumerate() {
            facts.push(tin.facts(checks, &at, Some(paint) == white));
            if tin.readings.len() > MOST_READINGS {
                let words =
                    format!("{} readings: give at most {MOST_READINGS} of a paint", tin.readings.len());
                checks.wrong::<()>(format!("{at}/readings"), words);
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
        Some(Self { paints: paints.len(), facts, readings })
    }

    /// Learns from the readings, and returns where in the request contradictory ones are.
    pub fn learn(self) -> Result<(Vec<Ensemble>, Vec<String>), Refusal> {
        let paints = self.paints;
        let (places, readings): (Vec<String>, Vec<Reading>) = self.readings.into_iter().unzip();
        let learnt = learn(&self.facts, &readings).map_err(|bad| {
            let at = if bad.paint < paints {
                format!("/paints/{}/colour", bad.paint)
            } else {
                "/white/colour".to_owned()
            };
            Refusal::field(at, bad.error)
        })?;
        let questioned = places.into_iter().zip(&learnt.judged).filter(|(_, judged)| judged.questioned);
        let questioned = questioned.map(|(place, _)| place).collect();
        Ok((learnt.paints, questioned))
    }

    /// Class of each tin.
    pub fn classes(&self) -> Vec<Class> {
        self.facts.iter().map(|facts| facts.class).collect()
    }
}

impl PredictTin {
    fn facts(&self, checks: &mut Checks, at: &str, house_white: bool) -> Option<Facts> {
        let coats_to_hide =
            checks.optional(format!("{at}/coats_to_hide"), self.coats_to_hide.map(CoatsToHide::new));
        let masstone = match &self.colour {
            Some(colour) => Some(checks.colour(&format!("{at}/colour"), colour)?),
            None => None,
        };
        let (class, source) = (self.class, self.source.unwrap_or_default());
        checks.field(format!("{at}/colour"), Material::of(class, masstone, coats_to_hide))?;
        Some(Facts { class, masstone, source, coats_to_hide, lustre: None, house_white })
    }
}

impl PredictReading {
    fn parse(&self, checks: &mut Checks, at: &str, paint: usize, white: Option<usize>) -> Option<Reading> {
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
        let shown = match (&self.of, &self.over_black, &self.over_white) {
            (Some(of), None, None) => of.parse(checks, &format!("{at}/of")).map(Shown::Thick),
            (None, Some(black), Some(white)) => {
                let wet = checks.field(format!("{at}/wet_um"), wet(self.wet_um.unwrap_or(90.0)));
                let over_black = black.parse(checks, &format!("{at}/over_black"));
                let over_white = white.parse(checks, &format!("{at}/over_white"));
                wet.zip(over_black.zip(over_white)).map(|(wet, (over_black, over_white))| Shown::Drawdown {
                    wet,
                    over_black,
                    over_white,
                })
            }
            _ => checks
                .wrong(at, "give what was read once: `of` a thick sample, or `over_black` and `over_white`"),
        };
        let (pour, state) = (self.pour.unwrap_or_default(), self.state.unwrap_or_default());
        let source = self.source.unwrap_or(Source::Reader);
        Some(Reading { of: of?, pour, state, shown: shown?, source, sure: false })
    }
}
