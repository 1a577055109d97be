//! `pressure_drop`: the petrol balance test, with the drift that its order of taking shows.
//!
//! Numbers by [`crate::calc::pressure_drop`] and [`crate::calc::drift`]. Units: kPa, ms, s. The
//! constant that does not depend on the start pressure is compared; the plain drop stands beside.
//!
//! # Source
//! House rules ([`RuleId::BalanceTolerance`], [`RuleId::BalanceSpread`], [`RuleId::BalanceStart`]).

mod order;
mod words;

use super::residual::{self, residual};
use super::words::{cylinders, missing};
use super::{Example, Found, Lane, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::calc::pressure_drop::{
    DropGrade, DropOutput, DropTest, PressureDropInput, PressureDropOutput, pressure_drop,
};
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::mark::Mark;
use crate::quantity::{figures, signed_percent, trimmed};
use crate::rules::RuleId;
use crate::said::{Code, Lack, Said};
use crate::start::StartId;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::tests::{Because, School};
use crate::typed::Field;
use crate::units::{self, KPA, PRESSURE};
use crate::work::Stage;
use order::Order;

crate::said::outcomes! {
    DROP_LOW = drop_low (Departs),
    DROP_HIGH = drop_high (Departs),
    DROP_RAISED = drop_raised,
    DROP_REDUCED = drop_reduced,
    DROP_ALIKE = drop_alike,
    DROP_NONE = drop_none (Departs),
}

const GAUGE: Field = Field::above_zero("kPa", 1.0, 40_000.0).usually(100.0, 25_000.0);

pub(super) const SPEC: Spec = Spec {
    title: words::BALANCE_PRESSURE_DROP,
    short: "Balance",
    says: words::PRIME_SAME_START_PRESSURE,
    cautions: &[caution::VAPOUR, caution::WASHED, caution::DEPRESSURISE],
    work: Some(Work::PressureDrop),
    start: &[
        StartId::LowPressureProven,
        StartId::ChargerOn,
        StartId::Settled,
        StartId::FuelAboveLow,
    ],
    minutes: 20,
    tools: words::FUEL_PRESSURE_GAUGE_PULSER,
    stage: Stage::OnEngine,
    fits: |fuel| match fuel {
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => true,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: Some(InstrumentKind::Gauge),
    set: &[
        choice("mode", "Pulses used", MODES).retired(),
        cell("pulses", "Pulses", Field::above_zero("", 1.0, 10_000.0)).preset(),
        cell("pulse", "Each of", Field::above_zero("ms", 0.05, 5000.0)).preset(),
        cell("leak", words::RAIL_LEAK_DOWN_PER, Field::from_zero("kPa", 1000.0)),
        cell("bracket_start", words::FIRST_ONE_REPEATED_START, GAUGE),
        cell("bracket_end", words::FIRST_ONE_REPEATED_END, GAUGE),
        cell("static", words::STATIC_FLOW_ONE, Field::above_zero("ml/min", 1.0, 20_000.0))
            .more()
            .preset(),
        cell("bore", "Bore", Field::above_zero("mm", 10.0, 500.0)).more().preset(),
        cell("stroke", "Stroke", Field::above_zero("mm", 10.0, 800.0)).more().preset(),
        cell("ratio", "Compression ratio", Field::above_zero("", 1.5, 40.0)).more().preset(),
    ],
    each: &[
        cell("start", "Start", GAUGE),
        cell("end", "End", GAUGE.usually(10.0, 25_000.0)),
        cell("elapsed", "Waited", Field::from_zero("s", 600.0)).more(),
    ],
    why: |c| {
        (!c.dead || c.clean).then_some(Why {
            says: words::COMPARES_EACH_INJECTORS_FLOW,
            spared_by: words::SET_GOING_BENCH_ANYWAY,
        })
    },
    property: Property::STANDING,
    first: false,
    recorded: None,
    follows: Some(RuleId::BalanceTolerance),
    example: Example {
        set: &[("pulses", 50.0), ("pulse", 6.0)],
        each: &[("start", 300.0, 0.0), ("end", 300.0, -80.0)],
    },
    table: include_str!("pressure_drop.toml"),
    judge,
};

/// How the pulses are given, and what each way shows.
const MODES: &[&str] = &["many short", "some middling", "one long"];

/// Share of the spread that the first one, measured again, may have moved by (house rule).
const DRIFT_SHARE: f64 = 0.3;

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let mut found = Found {
        unit: units::unit(KPA),
        also: "constant",
        window_word: "in line",
        ..Found::default()
    };
    found.residual = residual(sheet)?;
    found.flags.extend(residual::says(&found.residual));
    if found.residual.iter().any(|one| one.assumed) {
        found.advice.push(words::STATIC_FLOW_BORE_STROKE.to_owned());
    }
    let read: Vec<DropTest> = sheet
        .read("end")
        .into_iter()
        .filter_map(|(cylinder, end_kpa)| {
            let start_kpa = sheet.of(cylinder, "start")?;
            Some(DropTest {
                cylinder,
                start_kpa,
                end_kpa,
                elapsed_s: sheet.of(cylinder, "elapsed"),
            })
        })
        .collect();
    let (tests, turned): (Vec<DropTest>, Vec<DropTest>) =
        read.into_iter().partition(|test| test.end_kpa <= test.start_kpa);
    found.lanes.extend(turned.iter().map(turned_round));
    let (Some(pulses), Some(pulse_ms)) = (sheet.of_set("pulses"), sheet.of_set("pulse")) else {
        words::ENTER_MANY_PULSES_LENGTH.clone_into(&mut found.headline);
        return Ok(found);
    };
    if tests.len() < 2 {
        words::READ_START_END_LEAST.clone_into(&mut found.headline);
        found.outcome = found.lanes.first().map(|_| super::Outcome::Hint);
        return Ok(found);
    }
    let rules = &sheet.rules;
    let input = PressureDropInput {
        tests: tests.clone(),
        pulses,
        pulse_ms,
        leak_down_kpa_per_s: sheet.of_set("leak"),
        tolerance: Some(rules.share(RuleId::BalanceTolerance)),
        max_spread_kpa: Some(rules.get(RuleId::BalanceSpread)),
        start_tolerance: Some(rules.share(RuleId::BalanceStart)),
    };
    let out = pressure_drop(&input)?;
    let of = |grade| -> Vec<u32> {
        out.tests.iter().filter(|t| t.grade == grade).map(|t| t.cylinder).collect()
    };
    let (high, low) = (of(DropGrade::High), of(DropGrade::Low));
    found.headline = match (out.settled, high.as_slice(), low.as_slice()) {
        (false, ..) if out.split => words::SET_SPLITS_INTO_TWO.to_owned(),
        (false, ..) => words::TOO_FEW_AGREE_EACH.to_owned(),
        (true, [], []) => words::all_drops_line(tests.len()),
        (true, high, []) => words::too_much_flow(cylinders(high)),
        (true, [], low) => words::too_little_flow(cylinders(low)),
        (true, high, low) => words::too_much_flow_too(cylinders(high), cylinders(low)),
    };
    if !high.is_empty() && !low.is_empty() && out.settled {
        found.advice.push(words::TWO_OFF_OPPOSITE_WAYS.to_owned());
    }
    found.advice.extend(missing(sheet, "end"));
    let off: Vec<u32> = out.tests.iter().filter(|t| !t.start_ok).map(|t| t.cylinder).collect();
    if !off.is_empty() {
        found.advice.push(words::start_pressure_differs_prime(cylinders(&off)));
    }
    let order = Order::of(sheet, &input, &out)?;
    found.advice.extend(order.says());
    if order.suspected() {
        found.doubt = order.says().unwrap_or_default();
    }
    let most = out.tests.iter().map(|one| one.drop_kpa).fold(0.0, f64::max);
    let shut = out.tests.iter().filter(|one| one.drop_kpa < most * (1.0 + NONE)).count();
    if 2 * shut >= out.tests.len() && shut > 0 {
        // Beside those that do not open a sound one seems to pass too much.
        found.doubt = words::HALF_DO_NOT_OPEN.to_owned();
    }
    let ask = order.asks_the_bracket();
    if !(high.is_empty() && low.is_empty() || order.proven()) {
        found.advice.extend(pulses_say(sheet));
    }
    found.schools = schools(sheet, &out, &high, &low, &order);
    found.lanes.extend(out.tests.iter().zip(&tests).enumerate().map(|(i, (one, test))| {
        let lane = lane(sheet, one, test, pulses * pulse_ms / 1000.0);
        let mut lane = order.on(i, lane);
        lane.said =
            lane.said.lacking(Lack::AskTheBracket, ask).lacking(Lack::OrderProven, order.proven());
        lane
    }));
    if order.proven() {
        found.headline = order.headline(&found.lanes);
    }
    Ok(found)
}

/// An end above its start: the two were likely typed the wrong way round.
fn turned_round(test: &DropTest) -> Lane {
    Lane {
        place: test.cylinder,
        mark: Mark::Questioned,
        said: Code::DOUBTFUL.into(),
        word: "swapped?".to_owned(),
        sentence: words::end_kpa_above_start(
            units::reading(test.end_kpa, KPA),
            units::reading(test.start_kpa, KPA),
        ),
        because: vec![Because::says(words::PULSE_ONLY_LOWER_PRESSURE)],
        would_change: vec![words::START_END_CORRECTED_ONE.to_owned()],
        ..Lane::default()
    }
}

/// A pulse so short that opening is a good part of it, ms, and one so long that it is none (workshop
/// rule): between them nothing is said.
const SHORT_MS: f64 = 8.0;
const LONG_MS: f64 = 250.0;

/// What pulses of this count and length show and hide.
fn pulses_say(sheet: &Sheet) -> Option<String> {
    let (pulses, length) = (sheet.of_set("pulses")?, sheet.of_set("pulse")?);
    if length <= SHORT_MS {
        Some(words::MANY_SHORT_PULSES_SHOW.to_owned())
    } else if pulses == 1.0 && length >= LONG_MS {
        Some(words::ONE_LONG_PULSE_SHOWS.to_owned())
    } else {
        None
    }
}

/// Less than this against the others is no flow at all: it does not open (house rule).
const NONE: f64 = -0.85;

fn schools(
    sheet: &Sheet,
    out: &PressureDropOutput,
    high: &[u32],
    low: &[u32],
    order: &Order,
) -> Vec<School> {
    let most = sheet.rules.get(RuleId::BalanceSpread);
    let tolerance = sheet.rules.get(RuleId::BalanceTolerance);
    let ends = |pick: fn(f64, f64) -> bool| {
        out.tests.iter().fold(None::<&DropOutput>, |best, test| match best {
            Some(held) if !pick(test.drop_kpa, held.drop_kpa) => Some(held),
            _ => Some(test),
        })
    };
    let far: Vec<u32> = if out.spread_ok {
        Vec::new()
    } else {
        [ends(|a, b| a > b), ends(|a, b| a < b)].into_iter().flatten().map(|t| t.cylinder).collect()
    };
    let drifted = order.proven();
    let cylinders: Vec<u32> = out.tests.iter().map(|t| t.cylinder).collect();
    let mut schools = vec![
        School {
            name: words::constant_within_others(trimmed(tolerance)),
            condemns: [high, low].concat(),
            looks_at: Vec::new(),
            silent: (!out.settled).then(|| words::OTHERS_NOT_AGREE.to_owned()),
            leads: !drifted,
        },
        School {
            name: format!("Drops within {}", units::said(most, KPA)),
            condemns: Vec::new(),
            looks_at: far,
            silent: None,
            leads: false,
        },
    ];
    if drifted {
        schools.insert(
            0,
            School {
                name: words::SAME_CORRECTED_DRIFT.to_owned(),
                condemns: order.stands_out(&cylinders),
                looks_at: Vec::new(),
                silent: None,
                leads: true,
            },
        );
    }
    schools
}

fn lane(sheet: &Sheet, one: &DropOutput, test: &DropTest, open_s: f64) -> Lane {
    let share = one.vs_reference.map(signed_percent).unwrap_or_default();
    let look = sheet.rules.share(RuleId::BalanceLook);
    let off = one.vs_reference.filter(|share| share.abs() > look);
    let passes = || words::drop_against_others(&share);
    let (mark, code, word, sentence) = match (one.grade, off) {
        (DropGrade::High, _) => (Mark::TooMuch, outcomes::DROP_HIGH, "too high", passes()),
        (DropGrade::Low, _) if one.vs_reference.is_some_and(|share| share < NONE) => {
            (Mark::TooLittle, outcomes::DROP_NONE, "does not open", words::does_not_open(&share))
        }
        (DropGrade::Low, _) => (Mark::TooLittle, outcomes::DROP_LOW, "too low", passes()),
        (DropGrade::Normal, Some(by)) if by > 0.0 => {
            (Mark::Look, outcomes::DROP_RAISED, "look closer", passes())
        }
        (DropGrade::Normal, Some(_)) => {
            (Mark::Look, outcomes::DROP_REDUCED, "look closer", passes())
        }
        (DropGrade::Normal, None) => {
            (Mark::Inside, outcomes::DROP_ALIKE, "in line", words::against_others(&share))
        }
        (DropGrade::Undecided, _) if !one.start_ok => (
            Mark::Questioned,
            Code::DOUBTFUL,
            "start differs",
            words::START_PRESSURE_DIFFERS_OTHERS.to_owned(),
        ),
        (DropGrade::Undecided, _) => (
            Mark::Undecided,
            Code::NO_REFERENCE,
            "inconclusive",
            words::COMPARISON_INCONCLUSIVE.to_owned(),
        ),
    };
    // Both ends of the drop are read off the same gauge.
    let gauge =
        sheet.instrument.as_ref().map(|gauge| gauge.u(test.end_kpa) * std::f64::consts::SQRT_2);
    let said = match (one.vs_reference, gauge) {
        (Some(share), Some(u)) if one.drop_kpa > 0.0 => {
            Said::new(code).off(share, u * (1.0 + share) / one.drop_kpa)
        }
        (_, _) => Said::new(code),
    };
    let mut because = vec![
        Because::shows(
            "The plain drop",
            format!(
                "{} − {} = {} {PRESSURE}",
                units::fixed(test.start_kpa, 1, KPA),
                units::fixed(test.end_kpa, 1, KPA),
                units::fixed(one.drop_kpa, 1, KPA)
            ),
        ),
        Because::shows(
            words::CONSTANT_INDEPENDENT_START_PRESSURE,
            format!(
                "2 × (√{} − √{}) ÷ {} s = {:.3}, in kPa",
                figures(test.start_kpa),
                figures(test.end_kpa),
                trimmed(open_s),
                one.constant
            ),
        ),
    ];
    let used = [RuleId::BalanceTolerance, RuleId::BalanceSpread, RuleId::BalanceStart];
    because.extend(sheet.rules.reasons(&used).into_iter().map(Because::says));
    Lane {
        place: one.cylinder,
        mark,
        said,
        word: word.to_owned(),
        value: Some(one.drop_kpa),
        shown: units::fixed(one.drop_kpa, 1, KPA),
        also: format!("{:.2}", one.constant),
        share: one.vs_reference,
        sentence,
        because,
        would_change: match mark {
            Mark::Questioned => {
                vec![words::PRIME_SAME_START_PRESSURE_REPEAT.to_owned()]
            }
            Mark::TooMuch => vec![words::LEAK_CHECK_DRIPPING_INJECTOR.to_owned()],
            Mark::TooLittle => {
                vec![words::SWAP_NEIGHBOUR_FOLLOWS_INJECTOR.to_owned()]
            }
            Mark::Look => vec![words::SAME_SET_AGAIN_BENCH.to_owned()],
            Mark::Inside | Mark::Undecided | Mark::NotMeasured => Vec::new(),
        },
        ..Lane::default()
    }
}
