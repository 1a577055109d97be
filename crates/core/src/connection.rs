//! Where an instrument is reached that speaks the protocol ([`crate::instrument_link`]), and which
//! addresses may be contacted at all.
//!
//! Only an address that the workshop listed is ever contacted, and of those only loopback, private and
//! link-local ones unless the settings say otherwise: a reading is never fetched from the open network by
//! a slip of a finger. An address is numbers, never a name: what a name leads to may change.
//!
//! # Source
//! RFC 1918 and RFC 4193 (private), RFC 3927 and RFC 4291 (link-local, loopback).
//!
//! ```
//! use cobaltine_core::connection::is_near;
//! let near = |text: &str| is_near(text.parse().unwrap());
//! assert!(near("127.0.0.1") && near("192.168.0.20") && near("fd12::1"));
//! assert!(!near("203.0.113.7") && !near("2001:db8::1"));
//! ```

mod words;

use crate::instrument_link::DeviceKind;
use crate::limits::{FieldProblem, SHORT_TEXT, text_problem};
use serde::{Deserialize, Serialize};
use std::net::{IpAddr, SocketAddr};
use utoipa::ToSchema;
use uuid::Uuid;

/// An instrument at an address. A change is a new revision.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Connection {
    /// Identity.
    pub id: Uuid,
    /// As it is called in the workshop.
    pub name: String,
    /// What it has to be: another kind at this address is refused.
    pub kind: DeviceKind,
    /// IP address and port.
    pub address: String,
    /// The instrument of the workshop that it is: its marks and its calibration are those of a reading.
    #[serde(default)]
    pub instrument: Option<Uuid>,
    /// Taken off the list: never contacted again.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub removed: bool,
    /// Goes up with every change.
    pub revision: u64,
}

/// The instrument that showed a reading, as it named itself then.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ShownBy {
    /// The connection.
    pub connection: Uuid,
    /// Its name at the time.
    pub name: String,
    /// What the instrument said that it is.
    pub identity: String,
}

impl ShownBy {
    /// A text of it that is too long to be kept.
    pub fn problem(&self) -> Option<FieldProblem> {
        let long = [&self.name, &self.identity].into_iter().any(|t| t.chars().count() > SHORT_TEXT);
        long.then(|| FieldProblem::new("shown_by", words::NAME_OF_INSTRUMENT_TOO_LONG))
    }
}

impl Connection {
    /// Its address as numbers.
    pub fn socket(&self) -> Option<SocketAddr> {
        self.address.trim().parse().ok().filter(|at: &SocketAddr| at.port() > 0)
    }

    /// Everything that is wrong with it, field by field; `anywhere` where the settings allow more than
    /// this machine and private networks.
    pub fn problems(&self, anywhere: bool) -> Vec<FieldProblem> {
        let mut found: Vec<FieldProblem> =
            text_problem("name", &self.name, 80).into_iter().collect();
        let says = match self.socket() {
            None => Some(words::ENTER_IP_ADDRESS_AND_PORT),
            Some(at) if !anywhere && !is_near(at.ip()) => Some(words::NOT_ON_PRIVATE_NETWORK),
            Some(_) => None,
        };
        found.extend(says.map(|says| FieldProblem::new("address", says)));
        found
    }
}

/// Whether an address is of this machine or of a private network.
pub fn is_near(ip: IpAddr) -> bool {
    match ip {
        IpAddr::V4(ip) => ip.is_loopback() || ip.is_private() || ip.is_link_local(),
        IpAddr::V6(ip) => match ip.to_ipv4_mapped() {
            Some(ip) => is_near(IpAddr::V4(ip)),
            None => ip.is_loopback() || ip.is_unique_local() || ip.is_unicast_link_local(),
        },
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_connection_is_an_ip_address_with_a_port_on_a_near_network() {
        let at = |address: &str, anywhere| {
            let connection = Connection {
                id: Uuid::nil(),
                name: "Bay 1 bottles".to_owned(),
                kind: DeviceKind::Bottles,
                address: address.to_owned(),
                instrument: None,
                removed: false,
                revision: 0,
            };
            connection.problems(anywhere).into_iter().map(|one| one.field).collect::<Vec<_>>()
        };
        for fine in ["127.0.0.1:9101", " 10.0.0.4:5025 ", "[::1]:5025", "[::ffff:192.168.1.2]:5025"]
        {
            assert!(at(fine, false).is_empty(), "{fine}");
        }
        for wrong in
            ["", "localhost:9101", "127.0.0.1", "127.0.0.1:0", "8.8.8.8:53", "[::ffff:8.8.8.8]:53"]
        {
            assert_eq!(at(wrong, false), ["address"], "{wrong}");
        }
        assert!(at("8.8.8.8:53", true).is_empty(), "the settings allow it");
        assert_eq!(at("localhost:9101", true), ["address"], "a name may lead elsewhere tomorrow");
    }
}
