use super::*;
use crate::engine::FuelSystem;
use crate::sample::{event, job, return_test, sheet};
use crate::work::{FaultCodes, Lately, Suffers, Symptom};

fn planned(file: &JobFile) -> Plan {
    file.judged().unwrap().plan
}

fn ids(plan: &Plan, state: StepState) -> Vec<&str> {
    plan.steps.iter().filter(|s| s.state == state).map(|s| s.id.0.as_str()).collect()
}

fn step<'a>(plan: &'a Plan, id: &str) -> &'a PlanStep {
    plan.steps.iter().find(|s| s.id.0 == id).unwrap()
}

#[test]
fn every_complaint_on_every_fuel_system_gets_a_plan_with_reasons_cautions_and_no_nonsense() {
    let symptoms = [
        Symptom::MisfireLightLoad,
        Symptom::NoStart,
        Symptom::LongCrankHot,
        Symptom::LowPower,
        Symptom::BlackSmoke,
        Symptom::CheckAndClean,
    ];
    for fuel in [
        FuelSystem::DieselSolenoid,
        FuelSystem::DieselPiezo,
        FuelSystem::PetrolPort,
        FuelSystem::PetrolDirect,
        FuelSystem::ExhaustDoser,
    ] {
        for symptom in symptoms {
            let plan = planned(&job(fuel, &[symptom]));
            assert!(plan.next.is_some() && plan.steer.len() > 20, "{fuel:?} {symptom:?}");
            for step in &plan.steps {
                assert!(step.why.ends_with('.') && step.spared_by.ends_with('.'), "{}", step.title);
                assert!(!step.title.is_empty() && step.minutes > 0 && !step.tools.is_empty());
                assert!(step.check.is_none_or(|check| check.fits(fuel)), "{}", step.title);
                let opens_lines = matches!(step.stage, Stage::OnEngine | Stage::Bench);
                assert!(
                    !opens_lines || !step.cautions.is_empty(),
                    "{}: cautions first",
                    step.title
                );
            }
            let open = plan.steps.iter().filter(|s| s.state == StepState::Open);
            assert_eq!(plan.minutes, open.map(|s| s.minutes).sum::<u32>());
        }
    }
    // A stack is never judged by a coil window, and a petrol engine has no return.
    let piezo = planned(&job(FuelSystem::DieselPiezo, &[Symptom::RoughIdle]));
    assert!(piezo.steps.iter().all(|s| s.id.0 != "coil_resistance"));
    let petrol = planned(&job(FuelSystem::PetrolPort, &[Symptom::RoughIdle]));
    assert!(petrol.steps.iter().all(|s| s.id.0 != "return_test"));
}

#[test]
fn what_changed_lately_and_who_suffers_move_the_plan() {
    let mut file = job(FuelSystem::DieselSolenoid, &[Symptom::LowPower]);
    file.job.intake.story.suffers = Suffers::All;
    file.job.intake.story.lately = vec![Lately::RefuelledElsewhere];
    file.job.intake.story.fault_codes = FaultCodes::None;
    let plan = planned(&file);
    assert_eq!(plan.next, Some(StepId("fuel_sample".to_owned())));
    assert!(step(&plan, "fuel_sample").why.contains("first suspect"));
    assert!(plan.steer.contains("check what they share"));
    assert!(step(&plan, "codes").says.contains("A mechanical fault may store none"));
    file.job.intake.story.suffers = Suffers::One;
    let one = planned(&file);
    assert!(one.steps.iter().all(|s| s.id.0 != "shared_causes"));
    assert_eq!(step(&one, "fuel_sample").state, StepState::Open, "the last fill is suspect");
    file.job.intake.story.lately.clear();
    assert_eq!(step(&planned(&file), "fuel_sample").state, StepState::Spared);
}

#[test]
fn a_weak_leg_is_repaired_before_anything_is_compared() {
    let mut file = job(FuelSystem::PetrolPort, &[Symptom::MisfireLoad]);
    let volts = |value: f64| {
        let read: &[f64] = &[12.5, value, 12.5, 12.5];
        sheet(EngineTest::Supply, 1, &[("battery", 12.6), ("load", 1.0)], &[("volts", read)])
    };
    file.sheets = vec![volts(10.4)];
    let plan = planned(&file);
    assert_eq!((plan.next.clone(), step(&plan, "pressure_drop").state), (None, StepState::Waits));
    assert_eq!(plan.first.unwrap().stage, Stage::Electrical);
    file.sheets.push(volts(12.4));
    assert!(planned(&file).next.is_some(), "read again, the plan goes on");
}

#[test]
fn bad_fuel_makes_the_comparisons_wait_when_all_suffer_but_not_for_the_one_that_does() {
    let mut file = job(FuelSystem::DieselSolenoid, &[Symptom::LowPower]);
    file.job.intake.story.suffers = Suffers::All;
    file.sheets = vec![sheet(
        EngineTest::FuelSample,
        5,
        &[("suffers", 2.0), ("look", 3.0), ("smell", 1.0), ("water", 0.0)],
        &[],
    )];
    let plan = planned(&file);
    assert_eq!(step(&plan, "fuel_sample").state, StepState::Done);
    assert_eq!(step(&plan, "return_test").state, StepState::Waits);
    assert!(plan.steer.contains("judge no injector before that"), "{}", plan.steer);
    file.job.intake.story.suffers = Suffers::One;
    assert_eq!(step(&planned(&file), "return_test").state, StepState::Open);
}

#[test]
fn a_named_cylinder_opens_the_swap_spares_the_cut_out_and_a_mechanical_one_ends_it() {
    let mut file = job(FuelSystem::DieselSolenoid, &[Symptom::RoughIdle]);
    let fresh = planned(&file);
    assert_eq!(step(&fresh, "swap").state, StepState::Waits, "nothing to follow yet");
    file.return_tests = vec![return_test(82.0, &[&[22.0, 60.0, 24.0, 23.0]])];
    let plan = planned(&file);
    assert!(step(&plan, "return_test").says.starts_with("Cylinder 2: leak-off"));
    assert_eq!(step(&plan, "swap").state, StepState::Open);
    assert_eq!(step(&plan, "cutout").state, StepState::Spared);
    let petrol = |compression: f64| {
        let mut file = job(FuelSystem::PetrolPort, &[Symptom::MisfireLightLoad]);
        file.sheets = vec![
            sheet(
                EngineTest::Compression,
                1,
                &[],
                &[("pressure", &[1200.0, compression, 1190.0, 1210.0])],
            ),
            sheet(
                EngineTest::Cutout,
                2,
                &[("base", 800.0)],
                &[("cut", &[700.0, 790.0, 705.0, 702.0])],
            ),
        ];
        file
    };
    let file = petrol(700.0);
    let judged = file.judged().unwrap();
    let cutout = judged.sheets[1].as_ref().unwrap();
    assert_eq!(
        (cutout.lanes[1].word.as_str(), cutout.lanes[1].also.as_str()),
        ("mechanical", "700")
    );
    assert!(cutout.advice.iter().any(|says| says.contains("not its injector")));
    assert_eq!(step(&judged.plan, "swap").state, StepState::Waits);
    assert!(judged.plan.steer.contains("Mechanical, not its injector"));
    assert_eq!((judged.plan.next, judged.plan.first.unwrap().stage), (None, Stage::RuleOut));
    let fuel = petrol(1205.0).judged().unwrap();
    assert_eq!(fuel.sheets[1].as_ref().unwrap().lanes[1].word, "weak fuel");
    assert_eq!(step(&fuel.plan, "swap").state, StepState::Open);
}

#[test]
fn people_change_the_plan_and_a_result_is_never_ticked_away() {
    let mut file = job(FuelSystem::PetrolPort, &[Symptom::MisfireLoad]);
    let skip = Event::StepSkipped {
        step: StepId("supply".to_owned()),
        reason: "done at the roadside".to_owned(),
    };
    let own = event(
        2,
        Event::StepAdded {
            title: "Ask the pilot".to_owned(),
            why: String::new(),
            minutes: 5,
            stage: Stage::TakeIn,
        },
    );
    let first = Event::StepFirst { step: StepId(own.id.to_string()) };
    file.sheets = vec![sheet(
        EngineTest::Cutout,
        1,
        &[("base", 800.0)],
        &[("cut", &[700.0, 702.0, 705.0, 702.0])],
    )];
    let tick = Event::StepSkipped { step: StepId("cutout".to_owned()), reason: "no".to_owned() };
    file.events = vec![event(1, skip), own.clone(), event(3, first), event(4, tick)];
    let plan = planned(&file);
    assert_eq!(
        (plan.steps[0].title.as_str(), plan.next.clone()),
        ("Ask the pilot", Some(StepId(own.id.to_string())))
    );
    assert_eq!(ids(&plan, StepState::Skipped), ["supply"]);
    assert_eq!(step(&plan, "supply").says, "Skipped: done at the roadside");
    assert_eq!(step(&plan, "cutout").state, StepState::Done);
    file.events.push(event(5, Event::StepBack { step: StepId("supply".to_owned()) }));
    file.events.push(event(6, Event::StepDone { step: StepId(own.id.to_string()) }));
    let plan = planned(&file);
    assert_eq!((ids(&plan, StepState::Skipped).len(), plan.steps[0].state), (0, StepState::Done));
}
