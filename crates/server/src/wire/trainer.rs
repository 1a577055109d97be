//! What goes over the wire of the trainer.

use cobaltine_core::exercise::{CaseRef, Level, SharedPart};
use cobaltine_store::ExerciseLine;
use cobaltine_trainer::marks::Marking;
use cobaltine_trainer::mistakes::Noticed;
use cobaltine_trainer::spent::Spent;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Which exercises are asked for.
#[derive(Debug, Deserialize, IntoParams)]
pub struct ExercisesParams {
    /// Of this person; everybody's without one.
    pub learner: Option<Uuid>,
    /// From 0.
    pub page: Option<u32>,
    /// Rows of a page, at most 100.
    pub per_page: Option<u32>,
}

/// A written case as it is chosen; what is wrong with its engine is not among it.
#[derive(Debug, Serialize, ToSchema)]
pub struct CaseView {
    /// Which.
    pub case: CaseRef,
    /// In a few words.
    pub title: String,
    /// How much it asks for.
    pub level: Level,
    /// What is learned by it.
    pub teaches: String,
    /// What the engine sits in.
    pub machine: String,
}

/// An exercise of somebody, with names.
#[derive(Debug, Serialize, ToSchema)]
pub struct ExerciseView {
    /// The exercise.
    pub line: ExerciseLine,
    /// The case in a few words.
    pub title: String,
    /// How much it asks for.
    pub level: Level,
    /// Whose it is.
    pub learner: String,
    /// Who set it; empty for one that was taken up.
    pub set_by: String,
}

/// The trainer: cases to choose from, and a page of exercises.
#[derive(Debug, Serialize, ToSchema)]
pub struct TrainerView {
    /// The written cases in the order in which they teach.
    pub cases: Vec<CaseView>,
    /// Exercises, newest first.
    pub exercises: Vec<ExerciseView>,
    /// All of them.
    pub total: u64,
}

/// A case to take up, or to set.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TakeUpRequest {
    /// Identity of the job, made by whoever asks.
    pub id: Uuid,
    /// The case.
    pub case: CaseRef,
    /// Mistakes are told at once.
    pub guided: bool,
    /// The person that it is set for; whoever asks takes it up without one.
    pub learner: Option<Uuid>,
}

/// What is done at the engine of an exercise.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TrainerActRequest {
    /// Identity of the event.
    pub id: Uuid,
    /// What.
    pub act: TrainerAct,
}

/// What can be done at the engine of an exercise.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(tag = "act", rename_all = "snake_case", deny_unknown_fields)]
pub enum TrainerAct {
    /// It runs until it is warm.
    WarmUp,
    /// What all cylinders share is put right.
    PutRight {
        /// What.
        part: SharedPart,
    },
    /// The codes on the bodies of the injectors are read.
    ScanBodies,
    /// The learner is done.
    End,
}

/// Readings to take at the engine of an exercise: one cell, or everything that is still open.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TrainerReadRequest {
    /// Identity of the act.
    pub id: Uuid,
    /// The one cell of a check.
    pub cell: Option<String>,
    /// Its cylinder.
    pub cylinder: Option<u32>,
}

/// Something that can be put right, in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct PutRightView {
    /// What.
    pub part: SharedPart,
    /// In words.
    pub says: String,
    /// It was done already.
    pub done: bool,
}

/// How an exercise stands.
#[derive(Debug, Serialize, ToSchema)]
pub struct ExerciseState {
    /// The case in a few words.
    pub title: String,
    /// How much it asks for.
    pub level: Level,
    /// What is learned by it.
    pub teaches: String,
    /// The case, to be shared.
    pub case: CaseRef,
    /// Mistakes are told at once.
    pub guided: bool,
    /// Whose it is.
    pub learner: String,
    /// Who set it; empty for one that was taken up.
    pub set_by: String,
    /// Its control unit knows injectors by codes.
    pub coded: bool,
    /// The engine is warm.
    pub warm: bool,
    /// Coolant, °C.
    pub celsius: f64,
    /// What it took by now.
    pub spent: Spent,
    /// What can be put right of what all cylinders share.
    pub put_right: Vec<PutRightView>,
    /// Mistakes that were noticed; none before the end where nobody guides.
    pub mistakes: Vec<Noticed>,
    /// What it was worth; none while it goes on.
    pub marking: Option<Marking>,
}
