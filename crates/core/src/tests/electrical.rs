//! `electrical`: what supply, lamp, coil, stack and insulation say together, and where to look:
//! fuse, leg, plug, driver or injector.
//!
//! Rules in order, the first that fits a cylinder names the place. Dark is proof on the control
//! side; lit, sniffer and rod only say that something moves. Nobody is condemned for silence that
//! is not commanded or not fed.
//!
//! # Source
//! House rule.

use super::engine::EngineTest;
use super::{Lane, Verdict};
use crate::mark::Mark;
use crate::said::Code;
use crate::tests::outcomes;
use crate::tests::words;
use crate::words::{by_number, cylinders};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The checks that it concludes from.
pub const ELECTRICAL: [EngineTest; 5] = [
    EngineTest::Supply,
    EngineTest::Indicator,
    EngineTest::CoilResistance,
    EngineTest::PiezoStack,
    EngineTest::Insulation,
];

/// Where to look.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Place {
    /// Fuse, relay or the common feed.
    Fuse,
    /// The speed signal or the ground of the control unit.
    Signal,
    /// One leg of the harness.
    Leg,
    /// The plug and its pins.
    Plug,
    /// The driver or its control wire.
    Driver,
    /// The injector.
    Injector,
}

/// One place named, with its cylinder; none for what all share.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Named {
    /// Cylinder number.
    pub cylinder: Option<u32>,
    /// Where.
    pub place: Place,
    /// Why, in a sentence.
    pub sentence: String,
}

/// The conclusion of the electrical checks.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Electrical {
    /// In one sentence.
    pub headline: String,
    /// Every place that is named.
    pub named: Vec<Named>,
    /// What is still missing for a conclusion.
    pub missing: Vec<String>,
}

/// Concludes from the newest verdict of each electrical check; none when nothing was read.
pub fn conclude(checks: &[(EngineTest, &Verdict)]) -> Option<Electrical> {
    let of = |id: EngineTest| {
        let verdict = checks.iter().rfind(|(check, _)| *check == id).map(|(_, verdict)| *verdict);
        verdict.filter(|v| v.lanes.iter().any(|lane| lane.mark != Mark::NotMeasured))
    };
    let read = Read {
        supply: of(EngineTest::Supply),
        lamp: of(EngineTest::Indicator),
        coil: of(EngineTest::CoilResistance),
        stack: of(EngineTest::PiezoStack),
        insulation: of(EngineTest::Insulation),
    };
    let any = read.all().into_iter().flatten().next()?;
    let cylinders: Vec<u32> = any.lanes.iter().map(|lane| lane.place).collect();
    let dead = |c: &&u32| code(read.supply, **c) == Some(outcomes::SUPPLY_NONE);
    let supplied: Vec<u32> =
        cylinders.iter().copied().filter(|c| lane(read.supply, *c).is_some()).collect();
    let named: Vec<Named> = if !supplied.is_empty() && supplied.iter().all(|c| dead(&c)) {
        vec![Named {
            cylinder: None,
            place: Place::Fuse,
            sentence: words::NO_SUPPLY_VOLTAGE_ANY.to_owned(),
        }]
    } else if dark_all(read.lamp) {
        vec![Named {
            cylinder: None,
            place: Place::Signal,
            sentence: words::NO_LAMP_LIGHTS_ANYWHERE.to_owned(),
        }]
    } else {
        cylinders.iter().filter_map(|c| read.place(*c)).collect()
    };
    let missing = [
        ("supply voltage", read.supply.is_none()),
        (words::COIL_RESISTANCE_STACK, read.coil.is_none() && read.stack.is_none()),
    ];
    let missing: Vec<String> =
        missing.iter().filter(|(_, open)| *open).map(|(word, _)| (*word).to_owned()).collect();
    Some(Electrical { headline: headline(&named, &missing), named, missing })
}

/// Every lamp was tried and stayed dark.
fn dark_all(lamp: Option<&Verdict>) -> bool {
    let said = lamp.and_then(|verdict| verdict.shared.as_ref());
    said.is_some_and(|said| said.code == outcomes::LAMP_ALL_DARK)
}

struct Read<'a> {
    supply: Option<&'a Verdict>,
    lamp: Option<&'a Verdict>,
    coil: Option<&'a Verdict>,
    stack: Option<&'a Verdict>,
    insulation: Option<&'a Verdict>,
}

fn lane(verdict: Option<&Verdict>, cylinder: u32) -> Option<&Lane> {
    let read = |lane: &&Lane| lane.place == cylinder && lane.mark != Mark::NotMeasured;
    verdict?.lanes.iter().find(read)
}

fn code(verdict: Option<&Verdict>, cylinder: u32) -> Option<Code> {
    lane(verdict, cylinder).map(|lane| lane.said.code)
}

impl Read<'_> {
    fn all(&self) -> [Option<&Verdict>; 5] {
        [self.supply, self.lamp, self.coil, self.stack, self.insulation]
    }

    fn place(&self, cylinder: u32) -> Option<Named> {
        let says =
            |place, sentence: String| Some(Named { cylinder: Some(cylinder), place, sentence });
        let supply = code(self.supply, cylinder);
        let lamp = code(self.lamp, cylinder);
        let fault =
            |v| lane(v, cylinder).filter(|l| matches!(l.mark, Mark::TooMuch | Mark::TooLittle));
        let lit = matches!(lamp, Some(outcomes::LIT | outcomes::MOVES | outcomes::SILENT));
        match (supply, lamp) {
            (Some(outcomes::SUPPLY_NONE), _) => {
                return says(Place::Leg, words::cylinder_no_supply_voltage(cylinder));
            }
            (Some(outcomes::SUPPLY_LOW), _) if lit => {
                return says(Place::Leg, words::cylinder_lights_lamp_but(cylinder));
            }
            (Some(outcomes::LEG_OPEN), _) => {
                return says(Place::Leg, words::cylinder_wire_open_too(cylinder));
            }
            (Some(outcomes::NO_DRIVE), _) => {
                return says(Place::Driver, words::cylinder_wires_good_but(cylinder));
            }
            (Some(outcomes::SUPPLY_LOW), _) => {
                return says(Place::Plug, words::cylinder_voltage_drop_pins(cylinder));
            }
            (_, Some(outcomes::LAMP_DARK)) => {
                return says(Place::Driver, words::cylinder_no_control_signal(cylinder));
            }
            (_, _) => {}
        }
        if let Some(bad) = fault(self.insulation) {
            return says(
                Place::Injector,
                words::cylinder_injector_leaks_body(cylinder, &bad.sentence),
            );
        }
        if let Some(bad) = fault(self.coil).or(fault(self.stack)) {
            return says(
                Place::Injector,
                words::cylinder_clean_connector_read(cylinder, &bad.sentence),
            );
        }
        let good = |v| lane(v, cylinder).is_some_and(|l| l.mark == Mark::Inside);
        if lamp == Some(outcomes::SILENT) {
            return if good(self.supply) && (good(self.coil) || good(self.stack)) {
                says(Place::Injector, words::cylinder_supply_signal_good(cylinder))
            } else {
                says(Place::Plug, words::cylinder_silent_prove_supply(cylinder))
            };
        }
        None
    }
}

fn headline(named: &[Named], missing: &[String]) -> String {
    let of = |place: Place| -> Vec<u32> {
        named.iter().filter(|n| n.place == place).filter_map(|n| n.cylinder).collect()
    };
    let parts: Vec<String> = [
        (Place::Leg, "wiring", "wiring"),
        (Place::Plug, "connector", "connectors"),
        (Place::Driver, words::DRIVER_CONTROL_WIRE, words::DRIVERS_CONTROL_WIRES),
        (Place::Injector, "injector", "injectors"),
    ]
    .into_iter()
    .filter(|(place, ..)| !of(*place).is_empty())
    .map(|(place, one, more)| {
        let who = of(place);
        words::check(&cylinders(&who), by_number(who.len(), one, more))
    })
    .collect();
    match (named, parts.as_slice(), missing) {
        ([Named { place: Place::Fuse, .. }, ..], ..) => words::CHECK_FUSE_RELAY_COMMON.to_owned(),
        ([Named { place: Place::Signal, .. }, ..], ..) => words::ALL_LAMPS_DARK_SPEED.to_owned(),
        (_, [], []) => words::NO_ELECTRICAL_OUTLIER_FOUND.to_owned(),
        (_, [], missing) => words::no_outlier_far_still(missing.join(", ")),
        (_, parts, _) => parts.join(" "),
    }
}
