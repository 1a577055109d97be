//! The house rules: every default of the trade that a workshop may change, with its reason.
//!
//! A change is a new revision; tests keep the rules that they were judged by. Numbers are kept
//! in the unit in which they are typed (percent as percent). The registry makes id, list and
//! specification from one line each; the id is the address and the key in the database.

mod words;

use crate::calc::return_flow::{LOOK, SUSPECT, TIMER_U_S};
use crate::calc::{bench_map, residual_fuel, return_plan, supply};
use crate::calc::{coil, cutout, decide, pressure_drop, pulse_sweep, reference_interval};
use crate::typed::{Field, TypedError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a rule is and what it may be.
#[derive(Debug, Clone, Copy)]
pub struct RuleSpec {
    /// As read in a list.
    pub word: &'static str,
    /// The check that it belongs to.
    pub about: &'static str,
    /// What it does, in a sentence.
    pub says: &'static str,
    /// The trade's usual value.
    pub default: f64,
    /// How it is read.
    pub field: Field,
    /// The schools to choose from, when it is a choice: the value is the place in this list.
    pub choices: &'static [&'static str],
}

macro_rules! registry {
    ($($variant:ident = $name:ident: $default:expr, $field:expr, $choices:expr;)*) => {
        /// Names one house rule.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum RuleId {
            $(
                #[doc = concat!("`", stringify!($name), "`.")]
                $variant,
            )*
        }

        impl RuleId {
            /// Every rule, in the order in which they are listed.
            pub const ALL: &[Self] = &[$(Self::$variant),*];

            /// The id as written in addresses and in the database.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => stringify!($name),)*
                }
            }

            /// What it is and what it may be.
            pub fn spec(self) -> RuleSpec {
                let (word, about, says) = words::of(self);
                let (default, field, choices): (f64, Field, &[&str]) = match self {
                    $(Self::$variant => ($default, $field, $choices),)*
                };
                RuleSpec { word, about, says, default, field, choices }
            }
        }
    };
}

const PERCENT: Field = Field::above_zero("%", 0.1, 1000.0);
const SURE: Field = Field::above_zero("%", 51.0, 99.9);
const RUNS: Field = Field::above_zero("", 1.0, 12.0);
const TIMES: Field = Field::above_zero("", 1.01, 100.0);
const VOLTS: Field = Field::above_zero("V", 0.01, 100.0);
const MONEY: Field = Field::from_zero("", 1e6);
const CHANCE: Field = Field::from_zero("%", 100.0);
const CHOICE: Field = Field::from_zero("", 10.0);

registry! {
    ReturnLeads = return_leads: 0.0, CHOICE, &[words::LIMIT_ONE, "always the others"];
    ReturnLook = return_look: LOOK * 100.0, PERCENT, &[];
    ReturnSuspect = return_suspect: SUSPECT * 100.0, PERCENT, &[];
    ReturnFarLow = return_far_low: 50.0, CHANCE, &[];
    ReturnUsual = return_usual: 25.0, Field::above_zero("ml/min", 1.0, 1000.0), &[];
    ReturnLowest = return_lowest: 3.0, TIMES, &[];
    RunsToReplace = runs_to_replace: 3.0, RUNS, &[];
    TimerU = timer_u: TIMER_U_S, Field::above_zero("s", 0.001, 10.0), &[];
    RunDifference = run_difference: return_plan::DISCRIMINATE * 100.0, PERCENT, &[];
    RunWorst = run_worst: return_plan::WORST_RATIO, TIMES, &[];
    GuardConfidence = guard_confidence: decide::DEFAULT_CONFIDENCE * 100.0, SURE, &[];
    BalanceTolerance = balance_tolerance: pressure_drop::TOLERANCE * 100.0, PERCENT, &[];
    BalanceSpread = balance_spread: pressure_drop::MAX_SPREAD_KPA, Field::above_zero("kPa", 0.1, 1000.0), &[];
    BalanceStart = balance_start: pressure_drop::START_TOLERANCE * 100.0, PERCENT, &[];
    BalanceLook = balance_look: 12.0, PERCENT, &[];
    CompressionDiesel = compression_diesel: 1700.0, Field::above_zero("kPa", 100.0, 20_000.0), &[];
    CompressionPetrol = compression_petrol: 750.0, Field::above_zero("kPa", 100.0, 20_000.0), &[];
    CutoutTolerance = cutout_tolerance: cutout::TOLERANCE * 100.0, PERCENT, &[];
    ListenLevel = listen_level: 4.0, Field::above_zero("dB", 0.5, 40.0), &[];
    ListenTicks = listen_ticks: 85.0, Field::above_zero("%", 16.0, 100.0), &[];
    KinkLate = kink_late: 0.1, Field::above_zero("ms", 0.01, 5.0), &[];
    SupplyNone = supply_none: supply::NONE_BELOW_V, VOLTS, &[];
    SupplyDrop = supply_drop: supply::MAX_DROP_V, VOLTS, &[];
    CoilLeads = coil_leads: coil::UNKNOWN_LEAD_OHM, Field::above_zero("ohm", 0.001, 10.0), &[];
    SupplyLeg = supply_leg: 1.0, Field::above_zero("ohm", 0.01, 100.0), &[];
    CoilOpen = coil_open: 1000.0, Field::above_zero("ohm", 10.0, 1e7), &[];
    InsulationLeast = insulation_least: 10.0, Field::above_zero("MΩ", 0.001, 1e6), &[];
    PiezoTolerance = piezo_tolerance: 10.0, PERCENT, &[];
    WarmFrom = warm_from: 60.0, Field::TEMPERATURE.bare(), &[];
    TemperaturesAlike = temperatures_alike: 5.0, Field::above_zero("", 0.1, 50.0), &[];
    GradeMatched = grade_matched: 1.0, PERCENT, &[];
    GradeClose = grade_close: 2.0, PERCENT, &[];
    GradeServiceable = grade_serviceable: 5.0, PERCENT, &[];
    SweepLinear = sweep_linear: pulse_sweep::LINEAR_TOLERANCE * 100.0, PERCENT, &[];
    FlowPressure = flow_pressure: 300.0, Field::above_zero("kPa", 10.0, 40_000.0), &[];
    FlowDensity = flow_density: 684.0, Field::above_zero("", 300.0, 2000.0), &[];
    FoamSettle = foam_settle: 45.0, Field::from_zero("s", 3600.0), &[];
    LeakDrops = leak_drops: 1.0, Field::from_zero("", 1000.0), &[];
    SlowOpener = slow_opener: 0.08, Field::above_zero("ms", 0.001, 10.0), &[];
    CleaningCycles = cleaning_cycles: 3.0, RUNS, &[];
    CleaningGain = cleaning_gain: 2.0, PERCENT, &[];
    CleaningBack = cleaning_back: 5.0, PERCENT, &[];
    ShimGain = shim_gain: 0.8, Field::signed("", -5.0, 5.0), &[];
    LiftU = lift_u: 0.8, Field::above_zero("um", 0.01, 100.0), &[];
    CoilsMatched = coils_matched: 3.0, PERCENT, &[];
    MatchShort = match_short: 4.0, PERCENT, &[];
    MatchDeadTime = match_dead_time: 0.05, Field::above_zero("ms", 0.001, 10.0), &[];
    MatchDelivery = match_delivery: 4.0, PERCENT, &[];
    MatchReturn = match_return: 25.0, PERCENT, &[];
    TrimStep = trim_step: 0.3, Field::above_zero("mm3", 0.001, 100.0), &[];
    DoserRepeat = doser_repeat: 2.0, Field::above_zero("ml", 0.01, 1000.0), &[];
    BenchU = bench_u: bench_map::BENCH_U_PCT, Field::above_zero("%", 0.01, 20.0), &[];
    ReferenceCoverage = reference_coverage: reference_interval::COVERAGE * 100.0, SURE, &[];
    ReferenceConfidence = reference_confidence: reference_interval::COVERAGE * 100.0, SURE, &[];
    ReferenceLeast = reference_least: reference_interval::LEAST_VALUES as f64, Field::above_zero("", reference_interval::LEAST_VALUES as f64, 1000.0), &[];
    FuelApart = fuel_apart: 5.0, PERCENT, &[];
    DutyReserve = duty_reserve: 85.0, Field::above_zero("%", 1.0, 100.0), &[];
    CostNew = cost_new: 260.0, MONEY, &[];
    CostClean = cost_clean: 35.0, MONEY, &[];
    CostRecondition = cost_recondition: 120.0, MONEY, &[];
    CostHour = cost_hour: 80.0, MONEY, &[];
    HoursFirst = hours_first: 2.0, Field::from_zero("h", 200.0), &[];
    HoursMore = hours_more: 0.4, Field::from_zero("h", 200.0), &[];
    CostComeback = cost_comeback: 180.0, MONEY, &[];
    ComebackOld = comeback_old: 12.0, CHANCE, &[];
    ComebackMiddle = comeback_middle: 5.0, CHANCE, &[];
    ComebackYoung = comeback_young: 1.5, CHANCE, &[];
    ComebackNew = comeback_new: 1.0, CHANCE, &[];
    ResidualFlow = residual_flow: 350.0, Field::above_zero("ml/min", 10.0, 5000.0), &[];
    ResidualClearance = residual_clearance: 25.0, Field::above_zero("ml", 1.0, 5000.0), &[];
    ResidualCaution = residual_caution: residual_fuel::CAUTION * 100.0, Field::above_zero("%", 0.1, 2.0), &[];
    ResidualStop = residual_stop: residual_fuel::STOP * 100.0, Field::above_zero("%", 0.1, 20.0), &[];
}

/// One change of a rule.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RuleChange {
    /// Which.
    pub rule: RuleId,
    /// Its value from then on, in the unit of its field.
    pub value: f64,
    /// Why, in the words of the workshop.
    pub reason: String,
    /// Counted over all rules.
    pub revision: u32,
}

/// The rules as they stand: the trade's defaults with the workshop's changes on top.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Rules {
    newest: Vec<RuleChange>,
}

impl Rules {
    /// The rules after these changes, oldest first.
    pub fn after(changes: impl IntoIterator<Item = RuleChange>) -> Self {
        let mut newest: Vec<RuleChange> = Vec::new();
        for change in changes {
            newest.retain(|held| held.rule != change.rule);
            newest.push(change);
        }
        Self { newest }
    }

    /// The value that holds, in the unit of its field.
    pub fn get(&self, rule: RuleId) -> f64 {
        self.change(rule).map_or_else(|| rule.spec().default, |change| change.value)
    }

    /// A percentage as a share.
    pub fn share(&self, rule: RuleId) -> f64 {
        self.get(rule) / 100.0
    }

    /// The change that holds, if the workshop made one.
    pub fn change(&self, rule: RuleId) -> Option<&RuleChange> {
        self.newest.iter().find(|change| change.rule == rule)
    }

    /// The newest revision; 0 for the trade's defaults.
    pub fn revision(&self) -> u32 {
        self.newest.iter().map(|change| change.revision).max().unwrap_or(0)
    }

    /// Which of these rules the workshop changed, and why, for a because.
    pub fn reasons(&self, of: &[RuleId]) -> Vec<String> {
        of.iter()
            .filter_map(|rule| {
                let change = self.change(*rule)?;
                let spec = rule.spec();
                Some(words::instead_revision_because(
                    spec.about,
                    spec.word.to_lowercase(),
                    shown(*rule, change.value),
                    shown(*rule, spec.default),
                    change.revision,
                    &change.reason,
                ))
            })
            .collect()
    }
}

/// A value of a rule with its unit, or the school that it stands for.
pub fn shown(rule: RuleId, value: f64) -> String {
    let spec = rule.spec();
    match spec.choices.get(value.max(0.0) as usize) {
        Some(choice) => (*choice).to_owned(),
        None => format!("{} {}", spec.field.said(value), spec.field.unit()).trim_end().to_owned(),
    }
}

/// Reads what was typed for a rule.
///
/// # Errors
/// What cannot be read, or is no school of this rule.
pub fn read(rule: RuleId, typed: &str) -> Result<f64, TypedError> {
    let spec = rule.spec();
    let value = spec.field.read(typed)?;
    let known =
        spec.choices.is_empty() || (value.fract() == 0.0 && (value as usize) < spec.choices.len());
    if known { Ok(value) } else { Err(TypedError::NotANumber(typed.to_owned())) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_default_is_one_that_could_be_typed_and_every_name_is_its_wire_name() {
        for rule in RuleId::ALL.iter().copied() {
            let default = rule.spec().default;
            assert_eq!(read(rule, &crate::quantity::trimmed(default)), Ok(default), "{rule:?}");
            assert_eq!(serde_json::to_value(rule).unwrap(), rule.name());
        }
    }

    #[test]
    fn the_newest_change_holds_and_says_why() {
        let change = |value, revision| RuleChange {
            rule: RuleId::ReturnLook,
            value,
            reason: "two comebacks in spring".to_owned(),
            revision,
        };
        let rules = Rules::after([change(20.0, 1), change(12.0, 2)]);
        assert_eq!((rules.share(RuleId::ReturnLook), rules.revision()), (0.12, 2));
        assert_eq!(rules.get(RuleId::ReturnSuspect), 30.0, "the others stay as they were");
        assert_eq!(
            rules.reasons(&[RuleId::ReturnLook, RuleId::ReturnSuspect]),
            [
                "Return test: look closer above 12 % instead of 15 %, revision 2, because: two comebacks in spring"
            ]
        );
        assert!(read(RuleId::ReturnLeads, "7").is_err(), "no such school");
    }
}
