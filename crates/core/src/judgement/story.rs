//! What the story of a job does to the odds: symptoms, what changed lately, who suffers, its age.

use super::weights::{StoryRow, Weights};
use crate::judgement::words;
use crate::record::{Intake, JobFile};
use serde::Serialize;

/// Rows of the weights that this job's story brings in.
pub(super) fn told<'a>(
    weights: &'a Weights,
    intake: &Intake,
    age: Option<Age>,
) -> Vec<&'a StoryRow> {
    let told: Vec<String> = intake
        .symptoms
        .iter()
        .map(|s| name("symptom", s))
        .chain(intake.story.lately.iter().map(|l| name("lately", l)))
        .chain([name("suffers", intake.story.suffers)])
        .chain(age.and_then(usage).map(str::to_owned))
        .collect();
    weights.stories().iter().filter(|row| told.contains(&row.when)).collect()
}

/// What was told, as read.
pub(super) fn as_told(row: &StoryRow) -> String {
    match row.when.as_str() {
        "usage:low" => words::FEW_HOURS_KILOMETRES.to_owned(),
        "usage:high" => words::MANY_HOURS_KILOMETRES.to_owned(),
        "suffers:one" => "one cylinder affected".to_owned(),
        "suffers:several" => "several cylinders affected".to_owned(),
        "suffers:all" => "all cylinders affected".to_owned(),
        when => when.split(':').next_back().unwrap_or_default().replace('_', " "),
    }
}

/// `symptom:black_smoke`: the wire name behind what it is a name of.
fn name(of: &str, value: impl Serialize) -> String {
    let word = serde_json::to_value(value).ok();
    format!("{of}:{}", word.as_ref().and_then(|w| w.as_str()).unwrap_or_default())
}

/// How old an injector is for its kind.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Age {
    /// Young.
    Young,
    /// Neither.
    Middle,
    /// Past its service life.
    Old,
}

fn usage(age: Age) -> Option<&'static str> {
    match age {
        Age::Young => Some("usage:low"),
        Age::Middle => None,
        Age::Old => Some("usage:high"),
    }
}

/// The age of a job's injectors; none when it was not told. Hours go by the service life of their
/// own family where a bench session brought it along, else by the house's.
pub(super) fn age(weights: &Weights, file: &JobFile) -> Option<Age> {
    let families = file.bench.iter().rev().flat_map(|session| &session.setup.families);
    let mut own = families.filter(|family| Some(&family.name) == file.family.as_ref());
    let life_h = own.find_map(|family| family.detail.service_life_h);
    age_of(weights, &file.job.intake.usage, life_h)
}

/// The age by what was told at the counter and the service life, h.
pub(super) fn age_of(weights: &Weights, usage: &str, life_h: Option<f64>) -> Option<Age> {
    let (young_h, old_h) = weights.ages_h();
    let life_h = life_h.unwrap_or(old_h);
    let (value, (young, old)) = match read_usage(usage)? {
        Usage::Hours(h) => (h, (young_h * life_h / old_h, life_h)),
        Usage::Km(km) => (km, weights.ages_km()),
    };
    Some(match () {
        () if value >= old => Age::Old,
        () if value < young => Age::Young,
        () => Age::Middle,
    })
}

/// Hours or distance, as told at the counter.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Usage {
    /// Hours.
    Hours(f64),
    /// Kilometres.
    Km(f64),
}

/// One mile in km (exact).
const MILE_KM: f64 = 1.609_344;

/// Digits with groups of three, or with a decimal: `1,402.6`, `98.000`, `212 000`, `1402.6`.
fn read_number(text: &str) -> Option<f64> {
    let text: String = text.chars().filter(|c| !c.is_whitespace() && *c != '\'').collect();
    let separators: Vec<usize> =
        text.char_indices().filter(|(_, c)| *c == '.' || *c == ',').map(|(at, _)| at).collect();
    // The last separator is a decimal unless exactly three digits follow it and no other kind does.
    let grouped = |at: usize| text.len() - at - 1 == 3;
    let decimal = separators.last().copied().filter(|at| {
        let mixed = separators.iter().any(|other| text.as_bytes()[*other] != text.as_bytes()[*at]);
        mixed || !grouped(*at)
    });
    let plain: String = text
        .char_indices()
        .filter_map(|(at, c)| match c {
            '.' | ',' if Some(at) == decimal => Some('.'),
            '.' | ',' => None,
            other => Some(other),
        })
        .collect();
    plain.parse().ok().filter(|value: &f64| value.is_finite())
}

/// Reads `11,800 h`, `212 000 km`, `98.000 miles`, `1402.6 h`: a number however it is grouped, then a unit.
fn read_usage(text: &str) -> Option<Usage> {
    let text = text.trim().to_lowercase();
    let from = text.find(|c: char| c.is_ascii_digit())?;
    let number = &text[from..];
    let to = number.find(|c: char| c.is_alphabetic()).unwrap_or(number.len());
    let value = read_number(number[..to].trim())?;
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
        assert_eq!(read_usage("1402.6 h"), Some(Usage::Hours(1_402.6)));
        assert_eq!(read_usage("1,402.6 h"), Some(Usage::Hours(1_402.6)));
        assert_eq!(read_usage("1.402,6 h"), Some(Usage::Hours(1_402.6)));
        assert_eq!(read_usage("1 402 h"), Some(Usage::Hours(1_402.0)));
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
            assert!(crate::judgement::weights::check::KNOWN.contains(&one.as_str()), "{one}");
        }
    }

    #[test]
    fn a_family_of_short_life_is_old_sooner_than_the_house_reckons() {
        let weights = Weights::read("").unwrap();
        let (young, old) = weights.ages_h();
        let hours = format!("{} h", (young + old) / 2.0);
        assert_eq!(age_of(&weights, &hours, None), Some(Age::Middle));
        assert_eq!(age_of(&weights, &hours, Some((young + old) / 2.0)), Some(Age::Old));
        assert_eq!(age_of(&weights, &hours, Some(old * 4.0)), Some(Age::Young));
        assert_eq!(age_of(&weights, "a lot", Some(old)), None);
    }
}
