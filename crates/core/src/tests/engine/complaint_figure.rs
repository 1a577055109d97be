//! `complaint_figure`: what is complained of, where it is a number: read before the work and again after
//! it, the second reading is the proof.
//!
//! Nothing is judged by one reading: it is kept as found. Every figure is better the lower it is. Units:
//! 1/m (absorption coefficient of the smoke), rpm, l/100km or l/h, s.
//!
//! # Source
//! House rule.

mod words;

use super::{Example, Found, Outcome, Sheet, Spec, cell};
use crate::calc::CalcError;
use crate::caution;
use crate::quantity::trimmed;
use crate::tests::cell::Holds;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::work::Stage;

crate::said::outcomes! {}

pub(super) const SPEC: Spec = Spec {
    title: words::TITLE,
    short: "Complaint figure",
    says: words::READ_BEFORE_AND_AFTER,
    cautions: &[caution::RUNNING, caution::HOT],
    work: None,
    start: &[],
    minutes: 10,
    tools: words::WHATEVER_SHOWS_IT,
    stage: Stage::RuleOut,
    fits: |_| true,
    limit: None,
    instrument: None,
    set: &[
        cell("smoke", "Smoke", Field::from_zero("1/m", 20.0)),
        cell("idle", words::IDLE_SWINGS, Field::from_zero("rpm", 1000.0)),
        cell("consumption", "Consumption", Field::from_zero("l/100km", 200.0)),
        cell("hourly", "Consumption per hour", Field::from_zero("l/h", 1000.0)),
        cell("start", "Time to start", Field::from_zero("s", 120.0)),
    ],
    each: &[],
    why: |_| None,
    property: Property::SHARED,
    first: false,
    recorded: None,
    follows: None,
    example: Example { set: &[("smoke", 0.4)], each: &[] },
    table: include_str!("complaint_figure.toml"),
    judge,
};

/// Cells that hold a figure, each with its name and its unit as shown.
pub(crate) fn figures() -> impl Iterator<Item = (&'static str, &'static str, &'static str)> {
    SPEC.set.iter().filter_map(|cell| match cell.holds {
        Holds::Number(field) => Some((cell.name, cell.word, field.unit())),
        Holds::Choice(_) | Holds::Words => None,
    })
}

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read: Vec<String> = figures()
        .filter_map(|(name, word, unit)| {
            Some(words::figure(word, &trimmed(sheet.of_set(name)?), unit))
        })
        .collect();
    let mut found = Found::default();
    if read.is_empty() {
        words::ENTER_FIGURE.clone_into(&mut found.headline);
        return Ok(found);
    }
    found.headline = words::recorded(&read);
    found.advice.push(words::READ_IT_AGAIN.to_owned());
    found.outcome = Some(Outcome::Clear);
    Ok(found)
}
