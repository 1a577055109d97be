//! `pressure_drop`: the petrol balance test by pressure drop.
//!
//! `end' = min(start, end + leak_down·elapsed)`, `drop = start − end'` (kPa, gauge). A rail of
//! constant compliance emptied through an orifice obeys dP/dt = −k√P, so
//! `constant = 2(√start − √end')/(pulses·pulse_ms/1000)` does not depend on the start pressure
//! to first order (opening delay and trapped vapour are left out, hence `start_ok`). The
//! constants are compared by reference set from the tests whose start was right; the plain
//! school, `drop_spread_kpa ≤ max`, stands beside.
//!
//! # Source
//! Orifice flow for the constant; ±20 %, 10 kPa and the start within 2 % are house rules.
//!
//! ```
//! use cobaltine_core::calc::pressure_drop::{DropGrade, DropTest, PressureDropInput, pressure_drop};
//! let test = |cylinder, end_kpa| DropTest { cylinder, start_kpa: 300.0, end_kpa, elapsed_s: None };
//! let out = pressure_drop(&PressureDropInput {
//!     tests: vec![test(1, 210.0), test(2, 212.0), test(3, 250.0), test(4, 211.0)],
//!     pulses: 50.0, pulse_ms: 6.0, ..PressureDropInput::default()
//! }).unwrap();
//! assert_eq!(out.tests[2].grade, DropGrade::Low);
//! ```

use super::compare_set::{against, is_split, median_of_sorted, reference_set};
use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Share from the mean of the others that is still alike (house rule).
pub const TOLERANCE: f64 = 0.20;
/// The plain school: largest difference between drops, kPa (house rule).
pub const MAX_SPREAD_KPA: f64 = 10.0;
/// How far a start may lie from the median start (house rule).
pub const START_TOLERANCE: f64 = 0.02;

/// One injector pulsed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DropTest {
    /// Cylinder number.
    pub cylinder: u32,
    /// Before the pulses, kPa gauge.
    pub start_kpa: f64,
    /// After the pulses, kPa gauge.
    pub end_kpa: f64,
    /// From the start to the reading of the end, s; default 0.
    pub elapsed_s: Option<f64>,
}

/// The whole set under one pulse programme.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PressureDropInput {
    /// At least two.
    pub tests: Vec<DropTest>,
    /// Pulses given to each.
    pub pulses: f64,
    /// Length of a pulse, ms.
    pub pulse_ms: f64,
    /// How fast the rail loses pressure by itself; default 0.
    pub leak_down_kpa_per_s: Option<f64>,
    /// Default 0.20.
    pub tolerance: Option<f64>,
    /// Default 10.
    pub max_spread_kpa: Option<f64>,
    /// Default 0.02.
    pub start_tolerance: Option<f64>,
}

/// What comparison says of one injector.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum DropGrade {
    /// Passes too much.
    High,
    /// Passes too little.
    Low,
    /// As the others.
    Normal,
    /// Comparison cannot tell.
    Undecided,
}

/// One injector judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DropOutput {
    /// Cylinder number.
    pub cylinder: u32,
    /// Pressure drop without the leak-down, kPa.
    pub drop_kpa: f64,
    /// Start-independent constant, √kPa/s.
    pub constant: f64,
    /// The start pressure matched the others.
    pub start_ok: bool,
    /// Constant against the mean of all others, minus 1.
    pub loo: Option<f64>,
    /// Constant against the reference, minus 1.
    pub vs_reference: Option<f64>,
    /// Member of the reference set.
    pub reference: bool,
    /// Verdict by comparison.
    pub grade: DropGrade,
}

/// The set judged, in the order of the input.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PressureDropOutput {
    /// One for each test.
    pub tests: Vec<DropOutput>,
    /// Largest minus smallest drop, kPa.
    pub drop_spread_kpa: f64,
    /// The plain school's verdict.
    pub spread_ok: bool,
    /// Two camps.
    pub split: bool,
    /// Comparison carries a verdict.
    pub settled: bool,
}

/// Judges a balance test.
///
/// # Errors
/// Fewer than two tests; an end at or below zero or above its start; no pulses; a negative
/// leak-down or time; a tolerance not above zero.
pub fn pressure_drop(input: &PressureDropInput) -> Result<PressureDropOutput, CalcError> {
    let tests = &input.tests;
    if tests.len() < 2 {
        return Err(CalcError::TooFew { what: "tests", least: 2, got: tests.len() });
    }
    let open_s = positive("the pulses", input.pulses)?
        * positive("the pulse width", input.pulse_ms)?
        / 1000.0;
    let open_s = positive(words::TIME_INJECTOR_OPEN, open_s)?;
    let leak = non_negative("the leak-down", input.leak_down_kpa_per_s.unwrap_or(0.0))?;
    let tolerance = positive("the tolerance", input.tolerance.unwrap_or(TOLERANCE))?;
    let most = positive("the largest spread", input.max_spread_kpa.unwrap_or(MAX_SPREAD_KPA))?;
    let start_tolerance =
        positive("the start tolerance", input.start_tolerance.unwrap_or(START_TOLERANCE))?;
    let leaked =
        tests.iter().map(|test| without_leak(test, leak)).collect::<Result<Vec<_>, _>>()?;

    let mut starts: Vec<f64> = tests.iter().map(|test| test.start_kpa).collect();
    starts.sort_by(f64::total_cmp);
    let median = median_of_sorted(&starts);
    let start_ok: Vec<bool> = tests
        .iter()
        .map(|test| !exceeds((test.start_kpa / median - 1.0).abs(), start_tolerance))
        .collect();
    let drops: Vec<f64> = tests
        .iter()
        .zip(&leaked)
        .map(|(test, end)| test.start_kpa - end.min(test.start_kpa))
        .collect();
    let constants = tests
        .iter()
        .zip(&leaked)
        .map(|(test, end)| {
            let fall = test.start_kpa.sqrt() - end.min(test.start_kpa).sqrt();
            finite("the constant", 2.0 * fall / open_s)
        })
        .collect::<Result<Vec<f64>, _>>()?;
    finite(words::SUM_CONSTANTS, constants.iter().sum())?;

    let everyone: Vec<usize> = (0..tests.len()).collect();
    let matched: Vec<usize> = everyone.iter().copied().filter(|&i| start_ok[i]).collect();
    let comparable = matched.len() >= 2;
    let starters = if comparable { &matched } else { &everyone };
    let reference = reference_set(&constants, starters, tolerance);
    let compared: Vec<f64> = starters.iter().map(|&i| constants[i]).collect();
    let split = is_split(&compared, tolerance);
    let settled = comparable && reference.settled && !split;
    let loo = against(&constants, &everyone);
    let shares = against(&constants, &reference.members);
    let highest = drops.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let lowest = drops.iter().copied().fold(f64::INFINITY, f64::min);

    let outputs = everyone
        .iter()
        .map(|&i| {
            let waited = exceeds(leaked[i], tests[i].start_kpa * (1.0 + start_tolerance));
            let grade = match shares[i].filter(|_| settled && start_ok[i] && !waited) {
                None => DropGrade::Undecided,
                Some(share) if exceeds(share, tolerance) => DropGrade::High,
                Some(share) if exceeds(-share, tolerance) => DropGrade::Low,
                Some(_) => DropGrade::Normal,
            };
            DropOutput {
                cylinder: tests[i].cylinder,
                drop_kpa: drops[i],
                constant: constants[i],
                start_ok: start_ok[i],
                loo: loo[i],
                vs_reference: shares[i],
                reference: reference.members.contains(&i),
                grade,
            }
        })
        .collect();
    Ok(PressureDropOutput {
        tests: outputs,
        drop_spread_kpa: highest - lowest,
        spread_ok: !exceeds(highest - lowest, most),
        split,
        settled,
    })
}

/// The end pressure with what leaked away by itself put back; may lie above the start.
fn without_leak(test: &DropTest, leak: f64) -> Result<f64, CalcError> {
    let name = |what: &str| format!("the {what} of cylinder {}", test.cylinder);
    let start = positive(name("start pressure"), test.start_kpa)?;
    let end = positive(name("end pressure"), test.end_kpa)?;
    let elapsed = non_negative(name("elapsed time"), test.elapsed_s.unwrap_or(0.0))?;
    if end > start {
        return Err(CalcError::Contradiction(words::cylinder_end_pressure_kpa(
            test.cylinder,
            end,
            start,
        )));
    }
    finite(name("end pressure"), end + leak * elapsed)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_constant_does_not_depend_on_the_start(
            k in 1.0..20.0_f64, first in 300.0..400.0_f64, second in 300.0..400.0_f64,
        ) {
            // An ideal rail: √P falls by k/2 for each second that the injector is open.
            let test = |cylinder, start: f64| {
                let end_kpa = (start.sqrt() - k * 0.3 / 2.0).powi(2);
                DropTest { cylinder, start_kpa: start, end_kpa, elapsed_s: None }
            };
            let out = pressure_drop(&PressureDropInput {
                tests: vec![test(1, first), test(2, second)], pulses: 50.0, pulse_ms: 6.0,
                ..PressureDropInput::default()
            }).unwrap();
            for test in out.tests {
                prop_assert!((test.constant / k - 1.0).abs() < 1e-9);
            }
        }
    }
}
