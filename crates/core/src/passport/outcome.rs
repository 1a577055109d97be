//! How decisions turned out: counted over the closed jobs of a family, and what that means for the
//! odds that an injector that is left in comes back.
//!
//! # Source
//! Rule of succession: (comebacks + 1) / (counted + 2); below [`Counted::ENOUGH`] the house rule stays.

use super::stay::{Held, held};
use crate::record::JobFile;
use crate::work::Decision;
use serde::Serialize;
use utoipa::ToSchema;

/// One injector of a closed job, or of one that came back.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Turned {
    /// Cylinder.
    pub cylinder: u32,
    /// What was decided last.
    pub decision: Decision,
    /// The job came back after it was closed.
    pub came_back: bool,
}

/// Injectors that were counted.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct Counted {
    /// So many were left in as they were, or cleaned, in closed jobs.
    pub left_in: u32,
    /// So many of those jobs came back.
    pub comebacks: u32,
}

impl Counted {
    /// Below this the count says too little, and the house rule stays.
    pub const ENOUGH: u32 = 40;

    /// The odds that one that is left in comes back; none while too few were counted.
    ///
    /// ```
    /// use cobaltine_core::passport::Counted;
    /// assert_eq!(Counted { left_in: 39, comebacks: 3 }.odds(), None);
    /// assert_eq!(Counted { left_in: 78, comebacks: 3 }.odds(), Some(0.05));
    /// ```
    pub fn odds(self) -> Option<f64> {
        let enough = self.left_in >= Self::ENOUGH;
        enough.then(|| (f64::from(self.comebacks) + 1.0) / (f64::from(self.left_in) + 2.0))
    }
}

/// How the decisions of a job turned out; nothing while it was never closed.
pub fn turned(file: &JobFile) -> Vec<Turned> {
    let came_back = match held(file).0 {
        Held::Open => return Vec::new(),
        Held::Held => false,
        Held::CameBack => true,
    };
    (1..=file.job.intake.layout.cylinders)
        .filter_map(|cylinder| {
            let last = file.decisions.iter().rfind(|one| one.cylinder == cylinder)?;
            Some(Turned { cylinder, decision: last.decision, came_back })
        })
        .collect()
}
