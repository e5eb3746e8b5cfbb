//! The network as its page shows it.

use jiff::Timestamp;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_network::{Access, Identity, Invitation, Registry, Session, own_names};
use warm_blend_workshop::square;

use super::{Network, unusable};
use crate::problem::Problem;

/// The workshop's network.
#[derive(Debug, Serialize, ToSchema)]
pub struct NetworkState {
    /// True if other machines can reach the workspace.
    is_on: bool,
    /// Port.
    port: u16,
    /// Name under which changes at the workshop's machine are recorded.
    painter: Option<String>,
    /// Addresses to open on other machines, while it is on.
    addresses: Vec<String>,
    /// Words of the certificate, the same on every machine that reaches this one.
    words: Vec<&'static str>,
    /// SHA-256 of the certificate, as browsers show it.
    fingerprint: Option<String>,
    /// True if the painter brought the certificate.
    has_own_certificate: bool,
    /// True if there is an authority that other machines can be made to trust.
    has_authority: bool,
    /// Why it is not reachable although it is turned on.
    trouble: Option<String>,
    /// The invitation.
    invitation: Option<Invited>,
    /// Machines that were let in.
    sessions: Vec<LetIn>,
}

/// An invitation.
#[derive(Debug, Serialize, ToSchema)]
pub struct Invited {
    /// Who is invited.
    name: String,
    /// As what.
    role: Access,
    /// The code.
    code: String,
    /// Until when it is valid (RFC 3339).
    until: String,
    /// True if it can still be used.
    is_open: bool,
    /// Number of wrong codes so far.
    wrong: u32,
    /// Address with the code, for a camera.
    link: Option<String>,
    /// That address as a QR code: an SVG path of its dark modules.
    square: Option<String>,
    /// Modules along a side of it.
    size: usize,
}

/// A machine that was let in.
#[derive(Debug, Serialize, ToSchema)]
pub struct LetIn {
    /// Id.
    id: Uuid,
    /// Who uses it.
    name: String,
    /// What they may do.
    role: Access,
    /// When it was let in (RFC 3339).
    made_at: String,
    /// When it was last seen, within an hour (RFC 3339).
    seen_at: String,
}

impl Invited {
    fn of(invitation: &Invitation, address: Option<&String>, now: Timestamp) -> Self {
        let link = address.map(|address| format!("{address}/#{}", invitation.code.shown().replace(' ', "")));
        let (size, square) = link.as_deref().and_then(square).unzip();
        Self {
            name: invitation.name.as_str().to_owned(),
            role: invitation.role,
            code: invitation.code.shown(),
            until: invitation.until.to_string(),
            is_open: invitation.is_open(now),
            wrong: invitation.wrong,
            link,
            square,
            size: size.unwrap_or(0),
        }
    }
}

impl LetIn {
    fn of(session: &Session) -> Self {
        Self {
            id: session.id,
            name: session.name.as_str().to_owned(),
            role: session.role,
            made_at: session.made_at.to_string(),
            seen_at: session.seen_at.to_string(),
        }
    }
}

impl Network {
    /// Address of this machine on the network, while it is on.
    pub async fn address(&self) -> Option<String> {
        let listening = self.0.listening.lock().await;
        let listening = listening.as_ref()?;
        addresses(listening.port(), listening.identity()).into_iter().next()
    }

    /// The network now.
    pub async fn state(&self) -> Result<NetworkState, Problem> {
        let listening = self.0.listening.lock().await;
        let identity = listening.as_ref().map(|listening| listening.identity());
        let port = listening.as_ref().map(|listening| listening.port());
        let addresses =
            port.zip(identity).map_or_else(Vec::new, |(port, identity)| addresses(port, identity));
        let registry = self.registry();
        let registry: &Registry = registry.as_ref().map_err(|why| unusable(why))?;
        let now = Timestamp::now();
        let invited = registry.invitation().map(|invitation| Invited::of(invitation, addresses.first(), now));
        Ok(NetworkState {
            is_on: registry.is_on(),
            port: registry.port(),
            painter: registry.painter().map(|name| name.as_str().to_owned()),
            words: identity.map_or_else(Vec::new, |identity| identity.fingerprint().words()),
            fingerprint: identity.map(Identity::of_certificate).map(|fingerprint| fingerprint.hex()),
            has_own_certificate: registry.has_own_certificate(),
            has_authority: identity.is_some_and(|identity| identity.authority().is_some()),
            trouble: self.trouble().clone(),
            invitation: invited,
            sessions: registry.sessions(now).map(LetIn::of).collect(),
            addresses,
        })
    }
}

/// Addresses for other machines, and for this one where there is no other.
fn addresses(port: u16, identity: &Identity) -> Vec<String> {
    let names = own_names().into_iter().filter(|name| identity.is_for(name));
    let (mine, all): (Vec<_>, Vec<_>) =
        names.partition(|name| name == "localhost" || name.starts_with("127."));
    let names = if all.is_empty() { mine } else { all };
    names.into_iter().map(|name| format!("https://{name}:{port}")).collect()
}
