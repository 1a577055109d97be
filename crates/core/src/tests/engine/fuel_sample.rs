//! `fuel_sample`: look, smell and water of what is in the tank, and which cylinders suffer.
//!
//! Bad fuel hits all cylinders, not one: the same sample means something else when one suffers.
//! No unit; answers are chosen.
//!
//! # Source
//! House rule.

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::start::StartId;
use crate::tests::complaint::why;
use crate::work::Lately;
use crate::work::Stage;

crate::said::outcomes! {
    FUEL_BAD = fuel_bad (Fault),
    FUEL_DOUBTFUL = fuel_doubtful,
    FUEL_GOOD = fuel_good (Good),
}

pub(super) const SPEC: Spec = Spec {
    title: "Fuel sample",
    short: "Fuel",
    says: "A glass from the filter or the drain, left to stand while the next check is done: look, smell, water.",
    cautions: &[caution::VAPOUR, caution::MOUTH, caution::WASTE],
    work: None,
    start: &[StartId::FuelAboveLow],
    minutes: 5,
    tools: "Clean glass, water paste, rags",
    stage: Stage::RuleOut,
    fits: |_| true,
    limit: None,
    instrument: None,
    set: &[
        choice("suffers", "Which cylinders suffer", &["one", "several", "all of them"]),
        choice("look", "It looks", &["clear and bright", "hazy", "dark", "dirty or in layers"]),
        choice("smell", "It smells", &["as it should", "of the other fuel", "sour or of varnish"]),
        choice("water", "Water", &["none", "drops", "a layer"]),
    ],
    each: &[],
    why: |c| match (c.lately(Lately::RefuelledElsewhere), c.clean) {
        (true, _) => why(
            "Refuelled somewhere unusual: the first suspect, and it speaks for all cylinders.",
            "Fuel known to be good.",
        ),
        (false, false) => why(
            "Bad fuel hits all cylinders; a glass rules it out.",
            "Only one cylinder suffers and the fuel is known.",
        ),
        (false, true) => None,
    },
    first: true,
    follows: None,
    example: Example {
        set: &[("suffers", 2.0), ("look", 0.0), ("smell", 0.0), ("water", 0.0)],
        each: &[],
    },
    table: include_str!("fuel_sample.toml"),
    judge,
};

const GOOD: Option<Said> = Some((Outcome::Clear, ""));
const LOOK: &[Option<Said>] = &[
    GOOD,
    Some((Outcome::Hint, "The fuel is hazy: water or wax in it.")),
    Some((Outcome::Hint, "The fuel is dark: old, or mixed with something.")),
    Some((Outcome::Fault, "The fuel is dirty or stands in layers.")),
];
const SMELL: &[Option<Said>] = &[
    GOOD,
    Some((Outcome::Fault, "The fuel smells of the other fuel: do not run the engine on it.")),
    Some((Outcome::Fault, "The fuel smells sour or of varnish: it is old.")),
];
const WATER: &[Option<Said>] = &[
    GOOD,
    Some((Outcome::Hint, "Drops of water in the fuel.")),
    Some((Outcome::Fault, "A layer of water in the fuel.")),
];

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let looked = Looked::at(sheet, SPEC.set, &[("look", LOOK), ("smell", SMELL), ("water", WATER)]);
    let worst = looked.worst();
    let mut found = looked.found(
        "Take a sample first: it costs five minutes and speaks for all cylinders.",
        "The sample looks and smells as fuel should.",
    );
    found.shared = worst.said(outcomes::FUEL_BAD, outcomes::FUEL_DOUBTFUL, outcomes::FUEL_GOOD);
    let all = sheet.of_set("suffers").map(|v| v == 2.0);
    let steer = match (worst, all) {
        (Outcome::Open, _) => None,
        (Outcome::Fault | Outcome::Hint, Some(true)) => Some(
            "All cylinders suffer and all of them burn this: change the fuel and the filter, flush, and try again before any injector is judged.",
        ),
        (Outcome::Fault | Outcome::Hint, Some(false)) => Some(
            "Bad fuel hits all cylinders, not one: change it, and still look at the cylinder that suffers.",
        ),
        (Outcome::Clear, Some(true)) => Some(
            "All cylinders suffer: look for what they share before a single injector is taken out.",
        ),
        (_, None) => Some("Say which cylinders suffer: it decides what this sample means."),
        (Outcome::Clear, Some(false)) => None,
    };
    found.advice.splice(0..0, steer.map(str::to_owned));
    if worst == Outcome::Clear {
        found.advice.push("A clear sample is no proof of the right grade.".to_owned());
    }
    Ok(found)
}
