//! Slips of a return test that the readings themselves give away, and start conditions that were
//! not ticked.

use super::{ReadingKind, RunRecord, TestRecord};
use crate::engine::Layout;
use crate::record::words;
use crate::start::{Missing, StartId, missing};
use crate::tests::slip::slipped;
use crate::words::{by_number, list};
use crate::work::Correction;
use crate::work::Regime;

/// What has to be so before a run of a return test.
pub const RUNNING: &[StartId] = &[
    StartId::Warm,
    StartId::AccessoriesOff,
    StartId::Parked,
    StartId::ExtractionOn,
    StartId::RailBlanked,
    StartId::HosesPurged,
];
/// And before a crank test: cold engines do not start either.
pub const CRANKING: &[StartId] = &[
    StartId::LowPressureProven,
    StartId::ChargerOn,
    StartId::Parked,
    StartId::RailBlanked,
    StartId::HosesPurged,
];

impl TestRecord {
    /// Start conditions of this kind of test.
    pub fn start(regime: Regime) -> &'static [StartId] {
        match regime {
            Regime::IdleOnly | Regime::Stepped => RUNNING,
            Regime::Cranking => CRANKING,
        }
    }

    /// Start conditions that were asked for and not ticked, run by run.
    pub(super) fn unticked(&self) -> Vec<Missing> {
        let wanted = Self::start(self.setup.regime);
        let runs = self.counting().filter(|run| run.standing().any(|r| r.cylinder.is_some()));
        runs.filter_map(|run| {
            let open = missing(wanted, run.ticked.as_ref()?)?;
            let named = |says: String| format!("Run {}. {says}", run.number);
            Some(Missing { short: named(open.short), because: named(open.because) })
        })
        .collect()
    }

    /// What to ask about before the result is believed.
    pub(super) fn slips(&self, layout: &Layout) -> Vec<String> {
        let mut says = Vec::new();
        for run in self.counting() {
            says.extend(run.rising(self.setup.graduation_ml.0));
            says.extend(run.decimal_slips());
            let unread = run.unread(layout);
            let some = unread.len() < run.covers(layout).len();
            if some && !unread.is_empty() && run.seconds().is_some() {
                let word = by_number(unread.len(), "bottle", "bottles");
                says.push(words::run_not_read(run.number, word, list(&unread)));
            }
        }
        says
    }
}

impl RunRecord {
    /// Bottles that were read again and stood higher: read while still rising?
    fn rising(&self, graduation_ml: f64) -> Option<String> {
        let level =
            |id| self.readings.iter().find(|r| Some(r.id) == id && r.kind == ReadingKind::Level);
        let risen = self.standing().filter(|r| r.kind == ReadingKind::Level).find(|r| {
            // A slip of the keys is no rise; the bottle was looked at again.
            let looked = r
                .why
                .as_deref()
                .is_some_and(|why| Correction::named(why) != Some(Correction::TypingSlip));
            level(r.corrects).is_some_and(|before| {
                let rise = r.value - before.value;
                looked && rise >= graduation_ml && r.value < 3.0 * before.value
            })
        })?;
        let before = level(risen.corrects)?;
        Some(words::run_bottle_read_ml(
            self.number,
            risen.cylinder.unwrap_or_default(),
            crate::quantity::trimmed(before.value),
            crate::quantity::trimmed(risen.value),
        ))
    }

    /// A level ten times the others, or a tenth of them.
    fn decimal_slips(&self) -> Vec<String> {
        let levels: Vec<(u32, f64)> = self
            .standing()
            .filter(|r| r.kind == ReadingKind::Level && r.value > 0.0)
            .filter_map(|r| Some((r.cylinder?, r.value)))
            .collect();
        slipped(&levels, 3)
            .into_iter()
            .map(|(cylinder, how)| words::run_bottle_others_decimal(self.number, cylinder, how))
            .collect()
    }
}
