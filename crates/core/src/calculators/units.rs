//! One value in every unit of its kind; volume and mass flow through the density.

use super::sheet::{Sheet, Slot, Spec, Takes, Worked, line, maybe};
use crate::calc::CalcError;
use crate::calc::convert::{ConvertInput, Kind, convert, kind_of};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::tests::Because;
use crate::typed::{Field, unit_symbol};

pub(super) const SPEC: Spec = Spec {
    title: "Units and flow",
    says: words::ONE_VALUE_EVERY_UNIT,
    fields: &[
        Slot {
            name: "value",
            word: "Value with unit",
            example: "43,5 psi",
            takes: Takes::Needed(Field::ANY_UNIT),
        },
        maybe("density", "Fuel density", "740", Field::above_zero("kg/m3", 300.0, 2000.0)),
    ],
    work,
};

/// What each kind is shown in.
const SHOWN: &[&[&str]] = &[
    &["kPa", "bar", "MPa", "psi"],
    &["ml", "l", "mm3"],
    &["ml/min", "l/h", "ml/s"],
    &["g/min", "kg/h", "lb/h", "g/s"],
    &["Nm", "in_lb", "ft_lb"],
    &["mm", "um", "in", "thou"],
    &["s", "ms", "us", "min"],
    &["ohm", "mohm", "kohm"],
    &["C", "F", "K"],
];

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let value = sheet.number("value");
    let from = unit_symbol(sheet.text("value"))
        .ok_or_else(|| CalcError::Contradiction(words::ADD_UNIT_AFTER_NUMBER.to_owned()))?;
    let density = sheet.maybe("density");
    let flow = |kind: Option<Kind>| matches!(kind, Some(Kind::VolumeFlow | Kind::MassFlow));
    let mut worked = Worked::default();
    for to in SHOWN.iter().copied().flatten().copied() {
        let alike = kind_of(to) == kind_of(from);
        let bridged = flow(kind_of(to)) && flow(kind_of(from)) && density.is_some();
        if to == from || !(alike || bridged) {
            continue;
        }
        let input = ConvertInput {
            value,
            from: from.to_owned(),
            to: to.to_owned(),
            density_kg_per_m3: density,
        };
        let out = convert(&input)?.value;
        let unit = crate::units::written(to);
        worked.results.push(line("", out, unit));
        if !alike && worked.steps.len() < 2 {
            let density = trimmed(density.unwrap_or_default());
            let says = words::density_kg_m(&density);
            worked.steps.push(Because::shows(
                says,
                format!("{} → {} {unit}", sheet.text("value"), super::sheet::digits(out)),
            ));
        }
    }
    if worked.steps.is_empty() {
        worked.steps.push(Because::shows(
            "By exact factors",
            worked.results.first().map_or_else(String::new, |first| {
                format!("{} = {} {}", sheet.text("value"), first.shown, first.unit)
            }),
        ));
    }
    if flow(kind_of(from)) && density.is_none() {
        worked.warnings.push(words::ENTER_DENSITY_CONVERT_BETWEEN.to_owned());
    }
    Ok(worked)
}
