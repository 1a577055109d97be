//! The outcome table of one check, worked out for every state once.

use super::check::SOUND;
use super::{CheckRow, OutcomeRow, every_cause};
use crate::judgement::cause::Cause;
use crate::judgement::states::{SHARED, SHARES, STATES, State, together};
use std::collections::BTreeMap;

/// Chances of the outcomes of one check for each state of a place and of the job.
#[derive(Debug, Clone, PartialEq)]
pub(in crate::judgement) struct Table {
    outcomes: usize,
    sound: Vec<f64>,
    /// By cause; none where the check does not move for it.
    alone: Vec<Option<Vec<f64>>>,
    /// By state and shared state: which of the distinct rows below. A check moves for a few causes
    /// only, so that most states look alike to it.
    kind: Vec<u16>,
    /// Distinct chances, row after row.
    chance: Vec<f64>,
}

impl Table {
    pub(super) fn of(check: &CheckRow) -> Self {
        let shares = |row: &OutcomeRow| row.of.iter().map(|p| p / 100.0).collect::<Vec<f64>>();
        let sound = shares(&check.rows[SOUND]);
        let alike: Vec<bool> =
            check.outcomes.iter().map(|code| check.alike.contains(code)).collect();
        let mut alone: Vec<Option<Vec<f64>>> = vec![None; Cause::ALL.len()];
        for cause in every_cause() {
            alone[cause.index()] = check.rows.get(cause.name()).map(shares);
        }
        let mut kinds: BTreeMap<Vec<usize>, u16> = BTreeMap::new();
        let mut kind = Vec::with_capacity(STATES * SHARES);
        let mut chance = Vec::new();
        for state in State::all() {
            for shared in 0..SHARES {
                let also = shared.checked_sub(1).map(|at| SHARED[at]);
                let causes = state.causes().chain(also).map(Cause::index);
                let moving: Vec<usize> = causes.filter(|at| alone[*at].is_some()).collect();
                let next = kinds.len() as u16;
                kind.push(*kinds.entry(moving.clone()).or_insert_with(|| {
                    let rows: Vec<&[f64]> =
                        moving.iter().filter_map(|at| alone[*at].as_deref()).collect();
                    chance.extend(together(&sound, &rows, &alike));
                    next
                }));
            }
        }
        Self { outcomes: sound.len(), sound, alone, kind, chance }
    }

    /// How many outcomes it has.
    pub(in crate::judgement) fn outcomes(&self) -> usize {
        self.outcomes
    }

    /// Chances with nothing there.
    pub(in crate::judgement) fn sound(&self) -> &[f64] {
        &self.sound
    }

    /// Chances with this cause alone.
    pub(in crate::judgement) fn alone(&self, cause: Cause) -> &[f64] {
        self.alone[cause.index()].as_deref().unwrap_or(&self.sound)
    }

    /// Whether it moves for a cause at all.
    pub(in crate::judgement) fn moves(&self, cause: Cause) -> bool {
        self.alone[cause.index()].is_some()
    }

    /// Chances in a state, none or a shared cause besides.
    pub(in crate::judgement) fn chances(&self, state: usize, shared: usize) -> &[f64] {
        self.row(self.kind(state * SHARES + shared))
    }

    /// Which of the distinct rows holds for a state and a shared state.
    pub(in crate::judgement) fn kind(&self, at: usize) -> usize {
        usize::from(self.kind[at])
    }

    /// How many distinct rows there are.
    pub(in crate::judgement) fn kinds(&self) -> usize {
        self.chance.len() / self.outcomes
    }

    /// A distinct row.
    pub(in crate::judgement) fn row(&self, kind: usize) -> &[f64] {
        let from = kind * self.outcomes;
        &self.chance[from..from + self.outcomes]
    }
}
