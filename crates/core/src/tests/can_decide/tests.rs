use super::*;
use proptest::prelude::*;
use uuid::Uuid;

fn instrument(kind: InstrumentKind, resolution: f64, pct: f64) -> Instrument {
    Instrument {
        id: Uuid::nil(),
        name: "Instrument".to_owned(),
        kind,
        resolution,
        accuracy_pct: pct,
        accuracy_digits: 0.0,
        lead_ohm: None,
        capacity_ml: kind.catches_volume().then_some(100.0),
        calibration_due: None,
        certificate: String::new(),
        revision: 1,
    }
}

fn ask<'a>(instrument: &'a Instrument, lower: Option<f64>, upper: Option<f64>) -> Question<'a> {
    let run = instrument.kind.catches_volume().then_some((60.0, 0.3));
    Question { instrument, lower, upper, run, confidence: 0.95 }
}

#[test]
fn an_ordinary_meter_cannot_decide_a_coil_below_an_ohm_and_says_what_would() {
    let coarse = instrument(InstrumentKind::Meter, 0.1, 1.0);
    let out = can_decide(&ask(&coarse, Some(0.36), Some(0.42))).unwrap();
    assert_eq!((out.carries, out.inside), (Carries::Not, None));
    assert!(
        out.sentence.starts_with("Instrument cannot decide 0.36 to 0.42 Ω"),
        "{}",
        out.sentence
    );
    assert_eq!(out.would, ["A last digit of 0.01 Ω is enough."]);
    let fine = instrument(InstrumentKind::Meter, 0.01, 1.0);
    assert_eq!(can_decide(&ask(&fine, Some(0.36), Some(0.42))).unwrap().carries, Carries::Well);
}

#[test]
fn coarse_bottles_ask_for_a_longer_run_and_an_overflow_is_seen_before_it_happens() {
    let bottles = instrument(InstrumentKind::Bottles, 10.0, 0.0);
    let out = can_decide(&ask(&bottles, None, Some(12.0))).unwrap();
    assert_eq!(out.carries, Carries::Narrow);
    assert!(out.would[0].starts_with("A run of 2:"), "{:?}", out.would);
    let long = Question { run: Some((600.0, 0.3)), ..ask(&bottles, None, Some(12.0)) };
    let out = can_decide(&long).unwrap();
    assert!(out.would.iter().any(|w| w.contains("An overflowing bottle says")), "{:?}", out.would);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]
    #[test]
    fn what_is_promised_is_what_decide_says_later(
        resolution in 0.01..2.0_f64, lower in 1.0..20.0_f64, width in 0.1..20.0_f64, pct in 0.0..3.0_f64,
    ) {
        let meter = instrument(InstrumentKind::Meter, resolution, pct);
        let question = ask(&meter, Some(lower), Some(lower + width));
        let out = can_decide(&question).unwrap();
        if let Some([from, to]) = out.inside {
            prop_assert!(from >= lower && to <= lower + width);
            prop_assert_eq!(question.state(from).unwrap(), LimitState::Within);
            prop_assert_eq!(question.state(to).unwrap(), LimitState::Within);
        } else {
            prop_assert_eq!(question.state(question.middle()).unwrap(), LimitState::Undecided);
        }
        let above = out.above_from.unwrap();
        prop_assert_eq!(question.state(above * 1.001).unwrap(), LimitState::Above);
    }
}
