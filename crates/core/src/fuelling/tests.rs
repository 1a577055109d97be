//! Fuelling, worked by hand.

use super::*;
use crate::engine::FuelSystem;
use crate::sample::{at, job};
use crate::shelf::ShelfFeature;
use crate::shelf::ShelfValue;
use crate::tests::bench::BenchKind;
use uuid::Uuid;

const ASK: FuellingAsk = FuellingAsk {
    static_ml_min: 240.0,
    dead_time_ms: 0.8,
    idle_ms: 2.5,
    full_ms: 8.0,
    limit_rpm: 6000.0,
    two_stroke: false,
};

/// Four injectors with static flow and dead time.
fn tested(of: [(f64, f64); 4], u_flow: f64, u_dead: f64) -> Vec<Tested> {
    let one = |(cylinder, (flow, dead)): (u32, (f64, f64))| Tested {
        injector: Uuid::from_u128(u128::from(cylinder)),
        label: String::new(),
        job: Uuid::nil(),
        job_number: 1,
        owner: String::new(),
        cylinder,
        family: None,
        kind: BenchKind::Petrol,
        session: Uuid::nil(),
        round: String::new(),
        read_at: at(0).at,
        values: vec![
            value(ShelfFeature::StaticFlow, flow, u_flow, None),
            value(ShelfFeature::DeadTime, dead, u_dead, None),
        ],
        held_back: None,
    };
    (1..).zip(of).map(one).collect()
}

fn value(feature: ShelfFeature, value: f64, u: f64, pulse_ms: Option<f64>) -> ShelfValue {
    ShelfValue { feature, value, u, shown: String::new(), pulse_ms, condition: String::new() }
}

fn of(tested: &[Tested], ask: &FuellingAsk) -> Fuelling {
    let file = job(FuelSystem::PetrolPort, &[]);
    fuelling(&file, tested, ask, &Rules::default(), None).unwrap().unwrap()
}

#[test]
fn a_larger_set_needs_a_shorter_pulse_and_runs_rich_without_it() {
    let out = of(&tested([(300.0, 0.9); 4], 0.3, 0.002), &ASK);
    // (2.5 − 0.8) × 240 ÷ 300 + 0.9 and (8 − 0.8) × 240 ÷ 300 + 0.9, by hand.
    assert!((out.pulses[0].after_ms - 2.26).abs() < 1e-9);
    assert!((out.pulses[1].after_ms - 6.66).abs() < 1e-9);
    // 300 × 1.6 against 240 × 1.7, and 300 × 7.1 against 240 × 7.2.
    assert!((out.pulses[0].share - (480.0 / 408.0 - 1.0)).abs() < 1e-12);
    assert!((out.pulses[1].share - (2130.0 / 1728.0 - 1.0)).abs() < 1e-12);
    // One working cycle at 6000 rpm is 20 ms.
    assert!((out.duty - 6.66 / 20.0).abs() < 1e-12 && !out.always_open);
    assert!(out.cylinders.iter().all(|one| one.runs == Runs::Alike), "{out:?}");
    assert!(out.says.contains("+18 % at idle, +23 % at full load"), "{}", out.says);
}

#[test]
fn the_lean_cylinder_is_named_with_what_it_risks() {
    let out =
        of(&tested([(240.0, 0.8), (240.0, 0.8), (215.0, 0.8), (240.0, 0.8)], 0.3, 0.002), &ASK);
    let third = &out.cylinders[2];
    assert_eq!((third.cylinder, third.runs), (3, Runs::LeanFull));
    assert!(third.risk.contains("do not run at full load"), "{}", third.risk);
    // All open alike, so the share is that of the flows: 215 against their mean of 233.75.
    assert!((third.full - (215.0 / 233.75 - 1.0)).abs() < 1e-9);
    assert!(out.says.starts_with("Cylinder 3: lean at full load."), "{}", out.says);
}

#[test]
fn a_slow_opener_is_lean_at_idle_alone() {
    let out =
        of(&tested([(240.0, 0.8), (240.0, 0.8), (240.0, 1.0), (240.0, 0.8)], 0.3, 0.002), &ASK);
    assert_eq!(out.cylinders[2].word, "lean at idle");
    assert!(out.cylinders[2].full.abs() < 0.05 && out.cylinders[2].idle < -0.05);
}

#[test]
fn readings_that_cannot_carry_it_say_so() {
    let out =
        of(&tested([(240.0, 0.8), (240.0, 0.8), (230.0, 0.8), (240.0, 0.8)], 4.0, 0.002), &ASK);
    assert_eq!(out.cylinders[2].word, "inconclusive");
    assert!(out.says.contains("inconclusive with these readings"), "{}", out.says);
}

#[test]
fn without_a_sweep_the_dead_time_follows_from_the_short_pulse() {
    let mut shelf = tested([(240.0, 0.8); 4], 0.3, 0.002);
    for one in &mut shelf {
        // 240 ml/min is 4 mm³ a ms: 6.8 mm³ in 2.5 ms leave 0.8 ms.
        one.values[1] = value(ShelfFeature::ShortPulse, 6.8, 0.04, Some(2.5));
    }
    let out = of(&shelf, &ASK);
    assert!((out.dead_time_ms - 0.8).abs() < 1e-12);
    assert_eq!(out.dead_time_from, "the shortest pulse");
    assert!(out.advice.iter().any(|one| one.contains("pulse sweep")), "{:?}", out.advice);
    assert!((out.pulses[0].after_ms - 2.5).abs() < 1e-9, "the same set changes nothing");
}

#[test]
fn a_duty_without_reserve_is_told_and_a_pulse_within_the_dead_time_is_refused() {
    let out = of(&tested([(100.0, 0.8); 4], 0.3, 0.002), &ASK);
    assert!(out.duty > 0.85 && out.advice.iter().any(|one| one.contains("reserve")), "{out:?}");
    let file = job(FuelSystem::PetrolPort, &[]);
    let short = FuellingAsk { idle_ms: 0.7, ..ASK };
    let shelf = tested([(240.0, 0.8); 4], 0.3, 0.002);
    let refused = fuelling(&file, &shelf, &short, &Rules::default(), None).unwrap_err().to_string();
    assert!(refused.contains("nothing was injected"), "{refused}");
}
