//! One limit: a window for a check of a family under a condition.

use crate::moment::Signed;
use crate::quantity::{Celsius, trimmed};
use crate::typed::Field;
use crate::units::{self, C, KPA, ML_MIN};
use crate::work::Regime;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// An absolute limit from the library, with the conditions it holds for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Limit {
    /// Most return flow in ml/min.
    pub upper_ml_min: f64,
    /// Lowest temperature that it holds for, in °C.
    pub from_c: Option<f64>,
    /// Highest temperature that it holds for, in °C.
    pub to_c: Option<f64>,
    /// Where the number comes from.
    pub source: String,
    /// Revision of the entry; 0 for the house's own reference.
    pub revision: u32,
}

impl Limit {
    /// Whether it says anything at this temperature. One without a window always does; one with
    /// a window needs the temperature to be known.
    pub fn holds_at(&self, temperature_c: Option<Celsius>) -> bool {
        match (self.from_c, self.to_c, temperature_c) {
            (None, None, _) => true,
            (_, _, None) => false,
            (from, to, Some(Celsius(t))) => {
                from.is_none_or(|from| t >= from) && to.is_none_or(|to| t <= to)
            }
        }
    }
}

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
    /// Delay from energising to opening, µs.
    OpeningDelay,
}

impl LimitCheck {
    /// Every check that can have a limit.
    pub const ALL: [Self; 11] = [
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
        Self::OpeningDelay,
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
            Self::OpeningDelay => "opening_delay",
        }
    }

    /// How its numbers are read; a bare number has the canonical unit.
    pub fn field(self) -> Field {
        let unit = match self {
            Self::ReturnFlow | Self::StaticFlow => ML_MIN,
            Self::CoilResistance | Self::Insulation => "ohm",
            Self::Delivered | Self::Returned => "mm3",
            Self::OpeningPressure => KPA,
            Self::LeakVolume | Self::DoserVolume => "ml",
            Self::Lift => "um",
            Self::OpeningDelay => "us",
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
        let field = self.check.field();
        // Insulation is spoken of in megohms.
        let largest = self.upper.or(self.lower).unwrap_or(0.0);
        let megohms = field.unit() == "Ω" && largest >= 1e5;
        let unit = if megohms { "MΩ" } else { field.unit() };
        let trimmed = |value: f64| if megohms { trimmed(value / 1e6) } else { field.said(value) };
        let mut text = match (self.lower, self.upper) {
            (Some(lower), Some(upper)) => {
                format!("{} to {} {unit}", trimmed(lower), trimmed(upper))
            }
            (Some(lower), None) => format!("at least {} {unit}", trimmed(lower)),
            (None, Some(upper)) => format!("at most {} {unit}", trimmed(upper)),
            (None, None) => "no limits".to_owned(),
        };
        for (from, to, canonical) in
            [(self.from_c, self.to_c, C), (self.from_kpa, self.to_kpa, KPA)]
        {
            let (number, said) =
                (|end| units::number(end, canonical), |end| units::said(end, canonical));
            match (from, to) {
                (Some(from), Some(to)) if from == to => {
                    text += &format!(", at {}", said(from));
                }
                (Some(from), Some(to)) => text += &format!(", {} to {}", number(from), said(to)),
                (Some(from), None) => text += &format!(", from {}", said(from)),
                (None, Some(to)) => text += &format!(", up to {}", said(to)),
                (None, None) => {}
            }
        }
        text
    }

    /// As a return test uses it; none when it is about something else or has no upper end. A
    /// condition that is no regime stays beside the source: nobody checked that it was met.
    pub fn for_return_test(&self) -> Option<Limit> {
        let upper_ml_min = self.upper.filter(|_| self.check == LimitCheck::ReturnFlow)?;
        Some(Limit {
            upper_ml_min,
            from_c: self.from_c,
            to_c: self.to_c,
            source: match self.condition.trim() {
                other if !other.is_empty() && Regime::named(other).is_none() => {
                    format!("{} (for {other})", self.source)
                }
                _ => self.source.clone(),
            },
            revision: self.revision,
        })
    }

    /// The limit of a return test in this regime at this temperature, from the newest limits of
    /// a family: one that names another regime is passed over, one that holds at the temperature
    /// comes first, then one that names the regime, then one without a condition, and last one
    /// with a condition that the program cannot check. One that does not hold is still given,
    /// so that the test can say why it is not applied.
    pub fn pick_for_return_test(
        newest: &[Self],
        regime: Regime,
        temperature_c: Option<Celsius>,
    ) -> Option<Limit> {
        let named = |entry: &Self| Regime::named(&entry.condition);
        let closeness = |entry: &Self| match (named(entry), entry.condition.trim()) {
            (Some(_), _) => 2,
            (None, "") => 1,
            (None, _) => 0,
        };
        newest
            .iter()
            .filter(|entry| named(entry).is_none_or(|its| its == regime))
            .filter_map(|entry| Some((entry, entry.for_return_test()?)))
            .max_by_key(|(entry, limit)| (limit.holds_at(temperature_c), closeness(entry)))
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

#[cfg(test)]
mod tests {
    use super::*;

    fn limit(condition: &str, upper: Option<f64>) -> LimitEntry {
        LimitEntry {
            id: Uuid::nil(),
            family: "Kettra 27".to_owned(),
            check: LimitCheck::ReturnFlow,
            condition: condition.to_owned(),
            revision: 3,
            lower: None,
            upper,
            typed: String::new(),
            from_c: None,
            to_c: None,
            from_kpa: None,
            to_kpa: None,
            source: "sheet 4".to_owned(),
            approved: None,
        }
    }

    #[test]
    fn a_condition_that_cannot_be_checked_comes_last_and_is_named() {
        let plain = limit("", Some(24.0));
        let loaded = limit("Full load", Some(60.0));
        let stepped = limit(" Stepped ", Some(40.0));
        let idle = limit("Idle", Some(22.0));
        for listed in [
            [plain.clone(), loaded.clone(), stepped.clone()],
            [stepped.clone(), loaded.clone(), plain.clone()],
        ] {
            let pick = |regime| LimitEntry::pick_for_return_test(&listed, regime, None).unwrap();
            assert_eq!(pick(Regime::IdleOnly).upper_ml_min, 24.0, "whatever the order");
            assert_eq!(pick(Regime::Stepped).upper_ml_min, 40.0);
            assert_eq!(pick(Regime::Stepped).source, "sheet 4");
        }
        let both = [idle.clone(), plain.clone()];
        let pick = |regime| LimitEntry::pick_for_return_test(&both, regime, None).unwrap();
        assert_eq!(
            (pick(Regime::IdleOnly).upper_ml_min, idle.window().as_str()),
            (22.0, "at most 22 ml/min")
        );
        assert_eq!(pick(Regime::Cranking).upper_ml_min, 24.0, "idle says nothing of cranking");
        let only = LimitEntry::pick_for_return_test(&[loaded], Regime::IdleOnly, None).unwrap();
        assert_eq!(only.source, "sheet 4 (for Full load)");
        assert_eq!(LimitEntry::pick_for_return_test(&[stepped], Regime::Cranking, None), None);
    }

    #[test]
    fn a_limit_without_an_upper_end_or_of_another_check_judges_no_return_flow() {
        let open = LimitEntry { lower: Some(2.0), ..limit("", None) };
        assert_eq!(open.for_return_test(), None);
        let coil = LimitEntry { check: LimitCheck::CoilResistance, ..limit("", Some(0.5)) };
        assert_eq!(coil.for_return_test(), None);
    }

    #[test]
    fn the_window_is_said_with_its_unit_and_where_it_holds() {
        let base = limit("", Some(24.0));
        let warm = LimitEntry { from_c: Some(70.0), to_c: Some(95.0), ..base.clone() };
        assert_eq!(warm.window(), "at most 24 ml/min, 70 to 95 °C");
        let rail = LimitEntry {
            check: LimitCheck::Delivered,
            lower: Some(40.5),
            upper: Some(48.0),
            from_kpa: Some(160_000.0),
            to_kpa: Some(160_000.0),
            ..base.clone()
        };
        assert_eq!(rail.window(), "40.5 to 48 mm³, at 160000 kPa");
        let insulated = LimitEntry {
            check: LimitCheck::Insulation,
            lower: Some(10e6),
            upper: None,
            to_c: Some(30.0),
            ..base.clone()
        };
        assert_eq!(insulated.window(), "at least 10 MΩ, up to 30 °C");
        assert_eq!(limit("", None).window(), "no limits");
    }

    #[test]
    fn every_check_is_found_by_the_name_it_is_written_with() {
        for check in LimitCheck::ALL {
            assert_eq!(LimitCheck::parse(check.name()), Some(check));
        }
        assert_eq!(LimitCheck::parse("weight"), None);
    }

    #[test]
    fn who_approved_it_makes_no_new_revision_but_a_number_or_a_source_does() {
        let base = limit("", Some(24.0));
        assert!(base.says_the_same(&LimitEntry { revision: 9, ..base.clone() }));
        assert!(!base.says_the_same(&LimitEntry { upper: Some(24.5), ..base.clone() }));
        assert!(!base.says_the_same(&LimitEntry { from_c: Some(70.0), ..base.clone() }));
        assert!(!base.says_the_same(&LimitEntry { to_kpa: Some(300.0), ..base.clone() }));
        assert!(!base.says_the_same(&LimitEntry { source: "sheet 5".to_owned(), ..base.clone() }));
    }
}
