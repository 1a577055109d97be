//! The bench: injectors of one or several jobs side by side on one rail, round after round.
//!
//! A session holds injectors, each with a tag of its own; where it hangs on the rail may change
//! from round to round. A round is a full set of readings: as received, after each cleaning, after
//! each adjustment, final. Readings are append-only. A test is a list of cells (of the round, of a
//! row, of an injector in a row) and a function from what was read to a verdict; the registry
//! makes id, list and dispatch from one line each.

mod cleaning;
mod compare;
mod conditions;
mod ctx;
mod doser;
mod drive;

mod flow;
mod form;
pub mod import;
mod leak;
mod lift;
mod map;
mod parts;
mod plan;
mod record;
mod spray;
mod supply_offset;
mod sweep;
mod trim_code;
mod values;
mod verdict;
mod visual;

pub use form::BenchForm;
pub use map::asks;
pub use plan::{BenchKind, Entry, Point, RunStep, petrol_points, run_order};
pub use record::{
    BenchCell, BenchJudged, BenchSetup, FamilyThen, RailPlace, Round, RoundStage, RoundVerdict,
    Samples, SessionRecord, Shim, Tagged,
};
pub use supply_offset::{SupplyLine, supply_table};
pub use verdict::{BenchLane, BenchRow, BenchVerdict, RowLane, SweepLine};

use crate::calc::CalcError;
use crate::caution::Caution;
use crate::checks::cell::{Cell, Holds};
use crate::typed::{Field, TypedError};
use ctx::Ctx;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

macro_rules! registry {
    ($($variant:ident = $name:ident;)*) => {
        /// Names one test of the bench.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum BenchTest {
            $(
                #[doc = concat!("`", stringify!($name), "`")]
                $variant,
            )*
        }

        impl BenchTest {
            /// Every test, in the order of work.
            pub const ALL: &[Self] = &[$(Self::$variant),*];

            /// As written in addresses and in the database.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => stringify!($name),)*
                }
            }

            fn spec(self) -> &'static Spec {
                match self {
                    $(Self::$variant => &$name::SPEC,)*
                }
            }
        }
    };
}

registry! {
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
    judge: fn(&Ctx<'_>) -> Result<BenchVerdict, CalcError>,
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
    /// The test of this name.
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.iter().copied().find(|id| id.name() == name)
    }

    /// Whether it belongs to a bench of this kind.
    pub fn fits(self, kind: BenchKind) -> bool {
        self.spec().kinds.contains(&kind)
    }

    /// It pulses injectors.
    pub fn pulses(self) -> bool {
        self.spec().pulses
    }

    /// As called in a sentence.
    pub fn title(self) -> &'static str {
        self.spec().title
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
    ) -> Option<Result<f64, TypedError>> {
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
        Some(self.as_entered(*cell, setup.entry).read(typed))
    }

    /// A tube of a test that may be typed in other ways than millilitres.
    fn as_entered(self, cell: Cell, entry: Entry) -> Cell {
        let typed = match entry {
            Entry::Volume => return cell,
            Entry::Percent => Field::from_zero("%", 100.0),
            Entry::PerStroke => Field::from_zero("mm3", 1e6),
        };
        let tube = match self {
            Self::Flow => cell.name == "volume",
            Self::Map => cell.name == "delivered" || cell.name == "returned",
            Self::Drive
            | Self::Visual
            | Self::Leak
            | Self::Spray
            | Self::Sweep
            | Self::SupplyOffset
            | Self::Cleaning
            | Self::Lift
            | Self::Parts
            | Self::TrimCode
            | Self::Doser => false,
        };
        if tube { Cell { holds: Holds::Number(typed), ..cell } } else { cell }
    }
}

#[cfg(test)]
pub(crate) mod tests;
