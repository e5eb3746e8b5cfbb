//! A layer's pot a shade lighter or darker: its paints make room for their neighbour on the ladder, its mediums stay.

use axum::{Json, extract::State};
use serde::Deserialize;
use utoipa::ToSchema;
use warm_blend_paint::{PaintId, WholeParts, nearest_whole};

use crate::{
    Workspace,
    body::{Asked, Body},
    colour::LookedAt,
    problem::Problem,
    routes::{
        bench::{LadderOf, ladder},
        mixes::MixPart,
    },
};

/// A pot that is to be lighter or darker.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PotToShade {
    /// What is in it.
    pot: Vec<MixPart>,
    /// How many shades: −5 to 5, darker below nought.
    #[schema(example = -1)]
    shades: i32,
}

/// The pot so many shades lighter or darker, from the shelf.
#[utoipa::path(post, path = "/boards/shade", operation_id = "shade_pot",
    tag = "board", params(LookedAt), request_body = PotToShade,
    responses((status = OK, body = Vec<MixPart>)))]
pub async fn shade(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(PotToShade { pot, shades }): Body<PotToShade>,
) -> Result<Json<Vec<MixPart>>, Problem> {
    let ((), known) = workspace.with_known(|_| Ok(())).await?;
    let is_medium =
        |part: &MixPart| known.estimate().class(PaintId(part.paint)).is_some_and(|class| class.is_medium());
    let (mediums, paints): (Vec<MixPart>, Vec<MixPart>) = pot.into_iter().partition(is_medium);
    if paints.is_empty() {
        return Err(Problem::field("/pot", "there is no paint in the pot: put one in first"));
    }
    let sum = |parts: &[MixPart]| parts.iter().map(|part| f64::from(part.given())).sum::<f64>();
    let painted = sum(&paints);
    let Json(made) = ladder(State(workspace), Asked(asked), Body(LadderOf::of(paints))).await?;
    let Some(lighter) = made.into_rung(shades) else {
        let which = if shades < 0 { "darker" } else { "lighter" };
        return Err(Problem::field("/shades", format!("the shelf has no mix that much {which}")));
    };
    // As much paint beside the mediums as there was.
    let scale = painted / sum(&lighter);
    let amounts: Vec<f64> = lighter
        .iter()
        .map(|part| f64::from(part.given()) * scale)
        .chain(mediums.iter().map(|part| f64::from(part.given())))
        .collect();
    let whole = nearest_whole(&amounts).into_iter().map(WholeParts::value);
    let parts = lighter.iter().chain(&mediums).zip(whole);
    Ok(Json(parts.map(|(part, parts)| MixPart::new(part.paint, parts)).collect()))
}
