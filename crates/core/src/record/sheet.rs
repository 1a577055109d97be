//! A check that is read cell by cell, as it is kept: every cell as typed, never changed.

use super::{RawStretch, Signed};
use crate::calc::CalcError;
use crate::connection::ShownBy;
use crate::engine::{FuelSystem, Layout};
use crate::instrument::Instrument;
use crate::library::LimitEntry;
use crate::record::words;
use crate::rules::{RuleChange, Rules};
use crate::signal::cranking::Cranking;
use crate::signal::listening::Heard;
use crate::signal::ramp::Ramp;
use crate::tests::Verdict;
use crate::tests::engine::{Beside, EngineTest, Sheet};
use crate::trace::Drop;
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
    /// The instrument that showed it; none when a person read and typed it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shown_by: Option<ShownBy>,
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
    pub check: EngineTest,
    /// The library's limit at the time.
    pub limit: Option<LimitEntry>,
    /// The instrument as it was.
    pub instrument: Option<Instrument>,
    /// Its calibration had run out by then.
    pub overdue: bool,
    /// Changes of the house's rules that held at the time.
    pub rules: Vec<RuleChange>,
    /// Start conditions were asked for; checks of older versions did not.
    #[serde(default)]
    pub asks_start: bool,
    /// In the order of entry.
    pub readings: Vec<CellReading>,
    /// Pressure traces that were read from a file, oldest first.
    #[serde(default)]
    pub traces: Vec<Trace>,
    /// Sounds and currents that were recorded at one injector each, oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub recordings: Vec<Recording>,
    /// What an instrument showed meanwhile, in stretches.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub raw: Vec<RawStretch>,
    /// Who and when.
    pub signed: Signed,
}

/// A sound or a current that was recorded at one injector, and what was found in it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Recording {
    /// Identity.
    pub id: Uuid,
    /// Name of the file.
    pub name: String,
    /// Cylinder.
    pub cylinder: u32,
    /// What was found.
    pub found: Found,
    /// For the cells of the check, as they would be typed.
    pub figures: Vec<Figure>,
    /// The instrument that recorded it; none of a file.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shown_by: Option<ShownBy>,
    /// Who and when.
    pub signed: Signed,
}

/// What was found in a recording.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", content = "of", rename_all = "snake_case")]
pub enum Found {
    /// Ticks in a sound.
    Sound(Heard),
    /// The rise of a current.
    Ramp(Ramp),
    /// The current of the starter.
    Cranking(Cranked),
}

/// The current of the starter, with the cylinders that its places are.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Cranked {
    /// Cylinders in the firing order, that of the first peak first.
    pub order: Vec<u32>,
    /// What was read.
    pub read: Cranking,
}

/// A figure for one cell.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Figure {
    /// Name of the cell.
    pub cell: String,
    /// Its cylinder; that of the recording where none is named.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cylinder: Option<u32>,
    /// As it would be typed.
    pub typed: String,
}

impl Found {
    /// The check that it is read for.
    pub fn check(&self) -> EngineTest {
        match self {
            Self::Sound(_) => EngineTest::Listening,
            Self::Ramp(_) => EngineTest::DriveCurrent,
            Self::Cranking(_) => EngineTest::Compression,
        }
    }

    /// For the cells of that check. A clipped sound says nothing of its loudness.
    pub fn figures(&self) -> Vec<Figure> {
        let figure =
            |cell: &str, typed: String| Figure { cell: cell.to_owned(), cylinder: None, typed };
        match self {
            Self::Cranking(cranked) => {
                let each = cranked.order.iter().zip(&cranked.read.relative_pct);
                each.map(|(cylinder, pct)| Figure {
                    cell: "pressure".to_owned(),
                    cylinder: Some(*cylinder),
                    typed: format!("{pct:.0}"),
                })
                .collect()
            }
            Self::Sound(heard) => {
                let share = f64::from(heard.ticks) / f64::from(heard.expected.max(1)) * 100.0;
                let level = heard.level_db.filter(|_| !heard.clipped);
                let level = level.map(|level| figure("level", format!("{level:.1} dB")));
                let late = heard.late_ms.map(|late| figure("late", format!("{late:.2} ms")));
                let ticks = figure("heard", format!("{:.0} %", share.min(100.0)));
                let noise = figure("noise", format!("{:.1} dB", heard.floor_db));
                [Some(ticks), level, late, Some(noise)].into_iter().flatten().collect()
            }
            Self::Ramp(ramp) => {
                let kink = if ramp.kink_ms.is_some() { "1" } else { "0" };
                let opens = ramp.kink_ms.map(|kink| figure("opens", format!("{kink:.2} ms")));
                let peak = figure("peak", format!("{:.2} A", ramp.peak_a));
                [Some(peak), Some(figure("kink", kink.to_owned())), opens]
                    .into_iter()
                    .flatten()
                    .collect()
            }
        }
    }
}

/// What other checks of the same job bring to one.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Around {
    /// How the engine is fuelled.
    pub fuel: Option<FuelSystem>,
    /// It does not start.
    pub dead: bool,
    /// What stands beside it by now.
    pub beside: Vec<Beside>,
    /// How long each cylinder was pulsed into since it was last cleared, s.
    pub pulsed_s: Vec<(u32, f64)>,
    /// Measures of engine and injector that an earlier balance was told, by the name of the cell:
    /// the fuel left in a cylinder goes on being added up when a set is read anew.
    pub measures: Vec<(&'static str, f64)>,
}

/// Cells of a balance that hold for the engine, not for one set.
const MEASURES: [&str; 4] = ["static", "bore", "stroke", "ratio"];

/// A pressure trace as it was read, thinned to what a screen can show; highs and lows are kept.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Trace {
    /// Identity.
    pub id: Uuid,
    /// Name of the file.
    pub name: String,
    /// Time in s and pressure in kPa.
    pub points: Vec<[f64; 2]>,
    /// The drops that were found, in the order of taking.
    pub drops: Vec<Drop>,
    /// Cylinders in the order in which they were pulsed, one for each drop.
    pub order: Vec<u32>,
    /// Who and when.
    pub signed: Signed,
}

/// The two ends of the first one's pulse, taken again at the end of a balance.
const BRACKET: [&str; 2] = ["bracket_start", "bracket_end"];

impl CellReading {
    /// In a balance: whether fuel was pulsed into a cylinder for it.
    pub(crate) fn pulses(&self) -> bool {
        self.cylinder.is_some() || BRACKET.contains(&self.cell.as_str())
    }
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
            banks: layout.strip(),
            overdue: self.overdue && self.instrument.is_some(),
            limit: self.limit.clone(),
            instrument: self.instrument.clone(),
            rules: Rules::after(self.rules.iter().cloned()),
            asks_start: self.asks_start,
            ..Sheet::default()
        };
        for reading in self.standing() {
            let Some(value) = reading.value else { continue };
            sheet.put(&reading.cell, reading.cylinder, value);
        }
        sheet
    }

    /// The verdict on what was read so far, with what other checks of the job say by now.
    ///
    /// # Errors
    /// What the calcs refuse, in the user's words.
    pub fn verdict(&self, layout: &Layout, around: &Around) -> Result<Verdict, CalcError> {
        let mut sheet = self.sheet(layout);
        sheet.beside.clone_from(&around.beside);
        sheet.fuel = around.fuel;
        sheet.dead = around.dead;
        if self.check == EngineTest::PressureDrop {
            sheet.pulsed_s.clone_from(&around.pulsed_s);
            for (name, value) in &around.measures {
                sheet.set.entry((*name).to_owned()).or_insert(*value);
            }
        }
        let mut verdict = self.check.judge(&sheet)?;
        if let Some(meter) = self.instrument.as_ref().filter(|_| self.overdue) {
            verdict.flags.push(words::overdue_calibration(&meter.name));
        }
        Ok(verdict)
    }

    /// Measures of engine and injector that were told here.
    pub(crate) fn measures(&self) -> Vec<(&'static str, f64)> {
        let standing = self.standing();
        let told = |name: &'static str| {
            let cell = standing.iter().find(|r| r.cylinder.is_none() && r.cell == name)?;
            Some((name, cell.value?))
        };
        MEASURES.into_iter().filter_map(told).collect()
    }

    /// How long each injector was held open by this check, s. Start and end both read again count
    /// as pulsed again; one of them alone is a typing slip. The bracket pulses the first one again.
    pub(crate) fn pulsed_s(&self) -> Vec<(u32, f64)> {
        let standing = self.standing();
        let of_set = |name: &str| {
            standing.iter().find(|r| r.cylinder.is_none() && r.cell == name).and_then(|r| r.value)
        };
        let (Some(pulses), Some(pulse_ms)) = (of_set("pulses"), of_set("pulse")) else {
            return Vec::new();
        };
        let open_s = pulses * pulse_ms / 1000.0;
        let read = |cell: &str, cylinder: Option<u32>| {
            let hits = self
                .readings
                .iter()
                .filter(|r| r.cell == cell && r.cylinder == cylinder && r.value.is_some());
            hits.count()
        };
        let mut order: Vec<u32> = Vec::new();
        for reading in self.readings.iter().filter(|r| r.cell == "end") {
            order.extend(reading.cylinder.filter(|c| !order.contains(c)));
        }
        let again = read(BRACKET[0], None).min(read(BRACKET[1], None));
        order
            .iter()
            .enumerate()
            .map(|(i, cylinder)| {
                let runs = read("start", Some(*cylinder)).min(read("end", Some(*cylinder)));
                let runs = if i == 0 { runs + again } else { runs };
                (*cylinder, runs as f64 * open_s)
            })
            .collect()
    }
}
