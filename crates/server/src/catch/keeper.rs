//! Writes what was caught, in order, while the instrument goes on.

use crate::AppState;
use crate::extract::now;
use cobaltine_core::catching::Caught;
use cobaltine_core::connection::ShownBy;
use cobaltine_core::instrument_link::Quantity;
use cobaltine_core::job::{Command, NewReading};
use cobaltine_core::record::{ReadingKind, Signed};
use cobaltine_store::{Act, StoreError};
use std::time::Duration;
use tokio::sync::{mpsc, oneshot};
use tokio::time::sleep;
use uuid::Uuid;

/// While nothing can be written it is tried again so often, for ten minutes.
const AGAIN: Duration = Duration::from_secs(1);
const TIMES: u32 = 600;

/// What is to be kept, in order.
#[derive(Debug)]
pub(crate) enum Keep {
    /// This.
    Caught(Caught),
    /// Everything before this: then say so.
    Until(oneshot::Sender<()>),
}

/// Keeps what comes in for a run or a check of a job, signed by whoever began it.
pub(crate) fn keeps(state: AppState, job: Uuid, of: Uuid, by: Uuid) -> mpsc::UnboundedSender<Keep> {
    // A run has an end, so it has a bound: an hour of twelve channels is a few megabytes.
    let (keep, mut came) = mpsc::unbounded_channel();
    let keeper = Keeper { state, job, of, by };
    tokio::spawn(async move {
        while let Some(one) = came.recv().await {
            match one {
                Keep::Caught(one) => keeper.keep(one).await,
                // Who asked may have gone.
                Keep::Until(told) => drop(told.send(())),
            }
        }
    });
    keep
}

struct Keeper {
    state: AppState,
    job: Uuid,
    of: Uuid,
    by: Uuid,
}

impl Keeper {
    async fn keep(&self, one: Caught) {
        match one {
            Caught::Stretch(stretch) => {
                let stretch = stretch.kept(Uuid::now_v7(), Signed::new(self.by, now()));
                self.apply(Command::KeepRaw { of: self.of, stretch }).await;
            }
            Caught::Reached { cylinder, kind, seconds, by } => {
                self.read(Some(cylinder), kind, seconds, String::new(), Some(by)).await;
            }
            Caught::Over { seconds, levels, by } => {
                self.read(None, ReadingKind::RunTime, seconds, String::new(), None).await;
                for (cylinder, level) in levels {
                    let typed = Quantity::Volume.typed(level);
                    self.read(Some(cylinder), ReadingKind::Level, level, typed, by.clone()).await;
                }
                if let Some(stream) = self.state.streams.catching(self.of) {
                    drop(stream.caught(self.of));
                }
            }
        }
    }

    async fn read(
        &self,
        cylinder: Option<u32>,
        kind: ReadingKind,
        value: f64,
        typed: String,
        shown_by: Option<ShownBy>,
    ) {
        let id = Uuid::now_v7();
        let new = NewReading {
            id,
            run: self.of,
            cylinder,
            kind,
            value: Some(value),
            typed,
            corrects: None,
            why: None,
            shown_by,
        };
        self.apply(Command::Read(new)).await;
    }

    /// Writes it; tried again while the disk or another writer is in the way. What the rules refuse is
    /// left for a person to read.
    async fn apply(&self, command: Command) {
        let act = Act::own();
        for _ in 0..TIMES {
            let signed = Signed::new(self.by, now());
            match self.state.store.apply(self.job, &act, command.clone(), signed).await {
                Ok(_) => return,
                Err(error) if error.is_fault() || matches!(error, StoreError::Busy) => {
                    tracing::warn!(%error, "what an instrument showed waits to be written");
                    sleep(AGAIN).await;
                }
                Err(error) => {
                    tracing::info!(%error, "not kept of an instrument");
                    return;
                }
            }
        }
        tracing::error!("what an instrument showed could not be written");
    }
}
