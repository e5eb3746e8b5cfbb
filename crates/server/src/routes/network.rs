//! The workshop's network: who is let in, and as what.

use axum::Extension;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use cookie::time::Duration;
use cookie::{Cookie, SameSite};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_network::{Access, Code, Identity, Visitor};
use warm_blend_paint::Name;

use crate::Workspace;
use crate::body::{Answer, Json, Path};
use crate::connections::Peer;
use crate::door::{Door, SESSION};
use crate::network::{Doors, NetworkState, Settings};
use crate::problem::Problem;
use crate::who::Who;

/// The workshop's network.
#[utoipa::path(get, path = "/network", operation_id = "get_network", tag = "network",
    responses((status = OK, body = NetworkState)))]
pub async fn get(State(workspace): State<Workspace>) -> Answer<NetworkState> {
    workspace.network.state().await.map(Json)
}

/// Settings of the network.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NetworkSettings {
    /// True if other machines can reach the workspace.
    is_on: bool,
    /// Port, from 1024.
    port: u16,
    /// Name under which changes at the workshop's machine are recorded.
    painter: Option<String>,
}

impl NetworkSettings {
    fn read(self) -> Result<Settings, Problem> {
        if self.port < 1024 {
            return Err(Problem::field("/port", "choose a port from 1024 to 65535, such as 7843"));
        }
        let painter = self.painter.filter(|name| !name.trim().is_empty());
        let painter = painter.map(|name| name_at("/painter", &name)).transpose()?;
        Ok(Settings { is_on: self.is_on, port: self.port, painter })
    }
}

fn name_at(pointer: &str, name: &str) -> Result<Name, Problem> {
    Name::new(name).map_err(|error| Problem::field(pointer, error))
}

/// Turn the network on or off, and choose its port.
#[utoipa::path(put, path = "/network", operation_id = "change_network", tag = "network",
    responses((status = OK, body = NetworkState)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Extension(doors): Extension<Doors>,
    Json(settings): Json<NetworkSettings>,
) -> Answer<NetworkState> {
    workspace.network.set(settings.read()?, &doors).await?;
    get(State(workspace)).await
}

/// Somebody to let in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct InvitationEntry {
    /// Who it is.
    name: String,
    /// What they may do.
    role: Access,
}

/// Invite one machine with a new code, instead of any that was invited before.
#[utoipa::path(post, path = "/network/invitation", operation_id = "invite", tag = "network",
    responses((status = OK, body = NetworkState)))]
pub async fn invite(
    State(workspace): State<Workspace>,
    Json(InvitationEntry { name, role }): Json<InvitationEntry>,
) -> Answer<NetworkState> {
    workspace.network.invite(name_at("/name", &name)?, role).await?;
    get(State(workspace)).await
}

/// Take the invitation back.
#[utoipa::path(delete, path = "/network/invitation", operation_id = "withdraw_invitation", tag = "network",
    responses((status = OK, body = NetworkState)))]
pub async fn withdraw(State(workspace): State<Workspace>) -> Answer<NetworkState> {
    workspace.network.withdraw().await?;
    get(State(workspace)).await
}

/// Shut a machine out.
#[utoipa::path(delete, path = "/network/sessions/{id}", operation_id = "revoke_session", tag = "network",
    responses((status = OK, body = NetworkState)))]
pub async fn revoke(
    State(workspace): State<Workspace>,
    Extension(doors): Extension<Doors>,
    Path(id): Path<Uuid>,
) -> Answer<NetworkState> {
    workspace.network.revoke(id, &doors).await?;
    get(State(workspace)).await
}

/// A certificate of the painter's own.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CertificateEntry {
    /// The certificate, followed by those that vouch for it (PEM).
    certificate: String,
    /// Its private key (PEM).
    key: String,
}

/// Use a certificate of one's own.
#[utoipa::path(put, path = "/network/certificate", operation_id = "choose_certificate", tag = "network",
    responses((status = OK, body = NetworkState)))]
pub async fn choose_certificate(
    State(workspace): State<Workspace>,
    Extension(doors): Extension<Doors>,
    Json(CertificateEntry { certificate, key }): Json<CertificateEntry>,
) -> Answer<NetworkState> {
    workspace.network.set_certificate(Some((certificate, key)), &doors).await?;
    get(State(workspace)).await
}

/// Use the workshop's certificate again.
#[utoipa::path(delete, path = "/network/certificate", operation_id = "forget_certificate", tag = "network",
    responses((status = OK, body = NetworkState)))]
pub async fn forget_certificate(
    State(workspace): State<Workspace>,
    Extension(doors): Extension<Doors>,
) -> Answer<NetworkState> {
    workspace.network.set_certificate(None, &doors).await?;
    get(State(workspace)).await
}

/// Who is asking.
#[derive(Debug, Serialize, ToSchema)]
pub struct Me {
    /// Name, if known.
    name: Option<String>,
    /// What a visitor may do; missing at the workshop's machine.
    role: Option<Access>,
}

/// Who is asking.
#[utoipa::path(get, path = "/network/me", operation_id = "get_me", tag = "network",
    responses((status = OK, body = Me)))]
pub async fn me(State(workspace): State<Workspace>) -> Json<Me> {
    Json(match Who::now() {
        Who::Visitor(Visitor { name, role, .. }) => {
            Me { name: Some(name.as_str().to_owned()), role: Some(role) }
        }
        _ => Me { name: workspace.network.painter().map(|name| name.as_str().to_owned()), role: None },
    })
}

/// What a machine learns of the workshop before it is let in.
#[derive(Debug, Serialize, ToSchema)]
pub struct DoorSeen {
    /// Words of the certificate, to compare with those on the workshop's machine.
    words: Vec<&'static str>,
    /// SHA-256 of the certificate, to compare with what the browser shows.
    fingerprint: String,
    /// True if there is an authority that this machine can be made to trust.
    has_authority: bool,
}

/// The door of the workshop, for machines that are not let in yet.
#[utoipa::path(get, path = "/network/door", operation_id = "see_door", tag = "network",
    responses((status = OK, body = DoorSeen)))]
pub async fn door(Extension(door): Extension<Door>) -> Answer<DoorSeen> {
    let identity = behind(&door)?;
    Ok(Json(DoorSeen {
        words: identity.fingerprint().words(),
        fingerprint: identity.of_certificate().hex(),
        has_authority: identity.authority().is_some(),
    }))
}

/// The workshop's own authority (PEM), for machines that shall trust it.
#[utoipa::path(get, path = "/network/authority.crt", operation_id = "get_authority", tag = "network",
    responses((status = OK, content_type = "application/x-x509-ca-cert")))]
pub async fn authority(Extension(door): Extension<Door>) -> Result<Response, Problem> {
    let none = || Problem::not_found("this workshop uses a certificate that needs no authority of its own");
    let pem = behind(&door)?.authority().ok_or_else(none)?.to_owned();
    let about = [
        (header::CONTENT_TYPE, "application/x-x509-ca-cert"),
        (header::CONTENT_DISPOSITION, r#"attachment; filename="warm-blend-workshop.crt""#),
    ];
    Ok((about, pem).into_response())
}

fn behind(door: &Door) -> Result<&Identity, Problem> {
    match door {
        Door::Network { identity, .. } => Ok(identity),
        Door::Machine => Err(Problem::not_found("at the workshop’s machine nobody needs to be let in")),
    }
}

/// A code, as it was typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct JoinRequest {
    /// The code.
    code: String,
}

/// How long a browser keeps a session; the workshop may end it earlier.
const KEPT: Duration = Duration::days(400);

/// Let this machine in.
#[utoipa::path(post, path = "/network/join", operation_id = "join", tag = "network",
    responses((status = NO_CONTENT)))]
pub async fn join(
    State(workspace): State<Workspace>,
    Extension(Peer(from)): Extension<Peer>,
    Json(JoinRequest { code }): Json<JoinRequest>,
) -> Result<Response, Problem> {
    let (_, token) = workspace.network.join(Code::read(&code), from.ip()).await?;
    let session = Cookie::build((SESSION, token.as_str().to_owned()))
        .http_only(true)
        .secure(true)
        .same_site(SameSite::Strict)
        .path("/")
        .max_age(KEPT);
    Ok((StatusCode::NO_CONTENT, [(header::SET_COOKIE, session.to_string())]).into_response())
}
