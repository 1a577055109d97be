//! The judgement call: from findings to causes, the next check, a decision, and what it costs.
//!
//! Everything that was found stands in one list ([`Finding`]), bound to injector and cylinder. The
//! weights ([`Weights`], one readable file) say how often each state shows each outcome; `posterior`
//! sums over all states, `rank` makes it followable by hand, `next_check` proposes what to look at
//! next and `step` names the one next step, `rulings` decides on actions by ordered rules, `cost`
//! puts prices beside, `stands` says when the ground of a decision has moved. A person decides;
//! this only says what it would do, and why.

mod cause;
mod collect;
mod complaint;
mod cost;
mod evidence;
mod finding;
mod headline;
mod next_check;
mod posterior;
mod rank;
mod rulings;
mod states;
mod step;
mod story;
mod tired;
mod weights;
mod words;

pub use crate::record::{Overtaken, Review, overtaken};
pub use cause::{Action, Cause, With};
pub use cost::{Cost, CostOption};
pub use finding::Finding;
pub use next_check::{LeftOut, NextCheck, Tool};
pub use rank::{Evidence, Moved, Ranked};
pub use rulings::{Ruling, Why};
pub use step::NextStep;
pub use weights::{LARGEST, OWN_ROWS, WeightCell, WeightRow, Weights, WeightsError, shipped};

use crate::judged::Judged;
use crate::mark::Mark;
use crate::named::named;
use crate::passport::Counted;
use crate::record::{Event, JobFile, Part};
use crate::rules::Rules;
use crate::said::Code;
use crate::standing::Standing;
use crate::tests::School;
use crate::tests::outcomes;
use crate::words::cylinders;
use crate::work::{ComplaintNow, Decision};
use complaint::Complaint;
use evidence::{Gathered, Place};
use headline::by_now;
use next_check::{Ask, Places};
use posterior::Priors;
use rank::{Ranking, Told, told_odds};
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
    /// Causes, likeliest first, sound among them.
    pub ranked: Vec<Ranked>,
    /// What the checks said here, a sentence each; empty when nothing was measured.
    pub found: Vec<String>,
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
    /// What could come next, what settles most for a minute first.
    pub next: Vec<NextCheck>,
    /// The one next step, the same everywhere.
    pub step: NextStep,
    /// What was said of the complaint since something that all share was put right; none where nobody was
    /// asked.
    pub complaint: Option<ComplaintNow>,
    /// Decisions whose ground has moved since they were signed.
    pub overtaken: Vec<Overtaken>,
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

/// The check that tells a coil that leaks to its body from dirt.
pub(crate) const INSULATION: &str = "insulation";
/// So much likelier by what was complained of, and at least so likely, a cause is suggested by it (house rule).
const SUGGESTS: (f64, f64) = (1.5, 0.05);
/// The exchange of the spark, as the weights call it.
pub(crate) const SPARK: &str = "spark";

/// What the workshop judges by.
#[derive(Debug, Clone, Copy)]
pub struct House<'a> {
    /// What each state shows.
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
    judge_findings(file, judged, house, collect::collect(house.weights, file, judged))
}

/// The one next step of a job, the same that [`judge`] names.
pub fn next_step(file: &JobFile, judged: &Judged, weights: &Weights) -> NextStep {
    let (rules, counted) = (Rules::default(), Counted::default());
    judge(file, judged, House { weights, rules: &rules, tools: &[], counted }).step
}

fn judge_findings(
    file: &JobFile,
    judged: &Judged,
    house: House<'_>,
    findings: Vec<Finding>,
) -> Judgement {
    let House { weights, rules, tools, counted } = house;
    let intake = &file.told();
    let fuel = intake.fuel_system;
    let age = story::age(weights, file);
    let places = places(file);
    let odds = |at: Told| Priors::of(|cause| told_odds(weights, intake, age, cause, at));
    let as_told = odds(Told::default());
    let gathered: Vec<(Gathered<'_>, Priors)> = places
        .iter()
        .map(|place| {
            let named = story::named(intake, place.cylinder);
            let at = Told { new: place.new, named };
            let priors = if at == Told::default() { as_told.clone() } else { odds(at) };
            (evidence::at_place(weights, &findings, *place), priors)
        })
        .collect();
    let shared = evidence::shared(weights, &findings);
    let answer = complaint::answered(file, judged);
    let gone = answer == Some(ComplaintNow::Gone);
    let unexplained = if intake.complains() && !gone { weights.unexplained() } else { 1.0 };
    let posterior = posterior::posterior(weights, fuel, &shared, &gathered, &as_told, unexplained);
    let (here, priors): (Vec<Gathered<'_>>, Vec<Priors>) = gathered.into_iter().unzip();
    let tired = tired::tired(weights, file, judged);
    let said = |cylinder: u32| -> Vec<&str> {
        let of = tired.iter().filter(|one| one.cylinder == cylinder);
        of.map(|one| one.check.as_str()).collect()
    };
    let said: Vec<Vec<&str>> = places.iter().map(|place| said(place.cylinder)).collect();
    let cylinders: Vec<u32> = places.iter().map(|place| place.cylinder).collect();
    let at_places = Places { cylinders: &cylinders, gathered: &here, tired: &said };
    let ask = Ask::new(weights, file, &judged.plan, &findings, &posterior, at_places);
    let ranking = Ranking { weights, intake, age, posterior: &posterior };
    let opposite = opposite(&findings);
    let fault = judged.plan.first.as_ref().and_then(|_| collect::shared_fault(&findings));
    let name = |at: usize| {
        let (check, _) = weights.check(at);
        (check.id.as_str(), check.title.as_str())
    };
    let suggested = |i: usize| {
        let (at, named) = (&posterior.places[i], story::named(intake, places[i].cylinder));
        let suggests = |cause: &Cause| {
            let times = story::complained(weights, intake, named, *cause);
            times >= SUGGESTS.0 && at.belief.chance(*cause) * posterior.without >= SUGGESTS.1
        };
        let causes: Vec<Cause> = Cause::ALL.iter().copied().filter(suggests).collect();
        ask.could_show(&causes, i).map(name)
    };
    let ruling = |i: usize, ranked: &[Ranked], could_show| {
        let place = &places[i];
        rulings::rule(&Case {
            could_show,
            weights,
            fuel,
            belief: &posterior.places[i].belief,
            without: posterior.without,
            ranked,
            here: &here[i],
            fault,
            opposite,
            findings: &findings,
            insulation_open: ask.still_open(INSULATION, i),
            spark_open: ask.still_open(SPARK, i),
            gone,
            cleaned: judged.stood.iter().any(|one| {
                one.injector == Some(place.injector)
                    && one.of_injector == Some(Standing::BeforeCleaning)
            }),
            tired: &said[i],
            next: ask.for_place(i, false).map(name),
            own_next: ask.for_place(i, true).map(name),
        })
    };
    let mut positions: Vec<Position> = places
        .iter()
        .enumerate()
        .map(|(i, place)| {
            let named = story::named(intake, place.cylinder);
            let ranked = ranking.ranked(&posterior.places[i], &here[i], &priors[i], named);
            let ruling = ruling(i, &ranked, None);
            let mark = judged.now.mark(place.cylinder);
            let Place { cylinder, injector, .. } = *place;
            let found = here[i].sentences(weights);
            Position { cylinder, injector, mark, ranked, found, ruling }
        })
        .collect();
    // What explains the complaint leaves the others; while nothing does, nothing is left before the checks that
    // could show what it suggests.
    let complaint = complaint::complaint(file, judged, &positions);
    if complaint == Complaint::Unexplained {
        for (i, at) in positions.iter_mut().enumerate() {
            if at.ruling.decision == Decision::Leave {
                at.ruling = ruling(i, &at.ranked, suggested(i));
            }
        }
    }
    let asked: Vec<(u32, String)> =
        positions.iter().filter_map(|at| Some((at.cylinder, at.ruling.asks.clone()?))).collect();
    let proposed = |tools: &[Tool]| {
        let (mut next, left_out) = ask.next(tools);
        ask.waited_for(&mut next, &asked);
        match ask.only_the_repair() {
            Some(repair) => (vec![repair], left_out),
            None => (next, left_out),
        }
    };
    // The step goes by the job alone, so that plan and board can name it too; what the workshop has
    // at hand orders the alternatives behind it.
    let next = proposed(&[]).0;
    let step = step::step(file, &judged.plan, &findings, &next, &positions, complaint, &ask);
    let (mut next, left_out) = proposed(tools);
    if let Some(at) = next.iter().position(|one| step.check.as_ref() == Some(&one.id)) {
        next[..=at].rotate_right(1);
    }
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
        // While a question is open, nothing else is the answer.
        headline: if step.asks_complaint {
            step.title.clone()
        } else {
            by_now(file, judged, &positions)
        },
        differ: differ(&schools),
        cost: cost::cost(rules, age, counted, &decided),
        schools,
        positions,
        next,
        step,
        complaint: answer,
        overtaken: overtaken(file),
        left_out,
        review: crate::record::review(file),
        act: weights.act(),
        findings,
    }
}

/// The places in strip order, each with who sits there now.
fn places(file: &JobFile) -> Vec<Place> {
    let sitting = collect::sitting(file);
    let fitted: Vec<Uuid> = file
        .events
        .iter()
        .filter_map(|record| {
            let Event::Replaced { injector, part: Part::New | Part::Reconditioned } = &record.event
            else {
                return None;
            };
            Some(injector.id)
        })
        .collect();
    let order = file.job.intake.layout.strip().concat();
    let at = |cylinder: u32| {
        let (_, injector) = sitting.iter().find(|(held, _)| *held == cylinder)?;
        Some(Place { cylinder, injector: *injector, new: fitted.contains(injector) })
    };
    order.into_iter().filter_map(at).collect()
}

/// Some of the set pass too much while others pass too little.
fn opposite(findings: &[Finding]) -> bool {
    let any = |codes: &[Code]| findings.iter().any(|f| f.of_injector && codes.contains(&f.code));
    let more = [
        outcomes::DROP_HIGH,
        outcomes::FLOW_MORE,
        outcomes::DI_MORE,
        outcomes::MAP_HIGH,
        outcomes::MAP_HIGH_IDLE,
    ];
    let less = [
        outcomes::DROP_LOW,
        outcomes::FLOW_LESS,
        outcomes::DI_LESS,
        outcomes::MAP_LOW_ALL,
        outcomes::MAP_LOW_FULL,
        outcomes::MAP_LOW_SHORT,
    ];
    any(&more) && any(&less)
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
            says.push(words::methods_differ(check, cylinders(&apart).to_lowercase()));
        }
    }
    if says.is_empty() { String::new() } else { format!("{}.", says.join("; ")) }
}

#[cfg(test)]
pub(crate) mod tests;
