//! How long a return run must be.

use super::sheet::{Sheet, Spec, Worked, digits, line, maybe, needed};
use crate::calc::CalcError;
use crate::calc::return_plan::{ReturnPlanInput, return_plan};
use crate::calculators::words;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::tests::Because;
use crate::typed::Field;

pub(super) const SPEC: Spec = Spec {
    title: words::LENGTH_RETURN_RUN,
    says: words::LONG_BOTTLES_MUST_FILL,
    fields: &[
        needed("graduation", "A mark every", "2", Field::GRADUATION.bare()),
        needed("capacity", "A bottle holds", "100", Field::CAPACITY.bare()),
        needed(
            "rate",
            words::HEALTHY_ONE_LEAKS_OFF,
            "12",
            Field::above_zero("ml/min", 0.01, 10_000.0),
        ),
        maybe("difference", "Difference to show", "", Field::above_zero("%", 0.1, 500.0)),
        maybe("worst", "Worst leak-off, times", "", Field::above_zero("", 1.0, 100.0)),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let worst = sheet.maybe("worst").unwrap_or(sheet.rules.get(RuleId::RunWorst));
    let difference = sheet.maybe("difference").unwrap_or(sheet.rules.get(RuleId::RunDifference));
    let input = ReturnPlanInput {
        graduation_ml: sheet.number("graduation"),
        capacity_ml: sheet.number("capacity"),
        expected_ml_min: sheet.number("rate"),
        worst_ratio: Some(worst),
        discriminate: Some(difference / 100.0),
    };
    let out = return_plan(&input)?;
    let mut warnings = Vec::new();
    if !out.feasible {
        warnings.push(words::WORST_BOTTLE_FILLS_FIRST.to_owned());
    }
    let mut worked = Worked {
        results: vec![
            line("run for", out.seconds, "s"),
            line(words::HEALTHY_BOTTLE_HOLDS, out.volume_ml, "ml"),
            line(words::WORST_FULL_AFTER, out.worst_fills_s, "s"),
        ],
        steps: vec![
            Because::shows(
                words::between_two_bottles_shows(trimmed(difference)),
                format!(
                    "3.2415 × √2 × ({} ÷ √12) ÷ {} = {} ml",
                    trimmed(input.graduation_ml),
                    trimmed(difference / 100.0),
                    digits(out.volume_ml)
                ),
            ),
            Because::shows(
                words::EXPECTED_RATE,
                format!(
                    "60 × {} ÷ {} = {} s",
                    digits(out.volume_ml),
                    trimmed(input.expected_ml_min),
                    digits(out.seconds)
                ),
            ),
            Because::shows(
                "The worst bottle",
                format!(
                    "60 × 0.9 × {} ÷ ({} × {}) = {} s",
                    trimmed(input.capacity_ml),
                    trimmed(input.expected_ml_min),
                    trimmed(worst),
                    digits(out.worst_fills_s)
                ),
            ),
        ],
        warnings,
        ..Worked::default()
    };
    worked.steps.extend(sheet.reasons(&[RuleId::RunDifference, RuleId::RunWorst]));
    Ok(worked)
}
