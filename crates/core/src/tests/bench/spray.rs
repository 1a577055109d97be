//! `spray`: the picture of each spray, in words that go with sketches of our own.
//!
//! # Source
//! House rule: a picture alone asks for cleaning or a closer look; it replaces no flow.

use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::caution;
use crate::mark::Mark;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::choice;
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::words::{by_number, injectors};

crate::said::outcomes! {
    SPRAY_JET = spray_jet,
    SPRAY_RUNS_ON = spray_runs_on,
    SPRAY_OFF = spray_off,
    SPRAY_EVEN = spray_even,
}

const PATTERN: &[&str] = &["even mist", "streaks", "one solid jet", "nothing"];
const CONE: &[&str] = &["as it should", "narrow", "wide"];
const SYMMETRY: &[&str] = &["even all round", "to one side"];
const TAIL: &[&str] = &["none", "thick core", "ragged edge"];
const DRIBBLE: &[&str] = &["none", "a drop after closing", "runs on"];

/// Answers against it, and what each speaks for.
const AGAINST: &[(&str, usize, Mark, Code, &str)] = &[
    (
        "pattern",
        3,
        Mark::Questioned,
        Code::DOUBTFUL,
        "Nothing comes: prove that it is driven before it is condemned.",
    ),
    (
        "dribble",
        2,
        Mark::TooMuch,
        outcomes::SPRAY_RUNS_ON,
        "It runs on after closing: the seat does not close.",
    ),
    ("pattern", 2, Mark::TooLittle, outcomes::SPRAY_JET, "A solid jet: holes or plate blocked."),
    ("pattern", 1, Mark::Look, outcomes::SPRAY_OFF, "Streaks: deposits at the holes."),
    (
        "symmetry",
        1,
        Mark::Look,
        outcomes::SPRAY_OFF,
        "To one side: some holes are blocked, or the tip is damaged.",
    ),
    ("cone", 1, Mark::Look, outcomes::SPRAY_OFF, "A narrow cone: little pressure, or deposits."),
    ("cone", 2, Mark::Look, outcomes::SPRAY_OFF, "A wide cone: a worn tip, or too much pressure."),
    ("tail", 1, Mark::Look, outcomes::SPRAY_OFF, "A thick core: fuel in drops, not in mist."),
    ("tail", 2, Mark::Look, outcomes::SPRAY_OFF, "A ragged edge: deposits."),
    ("dribble", 1, Mark::Look, outcomes::SPRAY_OFF, "A drop after closing: the leak check tells."),
];

pub(super) const SPEC: Spec = Spec {
    title: "Spray record",
    short: "Spray",
    says: "Behind the shield, at operating pressure: the picture of each in words.",
    cautions: &[caution::SPRAY, caution::BENCH],
    kinds: &[BenchKind::Petrol, BenchKind::Doser],
    pulses: true,
    rows: Rows::None,
    set: &[],
    row: &[],
    each: &[
        choice("pattern", "Pattern", PATTERN),
        choice("cone", "Cone", CONE),
        choice("symmetry", "Symmetry", SYMMETRY),
        choice("tail", "Tail", TAIL),
        choice("dribble", "Dribble", DRIBBLE),
    ],
    tubes: &[],
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
            None => Lane::new(tag, Mark::Inside, "even", "Nothing against the picture.")
                .says(outcomes::SPRAY_EVEN),
            Some((name, n, mark, code, says)) => {
                let cell = SPEC.each.iter().find(|cell| cell.name == *name);
                let word = cell.and_then(|c| c.choices().get(*n)).copied().unwrap_or("seen");
                Lane::new(tag, *mark, word, *says)
                    .says(*code)
                    .then("Cleaned, and the picture taken again at the same pressure.")
            }
        };
        read.then(|| lane.because(against.iter().map(|a| Because::says(a.4))))
    });
    let bad = marked(&lanes, &[Mark::TooMuch, Mark::TooLittle, Mark::Look, Mark::Questioned]);
    let headline = match bad.as_slice() {
        [] if marked(&lanes, &[Mark::Inside]).is_empty() => "No picture recorded yet.".to_owned(),
        [] => "Every picture that was recorded is even.".to_owned(),
        bad => format!(
            "{}: the picture speaks against {}.",
            injectors(bad),
            by_number(bad.len(), "it", "them")
        ),
    };
    Ok(Verdict { headline, lanes, ..Verdict::default() }.closed())
}
