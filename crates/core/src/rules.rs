//! The house rules: every default of the trade that a workshop may change, with its reason.
//!
//! A change is a new revision; tests keep the rules that they were judged by. Numbers are kept
//! in the unit in which they are typed (percent as percent). The registry makes id, list and
//! specification from one line each; the id is the address and the key in the database.

use crate::calc::return_flow::{LOOK, SUSPECT, TIMER_U_S};
use crate::calc::{bench_map, residual_fuel, return_plan, supply};
use crate::calc::{coil, cutout, decide, pressure_drop, pulse_sweep, reference_interval};
use crate::quantity::trimmed;
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
    ($($variant:ident = $name:ident: $word:literal, $about:literal, $says:literal, $default:expr, $field:expr, $choices:expr;)*) => {
        /// Names one house rule.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum RuleId {
            $(
                #[doc = $says]
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
                match self {
                    $(Self::$variant => RuleSpec {
                        word: $word, about: $about, says: $says, default: $default, field: $field, choices: $choices,
                    },)*
                }
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
    ReturnLeads = return_leads: "What leads", "Return test",
        "Whether an absolute limit of the library leads the verdict, or always the comparison with the others.",
        0.0, CHOICE, &["the limit, where there is one", "always the others"];
    ReturnLook = return_look: "Look closer above", "Return test",
        "More than the others by this asks for a closer look.", LOOK * 100.0, PERCENT, &[];
    ReturnSuspect = return_suspect: "Suspect above", "Return test",
        "More than the others by this makes suspect; also how far alike reaches.", SUSPECT * 100.0, PERCENT, &[];
    ReturnFarLow = return_far_low: "Far below", "Return test",
        "Less than the others by this questions the reading: hose, firing, or the others.", 50.0, CHANCE, &[];
    ReturnUsual = return_usual: "Usual at idle, at most", "Return test",
        "Where most of a set return more than this at idle and no limit is known, nobody can say whether they or the lower one are odd.",
        25.0, Field::above_zero("ml/min", 1.0, 1000.0), &[];
    ReturnLowest = return_lowest: "Against the lowest", "Return test",
        "The school of the lowest condemns above this many times the lowest.", 3.0, TIMES, &[];
    RunsToReplace = runs_to_replace: "Runs to replace", "Return test",
        "Runs asked for before an injector is replaced.", 3.0, RUNS, &[];
    TimerU = timer_u: "Timing by hand", "Return test",
        "Standard uncertainty of starting and stopping by hand, when no timer is chosen.",
        TIMER_U_S, Field::above_zero("s", 0.001, 10.0), &[];
    RunDifference = run_difference: "Difference to show", "Length of a run",
        "A run is long enough when this between two bottles shows.", return_plan::DISCRIMINATE * 100.0, PERCENT, &[];
    RunWorst = run_worst: "The worst returns, times", "Length of a run",
        "How many times the usual rate the worst bottle is planned for.", return_plan::WORST_RATIO, TIMES, &[];
    GuardConfidence = guard_confidence: "Guard confidence", "Limits",
        "How sure a reading must be before it counts as inside or outside.", decide::DEFAULT_CONFIDENCE * 100.0, SURE, &[];
    BalanceTolerance = balance_tolerance: "Alike within", "Petrol balance",
        "Pressure drops of a set count as alike within this of the mean of the others.",
        pressure_drop::TOLERANCE * 100.0, PERCENT, &[];
    BalanceSpread = balance_spread: "Largest difference", "Petrol balance",
        "The plain school: the largest difference between two drops.",
        pressure_drop::MAX_SPREAD_KPA, Field::above_zero("kPa", 0.1, 1000.0), &[];
    BalanceStart = balance_start: "Start alike within", "Petrol balance",
        "How far the start pressure may lie from the others'.", pressure_drop::START_TOLERANCE * 100.0, PERCENT, &[];
    BalanceLook = balance_look: "Look closer from", "Petrol balance",
        "A drop that lies this far from the others, and less than what counts as alike, is looked at.", 12.0, PERCENT, &[];
    CompressionDiesel = compression_diesel: "Diesel at least", "Compression",
        "A diesel below this by gauge is low, however alike the cylinders are, where the maker's figure was not typed.",
        1700.0, Field::above_zero("kPa", 100.0, 20_000.0), &[];
    CompressionPetrol = compression_petrol: "Petrol at least", "Compression",
        "The same for a petrol engine.", 750.0, Field::above_zero("kPa", 100.0, 20_000.0), &[];
    CutoutTolerance = cutout_tolerance: "Weak below", "Cut-out",
        "A cylinder whose drop is less than the others' by this is weak.", cutout::TOLERANCE * 100.0, PERCENT, &[];
    SupplyNone = supply_none: "No supply below", "Electrical",
        "A plug with less than this has no supply.", supply::NONE_BELOW_V, VOLTS, &[];
    SupplyDrop = supply_drop: "Largest drop", "Electrical",
        "A leg may lose this from the battery.", supply::MAX_DROP_V, VOLTS, &[];
    CoilLeads = coil_leads: "Leads not measured", "Electrical",
        "What meter leads may have when nobody zeroed them.", coil::UNKNOWN_LEAD_OHM, Field::above_zero("ohm", 0.001, 10.0), &[];
    SupplyLeg = supply_leg: "Leg at most", "Electrical",
        "Resistance of a wire from the control unit to the injector, end to end.", 1.0, Field::above_zero("ohm", 0.01, 100.0), &[];
    CoilOpen = coil_open: "Winding open from", "Electrical",
        "A winding with more than this is open, whatever its family.", 1000.0, Field::above_zero("ohm", 10.0, 1e7), &[];
    InsulationLeast = insulation_least: "Insulation at least", "Electrical",
        "Less than this from a pin to the body is a leak, where the library has no limit.",
        10.0, Field::above_zero("MΩ", 0.001, 1e6), &[];
    PiezoTolerance = piezo_tolerance: "Stacks alike within", "Electrical",
        "Capacitances of a set count as alike within this of the mean of the others.", 10.0, PERCENT, &[];
    WarmFrom = warm_from: "Warm from", "Return test",
        "A return test below this temperature is named a cold one.", 60.0, Field::TEMPERATURE.bare(), &[];
    TemperaturesAlike = temperatures_alike: "Temperatures alike within", "Return test",
        "Two tests closer than this in temperature are compared as they are; further apart with an estimated correction.",
        5.0, Field::above_zero("", 0.1, 50.0), &[];
    GradeMatched = grade_matched: "Matched within", "Flow match",
        "Spread of a set that is sold as matched.", 1.0, PERCENT, &[];
    GradeClose = grade_close: "Close within", "Flow match",
        "Spread of a set that is close, not matched.", 2.0, PERCENT, &[];
    GradeServiceable = grade_serviceable: "Serviceable within", "Flow match",
        "Spread of a set that may go back into an engine.", 5.0, PERCENT, &[];
    SweepLinear = sweep_linear: "Linear within", "Pulse sweep",
        "How far a point may lie off the line and still be linear.", pulse_sweep::LINEAR_TOLERANCE * 100.0, PERCENT, &[];
    FlowPressure = flow_pressure: "Reference pressure", "Flow bench",
        "Flows are brought to this pressure before they are compared between rounds or with a limit.",
        300.0, Field::above_zero("kPa", 10.0, 40_000.0), &[];
    FlowDensity = flow_density: "Reference fluid", "Flow bench",
        "Density of the fluid that flows are stated for, kg/m³.", 684.0, Field::above_zero("", 300.0, 2000.0), &[];
    FoamSettle = foam_settle: "Foam settles in", "Flow bench",
        "A tube that is read earlier after the run is questioned.", 45.0, Field::from_zero("s", 3600.0), &[];
    LeakDrops = leak_drops: "Drops a minute", "Flow bench",
        "Most drops a minute from a closed injector, where the library has no limit.", 1.0, Field::from_zero("", 1000.0), &[];
    SlowOpener = slow_opener: "Opens late from", "Pulse sweep",
        "A dead time longer than the others' by this is a slow opener.", 0.08, Field::above_zero("ms", 0.001, 10.0), &[];
    CleaningCycles = cleaning_cycles: "Cleanings at most", "Cleaning",
        "More cycles than this are not proposed.", 3.0, RUNS, &[];
    CleaningGain = cleaning_gain: "Worth another from", "Cleaning",
        "A cycle that gained less than this is not repeated.", 2.0, PERCENT, &[];
    CleaningBack = cleaning_back: "Cleaned within", "Cleaning",
        "An injector that comes back to within this of the others, or of its limit, counts as cleaned.", 5.0, PERCENT, &[];
    ShimGain = shim_gain: "First gain", "Lift and shims",
        "Change of lift for a change of shim, until two fits of the injector itself tell.", 0.8, Field::signed("", -5.0, 5.0), &[];
    LiftU = lift_u: "Lift gauge", "Lift and shims",
        "Standard uncertainty of a lift.", 0.8, Field::above_zero("um", 0.01, 100.0), &[];
    CoilsMatched = coils_matched: "Coils matched within", "Lift and shims",
        "Coil values of a rebuilt set count as matched within this of the mean of the others.", 3.0, PERCENT, &[];
    MatchShort = match_short: "Short pulses alike within", "Matching",
        "How far the quantities at the shortest pulse of a set may lie apart.", 4.0, PERCENT, &[];
    MatchDeadTime = match_dead_time: "Dead times alike within", "Matching",
        "How far the dead times of a set may lie apart.", 0.05, Field::above_zero("ms", 0.001, 10.0), &[];
    MatchDelivery = match_delivery: "Deliveries alike within", "Matching",
        "How far the deliveries of a diesel set may lie apart at a point.", 4.0, PERCENT, &[];
    MatchReturn = match_return: "Returns alike within", "Matching",
        "How far the standing returns of a diesel set may lie apart.", 25.0, PERCENT, &[];
    TrimStep = trim_step: "One step", "Trim code",
        "Quantity that one step of our own trim code corrects.", 0.3, Field::above_zero("mm3", 0.001, 100.0), &[];
    DoserRepeat = doser_repeat: "Repeats within", "Exhaust doser",
        "Known standard deviation of a single run of a doser.", 2.0, Field::above_zero("ml", 0.01, 1000.0), &[];
    BenchU = bench_u: "The bench itself", "Diesel bench",
        "Standard uncertainty of the bench, of the quantity.", bench_map::BENCH_U_PCT, Field::above_zero("%", 0.01, 20.0), &[];
    ReferenceCoverage = reference_coverage: "Coverage", "House reference",
        "Share of good injectors that the house's own reference covers.", reference_interval::COVERAGE * 100.0, SURE, &[];
    ReferenceConfidence = reference_confidence: "Confidence", "House reference",
        "How sure of that coverage it is.", reference_interval::COVERAGE * 100.0, SURE, &[];
    ReferenceLeast = reference_least: "Injectors at least", "House reference",
        "Fewer proven-good injectors than this make no reference.",
        reference_interval::LEAST_VALUES as f64, Field::above_zero("", reference_interval::LEAST_VALUES as f64, 1000.0), &[];
    FuelApart = fuel_apart: "Lean or rich from", "Fuelling",
        "A cylinder that gets this much less or more than the mean of the set runs lean or rich.", 5.0, PERCENT, &[];
    DutyReserve = duty_reserve: "Highest duty", "Sizing",
        "Above this duty there is no reserve.", 85.0, Field::above_zero("%", 1.0, 100.0), &[];
    CostNew = cost_new: "A new injector", "What it costs",
        "What one injector costs, in the money of the workshop.", 260.0, MONEY, &[];
    CostClean = cost_clean: "Cleaning one", "What it costs",
        "Cleaning of one injector with its seals, out of the engine.", 35.0, MONEY, &[];
    CostRecondition = cost_recondition: "Reconditioning one", "What it costs",
        "Reconditioning of one injector with its parts.", 120.0, MONEY, &[];
    CostHour = cost_hour: "An hour of labour", "What it costs", "An hour of work on the engine.", 80.0, MONEY, &[];
    HoursFirst = hours_first: "Hours for the first", "What it costs",
        "Hours until the first injector is out and in again.", 2.0, Field::from_zero("h", 200.0), &[];
    HoursMore = hours_more: "Hours for each further", "What it costs",
        "Hours for each further one, once the first is out.", 0.4, Field::from_zero("h", 200.0), &[];
    CostComeback = cost_comeback: "A comeback, besides the work", "What it costs",
        "Towing, a car in its place, the customer's patience.", 180.0, MONEY, &[];
    ComebackOld = comeback_old: "An old one comes back", "What it costs",
        "Chance that an old injector that is left in fails within the warranty.", 12.0, CHANCE, &[];
    ComebackMiddle = comeback_middle: "A middling one comes back", "What it costs",
        "The same for one that is neither young nor old, or of unknown age.", 5.0, CHANCE, &[];
    ComebackYoung = comeback_young: "A young one comes back", "What it costs",
        "The same for a young one.", 1.5, CHANCE, &[];
    ComebackNew = comeback_new: "A new one comes back", "What it costs",
        "Chance that a new or reconditioned injector fails within the warranty.", 1.0, CHANCE, &[];
    ResidualFlow = residual_flow: "Static flow, if unknown", "Fuel left in a cylinder",
        "Assumed for an injector whose static flow nobody typed: a large one, so that the stop comes early.",
        350.0, Field::above_zero("ml/min", 10.0, 5000.0), &[];
    ResidualClearance = residual_clearance: "Clearance volume, if unknown", "Fuel left in a cylinder",
        "Assumed for an engine whose bore, stroke and compression ratio nobody typed: a small one, so that the stop comes early.",
        25.0, Field::above_zero("ml", 1.0, 5000.0), &[];
    ResidualCaution = residual_caution: "Caution from", "Fuel left in a cylinder",
        "Share of the clearance volume that asks for a clear-flood crank.", residual_fuel::CAUTION * 100.0, Field::above_zero("%", 0.1, 2.0), &[];
    ResidualStop = residual_stop: "Stop from", "Fuel left in a cylinder",
        "Share of the clearance volume at which nothing more is pulsed in. It can only be made safer.",
        residual_fuel::STOP * 100.0, Field::above_zero("%", 0.1, 20.0), &[];
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
                Some(format!(
                    "{}: {} {} instead of {}, revision {}, because: {}",
                    spec.about,
                    spec.word.to_lowercase(),
                    shown(*rule, change.value),
                    shown(*rule, spec.default),
                    change.revision,
                    change.reason
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
        None => format!("{} {}", trimmed(value), spec.field.unit()).trim_end().to_owned(),
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
            assert_eq!(read(rule, &trimmed(default)), Ok(default), "{rule:?}");
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
