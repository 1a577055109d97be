use super::*;
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::instrument_link::{Reading, numbers};
use cobaltine_engines::fault::Fault;

fn says(device: &mut Device, second: f64, line: &str) -> String {
    match device.said(line, Duration::from_secs_f64(second)) {
        Said::Nothing => String::new(),
        Said::Line(line) => line,
        Said::Bytes(bytes) | Said::Breaks(bytes) => String::from_utf8_lossy(&bytes).into_owned(),
    }
}

/// A reading as the program takes it.
fn reads(device: &mut Device, second: f64, quantity: Quantity) -> Result<Vec<f64>, DeviceError> {
    let unit = says(device, second, &Ask::Unit(quantity).to_string());
    let values = says(device, second, &Ask::Measure(quantity).to_string());
    let age = says(device, second, &Ask::Age.to_string());
    Reading { quantity, unit: &unit, age: &age, values: &values }.read()
}

#[test]
fn bottles_fill_while_the_engine_runs_and_the_worn_one_fills_first() {
    let mut engine = MadeEngine::four(FuelSystem::DieselSolenoid);
    Fault::Guide.put(&mut engine, 1, 1.0);
    let device = &mut Device::new(DeviceKind::Bottles, engine, 2);
    let first = reads(device, 60.0, Quantity::Volume).unwrap();
    assert!(first[1] > 1.5 * first[0], "{first:?}");
    let later = reads(device, 120.0, Quantity::Volume).unwrap();
    assert!((later[0] / first[0] - 2.0).abs() < 0.1, "{later:?}");
    says(device, 120.0, "SIM:ENGINE OFF");
    let stands = reads(device, 600.0, Quantity::Volume).unwrap();
    assert!((stands[0] - later[0]).abs() < 0.5, "{stands:?}");
    says(device, 600.0, "INIT");
    assert!(reads(device, 600.0, Quantity::Volume).unwrap()[0] < 0.5);
}

#[test]
fn every_instrument_says_what_follows_from_the_engine_behind_it() {
    for (kind, fuel, what, low, high) in [
        (DeviceKind::Gauge, FuelSystem::PetrolPort, Quantity::Pressure, 290.0, 310.0),
        (DeviceKind::Meter, FuelSystem::PetrolPort, Quantity::Resistance, 14.0, 15.0),
        (DeviceKind::Meter, FuelSystem::PetrolPort, Quantity::Voltage, 13.5, 14.5),
        (DeviceKind::Meter, FuelSystem::PetrolPort, Quantity::Temperature, 23.0, 27.0),
        (DeviceKind::PetrolBench, FuelSystem::PetrolPort, Quantity::Volume, 2.0, 20.0),
        (DeviceKind::DieselBench, FuelSystem::DieselSolenoid, Quantity::Volume, 1.0, 60.0),
        (DeviceKind::DieselBench, FuelSystem::DieselSolenoid, Quantity::Returned, 1.0, 60.0),
        (
            DeviceKind::DieselBench,
            FuelSystem::DieselSolenoid,
            Quantity::Pressure,
            29_000.0,
            31_000.0,
        ),
        (DeviceKind::DoserBench, FuelSystem::ExhaustDoser, Quantity::Volume, 20.0, 200.0),
        (DeviceKind::Scan, FuelSystem::DieselSolenoid, Quantity::Speed, 700.0, 900.0),
        (DeviceKind::Scan, FuelSystem::DieselSolenoid, Quantity::Correction, -1.0, 1.0),
        (DeviceKind::Scan, FuelSystem::DieselSolenoid, Quantity::Misfires, 0.0, 1.0),
    ] {
        let device = &mut Device::new(kind, MadeEngine::four(fuel), 4);
        says(device, 0.0, "INIT");
        let read = reads(device, 30.0, what).unwrap();
        assert!(
            read.iter().all(|value| (low..=high).contains(value)),
            "{kind:?} {what:?}: {read:?}"
        );
    }
    // An open coil is an overload, not a large resistance.
    let mut open = MadeEngine::four(FuelSystem::PetrolPort);
    Fault::CoilOpen.put(&mut open, 2, 1.0);
    let device = &mut Device::new(DeviceKind::Meter, open, 4);
    says(device, 0.0, "ROUT:CLOS (@3)");
    assert_eq!(reads(device, 0.0, Quantity::Resistance), Err(DeviceError::Overload));
}

#[test]
fn a_recording_is_fetched_some_points_at_a_time() {
    for (kind, rate) in [(DeviceKind::Clamp, 50_000.0), (DeviceKind::Microphone, 16_000.0)] {
        let device = &mut Device::new(kind, MadeEngine::four(FuelSystem::PetrolPort), 4);
        says(device, 0.0, "SENS:SWE:TIME 0.05");
        says(device, 0.0, "INIT");
        assert_eq!(says(device, 0.0, "TRAC:RATE?").parse(), Ok(rate));
        let count: usize = says(device, 0.0, "TRAC:POIN?").parse().unwrap();
        assert_eq!(count, (rate * 0.05) as usize);
        let mut points = Vec::new();
        while points.len() < count {
            let line = says(device, 0.0, &Ask::Data(points.len() as u32, POINTS).to_string());
            points.extend(numbers(&line).unwrap());
        }
        assert_eq!(points.len(), count);
        assert_eq!(says(device, 0.0, &format!("TRAC:DATA? {count},1")), "");
        assert_eq!(says(device, 0.0, "SYST:ERR?"), "-222,\"Data out of range\"");
    }
}

/// Whatever the manners of a device, what comes of it is a reading or is named in words.
#[test]
fn a_device_with_bad_manners_is_named() {
    let of = |manner: &str| {
        let device =
            &mut Device::new(DeviceKind::Gauge, MadeEngine::four(FuelSystem::PetrolPort), 1);
        reads(device, 0.0, Quantity::Pressure).unwrap();
        says(device, 0.0, &format!("SIM:FAULT {manner}"));
        reads(device, 30.0, Quantity::Pressure)
            .map_or_else(|error| error.to_string(), |read| format!("{} read", read.len()))
    };
    for (manner, word) in [
        ("NONE", "1 read"),
        ("SILENT", "shows "),
        ("FLOODS", "shows KPA,KPA"),
        ("STALE", "30.00 s ago"),
        ("LIES", "which cannot be"),
        ("BINARY", "shows "),
        ("UNIT", "shows GAL"),
    ] {
        let said = of(manner);
        assert!(said.contains(word), "{manner}: {said}");
    }
}
