//! One line of a workshop file, taken in.

use super::{WeightsLine, WorkshopImported, WorkshopLine};
use crate::customers;
use crate::library_file::take_in;
use crate::listed::write_listed;
use crate::shelf::{freshen, insert_set};
use crate::stock::{Move, move_shim, shims};
use crate::transfer::{Imported, Looked, Projections, look_at};
use crate::weights::check_weights;
use crate::words;
use crate::{RuleRecord, ShelfQuery, StoreError, people, profile, rows};
use cobaltine_core::library::{LibraryFile, LimitRow, ReadRow};
use cobaltine_core::limits::{NAME, text_problem};
use cobaltine_core::record::{FieldProblem, Signed};
use cobaltine_core::tests::bench::Shim;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// Puts the number of the line before what is wrong in it.
pub(crate) fn at_line(error: StoreError, line: usize) -> StoreError {
    let place =
        |field: &str| format!("line {line}{}{field}", if field.is_empty() { "" } else { ": " });
    match error {
        StoreError::Invalid(problems) => StoreError::Invalid(
            problems.into_iter().map(|p| FieldProblem::new(place(&p.field), p.message)).collect(),
        ),
        StoreError::Conflict(says) => StoreError::field(&place(""), says),
        StoreError::Database(sqlx::Error::Database(refused)) => {
            StoreError::field(&place(""), words::conflicts_existing_data(&refused))
        }
        other @ (StoreError::InUse(_)
        | StoreError::NotFound(_)
        | StoreError::Stale(_)
        | StoreError::Reused
        | StoreError::TooSoon { .. }
        | StoreError::DiskFull
        | StoreError::Disk(_)
        | StoreError::Busy
        | StoreError::ReadOnly(_)
        | StoreError::Damaged(_)
        | StoreError::Newer
        | StoreError::Torn(_)
        | StoreError::Database(_)
        | StoreError::Migration(_)
        | StoreError::Io(_)
        | StoreError::Shape(_)) => other,
    }
}

/// A line that nobody looked at before.
pub(crate) async fn looked_at(
    connection: &mut SqliteConnection,
    line: &WorkshopLine,
    signed: Signed,
    done: &mut WorkshopImported,
) -> Result<(), StoreError> {
    if let WorkshopLine::Job(file) = line {
        let looked = look_at(connection, file).await?;
        job(connection, looked, signed, done).await
    } else if let WorkshopLine::Library(library) = line {
        let rows = limits(library)?;
        let (families, items) = (&library.families, &library.items);
        take_in(connection, families, &rows, items, Some(signed), None).await?;
        Ok(())
    } else {
        self::line(connection, line, signed, done).await
    }
}

/// A job that was looked at.
pub(crate) async fn job(
    connection: &mut SqliteConnection,
    looked: Looked,
    signed: Signed,
    done: &mut WorkshopImported,
) -> Result<(), StoreError> {
    let by = Some(signed.into());
    match crate::transfer::take_in(connection, looked, by, Projections::Later).await? {
        Imported::New(_) => done.new_jobs += 1,
        Imported::AlreadyHere(_) => done.same_jobs += 1,
    }
    Ok(())
}

/// A line that is neither a job nor a library, which come in parts.
pub(crate) async fn line(
    connection: &mut SqliteConnection,
    line: &WorkshopLine,
    signed: Signed,
    done: &mut WorkshopImported,
) -> Result<(), StoreError> {
    match line {
        WorkshopLine::Person(person) => {
            let problem = text_problem("name", &person.name, NAME);
            problem.map_or(Ok(()), |problem| Err(StoreError::Invalid(vec![problem])))?;
            people::add_person(connection, person).await
        }
        WorkshopLine::Customer(customer) => customers::write(connection, customer).await,
        WorkshopLine::Profile(line) => profile::take(connection, line).await,
        WorkshopLine::Instrument(one) => {
            let problems = one.problems();
            if !problems.is_empty() {
                return Err(StoreError::Invalid(problems));
            }
            write_listed(connection, one).await
        }
        WorkshopLine::Connection(one) => {
            // Where it may lead is asked again each time before it is contacted.
            let problems = one.problems(true);
            if !problems.is_empty() {
                return Err(StoreError::Invalid(problems));
            }
            write_listed(connection, one).await
        }
        WorkshopLine::Rule(rule) => {
            done.rules |= take_rule(connection, rule).await?;
            Ok(())
        }
        WorkshopLine::Weights(weights) => {
            done.rules |= take_weights(connection, weights).await?;
            Ok(())
        }
        WorkshopLine::Shims(shim) => take_shims(connection, shim, signed).await,
        WorkshopLine::KeptSet(line) => {
            freshen(connection).await?;
            let query = ShelfQuery { kind: line.kind, family: line.family.clone(), job: None };
            insert_set(connection, &query, &line.set).await
        }
        WorkshopLine::Library(_)
        | WorkshopLine::Job(_)
        | WorkshopLine::Workshop { .. }
        | WorkshopLine::End { .. } => Ok(()),
    }
}

/// The limits of a library as rows that can be kept.
pub(crate) fn limits(library: &LibraryFile) -> Result<Vec<ReadRow>, StoreError> {
    let kind = |family: &str| {
        let found = library.families.iter().find(|one| one.name.eq_ignore_ascii_case(family));
        found.map(|one| one.detail.kind)
    };
    library
        .limits
        .iter()
        .map(|entry| {
            let mut row = LimitRow::from(entry).read().map_err(StoreError::Invalid)?;
            row.entry.typed.clone_from(&entry.typed);
            (row.entry.id, row.entry.revision) = (entry.id, entry.revision);
            row.entry.approved = entry.approved;
            row.kind = kind(&entry.family);
            Ok(row)
        })
        .collect()
}

/// House rules come into a workshop that has none of its own yet, revision by revision. Whether it is
/// new here.
async fn take_rule(
    connection: &mut SqliteConnection,
    rule: &RuleRecord,
) -> Result<bool, StoreError> {
    let held = sqlx::query("SELECT rule, value, reason FROM house_rules WHERE revision = ?")
        .bind(i64::from(rule.revision))
        .fetch_optional(&mut *connection)
        .await?;
    if let Some(held) = held {
        let same = held.try_get::<String, _>("rule")? == rule.rule.name()
            && held.try_get::<f64, _>("value")? == rule.value
            && held.try_get::<String, _>("reason")? == rule.reason;
        let says = words::WORKSHOP_OWN_RULES_NOT;
        return if same { Ok(false) } else { Err(StoreError::Conflict(says.to_owned())) };
    }
    if !rule.value.is_finite() || rule.reason.chars().count() > 300 {
        return Err(StoreError::field("value", words::RULE_NEEDS_NUMBER_REASON));
    }
    sqlx::query(
        "INSERT INTO house_rules (revision, rule, value, typed, reason, by_id, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(i64::from(rule.revision))
    .bind(rule.rule.name())
    .bind(rule.value)
    .bind(&rule.typed)
    .bind(&rule.reason)
    .bind(rule.signed.by.to_string())
    .bind(rows::stamp(rule.signed.at))
    .execute(connection)
    .await?;
    Ok(true)
}

async fn take_weights(
    connection: &mut SqliteConnection,
    weights: &WeightsLine,
) -> Result<bool, StoreError> {
    check_weights(&weights.text, &weights.reason)?;
    let held = sqlx::query("SELECT text FROM weights ORDER BY revision DESC LIMIT 1")
        .fetch_optional(&mut *connection)
        .await?;
    if let Some(held) = held {
        let same = held.try_get::<String, _>("text")? == weights.text;
        let says = words::WORKSHOP_OWN_WEIGHTS_NOT;
        return if same { Ok(false) } else { Err(StoreError::Conflict(says.to_owned())) };
    }
    sqlx::query("INSERT INTO weights (text, reason, by_id, at) VALUES (?, ?, ?, ?)")
        .bind(&weights.text)
        .bind(&weights.reason)
        .bind(weights.signed.by.to_string())
        .bind(rows::stamp(weights.signed.at))
        .execute(connection)
        .await?;
    Ok(true)
}

/// Shims come into a drawer that has none of this size; the same count changes nothing.
async fn take_shims(
    connection: &mut SqliteConnection,
    shim: &Shim,
    signed: Signed,
) -> Result<(), StoreError> {
    let sound = shim.size_um.is_finite() && (0.0..1e6).contains(&shim.size_um);
    let Some(moved) = i32::try_from(shim.count).ok().filter(|_| sound) else {
        return Err(StoreError::field("size_um", words::ENTER_SIZE_M_ABOVE));
    };
    if shims(connection).await?.iter().any(|held| held.size_um == shim.size_um) {
        return Ok(());
    }
    let size_um = shim.size_um;
    let id = Uuid::now_v7();
    move_shim(connection, &Move { id, size_um, moved, fit: None, signed }).await
}
