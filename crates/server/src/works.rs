//! Work that goes on in the background: begun, looked at, stopped. A few are held in memory; the oldest
//! that is over makes room for the next.

use std::collections::VecDeque;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use uuid::Uuid;

/// Held altogether.
const HELD: usize = 16;

/// How far a piece of work is.
pub(crate) trait Stage: Send {
    /// It is not over.
    fn is_running(&self) -> bool;
    /// Ends it as soon as it can.
    fn stop(&self);
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
