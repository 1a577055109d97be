//! One job in the life of an injector.

use crate::codes::Capture;
use crate::fitting::FitStep;
use crate::judged::Judged;
use crate::mark::Mark;
use crate::named::named;
use crate::passport::words;
use crate::record::{Event, Injector, JobFile, Moment, Signed};
use crate::standing::{Source, Standing, Stood};
use crate::tests::property::Deed;
use crate::units::FLOW;
use crate::work::Decision;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

named! {
    /// What became of the work of a job.
    Held {
        Open = open,
        Held = held,
        CameBack = came_back,
    }
}

/// A decision about it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct StayDecision {
    /// What.
    pub decision: Decision,
    /// Why.
    pub reason: String,
    /// Who, by name.
    pub by: String,
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: Moment,
}

/// Something that was read of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct StayReading {
    /// Which check.
    pub what: String,
    /// As shown, or in a word.
    pub shown: String,
    /// Its mark.
    pub mark: Mark,
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: Moment,
    /// Why it says nothing by now, such as "before cleaning"; empty where it counts.
    #[serde(default)]
    pub standing: String,
}

/// A code of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct StayCode {
    /// As kept.
    pub code: String,
    /// How it came in.
    pub how: Capture,
    /// Who and when.
    pub signed: Signed,
}

/// One job.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Stay {
    /// The job.
    pub job: Uuid,
    /// Its number, for people.
    pub number: u64,
    /// What it is.
    pub machine: String,
    /// Hours or distance, as told.
    pub usage: String,
    /// Its family there.
    pub family: Option<String>,
    /// When the job was taken in.
    #[schema(value_type = String, format = DateTime)]
    pub taken_in: jiff::Timestamp,
    /// Cylinder that it came in, or was fitted to.
    pub came_from: u32,
    /// Where it sits at the end; none when another one took its place.
    pub cylinder: Option<u32>,
    /// It was fitted in this job, in the place of another.
    pub fitted_here: bool,
    /// What was read, oldest first.
    pub readings: Vec<StayReading>,
    /// Codes, oldest first.
    pub codes: Vec<StayCode>,
    /// Decisions, oldest first.
    pub decisions: Vec<StayDecision>,
    /// Cleanings on a bench.
    pub cleanings: usize,
    /// Parts that were renewed on it.
    pub parts: Vec<String>,
    /// What became of it.
    pub held: Held,
    /// In words.
    pub outcome: String,
}

pub(super) fn stay(file: &JobFile, judged: &Judged, injector: &Injector) -> Stay {
    let id = injector.id;
    let name = |by: Uuid| {
        file.people.iter().find(|one| one.id == by).map(|one| one.name.clone()).unwrap_or_default()
    };
    let decided = file
        .decisions
        .iter()
        .filter(|one| file.injector_at(Some(one.cylinder), one.signed.moment()) == Some(id));
    let codes = file.events.iter().filter_map(|record| {
        let Event::CodeCaptured { injector, code, how } = &record.event else { return None };
        let kept = || StayCode { code: code.clone(), how: *how, signed: record.signed };
        (*injector == id).then(kept)
    });
    let cleaned = file.deeds_here(id).into_iter().filter(|(deed, _)| *deed == Deed::Cleaning);
    let (held, outcome) = held(file);
    Stay {
        job: file.job.id,
        number: file.job.number,
        machine: file.job.intake.machine.clone(),
        usage: file.job.intake.usage_said(),
        family: file.family.clone(),
        taken_in: file.job.taken_in.at,
        came_from: injector.cylinder,
        cylinder: file.seats(None).iter().find(|seat| seat.injector == id).map(|s| s.cylinder),
        fitted_here: !file.job.injectors.iter().any(|one| one.id == id),
        readings: readings(file, judged, id),
        codes: codes.collect(),
        decisions: decided
            .map(|one| StayDecision {
                decision: one.decision,
                reason: one.reason.clone(),
                by: name(one.signed.by),
                at: one.signed.moment(),
            })
            .collect(),
        cleanings: cleaned.count(),
        parts: parts(file, id),
        held,
        outcome,
    }
}

/// Whether the job is closed and did not come back.
pub(super) fn held(file: &JobFile) -> (Held, String) {
    let back = file.events.iter().rev().find_map(|record| {
        let Event::Reopened { comeback: true, reason, .. } = &record.event else { return None };
        Some(reason.clone())
    });
    match (back, file.closed()) {
        (Some(reason), _) => (Held::CameBack, format!("Came back: {reason}")),
        (None, Some(closed)) => match closed.cancelled {
            Some(reason) => (Held::Open, words::cancelled(reason)),
            None if closed.proven() => (Held::Held, words::CLOSED_PROVEN.to_owned()),
            None => (Held::Held, words::CLOSED_EXCEPTIONS.to_owned()),
        },
        (None, None) => (Held::Open, words::NOT_CLOSED.to_owned()),
    }
}

fn parts(file: &JobFile, id: Uuid) -> Vec<String> {
    let mut found: Vec<String> = Vec::new();
    for record in &file.events {
        let Event::Fitted { step, cylinders, done: true } = &record.event else { continue };
        let ours = cylinders
            .iter()
            .any(|c| file.injector_at(Some(*c), record.signed.moment()) == Some(id));
        let part = FitStep::part(*step).filter(|_| ours);
        if let Some(part) = part.filter(|part| !found.iter().any(|held| held == part)) {
            found.push(part.to_owned());
        }
    }
    found
}

fn readings(file: &JobFile, judged: &Judged, id: Uuid) -> Vec<StayReading> {
    judged.with_verdicts(|verdicts| {
        // What was read of one from elsewhere before it was fitted is in the stay of that job.
        let fitted = file.fitted_at(id);
        let here = |one: &&Stood| fitted.is_none_or(|fitted| one.at() > fitted);
        let of = judged.stood.iter().filter(|one| one.injector == Some(id));
        of.filter(here)
            .filter_map(|one| {
                let lane = verdicts.lane(one).filter(|lane| lane.mark != Mark::NotMeasured)?;
                let (what, shown) = match one.source {
                    Source::Return(_) => (RETURN_TEST.to_owned(), format!("{} {FLOW}", lane.shown)),
                    Source::Sheet(_) => {
                        let shown = format!("{} {}", lane.shown, verdicts.of(one.source)?.unit);
                        (one.test.title().to_owned(), shown.trim().to_owned())
                    }
                    Source::Bench(session, at) => {
                        let round = judged.benches.get(session)?.verdicts.get(at)?.round;
                        let round =
                            file.bench[session].rounds.iter().find(|one| one.id == round)?;
                        (format!("{}, {}", one.test.title(), round.word()), lane.word.clone())
                    }
                };
                let standing = one.of_injector.unwrap_or(one.here);
                let standing = if standing.counts() || standing == Standing::Gone {
                    ""
                } else {
                    standing.word()
                };
                let (mark, at) = (lane.mark, one.at());
                Some(StayReading { what, shown, mark, at, standing: standing.to_owned() })
            })
            .collect()
    })
}

/// As the return test is called in a history.
const RETURN_TEST: &str = "Return test";
