//! Who wrote a row, when, and after what: the order of a job is a sequence, not a clock.
//!
//! Each row has a place in the log of its job. A place is greater than every place before it, and as
//! far as it can be it is the time in milliseconds, so that rows of two workshops that meet in one
//! file still stand in order. A clock that steps back therefore changes no order.
//!
//! # Source
//! Hybrid logical clocks: Kulkarni, Demirbas, Madappa, Avva and Leone, *Logical Physical Clocks*,
//! OPODIS 2014.

use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// Who wrote a row, when, and where it stands in the log.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Signed {
    /// Person.
    pub by: Uuid,
    /// ISO 8601, UTC.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
    /// Place in the log: what is greater came later. 0 in files of older versions, which are put in
    /// the order of their times.
    #[serde(default)]
    pub seq: u64,
}

/// A moment of a log. The place decides; the time only among rows that have no place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Moment {
    /// Place in the log.
    pub seq: u64,
    /// By the clock, to be shown.
    pub at: Timestamp,
}

impl Signed {
    /// A signature without a place; the log gives it one.
    pub fn new(by: Uuid, at: Timestamp) -> Self {
        Self { by, at, seq: 0 }
    }

    /// Where it stands.
    pub fn moment(&self) -> Moment {
        Moment { seq: self.seq, at: self.at }
    }
}

impl Moment {
    /// After everything that came before it.
    pub(crate) fn just_before(self) -> Self {
        let at = self.at - SignedDuration::from_nanos(1);
        Self { seq: self.seq.saturating_sub(1), at }
    }
}

/// On the wire a moment is its time.
impl Serialize for Moment {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        self.at.serialize(serializer)
    }
}

/// What is made from the log keeps the time of a moment alone.
impl<'de> Deserialize<'de> for Moment {
    fn deserialize<D: serde::Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        Ok(Self { seq: 0, at: Timestamp::deserialize(deserializer)? })
    }
}

/// The place after `last` for a row that is written at `at`.
pub fn place_after(last: u64, at: Timestamp) -> u64 {
    let millis = u64::try_from(at.as_millisecond()).unwrap_or_default();
    millis.max(last.saturating_add(1))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_clock_that_steps_back_changes_no_order() {
        let noon = Timestamp::from_second(1_900_000_000).unwrap();
        let before = noon - SignedDuration::from_hours(3);
        let first = place_after(0, noon);
        let second = place_after(first, before);
        let third = place_after(second, noon + SignedDuration::from_mins(1));
        assert!(first < second && second < third);
        let (one, other) = (Moment { seq: first, at: noon }, Moment { seq: second, at: before });
        assert!(one < other, "the place decides");
        let old = |at| Moment { seq: 0, at };
        assert!(old(before) < old(noon), "rows without places stand by their times");
        assert_eq!(place_after(0, Timestamp::MIN), 1, "a time before the epoch still has a place");
    }
}
