//! `map`: every injector at every point of its test plan, against the family's windows.
//!
//! mm³ per stroke and its uncertainty by [`crate::calc::bench_map`], the scatter of repeated
//! readings added; states by [`crate::calc::decide`]. What the states say together is read out in
//! words by `patterns`: the part that is likely worn, and the work. A point that the library has no
//! window for is held against the others of the family, by wider lines.
//!
//! # Source
//! ISO 4113 for the fluid; windows from the library, by the name of the point.

mod drawn;
mod patterns;
mod words;

use super::compare::{Reading, compare};
use super::ctx::Ctx;
use super::plan::{Entry, pulses};
use super::record::{RoundStage, SessionRecord};
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::calc::bench_map::{BenchMapInput, MapPoint, bench_map};
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::caution;
use crate::library::LimitCheck;
use crate::mark::Mark;
use crate::quantity::shown;
use crate::rules::RuleId;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::cell;
use crate::tests::property::Property;
use crate::tests::slip::slipped;
use crate::tests::verdict::{Verdict, marked};
use crate::typed::Field;
use crate::units::{self, C, KPA};
use crate::words::injectors;
use drawn::{drawn, lane};
use patterns::{Class, Seen, class, patterns};

crate::said::outcomes! {
    MAP_RETURN_HIGH = map_return_high,
    MAP_RETURN_LOAD = map_return_load,
    MAP_LOW_ALL = map_low_all,
    MAP_LOW_FULL = map_low_full,
    MAP_LOW_FULL_RETURN = map_low_full_return,
    MAP_HIGH = map_high,
    MAP_HIGH_IDLE = map_high_idle,
    MAP_LOW_SHORT = map_low_short,
    MAP_LATE = map_late,
    MAP_ODD = map_odd,
    MAP_WITHIN = map_within,
}

const TUBE: Field = Field::from_zero("ml", 100_000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Bench map",
    short: "Map",
    says: words::POINT_POINT_DELIVERED_LEAKED,
    cautions: &[caution::JET, caution::BENCH, caution::CHARGE],
    kinds: &[BenchKind::Diesel],
    pulses: true,
    rows: Rows::Points,
    set: &[],
    row: &[
        cell("count", "Strokes", Field::above_zero("", 1.0, 1e6)),
        cell("temperature", "Fluid", Field::TEMPERATURE.bare()),
        cell(
            "pressure",
            "Rail",
            Field::above_zero("kPa", 1.0, 500_000.0).usually(1000.0, 300_000.0),
        ),
    ],
    each: &[
        cell("delivered", "Delivered", TUBE),
        cell("returned", "Returned", TUBE),
        cell("delay", "Opening delay", Field::from_zero("us", 100_000.0)).more(),
    ],
    tubes: &["delivered", "returned"],
    property: Property::PASSES,
    table: include_str!("map.toml"),
    judge,
};

/// Rail pressure that counts as another one, and temperature: shares and K (house rule).
const RAIL_APART: f64 = 0.02;
const KELVIN_APART: f64 = 3.0;

/// How far from the others counts, where no window says it: delivered, delivered by a short pulse (where
/// scatter is large), returned (where sound ones differ most). House rule.
const OTHERS_DELIVERED: f64 = 0.12;
const OTHERS_SHORT: f64 = 0.50;
const OTHERS_RETURNED: f64 = 1.00;

/// One quantity of one injector at one point.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Quantity {
    pub cell: &'static str,
    pub value: f64,
    pub u: f64,
    pub state: Option<LimitState>,
    window: Option<[Option<f64>; 2]>,
    /// Its state is by the others, for want of a window.
    pub others: bool,
    because: Option<Because>,
}

impl Quantity {
    /// How far beyond the nearer end of its window it lies (below zero: inside), and its u.
    fn off(&self) -> Option<(f64, f64)> {
        let [lower, upper] = self.window?;
        let over = upper.map(|upper| self.value - upper);
        let under = lower.map(|lower| lower - self.value);
        let beyond = over.into_iter().chain(under).max_by(f64::total_cmp)?;
        (self.u > 0.0).then_some((beyond, self.u))
    }
}

/// One injector at one point.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct AtPoint {
    pub row: u32,
    pub tag: u32,
    pub of: Vec<Quantity>,
}

/// What is measured at a point, what limits it, and in which unit.
const QUANTITIES: [(&str, LimitCheck, &str); 3] = [
    ("delivered", LimitCheck::Delivered, "mm³"),
    ("returned", LimitCheck::Returned, "mm³"),
    ("delay", LimitCheck::OpeningDelay, "µs"),
];

/// Every quantity that was read in this round.
pub(super) fn points(ctx: &Ctx<'_>) -> Result<Vec<AtPoint>, CalcError> {
    let mut found = Vec::new();
    for row in ctx.rows(BenchTest::Map) {
        for tag in ctx.tags() {
            let mut of = Vec::new();
            for (cell, check, unit) in QUANTITIES {
                of.extend(quantity(ctx, row, tag, (cell, check, unit))?);
            }
            if !of.is_empty() {
                found.push(AtPoint { row, tag, of });
            }
        }
    }
    for row in ctx.rows(BenchTest::Map) {
        against_others(ctx, row, &mut found)?;
        slips(row, &mut found);
    }
    Ok(found)
}

/// No injector delivers ten times what the others do: the number is asked about, and says nothing until then.
fn slips(row: u32, found: &mut [AtPoint]) {
    let delivered = |at: &AtPoint| {
        let one = at.of.iter().find(|q| q.cell == "delivered")?;
        Some((at.tag, one.value))
    };
    let read: Vec<(u32, f64)> =
        found.iter().filter(|at| at.row == row).filter_map(delivered).collect();
    for (tag, how) in slipped(&read, 4) {
        let here = found.iter_mut().filter(|at| at.row == row && at.tag == tag);
        for quantity in here.flat_map(|at| &mut at.of).filter(|q| q.cell == "delivered") {
            quantity.state = Some(LimitState::Undecided);
            quantity.because = Some(Because::says(words::decimal_slipped(how)));
        }
    }
}

/// Where no window says what is right, the others of the family do.
fn against_others(ctx: &Ctx<'_>, row: u32, found: &mut [AtPoint]) -> Result<(), CalcError> {
    let short = class(&ctx.session.setup.points, row) == Class::Short;
    for (cell, tolerance) in [
        ("delivered", if short { OTHERS_SHORT } else { OTHERS_DELIVERED }),
        ("returned", OTHERS_RETURNED),
    ] {
        let bare = |at: &AtPoint| {
            let one = at.of.iter().find(|q| q.cell == cell && q.window.is_none())?;
            Some(Reading { tag: at.tag, value: one.value, u: one.u })
        };
        let read: Vec<Reading> = found.iter().filter(|at| at.row == row).filter_map(bare).collect();
        if read.len() < 2 {
            continue;
        }
        for one in compare(ctx, &read, tolerance)? {
            let state = Some(match one.mark {
                Mark::TooMuch => LimitState::Above,
                // Little leak-off is no fault.
                Mark::TooLittle if cell == "returned" => LimitState::Within,
                Mark::TooLittle => LimitState::Below,
                Mark::Inside => LimitState::Within,
                Mark::Undecided | Mark::Look | Mark::Questioned | Mark::NotMeasured => {
                    LimitState::Undecided
                }
            });
            let here = found.iter_mut().filter(|at| at.row == row && at.tag == one.tag);
            for quantity in here.flat_map(|at| &mut at.of).filter(|q| q.cell == cell) {
                quantity.state = state;
                quantity.others = true;
                quantity.because = Some(one.because.clone());
            }
        }
    }
    Ok(())
}

fn quantity(
    ctx: &Ctx<'_>,
    row: u32,
    tag: u32,
    (cell, check, unit): (&'static str, LimitCheck, &'static str),
) -> Result<Option<Quantity>, CalcError> {
    let Some(held) = ctx.cell(BenchTest::Map, Some(row), Some(tag), cell) else { return Ok(None) };
    let (Some(read), Some(point)) = (held.value, ctx.point(row)) else { return Ok(None) };
    let bench_u = ctx.rules.get(RuleId::BenchU);
    let (value, u, scale) = if check == LimitCheck::OpeningDelay {
        // The delay is read off the bench's own clock; its last digit is a microsecond.
        (read, (1.0 / 12.0_f64.sqrt()).hypot(bench_u / 100.0 * read), 1.0)
    } else {
        let strokes = match ctx.session.setup.entry {
            // 1000 strokes turn mm³ a stroke into as many ml.
            Entry::PerStroke => Some(1000.0),
            Entry::Volume | Entry::Percent => pulses(ctx, BenchTest::Map, row),
        };
        let Some(strokes) = strokes else { return Ok(None) };
        let out = bench_map(&BenchMapInput {
            points: vec![MapPoint {
                name: point.name.clone(),
                strokes,
                graduation_ml: ctx.session.setup.graduation,
                delivered_ml: Some(read),
                delivered_limits_mm3: None,
                returned_ml: None,
                returned_limits_mm3: None,
            }],
            bench_u_pct: Some(bench_u),
        })?;
        let one = &out.points[0];
        let scale = 1000.0 / strokes;
        (one.delivered_mm3.unwrap_or_default(), one.delivered_u_mm3.unwrap_or_default(), scale)
    };
    let samples = held.samples.map_or(0.0, |s| scale * s.scatter / f64::from(s.count).sqrt());
    let u = u.hypot(samples);
    let (state, window, because) = (None, None, None);
    let mut quantity = Quantity { cell, value, u, state, window, others: false, because };
    // A window holds at the rail pressure of its plan, and at no other.
    let rail = ctx.row(BenchTest::Map, row, "pressure").zip(point.rail_kpa);
    let apart = rail.is_some_and(|(kpa, plan)| (kpa / plan - 1.0).abs() > RAIL_APART);
    let limit = ctx.limit(tag, check, &point.name).filter(|_| !apart);
    let Some(limit) = limit.filter(|l| l.lower.is_some() || l.upper.is_some()) else {
        return Ok(Some(quantity));
    };
    let out = decide(&DecideInput {
        value,
        u,
        lower: limit.lower,
        upper: limit.upper,
        confidence: Some(ctx.rules.share(RuleId::GuardConfidence)),
        ..DecideInput::default()
    })?;
    quantity.state = Some(out.state);
    quantity.window = Some([limit.lower, limit.upper]);
    quantity.because = Some(Because::shows(
        format!(
            "{}, {cell}: {} ({}, revision {})",
            point.name,
            limit.window(),
            limit.source,
            limit.revision
        ),
        format!("{} ± {} {unit}, guard {}", shown(value, u), shown(u, u), shown(out.guard, u)),
    ));
    Ok(Some(quantity))
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let points = points(ctx)?;
    let seen: Vec<(u32, Vec<Seen>)> =
        ctx.tags().map(|tag| (tag, patterns(ctx, &points, tag))).collect();
    let mut verdict = Verdict {
        rows: ctx.rows(BenchTest::Map).filter_map(|row| drawn(ctx, &points, row)).collect(),
        lanes: lanes(ctx, |tag| lane(ctx, &points, &seen, tag)),
        ..Verdict::default()
    };
    verdict.flags = conditions(ctx, &points);
    let common: Option<&Seen> = seen.first().and_then(|(_, first)| {
        first.iter().find(|one| {
            seen.len() > 2 && seen.iter().all(|(_, held)| held.iter().any(|s| s.code == one.code))
        })
    });
    if common.is_some() {
        // What all share is the bench before it is the injectors.
        for lane in verdict.lanes.iter_mut().filter(|lane| lane.mark != Mark::NotMeasured) {
            lane.mark = Mark::Questioned;
            lane.said.code = Code::ALL_ALIKE_OFF;
            lane.would_change.insert(0, words::MASTER_INJECTOR_BENCH_PRESSURE.to_owned());
        }
    }
    let bad = marked(&verdict.lanes, &[Mark::TooMuch, Mark::TooLittle]);
    let unsure = marked(&verdict.lanes, &[Mark::Undecided]);
    let first_seen = bad.first().and_then(|tag| {
        seen.iter().find(|(held, _)| held == tag).and_then(|(_, seen)| seen.first())
    });
    verdict.headline = match (common, first_seen, bad.as_slice(), unsure.as_slice()) {
        (Some(common), ..) => words::all_show_check_bench(seen.len(), common.word),
        (None, Some(first), [tag], _) => {
            format!("{}: {}. Likely {}.", injectors(&[*tag]), first.word, first.part)
        }
        (None, _, [], []) if points.is_empty() => words::READ_FIRST_POINT.to_owned(),
        (None, _, [], []) if points.iter().flat_map(|at| &at.of).any(|q| q.others) => {
            words::ALIKE_NO_LIMITS.to_owned()
        }
        (None, _, [], []) => words::ALL_POINTS_READ_WITHIN.to_owned(),
        (None, _, [], unsure) => words::inconclusive_too_close_limit(injectors(unsure)),
        (None, _, bad, _) => words::out_limits(injectors(bad)),
    };
    if common.is_some() {
        verdict.advice.push(words::ALL_ALIKE_SELDOM_WEAR.to_owned());
    }
    verdict.advice.extend(repeat(ctx));
    Ok(verdict.closed())
}

/// Conditions of a row that are not those of the plan, and points that a final map still lacks.
fn conditions(ctx: &Ctx<'_>, points: &[AtPoint]) -> Vec<String> {
    let mut flags = Vec::new();
    for row in ctx.rows(BenchTest::Map).filter(|row| points.iter().any(|p| p.row == *row)) {
        let Some(point) = ctx.point(row) else { continue };
        let read = |name| ctx.row(BenchTest::Map, row, name);
        if let (Some(plan), Some(kpa)) = (point.rail_kpa, read("pressure"))
            && (kpa / plan - 1.0).abs() > RAIL_APART
        {
            flags.push(words::run_bar_plan_says(
                &point.name,
                units::said(kpa, KPA),
                units::number(plan, KPA),
            ));
        }
        if let (Some(plan), Some(c)) = (point.temperature_c, read("temperature"))
            && (c - plan).abs() > KELVIN_APART
        {
            flags.push(words::run_c_plan_says(
                &point.name,
                units::said(c, C),
                units::number(plan, C),
            ));
        }
    }
    let last = ctx.session.rounds[ctx.round].stage == RoundStage::Final;
    let lacks: Vec<&str> = ctx
        .rows(BenchTest::Map)
        .filter(|row| ctx.tags().any(|tag| !points.iter().any(|p| p.row == *row && p.tag == tag)))
        .filter_map(|row| ctx.point(row).map(|p| p.name.as_str()))
        .collect();
    if last && !lacks.is_empty() {
        flags.push(words::full_plan_needed_before(lacks.join(", ")));
    }
    flags
}

/// After an adjustment only what it touches is repeated: the points that were outside before, of
/// the injectors that were worked on.
fn repeat(ctx: &Ctx<'_>) -> Option<String> {
    let round = &ctx.session.rounds[ctx.round];
    if round.stage != RoundStage::Adjusted {
        return None;
    }
    let before = ctx.at((0..ctx.round).rev().find(|at| ctx.at(*at).any(BenchTest::Map))?);
    let mut says: Vec<String> = Vec::new();
    for tag in ctx.tags().filter(|tag| ctx.of(BenchTest::Lift, None, *tag, "shim").is_some()) {
        let points = points(&before).ok()?;
        let out: Vec<&str> = points
            .iter()
            .filter(|p| p.tag == tag && p.of.iter().any(|q| q.state != Some(LimitState::Within)))
            .filter_map(|p| ctx.point(p.row).map(|point| point.name.as_str()))
            .collect();
        says.push(match out.as_slice() {
            [] => words::one_point_idle_enough(injectors(&[tag])),
            out => format!("{}: {}", injectors(&[tag]), out.join(", ")),
        });
    }
    (!says.is_empty()).then(|| words::repeat_only_affects_full(says.join("; ")))
}

/// The cells that each row of a map asks for: those with a window in some family, else all.
pub fn asks(session: &SessionRecord) -> Vec<Vec<String>> {
    let has = |check: LimitCheck, name: &str| {
        session.setup.families.iter().flat_map(|f| &f.limits).any(|limit| {
            limit.check == check && limit.condition.trim().eq_ignore_ascii_case(name.trim())
        })
    };
    let points = session.setup.points.iter().map(|point| {
        let with: Vec<&str> = QUANTITIES
            .iter()
            .filter(|(_, check, _)| has(*check, &point.name))
            .map(|(cell, ..)| *cell)
            .collect();
        let cells = if with.is_empty() { vec!["delivered", "returned"] } else { with };
        cells.into_iter().map(str::to_owned).collect()
    });
    points.collect()
}
