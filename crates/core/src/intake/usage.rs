//! Hours or distance, as told at the counter: read with whatever unit it came in.

use crate::units::{self, DistanceUnit, KM};

/// Hours or distance, as told at the counter.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Usage {
    /// Hours.
    Hours(f64),
    /// Kilometres.
    Km(f64),
}

/// Digits with groups of three, or with a decimal: `1,402.6`, `98.000`, `212 000`, `1402.6`.
fn read_number(text: &str) -> Option<f64> {
    let text: String = text.chars().filter(|c| !c.is_whitespace() && *c != '\'').collect();
    let separators: Vec<usize> =
        text.char_indices().filter(|(_, c)| *c == '.' || *c == ',').map(|(at, _)| at).collect();
    // The last separator is a decimal unless exactly three digits follow it and no other kind does.
    let grouped = |at: usize| text.len() - at - 1 == 3;
    let decimal = separators.last().copied().filter(|at| {
        let mixed = separators.iter().any(|other| text.as_bytes()[*other] != text.as_bytes()[*at]);
        mixed || !grouped(*at)
    });
    let plain: String = text
        .char_indices()
        .filter_map(|(at, c)| match c {
            '.' | ',' if Some(at) == decimal => Some('.'),
            '.' | ',' => None,
            other => Some(other),
        })
        .collect();
    plain.parse().ok().filter(|value: &f64| value.is_finite())
}

/// Reads `11,800 h`, `212 000 km`, `98.000 miles`, `1402.6 h`: a number however it is grouped, then a unit.
fn read(text: &str) -> Option<Usage> {
    let text = text.trim().to_lowercase();
    let from = text.find(|c: char| c.is_ascii_digit())?;
    let number = &text[from..];
    let to = number.find(|c: char| c.is_alphabetic()).unwrap_or(number.len());
    let value = read_number(number[..to].trim())?;
    let unit = number[to..].trim();
    if unit.starts_with("km") || unit.starts_with("kilom") {
        Some(Usage::Km(value))
    } else if unit.starts_with("mi") {
        Some(Usage::Km(value * units::KM_PER_MILE))
    } else if unit.starts_with('h') || unit.starts_with("std") || unit.starts_with("operating") {
        Some(Usage::Hours(value))
    } else {
        None
    }
}

impl Usage {
    /// As told; none when no number with its unit can be read.
    pub fn read(text: &str) -> Option<Self> {
        read(text)
    }
}

/// As told, with the workshop's own unit beside a distance that was told in another one.
pub(super) fn said(text: &str) -> String {
    let own = units::around().distance;
    let told_in_miles = text.to_lowercase().contains("mi");
    match read(text) {
        Some(Usage::Km(km)) if told_in_miles != (own == DistanceUnit::Mile) => {
            let there = units::value(km, KM);
            let rounded = (there / 100.0).round() * 100.0;
            format!("{text} ({} {})", grouped(rounded), units::unit(KM))
        }
        Some(Usage::Km(_) | Usage::Hours(_)) | None => text.to_owned(),
    }
}

/// Thousands apart, as distances are read.
fn grouped(value: f64) -> String {
    let (thousands, rest) = ((value / 1000.0).floor(), value % 1000.0);
    if thousands < 1.0 { format!("{rest:.0}") } else { format!("{thousands:.0} {rest:03.0}") }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{Units, within};

    #[test]
    fn usage_is_read_as_it_is_told() {
        assert_eq!(read("11,800 h"), Some(Usage::Hours(11_800.0)));
        assert_eq!(read("about 212 000 km"), Some(Usage::Km(212_000.0)));
        assert_eq!(read("100.000 miles"), Some(Usage::Km(100_000.0 * units::KM_PER_MILE)));
        assert_eq!(read("1402.6 h"), Some(Usage::Hours(1_402.6)));
        assert_eq!(read("1,402.6 h"), Some(Usage::Hours(1_402.6)));
        assert_eq!(read("1.402,6 h"), Some(Usage::Hours(1_402.6)));
        assert_eq!(read("1 402 h"), Some(Usage::Hours(1_402.0)));
        assert_eq!(read("a lot"), None);
        assert_eq!(read("7 summers"), None, "a unit that says nothing");
    }

    #[test]
    fn a_distance_is_said_in_the_unit_of_the_workshop_beside_what_was_told() {
        let miles = Units { distance: DistanceUnit::Mile, ..Units::default() };
        for (told, here, there) in [
            ("212 000 km", "212 000 km", "212 000 km (131 700 mi)"),
            ("98.000 miles", "98.000 miles (157 700 km)", "98.000 miles"),
            ("11,800 h", "11,800 h", "11,800 h"),
            ("a lot", "a lot", "a lot"),
        ] {
            assert_eq!(said(told), here);
            assert_eq!(within(miles, || said(told)), there);
        }
    }
}
