//! The sentences of `places`, and nothing else.

use std::fmt::Display;

// spares

pub(super) fn not_measured_same_way(missing: impl Display) -> String {
    format!("not measured the same way: {missing}")
}

// places

pub(super) fn not_refitted(held: impl Display) -> String {
    format!("Not refitted as it is. {held}")
}

pub(super) const NOT_MEASURED_STAYS: &str = "Not measured: it stays where it is.";
pub(super) fn leave_place_bank_spread(
    now: impl Display,
    feature: impl Display,
    doubt: impl Display,
) -> String {
    format!(
        "Leave them in place: bank spread {now} by {feature}, and no other order is better by more than this bench can resolve ({doubt})."
    )
}

pub(super) fn move_bank_spread_now(
    moves: impl Display,
    apart: impl Display,
    feature: impl Display,
    now: impl Display,
    doubt: impl Display,
) -> String {
    format!(
        "Move {moves}: bank spread {apart} by {feature}, now {now}; the bench resolves {doubt}."
    )
}

pub(super) fn not_placed(open: impl Display) -> String {
    format!(" {open} not placed.")
}

pub(super) fn trim_codes_move_write(moved: impl Display) -> String {
    format!("Trim codes move with them: {moved}. Write them, read back and compare.")
}
