//! What an instrument is, and what it measures.

use crate::named::named;

named! {
    /// What an instrument is, as the second field of its identity names it.
    DeviceKind {
        Bottles = bottles,
        Gauge = gauge,
        Meter = meter,
        PetrolBench = petrol_bench,
        DieselBench = diesel_bench,
        DoserBench = doser_bench,
        Clamp = clamp,
        Microphone = microphone,
        Scan = scan,
    }
}

impl DeviceKind {
    /// As called in a list.
    pub fn title(self) -> &'static str {
        match self {
            Self::Bottles => "Return bottles",
            Self::Gauge => "Pressure gauge",
            Self::Meter => "Multimeter",
            Self::PetrolBench => "Petrol bench",
            Self::DieselBench => "Diesel bench",
            Self::DoserBench => "Doser bench",
            Self::Clamp => "Current clamp",
            Self::Microphone => "Microphone",
            Self::Scan => "Scan tool",
        }
    }

    /// What it measures; nothing of one that takes recordings.
    pub fn measures(self) -> &'static [Quantity] {
        match self {
            Self::Bottles | Self::PetrolBench | Self::DoserBench => &[Quantity::Volume],
            Self::DieselBench => &[Quantity::Volume, Quantity::Returned, Quantity::Pressure],
            Self::Gauge => &[Quantity::Pressure],
            Self::Meter => &[Quantity::Resistance, Quantity::Voltage, Quantity::Temperature],
            Self::Scan => &[Quantity::Speed, Quantity::Correction, Quantity::Misfires],
            Self::Clamp | Self::Microphone => &[],
        }
    }
}

named! {
    /// What is measured.
    Quantity {
        Volume = volume,
        Returned = returned,
        Pressure = pressure,
        Resistance = resistance,
        Voltage = voltage,
        Temperature = temperature,
        Speed = speed,
        Correction = correction,
        Misfires = misfires,
    }
}

impl Quantity {
    /// Its node in a header, short form in capitals.
    pub(super) fn node(self) -> &'static str {
        match self {
            Self::Volume => "VOLume",
            Self::Returned => "RETurned",
            Self::Pressure => "PRESsure",
            Self::Resistance => "RESistance",
            Self::Voltage => "VOLTage",
            Self::Temperature => "TEMPerature",
            Self::Speed => "SPEed",
            Self::Correction => "CORRection",
            Self::Misfires => "MISFires",
        }
    }

    /// Its unit as instruments call it, and the lowest and highest that can be.
    pub fn bounds(self) -> (&'static str, f64, f64) {
        match self {
            Self::Volume | Self::Returned => ("ML", 0.0, 2_000.0),
            Self::Pressure => ("KPA", -100.0, 400_000.0),
            Self::Resistance => ("OHM", 0.0, 1e9),
            Self::Voltage => ("V", -1_000.0, 1_000.0),
            Self::Temperature => ("CEL", -60.0, 400.0),
            Self::Speed => ("RPM", 0.0, 12_000.0),
            Self::Correction => ("MM3", -50.0, 50.0),
            Self::Misfires => ("CNT", 0.0, 1e6),
        }
    }
}
