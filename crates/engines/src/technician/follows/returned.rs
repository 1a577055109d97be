//! The return test as it is put into the job: another set up at first, then run after run.

use super::Desk;
use crate::reading::RunLevel;
use cobaltine_core::job::{Command, NewReading, NewRun};
use cobaltine_core::library::Limit;
use cobaltine_core::quantity::{Celsius, Millilitre, Second};
use cobaltine_core::record::{ReadingKind, TestSetup};
use cobaltine_core::start::StartId;
use cobaltine_core::tests::bench::RoundStage;
use cobaltine_core::tests::engine::return_test::HouseRules;
use cobaltine_core::work::{Regime, Symptom};
use uuid::Uuid;

impl Desk<'_> {
    /// Another set up at first, and after injectors changed places or were cleaned; then run after run.
    pub(super) fn return_test(&mut self) -> Result<bool, String> {
        let cranking = self.file.job.intake.symptoms.contains(&Symptom::NoStart);
        let nth = self.nth("return_test");
        let seconds = if cranking { 15.0 } else { 120.0 };
        let moved = self.file.events.iter().filter(|e| e.event.moves()).map(|e| e.signed.seq);
        let rounds = self.file.bench.iter().flat_map(|session| &session.rounds);
        let cleaned = rounds.filter(|round| round.stage == RoundStage::Cleaned);
        let changed = moved.chain(cleaned.map(|round| round.signed.seq)).max();
        let stands = self
            .file
            .return_tests
            .last()
            .filter(|test| changed.is_none_or(|seq| test.signed.seq > seq));
        let test = match stands.map(|test| test.id) {
            Some(test) => test,
            None => {
                let (id, signed) = (self.id(), self.signed());
                let limit = self.job.return_limit.filter(|_| !cranking).map(|upper| Limit {
                    upper_ml_min: upper,
                    from_c: Some(65.0),
                    to_c: Some(95.0),
                    source: "made-up library".to_owned(),
                    revision: 1,
                });
                let setup = TestSetup {
                    regime: if cranking { Regime::Cranking } else { Regime::IdleOnly },
                    temperature_c: Some(Celsius(self.engine.warm_c.round())),
                    speed_rpm: None,
                    capacity_ml: Millilitre(crate::reading::CAPACITY_ML),
                    graduation_ml: Millilitre(crate::reading::MARK_ML),
                    planned_s: Second(seconds),
                    rules: HouseRules::default(),
                    timer_u_s: None,
                    accuracy_pct: 0.0,
                    accuracy_digits: 0.0,
                    instruments: Vec::new(),
                    limit,
                    mark_ml: None,
                    pump_spare_ml_min: None,
                };
                self.does(Command::SetUpTest { id, setup: Box::new(setup) }, signed)?;
                id
            }
        };
        // One run to look; the repeat brings the other two that money needs.
        let runs = if nth == 0 { 1 } else { 2 };
        for run in 0..runs {
            self.run(test, nth * 2 + run, seconds, cranking)?;
        }
        self.took(if nth == 0 { 25.0 } else { 12.0 }, "return_test");
        Ok(true)
    }

    fn run(&mut self, test: Uuid, nth: u64, seconds: f64, cranking: bool) -> Result<(), String> {
        let read = self.hand().returned(nth, seconds, cranking);
        let (run, signed) = (self.id(), self.signed());
        let ticked = Some(vec![
            StartId::Warm,
            StartId::AccessoriesOff,
            StartId::Parked,
            StartId::ExtractionOn,
            StartId::RailBlanked,
            StartId::HosesPurged,
        ]);
        let new = NewRun {
            id: run,
            test,
            timer: false,
            phase: None,
            bank: None,
            ticked,
            caught_by: None,
        };
        self.does(Command::BeginRun(new), signed)?;
        let mut readings = vec![(None, ReadingKind::RunTime, read.seconds)];
        for (at, level) in read.levels.iter().enumerate() {
            let cylinder = Some(at as u32 + 1);
            readings.push(match level {
                RunLevel::Level(ml) => (cylinder, ReadingKind::Level, *ml),
                RunLevel::FullAfter(s) => (cylinder, ReadingKind::Overflow, s.min(read.seconds)),
            });
        }
        for (cylinder, kind, value) in readings {
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
}
