//! Whoever does an exercise by commands, as a person does at the screen: the expert who shows the best way,
//! and in tests one who stumbles.

use crate::bay::{Bay, own_code, stored_codes};
use crate::case::{Case, CaseError};
use crate::readings::{of_round, of_run, of_sheet};
use crate::workshop::{bench_setup, return_limit, sheet_with};
use cobaltine_core::entry;
use cobaltine_core::exercise::{Exercise, ExerciseAct};
use cobaltine_core::job::{Command, NewReading, NewRun, apply, take_up};
use cobaltine_core::quantity::{Celsius, Millilitre, Second};
use cobaltine_core::record::{
    CellReading, DecisionRecord, Event, EventRecord, JobFile, SheetRecord, Signed, TestRecord,
    TestSetup, WriteEnd,
};
use cobaltine_core::start::StartId;
use cobaltine_core::tests::bench::{
    BenchCell, RailPlace, Round, RoundStage, SessionRecord, Tagged,
};
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::tests::engine::return_test::HouseRules;
use cobaltine_core::work::{Capture, Decision, Regime, SlotCode};
use cobaltine_engines::reading::{CAPACITY_ML, MARK_ML};
use cobaltine_engines::technician::library;
use jiff::{SignedDuration, Timestamp};
use uuid::Uuid;

/// A start condition that is left out, or another thing that goes wrong on purpose.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stumble {
    /// This start condition is not ticked.
    Without(StartId),
    /// Rails that came up short are not primed again.
    AsPrimed,
    /// The first one is not measured again.
    NoBracket,
    /// What was written is not read back.
    NoReadBack,
}

/// A person at an exercise.
#[derive(Debug)]
pub struct Learner<'a> {
    case: &'a Case,
    /// The job as it is by now.
    pub file: JobFile,
    /// What goes wrong on purpose.
    pub stumbles: Vec<Stumble>,
    seq: u64,
    by: Uuid,
    began: Timestamp,
}

fn says(why: impl ToString) -> CaseError {
    CaseError::Files(why.to_string())
}

/// A morning of a made-up year.
const MORNING: i64 = 1_937_376_000;

impl<'a> Learner<'a> {
    /// Takes a case up.
    ///
    /// # Errors
    /// What the program refuses, which a test rules out.
    pub fn takes_up(case: &'a Case) -> Result<Self, CaseError> {
        let began = Timestamp::from_second(MORNING).unwrap_or(Timestamp::UNIX_EPOCH);
        Self::comes(case, Uuid::nil(), began, 1)
    }

    /// This person takes a case up, at this time, as the job of this number.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn comes(
        case: &'a Case,
        by: Uuid,
        began: Timestamp,
        number: u64,
    ) -> Result<Self, CaseError> {
        let exercise =
            Exercise { case: case.reference.clone(), guided: false, learner: by, set_by: None };
        let signed = Signed { by, at: began, seq: 1 };
        let id = Uuid::from_u128(u128::from(case.job.seed) << 64);
        let labels: Vec<String> =
            (1..=case.job.engine.seats.len()).map(|n| format!("E{n}")).collect();
        let taken = take_up(id, number, case.intake(), &labels, exercise, signed).map_err(says)?;
        let file = entry::job([taken]).map_err(says)?;
        Ok(Self { case, file, stumbles: Vec::new(), seq: 1, by, began })
    }

    fn stumbles(&self, over: Stumble) -> bool {
        self.stumbles.contains(&over)
    }

    fn id(&mut self) -> Uuid {
        self.seq += 1;
        Uuid::from_u128((u128::from(self.case.job.seed) << 64) + u128::from(self.seq) + 0x1000)
    }

    fn signed(&mut self) -> Signed {
        self.seq += 1;
        // An act takes a few seconds of a made-up morning.
        let gone = SignedDuration::from_secs(self.seq as i64 * 10);
        Signed { by: self.by, at: self.began + gone, seq: self.seq }
    }

    fn does(&mut self, command: Command, signed: Signed) -> Result<(), CaseError> {
        let entries = apply(&self.file, command, signed).map_err(says)?;
        entries.into_iter().try_for_each(|one| self.file.push(one).map_err(says))
    }

    /// Something happens besides readings; its identity.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn happens(&mut self, event: Event) -> Result<Uuid, CaseError> {
        let (id, signed) = (self.id(), self.signed());
        self.does(Command::Happened(EventRecord { id, event, signed }), signed)?;
        Ok(id)
    }

    /// Something that only an exercise has.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn acts(&mut self, act: ExerciseAct) -> Result<(), CaseError> {
        self.happens(Event::Exercise(act)).map(drop)
    }

    /// A check, cell by cell.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn checks(&mut self, check: EngineTest) -> Result<(), CaseError> {
        let (sheet, signed) = (self.id(), self.signed());
        let (limit, instrument) = sheet_with(self.case, check);
        let record = SheetRecord {
            id: sheet,
            check,
            limit,
            instrument,
            overdue: false,
            rules: Vec::new(),
            asks_start: false,
            readings: Vec::new(),
            traces: Vec::new(),
            recordings: Vec::new(),
            raw: Vec::new(),
            signed,
        };
        self.does(Command::BeginSheet(Box::new(record)), signed)?;
        let cells = self.read(sheet, None)?;
        self.keeps(sheet, cells)?;
        if check == EngineTest::PressureDrop {
            self.balances(sheet)?;
        }
        Ok(())
    }

    fn read(
        &self,
        sheet: Uuid,
        one: Option<(&str, Option<u32>)>,
    ) -> Result<Vec<(String, Option<u32>, f64)>, CaseError> {
        let held = self.file.sheets.iter().find(|held| held.id == sheet);
        of_sheet(self.case, &self.file, held.ok_or(CaseError::Unknown)?, one)
    }

    fn keeps(
        &mut self,
        sheet: Uuid,
        cells: Vec<(String, Option<u32>, f64)>,
    ) -> Result<(), CaseError> {
        for (cell, cylinder, value) in cells {
            let held = self.file.sheets.iter().find(|held| held.id == sheet);
            let before = held.and_then(|held| {
                let standing = held.standing();
                let here = standing.iter().find(|r| r.cell == cell && r.cylinder == cylinder);
                here.map(|r| r.id)
            });
            let (id, signed) = (self.id(), self.signed());
            let cell = CellReading {
                id,
                cell,
                cylinder,
                value: Some(value),
                typed: value.to_string(),
                corrects: before,
                shown_by: None,
                signed,
            };
            self.does(Command::KeepCell { sheet, cell }, signed)?;
        }
        Ok(())
    }

    /// Primes again where the rail came up short, and measures the first one again.
    fn balances(&mut self, sheet: Uuid) -> Result<(), CaseError> {
        if !self.stumbles(Stumble::AsPrimed) {
            let starts: Vec<(Option<u32>, f64)> = self
                .file
                .sheets
                .iter()
                .filter(|held| held.id == sheet)
                .flat_map(|held| held.standing())
                .filter(|r| r.cell == "start")
                .filter_map(|r| Some((r.cylinder, r.value?)))
                .collect();
            let most = starts.iter().map(|(_, kpa)| *kpa).fold(0.0, f64::max);
            for (cylinder, _) in starts.into_iter().filter(|(_, kpa)| *kpa < most * 0.97) {
                for cell in ["start", "end"] {
                    let again = self.read(sheet, Some((cell, cylinder)))?;
                    self.keeps(sheet, again)?;
                }
            }
        }
        if !self.stumbles(Stumble::NoBracket) {
            for cell in ["bracket_start", "bracket_end"] {
                let again = self.read(sheet, Some((cell, None)))?;
                self.keeps(sheet, again)?;
            }
        }
        Ok(())
    }

    /// A return test of so many runs.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn returns(&mut self, runs: u32) -> Result<(), CaseError> {
        let bay = Bay::of(self.case, &self.file);
        let setup = TestSetup {
            regime: Regime::IdleOnly,
            temperature_c: Some(Celsius(bay.celsius())),
            speed_rpm: None,
            capacity_ml: Millilitre(CAPACITY_ML),
            graduation_ml: Millilitre(MARK_ML),
            planned_s: Second(120.0),
            rules: HouseRules::default(),
            timer_u_s: None,
            accuracy_pct: 0.0,
            accuracy_digits: 0.0,
            instruments: Vec::new(),
            limit: return_limit(self.case),
            mark_ml: None,
            pump_spare_ml_min: None,
        };
        let (test, signed) = (self.id(), self.signed());
        self.does(Command::SetUpTest { id: test, setup: Box::new(setup) }, signed)?;
        (0..runs).try_for_each(|_| self.runs(test))
    }

    fn runs(&mut self, test: Uuid) -> Result<(), CaseError> {
        let ticked = TestRecord::start(Regime::IdleOnly).iter().copied();
        let ticked = ticked.filter(|start| !self.stumbles(Stumble::Without(*start))).collect();
        let (run, signed) = (self.id(), self.signed());
        let new = NewRun {
            id: run,
            test,
            timer: false,
            phase: None,
            bank: None,
            ticked: Some(ticked),
            caught_by: None,
        };
        self.does(Command::BeginRun(new), signed)?;
        let held = self.file.return_tests.iter().find(|held| held.id == test);
        let held = held.ok_or(CaseError::Unknown)?;
        let begun = held.runs.iter().find(|held| held.id == run).ok_or(CaseError::Unknown)?;
        for (cylinder, kind, value) in of_run(self.case, &self.file, held, begun)? {
            let (id, signed) = (self.id(), self.signed());
            let reading = NewReading {
                id,
                run,
                cylinder,
                kind,
                value: Some(value),
                typed: value.to_string(),
                corrects: None,
                why: None,
                shown_by: None,
            };
            self.does(Command::Read(reading), signed)?;
        }
        Ok(())
    }

    /// All injectors out, looked at and run on the bench.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn benches(&mut self) -> Result<(), CaseError> {
        let (session, round, signed) = (self.id(), self.id(), self.signed());
        let injectors: Vec<Tagged> = self
            .file
            .seats(None)
            .iter()
            .map(|seat| Tagged {
                tag: seat.cylinder,
                injector: seat.injector,
                job: self.file.job.id,
                job_number: self.file.job.number,
                cylinder: seat.cylinder,
                label: seat.label.clone(),
                family: Some(library::FAMILY.to_owned()),
            })
            .collect();
        let places = injectors.iter().map(|t| RailPlace { position: t.tag, tag: t.tag }).collect();
        let mut record = SessionRecord {
            id: session,
            number: 1,
            setup: bench_setup(self.case),
            injectors,
            rounds: vec![Round {
                id: round,
                stage: RoundStage::Received,
                number: 1,
                places,
                signed,
            }],
            cells: Vec::new(),
            signed,
        };
        for one in of_round(self.case, &self.file, &record, round)? {
            let (id, signed) = (self.id(), self.signed());
            record.cells.push(BenchCell {
                id,
                round,
                test: one.test,
                cell: one.cell.to_owned(),
                row: one.row,
                tag: one.tag,
                value: Some(one.value),
                typed: one.value.to_string(),
                samples: None,
                shown_by: None,
                corrects: None,
                signed,
            });
        }
        if let Some(first) = record.problems("session").first() {
            return Err(says(format!("{}: {}", first.field, first.message)));
        }
        self.file.bench.push(record);
        Ok(())
    }

    /// Codes from the control unit and from the bodies.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn reads_codes(&mut self) -> Result<(), CaseError> {
        let slots = slots(stored_codes(self.case));
        self.happens(Event::CodesRead { slots, by_hand: false })?;
        for (at, injector) in self.file.job.injectors.clone().into_iter().enumerate() {
            let (code, how) = (own_code(self.case, at), Capture::Scanned);
            self.happens(Event::CodeCaptured { injector: injector.id, code, how })?;
        }
        Ok(())
    }

    /// Writes to these cylinders the codes of the injectors in them, and reads them back.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn writes_codes(&mut self, cylinders: &[u32]) -> Result<(), CaseError> {
        let all =
            slots((0..self.file.job.injectors.len()).map(|at| own_code(self.case, at)).collect());
        let writes: Vec<SlotCode> =
            all.iter().filter(|one| cylinders.contains(&one.cylinder)).cloned().collect();
        let of = self.happens(Event::WriteBegun { writes })?;
        if self.stumbles(Stumble::NoReadBack) {
            return Ok(());
        }
        self.happens(Event::CodesRead { slots: all, by_hand: false })?;
        let says = "read back".to_owned();
        self.happens(Event::WriteEnded(WriteEnd { of, good: true, says })).map(drop)
    }

    /// Decides for one cylinder.
    ///
    /// # Errors
    /// What the program refuses.
    pub fn decides(&mut self, cylinder: u32, decision: Decision) -> Result<(), CaseError> {
        let (id, signed) = (self.id(), self.signed());
        let reason = "as measured".to_owned();
        let one = DecisionRecord { id, cylinder, decision, reason, proposed: None, signed };
        self.does(Command::Decide(vec![one]), signed)
    }
}

fn slots(codes: Vec<String>) -> Vec<SlotCode> {
    (1..).zip(codes).map(|(cylinder, code)| SlotCode { cylinder, code: Some(code) }).collect()
}
