//! The sentences of `catching`, and nothing else.

pub(super) const NOTHING_WAS_READ: &str = "Nothing was read in this time.";
