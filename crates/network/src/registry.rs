//! What is kept of the network: settings, certificates and sessions.
//!
//! They are in a file of their own beside the workspace, and not in the workspace: going back to a backup must not let in
//! again whom the painter has shut out, and an archive handed to somebody must not contain a key.

use std::io::{self, Write};
use std::net::IpAddr;
use std::path::{Path, PathBuf};

use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::Name;

use crate::guesses::Guesses;
use crate::identity::{Authority, Pair};
use crate::invitation::{self, Code, Invitation};
use crate::session::{Access, NotLetIn, Session, Token, Visitor, hashed};
use crate::{BadCertificate, Identity};

/// Port on which the network is served unless the painter chooses another.
const PORT: u16 = 7843;
/// How often the time at which somebody was seen is saved.
const SEEN: SignedDuration = SignedDuration::from_hours(1);
/// Greatest number of sessions.
const SESSIONS: usize = 100;

/// What the file holds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Kept {
    is_on: bool,
    port: u16,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    painter: Option<Name>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    authority: Option<Authority>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    own: Option<Pair>,
    sessions: Vec<Session>,
}

impl Default for Kept {
    fn default() -> Self {
        Self { is_on: false, port: PORT, painter: None, authority: None, own: None, sessions: Vec::new() }
    }
}

/// Why the file of the network cannot be used.
#[derive(Debug, thiserror::Error)]
pub enum RegistryError {
    /// It cannot be read or written.
    #[error("can’t use {}: {error}", path.display())]
    File {
        /// The file.
        path: PathBuf,
        /// Message of the system.
        error: io::Error,
    },
    /// It is not what this program writes.
    #[error("can’t read {}: {why}. Move it away to start anew; everybody then needs a new code", path.display())]
    Damaged {
        /// The file.
        path: PathBuf,
        /// What is wrong with it.
        why: String,
    },
    /// The painter's certificate cannot be used, or none could be made.
    #[error(transparent)]
    Certificate(#[from] BadCertificate),
    /// Too many machines were let in.
    #[error("{SESSIONS} machines are let in already: shut out those that are no longer used")]
    Full,
    /// The system has no random numbers.
    #[error("the system gives no random numbers: {0}")]
    Random(getrandom::Error),
}

/// Settings, certificates, sessions and the open invitation. Whatever is acknowledged is on disk.
#[derive(Debug)]
pub struct Registry {
    path: PathBuf,
    kept: Kept,
    invitation: Option<Invitation>,
    guesses: Guesses,
}

impl Registry {
    /// Reads the file, if there is one.
    pub fn open(path: PathBuf) -> Result<Self, RegistryError> {
        let kept = match std::fs::read(&path) {
            Ok(bytes) => serde_json::from_slice(&bytes)
                .map_err(|error| RegistryError::Damaged { path: path.clone(), why: error.to_string() })?,
            Err(error) if error.kind() == io::ErrorKind::NotFound => Kept::default(),
            Err(error) => return Err(RegistryError::File { path, error }),
        };
        Ok(Self { path, kept, invitation: None, guesses: Guesses::default() })
    }

    /// Whether the network shall be served.
    pub fn is_on(&self) -> bool {
        self.kept.is_on
    }

    /// Port on which it is served.
    pub fn port(&self) -> u16 {
        self.kept.port
    }

    /// Name of the painter at the workshop's machine.
    pub fn painter(&self) -> Option<&Name> {
        self.kept.painter.as_ref()
    }

    /// Whether the painter brought a certificate.
    pub fn has_own_certificate(&self) -> bool {
        self.kept.own.is_some()
    }

    /// Machines that may come in, newest last.
    pub fn sessions(&self, now: Timestamp) -> impl Iterator<Item = &Session> {
        self.kept.sessions.iter().filter(move |session| session.is_valid(now))
    }

    /// Turns the network on or off, on this port, with the painter's name.
    pub fn set(&mut self, is_on: bool, port: u16, painter: Option<Name>) -> Result<(), RegistryError> {
        if !is_on {
            self.invitation = None;
        }
        self.keep(Kept { is_on, port, painter, ..self.kept.clone() })
    }

    /// Uses a certificate of the painter's own (PEM); `None` for the workshop's.
    pub fn set_certificate(&mut self, own: Option<(String, String)>) -> Result<(), RegistryError> {
        let own = own.map(|(certificate, key)| Pair { certificate, key });
        if let Some(own) = &own {
            Identity::own(own)?;
        }
        self.keep(Kept { own, ..self.kept.clone() })
    }

    /// The certificate of this machine under these names.
    pub fn identity(&mut self, names: &[String], now: Timestamp) -> Result<Identity, RegistryError> {
        if let Some(own) = &self.kept.own {
            return Ok(Identity::own(own)?);
        }
        let mut kept = self.kept.clone();
        let identity = Identity::issued(&mut kept.authority, names, now)?;
        self.keep(kept)?;
        Ok(identity)
    }

    /// Invites one machine, instead of any that was invited before.
    pub fn invite(&mut self, name: Name, role: Access, now: Timestamp) -> Result<&Invitation, RegistryError> {
        if self.sessions(now).count() >= SESSIONS {
            return Err(RegistryError::Full);
        }
        let code = Code::draw().map_err(RegistryError::Random)?;
        let until = now + invitation::VALID;
        Ok(self.invitation.insert(Invitation { id: Uuid::now_v7(), name, role, code, until, wrong: 0 }))
    }

    /// The last invitation that was not accepted yet.
    pub fn invitation(&self) -> Option<&Invitation> {
        self.invitation.as_ref()
    }

    /// Takes the invitation back.
    pub fn withdraw(&mut self) {
        self.invitation = None;
    }

    /// Lets in who knows the code.
    pub fn join(
        &mut self,
        code: Option<Code>,
        from: IpAddr,
        now: Timestamp,
    ) -> Result<(Visitor, Token), NotLetIn> {
        if let Some(wait) = self.guesses.wait(from, now) {
            return Err(NotLetIn::Locked(wait));
        }
        let open = self.invitation.as_mut().filter(|invitation| invitation.is_open(now));
        let Some(invitation) = open else {
            self.guesses.count(from, now);
            return Err(NotLetIn::NoInvitation);
        };
        if code != Some(invitation.code) {
            invitation.wrong += 1;
            self.guesses.count(from, now);
            return Err(NotLetIn::Wrong);
        }
        let failed = |error: &dyn std::fmt::Display| NotLetIn::Failed(error.to_string());
        let token = Token::draw().map_err(|error| failed(&error))?;
        let session = Session {
            id: invitation.id,
            name: invitation.name.clone(),
            role: invitation.role,
            token: hashed(token.as_str()),
            made_at: now,
            seen_at: now,
        };
        let visitor = session.visitor();
        let mut kept = self.kept.clone();
        kept.sessions.retain(|session| session.is_valid(now));
        kept.sessions.push(session);
        self.keep(kept).map_err(|error| failed(&error))?;
        self.invitation = None;
        self.guesses.forget(from);
        Ok((visitor, token))
    }

    /// Who has this token.
    pub fn visitor(&mut self, token: &str, now: Timestamp) -> Option<Visitor> {
        let hashed = hashed(token);
        let place =
            self.kept.sessions.iter().position(|session| session.token == hashed && session.is_valid(now))?;
        let visitor = self.kept.sessions[place].visitor();
        if now > self.kept.sessions[place].seen_at + SEEN {
            let mut kept = self.kept.clone();
            kept.sessions[place].seen_at = now;
            // Written down again next time.
            drop(self.keep(kept));
        }
        Some(visitor)
    }

    /// Shuts a machine out; says whether it was let in.
    pub fn revoke(&mut self, id: Uuid) -> Result<bool, RegistryError> {
        let mut kept = self.kept.clone();
        kept.sessions.retain(|session| session.id != id);
        let was = kept.sessions.len() < self.kept.sessions.len();
        if was {
            self.keep(kept)?;
        }
        Ok(was)
    }

    /// Replaces the file: all of it or nothing (a rename), readable by its owner only.
    fn keep(&mut self, kept: Kept) -> Result<(), RegistryError> {
        if kept != self.kept {
            write(&self.path, &kept)
                .map_err(|error| RegistryError::File { path: self.path.clone(), error })?;
            self.kept = kept;
        }
        Ok(())
    }
}

fn write(path: &Path, kept: &Kept) -> io::Result<()> {
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    // Such a file is readable by its owner only.
    let mut file = tempfile::NamedTempFile::new_in(folder)?;
    file.write_all(&serde_json::to_vec_pretty(kept)?)?;
    file.as_file().sync_all()?;
    file.persist(path)?;
    // The rename itself is on disk when the folder is.
    #[cfg(unix)]
    std::fs::File::open(folder)?.sync_all()?;
    Ok(())
}
