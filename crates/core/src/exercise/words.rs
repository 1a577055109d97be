//! Sentences about exercises.

pub(super) const NO_SUCH_CASE: &str = "No case of this name. Choose one from the trainer.";
pub(super) const SEED_TOO_LARGE: &str = "Enter a seed of nine digits at most.";
pub(super) const MARKS_EACH_SKILL_ONCE: &str = "Enter each skill once, from 0 to 100.";
