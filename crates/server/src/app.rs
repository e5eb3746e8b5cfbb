//! The router: all routes behind the guards.

use axum::http::StatusCode;
use axum::middleware::{from_fn, from_fn_with_state};
use axum::response::{IntoResponse, Response};
use axum::{Extension, Router};
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use utoipa::OpenApi;
use utoipa::openapi::{ContentBuilder, Ref, ResponseBuilder};
use utoipa_axum::router::OpenApiRouter;

use crate::door::Door;
use crate::network::Doors;
use crate::problem::Problem;
use crate::{Workspace, body, front, guard, once, routes, who};

#[derive(OpenApi)]
#[openapi(
    info(
        title = "Warm Blend",
        description = "Colours of paint mixes, predicted from part ratios; a painter's shelf and pots. \
                       Volumes are wet ml, films µm of wet paint, L*a*b* is 2°, relative to the white of the light. \
                       Errors are RFC 9457 problem documents whose `errors[].pointer` names the field."
    ),
    components(schemas(Problem)),
    tags(
        (name = "engine", description = "Without the workspace: everything the answer depends on is in the request"),
        (name = "reference", description = "Tables the interface offers choices from"),
        (name = "shelf", description = "Paints and mediums on hand"),
        (name = "readings", description = "What was read of paints and mixes, the colour reader, photos"),
        (name = "pot", description = "Mixes"),
        (name = "board", description = "Sample boards: layers of a finish, predicted and drawn"),
        (name = "piece", description = "The piece at hand: its parts, what they wear, whether they belong together"),
        (name = "network", description = "The workspace on other machines of the workshop"),
        (name = "workspace", description = "Choices of the workshop, undo and redo")
    )
)]
struct Described;

fn described() -> OpenApiRouter<Workspace> {
    let mut router = OpenApiRouter::with_openapi(Described::openapi()).nest("/api", routes::all());
    tell_of_problems(router.get_openapi_mut());
    router
}

/// Every operation may answer with a problem.
fn tell_of_problems(description: &mut utoipa::openapi::OpenApi) {
    let answer = ResponseBuilder::new()
        .description("Not done: the reason and what to do")
        .content(
            "application/problem+json",
            ContentBuilder::new().schema(Some(Ref::from_schema_name("Problem"))).build(),
        )
        .build();
    for path in description.paths.paths.values_mut() {
        let operations =
            [&mut path.get, &mut path.put, &mut path.post, &mut path.delete].into_iter().flatten();
        for operation in operations {
            operation.responses.responses.insert("default".to_owned(), answer.clone().into());
        }
    }
}

/// Description of the interface (OpenAPI 3.1), generated from the types.
pub fn openapi() -> utoipa::openapi::OpenApi {
    described().into_openapi()
}

/// All routes of a workspace, and the front end, for the machine that it runs on.
pub fn app(workspace: Workspace) -> Router {
    app_behind(workspace, Door::Machine)
}

/// Makes the same for machines of the network.
pub fn doors(workspace: Workspace) -> Doors {
    Doors::new(move |identity| {
        let network = workspace.network.clone();
        app_behind(workspace.clone(), Door::Network { network, identity })
    })
}

fn app_behind(workspace: Workspace, door: Door) -> Router {
    let doors = doors(workspace.clone());
    let (router, _) = described().split_for_parts();
    router
        // Generated on request: it is large and rarely needed.
        .route("/api/openapi.json", axum::routing::get(async || axum::Json(openapi())))
        .with_state(workspace)
        .fallback(front::front)
        .method_not_allowed_fallback(wrong_method)
        .layer(from_fn(body::name_the_field))
        .layer(from_fn(routes::units::restate))
        .layer(from_fn(who::remember))
        .layer(CatchPanicLayer::custom(|_| Problem::internal().into_response()))
        .layer(from_fn_with_state(once::Answers::default(), once::once))
        .layer(CompressionLayer::new())
        .layer(Extension(doors))
        .layer(from_fn_with_state(door, guard::guard))
}

async fn wrong_method() -> Response {
    let detail = "this address does not accept that method; see /api/openapi.json";
    Problem::new(StatusCode::METHOD_NOT_ALLOWED, "method", "Wrong method", detail).into_response()
}
