//! Fuel pulsed into a standing cylinder.

use super::sheet::{ResultLine, Sheet, Spec, Worked, digits, line, needed};
use crate::calc::CalcError;
use crate::calc::residual_fuel::{FuelLevel, ResidualFuelInput, residual_fuel};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::tests::Because;
use crate::tests::engine::house_level;
use crate::typed::Field;

pub(super) const SPEC: Spec = Spec {
    title: words::FUEL_LEFT_CYLINDER,
    says: words::FUEL_LEFT_PISTON_PLACE,
    fields: &[
        needed("static", "Static flow", "240", Field::above_zero("ml/min", 1.0, 50_000.0)),
        needed("pulses", "Pulses per run", "50", Field::above_zero("", 1.0, 100_000.0)),
        needed("pulse", "Pulse", "6", Field::above_zero("ms", 0.01, 10_000.0)),
        needed("runs", words::RUNS_SINCE_CLEARED, "2", Field::above_zero("", 1.0, 1000.0)),
        needed("bore", "Bore", "84", Field::above_zero("mm", 10.0, 1000.0)),
        needed("stroke", "Stroke", "88", Field::above_zero("mm", 10.0, 2000.0)),
        needed("ratio", "Compression ratio", "9,8", Field::above_zero("", 1.01, 40.0)),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let input = ResidualFuelInput {
        static_ml_min: sheet.number("static"),
        pulses: sheet.number("pulses"),
        pulse_ms: sheet.number("pulse"),
        runs: sheet.number("runs"),
        bore_mm: sheet.number("bore"),
        stroke_mm: sheet.number("stroke"),
        compression_ratio: sheet.number("ratio"),
    };
    let out = residual_fuel(&input)?;
    let (caution, stop) =
        (sheet.rules.get(RuleId::ResidualCaution), sheet.rules.get(RuleId::ResidualStop));
    let level = house_level(out.level, out.fraction, sheet.rules);
    let (word, warning) = match level {
        FuelLevel::Ok => ("little", words::RAW_FUEL_WASHES_BORE),
        FuelLevel::Caution => ("caution", words::CLEAR_FLOOD_CRANK_BEFORE),
        FuelLevel::Stop => ("stop", words::STOP_LIQUID_DOES_NOT),
    };
    Ok(Worked {
        results: vec![
            ResultLine { word: "level".to_owned(), shown: word.to_owned(), unit: String::new() },
            line("injected", out.injected_ml, "ml"),
            line(words::CLEARANCE_VOLUME, out.fraction * 100.0, "%"),
        ],
        steps: vec![
            Because::shows(
                "Fuel injected",
                format!(
                    "{} ÷ 60000 × {} × {} × {} = {} ml",
                    trimmed(input.static_ml_min),
                    trimmed(input.pulses),
                    trimmed(input.pulse_ms),
                    trimmed(input.runs),
                    digits(out.injected_ml)
                ),
            ),
            Because::shows(
                "Clearance volume",
                format!(
                    "π ÷ 4 × {}² × {} ÷ 1000 ÷ ({} − 1) = {} ml",
                    trimmed(input.bore_mm),
                    trimmed(input.stroke_mm),
                    trimmed(input.compression_ratio),
                    digits(out.clearance_ml)
                ),
            ),
            Because::says(words::caution_stop_workshop_rule(trimmed(caution), trimmed(stop))),
        ],
        warnings: vec![warning.to_owned()],
        ..Worked::default()
    })
}
