//! Codes that the bench made or captured, for the injectors of this job.

use crate::mark::Mark;
use crate::record::JobFile;
use crate::tests::bench::BenchTest;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// One code.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct BenchCode {
    /// The injector.
    pub injector: Uuid,
    /// Its code.
    pub code: String,
}

/// The newest sound code of each injector, by the cylinder that it came in.
pub fn from_bench(file: &JobFile) -> Vec<BenchCode> {
    let mut found: Vec<BenchCode> = Vec::new();
    for session in file.bench.iter().rev() {
        let judged = session.judged(&[]);
        let coded = judged.verdicts.iter().rev().filter(|one| one.test == BenchTest::TrimCode);
        for lane in coded.filter_map(|one| one.verdict.as_ref()).flat_map(|verdict| &verdict.lanes)
        {
            let tagged = session.injectors.iter().find(|one| one.tag == lane.place);
            let Some(injector) =
                tagged.filter(|one| one.job == file.job.id).map(|one| one.injector)
            else {
                continue;
            };
            if lane.mark == Mark::Inside && !found.iter().any(|one| one.injector == injector) {
                found.push(BenchCode { injector, code: lane.shown.clone() });
            }
        }
    }
    let came_in = |one: &BenchCode| {
        let held = file.injector(one.injector);
        held.map_or(u32::MAX, |injector| injector.cylinder)
    };
    found.sort_by_key(came_in);
    found
}
