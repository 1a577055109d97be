//! The static flow that a power asks for.

use super::sheet::{Sheet, Spec, Worked, digits, line, needed};
use crate::calc::CalcError;
use crate::calc::sizing::{SizingInput, sizing};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::tests::Because;
use crate::typed::Field;

pub(super) const SPEC: Spec = Spec {
    title: "Injector sizing",
    says: words::STATIC_FLOW_EACH_INJECTOR,
    fields: &[
        needed("power", "Power", "92", Field::above_zero("kW", 0.1, 100_000.0)),
        needed("bsfc", "Consumption", "300", Field::above_zero("g/kWh", 100.0, 2000.0)),
        needed("injectors", "Injectors", "4", Field::above_zero("", 1.0, 64.0)),
        needed("duty", "Highest duty", "85", Field::above_zero("%", 1.0, 100.0)),
        needed("density", "Fuel density", "740", Field::above_zero("kg/m3", 300.0, 2000.0)),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let input = SizingInput {
        power_kw: sheet.number("power"),
        bsfc_g_per_kwh: sheet.number("bsfc"),
        injectors: sheet.number("injectors"),
        max_duty: sheet.number("duty") / 100.0,
        density_kg_per_m3: sheet.number("density"),
    };
    let out = sizing(&input)?;
    Ok(Worked {
        results: vec![
            line("each, by volume", out.static_ml_min, "ml/min"),
            line("each, by mass", out.static_g_min, "g/min"),
        ],
        steps: vec![
            Because::shows(
                words::FUEL_POWER_SHARED_BETWEEN,
                format!(
                    "{} × {} ÷ ({} × {} × 60) = {} g/min",
                    trimmed(input.power_kw),
                    trimmed(input.bsfc_g_per_kwh),
                    trimmed(input.injectors),
                    trimmed(input.max_duty),
                    digits(out.static_g_min)
                ),
            ),
            Because::shows(
                "By density",
                format!(
                    "{} × 1000 ÷ {} = {} ml/min",
                    digits(out.static_g_min),
                    trimmed(input.density_kg_per_m3),
                    digits(out.static_ml_min)
                ),
            ),
        ],
        warnings: vec![words::VALID_ENGINES_OWN_PRESSURE.to_owned()],
        ..Worked::default()
    })
}
