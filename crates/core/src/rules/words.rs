//! The words of the workshop rules: what each is called, the check that it belongs to, what it does.

use super::RuleId;
use std::fmt::Display;

/// Name, group and sentence of a rule.
pub(super) fn of(rule: RuleId) -> (&'static str, &'static str, &'static str) {
    match rule {
        RuleId::ReturnLeads => (
            "Leading criterion",
            "Return test",
            "Whether an absolute limit from the library leads, or always the comparison with the others.",
        ),
        RuleId::ReturnLook => {
            ("Look closer above", "Return test", "Above the others by this: look closer.")
        }
        RuleId::ReturnSuspect => (
            "Suspect above",
            "Return test",
            "Above the others by this: suspect. Also how far the set may differ and still agree.",
        ),
        RuleId::ReturnFarLow => (
            "Far below",
            "Return test",
            "Below the others by this: doubtful reading. Hose, firing, or the others are high.",
        ),
        RuleId::ReturnUsual => (
            "Usual maximum at idle",
            "Return test",
            "If most of a set leak off more than this at idle and no limit is known, the odd one cannot be told.",
        ),
        RuleId::ReturnLowest => (
            "Against the lowest",
            "Return test",
            "The method that compares with the lowest fails above this multiple of it.",
        ),
        RuleId::RunsToReplace => {
            ("Runs to replace", "Return test", "Runs needed before replacing an injector.")
        }
        RuleId::TimerU => (
            "Timing by hand",
            "Return test",
            "Standard uncertainty of starting and stopping by hand, if no timer is chosen.",
        ),
        RuleId::RunDifference => (
            "Difference to show",
            "Length of a run",
            "A run is long enough when this difference between two bottles shows.",
        ),
        RuleId::RunWorst => (
            "Worst leak-off, times",
            "Length of a run",
            "Planned rate of the worst bottle, as a multiple of the usual rate.",
        ),
        RuleId::GuardConfidence => (
            "Guard band confidence",
            "Limits",
            "How sure a reading must be before it counts as within or out of limits.",
        ),
        RuleId::BalanceTolerance => (
            "In line within",
            "Petrol balance",
            "Pressure drops agree if within this of the mean of the others.",
        ),
        RuleId::BalanceSpread => (
            "Largest difference",
            "Petrol balance",
            "Simple method: the largest difference between two drops.",
        ),
        RuleId::BalanceStart => (
            "Start pressure within",
            "Petrol balance",
            "How far a start pressure may differ from the others.",
        ),
        RuleId::BalanceLook => (
            "Look closer from",
            "Petrol balance",
            "A drop this far from the others, but still in line, asks for a closer look.",
        ),
        RuleId::CompressionDiesel => (
            "Diesel minimum",
            "Compression",
            "Diesel compression below this by gauge is low, even if all agree, unless the maker's figure is entered.",
        ),
        RuleId::CompressionPetrol => {
            ("Petrol minimum", "Compression", "The same for a petrol engine.")
        }
        RuleId::CutoutTolerance => (
            "Weak below",
            "Cut-out",
            "A cylinder whose speed drop is smaller than the others' by this is weak.",
        ),
        RuleId::ListenLevel => (
            "Loudness alike",
            "Listening",
            "An injector that ticks softer or louder than the others by more than this is unlike them.",
        ),
        RuleId::ListenTicks => (
            "Ticks heard",
            "Listening",
            "An injector of which fewer ticks are heard than this share misses strokes.",
        ),
        RuleId::KinkLate => (
            "Kink later by",
            "Current ramp",
            "An injector whose kink comes later than the others' by more than this opens late.",
        ),
        RuleId::SupplyNone => (
            "No supply below",
            "Electrical",
            "A connector with less than this has no supply voltage.",
        ),
        RuleId::SupplyDrop => {
            ("Largest voltage drop", "Electrical", "Wiring may lose this much from the battery.")
        }
        RuleId::CoilLeads => (
            "Leads not measured",
            "Electrical",
            "Assumed lead resistance when the meter was not zeroed.",
        ),
        RuleId::SupplyLeg => (
            "Wire maximum",
            "Electrical",
            "Resistance of a wire from the ECU to the injector, end to end.",
        ),
        RuleId::CoilOpen => (
            "Winding open from",
            "Electrical",
            "A winding above this is open, whatever its family.",
        ),
        RuleId::InsulationLeast => (
            "Insulation minimum",
            "Electrical",
            "Less than this from a pin to the body is a leak, if the library has no limit.",
        ),
        RuleId::PiezoTolerance => (
            "Stacks agree within",
            "Electrical",
            "Capacitances agree if within this of the mean of the others.",
        ),
        RuleId::WarmFrom => {
            ("Warm from", "Return test", "A return test below this temperature is marked as cold.")
        }
        RuleId::TemperaturesAlike => (
            "Same temperature within",
            "Return test",
            "Tests closer than this in temperature compare directly; further apart with an estimated correction.",
        ),
        RuleId::GradeMatched => {
            ("Matched within", "Flow match", "Spread of a set sold as matched.")
        }
        RuleId::GradeClose => {
            ("Close within", "Flow match", "Spread of a set that is close, not matched.")
        }
        RuleId::GradeServiceable => {
            ("Serviceable within", "Flow match", "Spread of a set that may be refitted.")
        }
        RuleId::SweepLinear => (
            "Linear within",
            "Pulse sweep",
            "How far a point may be off the line and still count as linear.",
        ),
        RuleId::FlowPressure => (
            "Reference pressure",
            "Flow bench",
            "Flows are corrected to this pressure before comparing rounds or applying a limit.",
        ),
        RuleId::FlowDensity => (
            "Reference fluid",
            "Flow bench",
            "Density of the fluid that flows are stated for, kg/m³.",
        ),
        RuleId::FoamSettle => (
            "Foam settling time",
            "Flow bench",
            "A tube read earlier than this after the run is doubtful.",
        ),
        RuleId::LeakDrops => (
            "Drops per minute",
            "Flow bench",
            "Maximum drops per minute from a closed injector, if the library has no limit.",
        ),
        RuleId::SlowOpener => {
            ("Opens late from", "Pulse sweep", "A dead time above the others' by this: opens late.")
        }
        RuleId::CleaningCycles => {
            ("Maximum cleanings", "Cleaning", "No more cycles than this are proposed.")
        }
        RuleId::CleaningGain => (
            "Worth repeating from",
            "Cleaning",
            "A cycle that gained less than this is not repeated.",
        ),
        RuleId::CleaningBack => (
            "Cleaned within",
            "Cleaning",
            "Back within this of the others, or of its limit, counts as cleaned.",
        ),
        RuleId::ShimGain => (
            "First gain",
            "Lift and shims",
            "Change of lift per change of shim, until two shim changes of this injector show its own.",
        ),
        RuleId::LiftU => {
            ("Lift gauge", "Lift and shims", "Standard uncertainty of a lift measurement.")
        }
        RuleId::CoilsMatched => (
            "Coils matched within",
            "Lift and shims",
            "Coils of a rebuilt set match if within this of the mean of the others.",
        ),
        RuleId::MatchShort => (
            "Short pulses within",
            "Matching",
            "How far quantities of a set may differ at the shortest pulse.",
        ),
        RuleId::MatchDeadTime => {
            ("Dead times within", "Matching", "How far dead times of a set may differ.")
        }
        RuleId::MatchDelivery => (
            "Deliveries within",
            "Matching",
            "How far deliveries of a diesel set may differ at a point.",
        ),
        RuleId::MatchReturn => (
            "Static leak-off within",
            "Matching",
            "How far static leak-off of a diesel set may differ.",
        ),
        RuleId::TrimStep => (
            "One step",
            "Trim code",
            "Quantity corrected by one step of the workshop's own trim code.",
        ),
        RuleId::DoserRepeat => {
            ("Repeats within", "Exhaust doser", "Known standard deviation of a single doser run.")
        }
        RuleId::BenchU => (
            "Bench uncertainty",
            "Diesel bench",
            "Standard uncertainty of the bench, as a share of the quantity.",
        ),
        RuleId::ReferenceCoverage => (
            "Coverage",
            "Workshop reference",
            "Share of good injectors covered by the workshop's own reference.",
        ),
        RuleId::ReferenceConfidence => {
            ("Confidence", "Workshop reference", "Confidence in that coverage.")
        }
        RuleId::ReferenceLeast => (
            "Minimum injectors",
            "Workshop reference",
            "Fewer proven-good injectors than this make no reference.",
        ),
        RuleId::FuelApart => (
            "Lean or rich from",
            "Fuelling",
            "A cylinder this much below or above the mean of the set runs lean or rich.",
        ),
        RuleId::DutyReserve => ("Highest duty", "Sizing", "Above this duty there is no reserve."),
        RuleId::CostNew => {
            ("A new injector", "Costs", "Price of one injector, in the workshop's currency.")
        }
        RuleId::CostClean => {
            ("Cleaning one", "Costs", "Price of cleaning one injector, removed, with seals.")
        }
        RuleId::CostRecondition => {
            ("Reconditioning one", "Costs", "Price of reconditioning one injector, with parts.")
        }
        RuleId::CostHour => {
            ("An hour of labour", "Costs", "Price of an hour of work on the engine.")
        }
        RuleId::HoursFirst => {
            ("Hours for the first", "Costs", "Hours until the first injector is out and in again.")
        }
        RuleId::HoursMore => {
            ("Hours per further one", "Costs", "Hours for each further one once the first is out.")
        }
        RuleId::CostComeback => {
            ("Comeback, beyond the work", "Costs", "Towing, courtesy car, goodwill.")
        }
        RuleId::ComebackOld => (
            "Old one comes back",
            "Costs",
            "Chance that an old injector left in fails within warranty.",
        ),
        RuleId::ComebackMiddle => {
            ("Medium one comes back", "Costs", "The same for medium or unknown age.")
        }
        RuleId::ComebackYoung => ("Young one comes back", "Costs", "The same for a young one."),
        RuleId::ComebackNew => (
            "New one comes back",
            "Costs",
            "Chance that a new or reconditioned injector fails within warranty.",
        ),
        RuleId::ResidualFlow => (
            "Static flow, if unknown",
            "Fuel left in a cylinder",
            "Assumed if the static flow was not entered: a large one, so that the stop comes early.",
        ),
        RuleId::ResidualClearance => (
            "Clearance volume, if unknown",
            "Fuel left in a cylinder",
            "Assumed if bore, stroke and compression ratio were not entered: a small one, so that the stop comes early.",
        ),
        RuleId::ResidualCaution => (
            "Caution from",
            "Fuel left in a cylinder",
            "Share of the clearance volume that calls for a clear-flood crank.",
        ),
        RuleId::ResidualStop => (
            "Stop from",
            "Fuel left in a cylinder",
            "Share of the clearance volume at which pulsing stops. Can only be made safer.",
        ),
    }
}
pub(super) const LIMIT_ONE: &str = "the limit, if there is one";
pub(super) fn instead_revision_because(
    about: impl Display,
    word: impl Display,
    value: impl Display,
    default: impl Display,
    revision: impl Display,
    reason: impl Display,
) -> String {
    format!("{about}: {word} {value} instead of {default}, revision {revision}, because: {reason}")
}
