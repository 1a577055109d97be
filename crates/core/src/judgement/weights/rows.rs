//! The weights as a table: every row with its numbers and its reason, and a row changed as the text
//! that says so.

use super::{OutcomeRow, Weights, WeightsError, every_cause, row as wrong};
use crate::judgement::words;
use crate::said::Code;
use serde::Serialize;
use std::fmt::Write;
use utoipa::ToSchema;

/// One number of a row.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WeightCell {
    /// As the file names it.
    pub name: String,
    /// As read.
    pub word: String,
    /// The number.
    pub value: f64,
}

/// One row of the weights.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WeightRow {
    /// Which: the list, the name in it, and the row of its table.
    pub key: Vec<String>,
    /// The table that it stands in.
    pub group: String,
    /// What it is about.
    pub word: String,
    /// Its numbers.
    pub cells: Vec<WeightCell>,
    /// What they are.
    pub unit: String,
    /// Why.
    pub reason: String,
    /// The workshop says otherwise than the row that is shipped.
    pub own: bool,
}

fn cell(name: &str, word: &str, value: f64) -> WeightCell {
    WeightCell { name: name.to_owned(), word: word.to_owned(), value }
}

/// A value as the file names it.
fn wire_name(of: &impl Serialize) -> String {
    let name = serde_json::to_value(of).ok();
    name.as_ref().and_then(|name| name.as_str()).unwrap_or_default().to_owned()
}

/// A code as read: its name without the lines between.
fn said(name: &str) -> String {
    name.replace(['_', ':'], " ")
}

impl Weights {
    /// Every row, marked where it differs from the shipped one.
    ///
    /// ```
    /// use cobaltine_core::judgement::Weights;
    /// let own = "[[story]]\nwhen = \"suffers:one\"\ntimes = { air_or_fuel = 0.1 }\nreason = \"counted here\"";
    /// let rows = Weights::read(own).unwrap().rows();
    /// let changed: Vec<_> = rows.iter().filter(|row| row.own).map(|row| row.key.join("/")).collect();
    /// assert_eq!(changed, ["story/suffers:one"]);
    /// ```
    pub fn rows(&self) -> Vec<WeightRow> {
        let shipped = Self::read("").map(|weights| weights.listed()).unwrap_or_default();
        let mut rows = self.listed();
        for row in &mut rows {
            row.own = !shipped.contains(row);
        }
        rows
    }

    fn listed(&self) -> Vec<WeightRow> {
        let row = |key: &[&str], group: &str, word: &str, unit: &str, reason: &str| WeightRow {
            key: key.iter().map(|part| (*part).to_owned()).collect(),
            group: group.to_owned(),
            word: word.to_owned(),
            cells: Vec::new(),
            unit: unit.to_owned(),
            reason: reason.to_owned(),
            own: false,
        };
        let mut rows = Vec::new();
        for cause in &self.file.cause {
            let cells = cause.prior.iter().map(|(fuel, p)| cell(&wire_name(fuel), fuel.word(), *p));
            rows.push(WeightRow {
                cells: cells.collect(),
                ..row(
                    &["cause", cause.id.name()],
                    words::HOW_OFTEN,
                    &cause.word,
                    "%",
                    &cause.reason,
                )
            });
        }
        for story in &self.file.story {
            let cells = story.times.iter().map(|(c, t)| cell(c.name(), self.word(*c), *t));
            let word = said(&story.when);
            rows.push(WeightRow {
                cells: cells.collect(),
                ..row(&["story", &story.when], words::WHAT_IS_TOLD, &word, "×", &story.reason)
            });
        }
        for check in &self.file.check {
            let outcomes = |of: &OutcomeRow| {
                let pairs = check.outcomes.iter().copied().map(Code::name).zip(&of.of);
                pairs.map(|(name, p)| cell(name, &said(name), *p)).collect()
            };
            let of_cause = |name: &str| {
                let cause = every_cause().find(|cause| cause.name() == name);
                cause.map_or_else(|| said(name), |cause| self.word(cause).to_owned())
            };
            for (name, of) in &check.rows {
                rows.push(WeightRow {
                    cells: outcomes(of),
                    ..row(&["check", &check.id, name], &check.title, &of_cause(name), "%", &of.why)
                });
            }
        }
        rows
    }

    /// A row with other numbers, as text for the workshop's own rows: what stands later holds.
    ///
    /// # Errors
    /// No such row, or not as many numbers as it has.
    pub fn changed(
        &self,
        key: &[String],
        values: &[f64],
        why: &str,
    ) -> Result<String, WeightsError> {
        let place = key.join(", ");
        let Some(row) = self.listed().into_iter().find(|row| row.key == key) else {
            return Err(wrong(&place, words::NO_SUCH_WEIGHTS));
        };
        if row.cells.len() != values.len() || !values.iter().all(|value| value.is_finite()) {
            return Err(wrong(&place, words::numbers_needed(row.cells.len())));
        }
        let why = quoted(why);
        let pairs: Vec<String> = row
            .cells
            .iter()
            .zip(values)
            .map(|(cell, v)| format!("{} = {v:?}", cell.name))
            .collect();
        let list: Vec<String> = values.iter().map(|value| format!("{value:?}")).collect();
        let mut text = String::new();
        // Writing into a text does not fail.
        let _ = match key {
            [list_name, id] if list_name == "cause" => write!(
                text,
                "\n[[cause]]\nid = {}\nprior = {{ {} }}\nreason = {why}\n",
                quoted(id),
                pairs.join(", ")
            ),
            [_, when] => write!(
                text,
                "\n[[story]]\nwhen = {}\ntimes = {{ {} }}\nreason = {why}\n",
                quoted(when),
                pairs.join(", ")
            ),
            [_, id, name, ..] => write!(
                text,
                "\n[[check]]\nid = {}\n[check.rows]\n{name} = {{ of = [{}], why = {why} }}\n",
                quoted(id),
                list.join(", ")
            ),
            [_] | [] => Ok(()),
        };
        Ok(text)
    }
}

/// A text as it stands between quotes in a file.
fn quoted(text: &str) -> String {
    let plain: String = text.chars().filter(|c| !c.is_control()).collect();
    format!("\"{}\"", plain.replace('\\', "\\\\").replace('"', "\\\""))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_row_can_be_written_again_as_it_stands_and_one_can_be_changed() {
        let shipped = Weights::read("").unwrap();
        let rows = shipped.rows();
        assert!(rows.iter().all(|row| !row.own));
        let mut own = String::new();
        for row in &rows {
            let values: Vec<f64> = row.cells.iter().map(|cell| cell.value).collect();
            own += &shipped.changed(&row.key, &values, &row.reason).unwrap();
        }
        assert!(own.len() < super::super::LARGEST, "{}", own.len());
        assert_eq!(Weights::read(&own).unwrap().rows(), rows);
        let key: Vec<String> = ["check", "return_test", "worn"].map(str::to_owned).to_vec();
        let row = rows.iter().find(|row| row.key == key).unwrap();
        let mut values: Vec<f64> = row.cells.iter().map(|cell| cell.value).collect();
        values.rotate_left(1);
        let text = shipped.changed(&key, &values, "counted \"here\"").unwrap();
        let changed = Weights::read(&text).unwrap().rows();
        let changed: Vec<_> = changed.iter().filter(|row| row.own).collect();
        assert_eq!((changed.len(), changed[0].reason.as_str()), (1, "counted \"here\""));
        assert!(shipped.changed(&key, &values[1..], "too few").is_err());
        assert!(shipped.changed(&["nothing".to_owned()], &[], "no such row").is_err());
    }
}
