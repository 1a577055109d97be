//! `pressure_drop`: the petrol balance test, with the drift that its order of taking shows.
//!
//! Numbers by [`crate::calc::pressure_drop`] and [`crate::calc::drift`]. Units: kPa, ms, s. The
//! constant that does not depend on the start pressure is compared; the plain drop stands beside.
//!
//! # Source
//! House rules ([`RuleId::BalanceTolerance`], [`RuleId::BalanceSpread`], [`RuleId::BalanceStart`]).

use super::words::{cylinders, missing};
use super::{Found, Sheet, SheetLane, Spec, cell};
use crate::calc::CalcError;
use crate::calc::drift::{DriftInput, drift};
use crate::calc::pressure_drop::{
    DropGrade, DropOutput, DropTest, PressureDropInput, PressureDropOutput, pressure_drop,
};
use crate::checks::{Because, School};
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::mark::Mark;
use crate::quantity::{signed_percent, trimmed};
use crate::rules::RuleId;
use crate::typed::Field;
use crate::work::Stage;

const PRESSURE: Field = Field::above_zero("kPa", 1.0, 40_000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Balance by pressure drop",
    short: "Balance",
    says: "Prime to the same start, pulse one injector a fixed number of times, note start and end; the first one again at the last.",
    caution: "Petrol vapour: ventilation, no ignition, extinguisher, rags. Pulsing in place leaves raw fuel on the pistons: clear-flood crank before starting, plugs out if in doubt. Trained people only.",
    stage: Stage::OnEngine,
    fits: |fuel| match fuel {
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => true,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: Some(InstrumentKind::Gauge),
    set: &[
        cell("pulses", "Pulses", Field::above_zero("", 1.0, 10_000.0)),
        cell("pulse", "Each of", Field::above_zero("ms", 0.05, 5000.0)),
        cell("leak", "Rail loses by itself, a second", Field::from_zero("kPa", 1000.0)),
        cell("bracket_start", "First one again, start", PRESSURE),
        cell("bracket_end", "First one again, end", PRESSURE),
    ],
    each: &[cell("start", "Start", PRESSURE), cell("end", "End", PRESSURE)],
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let mut found = Found { unit: "kPa drop", window_word: "alike", ..Found::default() };
    let tests: Vec<DropTest> = sheet
        .read("end")
        .into_iter()
        .filter_map(|(cylinder, end_kpa)| {
            let start_kpa = sheet.of(cylinder, "start")?;
            Some(DropTest { cylinder, start_kpa, end_kpa, elapsed_s: None })
        })
        .collect();
    let (Some(pulses), Some(pulse_ms)) = (sheet.of_set("pulses"), sheet.of_set("pulse")) else {
        "Say how many pulses of which length each injector gets.".clone_into(&mut found.headline);
        return Ok(found);
    };
    if tests.len() < 2 {
        "Read start and end of at least two injectors to compare them."
            .clone_into(&mut found.headline);
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
        (true, high, []) => format!("{} passes too much.", cylinders(high)),
        (true, [], low) => format!("{} passes too little.", cylinders(low)),
        (true, high, low) => {
            format!("{} passes too much, {} too little.", cylinders(high), cylinders(low))
        }
    };
    found.advice.extend(missing(sheet, "end"));
    let off: Vec<u32> = out.tests.iter().filter(|t| !t.start_ok).map(|t| t.cylinder).collect();
    if !off.is_empty() {
        found.advice.push(format!(
            "{} did not start like the others: prime again and repeat.",
            cylinders(&off)
        ));
    }
    found.advice.extend(order_of_taking(sheet, &input, &out)?);
    found.schools = schools(sheet, &out, &high, &low);
    found.lanes = out
        .tests
        .iter()
        .zip(&tests)
        .map(|(one, test)| lane(sheet, one, test, pulses * pulse_ms / 1000.0))
        .collect();
    Ok(found)
}

/// Whether the constants creep in the order of taking, and what the repeat of the first one says.
fn order_of_taking(
    sheet: &Sheet,
    input: &PressureDropInput,
    out: &PressureDropOutput,
) -> Result<Vec<String>, CalcError> {
    if out.tests.len() < 3 {
        return Ok(Vec::new());
    }
    let again = sheet.of_set("bracket_start").zip(sheet.of_set("bracket_end"));
    let bracket = match again {
        Some((start_kpa, end_kpa)) => {
            let test = DropTest { cylinder: 0, start_kpa, end_kpa, elapsed_s: None };
            let both = PressureDropInput { tests: vec![test.clone(), test], ..input.clone() };
            pressure_drop(&both)?.tests.first().map(|t| t.constant)
        }
        None => None,
    };
    let values = out.tests.iter().map(|t| t.constant).collect();
    let seen = drift(&DriftInput { values, bracket })?;
    let way = if seen.kendall_s > 0 { "rise" } else { "fall" };
    Ok(match (seen.monotone, seen.drift_share) {
        (_, Some(share)) if share > 0.3 => vec![format!(
            "The first one measured again moved by {:.0} % of the whole spread: this is drift. Let the rail settle and repeat the set.",
            share * 100.0
        )],
        (true, Some(_)) => vec![
            "They creep in the order of taking, but the first one came back the same: no drift."
                .to_owned(),
        ],
        (true, None) => vec![format!(
            "The readings {way} in the order of taking: this may be drift. Measure the first one again."
        )],
        (false, _) => Vec::new(),
    })
}

fn schools(sheet: &Sheet, out: &PressureDropOutput, high: &[u32], low: &[u32]) -> Vec<School> {
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
    vec![
        School {
            name: format!("Constant within {} % of the others", trimmed(tolerance)),
            condemns: [high, low].concat(),
            looks_at: Vec::new(),
            silent: (!out.settled).then(|| "They do not agree among themselves.".to_owned()),
            leads: true,
        },
        School {
            name: format!("Drops within {} kPa", trimmed(most)),
            condemns: Vec::new(),
            looks_at: far,
            silent: None,
            leads: false,
        },
    ]
}

fn lane(sheet: &Sheet, one: &DropOutput, test: &DropTest, open_s: f64) -> SheetLane {
    let share = one.vs_reference.map(signed_percent).unwrap_or_default();
    let (mark, word, sentence) = match one.grade {
        DropGrade::High => {
            (Mark::TooMuch, "too much", format!("Passes {share} against the others."))
        }
        DropGrade::Low => {
            (Mark::TooLittle, "too little", format!("Passes {share} against the others."))
        }
        DropGrade::Normal => (Mark::Inside, "alike", format!("{share} against the others.")),
        DropGrade::Undecided if !one.start_ok => {
            (Mark::Questioned, "start off", "It did not start like the others.".to_owned())
        }
        DropGrade::Undecided => {
            (Mark::Undecided, "undecided", "Comparison cannot tell.".to_owned())
        }
    };
    let mut because = vec![
        Because::shows(
            "The plain drop",
            format!(
                "{} − {} = {:.1} kPa",
                trimmed(test.start_kpa),
                trimmed(test.end_kpa),
                one.drop_kpa
            ),
        ),
        Because::shows(
            "The constant, which the start pressure does not move",
            format!(
                "2 × (√{} − √{}) ÷ {} s = {:.3}",
                trimmed(test.start_kpa),
                trimmed(test.end_kpa),
                trimmed(open_s),
                one.constant
            ),
        ),
    ];
    let used = [RuleId::BalanceTolerance, RuleId::BalanceSpread, RuleId::BalanceStart];
    because.extend(sheet.rules.reasons(&used).into_iter().map(Because::says));
    SheetLane {
        cylinder: one.cylinder,
        mark,
        word: word.to_owned(),
        value: Some(one.drop_kpa),
        u: None,
        shown: format!("{:.1}", one.drop_kpa),
        sentence,
        because,
        would_change: match mark {
            Mark::Questioned => vec!["Prime to the same start and repeat this one.".to_owned()],
            Mark::TooMuch | Mark::TooLittle => {
                vec!["A swap with a neighbour: if it follows, it is the injector.".to_owned()]
            }
            Mark::Inside | Mark::Look | Mark::Undecided | Mark::NotMeasured => Vec::new(),
        },
    }
}
