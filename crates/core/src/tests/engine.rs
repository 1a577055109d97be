//! Checks that are read cell by cell across the cylinders: supply, coils, balance, cut-out.
//!
//! A check is a list of cells (some for the whole set, some for each cylinder) and a function
//! from what was read to a verdict with its because. Cells are kept as typed the moment they are
//! left; a verdict is made from whatever is there so far. The registry makes id, list and
//! dispatch from one line each; the id is the file stem and the name in the database.

mod form;
mod looked;
mod outcome;
mod residual;
mod words;

use super::cell::{Cell, cell, choice};
use super::complaint::{Complaint, Why};
use super::property::Property;
use super::registry::registry;
use super::verdict::pressing;
use super::{Because, Lane, ReadCell, School, Verdict};
use crate::calc::CalcError;
use crate::caution::{Caution, Work};
use crate::engine::FuelSystem;
use crate::instrument::{Instrument, InstrumentKind};
use crate::library::{LimitCheck, LimitEntry};
use crate::mark::Mark;
use crate::rules::{RuleId, Rules};
use crate::said::{Code, Lack, Said};
use crate::start::{self, StartId};
use crate::typed::{Field, TypedError};
use crate::work::Stage;
pub(crate) use complaint_figure::figures;
pub use form::{Recorded, RecordedKind, SheetForm};
pub use outcome::Outcome;
pub use residual::Residual;
pub(crate) use residual::house_level;
use std::collections::BTreeMap;

registry! {
    /// Names one test on the engine, in the order of the trade: cheap, quick and shared first.
    EngineTest is Spec {
        FuelSample = fuel_sample;
        SuctionAir = suction_air;
        LowPressure = low_pressure;
        SharedCauses = shared_causes;
        RailRelief = rail_relief;
        RailPressureHold = rail_pressure_hold;
        Compression = compression;
        Supply = supply;
        Indicator = indicator;
        Listening = listening;
        DriveCurrent = drive_current;
        Spark = spark;
        CoilResistance = coil_resistance;
        PiezoStack = piezo_stack;
        Insulation = insulation;
        Cutout = cutout;
        DiBalance = di_balance;
        ReturnTest = return_test;
        PressureDrop = pressure_drop;
        ComplaintFigure = complaint_figure;
    }
}

struct Spec {
    title: &'static str,
    short: &'static str,
    says: &'static str,
    cautions: &'static [Caution],
    start: &'static [StartId],
    /// Minutes that it usually takes.
    minutes: u32,
    /// What has to be at hand, and what is used up.
    tools: &'static str,
    stage: Stage,
    fits: fn(FuelSystem) -> bool,
    limit: Option<LimitCheck>,
    instrument: Option<InstrumentKind>,
    set: &'static [Cell],
    each: &'static [Cell],
    /// Its kind of work, where the hazards of that depend on the fuel system.
    work: Option<Work>,
    /// Why it has a place in the plan of a job.
    why: fn(&Complaint<'_>) -> Option<Why>,
    /// What is recorded for it, in place of typing.
    recorded: Option<Recorded>,
    /// Of whom it speaks, and what work ends what it read.
    property: Property,
    /// A fault found here is put right before anything else is measured.
    first: bool,
    /// A swap can follow it: the rule from which it sees something.
    follows: Option<RuleId>,
    /// Readings of a healthy engine.
    example: Example,
    /// Its outcomes, and how often of 100 each is seen.
    table: &'static str,
    judge: fn(&Sheet) -> Result<Found, CalcError>,
}

/// Readings of a healthy engine: cells of the set with their values, and of each cylinder as
/// `base + slope × f`, f being 1 for a healthy one.
struct Example {
    set: &'static [(&'static str, f64)],
    each: &'static [(&'static str, f64, f64)],
}

/// Name of the cell in which a start condition is ticked.
fn tick_cell(name: &str) -> Option<StartId> {
    let name = name.strip_prefix("start_")?;
    StartId::ALL.iter().copied().find(|id| id.name() == name)
}

/// What was read so far.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Sheet {
    /// All cylinders, in strip order.
    pub cylinders: Vec<u32>,
    /// The same, bank by bank.
    pub banks: Vec<Vec<u32>>,
    /// How the engine is fuelled; none where nobody said.
    pub fuel: Option<FuelSystem>,
    /// It does not start.
    pub dead: bool,
    /// Cells of the whole set, by name.
    pub set: BTreeMap<String, f64>,
    /// Cells of each cylinder in the order in which they were first read: cylinder, name, value.
    pub each: Vec<(u32, String, f64)>,
    /// Start conditions were asked for.
    pub asks_start: bool,
    /// Start conditions that were ticked before.
    pub ticked: Vec<StartId>,
    /// The calibration of the instrument had run out.
    pub overdue: bool,
    /// What other checks of the job say by now.
    pub beside: Vec<Beside>,
    /// How long each injector was held open in place since its cylinder was last cleared, s.
    pub pulsed_s: Vec<(u32, f64)>,
    /// The library's limit at the time.
    pub limit: Option<LimitEntry>,
    /// The instrument that it was read with.
    pub instrument: Option<Instrument>,
    /// The rules of the house at the time.
    pub rules: Rules,
}

/// What another check of the same job says.
#[derive(Debug, Clone, PartialEq)]
pub struct Beside {
    /// Which.
    pub check: EngineTest,
    /// Its lanes.
    pub lanes: Vec<Lane>,
}

impl Sheet {
    /// Reads a kept cell into its place.
    pub(crate) fn put(&mut self, name: &str, cylinder: Option<u32>, value: f64) {
        match (cylinder, tick_cell(name)) {
            (Some(cylinder), _) => self.each.push((cylinder, name.to_owned(), value)),
            (None, Some(id)) if value == 1.0 => self.ticked.push(id),
            (None, Some(_)) => {}
            (None, None) => {
                self.set.insert(name.to_owned(), value);
            }
        }
    }

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

/// What a check found; the frame around it is made the same for all.
#[derive(Default)]
struct Found {
    headline: String,
    advice: Vec<String>,
    lanes: Vec<Lane>,
    unit: &'static str,
    also: &'static str,
    window: Option<[Option<f64>; 2]>,
    window_word: &'static str,
    schools: Vec<School>,
    flags: Vec<String>,
    /// Given where the lanes do not say it.
    outcome: Option<Outcome>,
    residual: Vec<Residual>,
    /// What has to be settled before anybody is condemned.
    doubt: String,
    /// What it says of all at once.
    shared: Option<Said>,
}

impl EngineTest {
    /// Whether it means anything on this fuel system.
    pub fn fits(self, fuel: FuelSystem) -> bool {
        (self.spec().fits)(fuel)
    }

    /// The stage that it belongs to.
    pub fn stage(self) -> Stage {
        self.spec().stage
    }

    /// Those that are read cell by cell.
    pub fn sheets() -> impl DoubleEndedIterator<Item = Self> {
        Self::ALL.iter().copied().filter(|test| test.by_cells())
    }

    /// It is read cell by cell; the return test has runs of its own.
    pub fn by_cells(self) -> bool {
        let spec = self.spec();
        !(spec.set.is_empty() && spec.each.is_empty())
    }

    /// A sheet as a healthy engine gives it, each cylinder by its own factor around 1.
    pub fn example(self, factors: &[f64]) -> Sheet {
        let Example { set, each } = &self.spec().example;
        let places = (1..).zip(factors);
        let cells = places.flat_map(|(cylinder, factor)| {
            let of = |(name, base, slope): &(&str, f64, f64)| {
                (cylinder, (*name).to_owned(), base + slope * factor)
            };
            each.iter().map(of).collect::<Vec<_>>()
        });
        Sheet {
            cylinders: (1..=factors.len() as u32).collect(),
            set: set.iter().map(|(name, value)| ((*name).to_owned(), *value)).collect(),
            each: cells.collect(),
            ..Sheet::default()
        }
    }

    /// Of whom it speaks, and what work ends what it read.
    pub(crate) fn property(self) -> Property {
        self.spec().property
    }

    /// Why it has a place in the plan of this complaint, if it has one.
    pub(crate) fn why(self, complaint: &Complaint<'_>) -> Option<Why> {
        (self.spec().why)(complaint)
    }

    /// A fault found here is put right before anything else is measured.
    pub(crate) fn comes_first(self) -> bool {
        self.spec().first
    }

    /// The rule from which it sees something that a swap can follow; none for one that cannot be.
    pub(crate) fn follows(self) -> Option<RuleId> {
        self.spec().follows
    }

    /// What its limit is about, when it can have one.
    pub fn limit(self) -> Option<LimitCheck> {
        self.spec().limit
    }

    /// Cells of the whole set.
    pub(super) fn set(self) -> &'static [Cell] {
        self.spec().set
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
    ) -> Option<Result<ReadCell, TypedError>> {
        let spec = self.spec();
        if let Some(id) = tick_cell(name).filter(|_| !of_cylinder) {
            let known = spec.start.contains(&id);
            let read = |value| ReadCell { value, kept: typed.to_owned() };
            return known.then(|| Field::from_zero("", 1.0).read(typed).map(read));
        }
        let cells = if of_cylinder { spec.each } else { spec.set };
        let cell = cells.iter().find(|cell| cell.name == name)?;
        Some(cell.take(typed))
    }

    /// Judges what was read so far.
    ///
    /// # Errors
    /// What the calcs refuse, in the user's words.
    pub fn judge(self, sheet: &Sheet) -> Result<Verdict, CalcError> {
        let spec = self.spec();
        let found = (spec.judge)(sheet)?;
        let mut flags = found.flags;
        flags.extend(words::decimal_slips(spec.each, sheet));
        let slips = words::like_slips(spec.each, sheet);
        let read = sheet.asks_start && !(sheet.each.is_empty() && sheet.set.is_empty());
        let missing = start::missing(spec.start, &sheet.ticked).filter(|_| read);
        flags.extend(missing.as_ref().map(|missing| missing.short.clone()));
        let highest = found
            .lanes
            .iter()
            .filter_map(|lane| lane.value)
            .chain(found.window.into_iter().flatten().flatten())
            .fold(0.0, f64::max);
        let lanes = sheet.cylinders.iter().map(|cylinder| {
            let lane = found.lanes.iter().find(|lane| lane.place == *cylinder);
            let mut lane = lane.cloned().unwrap_or_else(|| words::not_read(*cylinder));
            // A doubt over the whole check condemns nobody, and clears nobody.
            if !found.doubt.is_empty() && lane.said.code.weighs() {
                lane.said.code = Code::DOUBTFUL;
                lane.would_change.insert(0, found.doubt.clone());
            }
            lane.said = lane
                .said
                .lacking(Lack::StartConditions, missing.is_some())
                .lacking(Lack::Overdue, sheet.overdue)
                .lacking(Lack::LikeSlip, slips.contains(cylinder));
            if let Some(missing) = missing.as_ref().filter(|_| lane.mark != Mark::NotMeasured) {
                lane.because.push(Because::says(missing.because.as_str()));
            }
            lane
        });
        let lanes: Vec<Lane> = lanes.collect();
        Ok(Verdict {
            pressing: pressing(&lanes),
            headline: found.headline,
            advice: found.advice,
            lanes,
            unit: found.unit.to_owned(),
            also: found.also.to_owned(),
            window: found.window,
            window_word: found.window_word.to_owned(),
            schools: found.schools,
            flags,
            scale: if highest > 0.0 { highest * 1.15 } else { 1.0 },
            outcome: found.outcome.unwrap_or_else(|| Outcome::of(&found.lanes)),
            residual: found.residual,
            shared: found.shared.map(|said| said.lacking(Lack::Overdue, sheet.overdue)),
            doubt: found.doubt,
            ..Verdict::default()
        })
    }
}

#[cfg(test)]
mod tests;
