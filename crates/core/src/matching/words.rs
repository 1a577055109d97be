//! The sentences of `matching`, and nothing else.

use std::fmt::Display;

// why

pub(super) const EXCLUDED_HAND: &str = "Excluded by hand.";
pub(super) fn not_measured(lacks: impl Display) -> String {
    format!("Not measured: {lacks}.")
}

pub(super) fn match_but_all_match(mates: impl Display) -> String {
    format!("{mates} match it, but all that match each other are already in sets.")
}

pub(super) fn match_everything_sets_apart(
    few: impl Display,
    needed: impl Display,
    feature: impl Display,
) -> String {
    format!("{few} a match in everything, {needed}; {feature} sets it apart.")
}

// matching

pub(super) fn match_features_once(most_features: impl Display) -> String {
    format!("match on 1 to {most_features} features at once")
}

pub(super) fn set_members(most_members: impl Display) -> String {
    format!("a set has 2 to {most_members} members")
}

pub(super) fn injectors_maximum_once(values: impl Display, most: impl Display) -> String {
    format!("{values} injectors; maximum {most} at once")
}

pub(super) fn tolerance_must_above_zero(name: impl Display) -> String {
    format!("the tolerance of {name} must be above zero")
}

pub(super) fn injector_needs_one_value(index: impl Display) -> String {
    format!("injector {index} needs one value for each feature")
}

pub(super) fn injector_cannot_compared(name: impl Display, index: impl Display) -> String {
    format!("{name} of injector {index} cannot be compared")
}

pub(super) fn no_injector_shelf(index: impl Display) -> String {
    format!("no injector {index} on the shelf")
}

pub(super) fn pinned_set_not_valid(n: impl Display, size: impl Display) -> String {
    format!("pinned set {n} is not valid: it needs {size} measured members within the tolerances")
}
