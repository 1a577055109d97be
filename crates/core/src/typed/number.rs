//! The digits of a typed text: decimal marks, groups of three, clocks.

use super::TypedError;

/// What an apostrophe between digits means in a field.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Quote {
    /// A decimal mark.
    Decimal,
    /// A decimal mark or minutes: it asks.
    Asks,
}

/// `1:56` or `1:02:03` as seconds; `None` when there is no colon.
pub(super) fn clock(text: &str) -> Option<Result<f64, TypedError>> {
    if !text.contains(':') {
        return None;
    }
    let wrong = || TypedError::NotANumber(text.to_owned());
    let parts: Result<Vec<f64>, _> =
        text.split(':').map(|part| number(part.trim(), Quote::Decimal)).collect();
    Some(match parts {
        Ok(parts) if parts.len() <= 3 && parts.iter().skip(1).all(|p| (0.0..60.0).contains(p)) => {
            Ok(parts.iter().fold(0.0, |sum, part| sum * 60.0 + part))
        }
        Ok(_) | Err(_) => Err(wrong()),
    })
}

/// Digits and unit apart. In ohms a letter may stand for the decimal mark: `0R45`, `4k7`.
pub(super) fn split_unit(text: &str, ohms: bool) -> (String, String) {
    let mark = |c: char| {
        c.is_ascii_digit()
            || matches!(c, '.' | ',' | '-' | '+' | '−' | '\'' | '’' | ' ' | '\u{a0}' | '\u{202f}')
    };
    // The one unit that begins with a digit.
    if let Some(digits) = text.strip_suffix("1/min").filter(|d| d.ends_with(' ')) {
        return (digits.trim().to_owned(), "1/min".to_owned());
    }
    let end = text.find(|c: char| !mark(c)).unwrap_or(text.len());
    let (digits, unit) = text.split_at(end);
    let (digits, unit) = (digits.trim(), unit.trim());
    if ohms && digits.bytes().all(|b| b.is_ascii_digit()) && !digits.is_empty() {
        let symbol = match unit.chars().next() {
            Some('R' | 'r') => Some("ohm"),
            Some('k' | 'K') => Some("kohm"),
            _ => None,
        };
        let after = unit.get(1..).unwrap_or_default();
        if let Some(symbol) = symbol
            && after.bytes().all(|b| b.is_ascii_digit())
        {
            let decimals = if after.is_empty() { "0" } else { after };
            return (format!("{digits}.{decimals}"), symbol.to_owned());
        }
    }
    (digits.to_owned(), unit.to_owned())
}

/// The number in these digits.
pub(super) fn number(digits: &str, quote: Quote) -> Result<f64, TypedError> {
    if digits.is_empty() {
        return Err(TypedError::Empty);
    }
    let wrong = || TypedError::NotANumber(digits.to_owned());
    let plain = digits.replace('−', "-").replace('’', "'").replace(['\u{a0}', '\u{202f}'], " ");
    let (sign, body) = match plain.strip_prefix(['-', '+']) {
        Some(body) => (if plain.starts_with('-') { "-" } else { "" }, body),
        None => ("", plain.as_str()),
    };
    let marks: Vec<char> = body.chars().filter(|c| !c.is_ascii_digit()).collect();
    let (decimal, group) = match marks.as_slice() {
        [] => (None, None),
        [one] => (Some(*one), None),
        // Of several marks the last is the decimal one when it is another; the rest make groups.
        [group @ .., last] if group.iter().all(|g| *g == group[0] && g != last) => {
            (Some(*last), Some(group[0]))
        }
        [first, ..] if marks.iter().all(|mark| mark == first) => (None, Some(*first)),
        _ => return Err(wrong()),
    };
    let (decimal, group) = if decimal == Some(' ') { (None, decimal) } else { (decimal, group) };
    if decimal == Some('-') || decimal == Some('+') {
        return Err(wrong());
    }
    let (whole, decimals) = decimal
        .and_then(|mark| body.split_once(mark).map(|(w, d)| (w, Some(d))))
        .unwrap_or((body, None));
    let whole = match group {
        Some(mark) => grouped(whole, mark).ok_or_else(wrong)?,
        None => whole.to_owned(),
    };
    let dotted = match decimals {
        Some(decimals) => format!("{sign}{whole}.{decimals}"),
        None => format!("{sign}{whole}"),
    };
    let value: f64 = dotted.parse().map_err(|_| wrong())?;
    let three = group.is_none()
        && decimals.is_some_and(|d| d.len() == 3)
        && (1..=3).contains(&whole.len())
        && whole != "0";
    let ambiguous =
        |two: String| TypedError::Ambiguous { text: digits.to_owned(), one: dotted.clone(), two };
    match decimal {
        Some(',' | '\'') if three => return Err(ambiguous(dotted.replace('.', ""))),
        Some('\'') if quote == Quote::Asks => {
            let seconds = decimals.unwrap_or_default();
            return Err(ambiguous(format!("{whole}:{seconds:0>2}")));
        }
        _ => {}
    }
    if value.is_finite() { Ok(value) } else { Err(wrong()) }
}

/// `1.204.000` without its marks, when they stand before each three digits.
fn grouped(whole: &str, mark: char) -> Option<String> {
    if !matches!(mark, '.' | ',' | '\'' | ' ') {
        return None;
    }
    let mut parts = whole.split(mark);
    let first = parts.next().filter(|first| (1..=3).contains(&first.len()))?;
    let rest: Vec<&str> = parts.collect();
    rest.iter().all(|part| part.len() == 3).then(|| format!("{first}{}", rest.concat()))
}
