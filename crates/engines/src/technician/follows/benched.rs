//! The bench as it is put into the job: a session with everything that was read.

use super::super::library::{FAMILY, family, points};
use super::Desk;
use crate::reading::Hand;
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::tests::bench::{
    BenchCell, BenchKind, BenchSetup, Entry as TubeEntry, RailPlace, Round, RoundStage,
    SessionRecord, Tagged,
};

impl Desk<'_> {
    /// All out, looked at and run.
    pub(super) fn bench(&mut self) -> Result<bool, String> {
        let nth = self.nth("bench");
        let read = Hand::new(&self.engine, self.person, self.job.seed).on_bench(nth);
        let (session, round, signed) = (self.id(), self.id(), self.signed());
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
            families: if self.job.in_library { vec![family(self.engine.fuel)] } else { Vec::new() },
            rules: Vec::new(),
        };
        let stage = RoundStage::Received;
        let mut record = SessionRecord {
            id: session,
            number: self.job.seed,
            setup,
            injectors,
            rounds: vec![Round { id: round, stage, number: 1, places, signed }],
            cells: Vec::new(),
            signed,
        };
        for one in read {
            let signed = self.signed();
            record.cells.push(BenchCell {
                id: self.id(),
                round,
                test: one.test,
                cell: one.cell.to_owned(),
                row: one.row,
                tag: one.tag,
                value: Some(one.value),
                typed: one.value.to_string(),
                samples: None,
                corrects: None,
                signed,
            });
        }
        let problems = record.problems("session");
        if let Some(first) = problems.first() {
            return Err(format!("{}: {}", first.field, first.message));
        }
        self.file.bench.push(record);
        self.took(45.0 + 45.0, "bench");
        Ok(true)
    }
}
