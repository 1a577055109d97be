//! Readings of a bench from the rows of a file: what each column means, and what each row says.
//!
//! Several rows of one injector at one point are samples of one reading: its mean is kept with
//! their count and scatter. A row that cannot be read is named with its line; with one such row
//! nothing is taken in.

mod words;

use super::plan::{BenchKind, Entry};
use super::record::{Round, Samples, SessionRecord};
use super::{BenchTest, Spot};
use crate::typed::heading_unit;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::ToSchema;

/// Problems that are listed; more are counted.
const MOST_LISTED: usize = 200;

/// What a column holds.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Column {
    /// Nothing that is wanted.
    #[default]
    Skip,
    /// Tag of the injector.
    Tag,
    /// Position on the rail in this round.
    Position,
    /// Label of the injector.
    Label,
    /// Point or regime, by name or number.
    Point,
    /// Volume of a tube of a flow bench.
    Volume,
    /// Delivered quantity.
    Delivered,
    /// Returned quantity.
    Returned,
    /// Opening delay.
    Delay,
}

impl Column {
    /// The cell that it fills.
    fn cell(self) -> Option<&'static str> {
        match self {
            Self::Volume => Some("volume"),
            Self::Delivered => Some("delivered"),
            Self::Returned => Some("returned"),
            Self::Delay => Some("delay"),
            Self::Skip | Self::Tag | Self::Position | Self::Label | Self::Point => None,
        }
    }

    /// What a heading likely means, when nobody said it before.
    pub fn guessed(heading: &str) -> Self {
        let heading = heading.to_lowercase();
        let has = |words: &[&str]| words.iter().any(|word| heading.contains(word));
        match () {
            () if has(&["return", "leak"]) => Self::Returned,
            () if has(&["deliver", "inject qty", "quantity"]) => Self::Delivered,
            () if has(&["delay"]) => Self::Delay,
            () if has(&["volume", "tube"]) => Self::Volume,
            () if has(&["position", "slot", "channel"]) => Self::Position,
            () if has(&["tag"]) => Self::Tag,
            () if has(&["label", "serial"]) => Self::Label,
            () if has(&["point", "step", "regime"]) => Self::Point,
            () => Self::Skip,
        }
    }
}

/// One line that cannot be taken in.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct LineProblem {
    /// Line of the file, from 1.
    pub line: u64,
    /// What is wrong with it.
    pub message: String,
}

/// One reading made of the rows that belong together.
#[derive(Debug, Clone, PartialEq)]
pub struct Taken {
    /// Row of the session.
    pub row: u32,
    /// Injector.
    pub tag: u32,
    /// Cell.
    pub cell: &'static str,
    /// Mean, in the unit of the cell.
    pub value: f64,
    /// How many, and their scatter.
    pub samples: Samples,
}

#[derive(Default)]
struct Running {
    n: u32,
    mean: f64,
    squares: f64,
}

/// Takes rows one by one.
pub struct Importer<'a> {
    session: &'a SessionRecord,
    positions: HashMap<String, u32>,
    tags: HashMap<String, u32>,
    labels: HashMap<String, u32>,
    points: HashMap<String, u32>,
    columns: Vec<(Column, f64)>,
    running: HashMap<(u32, u32, &'static str), Running>,
    problems: Vec<LineProblem>,
    refused: u64,
}

impl<'a> Importer<'a> {
    /// The test that a file of this bench fills.
    pub fn test(kind: BenchKind) -> BenchTest {
        match kind {
            BenchKind::Petrol => BenchTest::Flow,
            BenchKind::Diesel => BenchTest::Map,
            BenchKind::Doser => BenchTest::Doser,
        }
    }

    /// For these columns, each with its heading.
    ///
    /// # Errors
    /// A column that is needed is missing or is there twice; a unit that does not fit.
    pub fn new(
        session: &'a SessionRecord,
        round: &Round,
        columns: &[(String, Column)],
    ) -> Result<Self, String> {
        let setup = &session.setup;
        let test = Self::test(setup.kind);
        let count = |of: &[Column]| columns.iter().filter(|(_, c)| of.contains(c)).count();
        if count(&[Column::Tag, Column::Position, Column::Label]) != 1 {
            return Err(words::ONE_COLUMN_MUST_NAME.into());
        }
        if count(&[Column::Point]) != 1 {
            return Err(words::ONE_COLUMN_MUST_NAME_POINT.to_owned());
        }
        let mut scaled = Vec::new();
        for (heading, column) in columns {
            let Some(cell) = column.cell() else {
                scaled.push((*column, 1.0));
                continue;
            };
            if count(&[*column]) > 1 {
                return Err(words::two_columns_mapped(cell));
            }
            // A stroke is counted by the session; what stands before it is the unit.
            let unit = heading_unit(heading.split('/').next().unwrap_or_default());
            let spot = Spot { cell, row: Some(1), tag: Some(1) };
            let one =
                test.read(spot, setup, &format!("1{unit}")).ok_or_else(|| words::bench_no(cell))?;
            scaled.push((*column, one.map_err(|error| format!("\"{heading}\": {error}"))?.value));
        }
        if scaled.iter().all(|(column, _)| column.cell().is_none()) {
            return Err(words::NO_COLUMN_HOLDS_QUANTITY.to_owned());
        }
        let by = |of: &dyn Fn(u32) -> Option<String>| -> HashMap<String, u32> {
            session.injectors.iter().filter_map(|i| Some((of(i.tag)?, i.tag))).collect()
        };
        let position =
            |tag| round.places.iter().find(|p| p.tag == tag).map(|p| p.position.to_string());
        let label = |tag| {
            let label = &session.injectors.iter().find(|i| i.tag == tag)?.label;
            Some(label.trim().to_lowercase()).filter(|label| !label.is_empty())
        };
        let mut points: HashMap<String, u32> =
            (1..).zip(&setup.points).map(|(row, p)| (p.name.trim().to_lowercase(), row)).collect();
        for row in 1..=setup.points.len() as u32 {
            points.entry(row.to_string()).or_insert(row);
        }
        Ok(Self {
            session,
            positions: by(&position),
            tags: by(&|tag| Some(tag.to_string())),
            labels: by(&label),
            points,
            columns: scaled,
            running: HashMap::new(),
            problems: Vec::new(),
            refused: 0,
        })
    }

    /// Takes one row.
    pub fn push<'r>(&mut self, line: u64, field: impl Fn(usize) -> Option<&'r str>) {
        if let Err(message) = self.take(field) {
            self.refused += 1;
            if self.problems.len() < MOST_LISTED {
                self.problems.push(LineProblem { line, message });
            }
        }
    }

    fn take<'r>(&mut self, field: impl Fn(usize) -> Option<&'r str>) -> Result<(), String> {
        let (mut tag, mut row) = (None, None);
        let mut values: [Option<(&'static str, f64)>; 4] = [None; 4];
        let mut read = 0;
        for (i, (column, scale)) in self.columns.iter().enumerate() {
            if *column == Column::Skip {
                continue;
            }
            let text = field(i).ok_or(words::FEWER_COLUMNS_HEADING)?.trim();
            let known = |of: &HashMap<String, u32>, what: &str| {
                let found = of.get(text).or_else(|| of.get(&text.to_lowercase())).copied();
                found.ok_or_else(|| words::no_here(what, text))
            };
            match column {
                Column::Skip => {}
                Column::Tag => tag = Some(known(&self.tags, "tag")?),
                Column::Position => tag = Some(known(&self.positions, "position")?),
                Column::Label => tag = Some(known(&self.labels, "label")?),
                Column::Point => row = Some(known(&self.points, "point")?),
                Column::Volume | Column::Delivered | Column::Returned | Column::Delay => {
                    let (Some(cell), false) = (column.cell(), text.is_empty()) else { continue };
                    let value = number(text).ok_or_else(|| words::not_number(cell, text))? * scale;
                    if value < 0.0 {
                        return Err(words::below_zero(cell, text));
                    }
                    let tube =
                        self.session.setup.entry == Entry::Volume && *column != Column::Delay;
                    if tube && value > self.session.setup.capacity_ml {
                        return Err(words::more_tube_holds(cell, text));
                    }
                    values[read] = Some((cell, value));
                    read += 1;
                }
            }
        }
        let (Some(tag), Some(row)) = (tag, row) else {
            return Err(words::NAMES_NO_INJECTOR.into());
        };
        for (cell, value) in values.into_iter().flatten() {
            let running = self.running.entry((row, tag, cell)).or_default();
            running.n += 1;
            let off = value - running.mean;
            running.mean += off / f64::from(running.n);
            running.squares += off * (value - running.mean);
        }
        Ok(())
    }

    /// The readings, in the order of rows and tags; or the lines that cannot be taken in, and how
    /// many there are in all.
    ///
    /// # Errors
    /// One line or more cannot be read.
    pub fn done(self) -> Result<Vec<Taken>, (u64, Vec<LineProblem>)> {
        if self.refused > 0 {
            return Err((self.refused, self.problems));
        }
        let mut taken: Vec<Taken> = self
            .running
            .into_iter()
            .map(|((row, tag, cell), of)| Taken {
                row,
                tag,
                cell,
                value: of.mean,
                samples: Samples {
                    count: of.n,
                    scatter: if of.n > 1 { (of.squares / f64::from(of.n - 1)).sqrt() } else { 0.0 },
                },
            })
            .collect();
        taken.sort_by_key(|one| (one.row, one.tag, one.cell));
        Ok(taken)
    }
}

/// A number as a machine writes it; a comma that does not part the cells is a decimal comma.
fn number(text: &str) -> Option<f64> {
    let value = text.parse::<f64>().ok().or_else(|| text.replace(',', ".").parse().ok())?;
    value.is_finite().then_some(value)
}
