//! `leak`: drops a minute from a closed injector under pressure, against a limit.
//!
//! `rate = 60·drops/t` a minute with `u = 60/t·√(1/12)`: a drop is there or not. Judged by
//! [`crate::calc::decide`], so that a short look at a tight limit stays undecided.
//!
//! # Source
//! JCGM 106; the limit is a house rule ([`RuleId::LeakDrops`]).

mod words;

use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::caution;
use crate::mark::Mark;
use crate::quantity::{shown, trimmed};
use crate::rules::RuleId;
use crate::said::{Code, Lack};
use crate::tests::Because;
use crate::tests::cell::cell;
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::typed::Field;
use crate::words::{by_number, injectors};

crate::said::outcomes! {
    BENCH_DRIPS = bench_drips,
    BENCH_TIGHT = bench_tight,
}

pub(super) const SPEC: Spec = Spec {
    title: "Leak check",
    short: "Leak",
    says: words::CLOSED_UNDER_PRESSURE_COUNT,
    cautions: &[caution::SPRAY, caution::VAPOUR, caution::BENCH],
    kinds: &[BenchKind::Petrol, BenchKind::Diesel],
    pulses: false,
    rows: Rows::None,
    set: &[
        cell("pressure", "Pressure", Field::above_zero("kPa", 1.0, 40_000.0)),
        cell("seconds", "Watched for", Field::above_zero("s", 5.0, 7200.0)),
    ],
    row: &[],
    each: &[cell("drops", "Drops", Field::from_zero("", 10_000.0))],
    tubes: &[],
    property: Property::PASSES,
    table: include_str!("leak.toml"),
    judge,
};

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let mut verdict = Verdict::default();
    let Some(seconds) = ctx.set(BenchTest::Leak, "seconds") else {
        verdict.headline = words::ENTER_LONG_DROPS_WATCHED.to_owned();
        verdict.lanes = lanes(ctx, |_| None);
        return Ok(verdict);
    };
    let limit = ctx.rules.get(RuleId::LeakDrops);
    let u = 60.0 / seconds / 12.0_f64.sqrt();
    let mut found = Vec::new();
    for (tag, drops) in ctx.read(BenchTest::Leak, None, "drops") {
        let value = 60.0 * drops / seconds;
        let input = DecideInput {
            value,
            u,
            upper: Some(limit),
            confidence: Some(ctx.rules.share(RuleId::GuardConfidence)),
            ..DecideInput::default()
        };
        found.push((tag, drops, value, decide(&input)?));
    }
    verdict.lanes = lanes(ctx, |tag| {
        let (_, drops, value, out) = found.iter().find(|(held, ..)| *held == tag)?;
        let (mark, code, word, sentence) = match out.state {
            LimitState::Above => {
                (Mark::TooMuch, outcomes::BENCH_DRIPS, "leaks", words::DRIPS_MORE_LIMIT_ALLOWS)
            }
            LimitState::Within | LimitState::Below => {
                (Mark::Inside, outcomes::BENCH_TIGHT, "no leak", words::WITHIN_LIMIT)
            }
            LimitState::Undecided => {
                (Mark::Undecided, Code::TOO_CLOSE, "inconclusive", words::TOO_CLOSE_LIMIT_SHORT)
            }
        };
        // Drops are there or not; how many a minute depends on a pressure that has to be known.
        let lane = Lane::new(tag, mark, word, sentence)
            .says(code)
            .off(*value - limit, u)
            .lacking(
                Lack::NotCapped,
                mark == Mark::Inside && ctx.set(BenchTest::Leak, "pressure").is_none(),
            )
            .shown(format!("{} /min", shown(*value, u)))
            .because([Because::shows(
                words::most_drops_min_workshop(trimmed(limit)),
                format!(
                    "60 × {} ÷ {} s = {} ± {} /min, guard band {}",
                    trimmed(*drops),
                    trimmed(seconds),
                    shown(*value, u),
                    shown(u, u),
                    shown(out.guard, u)
                ),
            )])
            .because(ctx.rules.reasons(&[RuleId::LeakDrops]).into_iter().map(Because::says));
        Some(match mark {
            Mark::Undecided => {
                // With t times as long the guard shrinks by as much.
                lane.then(words::watched_s((seconds * 3.0 / 30.0).ceil() * 30.0))
            }
            Mark::TooMuch => lane.then(words::CLEANED_WATCHED_AGAIN_DIRT),
            Mark::Inside | Mark::TooLittle | Mark::Look | Mark::Questioned | Mark::NotMeasured => {
                lane
            }
        })
    });
    let (bad, unsure) =
        (marked(&verdict.lanes, &[Mark::TooMuch]), marked(&verdict.lanes, &[Mark::Undecided]));
    verdict.headline = match (bad.as_slice(), unsure.as_slice()) {
        ([], []) if found.is_empty() => words::COUNT_DROPS_EACH.to_owned(),
        ([], []) => words::NO_LEAK_ANY_WATCHED.to_owned(),
        ([], unsure) => words::inconclusive_watch_longer(injectors(unsure)),
        (bad, _) => format!("{} {}.", injectors(bad), by_number(bad.len(), "leaks", "leak")),
    };
    if ctx.set(BenchTest::Leak, "pressure").is_none() && !found.is_empty() {
        verdict.flags.push(words::PRESSURE_NOT_NOTED_LEAK.to_owned());
    }
    Ok(verdict.closed())
}
