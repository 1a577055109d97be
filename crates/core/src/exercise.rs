//! A job on a made-up engine: which case it is, and what is done there that no other job records.
//!
//! Everything else of it is a job like any other, so that whoever learns works in the views that they
//! will work in. It counts nowhere: not on the board, in no passport, in no workshop reference.

mod words;

use crate::limits::{FieldProblem, SHORT_TEXT};
use crate::named::named;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

named! {
    /// How much a case asks for.
    Level {
        GrossFault = gross_fault,
        OneFault = one_fault,
        SharedCause = shared_cause,
        NothingWrong = nothing_wrong,
        TwoFaults = two_faults,
        EarlierRepair = earlier_repair,
    }
}

named! {
    /// What a case is marked by.
    Skill {
        Finding = finding,
        Evidence = evidence,
        Measuring = measuring,
        Safety = safety,
        Economy = economy,
    }
}

named! {
    /// What all cylinders share, put right.
    SharedPart {
        Fuel = fuel,
        SuctionLine = suction_line,
        FeedPressure = feed_pressure,
        SupplyVoltage = supply_voltage,
        HighPressure = high_pressure,
        Intake = intake,
    }
}

/// Which case. With the same one everybody has the same engine before them.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum CaseRef {
    /// One of those that ship.
    Written {
        /// Its name.
        name: String,
    },
    /// Drawn by its seed.
    Drawn {
        /// Up to nine digits, so that it can be said aloud.
        seed: u32,
        /// How much it asks for.
        level: Level,
    },
}

/// Largest seed of a case.
pub const MOST_SEED: u32 = 999_999_999;

/// What makes a job an exercise.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Exercise {
    /// The case.
    pub case: CaseRef,
    /// Mistakes are told at once, and what comes next.
    pub guided: bool,
    /// The person whose exercise it is.
    pub learner: Uuid,
    /// Who set it; none for one that a person took up.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub set_by: Option<Uuid>,
}

/// How well one skill was shown, of 100.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SkillMark {
    /// Which.
    pub skill: Skill,
    /// 0 to 100.
    pub mark: u32,
}

/// What is done at a made-up engine besides readings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "act", rename_all = "snake_case", deny_unknown_fields)]
pub enum ExerciseAct {
    /// It ran until it was warm.
    WarmedUp,
    /// What all cylinders share was put right.
    PutRight {
        /// What.
        part: SharedPart,
    },
    /// The learner is done; nothing is written any more.
    Ended {
        /// One for each skill.
        marks: Vec<SkillMark>,
    },
}

impl Exercise {
    /// What is wrong with it, in words for its fields.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let says = match &self.case {
            CaseRef::Written { name } if name.is_empty() || name.len() > SHORT_TEXT => {
                Some(words::NO_SUCH_CASE)
            }
            CaseRef::Drawn { seed, .. } if *seed > MOST_SEED => Some(words::SEED_TOO_LARGE),
            CaseRef::Written { .. } | CaseRef::Drawn { .. } => None,
        };
        says.map(|says| FieldProblem::new("case", says)).into_iter().collect()
    }
}

impl ExerciseAct {
    /// What is wrong with it, in words for its fields.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let Self::Ended { marks } = self else { return Vec::new() };
        let each_once = Skill::ALL
            .iter()
            .all(|skill| marks.iter().filter(|one| one.skill == *skill).count() == 1);
        let of_100 = marks.iter().all(|one| one.mark <= 100);
        let fits = each_once && marks.len() == Skill::ALL.len() && of_100;
        let problem = (!fits).then(|| FieldProblem::new("marks", words::MARKS_EACH_SKILL_ONCE));
        problem.into_iter().collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_skill_is_marked_once_and_a_seed_can_be_said_aloud() {
        let marks = |count: usize, mark| {
            let some = Skill::ALL.iter().take(count).map(|skill| SkillMark { skill: *skill, mark });
            ExerciseAct::Ended { marks: some.collect() }.problems().len()
        };
        assert_eq!([marks(5, 100), marks(5, 101), marks(4, 100)], [0, 1, 1]);
        let drawn = |seed| Exercise {
            case: CaseRef::Drawn { seed, level: Level::OneFault },
            guided: false,
            learner: Uuid::nil(),
            set_by: None,
        };
        assert_eq!(drawn(MOST_SEED).problems(), []);
        assert_eq!(drawn(MOST_SEED + 1).problems().len(), 1);
    }
}
