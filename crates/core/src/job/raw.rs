//! What an instrument showed while a run or a check was taken.

use super::{Refused, room};
use crate::entry::Entry;
use crate::job::words;
use crate::limits;
use crate::raw::unpack;
use crate::record::{JobFile, RawStretch};
use uuid::Uuid;

pub(super) fn keep(file: &JobFile, of: Uuid, stretch: RawStretch) -> Result<Vec<Entry>, Refused> {
    let runs = file.return_tests.iter().flat_map(|test| &test.runs);
    let run = runs.into_iter().find(|run| run.id == of).map(|run| &run.raw);
    let sheet = || file.sheets.iter().find(|sheet| sheet.id == of).map(|sheet| &sheet.raw);
    let held = run.or_else(sheet).ok_or(Refused::NotFound("run"))?;
    room(held.len(), limits::STRETCHES, words::STRETCHES)?;
    let points = unpack(&stretch.packed);
    let points = points.map_err(|error| Refused::field("packed", format!("{error}.")))?;
    let within = |ms: u32| (stretch.from_ms..=stretch.to_ms).contains(&ms);
    let says = points.len() == stretch.points as usize && points.iter().all(|one| within(one.ms));
    if !says || stretch.gaps.iter().any(|gap| gap.to_ms < gap.from_ms) {
        return Err(Refused::field("packed", words::TRACE_IS_NOT_WHAT_IT_SAYS));
    }
    Ok(vec![Entry::Raw { of, stretch }])
}
