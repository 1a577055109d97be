//! What a stand-in answers to the question for its errors: numbers and texts of SCPI.

pub(super) const NO_ERROR: &str = "0,\"No error\"";
pub(super) const UNDEFINED_HEADER: &str = "-113,\"Undefined header\"";
pub(super) const SETTINGS_CONFLICT: &str = "-221,\"Settings conflict\"";
pub(super) const OUT_OF_RANGE: &str = "-222,\"Data out of range\"";
pub(super) const DATA_STALE: &str = "-230,\"Data corrupt or stale\"";

pub(crate) const DIESEL_BAY: &str = "Diesel bay";
pub(crate) const PETROL_BAY: &str = "Petrol bay";
pub(crate) const DOSER_BAY: &str = "Doser bay";
