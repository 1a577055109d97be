//! The best way through a case: what proves each fault soonest, done by an expert, and what it takes.
//!
//! # Source
//! House rule of the trainer: of the checks that can prove a fault, the one of the trade with the fewest minutes.

use crate::case::{Case, CaseError};
use crate::learner::Learner;
use crate::mistakes::{Mistake, notice};
use crate::remedy::{puts_right, right};
use crate::spent::{Spent, spent};
use crate::step::Step;
use crate::words;
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::exercise::ExerciseAct;
use cobaltine_core::rules::Rules;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::Decision;
use cobaltine_engines::fault::{At, Fault};
use cobaltine_engines::score::wanted;
use std::collections::BTreeSet;

/// The best way and what it takes.
#[derive(Debug, Clone, PartialEq)]
pub struct Way {
    /// Its steps, in words.
    pub steps: Vec<String>,
    /// What it takes.
    pub spent: Spent,
}

/// What proves a fault.
fn proof(fault: Fault, fuel: FuelSystem) -> Step {
    let port = fuel == FuelSystem::PetrolPort;
    match fault {
        Fault::Guide | Fault::Valve => Step::Returns,
        Fault::Deposits | Fault::Wear | Fault::Basket if port => {
            Step::Check(EngineTest::PressureDrop)
        }
        Fault::Deposits
        | Fault::Wear
        | Fault::Basket
        | Fault::Gum
        | Fault::Lift
        | Fault::SeatWear
        | Fault::SeatDirt => Step::Bench,
        Fault::CoilOpen | Fault::CoilShort if fuel == FuelSystem::DieselPiezo => {
            Step::Check(EngineTest::PiezoStack)
        }
        Fault::CoilOpen | Fault::CoilShort => Step::Check(EngineTest::CoilResistance),
        Fault::Body => Step::Check(EngineTest::Insulation),
        Fault::Washer | Fault::Compression => Step::Check(EngineTest::Compression),
        Fault::Code => Step::Codes,
        Fault::Wire if port => Step::Check(EngineTest::Supply),
        Fault::Wire | Fault::Driver | Fault::Line => Step::Check(EngineTest::DriveCurrent),
        Fault::Spark => Step::Check(EngineTest::Spark),
        Fault::Fuel => Step::Check(EngineTest::FuelSample),
        Fault::Air => Step::Check(EngineTest::SuctionAir),
        Fault::Feed => Step::Check(EngineTest::LowPressure),
        Fault::Power => Step::Check(EngineTest::Supply),
        Fault::Pressure => Step::Check(EngineTest::RailRelief),
        Fault::Mixture => Step::Check(EngineTest::SharedCauses),
    }
}

/// What shows that a set is sound, where nothing is wrong.
fn clears(fuel: FuelSystem) -> Step {
    match fuel {
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => Step::Returns,
        FuelSystem::PetrolPort => Step::Check(EngineTest::PressureDrop),
        FuelSystem::PetrolDirect => Step::Check(EngineTest::DiBalance),
        FuelSystem::ExhaustDoser => Step::Bench,
    }
}

/// The steps of the best way, what all share first.
pub fn steps(case: &Case) -> Vec<Step> {
    let fuel = case.job.engine.fuel;
    let mut all = Vec::new();
    let shared = case.job.faults.iter().filter(|put| put.fault.at() == At::All);
    for put in shared {
        all.push(proof(put.fault, fuel));
        all.extend(puts_right(put.fault).map(Step::PutRight));
    }
    let of_places = case.job.faults.iter().filter(|put| put.fault.at() != At::All);
    let proofs: BTreeSet<Step> = of_places.map(|put| proof(put.fault, fuel)).collect();
    if proofs.contains(&Step::Returns)
        || (case.job.faults.is_empty() && clears(fuel) == Step::Returns)
    {
        all.push(Step::WarmUp);
    }
    if case.job.faults.is_empty() {
        all.push(clears(fuel));
    }
    all.extend(proofs);
    all
}

/// What is right for each cylinder.
pub fn decisions(case: &Case) -> Vec<(u32, Decision)> {
    let count = case.job.engine.seats.len();
    (0..count).map(|c| (c as u32 + 1, right(wanted(&case.job, c).1))).collect()
}

/// The expert goes the best way: on to the bench where the engine alone gives no evidence, as where a dead
/// injector leaves too few to compare with.
///
/// # Errors
/// What the program refuses, which a test rules out.
pub fn expert(case: &Case) -> Result<(Learner<'_>, Vec<Step>), CaseError> {
    let mut way = steps(case);
    let mut one = gone(case, &way)?;
    let lacks = notice(case, &one.file)?.iter().any(|one| one.mistake == Mistake::NoOwnEvidence);
    if lacks && !way.contains(&Step::Bench) {
        way.push(Step::Bench);
        one = gone(case, &way)?;
    }
    Ok((one, way))
}

fn gone<'a>(case: &'a Case, way: &[Step]) -> Result<Learner<'a>, CaseError> {
    let mut one = Learner::takes_up(case)?;
    for step in way {
        goes(&mut one, *step)?;
    }
    decides(&mut one, &decisions(case))?;
    Ok(one)
}

/// One step of a way.
///
/// # Errors
/// What the program refuses.
pub fn goes(one: &mut Learner<'_>, step: Step) -> Result<(), CaseError> {
    match step {
        Step::Check(check) => one.checks(check),
        Step::PutRight(part) => one.acts(ExerciseAct::PutRight { part }),
        Step::WarmUp => one.acts(ExerciseAct::WarmedUp),
        Step::Returns => one.returns(3),
        Step::Codes => one.reads_codes(),
        Step::Bench => one.benches(),
    }
}

/// Decides, and writes the codes that are decided to be written.
///
/// # Errors
/// What the program refuses.
pub fn decides(one: &mut Learner<'_>, decisions: &[(u32, Decision)]) -> Result<(), CaseError> {
    for (cylinder, decision) in decisions {
        one.decides(*cylinder, *decision)?;
    }
    let recode = decisions.iter().filter(|(_, decision)| *decision == Decision::Recode);
    let cylinders: Vec<u32> = recode.map(|(cylinder, _)| *cylinder).collect();
    if cylinders.is_empty() { Ok(()) } else { one.writes_codes(&cylinders) }
}

/// The best way through a case and what it takes by these prices.
///
/// # Errors
/// What the program refuses, which a test rules out.
pub fn best(case: &Case, rules: &Rules) -> Result<Way, CaseError> {
    let (expert, way) = expert(case)?;
    Ok(Way {
        steps: way.into_iter().map(words::step).collect(),
        spent: spent(&expert.file, rules)?,
    })
}
