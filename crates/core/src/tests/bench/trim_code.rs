//! `trim_code`: the code of each injector from its final map, or the maker's code off its body.
//!
//! Families whose pattern is our own open code (`C1`, one symbol a point, two check digits) get
//! theirs by [`crate::calc::trim`]; of other families only the pattern is known, and the code on
//! the body is captured and checked by [`crate::calc::code_check`].
//!
//! # Source
//! ISO/IEC 7064 for the check characters; nominal quantities are the middles of the windows.

mod words;

use super::ctx::Ctx;
use super::map::{AtPoint, points};
use super::record::RoundStage;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::calc::code_check::{CodeCheckInput, code_check};
use crate::calc::trim::{PREFIX, TrimInput, TrimOutput, trim};
use crate::caution;
use crate::library::{CodePattern, LimitCheck};
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::words;
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::words::injectors;

crate::said::outcomes! {}

pub(super) const SPEC: Spec = Spec {
    title: "Trim code",
    short: "Code",
    says: words::MADE_FINAL_MAP_CAPTURED,
    cautions: &[caution::WASTE],
    kinds: &[BenchKind::Diesel],
    pulses: false,
    rows: Rows::None,
    set: &[],
    row: &[],
    each: &[words("body", words::TRIM_CODE_BODY)],
    tubes: &[],
    property: Property::PASSES,
    table: "",
    judge,
};

/// Points of the map that the code is made of: those with a window for what is delivered.
struct Made {
    names: Vec<String>,
    out: TrimOutput,
}

fn made(ctx: &Ctx<'_>, points: &[AtPoint], tag: u32) -> Result<Option<Made>, CalcError> {
    let mut input = TrimInput {
        nominal_mm3: Vec::new(),
        measured_mm3: Vec::new(),
        step_mm3: ctx.rules.get(RuleId::TrimStep),
        release_limits_mm3: Some(Vec::new()),
    };
    let mut names = Vec::new();
    for row in ctx.rows(BenchTest::Map) {
        let Some(point) = ctx.point(row) else { continue };
        let limit = ctx.limit(tag, LimitCheck::Delivered, &point.name);
        let Some((lower, upper)) = limit.and_then(|l| Some((l.lower?, l.upper?))) else { continue };
        let read = points.iter().find(|p| p.row == row && p.tag == tag);
        let Some(q) = read.and_then(|p| p.of.iter().find(|q| q.cell == "delivered")) else {
            return Ok(None);
        };
        names.push(point.name.clone());
        input.nominal_mm3.push(f64::midpoint(lower, upper));
        input.measured_mm3.push(q.value);
        input.release_limits_mm3.get_or_insert_default().push([lower, upper]);
    }
    if names.is_empty() {
        return Ok(None);
    }
    Ok(Some(Made { names, out: trim(&input)? }))
}

/// Whether a family's pattern is our own open code over this many points.
fn ours(pattern: &CodePattern, points: usize) -> bool {
    pattern.check.as_deref() == Some("iso7064_mod97_10")
        && pattern.length == PREFIX.len() + points + 2
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let points = points(ctx)?;
    let mut found = Vec::new();
    for tag in ctx.tags() {
        found.extend(lane(ctx, &points, tag)?);
    }
    let lanes = lanes(ctx, |tag| found.iter().find(|lane| lane.place == tag).cloned());
    let none = marked(&lanes, &[Mark::TooMuch, Mark::TooLittle, Mark::Questioned]);
    let good = marked(&lanes, &[Mark::Inside]);
    let headline = match (good.as_slice(), none.as_slice()) {
        ([], []) => words::READ_FINAL_MAP_ENTER.to_owned(),
        (_, []) => format!("{} coded.", injectors(&good)),
        (_, none) => words::no_valid_trim_code(injectors(none)),
    };
    let mut verdict = Verdict { headline, lanes, ..Verdict::default() };
    if ctx.session.rounds[ctx.round].stage != RoundStage::Final && !found.is_empty() {
        verdict.flags.push(words::NOT_FINAL_ROUND_MAKE.to_owned());
    }
    Ok(verdict.closed())
}

fn lane(ctx: &Ctx<'_>, points: &[AtPoint], tag: u32) -> Result<Option<Lane>, CalcError> {
    let pattern = ctx.family(tag).and_then(|f| f.detail.code.as_ref());
    let body = ctx.cell(BenchTest::TrimCode, None, Some(tag), "body");
    let made = made(ctx, points, tag)?;
    let from_body = match (body, pattern) {
        (Some(body), Some(pattern)) => Some(captured(tag, &body.typed, pattern)?),
        (Some(body), None) => Some(
            Lane::new(tag, Mark::Look, "no pattern", words::LIBRARY_NO_PATTERN_FAMILY)
                .shown(body.typed.trim()),
        ),
        (None, _) => None,
    };
    let Some(made) = made else { return Ok(from_body) };
    if let Some(why) = not_retested(ctx, tag)? {
        return Ok(Some(
            Lane::new(tag, Mark::Questioned, "retest first", why)
                .then(words::FULL_PLAN_AGAIN_AFTER),
        ));
    }
    let of_ours = pattern.is_none_or(|pattern| ours(pattern, made.names.len()));
    if !of_ours {
        return Ok(from_body);
    }
    let steps: Vec<String> = made
        .names
        .iter()
        .zip(&made.out.steps)
        .map(|(name, step)| format!("{name} {step:+}").replace('-', "−"))
        .collect();
    let step = trimmed(ctx.rules.get(RuleId::TrimStep));
    let because = Because::shows(words::steps_mm_middle_limits(&step), steps.join(", "));
    let names = |of: &[usize]| -> String {
        of.iter().filter_map(|i| made.names.get(*i)).cloned().collect::<Vec<_>>().join(", ")
    };
    let lane = match &made.out.code {
        Some(code) => Lane::new(tag, Mark::Inside, "code", words::MADE_MAP).shown(code.as_str()),
        None if !made.out.not_released.is_empty() => Lane::new(
            tag,
            Mark::TooMuch,
            "not released",
            words::out_limits_trim_code(names(&made.out.not_released)),
        )
        .then(words::RECONDITION_FULL_PLAN_AGAIN),
        None => Lane::new(
            tag,
            Mark::TooMuch,
            "out of range",
            words::more_steps_beyond_range(names(&made.out.out_of_range)),
        )
        .then(words::ADJUST_CLOSER_MIDDLE_FULL),
    };
    let rules = ctx.rules.reasons(&[RuleId::TrimStep]);
    Ok(Some(lane.because([because]).because(rules.into_iter().map(Because::says))))
}

/// Why no code is made yet: its lift is outside its window, or was set after this map was read.
fn not_retested(ctx: &Ctx<'_>, tag: u32) -> Result<Option<&'static str>, CalcError> {
    let lift = |at: &usize| ctx.at(*at).of(BenchTest::Lift, None, tag, "lift").is_some();
    let mapped = |at: &usize| ctx.at(*at).any(BenchTest::Map);
    let rounds = 0..ctx.session.rounds.len();
    let Some(set_at) = rounds.clone().rev().find(lift) else { return Ok(None) };
    let lanes = super::lift::lanes_at(&ctx.at(set_at))?;
    let off = lanes.iter().any(|lane| {
        lane.place == tag
            && matches!(
                lane.said.code,
                crate::tests::outcomes::LIFT_OFF | Code::SHIM_AGAINST | Code::DOUBTFUL
            )
    });
    if off {
        return Ok(Some(words::LIFT_OUT_LIMITS_SET));
    }
    let stale = rounds.rev().find(mapped).is_none_or(|map_at| map_at < set_at);
    Ok(stale.then_some(words::MAP_READ_BEFORE_LAST))
}

fn captured(tag: u32, typed: &str, pattern: &CodePattern) -> Result<Lane, CalcError> {
    let input = CodeCheckInput {
        code: typed.to_owned(),
        length: pattern.length,
        alphabet: pattern.alphabet.clone(),
        check: pattern.check.clone(),
    };
    let out = code_check(&input)?;
    if out.ok {
        return Ok(Lane::new(tag, Mark::Inside, "from the body", words::FITS_PATTERN_FAMILY)
            .shown(out.normalised));
    }
    let says = out.problems.iter().map(|p| p.words()).collect::<Vec<_>>().join(", ");
    let lane = Lane::new(tag, Mark::Questioned, "retype", words::does_not_fit_pattern(&says))
        .shown(out.normalised.as_str())
        .then(words::READ_OFF_BODY_AGAIN);
    Ok(match out.suggestions.first() {
        Some(suggested) => lane.then(words::would_fit(suggested)),
        None => lane,
    })
}
