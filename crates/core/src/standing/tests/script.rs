//! The little language in which an untidy job is told: a fact a line, ten minutes after the one before it.

use crate::engine::FuelSystem;
use crate::fitting::fitting;
use crate::judgement::tests::judge_file;
use crate::library::FamilyKind;
use crate::mark::Mark;
use crate::plain::plain;
use crate::proving::{ProveId, Told, proof};
use crate::record::{
    CellReading, DecisionRecord, Event, EventRecord, Injector, JobFile, Part, Reading, ReadingKind,
    SetAside, Signed, TestRecord,
};
use crate::sample::{at, job, return_test, sheet};
use crate::standing::{Standing, singles};
use crate::tests::bench::tests::{family, session};
use crate::tests::bench::{BenchCell, BenchKind, BenchTest, RailPlace, Round, RoundStage};
use crate::tests::engine::EngineTest;
use crate::work::{Decision, FitStep, Symptom};
use std::collections::BTreeMap;
use uuid::Uuid;

/// Identities of injectors of another job count from here.
const ELSEWHERE: u128 = 900;

/// A job as its facts make it.
pub(super) struct Script {
    pub file: JobFile,
    minute: i64,
}

impl Default for Script {
    fn default() -> Self {
        Self { file: job(FuelSystem::DieselSolenoid, &[Symptom::RoughIdle]), minute: 0 }
    }
}

impl Script {
    fn signed(&self) -> Signed {
        Signed { seq: self.minute as u64, ..at(self.minute) }
    }

    fn happens(&mut self, event: Event) {
        let signed = self.signed();
        self.file.events.push(EventRecord { id: Uuid::now_v7(), event, signed });
    }

    /// One fact.
    pub fn does(&mut self, line: &str) {
        self.minute += 10;
        let mut words = line.split_whitespace();
        let verb = words.next().unwrap();
        let rest: Vec<&str> = words.collect();
        let numbers: Vec<f64> = rest.iter().filter_map(|word| word.parse().ok()).collect();
        let cylinder = || numbers[0] as u32;
        let tail = |from: usize| rest[from..].join(" ");
        match verb {
            "petrol" => self.file = job(FuelSystem::PetrolPort, &[Symptom::MisfireLoad]),
            "return" => self.returned(82.0, &numbers),
            "cold-return" => self.returned(40.0, &numbers),
            "correct" => self.correct(cylinder(), numbers[1]),
            "exclude" => self.aside(false),
            "include" => self.aside(true),
            "coil" => self.sheet(
                EngineTest::CoilResistance,
                &[("temperature", 20.0)],
                &[("ohms", &numbers)],
            ),
            "cutout" => self.sheet(EngineTest::Cutout, &[("base", 800.0)], &[("cut", &numbers)]),
            "balance" => {
                let starts = vec![300.0; numbers.len()];
                let set = [("pulses", 50.0), ("pulse", 6.0)];
                self.sheet(
                    EngineTest::PressureDrop,
                    &set,
                    &[("start", &starts), ("end", &numbers)],
                );
            }
            "correct-cell" => self.correct_cell(cylinder(), numbers[1]),
            "swap" => self.happens(Event::Swapped { one: cylinder(), other: numbers[1] as u32 }),
            "undo-swap" => {
                let swapped = |one: &&EventRecord| matches!(one.event, Event::Swapped { .. });
                let of = self.file.events.iter().rfind(swapped).unwrap().id;
                self.happens(Event::SwapUndone { of, reason: "a wrong tap".to_owned() });
            }
            "replace" | "donor" => {
                let id = Uuid::from_u128(100 + self.file.events.len() as u128);
                let part = if verb == "donor" { Part::Tested } else { Part::New };
                let injector = Injector { id, cylinder: cylinder(), label: rest[1].to_owned() };
                self.happens(Event::Replaced { injector, part });
            }
            "bench" => self.on_bench(),
            "round" => self.round(rest[0]),
            "flow" => self.tubes(BenchTest::Flow, Some(6), "volume", &numbers),
            "drips" => self.tubes(BenchTest::Leak, None, "drops", &numbers),
            "skip" | "unskip" => {
                let value = f64::from(u8::from(verb == "skip"));
                self.tube(BenchTest::Cleaning, None, Some(cylinder()), "left_out", value);
            }
            "correct-tube" => {
                self.tube(BenchTest::Flow, Some(6), Some(cylinder()), "volume", numbers[1])
            }
            "decide" => {
                let decision: Decision =
                    serde_json::from_value(serde_json::json!(rest.last())).unwrap();
                let all: Vec<u32> = match rest[0] {
                    "rest" => (1..=4)
                        .filter(|c| !self.file.decisions.iter().any(|d| d.cylinder == *c))
                        .collect(),
                    _ => numbers.iter().map(|c| *c as u32).collect(),
                };
                for cylinder in all {
                    let (id, reason, signed) =
                        (Uuid::now_v7(), "as measured".to_owned(), self.signed());
                    let one =
                        DecisionRecord { id, cylinder, decision, reason, proposed: None, signed };
                    self.file.decisions.push(one);
                }
            }
            "fit" => {
                let cylinders: Vec<u32> = numbers.iter().map(|c| *c as u32).collect();
                for step in FitStep::ALL {
                    self.happens(Event::Fitted {
                        step: *step,
                        cylinders: cylinders.clone(),
                        done: true,
                    });
                }
            }
            "prove" => {
                for id in ProveId::ALL.iter().filter(|id| !id.is_seen()) {
                    let note = "as seen".to_owned();
                    self.happens(Event::Proved { item: *id, told: Told::Good, note });
                }
            }
            "figure" => {
                self.sheet(EngineTest::ComplaintFigure, &[(rest[0], numbers[0])], &[]);
            }
            "confirm" => {
                let test = self.file.return_tests.last().unwrap().id;
                self.happens(Event::ReturnConfirmed { test, cylinder: cylinder() });
            }
            "elsewhere" => {
                self.on_bench();
                let held = self.file.bench.last_mut().unwrap();
                for (one, id) in held.injectors.iter_mut().zip(ELSEWHERE..) {
                    (one.job, one.injector) = (Uuid::from_u128(999), Uuid::from_u128(id));
                    one.label = format!("E{}", one.tag);
                }
            }
            "from-elsewhere" => {
                let id = Uuid::from_u128(ELSEWHERE + numbers[1] as u128 - 1);
                let label = format!("E{}", numbers[1]);
                let injector = Injector { id, cylinder: cylinder(), label };
                self.happens(Event::Replaced { injector, part: Part::Tested });
            }
            "close" => self.happens(Event::Closed { exceptions: Vec::new() }),
            "comeback" => {
                let symptoms = Vec::new();
                self.happens(Event::Reopened { comeback: true, reason: tail(0), symptoms });
            }
            _ => panic!("no such fact: {line}"),
        }
    }

    fn returned(&mut self, celsius: f64, levels: &[f64]) {
        let mut test: TestRecord = return_test(celsius, &[levels, levels, levels]);
        test.signed = self.signed();
        for run in &mut test.runs {
            run.signed = self.signed();
            run.readings.iter_mut().for_each(|reading| reading.signed = self.signed());
        }
        self.file.return_tests.push(test);
    }

    fn correct(&mut self, cylinder: u32, value: f64) {
        let signed = self.signed();
        for run in &mut self.file.return_tests.last_mut().unwrap().runs {
            let old = run.standing().find(|r| r.cylinder == Some(cylinder)).unwrap().id;
            run.readings.push(Reading {
                id: Uuid::now_v7(),
                cylinder: Some(cylinder),
                kind: ReadingKind::Level,
                value,
                mark_ml: None,
                typed: String::new(),
                corrects: Some(old),
                why: Some("misread".to_owned()),
                shown_by: None,
                signed,
            });
        }
    }

    fn aside(&mut self, back: bool) {
        let signed = self.signed();
        for run in &mut self.file.return_tests.last_mut().unwrap().runs {
            let aside = SetAside { reason: "a hose came off".to_owned(), back, nth: 0, signed };
            run.set_aside = (!back).then(|| aside.clone());
            run.asides.push(aside);
        }
    }

    fn sheet(&mut self, check: EngineTest, set: &[(&str, f64)], each: &[(&str, &[f64])]) {
        let mut record = sheet(check, self.minute, set, each);
        record.signed = self.signed();
        record.readings.iter_mut().for_each(|cell| cell.signed = self.signed());
        self.file.sheets.push(record);
    }

    fn correct_cell(&mut self, cylinder: u32, value: f64) {
        let signed = self.signed();
        let sheet = self.file.sheets.last_mut().unwrap();
        let old = sheet.readings.iter().rfind(|r| r.cylinder == Some(cylinder)).unwrap().clone();
        let new = CellReading {
            id: Uuid::now_v7(),
            value: Some(value),
            corrects: Some(old.id),
            signed,
            ..old
        };
        sheet.readings.push(new);
    }

    /// Everything that sits in the engine now hangs on the bench, in a session of its own.
    fn on_bench(&mut self) {
        let port = family("F", FamilyKind::PetrolPortHigh, Vec::new());
        let mut new = session(BenchKind::Petrol, &[port], &["F"; 4]);
        new.id = Uuid::from_u128(900 + self.minute as u128);
        new.signed = self.signed();
        new.rounds.clear();
        for (tagged, seat) in new.injectors.iter_mut().zip(self.file.seats(None)) {
            (tagged.injector, tagged.cylinder, tagged.label) =
                (seat.injector, seat.cylinder, seat.label);
        }
        self.file.bench.push(new);
        self.round("received");
    }

    fn round(&mut self, stage: &str) {
        let stage = match stage {
            "received" => RoundStage::Received,
            "cleaned" => RoundStage::Cleaned,
            "adjusted" => RoundStage::Adjusted,
            _ => RoundStage::Final,
        };
        let (id, signed) = (Uuid::now_v7(), self.signed());
        let held = self.file.bench.last_mut().unwrap();
        let number = 1 + held.rounds.iter().filter(|round| round.stage == stage).count() as u32;
        let places = held.injectors.iter().map(|one| RailPlace { position: one.tag, tag: one.tag });
        held.rounds.push(Round { id, stage, number, places: places.collect(), signed });
        for (cell, value) in [("pressure", 300.0), ("fluid", 1.0)] {
            self.tube(BenchTest::Flow, None, None, cell, value);
        }
        for (cell, value) in [("pressure", 300.0), ("seconds", 60.0)] {
            self.tube(BenchTest::Leak, None, None, cell, value);
        }
    }

    fn tubes(&mut self, test: BenchTest, row: Option<u32>, cell: &str, values: &[f64]) {
        for (tag, value) in (1..).zip(values) {
            self.tube(test, row, Some(tag), cell, *value);
        }
    }

    fn tube(
        &mut self,
        test: BenchTest,
        row: Option<u32>,
        tag: Option<u32>,
        cell: &str,
        value: f64,
    ) {
        let signed = self.signed();
        let held = self.file.bench.last_mut().unwrap();
        let round = held.rounds.last().unwrap().id;
        let same = |c: &&BenchCell| {
            c.round == round && c.test == test && c.row == row && c.tag == tag && c.cell == cell
        };
        let corrects = held.cells.iter().rfind(same).map(|cell| cell.id);
        held.cells.push(BenchCell {
            id: Uuid::now_v7(),
            round,
            test,
            cell: cell.to_owned(),
            row,
            tag,
            value: Some(value),
            typed: String::new(),
            samples: None,
            shown_by: None,
            corrects,
            signed,
        });
    }
}

/// What counts, the marks, and what is said: headline, proposal, proof, customer.
pub(super) fn told(file: &JobFile) -> Vec<String> {
    let judged = file.judged().unwrap();
    let judgement = judge_file(file);
    let proof = proof(file, &judged, &[]);
    let mut says = Vec::new();
    for place in &judged.now.places {
        let mut read: Vec<String> = Vec::new();
        judged.with_verdicts(|verdicts| {
            let of = judged.stood.iter().filter(|one| {
                one.place.is_some()
                    && (one.injector == Some(place.injector)
                        || one.cylinder == Some(place.cylinder))
            });
            for one in of {
                let lane = verdicts.lane(one).unwrap();
                let shown = if lane.shown.is_empty() { &lane.word } else { &lane.shown };
                let shown = shown.replace('\n', " ");
                let moved = if one.injector == Some(place.injector) {
                    one.of_injector.filter(|_| one.here == Standing::BeforeSwap)
                } else {
                    None
                };
                let injector = moved
                    .map_or(String::new(), |half| format!(" ({} for the injector)", half.word()));
                read.push(format!("{} {shown} {}{injector}", one.test.title(), one.here.word()));
            }
        });
        let mark = match place.mark {
            Mark::NotMeasured if place.word.is_empty() => "not measured".to_owned(),
            Mark::NotMeasured => format!("not measured, {}", place.word),
            mark @ (Mark::Inside
            | Mark::TooMuch
            | Mark::TooLittle
            | Mark::Look
            | Mark::Undecided
            | Mark::Questioned) => format!("{mark:?}").to_lowercase(),
        };
        says.push(format!("= {} {}: {mark}; {}", place.cylinder, place.label, read.join(" · ")));
    }
    let mut worth: BTreeMap<String, usize> = BTreeMap::new();
    for one in judged.with_verdicts(|verdicts| singles(file, verdicts, &judged.stood)) {
        // What is worth as much as its lane is said of the lane.
        if one.standing == Standing::Joined {
            *worth.entry(one.word).or_default() += 1;
        } else if !one.why.is_empty() {
            *worth.entry(format!("{}: {}", one.word, one.why)).or_default() += 1;
        }
    }
    let worth: Vec<String> = worth.iter().map(|(what, n)| format!("{n} {what}")).collect();
    if !worth.is_empty() {
        says.push(format!("= readings: {}", worth.join(" · ")));
    }
    says.push(format!("= now: {}", judged.now.headline));
    says.push(format!("= decide: {}", judgement.headline));
    let item = proof.items.iter().find(|item| item.id == ProveId::FailedTest).unwrap();
    says.push(format!("= proof: {:?}: {}", item.state, item.says));
    let customer = plain(file, &judged, &fitting(file, &[]), &proof);
    says.push(format!("= customer: {}", customer.done.join(" ")));
    says
}
