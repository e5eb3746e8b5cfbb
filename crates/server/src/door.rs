//! Where requests come in: from this machine, or from the network.

use std::sync::Arc;

use axum::http::{HeaderMap, header};
use cookie::Cookie;
use warm_blend_network::Identity;

use crate::network::Network;
use crate::who::Who;

/// Where a request comes in.
#[derive(Debug, Clone)]
pub enum Door {
    /// From this machine.
    Machine,
    /// From the network, by TLS.
    Network {
        /// Who is let in.
        network: Network,
        /// Certificate of this machine.
        identity: Arc<Identity>,
    },
}

/// Cookie with the token of a session. Browsers accept one of this name from this host by TLS only (RFC 6265bis,
/// section 4.1.3.2).
pub const SESSION: &str = "__Host-warm-blend";

impl Door {
    /// Who sent a request with these headers.
    pub fn who(&self, headers: &HeaderMap) -> Who {
        let Self::Network { network, .. } = self else { return Who::Painter };
        let cookies = headers.get_all(header::COOKIE).iter().filter_map(|value| value.to_str().ok());
        let cookies = cookies.flat_map(|text| Cookie::split_parse(text).flatten());
        let mut sessions = cookies.filter(|cookie| cookie.name() == SESSION);
        let visitor = sessions.find_map(|cookie| network.visitor(cookie.value()));
        visitor.map_or(Who::Stranger, Who::Visitor)
    }

    /// Scheme of its addresses.
    pub const fn scheme(&self) -> &'static str {
        match self {
            Self::Machine => "http",
            Self::Network { .. } => "https",
        }
    }

    /// What to do instead of opening it under a name that is not ours.
    pub const fn remedy(&self) -> &'static str {
        match self {
            Self::Machine => "open http://127.0.0.1 or http://localhost with the port printed at startup",
            Self::Network { .. } => {
                "open one of the addresses that the workshop’s machine shows under Network"
            }
        }
    }

    /// Whether a Host header names this machine.
    pub fn is_ours(&self, host: &str) -> bool {
        match self {
            Self::Machine => is_this_machine(host),
            Self::Network { identity, .. } => {
                let name = host.rsplit_once(':').filter(|(_, port)| is_port(port));
                identity.is_for(name.map_or(host, |(name, _)| name))
            }
        }
    }
}

/// `localhost`, `127.0.0.1` or `[::1]`, with or without a port.
fn is_this_machine(host: &str) -> bool {
    ["localhost", "127.0.0.1", "[::1]"].iter().any(|name| {
        host.strip_prefix(name)
            .is_some_and(|rest| rest.is_empty() || rest.strip_prefix(':').is_some_and(is_port))
    })
}

fn is_port(text: &str) -> bool {
    !text.is_empty() && text.bytes().all(|b| b.is_ascii_digit())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_names_of_this_machine_count() {
        for valid in ["localhost", "127.0.0.1:7878", "[::1]:80", "localhost:1"] {
            assert!(is_this_machine(valid), "{valid}");
        }
        for invalid in
            ["", "localhost.example", "127.0.0.1.example:80", "localhost:", "localhost:80x", "192.168.0.7"]
        {
            assert!(!is_this_machine(invalid), "{invalid}");
        }
    }
}
