//! What instruments showed lately: a reading that names an instrument was really shown by it, or it is
//! refused and has to be typed by hand.

use crate::wire::ShownView;
use crate::{ApiError, words};
use cobaltine_core::connection::ShownBy;
use cobaltine_core::instrument_link::Quantity;
use cobaltine_core::record::FieldProblem;
use jiff::{SignedDuration, Timestamp};
use std::collections::VecDeque;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use uuid::Uuid;

/// Readings that are remembered, of all instruments together.
const MOST: usize = 400;
/// A reading may be kept as one of an instrument for so long.
const GOOD_FOR: SignedDuration = SignedDuration::from_mins(10);

/// One of them.
#[derive(Debug, Clone)]
struct One {
    view: ShownView,
    by: ShownBy,
}

/// What was shown lately, the newest last.
#[derive(Debug, Clone, Default)]
pub struct Shown(Arc<Mutex<VecDeque<One>>>);

impl Shown {
    fn held(&self) -> MutexGuard<'_, VecDeque<One>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Remembers a reading.
    pub(crate) fn keep(
        &self,
        by: ShownBy,
        quantity: Quantity,
        values: Vec<f64>,
        at: Timestamp,
    ) -> ShownView {
        let typed = values.iter().map(|value| quantity.typed(*value)).collect();
        let view = ShownView {
            id: Uuid::now_v7(),
            connection: by.connection,
            identity: by.identity.clone(),
            quantity,
            values,
            typed,
            at,
        };
        let mut held = self.held();
        if held.len() >= MOST {
            held.pop_front();
        }
        held.push_back(One { view: view.clone(), by });
        view
    }

    /// The newest of a connection.
    pub(crate) fn last(&self, connection: Uuid) -> Option<ShownView> {
        let held = self.held();
        held.iter().rfind(|one| one.view.connection == connection).map(|one| one.view.clone())
    }

    /// Which instrument showed what is typed, where the one who asks names a reading.
    ///
    /// # Errors
    /// It is not remembered, or showed something else.
    pub(crate) fn by(
        &self,
        reading: Option<Uuid>,
        typed: &str,
    ) -> Result<Option<ShownBy>, ApiError> {
        let Some(reading) = reading else { return Ok(None) };
        let held = self.held();
        let fresh = crate::extract::now().checked_sub(GOOD_FOR).ok();
        let found = held.iter().find(|one| one.view.id == reading && Some(one.view.at) >= fresh);
        match found {
            Some(one) if one.view.typed.iter().any(|said| said == typed.trim()) => {
                Ok(Some(one.by.clone()))
            }
            Some(_) => Err(problem(words::INSTRUMENT_SHOWED_SOMETHING_ELSE)),
            None => Err(problem(words::READING_OF_INSTRUMENT_TOO_OLD)),
        }
    }
}

fn problem(says: &str) -> ApiError {
    ApiError::Fields(vec![FieldProblem::new("typed", says)])
}
