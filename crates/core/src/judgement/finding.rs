//! Findings: what a lane said, bound to injector and cylinder, with how good the reading is.

use crate::record::Moment;
use crate::said::{Code, Lack};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// One finding. It is bound to the injector *and* to the cylinder that it was read at.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Finding {
    /// What it is.
    pub code: Code,
    /// The check that it came from, by its name in the weights.
    pub check: String,
    /// Cylinder; none for what all share.
    pub cylinder: Option<u32>,
    /// The injector that sat there then.
    pub injector: Option<Uuid>,
    /// When it was read last.
    #[schema(value_type = String, format = DateTime)]
    pub at: Moment,
    /// What the check said.
    pub says: String,
    /// What would settle it, where it cannot carry a decision.
    pub would: String,
    /// Distance from what it is compared with, in standard uncertainties.
    pub sigmas: Option<f64>,
    /// What the reading lacks.
    pub lacks: Vec<Lack>,
    /// How good the reading is: 1 lacks nothing.
    pub quality: f64,
    /// It still speaks of the injector: nothing newer of its kind, and no work since.
    pub of_injector: bool,
    /// It still speaks of the cylinder.
    pub of_cylinder: bool,
    /// A new injector that reads no better than the one that it took the place of.
    pub as_before: Option<NewReads>,
}

/// How a new injector reads against the one that it took the place of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum NewReads {
    /// As that one did.
    Alike,
    /// Something stands out that did not before.
    Worse,
}

impl Finding {
    /// It speaks of this injector as it is now.
    pub(super) fn is_of(&self, injector: Uuid) -> bool {
        self.of_injector && self.injector == Some(injector)
    }

    /// It speaks of this cylinder as it is now.
    pub(super) fn is_at(&self, cylinder: u32) -> bool {
        self.of_cylinder && self.cylinder == Some(cylinder)
    }
}
