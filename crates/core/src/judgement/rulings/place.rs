//! What is put right at a place that no injector owns: a wire, a driver, a spark.

use super::super::cause::{Action, Cause};
use super::{Case, INJECTOR, Ruling, SPEAKS, Why};
use crate::judgement::SPARK;
use crate::judgement::rulings::words;
use crate::tests::outcomes;
use crate::work::Decision;

/// An open coil in a cylinder that works.
pub(super) fn contradiction(case: &Case<'_>) -> Option<Ruling> {
    let open = case.here.has(&[outcomes::COIL_OPEN])?;
    let works = [
        outcomes::CUT_ALIKE,
        outcomes::MOVES,
        outcomes::DI_ALIKE,
        outcomes::FLOW_ALIKE,
        outcomes::DROP_ALIKE,
    ];
    let works = case.here.has(&works)?;
    let says = words::two_readings_contradict_each(&open.says, &works.says);
    let would = words::COIL_RESISTANCE_AGAIN_LEADS;
    let ruling = case.ruling(Why::Contradiction, Decision::MeasureAgain, says, would);
    Some(Ruling { asks: Some(open.check.clone()), ..ruling })
}

/// The place, not the injector.
pub(super) fn place(case: &Case<'_>) -> Option<Ruling> {
    if let Some(moved) = moved_with_the_spark(case) {
        return Some(moved);
    }
    let harness = case.act(Action::Harness);
    let all = case.belief.any(&[Action::Harness, Action::Place], case.fuel);
    (all >= case.weights.act()).then_some(())?;
    let of = |action| case.belief.chance(case.cause_of(action));
    let cause = if harness || of(Action::Harness) > of(Action::Place) {
        case.cause_of(Action::Harness)
    } else {
        case.cause_of(Action::Place)
    };
    // Each is put right in its own way: one that is likely enough by itself is named, several that share it
    // are not guessed between.
    let chance = case.belief.chance(cause);
    let leads = chance >= case.weights.act() || (chance >= 0.6 * all && case.shown(cause));
    let found = case.says(cause);
    if !leads {
        let mut causes = AT_PLACE;
        causes.sort_by(|a, b| case.belief.chance(*b).total_cmp(&case.belief.chance(*a)));
        let says = words::not_injector(case.word(causes[0]), case.word(causes[1]), &found);
        return Some(case.ruling(Why::PlaceUnclear, Decision::LookElsewhere, says, ""));
    }
    // What no exchange has shown yet is a proposal to exchange it.
    if cause == Cause::Ignition && case.spark_open {
        let says = words::spark_to_be_shown(100.0 * chance, &found);
        let ruling = case.ruling(Why::NeedsOwnEvidence, Decision::MeasureAgain, says, "");
        return Some(Ruling { asks: Some(SPARK.to_owned()), ..ruling });
    }
    let elsewhere = Decision::LookElsewhere;
    let good = case.here.has(&[outcomes::COIL_GOOD, outcomes::STACK_GOOD]);
    let good = good.map_or("", |_| words::COIL_GOOD);
    let ruling = match cause {
        Cause::HarnessLeg => {
            let lit = case.here.has(&[outcomes::LIT]);
            let lit = lit.map_or("", |_| words::LAMP_LIGHTS_PROVES_NOTHING);
            let says = words::wiring_not_injector(&found, lit);
            let would = words::SUPPLY_VOLTAGE_UNDER_LOAD;
            case.ruling(Why::HarnessLeg, Decision::RepairHarness, says, would)
        }
        Cause::Driver => {
            let says = words::no_control_signal_driver(&found, good);
            let would = words::KNOWN_GOOD_INJECTOR_CONNECTED;
            case.ruling(Why::Driver, elsewhere, says, would)
        }
        Cause::Ignition => {
            let says = words::spark_not_injector_coil(&found);
            case.ruling(Why::Ignition, elsewhere, says, words::SAME_TEST_AFTER_EXCHANGE)
        }
        Cause::LineRestriction => {
            let says = words::line_rail_port_not(&found);
            case.ruling(Why::LineRestricted, elsewhere, says, words::FLOW_AFTER_LINE_CLEARED)
        }
        Cause::SeatGas => {
            let says = words::combustion_gas_past_seat(&found);
            case.ruling(Why::SeatGas, elsewhere, says, words::COMPRESSION_BORE_AFTER_REFITTING)
        }
        Cause::Mechanical
        | Cause::Restricted
        | Cause::Worn
        | Cause::TipLeak
        | Cause::Slow
        | Cause::ExcessReturn
        | Cause::CoilOpen
        | Cause::CoilOff
        | Cause::WrongCode
        | Cause::AirOrFuel
        | Cause::CommonSupply
        | Cause::HighPressure
        | Cause::SharedIgnition => {
            let says = words::low_compression_another_mechanical(&found);
            let would = words::COMPRESSION_GAUGE_AFTER_REPAIR;
            case.ruling(Why::Mechanical, elsewhere, says, would)
        }
    };
    Some(ruling)
}

/// The misfire went along with coil or plug, and nothing else fits better: the part that was exchanged is the
/// proposal, as sure as the odds.
fn moved_with_the_spark(case: &Case<'_>) -> Option<Ruling> {
    let moved = case.here.has(&[outcomes::SPARK_MOVES])?;
    let chance = case.belief.chance(Cause::Ignition);
    let leads = AT_PLACE.iter().all(|cause| case.belief.chance(*cause) <= chance);
    let likely = chance > case.weights.leave() && chance < case.weights.act();
    let injector = case.belief.any(&INJECTOR, case.fuel);
    (leads && likely && injector < chance).then(|| {
        let says = words::spark_as_likely(100.0 * chance, &moved.says);
        case.ruling(Why::Ignition, Decision::LookElsewhere, says, words::SAME_TEST_AFTER_EXCHANGE)
    })
}

/// What is put right at a place, each in its own way.
const AT_PLACE: [Cause; 6] = [
    Cause::HarnessLeg,
    Cause::Driver,
    Cause::LineRestriction,
    Cause::Mechanical,
    Cause::Ignition,
    Cause::SeatGas,
];

impl Case<'_> {
    /// A check that tells this cause from the others of the place has shown it: a cut-out says that
    /// something is wrong with a cylinder, not that it is its spark.
    fn shown(&self, cause: Cause) -> bool {
        let tells = |code| {
            let own = self.weights.factor(code, cause);
            let others = AT_PLACE.iter().filter(|other| **other != cause);
            own >= SPEAKS
                && others.into_iter().all(|other| SPEAKS * self.weights.factor(code, *other) <= own)
        };
        self.here.counted.iter().any(|one| tells(one.finding.code))
    }
}

/// A lift outside its window is set, whatever else is known.
pub(super) fn lift(case: &Case<'_>) -> Option<Ruling> {
    let off = case.good(outcomes::LIFT_OFF)?;
    let says = words::lift_out_limits_set(&off.says);
    Some(case.ruling(Why::LiftOff, Decision::Adjust, says, words::LIFT_AFTER_NEXT_SHIM))
}
