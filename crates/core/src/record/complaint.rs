//! What became of the complaint, as told after work: gone, better, or the same.
//!
//! A road test under the conditions of the complaint answers it as well: passed, it is gone; failed, it is as
//! it was.
//!
//! # Source
//! House rule: after a repair the complaint is asked again before anything is left.

use super::{Event, JobFile, Moment};
use crate::work::{ComplaintNow, ProveId, Told};

impl JobFile {
    /// What was said of the complaint last since the job came back, and when.
    pub(crate) fn complaint_told(&self) -> Option<(Moment, ComplaintNow)> {
        let back = self.came_back_at();
        let fresh = |at: &Moment| back.is_none_or(|back| *at > back);
        let told = self
            .happened()
            .filter_map(|record| Some((record.signed.moment(), complaint_in(&record.event)?)));
        told.last().filter(|(at, _)| fresh(at))
    }

    /// When it was told last that the complaint is still there; none where it is gone or nobody was asked.
    pub(crate) fn complaint_left(&self) -> Option<(Moment, ComplaintNow)> {
        self.complaint_told().filter(|(_, answer)| *answer != ComplaintNow::Gone)
    }
}

/// What an event says of the complaint.
fn complaint_in(event: &Event) -> Option<ComplaintNow> {
    if let Event::ComplaintAsked { answer } = event {
        return Some(*answer);
    }
    let Event::Proved { item: ProveId::RoadTest, told, .. } = event else { return None };
    match told {
        Told::Good => Some(ComplaintNow::Gone),
        Told::Failed => Some(ComplaintNow::Same),
        Told::LeftOut => None,
    }
}
