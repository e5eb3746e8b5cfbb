//! The engine by itself: a mix from paints given in the request.

use axum::Json;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_finish::{CoatsToHide, Material, Parts, Seen, mix};
use warm_blend_spectral::{BANDS, wavelength};

use crate::body::Body;
use crate::check::Checks;
use crate::colour::{Colour, Judgement, light};
use crate::problem::Problem;

/// Most paints in one request.
const MOST_PAINTS: usize = 64;

/// A mix to predict.
#[derive(Deserialize, ToSchema)]
pub struct PredictRequest {
    /// One to 64 paints and mediums.
    paints: Vec<PredictPaint>,
    /// The light to see it in; daylight if left out.
    #[schema(example = "shop-tube")]
    light: Option<String>,
    /// A colour to judge the mix against.
    target: Option<Colour>,
}

/// One paint of it.
#[derive(Deserialize, ToSchema)]
pub struct PredictPaint {
    /// Its class, such as `chalk` or `glazing-liquid`: see `/api/classes`.
    #[schema(example = "chalk")]
    class: String,
    /// Its dry, thick, unsealed colour; a medium needs none.
    colour: Option<Colour>,
    /// Coats it needs to hide black and white; by class if left out.
    coats_to_hide: Option<f64>,
    /// Parts by wet volume, 0.001 to 100 000.
    #[schema(example = 3.0)]
    parts: f64,
}

/// What the mix is predicted to look like, dry, thick and unsealed.
#[derive(Serialize, ToSchema)]
pub struct Predicted {
    /// The light it is seen in.
    light: &'static str,
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
    /// Brushed coats until black and white no longer show; null for a glaze.
    hides_in: Option<f64>,
    /// Against the target, if one was given.
    judgement: Option<Judgement>,
}

/// Predict a mix from paints given here; nothing is kept.
#[utoipa::path(post, path = "/predict", tag = "engine", request_body = PredictRequest,
    responses((status = OK, body = Predicted), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn predict(Body(request): Body<PredictRequest>) -> Result<Json<Predicted>, Problem> {
    let mut checks = Checks::default();
    if request.paints.is_empty() || request.paints.len() > MOST_PAINTS {
        let detail = format!("{} paints: give 1 to {MOST_PAINTS}", request.paints.len());
        return Err(Problem::field("/paints", detail));
    }
    let light = checks.field("/light", light(request.light.as_deref()));
    let paints: Vec<Option<(Parts, Material)>> =
        request.paints.iter().enumerate().map(|(i, paint)| paint.parse(&mut checks, i)).collect();
    let target = request.target.as_ref().and_then(|target| target.parse(&mut checks, "/target"));
    let (light, paints) = checks.done(light.zip(paints.into_iter().collect::<Option<Vec<_>>>()))?;

    let components: Vec<_> = paints.iter().map(|(parts, material)| (*parts, material)).collect();
    let mixed = mix(&components).map_err(|error| Problem::field("/paints", error))?;
    let masstone = mixed.masstone();
    let seen = Seen::of(&masstone, light);
    Ok(Json(Predicted {
        light: light.id(),
        wavelengths: (0..BANDS).map(wavelength).collect(),
        reflectance: masstone.bands().to_vec(),
        lab: [seen.lab.l, seen.lab.a, seen.lab.b],
        hex: seen.screen.srgb.to_string(),
        in_gamut: seen.screen.in_gamut,
        hides_in: CoatsToHide::of(&mixed).map(CoatsToHide::value),
        judgement: target.map(|target| Judgement::of(&mixed, target, light)).transpose()?,
    }))
}

impl PredictPaint {
    fn parse(&self, checks: &mut Checks, i: usize) -> Option<(Parts, Material)> {
        let at = |field: &str| format!("/paints/{i}/{field}");
        let class = checks.field(at("class"), self.class.parse());
        let coats_to_hide = checks.optional(at("coats_to_hide"), self.coats_to_hide.map(CoatsToHide::new));
        let parts = checks.field(at("parts"), Parts::new(self.parts));
        let masstone = match &self.colour {
            Some(colour) => Some(colour.parse(checks, &at("colour"))?),
            None => None,
        };
        let material = checks.field(at("colour"), Material::of(class?, masstone, coats_to_hide));
        parts.zip(material)
    }
}
