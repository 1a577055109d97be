//! The rules of the house for the return test.

use crate::rules::{RuleId, Rules};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The defaults of the workshop; every number here is a house rule.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct HouseRules {
    /// Share above the reference that asks for a closer look.
    pub look: f64,
    /// Share above the reference that makes suspect.
    pub suspect: f64,
    /// The school of the lowest: condemned above this multiple of the lowest.
    pub lowest_multiple: f64,
    /// Confidence of the guard band.
    pub confidence: f64,
    /// Runs asked for before an injector is replaced.
    pub runs_to_replace: u32,
    /// What the verdict follows.
    #[serde(default)]
    pub leads: Leads,
    /// Revision of the workshop's rules; 0 for the trade's defaults.
    #[serde(default)]
    pub revision: u32,
    /// Which of these the workshop changed, and why.
    #[serde(default)]
    pub reasons: Vec<String>,
    /// Below this temperature it is a cold test, °C.
    #[serde(default = "warm_from")]
    pub warm_from_c: f64,
    /// Two tests closer than this in temperature are compared as they are, K.
    #[serde(default = "temperatures_alike")]
    pub temperatures_alike_c: f64,
    /// Share below the others that questions a reading.
    #[serde(default = "far_low")]
    pub far_low: f64,
    /// Most that a set usually returns at idle, ml/min.
    #[serde(default = "usual")]
    pub usual_ml_min: f64,
}

pub(super) fn far_low() -> f64 {
    RuleId::ReturnFarLow.spec().default / 100.0
}

pub(super) fn usual() -> f64 {
    RuleId::ReturnUsual.spec().default
}

pub(super) fn warm_from() -> f64 {
    RuleId::WarmFrom.spec().default
}

pub(super) fn temperatures_alike() -> f64 {
    RuleId::TemperaturesAlike.spec().default
}

/// Which school the verdict follows; the others are shown beside it.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Leads {
    /// The absolute limit, where there is one that holds; else the others.
    #[default]
    Limit,
    /// Always the comparison with the others.
    Others,
}

impl HouseRules {
    const USED: [RuleId; 10] = [
        RuleId::ReturnFarLow,
        RuleId::ReturnUsual,
        RuleId::WarmFrom,
        RuleId::TemperaturesAlike,
        RuleId::ReturnLeads,
        RuleId::ReturnLook,
        RuleId::ReturnSuspect,
        RuleId::ReturnLowest,
        RuleId::GuardConfidence,
        RuleId::RunsToReplace,
    ];

    /// What a return test uses of the workshop's rules.
    pub fn of(rules: &Rules) -> Self {
        Self {
            look: rules.share(RuleId::ReturnLook),
            suspect: rules.share(RuleId::ReturnSuspect),
            lowest_multiple: rules.get(RuleId::ReturnLowest),
            confidence: rules.share(RuleId::GuardConfidence),
            runs_to_replace: rules.get(RuleId::RunsToReplace).round() as u32,
            leads: if rules.get(RuleId::ReturnLeads) == 1.0 { Leads::Others } else { Leads::Limit },
            revision: rules.revision(),
            reasons: rules.reasons(&Self::USED),
            warm_from_c: rules.get(RuleId::WarmFrom),
            temperatures_alike_c: rules.get(RuleId::TemperaturesAlike),
            far_low: rules.share(RuleId::ReturnFarLow),
            usual_ml_min: rules.get(RuleId::ReturnUsual),
        }
    }

    /// How a rule is named in a because.
    pub(crate) fn named(&self) -> String {
        match self.revision {
            0 => "workshop rule".to_owned(),
            revision => format!("workshop rule, revision {revision}"),
        }
    }
}

impl Default for HouseRules {
    fn default() -> Self {
        Self::of(&Rules::default())
    }
}
