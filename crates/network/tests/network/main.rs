//! Certificates, invitations and sessions.

mod identity;
mod letting_in;
