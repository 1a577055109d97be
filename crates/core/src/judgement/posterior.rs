//! One posterior for each place and for what all share, summed exactly over every state.
//!
//! `P(states, shared | findings) ∝ P(shared) · Π_places P(state) · Π_findings p(outcome | state,
//! shared)`. Shared states are few and places are independent given the shared one, so the sum is
//! exact: each place adds up its own states for each shared one. A complaint needs a cause: the one state in
//! which everything is sound weighs as much less as a complaint is seldom told without one, so that what is
//! left when all others were found sound is believed more. The prior of a state is the
//! product of the story-adjusted odds of its causes. A reading of quality q has the likelihood
//! `q·p(o|state) + (1−q)·p̄(o)` with p̄ the share of its outcome over all states before it: one of
//! quality 0 says nothing.
//!
//! # Source
//! Bayes' rule; Pearl (1988); house rule for the odds.

use super::cause::{Action, Cause, With};
use super::evidence::{Gathered, Reading, View};
use super::states::{OF_PLACE, SHARED, SHARES, STATES, State};
use super::weights::Weights;
use crate::engine::FuelSystem;

/// How likely every state is before anything is read.
#[derive(Debug, Clone)]
pub(super) struct Priors {
    state: Vec<f64>,
    shared: Vec<f64>,
    odds: Vec<f64>,
}

impl Priors {
    /// From the odds of each cause.
    pub(super) fn of(odds: impl Fn(Cause) -> f64) -> Self {
        let each: Vec<f64> = Cause::ALL.iter().map(|cause| odds(*cause)).collect();
        let of = |cause: Cause| each[cause.index()];
        let state = State::all().map(|state| state.causes().map(of).product()).collect();
        let shared = std::iter::once(1.0).chain(SHARED.map(of)).collect();
        Self { state: share_out(state), shared: share_out(shared), odds: each }
    }

    /// The chance that a cause is there before anything is read.
    pub(super) fn chance(&self, cause: Cause) -> f64 {
        match SHARED.iter().position(|one| *one == cause) {
            Some(at) => self.shared[at + 1],
            None => {
                let with = State::all().zip(&self.state).filter(|(state, _)| state.has(cause));
                with.map(|(_, p)| p).sum()
            }
        }
    }

    /// The chance of nothing at all.
    pub(super) fn sound(&self) -> f64 {
        self.state[0] * self.shared[0]
    }
}

fn share_out(mut weights: Vec<f64>) -> Vec<f64> {
    let sum: f64 = weights.iter().sum();
    weights.iter_mut().for_each(|w| *w /= sum);
    weights
}

/// How likely each state of a place is, with each shared state.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Belief {
    /// State, shared state.
    joint: Vec<f64>,
    cause: Vec<f64>,
    action: Vec<f64>,
}

impl Belief {
    fn of(joint: Vec<f64>, fuel: FuelSystem) -> Self {
        let mut cause = vec![0.0; Cause::ALL.len()];
        let mut action = vec![0.0; Action::ALL.len()];
        for (s, state) in State::all().enumerate() {
            let row = &joint[s * SHARES..(s + 1) * SHARES];
            let p: f64 = row.iter().sum();
            for one in state.causes() {
                cause[one.index()] += p;
            }
            let mut actions: Vec<Action> = state.causes().map(|c| c.action(fuel)).collect();
            actions.dedup();
            for one in actions {
                action[one as usize] += p;
            }
            if state == State::Sound {
                action[Action::Leave as usize] = row[0];
            }
            for (at, shared) in SHARED.iter().enumerate() {
                cause[shared.index()] += row[at + 1];
                action[Action::Shared as usize] += row[at + 1];
            }
        }
        Self { joint, cause, action }
    }

    /// The chance that a cause is there.
    pub(super) fn chance(&self, cause: Cause) -> f64 {
        self.cause[cause.index()]
    }

    /// The chance that this is what has to be done, alone or beside another.
    pub(super) fn action(&self, action: Action) -> f64 {
        self.action[action as usize]
    }

    /// The chance of nothing at all.
    pub(super) fn sound(&self) -> f64 {
        self.action(Action::Leave)
    }

    /// The chance that at least one of these has to be done.
    pub(super) fn any(&self, actions: &[Action], fuel: FuelSystem) -> f64 {
        let hit = |state: &State| state.causes().any(|c| actions.contains(&c.action(fuel)));
        let states = State::all().enumerate().filter(|(_, state)| hit(state));
        states.map(|(s, _)| self.joint[s * SHARES..(s + 1) * SHARES].iter().sum::<f64>()).sum()
    }

    /// The likeliest cause.
    pub(super) fn first(&self) -> (Cause, f64) {
        let ranked = Cause::ALL.iter().map(|cause| (*cause, self.chance(*cause)));
        ranked
            .reduce(|best, one| if one.1 > best.1 { one } else { best })
            .unwrap_or((Cause::Restricted, 0.0))
    }

    pub(super) fn joint(&self) -> &[f64] {
        &self.joint
    }
}

/// The likelihoods of one reading in every state.
pub(super) struct Likelihood<'a> {
    pub reading: Reading<'a>,
    of: Vec<f64>,
}

impl<'a> Likelihood<'a> {
    fn new(weights: &Weights, priors: &Priors, reading: Reading<'a>) -> Self {
        let (_, table) = weights.check(reading.check);
        let o = reading.outcome;
        let whole = |state: usize, shared: usize| table.chances(state, shared)[o];
        let mut of: Vec<f64> = Vec::with_capacity(STATES * SHARES);
        for state in State::all() {
            for shared in 0..SHARES {
                of.push(match reading.view {
                    View::Whole => whole(state.index(), shared),
                    View::Injector => half(priors, state, With::Injector, shared, whole),
                    View::Cylinder => half(priors, state, With::Cylinder, shared, whole),
                });
            }
        }
        let usual: f64 = of
            .iter()
            .enumerate()
            .map(|(at, p)| p * priors.state[at / SHARES] * priors.shared[at % SHARES])
            .sum();
        let q = reading.quality;
        of.iter_mut().for_each(|p| *p = q * *p + (1.0 - q) * usual);
        Self { reading, of }
    }

    /// How much likelier the reading is with this cause alone than with nothing there.
    pub(super) fn factor(&self, cause: Cause) -> f64 {
        let at = match SHARED.iter().position(|one| *one == cause) {
            Some(shared) => shared + 1,
            None => OF_PLACE
                .iter()
                .position(|one| *one == cause)
                .map_or(0, |at| State::One(at).index() * SHARES),
        };
        self.of[at] / self.of[0]
    }
}

/// A reading that speaks of one half of a place only: the other half as it is before.
fn half(
    priors: &Priors,
    state: State,
    keeps: With,
    shared: usize,
    chance: impl Fn(usize, usize) -> f64,
) -> f64 {
    let part = state.part(keeps);
    let mut sum = chance(part.index(), shared);
    let mut of = 1.0;
    for (at, cause) in OF_PLACE.iter().enumerate().filter(|(_, cause)| cause.with() != keeps) {
        if let Some(both) = part.and(at) {
            let odds = priors.odds[cause.index()];
            sum += odds * chance(both.index(), shared);
            of += odds;
        }
    }
    sum / of
}

/// What is believed of one place, with the readings that made it.
pub(super) struct AtPlace<'a> {
    pub belief: Belief,
    pub readings: Vec<Likelihood<'a>>,
    /// By shared state: how well the readings here fit it, as a logarithm.
    fits: Vec<f64>,
    /// How much the complaint speaks against this place being sound, as nothing else may be behind it.
    pub complaint: f64,
}

/// What is believed of a job.
pub(super) struct Posterior<'a> {
    pub places: Vec<AtPlace<'a>>,
    /// Every chance of a cause times this is what it would be without the complaint.
    pub without: f64,
    pub shared: Vec<Likelihood<'a>>,
}

/// Sums over every state of every place and of the job. `unexplained` is how often the complaint is told with
/// nothing wrong, against with something wrong; 1 without a complaint.
pub(super) fn posterior<'a>(
    weights: &Weights,
    fuel: FuelSystem,
    shared: &Gathered<'a>,
    places: &[(Gathered<'a>, Priors)],
    job: &Priors,
    unexplained: f64,
) -> Posterior<'a> {
    let likely = |priors: &Priors, gathered: &Gathered<'a>| -> Vec<Likelihood<'a>> {
        let counted = gathered.counted.iter();
        counted.map(|reading| Likelihood::new(weights, priors, *reading)).collect()
    };
    let of_all = likely(job, shared);
    // By shared state, as a logarithm: what is told of all, then each place adds its own.
    let mut log: Vec<f64> = job.shared.iter().map(|p| p.ln()).collect();
    for reading in &of_all {
        for (at, held) in log.iter_mut().enumerate() {
            *held += reading.of[at].ln();
        }
    }
    let mut made: Vec<(Vec<f64>, Vec<f64>, Vec<Likelihood<'a>>)> = Vec::new();
    for (gathered, priors) in places {
        let readings = likely(priors, gathered);
        let mut weight: Vec<f64> =
            (0..STATES * SHARES).map(|at| priors.state[at / SHARES]).collect();
        for reading in &readings {
            weight.iter_mut().zip(&reading.of).for_each(|(w, p)| *w *= p);
        }
        let fits: Vec<f64> = (0..SHARES)
            .map(|share| (0..STATES).map(|s| weight[s * SHARES + share]).sum::<f64>().ln())
            .collect();
        log.iter_mut().zip(&fits).for_each(|(held, fit)| *held += fit);
        made.push((weight, fits, readings));
    }
    let most = log.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let share = share_out(log.iter().map(|l| (l - most).exp()).collect());
    // A complaint is seldom told of an engine with nothing wrong: of what all places sound and nothing shared
    // would weigh, so much is left, and the rest falls to what could be behind it.
    let none: f64 = made.iter().map(|(weight, fits, _)| weight[0] / fits[0].exp()).product();
    let taken = (1.0 - unexplained) * share[0] * none;
    let places = made
        .into_iter()
        .map(|(mut weight, fits, readings)| {
            for (at, w) in weight.iter_mut().enumerate() {
                *w *= share[at % SHARES] / fits[at % SHARES].exp();
            }
            let sound = weight[0];
            weight[0] -= taken;
            let complaint = if weight[0] > 0.0 { sound / weight[0] } else { 1.0 };
            weight.iter_mut().for_each(|w| *w /= 1.0 - taken);
            AtPlace { belief: Belief::of(weight, fuel), readings, fits, complaint }
        })
        .collect();
    Posterior { places, without: 1.0 - taken, shared: of_all }
}

impl Posterior<'_> {
    /// How much likelier what was read at all places is with a shared cause than without.
    pub(super) fn places_say(&self, cause: Cause) -> f64 {
        let Some(at) = SHARED.iter().position(|one| *one == cause) else { return 1.0 };
        self.places.iter().map(|one| one.fits[at + 1] - one.fits[0]).sum::<f64>().exp()
    }
}
