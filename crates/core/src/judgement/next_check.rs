//! The next check: what would settle most actions for each minute, with what is at hand, safe, and
//! can be done at all.
//!
//! The chance of a wrong action at a place, `1 − Σ P(action)²`, is what is left open there. What a
//! check would settle is the expected fall of that chance over its outcomes, summed over all
//! places that it has not spoken about. Minutes are those of the check; what a hazard and the
//! removal of the first injector cost is stated apart and weighed with them. A check that a person
//! left out, that cannot be done (running an engine that does not start, or on the wrong fuel) or
//! that would settle nothing is not proposed.
//!
//! # Source
//! Heckerman, Breese and Rommelse (1995) on expected cost of repair; Brier (1950) for the square;
//! house rule for minutes.

mod ask;
mod left_out;
mod swap;
mod waited;

use super::cause::Cause;
use super::evidence::Gathered;
use super::finding::Finding;
use super::posterior::{AtPlace, Posterior};
use super::weights::{CheckRow, Weights};
use crate::instrument::InstrumentKind;
use crate::judgement::words;
use crate::plan::{Plan, StepState};
use crate::record::JobFile;
use crate::said::Lack;
use crate::tests::outcomes;
use crate::work::Symptom;
use ask::{Mass, actions, certain_now, masses, settles};
use serde::Serialize;
use swap::SWAP;
use utoipa::ToSchema;

/// Minutes that a hazard is weighed as: none, care, a running engine, a jet or a charge at hand.
const HAZARD_MINUTES: [f64; 4] = [0.0, 2.0, 6.0, 12.0];
/// The hazard in a word, as shown.
const HAZARD_WORDS: [&str; 4] =
    ["", "needs care", words::RUNNING_ENGINE_HIGH_PRESSURE, words::FUEL_JET_VAPOUR_HIGH];
/// Less than this settles nothing: a wrong action less for two hundred injectors.
const SETTLES: f64 = 0.005;
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
    /// Wrong actions that it is expected to spare, over all places.
    pub settles: f64,
    /// Minutes that it takes.
    pub minutes: f64,
    /// Minutes until the first injector hangs on a bench, where none does yet.
    pub removal_minutes: f64,
    /// What can hurt, in a few words; empty when nothing worth naming.
    pub hazard: String,
    /// Minutes that it is weighed as, with hazard and removal.
    pub weighed_minutes: f64,
    /// What has to be at hand.
    pub needs: String,
    /// Why this one.
    pub why: String,
    /// For an exchange: the cylinder that it is about, and the neighbour that it is exchanged with.
    pub cylinders: Vec<u32>,
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
        [] => Some(words::no_list_instruments(word)),
        held if held.iter().all(|tool| tool.overdue) => Some(words::every_out_calibration(word)),
        _ => None,
    }
}

/// Whether a finding still lacks runs: it has not said its last word.
fn lacks_runs(finding: &Finding) -> bool {
    finding.lacks.iter().any(|lack| matches!(lack, Lack::OneRun | Lack::FewRuns))
}

/// The places of a job, each list in the same order.
#[derive(Clone, Copy)]
pub(super) struct Places<'a> {
    /// The cylinder of each.
    pub cylinders: &'a [u32],
    /// What counts there.
    pub gathered: &'a [Gathered<'a>],
    /// Checks that said the same twice there.
    pub tired: &'a [Vec<&'a str>],
}

/// Everything that a proposal is made from.
pub(super) struct Ask<'a> {
    weights: &'a Weights,
    file: &'a JobFile,
    plan: &'a Plan,
    findings: &'a [Finding],
    posterior: &'a Posterior<'a>,
    places: Places<'a>,
    /// It does not start.
    dead: bool,
    /// Wrong actions to be expected if everything were decided now.
    open: f64,
    /// By check and place: what it would settle there; none of it where it cannot be done.
    settles: Vec<Vec<f64>>,
    /// The check that settles most of the job for a minute.
    leads: Option<usize>,
}

impl<'a> Ask<'a> {
    pub(super) fn new(
        weights: &'a Weights,
        file: &'a JobFile,
        plan: &'a Plan,
        findings: &'a [Finding],
        posterior: &'a Posterior<'a>,
        places: Places<'a>,
    ) -> Self {
        let actions = actions(file);
        let held: Vec<Vec<Mass>> =
            posterior.places.iter().map(|place| masses(&actions, place)).collect();
        let open = held.iter().map(|place| 1.0 - certain_now(place)).sum();
        let dead = file.told().symptoms.contains(&Symptom::NoStart);
        let settles = Vec::new();
        let mut ask = Self {
            weights,
            file,
            plan,
            findings,
            posterior,
            places,
            dead,
            open,
            settles,
            leads: None,
        };
        let checks = 0..weights.checks().len();
        ask.settles = checks.map(|at| ask.at_each_place(&held, at)).collect();
        let first = ask.next(&[]).0.into_iter().next();
        ask.leads =
            first.and_then(|one| weights.checks().iter().position(|check| check.id == one.id));
        ask
    }

    fn at_each_place(&self, held: &[Vec<Mass>], at: usize) -> Vec<f64> {
        let (check, table) = self.weights.check(at);
        // A doubtful fuel sample is taken again.
        let told = |one: &super::posterior::Likelihood<'_>| {
            one.reading.check == at && one.reading.finding.code != outcomes::FUEL_DOUBTFUL
        };
        if !self.can(check) || self.posterior.shared.iter().any(told) {
            return vec![0.0; self.places.gathered.len()];
        }
        held.iter()
            .zip(self.places.gathered.iter().zip(self.places.tired))
            .map(|(masses, (gathered, tired))| {
                let untold = !tired.contains(&check.id.as_str()) && self.untold(check, gathered);
                let fair = check.step != SWAP || self.fair(masses, gathered);
                let asks = (check.shared || untold) && fair;
                if asks { settles(table, masses) } else { 0.0 }
            })
            .collect()
    }

    /// What a check settles over all places; an exchange is made at one of them.
    fn settled(&self, at: usize) -> f64 {
        let each = self.settles[at].iter().copied();
        if self.weights.check(at).0.exchanges { each.fold(0.0, f64::max) } else { each.sum() }
    }

    /// Nothing of a step of the plan would settle anything as things stand.
    pub(super) fn pointless(&self, step: &str) -> bool {
        let mut of = (0..self.weights.checks().len())
            .filter(|at| self.weights.check(*at).0.step == step)
            .peekable();
        of.peek().is_some() && of.all(|at| self.settled(at) < SETTLES)
    }

    /// Why a check cannot be done here, whatever it would tell.
    fn impossible(&self, check: &CheckRow) -> bool {
        let held = self.findings.iter().filter(|one| one.of_cylinder && one.of_injector);
        let fuel = |code| held.clone().any(|one| one.code == code);
        // What lubricates a high-pressure pump has to be known before it runs.
        let pump = self.file.job.intake.fuel_system.high_pressure();
        let wrong_fuel = fuel(outcomes::FUEL_BAD) || (pump && fuel(outcomes::FUEL_DOUBTFUL));
        let runs = check.running || check.pumps;
        // A return test of an engine that does not start is a crank test.
        let cranks = check.id == "return_test";
        (runs && wrong_fuel) || (check.running && self.dead && !cranks)
    }

    /// Nothing of this step can be done here as things stand, whatever the plan says.
    pub(super) fn unsafe_now(&self, step: &str) -> bool {
        let mut of_step =
            self.weights.checks().iter().filter(|check| check.step == step).peekable();
        of_step.peek().is_some() && of_step.all(|check| self.impossible(check))
    }

    /// Whether a check has not said its last word at a place.
    fn untold(&self, check: &CheckRow, place: &Gathered<'_>) -> bool {
        let told = place.counted.iter().chain(&place.besides);
        !told.into_iter().any(|one| {
            let (held, _) = self.weights.check(one.check);
            let told = one.finding.quality * held.quality;
            let same = held.id == check.id && told > 0.9 * check.quality;
            // Of one group the best counts: what is worse than what was read adds nothing.
            let better = held.group == check.group && told > check.quality;
            (same || better) && !lacks_runs(one.finding)
        })
    }

    /// The check begun at a place that still lacks runs: all is connected, so these come first.
    fn unfinished(&self, place: usize) -> Option<usize> {
        let counted = self.places.gathered.get(place)?.counted.iter();
        let mut begun = counted.filter(|one| lacks_runs(one.finding)).map(|one| one.check);
        begun.find(|at| self.settles[*at][place] >= SETTLES)
    }

    fn can(&self, check: &CheckRow) -> bool {
        let fuel = self.file.job.intake.fuel_system;
        let step = self.plan.steps.iter().find(|step| step.id.0 == check.step);
        let skipped = step.is_some_and(|step| step.state == StepState::Skipped);
        let left_out = skipped || self.declined(&check.step);
        !check.step.is_empty() && check.fits.contains(&fuel) && !left_out && !self.impossible(check)
    }

    /// What it counts as, in minutes: its own, for the hazard, for the removal.
    fn minutes(&self, check: &CheckRow) -> (f64, f64, f64) {
        let on_bench = check.step == "bench" && self.file.bench.is_empty();
        let removal = if on_bench { self.weights.removal() } else { 0.0 };
        let hazard = HAZARD_MINUTES.get(usize::from(check.hazard)).copied().unwrap_or_default();
        (check.minutes, hazard, removal)
    }

    /// All of them together.
    fn weighed(&self, at: usize) -> f64 {
        let (own, hazard, removal) = self.minutes(self.weights.check(at).0);
        own + hazard + removal
    }

    /// The check that would settle one place soonest; of those that measure a property of the
    /// injector itself where that is asked for.
    pub(super) fn for_place(&self, place: usize, own: bool) -> Option<usize> {
        if let Some(begun) = self.unfinished(place) {
            return Some(begun);
        }
        // What is next for the job is next here as well, where it settles anything here.
        let leads = self.leads.filter(|at| !own && self.settles[*at][place] >= SETTLES);
        if leads.is_some() {
            return leads;
        }
        let all = 0..self.weights.checks().len();
        let of = all.filter(|at| !own || self.weights.check(*at).0.measures.is_some());
        of.filter_map(|at| {
            let settled = self.settles[at][place];
            (settled >= SETTLES).then_some((settled / self.weighed(at), at))
        })
        .max_by(|one, other| one.0.total_cmp(&other.0))
        .map(|(_, at)| at)
    }

    /// Everything that could come next, most settled for a minute first; and what was left out.
    pub(super) fn next(&self, tools: &[Tool]) -> (Vec<NextCheck>, Vec<LeftOut>) {
        let fuel = self.file.job.intake.fuel_system;
        let mut left_out: Vec<LeftOut> = Vec::new();
        let mut proposed: Vec<(f64, NextCheck)> = Vec::new();
        for at in 0..self.weights.checks().len() {
            let (check, _) = self.weights.check(at);
            let step = self.plan.steps.iter().find(|step| step.id.0 == check.step);
            if let Some(step) =
                step.filter(|s| s.state == StepState::Skipped && check.fits.contains(&fuel))
            {
                let one = LeftOut { title: check.title.clone(), why: step.says.clone() };
                if !left_out.contains(&one) {
                    left_out.push(one);
                }
                continue;
            }
            let settled = self.settled(at);
            if settled < SETTLES {
                continue;
            }
            let lacks = lacks(check, tools);
            let waits = step.filter(|step| step.state == StepState::Waits);
            let worth = waits.map_or(1.0, |_| WAITS) * lacks.as_ref().map_or(1.0, |_| LACKS);
            let mut why = self.why(at, settled);
            let buts = waits.map(|step| step.says.clone()).into_iter().chain(lacks);
            for but in buts.filter(|but| !but.is_empty()) {
                why.push_str(&format!(" But: {but}"));
            }
            let one = self.proposal(at, &[], settled, why);
            let rate = settled / one.weighed_minutes * worth;
            // Two rows of one step are one piece of work: the more telling one stands for it.
            let twin =
                proposed.iter_mut().find(|(_, held)| held.step == one.step && one.step != "bench");
            match twin {
                Some(held) if held.0 < rate => *held = (rate, one),
                Some(_) => {}
                None => proposed.push((rate, one)),
            }
        }
        proposed.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.id.cmp(&b.1.id)));
        (proposed.into_iter().map(|(_, one)| one).take(MOST).collect(), left_out)
    }

    /// A check as it is proposed; of an exchange at one of these cylinders, where any are named.
    fn proposal(&self, at: usize, among: &[u32], settled: f64, why: String) -> NextCheck {
        let check = self.weights.check(at).0;
        let cylinders = if check.exchanges { self.swapped(at, among) } else { Vec::new() };
        let title = match cylinders.as_slice() {
            [one, other] if check.step == SWAP => words::swap_and_mark(*one, *other),
            [one, other] => words::exchange_with(&check.title, *one, *other),
            _ => check.title.clone(),
        };
        let (own, _, removal) = self.minutes(check);
        NextCheck {
            id: check.id.clone(),
            title,
            step: check.step.clone(),
            settles: settled,
            minutes: own,
            removal_minutes: removal,
            hazard: HAZARD_WORDS
                .get(usize::from(check.hazard))
                .filter(|_| check.hazard > 1)
                .map_or_else(String::new, |word| (*word).to_owned()),
            weighed_minutes: self.weighed(at),
            needs: check.needs.clone(),
            why,
            cylinders,
        }
    }

    /// The cause that it would move most, and how much is settled by it.
    fn why(&self, at: usize, settled: f64) -> String {
        let (_, table) = self.weights.check(at);
        let moved = |cause: Cause| -> f64 {
            if !table.moves(cause) {
                return 0.0;
            }
            let apart: f64 = table
                .alone(cause)
                .iter()
                .zip(table.sound())
                .map(|(with, without)| (with - without).abs())
                .sum();
            let open = |place: &AtPlace<'_>| {
                let p = place.belief.chance(cause);
                p * (1.0 - p)
            };
            apart * self.posterior.places.iter().map(open).sum::<f64>()
        };
        let all = Cause::ALL.iter().copied().map(|cause| (moved(cause), cause));
        let (_, cause) = all
            .reduce(|best, one| if one.0 > best.0 { one } else { best })
            .unwrap_or((0.0, Cause::Restricted));
        words::mainly_tests_expected_avoid(self.weights.word(cause), settled, self.open)
    }
}
