//! A date as people write it.
//!
//! Year, month, day as in a file; day, month, year with points or spaces; months by their names. Two
//! numbers between strokes are day first in one country and month first in another: what can be read
//! both ways asks.
//!
//! # Source
//! ISO 8601 for the first form; the others are house rule.

use super::TypedError;
use jiff::civil::Date;

/// Names of the months as far as three letters tell them apart.
const MONTHS: [&str; 12] =
    ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

/// Reads a date.
///
/// # Errors
/// [`TypedError::Date`] for what is none, [`TypedError::Ambiguous`] for what could be two.
///
/// ```
/// use cobaltine_core::typed::date;
/// let june = jiff::civil::date(2031, 6, 30);
/// for typed in ["2031-06-30", "30.6.2031", "30/06/31", "6/30/2031", "30 June 2031", "Jun 30, 2031"] {
///     assert_eq!(date(typed), Ok(june), "{typed}");
/// }
/// assert!(date("6/7/2031").is_err(), "the sixth of July, or the seventh of June");
/// ```
pub fn date(text: &str) -> Result<Date, TypedError> {
    let wrong = || TypedError::Date(text.trim().to_owned());
    if let Ok(date) = text.trim().parse() {
        return Ok(date);
    }
    let parts: Vec<&str> =
        text.split(|c: char| !c.is_alphanumeric()).filter(|part| !part.is_empty()).collect();
    let [one, two, three] = parts[..] else { return Err(wrong()) };
    let number = |part: &str| part.trim_end_matches(|c: char| c.is_ascii_alphabetic()).parse().ok();
    let on = |year: &str, month: Option<i16>, day: Option<i16>| {
        let (year, month, day) = (full_year(year)?, month?, day?);
        Date::new(year, i8::try_from(month).ok()?, i8::try_from(day).ok()?).ok()
    };
    if one.len() == 4 {
        return on(one, number(two), number(three)).ok_or_else(wrong);
    }
    if let Some(month) = month(one) {
        return on(three, Some(month), number(two)).ok_or_else(wrong);
    }
    if let Some(month) = month(two) {
        return on(three, Some(month), number(one)).ok_or_else(wrong);
    }
    let day_first = on(three, number(two), number(one));
    // A point stands after the day wherever points are written.
    let month_first = on(three, number(one), number(two)).filter(|_| !text.contains('.'));
    match (day_first, month_first) {
        (Some(one), Some(other)) if one != other => Err(TypedError::Ambiguous {
            text: text.trim().to_owned(),
            one: one.strftime("%-d %b %Y").to_string(),
            two: other.strftime("%-d %b %Y").to_string(),
        }),
        (Some(date), _) | (None, Some(date)) => Ok(date),
        (None, None) => Err(wrong()),
    }
}

fn full_year(text: &str) -> Option<i16> {
    let year: i16 = text.parse().ok()?;
    match text.len() {
        2 => Some(2000 + year),
        4 => Some(year),
        _ => None,
    }
}

fn month(text: &str) -> Option<i16> {
    let name = text.get(..3)?.to_lowercase();
    MONTHS.iter().position(|month| *month == name).map(|at| at as i16 + 1)
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::civil;

    #[test]
    fn what_is_no_day_is_refused_and_what_could_be_two_asks() {
        assert_eq!(date(" 1st Mar 2027 "), Ok(civil::date(2027, 3, 1)));
        assert_eq!(date("3.4.2027"), Ok(civil::date(2027, 4, 3)), "a point: day first");
        assert_eq!(date("5/5/2027"), Ok(civil::date(2027, 5, 5)), "the same either way");
        for none in ["", "31.2.2027", "13/13/2027", "next week", "2027", "1.2.3.4", "é1.2.2027"] {
            assert!(matches!(date(none), Err(TypedError::Date(_))), "{none}");
        }
        let Err(TypedError::Ambiguous { one, two, .. }) = date("6/7/2031") else {
            panic!("it has to ask")
        };
        assert_eq!((&*one, &*two), ("6 Jul 2031", "7 Jun 2031"));
    }
}
