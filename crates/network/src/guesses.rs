//! Wrong codes, counted by where they come from.

use std::collections::HashMap;
use std::net::IpAddr;

use jiff::{SignedDuration, Timestamp};

/// Wrong codes after which an address has to wait, and after which a code is no longer valid.
pub(crate) const MOST: u32 = 5;
/// How long it has to wait.
const LOCKED: SignedDuration = SignedDuration::from_mins(15);
/// Addresses remembered at once; a network at home has fewer.
const ADDRESSES: usize = 1024;

/// Wrong guesses of each address.
#[derive(Debug, Default)]
pub(crate) struct Guesses(HashMap<IpAddr, Wrong>);

#[derive(Debug, Clone, Copy)]
struct Wrong {
    count: u32,
    last: Timestamp,
}

impl Guesses {
    /// How long an address still has to wait, if it has.
    pub fn wait(&self, from: IpAddr, now: Timestamp) -> Option<SignedDuration> {
        let wrong = self.0.get(&machine(from)).filter(|wrong| wrong.count >= MOST)?;
        let rest = (wrong.last + LOCKED).duration_since(now);
        rest.is_positive().then_some(rest)
    }

    /// Counts a wrong code.
    pub fn count(&mut self, from: IpAddr, now: Timestamp) {
        self.0.retain(|_, wrong| (wrong.last + LOCKED).duration_since(now).is_positive());
        if self.0.len() >= ADDRESSES
            && let Some(oldest) = self.0.iter().min_by_key(|(_, wrong)| wrong.last).map(|(from, _)| *from)
        {
            self.0.remove(&oldest);
        }
        let wrong = self.0.entry(machine(from)).or_insert(Wrong { count: 0, last: now });
        *wrong = Wrong { count: wrong.count.saturating_add(1), last: now };
    }

    /// Forgets an address that was let in.
    pub fn forget(&mut self, from: IpAddr) {
        self.0.remove(&machine(from));
    }
}

/// A machine chooses the last 64 bits of its IPv6 address freely (RFC 4291, section 2.5.1): they do not tell it from another.
fn machine(address: IpAddr) -> IpAddr {
    match address.to_canonical() {
        IpAddr::V6(address) => IpAddr::V6((u128::from(address) >> 64 << 64).into()),
        v4 => v4,
    }
}
