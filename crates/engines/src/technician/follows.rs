//! The technician who follows Cobaltine: its next check, until it decides or says that it cannot.
//!
//! The readings go into a job record by the same commands as those of a person at the screen. This is the
//! one file that knows the judgement, as a technician knows a tool: it reads what it says.

mod benched;
mod intervals;
mod returned;

use super::hazards::{Hazard, Named, SHIPPED, hazards};
use super::{Call, Seen, Stated, Work, library, repair};
use crate::draw::Draw;
use crate::engine::MadeEngine;
use crate::population::{MadeJob, PersonRow};
use crate::reading::Hand;
use cobaltine_core::entry;
use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::job::{Command, apply, take_in};
use cobaltine_core::judgement::{Cause, House, Judgement, Position, Weights, Why, With, judge};
use cobaltine_core::library::LimitEntry;
use cobaltine_core::passport::Counted;
use cobaltine_core::plan::StepId;
use cobaltine_core::record::{
    CellReading, Event, EventRecord, Intake, JobFile, SheetRecord, Signed,
};
use cobaltine_core::rules::Rules;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::{Capture, Decision, SlotCode, Stage};
use jiff::Timestamp;
use std::collections::BTreeMap;
use uuid::Uuid;

/// Steps after which nobody goes on.
const MOST_STEPS: usize = 24;
/// Times that one check is done.
const MOST_TIMES: u64 = 3;
/// Minutes of one job.
pub const BUDGET: f64 = 240.0;

/// What the technician works with: made once for many jobs.
#[derive(Debug)]
pub struct Tools {
    /// Weights of the judgement, as shipped.
    pub weights: Weights,
    /// Rules of the house, as shipped.
    pub rules: Rules,
    /// What can hurt.
    pub hazards: Vec<Hazard>,
}

impl Tools {
    /// As they ship, with a workshop's own rows laid over the weights (none: an empty text).
    ///
    /// # Errors
    /// Rows that cannot be used.
    pub fn with(own_rows: &str) -> Result<Self, String> {
        let weights = Weights::read(own_rows).map_err(|why| why.to_string())?;
        let hazards = hazards(SHIPPED).map_err(|why| why.to_string())?;
        Ok(Self { weights, rules: Rules::default(), hazards })
    }
}

/// A job at the screen.
struct Desk<'a> {
    file: JobFile,
    engine: MadeEngine,
    job: &'a MadeJob,
    person: &'a PersonRow,
    ids: Draw,
    minute: i64,
    seq: u64,
    times: BTreeMap<String, u64>,
    /// The injectors by the cylinder that each came in.
    came: Vec<Uuid>,
    /// The fuel sample showed another fuel or water, and nothing was put right since.
    wrong_fuel: bool,
    work: Work,
}

/// The job as it is at the end, and how it was done; none when the program refused what a form would put.
pub fn follow(job: &MadeJob, person: &PersonRow, tools: &Tools) -> Result<(JobFile, Work), String> {
    let mut desk = Desk::open(job, person)?;
    let mut last = None;
    for _ in 0..MOST_STEPS {
        let (judgement, first) = desk.judged(tools)?;
        if let Some(check) = first {
            if !desk.fix(check)? {
                last = Some(judgement);
                break;
            }
            continue;
        }
        let over = desk.work.minutes > BUDGET || judgement.step.stage == Stage::Decide;
        if over || judgement.step.stage == Stage::Prove {
            last = Some(judgement);
            break;
        }
        if !desk.step(&judgement, tools)? {
            last = Some(judgement);
            break;
        }
    }
    let judgement = match last {
        Some(judgement) => judgement,
        None => desk.judged(tools)?.0,
    };
    desk.decide(&judgement);
    desk.cleaned(tools)?;
    let judged = desk.file.judged().map_err(|why| why.to_string())?;
    desk.work.intervals = desk.intervals(&judged);
    Ok((desk.file, desk.work))
}

impl<'a> Desk<'a> {
    fn open(job: &'a MadeJob, person: &'a PersonRow) -> Result<Self, String> {
        let mut ids = Draw::new(job.seed, 1);
        let intake = Intake {
            customer: String::new(),
            customer_id: None,
            machine: format!("made-up engine {}", job.seed),
            plate: String::new(),
            usage: format!("{} h", job.hours.round()),
            engine: String::new(),
            fuel_system: job.engine.fuel,
            layout: job.engine.layout,
            promised: None,
            family_id: None,
            symptoms: job.symptoms.clone(),
            complaint: String::new(),
            story: job.story.clone(),
        };
        let labels: Vec<String> =
            (1..=job.engine.seats.len()).map(|n| format!("M{}-{n}", job.seed)).collect();
        let signed = Signed { by: Uuid::nil(), at: at(0), seq: 1 };
        let id = Uuid::from_u128(ids.bits());
        let taken =
            take_in(id, job.number(), intake, &labels, signed).map_err(|why| why.to_string())?;
        let file = entry::job([taken]).map_err(|why| why.to_string())?;
        let engine = job.engine.clone();
        let work = Work { calls: vec![Call::Undecided; engine.seats.len()], ..Work::default() };
        let mut seats = file.seats(None);
        seats.sort_by_key(|seat| seat.cylinder);
        let came = seats.iter().map(|seat| seat.injector).collect();
        let times = BTreeMap::new();
        Ok(Self {
            file,
            engine,
            job,
            person,
            ids,
            minute: 1,
            seq: 1,
            times,
            came,
            wrong_fuel: false,
            work,
        })
    }

    fn judged(&self, tools: &Tools) -> Result<(Judgement, Option<EngineTest>), String> {
        let judged = self.file.judged().map_err(|why| why.to_string())?;
        let house = House {
            weights: &tools.weights,
            rules: &tools.rules,
            tools: &[],
            counted: Counted::default(),
        };
        let judgement = judge(&self.file, &judged, house);
        Ok((judgement, judged.plan.first.map(|first| first.check)))
    }

    fn id(&mut self) -> Uuid {
        Uuid::from_u128(self.ids.bits())
    }

    fn signed(&mut self) -> Signed {
        self.seq += 1;
        Signed { by: Uuid::nil(), at: at(self.minute), seq: self.seq }
    }

    fn does(&mut self, command: Command, signed: Signed) -> Result<(), String> {
        let entries = apply(&self.file, command, signed).map_err(|why| why.to_string())?;
        entries.into_iter().try_for_each(|one| self.file.push(one).map_err(|why| why.to_string()))
    }

    fn happened(&mut self, event: Event) -> Result<(), String> {
        let (id, signed) = (self.id(), self.signed());
        self.does(Command::Happened(EventRecord { id, event, signed }), signed)
    }

    fn took(&mut self, minutes: f64, what: &'static str) {
        self.work.minutes += minutes;
        self.minute += minutes.ceil() as i64 + 1;
        self.work.done.push(what);
    }

    /// How often this was done before; counts it.
    fn nth(&mut self, what: &str) -> u64 {
        let times = self.times.entry(what.to_owned()).or_insert(0);
        *times += 1;
        *times - 1
    }

    /// Puts right what was found and looks again; false where it was tried before.
    fn fix(&mut self, check: EngineTest) -> Result<bool, String> {
        if self.nth(&format!("fix {}", check.name())) >= 2 {
            return Ok(false);
        }
        let there = repair(&mut self.engine, check);
        self.work.repaired.push((check, there));
        self.took(40.0, "repair");
        self.sheet(check)?;
        Ok(true)
    }

    /// The step that Cobaltine names; false where it names one that was left out before.
    fn step(&mut self, judgement: &Judgement, tools: &Tools) -> Result<bool, String> {
        let named = judgement.step.step.clone();
        let of_check =
            judgement.next.iter().find(|one| Some(&one.id) == judgement.step.check.as_ref());
        let step = named.or_else(|| of_check.map(|check| StepId(check.step.clone())));
        let name = step.as_ref().map(|id| id.0.clone()).unwrap_or_default();
        let minutes = judgement.next.first().map_or(10.0, |check| check.minutes);
        let check = EngineTest::parse(&name);
        self.looked_after(tools, &name, judgement);
        let often = self.times.get(&name).copied().unwrap_or(0);
        let done = match (check, name.as_str()) {
            _ if often >= MOST_TIMES => false,
            (Some(EngineTest::ReturnTest), _) => self.return_test()?,
            (Some(check), _) => {
                self.sheet(check)?;
                true
            }
            (None, "bench") if often == 0 => self.bench()?,
            (None, "codes") => {
                self.nth("codes");
                self.read_codes()?;
                let step = step.clone().ok_or("no step")?;
                self.happened(Event::StepDone { step })?;
                self.took(5.0, "codes");
                true
            }
            (None, "swap") if often == 0 => self.swap(judgement)?,
            (None, _) => false,
        };
        if done {
            return Ok(true);
        }
        let before = self.nth(&format!("left out {name}"));
        let Some(step) = step.filter(|_| before == 0 && !name.is_empty()) else { return Ok(false) };
        let reason = "done often enough, or not to be had".to_owned();
        self.took(minutes.min(2.0), "left out");
        self.happened(Event::StepSkipped { step, reason })?;
        Ok(true)
    }

    /// What the control unit holds, and what stands on the bodies.
    fn read_codes(&mut self) -> Result<(), String> {
        if !self.engine.fuel.coded() {
            return Ok(());
        }
        let (stored, own) = Hand::new(&self.engine, self.person, self.job.seed).codes();
        let slots =
            (1..).zip(stored).map(|(cylinder, code)| SlotCode { cylinder, code: Some(code) });
        self.happened(Event::CodesRead { slots: slots.collect(), by_hand: false })?;
        for (at, code) in own.into_iter().enumerate() {
            let (injector, how) = (self.came[at], Capture::Scanned);
            self.happened(Event::CodeCaptured { injector, code, how })?;
        }
        self.took(5.0, "trim codes");
        Ok(())
    }

    /// Notes a step that could hurt as things stand.
    fn looked_after(&mut self, tools: &Tools, step: &str, judgement: &Judgement) {
        let danger = judgement.next.iter().find(|one| one.step == step);
        let pulsed = self.file.pulsed_s().into_iter().map(|(_, seconds)| seconds);
        let named = Named {
            step,
            danger: danger.map_or("", |one| one.hazard.as_str()),
            wrong_fuel: self.wrong_fuel,
            pulsed_s: pulsed.fold(0.0, f64::max),
        };
        let held = tools.hazards.iter().filter(|row| row.holds(&self.engine, named));
        self.work.unsafe_steps.extend(held.map(|row| format!("{step}: {}", row.reason)));
    }

    fn sheet(&mut self, check: EngineTest) -> Result<(), String> {
        let nth = self.nth(check.name());
        if check == EngineTest::PressureDrop && nth > 0 {
            // What was pulsed into the cylinders is cleared before more is.
            self.happened(Event::Cleared { how: "spark plugs out, clear-flood crank".to_owned() })?;
            self.took(15.0, "clearing");
        }
        let read = Hand::new(&self.engine, self.person, self.job.seed).sheet(check, nth);
        let read = read.ok_or_else(|| format!("{} is not read so", check.name()))?;
        if check == EngineTest::FuelSample {
            let bad = |cell: &str| read.set.iter().any(|(name, v)| *name == cell && *v > 0.0);
            self.wrong_fuel = bad("smell") || bad("water");
        }
        let (sheet, signed) = (self.id(), self.signed());
        let record = SheetRecord {
            id: sheet,
            check,
            limit: self.limit(check),
            instrument: (check == EngineTest::CoilResistance).then(|| self.meter()),
            overdue: false,
            rules: Vec::new(),
            asks_start: false,
            readings: Vec::new(),
            traces: Vec::new(),
            signed,
        };
        self.does(Command::BeginSheet(Box::new(record)), signed)?;
        let of_set = read.set.iter().map(|(cell, value)| (*cell, None, *value));
        let each = read.each.iter().map(|(cell, cylinder, value)| (*cell, Some(*cylinder), *value));
        for (cell, cylinder, value) in of_set.chain(each).collect::<Vec<_>>() {
            let signed = self.signed();
            let cell = CellReading {
                id: self.id(),
                cell: cell.to_owned(),
                cylinder,
                value: Some(value),
                typed: value.to_string(),
                corrects: None,
                signed,
            };
            self.does(Command::KeepCell { sheet, cell }, signed)?;
        }
        let minutes = f64::from(check.form(Some(self.engine.fuel)).minutes);
        self.took(minutes, check.name());
        Ok(())
    }

    /// What the library says of a check.
    fn limit(&self, check: EngineTest) -> Option<LimitEntry> {
        let held = self.job.in_library && check == EngineTest::CoilResistance;
        held.then(|| library::coil_limit(self.engine.fuel)).flatten()
    }

    /// The meter that a coil of this kind is read with.
    fn meter(&self) -> Instrument {
        let (accuracy, digit, lead) = crate::reading::meter(self.engine.fuel);
        Instrument {
            id: Uuid::from_u128(0x0E7E_2000),
            name: "made-up meter".to_owned(),
            kind: InstrumentKind::Meter,
            resolution: digit,
            accuracy_pct: accuracy * 100.0,
            accuracy_digits: 0.0,
            lead_ohm: Some(lead),
            capacity_ml: None,
            calibration_due: None,
            certificate: String::new(),
            revision: 1,
        }
    }

    /// The place that is most in doubt changes with the next one, and is read again.
    fn swap(&mut self, judgement: &Judgement) -> Result<bool, String> {
        self.nth("swap");
        let count = self.engine.seats.len();
        if count < 2 {
            return Ok(false);
        }
        let doubt = judgement
            .positions
            .iter()
            .filter(|at| at.ruling.decision == Decision::MeasureAgain)
            .max_by(|a, b| odds(a).total_cmp(&odds(b)));
        let one = doubt.map_or(0, |at| at.cylinder as usize - 1);
        let other = if one + 1 < count { one + 1 } else { one - 1 };
        self.happened(Event::Swapped { one: one as u32 + 1, other: other as u32 + 1 })?;
        self.engine.swap(one, other);
        self.took(45.0, "swap");
        self.read_swapped()?;
        // Back to where they came from, so that no code stands with another injector.
        self.happened(Event::Swapped { one: one as u32 + 1, other: other as u32 + 1 })?;
        self.engine.swap(one, other);
        self.took(30.0, "swapped back");
        Ok(true)
    }

    /// The comparison that was made last before the exchange is made again.
    fn read_swapped(&mut self) -> Result<(), String> {
        let sheets = [EngineTest::PressureDrop, EngineTest::DiBalance, EngineTest::Cutout];
        let newest = self.file.sheets.iter().rfind(|sheet| sheets.contains(&sheet.check));
        let returned = self.file.return_tests.last().map(|test| test.signed.seq);
        match newest {
            Some(sheet) if returned.is_none_or(|seq| seq < sheet.signed.seq) => {
                let check = sheet.check;
                self.sheet(check)
            }
            None if returned.is_none() && !self.engine.is_diesel() => {
                self.sheet(EngineTest::Cutout)
            }
            _ => {
                self.return_test()?;
                self.return_test().map(drop)
            }
        }
    }

    /// What was decided to be cleaned is, and what is still off afterwards is decided again.
    fn cleaned(&mut self, tools: &Tools) -> Result<(), String> {
        let calls = self.work.calls.clone();
        let those: Vec<usize> = (0..calls.len()).filter(|at| calls[*at] == Call::Clean).collect();
        if those.is_empty() {
            return Ok(());
        }
        self.clean(&those)?;
        let (after, _) = self.judged(tools)?;
        for at in &after.positions {
            let came = self.engine.seats[at.cylinder as usize - 1];
            let renew = match at.ruling.decision {
                Decision::Replace => true,
                Decision::Adjust => at.ruling.why == Why::MapWorn,
                Decision::Leave
                | Decision::Clean
                | Decision::Recode
                | Decision::Match
                | Decision::RepairHarness
                | Decision::LookElsewhere
                | Decision::MeasureAgain => false,
            };
            if renew && those.contains(&came) {
                self.work.calls[came] = Call::Renew;
                self.work.why[came] = at.ruling.why.name();
            }
        }
        Ok(())
    }

    /// What it says at the end, by the cylinder that an injector came in.
    fn decide(&mut self, judgement: &Judgement) {
        self.work.why = vec![""; self.engine.seats.len()];
        let speaks = judgement.findings.iter().filter(|one| one.of_injector && one.of_cylinder);
        self.work.seen = speaks
            .filter_map(|one| {
                // What was read of an injector while it sat elsewhere is not of one place.
                let came =
                    one.injector.and_then(|id| self.came.iter().position(|held| *held == id));
                let now = one.cylinder.map(|cylinder| cylinder as usize - 1);
                let cylinder = match (now, came) {
                    (Some(now), Some(came)) if now != came => return None,
                    (now, came) => now.or(came),
                };
                Some(Seen { check: one.check.clone(), outcome: one.code.name(), cylinder })
            })
            .collect();
        for at in &judgement.positions {
            let now = at.cylinder as usize - 1;
            let came = self.engine.seats[now];
            let call = match at.ruling.decision {
                Decision::Leave | Decision::Match => Call::Leave,
                Decision::Clean => Call::Clean,
                // A valve or a guide is not set: what a worn map asks for is reconditioning.
                Decision::Adjust if at.ruling.why == Why::MapWorn => Call::Renew,
                Decision::Adjust => Call::Adjust,
                Decision::Recode => Call::Recode,
                Decision::Replace => Call::Renew,
                Decision::RepairHarness => Call::Harness,
                Decision::LookElsewhere => Call::Elsewhere,
                Decision::MeasureAgain => Call::Undecided,
            };
            // What stays with the place is called there, what goes along at the injector.
            let of_place = matches!(call, Call::Harness | Call::Elsewhere);
            self.work.calls[if of_place { now } else { came }] = call;
            self.work.why[came] = at.ruling.why.name();
            for ranked in &at.ranked {
                let Some(cause) = ranked.cause else { continue };
                let stays = cause.with() == With::Cylinder;
                let cylinder = if stays { now } else { came };
                let cause: &'static str = cause.name();
                self.work.stated.push(Stated { cylinder, cause, odds: ranked.p });
            }
        }
    }
}

fn odds(at: &Position) -> f64 {
    let injector = |cause: Cause| cause.with() == With::Injector;
    at.ranked.iter().filter(|one| one.cause.is_some_and(injector)).map(|one| one.p).sum()
}

fn at(minute: i64) -> Timestamp {
    // A morning of a made-up year.
    Timestamp::from_second(1_937_376_000 + minute * 60).unwrap_or(Timestamp::UNIX_EPOCH)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::exam::Exam;
    use crate::population::Population;
    use cobaltine_core::record::Person;

    #[test]
    fn three_hundred_jobs_are_followed_to_a_decision_without_a_refusal() {
        let people = Population::shipped().unwrap();
        let tools = Tools::with("").unwrap();
        let (mut decided, mut all) = (0, 0);
        for seed in (0..300).map(|nth| Exam::seed(7, nth)) {
            let job = people.job(seed);
            let (mut file, work) = follow(&job, &people.person, &tools)
                .unwrap_or_else(|why| panic!("seed {seed}: {why}"));
            file.people = vec![Person::new(Uuid::nil(), "Made-up technician")];
            assert_eq!(file.problems(), [], "seed {seed}: no file that a workshop takes");
            all += work.calls.len();
            decided += work.calls.iter().filter(|call| **call != Call::Undecided).count();
        }
        assert!(decided * 2 > all, "{decided} of {all}");
    }
}
