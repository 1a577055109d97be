//! The sentences of `import`, and nothing else.

use std::fmt::Display;

pub(super) const ONE_COLUMN_MUST_NAME: &str =
    "One column must name the injector: tag, position or label.";
pub(super) const ONE_COLUMN_MUST_NAME_POINT: &str = "One column must name the point.";
pub(super) fn two_columns_mapped(cell: impl Display) -> String {
    format!("Two columns are mapped to \"{cell}\".")
}

pub(super) fn bench_no(cell: impl Display) -> String {
    format!("This bench has no \"{cell}\".")
}

pub(super) const NO_COLUMN_HOLDS_QUANTITY: &str = "No column holds a quantity.";
pub(super) const FEWER_COLUMNS_HEADING: &str = "It has fewer columns than the heading.";
pub(super) fn no_here(what: impl Display, text: impl Display) -> String {
    format!("No {what} \"{text}\" here.")
}

pub(super) fn not_number(cell: impl Display, text: impl Display) -> String {
    format!("{cell}: \"{text}\" is not a number.")
}

pub(super) fn below_zero(cell: impl Display, text: impl Display) -> String {
    format!("{cell}: {text} is below zero.")
}

pub(super) fn more_tube_holds(cell: impl Display, text: impl Display) -> String {
    format!("{cell}: {text} is more than a tube holds.")
}

pub(super) const NAMES_NO_INJECTOR: &str = "It names no injector.";
