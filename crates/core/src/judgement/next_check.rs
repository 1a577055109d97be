//! The next check: what would tell most for each minute, with what is at hand and what is safe.
//!
//! The information of a check on a cause is the entropy of the belief minus the mean entropy after
//! each of its findings, bits; summed over causes and places that it has not spoken about yet.
//! Minutes are those of the check, more where it runs an engine or opens high pressure, and the
//! time to get the first injector onto a bench. Checks that a person left out are not proposed.
//!
//! # Source
//! Shannon entropy; house rule for minutes.

use super::cause::{Cause, With};
use super::finding::Finding;
use super::rank::{Belief, Place};
use super::weights::{CheckRow, Weights, chance};
use crate::instrument::InstrumentKind;
use crate::plan::{Plan, StepState};
use crate::record::JobFile;
use crate::work::cylinders;
use serde::Serialize;
use utoipa::ToSchema;

/// Minutes that a hazard counts for: none, care, a running engine, a jet or a charge at hand.
const HAZARD_MINUTES: [f64; 4] = [0.0, 2.0, 6.0, 12.0];
/// Less than this tells nothing, bits.
const TELLS: f64 = 0.02;
/// Proposed at once.
const MOST: usize = 5;

/// What a check that waits for another counts for, and one whose instrument is not at hand or not
/// to be trusted (house rule): still named, behind what can be done now.
const WAITS: f64 = 0.1;
const LACKS: f64 = 0.1;

/// An instrument of the workshop, as far as the next check asks about it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Tool {
    /// What it is.
    pub kind: InstrumentKind,
    /// Its calibration has run out.
    pub overdue: bool,
}

/// A check that could come next.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NextCheck {
    /// Its name in the weights.
    pub id: String,
    /// As read.
    pub title: String,
    /// The step of the plan that it belongs to.
    pub step: String,
    /// Expected information, bits.
    pub bits: f64,
    /// Minutes that it takes.
    pub minutes: f64,
    /// Minutes that it counts as, with hazard and removal.
    pub counted_minutes: f64,
    /// What has to be at hand.
    pub needs: String,
    /// Why this one.
    pub why: String,
}

/// A check that was left out, and why.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct LeftOut {
    /// As read.
    pub title: String,
    /// In words.
    pub why: String,
}

/// What its instrument lacks, if the workshop keeps a list of them at all.
fn lacks(check: &CheckRow, tools: &[Tool]) -> Option<String> {
    let kind = check.instrument.filter(|_| !tools.is_empty())?;
    let held: Vec<&Tool> = tools.iter().filter(|tool| tool.kind == kind).collect();
    let word = match kind {
        InstrumentKind::Meter => "meter",
        InstrumentKind::Gauge => "pressure gauge",
        InstrumentKind::Bottles => "set of bottles",
        InstrumentKind::Bench => "bench",
        InstrumentKind::Timer => "timer",
    };
    match held.as_slice() {
        [] => Some(format!("the list of instruments has no {word}.")),
        held if held.iter().all(|tool| tool.overdue) => {
            Some(format!("the calibration of every {word} has run out."))
        }
        _ => None,
    }
}

/// Entropy of a yes-or-no belief, bits.
fn entropy(p: f64) -> f64 {
    let side = |p: f64| if p <= 0.0 || p >= 1.0 { 0.0 } else { -p * p.log2() };
    side(p) + side(1.0 - p)
}

/// Information of a check on one cause, bits.
fn information(check: &CheckRow, cause: Cause, p: f64) -> f64 {
    let (mut after, mut rest_with, mut rest_without) = (0.0, 1.0, 1.0);
    let mut add = |with: f64, without: f64| {
        let seen = p * with + (1.0 - p) * without;
        if seen > 0.0 {
            after += seen * entropy(p * with / seen);
        }
    };
    for find in &check.finds {
        let (with, without) = (chance(check, find, cause), find.usual / 100.0);
        rest_with -= with;
        rest_without -= without;
        add(with, without);
    }
    add(rest_with.max(0.0), rest_without.max(0.0));
    (entropy(p) - after).max(0.0)
}

/// Everything that could come next, most telling for a minute first; and what was left out.
pub(super) fn next(
    weights: &Weights,
    file: &JobFile,
    plan: &Plan,
    findings: &[Finding],
    places: &[(Place, Belief)],
    tools: &[Tool],
) -> (Vec<NextCheck>, Vec<LeftOut>) {
    let fuel = file.job.intake.fuel_system;
    let (mut proposed, mut left_out) = (Vec::<(f64, NextCheck)>::new(), Vec::new());
    for check in weights.checks().iter().filter(|c| !c.step.is_empty() && c.fits.contains(&fuel)) {
        let step = plan.steps.iter().find(|step| step.id.0 == check.step);
        if let Some(step) = step.filter(|step| step.state == StepState::Skipped) {
            let one = LeftOut { title: check.title.clone(), why: step.says.clone() };
            if !left_out.contains(&one) {
                left_out.push(one);
            }
            continue;
        }
        let on_bench = check.step == "bench";
        let bits = told(weights, check, findings, places);
        if bits < TELLS {
            continue;
        }
        let removal = if on_bench && file.bench.is_empty() { weights.removal() } else { 0.0 };
        let hazard = HAZARD_MINUTES.get(usize::from(check.hazard)).copied().unwrap_or_default();
        let counted = check.minutes + hazard + removal;
        let (cause, share) = most(check, places);
        let mut why = format!(
            "Tells most about: {} ({:.0} % of what it tells). {bits:.2} bits in {counted:.0} min",
            weights.word(cause),
            100.0 * share
        );
        if removal > 0.0 {
            why.push_str(&format!(", {removal:.0} of them to get it out"));
        }
        if hazard > 0.0 {
            why.push_str(&format!(", {hazard:.0} for the hazard"));
        }
        why.push('.');
        if let Some(step) = step.filter(|step| step.state == StepState::Waits) {
            why.push_str(&format!(" But: {}", step.says));
        }
        let lacks = lacks(check, tools);
        if let Some(lacks) = &lacks {
            why.push_str(&format!(" But: {lacks}"));
        }
        let waits = step.is_some_and(|step| step.state == StepState::Waits);
        let worth = if waits { WAITS } else { 1.0 } * if lacks.is_some() { LACKS } else { 1.0 };
        let rate = bits / counted * worth;
        let one = NextCheck {
            id: check.id.clone(),
            title: check.title.clone(),
            step: check.step.clone(),
            bits,
            minutes: check.minutes,
            counted_minutes: counted,
            needs: check.needs.clone(),
            why,
        };
        // Two rows of one step are one piece of work: the more telling one stands for it.
        match proposed.iter_mut().find(|(_, held)| held.step == one.step && !on_bench) {
            Some(held) if held.0 < rate => *held = (rate, one),
            Some(_) => {}
            None => proposed.push((rate, one)),
        }
    }
    proposed.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.id.cmp(&b.1.id)));
    (proposed.into_iter().map(|(_, one)| one).take(MOST).collect(), left_out)
}

/// Puts the checks that decisions wait for before the others.
pub(super) fn waited_for(next: &mut Vec<NextCheck>, weights: &Weights, asked: &[(u32, String)]) {
    let mut ids: Vec<&str> = asked.iter().map(|(_, id)| id.as_str()).collect();
    ids.sort_unstable();
    ids.dedup();
    for id in ids {
        let Some(check) = weights.checks().iter().find(|check| check.id == id) else { continue };
        let of: Vec<u32> = asked.iter().filter(|(_, held)| held == id).map(|(c, _)| *c).collect();
        let at = next.iter().position(|one| one.id == id);
        let held = at.map(|at| next.remove(at));
        let hazard = HAZARD_MINUTES.get(usize::from(check.hazard)).copied().unwrap_or_default();
        next.insert(
            0,
            NextCheck {
                id: id.to_owned(),
                title: format!("{}, once more", check.title),
                step: check.step.clone(),
                bits: held.map_or(0.0, |held| held.bits),
                minutes: check.minutes,
                counted_minutes: check.minutes + hazard,
                needs: check.needs.clone(),
                why: format!("The decision about {} waits for it.", cylinders(&of).to_lowercase()),
            },
        );
    }
    next.truncate(MOST);
}

/// What a check would tell of all places that it has not spoken about.
fn told(
    weights: &Weights,
    check: &CheckRow,
    findings: &[Finding],
    places: &[(Place, Belief)],
) -> f64 {
    let mut bits = 0.0;
    for (place, belief) in places {
        let read = |f: &&Finding| {
            // A return test that still lacks runs has not said its last word.
            f.code.is_some()
                && (f.would.is_empty() || f.check != "return_test")
                && f.check == check.id
                && (f.injector == Some(place.injector)
                    || f.cylinder == Some(place.cylinder)
                    || f.cylinder.is_none())
        };
        if findings.iter().any(|f| read(&f)) {
            continue;
        }
        for cause in Cause::ALL.iter().copied() {
            let share = match weights.with(cause) {
                With::Injector | With::Cylinder => 1.0,
                // Of what all share it tells once, not once for each place.
                With::All => 1.0 / places.len() as f64,
            };
            bits += share * information(check, cause, belief.of(cause));
        }
    }
    bits
}

/// The cause that it tells most about, and its share of all.
fn most(check: &CheckRow, places: &[(Place, Belief)]) -> (Cause, f64) {
    let of = |cause: Cause| -> f64 {
        places.iter().map(|(_, belief)| information(check, cause, belief.of(cause))).sum()
    };
    let each: Vec<(Cause, f64)> = Cause::ALL.iter().map(|cause| (*cause, of(*cause))).collect();
    let total: f64 = each.iter().map(|(_, bits)| bits).sum();
    let first = each.into_iter().reduce(|best, one| if one.1 > best.1 { one } else { best });
    let (cause, bits) = first.unwrap_or((Cause::Restricted, 0.0));
    (cause, if total > 0.0 { bits / total } else { 0.0 })
}
