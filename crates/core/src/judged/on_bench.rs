//! What the bench says of the injectors of one job: a session may hold those of several.

use crate::mark::Mark;
use crate::record::JobFile;
use crate::tests::bench::{BenchJudged, SessionRecord};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// The newest bench session, as far as it is about one job.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OnBench {
    /// The session.
    pub session: Uuid,
    /// The test that speaks, and what it says.
    pub headline: String,
    /// By cylinder, those that hung there.
    pub lanes: Vec<BenchCylinder>,
    /// Nothing was read on the engine after it.
    pub newest: bool,
}

/// The injector of one cylinder on the bench.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct BenchCylinder {
    /// Cylinder that it came out of.
    pub cylinder: u32,
    /// As the strip draws it.
    pub mark: Mark,
    /// The word under the mark.
    pub word: String,
    /// One sentence.
    pub sentence: String,
}

impl JobFile {
    /// What the newest bench session in which something was read says of this job.
    pub fn on_bench(&self) -> Option<OnBench> {
        let benches: Vec<BenchJudged> = self.bench.iter().map(|s| s.judged(&[])).collect();
        self.newest_bench(&benches)
    }

    /// The same from sessions that were judged already, in the order of the file.
    pub(super) fn newest_bench(&self, benches: &[BenchJudged]) -> Option<OnBench> {
        let last = |s: &SessionRecord| s.cells.last().map(|cell| cell.signed.moment());
        let (session, judged) = self.bench.iter().zip(benches).max_by_key(|(s, _)| last(s))?;
        let read = session.cells.last()?.signed.moment();
        let returned = self.return_tests.iter().flat_map(|t| &t.runs).flat_map(|r| &r.readings);
        let cells = self.sheets.iter().flat_map(|s| &s.readings).map(|r| r.signed.moment());
        let newest = !returned.map(|r| r.signed.moment()).chain(cells).any(|at| at > read);
        let (test, verdict) = judged.speaks()?;
        let seats = self.seats(None);
        let lanes = session.injectors.iter().filter(|one| self.is_ours(one)).filter_map(|one| {
            let lane = verdict.lanes.iter().find(|lane| lane.place == one.tag)?;
            let sits = || seats.iter().find(|seat| seat.injector == one.injector);
            let own = one.job == self.job.id;
            Some(BenchCylinder {
                cylinder: if own { one.cylinder } else { sits()?.cylinder },
                mark: lane.mark,
                word: lane.word.clone(),
                sentence: lane.sentence.clone(),
            })
        });
        Some(OnBench {
            session: session.id,
            headline: format!("Bench, {}: {}", test.title().to_lowercase(), verdict.headline),
            lanes: lanes.collect(),
            newest,
        })
    }
}
