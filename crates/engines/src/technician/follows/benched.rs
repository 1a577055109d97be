//! The bench as it is put into the job: a session with everything that was read.

use super::super::library::{FAMILY, family_of, points};
use super::Desk;
use crate::reading::BenchRead;
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::tests::bench::{
    BenchCell, BenchKind, BenchSetup, BenchTest, Entry as TubeEntry, RailPlace, Round, RoundStage,
    SessionRecord, Tagged,
};
use uuid::Uuid;

/// What a cleaning takes away of the dirt.
const CLEANS: f64 = 0.9;

impl Desk<'_> {
    fn cells(&mut self, round: Uuid, read: Vec<BenchRead>) -> Vec<BenchCell> {
        let mut cells = Vec::with_capacity(read.len());
        for one in read {
            let (id, signed) = (self.id(), self.signed());
            cells.push(BenchCell {
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
        cells
    }

    /// Those that are to be cleaned are, and everything is run again as it was before.
    pub(super) fn clean(&mut self, those: &[usize]) -> Result<(), String> {
        if self.file.bench.is_empty() {
            self.bench()?;
        }
        for at in those {
            self.engine.injectors[*at] = self.engine.injectors[*at].cleaned(CLEANS);
        }
        let nth = self.nth("bench");
        let read = self.hand().on_bench(nth);
        let (round, signed) = (self.id(), self.signed());
        let left_out = (0..self.engine.seats.len()).map(|cylinder| BenchRead {
            test: BenchTest::Cleaning,
            cell: "left_out",
            row: None,
            tag: Some(cylinder as u32 + 1),
            value: f64::from(!those.contains(&self.engine.seats[cylinder])),
        });
        let left_out: Vec<BenchRead> = left_out.collect();
        let fits = |one: &BenchRead, kind: BenchKind| one.test.fits(kind);
        let kind = self.file.bench.last().map_or(BenchKind::Petrol, |session| session.setup.kind);
        let all: Vec<BenchRead> =
            read.into_iter().chain(left_out).filter(|one| fits(one, kind)).collect();
        let cells = self.cells(round, all);
        let Some(session) = self.file.bench.last_mut() else { return Ok(()) };
        let places = session.rounds.last().map(|held| held.places.clone()).unwrap_or_default();
        let number = 1;
        session.rounds.push(Round {
            id: round,
            stage: RoundStage::Cleaned,
            number,
            places,
            signed,
        });
        session.cells.extend(cells);
        let problems = session.problems("session");
        if let Some(first) = problems.first() {
            return Err(format!("{}: {}", first.field, first.message));
        }
        self.took(60.0 + 45.0, "cleaned");
        Ok(())
    }

    /// All out, looked at and run.
    pub(super) fn bench(&mut self) -> Result<bool, String> {
        let nth = self.nth("bench");
        let read = self.hand().on_bench(nth);
        let (session, round) = (self.id(), self.id());
        let (signed, begun) = (self.signed(), self.signed());
        let kind = match self.engine.fuel {
            FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => BenchKind::Diesel,
            FuelSystem::PetrolPort | FuelSystem::PetrolDirect => BenchKind::Petrol,
            FuelSystem::ExhaustDoser => BenchKind::Doser,
        };
        let seats = self.file.seats(None);
        let injectors: Vec<Tagged> = seats
            .iter()
            .map(|seat| Tagged {
                tag: seat.cylinder,
                injector: seat.injector,
                job: self.file.job.id,
                job_number: self.file.job.number,
                cylinder: seat.cylinder,
                label: seat.label.clone(),
                family: self.job.in_library.then(|| FAMILY.to_owned()),
            })
            .collect();
        let places = injectors.iter().map(|t| RailPlace { position: t.tag, tag: t.tag }).collect();
        let setup = BenchSetup {
            kind,
            bench: None,
            overdue: false,
            graduation: if kind == BenchKind::Doser { 2.0 } else { 0.2 },
            capacity_ml: 500.0,
            entry: TubeEntry::Volume,
            points: points(kind),
            families: if self.job.in_library { vec![family_of(self.job)] } else { Vec::new() },
            rules: Vec::new(),
        };
        let stage = RoundStage::Received;
        let mut record = SessionRecord {
            id: session,
            number: self.job.number(),
            setup,
            injectors,
            rounds: vec![Round { id: round, stage, number: 1, places, signed: begun }],
            cells: Vec::new(),
            signed,
        };
        let cells = self.cells(round, read);
        record.cells.extend(cells);
        let problems = record.problems("session");
        if let Some(first) = problems.first() {
            return Err(format!("{}: {}", first.field, first.message));
        }
        self.file.bench.push(record);
        self.took(45.0 + 45.0, "bench");
        Ok(true)
    }
}
