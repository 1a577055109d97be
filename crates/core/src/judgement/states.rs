//! The states that a place and a job can be in, and what a check shows of causes together.
//!
//! A place (a cylinder and the injector in it) is sound, has one cause, or two. The job has one
//! shared state besides: none, or one of the causes that all cylinders share. States with more
//! than two causes are left out.
//!
//! Causes together show a departing outcome `o` by noisy-or, `1 − Π (1 − p(o|c))`; an outcome that
//! says nothing is odd by `Π p(o|c) / p(o|sound)^(n−1)`; then all are divided by their sum. So
//! causes that pull the same way do not add up, and two that pull opposite ways share what is
//! seen between them and neither is proven by it. A cause without a row in a check does not move
//! it and takes no part.
//!
//! # Source
//! Pearl (1988), Probabilistic Reasoning in Intelligent Systems, 4.3, on noisy-or and explaining
//! away; Heckerman, Breese and Rommelse (1995), Decision-theoretic troubleshooting.

use super::cause::{Cause, With};

/// Causes of a place: with the injector first, then with the cylinder.
pub(super) const OF_PLACE: [Cause; 14] = [
    Cause::Restricted,
    Cause::Worn,
    Cause::TipLeak,
    Cause::Slow,
    Cause::ExcessReturn,
    Cause::CoilOpen,
    Cause::CoilOff,
    Cause::SeatGas,
    Cause::WrongCode,
    Cause::HarnessLeg,
    Cause::Driver,
    Cause::LineRestriction,
    Cause::Mechanical,
    Cause::Ignition,
];

/// Shared states besides none.
pub(super) const SHARED: [Cause; 4] =
    [Cause::AirOrFuel, Cause::CommonSupply, Cause::HighPressure, Cause::SharedIgnition];

/// Sound, each cause, each pair of causes.
pub(super) const STATES: usize = 1 + OF_PLACE.len() + OF_PLACE.len() * (OF_PLACE.len() - 1) / 2;
/// None, and each shared cause.
pub(super) const SHARES: usize = 1 + SHARED.len();

/// A state of a place as places in [`OF_PLACE`].
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum State {
    Sound,
    One(usize),
    Two(usize, usize),
}

impl State {
    /// Every state in the order of its index.
    pub(super) fn all() -> impl Iterator<Item = Self> {
        let n = OF_PLACE.len();
        let pairs = (0..n).flat_map(move |a| (a + 1..n).map(move |b| Self::Two(a, b)));
        std::iter::once(Self::Sound).chain((0..n).map(Self::One)).chain(pairs)
    }

    /// Its place in the order of [`State::all`].
    pub(super) fn index(self) -> usize {
        let n = OF_PLACE.len();
        match self {
            Self::Sound => 0,
            Self::One(a) => 1 + a,
            // Pairs that begin with a smaller cause come before.
            Self::Two(a, b) => 1 + n + a * (2 * n - a - 1) / 2 + (b - a - 1),
        }
    }

    /// The causes in it.
    pub(super) fn causes(self) -> impl Iterator<Item = Cause> {
        let (first, second) = match self {
            Self::Sound => (None, None),
            Self::One(a) => (Some(a), None),
            Self::Two(a, b) => (Some(a), Some(b)),
        };
        first.into_iter().chain(second).map(|at| OF_PLACE[at])
    }

    pub(super) fn has(self, cause: Cause) -> bool {
        self.causes().any(|held| held == cause)
    }

    /// What of it goes along with the injector, or stays with the cylinder.
    pub(super) fn part(self, with: With) -> Self {
        let stays = |at: &usize| OF_PLACE[*at].with() == with;
        match self {
            Self::Sound => Self::Sound,
            Self::One(a) => Some(a).filter(stays).map_or(Self::Sound, Self::One),
            Self::Two(a, b) => match (stays(&a), stays(&b)) {
                (true, true) => self,
                (true, false) => Self::One(a),
                (false, true) => Self::One(b),
                (false, false) => Self::Sound,
            },
        }
    }

    /// With one more cause; none where it would have more than two.
    pub(super) fn and(self, more: usize) -> Option<Self> {
        match self {
            Self::Sound => Some(Self::One(more)),
            Self::One(a) if a < more => Some(Self::Two(a, more)),
            Self::One(a) if a > more => Some(Self::Two(more, a)),
            Self::One(_) | Self::Two(..) => None,
        }
    }
}

/// Chances of the outcomes of a check, causes together: `rows` are those of the causes that move
/// it, `alike` says of each outcome whether it says that nothing is odd.
pub(super) fn together(sound: &[f64], rows: &[&[f64]], alike: &[bool]) -> Vec<f64> {
    match rows {
        [] => sound.to_vec(),
        [one] => one.to_vec(),
        many => {
            let mut mixed: Vec<f64> = (0..sound.len())
                .map(|o| {
                    let each = many.iter().map(|row| row[o]);
                    if alike[o] {
                        each.product::<f64>() / sound[o].powi(many.len() as i32 - 1)
                    } else {
                        1.0 - each.map(|p| 1.0 - p).product::<f64>()
                    }
                })
                .collect();
            let sum: f64 = mixed.iter().sum();
            mixed.iter_mut().for_each(|p| *p /= sum);
            mixed
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_state_has_its_own_index_and_its_parts_are_states() {
        let all: Vec<State> = State::all().collect();
        assert_eq!(all.len(), STATES);
        for (i, state) in all.iter().enumerate() {
            assert_eq!(state.index(), i);
            let (injector, cylinder) = (state.part(With::Injector), state.part(With::Cylinder));
            let both: Vec<Cause> = injector.causes().chain(cylinder.causes()).collect();
            assert!(state.causes().all(|cause| both.contains(&cause)));
            assert_eq!(both.len(), state.causes().count());
        }
        assert_eq!(State::One(3).and(1), Some(State::Two(1, 3)));
        assert_eq!(State::Two(1, 3).and(5), None);
    }

    #[test]
    fn two_that_pull_the_same_way_do_not_add_up_and_two_opposite_ones_leave_it_open() {
        // low, high, alike; by hand: low 1 − 0.3·0.4 = 0.88, alike 0.28·0.38/0.9 = 0.1182.
        let sound = [0.05, 0.05, 0.9];
        let alike = [false, false, true];
        let same = together(&sound, &[&[0.7, 0.02, 0.28], &[0.6, 0.02, 0.38]], &alike);
        let sum = 0.88 + (1.0 - 0.98 * 0.98) + 0.28 * 0.38 / 0.9;
        assert!((same[0] - 0.88 / sum).abs() < 1e-12, "{same:?}");
        let opposite = together(&sound, &[&[0.7, 0.02, 0.28], &[0.02, 0.7, 0.28]], &alike);
        assert!((opposite[0] - opposite[1]).abs() < 1e-12);
        assert!(opposite[0] < 0.5 && opposite[2] > 0.0, "{opposite:?}");
        assert_eq!(together(&sound, &[], &alike), sound);
    }
}
