//! Measures as typed and shown.

use axum::{
    extract::Request,
    middleware::Next,
    response::{IntoResponse, Response},
};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use warm_blend_paint::{Dimension, Measure, Quantity, Scale, Units};

use crate::{
    body::{Answer, Json, Query},
    problem::Problem,
    wire::UnitsAsked,
};

/// A typed measure.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct TypedMeasure {
    /// `length` (mm or inches), `run` (m or feet) or `area` (m² or square feet).
    #[param(inline)]
    measured: Dimension,
    /// `36 1/2 in`, `91.4 cm`, `3 ft 2`; a plain number is in the default unit.
    text: String,
}

/// A typed measure converted to a number.
#[derive(Debug, Serialize, ToSchema)]
pub struct MeasureRead {
    /// Value in mm for a length, m for a run, m² for an area.
    value: f64,
    /// The value in the default unit: `36 1/2 in`.
    said: String,
}

/// Linear scale of a quantity: shown is `zero + value / one`.
#[derive(Debug, Serialize, ToSchema)]
pub struct ScaleShown {
    /// `ml`, `fl oz`, `°C` or `°F`.
    unit: &'static str,
    /// One unit in ml or kelvin.
    one: f64,
    /// Number shown for 0 ml or 0 °C.
    zero: f64,
    /// Decimal places.
    places: usize,
    /// Other units that may follow a number.
    others: Vec<OtherUnit>,
}

/// Another unit that may be typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct OtherUnit {
    /// `tbsp`
    name: &'static str,
    /// One unit in ml or kelvin.
    one: f64,
    /// Number shown for 0 ml or 0 °C.
    zero: f64,
}

/// Scales of amounts and temperatures in the painter's units.
#[derive(Debug, Serialize, ToSchema)]
pub struct Scales {
    /// Scale of amounts of paint.
    volume: ScaleShown,
    /// Scale of temperatures.
    temperature: ScaleShown,
}

impl ScaleShown {
    fn new(units: Units, of: Quantity) -> Self {
        let other = |scale: Scale| OtherUnit { name: scale.unit, one: scale.one, zero: scale.zero };
        let measure = |measure: Measure| {
            measure.names().map(|name| OtherUnit { name, one: measure.millilitres(), zero: 0.0 })
        };
        let scale = units.scale(of);
        let mut others = vec![other(Units::Metric.scale(of)), other(Units::Imperial.scale(of))];
        if of == Quantity::Volume {
            others.extend(Measure::ALL.into_iter().flat_map(measure));
            others.push(OtherUnit { name: "l", one: Measure::Litre.millilitres(), zero: 0.0 });
        }
        Self { unit: scale.unit, one: scale.one, zero: scale.zero, places: scale.places, others }
    }
}

/// How amounts and temperatures are shown and typed.
#[utoipa::path(get, path = "/scales", operation_id = "get_scales", tag = "reference", params(UnitsAsked),
    responses((status = OK, body = Scales)))]
pub async fn scales(Query(UnitsAsked { units }): Query<UnitsAsked>) -> Json<Scales> {
    Json(Scales {
        volume: ScaleShown::new(units, Quantity::Volume),
        temperature: ScaleShown::new(units, Quantity::Temperature),
    })
}

/// Converts the measures of a problem to the units in the request header `Warm-Blend-Units`.
pub async fn restate(request: Request, next: Next) -> Response {
    let asked = request.headers().get("warm-blend-units");
    let units = if asked.is_some_and(|asked| asked == "imperial") { Units::Imperial } else { Units::Metric };
    let response = next.run(request).await;
    match response.extensions().get::<Problem>() {
        Some(problem) if units != Units::Metric => problem.clone().restated(units).into_response(),
        _ => response,
    }
}

/// Parse a typed length or area.
#[utoipa::path(get, path = "/measured", operation_id = "read_measure",
    tag = "reference", params(UnitsAsked, TypedMeasure),
    responses((status = OK, body = MeasureRead)))]
pub async fn read(
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Query(TypedMeasure { measured, text }): Query<TypedMeasure>,
) -> Answer<MeasureRead> {
    let value = units.read(measured, &text).map_err(|error| Problem::field("?text", error))?;
    Ok(Json(MeasureRead { value, said: units.say(measured, value) }))
}
