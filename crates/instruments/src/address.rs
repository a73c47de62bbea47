//! Where an instrument may be: on this machine or in a private network, by number, never by name.

use std::net::{IpAddr, Ipv6Addr, SocketAddr};
use std::str::FromStr;

/// The port on which instruments usually listen for SCPI (practice: 5025 is registered for it with IANA).
pub const USUAL_PORT: u16 = 5025;

/// An address that an instrument may have.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Address(SocketAddr);

/// An address that no instrument may have.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum AddressError {
    /// Not numbers.
    #[error("'{0}' is no address such as 192.168.1.40:5025; names are not looked up")]
    Unreadable(String),
    /// Out in the world.
    #[error(
        "{0} is out in the world: an instrument is on this machine or in a private network (10…, 172.16–31…, 192.168…)"
    )]
    Public(IpAddr),
    /// No port.
    #[error("port 0 is none: say the one that the instrument listens on, mostly 5025")]
    NoPort,
}

impl Address {
    /// Where to connect to.
    #[must_use]
    pub fn socket(self) -> SocketAddr {
        self.0
    }
}

impl FromStr for Address {
    type Err = AddressError;

    /// Reads `192.168.1.40:5025`, `[fd00::12]:5025`, or an address alone, with the usual port.
    fn from_str(text: &str) -> Result<Self, AddressError> {
        let text = text.trim();
        let alone =
            || text.trim_matches(['[', ']']).parse::<IpAddr>().map(|ip| SocketAddr::new(ip, USUAL_PORT));
        let socket = text
            .parse::<SocketAddr>()
            .or_else(|_| alone())
            .map_err(|_| AddressError::Unreadable(text.chars().take(60).collect()))?;
        if !near(socket.ip()) {
            return Err(AddressError::Public(socket.ip()));
        }
        if socket.port() == 0 {
            return Err(AddressError::NoPort);
        }
        Ok(Self(socket))
    }
}

impl std::fmt::Display for Address {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.fmt(f)
    }
}

/// Loopback, private (RFC 1918), link-local (RFC 3927) and unique local (RFC 4193).
fn near(ip: IpAddr) -> bool {
    match ip.to_canonical() {
        IpAddr::V4(v4) => v4.is_loopback() || v4.is_private() || v4.is_link_local(),
        IpAddr::V6(v6) => v6 == Ipv6Addr::LOCALHOST || v6.is_unique_local(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_what_is_near_is_an_address() {
        // RFC 1918, RFC 3927, RFC 4193; RFC 5737 and RFC 3849 for the addresses that are nobody's.
        for good in
            ["127.0.0.1:8761", "10.0.0.7:5025", "172.31.9.9:5025", "192.168.1.40", "[fd00::12]:5025", "::1"]
        {
            assert!(good.parse::<Address>().is_ok(), "{good}");
        }
        for bad in [
            "192.0.2.1:5025",
            "172.32.0.1:5025",
            "[2001:db8::1]:5025",
            "meter.local:5025",
            "0.0.0.0:5025",
            "",
            "127.0.0.1:0",
            "169.253.1.1:80",
            "[::ffff:192.0.2.1]:5025",
            "255.255.255.255:5025",
        ] {
            assert!(bad.parse::<Address>().is_err(), "{bad}");
        }
        assert_eq!(
            "192.168.1.40".parse::<Address>().map(|a| a.to_string()),
            Ok("192.168.1.40:5025".to_owned())
        );
    }
}
