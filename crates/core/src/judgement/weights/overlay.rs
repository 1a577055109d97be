//! A workshop's own rows laid over the shipped ones, row by row.
//!
//! Tables are merged key by key. In the lists `cause`, `check` and `story` a row is found by its
//! `id` or `when`; one that is not shipped is added. Every other list is one value and is replaced.

use super::WeightsError;
use toml::{Table, Value};

/// The shipped rows with these over them.
pub(super) fn laid_over(shipped: &str, own: &str) -> Result<Table, WeightsError> {
    let read = |text: &str| {
        text.parse::<Table>()
            .map_err(|error| WeightsError::Unreadable(error.to_string().trim().to_owned()))
    };
    let mut merged = read(shipped)?;
    lay(&mut merged, before_tables(read(own)?));
    Ok(merged)
}

/// Rows of checks from before the tables of outcomes say nothing any more; the rest of such a
/// file goes on holding.
fn before_tables(mut own: Table) -> Table {
    if let Some(Value::Array(causes)) = own.get_mut("cause") {
        for cause in causes.iter_mut().filter_map(Value::as_table_mut) {
            cause.remove("with");
        }
    }
    if let Some(Value::Array(checks)) = own.get_mut("check") {
        checks.retain(|check| check.get("finds").is_none());
        if checks.is_empty() {
            own.remove("check");
        }
    }
    own
}

fn lay(under: &mut Table, over: Table) {
    for (key, value) in over {
        match (under.get_mut(&key), value) {
            (Some(Value::Table(held)), Value::Table(more)) => lay(held, more),
            (Some(Value::Array(held)), Value::Array(more)) if named(&more) => rows(held, more),
            (_, value) => {
                under.insert(key, value);
            }
        }
    }
}

/// By what a row is called.
fn name(row: &Value) -> Option<&str> {
    row.get("id").or_else(|| row.get("when"))?.as_str()
}

fn named(list: &[Value]) -> bool {
    !list.is_empty() && list.iter().all(|row| name(row).is_some())
}

fn rows(held: &mut Vec<Value>, more: Vec<Value>) {
    for row in more {
        let at = held.iter().position(|one| name(one) == name(&row));
        match (at.map(|at| &mut held[at]), row) {
            (Some(Value::Table(under)), Value::Table(over)) => lay(under, over),
            (Some(under), row) => *under = row,
            (None, row) => held.push(row),
        }
    }
}
