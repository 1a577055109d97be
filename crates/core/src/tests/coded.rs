//! `coded`: whether the trim code of a moved or new injector arrived in its slot.
//!
//! Nothing is measured: it follows from what was fitted, moved, written and read back.

crate::said::outcomes! {
    MOVED_UNCODED = moved_uncoded,
    NEW_UNCODED = new_uncoded,
    CODE_FITS = code_fits,
}

/// The table of its outcomes.
pub(crate) const TABLE: &str = include_str!("coded.toml");
