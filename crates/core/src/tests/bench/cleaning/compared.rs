//! Two rounds side by side: whether they can be compared, and each injector before and after.

use crate::calc::CalcError;
use crate::quantity::shown;
use crate::tests::bench::BenchTest;
use crate::tests::bench::cleaning::words;
use crate::tests::bench::conditions::{Basis, basis, flow_limit};
use crate::tests::bench::ctx::Ctx;
use crate::tests::bench::flow::{FlowRow, flow_rows};
use crate::tests::bench::record::RoundStage;

/// One injector in one regime, before and after.
pub(super) struct Pair {
    pub tag: u32,
    pub regime: String,
    pub before: String,
    pub after: String,
    pub gain: f64,
    pub u_gain: f64,
    /// What it is held against, in words.
    pub against: &'static str,
    /// It is held against others of which some were not cleaned.
    pub dirty_others: bool,
    first_off: Option<f64>,
    /// Against that now, minus 1.
    pub now_off: Option<f64>,
}

impl Pair {
    /// Against the same as received, minus 1.
    pub fn first_off(&self) -> f64 {
        self.first_off.unwrap_or(0.0)
    }
}

/// All of them, and what was done to make them comparable.
#[derive(Default)]
pub(super) struct Pairs {
    pub of: Vec<Pair>,
    /// Why they cannot be compared.
    pub refused: Option<String>,
    /// What was corrected.
    pub label: Option<String>,
}

/// Flow of the round against the last round before it in which flow was read.
pub(super) fn pairs(ctx: &Ctx<'_>) -> Result<Pairs, CalcError> {
    let read = |at: &usize| ctx.at(*at).any(BenchTest::Flow);
    let Some(before_at) = (0..ctx.round).rev().find(read) else { return Ok(Pairs::default()) };
    if !read(&ctx.round) {
        return Ok(Pairs::default());
    }
    let received = (0..ctx.round)
        .find(|at| ctx.session.rounds[*at].stage == RoundStage::Received && read(at))
        .unwrap_or(before_at);
    let (before, now) = (ctx.at(before_at), *ctx);
    let bases = (basis(&before, BenchTest::Flow)?, basis(&now, BenchTest::Flow)?);
    let mut found =
        Pairs { label: label(&bases), refused: refused(&before, &now, &bases), ..Pairs::default() };
    if found.refused.is_some() {
        return Ok(found);
    }
    let first_rows =
        flow_rows(&ctx.at(received), basis(&ctx.at(received), BenchTest::Flow)?.factor);
    let (before_rows, now_rows) =
        (flow_rows(&before, bases.0.factor), flow_rows(&now, bases.1.factor));
    for row in &now_rows {
        let same = |rows: &'_ [FlowRow]| rows.iter().position(|r| r.row == row.row);
        let Some(earlier) = same(&before_rows).map(|i| &before_rows[i]) else { continue };
        if earlier.pulse_ms != row.pulse_ms || earlier.basis != row.basis {
            found.refused = Some(if earlier.pulse_ms == row.pulse_ms {
                words::count_time_not_noted(&row.name)
            } else {
                words::run_another_pulse_width(&row.name)
            });
            found.of.clear();
            return Ok(found);
        }
        let first = same(&first_rows).map(|i| &first_rows[i]);
        found.of.extend(ctx.tags().filter_map(|tag| pair(ctx, tag, earlier, row, first)));
    }
    Ok(found)
}

/// What both rounds have to tell, or not at all.
fn refused(before: &Ctx<'_>, now: &Ctx<'_>, bases: &(Basis, Basis)) -> Option<String> {
    let word = |ctx: &Ctx<'_>| ctx.session.rounds[ctx.round].word();
    match (&bases.0.missing, &bases.1.missing) {
        (None, None) => None,
        // Without either they may still have been the same; nobody knows, so nothing is claimed.
        (Some(missing), Some(_)) => Some(words::one_rounds(missing)),
        (Some(missing), None) => Some(format!("{missing} {}", word(before))),
        (None, Some(missing)) => Some(format!("{missing} {}", word(now))),
    }
}

fn label(bases: &(Basis, Basis)) -> Option<String> {
    let apart = (bases.0.factor / bases.1.factor - 1.0).abs() > 1e-9;
    (apart && bases.0.missing.is_none() && bases.1.missing.is_none())
        .then(|| words::different_conditions_before_after(&bases.0.says, &bases.1.says))
}

fn pair(
    ctx: &Ctx<'_>,
    tag: u32,
    before: &FlowRow,
    now: &FlowRow,
    first: Option<&FlowRow>,
) -> Option<Pair> {
    let of = |row: &FlowRow| {
        let value = row.values.iter().find(|v| v.reading.tag == tag)?;
        value.questioned.is_none().then_some(value.reading)
    };
    let (was, is) = (of(before)?, of(now)?);
    if was.value <= 0.0 {
        return None;
    }
    let gain = is.value / was.value - 1.0;
    let u_gain = (is.u / was.value).hypot(is.value * was.u / (was.value * was.value));
    let held = flow_limit(ctx, tag).filter(|_| now.open);
    let nominal = held.and_then(|h| Some(f64::midpoint(h.limit.lower?, h.limit.upper?) / h.factor));
    let against =
        if nominal.is_some() { words::MIDDLE_LIMIT } else { words::OTHERS_AFTER_CLEANING };
    let mean = nominal.or_else(|| others(ctx, now, tag));
    let left_out = |other: u32| ctx.of(BenchTest::Cleaning, None, other, "left_out") == Some(1.0);
    let dirty_others = nominal.is_none() && ctx.tags().any(|other| other != tag && left_out(other));
    Some(Pair {
        tag,
        regime: now.name.clone(),
        before: shown(was.value, was.u),
        after: shown(is.value, is.u),
        gain,
        u_gain,
        against,
        dirty_others,
        first_off: first
            .and_then(of)
            .or(Some(was))
            .zip(mean)
            .map(|(reading, mean)| reading.value / mean - 1.0),
        now_off: mean.map(|mean| is.value / mean - 1.0),
    })
}

/// The middle one of the others of its family, after cleaning: it bears one or two bad ones.
fn others(ctx: &Ctx<'_>, row: &FlowRow, tag: u32) -> Option<f64> {
    let groups = ctx.groups();
    let family = groups.iter().find(|(_, tags)| tags.contains(&tag))?;
    let mut values: Vec<f64> = row
        .values
        .iter()
        .filter(|v| v.reading.tag != tag && family.1.contains(&v.reading.tag))
        .filter(|v| v.questioned.is_none())
        .map(|v| v.reading.value)
        .collect();
    values.sort_by(f64::total_cmp);
    let n = values.len();
    match n {
        0 => None,
        _ if n % 2 == 1 => Some(values[n / 2]),
        _ => Some(f64::midpoint(values[n / 2 - 1], values[n / 2])),
    }
}
