//! What is taken in at the counter, and what is wrong with it, field by field.

mod usage;
mod words;

pub(crate) use usage::Usage;

use crate::engine::{FuelSystem, Layout};
use crate::limits::{FieldProblem, LONG_TEXT, SHORT_TEXT, too_long};
use crate::work::{Condition, FaultCodes, Lately, Suffers, Symptom};
use jiff::civil::Date;
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
    /// That customer among those that the workshop keeps, when it is one of them.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub customer_id: Option<Uuid>,
    /// What it sits in.
    pub machine: String,
    /// Its plate or hull number; may be empty.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub plate: String,
    /// Hours or distance, as told.
    pub usage: String,
    /// Name or type of the engine.
    pub engine: String,
    /// What feeds the injectors.
    pub fuel_system: FuelSystem,
    /// Cylinders, banks, numbering.
    pub layout: Layout,
    /// The day that it was promised for.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<String>, format = Date)]
    pub promised: Option<Date>,
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
    /// The cylinders that were named as affected; none when nobody named any.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub cylinders: Vec<u32>,
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

impl Story {
    /// Cylinders that were named, by a person or by a stored code: misfire `P0301` to `P0312`, injector circuit
    /// `P0201` to `P0212`, and low, high and balance of each from `P0261` on.
    ///
    /// # Source
    /// SAE J2012.
    pub fn named(&self, cylinders: u32) -> Vec<u32> {
        let of = |word: &str| -> Option<u32> {
            let digits = word.strip_prefix(['P', 'p'])?;
            match digits.parse::<u32>().ok().filter(|_| digits.len() == 4)? {
                code @ (201..=212 | 301..=312) => Some(code % 100),
                code @ 261..=296 => Some((code - 261) / 3 + 1),
                _ => None,
            }
        };
        let stored = self.codes.split(|c: char| !c.is_ascii_alphanumeric()).filter_map(of);
        let stored = stored.filter(|cylinder| *cylinder <= cylinders);
        let mut named: Vec<u32> = self.cylinders.iter().copied().chain(stored).collect();
        named.sort_unstable();
        named.dedup();
        named
    }

    /// How many cylinders suffer: those that were named say it themselves.
    pub fn suffering(&self, cylinders: u32) -> Suffers {
        match self.named(cylinders).len() {
            0 => self.suffers,
            1 => Suffers::One,
            _ => Suffers::Several,
        }
    }
}

impl Intake {
    /// Something is complained of; coming in to be checked and cleaned is no complaint.
    pub fn complains(&self) -> bool {
        self.symptoms.iter().any(|one| *one != Symptom::CheckAndClean)
    }

    /// Hours or distance as told, with the workshop's own unit beside it.
    pub fn usage_said(&self) -> String {
        usage::said(&self.usage)
    }

    /// Everything that is wrong, not only the first thing.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        for (field, text, most) in [
            ("customer", &self.customer, SHORT_TEXT),
            ("machine", &self.machine, SHORT_TEXT),
            ("plate", &self.plate, SHORT_TEXT),
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
        let named = &self.story.cylinders;
        let known = named.iter().all(|c| (1..=self.layout.cylinders).contains(c));
        let twice = (1..named.len()).any(|i| named[i..].contains(&named[i - 1]));
        if !known || twice {
            found
                .push(FieldProblem::new("cylinders", words::name_each_once(self.layout.cylinders)));
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
