//! `shared_causes`: what every cylinder has in common and what is not fuel.
//!
//! One odd cylinder points to that cylinder; all cylinders odd points to something they share.
//! No unit; answers are chosen.
//!
//! # Source
//! House rule.

mod words;

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::said::Code;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::work::Stage;

crate::said::outcomes! {
    SHARED_FAULT = shared_fault (Fault),
    SHARED_GOOD = shared_good (Good),
}

const ANSWERS: &[&str] = &["not checked", "good", "at fault"];

pub(super) const SPEC: Spec = Spec {
    title: words::SHARED_ALL_CYLINDERS,
    short: "Shared causes",
    says: words::INTAKE_LEAKS_AFTER_AIR,
    cautions: &[caution::RUNNING, caution::HOT],
    work: None,
    start: &[],
    minutes: 15,
    tools: words::SMOKE_TESTER_NON_FLAMMABLE,
    stage: Stage::RuleOut,
    fits: |_| true,
    limit: None,
    instrument: None,
    set: &[
        choice("intake", "Intake, no leaks", ANSWERS).sound(1),
        choice("exhaust", "Exhaust, free", ANSWERS).sound(1),
        choice("ground", words::COMMON_EARTH_RELAY, ANSWERS).sound(1),
        choice("signals", words::SPEED_RAIL_SIGNALS, ANSWERS).sound(1),
    ],
    each: &[],
    why: |c| {
        (!c.one && !c.clean).then_some(Why {
            says: words::NOT_KNOWN_ONE_CYLINDER,
            spared_by: words::ONE_CYLINDER_NAMED_OTHERS,
        })
    },
    property: Property::SHARED,
    first: true,
    recorded: None,
    follows: None,
    example: Example {
        set: &[("intake", 1.0), ("exhaust", 1.0), ("ground", 1.0), ("signals", 1.0)],
        each: &[],
    },
    table: include_str!("shared_causes.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let good: Option<Said> = Some((Outcome::Clear, ""));
    let fault = |says| [None, good, Some((Outcome::Fault, says))];
    let says = [
        ("intake", fault(words::INTAKE_DRAWS_AIR_AFTER)),
        ("exhaust", fault(words::EXHAUST_RESTRICTED_ALL_CYLINDERS)),
        ("ground", fault(words::COMMON_EARTH_RELAY_FAULT)),
        ("signals", fault(words::SPEED_RAIL_SIGNAL_IMPLAUSIBLE)),
    ];
    let says: Vec<(&str, &[Option<Said>])> = says.iter().map(|(n, a)| (*n, a.as_slice())).collect();
    let looked = Looked::at(sheet, SPEC.set, &says);
    let worst = looked.worst();
    let mut found = looked.found(words::CHECK_ALL_CYLINDERS_SHARE, words::NO_FAULT_FOUND_ALL);
    found.shared = worst.said(outcomes::SHARED_FAULT, Code::TOO_CLOSE, outcomes::SHARED_GOOD);
    if worst == Outcome::Fault {
        found.advice.insert(0, words::FIX_FIRST_INJECTORS_JUDGED.to_owned());
    }
    Ok(found)
}
