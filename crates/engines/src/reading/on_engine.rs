//! Checks on the engine that are read cell by cell.
//!
//! # Source
//! What is shown follows from the engine; how well it is seen stands with each check, a model of our own.

use super::{Hand, SheetRead, Slip, shown};
use crate::draw::Draw;
use crate::engine::{MadeEngine, Running};
use crate::injector::nominal;
use crate::physics::drained_kpa;
use crate::signal::tick;
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::tests::engine::EngineTest;

/// Compliance of hose and rail of a port engine, ml/kPa.
const COMPLIANCE: f64 = 0.013;
/// Pulses of a balance test, and the length of each, ms.
const PULSES: (f64, f64) = (50.0, 6.0);

pub(super) fn sheet(
    hand: &mut Hand<'_>,
    check: EngineTest,
    asked: &[u32],
    draw: &mut Draw,
) -> Option<SheetRead> {
    let engine = hand.engine;
    Some(match check {
        EngineTest::FuelSample => fuel_sample(engine, draw),
        EngineTest::SuctionAir => suction_air(engine, draw),
        EngineTest::LowPressure => low_pressure(engine, draw),
        EngineTest::SharedCauses => shared_causes(engine, draw),
        EngineTest::RailRelief => rail_relief(engine, draw),
        EngineTest::RailPressureHold => rail_hold(engine, draw),
        EngineTest::Compression => compression(hand, draw),
        EngineTest::Supply => supply(hand, draw),
        EngineTest::Indicator => indicator(hand, draw),
        EngineTest::Listening => listening(hand, draw),
        EngineTest::DriveCurrent => drive_current(hand, draw),
        EngineTest::Spark => spark(hand, asked, draw),
        EngineTest::CoilResistance => coil(hand, draw),
        EngineTest::PiezoStack => stack(hand, draw),
        EngineTest::Insulation => insulation(hand, draw),
        EngineTest::Cutout => cutout(hand, draw),
        EngineTest::DiBalance => di_balance(hand, draw),
        EngineTest::PressureDrop => pressure_drop(hand, draw),
        EngineTest::ReturnTest | EngineTest::ComplaintFigure => return None,
    })
}

fn of_set(set: Vec<(&'static str, f64)>) -> SheetRead {
    SheetRead { set, each: Vec::new() }
}

/// A row of one cell, cylinder by cylinder.
fn row(cell: &'static str, values: &[f64]) -> Vec<(&'static str, u32, f64)> {
    values.iter().enumerate().map(|(at, value)| (cell, at as u32 + 1, *value)).collect()
}

/// Is it seen, when there is so much of it? A little is overlooked, and now and then nothing is seen as some.
fn seen(draw: &mut Draw, much: f64) -> bool {
    draw.happens((0.02 + 1.6 * much).min(0.97))
}

fn fuel_sample(engine: &MadeEngine, draw: &mut Draw) -> SheetRead {
    let shared = &engine.shared;
    let water = seen(draw, shared.water);
    let other = seen(draw, shared.foreign);
    let weak = engine.seats.len()
        - (0..engine.seats.len()).filter(|c| engine.pulls(*c, Running::Idle) > 0.8).count();
    let suffers = match weak {
        0 | 1 => 0.0,
        many if many < engine.seats.len() => 1.0,
        _ => 2.0,
    };
    let look = if water { 3.0 } else { 0.0 };
    let set = vec![("suffers", suffers), ("look", look)];
    let smell = if other { 1.0 } else { 0.0 };
    let layer = if water { if shared.water > 0.7 { 2.0 } else { 1.0 } } else { 0.0 };
    of_set([set, vec![("smell", smell), ("water", layer)]].concat())
}

fn suction_air(engine: &MadeEngine, draw: &mut Draw) -> SheetRead {
    let air = engine.shared.air;
    let bubbles = if seen(draw, air) { if air > 0.5 { 2.0 } else { 1.0 } } else { 0.0 };
    let back = if seen(draw, air * 0.8) { if air > 0.6 { 2.0 } else { 1.0 } } else { 0.0 };
    of_set(vec![("running", bubbles), ("standing", back)])
}

fn low_pressure(engine: &MadeEngine, draw: &mut Draw) -> SheetRead {
    let right = match engine.fuel {
        FuelSystem::PetrolPort => 300.0,
        FuelSystem::PetrolDirect => 450.0,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => 420.0,
        FuelSystem::ExhaustDoser => 610.0,
    };
    let now = right * engine.shared.feed * (1.0 - 0.2 * engine.shared.air);
    let under_load = now * if engine.shared.feed < 0.9 { 0.85 } else { 0.98 };
    of_set(vec![
        ("least", right * 0.9),
        ("idle", shown(draw, now, 0.016, 2.0)),
        ("load", shown(draw, under_load, 0.016, 2.0)),
    ])
}

fn shared_causes(engine: &MadeEngine, draw: &mut Draw) -> SheetRead {
    let answer = |draw: &mut Draw, much: f64| if seen(draw, much) { 2.0 } else { 1.0 };
    let mixture = engine.shared.mixture;
    let low = (1.0 - engine.shared.power).max(0.0) * 2.5;
    of_set(vec![
        ("intake", answer(draw, mixture)),
        ("exhaust", answer(draw, 0.0)),
        ("ground", answer(draw, low)),
        ("signals", answer(draw, mixture * 0.2)),
    ])
}

fn rail_relief(engine: &MadeEngine, draw: &mut Draw) -> SheetRead {
    let wanted = engine.wanted_kpa(Running::Cranking);
    // Blanked off from the injectors: what the pump and its valves can do.
    let alone = wanted * (0.55 + 0.5 * engine.shared.pump).min(1.0);
    let lost = 1.0 - engine.shared.pump;
    let runs = if lost > 0.35 && draw.happens(0.6) { 2.0 } else { 0.0 };
    let drips = if runs == 0.0 && seen(draw, lost * 0.3) { 1.0 } else { runs };
    of_set(vec![
        ("wanted", wanted),
        ("reached", shown(draw, alone.min(wanted) * 0.99, 0.02, 100.0)),
        ("relief", drips),
    ])
}

fn rail_hold(engine: &MadeEngine, draw: &mut Draw) -> SheetRead {
    let off = engine.wanted_kpa(Running::Idle);
    let density = engine.fluid().density(60.0);
    let drips: f64 = (0..engine.seats.len()).map(|c| engine.injector(c).drips_mg_min()).sum();
    // A small rail of steel gives its pressure away with very little fuel.
    let stands = match engine.fuel {
        FuelSystem::PetrolPort => 0.01,
        FuelSystem::PetrolDirect => 0.000_4,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => 0.000_2,
    };
    let rate = 0.01 + drips / density / stands / off;
    let after = |draw: &mut Draw, minutes: f64| {
        shown(draw, off * libm::exp(-rate * minutes), 0.016, 2.0).max(0.0)
    };
    let least = off * 0.7;
    of_set(vec![
        ("least", least),
        ("at", 2.0),
        ("off", shown(draw, off, 0.016, 2.0)),
        ("after_1", after(draw, 1.0)),
        ("after_5", after(draw, 5.0)),
    ])
}

fn compression(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let cold = hand.slips(draw, hand.person.cold, Slip::Cold);
    let mut values: Vec<f64> = hand
        .cylinders()
        .map(|cylinder| {
            let kpa = hand.engine.compression(cylinder) * if cold { 0.93 } else { 1.0 };
            shown(draw, kpa, 0.03, 20.0)
        })
        .collect();
    hand.written(draw, &mut values);
    SheetRead { set: vec![("method", 0.0)], each: row("pressure", &values) }
}

fn supply(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let battery = 12.6;
    let port = matches!(engine.fuel, FuelSystem::PetrolPort | FuelSystem::ExhaustDoser);
    let leg = |draw: &mut Draw, cylinder: usize| {
        let ohm = engine.places[cylinder].leg_ohm;
        if ohm.is_finite() { shown(draw, ohm + 0.05, 0.02, 0.1) } else { 9_999.0 }
    };
    if port {
        let volts: Vec<f64> = hand
            .cylinders()
            .map(|cylinder| {
                let ohm = engine.places[cylinder].leg_ohm;
                // Loaded with a lamp of an ampere.
                let left = battery * engine.shared.power - ohm.min(100.0);
                shown(draw, left.max(0.0), 0.01, 0.1)
            })
            .collect();
        let set = vec![("feed", 0.0), ("battery", battery), ("load", 1.0)];
        return SheetRead { set, each: row("volts", &volts) };
    }
    let legs: Vec<f64> = hand.cylinders().map(|cylinder| leg(draw, cylinder)).collect();
    let set = vec![("feed", 1.0), ("battery", battery * engine.shared.power)];
    SheetRead { set, each: row("leg", &legs) }
}

fn indicator(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let (mut lamps, mut rods) = (Vec::new(), Vec::new());
    for cylinder in hand.cylinders() {
        let place = &engine.places[cylinder];
        // A lamp lights on a few strands of wire.
        let driven = place.leg_ohm.is_finite() && place.driver > 0.2 && engine.shared.power > 0.4;
        lamps.push(f64::from(driven));
        let clicks = driven && engine.injector(cylinder).moves() && engine.volts(cylinder) > 6.0;
        let heard = if clicks { !draw.happens(0.03) } else { draw.happens(0.04) };
        rods.push(f64::from(heard));
    }
    SheetRead { set: Vec::new(), each: [row("lamp", &lamps), row("rod", &rods)].concat() }
}

/// What a microphone makes of the ticks: what is silent lets a neighbour be heard.
fn listening(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let (mut heard, mut levels, mut late) = (Vec::new(), Vec::new(), Vec::new());
    for cylinder in hand.cylinders() {
        let tick = tick(hand.engine, cylinder);
        let made = Draw::new(hand.seed, 5000 + hand.engine.seats[cylinder] as u64).normal(0.0, 0.7);
        let level = tick.level_db.map_or(-draw.between(13.0, 18.0), |level| level + made);
        let missed = tick.misses + draw.normal(0.0, 0.02 + 0.1 * tick.misses);
        heard.push(if tick.level_db.is_none() {
            draw.between(0.0, 6.0).round()
        } else {
            ((1.0 - missed) * 100.0).round().clamp(0.0, 100.0)
        });
        levels.push(((-45.0 + level + draw.normal(0.0, 0.6)) * 10.0).round() / 10.0);
        late.push(((tick.late_ms + draw.normal(0.0, 0.03)) * 100.0).round().max(1.0) / 100.0);
    }
    let each = [row("heard", &heard), row("level", &levels), row("late", &late)].concat();
    SheetRead { set: vec![("speed", hand.engine.rpm(Running::Idle))], each }
}

/// Peak and kink as a clamp shows them. A boosted driver ends its rise before the kink.
fn drive_current(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let kind = nominal(engine.fuel);
    let mut each = Vec::new();
    for (at, cylinder) in hand.cylinders().enumerate() {
        let (injector, place) = (engine.injector(cylinder), &engine.places[cylinder]);
        let closed = injector.coil_ohm.is_finite() && place.leg_ohm.is_finite();
        let driven = closed && place.driver >= 0.2;
        let share = engine.volts(cylinder) / kind.dead.volts * place.driver.min(1.0);
        let peak = match kind.peak_a {
            Some(peak) => peak * share,
            None => share * kind.dead.volts / injector.coil_at(40.0),
        };
        let peak = if driven { shown(draw, peak, 0.02, 0.01) } else { 0.0 };
        let cylinder_number = at as u32 + 1;
        each.push(("peak", cylinder_number, peak));
        if kind.peak_a.is_some() || !driven {
            continue;
        }
        each.push(("kink", cylinder_number, f64::from(injector.moves())));
        if injector.moves() {
            let opens = injector.dead_ms(engine.volts(cylinder), engine.wanted_kpa(Running::Idle));
            let seen = opens + draw.normal(0.0, 0.02);
            each.push(("opens", cylinder_number, (seen * 100.0).round() / 100.0));
        }
    }
    SheetRead { set: vec![("volts", kind.dead.volts)], each }
}

/// Exchanged at the cylinder that was asked for, else at the one that pulls least.
fn spark(hand: &mut Hand<'_>, asked: &[u32], draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let pulls: Vec<f64> = hand.cylinders().map(|c| engine.pulls(c, Running::Idle)).collect();
    let worst = (0..pulls.len()).min_by(|a, b| pulls[*a].total_cmp(&pulls[*b])).unwrap_or(0);
    let worst = asked.first().map_or(worst, |cylinder| *cylinder as usize - 1);
    let bad = engine.places[worst].spark < 0.8;
    let moved = if bad { draw.happens(0.93) } else { draw.happens(0.05) };
    SheetRead { set: Vec::new(), each: vec![("moved", worst as u32 + 1, f64::from(moved))] }
}

/// Accuracy, last digit and leads in Ω of what a coil is read with: below a few ohms an ordinary meter cannot
/// decide, and a bridge with four wires is taken.
pub(crate) fn meter(fuel: FuelSystem) -> (f64, f64, f64) {
    if nominal(fuel).coil_ohm < 3.0 { (0.004, 0.001, 0.012) } else { (0.01, 0.1, 0.15) }
}

fn coil(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let celsius = draw.between(15.0, 40.0).round();
    let (accuracy, digit, fine) = meter(engine.fuel);
    let leads = if fine < 0.02 { fine } else { draw.between(0.05, 0.3) };
    let mut values: Vec<f64> = hand
        .cylinders()
        .map(|cylinder| {
            let ohm = engine.injector(cylinder).coil_at(celsius);
            if ohm.is_finite() { shown(draw, ohm + leads, accuracy, digit) } else { 999_999.0 }
        })
        .collect();
    hand.written(draw, &mut values);
    let leads = (leads / digit).round() * digit;
    SheetRead { set: vec![("temperature", celsius), ("leads", leads)], each: row("ohms", &values) }
}

fn stack(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let mut values: Vec<f64> = hand
        .cylinders()
        .map(|c| shown(draw, hand.engine.injector(c).stack_uf, 0.02, 0.01).max(0.0))
        .collect();
    hand.written(draw, &mut values);
    SheetRead { set: Vec::new(), each: row("microfarads", &values) }
}

fn insulation(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let values: Vec<f64> = hand
        .cylinders()
        .map(|c| {
            let mohm = hand.engine.injector(c).body_mohm;
            let digit = if mohm < 10.0 { 0.001 } else { 1.0 };
            shown(draw, mohm, 0.05, digit).max(0.0)
        })
        .collect();
    SheetRead { set: Vec::new(), each: row("megohms", &values) }
}

/// Speed that a cylinder's own pull holds up, rpm.
const HOLDS_RPM: f64 = 340.0;

fn cutout(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let base = 800.0 + draw.normal(0.0, 3.0);
    let all = hand.cylinders().len() as f64;
    let mut values: Vec<f64> = hand
        .cylinders()
        .map(|cylinder| {
            let falls = HOLDS_RPM / all * engine.pulls(cylinder, Running::Idle);
            (base - falls * draw.normal(1.0, 0.06) + draw.normal(0.0, 2.0)).round()
        })
        .collect();
    hand.written(draw, &mut values);
    SheetRead { set: vec![("base", base.round())], each: row("cut", &values) }
}

fn di_balance(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let mut values: Vec<f64> = hand
        .cylinders()
        .map(|cylinder| {
            let kpa = 310.0 * engine.share(cylinder, Running::Idle) * draw.normal(1.0, 0.03);
            (kpa / 5.0).round().max(0.0) * 5.0
        })
        .collect();
    hand.written(draw, &mut values);
    SheetRead { set: Vec::new(), each: row("change", &values) }
}

/// What a standing rail holds after one injector was pulsed into its cylinder, kPa.
pub fn after_pulses(engine: &MadeEngine, cylinder: usize, start_kpa: f64, volts: f64) -> f64 {
    let injector = engine.injector(cylinder);
    let place = &engine.places[cylinder];
    let driven = place.driver > 0.2 && volts > 5.0 && injector.moves();
    let open_ms =
        if driven { (PULSES.1 - injector.dead_ms(volts, start_kpa)).max(0.0) } else { 0.0 };
    let density = engine.fluid().density(25.0);
    let flow = injector.static_ml_min(start_kpa, density) * place.line;
    let end = drained_kpa(start_kpa, flow, open_ms * PULSES.0 / 1000.0, COMPLIANCE);
    (end - injector.drips_mg_min() * 0.02).max(0.0)
}

fn pressure_drop(hand: &mut Hand<'_>, draw: &mut Draw) -> SheetRead {
    let engine = hand.engine;
    let unequal = hand.slips(draw, hand.person.unequal_start, Slip::UnequalStart);
    let disturbed = hand.slips(draw, hand.person.disturbed, Slip::Disturbed);
    let cylinders: Vec<usize> = hand.cylinders().collect();
    let one = |draw: &mut Draw, cylinder: usize, order: usize| {
        let aim = 300.0 + draw.normal(0.0, if unequal { 12.0 } else { 1.5 });
        // The battery sags while it is pulsed, and the rail grows warmer.
        let volts = engine.volts(cylinder) * (1.0 - 0.003 * order as f64);
        let start = aim * engine.shared.feed.min(1.0);
        let end = after_pulses(engine, cylinder, start, volts);
        (shown(draw, start, 0.004, 1.0), shown(draw, end, 0.004, 1.0))
    };
    let read: Vec<(f64, f64)> =
        cylinders.iter().enumerate().map(|(at, c)| one(draw, *c, at)).collect();
    let again = one(draw, cylinders[0], cylinders.len());
    let starts: Vec<f64> = read.iter().map(|pair| pair.0).collect();
    let mut ends: Vec<f64> = read.iter().map(|pair| pair.1).collect();
    if disturbed {
        let at = draw.below(ends.len());
        ends[at] += draw.normal(0.0, 12.0).round();
    }
    hand.written(draw, &mut ends);
    let set = vec![
        ("pulses", PULSES.0),
        ("pulse", PULSES.1),
        ("bracket_start", again.0),
        ("bracket_end", again.1),
    ];
    let ends: Vec<f64> = ends.into_iter().map(|kpa| kpa.max(0.0)).collect();
    SheetRead { set, each: [row("start", &starts), row("end", &ends)].concat() }
}
