//! The store against real files, each test in a data folder of its own.

// The helpers of a test may fail as a test does.
#![allow(clippy::unwrap_used)]

mod accounts;
mod bench;
mod board;
mod faults;
mod folder;
mod library;
mod measuring;

use cobaltine_core::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};
use cobaltine_core::job::{BenchCommand, Command};
use cobaltine_core::record::{CellReading, Intake, JobFile, Person, SheetRecord, Signed, Story};
use cobaltine_core::tests::bench::{BenchCell, Round, SessionRecord, Shim};
use cobaltine_core::work::Symptom;
use cobaltine_store::{Act, Store, StoreError, TakeIn};
use jiff::{SignedDuration, Timestamp};
use tempfile::TempDir;
use uuid::Uuid;

/// A store in a folder of its own, with someone to sign.
struct Shop {
    store: Store,
    signed: Signed,
    folder: TempDir,
}

impl Shop {
    async fn open() -> Self {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(folder.path()).await.unwrap();
        let by = Uuid::now_v7();
        let at: Timestamp = "2031-05-20T08:00:00Z".parse().unwrap();
        let maren = Person::new(by, "Maren");
        store.add_person(&Act::own(), &maren, at).await.unwrap();
        Self { store, signed: Signed::new(by, at), folder }
    }

    /// A signature so many minutes into the day.
    fn at(&self, minute: i64) -> Signed {
        Signed { at: self.signed.at + SignedDuration::from_mins(minute), ..self.signed }
    }

    /// A job of four cylinders in a row.
    async fn job(&self, family_id: Option<Uuid>) -> Uuid {
        let mut new = winch("Winch");
        new.intake.family_id = family_id;
        self.take_in(&new, self.signed).await.unwrap();
        new.id
    }

    /// Takes in under the id of the job, as a page does.
    async fn take_in(&self, new: &TakeIn, signed: Signed) -> Result<JobFile, StoreError> {
        let kept = self.store.take_in(&named(new.id, new), new, signed).await?;
        self.store.job(kept.job).await
    }

    /// Does something to a job, once.
    async fn does(&self, job: Uuid, command: Command) -> Result<JobFile, StoreError> {
        let kept = self.store.apply(job, &Act::own(), command, self.signed).await?;
        self.store.job(kept.job).await
    }

    /// Reads a cell under its own id, as a page does.
    async fn keep_cell(&self, sheet: Uuid, cell: &CellReading) -> Result<JobFile, StoreError> {
        let job = self.store.job_with(sheet, "check").await?;
        let command = Command::KeepCell { sheet, cell: cell.clone() };
        let kept = self.store.apply(job, &named(cell.id, cell), command, cell.signed).await?;
        self.store.job(kept.job).await
    }

    async fn begin_sheet(&self, job: Uuid, sheet: &SheetRecord) -> Result<JobFile, StoreError> {
        let command = Command::BeginSheet(Box::new(sheet.clone()));
        let kept = self.store.apply(job, &named(sheet.id, sheet), command, sheet.signed).await?;
        self.store.job(kept.job).await
    }

    async fn begin_session(
        &self,
        session: &SessionRecord,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        self.store.begin_session(&named(session.id, &session.id), session).await
    }

    async fn begin_round(
        &self,
        session: Uuid,
        round: &Round,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let command = BenchCommand::BeginRound(round.clone());
        self.store.apply_bench(session, &named(round.id, round), command, round.signed).await
    }

    async fn keep_tube(
        &self,
        session: Uuid,
        cell: &BenchCell,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let command = BenchCommand::KeepTube(cell.clone());
        self.store.apply_bench(session, &named(cell.id, cell), command, cell.signed).await
    }

    /// The database behind the store's back, as nobody should use it.
    async fn raw(&self) -> sqlx::SqlitePool {
        let file = self.folder.path().join("cobaltine.sqlite");
        sqlx::SqlitePool::connect(&format!("sqlite:{}", file.display())).await.unwrap()
    }
}

/// The act under this id that asks for this.
fn named(id: Uuid, asked: &impl std::fmt::Debug) -> Act {
    Act::new(id, format!("{asked:?}").as_bytes())
}

/// A machine with four cylinders in a row, to be taken in.
fn winch(machine: &str) -> TakeIn {
    TakeIn {
        exercise: None,
        id: Uuid::now_v7(),
        intake: Intake {
            customer: "Skerry Fishing".to_owned(),
            customer_id: None,
            plate: String::new(),
            promised: None,
            machine: machine.to_owned(),
            usage: String::new(),
            engine: "T4".to_owned(),
            fuel_system: FuelSystem::DieselSolenoid,
            layout: Layout {
                cylinders: 4,
                banks: 1,
                first_at: EngineEnd::Pulley,
                numbering: BankNumbering::BankByBank,
            },
            family_id: None,
            symptoms: vec![Symptom::RoughIdle],
            complaint: String::new(),
            story: Story::default(),
        },
        labels: vec!["A".to_owned()],
    }
}
