//! What was measured of an injector more than once, over time.
//!
//! Only like is set against like: the same feature under the same condition. The first and the last
//! are compared with their uncertainties; a difference below twice the uncertainty of the difference
//! is called none.
//!
//! # Source
//! u of a difference: root of the sum of squares (JCGM 100); coverage factor 2.

use crate::calc::CalcError;
use crate::judged::Judged;
use crate::passport::words;
use crate::record::{Injector, JobFile, Moment};
use crate::standing::{Source, Standing};
use crate::units::{self, C, ML_MIN};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// Warm tests closer than this are set against each other, K: a step of the key.
const STEP_K: f64 = 10.0;

/// One value.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TrendPoint {
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: Moment,
    /// In the unit of its trend.
    pub value: f64,
    /// Standard uncertainty.
    pub u: f64,
    /// As shown.
    pub shown: String,
    /// Number of the job.
    pub number: u64,
}

/// One feature under one condition.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Trend {
    /// What.
    pub feature: String,
    /// Under which condition.
    pub condition: String,
    /// Its unit.
    pub unit: String,
    /// Oldest first.
    pub points: Vec<TrendPoint>,
    /// In a sentence.
    pub says: String,
}

/// Feature, condition, unit.
pub(super) type Key = (String, String, String);

pub(super) fn points(
    file: &JobFile,
    judged: &Judged,
    injector: &Injector,
) -> Result<Vec<(Key, TrendPoint)>, CalcError> {
    let number = file.job.number;
    let mut found = Vec::new();
    for one in judged.stood.iter().filter(|one| one.injector == Some(injector.id)) {
        let Source::Return(at) = one.source else { continue };
        let setup = &file.return_tests[at].setup;
        let lane = judged.with_verdicts(|verdicts| verdicts.lane(one).cloned());
        let (Some(lane), Some(celsius)) = (lane, setup.temperature_c) else { continue };
        let (Some(value), Some(u), false) = (lane.value, lane.u, lane.at_least) else { continue };
        // What contradicts itself is no point of a trend.
        if matches!(one.of_injector, Some(Standing::InDoubt)) {
            continue;
        }
        let around = (celsius.0 / STEP_K).round() * STEP_K;
        let condition = format!("{}, about {}", setup.regime.condition(), units::said(around, C));
        let key = ("Return flow".to_owned(), condition, units::unit(ML_MIN).to_owned());
        let at = one.at();
        found.push((key, TrendPoint { at, value, u, shown: lane.shown, number }));
    }
    for session in &file.bench {
        let tagged = session.injectors.iter().find(|one| one.injector == injector.id);
        let Some(tagged) = tagged else { continue };
        let fitted = file.fitted_at(injector.id);
        let here = |at: Moment| fitted.is_none_or(|fitted| at > fitted);
        for (at, held) in session.values(tagged.tag)?.into_iter().filter(|(at, _)| here(*at)) {
            let form = held.feature;
            let key = (form.word().to_owned(), held.condition, units::unit(form.unit()).to_owned());
            let (value, u) = (held.value, held.u);
            found.push((key, TrendPoint { at, value, u, shown: held.shown, number }));
        }
    }
    Ok(found)
}

/// Feature by feature, those measured most often first.
pub(super) fn trends(points: Vec<(Key, TrendPoint)>) -> Vec<Trend> {
    let mut by: BTreeMap<Key, Vec<TrendPoint>> = BTreeMap::new();
    for (key, point) in points {
        by.entry(key).or_default().push(point);
    }
    let mut found: Vec<Trend> = by
        .into_iter()
        .map(|((feature, condition, unit), mut points)| {
            points.sort_by_key(|point| point.at);
            Trend { says: says(&feature, &unit, &points), feature, condition, unit, points }
        })
        .collect();
    found.sort_by_key(|trend| std::cmp::Reverse(trend.points.len()));
    found
}

fn says(feature: &str, unit: &str, points: &[TrendPoint]) -> String {
    let [first, .., last] = points else {
        return words::measured_once(feature);
    };
    let change = last.value - first.value;
    let u = first.u.hypot(last.u);
    if change.abs() <= 2.0 * u {
        return words::no_change_instruments_resolve(feature, &first.shown, &last.shown, unit);
    }
    let way = if change > 0.0 { "up" } else { "down" };
    let percent = 100.0 * change.abs() / first.value.abs().max(1e-9);
    words::by_from_to(feature, way, percent, &first.shown, &last.shown, unit)
}
