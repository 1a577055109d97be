//! The passport of one injector: where it sat, what was read of it over the years, what was done to
//! it, what was decided, and whether that held.
//!
//! An injector is known by its identity within a job and by its label across jobs; one without a
//! label has a passport of the one job that it was in.
//!
//! # Source
//! Everything comes from the jobs themselves; nothing is kept twice.

mod outcome;
mod stay;
mod trend;
mod words;

pub use outcome::{Counted, Turned, turned};
pub use stay::{Held, Stay, StayCode, StayDecision, StayReading};
pub use trend::{Trend, TrendPoint};

use crate::calc::CalcError;
use crate::judged::Judged;
use crate::record::{Injector, JobFile};
use crate::words::counted;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// What an injector went through.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Passport {
    /// The identity that was asked for.
    pub injector: Uuid,
    /// Serial number or the workshop's own label; may be empty.
    pub label: String,
    /// Its family, when any of its jobs knows it.
    pub family: Option<String>,
    /// Job by job, oldest first.
    pub stays: Vec<Stay>,
    /// What was measured more than once, over time.
    pub trends: Vec<Trend>,
    /// How often it was cleaned on a bench.
    pub cleanings: usize,
    /// In a sentence: what the eye has to read first.
    pub says: String,
}

/// How the text of a printed label begins; the identity follows.
pub const LABEL: &str = "cobaltine:injector:";

/// What stands in the two-dimensional code of a label.
pub fn label_text(injector: Uuid) -> String {
    format!("{LABEL}{injector}")
}

/// The identity in a scanned label, whatever the scanner put around it.
///
/// ```
/// use cobaltine_core::passport::{label_text, scanned};
/// let id = uuid::Uuid::from_u128(7);
/// assert_eq!(scanned(&format!(" {}\n", label_text(id).to_uppercase())), Some(id));
/// assert_eq!(scanned("27-2804"), None);
/// ```
pub fn scanned(text: &str) -> Option<Uuid> {
    text.trim().to_lowercase().strip_prefix(LABEL)?.parse().ok()
}

/// One job in the life of an injector, with what was measured of it there: all that a passport takes
/// from a job, so that it can be kept beside the log.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Life {
    stay: Stay,
    points: Vec<(trend::Key, TrendPoint)>,
}

impl Life {
    /// What a job was in the life of one of its injectors.
    ///
    /// # Errors
    /// What a computation refuses; cannot happen for readings that came in through the edge.
    pub fn of(file: &JobFile, judged: &Judged, injector: &Injector) -> Result<Self, CalcError> {
        let points = trend::points(file, judged, injector)?;
        Ok(Self { stay: stay::stay(file, judged, injector), points })
    }
}

/// The passport of an injector from the jobs that it was in, in any order.
pub fn passport(injector: Uuid, label: &str, lives: Vec<Life>) -> Passport {
    let (mut stays, mut points) = (Vec::new(), Vec::new());
    for life in lives {
        stays.push(life.stay);
        points.extend(life.points);
    }
    stays.sort_by_key(|stay: &Stay| stay.taken_in);
    let cleanings = stays.iter().map(|stay| stay.cleanings).sum();
    Passport {
        injector,
        label: label.trim().to_owned(),
        family: stays.iter().rev().find_map(|stay| stay.family.clone()),
        says: says(&stays, cleanings),
        trends: trend::trends(points),
        cleanings,
        stays,
    }
}

fn says(stays: &[Stay], cleanings: usize) -> String {
    let Some(last) = stays.last() else { return words::NO_HISTORY_INJECTOR.to_owned() };
    let place = match last.cylinder {
        Some(cylinder) => format!("In cylinder {cylinder} of {}", last.machine),
        None => format!("Taken out of {}", last.machine),
    };
    let jobs = counted(stays.len(), "job", "jobs");
    let cleaned = match cleanings {
        0 => String::new(),
        1 => ", cleaned once".to_owned(),
        n => format!(", cleaned {n} times"),
    };
    let back = stays.iter().filter(|stay| stay.held == Held::CameBack).count();
    let back = match back {
        0 => String::new(),
        1 => words::CAME_BACK_ONCE.to_owned(),
        n => words::came_back_times(n),
    };
    format!("{place}. {jobs}{cleaned}.{back}")
}

#[cfg(test)]
mod tests;
