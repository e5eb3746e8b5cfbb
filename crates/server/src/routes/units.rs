//! Lengths and areas as they are typed and said.

use axum::Json;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use warm_blend_paint::Dimension;

use crate::{body::Asked, problem::Problem, wire::UnitsAsked};

/// What was typed.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct TypedMeasure {
    /// `length` (mm, or inches), `run` (m, or feet) or `area` (m², or square feet).
    measured: String,
    /// `36 1/2 in`, `91.4 cm`, `3 ft 2`; a plain number is in what is measured in.
    text: String,
}

/// What was typed, read.
#[derive(Debug, Serialize, ToSchema)]
pub struct MeasureRead {
    /// mm of a length, m of a run, m² of an area.
    value: f64,
    /// As it is said: `36 1/2 in`.
    said: String,
}

/// Reads a length or an area that was typed.
#[utoipa::path(get, path = "/measured", operation_id = "read_measure",
    tag = "reference", params(UnitsAsked, TypedMeasure),
    responses((status = OK, body = MeasureRead)))]
pub async fn read(
    Asked(units): Asked<UnitsAsked>,
    Asked(typed): Asked<TypedMeasure>,
) -> Result<Json<MeasureRead>, Problem> {
    let units = units.get()?;
    let measured = match typed.measured.as_str() {
        "length" => Dimension::Length,
        "run" => Dimension::Run,
        "area" => Dimension::Area,
        _ => return Err(Problem::field("?measured", "choose length, run or area")),
    };
    let value = units.read(measured, &typed.text).map_err(|error| Problem::field("?text", error))?;
    Ok(Json(MeasureRead { value, said: units.say(measured, value) }))
}
