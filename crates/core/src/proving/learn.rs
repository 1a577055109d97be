//! Learned values and the counters of the learning drive, as read from the control unit.

use crate::proving::words;
use crate::record::{Event, EventRecord, JobFile, Moment};
use crate::units::{speed, speed_unit};
use crate::work::{Counter, Learned};
use serde::Serialize;
use utoipa::ToSchema;

/// The newest reading, and whether clearing was read back before it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Learning {
    /// By cylinder.
    pub learned: Vec<Learned>,
    /// By kind of run.
    pub counters: Vec<Counter>,
    /// Runs that are still missing.
    pub missing: u32,
    /// When it was read.
    #[schema(value_type = String, format = DateTime)]
    pub at: Moment,
    /// In words, kind by kind: how it is driven.
    pub how: Vec<String>,
}

/// How a kind of run is driven; the maker's own windows come first.
///
/// # Source
/// The made-up unit of `docs/control-unit.md`; house wording.
pub fn band_word(band: &str) -> String {
    match band {
        "idle" => words::IDLE_WARM_ALL_LOADS.to_owned(),
        "cruise" => words::steady(speed(60.0), speed(80.0), speed_unit()),
        "coast" => words::coast(speed(80.0), speed(40.0), speed_unit()),
        other => words::follow_makers_procedure(other),
    }
}

pub(super) fn newest(file: &JobFile, since: Option<Moment>) -> Option<(&EventRecord, Learning)> {
    file.events.iter().rev().find_map(|record| {
        let Event::LearnedRead { learned, counters, .. } = &record.event else { return None };
        let at = record.signed.moment();
        since.is_none_or(|since| at >= since).then(|| {
            let missing = counters.iter().map(|c| c.needed.saturating_sub(c.done)).sum();
            let how = counters.iter().map(|c| band_word(&c.band)).collect();
            let (learned, counters) = (learned.clone(), counters.clone());
            (record, Learning { learned, counters, missing, at, how })
        })
    })
}

/// Clearing that was read back: every value at zero and no run counted.
pub(super) fn cleared(file: &JobFile, since: Option<Moment>) -> Option<(&EventRecord, bool)> {
    file.events.iter().rev().find_map(|record| {
        let Event::LearnedRead { cleared: true, learned, counters, .. } = &record.event else {
            return None;
        };
        let fresh = since.is_none_or(|since| record.signed.moment() >= since);
        let zero =
            learned.iter().all(|one| one.percent == 0.0) && counters.iter().all(|c| c.done == 0);
        fresh.then_some((record, zero))
    })
}
