//! The quantity that one pulse delivers, in the linear range.

use super::sheet::{Sheet, Spec, Worked, digits, line, maybe, needed};
use crate::calc::duty::{DutyInput, duty};
use crate::calc::{CalcError, exceeds};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::tests::Because;
use crate::typed::Field;

pub(super) const SPEC: Spec = Spec {
    title: "Pulse to quantity",
    says: words::ONE_PULSE_DELIVERS_MUCH,
    fields: &[
        needed("static", "Static flow", "240", Field::above_zero("ml/min", 1.0, 50_000.0)),
        needed("offset", words::DEAD_TIME_VOLTAGE, "0,9", Field::from_zero("ms", 20.0)),
        needed("pulse", "Pulse", "3,2", Field::above_zero("ms", 0.01, 1000.0)),
        maybe("rpm", "Speed (four-stroke)", "2400", Field::above_zero("rpm", 1.0, 20_000.0)),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let (flow, offset, pulse) =
        (sheet.number("static"), sheet.number("offset"), sheet.number("pulse"));
    if !exceeds(pulse, offset) {
        return Err(CalcError::Contradiction(words::PULSE_NO_LONGER_DEAD.to_owned()));
    }
    let quantity = flow / 60.0 * (pulse - offset);
    let mut worked = Worked {
        results: vec![line("per pulse", quantity, "mm³")],
        steps: vec![Because::shows(
            words::STATIC_FLOW_OVER_TIME,
            format!(
                "{} ÷ 60 × ({} − {}) = {} mm³",
                trimmed(flow),
                trimmed(pulse),
                trimmed(offset),
                digits(quantity)
            ),
        )],
        warnings: vec![words::VALID_LINEAR_RANGE_VERY.to_owned()],
        ..Worked::default()
    };
    if let Some(rpm) = sheet.maybe("rpm") {
        let period =
            duty(&DutyInput { rpm, pulse_ms: pulse, stroke_cycle: None, firings_per_cycle: None })?
                .period_ms;
        let minute = quantity * 60.0 / period;
        worked.results.push(line("per minute", minute, "ml/min"));
        worked.steps.push(Because::shows(
            words::ONE_PULSE_EVERY_TWO,
            format!(
                "{} mm³ × {} ÷ 2 ÷ 1000 = {} ml/min",
                digits(quantity),
                trimmed(rpm),
                digits(minute)
            ),
        ));
    }
    Ok(worked)
}
