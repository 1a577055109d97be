//! Findings: what a check saw, in a code that the weights know, with the sentence that it said.

use super::named;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

named! {
    /// Names what a check can find. Each has one row in the weights.
    Code {
        FuelBad = fuel_bad, FuelDoubtful = fuel_doubtful, FuelGood = fuel_good,
        AirDrawn = air_drawn, AirSome = air_some, AirNone = air_none,
        FeedOff = feed_off, FeedGood = feed_good,
        ReliefRuns = relief_runs, ReliefDry = relief_dry,
        SharedFault = shared_fault, SharedGood = shared_good,
        CompressionHint = compression_hint, CompressionEven = compression_even,
        CompressionLow = compression_low, CompressionAlike = compression_alike,
        SupplyNoneAnywhere = supply_none_anywhere, SupplyCommonLow = supply_common_low,
        SupplyNone = supply_none, SupplyLow = supply_low, SupplyPresent = supply_present,
        LampDark = lamp_dark, Silent = silent, Lit = lit, Moves = moves,
        CoilOpen = coil_open, CoilHigh = coil_high, CoilLow = coil_low, CoilOdd = coil_odd, CoilGood = coil_good,
        StackOff = stack_off, StackGood = stack_good,
        InsulationLeaks = insulation_leaks, InsulationGood = insulation_good,
        CutWeak = cut_weak, CutAlike = cut_alike, CutWeakFuel = cut_weak_fuel, CutMechanical = cut_mechanical,
        DiLess = di_less, DiMore = di_more, DiAlike = di_alike,
        ReturnHigh = return_high, ReturnRaised = return_raised, ReturnAlike = return_alike, ReturnLow = return_low,
        DropLow = drop_low, DropHigh = drop_high, DropAlike = drop_alike,
        SwapFollows = swap_follows, SwapCleared = swap_cleared, SwapStays = swap_stays, SwapLeft = swap_left,
        MovedUncoded = moved_uncoded,
        BenchDrips = bench_drips, BenchTight = bench_tight,
        SprayJet = spray_jet, SprayRunsOn = spray_runs_on, SprayOff = spray_off, SprayEven = spray_even,
        FlowLess = flow_less, FlowLessShort = flow_less_short, FlowMore = flow_more, FlowAlike = flow_alike,
        OpensLate = opens_late, OpensEarly = opens_early, OpensAlike = opens_alike,
        CameBack = came_back, StillRestricted = still_restricted, NoMoreCycles = no_more_cycles,
        WornAfterCleaning = worn_after_cleaning,
        MapReturnHigh = map_return_high, MapLow = map_low, MapHigh = map_high, MapLate = map_late, MapWithin = map_within,
        DoserLow = doser_low, DoserHigh = doser_high, DoserLeaks = doser_leaks, DoserWithin = doser_within,
        SeenWorn = seen_worn, SeenDirty = seen_dirty, SeenSound = seen_sound,
    }
}

/// One finding. It is bound to the injector *and* to the cylinder that it was read at.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Finding {
    /// What it is; none when the reading cannot carry a decision.
    pub code: Option<Code>,
    /// The check that it came from, as read.
    pub check: String,
    /// Cylinder; none for what all share.
    pub cylinder: Option<u32>,
    /// The injector that sat there then.
    pub injector: Option<Uuid>,
    /// When it was read last.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
    /// What the check said.
    pub says: String,
    /// What would settle it, where it cannot carry a decision.
    pub would: String,
}
