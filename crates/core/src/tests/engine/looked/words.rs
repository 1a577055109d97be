//! The sentences of `looked`, and nothing else.

use std::fmt::Display;

pub(super) fn not_checked_yet(open: impl Display) -> String {
    format!("Not checked yet: {open}.")
}
