//! A case: an engine with a known truth, and what is told of it. From a file, or from a seed and a level.
//!
//! # Source
//! `cases.toml` for what is written; the physics and the people of `cobaltine-engines` for the rest.

use crate::words;
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::exercise::{CaseRef, Level};
use cobaltine_core::record::Intake;
use cobaltine_core::work::{Lately, Symptom};
use cobaltine_engines::draw::Draw;
use cobaltine_engines::fault::Fault;
use cobaltine_engines::population::{MadeJob, Order, PersonRow, Population, Put};
use serde::Deserialize;
use std::sync::LazyLock;
use thiserror::Error;

/// The written cases.
const FILE: &str = include_str!("../cases.toml");

/// Why there is no such case.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum CaseError {
    /// None of this name.
    #[error("{}", words::NO_SUCH_CASE)]
    Unknown,
    /// The files that ship cannot be used, which a test rules out.
    #[error("{0}")]
    Files(String),
}

/// A case.
#[derive(Debug, Clone, PartialEq)]
pub struct Case {
    /// Which.
    pub reference: CaseRef,
    /// In a few words; says nothing of what is wrong.
    pub title: String,
    /// How much it asks for.
    pub level: Level,
    /// What is learned by it; empty for one that was drawn.
    pub teaches: String,
    /// What the engine sits in.
    pub machine: String,
    /// The complaint in the words of whoever brings it.
    pub complaint: String,
    /// The engine and what is true of it.
    pub job: MadeJob,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    case: Vec<Written>,
}

/// A written case, as its file has it.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
struct Written {
    name: String,
    title: String,
    level: Level,
    teaches: String,
    machine: String,
    complaint: String,
    fuel: FuelSystem,
    cylinders: u32,
    hours: f64,
    seed: u64,
    symptoms: Vec<Symptom>,
    #[serde(default)]
    lately: Vec<Lately>,
    faults: Vec<WrittenFault>,
}

#[derive(Debug, Clone, Copy, Deserialize)]
#[serde(deny_unknown_fields)]
struct WrittenFault {
    of: Fault,
    cylinder: usize,
    size: f64,
}

/// Files that ship, read once.
static FILES: LazyLock<Result<(Vec<Written>, Population), String>> = LazyLock::new(|| {
    let file: File = toml::from_str(FILE).map_err(|why| why.to_string())?;
    Ok((file.case, Population::shipped().map_err(|why| why.to_string())?))
});

fn files() -> Result<&'static (Vec<Written>, Population), CaseError> {
    FILES.as_ref().map_err(|why| CaseError::Files(why.clone()))
}

/// Somebody who slips nowhere: what goes wrong in an exercise is the learner's own doing.
pub(crate) fn steady_hand() -> Result<PersonRow, CaseError> {
    let mut person = files()?.1.person.clone();
    for rate in [
        &mut person.not_settled,
        &mut person.unequal_start,
        &mut person.cold,
        &mut person.unpurged,
        &mut person.changed_over,
        &mut person.decimal,
        &mut person.disturbed,
    ] {
        *rate = 0.0;
    }
    Ok(person)
}

/// The written cases in the order in which they teach.
///
/// # Errors
/// Files that cannot be used, which a test rules out.
pub fn written() -> Result<Vec<Case>, CaseError> {
    let (all, people) = files()?;
    Ok(all.iter().map(|one| one.case(people)).collect())
}

/// This case.
///
/// # Errors
/// [`CaseError::Unknown`].
pub fn case(reference: &CaseRef) -> Result<Case, CaseError> {
    let (all, people) = files()?;
    match reference {
        CaseRef::Written { name } => {
            let found = all.iter().find(|one| one.name == *name);
            Ok(found.ok_or(CaseError::Unknown)?.case(people))
        }
        CaseRef::Drawn { seed, level } => Ok(drawn(*seed, *level, people)),
    }
}

impl Written {
    fn case(&self, people: &Population) -> Case {
        let put = |one: &WrittenFault| Put {
            fault: one.of,
            cylinder: one.cylinder.saturating_sub(1),
            size: one.size,
        };
        let order = Order {
            fuel: self.fuel,
            cylinders: self.cylinders,
            hours: self.hours,
            faults: self.faults.iter().map(put).collect(),
            lately: self.lately.clone(),
            limit: true,
        };
        let job = people.made_to(self.seed, &order);
        Case {
            reference: CaseRef::Written { name: self.name.clone() },
            title: self.title.clone(),
            level: self.level,
            teaches: self.teaches.clone(),
            machine: self.machine.clone(),
            complaint: self.complaint.clone(),
            job: MadeJob { symptoms: self.symptoms.clone(), ..job },
        }
    }
}

/// Engines that are drawn, and how often of a hundred.
const FUELS: [(FuelSystem, f64); 3] = [
    (FuelSystem::DieselSolenoid, 45.0),
    (FuelSystem::PetrolPort, 40.0),
    (FuelSystem::PetrolDirect, 15.0),
];

/// Faults of one place that a case may have: each can be proven with what the program reads.
fn faults(fuel: FuelSystem, level: Level) -> &'static [Fault] {
    use FuelSystem::{DieselPiezo, DieselSolenoid, ExhaustDoser, PetrolDirect, PetrolPort};
    match (level, fuel) {
        (Level::NothingWrong, _) => &[],
        (Level::SharedCause, DieselSolenoid | DieselPiezo) => {
            &[Fault::Fuel, Fault::Air, Fault::Feed, Fault::Pressure]
        }
        (Level::SharedCause, PetrolPort | PetrolDirect | ExhaustDoser) => {
            &[Fault::Feed, Fault::Mixture]
        }
        (Level::EarlierRepair, DieselSolenoid | DieselPiezo | PetrolDirect) => {
            &[Fault::Code, Fault::Wire]
        }
        (Level::EarlierRepair, PetrolPort | ExhaustDoser) => &[Fault::Wire],
        (Level::GrossFault | Level::OneFault | Level::TwoFaults, DieselSolenoid | DieselPiezo) => {
            &[Fault::Guide, Fault::Valve, Fault::CoilOpen]
        }
        (Level::GrossFault | Level::OneFault | Level::TwoFaults, PetrolPort) => {
            &[Fault::Deposits, Fault::CoilOpen, Fault::Wear]
        }
        (Level::GrossFault | Level::OneFault | Level::TwoFaults, PetrolDirect | ExhaustDoser) => {
            &[Fault::Deposits, Fault::CoilOpen]
        }
    }
}

/// How large the faults of a level are, from and to.
fn sizes(level: Level) -> (f64, f64) {
    match level {
        Level::GrossFault => (1.0, 1.3),
        Level::OneFault | Level::TwoFaults => (0.6, 1.0),
        // Half a shared cause is no cause to be found.
        Level::SharedCause | Level::EarlierRepair | Level::NothingWrong => (0.8, 1.1),
    }
}

fn drawn(seed: u32, level: Level, people: &Population) -> Case {
    let draw = &mut Draw::new(u64::from(seed), 0x7EAC + level as u64);
    let fuel = FUELS[draw.weighted(FUELS.iter().map(|(_, share)| *share))].0;
    let cylinders = if draw.happens(0.8) { 4 } else { 6 };
    let may = faults(fuel, level);
    let count = match level {
        Level::NothingWrong => 0,
        Level::GrossFault | Level::OneFault | Level::SharedCause => 1,
        // Codes that were exchanged are two.
        Level::TwoFaults | Level::EarlierRepair => 2,
    };
    let (from, to) = sizes(level);
    let mut free: Vec<usize> = (0..cylinders as usize).collect();
    let mut put: Vec<Put> = Vec::new();
    for _ in 0..count {
        let fault = match put.first() {
            Some(first) if level == Level::EarlierRepair => first.fault,
            _ => may[draw.below(may.len())],
        };
        let cylinder = free.swap_remove(draw.below(free.len()));
        put.push(Put { fault, cylinder, size: draw.between(from, to) });
        if fault == Fault::Wire {
            break;
        }
    }
    let lately = match level {
        Level::EarlierRepair => vec![Lately::InjectorsOut],
        Level::GrossFault
        | Level::OneFault
        | Level::SharedCause
        | Level::NothingWrong
        | Level::TwoFaults => Vec::new(),
    };
    let hours = draw.between(1500.0, 8000.0).round();
    let order = Order { fuel, cylinders, hours, faults: put, lately, limit: true };
    let machine = words::MACHINES[draw.below(words::MACHINES.len())].to_owned();
    Case {
        reference: CaseRef::Drawn { seed, level },
        title: words::drawn_title(seed),
        level,
        teaches: String::new(),
        machine,
        complaint: String::new(),
        job: people.made_to(u64::from(seed), &order),
    }
}

impl Case {
    /// What is booked in for it.
    pub fn intake(&self) -> Intake {
        Intake {
            customer: String::new(),
            customer_id: None,
            machine: self.machine.clone(),
            plate: String::new(),
            usage: format!("{} h", self.job.hours.round()),
            engine: words::MADE_UP_ENGINE.to_owned(),
            fuel_system: self.job.engine.fuel,
            layout: self.job.engine.layout,
            promised: None,
            family_id: None,
            symptoms: self.job.symptoms.clone(),
            complaint: self.complaint.clone(),
            story: self.job.story.clone(),
        }
    }
}
