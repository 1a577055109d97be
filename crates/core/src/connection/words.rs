//! The sentences of `connection`, and nothing else.

pub(super) const ENTER_IP_ADDRESS_AND_PORT: &str =
    "Enter an IP address and a port, such as 192.168.0.20:5025.";
pub(super) const NOT_ON_PRIVATE_NETWORK: &str =
    "Enter an address of this machine or of a private network.";
pub(super) const NAME_OF_INSTRUMENT_TOO_LONG: &str = "The name of the instrument is too long.";
