//! Checks on the engine, as the second person reads them.
//!
//! # Source
//! [`super::shows`]; scatter and resolution are a model of our own.

use super::{SecondHand, shows, to};
use crate::draw::Draw;
use crate::injector::nominal;
use crate::reading::{SheetRead, meter};
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::tests::engine::EngineTest;

type Set = Vec<(&'static str, f64)>;

fn row(cell: &'static str, values: Vec<f64>) -> Vec<(&'static str, u32, f64)> {
    (1..).zip(values).map(|(cylinder, value)| (cell, cylinder, value)).collect()
}

fn of_set(set: Set) -> SheetRead {
    SheetRead { set, each: Vec::new() }
}

/// Seen or overlooked: half of what is slight, nearly all of what is plain.
fn noticed(draw: &mut Draw, much: f64) -> bool {
    let chance = if much <= 0.0 { 0.03 } else { (0.35 + 0.9 * much).min(0.94) };
    draw.happens(chance)
}

/// The same as a figure of a form.
fn seen(draw: &mut Draw, much: f64) -> f64 {
    f64::from(noticed(draw, much))
}

impl SecondHand<'_> {
    pub(super) fn on_engine(
        &self,
        check: EngineTest,
        nth: u64,
        asked: &[u32],
    ) -> Option<SheetRead> {
        let draw = &mut self.draws(10 + check as u64, nth);
        let read = match check {
            EngineTest::FuelSample => of_set(self.fuel_sample(draw)),
            EngineTest::SuctionAir => of_set(self.suction_air(draw)),
            EngineTest::LowPressure => of_set(self.low_pressure(draw)),
            EngineTest::SharedCauses => of_set(self.shared_causes(draw)),
            EngineTest::RailRelief => of_set(self.rail_relief(draw)),
            EngineTest::RailPressureHold => of_set(self.rail_hold(draw)),
            EngineTest::Compression => {
                let usual = if self.shows().diesel() { 2300.0 } else { 1180.0 };
                let usual = usual
                    * self.lasting(1, 0.05)
                    * if draw.happens(self.person.cold) { 0.9 } else { 1.0 };
                let kpa = self.each(draw, |c, d| {
                    to(usual * self.shows().tight(c) * d.normal(1.0, 0.02), 25.0).max(0.0)
                });
                SheetRead { set: vec![("method", 0.0)], each: row("pressure", kpa) }
            }
            EngineTest::Supply => self.supply(draw),
            EngineTest::Indicator => self.indicator(draw),
            EngineTest::Listening => self.listening(draw),
            EngineTest::DriveCurrent => self.current(draw),
            EngineTest::Spark => {
                let pulls: Vec<f64> = (0..self.count()).map(|c| self.shows().pulls(c)).collect();
                let weakest = (0..pulls.len()).min_by(|a, b| pulls[*a].total_cmp(&pulls[*b]))?;
                let at = asked.first().map_or(weakest, |cylinder| *cylinder as usize - 1);
                let bad = self.shows().place(at).spark < 0.8;
                let moved = draw.happens(if bad { 0.9 } else { 0.06 });
                SheetRead {
                    set: Vec::new(),
                    each: vec![("moved", at as u32 + 1, f64::from(moved))],
                }
            }
            EngineTest::CoilResistance => self.coil(draw),
            EngineTest::PiezoStack => {
                let uf = self.each(draw, |c, d| {
                    to((self.engine.injector(c).stack_uf * d.normal(1.0, 0.015)).max(0.0), 0.01)
                });
                SheetRead { set: Vec::new(), each: row("microfarads", uf) }
            }
            EngineTest::Insulation => {
                let megohms = self.each(draw, |c, d| {
                    let is = self.engine.injector(c).body_mohm * d.normal(1.0, 0.08);
                    to(is.clamp(0.0, 550.0), if is < 20.0 { 0.001 } else { 1.0 })
                });
                SheetRead { set: Vec::new(), each: row("megohms", megohms) }
            }
            EngineTest::Cutout => {
                let base = to(780.0 * self.lasting(2, 0.04), 1.0);
                let share = 95.0 * 4.0 / self.count().max(2) as f64;
                let cut = self.each(draw, |c, d| {
                    to(base - share * self.shows().pulls(c) + d.normal(0.0, 5.0), 5.0)
                });
                SheetRead { set: vec![("base", base)], each: row("cut", cut) }
            }
            EngineTest::DiBalance => {
                let change = self.each(draw, |c, d| {
                    to((260.0 * self.shows().gets(c) * d.normal(1.0, 0.04)).max(0.0), 10.0)
                });
                SheetRead { set: Vec::new(), each: row("change", change) }
            }
            EngineTest::PressureDrop => self.pressure_drop(draw),
            EngineTest::ReturnTest | EngineTest::ComplaintFigure => return None,
        };
        Some(read)
    }

    fn fuel_sample(&self, draw: &mut Draw) -> Set {
        let shared = &self.engine.shared;
        let weak = (0..self.count()).filter(|c| self.shows().pulls(*c) < 0.75).count();
        let suffers = if weak < 2 {
            0.0
        } else if weak < self.count() {
            1.0
        } else {
            2.0
        };
        let water = 2.0 * seen(draw, shared.water);
        let look = if water > 0.0 { 3.0 } else { 0.0 };
        vec![
            ("suffers", suffers),
            ("look", look),
            ("smell", seen(draw, shared.foreign)),
            ("water", water),
        ]
    }

    fn suction_air(&self, draw: &mut Draw) -> Set {
        let shared = &self.engine.shared;
        let plain = if shared.air > 0.45 { 2.0 } else { 1.0 };
        vec![
            ("running", plain * seen(draw, shared.air)),
            ("standing", plain * seen(draw, 0.7 * shared.air)),
        ]
    }

    fn low_pressure(&self, draw: &mut Draw) -> Set {
        let shared = &self.engine.shared;
        let right = match self.engine.fuel {
            FuelSystem::PetrolPort => 350.0,
            FuelSystem::PetrolDirect => 500.0,
            FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => 380.0,
            FuelSystem::ExhaustDoser => 900.0,
        };
        let idle = right * shared.feed * (1.0 - 0.15 * shared.air) * draw.normal(1.02, 0.015);
        let load = idle * if shared.feed < 0.88 { 0.8 } else { 0.97 };
        vec![("least", right * 0.9), ("idle", to(idle, 5.0)), ("load", to(load, 5.0))]
    }

    fn shared_causes(&self, draw: &mut Draw) -> Set {
        let shared = &self.engine.shared;
        let answer = |draw: &mut Draw, much: f64| 1.0 + seen(draw, much);
        let ground = (0.95 - shared.power).max(0.0) * 2.0;
        vec![
            ("intake", answer(draw, shared.mixture)),
            ("exhaust", answer(draw, 0.0)),
            ("ground", answer(draw, ground)),
            ("signals", answer(draw, 0.4 * shared.mixture)),
        ]
    }

    fn rail_relief(&self, draw: &mut Draw) -> Set {
        let shared = &self.engine.shared;
        let wanted = if self.shows().diesel() { 25_000.0 } else { 5_000.0 };
        let alone = (0.45 + 0.62 * shared.pump).min(1.0) * draw.normal(0.99, 0.01);
        let relief = if shared.pump < 0.6 { 2.0 * seen(draw, 0.5) } else { seen(draw, 0.0) };
        vec![
            ("wanted", wanted),
            ("reached", to(wanted * alone.min(1.0), 100.0)),
            ("relief", relief),
        ]
    }

    fn rail_hold(&self, draw: &mut Draw) -> Set {
        let off = if self.shows().diesel() {
            28_000.0
        } else if self.engine.fuel == FuelSystem::PetrolPort {
            320.0
        } else {
            5_500.0
        };
        let lost: f64 = (0..self.count()).map(|c| shows::drips(self.engine.injector(c))).sum();
        // A straight line down to nothing, where the first population falls off by halves.
        let left = |minutes: f64| (1.0 - minutes * (0.012 + 0.011 * lost)).max(0.0);
        let shown = |draw: &mut Draw, share: f64| to(off * share * draw.normal(1.0, 0.012), 5.0);
        vec![
            ("least", off * 0.7),
            ("at", 2.0),
            ("off", shown(draw, 1.0)),
            ("after_1", shown(draw, left(1.0))),
            ("after_5", shown(draw, left(5.0))),
        ]
    }

    fn supply(&self, draw: &mut Draw) -> SheetRead {
        let battery = 12.3;
        let power = self.engine.shared.power;
        if nominal(self.engine.fuel).peak_a.is_none() {
            let volts = self.each(draw, |c, d| {
                let ohm = self.shows().place(c).leg_ohm;
                let left = if ohm.is_finite() { battery * power - 0.8 * ohm } else { 0.0 };
                to((left + d.normal(0.0, 0.05)).max(0.0), 0.1)
            });
            let set = vec![("feed", 0.0), ("battery", battery), ("load", 1.0)];
            return SheetRead { set, each: row("volts", volts) };
        }
        let legs = self.each(draw, |c, d| {
            let ohm = self.shows().place(c).leg_ohm;
            if ohm.is_finite() { to((ohm + d.normal(0.08, 0.04)).max(0.0), 0.1) } else { 9_999.0 }
        });
        SheetRead {
            set: vec![("feed", 1.0), ("battery", to(battery * power, 0.1))],
            each: row("leg", legs),
        }
    }

    fn indicator(&self, draw: &mut Draw) -> SheetRead {
        let (mut lamps, mut rods) = (Vec::new(), Vec::new());
        for c in 0..self.count() {
            let clicks = self.shows().driven(c) && shows::opens(self.engine.injector(c));
            lamps.push(f64::from(self.shows().driven(c)));
            rods.push(f64::from(draw.happens(if clicks { 0.96 } else { 0.06 })));
        }
        SheetRead { set: Vec::new(), each: [row("lamp", lamps), row("rod", rods)].concat() }
    }

    fn listening(&self, draw: &mut Draw) -> SheetRead {
        let (mut heard, mut level, mut late) = (Vec::new(), Vec::new(), Vec::new());
        for c in 0..self.count() {
            let one = self.engine.injector(c);
            let moves = self.shows().driven(c) && shows::opens(one);
            let weak = 1.0 - shows::short(one).min(1.0);
            let own = 20.0 * (self.lasting(300 + self.engine.seats[c] as u64, 0.04) - 1.0);
            heard.push(if moves {
                to(100.0 - 60.0 * weak * draw.share(), 1.0)
            } else {
                to(draw.between(0.0, 9.0), 1.0)
            });
            let quiet = if moves { 5.0 * weak } else { draw.between(11.0, 20.0) };
            level.push(to(-40.0 + own - quiet + draw.normal(0.0, 0.8), 0.1));
            let usual = nominal(self.engine.fuel).dead.usual_ms;
            late.push(to(
                (usual * 2.0 + one.late_ms + one.dirt.late_ms + draw.normal(0.0, 0.04)).max(0.05),
                0.01,
            ));
        }
        let each = [row("heard", heard), row("level", level), row("late", late)].concat();
        SheetRead { set: vec![("speed", 780.0)], each }
    }

    fn current(&self, draw: &mut Draw) -> SheetRead {
        let kind = nominal(self.engine.fuel);
        let mut each = Vec::new();
        for c in 0..self.count() {
            let (one, at) = (self.engine.injector(c), c as u32 + 1);
            let driven = self.shows().driven(c) && one.coil_ohm.is_finite();
            let usual = kind.peak_a.unwrap_or(0.95);
            let shorted =
                if kind.coil_ohm > 0.0 { (kind.coil_ohm / one.coil_ohm).min(1.8) } else { 1.0 };
            let of_coil = if kind.peak_a.is_some() { 1.0 } else { shorted };
            let peak = usual * self.shows().drive(c) * of_coil * draw.normal(1.0, 0.02);
            each.push(("peak", at, if driven { to(peak, 0.05) } else { 0.0 }));
            if kind.peak_a.is_none() && driven {
                let moves = shows::opens(one);
                each.push(("kink", at, f64::from(moves)));
                if moves {
                    let opens = kind.dead.usual_ms * 1.1 + one.late_ms + one.dirt.late_ms;
                    each.push(("opens", at, to((opens + draw.normal(0.0, 0.03)).max(0.05), 0.01)));
                }
            }
        }
        SheetRead { set: vec![("volts", kind.dead.volts)], each }
    }

    fn coil(&self, draw: &mut Draw) -> SheetRead {
        let (accuracy, digit, lead) = meter(self.engine.fuel);
        let celsius = to(draw.between(8.0, 32.0), 1.0);
        let lead = lead * draw.between(0.6, 1.5);
        let warm = 1.0 + 0.0039 * (celsius - 20.0);
        let ohms = self.each(draw, |c, d| {
            let ohm = self.engine.injector(c).coil_ohm * warm;
            if ohm.is_finite() {
                to((ohm + lead) * d.normal(1.0, 0.5 * accuracy), digit)
            } else {
                999_999.0
            }
        });
        SheetRead {
            set: vec![("temperature", celsius), ("leads", to(lead, digit))],
            each: row("ohms", ohms),
        }
    }

    fn pressure_drop(&self, draw: &mut Draw) -> SheetRead {
        let unequal = draw.happens(self.person.unequal_start);
        let kick = draw.happens(self.person.disturbed).then(|| draw.below(self.count()));
        let mut one = |c: usize| {
            let start = 310.0 + draw.normal(0.0, if unequal { 14.0 } else { 2.0 });
            let injector = self.engine.injector(c);
            let opens = self.shows().driven(c) && shows::opens(injector);
            let share =
                shows::flow(injector) * self.shows().place(c).line * self.shows().drive(c).sqrt();
            let drop = if opens { 118.0 * share } else { 0.0 } + 0.3 * shows::drips(injector);
            let odd = if kick == Some(c) { draw.normal(0.0, 15.0) } else { 0.0 };
            let end = start - drop * draw.normal(1.0, 0.015) + odd;
            (to(start, 1.0), to(end.clamp(1.0, start), 1.0))
        };
        let read: Vec<(f64, f64)> = (0..self.count()).map(&mut one).collect();
        let again = one(0);
        let (starts, ends): (Vec<f64>, Vec<f64>) = read.into_iter().unzip();
        let set = vec![
            ("pulses", 50.0),
            ("pulse", 6.0),
            ("bracket_start", again.0),
            ("bracket_end", again.1),
        ];
        SheetRead { set, each: [row("start", starts), row("end", ends)].concat() }
    }
}
