//! A check that is read cell by cell, as it is kept: every cell as typed, never changed.

use super::{FieldProblem, Signed};
use crate::calc::CalcError;
use crate::checks::sheet::{Sheet, SheetId, SheetVerdict};
use crate::engine::Layout;
use crate::instrument::Instrument;
use crate::library::LimitEntry;
use crate::rules::{RuleChange, Rules};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// One cell as it was left. A later one of the same cell names the one that it takes the place of.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CellReading {
    /// Identity, made where it was typed.
    pub id: Uuid,
    /// Name of the cell.
    pub cell: String,
    /// Cylinder; none for a cell of the whole set.
    pub cylinder: Option<u32>,
    /// In the unit of the cell; none when it was emptied.
    pub value: Option<f64>,
    /// As typed.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Who and when.
    pub signed: Signed,
}

/// A check with its cells. Limit, instrument and rules are those of the day it was begun.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SheetRecord {
    /// Identity.
    pub id: Uuid,
    /// Which check.
    pub check: SheetId,
    /// The library's limit at the time.
    pub limit: Option<LimitEntry>,
    /// The instrument as it was.
    pub instrument: Option<Instrument>,
    /// Its calibration had run out by then.
    pub overdue: bool,
    /// Changes of the house's rules that held at the time.
    pub rules: Vec<RuleChange>,
    /// In the order of entry.
    pub readings: Vec<CellReading>,
    /// Who and when.
    pub signed: Signed,
}

impl SheetRecord {
    /// The newest reading of each cell, emptied ones included, in the order in which the cells
    /// were first read.
    pub fn standing(&self) -> Vec<&CellReading> {
        let mut standing: Vec<&CellReading> = Vec::new();
        for reading in &self.readings {
            let same = |held: &&&CellReading| {
                held.cell == reading.cell && held.cylinder == reading.cylinder
            };
            match standing.iter().position(|held| same(&held)) {
                Some(place) => standing[place] = reading,
                None => standing.push(reading),
            }
        }
        standing
    }

    /// What was read so far, as the check takes it.
    pub fn sheet(&self, layout: &Layout) -> Sheet {
        let mut sheet = Sheet {
            cylinders: layout.strip().concat(),
            limit: self.limit.clone(),
            instrument: self.instrument.clone(),
            rules: Rules::after(self.rules.iter().cloned()),
            ..Sheet::default()
        };
        for reading in self.standing() {
            let Some(value) = reading.value else { continue };
            match reading.cylinder {
                Some(cylinder) => sheet.each.push((cylinder, reading.cell.clone(), value)),
                None => {
                    sheet.set.insert(reading.cell.clone(), value);
                }
            }
        }
        sheet
    }

    /// The verdict on what was read so far.
    ///
    /// # Errors
    /// What the calcs refuse, in the user's words.
    pub fn verdict(&self, layout: &Layout) -> Result<SheetVerdict, CalcError> {
        let mut verdict = self.check.judge(&self.sheet(layout))?;
        if let Some(meter) = self.instrument.as_ref().filter(|_| self.overdue) {
            verdict.flags.push(format!("{} was overdue for calibration.", meter.name));
        }
        Ok(verdict)
    }

    /// Cells that the check does not have, or cylinders that the engine does not have.
    pub(super) fn problems(&self, place: &str, layout: &Layout) -> Vec<FieldProblem> {
        let wrong = self.readings.iter().filter(|reading| {
            let cylinder = reading.cylinder.is_none_or(|c| (1..=layout.cylinders).contains(&c));
            !cylinder || self.check.read(&reading.cell, reading.cylinder.is_some(), "1").is_none()
        });
        wrong
            .map(|reading| {
                FieldProblem::new(
                    format!("{place}.readings"),
                    format!("There is no cell \"{}\" here.", reading.cell),
                )
            })
            .collect()
    }
}
