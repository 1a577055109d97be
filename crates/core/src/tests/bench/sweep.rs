//! `sweep`: static flow, dead time and shortest linear pulse from one volume for each pulse width.
//!
//! Numbers by [`crate::calc::pulse_sweep`]. A slow opener is named by its dead time against the
//! others of its family, beyond the house rule and beyond twice the uncertainty of both, and by
//! its first spray.
//!
//! # Source
//! SAE J1832; the step that counts as late is a house rule ([`RuleId::SlowOpener`]).

mod words;

use super::conditions::{DENSITY, FLUID, PRESSURE};
use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::calc::compare_set::{CompareSetInput, compare_set};
use crate::calc::pulse_sweep::{PulseSweepInput, PulseSweepOutput, SweepPoint, pulse_sweep};
use crate::caution;
use crate::mark::Mark;
use crate::quantity::{shown, trimmed};
use crate::rules::RuleId;
use crate::said::{Code, Lack};
use crate::tests::Because;
use crate::tests::cell::{cell, choice};
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Row, SweepLine, Verdict, coded};
use crate::typed::Field;
use crate::units::{self, ML_MIN};
use crate::words::injectors;

crate::said::outcomes! {
    OPENS_LATE = opens_late,
    OPENS_EARLY = opens_early,
    OPENS_ALIKE = opens_alike,
}

const CYCLES: &[&str] = &["four-stroke", "two-stroke"];

pub(super) const SPEC: Spec = Spec {
    title: "Pulse sweep",
    short: "Sweep",
    says: words::NUMBER_PULSES_EACH_WIDTH,
    cautions: &[caution::BENCH, caution::SPRAY],
    kinds: &[BenchKind::Petrol],
    pulses: true,
    rows: Rows::UpTo(12),
    set: &[PRESSURE, FLUID, choice("cycle", "Engine type", CYCLES), DENSITY],
    row: &[
        cell("pulse", "Pulse width", Field::above_zero("ms", 0.05, 100.0)),
        cell("count", "Pulses", Field::above_zero("", 1.0, 1e6)),
    ],
    each: &[cell("volume", "Tube", Field::from_zero("ml", 100_000.0))],
    tubes: &[],
    property: Property::PASSES,
    table: include_str!("sweep.toml"),
    judge,
};

pub(super) struct Fitted {
    pub tag: u32,
    points: Vec<SweepPoint>,
    pub out: PulseSweepOutput,
}

pub(super) fn fits(ctx: &Ctx<'_>) -> Result<Vec<Fitted>, CalcError> {
    let mut fitted = Vec::new();
    for tag in ctx.tags() {
        let points: Vec<SweepPoint> = ctx
            .rows(BenchTest::Sweep)
            .filter_map(|row| {
                Some(SweepPoint {
                    pulse_ms: ctx.row(BenchTest::Sweep, row, "pulse")?,
                    pulses: ctx.row(BenchTest::Sweep, row, "count")?,
                    volume_ml: ctx.of(BenchTest::Sweep, Some(row), tag, "volume")?,
                })
            })
            .collect();
        if points.is_empty() {
            continue;
        }
        let out = pulse_sweep(&PulseSweepInput {
            points: points.clone(),
            graduation_ml: ctx.session.setup.graduation,
            linear_tolerance: Some(ctx.rules.share(RuleId::SweepLinear)),
        })?;
        fitted.push(Fitted { tag, points, out });
    }
    Ok(fitted)
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let fitted = fits(ctx)?;
    let mut found = Vec::new();
    for one in &fitted {
        let first = first_of_others(ctx, &fitted, one.tag);
        found.push(lane(ctx, &others(ctx, &fitted, one.tag)?, first, one));
    }
    let mut verdict = Verdict {
        rows: rows(ctx),
        lanes: lanes(ctx, |tag| found.iter().find(|lane| lane.place == tag).cloned()),
        lines: fitted.iter().filter_map(line).collect(),
        ..Verdict::default()
    };
    // Headline and lanes come from the same codes, so that they never disagree.
    let of = |codes: &[Code]| coded(&verdict.lanes, codes);
    let (slow, early) = (of(&[outcomes::OPENS_LATE]), of(&[outcomes::OPENS_EARLY]));
    let open = of(&[Code::TOO_CLOSE, Code::NO_REFERENCE]);
    let alike = of(&[outcomes::OPENS_ALIKE]);
    let mut says = Vec::new();
    if !slow.is_empty() {
        says.push(words::late_dead_time_first(injectors(&slow)));
    }
    if !early.is_empty() {
        says.push(format!("{}: early.", injectors(&early)));
    }
    if !open.is_empty() && (!slow.is_empty() || !early.is_empty() || !alike.is_empty()) {
        says.push(format!("{}: inconclusive.", injectors(&open)));
    }
    let few = fitted.iter().all(|f| !f.out.linear);
    verdict.headline = match (says.is_empty(), open.is_empty()) {
        (false, _) => says.join(" "),
        (true, _) if few => words::READ_LEAST_THREE_WIDTHS.to_owned(),
        (true, true) => words::ALL_SWEPT_OPEN_TOGETHER.to_owned(),
        (true, false) => words::INCONCLUSIVE_NO_DEAD_TIME.to_owned(),
    };
    if !slow.is_empty() {
        verdict.advice.push(words::LATE_OPENER_RUNS_CYLINDER.to_owned());
    }
    let two_stroke = ctx.set(BenchTest::Sweep, "cycle") == Some(1.0);
    if two_stroke && !slow.is_empty() {
        verdict.advice.push(words::TWO_STROKE_SEIZES_RUNS.to_owned());
    }
    for one in &fitted {
        if let Some(ms) = one.out.misread_ms {
            verdict.flags.push(words::ms_off_line_others(injectors(&[one.tag]), trimmed(ms)));
        }
    }
    Ok(verdict.closed())
}

/// How an injector stands to the dead times of its family that agree.
enum Others {
    /// Nothing beside it.
    None,
    /// They do not agree among themselves.
    Apart,
    /// Mean dead time, its standard uncertainty, and the first spray of the earliest.
    Agree(f64, f64, f64),
    /// The same of the only other one: a difference shows, and not which of the two is right.
    Other(f64, f64, f64),
}

/// Dead time of the others of its family that agree within the house rule.
fn others(ctx: &Ctx<'_>, fitted: &[Fitted], tag: u32) -> Result<Others, CalcError> {
    let groups = ctx.groups();
    let family = groups.iter().find(|(_, tags)| tags.contains(&tag));
    let read: Vec<(u32, f64, f64, f64)> = fitted
        .iter()
        .filter(|f| family.is_some_and(|family| family.1.contains(&f.tag)))
        .filter_map(|f| {
            let first = f.out.first_spray_ms.unwrap_or(0.0);
            Some((f.tag, f.out.offset_ms?, f.out.u_offset_ms?, first))
        })
        .collect();
    if read.len() < 2 {
        return Ok(Others::None);
    }
    if let ([one, other], true) = (read.as_slice(), read.iter().any(|r| r.0 == tag)) {
        let beside = if one.0 == tag { other } else { one };
        return Ok(Others::Other(beside.1, beside.2, beside.3));
    }
    let values: Vec<f64> = read.iter().map(|r| r.1).collect();
    let mean = values.iter().sum::<f64>() / values.len() as f64;
    if values.iter().any(|v| *v <= 0.0) {
        return Ok(Others::Apart);
    }
    let tolerance = ctx.rules.get(RuleId::SlowOpener) / mean;
    let out = compare_set(&CompareSetInput { values, tolerance })?;
    let agree: Vec<_> =
        out.reference.iter().map(|i| read[*i]).filter(|(held, ..)| *held != tag).collect();
    if !out.settled || agree.is_empty() {
        return Ok(Others::Apart);
    }
    let n = agree.len() as f64;
    let u = agree.iter().map(|r| r.2 * r.2).sum::<f64>().sqrt() / n;
    let first = agree.iter().map(|r| r.3).fold(f64::INFINITY, f64::min);
    Ok(Others::Agree(agree.iter().map(|r| r.1).sum::<f64>() / n, u, first))
}

/// The shortest pulse at which the others of its family already spray: none where they differ.
fn first_of_others(ctx: &Ctx<'_>, fitted: &[Fitted], tag: u32) -> Option<f64> {
    let groups = ctx.groups();
    let family = groups.iter().find(|(_, tags)| tags.contains(&tag))?;
    let firsts: Vec<f64> = fitted
        .iter()
        .filter(|f| f.tag != tag && family.1.contains(&f.tag))
        .filter_map(|f| f.out.first_spray_ms)
        .collect();
    let first = firsts.first().copied()?;
    (firsts.len() >= 2 && firsts.iter().all(|ms| *ms == first)).then_some(first)
}

fn lane(ctx: &Ctx<'_>, others: &Others, first: Option<f64>, one: &Fitted) -> Lane {
    let tag = one.tag;
    let out = &one.out;
    let (Some(offset), Some(u), Some(flow)) = (out.offset_ms, out.u_offset_ms, out.static_ml_min)
    else {
        let step = ctx.rules.get(RuleId::SlowOpener);
        let own = out.first_spray_ms.unwrap_or(f64::INFINITY);
        if let Some(usual) = first.filter(|usual| own > usual + step) {
            let says = match out.first_spray_ms {
                Some(own) => words::first_spray_ms_others(trimmed(own), trimmed(usual)),
                None => words::no_spray_any_width(trimmed(usual)),
            };
            return Lane::new(tag, Mark::TooLittle, "opens late", says)
                .says(outcomes::OPENS_LATE)
                .then(words::MORE_WIDTHS_BETWEEN_SHORTEST);
        }
        let first = out.first_spray_ms.map_or_else(
            || words::NO_SPRAY_ANY_WIDTH_2.to_owned(),
            |ms| words::first_spray_ms_no(trimmed(ms)),
        );
        return Lane::new(tag, Mark::Undecided, "no line", first)
            .then(words::MORE_WIDTHS_BETWEEN_SHORTEST);
    };
    let says = words::dead_time_ms_static(
        shown(offset, u),
        shown(u, u),
        units::reading(flow, ML_MIN),
        trimmed(out.min_linear_ms.unwrap_or_default()),
        trimmed(out.first_spray_ms.unwrap_or_default()),
    );
    let lane = |mark, word: &str, sentence: String| {
        Lane::new(tag, mark, word, sentence)
            .shown(format!("{} ms", shown(offset, u)))
            .because([Because::shows(words::LINE_THROUGH_POINTS, says.clone())])
    };
    let (usual, u_usual, first) = match others {
        Others::Agree(usual, u_usual, first) | Others::Other(usual, u_usual, first) => {
            (*usual, *u_usual, *first)
        }
        Others::None => {
            return lane(Mark::Undecided, "alone", words::NO_OTHER_FAMILY_SESSION.to_owned())
                .says(Code::NO_REFERENCE);
        }
        Others::Apart => {
            let says = words::DEAD_TIMES_SET_NOT.to_owned();
            return lane(Mark::Undecided, "inconclusive", says)
                .says(Code::NO_REFERENCE)
                .then(words::KNOWN_GOOD_ONE_SWEPT);
        }
    };
    let step = ctx.rules.get(RuleId::SlowOpener);
    let (late, doubt) = (offset - usual, 2.0 * u.hypot(u_usual));
    let because = [
        Because::shows(
            words::late_more_ms_workshop(trimmed(step)),
            format!(
                "{} − {} = {} ms, uncertainty {} ms",
                shown(offset, u),
                shown(usual, u),
                shown(late, u),
                shown(doubt, u)
            ),
        ),
        Because::says(words::first_spray_ms_others_ms(
            trimmed(out.first_spray_ms.unwrap_or_default()),
            trimmed(first),
        )),
    ];
    let pair = matches!(others, Others::Other(..));
    let lane = match () {
        () if pair && late > step && late > doubt => {
            lane(Mark::TooLittle, "later", words::opens_later_than_the_other(shown(late, u)))
                .says(outcomes::OPENS_LATE)
                .then(words::WHICH_OF_TWO)
        }
        () if pair && late < -step && -late > doubt => {
            lane(Mark::Undecided, "earlier", words::opens_earlier_than_the_other(shown(-late, u)))
                .says(Code::NO_REFERENCE)
                .then(words::WHICH_OF_TWO)
        }
        () if late > step && late > doubt => {
            lane(Mark::TooLittle, "opens late", words::opens_ms_later_others(shown(late, u)))
                .says(outcomes::OPENS_LATE)
                .then(words::CLEANED_SWEPT_AGAIN_STILL)
        }
        () if late < -step && -late > doubt => {
            lane(Mark::Look, "opens early", words::opens_ms_earlier_others(shown(-late, u)))
                .says(outcomes::OPENS_EARLY)
                .then(words::PART_NUMBER_DRIVER_LEAK)
        }
        () if late.abs() > step => {
            lane(Mark::Undecided, "inconclusive", words::INCONCLUSIVE_POINTS_SCATTER_TOO.to_owned())
                .then(words::MORE_PULSES_EACH_WIDTH)
        }
        () => lane(Mark::Inside, "in line", words::OPENS_LIKE_OTHERS.to_owned())
            .says(outcomes::OPENS_ALIKE),
    };
    lane.off(late, u.hypot(u_usual)).lacking(Lack::ByOthers, pair).because(because)
}

fn rows(ctx: &Ctx<'_>) -> Vec<Row> {
    ctx.rows(BenchTest::Sweep)
        .filter_map(|row| {
            let pulse = ctx.row(BenchTest::Sweep, row, "pulse")?;
            let count = ctx.row(BenchTest::Sweep, row, "count")?;
            let u = ctx.session.setup.graduation / 12.0_f64.sqrt() * 1000.0 / count;
            let lanes = ctx.read(BenchTest::Sweep, Some(row), "volume");
            let lanes = lanes.into_iter().map(|(tag, volume)| {
                let value = 1000.0 * volume / count;
                let mark = if volume > 0.0 { Mark::Inside } else { Mark::NotMeasured };
                Lane {
                    place: tag,
                    mark,
                    value: Some(value),
                    u: Some(u),
                    shown: shown(value, u),
                    ..Lane::default()
                }
            });
            Some(Row {
                row,
                name: format!("{} ms", trimmed(pulse)),
                says: format!("{} pulses", trimmed(count)),
                unit: "mm³/pulse".to_owned(),
                lanes: lanes.collect(),
                ..Row::default()
            })
        })
        .collect()
}

fn line(one: &Fitted) -> Option<SweepLine> {
    Some(SweepLine {
        tag: one.tag,
        slope: one.out.static_ml_min? / 60.0,
        offset_ms: one.out.offset_ms?,
        u_offset_ms: one.out.u_offset_ms?,
        min_linear_ms: one.out.min_linear_ms?,
        points: one
            .points
            .iter()
            .map(|point| [point.pulse_ms, 1000.0 * point.volume_ml / point.pulses])
            .collect(),
    })
}
