//! The test that failed, repeated: before and after, lane by lane, under the same conditions.
//!
//! # Source
//! House rule: a repair is proven by the test that condemned, under the conditions in which it did.

use super::ItemState;
use crate::judged::Judged;
use crate::mark::Mark;
use crate::proving::words;
use crate::record::{JobFile, Moment, Seat, TestRecord};
use crate::tests::Verdict;
use crate::tests::engine::EngineTest;
use crate::tests::side_by_side::{Side, side_by_side};
use crate::units;
use crate::words::cylinders;
use serde::Serialize;
use utoipa::ToSchema;

/// When the work on the engine began that is to be proven, and when injectors sat as they do now.
pub(super) struct Span {
    pub began: Option<Moment>,
    pub settled: Option<Moment>,
    /// Something was fitted, replaced or written, not only decided.
    pub worked: bool,
}

/// One cylinder before and after.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct RepeatLane {
    /// Cylinder number.
    pub cylinder: u32,
    /// As shown before.
    pub before: String,
    /// Its mark before.
    pub before_mark: Mark,
    /// Label of the injector that sat there then, where another one sits there now.
    pub was: Option<String>,
    /// As shown after; empty while it is not read.
    pub after: String,
    /// Its mark after.
    pub after_mark: Mark,
}

/// The failed test and its repetition.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Repeat {
    /// As it is called.
    pub test: String,
    /// The check, where it is one that is read cell by cell; the return test without one.
    pub check: Option<EngineTest>,
    /// It was the bench that condemned.
    pub on_bench: bool,
    /// Which of the return tests it was, counted from 0; none for another check.
    pub return_test: Option<usize>,
    /// What the columns show.
    pub unit: String,
    /// When it failed.
    #[schema(value_type = String, format = DateTime)]
    pub before_at: Moment,
    /// When it was repeated.
    #[schema(value_type = Option<String>, format = DateTime)]
    pub after_at: Option<Moment>,
    /// How the conditions of the two compare.
    pub alike: String,
    /// By cylinder.
    pub lanes: Vec<RepeatLane>,
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum Kind {
    Return,
    Sheet(EngineTest),
    Bench,
}

struct Lane {
    cylinder: u32,
    mark: Mark,
    shown: String,
}

/// One reading of the whole set.
struct Reading {
    kind: Kind,
    title: String,
    unit: String,
    from: Moment,
    to: Moment,
    lanes: Vec<Lane>,
    /// Which return test.
    index: usize,
}

impl Reading {
    fn with(&self, wanted: fn(Mark) -> bool) -> Vec<u32> {
        self.lanes.iter().filter(|lane| wanted(lane.mark)).map(|lane| lane.cylinder).collect()
    }

    fn failed(&self) -> bool {
        !self.with(is_bad).is_empty()
    }
}

fn is_bad(mark: Mark) -> bool {
    match mark {
        Mark::TooMuch | Mark::TooLittle | Mark::Look => true,
        Mark::Inside | Mark::Undecided | Mark::Questioned | Mark::NotMeasured => false,
    }
}

fn is_doubtful(mark: Mark) -> bool {
    matches!(mark, Mark::Undecided | Mark::Questioned)
}

/// The failed test with its repetition, how that stands, and what is said of it.
pub(super) fn repeat(
    file: &JobFile,
    judged: &Judged,
    span: &Span,
) -> (Option<Repeat>, ItemState, String) {
    let engine = on_engine(file, judged);
    let bench = on_bench(file, judged);
    let earlier = |one: &&Reading| span.began.is_none_or(|began| one.to <= began);
    let failed = engine.iter().filter(earlier).rfind(|one| one.failed());
    let Some(before) = failed.or_else(|| bench.iter().rfind(|one| one.failed())) else {
        let says = words::NO_TEST_HAD_FAILED.to_owned();
        return (None, ItemState::Good, says);
    };
    // Another injector sits there now: the bench cannot repeat it, a comparison on the engine can.
    let answered = |bad: &[u32]| {
        let (then, now) = (file.seats(Some(before.to)), file.seats(None));
        let sat = |seats: &[Seat], c: u32| {
            seats.iter().find(|seat| seat.cylinder == c).map(|seat| seat.injector)
        };
        bad.iter().all(|c| sat(&then, *c) != sat(&now, *c))
    };
    let after = match before.kind {
        Kind::Bench => {
            let again = bench.iter().rfind(|one| one.from > before.to && !one.failed());
            let on_engine = engine.iter().rfind(|one| {
                span.settled.is_some_and(|settled| one.from >= settled)
                    && answered(&before.with(is_bad))
            });
            again.or(on_engine)
        }
        Kind::Return | Kind::Sheet(_) => engine.iter().rfind(|one| {
            one.kind == before.kind
                && one.from > before.to
                && span.settled.is_some_and(|settled| one.from >= settled)
        }),
    };
    let (alike, same) = conditions(file, judged, before, after);
    let (then, now) = (file.seats(Some(before.to)), file.seats(None));
    let sat = |seats: &[Seat], c: u32| seats.iter().find(|seat| seat.cylinder == c).cloned();
    let lane = |held: &Lane| {
        let was = sat(&then, held.cylinder).zip(sat(&now, held.cylinder));
        let was = was.filter(|(was, is)| was.injector != is.injector).map(|(was, _)| was.label);
        let after = after.and_then(|one| one.lanes.iter().find(|l| l.cylinder == held.cylinder));
        RepeatLane {
            cylinder: held.cylinder,
            before: held.shown.clone(),
            before_mark: held.mark,
            was,
            after: after.map(|l| l.shown.clone()).unwrap_or_default(),
            after_mark: after.map_or(Mark::NotMeasured, |l| l.mark),
        }
    };
    let out = Repeat {
        test: before.title.clone(),
        check: match before.kind {
            Kind::Sheet(check) => Some(check),
            Kind::Return | Kind::Bench => None,
        },
        on_bench: before.kind == Kind::Bench,
        return_test: (before.kind == Kind::Return).then_some(before.index),
        unit: before.unit.clone(),
        before_at: before.to,
        after_at: after.map(|one| one.to),
        alike,
        lanes: before.lanes.iter().map(lane).collect(),
    };
    let (state, says) = stands(before, after, same);
    (Some(out), state, says)
}

fn stands(before: &Reading, after: Option<&Reading>, same: bool) -> (ItemState, String) {
    let test = &before.title;
    let failed = cylinders(&before.with(is_bad));
    let Some(after) = after else {
        let says = words::failed_not_repeated_since(test, failed.to_lowercase());
        return (ItemState::Open, says);
    };
    let (bad, doubt) = (after.with(is_bad), after.with(is_doubtful));
    let unread = after.with(|mark| mark == Mark::NotMeasured);
    match (bad.as_slice(), unread.as_slice(), doubt.as_slice()) {
        ([], [], []) if same => {
            (ItemState::Good, words::repeated_all_cylinders_within(test, failed.to_lowercase()))
        }
        ([], [], []) => (ItemState::Unsure, words::repeated_within_limits_but(test)),
        ([], [], doubt) => (
            ItemState::Unsure,
            words::repeated_inconclusive_retest(test, cylinders(doubt).to_lowercase()),
        ),
        ([], unread, _) => {
            (ItemState::Open, words::restarted_not_read_yet(test, cylinders(unread).to_lowercase()))
        }
        (bad, ..) => (
            ItemState::Failed,
            words::repeated_failed_fault_not(test, cylinders(bad).to_lowercase()),
        ),
    }
}

/// How the conditions compare, and whether they are the same as far as is known.
fn conditions(
    file: &JobFile,
    judged: &Judged,
    before: &Reading,
    after: Option<&Reading>,
) -> (String, bool) {
    let Some(after) = after else { return (String::new(), true) };
    if before.kind == Kind::Bench && after.kind != Kind::Bench {
        let says = words::ANOTHER_INJECTOR_FITTED_COMPARED;
        return (says.to_owned(), true);
    }
    if before.kind != Kind::Return {
        return (words::SAME_CHECK_READ_SAME.to_owned(), true);
    }
    let of = |index: usize| file.return_tests.get(index).zip(judged.verdicts.get(index));
    let Some((one, other)) = of(before.index).zip(of(after.index)) else {
        return (String::new(), false);
    };
    let alike = other.0.setup.rules.temperatures_alike_c;
    let side = |test: &TestRecord| (test.setup.regime, test.setup.temperature_c);
    let ((first, first_c), (second, second_c)) = (side(one.0), side(other.0));
    let both = side_by_side(
        Side { regime: first, temperature_c: first_c, verdict: one.1 },
        Side { regime: second, temperature_c: second_c, verdict: other.1 },
        alike,
    );
    match both {
        Ok(both) => {
            let same = both.refused.is_none() && both.factor.is_none();
            (both.refused.unwrap_or(both.label), same)
        }
        Err(error) => (format!("{error}."), false),
    }
}

/// Every comparison of the set on the engine, in the order of reading.
fn on_engine(file: &JobFile, judged: &Judged) -> Vec<Reading> {
    let ends = |times: Vec<Moment>| Some((*times.iter().min()?, *times.iter().max()?));
    let returns = file.return_tests.iter().zip(&judged.verdicts).enumerate();
    let returns = returns.filter_map(|(index, (test, verdict))| {
        let readings = test.counting().flat_map(|run| &run.readings);
        let (from, to) = ends(readings.map(|r| r.signed.moment()).collect())?;
        let lanes = verdict.lanes.iter();
        Some(Reading {
            kind: Kind::Return,
            title: "Return test".to_owned(),
            unit: units::unit(units::ML_MIN).to_owned(),
            from,
            to,
            lanes: lanes
                .map(|l| Lane { cylinder: l.place, mark: l.mark, shown: l.shown.clone() })
                .collect(),
            index,
        })
    });
    let sheets = file.sheets.iter().zip(&judged.sheets).filter_map(|(record, verdict)| {
        let verdict = verdict.as_ref().ok().filter(|verdict| !verdict.lanes.is_empty())?;
        let (from, to) = ends(record.readings.iter().map(|r| r.signed.moment()).collect())?;
        let lanes = verdict.lanes.iter();
        Some(Reading {
            kind: Kind::Sheet(record.check),
            title: record.check.title().to_owned(),
            unit: verdict.unit.clone(),
            from,
            to,
            lanes: lanes
                .map(|l| Lane { cylinder: l.place, mark: l.mark, shown: l.shown.clone() })
                .collect(),
            index: 0,
        })
    });
    let mut all: Vec<Reading> = returns.chain(sheets).collect();
    all.sort_by_key(|one| one.to);
    all
}

/// The newest bench session: the test that found most in any of its rounds, round by round.
fn on_bench(file: &JobFile, judged: &Judged) -> Vec<Reading> {
    let sessions = file.bench.iter().zip(&judged.benches);
    let last =
        sessions.max_by_key(|(session, _)| session.cells.last().map(|cell| cell.signed.moment()));
    let Some((session, judged)) = last else { return Vec::new() };
    let bad = |verdict: &Verdict| {
        let ours = session.injectors.iter().filter(|one| one.job == file.job.id);
        let lanes = ours.filter_map(|one| verdict.lanes.iter().find(|lane| lane.place == one.tag));
        lanes.filter(|lane| is_bad(lane.mark)).count()
    };
    // Of two that found as much the later one: what was found last is what was answered.
    let worst = judged
        .verdicts
        .iter()
        .filter_map(|one| Some((one.test, one.verdict.as_ref()?)))
        .max_by_key(|(_, verdict)| bad(verdict));
    let Some((test, _)) = worst else { return Vec::new() };
    let rounds = session.rounds.iter().filter_map(|round| {
        let held = judged.verdicts.iter().find(|one| one.round == round.id && one.test == test)?;
        let verdict = held.verdict.as_ref()?;
        let times =
            session.cells.iter().filter(|cell| cell.round == round.id).map(|c| c.signed.moment());
        let ours = session.injectors.iter().filter(|one| one.job == file.job.id);
        Some(Reading {
            kind: Kind::Bench,
            title: format!("Bench, {}", test.title().to_lowercase()),
            unit: String::new(),
            from: times.clone().min()?,
            to: times.max()?,
            lanes: ours
                .filter_map(|one| {
                    let lane = verdict.lanes.iter().find(|lane| lane.place == one.tag)?;
                    Some(Lane {
                        cylinder: one.cylinder,
                        mark: lane.mark,
                        shown: lane.shown.clone(),
                    })
                })
                .collect(),
            index: 0,
        })
    });
    rounds.collect()
}
