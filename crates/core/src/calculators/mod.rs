//! The calculators: usable in ten seconds without a job, each with its formula filled in.
//!
//! A calculator is a list of fields, read as typed, and a function from their values to results
//! with the arithmetic. The numbers come from [`crate::calc`]; the browser draws fields and
//! results and computes nothing. The registry makes id, list and dispatch from one line each;
//! the id is the file stem and the address of the calculator.

mod coil_temperature;
mod duty_at_speed;
mod flow_at_pressure;
mod pulse_change;
mod pulse_quantity;
mod residual_fuel;
mod run_time;
mod sheet;
mod sizing;
mod torque;
mod units;
mod viscosity;
mod words;

pub use sheet::{Calculator, Choice, FieldInfo, ResultLine, Worked};
use sheet::{Sheet, Spec};

use crate::limits::FieldProblem;
use crate::rules::Rules;
use std::collections::BTreeMap;

macro_rules! registry {
    ($($variant:ident = $name:ident;)*) => {
        /// Names one calculator.
        #[derive(Debug, Clone, Copy, PartialEq, Eq)]
        pub enum CalculatorId {
            $(
                #[doc = concat!("`", stringify!($name), "`")]
                $variant,
            )*
        }

        impl CalculatorId {
            /// Every calculator, in the order in which they are listed.
            pub const ALL: &[Self] = &[$(Self::$variant),*];

            /// The id as written in addresses.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => stringify!($name),)*
                }
            }

            fn spec(self) -> &'static Spec {
                match self {
                    $(Self::$variant => &$name::SPEC,)*
                }
            }
        }
    };
}

registry! {
    Units = units;
    PulseQuantity = pulse_quantity;
    DutyAtSpeed = duty_at_speed;
    Sizing = sizing;
    PulseChange = pulse_change;
    FlowAtPressure = flow_at_pressure;
    CoilTemperature = coil_temperature;
    RunTime = run_time;
    Viscosity = viscosity;
    Torque = torque;
    ResidualFuel = residual_fuel;
}

impl CalculatorId {
    /// The calculator with this id.
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.iter().copied().find(|id| id.name() == name)
    }

    /// What a view needs to draw it.
    pub fn describe(self) -> Calculator {
        self.spec().describe(self.name())
    }

    /// Works it out from what was typed, by the rules of the house; fields left out are empty.
    ///
    /// # Errors
    /// A problem for each field that cannot be read; a problem of the whole under the name
    /// `""`, such as a pulse shorter than the offset.
    ///
    /// ```
    /// use cobaltine_core::calculators::CalculatorId;
    /// use cobaltine_core::rules::Rules;
    /// let typed = [("rpm", "6000"), ("pulse", "10 ms")].map(|(k, v)| (k.into(), v.into())).into();
    /// let worked = CalculatorId::DutyAtSpeed.work(&typed, &Rules::default()).unwrap();
    /// assert_eq!((worked.results[0].shown.as_str(), worked.results[0].unit.as_str()), ("50", "%"));
    /// ```
    pub fn work(
        self,
        typed: &BTreeMap<String, String>,
        rules: &Rules,
    ) -> Result<Worked, Vec<FieldProblem>> {
        let spec = self.spec();
        let sheet = Sheet::read(spec, typed, rules)?;
        let mut worked = (spec.work)(&sheet)
            .map_err(|error| vec![FieldProblem::new("", sheet::sentence(&error.to_string()))])?;
        worked.read_as = sheet.read_as();
        Ok(worked)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::rules::{RuleChange, RuleId};

    #[test]
    fn every_calculator_works_with_its_own_examples_and_refuses_letters_beside_the_field() {
        for id in CalculatorId::ALL {
            let described = id.describe();
            let typed: BTreeMap<String, String> =
                described.fields.iter().map(|f| (f.name.clone(), f.example.clone())).collect();
            let worked = id
                .work(&typed, &Rules::default())
                .unwrap_or_else(|e| panic!("{}: {e:?}", id.name()));
            assert!(!worked.results.is_empty() && !worked.steps.is_empty(), "{}", id.name());
            for line in &worked.results {
                assert!(!line.shown.contains("NaN") && !line.shown.contains("inf"), "{line:?}");
            }
            for field in described.fields.iter().filter(|field| field.choices.is_empty()) {
                let mut wrong = typed.clone();
                wrong.insert(field.name.clone(), "12 furlongs".to_owned());
                let problems = id.work(&wrong, &Rules::default()).unwrap_err();
                assert_eq!(problems.len(), 1, "{} {}", id.name(), field.name);
                assert_eq!(problems[0].field, field.name);
            }
            // Everything left empty names each field that is needed, and nothing else.
            let needed: Vec<&str> = described
                .fields
                .iter()
                .filter(|f| !f.optional && f.choices.is_empty())
                .map(|f| f.name.as_str())
                .collect();
            let problems = id.work(&BTreeMap::new(), &Rules::default()).unwrap_err();
            let named: Vec<&str> = problems.iter().map(|p| p.field.as_str()).collect();
            assert_eq!(named, needed, "{}", id.name());
        }
    }

    #[test]
    fn what_was_typed_in_another_unit_is_shown_in_both() {
        let typed = [("flow", "24 lb/h"), ("test", "43,5 psi"), ("reference", "3 bar")];
        let typed = typed.map(|(k, v)| (k.to_owned(), v.to_owned())).into();
        let problems = CalculatorId::FlowAtPressure.work(&typed, &Rules::default()).unwrap_err();
        assert_eq!(
            problems[0].field, "flow",
            "a mass flow needs a density, which this one has not"
        );
        let typed = [("flow", "240"), ("test", "43,5 psi"), ("reference", "3 bar")];
        let typed = typed.map(|(k, v)| (k.to_owned(), v.to_owned())).into();
        let worked = CalculatorId::FlowAtPressure.work(&typed, &Rules::default()).unwrap();
        assert_eq!(worked.read_as["test"], "299.921942 kPa (43,5 psi)");
        assert_eq!(worked.results[0].shown, "240");
    }

    #[test]
    fn the_rules_of_the_house_are_followed_and_named() {
        let change = RuleChange {
            rule: RuleId::RunDifference,
            value: 20.0,
            reason: "screening only".to_owned(),
            revision: 4,
        };
        let typed = [("graduation", "2"), ("capacity", "100"), ("rate", "12")];
        let typed = typed.map(|(k, v)| (k.to_owned(), v.to_owned())).into();
        let by = |rules: &Rules| CalculatorId::RunTime.work(&typed, rules).unwrap();
        let (trade, house) = (by(&Rules::default()), by(&Rules::after([change])));
        assert_eq!(
            (trade.results[0].shown.as_str(), house.results[0].shown.as_str()),
            ("132.3", "66.17")
        );
        assert!(house.steps.iter().any(|s| s.says.contains("revision 4, because: screening only")));
    }
}
