//! How far an import or an export is, and whether whoever held it stopped it.

use std::sync::atomic::{AtomicU8, AtomicU64, Ordering};

const LOOKING: u8 = 0;
const STOPPED: u8 = 1;
pub(super) const SWITCHING: u8 = 2;

/// How far an import or an export is; whoever holds it can stop it as long as nothing is switched in.
#[derive(Debug, Default)]
pub struct Watch {
    step: AtomicU8,
    done: AtomicU64,
    of: AtomicU64,
}

impl Watch {
    /// Stops it; no when it is being switched in already.
    pub fn stop(&self) -> bool {
        self.becomes(STOPPED)
    }

    /// It is being switched in.
    pub fn is_switching(&self) -> bool {
        self.step.load(Ordering::Acquire) == SWITCHING
    }

    /// What is done of the step that it is at, and of how much.
    pub fn progress(&self) -> (u64, u64) {
        (self.done.load(Ordering::Relaxed), self.of.load(Ordering::Relaxed))
    }

    /// Whoever held it stopped it.
    pub fn is_stopped(&self) -> bool {
        self.step.load(Ordering::Acquire) == STOPPED
    }

    pub(super) fn becomes(&self, step: u8) -> bool {
        let now = self.step.compare_exchange(LOOKING, step, Ordering::AcqRel, Ordering::Acquire);
        now.is_ok() || now == Err(step)
    }

    /// Tells how far it is.
    pub fn at(&self, done: u64, of: u64) {
        self.done.store(done, Ordering::Relaxed);
        self.of.store(of, Ordering::Relaxed);
    }
}
