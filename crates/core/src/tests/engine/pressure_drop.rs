//! `pressure_drop`: the petrol balance test, with the drift that its order of taking shows.
//!
//! Numbers by [`crate::calc::pressure_drop`] and [`crate::calc::drift`]. Units: kPa, ms, s. The
//! constant that does not depend on the start pressure is compared; the plain drop stands beside.
//!
//! # Source
//! House rules ([`RuleId::BalanceTolerance`], [`RuleId::BalanceSpread`], [`RuleId::BalanceStart`]).

mod order;

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
use crate::tests::{Because, School};
use crate::typed::Field;
use crate::work::Stage;
use order::Order;

crate::said::outcomes! {
    DROP_LOW = drop_low (Departs),
    DROP_HIGH = drop_high (Departs),
    DROP_RAISED = drop_raised,
    DROP_REDUCED = drop_reduced,
    DROP_ALIKE = drop_alike,
}

const PRESSURE: Field = Field::above_zero("kPa", 1.0, 40_000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Balance by pressure drop",
    short: "Balance",
    says: "Prime to the same start, pulse one injector a fixed number of times, note start and end; the first one again at the last.",
    cautions: &[caution::VAPOUR, caution::WASHED, caution::DEPRESSURISE],
    work: Some(Work::PressureDrop),
    start: &[
        StartId::LowPressureProven,
        StartId::ChargerOn,
        StartId::Settled,
        StartId::FuelAboveLow,
    ],
    minutes: 20,
    tools: "Fuel pressure gauge, pulser, rags",
    stage: Stage::OnEngine,
    fits: |fuel| match fuel {
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => true,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: Some(InstrumentKind::Gauge),
    set: &[
        choice("mode", "Pulse mode", MODES),
        cell("pulses", "Pulses", Field::above_zero("", 1.0, 10_000.0)),
        cell("pulse", "Each of", Field::above_zero("ms", 0.05, 5000.0)),
        cell("leak", "Rail loses by itself, a second", Field::from_zero("kPa", 1000.0)),
        cell("bracket_start", "First one again, start", PRESSURE),
        cell("bracket_end", "First one again, end", PRESSURE),
        cell("static", "Static flow of one", Field::above_zero("ml/min", 1.0, 20_000.0)).more(),
        cell("bore", "Bore", Field::above_zero("mm", 10.0, 500.0)).more(),
        cell("stroke", "Stroke", Field::above_zero("mm", 10.0, 800.0)).more(),
        cell("ratio", "Compression ratio", Field::above_zero("", 1.5, 40.0)).more(),
    ],
    each: &[
        cell("start", "Start", PRESSURE),
        cell("end", "End", PRESSURE),
        cell("elapsed", "Waited", Field::from_zero("s", 600.0)).more(),
    ],
    why: |c| {
        (!c.dead || c.clean).then_some(Why {
            says: "Each injector's own flow against the others, in place.",
            spared_by: "The set going to the bench anyway.",
        })
    },
    first: false,
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
    let mut found =
        Found { unit: "kPa drop", also: "constant", window_word: "alike", ..Found::default() };
    found.residual = residual(sheet)?;
    found.flags.extend(residual::says(&found.residual));
    if found.residual.iter().any(|one| one.assumed) {
        found.advice.push(
            "Static flow, bore, stroke or compression ratio missing: the fuel on the pistons is added up by a small budget."
                .to_owned(),
        );
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
        "Say how many pulses of which length each injector gets.".clone_into(&mut found.headline);
        return Ok(found);
    };
    if tests.len() < 2 {
        "Read start and end of at least two injectors to compare them."
            .clone_into(&mut found.headline);
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
        (false, ..) if out.split => {
            "The set falls into two camps: comparison cannot say which is right.".to_owned()
        }
        (false, ..) => "Too few agree with each other to compare.".to_owned(),
        (true, [], []) => format!("All {} drop alike.", tests.len()),
        (true, high, []) => format!("{}: too much flow.", cylinders(high)),
        (true, [], low) => format!("{}: too little flow.", cylinders(low)),
        (true, high, low) => {
            format!("{}: too much flow. {}: too little flow.", cylinders(high), cylinders(low))
        }
    };
    if !high.is_empty() && !low.is_empty() && out.settled {
        found.advice.push(
            "Two off in opposite ways: find the source of the contamination (tank, filter, rail) before new parts go in."
                .to_owned(),
        );
    }
    found.advice.extend(missing(sheet, "end"));
    let off: Vec<u32> = out.tests.iter().filter(|t| !t.start_ok).map(|t| t.cylinder).collect();
    if !off.is_empty() {
        found.advice.push(format!(
            "{} did not start like the others: prime again and repeat.",
            cylinders(&off)
        ));
    }
    let order = Order::of(sheet, &input, &out)?;
    found.advice.extend(order.says());
    if order.suspected() {
        found.doubt = order.says().unwrap_or_default();
    }
    let ask = order.asks_the_bracket();
    if !(high.is_empty() && low.is_empty() || order.proven()) {
        found.advice.extend(mode_says(sheet));
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
        word: "turned round?".to_owned(),
        sentence: format!(
            "The end of {} kPa lies above the start of {} kPa: were they typed the wrong way round?",
            figures(test.end_kpa),
            figures(test.start_kpa)
        ),
        because: vec![Because::says("A pulse can only lower the pressure.")],
        would_change: vec!["Start and end corrected, or this one pulsed again.".to_owned()],
        ..Lane::default()
    }
}

/// What the way of pulsing shows and hides.
fn mode_says(sheet: &Sheet) -> Option<String> {
    let says = match sheet.of_set("mode")? as usize {
        0 => {
            "Many short pulses show opening as much as flow: a slow opener looks restricted here; one long pulse tells them apart."
        }
        2 => {
            "One long pulse shows flow alone: a slow opener looks good here; many short pulses tell."
        }
        _ => return None,
    };
    Some(says.to_owned())
}

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
            name: format!("Constant within {} % of the others", trimmed(tolerance)),
            condemns: [high, low].concat(),
            looks_at: Vec::new(),
            silent: (!out.settled).then(|| "They do not agree among themselves.".to_owned()),
            leads: !drifted,
        },
        School {
            name: format!("Drops within {} kPa", trimmed(most)),
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
                name: "The same with the drift taken out".to_owned(),
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
    let passes = || format!("Passes {share} against the others.");
    let (mark, code, word, sentence) = match (one.grade, off) {
        (DropGrade::High, _) => (Mark::TooMuch, outcomes::DROP_HIGH, "too much", passes()),
        (DropGrade::Low, _) => (Mark::TooLittle, outcomes::DROP_LOW, "too little", passes()),
        (DropGrade::Normal, Some(by)) if by > 0.0 => {
            (Mark::Look, outcomes::DROP_RAISED, "look closer", passes())
        }
        (DropGrade::Normal, Some(_)) => {
            (Mark::Look, outcomes::DROP_REDUCED, "look closer", passes())
        }
        (DropGrade::Normal, None) => {
            (Mark::Inside, outcomes::DROP_ALIKE, "alike", format!("{share} against the others."))
        }
        (DropGrade::Undecided, _) if !one.start_ok => (
            Mark::Questioned,
            Code::DOUBTFUL,
            "start off",
            "It did not start like the others.".to_owned(),
        ),
        (DropGrade::Undecided, _) => {
            (Mark::Undecided, Code::NO_REFERENCE, "undecided", "Comparison cannot tell.".to_owned())
        }
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
                "{} − {} = {:.1} kPa",
                figures(test.start_kpa),
                figures(test.end_kpa),
                one.drop_kpa
            ),
        ),
        Because::shows(
            "The constant, which the start pressure does not move",
            format!(
                "2 × (√{} − √{}) ÷ {} s = {:.3}",
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
        shown: format!("{:.1}", one.drop_kpa),
        also: format!("{:.2}", one.constant),
        share: one.vs_reference,
        sentence,
        because,
        would_change: match mark {
            Mark::Questioned => vec!["Prime to the same start and repeat this one.".to_owned()],
            Mark::TooMuch => vec![
                "The leak check: a closed injector that drips passes too much here as well."
                    .to_owned(),
            ],
            Mark::TooLittle => {
                vec!["A swap with a neighbour: if it follows, it is the injector.".to_owned()]
            }
            Mark::Look => vec!["The same set once more, or the bench.".to_owned()],
            Mark::Inside | Mark::Undecided | Mark::NotMeasured => Vec::new(),
        },
        ..Lane::default()
    }
}
