//! `cutout`: each cylinder disabled in turn; how much the speed falls.
//!
//! `drop = base − cut` in rpm, signed; for the comparison a negative drop counts as 0.
//! Reference set and split as in [`super::compare_set`]. Not settled either when a cylinder
//! outside the reference lies *above* it by more than the tolerance: the strong one may be the
//! only healthy one. `weak` when `vs_reference < −tolerance`. A weak cylinder is weak fuel or
//! weak compression; compression beside it tells which.
//!
//! # Source
//! House rule (tolerance 50 %).
//!
//! ```
//! use cobaltine_core::calc::cutout::{CutoutInput, cutout};
//! let out = cutout(&CutoutInput { base_rpm: 800.0, cut_rpm: vec![700.0, 705.0, 790.0, 698.0], tolerance: None }).unwrap();
//! assert_eq!(out.cylinders[2].weak, Some(true));
//! ```

use super::compare_set::{against, is_split, reference_set};
use super::{CalcError, exceeds, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Share below the reference that makes a cylinder weak (house rule).
pub const TOLERANCE: f64 = 0.5;

/// Speeds with everything running and with one cylinder cut at a time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CutoutInput {
    /// Speed with all cylinders, rpm.
    pub base_rpm: f64,
    /// Speed with each cut in turn, rpm; at least two.
    pub cut_rpm: Vec<f64>,
    /// Default 0.5.
    pub tolerance: Option<f64>,
}

/// One cylinder.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CutoutCylinder {
    /// By how much the speed fell, rpm.
    pub drop_rpm: f64,
    /// Against the reference, minus 1.
    pub vs_reference: Option<f64>,
    /// Makes little difference; none when comparison cannot tell.
    pub weak: Option<bool>,
}

/// The set, in the order of the input.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CutoutOutput {
    /// One for each cylinder.
    pub cylinders: Vec<CutoutCylinder>,
    /// Comparison carries a verdict.
    pub settled: bool,
}

/// Compares the drops.
///
/// # Errors
/// Fewer than two cylinders, a speed or the tolerance not above zero.
pub fn cutout(input: &CutoutInput) -> Result<CutoutOutput, CalcError> {
    let base = positive(words::SPEED_ALL_CYLINDERS, input.base_rpm)?;
    let tolerance = positive("the tolerance", input.tolerance.unwrap_or(TOLERANCE))?;
    if input.cut_rpm.len() < 2 {
        let got = input.cut_rpm.len();
        return Err(CalcError::TooFew { what: "cylinders", least: 2, got });
    }
    let drops = input
        .cut_rpm
        .iter()
        .enumerate()
        .map(|(i, cut)| Ok(base - positive(words::speed_cylinder_cut(i + 1), *cut)?))
        .collect::<Result<Vec<f64>, CalcError>>()?;
    let counted: Vec<f64> = drops.iter().map(|drop| drop.max(0.0)).collect();
    let everyone: Vec<usize> = (0..counted.len()).collect();
    let reference = reference_set(&counted, &everyone, tolerance);
    let members = &reference.members;
    let mean = members.iter().map(|&i| counted[i]).sum::<f64>() / members.len() as f64;
    let strong_one = everyone
        .iter()
        .any(|i| !members.contains(i) && exceeds(counted[*i], mean * (1.0 + tolerance)));
    let settled = reference.settled && !is_split(&counted, tolerance) && !strong_one;
    let shares = against(&counted, members);
    let cylinders = drops
        .into_iter()
        .zip(shares)
        .map(|(drop_rpm, vs_reference)| CutoutCylinder {
            drop_rpm,
            vs_reference,
            weak: vs_reference.filter(|_| settled).map(|share| exceeds(-share, tolerance)),
        })
        .collect();
    Ok(CutoutOutput { cylinders, settled })
}
