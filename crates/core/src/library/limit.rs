//! One limit: a window for a check of a family under a condition.

use crate::checks::Limit;
use crate::quantity::{Celsius, trimmed};
use crate::record::Signed;
use crate::typed::Field;
use crate::work::Regime;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// What a limit is about; each has one canonical unit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum LimitCheck {
    /// Return flow on the engine, ml/min.
    ReturnFlow,
    /// Coil resistance at 20 °C, ohm.
    CoilResistance,
    /// Insulation to the body, ohm.
    Insulation,
    /// Static flow, ml/min.
    StaticFlow,
    /// Quantity delivered for a stroke, mm³.
    Delivered,
    /// Quantity returned for a stroke, mm³.
    Returned,
    /// Opening pressure, kPa.
    OpeningPressure,
    /// Drip or leak volume, ml.
    LeakVolume,
    /// Volume of a doser, ml.
    DoserVolume,
    /// Needle lift or air gap, µm.
    Lift,
}

impl LimitCheck {
    /// Every check that can have a limit.
    pub const ALL: [Self; 10] = [
        Self::ReturnFlow,
        Self::CoilResistance,
        Self::Insulation,
        Self::StaticFlow,
        Self::Delivered,
        Self::Returned,
        Self::OpeningPressure,
        Self::LeakVolume,
        Self::DoserVolume,
        Self::Lift,
    ];

    /// As written in files and in the database.
    pub fn name(self) -> &'static str {
        match self {
            Self::ReturnFlow => "return_flow",
            Self::CoilResistance => "coil_resistance",
            Self::Insulation => "insulation",
            Self::StaticFlow => "static_flow",
            Self::Delivered => "delivered",
            Self::Returned => "returned",
            Self::OpeningPressure => "opening_pressure",
            Self::LeakVolume => "leak_volume",
            Self::DoserVolume => "doser_volume",
            Self::Lift => "lift",
        }
    }

    /// As people call it.
    pub fn word(self) -> &'static str {
        match self {
            Self::ReturnFlow => "return flow",
            Self::CoilResistance => "coil resistance at 20 °C",
            Self::Insulation => "insulation",
            Self::StaticFlow => "static flow",
            Self::Delivered => "delivered quantity",
            Self::Returned => "returned quantity",
            Self::OpeningPressure => "opening pressure",
            Self::LeakVolume => "leak volume",
            Self::DoserVolume => "doser volume",
            Self::Lift => "lift",
        }
    }

    /// How its numbers are read; a bare number has the canonical unit.
    pub fn field(self) -> Field {
        let unit = match self {
            Self::ReturnFlow | Self::StaticFlow => "ml/min",
            Self::CoilResistance | Self::Insulation => "ohm",
            Self::Delivered | Self::Returned => "mm3",
            Self::OpeningPressure => "kPa",
            Self::LeakVolume | Self::DoserVolume => "ml",
            Self::Lift => "um",
        };
        Field::from_zero(unit, 1e12)
    }

    /// The check of this name.
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|check| check.name() == name)
    }
}

/// One limit as it is kept. Quantities in the canonical unit of the check.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LimitEntry {
    /// Identity.
    pub id: Uuid,
    /// The family's name.
    pub family: String,
    /// What it is about.
    pub check: LimitCheck,
    /// Under which condition, in words; may be empty.
    pub condition: String,
    /// Counted over family, check and condition.
    pub revision: u32,
    /// Lower end.
    pub lower: Option<f64>,
    /// Upper end.
    pub upper: Option<f64>,
    /// As typed, both ends.
    pub typed: String,
    /// Temperature that it holds from, °C.
    pub from_c: Option<f64>,
    /// Temperature that it holds to, °C.
    pub to_c: Option<f64>,
    /// Pressure that it holds from, kPa.
    pub from_kpa: Option<f64>,
    /// Pressure that it holds to, kPa.
    pub to_kpa: Option<f64>,
    /// Where the numbers come from.
    pub source: String,
    /// Who approved it, and when; none for one that came with the program's first data.
    pub approved: Option<Signed>,
}

impl LimitEntry {
    /// The window in words: `at most 24 ml/min, 70 to 95 °C`.
    pub fn window(&self) -> String {
        let unit = self.check.field().unit();
        // Insulation is spoken of in megohms.
        let largest = self.upper.or(self.lower).unwrap_or(0.0);
        let (scale, unit) = if unit == "Ω" && largest >= 1e5 { (1e6, "MΩ") } else { (1.0, unit) };
        let trimmed = |value: f64| trimmed(value / scale);
        let mut text = match (self.lower, self.upper) {
            (Some(lower), Some(upper)) => {
                format!("{} to {} {unit}", trimmed(lower), trimmed(upper))
            }
            (Some(lower), None) => format!("at least {} {unit}", trimmed(lower)),
            (None, Some(upper)) => format!("at most {} {unit}", trimmed(upper)),
            (None, None) => "no window".to_owned(),
        };
        let trimmed = |value: f64| crate::quantity::trimmed(value);
        for (from, to, unit) in
            [(self.from_c, self.to_c, "°C"), (self.from_kpa, self.to_kpa, "kPa")]
        {
            match (from, to) {
                (Some(from), Some(to)) if from == to => {
                    text += &format!(", at {} {unit}", trimmed(from));
                    // Rail pressures are spoken of in bar.
                    if unit == "kPa" && from >= 1000.0 {
                        text += &format!(" ({} bar)", trimmed(from / 100.0));
                    }
                }
                (Some(from), Some(to)) => {
                    text += &format!(", {} to {} {unit}", trimmed(from), trimmed(to))
                }
                (Some(from), None) => text += &format!(", from {} {unit}", trimmed(from)),
                (None, Some(to)) => text += &format!(", up to {} {unit}", trimmed(to)),
                (None, None) => {}
            }
        }
        text
    }

    /// As a return test uses it; none when it is about something else or has no upper end.
    pub fn for_return_test(&self) -> Option<Limit> {
        let upper_ml_min = self.upper.filter(|_| self.check == LimitCheck::ReturnFlow)?;
        Some(Limit {
            upper_ml_min,
            from_c: self.from_c,
            to_c: self.to_c,
            source: self.source.clone(),
            revision: self.revision,
        })
    }

    /// The limit of a return test in this regime at this temperature, from the newest limits of
    /// a family: one that names another regime is passed over, one that holds at the temperature
    /// comes first, then one that names the regime. One that does not hold is still given, so
    /// that the test can say why it is not applied.
    pub fn pick_for_return_test(
        newest: &[Self],
        regime: Regime,
        temperature_c: Option<Celsius>,
    ) -> Option<Limit> {
        let others = Regime::ALL.into_iter().filter(|other| *other != regime);
        let others: Vec<&str> = others.map(Regime::word).collect();
        let condition = |entry: &Self| entry.condition.trim().to_lowercase();
        newest
            .iter()
            .filter(|entry| !others.contains(&condition(entry).as_str()))
            .filter_map(|entry| Some((entry, entry.for_return_test()?)))
            .max_by_key(|(entry, limit)| {
                (limit.holds_at(temperature_c), condition(entry) == regime.word())
            })
            .map(|(_, limit)| limit)
    }

    /// Whether another entry says the same, whoever approved it.
    pub fn says_the_same(&self, other: &Self) -> bool {
        self.lower == other.lower
            && self.upper == other.upper
            && (self.from_c, self.to_c) == (other.from_c, other.to_c)
            && (self.from_kpa, self.to_kpa) == (other.from_kpa, other.to_kpa)
            && self.source == other.source
    }
}
