//! A decimal that slipped: one value about ten times the others, or a tenth of them.
//!
//! Only asked where the others agree among themselves, as a real fault can be that large too.
//!
//! # Source
//! House rule.

/// Ratios that look like a slipped decimal.
const SLIP: std::ops::Range<f64> = 7.0..14.0;
/// How far the others may lie apart and still agree.
const AGREE: f64 = 1.6;

/// Cylinders whose value may have slipped, and how they stand to the others.
pub(crate) fn slipped(values: &[(u32, f64)], at_least: usize) -> Vec<(u32, &'static str)> {
    if values.len() < at_least {
        return Vec::new();
    }
    values
        .iter()
        .filter_map(|(cylinder, value)| {
            let others = values.iter().filter(|(c, _)| c != cylinder).map(|(_, v)| *v);
            let (low, high) =
                others.fold((f64::INFINITY, 0.0_f64), |(low, high), v| (low.min(v), high.max(v)));
            let ratio = value / (low * high).sqrt();
            match () {
                () if low <= 0.0 || high / low >= AGREE => None,
                () if SLIP.contains(&ratio) => Some((*cylinder, "ten times")),
                () if SLIP.contains(&(1.0 / ratio)) => Some((*cylinder, "a tenth of")),
                () => None,
            }
        })
        .collect()
}
