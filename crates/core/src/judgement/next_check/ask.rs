//! What a check would settle, and what it would cost.

use super::super::cause::Action;
use super::super::posterior::AtPlace;
use super::super::states::{SHARES, State};
use super::super::weights::Table;
use crate::record::JobFile;

pub(super) const ACTIONS: usize = Action::ALL.len();

/// The action that each state, with each shared one, is put to when one has to be chosen.
pub(super) fn actions(file: &JobFile) -> Vec<usize> {
    let fuel = file.job.intake.fuel_system;
    let most = |state: State| {
        let actions = state.causes().map(|cause| cause.action(fuel) as usize);
        actions.max().unwrap_or(Action::Leave as usize)
    };
    let of = State::all().flat_map(|state| {
        let own = most(state);
        (0..SHARES).map(move |share| if share == 0 { own } else { Action::Shared as usize })
    });
    of.collect()
}

/// `Σ P(action)²` of chances that add up to less than one, times what they add up to.
pub(super) fn certain(by: &[f64]) -> f64 {
    let all: f64 = by.iter().sum();
    if all > 0.0 { by.iter().map(|p| p * p).sum::<f64>() / all } else { 0.0 }
}

/// A state with its chance and the action that it is put to.
pub(super) struct Mass {
    at: usize,
    p: f64,
    action: usize,
}

/// Chances below this settle nothing: most pairs of causes are as good as ruled out.
const NEGLIGIBLE: f64 = 1e-9;

/// The states of a place that still matter.
pub(super) fn masses(actions: &[usize], at: &AtPlace<'_>) -> Vec<Mass> {
    let all = at.belief.joint().iter().zip(actions).enumerate();
    let of = all.map(|(at, (p, action))| Mass { at, p: *p, action: *action });
    of.filter(|mass| mass.p > NEGLIGIBLE).collect()
}

/// How certain the action is at a place now.
pub(super) fn certain_now(masses: &[Mass]) -> f64 {
    let mut by = [0.0; ACTIONS];
    masses.iter().for_each(|mass| by[mass.action] += mass.p);
    certain(&by)
}

/// What a check is expected to settle at one place.
pub(super) fn settles(table: &Table, masses: &[Mass]) -> f64 {
    // States that look alike to the check are added up once, then asked for each outcome.
    let mut by = vec![0.0; table.kinds() * ACTIONS];
    for mass in masses {
        by[table.kind(mass.at) * ACTIONS + mass.action] += mass.p;
    }
    let after: f64 = (0..table.outcomes())
        .map(|o| {
            let mut seen = [0.0; ACTIONS];
            for (kind, held) in by.chunks(ACTIONS).enumerate() {
                let p = table.row(kind)[o];
                seen.iter_mut().zip(held).for_each(|(sum, mass)| *sum += p * mass);
            }
            certain(&seen)
        })
        .sum();
    (after - certain_now(masses)).max(0.0)
}

/// The chances that something is to be done to the injector, and at its cylinder.
pub(super) fn halves(masses: &[Mass]) -> (f64, f64) {
    let mut by = [0.0; ACTIONS];
    masses.iter().for_each(|mass| by[mass.action] += mass.p);
    let of = |actions: &[Action]| actions.iter().map(|action| by[*action as usize]).sum();
    let injector = of(&[Action::Clean, Action::Renew, Action::Adjust, Action::Recode]);
    (injector, of(&[Action::Harness, Action::Place]))
}
