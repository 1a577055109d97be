//! The shelf: injectors that were on a bench, what is known of each, and the sets made from them.
//!
//! An injector stands here with the newest value of each feature ([`Tested`]); what was read before
//! it was cleaned or adjusted no longer counts. [`sets`] asks [`crate::matching`] and says of every
//! set whether the bench could tell that it holds: a spread inside its tolerance by less than the
//! doubt of two readings is not called matched.
//!
//! # Source
//! House rules for tolerances ([`crate::rules`]); JCGM 106 through [`crate::calc::decide`].

mod sets;
mod tested;
mod words;

pub use crate::tests::bench::{ShelfFeature, ShelfValue};
use crate::units::{self, ML_MIN};
pub use sets::{FeatureAsk, LeftOnShelf, MadeSet, MadeSets, MatchAsk, SetMember, SetSpan, sets};
pub use tested::Tested;

use crate::matching::FeatureKind;
use crate::rules::{RuleId, Rules};
use crate::tests::bench::BenchKind;
use serde::Serialize;
use utoipa::ToSchema;

/// A feature as a view offers it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FeatureForm {
    /// Which.
    pub feature: ShelfFeature,
    /// Its name.
    pub word: String,
    /// Unit of its values.
    pub unit: String,
    /// Unit of its tolerance.
    pub tolerance_unit: String,
    /// The house's tolerance, in that unit.
    pub tolerance: f64,
    /// How many of the shelf have it.
    pub measured: u64,
}

impl ShelfFeature {
    /// As read.
    pub fn word(self) -> &'static str {
        match self {
            Self::StaticFlow => "static flow",
            Self::ShortPulse => "short pulse",
            Self::DeadTime => "dead time",
            Self::FullDelivery => "longest delivery",
            Self::SmallDelivery => "smallest delivery",
            Self::StaticReturn => "static leak-off",
            Self::Resistance => "resistance",
        }
    }

    /// Unit of a value.
    pub fn unit(self) -> &'static str {
        match self {
            Self::StaticFlow => ML_MIN,
            Self::ShortPulse => "mm³",
            Self::DeadTime => "ms",
            Self::FullDelivery | Self::SmallDelivery | Self::StaticReturn => "mm³/stroke",
            Self::Resistance => "Ω",
        }
    }

    /// Ratio or difference.
    pub fn kind(self) -> FeatureKind {
        match self {
            Self::DeadTime => FeatureKind::Difference,
            Self::StaticFlow
            | Self::ShortPulse
            | Self::FullDelivery
            | Self::SmallDelivery
            | Self::StaticReturn
            | Self::Resistance => FeatureKind::Ratio,
        }
    }

    /// The house rule that its tolerance comes from.
    pub fn rule(self) -> RuleId {
        match self {
            Self::StaticFlow => RuleId::GradeClose,
            Self::ShortPulse => RuleId::MatchShort,
            Self::DeadTime => RuleId::MatchDeadTime,
            Self::FullDelivery | Self::SmallDelivery => RuleId::MatchDelivery,
            Self::StaticReturn => RuleId::MatchReturn,
            Self::Resistance => RuleId::CoilsMatched,
        }
    }

    /// Whether injectors of such a bench have it.
    pub fn fits(self, kind: BenchKind) -> bool {
        match self {
            Self::StaticFlow | Self::ShortPulse | Self::DeadTime => kind == BenchKind::Petrol,
            Self::FullDelivery | Self::SmallDelivery | Self::StaticReturn => {
                kind == BenchKind::Diesel
            }
            Self::Resistance => kind != BenchKind::Doser,
        }
    }

    /// As a view offers it, with the house's tolerance.
    pub fn form(self, rules: &Rules, measured: u64) -> FeatureForm {
        FeatureForm {
            feature: self,
            word: self.word().to_owned(),
            unit: units::unit(self.unit()).to_owned(),
            tolerance_unit: match self.kind() {
                FeatureKind::Ratio => "%".to_owned(),
                FeatureKind::Difference => self.unit().to_owned(),
            },
            tolerance: rules.get(self.rule()),
            measured,
        }
    }
}

#[cfg(test)]
mod tests;
