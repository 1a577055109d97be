//! `cleaning`: what a cleaning did, injector by injector, proven by the repeat of the flow.
//!
//! Gain = flow after ÷ flow before − 1, both at the reference of the house, regime by regime. The
//! reading furthest from the others before the first cleaning leads: cleaned, still restricted,
//! worn (passes more than new), or not worth another cycle, and why. Age shifts the odds, it is
//! never a verdict. Rounds under other conditions are corrected with a label, or not compared.
//!
//! # Source
//! House rules ([`RuleId::CleaningBack`], [`RuleId::CleaningGain`], [`RuleId::CleaningCycles`]).

mod compared;
mod words;

use super::compare::percent;
use super::ctx::Ctx;
use super::record::RoundStage;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::caution;
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::{cell, choice};
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Verdict, coded};
use crate::typed::Field;
use crate::words::injectors;
use compared::{Pair, pairs};

crate::said::outcomes! {
    CAME_BACK = came_back,
    WAS_GOOD = was_good,
    STILL_RESTRICTED = still_restricted,
    NO_MORE_CYCLES = no_more_cycles,
    CLEANED_WORSE = cleaned_worse,
    WORN_AFTER_CLEANING = worn_after_cleaning,
}

/// The cell in which an injector is said not to have been cleaned with the others.
pub(super) const SKIPPED: &str = "left_out";
const DONE: &[&str] = &["not done", "done"];
const FLUIDS: &[&str] = &["water-based", "solvent", "acid", "another"];
/// Places in that list that the bath has to be warned of.
const SOLVENT: f64 = 1.0;
const ACID: f64 = 2.0;

pub(super) const SPEC: Spec = Spec {
    title: "Cleaning",
    short: "Clean",
    says: words::STEP_STEP_COIL_PULSED,
    cautions: &[caution::BATH, caution::ACID, caution::WASTE],
    kinds: &[BenchKind::Petrol, BenchKind::Doser],
    pulses: false,
    rows: Rows::None,
    set: &[
        choice("fluid", "Cleaning fluid", FLUIDS).preset(),
        choice("soak", "Soaked", DONE),
        choice("bath", "Ultrasonic bath, pulsed", DONE),
        choice("back_flush", "Back-flushed", DONE),
        choice("baskets", "New filter baskets", DONE),
        choice("seals", "New seals", DONE),
        choice("caps", "New caps", DONE),
        cell("minutes", "Time in bath", Field::above_zero("min", 0.5, 600.0)).preset(),
        cell("cleaner", "Cleaner used", Field::from_zero("ml", 20_000.0)).more(),
    ],
    row: &[],
    each: &[choice(SKIPPED, "Cleaned", &["yes", "skipped"])],
    tubes: &[],
    property: Property::PASSES,
    table: include_str!("cleaning.toml"),
    judge,
};

/// Odds that a restriction is wear and not dirt, before age says anything (house rule).
const ODDS_WORN: f64 = 0.25;

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let pairs = pairs(ctx)?;
    let cycles =
        (0..=ctx.round).filter(|at| ctx.session.rounds[*at].stage == RoundStage::Cleaned).count();
    let mut verdict =
        Verdict { lanes: lanes(ctx, |tag| lane(ctx, &pairs, tag, cycles)), ..Verdict::default() };
    verdict.flags.extend(pairs.label.clone());
    let of = |codes: &[Code]| coded(&verdict.lanes, codes);
    let (again, worn) = (of(&[outcomes::STILL_RESTRICTED]), of(&[outcomes::WORN_AFTER_CLEANING]));
    let enough = of(&[outcomes::NO_MORE_CYCLES, outcomes::CLEANED_WORSE]);
    let cleaned = of(&[outcomes::CAME_BACK]);
    let mut says = Vec::new();
    for (tags, word) in [
        (&cleaned, words::RECOVERED),
        (&again, words::STILL_RESTRICTED_REPEAT),
        (&enough, words::NOT_RESTORED_CLEANING),
        (&worn, words::TOO_MUCH_FLOW_WORN),
    ] {
        if !tags.is_empty() {
            says.push(format!("{}: {word}.", injectors(tags)));
        }
    }
    verdict.headline = match (&pairs.refused, says.is_empty()) {
        (Some(refused), _) => words::before_after_cannot_compared(refused),
        (None, true) if pairs.of.is_empty() => words::REPEAT_SAME_REGIMES_SEE.to_owned(),
        (None, true) => words::NO_RESTRICTION_BEFORE_AFTER.to_owned(),
        (None, false) => says.join(" "),
    };
    let not_to: Vec<&str> = ctx
        .session
        .setup
        .families
        .iter()
        .filter(|family| family.detail.cleaning == Some(false))
        .map(|family| family.name.as_str())
        .collect();
    if !not_to.is_empty() {
        verdict.flags.push(words::not_clean_says_library(not_to.join(", ")));
    }
    let done = |name: &str| ctx.set(BenchTest::Cleaning, name) == Some(1.0);
    if done("bath") && ctx.carried(BenchTest::Drive, "drive").is_none() {
        verdict.flags.push(words::PULSED_BATH_NO_DRIVER.to_owned());
    }
    let fluid = ctx.set(BenchTest::Cleaning, "fluid");
    if done("bath") && fluid == Some(SOLVENT) {
        verdict.flags.push(words::SOLVENT_BATH_NEVER_HEATED.to_owned());
    }
    if fluid == Some(ACID) {
        verdict.flags.push(words::ACID_ATTACKS_METAL.to_owned());
    }
    if done("bath") && !done("back_flush") {
        verdict.advice.push(words::LOOSENED_DIRT_STILL_INSIDE.to_owned());
    }
    if (done("bath") || done("back_flush"))
        && !done("baskets")
        && ctx.session.setup.kind == BenchKind::Petrol
    {
        verdict.advice.push(words::FIT_NEW_BASKETS_AFTER.to_owned());
    }
    Ok(verdict.closed())
}

fn lane(ctx: &Ctx<'_>, pairs: &compared::Pairs, tag: u32, cycles: usize) -> Option<Lane> {
    if ctx.of(BenchTest::Cleaning, None, tag, "left_out") == Some(1.0) {
        return Some(Lane::new(tag, Mark::NotMeasured, "skipped", words::NOT_CLEANED));
    }
    // The regime that was furthest from the others before the first cleaning speaks.
    let pair = pairs
        .of
        .iter()
        .filter(|p| p.tag == tag)
        .max_by(|a, b| a.first_off().abs().total_cmp(&b.first_off().abs()))?;
    let back = ctx.rules.share(RuleId::CleaningBack);
    let worth = ctx.rules.share(RuleId::CleaningGain);
    let own = ctx.family(tag).and_then(|f| f.detail.cleaning_cycles);
    let most = own.unwrap_or_else(|| ctx.rules.get(RuleId::CleaningCycles));
    let Some(now) = pair.now_off else {
        return Some(
            Lane::new(tag, Mark::Undecided, "inconclusive", words::NO_REFERENCE_AFTER_CLEANING)
                .because(arithmetic(pair)),
        );
    };
    let cycle = if cycles == 1 { "one cycle".to_owned() } else { format!("{cycles} cycles") };
    let small = pair.gain.abs() < worth.max(2.0 * pair.u_gain);
    let was_low = pair.first_off() < -back;
    let worse = pair.gain < 0.0 && -pair.gain > 2.0 * pair.u_gain && cycles >= 2;
    let (mark, code, word, sentence, next) = if now > back && pair.dirty_others {
        (
            Mark::Undecided,
            Code::NO_REFERENCE,
            "others dirty",
            words::flows_against_others_not(percent(now)),
            words::OTHERS_CLEANED_TOO_LIMIT,
        )
    } else if now > back {
        (
            Mark::TooMuch,
            outcomes::WORN_AFTER_CLEANING,
            "worn",
            words::flows_against_more_new(percent(now), pair.against),
            words::NO_FURTHER_CYCLE_MATCH,
        )
    } else if now >= -back && was_low {
        (
            Mark::Inside,
            outcomes::CAME_BACK,
            "cleaned",
            words::recovered(percent(pair.first_off()), percent(now), &cycle),
            "",
        )
    } else if now >= -back {
        (Mark::Inside, outcomes::WAS_GOOD, "was good", words::LINE_OTHERS_BEFORE_NOW.to_owned(), "")
    } else if worse {
        (
            Mark::TooLittle,
            outcomes::CLEANED_WORSE,
            "got worse",
            words::still_last_cycle_lost(percent(now), percent(-pair.gain)),
            words::NO_FURTHER_CYCLE_REPLACE,
        )
    } else if small {
        (
            Mark::TooLittle,
            outcomes::NO_MORE_CYCLES,
            "no more cycles",
            words::still_last_cycle_gained(percent(now), percent(pair.gain)),
            words::NO_FURTHER_CYCLE_REPLACE,
        )
    } else if cycles as f64 >= most {
        (
            Mark::TooLittle,
            outcomes::NO_MORE_CYCLES,
            "no more cycles",
            words::still_after_maximum_here(percent(now), &cycle, trimmed(most)),
            words::REPLACE_CHANGE_WORKSHOP_RULE,
        )
    } else {
        (
            Mark::TooLittle,
            outcomes::STILL_RESTRICTED,
            "still restricted",
            words::improving_repeat(percent(pair.first_off()), percent(now)),
            words::ANOTHER_CYCLE_SAME_REGIMES,
        )
    };
    let mut lane = Lane::new(tag, mark, word, sentence)
        .says(code)
        .off(pair.gain, pair.u_gain)
        .shown(percent(pair.gain))
        .because(arithmetic(pair))
        .because(pairs.label.iter().map(|label| Because::says(label.as_str())))
        .because(age(ctx, tag));
    let rules = [RuleId::CleaningBack, RuleId::CleaningGain, RuleId::CleaningCycles];
    lane = lane.because(ctx.rules.reasons(&rules).into_iter().map(Because::says));
    Some(if next.is_empty() { lane } else { lane.then(next) })
}

fn arithmetic(pair: &Pair) -> Vec<Because> {
    vec![
        Because::shows(
            words::gain_cycle(&pair.regime),
            format!(
                "{} ÷ {} − 1 = {} ± {:.1} %",
                pair.after,
                pair.before,
                percent(pair.gain),
                pair.u_gain * 100.0
            ),
        ),
        Because::says(words::against_first_now(
            pair.against,
            percent(pair.first_off()),
            pair.now_off.map_or_else(|| "not known".to_owned(), percent),
        )),
    ]
}

/// What its age says: odds, never a verdict.
fn age(ctx: &Ctx<'_>, tag: u32) -> Option<Because> {
    let run = (0..=ctx.round)
        .rev()
        .find_map(|round| ctx.at(round).of(BenchTest::Visual, None, tag, "hours"))?;
    let life = ctx.family(tag)?.detail.service_life_h?;
    // At half its life the odds stand as they are; each further half life triples them.
    let odds = ODDS_WORN * 3.0_f64.powf((run / life - 0.5) / 0.5);
    Some(Because::shows(
        words::AGE_SHIFTS_ODDS_BETWEEN,
        words::h_odds(trimmed(run), trimmed(life), odds),
    ))
}
