use super::*;
use crate::library::TorqueStage;
use crate::record::{DecisionRecord, Event, Injector, JobFile, Part};
use crate::sample::{at, event, job};
use crate::work::Decision;
use uuid::Uuid;

const STAGES: [TorqueStage; 2] = [
    TorqueStage { torque_nm: Some(8.0), angle_deg: None },
    TorqueStage { torque_nm: None, angle_deg: Some(90.0) },
];

fn decided(cylinder: u32, decision: Decision) -> DecisionRecord {
    let reason = "as seen".to_owned();
    DecisionRecord { id: Uuid::now_v7(), cylinder, decision, reason, proposed: None, signed: at(1) }
}

fn tick(step: FitStep, cylinders: &[u32], done: bool) -> Event {
    Event::Fitted { step, cylinders: cylinders.to_vec(), done }
}

fn names(file: &JobFile, family: &[TorqueStage]) -> Vec<FitStep> {
    fitting(file, family).steps.iter().map(|step| step.step).collect()
}

#[test]
fn what_was_decided_moved_or_replaced_was_out_and_every_step_of_it_has_to_be_ticked() {
    let mut file = job(FuelSystem::DieselSolenoid, &[]);
    let card = fitting(&file, &STAGES);
    assert!(card.done && card.out.is_empty() && card.parts.is_empty(), "{}", card.says);
    file.decisions = vec![decided(1, Decision::Leave), decided(2, Decision::Clean)];
    file.events.push(event(2, Event::Swapped { one: 3, other: 4 }));
    let spare = Injector { id: Uuid::from_u128(99), cylinder: 1, label: "N-1".to_owned() };
    file.events.push(event(3, Event::Replaced { injector: spare, part: Part::New }));
    let card = fitting(&file, &STAGES);
    assert_eq!(card.out, [1, 2, 3, 4]);
    assert_eq!(card.parts[0], PartDue { name: "sealing washer".to_owned(), count: 4 });
    for step in card.steps {
        file.events.push(event(4, tick(step.step, &[1, 2, 3, 4], true)));
    }
    assert!(fitting(&file, &STAGES).done);
    file.events.push(event(5, tick(FitStep::Washer, &[2], false)));
    let card = fitting(&file, &STAGES);
    assert_eq!(
        (card.open.as_slice(), card.says.as_str()),
        (&[2][..], "Cylinder 2 to fit: 1 step open.")
    );
    let trouble =
        Event::FoundTrouble { cylinder: 2, trouble: Trouble::SealLeftBehind, note: String::new() };
    file.events.push(event(6, trouble));
    assert!(fitting(&file, &STAGES).troubles[0].advice.starts_with("Find it"));
}

#[test]
fn each_kind_of_fuel_system_has_the_steps_of_its_own() {
    use FitStep::{
        BoltHand, Bore, Clip, CombustionSeal, Line, Plug, ReturnClip, Seals, Torque, Washer,
    };
    let of = |fuel, family: &[TorqueStage]| names(&job(fuel, &[]), family);
    assert_eq!(of(FuelSystem::PetrolPort, &STAGES), [Bore, Seals, Clip, Plug]);
    assert_eq!(
        of(FuelSystem::PetrolDirect, &[]),
        [Bore, Seals, CombustionSeal, BoltHand, Torque, Line, Plug]
    );
    let diesel = [Bore, Washer, Seals, BoltHand, Torque, Line, ReturnClip, Plug];
    assert_eq!(of(FuelSystem::DieselPiezo, &[]), diesel);
    assert!(of(FuelSystem::DieselPiezo, &STAGES).contains(&FitStep::BoltNew), "it stretches");
}

#[test]
fn torque_is_shown_in_every_unit_and_what_was_typed_for_the_job_leads() {
    let mut file = job(FuelSystem::DieselSolenoid, &[]);
    assert!(!tightening(&file, &[]).known);
    file.family = Some("Skua".to_owned());
    let of_family = tightening(&file, &STAGES);
    assert_eq!(of_family.stages, ["8 N·m (71 in·lb, 5.9 ft·lb)", "90° on"]);
    assert!(of_family.stretched && of_family.source == "From the library: Skua.");
    let stages = vec![TorqueStage { torque_nm: Some(12.0), angle_deg: Some(60.0) }];
    let typed = Event::Tightening {
        stages,
        typed: "12 + 60°".to_owned(),
        source: "maker's sheet".to_owned(),
    };
    file.events.push(event(2, typed));
    let held = tightening(&file, &STAGES);
    assert_eq!(held.stages, ["12 N·m (106 in·lb, 8.9 ft·lb), then 60° on"]);
    assert!(held.source.ends_with("maker's sheet"));
}
