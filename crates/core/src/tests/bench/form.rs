//! A test of the bench as a view draws it.

use super::plan::{BenchKind, Entry};
use super::{BenchTest, Rows};
use crate::caution::Caution;
use crate::tests::CellForm;
use crate::tests::cell::Cell;
use serde::Serialize;
use utoipa::ToSchema;

/// One test.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct BenchForm {
    /// Which.
    pub test: BenchTest,
    /// Its name.
    pub title: String,
    /// Its name where there is little room.
    pub short: String,
    /// What it measures and how, in a sentence or two.
    pub says: String,
    /// The cautions of its step.
    pub cautions: Vec<Caution>,
    /// It pulses injectors: the drive guard comes first.
    pub pulses: bool,
    /// Rows are the points of the session's plan.
    pub by_points: bool,
    /// Rows that can be added; 0 for a test without rows, and for one by points.
    pub most_rows: u32,
    /// Cells of the round.
    pub set: Vec<CellForm>,
    /// Cells of a row.
    pub row: Vec<CellForm>,
    /// Cells of an injector, in a row where there are rows.
    pub each: Vec<CellForm>,
}

impl BenchTest {
    /// What a view needs to draw it, volumes as this session types them.
    pub fn form(self, entry: Entry) -> BenchForm {
        let spec = self.spec();
        let cells = |cells: &[Cell]| {
            cells.iter().map(|cell| self.as_entered(*cell, entry).form()).collect()
        };
        BenchForm {
            test: self,
            title: spec.title.to_owned(),
            short: spec.short.to_owned(),
            says: spec.says.to_owned(),
            cautions: spec.cautions.to_vec(),
            pulses: spec.pulses,
            by_points: spec.rows == Rows::Points,
            most_rows: match spec.rows {
                Rows::UpTo(most) => most,
                Rows::None | Rows::Points => 0,
            },
            set: cells(spec.set),
            row: cells(spec.row),
            each: cells(spec.each),
        }
    }

    /// Every test of a bench of this kind.
    pub fn forms(kind: BenchKind, entry: Entry) -> Vec<BenchForm> {
        Self::ALL.iter().filter(|t| t.fits(kind)).map(|t| t.form(entry)).collect()
    }
}
