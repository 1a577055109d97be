//! A return rate at another temperature: an estimate.

use super::sheet::{Sheet, Spec, Worked, digits, line, maybe, needed};
use crate::calc::CalcError;
use crate::calc::viscosity_factor::{ViscosityFactorInput, viscosity_factor};
use crate::calculators::words;
use crate::tests::Because;
use crate::typed::Field;

const NU: Field = Field::above_zero("mm2/s", 0.31, 1000.0);

pub(super) const SPEC: Spec = Spec {
    title: words::LEAK_OFF_RATE_ANOTHER,
    says: words::COLD_ENGINES_LEAK_OFF,
    fields: &[
        needed("test", "Measured at", "35", Field::TEMPERATURE.bare()),
        needed("reference", "Wanted at", "80", Field::TEMPERATURE.bare()),
        maybe("rate", "Leak-off rate", "9,5", Field::above_zero("ml/min", 0.01, 10_000.0)),
        maybe("nu_a", "Viscosity at 40 °C", "2,7", NU),
        maybe("nu_b", "Viscosity at 100 °C", "1,1", NU),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let out = viscosity_factor(&ViscosityFactorInput {
        t_test_c: sheet.number("test"),
        t_ref_c: sheet.number("reference"),
        nu_a: sheet.maybe("nu_a"),
        nu_b: sheet.maybe("nu_b"),
        ..ViscosityFactorInput::default()
    })?;
    let mut worked = Worked {
        results: vec![line("times", out.factor, "")],
        steps: vec![Because::shows(
            words::LAMINAR_LEAKAGE_PROPORTIONAL_VISCOSITY,
            format!("{} ÷ {} = {}", digits(out.nu_test), digits(out.nu_ref), digits(out.factor)),
        )],
        warnings: vec![words::ESTIMATE_FILM_TEMPERATURE_INSIDE.to_owned()],
        ..Worked::default()
    };
    if let Some(rate) = sheet.maybe("rate") {
        let there = rate * out.factor;
        worked.results.insert(0, line("estimated rate", there, "ml/min"));
        worked.steps.push(Because::shows(
            words::RATE_OTHER_TEMPERATURE,
            format!("{} × {} = {} ml/min", digits(rate), digits(out.factor), digits(there)),
        ));
    }
    Ok(worked)
}
