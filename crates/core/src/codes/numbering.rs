//! Which cylinder the control unit means by its numbers.
//!
//! Most count as the maker numbers cylinders; some count from the other end, some in firing order. A code
//! that is written by the wrong count lands in the wrong cylinder and reads back as written, so the count
//! is asked for, kept, and drawn; and whatever was read by another count has to be read again.

use crate::record::{Event, JobFile};

impl JobFile {
    /// The cylinder of the unit's number 1, 2, and so on; as cylinders are numbered where nobody said
    /// otherwise.
    pub fn unit_numbers(&self) -> Vec<u32> {
        let told = self.events.iter().rev().find_map(|record| {
            let Event::UnitNumbered { cylinders } = &record.event else { return None };
            Some(cylinders.clone())
        });
        told.unwrap_or_else(|| (1..=self.job.intake.layout.cylinders).collect())
    }
}
