//! `insulation`: from the injector's pins to its body or to ground.
//!
//! Against the library's limit where there is one, else the house rule. Units: MΩ.
//!
//! # Source
//! House rule ([`RuleId::InsulationLeast`]).

mod words;

use super::words::{cylinders, missing};
use super::{Example, Found, Lane, Sheet, Spec, cell};
use crate::calc::CalcError;
use crate::caution;
use crate::instrument::InstrumentKind;
use crate::library::LimitCheck;
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::start::StartId;
use crate::tests::Because;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::work::Stage;

crate::said::outcomes! {
    INSULATION_LEAKS = insulation_leaks,
    INSULATION_GOOD = insulation_good,
}

/// The library keeps ohms.
const OHM_PER_MEGOHM: f64 = 1e6;

pub(super) const SPEC: Spec = Spec {
    title: "Insulation to body",
    short: "Insulation",
    says: words::CONNECTOR_OFF_EACH_PIN,
    cautions: &[caution::CHARGE],
    work: None,
    start: &[StartId::IgnitionOff],
    minutes: 6,
    tools: words::INSULATION_TESTER_VOLTAGE_MAKER,
    stage: Stage::Electrical,
    fits: |_| true,
    limit: Some(LimitCheck::Insulation),
    instrument: Some(InstrumentKind::Meter),
    set: &[],
    each: &[cell("megohms", "To body", Field::from_zero("MΩ", 1e6)).wide()],
    why: |c| {
        (c.rough || c.dead).then_some(Why {
            says: words::ONLY_SHOWS_LEAK_BODY,
            spared_by: words::ALL_COILS_AGREE_ALL,
        })
    },
    property: Property::HERE,
    first: false,
    recorded: None,
    follows: None,
    example: Example { set: &[], each: &[("megohms", 0.0, 200.0)] },
    table: include_str!("insulation.toml"),
    judge,
};

/// The least that is asked for in MΩ, and where it comes from.
pub(super) fn least(sheet: &Sheet) -> (f64, String) {
    let from_library = sheet.limit.as_ref().filter(|l| l.check == LimitCheck::Insulation);
    match from_library.and_then(|limit| Some((limit.lower?, limit))) {
        Some((lower, limit)) => {
            (lower / OHM_PER_MEGOHM, format!("{}, revision {}", limit.source, limit.revision))
        }
        None => (sheet.rules.get(RuleId::InsulationLeast), "workshop rule".to_owned()),
    }
}

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read = sheet.read("megohms");
    let (least, source) = least(sheet);
    let mut found = Found { unit: "MΩ", window_word: "at least", ..Found::default() };
    if read.is_empty() {
        words::READ_EACH_PIN_AGAINST.clone_into(&mut found.headline);
        return Ok(found);
    }
    found.window = Some([Some(least), None]);
    found.lanes = read
        .iter()
        .map(|(cylinder, megohms)| {
            let leaks = *megohms < least;
            Lane {
                place: *cylinder,
                mark: if leaks { Mark::TooLittle } else { Mark::Inside },
                said: if leaks { outcomes::INSULATION_LEAKS } else { outcomes::INSULATION_GOOD }
                    .into(),
                word: if leaks { "leaks" } else { "insulated" }.to_owned(),
                // A good one is many times the limit; drawn no higher than that is readable.
                value: Some(megohms.min(3.0 * least)),
                shown: trimmed(*megohms),
                sentence: if leaks {
                    words::m_body_internal_leak(trimmed(*megohms))
                } else {
                    words::m_body(trimmed(*megohms))
                },
                because: vec![Because::shows(
                    format!("At least {} MΩ ({source})", trimmed(least)),
                    format!(
                        "{} {} {}",
                        trimmed(*megohms),
                        if leaks { "<" } else { "≥" },
                        trimmed(least)
                    ),
                )],
                would_change: vec![words::SAME_CONNECTOR_CLEANED_DRIED.to_owned()],
                ..Lane::default()
            }
        })
        .collect();
    let leaking: Vec<u32> =
        found.lanes.iter().filter(|l| l.mark == Mark::TooLittle).map(|l| l.place).collect();
    found.headline = if leaking.is_empty() {
        words::all_insulated_body(read.len())
    } else {
        words::leak_body(cylinders(&leaking))
    };
    found.advice.extend(missing(sheet, "megohms"));
    Ok(found)
}
