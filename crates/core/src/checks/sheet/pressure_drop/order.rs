//! The order of taking: whether the constants creep, what the first one measured again says, and
//! what is left of a difference once the drift is taken out.

use super::super::{Sheet, SheetLane};
use super::DRIFT_SHARE;
use crate::calc::CalcError;
use crate::calc::compare_set::{CompareSetInput, CompareSetOutput, compare_set};
use crate::calc::drift::{DriftInput, DriftOutput, drift};
use crate::calc::pressure_drop::{
    DropTest, PressureDropInput, PressureDropOutput, TOLERANCE, pressure_drop,
};
use crate::checks::Because;
use crate::mark::Mark;
use crate::quantity::signed_percent;
use crate::work::join;

/// What the order of taking shows; nothing with fewer than three.
pub(super) struct Order {
    seen: Option<DriftOutput>,
    /// The set compared once the drift is taken out.
    corrected: Option<CompareSetOutput>,
}

impl Order {
    pub(super) fn of(
        sheet: &Sheet,
        input: &PressureDropInput,
        out: &PressureDropOutput,
    ) -> Result<Self, CalcError> {
        if out.tests.len() < 3 {
            return Ok(Self { seen: None, corrected: None });
        }
        let again = sheet.of_set("bracket_start").zip(sheet.of_set("bracket_end"));
        let bracket = match again.filter(|(start, end)| end <= start) {
            Some((start_kpa, end_kpa)) => {
                let test = DropTest { cylinder: 0, start_kpa, end_kpa, elapsed_s: None };
                let both = PressureDropInput { tests: vec![test.clone(), test], ..input.clone() };
                pressure_drop(&both)?.tests.first().map(|t| t.constant)
            }
            None => None,
        };
        let values = out.tests.iter().map(|t| t.constant).collect();
        let seen = drift(&DriftInput { values, bracket })?;
        let tolerance = input.tolerance.unwrap_or(TOLERANCE);
        let corrected = match &seen.corrected {
            Some(values) if values.iter().all(|v| *v > 0.0) => {
                Some(compare_set(&CompareSetInput { values: values.clone(), tolerance })?)
            }
            Some(_) | None => None,
        };
        Ok(Self { seen: Some(seen), corrected })
    }

    /// The first one, measured again, moved by more than its share of the spread.
    pub(super) fn proven(&self) -> bool {
        self.moved().is_some_and(|share| share > DRIFT_SHARE)
    }

    fn moved(&self) -> Option<f64> {
        self.seen.as_ref()?.drift_share
    }

    /// They creep, and nobody measured the first one again.
    pub(super) fn suspected(&self) -> bool {
        self.moved().is_none() && self.seen.as_ref().is_some_and(|seen| seen.monotone)
    }

    pub(super) fn says(&self) -> Option<String> {
        let seen = self.seen.as_ref()?;
        let way = if seen.kendall_s > 0 { "rise" } else { "fall" };
        match (seen.monotone, self.moved()) {
            (_, Some(share)) if share > DRIFT_SHARE => Some(format!(
                "The first one measured again moved by {:.0} % of the whole spread: this is drift. Let the rail settle and repeat the set.",
                share * 100.0
            )),
            (true, Some(_)) => Some(
                "They creep in the order of taking, but the first one came back the same: no drift."
                    .to_owned(),
            ),
            (true, None) => Some(format!(
                "The readings {way} in the order of taking: this may be drift. Measure the first one again."
            )),
            (false, _) => None,
        }
    }

    /// A drifted set condemns only what stands out without the drift too.
    pub(super) fn on(&self, i: usize, mut lane: SheetLane) -> SheetLane {
        let Some(corrected) = self.corrected.as_ref().filter(|_| self.proven()) else {
            return lane;
        };
        let share = corrected.vs_reference[i];
        let says = share.map_or_else(
            || "Without the drift there is nothing to compare with.".to_owned(),
            |share| format!("Without the drift {} against the others.", signed_percent(share)),
        );
        lane.because.push(Because::says(says.clone()));
        let still = match (corrected.high.contains(&i), corrected.low.contains(&i)) {
            (true, _) => Mark::TooMuch,
            (_, true) => Mark::TooLittle,
            (false, false) if corrected.settled => Mark::Inside,
            (false, false) => Mark::Undecided,
        };
        if still != lane.mark {
            lane.mark = Mark::Questioned;
            "drifted".clone_into(&mut lane.word);
            lane.sentence = format!("{says} The plain comparison says otherwise: repeat.");
        }
        lane.share = share;
        lane
    }

    /// Cylinders that stand out once the drift is taken out.
    pub(super) fn stands_out(&self, cylinders: &[u32]) -> Vec<u32> {
        let out = self.corrected.iter().flat_map(|c| c.high.iter().chain(&c.low));
        out.filter_map(|i| cylinders.get(*i).copied()).collect()
    }

    /// The finding of a drifted set.
    pub(super) fn headline(&self, lanes: &[SheetLane]) -> String {
        let mut out: Vec<u32> = lanes
            .iter()
            .filter(|l| matches!(l.mark, Mark::TooMuch | Mark::TooLittle))
            .map(|l| l.cylinder)
            .collect();
        out.sort_unstable();
        if out.is_empty() {
            "The set drifted while it was taken: nobody is condemned by it.".to_owned()
        } else {
            format!(
                "The set drifted while it was taken; {} stands out without the drift too.",
                join(&out)
            )
        }
    }
}
