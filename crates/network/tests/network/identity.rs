//! The certificate is checked by an independent verifier: that of rustls, as a browser would.

use std::io::{Read, Write};
use std::sync::Arc;

use jiff::{SignedDuration, Timestamp};
use rustls::crypto::ring::default_provider;
use rustls::{ClientConfig, ClientConnection, RootCertStore, ServerConnection, Stream};
use rustls_pki_types::pem::PemObject;
use rustls_pki_types::{CertificateDer, ServerName};
use warm_blend_network::{BadCertificate, Fingerprint, Identity, Registry, RegistryError};

fn names(names: &[&str]) -> Vec<String> {
    names.iter().map(|&name| name.to_owned()).collect()
}

fn registry() -> (tempfile::TempDir, Registry) {
    let folder = tempfile::tempdir().unwrap();
    let registry = Registry::open(folder.path().join("network.json")).unwrap();
    (folder, registry)
}

/// Whether a client that trusts the workshop's authority accepts the server under this name.
fn accepts(identity: &Identity, trusted: &Identity, name: &str) -> bool {
    let mut roots = RootCertStore::empty();
    let root = CertificateDer::from_pem_slice(trusted.authority().unwrap().as_bytes()).unwrap();
    roots.add(root).unwrap();
    let client = ClientConfig::builder_with_provider(Arc::new(default_provider()))
        .with_safe_default_protocol_versions()
        .unwrap()
        .with_root_certificates(roots)
        .with_no_client_auth();
    let name = ServerName::try_from(name.to_owned()).unwrap();
    let mut client = ClientConnection::new(Arc::new(client), name).unwrap();
    let mut server = ServerConnection::new(Arc::new(identity.server_config().unwrap())).unwrap();
    // Both sides in one thread: what one writes the other reads.
    while client.is_handshaking() || server.is_handshaking() {
        let mut wire = Vec::new();
        while client.wants_write() {
            client.write_tls(&mut wire).unwrap();
        }
        if server.read_tls(&mut &wire[..]).is_err() || server.process_new_packets().is_err() {
            return false;
        }
        let mut wire = Vec::new();
        while server.wants_write() {
            server.write_tls(&mut wire).unwrap();
        }
        if client.read_tls(&mut &wire[..]).is_err() || client.process_new_packets().is_err() {
            return false;
        }
    }
    let mut wire = Wire::default();
    Stream::new(&mut client, &mut wire).write_all(b"hello").unwrap();
    server.read_tls(&mut &wire.0[..]).unwrap();
    server.process_new_packets().unwrap();
    let mut heard = [0; 5];
    server.reader().read_exact(&mut heard).unwrap();
    heard == *b"hello"
}

/// Collects what is written.
#[derive(Default)]
struct Wire(Vec<u8>);

impl Read for Wire {
    fn read(&mut self, _: &mut [u8]) -> std::io::Result<usize> {
        Err(std::io::ErrorKind::WouldBlock.into())
    }
}

impl Write for Wire {
    fn write(&mut self, bytes: &[u8]) -> std::io::Result<usize> {
        self.0.write(bytes)
    }

    fn flush(&mut self) -> std::io::Result<()> {
        Ok(())
    }
}

#[test]
fn a_client_that_trusts_the_authority_accepts_its_names_only() {
    let (_folder, mut registry) = registry();
    let all = names(&["192.168.1.20", "fd12::1", "bench.local", "bench", "localhost", "127.0.0.1"]);
    let identity = registry.identity(&all, Timestamp::now()).unwrap();
    for name in &all {
        assert!(identity.is_for(name), "{name}");
        assert!(accepts(&identity, &identity, name), "{name}");
    }
    assert!(identity.is_for("[fd12::1]"));
    for other in ["192.168.1.21", "other.local", "bench.example", "example.com", ""] {
        assert!(!identity.is_for(other), "{other}");
    }
    assert!(!accepts(&identity, &identity, "192.168.1.21"));
}

#[test]
fn the_authority_cannot_vouch_for_the_internet() {
    let (_folder, mut registry) = registry();
    let now = Timestamp::now();
    let trusted = registry.identity(&names(&["bench"]), now).unwrap();
    // A certificate for a site or a public address (RFC 5737) by the same authority is not believed.
    for foreign in ["203.0.113.7", "shop.local.example"] {
        let identity = registry.identity(&names(&["bench", foreign]), now).unwrap();
        assert_eq!(identity.fingerprint(), trusted.fingerprint());
        assert!(!accepts(&identity, &trusted, foreign), "{foreign}");
    }
}

#[test]
fn a_certificate_lasts_until_the_machine_has_other_names() {
    let (folder, mut registry) = registry();
    let now = Timestamp::now();
    let home = registry.identity(&names(&["bench", "192.168.1.20"]), now).unwrap();
    let again = Registry::open(folder.path().join("network.json")).unwrap();
    let mut registry = again;
    let later = registry.identity(&names(&["bench", "192.168.1.20"]), now).unwrap();
    assert_eq!(home.of_certificate(), later.of_certificate());
    let away = registry.identity(&names(&["bench", "10.0.0.5"]), now).unwrap();
    assert_ne!(home.of_certificate(), away.of_certificate());
    assert_eq!(home.fingerprint(), away.fingerprint());
    // Back home, nobody has to be asked again.
    let back = registry.identity(&names(&["bench", "192.168.1.20"]), now).unwrap();
    assert_eq!(back.of_certificate(), away.of_certificate());
    // It is renewed before it ends.
    let years_later = now + SignedDuration::from_hours(24 * 750);
    let renewed = registry.identity(&names(&["bench"]), years_later).unwrap();
    assert_ne!(renewed.of_certificate(), back.of_certificate());
    assert_eq!(renewed.fingerprint(), home.fingerprint());
}

#[test]
fn a_painter_brings_a_certificate() {
    let (_folder, mut registry) = registry();
    let pair = rcgen::generate_simple_self_signed(names(&["paint.example"])).unwrap();
    let (certificate, key) = (pair.cert.pem(), pair.signing_key.serialize_pem());
    registry.set_certificate(Some((certificate.clone(), key.clone()))).unwrap();
    let identity = registry.identity(&names(&["bench"]), Timestamp::now()).unwrap();
    assert!(identity.is_for("paint.example") && !identity.is_for("bench"));
    assert_eq!(identity.fingerprint(), Fingerprint::new(pair.cert.der()));
    assert_eq!(identity.authority(), None);
    // What cannot be used is refused, and the one in use stays.
    let other = rcgen::KeyPair::generate().unwrap().serialize_pem();
    for (certificate, key, why) in [
        ("", &*key, BadCertificate::NoCertificate),
        ("-----BEGIN CERTIFICATE-----\nAAAA\n-----END CERTIFICATE-----\n", &key, BadCertificate::OtherKey),
        ("-----BEGIN CERTIFICATE-----\nAA", &key, BadCertificate::NoCertificate),
        (&*certificate, "", BadCertificate::NoKey),
        (&certificate, &other, BadCertificate::OtherKey),
        (&key, &certificate, BadCertificate::NoCertificate),
    ] {
        let refused = registry.set_certificate(Some((certificate.to_owned(), key.to_owned())));
        let Err(RegistryError::Certificate(found)) = refused else { panic!("{why}: {refused:?}") };
        assert_eq!(found, why);
    }
    assert!(registry.has_own_certificate());
    registry.set_certificate(None).unwrap();
    assert!(registry.identity(&names(&["bench"]), Timestamp::now()).unwrap().is_for("bench"));
}
