//! Checks that are read cell by cell across the cylinders: supply, coils, balance, cut-out.
//!
//! A check is a list of cells (some for the whole set, some for each cylinder) and a function
//! from what was read to a verdict with its because. Cells are kept as typed the moment they are
//! left; a verdict is made from whatever is there so far. The registry makes id, list and
//! dispatch from one line each; the id is the file stem and the name in the database.

mod coil_resistance;
mod compression;
mod cutout;
mod di_balance;
mod pressure_drop;
mod supply;
mod words;

use super::{Because, School};
use crate::calc::CalcError;
use crate::engine::FuelSystem;
use crate::instrument::{Instrument, InstrumentKind};
use crate::library::{LimitCheck, LimitEntry};
use crate::mark::Mark;
use crate::rules::Rules;
use crate::typed::{Field, TypedError};
use crate::work::Stage;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

macro_rules! registry {
    ($($variant:ident = $name:ident;)*) => {
        /// Names one check that is read cell by cell.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum SheetId {
            $(
                #[doc = concat!("`", stringify!($name), "`")]
                $variant,
            )*
        }

        impl SheetId {
            /// Every check, in the order of work.
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
    Compression = compression;
    Supply = supply;
    CoilResistance = coil_resistance;
    PressureDrop = pressure_drop;
    DiBalance = di_balance;
    Cutout = cutout;
}

struct Spec {
    title: &'static str,
    short: &'static str,
    says: &'static str,
    caution: &'static str,
    stage: Stage,
    fits: fn(FuelSystem) -> bool,
    limit: Option<LimitCheck>,
    instrument: Option<InstrumentKind>,
    set: &'static [Cell],
    each: &'static [Cell],
    judge: fn(&Sheet) -> Result<Found, CalcError>,
}

struct Cell {
    name: &'static str,
    word: &'static str,
    field: Field,
    /// The answers to choose from; what is read is the place in this list.
    choices: &'static [&'static str],
}

const fn cell(name: &'static str, word: &'static str, field: Field) -> Cell {
    Cell { name, word, field, choices: &[] }
}

/// A check as a view draws it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct SheetForm {
    /// Which.
    pub id: SheetId,
    /// Its name.
    pub title: String,
    /// Its name where there is little room.
    pub short: String,
    /// What it measures and how, in a sentence or two.
    pub says: String,
    /// The caution of its step: hazard, what to do, who.
    pub caution: String,
    /// The stage that it belongs to.
    pub stage: Stage,
    /// The instrument that it is read with, when that matters.
    pub instrument: Option<InstrumentKind>,
    /// Cells of the whole set.
    pub set: Vec<CellForm>,
    /// Cells of each cylinder.
    pub each: Vec<CellForm>,
}

/// One cell.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct CellForm {
    /// Its name.
    pub name: String,
    /// The word beside it.
    pub word: String,
    /// The unit of a bare number.
    pub unit: String,
    /// The answers to choose from.
    pub choices: Vec<String>,
}

/// What was read so far.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Sheet {
    /// All cylinders, in strip order.
    pub cylinders: Vec<u32>,
    /// Cells of the whole set, by name.
    pub set: BTreeMap<String, f64>,
    /// Cells of each cylinder in the order in which they were first read: cylinder, name, value.
    pub each: Vec<(u32, String, f64)>,
    /// The library's limit at the time.
    pub limit: Option<LimitEntry>,
    /// The instrument that it was read with.
    pub instrument: Option<Instrument>,
    /// The rules of the house at the time.
    pub rules: Rules,
}

impl Sheet {
    fn of_set(&self, name: &str) -> Option<f64> {
        self.set.get(name).copied()
    }

    fn of(&self, cylinder: u32, name: &str) -> Option<f64> {
        self.each.iter().find(|(c, n, _)| *c == cylinder && n == name).map(|(_, _, value)| *value)
    }

    /// Cylinders whose cell was read, in the order of reading.
    fn read(&self, name: &str) -> Vec<(u32, f64)> {
        self.each.iter().filter(|(_, n, _)| n == name).map(|(c, _, v)| (*c, *v)).collect()
    }
}

/// The verdict on one injector or its place.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SheetLane {
    /// Cylinder number.
    pub cylinder: u32,
    /// As the strip draws it.
    pub mark: Mark,
    /// The word under the mark.
    pub word: String,
    /// What the column is drawn by.
    pub value: Option<f64>,
    /// Its standard uncertainty, where it is known.
    pub u: Option<f64>,
    /// The number as shown.
    pub shown: String,
    /// One sentence.
    pub sentence: String,
    /// The reasons with their arithmetic.
    pub because: Vec<Because>,
    /// What would change this.
    pub would_change: Vec<String>,
}

/// The verdict on the set.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SheetVerdict {
    /// The finding in one sentence.
    pub headline: String,
    /// What else to know or to do next.
    pub advice: Vec<String>,
    /// Per injector, in strip order.
    pub lanes: Vec<SheetLane>,
    /// What the columns show.
    pub unit: String,
    /// Window of the limit or of what counts as alike.
    #[schema(value_type = Option<Vec<Option<f64>>>)]
    pub window: Option<[Option<f64>; 2]>,
    /// What the window is.
    pub window_word: String,
    /// Every school's own result, where they differ.
    pub schools: Vec<School>,
    /// What lies over the whole result.
    pub flags: Vec<String>,
    /// Top of the common scale.
    pub scale: f64,
}

/// What a check found; the frame around it is made the same for all.
#[derive(Default)]
struct Found {
    headline: String,
    advice: Vec<String>,
    lanes: Vec<SheetLane>,
    unit: &'static str,
    window: Option<[Option<f64>; 2]>,
    window_word: &'static str,
    schools: Vec<School>,
    flags: Vec<String>,
}

impl SheetId {
    /// The check of this name.
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.iter().copied().find(|id| id.name() == name)
    }

    /// Whether it means anything on this fuel system.
    pub fn fits(self, fuel: FuelSystem) -> bool {
        (self.spec().fits)(fuel)
    }

    /// The stage that it belongs to.
    pub fn stage(self) -> Stage {
        self.spec().stage
    }

    /// What its limit is about, when it can have one.
    pub fn limit(self) -> Option<LimitCheck> {
        self.spec().limit
    }

    /// What a view needs to draw it.
    pub fn form(self) -> SheetForm {
        let spec = self.spec();
        let cells = |cells: &[Cell]| {
            cells
                .iter()
                .map(|cell| CellForm {
                    name: cell.name.to_owned(),
                    word: cell.word.to_owned(),
                    unit: if cell.choices.is_empty() { cell.field.unit() } else { "" }.to_owned(),
                    choices: cell.choices.iter().map(|c| (*c).to_owned()).collect(),
                })
                .collect()
        };
        SheetForm {
            id: self,
            title: spec.title.to_owned(),
            short: spec.short.to_owned(),
            says: spec.says.to_owned(),
            caution: spec.caution.to_owned(),
            stage: spec.stage,
            instrument: spec.instrument,
            set: cells(spec.set),
            each: cells(spec.each),
        }
    }

    /// Reads what was typed into a cell: of the set without a cylinder, of a cylinder with one.
    /// `None` when the check has no such cell.
    ///
    /// # Errors
    /// What cannot be read, in words for the cell.
    pub fn read(
        self,
        name: &str,
        of_cylinder: bool,
        typed: &str,
    ) -> Option<Result<f64, TypedError>> {
        let spec = self.spec();
        let cells = if of_cylinder { spec.each } else { spec.set };
        let cell = cells.iter().find(|cell| cell.name == name)?;
        Some(match cell.field.read(typed) {
            Ok(value)
                if !cell.choices.is_empty()
                    && (value.fract() != 0.0 || value as usize >= cell.choices.len()) =>
            {
                Err(TypedError::NotANumber(typed.to_owned()))
            }
            read => read,
        })
    }

    /// Judges what was read so far.
    ///
    /// # Errors
    /// What the calcs refuse, in the user's words.
    pub fn judge(self, sheet: &Sheet) -> Result<SheetVerdict, CalcError> {
        let spec = self.spec();
        let found = (spec.judge)(sheet)?;
        let mut flags = found.flags;
        flags.extend(words::decimal_slips(spec.each, sheet));
        let highest = found
            .lanes
            .iter()
            .filter_map(|lane| lane.value)
            .chain(found.window.into_iter().flatten().flatten())
            .fold(0.0, f64::max);
        let lanes = sheet.cylinders.iter().map(|cylinder| {
            let lane = found.lanes.iter().find(|lane| lane.cylinder == *cylinder);
            lane.cloned().unwrap_or_else(|| words::not_read(*cylinder))
        });
        Ok(SheetVerdict {
            headline: found.headline,
            advice: found.advice,
            lanes: lanes.collect(),
            unit: found.unit.to_owned(),
            window: found.window,
            window_word: found.window_word.to_owned(),
            schools: found.schools,
            flags,
            scale: if highest > 0.0 { highest * 1.15 } else { 1.0 },
        })
    }
}

#[cfg(test)]
mod tests;
