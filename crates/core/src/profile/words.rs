//! The sentences of `profile`, and nothing else.

use std::fmt::Display;

pub(super) const LOGO_KIND: &str = "Choose a picture: PNG, JPEG or WebP.";
pub(super) const LOGO_TOO_LARGE: &str = "Picture too large. Maximum 150 KB.";

pub(super) fn maximum_characters(most: impl Display) -> String {
    format!("Maximum {most} characters.")
}
