//! The judgement call: from findings to causes, the next check, a decision, and what it costs.
//!
//! Everything that was found stands in one list ([`Finding`]), bound to injector and cylinder. The
//! weights ([`Weights`], one readable file) say how strongly each speaks; `rank` turns that into
//! likely causes, `next_check` proposes what to look at next, `rulings` decides by ordered
//! rules, `cost` puts prices beside. A person decides; this only says what it would do, and why.

mod cause;
mod collect;
mod cost;
mod finding;
mod next_check;
mod rank;
mod review;
mod rulings;
mod story;
mod weights;

pub use cause::{Cause, With};
pub use cost::{Cost, CostOption};
pub use finding::{Code, Finding};
pub use next_check::{LeftOut, NextCheck, Tool};
pub use rank::{Evidence, Ranked};
pub use review::Review;
pub(crate) use review::since;
pub use rulings::Ruling;
pub use weights::{DEFAULT, LARGEST, Weights, WeightsError};

use crate::checks::School;
use crate::mark::Mark;
use crate::named::named;
use crate::passport::Counted;
use crate::record::{JobFile, Judged};
use crate::rules::Rules;
use crate::work::{Decision, cylinders, join};
use rank::{Belief, Place, Ranking};
use rulings::Case;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// One cylinder and the injector in it, judged.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Position {
    /// Cylinder number.
    pub cylinder: u32,
    /// The injector that sits there.
    pub injector: Uuid,
    /// As the strip draws it: what the check that speaks for the job says.
    pub mark: Mark,
    /// Causes, likeliest first, healthy among them.
    pub ranked: Vec<Ranked>,
    /// What the rules decide.
    pub ruling: Ruling,
}

/// A house rule by itself, in one check.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct SchoolOf {
    /// The check.
    pub check: String,
    /// The school.
    pub school: School,
}

/// The judgement of a job.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Judgement {
    /// What is done about the set, in a sentence.
    pub headline: String,
    /// In strip order.
    pub positions: Vec<Position>,
    /// Everything that was found, oldest first.
    pub findings: Vec<Finding>,
    /// What could come next, most telling for a minute first.
    pub next: Vec<NextCheck>,
    /// Checks that a person left out.
    pub left_out: Vec<LeftOut>,
    /// What each school alone would have condemned.
    pub schools: Vec<SchoolOf>,
    /// Where the schools differ, in a sentence; may be empty.
    pub differ: String,
    /// One, several or all.
    pub cost: Option<Cost>,
    /// The newest review by a second person.
    pub review: Option<Review>,
    /// A cause this likely is acted upon.
    pub act: f64,
}

/// What the workshop judges by.
#[derive(Debug, Clone, Copy)]
pub struct House<'a> {
    /// How strongly each finding speaks.
    pub weights: &'a Weights,
    /// Defaults of the trade, or what this house does instead.
    pub rules: &'a Rules,
    /// Its list of instruments; an empty one says nothing.
    pub tools: &'a [Tool],
    /// How its earlier decisions about this family turned out.
    pub counted: Counted,
}

/// Judges a job from its verdicts.
pub fn judge(file: &JobFile, judged: &Judged, house: House<'_>) -> Judgement {
    judge_findings(file, judged, house, collect::collect(file, judged))
}

fn judge_findings(
    file: &JobFile,
    judged: &Judged,
    house: House<'_>,
    findings: Vec<Finding>,
) -> Judgement {
    let House { weights, rules, tools, counted } = house;
    let age = story::age(weights, file);
    let ranking = Ranking { weights, intake: &file.job.intake, age, findings: &findings };
    let sitting = collect::sitting(file);
    let order = file.job.intake.layout.strip().concat();
    let places: Vec<(Place, Belief)> = order
        .iter()
        .filter_map(|cylinder| {
            let (_, injector) = sitting.iter().find(|(held, _)| held == cylinder)?;
            let place = Place { cylinder: *cylinder, injector: *injector };
            Some((place, ranking.belief(place)))
        })
        .collect();
    let (mut next, left_out) =
        next_check::next(weights, file, &judged.plan, &findings, &places, tools);
    let shared = findings.iter().any(|f| f.cylinder.is_none() && f.code.is_some());
    let marks = judged.spoken().map(|spoken| spoken.marks).unwrap_or_default();
    let positions: Vec<Position> = places
        .iter()
        .map(|(place, belief)| {
            let ranked = ranking.ranked(*place, belief);
            let own = findings.iter().filter(|f| {
                f.injector == Some(place.injector)
                    || (f.cylinder == Some(place.cylinder)
                        && (f.injector.is_none() || weights.of_the_place(f.code)))
            });
            let case = Case {
                weights,
                fuel: file.job.intake.fuel_system,
                belief,
                own: own.collect(),
                shared,
                next: next.first().map(|one| one.title.as_str()),
                ranked: &ranked,
            };
            let ruling = rulings::rule(&case);
            let marked = marks.iter().find(|(cylinder, _)| *cylinder == place.cylinder);
            let mark = marked.map_or(Mark::NotMeasured, |(_, mark)| *mark);
            let Place { cylinder, injector } = *place;
            Position { cylinder, injector, mark, ranked, ruling }
        })
        .collect();
    let asked: Vec<(u32, String)> =
        positions.iter().filter_map(|at| Some((at.cylinder, at.ruling.asks.clone()?))).collect();
    next_check::waited_for(&mut next, weights, &asked);
    // What a person decided stands; the rest is as proposed.
    let decided: Vec<(u32, Decision)> = positions
        .iter()
        .map(|at| {
            let held = file.decisions.iter().rfind(|d| d.cylinder == at.cylinder);
            (at.cylinder, held.map_or(at.ruling.decision, |d| d.decision))
        })
        .collect();
    let schools = schools(file, judged);
    Judgement {
        headline: headline(&positions),
        differ: differ(&schools),
        cost: cost::cost(rules, age, counted, &decided),
        schools,
        positions,
        findings,
        next,
        left_out,
        review: review::review(file),
        act: weights.act(),
    }
}

/// What a decision is called in a sentence about several.
fn verb(decision: Decision) -> &'static str {
    match decision {
        Decision::Leave => "leave",
        Decision::Clean => "clean",
        Decision::Adjust => "recondition",
        Decision::Recode => "recode",
        Decision::Match => "match",
        Decision::Replace => "replace or recondition",
        Decision::RepairHarness => "repair the harness of",
        Decision::LookElsewhere => "look elsewhere for",
        Decision::MeasureAgain => "measure again",
    }
}

/// The set in a sentence: what needs work first.
fn headline(positions: &[Position]) -> String {
    const ORDER: [Decision; 9] = [
        Decision::Replace,
        Decision::Adjust,
        Decision::Clean,
        Decision::RepairHarness,
        Decision::Recode,
        Decision::Match,
        Decision::LookElsewhere,
        Decision::MeasureAgain,
        Decision::Leave,
    ];
    let parts: Vec<String> = ORDER
        .into_iter()
        .filter_map(|decision| {
            let deciding = positions.iter().filter(|at| at.ruling.decision == decision);
            let mut of: Vec<u32> = deciding.map(|at| at.cylinder).collect();
            of.sort_unstable();
            if of.is_empty() {
                return None;
            }
            let all = of.len() == positions.len() && of.len() > 1;
            let which = if all { format!("all {}", of.len()) } else { join(&of) };
            Some(format!("{} {which}", verb(decision)))
        })
        .collect();
    let mut says = parts.join("; ");
    if let Some(first) = says.get_mut(0..1) {
        first.make_ascii_uppercase();
    }
    format!("{says}.")
}

/// Every school of the newest reading of each check.
fn schools(file: &JobFile, judged: &Judged) -> Vec<SchoolOf> {
    let returned = judged.verdicts.iter().rev().find(|v| v.runs > 0);
    let returned = returned.into_iter().flat_map(|verdict| {
        verdict.schools.iter().map(|school| ("Return test".to_owned(), school.clone()))
    });
    let mut seen = Vec::new();
    let mut sheets = Vec::new();
    for (record, verdict) in file.sheets.iter().zip(&judged.sheets).rev() {
        let Ok(verdict) = verdict else { continue };
        if seen.contains(&record.check.name()) || verdict.schools.is_empty() {
            continue;
        }
        seen.push(record.check.name());
        let title = record.check.title();
        sheets.extend(verdict.schools.iter().map(|school| (title.to_owned(), school.clone())));
    }
    let all = returned.chain(sheets);
    all.map(|(check, school)| SchoolOf { check, school }).collect()
}

/// Cylinders that one school of a check condemns and another one that speaks does not.
fn differ(schools: &[SchoolOf]) -> String {
    let mut says = Vec::new();
    let mut checks: Vec<&str> = schools.iter().map(|one| one.check.as_str()).collect();
    checks.dedup();
    for check in checks {
        let of: Vec<&School> = schools
            .iter()
            .filter(|one| one.check == check && one.school.silent.is_none())
            .map(|one| &one.school)
            .collect();
        let mut apart: Vec<u32> =
            of.iter().flat_map(|school| school.condemns.iter().copied()).collect();
        apart.sort_unstable();
        apart.dedup();
        apart.retain(|cylinder| of.iter().any(|school| !school.condemns.contains(cylinder)));
        if !apart.is_empty() {
            says.push(format!(
                "{check}: the schools differ on {}",
                cylinders(&apart).to_lowercase()
            ));
        }
    }
    if says.is_empty() { String::new() } else { format!("{}.", says.join("; ")) }
}

#[cfg(test)]
pub(crate) mod tests;
