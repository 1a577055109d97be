//! Presets: settings of a check that a workshop keeps because they come back at the next job.
//!
//! # Source
//! Workshop rule: count and length of the pulses of a balance test, the fluid of a cleaning.

use super::bench::BenchTest;
use super::cell::{Cell, Holds};
use super::engine::EngineTest;
use crate::library::PresetCell;
use crate::limits::FieldProblem;
use crate::tests::words;

/// The check that a preset belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PresetOf {
    /// A check on the engine.
    Engine(EngineTest),
    /// A test on the bench.
    Bench(BenchTest),
}

impl PresetOf {
    /// By the id of the check.
    ///
    /// ```
    /// use cobaltine_core::tests::preset::PresetOf;
    /// assert!(PresetOf::named("pressure_drop").is_some());
    /// assert!(PresetOf::named("no_such_check").is_none());
    /// ```
    pub fn named(check: &str) -> Option<Self> {
        EngineTest::parse(check).map(Self::Engine).or(BenchTest::parse(check).map(Self::Bench))
    }

    /// As the check is called.
    pub fn title(self) -> &'static str {
        match self {
            Self::Engine(test) => test.title(),
            Self::Bench(test) => test.title(),
        }
    }

    /// Reads what was typed into cells of the whole set, each as it is kept.
    ///
    /// # Errors
    /// What cannot be read, by the name of the cell.
    pub fn read(self, cells: &[PresetCell]) -> Result<Vec<PresetCell>, Vec<FieldProblem>> {
        let (mut kept, mut wrong) = (Vec::new(), Vec::new());
        for one in cells.iter().filter(|one| !one.typed.trim().is_empty()) {
            let at = |says: String| FieldProblem::new(one.cell.as_str(), says);
            match self.cell(&one.cell).map(|cell| cell.take(one.typed.trim())) {
                Some(Ok(read)) => {
                    kept.push(PresetCell { cell: one.cell.clone(), typed: read.kept });
                }
                Some(Err(error)) => wrong.push(at(error.to_string())),
                None => wrong.push(at(words::no_such_setting(&one.cell))),
            }
        }
        if wrong.is_empty() { Ok(kept) } else { Err(wrong) }
    }

    /// What stands in its cells, in words: `Pulses 40`.
    pub fn says(self, cells: &[PresetCell]) -> Vec<String> {
        let said = |one: &PresetCell| {
            let cell = self.cell(&one.cell)?;
            Some(format!("{} {}", cell.word, answer(cell, &one.typed)))
        };
        cells.iter().filter_map(said).collect()
    }

    fn cell(self, name: &str) -> Option<&'static Cell> {
        let cells = match self {
            Self::Engine(test) => test.set(),
            Self::Bench(test) => test.set(),
        };
        cells.iter().find(|cell| cell.preset && cell.name == name)
    }
}

/// An answer as its word, a number with its unit.
fn answer(cell: &Cell, typed: &str) -> String {
    match cell.holds {
        Holds::Choice(choices) => {
            let at = typed.parse().ok().and_then(|at: usize| choices.get(at));
            at.map_or_else(|| typed.to_owned(), |word| (*word).to_owned())
        }
        Holds::Number(field) if typed.ends_with(|last: char| last.is_ascii_digit()) => {
            format!("{typed} {}", field.kept_unit()).trim_end().to_owned()
        }
        Holds::Number(_) | Holds::Words => typed.to_owned(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn settings_are_read_as_their_cells_are_and_said_in_words() {
        let set = |cell: &str, typed: &str| PresetCell { cell: cell.into(), typed: typed.into() };
        let balance = PresetOf::Engine(EngineTest::PressureDrop);
        let kept = balance.read(&[set("pulses", "40"), set("pulse", " 7 "), set("bore", "")]);
        let kept = kept.unwrap();
        assert_eq!(balance.says(&kept), ["Pulses 40", "Each of 7 ms"]);
        let wrong = balance.read(&[set("pulses", "many"), set("leak", "1")]).unwrap_err();
        let fields: Vec<&str> = wrong.iter().map(|one| one.field.as_str()).collect();
        assert_eq!(fields, ["pulses", "leak"], "a reading of the day is no setting");
        let cleaning = PresetOf::named("cleaning").unwrap();
        assert_eq!(cleaning.says(&[set("fluid", "1")]), ["Cleaning fluid solvent"]);
    }
}
