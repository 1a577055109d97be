//! `rail_pressure_hold`: the pressure that stays in the rail after switching off, minute by minute.
//!
//! With the maker's least at a minute: judged by [`crate::calc::decide`] at that minute. Without
//! one it is compared over time: a rail that gives way at first and then stands has closed, one
//! that still falls at the end as fast, in proportion, as at the beginning has a leak. Either way it says that
//! pressure is lost and not where: pump valve, relief valve and every injector tip let it go alike.
//! Units: kPa, minutes.
//!
//! # Source
//! JCGM 106 through the calc; the limit is the maker's, as typed; house rules `STANDS` and
//! `FALLS_ON`.

mod words;

use super::{Example, Found, Outcome, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::caution;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::quantity::trimmed;
use crate::said::Code;
use crate::start::StartId;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::units::{self, KPA};
use crate::work::{Condition, Stage};

crate::said::outcomes! {
    HOLD_LOST = hold_lost,
    HOLD_FALLS_ON = hold_falls_on,
    HOLD_STANDS = hold_stands,
}

/// A rail that loses less than this share of its pressure in a minute stands.
const STANDS: f64 = 0.02;
/// At the end it still falls at this share of its first pace, in proportion: it goes on.
const FALLS_ON: f64 = 0.5;

/// From a port rail of 300 kPa that is empty at the end to a diesel rail: no number of it is unusual.
const PRESSURE: Field = Field::from_zero("kPa", 400_000.0);
/// Cell and minute.
const MINUTES: [(&str, f64); 5] =
    [("off", 0.0), ("after_1", 1.0), ("after_3", 3.0), ("after_5", 5.0), ("after_10", 10.0)];

pub(super) const SPEC: Spec = Spec {
    title: words::RAIL_PRESSURE_AFTER_SWITCHING,
    short: "Pressure hold",
    says: words::SWITCH_OFF_LEAVE_RAIL,
    cautions: &[caution::RUNNING, caution::HOT],
    work: None,
    start: &[StartId::Warm, StartId::Parked],
    minutes: 12,
    tools: words::SCAN_TOOL_GAUGE_TEST,
    stage: Stage::RuleOut,
    fits: |fuel| match fuel {
        FuelSystem::PetrolPort
        | FuelSystem::PetrolDirect
        | FuelSystem::DieselSolenoid
        | FuelSystem::DieselPiezo => true,
        FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: Some(InstrumentKind::Gauge),
    set: &[
        cell("least", "Maker's minimum", PRESSURE).told(),
        choice("at", "Valid after", &["1 minute", "3 minutes", "5 minutes", "10 minutes"]),
        cell("off", "Switched off", PRESSURE),
        cell("after_1", "After 1 minute", PRESSURE),
        cell("after_3", "After 3 minutes", PRESSURE),
        cell("after_5", "After 5 minutes", PRESSURE),
        cell("after_10", "After 10 minutes", PRESSURE),
    ],
    each: &[],
    why: |c| {
        let long_crank = c.start && !c.dead;
        (long_crank || c.when(Condition::AfterStanding)).then_some(Why {
            says: words::RAIL_EMPTIES_WHILE_PARKED,
            spared_by: words::CRANK_JUST_LONG_AFTER,
        })
    },
    property: Property::SHARED,
    first: false,
    recorded: None,
    follows: None,
    example: Example {
        set: &[
            ("least", 200.0),
            ("at", 2.0),
            ("off", 300.0),
            ("after_1", 280.0),
            ("after_5", 262.0),
        ],
        each: &[],
    },
    table: include_str!("rail_pressure_hold.toml"),
    judge,
};

/// Minute and pressure of each cell that was read.
fn read(sheet: &Sheet) -> Vec<(f64, f64)> {
    let of = |(name, minute): &(&str, f64)| Some((*minute, sheet.of_set(name)?));
    MINUTES.iter().filter_map(of).collect()
}

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read = read(sheet);
    let mut found = Found { unit: units::unit(KPA), ..Found::default() };
    let (Some(first), Some(last)) = (read.first(), read.last()) else {
        words::READ_RAIL_PRESSURE_SWITCH.clone_into(&mut found.headline);
        return Ok(found);
    };
    if first.0 > 0.0 || last.0 <= first.0 {
        words::READ_SWITCH_OFF_AGAIN.clone_into(&mut found.headline);
        return Ok(found);
    }
    let rising = read.windows(2).find(|pair| pair[1].1 > pair[0].1 * (1.0 + STANDS));
    if let Some(pair) = rising {
        // Fuel that warms behind closed valves raises it a little; more than that is another reading.
        found.flags.push(words::kpa_after_more_before(
            units::reading(pair[1].1, KPA),
            minutes(pair[1].0),
            units::reading(pair[0].1, KPA),
        ));
    }
    let limit = sheet.of_set("least").zip(sheet.of_set("at"));
    let (code, outcome, headline) = match limit {
        Some((least, at)) => against(sheet, &read, least, MINUTES[at as usize + 1])?,
        None => over_time(&read),
    };
    found.headline = headline;
    found.outcome = Some(outcome);
    found.shared = Some(code.into());
    let kept: Vec<String> = read
        .iter()
        .map(|(at, kpa)| format!("{} after {} min", units::reading(*kpa, KPA), trimmed(*at)))
        .collect();
    found.advice.push(words::held_kpa(kept.join(", ")));
    if code == outcomes::HOLD_LOST || code == outcomes::HOLD_FALLS_ON {
        found.advice.push(words::PRESSURE_LOST_BUT_NOT.to_owned());
    }
    Ok(found)
}

/// Against the maker's least at its minute.
fn against(
    sheet: &Sheet,
    read: &[(f64, f64)],
    least: f64,
    (_, minute): (&str, f64),
) -> Result<(Code, Outcome, String), CalcError> {
    let Some((_, value)) = read.iter().find(|(at, _)| *at == minute) else {
        let says = words::limit_read(minutes(minute));
        return Ok((Code::NOT_READ, Outcome::Open, says));
    };
    let u = sheet.instrument.as_ref().map_or(0.0, |gauge| gauge.u(*value));
    let out =
        decide(&DecideInput { value: *value, u, lower: Some(least), ..DecideInput::default() })?;
    let (kept, after) = (units::reading(*value, KPA), minutes(minute));
    Ok(match out.state {
        LimitState::Below => (
            outcomes::HOLD_LOST,
            Outcome::Hint,
            words::kpa_after_required_rail(&kept, &after, units::number(least, KPA)),
        ),
        LimitState::Undecided => (
            Code::TOO_CLOSE,
            Outcome::Hint,
            words::kpa_after_inconclusive_too(&kept, &after, units::number(least, KPA)),
        ),
        LimitState::Within | LimitState::Above => {
            (outcomes::HOLD_STANDS, Outcome::Clear, words::kpa_after_required(&kept, &after))
        }
    })
}

/// Without a limit: whether it still falls at the end as it did at the beginning.
fn over_time(read: &[(f64, f64)]) -> (Code, Outcome, String) {
    let pace = |pair: &[(f64, f64)]| match pair {
        [(from, before), (to, after)] if *before > 0.0 => (before - after) / before / (to - from),
        _ => 1.0,
    };
    let paces: Vec<f64> = read.windows(2).map(pace).collect();
    let (Some(first), Some(last)) = (paces.first(), paces.last()) else {
        return (Code::NOT_READ, Outcome::Open, String::new());
    };
    if *last <= STANDS {
        let says = words::PRESSURE_FALLS_FIRST_HOLDS.to_owned();
        let says = if *first <= STANDS { words::PRESSURE_HOLDS.to_owned() } else { says };
        return (outcomes::HOLD_STANDS, Outcome::Clear, says);
    }
    if paces.len() < 2 {
        let says = words::PRESSURE_FALLS_ANOTHER_READING.to_owned();
        return (Code::FEW_RUNS, Outcome::Hint, says);
    }
    if *last >= FALLS_ON * first {
        let says = words::still_falling_min_end(100.0 * last);
        return (outcomes::HOLD_FALLS_ON, Outcome::Hint, says);
    }
    let says = words::FALLING_MORE_SLOWLY_NOW.to_owned();
    (Code::TOO_CLOSE, Outcome::Hint, says)
}

fn minutes(minute: f64) -> String {
    format!("{} {}", trimmed(minute), if minute == 1.0 { "minute" } else { "minutes" })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn hold(set: &[(&str, f64)]) -> Found {
        let set = set.iter().map(|(name, value)| ((*name).to_owned(), *value)).collect();
        judge(&Sheet { cylinders: vec![1, 2, 3], set, ..Sheet::default() }).unwrap()
    }

    fn code(set: &[(&str, f64)]) -> Code {
        hold(set).shared.map_or(Code::NOT_READ, |said| said.code)
    }

    #[test]
    fn without_a_limit_a_fall_that_goes_on_is_told_from_a_valve_that_closes() {
        let fall = |after: [f64; 4]| {
            let cells = MINUTES.map(|(name, _)| name);
            let read: Vec<(&str, f64)> =
                cells.into_iter().zip([300.0].into_iter().chain(after)).collect();
            code(&read)
        };
        assert_eq!(fall([260.0, 256.0, 255.0, 253.0]), outcomes::HOLD_STANDS);
        // 12 % a minute throughout.
        assert_eq!(fall([264.0, 204.0, 158.0, 83.0]), outcomes::HOLD_FALLS_ON);
        assert_eq!(fall([150.0, 110.0, 95.0, 80.0]), Code::TOO_CLOSE);
        assert_eq!(fall([300.0, 300.0, 300.0, 300.0]), outcomes::HOLD_STANDS);
        assert_eq!(fall([0.0, 0.0, 0.0, 0.0]), outcomes::HOLD_FALLS_ON, "lost within the minute");
        assert_eq!(code(&[("off", 300.0), ("after_1", 200.0)]), Code::FEW_RUNS);
    }

    #[test]
    fn the_makers_limit_decides_at_its_minute_and_not_before_it_was_read() {
        let limit = [("least", 200.0), ("at", 2.0), ("off", 300.0)];
        let with = |after_5: &[(&str, f64)]| code(&[&limit[..], after_5].concat());
        assert_eq!(with(&[("after_1", 120.0)]), Code::NOT_READ, "the limit is one after 5 minutes");
        assert_eq!(with(&[("after_5", 180.0)]), outcomes::HOLD_LOST);
        assert_eq!(with(&[("after_5", 240.0)]), outcomes::HOLD_STANDS);
        assert!(hold(&[("after_1", 120.0)]).shared.is_none(), "nothing to compare with");
        let again = hold(&[("off", 300.0), ("after_1", 100.0), ("after_3", 290.0)]);
        assert!(again.flags[0].ends_with("was it switched on again?"), "{:?}", again.flags);
    }
}
