//! Off the engine: flow, leak, spray and look of a petrol set; the map of a diesel set; a doser.
//!
//! # Source
//! What is shown follows from the injector at the pressure of the bench; cylinder, wires and fuel of the
//! engine have no part in it.

use super::{Hand, Slip};
use crate::draw::Draw;
use crate::injector::{Injector, nominal};
use crate::physics::{Fluid, Liquid};
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::tests::bench::BenchTest;

/// One reading at the bench: test, cell, row, tag, value.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BenchRead {
    /// Test.
    pub test: BenchTest,
    /// Cell.
    pub cell: &'static str,
    /// Row, from 1.
    pub row: Option<u32>,
    /// Tag, from 1, in the order of the cylinders.
    pub tag: Option<u32>,
    /// Value.
    pub value: f64,
}

/// Regimes of the flow test: pulse in ms and count, or seconds held open.
pub const FLOW_POINTS: [(Option<f64>, f64); 6] = [
    (Some(2.5), 2000.0),
    (Some(4.0), 2000.0),
    (Some(8.0), 1500.0),
    (Some(5.0), 2000.0),
    (Some(3.0), 2000.0),
    (None, 15.0),
];

/// Points of the map: name, rail pressure in kPa, energising time in ms (0 standing), strokes.
pub const MAP_POINTS: [(&str, f64, f64, f64); 5] = [
    ("idle", 30_000.0, 0.55, 1000.0),
    ("pilot", 80_000.0, 0.40, 1000.0),
    ("part load", 80_000.0, 0.70, 500.0),
    ("full load", 120_000.0, 1.05, 500.0),
    ("static return", 120_000.0, 0.0, 1000.0),
];

/// Speed of the map's strokes, a minute.
pub const STROKES_MIN: f64 = 500.0;
/// A leak is watched for so long, s.
const LEAK_S: f64 = 180.0;
/// A drop of petrol from a small tip, mg: 12 µl.
pub(crate) const DROP_MG: f64 = 9.0;
/// Lift of a control valve, µm.
pub(crate) const LIFT_UM: f64 = 60.0;
/// Marks of the tubes, ml.
const TUBE_ML: f64 = 0.2;

/// Everything that a bench of this kind reads, the nth time from 0: of the injectors by their seats now.
pub(super) fn on_bench(hand: &mut Hand<'_>, nth: u64) -> Vec<BenchRead> {
    let draw = &mut hand.draws(50, nth);
    let injectors: Vec<Injector> = hand.cylinders().map(|c| *hand.engine.injector(c)).collect();
    let mut read = Vec::new();
    looks(&mut read, &injectors, draw);
    if hand.engine.is_diesel() {
        hand.map(&mut read, &injectors, draw);
        leaks(&mut read, &injectors, nominal(hand.engine.fuel).idle_kpa, draw);
        lift(&mut read, &injectors, draw);
    } else if hand.engine.fuel == FuelSystem::ExhaustDoser {
        doser(&mut read, &injectors, draw);
    } else {
        hand.petrol(&mut read, &injectors, draw);
        leaks(&mut read, &injectors, nominal(hand.engine.fuel).idle_kpa, draw);
    }
    read
}

impl Hand<'_> {
    fn petrol(&mut self, read: &mut Vec<BenchRead>, injectors: &[Injector], draw: &mut Draw) {
        let kind = nominal(self.engine.fuel);
        let kpa = kind.idle_kpa;
        let density = Fluid::new(Liquid::WhiteSpirit).density(20.0);
        let mut set = |test, cell, value| {
            read.push(BenchRead { test, cell, row: None, tag: None, value });
        };
        set(BenchTest::Flow, "pressure", kpa);
        set(BenchTest::Flow, "fluid", 2.0);
        let foam = self.slips(draw, self.person.not_settled, Slip::NotSettled);
        for (at, (pulse, amount)) in FLOW_POINTS.into_iter().enumerate() {
            let mut tubes: Vec<f64> = injectors
                .iter()
                .map(|one| {
                    let ml = match pulse {
                        Some(pulse) => {
                            // The bench's pulses are those of the kind, scaled to what it injects.
                            let pulse = pulse * kind.idle_ms / 2.5;
                            let mm3 = one.delivered_mm3(pulse, kind.dead.volts, kpa, density);
                            mm3 * amount * draw.normal(1.0, one.scatter / 4.0) / 1000.0
                        }
                        None if one.moves() => one.static_ml_min(kpa, density) * amount / 60.0,
                        None => 0.0,
                    };
                    let read = ml + draw.triangular(TUBE_ML / 2.0) + if foam { 0.3 } else { 0.0 };
                    (read.max(0.0) / (TUBE_ML / 2.0)).round() * TUBE_ML / 2.0
                })
                .collect();
            self.written(draw, &mut tubes);
            let row = Some(at as u32 + 1);
            read.extend(tubes.into_iter().enumerate().map(|(tag, value)| BenchRead {
                test: BenchTest::Flow,
                cell: "volume",
                row,
                tag: Some(tag as u32 + 1),
                value,
            }));
        }
        for (tag, one) in injectors.iter().enumerate() {
            let tag = Some(tag as u32 + 1);
            let bad = one.spray_bad() + draw.normal(0.0, 0.06);
            let pattern = if bad > 0.55 {
                2.0
            } else if bad > 0.3 {
                1.0
            } else {
                0.0
            };
            let dribble = if one.drips_mg_min() > 4.0 && draw.happens(0.8) { 1.0 } else { 0.0 };
            for (cell, value) in [("pattern", pattern), ("dribble", dribble)] {
                read.push(BenchRead { test: BenchTest::Spray, cell, row: None, tag, value });
            }
        }
    }

    fn map(&mut self, read: &mut Vec<BenchRead>, injectors: &[Injector], draw: &mut Draw) {
        let kind = nominal(self.engine.fuel);
        let fluid = Fluid::new(Liquid::CalibrationFluid);
        let (celsius, density) = (40.0, fluid.density(40.0));
        for (at, (_, kpa, pulse, strokes)) in MAP_POINTS.into_iter().enumerate() {
            let pulse = pulse * kind.idle_ms / 0.55;
            let row = Some(at as u32 + 1);
            let minutes = strokes / STROKES_MIN;
            let tube = |draw: &mut Draw, ml: f64| {
                let read = ml * draw.normal(1.0, 0.004) + draw.triangular(0.05);
                (read.max(0.0) / 0.05).round() * 0.05
            };
            let mut delivered: Vec<f64> = injectors
                .iter()
                .map(|one| {
                    let mm3 = one.delivered_mm3(pulse, kind.dead.volts, kpa, density);
                    tube(draw, mm3 * strokes / 1000.0)
                })
                .collect();
            self.written(draw, &mut delivered);
            for (at, one) in injectors.iter().enumerate() {
                let tag = Some(at as u32 + 1);
                let mut put = |cell, value| {
                    read.push(BenchRead { test: BenchTest::Map, cell, row, tag, value });
                };
                let back = if pulse == 0.0 {
                    one.standing_ml_min(kpa, &fluid, celsius)
                } else {
                    one.return_ml_min(STROKES_MIN, pulse, kpa, &fluid, celsius)
                };
                if pulse > 0.0 {
                    put("delivered", delivered[at]);
                }
                put("returned", tube(draw, back * minutes));
            }
        }
    }
}

/// Closed under pressure: drops that fall; what has not gathered to a drop hangs.
fn leaks(read: &mut Vec<BenchRead>, injectors: &[Injector], kpa: f64, draw: &mut Draw) {
    let mut put = |cell, tag, value| {
        read.push(BenchRead { test: BenchTest::Leak, cell, row: None, tag, value });
    };
    put("pressure", None, kpa.min(40_000.0));
    put("seconds", None, LEAK_S);
    for (at, one) in injectors.iter().enumerate() {
        let fell = one.drips_mg_min() / DROP_MG * LEAK_S / 60.0;
        let drops = (fell + draw.normal(0.0, 0.15)).max(0.0).floor();
        put("drops", Some(at as u32 + 1), drops);
    }
}

/// The valve lift of those that deliver little at the first point, where there is a valve to be measured.
fn lift(read: &mut Vec<BenchRead>, injectors: &[Injector], draw: &mut Draw) {
    let first = |one: &&BenchRead| one.row == Some(1) && one.cell == "delivered";
    let mut sorted: Vec<f64> = read.iter().filter(first).map(|one| one.value).collect();
    sorted.sort_by(f64::total_cmp);
    let middle = sorted.get(sorted.len() / 2).copied().unwrap_or_default();
    let low: Vec<Option<u32>> = read
        .iter()
        .filter(first)
        .filter(|one| one.value < 0.93 * middle)
        .map(|one| one.tag)
        .collect();
    for (at, one) in injectors.iter().enumerate() {
        let tag = Some(at as u32 + 1);
        if one.fuel != FuelSystem::DieselSolenoid || !low.contains(&tag) {
            continue;
        }
        let um = (LIFT_UM * one.lift + draw.normal(0.0, 0.7)).round();
        for (cell, value) in [("shim", 1000.0), ("lift", um)] {
            read.push(BenchRead { test: BenchTest::Lift, cell, row: None, tag, value });
        }
    }
}

/// What is seen of an injector in the hand.
fn looks(read: &mut Vec<BenchRead>, injectors: &[Injector], draw: &mut Draw) {
    for (tag, one) in injectors.iter().enumerate() {
        let tag = Some(tag as u32 + 1);
        let dirty = one.dirt.holes > 0.1 && draw.happens(0.75);
        let wet = one.drips_mg_min() > 2.0 && draw.happens(0.6);
        let gas = one.gas_mm2 > 0.6 && draw.happens(0.85);
        let worn = one.holes > 1.12 && draw.happens(0.35);
        let seat = if wet { 2.0 } else { f64::from(gas) };
        let basket = one.dirt.basket > 0.7 && draw.happens(0.9);
        for (cell, value) in [
            ("tip", f64::from(dirty)),
            ("seat", seat),
            ("holes", if worn { 2.0 } else { 0.0 }),
            ("bore", f64::from(gas)),
            ("basket", f64::from(basket)),
        ] {
            read.push(BenchRead { test: BenchTest::Visual, cell, row: None, tag, value });
        }
    }
}

fn doser(read: &mut Vec<BenchRead>, injectors: &[Injector], draw: &mut Draw) {
    let (kpa, seconds) = (610.0, 60.0);
    let density = Fluid::new(Liquid::Diesel).density(30.0);
    for (cell, value) in [
        ("pressure", kpa),
        ("seconds", seconds),
        ("capped", 1.0),
        ("tip", 0.0),
        ("leak_marks", 0.2),
    ] {
        read.push(BenchRead { test: BenchTest::Doser, cell, row: None, tag: None, value });
    }
    for (tag, one) in injectors.iter().enumerate() {
        let tag = Some(tag as u32 + 1);
        let leak = one.drips_mg_min() / density + draw.triangular(0.05);
        let mut put = |cell, value: f64| {
            read.push(BenchRead { test: BenchTest::Doser, cell, row: None, tag, value });
        };
        put("leak", (leak.max(0.0) / 0.1).round() * 0.1);
        for cell in ["run_1", "run_2", "run_3"] {
            let flow = if one.moves() { one.static_ml_min(kpa, density) } else { 0.0 };
            let ml = flow * seconds / 60.0 * draw.normal(1.0, 0.008);
            put(cell, ml.round().max(0.0));
        }
    }
}
