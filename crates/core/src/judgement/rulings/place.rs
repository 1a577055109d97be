//! What is put right at a place that no injector owns: a wire, a driver, a spark.

use super::super::cause::{Action, Cause};
use super::{Case, Ruling, Why};
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
    let says = format!("Two readings contradict each other. {} But: {}", open.says, works.says);
    let would = "The coil again with leads zeroed and the connector cleaned, cold and warm.";
    let ruling = case.ruling(Why::Contradiction, Decision::MeasureAgain, says, would);
    Some(Ruling { asks: Some(open.check.clone()), ..ruling })
}

/// The place, not the injector.
pub(super) fn place(case: &Case<'_>) -> Option<Ruling> {
    let harness = case.act(Action::Harness);
    let all = case.belief.any(&[Action::Harness, Action::Place], case.fuel);
    (all >= case.weights.act()).then_some(())?;
    let of = |action| case.belief.chance(case.cause_of(action));
    let cause = if harness || of(Action::Harness) > of(Action::Place) {
        case.cause_of(Action::Harness)
    } else {
        case.cause_of(Action::Place)
    };
    // One cause that leads is named; several that share it are not guessed between.
    let leads = case.belief.chance(cause) >= 0.6 * all;
    let found = case.says(cause);
    if !leads {
        let mut causes = [
            Cause::HarnessLeg,
            Cause::Driver,
            Cause::LineRestriction,
            Cause::Mechanical,
            Cause::Ignition,
            Cause::SeatGas,
        ];
        causes.sort_by(|a, b| case.belief.chance(*b).total_cmp(&case.belief.chance(*a)));
        let says = format!(
            "The place, not the injector: {} or {}.{found}",
            case.word(causes[0]),
            case.word(causes[1])
        );
        return Some(case.ruling(Why::PlaceUnclear, Decision::LookElsewhere, says, ""));
    }
    let elsewhere = Decision::LookElsewhere;
    let good = case.here.has(&[outcomes::COIL_GOOD, outcomes::STACK_GOOD]);
    let good = good.map_or("", |_| " Its coil is good.");
    let ruling = match cause {
        Cause::HarnessLeg => {
            let lit = case.here.has(&[outcomes::LIT]);
            let lit = lit.map_or("", |_| " That a lamp lights there is no proof.");
            let says = format!("The wire, not the injector.{found}{lit}");
            let would = "Supply under load, or the wires end to end, after the repair.";
            case.ruling(Why::HarnessLeg, Decision::RepairHarness, says, would)
        }
        Cause::Driver => {
            let says = format!(
                "It is not commanded: driver or control wire.{found}{good} The injector is not condemned for it."
            );
            let would = "A good injector plugged in there: silent as well, it is the driver.";
            case.ruling(Why::Driver, elsewhere, says, would)
        }
        Cause::Ignition => {
            let says = format!("Its spark, not its injector: coil, plug or lead.{found}");
            case.ruling(Why::Ignition, elsewhere, says, "The same test after the exchange.")
        }
        Cause::LineRestriction => {
            let says = format!("Its line or its rail port, not its injector.{found}");
            case.ruling(
                Why::LineRestricted,
                elsewhere,
                says,
                "Its flow after the line was cleared.",
            )
        }
        Cause::SeatGas => {
            let says = format!(
                "Combustion gas past its seat: bore and seat cleaned, a new washer, the right torque.{found}"
            );
            case.ruling(
                Why::SeatGas,
                elsewhere,
                says,
                "Compression and bore after it was fitted anew.",
            )
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
            let says = format!(
                "Low compression or another mechanical fault.{found} The injector is not judged by what compression lacks."
            );
            let would = "Compression by gauge after the repair.";
            case.ruling(Why::Mechanical, elsewhere, says, would)
        }
    };
    Some(ruling)
}

/// A lift outside its window is set, whatever else is known.
pub(super) fn lift(case: &Case<'_>) -> Option<Ruling> {
    let off = case.good(outcomes::LIFT_OFF)?;
    let says = format!(
        "Its lift is outside its window. {} Set it, then the full plan again; no trim code before.",
        off.says
    );
    Some(case.ruling(Why::LiftOff, Decision::Adjust, says, "The lift after the next fit."))
}
