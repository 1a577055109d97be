//! Torque stages in every unit, and an angle in flats of a bolt head.

use super::sheet::{Sheet, Spec, Worked, digits, line, maybe, needed};
use crate::calc::CalcError;
use crate::calc::convert::{ConvertInput, convert};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::tests::Because;
use crate::typed::Field;
use crate::units::written;

const TORQUE: Field = Field::above_zero("Nm", 0.01, 5000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Torque",
    says: words::TIGHTENING_STAGES_N_M,
    fields: &[
        needed("first", "First stage", "44 in·lb", TORQUE),
        maybe("second", "Second stage", "12", TORQUE),
        maybe("angle", "Then turn by", "90", Field::above_zero("deg", 1.0, 720.0)),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let mut worked = Worked::default();
    for (name, word) in [("first", "first stage"), ("second", "second stage")] {
        let Some(value) = sheet.maybe(name) else { continue };
        for to in ["Nm", "in_lb", "ft_lb"] {
            let input = ConvertInput {
                value,
                from: "Nm".to_owned(),
                to: to.to_owned(),
                density_kg_per_m3: None,
            };
            worked.results.push(line(word, convert(&input)?.value, written(to)));
        }
        worked.steps.push(Because::shows(
            format!("The {word}"),
            format!(
                "{} N·m ÷ 0.112985 = {} in·lb; ÷ 1.355818 = {} ft·lb",
                trimmed(value),
                digits(value / 0.112_984_829_027_616_7),
                digits(value / 1.355_817_948_331_400_4)
            ),
        ));
    }
    if let Some(angle) = sheet.maybe("angle") {
        worked.results.push(line("then turn by", angle, "°"));
        worked.results.push(line(words::FLATS_HEXAGON, angle / 60.0, ""));
        worked.steps.push(Because::shows(
            words::HEXAGON_FLAT_EVERY,
            format!("{} ÷ 60 = {} flats", trimmed(angle), digits(angle / 60.0)),
        ));
        worked.warnings.push(words::ANGLE_TIGHTENED_BOLTS_STRETCH.to_owned());
    }
    worked.warnings.push(words::MAKERS_FIGURE_COMES_FIRST.to_owned());
    Ok(worked)
}
