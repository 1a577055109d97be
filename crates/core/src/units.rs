//! The units that a workshop reads: chosen once, in its profile, one for each kind.
//!
//! Everything is kept and computed in the canonical unit of its field (kPa, N·m, °C, ml/min, km).
//! Only two edges know of another one: what is typed without a unit is meant in the unit that
//! stands beside the field ([`crate::typed::Field`]), and what is said to a person is said in the
//! workshop's own. Words are made deep inside of judgements, so the choice is not handed through
//! every signature: it lies around the work ([`within`]), as a language would. Outside of that
//! everything is canonical, so files and tests do not depend on it.

use crate::calc::convert::{ConvertInput, Kind, convert, kind_of};
use crate::quantity::{figures, shown, trimmed};
use serde::{Deserialize, Serialize};
use std::cell::Cell;
use std::fmt;
use utoipa::ToSchema;

/// Canonical unit of pressure.
pub const KPA: &str = "kPa";
/// Canonical unit of volume flow.
pub const ML_MIN: &str = "ml/min";
/// Canonical unit of temperature.
pub const C: &str = "C";
/// Canonical unit of torque.
pub const NM: &str = "Nm";
/// Canonical unit of distance.
pub const KM: &str = "km";

macro_rules! choice {
    ($(#[$doc:meta])* $name:ident { $first:ident = $lead:literal, $($variant:ident = $symbol:literal,)* }) => {
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum $name {
            #[doc = concat!("`", $lead, "`.")]
            #[default]
            $first,
            $(
                #[doc = concat!("`", $symbol, "`.")]
                $variant,
            )*
        }

        impl $name {
            /// Every one, the canonical first.
            pub const ALL: &[Self] = &[Self::$first, $(Self::$variant),*];

            fn named(symbol: &str) -> Option<Self> {
                Self::ALL.iter().copied().find(|one| one.symbol() == symbol)
            }

            /// As conversions know it.
            pub fn symbol(self) -> &'static str {
                match self {
                    Self::$first => $lead,
                    $(Self::$variant => $symbol,)*
                }
            }
        }
    };
}

choice! {
    /// Pressure.
    PressureUnit { Kpa = "kPa", Bar = "bar", Mpa = "MPa", Psi = "psi", }
}
choice! {
    /// Torque.
    TorqueUnit { NewtonMetre = "Nm", InchPound = "in_lb", FootPound = "ft_lb", }
}
choice! {
    /// Temperature.
    TemperatureUnit { Celsius = "C", Fahrenheit = "F", }
}
choice! {
    /// Volume flow. Both are the same number, so no column is drawn to another scale.
    FlowUnit { MlMin = "ml/min", CcMin = "cc/min", }
}
choice! {
    /// Distance driven.
    DistanceUnit { Km = "km", Mile = "mi", }
}

/// One unit of each kind.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Units {
    /// Of pressures.
    pub pressure: PressureUnit,
    /// Of torques.
    pub torque: TorqueUnit,
    /// Of temperatures.
    pub temperature: TemperatureUnit,
    /// Of volume flows.
    pub flow: FlowUnit,
    /// Of distances driven.
    pub distance: DistanceUnit,
}

/// How the chosen units are written.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct UnitLabels {
    /// All of them, as they are told with everything that is typed.
    pub sign: String,
    /// Of pressures.
    pub pressure: String,
    /// Of torques.
    pub torque: String,
    /// Of temperatures.
    pub temperature: String,
    /// Of volume flows.
    pub flow: String,
    /// Of distances driven.
    pub distance: String,
}

impl Units {
    /// The symbols of all of them, as a page says which units stood beside its fields.
    ///
    /// ```
    /// use cobaltine_core::units::Units;
    /// let units = Units::default();
    /// assert_eq!(units.sign(), "kPa,Nm,C,ml/min,km");
    /// assert_eq!(Units::named("kPa,Nm,C,ml/min,km"), Some(units));
    /// assert_eq!(Units::named("kPa,Nm"), None);
    /// ```
    pub fn sign(self) -> String {
        [KPA, NM, C, ML_MIN, KM].map(|canonical| self.of(canonical)).join(",")
    }

    /// The units of such a line; none where one of them is not known.
    pub fn named(sign: &str) -> Option<Self> {
        let mut symbols = sign.split(',');
        let units = Self {
            pressure: PressureUnit::named(symbols.next()?)?,
            torque: TorqueUnit::named(symbols.next()?)?,
            temperature: TemperatureUnit::named(symbols.next()?)?,
            flow: FlowUnit::named(symbols.next()?)?,
            distance: DistanceUnit::named(symbols.next()?)?,
        };
        symbols.next().is_none().then_some(units)
    }

    /// How they are written.
    pub fn labels(self) -> UnitLabels {
        let label = |canonical| written(self.of(canonical)).to_owned();
        UnitLabels {
            sign: self.sign(),
            pressure: label(KPA),
            torque: label(NM),
            temperature: label(C),
            flow: label(ML_MIN),
            distance: label(KM),
        }
    }

    /// The symbol that stands for a canonical one; itself where nothing is chosen.
    fn of(self, canonical: &'static str) -> &'static str {
        match canonical {
            KPA => self.pressure.symbol(),
            NM => self.torque.symbol(),
            C => self.temperature.symbol(),
            ML_MIN => self.flow.symbol(),
            KM => self.distance.symbol(),
            other => other,
        }
    }
}

thread_local! {
    static AROUND: Cell<Units> = const {
        Cell::new(Units {
            pressure: PressureUnit::Kpa,
            torque: TorqueUnit::NewtonMetre,
            temperature: TemperatureUnit::Celsius,
            flow: FlowUnit::MlMin,
            distance: DistanceUnit::Km,
        })
    };
}

/// Puts back what was chosen before, also when the work panics.
struct Before(Units);

impl Drop for Before {
    fn drop(&mut self) {
        AROUND.set(self.0);
    }
}

/// Does some work in these units.
///
/// ```
/// use cobaltine_core::units::{KPA, PressureUnit, Units, said, within};
/// let house = Units { pressure: PressureUnit::Bar, ..Units::default() };
/// assert_eq!(within(house, || said(302.5, KPA)), "3.025 bar");
/// assert_eq!(said(302.5, KPA), "302.5 kPa");
/// ```
pub fn within<T>(units: Units, work: impl FnOnce() -> T) -> T {
    let _before = Before(AROUND.replace(units));
    work()
}

/// The units around this work.
pub fn around() -> Units {
    AROUND.get()
}

/// The symbol that a canonical unit is read in here.
pub fn chosen(canonical: &'static str) -> &'static str {
    around().of(canonical)
}

/// A symbol as it is written beside a number: `ohm` as Ω.
pub fn written(symbol: &'static str) -> &'static str {
    match symbol {
        "C" => "°C",
        "F" => "°F",
        "ohm" => "Ω",
        "mohm" => "mΩ",
        "kohm" => "kΩ",
        "cm3" => "cm³",
        "mm3" => "mm³",
        "mm3/stroke" => "mm³/stroke",
        "Nm" => "N·m",
        "in_lb" => "in·lb",
        "ft_lb" => "ft·lb",
        "um" => "µm",
        "us" => "µs",
        "kg/m3" => "kg/m³",
        "mm2/s" => "mm²/s",
        "deg" => "°",
        "unit" => "any unit",
        other => other,
    }
}

/// A unit in a sentence: `{FLOW}` writes the one that is read here.
#[derive(Debug, Clone, Copy)]
pub struct Label(&'static str);

/// Of a pressure.
pub const PRESSURE: Label = Label(KPA);
/// Of a volume flow.
pub const FLOW: Label = Label(ML_MIN);
/// Of a temperature.
pub const TEMPERATURE: Label = Label(C);

impl fmt::Display for Label {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(unit(self.0))
    }
}

/// The unit that is written beside a number of this canonical unit.
pub fn unit(canonical: &'static str) -> &'static str {
    written(chosen(canonical))
}

/// One mile in km (exact).
pub(crate) const KM_PER_MILE: f64 = 1.609_344;

/// A canonical value in the unit that it is read in here.
pub fn value(value: f64, canonical: &'static str) -> f64 {
    match (canonical, chosen(canonical)) {
        (from, to) if from == to => value,
        (KM, _) => value / KM_PER_MILE,
        (from, to) => {
            let (from, to) = (from.to_owned(), to.to_owned());
            let input = ConvertInput { value, from, to, density_kg_per_m3: None };
            convert(&input).map_or(f64::NAN, |out| out.value)
        }
    }
}

/// A speed of driving, km/h, to the next five of the unit that is read here.
pub fn speed(km_h: f64) -> f64 {
    (value(km_h, KM) / 5.0).round() * 5.0
}

/// How a speed is written here.
pub fn speed_unit() -> &'static str {
    match around().distance {
        DistanceUnit::Km => "km/h",
        DistanceUnit::Mile => "mph",
    }
}

/// A difference of two canonical values in the unit that it is read in here.
pub fn difference(apart: f64, canonical: &'static str) -> f64 {
    value(apart, canonical) - value(0.0, canonical)
}

/// The number of a canonical value: as it is, or four figures of another unit.
pub fn number(canonical_value: f64, canonical: &'static str) -> String {
    if chosen(canonical) == canonical {
        return trimmed(canonical_value);
    }
    let turned = value(canonical_value, canonical);
    // A tenth of a degree is the finest that anybody reads.
    if kind_of(canonical) == Some(Kind::Temperature) {
        return trimmed((turned * 10.0).round() / 10.0);
    }
    figures(turned)
}

/// The same in four figures, whatever the unit: a reading has no more.
pub fn reading(canonical_value: f64, canonical: &'static str) -> String {
    figures(value(canonical_value, canonical))
}

/// The number with as many decimals as its standard uncertainty can carry.
pub fn carried(canonical_value: f64, u: f64, canonical: &'static str) -> String {
    shown(value(canonical_value, canonical), difference(u, canonical))
}

/// The number with decimals that fit the unit: as many as given in the canonical one.
pub fn fixed(canonical_value: f64, decimals: usize, canonical: &'static str) -> String {
    let turned = value(canonical_value, canonical);
    let scale = difference(1.0, canonical);
    let more = (-(scale.log10()) + 0.3).round().max(-(decimals as f64));
    format!("{turned:.*}", (decimals as f64 + more) as usize)
}

/// Number and unit.
pub fn said(canonical_value: f64, canonical: &'static str) -> String {
    format!("{} {}", number(canonical_value, canonical), unit(canonical))
}

#[cfg(test)]
mod tests {
    use super::*;

    const OTHER: Units = Units {
        pressure: PressureUnit::Psi,
        torque: TorqueUnit::InchPound,
        temperature: TemperatureUnit::Fahrenheit,
        flow: FlowUnit::CcMin,
        distance: DistanceUnit::Mile,
    };

    #[test]
    fn every_kind_is_said_in_the_units_of_the_workshop_and_canonically_outside() {
        for (value, canonical, own, other) in [
            (300.0, KPA, "300 kPa", "43.51 psi"),
            (8.0, NM, "8 N·m", "70.81 in·lb"),
            (80.0, C, "80 °C", "176 °F"),
            (24.0, ML_MIN, "24 ml/min", "24 cc/min"),
            (100.0, KM, "100 km", "62.14 mi"),
            (12.0, "ohm", "12 Ω", "12 Ω"),
        ] {
            assert_eq!(said(value, canonical), own);
            assert_eq!(within(OTHER, || said(value, canonical)), other);
        }
        assert_eq!(within(OTHER, || difference(5.0, C)), 9.0);
        assert_eq!(within(OTHER, || carried(302.5, 0.4, KPA)), "43.87");
        assert_eq!(within(OTHER, || fixed(20.31, 1, KPA)), "2.95");
        assert_eq!(around(), Units::default(), "put back");
    }

    #[test]
    fn every_choice_can_be_converted() {
        for unit in PressureUnit::ALL {
            let units = Units { pressure: *unit, ..Units::default() };
            assert!(within(units, || value(1.0, KPA)).is_finite());
        }
        for unit in FlowUnit::ALL {
            let units = Units { flow: *unit, ..Units::default() };
            assert!(within(units, || value(1.0, ML_MIN)).is_finite());
        }
        for unit in TorqueUnit::ALL {
            let units = Units { torque: *unit, ..Units::default() };
            assert!(within(units, || value(1.0, NM)).is_finite());
        }
    }
}
