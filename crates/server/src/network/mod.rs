//! The workspace on the workshop's network: off unless the painter turns it on.

mod listening;
mod state;

use std::net::IpAddr;
use std::path::Path;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_network::{
    Access, Code, Identity, NotLetIn, Registry, RegistryError, Token, Visitor, own_names,
};
use warm_blend_paint::Name;

use crate::off_thread::off_thread;
use crate::problem::Problem;

pub use listening::Doors;
use listening::Listening;
pub use state::NetworkState;

/// The network of a workspace. All clones are one.
#[derive(Debug, Clone)]
pub struct Network(Arc<Shared>);

#[derive(Debug)]
struct Shared {
    /// What is kept, or why it cannot be read.
    registry: Mutex<Result<Registry, String>>,
    /// What listens now. Held while it is turned on or off.
    listening: tokio::sync::Mutex<Option<Listening>>,
    /// Why it does not listen although it should.
    trouble: Mutex<Option<String>>,
}

/// What a painter sets.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Settings {
    /// Whether the network is served.
    pub is_on: bool,
    /// On which port.
    pub port: u16,
    /// Name of the painter at the workshop's machine.
    pub painter: Option<Name>,
}

impl Network {
    /// The network of a workspace file, kept in a file beside it.
    pub fn beside(workspace: &Path) -> Self {
        let registry = Registry::open(workspace.with_extension("network.json"));
        Self(Arc::new(Shared {
            registry: Mutex::new(registry.map_err(|error| error.to_string())),
            listening: tokio::sync::Mutex::default(),
            trouble: Mutex::default(),
        }))
    }

    fn registry(&self) -> MutexGuard<'_, Result<Registry, String>> {
        self.0.registry.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn trouble(&self) -> MutexGuard<'_, Option<String>> {
        self.0.trouble.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Reads or changes what is kept, on a blocking thread.
    async fn with<R: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Registry) -> Result<R, RegistryError> + Send + 'static,
    ) -> Result<R, Problem> {
        let network = self.clone();
        off_thread(move || match &mut *network.registry() {
            Ok(registry) => Ok(work(registry)?),
            Err(why) => Err(unusable(why)),
        })
        .await
    }

    /// Name under which the painter's own changes are recorded.
    pub fn painter(&self) -> Option<Name> {
        self.registry().as_ref().ok()?.painter().cloned()
    }

    /// Who has this token.
    pub fn visitor(&self, token: &str) -> Option<Visitor> {
        self.registry().as_mut().ok()?.visitor(token, Timestamp::now())
    }

    /// Lets in who knows the code.
    pub async fn join(&self, code: Option<Code>, from: IpAddr) -> Result<(Visitor, Token), Problem> {
        let joined = self.with(move |registry| Ok(registry.join(code, from, Timestamp::now()))).await?;
        joined.map_err(NotLetIn::into)
    }

    /// Invites one machine.
    pub async fn invite(&self, name: Name, role: Access) -> Result<(), Problem> {
        self.with(move |registry| registry.invite(name, role, Timestamp::now()).map(drop)).await
    }

    /// Takes the invitation back.
    pub async fn withdraw(&self) -> Result<(), Problem> {
        self.with(|registry| {
            registry.withdraw();
            Ok(())
        })
        .await
    }

    /// Shuts a machine out: its connections end at once.
    pub async fn revoke(&self, id: Uuid, doors: &Doors) -> Result<(), Problem> {
        if !self.with(move |registry| registry.revoke(id)).await? {
            return Err(Problem::not_found("this machine is no longer let in; reload the page"));
        }
        self.listen_anew(doors).await
    }

    /// Changes the settings, and listens accordingly. They stay as they were where that fails.
    pub async fn set(&self, wanted: Settings, doors: &Doors) -> Result<(), Problem> {
        let mut listening = self.0.listening.lock().await;
        // Another port is opened before the old one is given up.
        let before = listening.take_if(|now| !wanted.is_on || now.port() == wanted.port);
        if let Some(before) = before {
            before.end().await;
        }
        if wanted.is_on {
            let began = Listening::begin(wanted.port, self.identity().await?, doors).await;
            let began = began.map_err(|why| Problem::field("/port", why))?;
            if let Some(before) = listening.replace(began) {
                before.end().await;
            }
        }
        *self.trouble() = None;
        let Settings { is_on, port, painter } = wanted;
        self.with(move |registry| registry.set(is_on, port, painter)).await
    }

    /// Uses a certificate of the painter's own (PEM), or the workshop's.
    pub async fn set_certificate(&self, own: Option<(String, String)>, doors: &Doors) -> Result<(), Problem> {
        self.with(move |registry| registry.set_certificate(own)).await?;
        self.listen_anew(doors).await
    }

    /// Begins to listen, if it is turned on.
    pub async fn start(&self, doors: &Doors) {
        let is_on = self.registry().as_ref().is_ok_and(Registry::is_on);
        if is_on {
            // What failed is on the page of the network.
            drop(self.listen_anew(doors).await);
        }
    }

    /// Ends all connections and listens again, if it is turned on.
    async fn listen_anew(&self, doors: &Doors) -> Result<(), Problem> {
        let mut listening = self.0.listening.lock().await;
        if let Some(before) = listening.take() {
            before.end().await;
        }
        let (is_on, port) = self.with(|registry| Ok((registry.is_on(), registry.port()))).await?;
        if is_on {
            let identity = self.identity().await?;
            let began = Listening::begin(port, identity, doors).await;
            *self.trouble() = began.as_ref().err().cloned();
            *listening = began.ok();
        }
        Ok(())
    }

    async fn identity(&self) -> Result<Identity, Problem> {
        self.with(|registry| registry.identity(&own_names(), Timestamp::now())).await
    }
}

fn unusable(why: &str) -> Problem {
    Problem::new(
        axum::http::StatusCode::CONFLICT,
        "network",
        "The network settings can’t be read",
        why.to_owned(),
    )
}

impl From<RegistryError> for Problem {
    fn from(error: RegistryError) -> Self {
        use axum::http::StatusCode;
        match error {
            RegistryError::File { error, .. } if error.kind() == std::io::ErrorKind::StorageFull => {
                Self::disk(error)
            }
            RegistryError::Certificate(bad) => Self::field(bad.pointer(), bad),
            error => Self::new(StatusCode::CONFLICT, "network", "Not done", error.to_string()),
        }
    }
}

impl From<NotLetIn> for Problem {
    fn from(error: NotLetIn) -> Self {
        use axum::http::StatusCode;
        match error {
            NotLetIn::Wrong | NotLetIn::NoInvitation => Self::field("/code", error),
            NotLetIn::Locked(_) => {
                Self::new(StatusCode::TOO_MANY_REQUESTS, "locked", "Too many wrong codes", error.to_string())
            }
            NotLetIn::Failed(_) => {
                Self::new(StatusCode::INTERNAL_SERVER_ERROR, "network", "Not let in", error.to_string())
            }
        }
    }
}
