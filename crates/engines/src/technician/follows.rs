//! The technician who follows Cobaltine: its next check, until it decides or says that it cannot.
//!
//! The readings go into a job record by the same commands as those of a person at the screen. This is the
//! one file that knows the judgement, as a technician knows a tool: it reads what it says.

mod benched;
mod carried;
mod decided;
mod intervals;
mod returned;
mod sheets;

use super::hazards::{Hazard, Named, SHIPPED, hazards};
use super::{Call, Work, repair};
use crate::draw::Draw;
use crate::engine::{MadeEngine, Place};
use crate::population::{MadeJob, PersonRow};
use crate::reading::{Reads, hand};
use cobaltine_core::entry;
use cobaltine_core::job::{Command, apply, take_in};
use cobaltine_core::judgement::{House, Judgement, Weights, Why, With, judge};
use cobaltine_core::passport::Counted;
use cobaltine_core::plan::StepId;
use cobaltine_core::record::{Event, EventRecord, Intake, JobFile, Signed};
use cobaltine_core::rules::Rules;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::{ComplaintNow, Decision, Stage};
use jiff::Timestamp;
use std::collections::BTreeMap;
use uuid::Uuid;

/// Steps after which nobody goes on.
const MOST_STEPS: usize = 24;
/// Times that one check is done.
const MOST_TIMES: u64 = 3;
/// Minutes of one search.
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
    /// Those of them at which, or at whose place, something was done.
    done: Vec<usize>,
    /// How often each proposal was made.
    proposed: BTreeMap<String, u32>,
    /// What an erring person does otherwise, drawn step by step.
    errs: Draw,
    /// The fuel sample showed another fuel or water, and nothing was put right since.
    wrong_fuel: bool,
    /// Minutes after which the search ends.
    budget: f64,
    work: Work,
}

/// The job as it is at the end, and how it was done; none when the program refused what a form would put.
pub fn follow(job: &MadeJob, person: &PersonRow, tools: &Tools) -> Result<(JobFile, Work), String> {
    let mut desk = Desk::open(job, person)?;
    loop {
        let judgement = desk.searched(tools)?;
        desk.decide(&judgement);
        desk.cleaned(tools)?;
        if !desk.goes_on(&judgement)? {
            break;
        }
    }
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
            done: Vec::new(),
            proposed: BTreeMap::new(),
            errs: Draw::new(job.seed, 2),
            wrong_fuel: false,
            budget: BUDGET,
            work,
        })
    }

    /// One step after another, until the program decides or says that it cannot, or the minutes are spent.
    fn searched(&mut self, tools: &Tools) -> Result<Judgement, String> {
        for _ in 0..MOST_STEPS {
            let (judgement, first) = self.judged(tools)?;
            if let Some(check) = first {
                self.places(&judgement);
                if !self.fix(check)? {
                    return Ok(judgement);
                }
                continue;
            }
            let over_time = self.work.minutes > self.budget;
            if judgement.step.asks_complaint && !over_time {
                self.asked()?;
                continue;
            }
            let over = over_time || judgement.step.stage == Stage::Decide;
            if over || judgement.step.stage == Stage::Prove || !self.step(&judgement, tools)? {
                return Ok(judgement);
            }
        }
        Ok(self.judged(tools)?.0)
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

    fn hand(&self) -> Box<dyn Reads + '_> {
        hand(self.job, &self.engine, self.person)
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
        // What was put right makes new facts: the same may be asked again.
        self.proposed.clear();
        let there = repair(&mut self.engine, check);
        self.work.repaired.push((check, there));
        self.took(40.0, "repair");
        self.sheet(check, &[])?;
        Ok(true)
    }

    /// What is to be put right at a place is put right with what comes first.
    fn places(&mut self, judgement: &Judgement) {
        let sound = Place::sound();
        for at in &judgement.positions {
            let cylinder = at.cylinder as usize - 1;
            if self.work.put_right.iter().any(|(held, _)| *held == cylinder) {
                continue;
            }
            let place = &mut self.engine.places[cylinder];
            let call = match (at.ruling.decision, at.ruling.why) {
                (Decision::RepairHarness, _) => {
                    place.leg_ohm = sound.leg_ohm;
                    Call::Harness
                }
                (Decision::LookElsewhere, Why::Driver) => {
                    place.driver = sound.driver;
                    Call::Elsewhere
                }
                (Decision::LookElsewhere, Why::Ignition) => {
                    place.spark = sound.spark;
                    Call::Elsewhere
                }
                (Decision::LookElsewhere, Why::Mechanical) => {
                    place.leak_mm2 = sound.leak_mm2;
                    Call::Elsewhere
                }
                (_, _) => continue,
            };
            self.work.put_right.push((cylinder, call));
        }
    }

    /// Whoever drives is asked after a repair.
    fn asked(&mut self) -> Result<ComplaintNow, String> {
        let answer = self.job.complaint_now(&self.engine);
        if self.wanders() {
            // The wrong button, and the right one after it.
            self.happened(Event::ComplaintAsked { answer: ComplaintNow::Same })?;
        }
        self.happened(Event::ComplaintAsked { answer })?;
        self.took(5.0, "asked");
        Ok(answer)
    }

    /// The step that Cobaltine names; false where it names one that was left out before.
    fn step(&mut self, judgement: &Judgement, tools: &Tools) -> Result<bool, String> {
        self.proposes(judgement);
        let other = self.wanders().then(|| judgement.next.get(1)).flatten();
        let other = other.map(|check| StepId(check.step.clone()));
        let named = other.or_else(|| judgement.step.step.clone());
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
                let next = judgement.next.first().filter(|one| one.step == name);
                self.sheet(check, next.map_or(&[], |one| one.cylinders.as_slice()))?;
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

    /// Counts what is proposed: the same check at the same cylinders is the same proposal, while what was found says
    /// the same.
    fn proposes(&mut self, judgement: &Judgement) {
        let step = &judgement.step;
        let at = judgement.next.first().map(|one| one.cylinders.clone()).unwrap_or_default();
        let mut facts: Vec<_> = judgement
            .findings
            .iter()
            .map(|one| (one.cylinder, &one.check, one.code.name()))
            .collect();
        facts.sort_unstable();
        facts.dedup();
        let times = format!("{:?} {:?} {at:?} {facts:?}", step.step, step.check);
        let times = self.proposed.entry(times);
        let times = times.or_insert(0);
        *times += 1;
        self.work.proposed = self.work.proposed.max(*times);
    }

    /// Whoever errs does something else now and then.
    fn wanders(&mut self) -> bool {
        self.errs.happens(self.person.wanders)
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

    /// The two that are named change places, and what was compared is read again.
    fn swap(&mut self, judgement: &Judgement) -> Result<bool, String> {
        self.nth("swap");
        self.proposed.clear();
        let count = self.engine.seats.len();
        if count < 2 {
            return Ok(false);
        }
        let named = judgement.next.iter().find(|one| one.step == "swap");
        let named = named.map(|one| one.cylinders.as_slice());
        let (one, other) = match named {
            Some([one, other]) => (*one as usize - 1, *other as usize - 1),
            _ => (0, 1),
        };
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
                self.sheet(check, &[])
            }
            None if returned.is_none() && !self.engine.is_diesel() => {
                self.sheet(EngineTest::Cutout, &[])
            }
            _ => {
                self.return_test()?;
                self.return_test().map(drop)
            }
        }
    }
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
