//! Names and addresses of this machine on its network.

use std::net::{IpAddr, Ipv4Addr};

/// Names and addresses under which other machines of the network find this one: private IPv4 addresses, and the host name. This machine itself finds it under `localhost`.
pub fn own_names() -> Vec<String> {
    let addresses = if_addrs::get_if_addrs().unwrap_or_default();
    let mut names: Vec<String> = addresses
        .into_iter()
        .map(|interface| interface.ip())
        .filter(|address| address.is_ipv4() && is_private(*address))
        .map(|address| address.to_string())
        .collect();
    let host = gethostname::gethostname().to_string_lossy().to_lowercase();
    if is_host_name(&host) {
        if !host.contains('.') {
            names.push(format!("{host}.local"));
        }
        names.push(host);
    }
    names.extend(["localhost".to_owned(), Ipv4Addr::LOCALHOST.to_string()]);
    let mut seen = std::collections::BTreeSet::new();
    names.retain(|name| seen.insert(name.clone()));
    names
}

/// True of this machine and of machines of networks that the internet does not reach.
pub fn is_of_local_network(address: IpAddr) -> bool {
    let address = address.to_canonical();
    let is_link_local = match address {
        IpAddr::V4(address) => address.is_link_local(),
        IpAddr::V6(address) => address.is_unicast_link_local(),
    };
    address.is_loopback() || is_link_local || is_private(address)
}

/// True of addresses of networks that the internet does not reach (RFC 1918, RFC 4193).
fn is_private(address: IpAddr) -> bool {
    match address {
        IpAddr::V4(address) => address.is_private(),
        IpAddr::V6(address) => address.is_unique_local(),
    }
}

/// True of a host name (RFC 1123): labels of letters, figures and hyphens.
fn is_host_name(name: &str) -> bool {
    let is_label = |label: &str| {
        (1..=63).contains(&label.len())
            && label.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'-')
            && !label.starts_with('-')
            && !label.ends_with('-')
    };
    name.len() <= 253 && name.split('.').all(is_label)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn host_names_and_private_addresses() {
        for valid in ["bench", "paint-room.lan", "a1"] {
            assert!(is_host_name(valid), "{valid}");
        }
        for invalid in ["", "two words", "-a", "a-", "a..b", "bänk", "a_b"] {
            assert!(!is_host_name(invalid), "{invalid}");
        }
        // RFC 1918, section 3; RFC 4193; 192.0.2.0/24 and 2001:db8::/32 are for documentation (RFC 5737, RFC 3849).
        for (address, private) in [
            ("10.0.0.1", true),
            ("172.16.0.1", true),
            ("172.32.0.1", false),
            ("192.168.1.20", true),
            ("192.0.2.1", false),
            ("fd12::1", true),
            ("2001:db8::1", false),
            ("127.0.0.1", false),
        ] {
            let address = address.parse().unwrap();
            assert_eq!(is_private(address), private, "{address}");
            assert_eq!(is_of_local_network(address), private || address.is_loopback(), "{address}");
        }
        assert!(is_of_local_network("::ffff:10.0.0.1".parse().unwrap()));
        assert!(!is_of_local_network("::ffff:192.0.2.1".parse().unwrap()));
    }

    #[test]
    fn this_machine_has_a_name() {
        let names = own_names();
        assert!(names.iter().any(|name| name == "localhost"));
        assert!(names.iter().all(|name| is_host_name(name) || name.parse::<IpAddr>().is_ok()), "{names:?}");
    }
}
