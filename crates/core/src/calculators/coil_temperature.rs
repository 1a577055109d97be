//! A coil resistance brought to 20 °C, and judged when there are limits.

use super::sheet::{ResultLine, Sheet, Spec, Worked, maybe, needed};
use crate::calc::CalcError;
use crate::calc::coil::{ALPHA, CoilInput, coil};
use crate::calc::decide::LimitState;
use crate::calculators::words;
use crate::quantity::{shown, trimmed};
use crate::rules::RuleId;
use crate::tests::Because;
use crate::typed::Field;

const OHM: Field = Field::from_zero("ohm", 1e6);

pub(super) const SPEC: Spec = Spec {
    title: "Coil resistance at 20 °C",
    says: words::CORRECTS_WARM_COILS_READING,
    fields: &[
        needed("measured", "Meter shows", "14,9", OHM),
        needed("temp", "Coil temperature", "62", Field::TEMPERATURE.bare()),
        needed("resolution", words::LAST_DIGIT_METER, "0,1", Field::above_zero("ohm", 1e-6, 100.0)),
        maybe("lead", "Lead resistance", "0R2", OHM),
        maybe("lower", "Limit at 20 °C, lower", "11,5", OHM),
        maybe("upper", "Limit at 20 °C, upper", "13,5", OHM),
    ],
    work,
};

fn work(sheet: &Sheet<'_>) -> Result<Worked, CalcError> {
    let input = CoilInput {
        measured_ohm: sheet.number("measured"),
        temp_c: sheet.number("temp"),
        resolution_ohm: sheet.number("resolution"),
        lead_ohm: sheet.maybe("lead"),
        lower_20: sheet.maybe("lower"),
        upper_20: sheet.maybe("upper"),
        unknown_lead_ohm: Some(sheet.rules.get(RuleId::CoilLeads)),
        ..CoilInput::default()
    };
    let out = coil(&input)?;
    let r20 = shown(out.r20_ohm, out.u_ohm);
    let mut results = vec![
        ResultLine { word: "at 20 °C".to_owned(), shown: r20.clone(), unit: "Ω".to_owned() },
        ResultLine {
            word: "standard uncertainty".to_owned(),
            shown: shown(out.u_ohm, out.u_ohm / 10.0),
            unit: "Ω".to_owned(),
        },
    ];
    if let Some(state) = out.state {
        let word = match state {
            LimitState::Within => "within",
            LimitState::Above => "too high",
            LimitState::Below => "too low",
            LimitState::Undecided => "inconclusive",
        };
        results.insert(
            0,
            ResultLine {
                word: "against the limits".to_owned(),
                shown: word.to_owned(),
                unit: String::new(),
            },
        );
    }
    let lead = input.lead_ohm.map(|lead| format!(" − {}", trimmed(lead))).unwrap_or_default();
    let mut warnings: Vec<String> = out.warning.into_iter().collect();
    warnings.push(words::COPPER_COILS_CHECK_PIEZO.to_owned());
    Ok(Worked {
        results,
        steps: vec![Because::shows(
            words::COPPER_RISES_PER_KELVIN,
            format!(
                "({}{lead}) ÷ (1 + {} × ({} − 20)) = {r20} Ω",
                trimmed(input.measured_ohm),
                trimmed(ALPHA),
                trimmed(input.temp_c)
            ),
        )],
        warnings,
        ..Worked::default()
    })
}
