//! `house_reference`: where the house's own proven-good injectors lie, when nobody published a
//! limit.
//!
//! The tolerance interval of [`crate::calc::reference_interval`] over the readings of one family
//! under one condition. Readings further than 3.5 robust standard deviations (1.4826·MAD) from
//! the median are left out, and how many is said. It is labelled as the house's own wherever it
//! stands: injectors that work, not what the maker allows.
//!
//! # Source
//! ISO 16269-6 for the interval; median and MAD with 3.5 are a house rule.

use crate::calc::CalcError;
use crate::calc::reference_interval::{ReferenceIntervalInput, reference_interval};
use crate::quantity::trimmed;
use crate::rules::{RuleId, Rules};
use crate::tests::words;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Robust standard deviations beyond which a reading is left out.
const FAR: f64 = 3.5;
/// Makes the median absolute deviation a standard deviation for normal readings.
const MAD_SCALE: f64 = 1.4826;

/// A reading of an injector that went back and is still good.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GoodReading {
    /// In the unit of the check.
    pub value: f64,
    /// When it was measured.
    pub at: Timestamp,
}

/// The house's own reference.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct HouseReference {
    /// Injectors that it rests on.
    pub count: usize,
    /// Readings left out as outliers.
    pub left_out: Vec<f64>,
    /// Oldest reading.
    #[schema(value_type = String, format = DateTime)]
    pub from: Timestamp,
    /// Newest reading.
    #[schema(value_type = String, format = DateTime)]
    pub to: Timestamp,
    /// Lower end.
    pub lower: f64,
    /// Upper end.
    pub upper: f64,
    /// Mean of the readings.
    pub mean: f64,
    /// Their standard deviation.
    pub s: f64,
    /// Howe's factor.
    pub k: f64,
    /// All of it in words, with its label.
    pub says: String,
}

/// The reference from these readings, in the unit that is named.
///
/// # Errors
/// [`CalcError::TooFew`] below the house's minimum, outliers not counted.
pub fn house_reference(
    readings: &[GoodReading],
    unit: &str,
    rules: &Rules,
) -> Result<HouseReference, CalcError> {
    let least = rules.get(RuleId::ReferenceLeast).round() as usize;
    let (kept, left_out) = without_outliers(readings);
    let too_few = CalcError::TooFew { what: "proven-good injectors", least, got: kept.len() };
    let (Some(first), Some(last)) =
        (kept.iter().map(|r| r.at).min(), kept.iter().map(|r| r.at).max())
    else {
        return Err(too_few);
    };
    if kept.len() < least {
        return Err(too_few);
    }
    let (coverage, confidence) =
        (rules.share(RuleId::ReferenceCoverage), rules.share(RuleId::ReferenceConfidence));
    let out = reference_interval(&ReferenceIntervalInput {
        values: kept.iter().map(|r| r.value).collect(),
        coverage: Some(coverage),
        confidence: Some(confidence),
    })?;
    // As many digits as the spread can carry, and the rounded ends are the ends: what is shown
    // is what is judged by.
    let decimals = (1.0 - out.s.max(1e-9).log10().floor()).clamp(0.0, 3.0);
    let rounded = |value: f64| (value * 10.0_f64.powf(decimals)).round() / 10.0_f64.powf(decimals);
    let (lower, upper) = (rounded(out.lower.max(0.0)), rounded(out.upper));
    let outliers = match left_out.as_slice() {
        [] => "none excluded".to_owned(),
        some => {
            let shown: Vec<String> = some.iter().map(|v| format!("{v:.1}")).collect();
            format!("{} excluded as outliers ({})", some.len(), shown.join(", "))
        }
    };
    let day = |at: Timestamp| at.strftime("%Y-%m-%d").to_string();
    let limits = words::workshops_own_reference(
        format_args!("{lower:.*}", decimals as usize),
        format_args!("{upper:.*}", decimals as usize),
        unit,
        trimmed(coverage * 100.0),
        trimmed(confidence * 100.0),
    );
    let from = words::proven_good_injectors(
        out.n,
        day(first),
        day(last),
        &outliers,
        out.mean,
        out.k,
        out.s,
    );
    let says = format!("{limits} {from}");
    Ok(HouseReference {
        count: out.n,
        left_out,
        from: first,
        to: last,
        lower,
        upper,
        mean: out.mean,
        s: out.s,
        k: out.k,
        says,
    })
}

fn without_outliers(readings: &[GoodReading]) -> (Vec<GoodReading>, Vec<f64>) {
    let middle = median(readings.iter().map(|r| r.value).collect());
    let spread = MAD_SCALE * median(readings.iter().map(|r| (r.value - middle).abs()).collect());
    let far = |r: &GoodReading| spread > 0.0 && (r.value - middle).abs() > FAR * spread;
    let kept = readings.iter().copied().filter(|r| !far(r)).collect();
    let mut left_out: Vec<f64> = readings.iter().filter(|r| far(r)).map(|r| r.value).collect();
    left_out.sort_by(f64::total_cmp);
    (kept, left_out)
}

fn median(mut values: Vec<f64>) -> f64 {
    values.sort_by(f64::total_cmp);
    if values.is_empty() { 0.0 } else { crate::calc::compare_set::median_of_sorted(&values) }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn readings(values: &[f64]) -> Vec<GoodReading> {
        let day =
            |i: usize| Timestamp::UNIX_EPOCH + jiff::SignedDuration::from_hours(24 * i as i64);
        values.iter().enumerate().map(|(i, v)| GoodReading { value: *v, at: day(i) }).collect()
    }

    #[test]
    fn an_outlier_is_left_out_and_said_and_too_few_make_no_reference() {
        let good = [11.0, 12.0, 11.5, 12.2, 11.8, 12.4, 11.2, 12.1];
        let mut with_one_off = good.to_vec();
        with_one_off.push(60.0);
        let rules = Rules::default();
        let out = house_reference(&readings(&with_one_off), "ml/min", &rules).unwrap();
        assert_eq!((out.count, out.left_out.as_slice()), (8, [60.0].as_slice()));
        assert!(out.upper < 15.0 && out.lower > 8.0, "{} {}", out.lower, out.upper);
        assert!(
            out.says.contains("not a maker's limit")
                && out.says.contains("1 excluded as outliers (60.0)")
        );
        assert!(out.says.contains("from 1970-01-01 to 1970-01-08"), "{}", out.says);
        let few = house_reference(&readings(&good[..7]), "ml/min", &rules).unwrap_err();
        assert_eq!(few.to_string(), "at least 8 proven-good injectors needed, got 7");
        assert!(house_reference(&[], "ml/min", &rules).is_err());
    }
}
