//! Mistakes of procedure, noticed from the log of the job: each with what it was, where, and when.
//!
//! What can be mended is no mistake once it was: a check that was repeated properly, a code that was read
//! back in the end.

use crate::bay::Bay;
use crate::case::{Case, CaseError};
use crate::readings::without;
use crate::words;
use cobaltine_core::codes::coding;
use cobaltine_core::entry::{self, Entry};
use cobaltine_core::exercise::{ExerciseAct, SharedPart, Skill};
use cobaltine_core::judged::Judged;
use cobaltine_core::mark::Mark;
use cobaltine_core::record::{DecisionRecord, Event, JobFile, Moment, RunRecord, SheetRecord};
use cobaltine_core::start::StartId;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::{Decision, Regime};
use cobaltine_engines::technician::hazards::{Hazard, Named, SHIPPED, hazards};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use std::sync::LazyLock;
use utoipa::ToSchema;
use uuid::Uuid;

/// What can go wrong on the way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Mistake {
    /// A return test on a cold engine.
    Cold,
    /// Hoses not purged, or the return rail left open to the air.
    Unpurged,
    /// Start pressures that differ.
    UnequalStart,
    /// The first one not measured again at the end.
    NoBracket,
    /// A lit lamp taken as proof.
    LampAsProof,
    /// A part condemned without a reading of its own.
    NoOwnEvidence,
    /// A code that was written and not read back, or was to be written and was not.
    NotReadBack,
    /// A step that could hurt as things stood.
    UnsafeOrder,
    /// A running engine that was not made safe first.
    NotReady,
}

/// One mistake that was noticed.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Noticed {
    /// What.
    pub mistake: Mistake,
    /// The skill that it belongs to.
    pub skill: Skill,
    /// Points that it costs, of the hundred of its skill.
    pub points: u32,
    /// What happened, in a sentence.
    pub says: String,
    /// What it is worth avoiding for.
    pub why: String,
    /// When it could be seen first.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
}

/// What can hurt, read once.
static HAZARDS: LazyLock<Result<Vec<Hazard>, String>> =
    LazyLock::new(|| hazards(SHIPPED).map_err(|why| why.to_string()));

/// A mistake before it is priced.
pub(crate) struct Seen {
    pub mistake: Mistake,
    pub says: String,
    pub at: Timestamp,
}

fn seen(mistake: Mistake, says: String, at: Timestamp) -> Seen {
    Seen { mistake, says, at }
}

/// Everything that can be noticed by now, oldest first.
///
/// # Errors
/// Files that cannot be used; a record that cannot be judged.
pub(crate) fn notice(case: &Case, file: &JobFile) -> Result<Vec<Seen>, CaseError> {
    let judged = file.judged().map_err(|why| CaseError::Files(why.to_string()))?;
    let mut found = Vec::new();
    at_runs(file, &mut found);
    at_balance(file, &mut found);
    at_decisions(file, &judged, &mut found);
    at_codes(file, &mut found);
    unsafe_steps(case, file, &mut found)?;
    found.sort_by_key(|one| one.at);
    Ok(found)
}

/// The engine was warm at this moment.
fn warm(file: &JobFile, at: Moment) -> bool {
    file.events.iter().any(|record| {
        record.signed.moment() <= at
            && matches!(record.event, Event::Exercise(ExerciseAct::WarmedUp))
    })
}

/// Runs that count and were begun cold, with air in the hoses, or beside an engine that can roll: once for
/// each test, however many of its runs.
fn at_runs(file: &JobFile, found: &mut Vec<Seen>) {
    for test in &file.return_tests {
        let cranks = test.setup.regime == Regime::Cranking;
        let cold = |run: &RunRecord| !cranks && !warm(file, run.signed.moment());
        let lacks =
            |run: &RunRecord, any: [StartId; 2]| any.iter().any(|start| without(test, run, *start));
        let air = |run: &RunRecord| lacks(run, [StartId::HosesPurged, StartId::RailBlanked]);
        let rolls = |run: &RunRecord| lacks(run, [StartId::Parked, StartId::ExtractionOn]);
        let mut once = |mistake, wrong: &dyn Fn(&RunRecord) -> bool, says: fn(&str) -> String| {
            let runs = test.runs.iter().filter(|run| run.set_aside.is_none() && wrong(run));
            let runs: Vec<&RunRecord> = runs.collect();
            let numbers: Vec<u32> = runs.iter().map(|run| run.number).collect();
            let named = words::runs(&numbers);
            found.extend(runs.first().map(|run| seen(mistake, says(&named), run.signed.at)));
        };
        once(Mistake::Cold, &cold, words::run_cold);
        once(Mistake::Unpurged, &air, words::run_unpurged);
        once(Mistake::NotReady, &rolls, words::run_not_ready);
    }
}

/// Share by which start pressures may differ: the house rule of the balance test.
const START_TOLERANCE: f64 = 0.02;

/// The newest balance test that was read to its end.
fn at_balance(file: &JobFile, found: &mut Vec<Seen>) {
    let Some(sheet) = file.sheets.iter().rfind(|sheet| sheet.check == EngineTest::PressureDrop)
    else {
        return;
    };
    let of = |cell: &str| -> Vec<f64> {
        let standing = sheet.standing();
        let read = standing.iter().filter(|r| r.cell == cell && r.cylinder.is_some());
        read.filter_map(|r| r.value).collect()
    };
    let mut starts = of("start");
    let all = file.job.intake.layout.cylinders as usize;
    let last = sheet.readings.iter().map(|r| r.signed.at).max().unwrap_or(sheet.signed.at);
    if starts.len() < all || of("end").len() < all {
        return;
    }
    starts.sort_by(f64::total_cmp);
    let middle = starts[starts.len() / 2];
    if starts.iter().any(|start| (start / middle - 1.0).abs() > START_TOLERANCE) {
        found.push(seen(Mistake::UnequalStart, words::STARTS_DIFFER.to_owned(), last));
    }
    let again = sheet.standing().iter().any(|r| r.cell == "bracket_end" && r.value.is_some());
    // Until something is decided there is time for it.
    let decided = file.decisions.iter().map(|one| one.signed.at).min();
    if let Some(at) = decided.filter(|_| !again) {
        found.push(seen(Mistake::NoBracket, words::NO_BRACKET.to_owned(), at.max(last)));
    }
}

/// Checks that read the electrical side with something better than a lamp.
const BETTER_THAN_A_LAMP: [EngineTest; 5] = [
    EngineTest::Supply,
    EngineTest::DriveCurrent,
    EngineTest::CoilResistance,
    EngineTest::PiezoStack,
    EngineTest::Insulation,
];
/// Checks that read the injector itself, and not what its cylinder does.
const ITS_OWN: [EngineTest; 6] = [
    EngineTest::CoilResistance,
    EngineTest::PiezoStack,
    EngineTest::Insulation,
    EngineTest::DriveCurrent,
    EngineTest::PressureDrop,
    EngineTest::DiBalance,
];

fn read_at(sheet: &SheetRecord, cylinder: u32, before: Moment) -> bool {
    let here = |r: &&cobaltine_core::record::CellReading| {
        r.cylinder == Some(cylinder) && r.value.is_some() && r.signed.moment() < before
    };
    sheet.standing().into_iter().any(|r| here(&r))
}

/// Decisions that stand: the newest for each cylinder.
pub(crate) fn standing(file: &JobFile) -> Vec<&DecisionRecord> {
    let newest = |one: &&DecisionRecord| {
        let same = file.decisions.iter().rfind(|held| held.cylinder == one.cylinder);
        same.is_some_and(|held| held.id == one.id)
    };
    file.decisions.iter().filter(newest).collect()
}

fn at_decisions(file: &JobFile, judged: &Judged, found: &mut Vec<Seen>) {
    for one in standing(file) {
        let (cylinder, moment) = (one.cylinder, one.signed.moment());
        let lamp = file
            .sheets
            .iter()
            .any(|sheet| sheet.check == EngineTest::Indicator && read_at(sheet, cylinder, moment));
        let better = file.sheets.iter().any(|sheet| {
            BETTER_THAN_A_LAMP.contains(&sheet.check) && read_at(sheet, cylinder, moment)
        });
        let settled = one.decision != Decision::MeasureAgain;
        if lamp && !better && settled {
            found.push(seen(Mistake::LampAsProof, words::lamp(cylinder), one.signed.at));
        }
        let condemns = match one.decision {
            Decision::Replace | Decision::Adjust | Decision::Clean => true,
            Decision::Leave
            | Decision::Recode
            | Decision::Match
            | Decision::RepairHarness
            | Decision::LookElsewhere
            | Decision::MeasureAgain => false,
        };
        let injector = file.injector_at(Some(cylinder), moment);
        if condemns && !injector.is_some_and(|id| own_reading(file, judged, id, moment)) {
            found.push(seen(Mistake::NoOwnEvidence, words::no_evidence(cylinder), one.signed.at));
        }
    }
}

/// A reading of this very injector that is not within: on the engine, or on the bench.
fn own_reading(file: &JobFile, judged: &Judged, injector: Uuid, before: Moment) -> bool {
    let off = |mark: Mark| match mark {
        Mark::TooMuch | Mark::TooLittle | Mark::Look => true,
        Mark::Inside | Mark::Undecided | Mark::Questioned | Mark::NotMeasured => false,
    };
    let sat = |cylinder: u32, at: Moment| file.injector_at(Some(cylinder), at) == Some(injector);
    let returned = file.return_tests.iter().zip(&judged.verdicts).any(|(test, verdict)| {
        let at = test.signed.moment();
        at < before && verdict.lanes.iter().any(|lane| off(lane.mark) && sat(lane.place, at))
    });
    let sheets = file.sheets.iter().zip(&judged.sheets).any(|(sheet, verdict)| {
        let at = sheet.signed.moment();
        let Ok(verdict) = verdict else { return false };
        let here = |place: u32| sat(place, at) && read_at(sheet, place, before);
        ITS_OWN.contains(&sheet.check)
            && verdict.lanes.iter().any(|lane| off(lane.mark) && here(lane.place))
    });
    let bench = file.bench.iter().zip(&judged.benches).any(|(session, judged)| {
        let tags = session.injectors.iter().filter(|one| one.injector == injector);
        let tags: Vec<u32> = tags.map(|one| one.tag).collect();
        session.signed.at <= before.at
            && judged.verdicts.iter().filter_map(|one| one.verdict.as_ref()).any(|verdict| {
                verdict.lanes.iter().any(|lane| off(lane.mark) && tags.contains(&lane.place))
            })
    });
    returned || sheets || bench
}

fn at_codes(file: &JobFile, found: &mut Vec<Seen>) {
    let begun: Vec<_> = file
        .events
        .iter()
        .filter(|record| matches!(record.event, Event::WriteBegun { .. }))
        .collect();
    let coding = coding(file);
    if let (Some(_), Some(last)) = (&coding.unfinished, begun.last()) {
        found.push(seen(Mistake::NotReadBack, words::NOT_READ_BACK.to_owned(), last.signed.at));
        return;
    }
    for one in standing(file).into_iter().filter(|one| one.decision == Decision::Recode) {
        let written = begun.iter().any(|record| {
            let Event::WriteBegun { writes } = &record.event else { return false };
            writes.iter().any(|write| write.cylinder == one.cylinder)
        });
        // As long as it goes on there is time to write it.
        if !written && file.marks().is_some() {
            let says = words::not_written(one.cylinder);
            found.push(seen(Mistake::NotReadBack, says, one.signed.at));
        }
    }
}

/// Steps that could hurt as things stood when they were begun.
fn unsafe_steps(case: &Case, file: &JobFile, found: &mut Vec<Seen>) -> Result<(), CaseError> {
    let hazards = HAZARDS.as_ref().map_err(|why| CaseError::Files(why.clone()))?;
    let entries = entry::of_job(file);
    for (at, entry) in entries.iter().enumerate() {
        let step = match entry {
            Entry::Sheet(sheet) => sheet.check.name(),
            Entry::Run { .. } => EngineTest::ReturnTest.name(),
            Entry::Event(record) if matches!(record.event, Event::Swapped { .. }) => "swap",
            Entry::TakenIn(_)
            | Entry::IntakeChanged(_)
            | Entry::Test(_)
            | Entry::Reading { .. }
            | Entry::Aside { .. }
            | Entry::Cell { .. }
            | Entry::Trace { .. }
            | Entry::Recording { .. }
            | Entry::Raw { .. }
            | Entry::Event(_)
            | Entry::Decision(_)
            | Entry::Note(_)
            | Entry::Session(_)
            | Entry::Round(_)
            | Entry::Tube(_) => continue,
        };
        let so_far = entry::job(entries[..at].to_vec());
        let Ok(before) = so_far else { continue };
        let pulsed = before.pulsed_s().into_iter().map(|(_, seconds)| seconds);
        let named = Named {
            step,
            danger: "",
            wrong_fuel: wrong_fuel(&before),
            pulsed_s: pulsed.fold(0.0, f64::max),
        };
        let engine = Bay::of(case, &before).engine;
        if let Some(row) = hazards.iter().find(|row| row.holds(&engine, named)) {
            let title = EngineTest::parse(step).map_or("Swap", EngineTest::title);
            let says = words::unsafe_step(title);
            let mut one = seen(Mistake::UnsafeOrder, says, entry.signed().at);
            one.says = format!("{} {}", one.says, row.reason);
            found.push(one);
        }
    }
    Ok(())
}

/// The fuel sample showed another fuel or water, and nobody put it right since.
fn wrong_fuel(file: &JobFile) -> bool {
    let Some(sheet) = file.sheets.iter().rfind(|sheet| sheet.check == EngineTest::FuelSample)
    else {
        return false;
    };
    let bad = sheet.standing().iter().any(|r| {
        ["smell", "water"].contains(&r.cell.as_str()) && r.value.is_some_and(|value| value > 0.0)
    });
    let mended = file.events.iter().any(|record| {
        let fuel = Event::Exercise(ExerciseAct::PutRight { part: SharedPart::Fuel });
        record.event == fuel && record.signed.moment() > sheet.signed.moment()
    });
    bad && !mended
}
