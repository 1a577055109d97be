//! What holds for every list of findings.

use super::*;
use crate::judged::Judged;
use crate::judgement::cause::With;
use crate::judgement::evidence::Place;
use crate::library::FamilyKind;
use crate::record::{Event, Intake};
use crate::said::Lack;
use crate::sample::{Draw, at, event, job};
use crate::tests::bench::tests::{family, session};
use crate::tests::bench::{BenchKind, BenchTest};
use crate::work::{Decision, Symptom};
use proptest::prelude::*;
use uuid::Uuid;

const HERE: Place = Place { cylinder: 1, injector: Uuid::from_u128(1), new: false };

fn weighing() -> Vec<Code> {
    crate::tests::codes().collect()
}

fn finding(weights: &Weights, code: Code, cylinder: u32, quality: f64) -> Finding {
    let check = weights.check_of(code).unwrap();
    Finding {
        code,
        check: check.id.clone(),
        cylinder: (!check.shared).then_some(cylinder),
        injector: (!check.shared).then(|| Uuid::from_u128(u128::from(cylinder))),
        at: at(1).moment(),
        says: format!("{}.", code.name()),
        would: String::new(),
        sigmas: None,
        lacks: Vec::new(),
        quality,
        of_injector: true,
        of_cylinder: true,
        as_before: None,
    }
}

/// What is believed of cylinder 1: each cause, then sound.
fn belief(weights: &Weights, intake: &Intake, findings: &[Finding]) -> Vec<f64> {
    let priors = Priors::of(|cause| told_odds(weights, intake, None, cause, Told::default()));
    let shared = evidence::shared(weights, findings);
    let places = [(evidence::at_place(weights, findings, HERE), priors.clone())];
    let told = if intake.complains() { weights.unexplained() } else { 1.0 };
    let made = posterior::posterior(weights, intake.fuel_system, &shared, &places, &priors, told);
    let belief = &made.places[0].belief;
    Cause::ALL.iter().map(|cause| belief.chance(*cause)).chain([belief.sound()]).collect()
}

fn of_codes(weights: &Weights, codes: &[Code]) -> Vec<Finding> {
    codes.iter().map(|code| finding(weights, *code, 1, 1.0)).collect()
}

fn codes() -> impl Strategy<Value = Vec<Code>> {
    prop::collection::vec(prop::sample::select(weighing()), 0..10)
}

fn intake() -> impl Strategy<Value = Intake> {
    let symptoms = [Symptom::BlackSmoke, Symptom::NoStart, Symptom::CheckAndClean];
    (prop::sample::select(&FuelSystem::ALL[..]), prop::sample::subsequence(symptoms.to_vec(), 0..3))
        .prop_map(|(fuel, symptoms)| job(fuel, &symptoms).job.intake)
}

proptest! {
    #[test]
    fn an_outcome_less_likely_under_a_cause_than_under_sound_never_raises_it_against_sound(
        intake in intake(), codes in codes(), more in prop::sample::select(weighing()),
    ) {
        let weights = weights();
        let check = weights.check_of(more).unwrap();
        // Of a group one reading counts: only a question that was not answered yet is new evidence.
        let new = codes.iter().all(|code| weights.check_of(*code).unwrap().group != check.group);
        prop_assume!(new && !check.shared);
        let before = belief(&weights, &intake, &of_codes(&weights, &codes));
        let with: Vec<Code> = codes.iter().copied().chain([more]).collect();
        let findings = of_codes(&weights, &with);
        let after = belief(&weights, &intake, &findings);
        let sum: f64 = after.iter().take(14).sum();
        prop_assert!(after.iter().all(|p| (-1e-12..=1.0 + 1e-12).contains(p)) && sum.is_finite());
        let single = |code: Code, cause: Cause| weights.factor(code, cause);
        let priors = Priors::of(|cause| told_odds(&weights, &intake, None, cause, Told::default()));
        let gathered = evidence::at_place(&weights, &findings, HERE);
        let shared = evidence::shared(&weights, &findings);
        let places = [(gathered, priors.clone())];
        let made = posterior::posterior(&weights, intake.fuel_system, &shared, &places, &priors, 1.0);
        for reading in &made.places[0].readings {
            for cause in Cause::ALL.iter().copied().filter(|cause| cause.with() != With::All) {
                let (factor, table) = (reading.factor(cause), single(reading.reading.finding.code, cause));
                prop_assert!((factor - 1.0) * (table - 1.0) >= -1e-9, "{cause:?} {factor} {table}");
            }
        }
        prop_assert_eq!(before.len(), after.len());
    }

    /// By hand, over the states of two places: a complaint takes weight from the one state in which nothing is
    /// wrong, in proportion, and from no other; so it never speaks for one cause against another.
    #[test]
    fn a_complaint_takes_from_all_sound_alone(
        fuel in prop::sample::select(&FuelSystem::ALL[..]), one in codes(), other in codes(), told in 0.05..1.0_f64,
    ) {
        let (weights, intake) = (weights(), job(fuel, &[Symptom::RoughIdle]).job.intake);
        let findings: Vec<Finding> = of_codes(&weights, &one)
            .into_iter()
            .chain(other.iter().map(|code| finding(&weights, *code, 2, 1.0)))
            .collect();
        let priors = Priors::of(|cause| told_odds(&weights, &intake, None, cause, Told::default()));
        let shared = evidence::shared(&weights, &findings);
        let second = evidence::Place { cylinder: 2, injector: Uuid::from_u128(2), ..HERE };
        let places = [HERE, second].map(|at| (evidence::at_place(&weights, &findings, at), priors.clone()));
        let with = |told: f64| posterior::posterior(&weights, fuel, &shared, &places, &priors, told);
        let (plain, complained) = (with(1.0), with(told));
        let left = complained.without;
        for (before, after) in plain.places.iter().zip(&complained.places) {
            for cause in Cause::ALL {
                let (before, after) = (before.belief.chance(*cause), after.belief.chance(*cause));
                prop_assert!((after * left - before).abs() < 1e-9, "{cause:?} {before} {after} {left}");
            }
            // What sound loses is the weight that was taken: never more than what both places sound weighed.
            let (was, is) = (before.belief.sound(), after.belief.sound());
            prop_assert!((was - is * left - (1.0 - left)).abs() < 1e-9 && is <= was + 1e-12);
            prop_assert!(1.0 - left <= (1.0 - told) * was + 1e-12);
        }
    }

    #[test]
    fn the_order_of_findings_does_not_matter(
        intake in intake(), (codes, turned) in codes().prop_flat_map(|c| (Just(c.clone()), Just(c).prop_shuffle())),
    ) {
        let weights = weights();
        let one = belief(&weights, &intake, &of_codes(&weights, &codes));
        let other = belief(&weights, &intake, &of_codes(&weights, &turned));
        for (a, b) in one.iter().zip(other) {
            prop_assert!((a - b).abs() < 1e-9);
        }
    }

    #[test]
    fn answering_the_same_question_twice_adds_nothing(intake in intake(), codes in codes()) {
        let weights = weights();
        let once = of_codes(&weights, &codes);
        let twice: Vec<Finding> = once.iter().chain(&once).cloned().collect();
        for (a, b) in belief(&weights, &intake, &once).iter().zip(belief(&weights, &intake, &twice)) {
            prop_assert!((a - b).abs() < 1e-9);
        }
    }

    #[test]
    fn a_reading_of_no_quality_says_nothing_and_a_worse_one_says_less(
        intake in intake(), code in prop::sample::select(weighing()), q in 0.0..1.0_f64,
    ) {
        let weights = weights();
        let of = |quality: f64| belief(&weights, &intake, &[finding(&weights, code, 1, quality)]);
        let (none, some, all) = (belief(&weights, &intake, &[]), of(q), of(1.0));
        let zero = of(0.0);
        for i in 0..none.len() {
            prop_assert!((zero[i] - none[i]).abs() < 1e-9);
            let (low, high) = (none[i].min(all[i]) - 1e-9, none[i].max(all[i]) + 1e-9);
            prop_assert!((low..=high).contains(&some[i]), "{} {} {}", none[i], some[i], all[i]);
        }
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
    fn a_swap_undone_before_anything_was_read_restores_the_judgement(
        levels in prop::collection::vec(15.0..70.0_f64, 4), one in 1..5_u32, by in 1..4_u32,
    ) {
        let other = (one + by - 1) % 4 + 1;
        prop_assume!(one != other);
        let mut file = job(FuelSystem::PetrolPort, &[Symptom::RoughIdle]);
        let drop: Vec<f64> = levels.iter().map(|level| 300.0 - level).collect();
        file.sheets = vec![crate::sample::sheet(
            crate::tests::engine::EngineTest::PressureDrop, 5, &[("pulses", 50.0), ("pulse", 6.0)],
            &[("start", &[300.0; 4]), ("end", &drop)],
        )];
        let before = judge_file(&file).positions;
        for minute in [10, 20] {
            file.events.push(event(minute, Event::Swapped { one, other }));
        }
        prop_assert_eq!(before, judge_file(&file).positions);
    }
}

/// Any list of findings at all: of each place some, of all some, good and bad readings.
fn any_findings(weights: &Weights, fuel: FuelSystem, draw: &mut Draw) -> Vec<Finding> {
    let known: Vec<Code> = weighing()
        .into_iter()
        .filter(|code| weights.check_of(*code).unwrap().fits.contains(&fuel))
        .collect();
    let lacks = [Lack::OneRun, Lack::Unloaded, Lack::Cold, Lack::NoPressure];
    (0..draw.below(9))
        .map(|_| {
            let code = *draw.one(&known);
            let mut one = finding(weights, code, 1 + draw.below(4) as u32, 1.0);
            if draw.below(10) < 3 {
                one.lacks = vec![*draw.one(&lacks)];
                one.quality = one.lacks[0].leaves();
            }
            one.at = at(1 + draw.below(59) as i64).moment();
            one
        })
        .collect()
}

fn judged_with(
    file: &JobFile,
    judged: &Judged,
    weights: &Weights,
    findings: Vec<Finding>,
) -> Judgement {
    let rules = Rules::default();
    let house = House { weights, rules: &rules, tools: &[], counted: Counted::default() };
    judge_findings(file, judged, house, findings)
}

/// A reading that measures flow, return, leak, spray, coil, map or lift on this injector.
fn measures(weights: &Weights, finding: &Finding) -> bool {
    weights.check_of(finding.code).is_some_and(|check| check.measures.is_some())
}

#[test]
fn nothing_is_replaced_reconditioned_or_cleaned_without_evidence_of_its_own() {
    let weights = weights();
    let mut draw = Draw(20_260_101);
    let files: Vec<(JobFile, Judged)> = FuelSystem::ALL
        .iter()
        .flat_map(|fuel| {
            [vec![], vec![Symptom::RoughIdle], vec![Symptom::NoStart]].map(|s| job(*fuel, &s))
        })
        .map(|file| {
            let judged = file.judged().unwrap();
            (file, judged)
        })
        .collect();
    let mut worked = 0;
    for _ in 0..20_000 {
        let (file, judged) = draw.one(&files);
        let findings = any_findings(&weights, file.job.intake.fuel_system, &mut draw);
        let judgement = judged_with(file, judged, &weights, findings);
        for at in &judgement.positions {
            let ruling = &at.ruling;
            assert!(
                ruling.sentence.ends_with(['.', ':', '?']) && !ruling.would_change.is_empty(),
                "{ruling:?}"
            );
            assert!(!ruling.sentence.ends_with("But:"));
            let work =
                matches!(ruling.decision, Decision::Replace | Decision::Adjust | Decision::Clean);
            if work {
                worked += 1;
                // Dirt that was seen is dirt of its own; no part is bought for it.
                let dirt = ruling.decision == Decision::Clean;
                let own = judgement.findings.iter().any(|f| {
                    f.injector == Some(at.injector)
                        && f.quality >= 0.6
                        && (measures(&weights, f) || dirt && f.code == outcomes::SEEN_DIRTY)
                });
                assert!(own, "{ruling:?} {:?}", judgement.findings);
            }
        }
        for next in &judgement.next {
            assert!(
                next.settles.is_finite()
                    && next.settles >= 0.0
                    && !next.why.trim_end().ends_with("But:")
            );
        }
    }
    // The draw reaches the decisions that it is about.
    assert!(worked > 2_000, "{worked}");
}
