//! Evidence of its own: a reading that measures the property in question on this very injector.

use super::{Case, SPEAKS};
use crate::judgement::cause::{Action, Cause};
use crate::judgement::evidence::{Reading, View};
use crate::judgement::finding::Finding;
use crate::judgement::weights::Measures;
use crate::said::Code;
use crate::tests::outcomes;

/// Least quality of a reading that carries work on an injector (house rule).
const ENOUGH: f64 = 0.6;
/// A cause less likely than this does not count for what a reading measures.
const PART: f64 = 0.1;

/// Whether a check of this property, and this outcome of it, measures what the cause does.
fn measures(cause: Cause, property: Measures, code: Code) -> bool {
    match cause {
        Cause::Restricted => {
            matches!(property, Measures::Flow | Measures::Spray | Measures::Map)
        }
        Cause::Worn => matches!(property, Measures::Flow | Measures::Map | Measures::Return),
        Cause::TipLeak => {
            matches!(property, Measures::Leak | Measures::Spray | Measures::Map)
                || code == outcomes::DOSER_LEAKS
        }
        Cause::Slow => matches!(property, Measures::Flow | Measures::Map | Measures::Lift),
        Cause::ExcessReturn => matches!(property, Measures::Return | Measures::Map),
        Cause::CoilOpen | Cause::CoilOff => property == Measures::Coil,
        Cause::SeatGas
        | Cause::WrongCode
        | Cause::HarnessLeg
        | Cause::Driver
        | Cause::LineRestriction
        | Cause::Mechanical
        | Cause::Ignition
        | Cause::AirOrFuel
        | Cause::CommonSupply
        | Cause::HighPressure
        | Cause::SharedIgnition => false,
    }
}

impl<'a> Case<'a> {
    /// The strongest evidence of its own for an action.
    pub(super) fn own(&self, action: Action) -> Option<&'a Reading<'a>> {
        self.own_readings(action).max_by(|one, other| {
            let weight = |reading: &Reading<'_>| self.weight(action, reading);
            weight(one).total_cmp(&weight(other))
        })
    }

    /// Everything that is evidence of its own for an action.
    pub(super) fn own_readings(&self, action: Action) -> impl Iterator<Item = &'a Reading<'a>> {
        let here = self.here;
        here.counted.iter().filter(move |reading| self.carries(action, reading))
    }

    /// The finding of this code here, where the reading is good enough to carry work.
    pub(super) fn good(&self, code: Code) -> Option<&'a Finding> {
        let mut hits = self.here.counted.iter().filter(|one| one.finding.code == code);
        hits.find(|one| one.quality >= ENOUGH && one.view != View::Cylinder).map(|one| one.finding)
    }

    /// How strongly a reading speaks for the causes behind an action.
    fn weight(&self, action: Action, reading: &Reading<'_>) -> f64 {
        self.causes(action)
            .map(|cause| self.weights.factor(reading.finding.code, cause))
            .fold(0.0, f64::max)
    }

    fn causes(&self, action: Action) -> impl Iterator<Item = Cause> {
        Cause::ALL.iter().copied().filter(move |cause| {
            cause.action(self.fuel) == action && self.belief.chance(*cause) >= PART
        })
    }

    fn carries(&self, action: Action, reading: &Reading<'_>) -> bool {
        let (check, _) = self.weights.check(reading.check);
        let Some(property) = check.measures else { return false };
        let code = reading.finding.code;
        reading.view != View::Cylinder
            && reading.quality >= ENOUGH
            && self.causes(action).any(|cause| {
                measures(cause, property, code)
                    && self.weights.factor(code, cause) >= SPEAKS
                    && !self.contradicted(cause, property, reading)
            })
    }

    /// A better reading of the same property says otherwise.
    fn contradicted(&self, cause: Cause, property: Measures, reading: &Reading<'_>) -> bool {
        self.here.counted.iter().any(|other| {
            let (check, _) = self.weights.check(other.check);
            check.measures == Some(property)
                && other.quality > reading.quality
                && other.view != View::Cylinder
                && self.weights.factor(other.finding.code, cause) < 0.5
        })
    }
}
