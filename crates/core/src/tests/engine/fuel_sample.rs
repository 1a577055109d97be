//! `fuel_sample`: look, smell and water of what is in the tank, and which cylinders suffer.
//!
//! Bad fuel hits all cylinders, not one: the same sample means something else when one suffers.
//! No unit; answers are chosen.
//!
//! # Source
//! House rule.

mod words;

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::start::StartId;
use crate::tests::complaint::why;
use crate::tests::property::Property;
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
    says: words::CLEAR_JAR_FILTER_DRAIN,
    cautions: &[caution::VAPOUR, caution::MOUTH, caution::WASTE],
    work: None,
    start: &[StartId::FuelAboveLow],
    minutes: 5,
    tools: words::CLEAN_CLEAR_JAR_WATER,
    stage: Stage::RuleOut,
    fits: |_| true,
    limit: None,
    instrument: None,
    set: &[
        choice("suffers", "Cylinders affected", &["one", "several", "all of them"]),
        choice("look", "Appearance", &["clear and bright", "hazy", "dark", "dirty or separated"]),
        choice("smell", "Smell", &["as expected", "of another fuel", "sour or varnish"]),
        choice("water", "Water", &["none", "drops", "a layer"]),
    ],
    each: &[],
    why: |c| match (c.lately(Lately::RefuelledElsewhere), c.clean) {
        (true, _) => why(words::REFUELLED_SOMEWHERE_UNUSUAL_FIRST, words::FUEL_KNOWN_GOOD),
        (false, false) => why(words::BAD_FUEL_HITS_ALL, words::ONLY_ONE_CYLINDER_AFFECTED),
        (false, true) => None,
    },
    property: Property::SHARED,
    first: true,
    recorded: None,
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
    Some((Outcome::Hint, words::HAZY_FUEL_WATER_WAX)),
    Some((Outcome::Hint, words::DARK_FUEL_OLD_MIXED)),
    Some((Outcome::Fault, words::FUEL_DIRTY_SEPARATED)),
];
const SMELL: &[Option<Said>] = &[
    GOOD,
    Some((Outcome::Fault, words::SMELLS_ANOTHER_FUEL_NOT)),
    Some((Outcome::Fault, words::SMELLS_SOUR_VARNISH_OLD)),
];
const WATER: &[Option<Said>] = &[
    GOOD,
    Some((Outcome::Hint, words::DROPS_WATER_FUEL)),
    Some((Outcome::Fault, words::LAYER_WATER_FUEL)),
];

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let looked = Looked::at(sheet, SPEC.set, &[("look", LOOK), ("smell", SMELL), ("water", WATER)]);
    let worst = looked.worst();
    let mut found = looked.found(words::TAKE_SAMPLE_FIRST_TAKES, words::SAMPLE_LOOKS_SMELLS_NORMAL);
    found.shared = worst.said(outcomes::FUEL_BAD, outcomes::FUEL_DOUBTFUL, outcomes::FUEL_GOOD);
    let all = sheet.of_set("suffers").map(|v| v == 2.0);
    let steer = match (worst, all) {
        (Outcome::Open, _) => None,
        (Outcome::Fault | Outcome::Hint, Some(true)) => Some(words::ALL_CYLINDERS_AFFECTED_ALL),
        (Outcome::Fault | Outcome::Hint, Some(false)) => Some(words::BAD_FUEL_HITS_ALL_CYLINDERS),
        (Outcome::Clear, Some(true)) => Some(words::ALL_CYLINDERS_AFFECTED_CHECK),
        (_, None) => Some(words::ENTER_CYLINDERS_AFFECTED_DECIDES),
        (Outcome::Clear, Some(false)) => None,
    };
    found.advice.splice(0..0, steer.map(str::to_owned));
    if worst == Outcome::Clear {
        found.advice.push(words::CLEAR_SAMPLE_DOES_NOT.to_owned());
    }
    Ok(found)
}
