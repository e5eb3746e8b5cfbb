//! The engine alone: a mix of paints given in the request with their readings.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_learn::{Certainty, Ensemble};
use warm_blend_paint::{CoatsToHide, Colour, FilmState, Look, Material, Parts, Seen};
use warm_blend_spectral::{BANDS, Light, wavelength};

use crate::{AgainstTarget, Checks, GivenTins, PredictTin, Refusal};

/// A mix to predict.
#[derive(Deserialize, ToSchema)]
pub struct PredictRequest {
    /// One to 64 paints and mediums.
    pub paints: Vec<PredictPaint>,
    /// The white of the tints, if it is none of the paints; needed only if a paint has a `tint`.
    pub white: Option<PredictTin>,
    /// Light; by default daylight.
    #[schema(example = "shop-tube")]
    pub light: Option<Light>,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
    /// Target colour.
    pub target: Option<Colour>,
}

/// A paint of the mix.
#[derive(Deserialize, ToSchema)]
pub struct PredictPaint {
    /// The tin.
    #[serde(flatten)]
    pub tin: PredictTin,
    /// Parts by wet volume, 0.001 to 100 000.
    #[schema(example = 3.0)]
    pub parts: f64,
    /// True for the white of the tints.
    #[serde(default)]
    pub house_white: bool,
}

/// Prediction of a thick sample of the mix in the requested state.
#[derive(Serialize, ToSchema)]
pub struct Predicted {
    /// Light.
    pub light: Light,
    /// The state of the film.
    pub state: FilmState,
    /// Wavelengths of the bands, nm.
    pub wavelengths: Vec<u32>,
    /// Reflectance factor in each band, 0–1.
    pub reflectance: Vec<f64>,
    /// L*, a*, b* relative to the white of the light (2°).
    pub lab: [f64; 3],
    /// Its colour on the screen, adapted to the light.
    pub hex: String,
    /// False if the screen cannot show it.
    pub in_gamut: bool,
    /// 90 % band, ΔE00: in nine cases of ten the true colour is within it.
    pub within: f64,
    /// Certainty in words.
    pub certainty: &'static str,
    /// Brushed coats until black and white no longer show; null for a glaze.
    pub hides_in: Option<f64>,
    /// Comparison with the target, if there is one.
    pub judgement: Option<AgainstTarget>,
    /// Contradictory readings that were left out, as pointers into the request.
    pub questioned: Vec<String>,
}

impl PredictRequest {
    /// Predicts the mix.
    pub fn answer(&self) -> Result<Predicted, Refusal> {
        let mut checks = Checks::default();
        let look = Look { light: self.light.unwrap_or_default(), state: self.state.unwrap_or_default() };
        let target = self.target.as_ref().and_then(|target| checks.colour("/target", target));
        let parts: Vec<Option<Parts>> = self
            .paints
            .iter()
            .enumerate()
            .map(|(i, paint)| checks.field(format!("/paints/{i}/parts"), Parts::new(paint.parts)))
            .collect();
        let tins: Vec<_> = self.paints.iter().map(|paint| (&paint.tin, paint.house_white)).collect();
        let bench = GivenTins::of(&tins, self.white.as_ref(), &mut checks);
        let parts = parts.into_iter().collect::<Option<Vec<_>>>();
        let (parts, bench) = checks.done(parts.zip(bench))?;

        let (known, questioned) = bench.learn()?;
        let components: Vec<(Parts, &Ensemble)> = parts.into_iter().zip(&known).collect();
        let mixed = Ensemble::mix(&components).map_err(|error| Refusal::field("/paints", error))?;
        let shown = mixed.in_state(look.state);
        let masstone = shown.best().masstone();
        let seen = Seen::of(&masstone, look.light);
        let within = shown.within(|material: &Material| Seen::of(&material.masstone(), look.light).lab);
        Ok(Predicted {
            light: look.light,
            state: look.state,
            wavelengths: (0..BANDS).map(wavelength).collect(),
            reflectance: masstone.bands().to_vec(),
            lab: [seen.lab.l, seen.lab.a, seen.lab.b],
            hex: seen.screen.srgb.to_string(),
            in_gamut: seen.screen.in_gamut,
            within,
            certainty: Certainty::of(within).words(),
            hides_in: mixed.best().coats_to_hide().map(CoatsToHide::value),
            judgement: target.map(|target| AgainstTarget::of(mixed.best(), target, look)).transpose()?,
            questioned,
        })
    }
}
