//! What an instrument shows while a run or a trace is taken: every point is kept, marks are read as the
//! levels pass them, and the bottles are read when the time is up.
//!
//! Nothing is read that the instrument did not show: where a level passes a mark while it is silent, the
//! time of that is not known, and a person reads the bottle. Times in ms since the run began; no clock.
//!
//! # Source
//! House rules: a level is the median of five points, so that one spike is no level; it passed a mark
//! between the two medians on either side of it, in a straight line.

mod words;

use crate::connection::ShownBy;
use crate::instrument_link::Quantity;
use crate::limits::TRACE_POINTS;
use crate::raw::{Point, pack};
use crate::record::{Gap, RawStretch, ReadingKind, RunRecord, Signed, TestRecord};
use crate::trace::{Drop, find_drops};
use std::collections::VecDeque;
use uuid::Uuid;

/// Points that make a level.
const WINDOW: usize = 5;
/// A stretch is kept after so many points or so long: what a power cut may cost.
const STRETCH_POINTS: usize = 250;
const STRETCH_MS: u32 = 5_000;
/// A level that is older than this is none, ms.
const FRESH_MS: u32 = 1_000;
/// Longer without a point is a gap, ms.
const GAP_MS: u32 = 1_000;
/// Drops are looked for again after so many points.
const LOOK_POINTS: usize = 25;

/// What was caught, in the order in which it has to be kept.
#[derive(Debug, Clone, PartialEq)]
pub enum Caught {
    /// A stretch of the trace.
    Stretch(Stretch),
    /// A bottle reached its mark or its rim, s.
    Reached {
        /// Cylinder.
        cylinder: u32,
        /// [`ReadingKind::Mark`] or [`ReadingKind::Overflow`].
        kind: ReadingKind,
        /// When.
        seconds: f64,
        /// The instrument.
        by: ShownBy,
    },
    /// The run is over: how long it was, and what stands in each bottle that was not read yet, ml.
    Over {
        /// Length, s.
        seconds: f64,
        /// By cylinder.
        levels: Vec<(u32, f64)>,
        /// The instrument; none when it showed nothing at all.
        by: Option<ShownBy>,
    },
}

/// Points that were shown one after the other.
#[derive(Debug, Clone, PartialEq)]
pub struct Stretch {
    by: ShownBy,
    quantity: Quantity,
    points: Vec<Point>,
    gaps: Vec<Gap>,
}

impl Stretch {
    /// As it is kept.
    pub fn kept(self, id: Uuid, signed: Signed) -> RawStretch {
        let at = |point: Option<&Point>| point.map_or(0, |point| point.ms);
        RawStretch {
            id,
            shown_by: self.by,
            quantity: self.quantity,
            from_ms: at(self.points.first()),
            to_ms: at(self.points.last()),
            points: self.points.len() as u32,
            gaps: self.gaps,
            packed: pack(&self.points),
            signed,
        }
    }
}

/// What is being caught.
#[derive(Debug)]
pub struct Catching {
    quantity: Quantity,
    by: Option<ShownBy>,
    points: Vec<Point>,
    gaps: Vec<Gap>,
    /// Time of the last point.
    last_ms: u32,
    /// Why it is silent since then.
    silent: Option<String>,
    what: What,
}

#[derive(Debug)]
enum What {
    Run(Bottles),
    /// Time in s and pressure in kPa of everything so far, and how many of them drops were looked for in.
    Trace(Vec<[f64; 2]>, usize),
}

/// Bottles of a run.
#[derive(Debug)]
struct Bottles {
    lanes: Vec<Bottle>,
    mark_ml: Option<f64>,
    full_ml: f64,
    planned_ms: u32,
    over: bool,
}

#[derive(Debug)]
struct Bottle {
    cylinder: u32,
    recent: VecDeque<(u32, f64)>,
    /// The level before this one, with its time.
    before: Option<(u32, f64)>,
    read: bool,
}

impl Catching {
    /// The bottles of these cylinders. Taken up again, what was not seen since the last stretch is a gap.
    pub fn run(test: &TestRecord, run: &RunRecord, covers: &[u32]) -> Self {
        let read = |cylinder: u32| run.standing().any(|one| one.cylinder == Some(cylinder));
        let lane = |cylinder: &u32| Bottle::new(*cylinder, read(*cylinder));
        let bottles = Bottles {
            lanes: covers.iter().map(lane).collect(),
            mark_ml: test.setup.mark_ml.map(|mark| mark.0),
            full_ml: test.setup.capacity_ml.0 - test.setup.graduation_ml.0 / 4.0,
            planned_ms: (test.setup.planned_s.0 * 1000.0) as u32,
            over: false,
        };
        let last_ms = run.raw.last().map_or(0, |stretch| stretch.to_ms);
        Self { last_ms, ..Self::of(Quantity::Volume, What::Run(bottles)) }
    }

    /// A pressure trace.
    pub fn trace() -> Self {
        Self::of(Quantity::Pressure, What::Trace(Vec::new(), 0))
    }

    fn of(quantity: Quantity, what: What) -> Self {
        let (points, gaps) = (Vec::new(), Vec::new());
        Self { quantity, by: None, points, gaps, last_ms: 0, silent: None, what }
    }

    /// The instrument shows nothing that can be read, and why.
    pub fn is_silent(&mut self, why: &str) {
        self.silent.get_or_insert_with(|| why.to_owned());
    }

    /// It takes no more: the time of a run is up, or a trace is full.
    pub fn is_over(&self) -> bool {
        match &self.what {
            What::Run(bottles) => bottles.over,
            What::Trace(all, _) => all.len() >= TRACE_POINTS,
        }
    }

    /// It is a trace, which only a person ends.
    pub fn is_trace(&self) -> bool {
        matches!(self.what, What::Trace(..))
    }

    /// Takes a point in.
    pub fn takes(&mut self, ms: u32, by: &ShownBy, values: &[f64]) -> Vec<Caught> {
        // Times rise, or it is no other point: what was asked twice within a millisecond was shown once.
        let risen = ms > self.last_ms || (ms == 0 && self.points.is_empty());
        if !risen || self.is_over() {
            return Vec::new();
        }
        let mut caught = Vec::new();
        let another = self.by.as_ref().is_some_and(|held| held != by);
        if another || self.points.last().is_some_and(|last| last.values.len() != values.len()) {
            caught.extend(self.leave());
        }
        self.by.get_or_insert_with(|| by.clone());
        let silent = self.silent.take();
        let gap = silent.is_some() || ms.saturating_sub(self.last_ms) > GAP_MS;
        if gap {
            let why = silent.unwrap_or_else(|| words::NOTHING_WAS_READ.to_owned());
            self.gaps.push(Gap { from_ms: self.last_ms, to_ms: ms, why });
        }
        self.last_ms = ms;
        self.points.push(Point { ms, values: values.to_vec() });
        match &mut self.what {
            What::Run(bottles) => {
                let reached = bottles.take(ms, values, gap).into_iter();
                caught.extend(reached.map(|(cylinder, kind, seconds)| Caught::Reached {
                    cylinder,
                    kind,
                    seconds,
                    by: by.clone(),
                }));
            }
            What::Trace(all, _) => {
                all.push([f64::from(ms) / 1000.0, values.first().copied().unwrap_or_default()]);
            }
        }
        let first = self.points.first().map_or(ms, |first| first.ms);
        // A gap is on record as soon as it is over.
        if gap || self.points.len() >= STRETCH_POINTS || ms.saturating_sub(first) >= STRETCH_MS {
            caught.extend(self.leave());
        }
        if matches!(&self.what, What::Run(bottles) if bottles.is_over(ms)) {
            caught.extend(self.end(ms));
        }
        caught
    }

    /// Drops of the trace so far, when they are due to be looked for again.
    pub fn drops(&mut self) -> Option<Vec<Drop>> {
        let What::Trace(all, looked) = &mut self.what else { return None };
        if all.len() < *looked + LOOK_POINTS {
            return None;
        }
        *looked = all.len();
        Some(find_drops(all).unwrap_or_default())
    }

    /// Ends the run at this time: what was not handed over yet, its length, and a level of each bottle that
    /// has one.
    pub fn end(&mut self, ms: u32) -> Vec<Caught> {
        let mut caught: Vec<Caught> = Vec::new();
        let by = self.by.clone();
        caught.extend(self.leave());
        let fresh = ms.saturating_sub(self.last_ms) <= FRESH_MS && self.silent.is_none();
        let What::Run(bottles) = &mut self.what else { return caught };
        bottles.over = true;
        let levels = if fresh { bottles.levels() } else { Vec::new() };
        caught.push(Caught::Over { seconds: f64::from(ms.max(1)) / 1000.0, levels, by });
        caught
    }

    /// What was not handed over yet.
    pub fn leave(&mut self) -> Option<Caught> {
        let (quantity, points) = (self.quantity, std::mem::take(&mut self.points));
        let gaps = if points.is_empty() { Vec::new() } else { std::mem::take(&mut self.gaps) };
        let by = if points.is_empty() { None } else { self.by.take() };
        Some(Caught::Stretch(Stretch { by: by?, quantity, points, gaps }))
    }

    /// Everything of a trace.
    pub fn into_trace(self) -> Vec<[f64; 2]> {
        match self.what {
            What::Trace(all, _) => all,
            What::Run(_) => Vec::new(),
        }
    }
}

impl Bottles {
    /// Takes levels in; which bottles reached their mark or their rim, and when, s.
    fn take(&mut self, ms: u32, values: &[f64], gap: bool) -> Vec<(u32, ReadingKind, f64)> {
        let mut reached = Vec::new();
        let (mark, kind) = match self.mark_ml {
            Some(mark) => (mark, ReadingKind::Mark),
            None => (self.full_ml, ReadingKind::Overflow),
        };
        for lane in self.lanes.iter_mut().filter(|lane| !lane.read) {
            let channel = lane.cylinder.saturating_sub(1) as usize;
            let Some(value) = values.get(channel) else { continue };
            if gap {
                lane.recent.clear();
                lane.before = None;
            }
            if lane.recent.len() >= WINDOW {
                lane.recent.pop_front();
            }
            lane.recent.push_back((ms, *value));
            let Some((at, level)) = lane.level() else { continue };
            let below = lane.before.filter(|(_, was)| *was < mark && level >= mark);
            if let Some((from, was)) = below {
                let share = (mark - was) / (level - was);
                lane.read = true;
                let seconds = (f64::from(from) + share * f64::from(at - from)) / 1000.0;
                reached.push((lane.cylinder, kind, seconds));
            }
            lane.before = Some((at, level));
        }
        reached
    }

    fn is_over(&self, ms: u32) -> bool {
        ms >= self.planned_ms || self.lanes.iter().all(|lane| lane.read)
    }

    /// Levels of those that were not read yet; none of one that is full and nobody saw when.
    fn levels(&self) -> Vec<(u32, f64)> {
        let unread = self.lanes.iter().filter(|lane| !lane.read);
        let level = unread.filter_map(|lane| Some((lane.cylinder, lane.level()?.1)));
        level.filter(|(_, level)| *level < self.full_ml).collect()
    }
}

impl Bottle {
    fn new(cylinder: u32, read: bool) -> Self {
        Self { cylinder, recent: VecDeque::new(), before: None, read }
    }

    /// Median of the last points, at the time of the one in their middle.
    fn level(&self) -> Option<(u32, f64)> {
        if self.recent.len() < WINDOW {
            return None;
        }
        let mut values: Vec<f64> = self.recent.iter().map(|(_, value)| *value).collect();
        values.sort_by(f64::total_cmp);
        Some((self.recent[WINDOW / 2].0, values[WINDOW / 2]))
    }
}

#[cfg(test)]
mod tests;
