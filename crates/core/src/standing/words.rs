//! Every sentence of what counts now.

use super::Standing;

impl Standing {
    /// As it stands under a reading.
    pub fn word(self) -> &'static str {
        match self {
            Self::Counts => "counts",
            Self::Joined => "averaged",
            Self::Superseded => "superseded",
            Self::Excluded => "excluded",
            Self::BeforeSwap => "before the swap",
            Self::BeforeNewPart => "before the new part",
            Self::BeforeCleaning => "before cleaning",
            Self::BeforeSetting => "before setting",
            Self::BeforeRepair => "before the repair",
            Self::Gone => "removed",
            Self::InDoubt => "contradictory",
        }
    }

    /// What would make it count again; empty where it counts.
    pub fn back(self) -> &'static str {
        match self {
            Self::Counts | Self::Joined => "",
            Self::Superseded => "Exclude the reading that took its place.",
            Self::Excluded => "Count the run again.",
            Self::BeforeSwap => "Swap the injectors back, or undo a swap recorded by mistake.",
            Self::BeforeNewPart | Self::Gone => "Refit the injector that it was read of.",
            Self::BeforeCleaning | Self::BeforeSetting | Self::BeforeRepair => {
                "Nothing: measure again."
            }
            Self::InDoubt => "Repeat the check once more: the third reading decides.",
        }
    }

    /// What was done since, as it follows "not measured since".
    pub(super) fn since(self) -> Option<&'static str> {
        match self {
            Self::BeforeSwap => Some("the swap"),
            Self::BeforeNewPart | Self::Gone => Some("the new part"),
            Self::BeforeCleaning => Some("cleaning"),
            Self::BeforeSetting => Some("setting"),
            Self::BeforeRepair => Some("the repair"),
            Self::Counts | Self::Joined | Self::Superseded | Self::Excluded | Self::InDoubt => None,
        }
    }
}

pub(super) fn removed(label: &str) -> String {
    format!("removed: {label}")
}

pub(super) fn not_measured_since(who: &str, what: &str) -> String {
    format!("{who}: not measured since {what}.")
}

pub(super) fn not_repeated_since(who: &str, test: &str, what: &str) -> String {
    format!("{who}: {} not repeated since {what}.", lower(test))
}

/// The sentence of a lane, which stands under its column, with whom it is about before it.
pub(super) fn of_place(who: &str, sentence: &str) -> String {
    format!("{who}: {}", lower(sentence))
}

/// With a small first letter, but for signs and abbreviations.
fn lower(text: &str) -> String {
    let mut letters = text.chars();
    match (letters.next(), letters.next()) {
        (Some(first), Some(second)) if second.is_lowercase() => {
            format!("{}{}", first.to_lowercase(), &text[first.len_utf8()..])
        }
        _ => text.to_owned(),
    }
}

pub(super) fn contradictory(who: &str, test: &str) -> String {
    format!("{who}: contradictory. {test} failed, then passed without work in between. Once more.")
}

pub(super) fn on_bench(test: &str, headline: &str) -> String {
    format!("Bench, {test}: {headline}")
}
