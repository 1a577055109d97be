//! The sentences of `insulation`, and nothing else.

use std::fmt::Display;

pub(super) const CONNECTOR_OFF_EACH_PIN: &str = "Connector off, each pin against the body. If the meter shows over range, enter the end of its range.";
pub(super) const INSULATION_TESTER_VOLTAGE_MAKER: &str =
    "Insulation tester at the voltage the maker allows, or a meter";
pub(super) const ONLY_SHOWS_LEAK_BODY: &str = "Only this shows a leak to the body.";
pub(super) const ALL_COILS_AGREE_ALL: &str = "All coils agree and all click.";
pub(super) const READ_EACH_PIN_AGAINST: &str = "Read each pin against the body, connectors off.";
pub(super) fn m_body_internal_leak(megohms: impl Display) -> String {
    format!("{megohms} MΩ to body: internal leak.")
}

pub(super) fn m_body(megohms: impl Display) -> String {
    format!("{megohms} MΩ to body.")
}

pub(super) const SAME_CONNECTOR_CLEANED_DRIED: &str =
    "The same with the connector cleaned and dried.";
pub(super) fn all_insulated_body(read: impl Display) -> String {
    format!("All {read} are insulated from the body.")
}

pub(super) fn leak_body(leaking: impl Display) -> String {
    format!("{leaking}: leak to body.")
}
