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
    let mut own = before_tables(read(own)?);
    before_splits(&mut own, &merged);
    lay(&mut merged, own);
    Ok(merged)
}

/// Rows from before an outcome was split off: its share is taken as the shipped rows share it out.
fn before_splits(own: &mut Table, shipped: &Table) {
    let checks =
        |of: &Table| of.get("check").and_then(Value::as_array).cloned().unwrap_or_default();
    let Some(Value::Array(held)) = own.get_mut("check") else { return };
    for check in held.iter_mut().filter_map(Value::as_table_mut) {
        let id = check.get("id").cloned();
        let known = checks(shipped).into_iter().find(|one| one.get("id") == id.as_ref());
        let Some(known) = known else { continue };
        let outcomes = known.get("outcomes").and_then(Value::as_array).cloned().unwrap_or_default();
        let from = known.get("split_from");
        let Some(at) = from.and_then(|from| outcomes.iter().position(|one| one == from)) else {
            continue;
        };
        let Some(rows) = check.get_mut("rows").and_then(Value::as_table_mut) else { continue };
        for (cause, row) in rows.iter_mut() {
            let Some(Value::Array(of)) = row.get_mut("of") else { continue };
            if of.len() + 1 != outcomes.len() {
                continue;
            }
            let shipped = known.get("rows").and_then(|rows| rows.get(cause).or(rows.get("sound")));
            let chance = |row: &[Value], at: usize| row.get(at).and_then(number);
            let part =
                shipped.and_then(|row| row.get("of")).and_then(Value::as_array).and_then(|row| {
                    let (kept, split) = (chance(row, at)?, chance(row, outcomes.len() - 1)?);
                    Some(split / (kept + split))
                });
            if let (Some(part), Some(whole)) = (part, chance(of, at)) {
                of[at] = Value::Float(whole * (1.0 - part));
                of.push(Value::Float(whole * part));
            }
        }
    }
}

fn number(value: &Value) -> Option<f64> {
    value.as_float().or_else(|| value.as_integer().map(|whole| whole as f64))
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

#[cfg(test)]
mod tests {
    use crate::judgement::cause::Cause;
    use crate::judgement::weights::Weights;
    use crate::tests::outcomes;

    #[test]
    fn a_row_from_before_an_outcome_was_split_off_is_shared_out_as_the_shipped_ones_are() {
        let own = "[[check]]\nid = \"pressure_drop\"\n[check.rows]\n\
            restricted = { of = [60, 1, 4, 15, 20], why = \"counted here\" }";
        let (house, shipped) = (Weights::read(own).unwrap(), Weights::read("").unwrap());
        let factor = |weights: &Weights, code| weights.factor(code, Cause::Restricted);
        let parts =
            |weights| factor(weights, outcomes::DROP_NONE) / factor(weights, outcomes::DROP_LOW);
        assert!((parts(&house) / parts(&shipped) - 1.0).abs() < 1e-9);
        assert!(factor(&house, outcomes::DROP_RAISED) > factor(&shipped, outcomes::DROP_RAISED));
        // One that is neither is still an error.
        assert!(Weights::read(&own.replace("[60, 1, 4, 15, 20]", "[60, 40]")).is_err());
    }
}
