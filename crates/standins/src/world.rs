//! A whole made-up workshop of instruments: a diesel bay, a petrol bay and a doser bench, each at one
//! engine, with faults that follow from a seed.

use crate::instrument::{Bay, Device, words};
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::instrument_link::DeviceKind;
use cobaltine_engines::draw::Draw;
use cobaltine_engines::engine::MadeEngine;
use cobaltine_engines::fault::Fault;

/// An instrument with the name that it has in the workshop.
#[derive(Debug)]
pub struct Standing {
    /// Its name.
    pub name: String,
    /// The instrument.
    pub device: Device,
}

/// What may be wrong in a bay.
const DIESEL: [Fault; 4] = [Fault::Guide, Fault::Valve, Fault::CoilOpen, Fault::Gum];
const PETROL: [Fault; 4] = [Fault::Deposits, Fault::Gum, Fault::CoilOpen, Fault::Wire];
const DOSER: [Fault; 1] = [Fault::Deposits];
/// Share of bays with nothing wrong.
const SOUND: f64 = 0.2;

/// Which instruments stand where.
const STANDS: [(&str, FuelSystem, &[Fault], &[DeviceKind]); 3] = [
    (
        words::DIESEL_BAY,
        FuelSystem::DieselSolenoid,
        &DIESEL,
        &[
            DeviceKind::Bottles,
            DeviceKind::Scan,
            DeviceKind::Meter,
            DeviceKind::Microphone,
            DeviceKind::DieselBench,
        ],
    ),
    (
        words::PETROL_BAY,
        FuelSystem::PetrolPort,
        &PETROL,
        &[
            DeviceKind::Gauge,
            DeviceKind::Meter,
            DeviceKind::Clamp,
            DeviceKind::Microphone,
            DeviceKind::PetrolBench,
        ],
    ),
    (words::DOSER_BAY, FuelSystem::ExhaustDoser, &DOSER, &[DeviceKind::DoserBench]),
];

/// The instruments that stand at one engine, all at the same.
pub fn bay(name: &str, engine: MadeEngine, seed: u64) -> Vec<Standing> {
    let held = STANDS.iter().find(|(_, fuel, ..)| *fuel == engine.fuel);
    // Where no bay is kept for such an engine, it is read as any other can be.
    let kinds = held.map_or(&[DeviceKind::Meter, DeviceKind::Scan][..], |(.., kinds)| kinds);
    stands(name, kinds, &Bay::new(engine), seed)
}

fn stands(bay: &str, kinds: &[DeviceKind], at: &Bay, seed: u64) -> Vec<Standing> {
    let one = |(i, kind): (usize, &DeviceKind)| {
        // A bench is called what it is.
        let word = kind.word();
        let name = if kind.is_bench() {
            word.to_owned()
        } else {
            format!("{bay} {}", word.to_lowercase())
        };
        Standing { name, device: Device::at(*kind, at.clone(), seed.wrapping_add(i as u64)) }
    };
    kinds.iter().enumerate().map(one).collect()
}

/// The instruments of a made-up workshop; the same seed makes the same one.
pub fn world(seed: u64) -> Vec<Standing> {
    let mut all = Vec::new();
    for (nth, (bay, fuel, faults, kinds)) in STANDS.into_iter().enumerate() {
        let draw = &mut Draw::new(seed, 9000 + nth as u64);
        let mut engine = MadeEngine::four(fuel);
        if !draw.happens(SOUND) {
            let (fault, at) = (faults[draw.below(faults.len())], draw.below(engine.seats.len()));
            fault.put(&mut engine, at, draw.between(0.5, 1.0));
        }
        let seed = seed.wrapping_mul(31).wrapping_add(nth as u64 * 16);
        all.extend(stands(bay, kinds, &Bay::new(engine), seed));
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_world_has_one_of_each_kind_at_least_and_the_same_seed_makes_the_same_one() {
        let of =
            |seed| world(seed).iter().map(|one| format!("{:?}", one.device)).collect::<Vec<_>>();
        assert_eq!(of(7), of(7));
        assert_ne!(of(7), of(8));
        let all = world(7);
        for kind in DeviceKind::ALL {
            assert!(all.iter().any(|one| one.device.kind() == *kind), "{kind:?}");
        }
        let mut names: Vec<&str> = all.iter().map(|one| one.name.as_str()).collect();
        names.sort_unstable();
        names.dedup();
        assert_eq!(names.len(), all.len());
    }
}
