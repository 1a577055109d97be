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
    /// Whether it pulses injectors and measures what they give.
    pub fn is_bench(self) -> bool {
        match self {
            Self::PetrolBench | Self::DieselBench | Self::DoserBench => true,
            Self::Bottles
            | Self::Gauge
            | Self::Meter
            | Self::Clamp
            | Self::Microphone
            | Self::Scan => false,
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

    /// What fields of this unit hold that an instrument can show; none where the same unit means several
    /// things.
    pub fn in_unit(written: &str) -> Option<Self> {
        match written {
            "ml" => Some(Self::Volume),
            "kPa" => Some(Self::Pressure),
            "Ω" => Some(Self::Resistance),
            "V" => Some(Self::Voltage),
            "°C" => Some(Self::Temperature),
            "rpm" => Some(Self::Speed),
            _ => None,
        }
    }

    /// Its unit as people read it; none of a count.
    pub fn unit(self) -> &'static str {
        match self {
            Self::Volume | Self::Returned => "ml",
            Self::Pressure => "kPa",
            Self::Resistance => "Ω",
            Self::Voltage => "V",
            Self::Temperature => "°C",
            Self::Speed => "rpm",
            Self::Correction => "mm³",
            Self::Misfires => "",
        }
    }

    /// A value of it as it is typed into a field: with its unit, to the digits that the instrument showed.
    pub fn typed(self, value: f64) -> String {
        format!("{value} {}", self.unit()).trim().to_owned()
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
