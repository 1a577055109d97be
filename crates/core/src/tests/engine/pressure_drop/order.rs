//! The order of taking: whether the constants creep, what the first one measured again says, and
//! what is left of a difference once the drift is taken out.

use super::super::{Lane, Sheet};
use super::DRIFT_SHARE;
use crate::calc::CalcError;
use crate::calc::compare_set::{CompareSetInput, CompareSetOutput, compare_set};
use crate::calc::drift::{DriftInput, DriftOutput, drift};
use crate::calc::pressure_drop::{
    DropTest, PressureDropInput, PressureDropOutput, TOLERANCE, pressure_drop,
};
use crate::mark::Mark;
use crate::quantity::signed_percent;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::engine::pressure_drop::words;
use crate::words::list;

/// Values this close to each other are alike whatever the gauge (house rule).
const ALIKE: f64 = 0.05;

/// What the order of taking shows; nothing with fewer than three.
pub(super) struct Order {
    /// A creep that says nothing: inside the tolerance, or one member alone stands out.
    explained: Explained,
    seen: Option<DriftOutput>,
    /// The set compared once the drift is taken out.
    corrected: Option<CompareSetOutput>,
}

/// What explains a creep without any drift.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Explained {
    /// Nothing does.
    No,
    /// All lie within what the gauge and the tolerance allow.
    Within,
    /// This one stands out and the others do not creep.
    One(u32),
}

/// Three values creep by chance one time in three; so do two that are alike and one that is not.
fn explained(sheet: &Sheet, input: &PressureDropInput, out: &PressureDropOutput) -> Explained {
    let gauge = sheet.instrument.as_ref();
    let doubt = out.tests.iter().zip(&input.tests).map(|(test, read)| {
        let u = gauge.map_or(0.0, |gauge| gauge.u(read.end_kpa) * std::f64::consts::SQRT_2);
        if test.drop_kpa > 0.0 { 2.0 * u / test.drop_kpa } else { 0.0 }
    });
    let doubt = doubt.fold(ALIKE, f64::max);
    let spread = |values: &[f64]| {
        let (low, high) = values
            .iter()
            .fold((f64::INFINITY, 0.0_f64), |(low, high), v| (low.min(*v), high.max(*v)));
        if low > 0.0 { high / low - 1.0 } else { f64::INFINITY }
    };
    let values: Vec<f64> = out.tests.iter().map(|test| test.constant).collect();
    if spread(&values) <= doubt {
        return Explained::Within;
    }
    // First or last: taken away, the others lie together.
    let ends = [(0, &values[1..]), (values.len() - 1, &values[..values.len() - 1])];
    let tolerance = input.tolerance.unwrap_or(TOLERANCE);
    let alone = ends
        .into_iter()
        .find(|(_, rest)| spread(rest) <= doubt.max(ALIKE) && spread(&values) > tolerance);
    alone.map_or(Explained::No, |(i, _)| Explained::One(out.tests[i].cylinder))
}

impl Order {
    pub(super) fn of(
        sheet: &Sheet,
        input: &PressureDropInput,
        out: &PressureDropOutput,
    ) -> Result<Self, CalcError> {
        if out.tests.len() < 3 {
            return Ok(Self { explained: Explained::No, seen: None, corrected: None });
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
        Ok(Self { explained: explained(sheet, input, out), seen: Some(seen), corrected })
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
        self.creeps() && self.explained == Explained::No
    }

    /// One stands out at an end of the order: it is named, and the bracket would rule out a drift.
    pub(super) fn asks_the_bracket(&self) -> bool {
        self.creeps() && matches!(self.explained, Explained::One(_))
    }

    fn creeps(&self) -> bool {
        self.moved().is_none() && self.seen.as_ref().is_some_and(|seen| seen.monotone)
    }

    pub(super) fn says(&self) -> Option<String> {
        let seen = self.seen.as_ref()?;
        let way = if seen.kendall_s > 0 { "rise" } else { "fall" };
        match (seen.monotone, self.moved()) {
            (_, Some(share)) if share > DRIFT_SHARE => {
                Some(words::first_one_repeated_moved(share * 100.0))
            }
            (true, Some(_)) => Some(words::READINGS_CREEP_TEST_ORDER.to_owned()),
            (true, None) => match self.explained {
                Explained::Within => None,
                Explained::One(cylinder) => Some(words::cylinder_alone_stands_out(cylinder)),
                Explained::No => Some(words::readings_test_order_possible(way)),
            },
            (false, _) => None,
        }
    }

    /// A drifted set condemns only what stands out without the drift too.
    pub(super) fn on(&self, i: usize, mut lane: Lane) -> Lane {
        let Some(corrected) = self.corrected.as_ref().filter(|_| self.proven()) else {
            return lane;
        };
        let share = corrected.vs_reference[i];
        let says = share.map_or_else(
            || words::CORRECTED_DRIFT_NOTHING_LEFT.to_owned(),
            |share| words::corrected_drift_against_others(signed_percent(share)),
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
            lane.said.code = Code::DOUBTFUL;
            "drifted".clone_into(&mut lane.word);
            lane.sentence = words::plain_comparison_disagrees_repeat(&says);
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
    pub(super) fn headline(&self, lanes: &[Lane]) -> String {
        let mut out: Vec<u32> = lanes
            .iter()
            .filter(|l| matches!(l.mark, Mark::TooMuch | Mark::TooLittle))
            .map(|l| l.place)
            .collect();
        out.sort_unstable();
        if out.is_empty() {
            words::READINGS_DRIFTED_DURING_TEST.to_owned()
        } else {
            words::readings_drifted_test_still(list(&out))
        }
    }
}
