//! Who is let in, and who is not.

use std::net::IpAddr;
use std::path::PathBuf;

use jiff::{SignedDuration, Timestamp};
use proptest::prelude::*;
use warm_blend_network::{Access, Code, NotLetIn, Registry, RegistryError};
use warm_blend_paint::Name;

const TABLET: IpAddr = IpAddr::V4(std::net::Ipv4Addr::new(192, 168, 1, 31));

struct Door {
    registry: Registry,
    file: PathBuf,
    _folder: tempfile::TempDir,
}

impl Door {
    fn new() -> Self {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("network.json");
        Self { registry: Registry::open(file.clone()).unwrap(), file, _folder: folder }
    }

    fn invite(&mut self, role: Access, now: Timestamp) -> Code {
        self.registry.invite(Name::new("Robin").unwrap(), role, now).unwrap().code
    }

    fn reopened(self) -> Self {
        Self { registry: Registry::open(self.file.clone()).unwrap(), ..self }
    }
}

/// Another code.
fn wrong(code: Code) -> Option<Code> {
    let number: u32 = code.shown().replace(' ', "").parse().unwrap();
    Code::read(&format!("{:08}", (number + 1) % 100_000_000))
}

#[test]
fn a_code_lets_one_machine_in_once() {
    let (mut door, now) = (Door::new(), Timestamp::now());
    let code = door.invite(Access::Helper, now);
    let (visitor, token) = door.registry.join(Some(code), TABLET, now).unwrap();
    assert_eq!((visitor.name.as_str(), visitor.role), ("Robin", Access::Helper));
    assert_eq!(door.registry.join(Some(code), TABLET, now).unwrap_err(), NotLetIn::NoInvitation);
    // It is still let in when the program was started anew.
    let mut door = door.reopened();
    assert_eq!(door.registry.visitor(token.as_str(), now), Some(visitor.clone()));
    assert_eq!(door.registry.visitor("", now), None);
    // The file does not help whoever reads it.
    let text = std::fs::read_to_string(&door.file).unwrap();
    assert!(!text.contains(token.as_str()));
    // Shut out, it stays outside.
    assert!(door.registry.revoke(visitor.session).unwrap());
    assert!(!door.registry.revoke(visitor.session).unwrap());
    let mut door = door.reopened();
    assert_eq!(door.registry.visitor(token.as_str(), now), None);
}

#[test]
fn ten_thousand_guesses_are_five() {
    let (mut door, now) = (Door::new(), Timestamp::now());
    let code = door.invite(Access::Helper, now);
    let tries = (0..10_000).map(|n| {
        let from = IpAddr::from([192, 168, (n / 250) as u8, (n % 250) as u8]);
        let now = now + SignedDuration::from_millis(n * 10);
        door.registry.join(wrong(code), from, now).unwrap_err()
    });
    // From 10 000 machines: the code is no longer valid after five.
    assert_eq!(tries.filter(|refusal| *refusal == NotLetIn::Wrong).count(), 5);
    assert_eq!(door.registry.join(Some(code), TABLET, now).unwrap_err(), NotLetIn::NoInvitation);
    // From one machine: it waits, and does not use up the next codes.
    let mut door = Door::new();
    for _ in 0..5 {
        let code = door.invite(Access::Helper, now);
        assert_eq!(door.registry.join(wrong(code), TABLET, now).unwrap_err(), NotLetIn::Wrong);
    }
    let code = door.invite(Access::Helper, now);
    for _ in 0..10_000 {
        let refused = door.registry.join(Some(code), TABLET, now).unwrap_err();
        assert!(matches!(refused, NotLetIn::Locked(_)), "{refused}");
    }
    let other = IpAddr::from([192, 168, 1, 32]);
    assert!(door.registry.join(Some(code), other, now).is_ok());
    // Later it may try again.
    let later = now + SignedDuration::from_mins(16);
    let code = door.invite(Access::Helper, later);
    assert!(door.registry.join(Some(code), TABLET, later).is_ok());
}

#[test]
fn a_machine_is_locked_under_all_its_addresses() {
    let (mut door, now) = (Door::new(), Timestamp::now());
    // RFC 3849: addresses for documentation.
    let from = |n: u16| IpAddr::from([0x2001, 0xdb8, 0, 1, n, 0, 0, 1]);
    for n in 0..5 {
        door.registry.join(None, from(n), now).unwrap_err();
    }
    let code = door.invite(Access::Guest, now);
    assert!(matches!(door.registry.join(Some(code), from(99), now), Err(NotLetIn::Locked(_))));
    let mapped: IpAddr = "::ffff:192.168.1.31".parse().unwrap();
    for _ in 0..5 {
        door.registry.join(None, mapped, now).unwrap_err();
    }
    assert!(matches!(door.registry.join(Some(code), TABLET, now), Err(NotLetIn::Locked(_))));
}

#[test]
fn codes_and_sessions_end() {
    let (mut door, now) = (Door::new(), Timestamp::now());
    let hours = SignedDuration::from_hours;
    let code = door.invite(Access::Guest, now);
    let late = now + SignedDuration::from_mins(10);
    assert_eq!(door.registry.join(Some(code), TABLET, late).unwrap_err(), NotLetIn::NoInvitation);
    let code = door.invite(Access::Guest, now);
    let (guest, guests) = door.registry.join(Some(code), TABLET, now).unwrap();
    assert_eq!(guest.role, Access::Guest);
    assert!(door.registry.visitor(guests.as_str(), now + hours(23)).is_some());
    assert!(door.registry.visitor(guests.as_str(), now + hours(25)).is_none());
    // A helper who comes now and then stays; one who stays away does not.
    let code = door.invite(Access::Helper, now);
    let (_, token) = door.registry.join(Some(code), TABLET, now).unwrap();
    for month in 1..12 {
        assert!(door.registry.visitor(token.as_str(), now + hours(month * 30 * 24)).is_some());
    }
    let last = now + hours(11 * 30 * 24);
    let mut door = door.reopened();
    assert!(door.registry.visitor(token.as_str(), last + hours(170 * 24)).is_some());
    assert!(door.registry.visitor(token.as_str(), last + hours(400 * 24)).is_none());
}

#[test]
fn turning_it_off_takes_the_invitation_back() {
    let (mut door, now) = (Door::new(), Timestamp::now());
    assert!(!door.registry.is_on());
    door.registry.set(true, 7843, None).unwrap();
    let code = door.invite(Access::Helper, now);
    door.registry.set(false, 7843, None).unwrap();
    assert_eq!(door.registry.join(Some(code), TABLET, now).unwrap_err(), NotLetIn::NoInvitation);
}

#[cfg(unix)]
#[test]
fn only_the_owner_reads_the_file() {
    use std::os::unix::fs::PermissionsExt;
    let mut door = Door::new();
    door.registry.identity(&["bench".to_owned()], Timestamp::now()).unwrap();
    let mode = std::fs::metadata(&door.file).unwrap().permissions().mode();
    assert_eq!(mode & 0o777, 0o600);
}

proptest! {
    /// A file that something else wrote to is never taken for settings, and never overwritten.
    #[test]
    fn a_damaged_file_lets_nobody_in(cut in 0usize..400, flip in any::<prop::sample::Index>(), to in any::<u8>()) {
        let now = Timestamp::now();
        let mut door = Door::new();
        let code = door.invite(Access::Helper, now);
        door.registry.join(Some(code), TABLET, now).unwrap();
        let mut bytes = std::fs::read(&door.file).unwrap();
        let place = flip.index(bytes.len());
        bytes[place] = to;
        bytes.truncate(bytes.len().saturating_sub(cut.saturating_sub(200)));
        std::fs::write(&door.file, &bytes).unwrap();
        match Registry::open(door.file.clone()) {
            // What is still readable lets in nobody else.
            Ok(mut registry) => prop_assert!(registry.visitor("other", now).is_none()),
            Err(RegistryError::Damaged { .. }) => prop_assert_eq!(std::fs::read(&door.file).unwrap(), bytes),
            Err(error) => prop_assert!(false, "{}", error),
        }
    }
}
