//! What the story of a job does to the odds: symptoms, what changed lately, who suffers, its age.

use super::cause::Cause;
use super::weights::{StoryRow, Weights};
use crate::intake::Usage;
use crate::judgement::words;
use crate::record::{Intake, JobFile};
use serde::Serialize;

/// Whether a cylinder was named as affected, by a person or by a stored code; none where none was.
pub(super) fn named(intake: &Intake, cylinder: u32) -> Option<bool> {
    let named = intake.story.named(intake.layout.cylinders);
    (!named.is_empty()).then(|| named.contains(&cylinder))
}

/// Rows of the weights that this job's story brings in: at a cylinder that was named as affected,
/// at one beside it, or everywhere.
pub(super) fn told<'a>(
    weights: &'a Weights,
    intake: &Intake,
    age: Option<Age>,
    named: Option<bool>,
) -> Vec<&'a StoryRow> {
    let told: Vec<String> = intake
        .symptoms
        .iter()
        .map(|s| name("symptom", s))
        .chain(intake.story.lately.iter().map(|l| name("lately", l)))
        .chain([name("suffers", intake.story.suffering(intake.layout.cylinders))])
        .chain(
            named.map(|here| if here { "affected:here" } else { "affected:elsewhere" }.to_owned()),
        )
        .chain(age.and_then(usage).map(str::to_owned))
        .collect();
    weights.stories().iter().filter(|row| told.contains(&row.when)).collect()
}

/// How much likelier a cause is by what was complained of, and by the cylinder that was named.
pub(super) fn complained(
    weights: &Weights,
    intake: &Intake,
    named: Option<bool>,
    cause: Cause,
) -> f64 {
    let rows = told(weights, intake, None, named).into_iter();
    let complaint =
        rows.filter(|row| row.when.starts_with("symptom:") || row.when == "affected:here");
    complaint.filter_map(|row| row.times.get(&cause)).product()
}

/// What was told, as read.
pub(super) fn as_told(row: &StoryRow) -> String {
    match row.when.as_str() {
        "usage:low" => words::FEW_HOURS_KILOMETRES.to_owned(),
        "usage:high" => words::MANY_HOURS_KILOMETRES.to_owned(),
        "affected:here" => words::CYLINDER_NAMED.to_owned(),
        "affected:elsewhere" => words::OTHER_CYLINDER_NAMED.to_owned(),
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
    let (value, (young, old)) = match Usage::read(usage)? {
        Usage::Hours(h) => (h, (young_h * life_h / old_h, life_h)),
        Usage::Km(km) => (km, weights.ages_km()),
    };
    Some(match () {
        () if value >= old => Age::Old,
        () if value < young => Age::Young,
        () => Age::Middle,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::{Lately, Suffers, Symptom};

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
