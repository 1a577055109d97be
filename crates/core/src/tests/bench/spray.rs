//! `spray`: the picture of each spray, in words that go with sketches of our own.
//!
//! # Source
//! House rule: a picture alone asks for cleaning or a closer look; it replaces no flow.

mod words;

use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::caution;
use crate::mark::Mark;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::choice;
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::words::injectors;

crate::said::outcomes! {
    SPRAY_JET = spray_jet,
    SPRAY_RUNS_ON = spray_runs_on,
    SPRAY_OFF = spray_off,
    SPRAY_EVEN = spray_even,
}

const PATTERN: &[&str] = &["even mist", "streaks", "one solid jet", "nothing"];
const CONE: &[&str] = &["as expected", "narrow", "wide"];
const SYMMETRY: &[&str] = &["even all round", "to one side"];
const TAIL: &[&str] = &["none", "thick core", "ragged edge"];
const DRIBBLE: &[&str] = &["none", words::DROP_AFTER_CLOSING, "keeps running"];

/// Answers against it, and what each speaks for.
const AGAINST: &[(&str, usize, Mark, Code, &str)] = &[
    ("pattern", 3, Mark::Questioned, Code::DOUBTFUL, words::NO_SPRAY_PROVE_DRIVEN),
    ("dribble", 2, Mark::TooMuch, outcomes::SPRAY_RUNS_ON, words::KEEPS_RUNNING_AFTER_CLOSING),
    ("pattern", 2, Mark::TooLittle, outcomes::SPRAY_JET, words::SOLID_JET_BLOCKED_HOLES),
    ("pattern", 1, Mark::Look, outcomes::SPRAY_OFF, words::STREAKS_DEPOSITS_HOLES),
    ("symmetry", 1, Mark::Look, outcomes::SPRAY_OFF, words::ONE_SIDE_BLOCKED_HOLES),
    ("cone", 1, Mark::Look, outcomes::SPRAY_OFF, words::NARROW_CONE_LOW_PRESSURE),
    ("cone", 2, Mark::Look, outcomes::SPRAY_OFF, words::WIDE_CONE_WORN_TIP),
    ("tail", 1, Mark::Look, outcomes::SPRAY_OFF, words::THICK_CORE_LARGE_DROPS),
    ("tail", 2, Mark::Look, outcomes::SPRAY_OFF, words::RAGGED_EDGE_DEPOSITS),
    ("dribble", 1, Mark::Look, outcomes::SPRAY_OFF, words::DROP_AFTER_CLOSING_LEAK),
];

pub(super) const SPEC: Spec = Spec {
    title: "Spray record",
    short: "Spray",
    says: words::BEHIND_SHIELD_OPERATING_PRESSURE,
    cautions: &[caution::SPRAY, caution::BENCH],
    kinds: &[BenchKind::Petrol, BenchKind::Doser],
    pulses: true,
    rows: Rows::None,
    set: &[],
    row: &[],
    each: &[
        choice("pattern", "Pattern", PATTERN).sound(0),
        choice("cone", "Cone", CONE).sound(0),
        choice("symmetry", "Symmetry", SYMMETRY).sound(0),
        choice("tail", "Tail", TAIL).sound(0),
        choice("dribble", "Dribble", DRIBBLE).sound(0),
    ],
    tubes: &[],
    property: Property::PASSES,
    table: include_str!("spray.toml"),
    judge,
};

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let lanes = lanes(ctx, |tag| {
        let chosen = |name: &str| ctx.of(BenchTest::Spray, None, tag, name).map(|v| v as usize);
        let read = SPEC.each.iter().any(|cell| chosen(cell.name).is_some());
        let against: Vec<_> =
            AGAINST.iter().filter(|(name, n, ..)| chosen(name) == Some(*n)).collect();
        let lane = match against.first() {
            None => Lane::new(tag, Mark::Inside, "even", words::NO_FAULT_SEEN_SPRAY)
                .says(outcomes::SPRAY_EVEN),
            Some((name, n, mark, code, says)) => {
                let cell = SPEC.each.iter().find(|cell| cell.name == *name);
                let word = cell.and_then(|c| c.choices().get(*n)).copied().unwrap_or("seen");
                Lane::new(tag, *mark, word, *says)
                    .says(*code)
                    .then(words::CLEANED_SPRAYED_AGAIN_SAME)
            }
        };
        read.then(|| lane.because(against.iter().map(|a| Because::says(a.4))))
    });
    let bad = marked(&lanes, &[Mark::TooMuch, Mark::TooLittle, Mark::Look, Mark::Questioned]);
    let headline = match bad.as_slice() {
        [] if marked(&lanes, &[Mark::Inside]).is_empty() => words::NO_SPRAY_RECORDED_YET.to_owned(),
        [] => words::EVEN_SPRAY_EVERY_ONE.to_owned(),
        bad => words::spray_fault(injectors(bad)),
    };
    Ok(Verdict { headline, lanes, ..Verdict::default() }.closed())
}
