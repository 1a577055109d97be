//! The bench: injectors of one or several jobs side by side on one rail, round after round.
//!
//! A session holds injectors, each with a tag of its own; where it hangs on the rail may change
//! from round to round. A round is a full set of readings: as received, after each cleaning, after
//! each adjustment, final. Readings are append-only. A test is a list of cells (of the round, of a
//! row, of an injector in a row) and a function from what was read to a verdict; the registry
//! makes id, list and dispatch from one line each.

mod compare;
mod conditions;
mod ctx;

mod form;
pub mod import;
mod plan;
mod record;
mod values;
mod verdict;
mod work;

pub use form::BenchForm;
pub use map::asks;
pub use plan::{BenchKind, Entry, Point, PointSaid, RunStep, petrol_points, run_order};
pub use record::{
    BenchCell, BenchJudged, BenchSetup, FamilyThen, RailPlace, Round, RoundStage, RoundVerdict,
    Samples, SessionRecord, Shim, Tagged,
};
pub use supply_offset::{SupplyLine, supply_table};
pub use values::{ShelfFeature, ShelfValue};

use super::property::Property;
use super::registry::registry;
use super::{ReadCell, Verdict};
use crate::calc::CalcError;
use crate::caution::Caution;
use crate::tests::cell::{Cell, Holds};
use crate::typed::{Field, TypedError};
use ctx::Ctx;

registry! {
    /// Names one test of the bench, in the order of work.
    BenchTest is Spec {
        Drive = drive;
        Visual = visual;
        Leak = leak;
        Spray = spray;
        Flow = flow;
        Sweep = sweep;
        SupplyOffset = supply_offset;
        Cleaning = cleaning;
        Map = map;
        Lift = lift;
        Parts = parts;
        TrimCode = trim_code;
        Doser = doser;
    }
}

/// What the rows of a test are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Rows {
    /// One row for each injector is all.
    None,
    /// The points of the session's plan.
    Points,
    /// As many as are needed, up to this.
    UpTo(u32),
}

struct Spec {
    title: &'static str,
    short: &'static str,
    says: &'static str,
    cautions: &'static [Caution],
    kinds: &'static [BenchKind],
    /// What pulses an injector needs a drive that the guard let pass.
    pulses: bool,
    rows: Rows,
    set: &'static [Cell],
    row: &'static [Cell],
    each: &'static [Cell],
    /// Cells of an injector that are tubes: they may be typed in other ways than millilitres.
    tubes: &'static [&'static str],
    /// Of whom it speaks, and what work ends what it read.
    property: Property,
    /// Its outcomes, and how often of 100 each is seen; empty where it says nothing to judgement.
    table: &'static str,
    judge: fn(&Ctx<'_>) -> Result<Verdict, CalcError>,
}

/// Where a cell stands: of the round, of a row, or of an injector.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Spot<'a> {
    /// Name of the cell.
    pub cell: &'a str,
    /// Row, from 1.
    pub row: Option<u32>,
    /// Tag of the injector.
    pub tag: Option<u32>,
}

impl BenchTest {
    /// Whether it belongs to a bench of this kind.
    pub fn fits(self, kind: BenchKind) -> bool {
        self.spec().kinds.contains(&kind)
    }

    /// Of whom it speaks, and what work ends what it read.
    pub(crate) fn property(self) -> Property {
        self.spec().property
    }

    /// It pulses injectors.
    pub fn pulses(self) -> bool {
        self.spec().pulses
    }

    /// Cells of the whole round.
    pub(super) fn set(self) -> &'static [Cell] {
        self.spec().set
    }

    /// Reads what was typed into a cell. `None` when the test has no such cell there.
    ///
    /// # Errors
    /// What cannot be read, in words for the cell.
    pub fn read(
        self,
        spot: Spot<'_>,
        setup: &BenchSetup,
        typed: &str,
    ) -> Option<Result<ReadCell, TypedError>> {
        let spec = self.spec();
        let rows = match spec.rows {
            Rows::None => 0,
            Rows::Points => setup.points.len() as u32,
            Rows::UpTo(most) => most,
        };
        let cells = match (spot.row, spot.tag) {
            (None, None) => spec.set,
            (Some(row), None) if (1..=rows).contains(&row) => spec.row,
            (Some(row), Some(_)) if (1..=rows).contains(&row) => spec.each,
            (None, Some(_)) if spec.rows == Rows::None => spec.each,
            (Some(_) | None, Some(_)) | (Some(_), None) => return None,
        };
        let cell = cells.iter().find(|cell| cell.name == spot.cell)?;
        Some(self.as_entered(*cell, setup.entry).take(typed))
    }

    /// A tube of a test that may be typed in other ways than millilitres.
    fn as_entered(self, cell: Cell, entry: Entry) -> Cell {
        let typed = match entry {
            Entry::Volume => return cell,
            Entry::Percent => Field::from_zero("%", 100.0),
            Entry::PerStroke => Field::from_zero("mm3", 1e6),
        };
        let tube = self.spec().tubes.contains(&cell.name);
        if tube { Cell { holds: Holds::Number(typed), ..cell } } else { cell }
    }
}

#[cfg(test)]
pub(crate) mod tests;
