//! `flow`: what each injector delivers in each regime, against the others and against a limit.
//!
//! Held open: ml/min over a time. Pulsed: mm³ per pulse over a count. Both are brought to the
//! reference pressure and fluid of the house (`conditions`) when both were noted. Each
//! regime gets its spread and a grade; the grade is said to be open where the marks of the tubes
//! could move it. Readings that cannot be right (read in foam, a tube filled twice or read twice,
//! another count) are questioned before they are compared.
//!
//! # Source
//! SAE J1832 (static and dynamic flow); grades and tolerances are house rules.

mod drawn;
mod position;
mod rows;
mod words;

use super::compare::{Compared, Reading, compare, percent, tenths};
use super::conditions::{DENSITY, FLUID, PRESSURE, basis, flow_limit};
use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::caution;
use crate::mark::Mark;
use crate::quantity::figures;
use crate::rules::RuleId;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::{cell, choice};
use crate::tests::property::Property;
use crate::tests::verdict::{Verdict, coded, marked};
use crate::typed::Field;
use crate::units::{self, FLOW, ML_MIN};
use crate::words::injectors;
use drawn::{drawn, lane};
pub(super) use rows::{FlowBasis, FlowRow, flow_rows};

crate::said::outcomes! {
    FLOW_LESS = flow_less (Departs),
    FLOW_LESS_SHORT = flow_less_short,
    FLOW_MORE = flow_more (Departs),
    FLOW_ALIKE = flow_alike,
}

/// What a person says of the set before the arithmetic does, percent.
const OPINIONS: &[(&str, f64)] =
    &[("not stated", 0.0), ("within 1 %", 1.0), ("within 2 %", 2.0), ("within 5 %", 5.0)];
const OPINION: &[&str] = &[OPINIONS[0].0, OPINIONS[1].0, OPINIONS[2].0, OPINIONS[3].0];

/// A pulse below this shows opening as much as flow, ms (house rule).
const SHORT_MS: f64 = 3.5;

pub(super) const SPEC: Spec = Spec {
    title: "Flow",
    short: "Flow",
    says: words::REGIME_REGIME_ALL_TUBES,
    cautions: &[caution::BENCH, caution::SPRAY],
    kinds: &[BenchKind::Petrol],
    pulses: true,
    rows: Rows::Points,
    set: &[PRESSURE, FLUID, choice("opinion", "Set by eye", OPINION), DENSITY],
    row: &[
        cell("rpm", "Speed", Field::above_zero("rpm", 1.0, 30_000.0)),
        cell("pulse", "Pulse width", Field::above_zero("ms", 0.05, 1000.0)),
        cell("count", "Count", Field::above_zero("", 1.0, 1e6)),
        cell("seconds", "Time", Field::above_zero("s", 0.5, 7200.0)),
        cell("ended", "Run ended", Field::from_zero("", 1.0)),
    ],
    each: &[
        cell("volume", "Tube", Field::from_zero("ml", 100_000.0)),
        cell("count", "Its own count", Field::above_zero("", 1.0, 1e6)).more(),
    ],
    tubes: &["volume"],
    property: Property::PASSES,
    table: include_str!("flow.toml"),
    judge,
};

/// A row with every injector compared and held against its limit.
struct Judged {
    row: FlowRow,
    compared: Vec<Compared>,
    limits: Vec<(u32, LimitState, Because)>,
}

impl Judged {
    /// Three or more, all off their limit on the same side, and alike among themselves.
    fn alike_off(&self) -> bool {
        let all = |state| self.limits.iter().all(|(_, held, _)| *held == state);
        self.limits.len() >= 3
            && (all(LimitState::Above) || all(LimitState::Below))
            && self.compared.iter().all(|one| one.mark == Mark::Inside)
    }
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let basis = basis(ctx, BenchTest::Flow)?;
    let tolerance = ctx.rules.share(RuleId::GradeServiceable);
    let mut judged = Vec::new();
    for row in flow_rows(ctx, basis.factor) {
        let good: Vec<Reading> =
            row.values.iter().filter(|v| v.questioned.is_none()).map(|v| v.reading).collect();
        let compared = compare(ctx, &good, tolerance)?;
        let limits = if basis.missing.is_none() { against_limits(ctx, &row)? } else { Vec::new() };
        judged.push(Judged { row, compared, limits });
    }
    let mut verdict = Verdict {
        rows: judged.iter().map(|one| drawn(ctx, one, tolerance)).collect(),
        lanes: lanes(ctx, |tag| lane(ctx, &judged, tag, &basis.says)),
        ..Verdict::default()
    };
    verdict.headline = headline(ctx, &verdict, &judged);
    verdict.advice.extend(position::position_effect(ctx)?);
    verdict.advice.extend(opinion(ctx, &judged));
    if let Some(missing) = basis.missing.filter(|_| !judged.is_empty()) {
        verdict.flags.push(words::compared_measured_nothing_corrected(&missing));
    }
    verdict.flags.extend(judged.iter().flat_map(|one| one.row.flags.clone()));
    verdict.flags.extend(judged.iter().flat_map(|one| {
        one.row.values.iter().filter_map(|value| {
            let says = value.questioned.as_ref()?;
            Some(format!("{}, {}: {says}.", injectors(&[value.reading.tag]), one.row.name))
        })
    }));
    Ok(verdict.closed())
}

fn against_limits(
    ctx: &Ctx<'_>,
    row: &FlowRow,
) -> Result<Vec<(u32, LimitState, Because)>, CalcError> {
    let mut found = Vec::new();
    // Percent of the fullest, and a volume without its time, are no flow that a limit is about.
    let is_flow = row.basis == FlowBasis::Flow;
    for value in row.values.iter().filter(|v| is_flow && v.questioned.is_none()) {
        let Reading { tag, value, u } = value.reading;
        let Some(held) = flow_limit(ctx, tag) else { continue };
        let (limit, value, u) = (held.limit, value * held.factor, u * held.factor);
        let bench = ctx.session.setup.bench.as_ref();
        let u = u.hypot(bench.map_or(0.0, |b| b.accuracy_pct / 100.0 * value / 3.0_f64.sqrt()));
        if limit.lower.is_none() && limit.upper.is_none() {
            continue;
        }
        let out = decide(&DecideInput {
            value,
            u,
            lower: limit.lower,
            upper: limit.upper,
            confidence: Some(ctx.rules.share(RuleId::GuardConfidence)),
            ..DecideInput::default()
        })?;
        let brought = if (held.factor - 1.0).abs() > 1e-9 {
            words::corrected_limits_own_conditions(held.factor)
        } else {
            String::new()
        };
        let because = Because::shows(
            format!(
                "Limit: {} ({}, revision {}){brought}",
                limit.window(),
                limit.source,
                limit.revision
            ),
            {
                let [value, u_said] =
                    [(value, u), (u, u)].map(|(v, u)| units::carried(v, u, ML_MIN));
                format!("{value} ± {u_said} {FLOW}, guard {}", units::carried(out.guard, u, ML_MIN))
            },
        );
        found.push((tag, out.state, because));
    }
    Ok(found)
}

/// Spread of a row within each family, the widest, with its uncertainty: shares.
pub(super) fn spread(ctx: &Ctx<'_>, row: &FlowRow) -> Option<(f64, f64)> {
    let spreads = ctx.groups().into_iter().filter_map(|(_, tags)| {
        let read: Vec<Reading> = row
            .values
            .iter()
            .filter(|v| tags.contains(&v.reading.tag) && v.questioned.is_none())
            .map(|v| v.reading)
            .collect();
        let mean = read.iter().map(|r| r.value).sum::<f64>() / read.len() as f64;
        let ends = read.iter().map(|r| r.value);
        let (low, high) = ends.fold((f64::INFINITY, 0.0_f64), |(l, h), v| (l.min(v), h.max(v)));
        let u = read.iter().map(|r| r.u).fold(0.0, f64::max);
        (read.len() > 1 && mean > 0.0)
            .then(|| ((high - low) / mean, std::f64::consts::SQRT_2 * u / mean))
    });
    spreads.max_by(|a, b| a.0.total_cmp(&b.0))
}

/// The grade of a spread; two words where the tubes cannot tell them apart.
fn grade(ctx: &Ctx<'_>, spread: f64, u: f64) -> String {
    let word = |share: f64| {
        let grades = [
            (RuleId::GradeMatched, "matched"),
            (RuleId::GradeClose, "close"),
            (RuleId::GradeServiceable, "serviceable"),
        ];
        let of = grades.into_iter().find(|(rule, _)| share <= ctx.rules.share(*rule) + 1e-12);
        of.map_or("too wide", |(_, word)| word)
    };
    let guard = 1.645 * u;
    let (best, worst) = (word((spread - guard).max(0.0)), word(spread + guard));
    if best == worst { best.to_owned() } else { format!("{best} or {worst}") }
}

fn headline(ctx: &Ctx<'_>, verdict: &Verdict, judged: &[Judged]) -> String {
    let widest = judged
        .iter()
        .filter_map(|one| Some((spread(ctx, &one.row)?, &one.row.name)))
        .max_by(|a, b| a.0.0.total_cmp(&b.0.0));
    let little = marked(&verdict.lanes, &[Mark::TooLittle]);
    let much = marked(&verdict.lanes, &[Mark::TooMuch]);
    let read_again = marked(&verdict.lanes, &[Mark::Questioned]);
    let mut says = Vec::new();
    if !little.is_empty() {
        says.push(words::too_little_flow(injectors(&little)));
    }
    if !much.is_empty() {
        says.push(words::too_much_flow(injectors(&much)));
    }
    let alike_off = coded(&verdict.lanes, &[Code::ALL_ALIKE_OFF]);
    if !alike_off.is_empty() {
        says.push(words::all_off_their_limit(alike_off.len()));
    } else if !read_again.is_empty() {
        says.push(words::read_again(injectors(&read_again)));
    }
    match widest {
        None => says.push(words::READ_LEAST_TWO_TUBES.to_owned()),
        Some(((share, u), name)) => {
            let grade = grade(ctx, share, u);
            let set = if says.is_empty() { "The set is" } else { words::FAR_SET };
            says.push(words::spread(set, &grade, tenths(share * 100.0), name));
        }
    }
    says.join(" ")
}

/// The typed opinion against the arithmetic, when they differ.
fn opinion(ctx: &Ctx<'_>, judged: &[Judged]) -> Option<String> {
    let (said, most) = OPINIONS.get(ctx.set(BenchTest::Flow, "opinion")? as usize)?;
    let (widest, name) = judged
        .iter()
        .filter_map(|one| Some((spread(ctx, &one.row)?.0 * 100.0, &one.row.name)))
        .max_by(|a, b| a.0.total_cmp(&b.0))?;
    (*most > 0.0 && widest > *most).then(|| {
        words::stated_readings_spread_highest(said, figures((widest * 10.0).round() / 10.0), name)
    })
}
