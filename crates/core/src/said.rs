//! What one lane of a check or of a bench test says, in a form that rules read: a code, how far
//! the value lies from what it is compared with, and what the reading lacks.
//!
//! Words are made from codes and never the other way round: nothing is decided by a text. A code
//! either *weighs* (it is an outcome of exactly one table of the weights) or says why the reading
//! cannot carry a decision.
//!
//! # Source
//! JCGM 100 for the standard uncertainty that distances are counted in; house rule for what a
//! lacking condition leaves of a reading ([`Lack::leaves`]).

use crate::named::named;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

named! {
    /// Names what a lane can say.
    Code {
        // Says nothing that weighs, and why.
        NotRead = not_read, TooClose = too_close, NoReference = no_reference, Doubtful = doubtful,
        AllAlikeOff = all_alike_off, RunOdd = run_odd, FewRuns = few_runs, CannotDecide = cannot_decide,
        Noted = noted, SealLeft = seal_left, Corroded = corroded, BasketMissing = basket_missing,
        OtherPart = other_part, AtLimitDownstream = at_limit_downstream, ShimAgainst = shim_against,
        // What all cylinders share.
        FuelBad = fuel_bad, FuelDoubtful = fuel_doubtful, FuelGood = fuel_good,
        AirDrawn = air_drawn, AirSome = air_some, AirNone = air_none,
        FeedOff = feed_off, FeedFalls = feed_falls, FeedGood = feed_good,
        ReliefRuns = relief_runs, RailNotReached = rail_not_reached, ReliefDry = relief_dry,
        SharedFault = shared_fault, SharedGood = shared_good,
        SupplyNoneAnywhere = supply_none_anywhere, SupplyCommonLow = supply_common_low, SupplyArrives = supply_arrives,
        LampAllDark = lamp_all_dark, LampSomeLit = lamp_some_lit,
        CrankOverSpare = crank_over_spare, CrankWithinSpare = crank_within_spare,
        // The cylinder and what leads to it.
        CompressionHint = compression_hint, CompressionEven = compression_even,
        CompressionLow = compression_low, CompressionAlike = compression_alike,
        SupplyNone = supply_none, SupplyLow = supply_low, SupplyPresent = supply_present,
        LegOpen = leg_open, NoDrive = no_drive, LegWhole = leg_whole,
        LampDark = lamp_dark, Silent = silent, Lit = lit, Moves = moves,
        CutWeak = cut_weak, CutAlike = cut_alike,
        SwapStays = swap_stays, SwapLeft = swap_left,
        // The injector.
        CoilOpen = coil_open, CoilHigh = coil_high, CoilLow = coil_low, CoilOdd = coil_odd, CoilGood = coil_good,
        StackOff = stack_off, StackGood = stack_good,
        InsulationLeaks = insulation_leaks, InsulationGood = insulation_good,
        DiLess = di_less, DiMore = di_more, DiAlike = di_alike,
        ReturnHigh = return_high, ReturnRaised = return_raised, ReturnAlike = return_alike, ReturnLow = return_low,
        DropLow = drop_low, DropHigh = drop_high, DropRaised = drop_raised,
        DropReduced = drop_reduced, DropAlike = drop_alike,
        SwapFollows = swap_follows, SwapCleared = swap_cleared,
        MovedUncoded = moved_uncoded, NewUncoded = new_uncoded, CodeFits = code_fits,
        SparkMoves = spark_moves, SparkStays = spark_stays,
        BenchDrips = bench_drips, BenchTight = bench_tight,
        SprayJet = spray_jet, SprayRunsOn = spray_runs_on, SprayOff = spray_off, SprayEven = spray_even,
        FlowLess = flow_less, FlowLessShort = flow_less_short, FlowMore = flow_more, FlowAlike = flow_alike,
        OpensLate = opens_late, OpensEarly = opens_early, OpensAlike = opens_alike,
        CameBack = came_back, WasGood = was_good, StillRestricted = still_restricted,
        NoMoreCycles = no_more_cycles, CleanedWorse = cleaned_worse, WornAfterCleaning = worn_after_cleaning,
        MapReturnHigh = map_return_high, MapReturnLoad = map_return_load, MapLowAll = map_low_all,
        MapLowFull = map_low_full, MapLowFullReturn = map_low_full_return, MapHigh = map_high,
        MapHighIdle = map_high_idle, MapLowShort = map_low_short, MapLate = map_late, MapOdd = map_odd,
        MapWithin = map_within,
        LiftOff = lift_off, LiftWithin = lift_within,
        RebuiltCoilOff = rebuilt_coil_off, RebuiltCoilMatched = rebuilt_coil_matched,
        DoserLow = doser_low, DoserStillLow = doser_still_low, DoserWorse = doser_worse, DoserHigh = doser_high,
        DoserLeaks = doser_leaks, DoserWithin = doser_within,
        SeenWorn = seen_worn, SeenWet = seen_wet, SeenGas = seen_gas, SeenDirty = seen_dirty, SeenSound = seen_sound,
    }
}

impl Code {
    /// Codes that say nothing that weighs, and are in no table.
    pub const SILENT: &[Self] = &[
        Self::NotRead,
        Self::TooClose,
        Self::NoReference,
        Self::Doubtful,
        Self::AllAlikeOff,
        Self::RunOdd,
        Self::FewRuns,
        Self::CannotDecide,
        Self::Noted,
        Self::SealLeft,
        Self::Corroded,
        Self::BasketMissing,
        Self::OtherPart,
        Self::AtLimitDownstream,
        Self::ShimAgainst,
    ];

    /// Whether it is an outcome of a table of the weights.
    pub fn weighs(self) -> bool {
        !Self::SILENT.contains(&self)
    }

    /// Something was read, and it cannot carry a decision.
    pub fn is_open(self) -> bool {
        !self.weighs() && !matches!(self, Self::NotRead | Self::Noted)
    }
}

named! {
    /// What a reading lacks.
    Lack {
        StartConditions = start_conditions,
        Cold = cold,
        Unloaded = unloaded,
        LeadsNotZeroed = leads_not_zeroed,
        NoTemperature = no_temperature,
        OneRun = one_run,
        FewRuns = few_runs,
        Overdue = overdue,
        NoPressure = no_pressure,
        NoEdition = no_edition,
        NotCapped = not_capped,
        TipAsFound = tip_as_found,
        OthersNotCleaned = others_not_cleaned,
        AskTheBracket = ask_the_bracket,
        OrderProven = order_proven,
    }
}

impl Lack {
    /// What is left of a reading that lacks this, as a share (house rule).
    pub fn leaves(self) -> f64 {
        match self {
            Self::StartConditions | Self::Overdue | Self::OthersNotCleaned => 0.9,
            Self::Cold | Self::NoTemperature | Self::AskTheBracket => 0.8,
            Self::LeadsNotZeroed | Self::TipAsFound | Self::NotCapped => 0.7,
            Self::OneRun | Self::FewRuns | Self::OrderProven => 0.95,
            Self::Unloaded => 0.5,
            Self::NoPressure | Self::NoEdition => 0.3,
        }
    }

    /// As read beside the reading.
    pub fn word(self) -> &'static str {
        match self {
            Self::StartConditions => "start conditions not ticked",
            Self::Cold => "engine cold",
            Self::Unloaded => "no load on the wire",
            Self::LeadsNotZeroed => "meter leads not zeroed",
            Self::NoTemperature => "temperature not measured",
            Self::OneRun => "one run",
            Self::FewRuns => "fewer runs than asked for",
            Self::Overdue => "instrument overdue for calibration",
            Self::NoPressure => "pressure not noted",
            Self::NoEdition => "edition of the part not noted",
            Self::NotCapped => "coolant ports not capped",
            Self::TipAsFound => "tip not cleaned before",
            Self::OthersNotCleaned => "the others were not cleaned",
            Self::AskTheBracket => "the first one not measured again",
            Self::OrderProven => "drift taken out",
        }
    }
}

/// What one lane says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Said {
    /// The outcome.
    pub code: Code,
    /// Distance from what it is compared with, in standard uncertainties; none where it has none.
    #[serde(default)]
    pub sigmas: Option<f64>,
    /// What the reading lacks.
    #[serde(default)]
    pub lacks: Vec<Lack>,
}

impl Default for Said {
    fn default() -> Self {
        Self { code: Code::NotRead, sigmas: None, lacks: Vec::new() }
    }
}

impl Said {
    /// How good the reading is: 1 lacks nothing, 0 says nothing.
    ///
    /// ```
    /// use cobaltine_core::said::{Code, Lack, Said};
    /// let good = Said { code: Code::SupplyPresent, ..Said::default() };
    /// assert_eq!(good.quality(), 1.0);
    /// assert_eq!(Said { lacks: vec![Lack::Unloaded], ..good }.quality(), 0.5);
    /// ```
    pub fn quality(&self) -> f64 {
        self.lacks.iter().map(|lack| lack.leaves()).product()
    }

    /// Nothing is lacking.
    pub(crate) fn new(code: Code) -> Self {
        Self { code, ..Self::default() }
    }

    /// How far off, in standard uncertainties.
    pub(crate) fn off(mut self, distance: f64, u: f64) -> Self {
        self.sigmas = (u > 0.0).then_some(distance / u).filter(|sigmas| sigmas.is_finite());
        self
    }

    /// This is missing, if so.
    pub(crate) fn lacking(mut self, lack: Lack, missing: bool) -> Self {
        if missing && !self.lacks.contains(&lack) {
            self.lacks.push(lack);
        }
        self
    }
}

impl From<Code> for Said {
    fn from(code: Code) -> Self {
        Self::new(code)
    }
}
