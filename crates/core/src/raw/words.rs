//! The sentences of `raw`, and nothing else.

pub(super) const CANNOT_BE_UNPACKED: &str = "this trace of an instrument cannot be read";
