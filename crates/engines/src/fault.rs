//! Faults: each changes physical parameters by a stated size, and nothing else.
//!
//! A size of 0.2 is barely to be seen, 1 is gross. What follows is up to the physics.
//!
//! # Source
//! Ranges of the trade; every one stands with its number here. Model of our own where there is none.

use crate::engine::MadeEngine;
use cobaltine_core::engine::FuelSystem;

/// What can be wrong.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize,
)]
#[serde(rename_all = "snake_case")]
pub enum Fault {
    /// Deposits in the holes.
    Deposits,
    /// A blocked basket.
    Basket,
    /// Holes or needle worn wide.
    Wear,
    /// A seat that leaks by wear.
    SeatWear,
    /// A seat held open by dirt.
    SeatDirt,
    /// Opens late by gum.
    Gum,
    /// Lift or air gap off.
    Lift,
    /// Guide and piston worn.
    Guide,
    /// Control valve leaks standing still.
    Valve,
    /// Coil or stack open.
    CoilOpen,
    /// Shorted turns, or a cracked stack.
    CoilShort,
    /// Insulation to the body lost.
    Body,
    /// Washer: exhaust gas past its seat.
    Washer,
    /// The code of another injector is stored.
    Code,
    /// Its wire: resistance or open.
    Wire,
    /// Its driver.
    Driver,
    /// Its line.
    Line,
    /// Rings, valve or gasket of its cylinder.
    Compression,
    /// Its spark.
    Spark,
    /// Wrong fuel, or water in it.
    Fuel,
    /// Air in the suction line.
    Air,
    /// Feed pressure low.
    Feed,
    /// Supply voltage of all injectors.
    Power,
    /// High-pressure pump, or relief valve.
    Pressure,
    /// Intake leak, sensor, or spark of all.
    Mixture,
}

/// What puts it right.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize,
)]
#[serde(rename_all = "snake_case")]
pub enum Remedy {
    /// Cleaned.
    Clean,
    /// Reconditioned or replaced.
    Renew,
    /// Set anew.
    Adjust,
    /// Its code written.
    Recode,
    /// Its wire repaired.
    Harness,
    /// Something else of this place.
    Place,
    /// What all share.
    Shared,
}

/// Where a fault sits.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum At {
    /// In the injector: it goes along.
    Injector,
    /// In the place: it stays.
    Place,
    /// In what all share.
    All,
}

impl Fault {
    /// Every one.
    pub const ALL: [Self; 25] = [
        Self::Deposits,
        Self::Basket,
        Self::Wear,
        Self::SeatWear,
        Self::SeatDirt,
        Self::Gum,
        Self::Lift,
        Self::Guide,
        Self::Valve,
        Self::CoilOpen,
        Self::CoilShort,
        Self::Body,
        Self::Washer,
        Self::Code,
        Self::Wire,
        Self::Driver,
        Self::Line,
        Self::Compression,
        Self::Spark,
        Self::Fuel,
        Self::Air,
        Self::Feed,
        Self::Power,
        Self::Pressure,
        Self::Mixture,
    ];

    /// Where it sits.
    pub fn at(self) -> At {
        match self {
            Self::Deposits
            | Self::Basket
            | Self::Wear
            | Self::SeatWear
            | Self::SeatDirt
            | Self::Gum
            | Self::Lift
            | Self::Guide
            | Self::Valve
            | Self::CoilOpen
            | Self::CoilShort
            | Self::Body
            | Self::Washer
            | Self::Code => At::Injector,
            Self::Wire | Self::Driver | Self::Line | Self::Compression | Self::Spark => At::Place,
            Self::Fuel | Self::Air | Self::Feed | Self::Power | Self::Pressure | Self::Mixture => {
                At::All
            }
        }
    }

    /// What puts it right.
    pub fn remedy(self) -> Remedy {
        match self {
            Self::Deposits | Self::Basket | Self::SeatDirt | Self::Gum => Remedy::Clean,
            Self::Wear
            | Self::SeatWear
            | Self::Guide
            | Self::Valve
            | Self::CoilOpen
            | Self::CoilShort
            | Self::Body => Remedy::Renew,
            Self::Lift => Remedy::Adjust,
            Self::Code => Remedy::Recode,
            Self::Wire => Remedy::Harness,
            Self::Washer | Self::Driver | Self::Line | Self::Compression | Self::Spark => {
                Remedy::Place
            }
            Self::Fuel | Self::Air | Self::Feed | Self::Power | Self::Pressure | Self::Mixture => {
                Remedy::Shared
            }
        }
    }

    /// Whether such an engine can have it.
    pub fn fits(self, fuel: FuelSystem) -> bool {
        let diesel = matches!(fuel, FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo);
        let petrol = matches!(fuel, FuelSystem::PetrolPort | FuelSystem::PetrolDirect);
        let doser = fuel == FuelSystem::ExhaustDoser;
        match self {
            Self::Guide | Self::Valve => diesel,
            Self::Lift => fuel == FuelSystem::DieselSolenoid,
            Self::Gum => !diesel,
            Self::Code => diesel || fuel == FuelSystem::PetrolDirect,
            Self::Washer => diesel,
            Self::Compression | Self::Mixture => !doser,
            Self::Spark => petrol,
            Self::Pressure => diesel || fuel == FuelSystem::PetrolDirect,
            Self::Air => diesel,
            Self::Deposits
            | Self::Basket
            | Self::Wear
            | Self::SeatWear
            | Self::SeatDirt
            | Self::CoilOpen
            | Self::CoilShort
            | Self::Body
            | Self::Wire
            | Self::Driver
            | Self::Line
            | Self::Fuel
            | Self::Feed
            | Self::Power => true,
        }
    }

    /// Puts it in: of this size, at this cylinder (counted from 0; of no matter for what all share).
    pub fn put(self, engine: &mut MadeEngine, cylinder: usize, size: f64) {
        let size = size.clamp(0.05, 1.5);
        let seat = engine.seats[cylinder];
        let injector = &mut engine.injectors[seat];
        let place = &mut engine.places[cylinder];
        let shared = &mut engine.shared;
        match self {
            // Up to 45 % of the area; at a fifth of that nobody would notice.
            Self::Deposits => {
                injector.dirt.holes = (0.08 + 0.34 * size).min(0.6);
                injector.dirt.spray = (0.5 * size).min(0.9);
            }
            // From where a basket is felt, at more than two thirds closed.
            Self::Basket => injector.dirt.basket = (0.80 + 0.13 * size).min(0.97),
            Self::Wear => {
                injector.holes *= 1.07 + 0.26 * size;
                injector.spray = 0.4 * size;
            }
            // From more than a new one's to several drops a minute.
            Self::SeatWear => injector.seat_mg_min = 3.0 + 24.0 * size,
            Self::SeatDirt => injector.dirt.seat_mg_min = 3.0 + 16.0 * size,
            Self::Gum => {
                let usual = crate::injector::nominal(injector.fuel).dead.usual_ms;
                injector.dirt.late_ms = usual * (0.10 + 0.5 * size);
                injector.scatter += 0.05 * size;
            }
            Self::Lift => injector.lift = 1.0 - (0.10 + 0.25 * size),
            // The cube does the rest: 2.6 µm sound, to 8.
            Self::Guide => injector.guide_um = 3.9 + 3.2 * size,
            Self::Valve => injector.valve_mm2 = 0.0009 + 0.004 * size,
            Self::CoilOpen => {
                injector.coil_ohm = f64::INFINITY;
                injector.stack_uf = 0.0;
            }
            Self::CoilShort => {
                injector.coil_ohm *= 1.0 - (0.12 + 0.5 * size.min(1.0));
                injector.stack_uf *= 1.0 - (0.18 + 0.4 * size.min(1.0));
                injector.late_ms += 0.05 * size;
            }
            Self::Body => injector.body_mohm = libm::pow(10.0, 0.3 - 3.5 * size.min(1.0)),
            Self::Washer => injector.gas_mm2 = 0.8 + 2.5 * size,
            Self::Code => {
                injector.code_mm3 = if size > 0.6 { 1.0 } else { -1.0 } * (0.6 + 2.0 * size)
            }
            Self::Wire => place.leg_ohm = if size > 0.8 { f64::INFINITY } else { 0.6 + 2.6 * size },
            Self::Driver => place.driver = (0.7 - 0.9 * size).max(0.0),
            Self::Line => place.line = (0.85 - 0.5 * size).max(0.2),
            Self::Compression => place.leak_mm2 += 1.6 + 6.0 * size,
            Self::Spark => place.spark = (0.75 - 0.9 * size).max(0.0),
            Self::Fuel => {
                shared.foreign = 0.25 + 0.6 * size;
                shared.water = if size > 0.55 { size } else { 0.0 };
            }
            Self::Air => shared.air = 0.2 + 0.7 * size,
            Self::Feed => shared.feed = 0.82 - 0.5 * size.min(1.2),
            Self::Power => shared.power = 0.85 - 0.4 * size.min(1.5),
            Self::Pressure => shared.pump = 0.8 - 0.5 * size.min(1.2),
            Self::Mixture => shared.mixture = 0.15 + 0.6 * size,
        }
    }
}
