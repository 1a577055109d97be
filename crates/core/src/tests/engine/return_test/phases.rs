//! What a return test says over its phases and banks, and of a cranking engine as a whole.
//!
//! In a stepped test every phase is judged by itself; the one that condemns most leads, the others
//! stand beside it. Banks that were run one after the other are compared as wholes. While
//! cranking, the sum of all returns is held against what the pump can spare.

use super::{ReturnTest, Row, Verdict, judge};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::mark::Mark;
use crate::quantity::Celsius;
use crate::said::{Code, Said};
use crate::tests::engine::return_test::words;
use crate::tests::outcomes;
use crate::units::{self, C, ML_MIN};
use crate::words::list;
use crate::work::{Phase, Regime};

/// Judges a return test with its phases and banks.
///
/// # Errors
/// As [`judge`].
pub fn judge_phases(test: &ReturnTest) -> Result<Verdict, CalcError> {
    let judged = Phase::ALL
        .into_iter()
        .filter(|phase| test.runs.iter().any(|run| run.phase == Some(*phase)))
        .map(|phase| {
            let runs = test.runs.iter().filter(|run| run.phase == Some(phase)).cloned();
            let alone = ReturnTest { runs: runs.collect(), ..test.clone() };
            judge(&alone).map(|verdict| (phase, verdict))
        })
        .collect::<Result<Vec<_>, _>>()?;
    let mut verdict = match leading(&judged) {
        None => judge(test)?,
        Some(at) => {
            let (phase, mut verdict) = judged[at].clone();
            verdict.headline = format!("At {}: {}", phase.word(), lower_first(&verdict.headline));
            verdict.advice.extend(over_phases(&judged, test.rules.look));
            let rows = judged.iter().enumerate().map(|(i, one)| of_phase(one, i == at));
            verdict.rows = rows.collect();
            verdict
        }
    };
    verdict.flags.extend(temperature(test, &verdict));
    verdict.advice.extend(over_banks(test, &verdict));
    if let Some((said, says)) = crank(test, &verdict)? {
        let over = said.as_ref().is_some_and(|said| said.code == outcomes::CRANK_OVER_SPARE);
        if over && verdict.lanes.iter().all(|lane| lane.mark == Mark::Inside) {
            together(&mut verdict, &says);
        }
        verdict.advice.insert(0, says);
        verdict.shared = said;
    }
    Ok(verdict)
}

/// The phase that condemns most; of equals the one under most load.
fn leading(judged: &[(Phase, Verdict)]) -> Option<usize> {
    let weight = |verdict: &Verdict| -> u32 {
        verdict
            .lanes
            .iter()
            .map(|lane| match lane.mark {
                Mark::TooMuch | Mark::TooLittle => 16,
                Mark::Questioned | Mark::Undecided => 4,
                Mark::Look => 2,
                Mark::Inside => 1,
                Mark::NotMeasured => 0,
            })
            .sum()
    };
    let load = |phase: Phase| match phase {
        Phase::Idle => 1,
        Phase::Raised => 2,
        Phase::IdleAgain => 0,
    };
    (0..judged.len()).max_by_key(|i| (weight(&judged[*i].1), load(judged[*i].0)))
}

fn of_phase((phase, verdict): &(Phase, Verdict), leads: bool) -> Row {
    Row {
        row: Phase::ALL.iter().position(|one| one == phase).map_or(0, |at| at as u32 + 1),
        name: phase.word().to_owned(),
        says: verdict.headline.clone(),
        unit: verdict.unit.clone(),
        leads,
        window: verdict.window,
        lanes: verdict.lanes.clone(),
        ..Row::default()
    }
}

/// What the phases say together: bad under load only, bad everywhere, or moved by the test itself.
fn over_phases(judged: &[(Phase, Verdict)], look: f64) -> Vec<String> {
    let of = |phase: Phase| judged.iter().find(|(p, _)| *p == phase).map(|(_, v)| v);
    let high = |verdict: Option<&Verdict>| -> Vec<u32> {
        let lanes = verdict.into_iter().flat_map(|v| &v.lanes);
        lanes.filter(|l| matches!(l.mark, Mark::TooMuch | Mark::Look)).map(|l| l.place).collect()
    };
    let (idle, raised, again) = (of(Phase::Idle), of(Phase::Raised), of(Phase::IdleAgain));
    let (at_idle, at_raised) = (high(idle), high(raised));
    let mut says = Vec::new();
    if idle.is_some() && raised.is_some() {
        let only: Vec<u32> = at_raised.iter().copied().filter(|c| !at_idle.contains(c)).collect();
        let both: Vec<u32> = at_raised.iter().copied().filter(|c| at_idle.contains(c)).collect();
        if !only.is_empty() {
            says.push(words::only_raised_speed_leak(list(&only)));
        }
        if !both.is_empty() {
            says.push(words::same_idle_raised_speed(list(&both)));
        }
    } else {
        says.push(words::STEPPED_TEST_NEEDS_READINGS.to_owned());
    }
    let reference = |verdict: Option<&Verdict>| verdict.and_then(|v| v.reference);
    if let (Some(before), Some(after)) = (reference(idle), reference(again)) {
        let moved = after / before - 1.0;
        if moved.abs() > look {
            says.push(words::idle_changed_first_last(100.0 * moved));
        }
    }
    says
}

/// Banks that were run alone, compared as wholes.
fn over_banks(test: &ReturnTest, verdict: &Verdict) -> Option<String> {
    if !test.runs.iter().any(|run| run.bank.is_some()) || test.banks.len() < 2 {
        return None;
    }
    let middle = |bank: &Vec<u32>| {
        let lanes = verdict.lanes.iter().filter(|l| bank.contains(&l.place));
        let mut rates: Vec<f64> = lanes.filter_map(|l| l.value).collect();
        rates.sort_by(f64::total_cmp);
        rates.get(rates.len() / 2).copied().filter(|rate| *rate > 0.0)
    };
    let (Some(first), Some(second)) = (middle(&test.banks[0]), middle(&test.banks[1])) else {
        return Some(words::ONLY_ONE_BANK_READ.to_owned());
    };
    let share = second / first - 1.0;
    (share.abs() > test.rules.look).then(|| words::second_bank_whole_first(100.0 * share))
}

/// All returns together against what the pump can spare.
fn crank(
    test: &ReturnTest,
    verdict: &Verdict,
) -> Result<Option<(Option<Said>, String)>, CalcError> {
    match test.regime {
        Regime::Cranking => {}
        Regime::IdleOnly | Regime::Stepped => return Ok(None),
    }
    let rates: Vec<f64> = verdict.lanes.iter().filter_map(|l| l.value).collect();
    if rates.len() < test.cylinders.len() {
        return Ok(None);
    }
    let total: f64 = rates.iter().sum();
    let u = verdict.lanes.iter().filter_map(|l| l.u).fold(0.0, f64::hypot);
    let total_shown = units::carried(total, u, ML_MIN);
    let Some(spare) = test.pump_spare_ml_min else {
        let says = words::total_leak_off_ml(&total_shown);
        return Ok(Some((None, says)));
    };
    let out = decide(&DecideInput {
        value: total,
        u,
        upper: Some(spare),
        confidence: Some(test.rules.confidence),
        ..DecideInput::default()
    })?;
    let code = match out.state {
        LimitState::Above => outcomes::CRANK_OVER_SPARE,
        LimitState::Undecided => Code::TOO_CLOSE,
        LimitState::Within | LimitState::Below => outcomes::CRANK_WITHIN_SPARE,
    };
    let said = Said::new(code).off(total - spare, u);
    let spare = units::number(spare, ML_MIN);
    let says = match out.state {
        LimitState::Above => words::total_leak_off_ml_min(&total_shown, &spare),
        LimitState::Undecided => words::total_leak_off_ml_min_pumps(&total_shown, &spare),
        LimitState::Within | LimitState::Below => {
            words::total_leak_off_ml_min_pumps_spare(&total_shown, &spare)
        }
    };
    Ok(Some((Some(said), says)))
}

/// Alike, and together too much for the pump: none of them is released by being like the others.
fn together(verdict: &mut Verdict, says: &str) {
    words::ALL_ALIKE_TOGETHER_MORE.clone_into(&mut verdict.headline);
    for lane in &mut verdict.lanes {
        lane.mark = Mark::Questioned;
        lane.said.code = Code::ALL_ALIKE_OFF;
        "all together".clone_into(&mut lane.word);
        says.clone_into(&mut lane.sentence);
        lane.would_change.insert(0, words::FUEL_TEMPERATURE_PUMPS_FIGURE.to_owned());
    }
}

fn temperature(test: &ReturnTest, verdict: &Verdict) -> Option<String> {
    if verdict.runs == 0 {
        return None;
    }
    match (test.regime, test.temperature_c) {
        (Regime::Cranking, _) => None,
        (Regime::IdleOnly | Regime::Stepped, None) => {
            Some(words::TEMPERATURE_NOT_MEASURED_TEST.to_owned())
        }
        (Regime::IdleOnly | Regime::Stepped, Some(Celsius(t))) => (t < test.rules.warm_from_c)
            .then(|| {
                words::cold_test_c_warm(units::said(t, C), units::said(test.rules.warm_from_c, C))
            }),
    }
}

fn lower_first(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map(|c| c.to_lowercase().chain(letters).collect()).unwrap_or_default()
}
