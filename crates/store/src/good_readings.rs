//! Readings of injectors that were left as good: what the house's own reference is made from.
//!
//! Written anew whenever a job changes, so that a reference is one indexed look-up.

use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::judged::Judged;
use cobaltine_core::library::LimitCheck;
use cobaltine_core::mark::Mark;
use cobaltine_core::passport::turned;
use cobaltine_core::quantity::{Celsius, Quantity};
use cobaltine_core::record::JobFile;
use cobaltine_core::standing::Source;
use cobaltine_core::tests::house_reference::GoodReading;
use cobaltine_core::work::{Decision, Regime};
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// What a reading is made by: up with everything that makes it otherwise.
pub(crate) const VERSION: i64 = 2;
/// Readings of at most so many injectors: the newest say how the house measures today.
const MOST_READINGS: i64 = 2000;
/// Half the width of the temperatures that count as one condition, K.
const ALIKE_K: f64 = 10.0;

impl Store {
    /// Return flows of proven-good injectors of a family in a regime, within 10 K of a temperature
    /// where one is known.
    ///
    /// # Errors
    /// The database error.
    pub async fn good_return_flows(
        &self,
        family: Uuid,
        regime: Regime,
        temperature_c: Option<Celsius>,
    ) -> Result<Vec<GoodReading>, StoreError> {
        self.settle_to_read().await?;
        let rows = sqlx::query(
            "SELECT value, at FROM good_readings
             WHERE family_id = ?1 AND check_id = ?2 AND condition = ?3
               AND (?4 IS NULL OR ABS(temperature_c - ?4) <= ?5)
             ORDER BY at DESC LIMIT ?6",
        )
        .bind(family.to_string())
        .bind(LimitCheck::ReturnFlow.name())
        .bind(rows::named(regime)?)
        .bind(temperature_c.map(Celsius::value))
        .bind(ALIKE_K)
        .bind(MOST_READINGS)
        .fetch_all(&self.pool)
        .await?;
        rows.iter()
            .map(|row| {
                Ok(GoodReading {
                    value: row.try_get("value")?,
                    at: rows::time(&row.try_get::<String, _>("at")?)?,
                })
            })
            .collect()
    }
}

/// Writes what a job proves: injectors that were decided to be left, whose reading counts and was inside.
pub(crate) async fn refresh(
    connection: &mut SqliteConnection,
    file: &JobFile,
    judged: Option<&Judged>,
) -> Result<(), StoreError> {
    sqlx::query("DELETE FROM good_readings WHERE job_id = ?")
        .bind(file.job.id.to_string())
        .execute(&mut *connection)
        .await?;
    let (Some(family), Some(judged)) = (file.job.intake.family_id, judged) else { return Ok(()) };
    let left: Vec<u32> = file
        .decided()
        .into_iter()
        .filter(|one| one.decision == Decision::Leave)
        .map(|one| one.cylinder)
        .collect();
    // What came back was not good after all.
    let came_back = turned(file).iter().any(|one| one.came_back);
    if left.is_empty() || came_back {
        return Ok(());
    }
    let good = judged.stood.iter().filter(|one| {
        let of = one.cylinder.is_some_and(|cylinder| left.contains(&cylinder));
        of && one.here.counts() && one.mark == Mark::Inside
    });
    for one in good {
        let Source::Return(at) = one.source else { continue };
        let test = &file.return_tests[at];
        let lane = judged.with_verdicts(|verdicts| verdicts.lane(one).cloned());
        let Some(lane) = lane.filter(|lane| !lane.at_least) else { continue };
        let Some(rate) = lane.value else { continue };
        sqlx::query(
            "INSERT INTO good_readings (job_id, family_id, check_id, condition, cylinder, temperature_c, value, at)
             VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        )
        .bind(file.job.id.to_string())
        .bind(family.to_string())
        .bind(LimitCheck::ReturnFlow.name())
        .bind(rows::named(test.setup.regime)?)
        .bind(i64::from(lane.place))
        .bind(test.setup.temperature_c.map(Celsius::value))
        .bind(rate)
        .bind(rows::stamp(test.signed.at))
        .execute(&mut *connection)
        .await?;
    }
    Ok(())
}
