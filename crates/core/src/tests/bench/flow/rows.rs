//! The readings of each regime as flows, with those that cannot be right questioned.

use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::tests::bench::BenchTest;
use crate::tests::bench::compare::Reading;
use crate::tests::bench::ctx::Ctx;
use crate::tests::bench::flow::words;
use crate::tests::bench::plan::{Entry, pulses};
use crate::tests::slip::slipped;
use crate::units::ML_MIN;
use crate::words::{by_number, injectors};

/// One injector in one regime.
#[derive(Debug, Clone, PartialEq)]
pub(in crate::tests::bench) struct FlowValue {
    pub reading: Reading,
    /// Why it cannot be right.
    pub questioned: Option<String>,
}

/// What the numbers of a regime are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::tests::bench) enum FlowBasis {
    /// Percent of the fullest tube.
    Percent,
    /// Held open over a known time: ml/min.
    Flow,
    /// Pulsed a known number of times: mm³ per pulse.
    PerPulse,
    /// A volume whose time or count nobody noted: ml.
    Bare,
}

impl FlowBasis {
    /// The unit.
    pub fn unit(self) -> &'static str {
        match self {
            Self::Percent => "% of the fullest",
            Self::Flow => ML_MIN,
            Self::PerPulse => "mm³/pulse",
            Self::Bare => "ml",
        }
    }
}

/// One regime.
#[derive(Debug, Clone, PartialEq)]
pub(in crate::tests::bench) struct FlowRow {
    pub row: u32,
    pub name: String,
    pub open: bool,
    pub pulse_ms: Option<f64>,
    pub basis: FlowBasis,
    pub says: String,
    pub values: Vec<FlowValue>,
    pub flags: Vec<String>,
}

/// Ratio to the others at which a tube was likely not emptied before.
const TWICE: std::ops::Range<f64> = 1.8..2.2;

/// Every regime that was read, brought to the reference by this factor.
pub(in crate::tests::bench) fn flow_rows(ctx: &Ctx<'_>, factor: f64) -> Vec<FlowRow> {
    ctx.rows(BenchTest::Flow).filter_map(|row| flow_row(ctx, row, factor)).collect()
}

fn flow_row(ctx: &Ctx<'_>, row: u32, factor: f64) -> Option<FlowRow> {
    let setup = &ctx.session.setup;
    let point = ctx.point(row)?;
    let read = ctx.read(BenchTest::Flow, Some(row), "volume");
    if read.is_empty() {
        return None;
    }
    let of = |name: &str, kept: Option<f64>| ctx.row(BenchTest::Flow, row, name).or(kept);
    let pulse_ms = of("pulse", point.pulse_ms);
    let open = pulse_ms.is_none();
    let (seconds, count) = (of("seconds", point.seconds), pulses(ctx, BenchTest::Flow, row));
    let percent = setup.entry == Entry::Percent;
    let mut flags = Vec::new();
    let own: Vec<u32> = ctx
        .tags()
        .filter(|tag| {
            let own = ctx.of(BenchTest::Flow, Some(row), *tag, "count");
            !open && own.is_some_and(|own| Some(own) != count)
        })
        .collect();
    if !own.is_empty() {
        let verb = by_number(own.len(), "had another count", "had other counts");
        flags.push(words::compared_per_pulse(injectors(&own), &point.name, verb));
    }
    // Without a count or a time the tubes can still be compared with each other.
    let (basis, says) = match (percent, open, seconds, count) {
        (true, ..) => (FlowBasis::Percent, String::new()),
        (false, true, Some(s), _) => (FlowBasis::Flow, words::held_open_s(trimmed(s))),
        (false, false, _, Some(n)) => (FlowBasis::PerPulse, format!("{} pulses", trimmed(n))),
        (false, true, None, _) => (FlowBasis::Bare, "time not noted".to_owned()),
        (false, false, _, None) => (FlowBasis::Bare, "count not noted".to_owned()),
    };
    let marks = match setup.entry {
        Entry::Percent => 100.0 * setup.graduation / setup.capacity_ml,
        Entry::Volume | Entry::PerStroke => setup.graduation,
    } / 12.0_f64.sqrt();
    let question = Question::of(ctx, row, &read);
    let values = read.iter().map(|(tag, volume)| {
        let own = ctx.of(BenchTest::Flow, Some(row), *tag, "count");
        let scale = match (percent, open, seconds, own.or(count)) {
            (true, ..) => 1.0,
            (false, true, Some(seconds), _) => 60.0 / seconds * factor,
            (false, false, _, Some(n)) => 1000.0 / n * factor,
            (false, true, None, _) | (false, false, _, None) => factor,
        };
        FlowValue {
            reading: Reading { tag: *tag, value: volume * scale, u: marks * scale },
            questioned: question.about(*tag, *volume, !own.is_some_and(|n| Some(n) != count)),
        }
    });
    Some(FlowRow {
        row,
        name: point.name.clone(),
        open,
        pulse_ms,
        basis,
        says,
        values: values.collect(),
        flags,
    })
}

/// What a row is asked before its readings are believed.
struct Question<'a> {
    ctx: &'a Ctx<'a>,
    row: u32,
    /// Readings that nothing on their own speaks against: only these are held against each other.
    believed: Vec<(u32, f64)>,
    slips: Vec<(u32, &'static str)>,
}

impl<'a> Question<'a> {
    fn of(ctx: &'a Ctx<'a>, row: u32, read: &[(u32, f64)]) -> Self {
        let mut question = Self { ctx, row, believed: Vec::new(), slips: Vec::new() };
        let fine = |(tag, volume): &&(u32, f64)| question.alone(*tag, *volume).is_none();
        let believed: Vec<(u32, f64)> = read.iter().filter(fine).copied().collect();
        question.slips = slipped(&believed, 4);
        question.believed = believed;
        question
    }

    fn about(&self, tag: u32, volume: f64, same_count: bool) -> Option<String> {
        let slip = self.slips.iter().find(|(held, _)| *held == tag);
        self.alone(tag, volume)
            .or_else(|| slip.map(|(_, how)| words::others_decimal_point_slipped(how)))
            .or_else(|| self.twice(tag, volume).filter(|_| same_count))
            .or_else(|| self.as_before(tag, volume))
    }

    /// What cannot be right whatever the others hold.
    fn alone(&self, tag: u32, volume: f64) -> Option<String> {
        let setup = &self.ctx.session.setup;
        if setup.entry == Entry::Volume && volume > setup.capacity_ml {
            return Some(words::more_ml_tube_holds(trimmed(setup.capacity_ml)));
        }
        self.foam(tag)
    }

    /// Read before the foam had settled.
    fn foam(&self, tag: u32) -> Option<String> {
        let cell = |tag, name| self.ctx.cell(BenchTest::Flow, Some(self.row), tag, name);
        let (ended, read) = (cell(None, "ended")?.signed.at, cell(Some(tag), "volume")?.signed.at);
        let waited = read.duration_since(ended).as_secs_f64();
        let settle = self.ctx.rules.get(RuleId::FoamSettle);
        (waited >= 0.0 && waited < settle)
            .then(|| words::read_s_after_run(settle - waited, trimmed(settle)))
    }

    /// About twice what the others of its family hold: not emptied before.
    fn twice(&self, tag: u32, volume: f64) -> Option<String> {
        let groups = self.ctx.groups();
        let family = groups.iter().find(|(_, tags)| tags.contains(&tag))?;
        let others: Vec<f64> = self
            .believed
            .iter()
            .filter(|(held, _)| *held != tag && family.1.contains(held))
            .map(|(_, v)| *v)
            .collect();
        let (low, high) =
            others.iter().fold((f64::INFINITY, 0.0_f64), |(l, h), v| (l.min(*v), h.max(*v)));
        let agree = others.len() >= 2 && low > 0.0 && high / low < 1.25;
        (agree && TWICE.contains(&(volume / (low * high).sqrt())))
            .then(|| words::ABOUT_TWICE_OTHERS_TUBE.to_owned())
    }

    /// The number of the row before, while the others moved: the same tube read twice.
    fn as_before(&self, tag: u32, volume: f64) -> Option<String> {
        let before = self.ctx.read(BenchTest::Flow, Some(self.row.checked_sub(1)?), "volume");
        let of = |tag: u32| before.iter().find(|(held, _)| *held == tag).map(|(_, v)| *v);
        let moved: Vec<bool> = self
            .believed
            .iter()
            .filter(|(held, _)| *held != tag)
            .filter_map(|(held, now)| Some((now / of(*held)? - 1.0).abs() > 0.1))
            .collect();
        (of(tag) == Some(volume) && volume > 0.0 && moved.len() >= 2 && moved.iter().all(|m| *m))
            .then(|| words::SAME_NUMBER_ROW_BEFORE.to_owned())
    }
}
