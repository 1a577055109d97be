//! A decimal that slipped, or another unit: one value about ten times the others, or as many times
//! as two units of its kind differ.
//!
//! Only asked where the others agree among themselves, as a real fault can be that large too.
//!
//! # Source
//! House rule.

use crate::tests::words;
use crate::units::{self, KPA};

/// Ratios that look like a slipped decimal.
const SLIP: std::ops::Range<f64> = 7.0..14.0;
/// How far the others may lie apart and still agree.
const AGREE: f64 = 1.6;

/// What one value may have been typed in instead: the ratio of the two units, and the question.
const UNITS: &[(&str, f64, &str)] = &[
    ("Ω", 0.001, words::K_TYPED),
    ("Ω", 1000.0, words::M_TYPED),
    ("s", 1.0 / 60.0, words::MINUTES_TYPED_SECONDS),
    ("ml", 0.001, words::LITRES_TYPED_ML),
];
/// How near to the ratio of two units a value has to lie.
const NEAR: f64 = 1.25;

/// Pressures, which are typed in the unit of the workshop and read off gauges of any.
const PRESSURES: [(&str, f64); 4] =
    [("psi", 6.894_757), ("bar", 100.0), ("kPa", 1.0), ("MPa", 1000.0)];

/// What a pressure may have been typed in instead: another unit as the workshop's, or the other way.
fn pressures() -> impl Iterator<Item = (f64, String)> {
    let own = units::chosen(KPA);
    let of_own = PRESSURES.iter().find(|(unit, _)| *unit == own).map_or(1.0, |(_, kpa)| *kpa);
    PRESSURES.iter().filter(move |(unit, _)| *unit != own).flat_map(move |(unit, kpa)| {
        let ratio = of_own / kpa;
        [(ratio, words::typed_as(unit, own)), (1.0 / ratio, words::typed_as(own, unit))]
    })
}

/// The unit that a value was likely typed in, where it lies as far from the others as two units do.
pub(crate) fn other_unit(values: &[(u32, f64)], at: usize, unit: &str) -> Option<String> {
    let (_, value) = *values.get(at)?;
    let others = values.iter().enumerate().filter(|(i, _)| *i != at).map(|(_, (_, v))| *v);
    let (low, high) =
        others.fold((f64::INFINITY, 0.0_f64), |(low, high), v| (low.min(v), high.max(v)));
    if values.len() < 3 || low <= 0.0 || high / low >= AGREE {
        return None;
    }
    let ratio = value / (low * high).sqrt();
    let others = UNITS
        .iter()
        .filter(|(of, ..)| *of == unit)
        .map(|(_, times, asks)| (*times, (*asks).to_owned()));
    let pressures = (unit == KPA).then(pressures).into_iter().flatten();
    others
        .chain(pressures)
        .map(|(times, asks)| ((ratio / times).ln().abs(), asks))
        .filter(|(off, _)| *off < NEAR.ln())
        .min_by(|one, other| one.0.total_cmp(&other.0))
        .map(|(_, asks)| asks)
}

/// Lowest and highest of those that agree: of four or more one may stand apart, which is another fault.
fn agreeing(sorted: &[f64]) -> (f64, f64) {
    let ends = |of: &[f64]| {
        (of.first().copied().unwrap_or(f64::INFINITY), of.last().copied().unwrap_or_default())
    };
    let (low, high) = ends(sorted);
    if sorted.len() < 4 || high / low < AGREE {
        return (low, high);
    }
    let (without_first, without_last) = (&sorted[1..], &sorted[..sorted.len() - 1]);
    let spread = |of: &[f64]| ends(of).1 / ends(of).0;
    ends(if spread(without_first) < spread(without_last) { without_first } else { without_last })
}

/// Cylinders whose value may have slipped, and how they stand to the others.
pub(crate) fn slipped(values: &[(u32, f64)], at_least: usize) -> Vec<(u32, &'static str)> {
    if values.len() < at_least {
        return Vec::new();
    }
    values
        .iter()
        .filter_map(|(cylinder, value)| {
            let mut others: Vec<f64> =
                values.iter().filter(|(c, _)| c != cylinder).map(|(_, v)| *v).collect();
            others.sort_by(f64::total_cmp);
            let (low, high) = agreeing(&others);
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{PressureUnit, Units, within};

    #[test]
    fn one_that_stands_apart_hides_no_slip_and_two_do() {
        let of = |list: &[f64]| -> Vec<u32> {
            let values: Vec<(u32, f64)> = (1..).zip(list.iter().copied()).collect();
            slipped(&values, 4).into_iter().map(|(cylinder, _)| cylinder).collect()
        };
        assert_eq!(of(&[14.5, 14.3, 14.7, 1.45]), [4]);
        assert_eq!(of(&[14.5, 14.3, 5.5, 14.7, 14.1, 1.45]), [6], "a shorted coil beside it");
        assert_eq!(of(&[14.5, 14.3, 5.5, 14.7, 14.1, 14.2]), [0_u32; 0]);
        assert_eq!(of(&[14.5, 5.2, 5.5, 14.7, 1.45]), [0_u32; 0], "nobody agrees");
    }

    #[test]
    fn a_value_as_far_off_as_two_units_are_names_the_unit() {
        let at = |odd: f64, unit: &str| {
            let values = [(1, 300.0), (2, 302.0), (3, odd), (4, 299.0)];
            other_unit(&values, 2, unit)
        };
        let house = Units { pressure: PressureUnit::Bar, ..Units::default() };
        let asks = |found: Option<String>, says: &str| assert_eq!(found.as_deref(), Some(says));
        asks(at(43.5, "kPa"), "psi typed as kPa?");
        asks(at(3.0, "kPa"), "bar typed as kPa?");
        asks(within(house, || at(4350.0, "kPa")), "psi typed as bar?");
        asks(at(0.3, "Ω"), words::K_TYPED);
        assert_eq!(at(180.0, "kPa"), None, "a fault can be that large");
        assert_eq!(at(43.5, "rpm"), None);
        assert_eq!(other_unit(&[(1, 300.0), (2, 43.5)], 1, "kPa"), None, "which of two is odd?");
    }
}
