//! The duty of a pulse at a speed, for two- and four-stroke engines.

use super::sheet::{Sheet, Slot, Spec, Takes, Worked, digits, line, needed};
use crate::calc::CalcError;
use crate::calc::duty::{DutyInput, duty};
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::tests::Because;
use crate::typed::Field;

pub(super) const SPEC: Spec = Spec {
    title: "Duty at speed",
    says: "How much of the time an injector is open at a speed.",
    fields: &[
        needed("rpm", "Speed", "5400", Field::above_zero("rpm", 1.0, 30_000.0)),
        needed("pulse", "Pulse", "9,2", Field::above_zero("ms", 0.01, 1000.0)),
        Slot {
            name: "cycle",
            word: "Engine",
            example: "4",
            takes: Takes::OneOf(&[("4", "four-stroke"), ("2", "two-stroke")]),
        },
        Slot {
            name: "firings",
            word: "Pulses in each cycle",
            example: "1",
            takes: Takes::OneOf(&[("1", "one"), ("2", "two"), ("3", "three")]),
        },
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let (rpm, pulse) = (sheet.number("rpm"), sheet.number("pulse"));
    let two_stroke = sheet.picked("cycle") == "2";
    let firings = sheet.picked("firings").parse().unwrap_or(1.0);
    let out = duty(&DutyInput {
        rpm,
        pulse_ms: pulse,
        stroke_cycle: Some(if two_stroke { 2.0 } else { 4.0 }),
        firings_per_cycle: Some(firings),
    })?;
    let turns = if two_stroke { 60_000 } else { 120_000 };
    let share = out.duty * 100.0;
    let reserve = sheet.rules.get(RuleId::DutyReserve);
    let mut warnings = Vec::new();
    if out.always_open {
        warnings.push(
            "The pulse fills the period: the injector never closes. More cannot be injected."
                .to_owned(),
        );
    } else if share > reserve {
        warnings.push(format!(
            "Above {} % there is no reserve, and closing may no longer be complete (house rule).",
            trimmed(reserve)
        ));
    }
    Ok(Worked {
        results: vec![line("open", share, "%"), line("from pulse to pulse", out.period_ms, "ms")],
        steps: vec![
            Because::shows(
                if two_stroke { "One turn is a cycle" } else { "Two turns are a cycle" },
                format!(
                    "{turns} ÷ {} ÷ {} = {} ms",
                    trimmed(rpm),
                    trimmed(firings),
                    digits(out.period_ms)
                ),
            ),
            Because::shows(
                "Open share",
                format!("{} ÷ {} = {} %", trimmed(pulse), digits(out.period_ms), digits(share)),
            ),
        ],
        warnings,
        ..Worked::default()
    })
}
