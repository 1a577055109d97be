//! Who may do what: four roles, and the rights that each of them has.
//!
//! # Source
//! House rule. Whoever learns must be able to measure and must not condemn a part; whoever changes what
//! every job is judged by, or what leaves the workshop, has to be the one who answers for it.

use crate::named::named;
use crate::record::Event;

named! {
    /// What a person is in the workshop; each may do what those before it may.
    Role {
        Learner = learner,
        Technician = technician,
        Reviewer = reviewer,
        Owner = owner,
    }
}

named! {
    /// What a person may do.
    Right {
        // To look at jobs, the library and the shelf, and to work out what is kept nowhere.
        Look = look,
        // To measure: readings, runs, notes and timers.
        Measure = measure,
        // To book in, decide, refit, write trim codes and close; to keep library and shelf.
        Work = work,
        // To sign the decisions of somebody else.
        Sign = sign,
        // To change what every job is judged by, and to import.
        Rule = rule,
        // To take the data of the whole workshop with one.
        Export = export,
        // To say who may do what, and what the workshop is.
        Own = own,
    }
}

impl Right {
    /// It needs a password that was entered a moment ago: it reaches beyond one job.
    pub fn needs_fresh(self) -> bool {
        match self {
            Self::Rule | Self::Own => true,
            Self::Look | Self::Measure | Self::Work | Self::Sign | Self::Export => false,
        }
    }

    /// The first role that has it.
    fn least(self) -> Role {
        match self {
            Self::Look | Self::Measure => Role::Learner,
            Self::Work => Role::Technician,
            Self::Sign | Self::Rule => Role::Reviewer,
            Self::Export | Self::Own => Role::Owner,
        }
    }
}

impl Role {
    /// Whether this role has this right.
    pub fn may(self, right: Right) -> bool {
        self >= right.least()
    }
}

impl Event {
    /// What recording it takes.
    pub fn right(&self) -> Right {
        match self {
            Self::TimerSet { .. }
            | Self::TimerOff { .. }
            | Self::StepDone { .. }
            | Self::Exercise(_) => Right::Measure,
            Self::Reviewed { .. } => Right::Sign,
            // Whether fuel lies on the pistons decides whether an engine may be cranked.
            Self::Cleared { .. }
            | Self::ClearingUndone { .. }
            | Self::ReturnConfirmed { .. }
            | Self::ComplaintAsked { .. } => Right::Work,
            Self::Swapped { .. }
            | Self::SwapUndone { .. }
            | Self::Placed { .. }
            | Self::Replaced { .. }
            | Self::Fitted { .. }
            | Self::FoundTrouble { .. }
            | Self::Tightening { .. }
            | Self::LearnedRead { .. }
            | Self::Proved { .. }
            | Self::Closed { .. }
            | Self::Cancelled { .. }
            | Self::Reopened { .. }
            | Self::StepSkipped { .. }
            | Self::StepBack { .. }
            | Self::StepFirst { .. }
            | Self::StepAdded { .. }
            | Self::CodesRead { .. }
            | Self::CodeCaptured { .. }
            | Self::UnitNumbered { .. }
            | Self::WriteBegun { .. }
            | Self::WriteEnded(_) => Right::Work,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_learner_measures_a_technician_works_a_reviewer_signs_and_an_owner_owns() {
        let rights = |role: Role| Right::ALL.iter().filter(|right| role.may(**right)).count();
        assert_eq!(Role::ALL.iter().map(|role| rights(*role)).collect::<Vec<_>>(), [2, 3, 5, 7]);
        assert!(Role::Learner.may(Right::Measure) && !Role::Learner.may(Right::Work));
        assert!(Role::Reviewer.may(Right::Sign) && !Role::Technician.may(Right::Sign));
        assert!(Role::Owner.may(Right::Own) && !Role::Reviewer.may(Right::Own));
        let signs = Event::Reviewed { signed: true, remarks: String::new() };
        let replaced = Event::Cleared { how: String::new() };
        assert_eq!((signs.right(), replaced.right()), (Right::Sign, Right::Work));
    }
}
