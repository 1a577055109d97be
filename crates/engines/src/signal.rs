//! What a microphone and a current clamp take up at a made-up engine.
//!
//! Sounds and currents follow from the parameters of the injectors, of their places and of the cylinders;
//! what a fault does to them is nowhere drawn by name. Every draw is from a seed.
//!
//! # Source
//! Each file names its own.

mod current;
mod sound;

pub use current::{Clamp, drive_current, starter_current};
pub use sound::{Hall, Recorded, Tick, sound_at, tick};

#[cfg(test)]
mod tests {
    use super::*;
    use crate::draw::Draw;
    use crate::engine::MadeEngine;
    use crate::fault::Fault;
    use cobaltine_core::engine::FuelSystem;
    use cobaltine_core::mark::Mark;
    use cobaltine_core::signal::cranking::cranking;
    use cobaltine_core::signal::listening::{Heard, Sound, listen};
    use cobaltine_core::signal::ramp::{Ramp, ramp};
    use cobaltine_core::tests::engine::{EngineTest, Sheet};

    fn heard(at: &Recorded) -> Heard {
        let (samples, drive) = (&at.samples, Some(at.drive.as_slice()));
        listen(&Sound { rate_hz: at.rate_hz, samples, drive, expected_hz: at.strokes_hz }).unwrap()
    }

    fn sheet(each: Vec<(u32, String, f64)>) -> Sheet {
        let fuel = Some(FuelSystem::PetrolPort);
        Sheet { cylinders: (1..=4).collect(), fuel, each, ..Sheet::default() }
    }

    /// Cylinders that a check calls odd.
    fn odd(check: EngineTest, each: Vec<(u32, String, f64)>) -> Vec<u32> {
        let verdict = check.judge(&sheet(each)).unwrap();
        let lanes = verdict.lanes.iter().filter(|lane| lane.mark != Mark::Inside);
        lanes.map(|lane| lane.place).collect()
    }

    /// Four injectors recorded one after the other, from a quiet room to a loud hall.
    fn listened(ticks: &[Tick; 4], draw: &mut Draw, seed: u64) -> Vec<u32> {
        let noise_db = draw.between(-45.0, -22.0);
        let hall = Hall { noise_db, bangs: 0.3, seconds: 5.0, rpm: draw.between(750.0, 950.0) };
        let mut each = Vec::new();
        for cylinder in 0..4 {
            let heard = heard(&sound_at(ticks, cylinder, &hall, seed));
            let of = cylinder as u32 + 1;
            let share = f64::from(heard.ticks) / f64::from(heard.expected) * 100.0;
            each.push((of, "heard".to_owned(), share.min(100.0)));
            each.extend(heard.level_db.map(|level| (of, "level".to_owned(), level)));
            each.push((of, "noise".to_owned(), heard.floor_db));
        }
        odd(EngineTest::Listening, each)
    }

    /// 500 recordings, 125 sets of four: the odd one of each second set is named, healthy sets are let go.
    #[test]
    fn listening_names_the_odd_one_and_seldom_a_sound_one_from_a_quiet_room_to_a_loud_hall() {
        let sound = Tick { level_db: Some(0.0), misses: 0.0, late_ms: 1.0 };
        let (mut found, mut sets, mut wolf, mut healthy) = (0, 0, 0, 0);
        for seed in 0..125_u64 {
            let mut draw = Draw::new(seed, 9100);
            let mut ticks = [sound; 4];
            let bad = draw.below(4);
            if seed % 5 < 2 {
                healthy += 1;
                wolf += usize::from(!listened(&ticks, &mut draw, seed * 64).is_empty());
                continue;
            }
            match seed % 5 {
                2 => ticks[bad].level_db = Some(-6.0 - 6.0 * draw.share()),
                3 => ticks[bad].misses = draw.between(0.3, 0.6),
                _ => ticks[bad].level_db = if draw.happens(0.5) { None } else { Some(6.0) },
            }
            sets += 1;
            found += usize::from(listened(&ticks, &mut draw, seed * 64) == [bad as u32 + 1]);
        }
        assert!(found * 100 >= sets * 95, "{found} of {sets} found");
        assert!(wolf * 100 < healthy * 2, "{wolf} of {healthy} healthy sets");
    }

    /// Recorded where a tick is drowned, silence is no finding.
    #[test]
    fn in_too_much_noise_it_says_that_it_cannot_tell() {
        let sound = Tick { level_db: Some(0.0), misses: 0.0, late_ms: 1.0 };
        let silent = Tick { level_db: None, ..sound };
        let ticks = [sound, sound, silent, sound];
        let mut each = Vec::new();
        for cylinder in 0..4 {
            // The silent one is recorded beside a compressor.
            let noise_db = if cylinder == 2 { -6.0 } else { -35.0 };
            let hall = Hall { noise_db, bangs: 0.0, seconds: 5.0, rpm: 800.0 };
            let heard = heard(&sound_at(&ticks, cylinder, &hall, 64));
            let of = cylinder as u32 + 1;
            let share = f64::from(heard.ticks) / f64::from(heard.expected) * 100.0;
            each.push((of, "heard".to_owned(), share.min(100.0)));
            each.extend(heard.level_db.map(|level| (of, "level".to_owned(), level)));
            each.push((of, "noise".to_owned(), heard.floor_db));
        }
        let verdict = EngineTest::Listening.judge(&sheet(each)).unwrap();
        let lane = verdict.lanes.iter().find(|lane| lane.place == 3).unwrap();
        assert_eq!((lane.mark, lane.word.as_str()), (Mark::Undecided, "cannot tell"));
    }

    #[test]
    fn a_delay_after_the_drive_is_measured_where_the_drive_is_recorded() {
        let ticks = [1.0, 1.0, 1.4, 1.0];
        let ticks = ticks.map(|late_ms| Tick { level_db: Some(0.0), misses: 0.0, late_ms });
        let hall = Hall { noise_db: -35.0, bangs: 0.0, seconds: 4.0, rpm: 800.0 };
        let late = |of| heard(&sound_at(&ticks, of, &hall, 7)).late_ms.unwrap();
        assert!((late(2) - late(0) - 0.4).abs() < 0.1, "{} {}", late(0), late(2));
    }

    const CLAMP: Clamp = Clamp { rate_hz: 50_000.0, noise_a: 0.012, digit_a: 0.005, pulses: 8 };

    fn ramped(engine: &MadeEngine, seed: u64) -> Vec<u32> {
        let mut each = Vec::new();
        for cylinder in 0..4 {
            let read: Result<Ramp, _> =
                ramp(&drive_current(engine, cylinder, &CLAMP, seed), Some(14.0));
            let of = cylinder as u32 + 1;
            let (peak, kink) = read.map_or((0.0, None), |read| (read.peak_a, read.kink_ms));
            each.push((of, "peak".to_owned(), peak));
            each.push((of, "kink".to_owned(), f64::from(kink.is_some())));
            each.extend(kink.map(|kink| (of, "opens".to_owned(), kink)));
        }
        odd(EngineTest::DriveCurrent, each)
    }

    /// 500 traces, 125 sets of four.
    #[test]
    fn a_kink_that_comes_late_or_not_at_all_is_named_and_seldom_a_sound_one() {
        let (mut found, mut sets, mut wolf, mut healthy) = (0, 0, 0, 0);
        for seed in 0..125_u64 {
            let mut draw = Draw::new(seed, 9200);
            let mut engine = MadeEngine::four(FuelSystem::PetrolPort);
            for injector in &mut engine.injectors {
                injector.late_ms = draw.normal(0.0, 0.02);
                injector.coil_ohm *= 1.0 + draw.normal(0.0, 0.01);
            }
            if seed % 5 < 2 {
                healthy += 1;
                wolf += usize::from(!ramped(&engine, seed).is_empty());
                continue;
            }
            let bad = draw.below(4);
            match seed % 5 {
                2 | 3 => engine.injectors[bad].late_ms += draw.between(0.15, 0.5),
                // Carries its current and moves nothing.
                _ => engine.injectors[bad].body_mohm = 0.001,
            }
            sets += 1;
            found += usize::from(ramped(&engine, seed) == [bad as u32 + 1]);
        }
        assert!(found * 100 >= sets * 95, "{found} of {sets} found");
        assert!(wolf * 100 < healthy * 2, "{wolf} of {healthy} healthy sets");
    }

    #[test]
    fn resistance_and_inductance_come_out_as_they_were_put_in() {
        let engine = MadeEngine::four(FuelSystem::PetrolPort);
        let read = ramp(&drive_current(&engine, 1, &CLAMP, 3), Some(14.0)).unwrap();
        let ohm = engine.injectors[1].coil_at(60.0) + engine.places[1].leg_ohm;
        let got = read.resistance_ohm.unwrap();
        assert!((got / ohm - 1.0).abs() < 0.05, "{got} for {ohm}");
        let mh = 1.05 * 14.2;
        let got = read.inductance_mh.unwrap();
        assert!((got / mh - 1.0).abs() < 0.15, "{got} for {mh}");
        assert_eq!(read.pulses, 8);
    }

    #[test]
    fn the_cylinder_that_squeezes_less_draws_less_of_the_starter() {
        let mut engine = MadeEngine::four(FuelSystem::DieselSolenoid);
        Fault::Compression.put(&mut engine, 2, 0.8);
        let order = [0, 2, 3, 1];
        let read = cranking(&starter_current(&engine, &order, 6.0, 5), 4).unwrap();
        assert!((read.rpm / engine.cranks_rpm - 1.0).abs() < 0.03, "{}", read.rpm);
        // Which of them comes first is not known to a clamp alone; that one of four is low is.
        let low: Vec<usize> = (0..4).filter(|place| read.relative_pct[*place] < 85.0).collect();
        assert_eq!(low.len(), 1, "{:?}", read.relative_pct);
    }
}
