//! What is taken in at the counter, and what is wrong with it, field by field.

mod words;

use crate::engine::{FuelSystem, Layout};
use crate::limits::{FieldProblem, LONG_TEXT, SHORT_TEXT, too_long};
use crate::work::{Condition, FaultCodes, Lately, Suffers, Symptom};
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use utoipa::ToSchema;
use uuid::Uuid;

/// The editable part of a job.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Intake {
    /// Who brought it.
    pub customer: String,
    /// What it sits in.
    pub machine: String,
    /// Hours or distance, as told.
    pub usage: String,
    /// Name or type of the engine.
    pub engine: String,
    /// What feeds the injectors.
    pub fuel_system: FuelSystem,
    /// Cylinders, banks, numbering.
    pub layout: Layout,
    /// Family in the library, when it is known.
    pub family_id: Option<Uuid>,
    /// Complaint in standard terms.
    pub symptoms: Vec<Symptom>,
    /// Complaint in the customer's words.
    pub complaint: String,
    /// When it shows, what changed lately, and what the control unit stored.
    #[serde(default)]
    pub story: Story,
}

/// What surrounds the complaint.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Story {
    /// When it shows.
    #[serde(default)]
    pub when: Vec<Condition>,
    /// Which cylinders suffer.
    #[serde(default)]
    pub suffers: Suffers,
    /// Whether fault codes were read.
    #[serde(default)]
    pub fault_codes: FaultCodes,
    /// The codes as read; may be empty.
    #[serde(default)]
    pub codes: String,
    /// What changed lately.
    #[serde(default)]
    pub lately: Vec<Lately>,
}

impl Intake {
    /// Everything that is wrong, not only the first thing.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        for (field, text, most) in [
            ("customer", &self.customer, SHORT_TEXT),
            ("machine", &self.machine, SHORT_TEXT),
            ("usage", &self.usage, SHORT_TEXT),
            ("engine", &self.engine, SHORT_TEXT),
            ("complaint", &self.complaint, LONG_TEXT),
            ("codes", &self.story.codes, LONG_TEXT),
        ] {
            found.extend(too_long(field, text, most));
        }
        if self.machine.trim().is_empty() {
            found.push(FieldProblem::new("machine", words::ENTER_MACHINE_JOB_FOUND));
        }
        if self.symptoms.is_empty() && self.complaint.trim().is_empty() {
            found.push(FieldProblem::new("complaint", words::TAP_SYMPTOM_DESCRIBE));
        }
        if let Err(error) = self.layout.check() {
            found.push(FieldProblem::new("layout", format!("{error}.")));
        }
        found
    }
}

/// What is wrong with the labels of the injectors, given cylinder 1 first; there may be
/// fewer than cylinders, and empty ones.
pub fn label_problems(labels: &[String], layout: &Layout) -> Vec<FieldProblem> {
    let mut found = Vec::new();
    if labels.len() > layout.cylinders as usize {
        found.push(FieldProblem::new("labels", words::MORE_LABELS_CYLINDERS));
    }
    let mut seen = BTreeSet::new();
    for label in labels.iter().filter(|label| !label.trim().is_empty()) {
        found.extend(too_long("labels", label, SHORT_TEXT));
        if !seen.insert(label.trim()) {
            found.push(FieldProblem::new("labels", words::two_injectors(label)));
        }
    }
    found
}
