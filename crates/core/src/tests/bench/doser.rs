//! `doser`: leak volume in a minute and timed flow of exhaust dosers, three runs averaged.
//!
//! Numbers by [`crate::calc::metered`] and [`crate::calc::decide`]. Low: clean and repeat. High:
//! replace, unless the uncertainty leaves it undecided. A doser that is good while the control unit
//! says "dosing at its limit" points downstream. Limits depend on the edition of the part.
//!
//! # Source
//! JCGM 100 and 106; the library's limits by edition; the times of the plan are house rules.

mod words;

use super::ctx::Ctx;
use super::record::RoundStage;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::calc::metered::{MeteredInput, metered};
use crate::caution;
use crate::library::{LimitCheck, LimitEntry};
use crate::mark::Mark;
use crate::quantity::{figures, shown};
use crate::rules::RuleId;
use crate::said::{Code, Lack};
use crate::tests::Because;
use crate::tests::cell::{cell, choice, words};
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::typed::Field;
use crate::words::injectors;

crate::said::outcomes! {
    DOSER_LOW = doser_low (Departs),
    DOSER_STILL_LOW = doser_still_low,
    DOSER_WORSE = doser_worse,
    DOSER_HIGH = doser_high (Departs),
    DOSER_LEAKS = doser_leaks,
    DOSER_WITHIN = doser_within,
}

const TUBE: Field = Field::from_zero("ml", 100_000.0);

pub(super) const SPEC: Spec = Spec {
    title: words::DOSER_LEAK_FLOW,
    short: "Doser",
    says: words::TIP_CLEAN_COOLANT_PORTS,
    cautions: &[caution::SPRAY, caution::HOT, caution::BENCH, caution::REGENERATION],
    kinds: &[BenchKind::Doser],
    pulses: true,
    rows: Rows::None,
    set: &[
        // What the verdict hangs on comes first.
        cell("seconds", words::TIME_EACH_RUN, Field::above_zero("s", 5.0, 3600.0)).preset(),
        cell("pressure", "Pressure", Field::above_zero("kPa", 1.0, 40_000.0)).preset(),
        choice("tip", "Tip", &["as found", "cleaned"]),
        choice("capped", "Coolant ports", &["not capped", "capped"]),
        choice("unit_says", "ECU says", &["nothing", words::DOSING_LIMIT]),
        cell("leak_marks", "Leak tube marks", Field::above_zero("ml", 0.001, 100.0)),
        words("edition", "Part revision"),
    ],
    row: &[],
    each: &[
        cell("leak", words::LEAK_MINUTE, TUBE),
        cell("run_1", "Run 1", TUBE),
        cell("run_2", "Run 2", TUBE),
        cell("run_3", "Run 3", TUBE),
    ],
    tubes: &[],
    property: Property::PASSES,
    table: include_str!("doser.toml"),
    judge,
};

/// Reset and regeneration; for how long, the maker says.
const AFTERWARDS: &[&str] = &[
    words::RESET_COUNTERS_DOSER_IGNITION,
    words::STANDING_REGENERATION_RAISED_IDLE,
    words::LET_COOL_IDLE_MIN,
];

/// The limit of this check for the edition that was typed; the plain one without an edition.
fn limit<'a>(ctx: &Ctx<'a>, tag: u32, check: LimitCheck) -> Option<&'a LimitEntry> {
    let typed = ctx.cell(BenchTest::Doser, None, None, "edition").map(|c| c.typed.to_lowercase());
    let mut of: Vec<&LimitEntry> =
        ctx.family(tag)?.limits.iter().filter(|l| l.check == check).collect();
    // Newer editions name themselves in the condition; the shortest condition is the plain one.
    of.sort_by_key(|l| l.condition.len());
    let named =
        typed.as_deref().map(str::trim).filter(|t| !t.is_empty()).and_then(|typed| {
            of.iter().find(|l| l.condition.to_lowercase().contains(typed)).copied()
        });
    named.or(of.first().copied())
}

fn editions(ctx: &Ctx<'_>) -> usize {
    let of = |tag| {
        ctx.family(tag)
            .map_or(0, |f| f.limits.iter().filter(|l| l.check == LimitCheck::DoserVolume).count())
    };
    ctx.tags().map(of).max().unwrap_or(0)
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let mut found = Vec::new();
    for tag in ctx.tags() {
        found.extend(lane(ctx, tag)?);
    }
    let lanes = lanes(ctx, |tag| found.iter().find(|lane| lane.place == tag).cloned());
    let set = |name: &str| ctx.set(BenchTest::Doser, name);
    let at_limit = set("unit_says") == Some(1.0);
    let (good, unsure) = (marked(&lanes, &[Mark::Inside]), marked(&lanes, &[Mark::Undecided]));
    let first = lanes.iter().find(|l| l.mark != Mark::Inside && l.mark != Mark::NotMeasured);
    let all_good = first.is_none() && !good.is_empty();
    let headline = match first {
        None if all_good && at_limit => words::DOSER_ORDER_DOSING_LIMIT.to_owned(),
        None if all_good => words::LEAK_FLOW_WITHIN_LIMITS.to_owned(),
        None => words::MINUTE_CLOSED_THREE_RUNS.to_owned(),
        Some(lane) => format!("{}: {}", injectors(&[lane.place]), lane.sentence),
    };
    let mut verdict = Verdict { headline, lanes, ..Verdict::default() };
    if all_good && at_limit {
        verdict.advice.push(words::CATALYST_FACE_BLOCKED_TEMPERATURE.to_owned());
    }
    if all_good {
        verdict.advice.extend(AFTERWARDS.iter().map(|s| (*s).to_owned()));
    }
    if !found.is_empty() && set("capped") != Some(1.0) {
        verdict.flags.push(words::COOLANT_PORTS_NOT_CAPPED.to_owned());
    }
    if !found.is_empty() && set("tip") != Some(1.0) {
        verdict.flags.push(words::TIP_NOT_CLEANED_FIRST.to_owned());
    }
    if let Some(seconds) = set("seconds").filter(|s| *s != 60.0 && !found.is_empty()) {
        verdict.flags.push(words::timed_over_s_brought(figures(seconds)));
    }
    if editions(ctx) > 1 && ctx.cell(BenchTest::Doser, None, None, "edition").is_none() {
        verdict.flags.push(words::LIMITS_DEPEND_PART_REVISION.to_owned());
    }
    if !unsure.is_empty() && set("pressure").is_none() {
        verdict.flags.push(words::PRESSURE_NOT_NOTED.to_owned());
    }
    Ok(verdict.closed())
}

fn lane(ctx: &Ctx<'_>, tag: u32) -> Result<Option<Lane>, CalcError> {
    let of = |name: &str| ctx.of(BenchTest::Doser, None, tag, name);
    // Limits are about a minute; a run over another time is brought to it.
    let minute = 60.0 / ctx.set(BenchTest::Doser, "seconds").unwrap_or(60.0);
    let runs: Vec<f64> =
        ["run_1", "run_2", "run_3"].into_iter().filter_map(of).map(|ml| ml * minute).collect();
    let leak = of("leak");
    if runs.is_empty() && leak.is_none() {
        return Ok(None);
    }
    let mut because = Vec::new();
    let leaks = leak.map(|leak| leaks(ctx, tag, leak, &mut because)).transpose()?.flatten();
    if let Some(lane) = leaks.clone().filter(|lane| lane.mark == Mark::TooMuch || runs.is_empty()) {
        return Ok(Some(lane.because(because)));
    }
    if runs.is_empty() {
        let lane = Lane::new(tag, Mark::Undecided, "leak alone", words::TIMED_RUNS_MISSING)
            .says(Code::FEW_RUNS);
        return Ok(Some(lane.because(because)));
    }
    let Some(limit) = limit(ctx, tag, LimitCheck::DoserVolume) else {
        let lane = Lane::new(tag, Mark::Look, "no limit", words::LIBRARY_NO_VOLUME_DOSER)
            .says(Code::NO_REFERENCE);
        return Ok(Some(lane.because(because)));
    };
    let prior = ctx.rules.get(RuleId::DoserRepeat);
    let out = metered(&MeteredInput {
        runs_ml: runs.clone(),
        graduation_ml: ctx.session.setup.graduation * minute,
        lower_ml: limit.lower,
        upper_ml: limit.upper,
        prior_repeatability_ml: Some(prior * minute),
    })?;
    let list: Vec<String> = runs.iter().map(|v| figures(*v)).collect();
    because.push(Because::shows(
        format!(
            "{} ({}, {}, revision {})",
            limit.window(),
            limit.condition,
            limit.source,
            limit.revision
        ),
        words::ml_chance_within(
            list.join(" + "),
            runs.len(),
            shown(out.mean_ml, out.u_ml),
            shown(out.u_ml, out.u_ml),
            out.p_conform * 100.0,
        ),
    ));
    let cleaned = ctx.session.rounds[..=ctx.round].iter().any(|r| r.stage == RoundStage::Cleaned);
    let over = limit.upper.is_some_and(|upper| out.mean_ml > upper);
    let few = runs.len() < 3;
    let odd = odd_run(&runs, prior * minute);
    let before = cleaned_before(ctx, tag, minute);
    let cycles =
        ctx.session.rounds[..=ctx.round].iter().filter(|r| r.stage == RoundStage::Cleaned).count();
    let worse = before.is_some_and(|before| before - out.mean_ml > 2.0 * out.u_ml) && cycles >= 2;
    let (mark, code, word, sentence, next) = match out.state {
        _ if odd.is_some() => (
            Mark::Questioned,
            Code::RUN_ODD,
            "run doubtful",
            words::ONE_RUN_DOES_NOT,
            words::RUN_AGAIN_UNDER_SAME,
        ),
        LimitState::Above if few => (
            Mark::Undecided,
            Code::FEW_RUNS,
            "over, few runs",
            words::OVER_LIMIT_FEWER_THREE,
            words::MISSING_RUNS_TIP_CLEANED,
        ),
        LimitState::Above => (
            Mark::TooMuch,
            outcomes::DOSER_HIGH,
            "too high",
            words::DOSES_TOO_MUCH_REPLACE,
            words::CLEANING_DOES_NOT_REDUCE,
        ),
        LimitState::Below if few => (
            Mark::Undecided,
            Code::FEW_RUNS,
            "low, few runs",
            words::LOW_FEWER_THREE_RUNS,
            words::MISSING_RUNS,
        ),
        LimitState::Below if worse => (
            Mark::TooLittle,
            outcomes::DOSER_WORSE,
            "got worse",
            words::LOWER_AFTER_SECOND_CLEANING,
            words::NO_FURTHER_CYCLE,
        ),
        LimitState::Below if cleaned => (
            Mark::TooLittle,
            outcomes::DOSER_STILL_LOW,
            "still low",
            words::LOW_AFTER_CLEANING_REPLACE,
            "",
        ),
        LimitState::Below => (
            Mark::TooLittle,
            outcomes::DOSER_LOW,
            "low",
            words::LOW_CLEAN_TIP_REPEAT,
            words::CLEANING_ROUND_SAME_RUNS,
        ),
        LimitState::Within if few => (
            Mark::Undecided,
            Code::FEW_RUNS,
            "few runs",
            words::WITHIN_FAR_MORE_RUNS,
            words::MISSING_RUNS,
        ),
        LimitState::Within => {
            (Mark::Inside, outcomes::DOSER_WITHIN, "within", words::DOSES_WITHIN_LIMIT, "")
        }
        LimitState::Undecided if over => (
            Mark::Undecided,
            Code::TOO_CLOSE,
            "over, inconclusive",
            words::OVER_LIMIT_LESS_UNCERTAINTY,
            words::THREE_MORE_RUNS_TUBE,
        ),
        LimitState::Undecided => (
            Mark::Undecided,
            Code::TOO_CLOSE,
            "inconclusive",
            words::INCONCLUSIVE_TOO_CLOSE_LIMIT,
            words::THREE_MORE_RUNS_TUBE,
        ),
    };
    // A leak that nobody could call releases nothing; a flow that is out needs no leak.
    if let Some(lane) = leaks.filter(|_| mark == Mark::Inside) {
        return Ok(Some(lane.because(because)));
    }
    let set = |name: &str| ctx.set(BenchTest::Doser, name);
    let edition = ctx.cell(BenchTest::Doser, None, None, "edition").is_some();
    let end = if over { limit.upper } else { limit.lower };
    let lane = Lane::new(tag, mark, word, sentence)
        .says(code)
        .off(end.map_or(f64::NAN, |end| out.mean_ml - end), out.u_ml)
        .lacking(Lack::NoPressure, set("pressure").is_none())
        .lacking(Lack::NoEdition, editions(ctx) > 1 && !edition)
        .lacking(Lack::TipAsFound, set("tip") == Some(0.0))
        .lacking(Lack::NotCapped, set("capped") == Some(0.0))
        .shown(format!("{} ml", shown(out.mean_ml, out.u_ml)))
        .because(because)
        .because(ctx.rules.reasons(&[RuleId::DoserRepeat]).into_iter().map(Because::says));
    Ok(Some(if next.is_empty() { lane } else { lane.then(next) }))
}

/// The run that is out of line with the other two, where those agree within what repeats.
fn odd_run(runs: &[f64], repeats: f64) -> Option<usize> {
    // Three standard deviations between the two that agree, five to the one that does not.
    let apart = |one: f64, other: f64| (one - other).abs() / (std::f64::consts::SQRT_2 * repeats);
    let [a, b, c] = *runs else { return None };
    [(0, a, b, c), (1, b, a, c), (2, c, a, b)].into_iter().find_map(|(i, one, other, third)| {
        let middle = f64::midpoint(other, third);
        (apart(other, third) <= 3.0 && apart(one, middle) > 5.0).then_some(i)
    })
}

/// The mean of the last earlier round in which all runs were read, ml in a minute.
fn cleaned_before(ctx: &Ctx<'_>, tag: u32, minute: f64) -> Option<f64> {
    (0..ctx.round).rev().find_map(|round| {
        let of = |name: &str| ctx.at(round).of(BenchTest::Doser, None, tag, name);
        let runs: Vec<f64> = ["run_1", "run_2", "run_3"].into_iter().filter_map(of).collect();
        (runs.len() == 3).then(|| minute * runs.iter().sum::<f64>() / 3.0)
    })
}

/// A leak that decides already; otherwise only its because.
fn leaks(
    ctx: &Ctx<'_>,
    tag: u32,
    leak: f64,
    because: &mut Vec<Because>,
) -> Result<Option<Lane>, CalcError> {
    let Some(limit) = limit(ctx, tag, LimitCheck::LeakVolume).filter(|l| l.upper.is_some()) else {
        return Ok(None);
    };
    let marks = ctx.set(BenchTest::Doser, "leak_marks").unwrap_or(ctx.session.setup.graduation);
    let u = marks / 12.0_f64.sqrt();
    let out = decide(&DecideInput {
        value: leak,
        u,
        upper: limit.upper,
        confidence: Some(ctx.rules.share(RuleId::GuardConfidence)),
        ..DecideInput::default()
    })?;
    because.push(Because::shows(
        format!("Leak: {} ({}, revision {})", limit.window(), limit.source, limit.revision),
        words::ml_minute_guard(shown(leak, u), shown(u, u), shown(out.guard, u)),
    ));
    let lane = match out.state {
        LimitState::Above => Lane::new(tag, Mark::TooMuch, "leaks", words::LEAK_CLOSED_CLEAN_SEAT)
            .says(outcomes::DOSER_LEAKS)
            .off(leak - limit.upper.unwrap_or(f64::NAN), u),
        LimitState::Undecided => {
            Lane::new(tag, Mark::Undecided, "leak inconclusive", words::MARKS_TOO_COARSE_LEAK)
                .then(words::NARROW_TUBE_FIVE_MINUTES)
        }
        LimitState::Within | LimitState::Below => return Ok(None),
    };
    Ok(Some(lane))
}
