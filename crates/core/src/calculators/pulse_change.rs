//! The pulse after a change of injector.

use super::sheet::{Sheet, Spec, Worked, digits, line, maybe, needed};
use crate::calc::CalcError;
use crate::calc::pulse_rescale::{PulseRescaleInput, pulse_rescale};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::tests::Because;
use crate::typed::Field;

const FLOW: Field = Field::above_zero("ml/min", 1.0, 50_000.0);
const OFFSET: Field = Field::from_zero("ms", 20.0);

pub(super) const SPEC: Spec = Spec {
    title: words::PULSE_AFTER_CHANGE_INJECTOR,
    says: words::PULSE_DELIVERS_SAME_ANOTHER,
    fields: &[
        needed("pulse", "Pulse now", "4,1", Field::above_zero("ms", 0.01, 1000.0)),
        needed("old_static", "Static flow, old", "240", FLOW),
        maybe("old_offset", "Dead time, old", "0,9", OFFSET),
        needed("new_static", "Static flow, new", "330", FLOW),
        maybe("new_offset", "Dead time, new", "0,8", OFFSET),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let offsets = (sheet.maybe("old_offset"), sheet.maybe("new_offset"));
    let input = PulseRescaleInput {
        pulse_ms: sheet.number("pulse"),
        old_static_ml_min: sheet.number("old_static"),
        old_offset_ms: offsets.0.unwrap_or(0.0),
        new_static_ml_min: sheet.number("new_static"),
        new_offset_ms: offsets.1.unwrap_or(0.0),
    };
    let out = pulse_rescale(&input)?;
    let mut warnings = vec![words::VALID_ONE_PRESSURE_SUPPLY.to_owned()];
    if offsets.0.is_none() || offsets.1.is_none() {
        warnings.insert(0, words::DEAD_TIME_SUPPLY_VOLTAGE.to_owned());
    }
    Ok(Worked {
        results: vec![line(words::PULSE_NEW_ONE, out.pulse_ms, "ms")],
        steps: vec![Because::shows(
            words::OPEN_TIME_RATIO_FLOWS,
            format!(
                "({} − {}) × {} ÷ {} + {} = {} ms",
                trimmed(input.pulse_ms),
                trimmed(input.old_offset_ms),
                trimmed(input.old_static_ml_min),
                trimmed(input.new_static_ml_min),
                trimmed(input.new_offset_ms),
                digits(out.pulse_ms)
            ),
        )],
        warnings,
        ..Worked::default()
    })
}
