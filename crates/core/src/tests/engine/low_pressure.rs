//! `low_pressure`: the supply before the high-pressure pump or at the rail of a port engine.
//!
//! Judged by [`crate::calc::decide`] against what the maker asks for, as typed; without it the
//! number is kept and nothing is claimed. Units: kPa.
//!
//! # Source
//! JCGM 106 through the calc; the window is the maker's, as typed by the technician.

mod words;

use super::{Example, Found, Outcome, Sheet, Spec, cell};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::caution;
use crate::instrument::InstrumentKind;
use crate::said::Code;
use crate::start::StartId;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::units::{self, KPA, PRESSURE};
use crate::work::Stage;

crate::said::outcomes! {
    FEED_OFF = feed_off (Fault),
    FEED_FALLS = feed_falls,
    FEED_GOOD = feed_good (Good),
}

const GAUGE: Field = Field::from_zero("kPa", 3000.0).usually(15.0, 1500.0);

pub(super) const SPEC: Spec = Spec {
    title: "Low-pressure fuel supply",
    short: "Fuel supply pressure",
    says: words::GAUGE_TEST_PORT_IDLING,
    cautions: &[caution::DEPRESSURISE, caution::VAPOUR, caution::RUNNING],
    work: None,
    start: &[StartId::FuelAboveLow, StartId::Parked, StartId::ExtractionOn],
    minutes: 10,
    tools: words::LOW_PRESSURE_GAUGE_ADAPTER,
    stage: Stage::RuleOut,
    fits: |_| true,
    limit: None,
    instrument: Some(InstrumentKind::Gauge),
    set: &[
        cell("least", "Maker's minimum", GAUGE).told(),
        cell("most", "Maker's maximum", GAUGE).told(),
        cell("idle", "Idling", GAUGE),
        cell("load", "Under load", GAUGE),
        cell("after", "Five minutes after", GAUGE),
    ],
    each: &[],
    why: |c| {
        (c.start || c.load || c.shared).then_some(Why {
            says: words::STARVED_PUMP_MAKES_GOOD,
            spared_by: words::RAIL_PRESSURE_REACHED_HELD,
        })
    },
    property: Property::SHARED,
    first: true,
    recorded: None,
    follows: None,
    example: Example { set: &[("least", 300.0), ("idle", 350.0), ("load", 340.0)], each: &[] },
    table: include_str!("low_pressure.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let (lower, upper) = (sheet.of_set("least"), sheet.of_set("most"));
    let read: Vec<(&str, f64)> = [("idling", "idle"), ("under load", "load")]
        .into_iter()
        .filter_map(|(word, name)| Some((word, sheet.of_set(name)?)))
        .collect();
    let mut found = Found::default();
    if read.is_empty() {
        words::READ_FUEL_SUPPLY_PRESSURE.clone_into(&mut found.headline);
        return Ok(found);
    }
    if lower.is_none() && upper.is_none() {
        words::SAVED_NOT_ASSESSED_ENTER.clone_into(&mut found.headline);
        found.outcome = Some(Outcome::Hint);
        return Ok(found);
    }
    let mut worst = Outcome::Clear;
    for (word, value) in &read {
        let u = sheet.instrument.as_ref().map_or(0.0, |gauge| gauge.u(*value));
        let out =
            decide(&DecideInput { value: *value, u, lower, upper, ..DecideInput::default() })?;
        let says = match out.state {
            LimitState::Within => continue,
            LimitState::Below => words::TOO_LOW_PUMP_FILTER,
            LimitState::Above => words::TOO_HIGH_REGULATOR_BLOCKED,
            LimitState::Undecided => words::INCONCLUSIVE_GAUGE,
        };
        worst = worst.max(match out.state {
            LimitState::Undecided => Outcome::Hint,
            LimitState::Within | LimitState::Below | LimitState::Above => Outcome::Fault,
        });
        found.advice.push(words::kpa(units::reading(*value, KPA), word, says));
    }
    found.headline = match worst {
        Outcome::Fault => words::FUEL_SUPPLY_OUT_LIMITS.to_owned(),
        Outcome::Hint => words::FUEL_SUPPLY_INCONCLUSIVE_TOO.to_owned(),
        Outcome::Clear | Outcome::Open => {
            let numbers: Vec<String> = read
                .iter()
                .map(|(word, v)| format!("{} {PRESSURE} {word}", units::reading(*v, KPA)))
                .collect();
            words::fuel_supply_pressure_within(numbers.join(", "))
        }
    };
    if read.len() == 1 {
        found.advice.push(words::WEAK_PUMP_SHOWS_UNDER.to_owned());
    }
    if let (Some(after), Some((_, idle))) = (sheet.of_set("after"), read.first())
        && after < 0.5 * idle
    {
        found.advice.push(words::falls_kpa_five_minutes(units::reading(after, KPA)));
        found.shared = worst.said(outcomes::FEED_OFF, outcomes::FEED_FALLS, outcomes::FEED_FALLS);
        worst = worst.max(Outcome::Hint);
    } else {
        found.shared = worst.said(outcomes::FEED_OFF, Code::TOO_CLOSE, outcomes::FEED_GOOD);
    }
    found.outcome = Some(worst);
    Ok(found)
}
