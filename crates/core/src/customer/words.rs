//! The sentences of `customer`, and nothing else.

use std::fmt::Display;

pub(super) fn maximum_characters(most: impl Display) -> String {
    format!("Maximum {most} characters.")
}
