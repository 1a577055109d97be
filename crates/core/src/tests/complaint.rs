//! What a complaint comes down to: why a test has a place in the plan of a job.
//!
//! # Source
//! House rule: the order of the trade, cheap, quick and shared first.

use crate::intake::Intake;
use crate::tests::words;
use crate::work::{Condition, Lately, Suffers, Symptom};

/// What the complaint comes down to.
pub struct Complaint<'a> {
    intake: &'a Intake,
    /// It does not start, or only after long cranking.
    pub start: bool,
    /// It does not start at all.
    pub dead: bool,
    /// It misfires or idles roughly.
    pub rough: bool,
    /// It lacks power, smokes, knocks or drinks.
    pub burns: bool,
    /// It shows under load.
    pub load: bool,
    /// Nothing is wrong: check and clean.
    pub clean: bool,
    /// All cylinders suffer, or the last tank is a suspect.
    pub shared: bool,
    /// One cylinder suffers.
    pub one: bool,
}

/// Why a step is in a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Why {
    /// In a sentence.
    pub says: &'static str,
    /// What would make it unnecessary.
    pub spared_by: &'static str,
}

/// In the plan, for this reason.
pub(crate) fn why(says: &'static str, spared_by: &'static str) -> Option<Why> {
    Some(Why { says, spared_by })
}

impl<'a> Complaint<'a> {
    pub(crate) fn of(intake: &'a Intake) -> Self {
        let has = |symptom: Symptom| intake.symptoms.contains(&symptom);
        let dead = has(Symptom::NoStart);
        let told = Self {
            intake,
            dead,
            start: dead || has(Symptom::LongCrankCold) || has(Symptom::LongCrankHot),
            rough: has(Symptom::MisfireLightLoad)
                || has(Symptom::MisfireLoad)
                || has(Symptom::RoughIdle),
            burns: [
                Symptom::BlackSmoke,
                Symptom::WhiteSmoke,
                Symptom::BlueSmoke,
                Symptom::HighConsumption,
                Symptom::Knock,
                Symptom::LowPower,
            ]
            .into_iter()
            .any(has),
            load: has(Symptom::MisfireLoad) || has(Symptom::LowPower),
            clean: intake.symptoms == [Symptom::CheckAndClean],
            shared: intake.story.suffers == Suffers::All,
            one: intake.story.suffering(intake.layout.cylinders) == Suffers::One,
        };
        Self {
            start: told.start || told.when(Condition::Cranking),
            load: told.load || told.when(Condition::Load),
            shared: told.shared
                || told.lately(Lately::RefuelledElsewhere)
                || told.lately(Lately::RanDry),
            ..told
        }
    }

    /// This changed lately.
    pub(crate) fn lately(&self, what: Lately) -> bool {
        self.intake.story.lately.contains(&what)
    }

    /// It shows then.
    pub(crate) fn when(&self, when: Condition) -> bool {
        self.intake.story.when.contains(&when)
    }

    /// Why coils or stacks are compared.
    pub(crate) fn odd_coil(&self) -> Option<Why> {
        (self.rough || self.dead || self.clean).then_some(Why {
            says: words::FINDS_ODD_ONE_OUT,
            spared_by: words::WIRING_FAULT_FUSE_ALREADY,
        })
    }
}
