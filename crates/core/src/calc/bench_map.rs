//! `bench_map`: the points of a diesel test plan, delivered and returned quantity against windows.
//!
//! mm³ per stroke `q = 1000·V/strokes` (V in ml), with
//! `u = √((graduation/√12·1000/strokes)² + (bench_u_pct/100·q)²)`; states by [`super::decide`]
//! against `[lower, upper]` in mm³. A quantity that was not measured, or that has no window, has
//! no state; an end of a window that is missing never binds.
//!
//! # Source
//! JCGM 100 for u, JCGM 106 for the states; ISO 4113 for the calibration fluid.
//!
//! ```
//! use cobaltine_core::calc::bench_map::{BenchMapInput, MapPoint, bench_map};
//! use cobaltine_core::calc::decide::LimitState;
//! let idle = MapPoint {
//!     name: "idle".into(), strokes: 1000.0, graduation_ml: 0.2,
//!     delivered_ml: Some(9.6), delivered_limits_mm3: Some([Some(6.3), Some(7.7)]),
//!     returned_ml: None, returned_limits_mm3: None,
//! };
//! let out = bench_map(&BenchMapInput { points: vec![idle], bench_u_pct: None }).unwrap();
//! assert_eq!(out.points[0].delivered_state, Some(LimitState::Above));
//! assert_eq!(out.points[0].returned_mm3, None);
//! ```

use super::decide::{DecideInput, LimitState, decide};
use super::{CalcError, finite, non_negative, positive};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Uncertainty of the bench itself, percent of the quantity (house rule).
pub const BENCH_U_PCT: f64 = 0.5;

/// Lower and upper end of a window; a missing end never binds.
pub type Window = [Option<f64>; 2];

/// One point of the plan as measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MapPoint {
    /// Name of the point, such as `full load`.
    pub name: String,
    /// Strokes that the volumes were caught over.
    pub strokes: f64,
    /// Distance between two marks of the tube, ml.
    pub graduation_ml: f64,
    /// Volume injected, ml.
    pub delivered_ml: Option<f64>,
    /// Its window, mm³ per stroke.
    #[schema(value_type = Option<Vec<Option<f64>>>)]
    pub delivered_limits_mm3: Option<Window>,
    /// Volume returned, ml.
    pub returned_ml: Option<f64>,
    /// Its window, mm³ per stroke.
    #[schema(value_type = Option<Vec<Option<f64>>>)]
    pub returned_limits_mm3: Option<Window>,
}

/// A map as measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BenchMapInput {
    /// At least one point.
    pub points: Vec<MapPoint>,
    /// Default 0.5.
    pub bench_u_pct: Option<f64>,
}

/// One point judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MapPointOutput {
    /// As given.
    pub name: String,
    /// mm³ per stroke injected.
    pub delivered_mm3: Option<f64>,
    /// Its standard uncertainty.
    pub delivered_u_mm3: Option<f64>,
    /// Against its window.
    pub delivered_state: Option<LimitState>,
    /// mm³ per stroke returned.
    pub returned_mm3: Option<f64>,
    /// Its standard uncertainty.
    pub returned_u_mm3: Option<f64>,
    /// Against its window.
    pub returned_state: Option<LimitState>,
}

/// The map judged, in the order of the input.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BenchMapOutput {
    /// One for each point.
    pub points: Vec<MapPointOutput>,
}

struct Quantity {
    value: f64,
    u: f64,
    state: Option<LimitState>,
}

/// Judges a map.
///
/// # Errors
/// No points; strokes or graduation not above zero; a negative volume or bench uncertainty; a
/// window whose lower end is above its upper end.
pub fn bench_map(input: &BenchMapInput) -> Result<BenchMapOutput, CalcError> {
    if input.points.is_empty() {
        return Err(CalcError::TooFew { what: "points", least: 1, got: 0 });
    }
    let bench_u =
        non_negative("the bench uncertainty", input.bench_u_pct.unwrap_or(BENCH_U_PCT))? / 100.0;
    let points =
        input.points.iter().map(|point| judge(point, bench_u)).collect::<Result<_, _>>()?;
    Ok(BenchMapOutput { points })
}

fn judge(point: &MapPoint, bench_u: f64) -> Result<MapPointOutput, CalcError> {
    let name = |what: &str| format!("the {what} of \"{}\"", point.name);
    let strokes = positive(name("strokes"), point.strokes)?;
    let marks = positive(name("graduation"), point.graduation_ml)? / 12.0_f64.sqrt();
    let quantity = |what: &str, volume: Option<f64>, window: Option<Window>| {
        let [lower, upper] = window.unwrap_or_default();
        // A window that cannot be is refused even where nothing was measured yet.
        let at = |value, u| DecideInput { value, u, lower, upper, ..DecideInput::default() };
        let bound = lower.is_some() || upper.is_some();
        let Some(volume) = volume else {
            return if bound { decide(&at(0.0, 0.0)).map(|_| None) } else { Ok(None) };
        };
        let value = finite(name(what), 1000.0 * non_negative(name(what), volume)? / strokes)?;
        let u = finite(name(what), (marks * 1000.0 / strokes).hypot(bench_u * value))?;
        let state = if bound { Some(decide(&at(value, u))?.state) } else { None };
        Ok(Some(Quantity { value, u, state }))
    };
    let delivered = quantity("delivered volume", point.delivered_ml, point.delivered_limits_mm3)?;
    let returned = quantity("returned volume", point.returned_ml, point.returned_limits_mm3)?;
    Ok(MapPointOutput {
        name: point.name.clone(),
        delivered_mm3: delivered.as_ref().map(|q| q.value),
        delivered_u_mm3: delivered.as_ref().map(|q| q.u),
        delivered_state: delivered.and_then(|q| q.state),
        returned_mm3: returned.as_ref().map(|q| q.value),
        returned_u_mm3: returned.as_ref().map(|q| q.u),
        returned_state: returned.and_then(|q| q.state),
    })
}
