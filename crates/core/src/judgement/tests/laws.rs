//! What holds for every list of findings.

use super::*;
use crate::bench::tests::{family, session};
use crate::bench::{BenchKind, BenchTest};
use crate::judgement::rank::{Place, Ranking};
use crate::library::FamilyKind;
use crate::record::Intake;
use crate::sample::{at, job};
use crate::work::Symptom;
use proptest::prelude::*;
use uuid::Uuid;

const HERE: Place = Place { cylinder: 1, injector: Uuid::from_u128(1) };

fn finding(weights: &Weights, code: Code) -> Finding {
    let (check, _) = weights.row(code).unwrap();
    Finding {
        code: Some(code),
        check: check.id.clone(),
        cylinder: Some(1),
        injector: Some(HERE.injector),
        at: at(1).at,
        says: format!("{}.", code.name()),
        would: String::new(),
    }
}

fn belief(weights: &Weights, intake: &Intake, codes: &[Code]) -> Vec<f64> {
    let findings: Vec<Finding> = codes.iter().map(|code| finding(weights, *code)).collect();
    let belief = Ranking { weights, intake, age: None, findings: &findings }.belief(HERE);
    Cause::ALL.iter().map(|cause| belief.of(*cause)).chain([belief.healthy()]).collect()
}

fn codes() -> impl Strategy<Value = Vec<Code>> {
    prop::collection::vec(prop::sample::select(Code::ALL), 0..12)
}

fn intake() -> impl Strategy<Value = Intake> {
    let symptoms = [Symptom::BlackSmoke, Symptom::NoStart, Symptom::CheckAndClean];
    (prop::sample::select(&FuelSystem::ALL[..]), prop::sample::subsequence(symptoms.to_vec(), 0..3))
        .prop_map(|(fuel, symptoms)| job(fuel, &symptoms).job.intake)
}

proptest! {
    #[test]
    fn a_finding_against_a_cause_never_raises_it_and_one_for_it_never_lowers_it(
        intake in intake(), codes in codes(), more in prop::sample::select(Code::ALL),
    ) {
        let weights = weights();
        let before = belief(&weights, &intake, &codes);
        let with: Vec<Code> = codes.iter().copied().chain([more]).collect();
        let after = belief(&weights, &intake, &with);
        for (i, cause) in Cause::ALL.iter().enumerate() {
            prop_assert!((0.0..=1.0).contains(&after[i]));
            let factor = weights.factor(more, *cause);
            prop_assert!(factor > 1.0 || after[i] <= before[i] + 1e-12, "{cause:?} {factor}");
            prop_assert!(factor < 1.0 || after[i] >= before[i] - 1e-12, "{cause:?} {factor}");
        }
        // A finding that speaks for no cause never makes it less healthy.
        let healthy = Cause::ALL.len();
        let speaks = Cause::ALL.iter().any(|cause| weights.factor(more, *cause) > 1.0);
        prop_assert!(speaks || after[healthy] >= before[healthy] - 1e-12);
    }

    #[test]
    fn the_order_of_findings_does_not_matter(
        intake in intake(), (codes, turned) in codes().prop_flat_map(|c| (Just(c.clone()), Just(c).prop_shuffle())),
    ) {
        let weights = weights();
        let (one, other) = (belief(&weights, &intake, &codes), belief(&weights, &intake, &turned));
        for (a, b) in one.iter().zip(other) {
            prop_assert!((a - b).abs() < 1e-12);
        }
    }

    #[test]
    fn correlated_findings_do_not_add_up(intake in intake(), codes in codes()) {
        let weights = weights();
        // The same answer given again, and any other of its group that speaks the same way.
        for code in &codes {
            let (check, _) = weights.row(*code).unwrap();
            let alike: Vec<Code> = Code::ALL
                .iter()
                .copied()
                .filter(|c| weights.row(*c).is_some_and(|(held, _)| held.group == check.group))
                .collect();
            let together = belief(&weights, &intake, &alike);
            for (i, cause) in Cause::ALL.iter().enumerate() {
                let alone = alike.iter().map(|c| belief(&weights, &intake, &[*c])[i]);
                let strongest = alone.fold(belief(&weights, &intake, &[])[i], f64::max);
                prop_assert!(together[i] <= strongest + 1e-12, "{cause:?} of {}", check.group);
            }
        }
        let twice: Vec<Code> = codes.iter().chain(&codes).copied().collect();
        prop_assert_eq!(belief(&weights, &intake, &codes), belief(&weights, &intake, &twice));
    }

    #[test]
    fn larger_injectors_and_larger_tubes_change_no_decision(
        volumes in prop::collection::vec(40.0..70.0_f64, 4), scale in 0.2..5.0_f64,
    ) {
        let made = |scale: f64| {
            let mut file = job(FuelSystem::PetrolPort, &[Symptom::CheckAndClean]);
            let port = family("F", FamilyKind::PetrolPortHigh, Vec::new());
            let mut s = session(BenchKind::Petrol, &[port], &["F"; 4]);
            s.setup.graduation *= scale;
            s.setup.capacity_ml *= scale;
            let tubes: Vec<f64> = volumes.iter().map(|v| v * scale).collect();
            let s = s.set(BenchTest::Flow, &[("pressure", 300.0), ("fluid", 1.0)]);
            file.bench = vec![s.tubes(BenchTest::Flow, Some(6), "volume", &tubes)];
            judge_file(&file).positions.into_iter().map(|p| p.ruling.decision).collect::<Vec<_>>()
        };
        prop_assert_eq!(made(1.0), made(scale));
    }

    #[test]
    fn whatever_is_told_and_found_there_is_a_decision_with_a_sentence_and_something_next(
        intake in intake(), codes in codes(), cylinder in 1..5_u32,
    ) {
        let weights = weights();
        let mut file = job(intake.fuel_system, &intake.symptoms);
        file.job.intake = intake;
        let judged = file.judged().unwrap();
        let findings: Vec<Finding> = codes.iter().map(|c| finding(&weights, *c)).collect();
        let judgement = {
            let rules = Rules::default();
            let house = House { weights: &weights, rules: &rules, tools: &[], counted: Counted::default() };
            judge_findings(&file, &judged, house, findings)
        };
        let at = &judgement.positions[cylinder as usize - 1];
        prop_assert!(at.ruling.sentence.ends_with('.') && !at.ruling.would_change.is_empty(), "{:?}", at.ruling);
        prop_assert!(!judgement.next.is_empty());
        let rates: Vec<f64> = judgement.next.iter().map(|n| n.bits / n.counted_minutes).collect();
        prop_assert!(rates.iter().all(|rate| rate.is_finite() && *rate >= 0.0));
    }
}
