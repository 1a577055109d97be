//! What an instrument shows while a run or a trace is taken ([`cobaltine_core::catching`]), by the clock, and
//! written while the instrument goes on.

mod keeper;

pub(crate) use keeper::{Keep, keeps};

use cobaltine_core::catching::{Catching, Caught};
use cobaltine_core::connection::ShownBy;
use cobaltine_core::trace::Drop;
use std::time::Instant;
use tokio::sync::{mpsc, oneshot};
use uuid::Uuid;

/// What is caught for a run or a check.
#[derive(Debug)]
pub(crate) struct Catch {
    /// The run or the check.
    pub of: Uuid,
    began: Instant,
    catching: Catching,
    keep: mpsc::UnboundedSender<Keep>,
}

impl Catch {
    pub(crate) fn new(
        of: Uuid,
        began: Instant,
        catching: Catching,
        keep: mpsc::UnboundedSender<Keep>,
    ) -> Self {
        Self { of, began, catching, keep }
    }

    fn ms(&self, at: Instant) -> u32 {
        u32::try_from(at.saturating_duration_since(self.began).as_millis()).unwrap_or(u32::MAX)
    }

    /// A trace that takes no more points.
    pub(crate) fn is_full(&self) -> bool {
        self.catching.is_trace() && self.catching.is_over()
    }

    /// Nobody but a person ends it.
    pub(crate) fn is_trace(&self) -> bool {
        self.catching.is_trace()
    }

    fn keeps(&self, caught: impl IntoIterator<Item = Caught>) {
        for one in caught {
            // Its keeper lives as long as this does.
            let _ = self.keep.send(Keep::Caught(one));
        }
    }

    /// The instrument shows nothing that can be read, and why.
    pub(crate) fn is_silent(&mut self, why: &str) {
        self.catching.is_silent(why);
    }

    /// Takes in a point that was asked for at this time; what is found in a trace so far, when it was looked
    /// for again.
    pub(crate) fn shows(
        &mut self,
        by: &ShownBy,
        values: &[f64],
        asked: Instant,
    ) -> Option<Vec<Drop>> {
        let caught = self.catching.takes(self.ms(asked), by, values);
        self.keeps(caught);
        self.catching.drops()
    }

    /// Ends the run, and waits until that is kept.
    pub(crate) async fn end(mut self) {
        let ended = self.catching.end(self.ms(Instant::now()));
        self.keeps(ended);
        self.kept().await;
    }

    /// Ends without reading anything: somebody read it by hand, or it does not count.
    pub(crate) async fn leave(mut self) {
        let left = self.catching.leave();
        self.keeps(left);
        self.kept().await;
    }

    /// Ends a trace: everything that was taken.
    pub(crate) async fn into_trace(mut self) -> Vec<[f64; 2]> {
        let left = self.catching.leave();
        self.keeps(left);
        self.kept().await;
        std::mem::replace(&mut self.catching, Catching::trace()).into_trace()
    }

    async fn kept(&self) {
        let (told, kept) = oneshot::channel();
        let _ = self.keep.send(Keep::Until(told));
        let _ = kept.await;
    }
}

impl std::ops::Drop for Catch {
    /// What nobody ended, as its connection was changed, is kept as far as it came.
    fn drop(&mut self) {
        let left = self.catching.leave();
        self.keeps(left);
    }
}
