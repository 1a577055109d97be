//! Writing codes as work in the background: written one by one, then read back and compared.
//!
//! What is to be written is on record before the first line is said, and what was read back after the
//! last: whatever stops in between leaves a job that says which slots are not known.

use crate::AppState;
use crate::unit::{Talk, UnitError};
use crate::wire::WritingView;
use crate::words;
use cobaltine_core::codes::{SlotCode, compared};
use cobaltine_core::job::Command;
use cobaltine_core::record::{Event, EventRecord, JobFile, Signed, WriteEnd};
use cobaltine_store::Act;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;
use uuid::Uuid;

/// How often a writing is looked at, and how long one code may take.
const LOOK: Duration = Duration::from_millis(100);
const LONGEST: Duration = Duration::from_secs(60);
/// How often a talk that broke off is taken up again to read what is stored.
const AGAIN: u32 = 4;
const PAUSE: Duration = Duration::from_millis(300);

/// Writings of this program, the newest of each job.
#[derive(Debug, Clone, Default)]
pub struct Writings(Arc<Mutex<HashMap<Uuid, Writing>>>);

/// A writing, with the act that began it.
#[derive(Debug)]
struct Writing {
    by: Uuid,
    view: WritingView,
}

impl Writings {
    fn held(&self) -> MutexGuard<'_, HashMap<Uuid, Writing>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// The newest of a job.
    pub(crate) fn of(&self, job: Uuid) -> Option<WritingView> {
        self.held().get(&job).map(|one| one.view.clone())
    }

    /// Takes the place for a new one. While one is running it says by which act that was begun: asked
    /// again before its first answer, it may be the same.
    pub(crate) fn begin(&self, job: Uuid, by: Uuid, view: WritingView) -> Result<Place, Uuid> {
        let mut held = self.held();
        if let Some(one) = held.get(&job).filter(|one| one.view.running) {
            return Err(one.by);
        }
        held.retain(|_, one| one.view.running);
        held.insert(job, Writing { by, view });
        Ok(Place { of: self.clone(), job, kept: false })
    }

    fn change(&self, job: Uuid, change: impl FnOnce(&mut WritingView)) {
        if let Some(one) = self.held().get_mut(&job) {
            change(&mut one.view);
        }
    }
}

/// The place of a writing that is not on record yet: given back when nothing was begun, or nobody waits
/// for the answer any more.
#[derive(Debug)]
pub(crate) struct Place {
    of: Writings,
    job: Uuid,
    kept: bool,
}

impl Place {
    /// It is on record, and goes on by itself.
    pub(crate) fn keep(mut self) {
        self.kept = true;
    }
}

impl Drop for Place {
    fn drop(&mut self) {
        if !self.kept {
            self.of.held().remove(&self.job);
        }
    }
}

/// What is written, where, and by whom.
#[derive(Debug, Clone)]
pub(crate) struct Order {
    pub job: Uuid,
    /// The job as it was when it began.
    pub file: JobFile,
    /// The event that began it.
    pub begun: Uuid,
    pub writes: Vec<SlotCode>,
    pub before: Vec<SlotCode>,
    pub signed: Signed,
}

/// Writes, reads back, compares, and puts the end on record.
pub(crate) async fn work(state: AppState, order: Order, talk: Talk) {
    let stopped = write_all(&state, &order, talk).await.err();
    let mut read = Err(UnitError::Silent);
    let (mut tries, began) = (0, tokio::time::Instant::now());
    while tries < AGAIN {
        read = read_back(&state, &order).await;
        match &read {
            Ok(_) => break,
            // It goes on with the code that it had begun: what is there then is what counts.
            Err(UnitError::Writing(_)) if began.elapsed() < LONGEST => {}
            Err(_) => tries += 1,
        }
        tokio::time::sleep(PAUSE).await;
    }
    let (good, says) = match (read, stopped) {
        (Ok(after), stopped) => {
            let out = compared(&order.before, &order.writes, &after);
            let kept =
                record(&state, &order, Event::CodesRead { slots: after, by_hand: false }).await;
            let why = stopped.map(|why| format!("{why} ")).unwrap_or_default();
            match kept {
                Ok(()) => (out.good, format!("{}{}", if out.good { "" } else { &why }, out.says)),
                Err(says) => (false, says),
            }
        }
        (Err(error), _) => (false, format!("{error}")),
    };
    let end = WriteEnd { of: order.begun, good, says: says.clone() };
    if let Err(lost) = record(&state, &order, Event::WriteEnded(end)).await {
        tracing::error!(%lost, "the end of a writing was not kept");
    }
    state.writings.change(order.job, |view| {
        view.running = false;
        view.good = good;
        view.says = says;
    });
}

async fn record(state: &AppState, order: &Order, event: Event) -> Result<(), String> {
    let signed = Signed::new(order.signed.by, crate::extract::now());
    let record = EventRecord { id: Uuid::now_v7(), event, signed };
    let command = Command::Happened(record);
    let kept = state.store.apply(order.job, &Act::own(), command, signed).await;
    kept.map(drop).map_err(|error| words::codes_read_back_could(&error))
}

async fn write_all(state: &AppState, order: &Order, mut talk: Talk) -> Result<(), UnitError> {
    for (done, one) in order.writes.iter().enumerate() {
        state.writings.change(order.job, |view| {
            (view.done, view.percent, view.cylinder) = (done, 0, Some(one.cylinder));
        });
        // What was empty before is put back by leaving it: nothing is written over it.
        let Some(code) = one.code.clone() else { continue };
        talk.write(one.cylinder, code).await?;
        let begun = tokio::time::Instant::now();
        loop {
            tokio::time::sleep(LOOK).await;
            let percent = talk.progress().await?;
            state.writings.change(order.job, |view| view.percent = percent);
            if percent >= 100 {
                break;
            }
            if begun.elapsed() > LONGEST {
                return Err(UnitError::Broke);
            }
        }
    }
    state.writings.change(order.job, |view| view.done = order.writes.len());
    Ok(())
}

async fn read_back(state: &AppState, order: &Order) -> Result<Vec<SlotCode>, UnitError> {
    let mut talk = Talk::open(state, &order.file).await?;
    talk.codes().await
}
