//! The store against real files, each test in a data folder of its own.

// The helpers of a test may fail as a test does.
#![allow(clippy::unwrap_used)]

mod bench;
mod board;
mod folder;
mod library;
mod measuring;

use cobaltine_core::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};
use cobaltine_core::record::{Intake, Person, Signed, Story};
use cobaltine_core::work::Symptom;
use cobaltine_store::{Store, TakeIn};
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
        store.add_person(&Person { id: by, name: "Maren".to_owned() }).await.unwrap();
        let at: Timestamp = "2031-05-20T08:00:00Z".parse().unwrap();
        Self { store, signed: Signed { by, at }, folder }
    }

    /// A signature so many minutes into the day.
    fn at(&self, minute: i64) -> Signed {
        Signed { at: self.signed.at + SignedDuration::from_mins(minute), ..self.signed }
    }

    /// A job of four cylinders in a row.
    async fn job(&self, family_id: Option<Uuid>) -> Uuid {
        let mut new = winch("Winch");
        new.intake.family_id = family_id;
        self.store.take_in(&new, self.signed).await.unwrap();
        new.id
    }

    /// The database behind the store's back, as nobody should use it.
    async fn raw(&self) -> sqlx::SqlitePool {
        let file = self.folder.path().join("cobaltine.sqlite");
        sqlx::SqlitePool::connect(&format!("sqlite:{}", file.display())).await.unwrap()
    }
}

/// A machine with four cylinders in a row, to be taken in.
fn winch(machine: &str) -> TakeIn {
    TakeIn {
        id: Uuid::now_v7(),
        intake: Intake {
            customer: "Skerry Fishing".to_owned(),
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
