//! A flow at another pressure, and in another fluid.

use super::sheet::{Sheet, Spec, Worked, digits, line, maybe, needed};
use crate::calc::CalcError;
use crate::calc::bench_flow::{BenchFlowInput, bench_flow};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::tests::Because;
use crate::typed::Field;

const PRESSURE: Field = Field::above_zero("kPa", 1.0, 500_000.0);
const DENSITY: Field = Field::above_zero("kg/m3", 300.0, 2000.0);

pub(super) const SPEC: Spec = Spec {
    title: words::FLOW_ANOTHER_PRESSURE,
    says: words::MEASURED_FLOW_CONVERTED_ANOTHER,
    fields: &[
        needed("flow", "Flow", "240", Field::above_zero("ml/min", 0.1, 100_000.0)),
        needed("test", "Measured at", "3 bar", PRESSURE),
        needed("reference", "Wanted at", "58 psi", PRESSURE),
        maybe("test_density", "Density at test", "", DENSITY),
        maybe("reference_density", "Density wanted", "", DENSITY),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let flow = sheet.number("flow");
    let input = BenchFlowInput {
        volume_ml: flow,
        seconds: 60.0,
        test_kpa: sheet.number("test"),
        reference_kpa: sheet.number("reference"),
        test_density: sheet.maybe("test_density"),
        reference_density: sheet.maybe("reference_density"),
    };
    let out = bench_flow(&input)?.reference_flow_ml_min;
    let fluid = match (input.test_density, input.reference_density) {
        (Some(test), Some(reference)) => {
            format!(" × √({} ÷ {})", trimmed(test), trimmed(reference))
        }
        (_, _) => String::new(),
    };
    Ok(Worked {
        results: vec![line("flow", out, "ml/min")],
        steps: vec![Because::shows(
            words::SQUARE_ROOT_PRESSURE_DROP,
            format!(
                "{} × √({} ÷ {}){fluid} = {} ml/min",
                trimmed(flow),
                trimmed(input.reference_kpa),
                trimmed(input.test_kpa),
                digits(out)
            ),
        )],
        warnings: vec![words::PRESSURE_DROP_ACROSS_INJECTOR.to_owned()],
        ..Worked::default()
    })
}
