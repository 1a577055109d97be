//! `shared_causes`: what every cylinder has in common and what is not fuel.
//!
//! One odd cylinder points to that cylinder; all cylinders odd points to something they share.
//! No unit; answers are chosen.
//!
//! # Source
//! House rule.

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::said::Code;
use crate::tests::complaint::Why;
use crate::work::Stage;

crate::said::outcomes! {
    SHARED_FAULT = shared_fault (Fault),
    SHARED_GOOD = shared_good (Good),
}

const ANSWERS: &[&str] = &["not looked", "good", "at fault"];

pub(super) const SPEC: Spec = Spec {
    title: "What all cylinders share",
    short: "Shared causes",
    says: "Leaks behind the air meter, exhaust back pressure, common ground and relay, speed and rail signals.",
    cautions: &[caution::RUNNING, caution::HOT],
    work: None,
    start: &[],
    minutes: 15,
    tools: "Smoke or leak spray without propellant that burns, scan tool",
    stage: Stage::RuleOut,
    fits: |_| true,
    limit: None,
    instrument: None,
    set: &[
        choice("intake", "Intake, no leaks", ANSWERS),
        choice("exhaust", "Exhaust, free", ANSWERS),
        choice("ground", "Common ground and relay", ANSWERS),
        choice("signals", "Speed and rail signals", ANSWERS),
    ],
    each: &[],
    why: |c| {
        (!c.one && !c.clean).then_some(Why {
            says: "Not known to be one cylinder: look at what all share.",
            spared_by: "One cylinder named, the others healthy.",
        })
    },
    first: true,
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
        ("intake", fault("The intake draws air past the meter: all cylinders run lean or rough.")),
        (
            "exhaust",
            fault("The exhaust is restricted: all cylinders breathe badly, none is guilty alone."),
        ),
        (
            "ground",
            fault("The common ground or relay is at fault: every injector is driven badly."),
        ),
        (
            "signals",
            fault("A speed or rail signal is not plausible: the control unit injects by it."),
        ),
    ];
    let says: Vec<(&str, &[Option<Said>])> = says.iter().map(|(n, a)| (*n, a.as_slice())).collect();
    let looked = Looked::at(sheet, SPEC.set, &says);
    let worst = looked.worst();
    let mut found = looked.found(
        "Look at what all cylinders share before one of them is blamed.",
        "Nothing that all cylinders share speaks against itself.",
    );
    found.shared = worst.said(outcomes::SHARED_FAULT, Code::TOO_CLOSE, outcomes::SHARED_GOOD);
    if worst == Outcome::Fault {
        found.advice.insert(0, "Put this right first; injectors are judged after it.".to_owned());
    }
    Ok(found)
}
