//! The instruments of the workshop and what a reading of theirs is worth.

mod words;

use crate::limits::FieldProblem;
use crate::units::KPA;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// What an instrument measures.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum InstrumentKind {
    /// Ohmmeter or multimeter.
    Meter,
    /// Pressure gauge.
    Gauge,
    /// A set of graduated bottles.
    Bottles,
    /// A flow bench with its tubes.
    Bench,
    /// A stopwatch, or the program's clock started by hand.
    Timer,
}

impl InstrumentKind {
    /// The unit of its resolution and of its readings.
    pub fn unit(self) -> &'static str {
        match self {
            Self::Meter => "Ω",
            Self::Gauge => KPA,
            Self::Bottles | Self::Bench => "ml",
            Self::Timer => "s",
        }
    }

    /// Whether it catches a volume over a time.
    pub fn catches_volume(self) -> bool {
        match self {
            Self::Bottles | Self::Bench => true,
            Self::Meter | Self::Gauge | Self::Timer => false,
        }
    }
}

/// One instrument. Quantities in the unit of its kind.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Instrument {
    /// Identity.
    pub id: Uuid,
    /// As it is called in the workshop.
    pub name: String,
    /// What it measures.
    pub kind: InstrumentKind,
    /// Last digit or distance between two marks.
    pub resolution: f64,
    /// Accuracy, percent of reading.
    pub accuracy_pct: f64,
    /// Accuracy, digits.
    pub accuracy_digits: f64,
    /// Leads held together, ohm; none when nobody measured them.
    pub lead_ohm: Option<f64>,
    /// What a bottle or a tube holds, ml.
    pub capacity_ml: Option<f64>,
    /// When it has to be calibrated again.
    #[schema(value_type = Option<String>, format = Date)]
    pub calibration_due: Option<Date>,
    /// What the certificate says.
    pub certificate: String,
    /// Goes up with every change.
    pub revision: u64,
}

/// An instrument as it was when a test was set up. A later calibration changes nothing here.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct InstrumentUse {
    /// Identity.
    pub id: Uuid,
    /// Its name at the time.
    pub name: String,
    /// Revision at the time.
    pub revision: u64,
    /// When its calibration was due, if that had passed.
    #[schema(value_type = Option<String>, format = Date)]
    pub overdue_since: Option<Date>,
}

impl Instrument {
    /// Standard uncertainty of one reading of this value: marks (twice, when leads are taken
    /// off) and accuracy, rectangular. JCGM 100, 4.3.7.
    pub fn u(&self, value: f64) -> f64 {
        let readings: f64 = if self.lead_ohm.is_some() { 2.0 } else { 1.0 };
        let marks = self.resolution * (readings / 12.0).sqrt();
        let accuracy =
            self.accuracy_pct / 100.0 * value.abs() + self.accuracy_digits * self.resolution;
        marks.hypot(accuracy / 3.0_f64.sqrt())
    }

    /// Whether its calibration was due before this day.
    pub fn overdue(&self, today: Date) -> Option<Date> {
        self.calibration_due.filter(|due| *due < today)
    }

    /// What a test keeps of it.
    pub fn used(&self, today: Date) -> InstrumentUse {
        InstrumentUse {
            id: self.id,
            name: self.name.clone(),
            revision: self.revision,
            overdue_since: self.overdue(today),
        }
    }

    /// Everything that is wrong with it, field by field.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        let name = self.name.trim().chars().count();
        if !(1..=80).contains(&name) {
            found.push(FieldProblem::new("name", words::ENTER_NAME_CHARACTERS));
        }
        if self.certificate.chars().count() > 400 {
            found.push(FieldProblem::new("certificate", words::MAXIMUM_CHARACTERS));
        }
        let number = |field: &str, value: f64, zero: bool| {
            let fits = value.is_finite() && value < 1e9 && (value > 0.0 || (zero && value == 0.0));
            (!fits).then(|| {
                let least = if zero { "not below zero" } else { "above zero" };
                FieldProblem::new(field, words::enter_number(least))
            })
        };
        found.extend(number("resolution", self.resolution, false));
        found.extend(number("accuracy_pct", self.accuracy_pct, true));
        found.extend(number("accuracy_digits", self.accuracy_digits, true));
        found.extend(self.lead_ohm.and_then(|lead| number("lead_ohm", lead, true)));
        match (self.kind.catches_volume(), self.capacity_ml) {
            (true, None) => {
                found.push(FieldProblem::new("capacity_ml", words::ENTER_BOTTLE_TUBE_HOLDS));
            }
            (true, Some(capacity)) => {
                found.extend(number("capacity_ml", capacity, false));
                if capacity < self.resolution {
                    let text = words::MARKS_FURTHER_APART_LARGE;
                    found.push(FieldProblem::new("resolution", text));
                }
            }
            (false, _) => {}
        }
        found
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn meter() -> Instrument {
        Instrument {
            id: Uuid::nil(),
            name: "Bench meter".to_owned(),
            kind: InstrumentKind::Meter,
            resolution: 0.1,
            accuracy_pct: 0.5,
            accuracy_digits: 2.0,
            lead_ohm: None,
            capacity_ml: None,
            calibration_due: None,
            certificate: String::new(),
            revision: 1,
        }
    }

    #[test]
    fn marks_and_accuracy_add_as_variances_and_leads_are_a_second_reading() {
        // 0.1/√12 = 0.028868; (0.005·14.5 + 2·0.1)/√3 = 0.157328; root of the squares 0.159954.
        assert!((meter().u(14.5) - 0.159_954).abs() < 1e-6);
        assert_eq!(meter().u(-14.5), meter().u(14.5));
        let leads = Instrument { lead_ohm: Some(0.2), ..meter() };
        let more = leads.u(14.5).powi(2) - meter().u(14.5).powi(2);
        assert!((more - 0.01 / 12.0).abs() < 1e-12, "one more mark: {more}");
    }

    #[test]
    fn each_wrong_field_is_named_and_only_those() {
        let wrong = |instrument: Instrument| -> Vec<String> {
            instrument.problems().into_iter().map(|problem| problem.field).collect()
        };
        assert!(wrong(meter()).is_empty());
        assert_eq!(wrong(Instrument { name: "  ".to_owned(), ..meter() }), ["name"]);
        assert_eq!(wrong(Instrument { resolution: 0.0, ..meter() }), ["resolution"]);
        assert_eq!(wrong(Instrument { accuracy_pct: f64::NAN, ..meter() }), ["accuracy_pct"]);
        assert_eq!(wrong(Instrument { accuracy_digits: -1.0, ..meter() }), ["accuracy_digits"]);
        assert_eq!(wrong(Instrument { lead_ohm: Some(-0.1), ..meter() }), ["lead_ohm"]);
        assert!(wrong(Instrument { lead_ohm: Some(0.0), ..meter() }).is_empty());
        let certificate = "x".repeat(401);
        assert_eq!(wrong(Instrument { certificate, ..meter() }), ["certificate"]);
        let bottles = Instrument { kind: InstrumentKind::Bottles, ..meter() };
        assert_eq!(wrong(bottles.clone()), ["capacity_ml"], "it has to hold something");
        let thimble = Instrument { capacity_ml: Some(0.05), ..bottles };
        assert_eq!(wrong(thimble), ["resolution"], "smaller than its marks");
    }
}
