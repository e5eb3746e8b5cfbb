//! Lengths and areas as they are typed and said.

use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use warm_blend_paint::Dimension;

use crate::{
    body::{Answer, Json, Query},
    problem::Problem,
    wire::UnitsAsked,
};

/// What was typed.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct TypedMeasure {
    /// `length` (mm, or inches), `run` (m, or feet) or `area` (m², or square feet).
    #[param(inline)]
    measured: Dimension,
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
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Query(TypedMeasure { measured, text }): Query<TypedMeasure>,
) -> Answer<MeasureRead> {
    let value = units.read(measured, &text).map_err(|error| Problem::field("?text", error))?;
    Ok(Json(MeasureRead { value, said: units.say(measured, value) }))
}
