//! The duty of a pulse at a speed, for two- and four-stroke engines.

use super::sheet::{Sheet, Slot, Spec, Takes, Worked, digits, line, needed};
use crate::calc::CalcError;
use crate::calc::duty::{DutyInput, duty};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::tests::Because;
use crate::typed::Field;

pub(super) const SPEC: Spec = Spec {
    title: "Duty at speed",
    says: words::SHARE_TIME_INJECTOR_OPEN,
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
            word: "Pulses per cycle",
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
        warnings.push(words::PULSE_FILLS_WHOLE_PERIOD.to_owned());
    } else if share > reserve {
        warnings.push(words::above_no_reserve_injector(trimmed(reserve)));
    }
    Ok(Worked {
        results: vec![line("open", share, "%"), line(words::PULSE_PULSE, out.period_ms, "ms")],
        steps: vec![
            Because::shows(
                if two_stroke { words::ONE_TURN_CYCLE } else { words::TWO_TURNS_CYCLE },
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
