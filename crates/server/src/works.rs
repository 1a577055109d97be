//! Work that goes on in the background: begun, looked at, stopped. A few are held in memory; the oldest
//! that is over makes room for the next.

use crate::{ApiError, words};
use cobaltine_store::StoreError;
use std::collections::VecDeque;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;
use tokio::task::JoinHandle;
use uuid::Uuid;

/// Held altogether.
const HELD: usize = 16;

/// How far a piece of work is.
pub(crate) trait Stage: Send + 'static {
    /// What such work is called.
    const NAME: &'static str;
    /// It is not over.
    fn is_running(&self) -> bool;
    /// Ends it as soon as it can.
    fn stop(&self);
    /// It is over, as it could not be done.
    fn fails(&mut self, problem: &str);
}

/// One piece of work.
#[derive(Debug)]
pub(crate) struct Work<S> {
    pub id: Uuid,
    stage: Mutex<S>,
}

impl<S: Stage> Work<S> {
    /// How far it is.
    pub fn stage(&self) -> MutexGuard<'_, S> {
        hold(&self.stage)
    }

    /// Goes on with it in the background. Who asked for it waits a moment: what is small is over by then.
    pub async fn goes_on(self: &Arc<Self>, task: JoinHandle<()>, moment: Duration) {
        let work = Arc::clone(self);
        let watched = tokio::spawn(async move {
            if let Err(error) = task.await {
                tracing::error!(%error, "work in the background failed");
                work.stage().fails(words::COBALTINE_MADE_MISTAKE_SEE);
            }
        });
        let _ = tokio::time::timeout(moment, watched).await;
    }
}

/// Every piece of work of one kind.
#[derive(Debug)]
pub(crate) struct Works<S>(Arc<Mutex<VecDeque<Arc<Work<S>>>>>);

impl<S> Default for Works<S> {
    fn default() -> Self {
        Self(Arc::default())
    }
}

impl<S> Clone for Works<S> {
    fn clone(&self) -> Self {
        Self(Arc::clone(&self.0))
    }
}

/// A lock that a panic left behind still holds what was written last.
fn hold<T>(lock: &Mutex<T>) -> MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}

impl<S: Stage> Works<S> {
    pub fn find(&self, id: Uuid) -> Option<Arc<Work<S>>> {
        hold(&self.0).iter().find(|work| work.id == id).cloned()
    }

    /// The one that is held under this id.
    pub fn named(&self, id: Uuid) -> Result<Arc<Work<S>>, ApiError> {
        Ok(self.find(id).ok_or(StoreError::NotFound(S::NAME))?)
    }

    /// All that are held, newest first.
    pub fn all(&self) -> Vec<Arc<Work<S>>> {
        hold(&self.0).iter().rev().cloned().collect()
    }

    /// A place for new work; none while so many are running.
    pub fn add(&self, id: Uuid, most: usize, first: S) -> Option<Arc<Work<S>>> {
        let mut held = hold(&self.0);
        if held.iter().filter(|work| work.stage().is_running()).count() >= most {
            return None;
        }
        while held.len() >= HELD {
            let Some(over) = held.iter().position(|work| !work.stage().is_running()) else { break };
            held.remove(over);
        }
        let work = Arc::new(Work { id, stage: Mutex::new(first) });
        held.push_back(Arc::clone(&work));
        Some(work)
    }

    /// Stops everything: the program ends.
    pub fn stop_all(&self) {
        hold(&self.0).iter().for_each(|work| work.stage().stop());
    }
}
