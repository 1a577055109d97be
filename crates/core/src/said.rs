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
use serde::{Serialize, Serializer};
use utoipa::openapi::RefOr;
use utoipa::openapi::schema::Schema;
use utoipa::{PartialSchema, ToSchema};

/// What a lane can say: an outcome of one test, declared beside its table in the file of the test,
/// or why a reading says nothing that weighs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Code {
    name: &'static str,
    says: Says,
}

/// What kind of outcome a code is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Says {
    /// Nothing that weighs: it stands in no table.
    Nothing,
    /// Something of one injector or place.
    Something,
    /// Something is odd with flow or return.
    Departs,
    /// A fault that all share.
    Fault,
    /// What all share is as it should be.
    Good,
}

/// Declares the outcomes of one test, as its table names them: `NAME = name`, and what kind it is
/// where that matters.
macro_rules! outcomes {
    ($($code:ident = $name:ident $(($says:ident))?),* $(,)?) => {
        /// What the lanes of this test say.
        pub(crate) mod outcomes {
            use crate::said::Code;
            $(
                #[doc = concat!("`", stringify!($name), "`")]
                pub(crate) const $code: Code =
                    Code::new(stringify!($name), crate::said::outcomes!(@ $($says)?));
            )*
            /// All of them, in the order of the table.
            pub(crate) const ALL: &[Code] = &[$($code),*];
        }
    };
    (@) => { crate::said::Says::Something };
    (@ $says:ident) => { crate::said::Says::$says };
}
pub(crate) use outcomes;

macro_rules! silent {
    ($($code:ident = $name:ident),* $(,)?) => {
        impl Code {
            $(
                #[doc = concat!("`", stringify!($name), "`")]
                pub const $code: Self = Self::new(stringify!($name), Says::Nothing);
            )*
            /// Codes that say nothing that weighs, and are in no table.
            pub const SILENT: &[Self] = &[$(Self::$code),*];
        }
    };
}

silent! {
    NOT_READ = not_read, TOO_CLOSE = too_close, NO_REFERENCE = no_reference, DOUBTFUL = doubtful,
    ALL_ALIKE_OFF = all_alike_off, RUN_ODD = run_odd, FEW_RUNS = few_runs, CANNOT_DECIDE = cannot_decide,
    NOTED = noted, SEAL_LEFT = seal_left, CORRODED = corroded, BASKET_MISSING = basket_missing,
    OTHER_PART = other_part, CONTRADICTORY = contradictory, AT_LIMIT_DOWNSTREAM = at_limit_downstream, SHIM_AGAINST = shim_against,
}

impl Code {
    pub(crate) const fn new(name: &'static str, says: Says) -> Self {
        Self { name, says }
    }

    /// As written in files.
    pub fn name(self) -> &'static str {
        self.name
    }

    /// Whether it is an outcome of a table of the weights.
    pub fn weighs(self) -> bool {
        self.says != Says::Nothing
    }

    /// Something was read, and it cannot carry a decision.
    pub fn is_open(self) -> bool {
        !self.weighs() && self != Self::NOT_READ && self != Self::NOTED
    }

    /// A fault that all share.
    pub(crate) fn is_fault(self) -> bool {
        self.says == Says::Fault
    }

    /// What all share is as it should be.
    pub(crate) fn is_good(self) -> bool {
        self.says == Says::Good
    }

    /// Something is odd with flow or return.
    pub(crate) fn departs(self) -> bool {
        self.says == Says::Departs
    }
}

impl PartialSchema for Code {
    fn schema() -> RefOr<Schema> {
        String::schema()
    }
}

impl ToSchema for Code {}

impl Serialize for Code {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.serialize_str(self.name)
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
        NearLine = near_line,
        ByOthers = by_others,
        LikeSlip = like_slip,
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
            Self::ByOthers => 0.97,
            Self::Unloaded | Self::NearLine => 0.5,
            // A unit or a decimal in doubt says nothing until it is answered.
            Self::LikeSlip => 0.0,
            Self::NoPressure | Self::NoEdition => 0.3,
        }
    }
}

/// What one lane says.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Said {
    /// The outcome.
    pub code: Code,
    /// Distance from what it is compared with, in standard uncertainties; none where it has none.
    pub sigmas: Option<f64>,
    /// How many times its line it is off, where it is little beyond it.
    #[serde(skip)]
    pub beyond: Option<f64>,
    /// What the reading lacks.
    pub lacks: Vec<Lack>,
}

impl Default for Said {
    fn default() -> Self {
        Self { code: Code::NOT_READ, sigmas: None, beyond: None, lacks: Vec::new() }
    }
}

/// Up to this multiple of its line a reading is little beyond it (house rule): sound ones reach the line now
/// and then, twice as far they do not.
const NEAR_LINE: f64 = 2.0;

impl Said {
    /// How good the reading is: 1 lacks nothing, 0 says nothing.
    ///
    /// ```
    /// use cobaltine_core::said::{Code, Lack, Said};
    /// let good = Said { code: Code::NOTED, ..Said::default() };
    /// assert_eq!(good.quality(), 1.0);
    /// assert_eq!(Said { lacks: vec![Lack::Unloaded], ..good }.quality(), 0.5);
    /// ```
    pub fn quality(&self) -> f64 {
        let leaves = |lack: &Lack| match (lack, self.beyond) {
            // From what is left at the line to all of it at twice the line.
            (Lack::NearLine, Some(times)) => {
                let share = ((times - 1.0) / (NEAR_LINE - 1.0)).clamp(0.0, 1.0);
                Lack::NearLine.leaves() + (1.0 - Lack::NearLine.leaves()) * share
            }
            (lack, _) => lack.leaves(),
        };
        self.lacks.iter().map(leaves).product()
    }

    /// So many times its line.
    pub(crate) fn beyond(mut self, times: f64) -> Self {
        if times < NEAR_LINE {
            self.beyond = Some(times);
            return self.lacking(Lack::NearLine, true);
        }
        self
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
