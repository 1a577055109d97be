//! What the story of a job does to the odds: symptoms, what changed lately, who suffers, its age.

use super::weights::{StoryRow, Weights};
use crate::record::Intake;
use serde::Serialize;

/// Names that a row of the weights may be about.
pub(super) const KNOWN: &[&str] = &[
    "symptom:misfire_light_load",
    "symptom:misfire_load",
    "symptom:rough_idle",
    "symptom:long_crank_cold",
    "symptom:long_crank_hot",
    "symptom:no_start",
    "symptom:black_smoke",
    "symptom:white_smoke",
    "symptom:blue_smoke",
    "symptom:high_consumption",
    "symptom:knock",
    "symptom:low_power",
    "symptom:check_and_clean",
    "lately:refuelled_elsewhere",
    "lately:ran_dry",
    "lately:filter_changed",
    "lately:injectors_out",
    "lately:other_repair",
    "lately:stood_long",
    "suffers:not_known",
    "suffers:one",
    "suffers:several",
    "suffers:all",
    "usage:high",
    "usage:low",
];

/// Rows of the weights that this job's story brings in.
pub(super) fn told<'a>(weights: &'a Weights, intake: &Intake) -> Vec<&'a StoryRow> {
    let told: Vec<String> = intake
        .symptoms
        .iter()
        .map(|s| name("symptom", s))
        .chain(intake.story.lately.iter().map(|l| name("lately", l)))
        .chain([name("suffers", intake.story.suffers)])
        .chain(age(weights, &intake.usage).map(str::to_owned))
        .collect();
    weights.stories().iter().filter(|row| told.contains(&row.when)).collect()
}

/// `symptom:black_smoke`: the wire name behind what it is a name of.
fn name(of: &str, value: impl Serialize) -> String {
    let word = serde_json::to_value(value).ok();
    format!("{of}:{}", word.as_ref().and_then(|w| w.as_str()).unwrap_or_default())
}

/// Whether it is old or young; neither when it lies between, or cannot be read.
fn age(weights: &Weights, usage: &str) -> Option<&'static str> {
    let (young, old, value) = match read_usage(usage)? {
        Usage::Hours(h) => (weights.ages_h().0, weights.ages_h().1, h),
        Usage::Km(km) => (weights.ages_km().0, weights.ages_km().1, km),
    };
    if value >= old {
        Some("usage:high")
    } else if value < young {
        Some("usage:low")
    } else {
        None
    }
}

/// Hours or distance, as told at the counter.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum Usage {
    /// Hours.
    Hours(f64),
    /// Kilometres.
    Km(f64),
}

/// One mile in km (exact).
const MILE_KM: f64 = 1.609_344;

/// Reads `11,800 h`, `212 000 km`, `98.000 miles`: digits with whatever groups them, then a unit.
pub(super) fn read_usage(text: &str) -> Option<Usage> {
    let text = text.trim().to_lowercase();
    let from = text.find(|c: char| c.is_ascii_digit())?;
    let number = &text[from..];
    let to = number.find(|c: char| c.is_alphabetic()).unwrap_or(number.len());
    let digits: String = number[..to].chars().filter(char::is_ascii_digit).collect();
    let value: f64 = digits.parse().ok()?;
    let unit = number[to..].trim();
    if unit.starts_with("km") || unit.starts_with("kilom") {
        Some(Usage::Km(value))
    } else if unit.starts_with("mi") {
        Some(Usage::Km(value * MILE_KM))
    } else if unit.starts_with('h') || unit.starts_with("std") || unit.starts_with("operating") {
        Some(Usage::Hours(value))
    } else {
        None
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::{Lately, Suffers, Symptom};

    #[test]
    fn usage_is_read_as_it_is_told() {
        assert_eq!(read_usage("11,800 h"), Some(Usage::Hours(11_800.0)));
        assert_eq!(read_usage("about 212 000 km"), Some(Usage::Km(212_000.0)));
        assert_eq!(read_usage("100.000 miles"), Some(Usage::Km(100_000.0 * MILE_KM)));
        assert_eq!(read_usage("a lot"), None);
        assert_eq!(read_usage("7 summers"), None, "a unit that says nothing");
    }

    #[test]
    fn every_word_of_the_counter_has_its_name() {
        let symptoms = [Symptom::MisfireLightLoad, Symptom::NoStart, Symptom::CheckAndClean];
        let lately = [Lately::RefuelledElsewhere, Lately::OtherRepair, Lately::StoodLong];
        let suffers = [Suffers::NotKnown, Suffers::All];
        let names = symptoms.map(|s| name("symptom", s)).into_iter();
        let names = names.chain(lately.map(|l| name("lately", l)));
        for one in names.chain(suffers.map(|s| name("suffers", s))) {
            assert!(KNOWN.contains(&one.as_str()), "{one}");
        }
    }
}
