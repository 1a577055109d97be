//! What a set means for the control unit: its flow and dead time against what the unit reckons
//! with, the pulse that injects the same, the duty at the limit, and which cylinder runs lean or
//! rich by how much.
//!
//! An injector gives `q = b · (t − d)` in a pulse `t`, with `b` its static flow and `d` its dead
//! time ([`crate::calc::pulse_sweep`]). Where no sweep was made, `d` follows from the shortest
//! pulse that was run: `d = t − q ÷ b`. A cylinder is set against the mean of the set, because a
//! control unit brings the mean to where it wants it, not the cylinder.
//!
//! # Source
//! [`crate::calc::pulse_rescale`], [`crate::calc::duty`]; uncertainty by JCGM 100, decision by
//! JCGM 106 ([`crate::calc::decide`]).

mod gives;
mod words;

use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::calc::duty::{DutyInput, duty};
use crate::calc::pulse_rescale::{PulseRescaleInput, pulse_rescale};
use crate::library::LimitCheck;
use crate::named::named;
use crate::places::Placement;
use crate::quantity::{figures, shown, signed_percent, trimmed};
use crate::record::JobFile;
use crate::rules::{RuleId, Rules};
use crate::shelf::Tested;
use crate::words::cylinders;
use gives::{Gives, given};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What the engine asks for, and what its control unit reckons with.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FuellingAsk {
    /// Static flow that the unit reckons with, ml/min.
    pub static_ml_min: f64,
    /// Dead time that it reckons with, ms.
    pub dead_time_ms: f64,
    /// Pulse at idle, ms.
    pub idle_ms: f64,
    /// Pulse at full load, ms.
    pub full_ms: f64,
    /// Highest speed, rpm.
    pub limit_rpm: f64,
    /// Two-stroke.
    pub two_stroke: bool,
}

/// A set that gives no more or less than this share is the one that was there (house rule).
const AS_BEFORE: f64 = 0.005;
/// Pulses and speed of an ordinary engine, where nobody says otherwise (house rule).
const USUAL: FuellingAsk = FuellingAsk {
    static_ml_min: 0.0,
    dead_time_ms: 0.0,
    idle_ms: 2.5,
    full_ms: 8.0,
    limit_rpm: 6000.0,
    two_stroke: false,
};

impl FuellingAsk {
    /// What is reckoned with where nobody says otherwise: the middle of the family's static-flow
    /// window, else the set itself, with the dead time of the set.
    pub fn usual(file: &JobFile, tested: &[Tested]) -> Option<Self> {
        let given = given(file, tested);
        let n = given.len() as f64;
        let families = file.bench.iter().rev().flat_map(|session| &session.setup.families);
        let windows = families
            .filter(|family| Some(&family.name) == file.family.as_ref())
            .flat_map(|family| &family.limits)
            .filter(|limit| limit.check == LimitCheck::StaticFlow && limit.condition.is_empty());
        let nominal = windows.filter_map(|limit| Some((limit.lower? + limit.upper?) / 2.0)).next();
        (!given.is_empty()).then(|| Self {
            static_ml_min: nominal
                .unwrap_or_else(|| given.iter().map(|one| one.flow).sum::<f64>() / n),
            dead_time_ms: given.iter().map(|one| one.dead).sum::<f64>() / n,
            ..USUAL
        })
    }
}

/// One pulse before and after.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Rescaled {
    /// `idle` or `full load`.
    pub name: String,
    /// As the unit gives it now, ms.
    pub before_ms: f64,
    /// What injects the same with this set, ms.
    pub after_ms: f64,
    /// Without changing the unit the set gives this much more or less: a share.
    pub share: f64,
    /// In words with the arithmetic.
    pub says: String,
}

named! {
    /// How a cylinder runs against the mean of the set.
    Runs {
        LeanFull = lean_full,
        RichFull = rich_full,
        LeanIdle = lean_idle,
        RichIdle = rich_idle,
        Alike = alike,
        Unknown = unknown,
    }
}

impl Runs {
    fn word(self) -> &'static str {
        match self {
            Self::LeanFull => words::LEAN_FULL_LOAD,
            Self::RichFull => words::RICH_FULL_LOAD,
            Self::LeanIdle => "lean at idle",
            Self::RichIdle => "rich at idle",
            Self::Alike => "in line",
            Self::Unknown => "inconclusive",
        }
    }

    fn risk(self) -> &'static str {
        match self {
            Self::LeanFull => words::HOT_PISTON_KNOCK_NOT,
            Self::RichFull => words::SOOT_WASHED_BORE_DILUTED,
            Self::LeanIdle => words::MISFIRE_HESITATION_LIGHT_LOAD,
            Self::RichIdle => words::ROUGH_IDLE_FOULED_SPARK,
            Self::Alike => "",
            Self::Unknown => words::TOO_CLOSE_READINGS_MORE,
        }
    }
}

/// One cylinder against the mean of the set.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CylinderFuel {
    /// Cylinder number.
    pub cylinder: u32,
    /// More or less at idle: a share, and its standard uncertainty.
    pub idle: f64,
    /// Standard uncertainty of that.
    pub u_idle: f64,
    /// The same at full load.
    pub full: f64,
    /// Standard uncertainty of that.
    pub u_full: f64,
    /// How it runs.
    pub runs: Runs,
    /// The same in a word.
    pub word: String,
    /// What that can do, in a sentence; may be empty.
    pub risk: String,
}

/// What it means.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Fuelling {
    /// Mean static flow of the set, ml/min.
    pub static_ml_min: f64,
    /// Mean dead time of the set, ms.
    pub dead_time_ms: f64,
    /// Where the dead times come from.
    pub dead_time_from: String,
    /// Idle and full load.
    pub pulses: Vec<Rescaled>,
    /// Duty at the limit with the rescaled pulse: a share.
    pub duty: f64,
    /// The pulse fills the period.
    pub always_open: bool,
    /// By cylinder number, those that were measured.
    pub cylinders: Vec<CylinderFuel>,
    /// In a sentence.
    pub says: String,
    /// What else to know.
    pub advice: Vec<String>,
}

/// What this set means, in the cylinders that it is placed in; as it sits without a placement. `None` when fewer than two injectors have a static flow and a dead time.
///
/// # Errors
/// A pulse that is no longer than the dead time; what the calcs refuse.
pub fn fuelling(
    file: &JobFile,
    tested: &[Tested],
    ask: &FuellingAsk,
    rules: &Rules,
    placement: Option<&Placement>,
) -> Result<Option<Fuelling>, CalcError> {
    let mut given = given(file, tested);
    for one in &mut given {
        let placed = placement.iter().flat_map(|placement| &placement.placed);
        let to = placed.filter(|placed| placed.sits == one.cylinder).map(|placed| placed.cylinder);
        one.cylinder = to.min().unwrap_or(one.cylinder);
    }
    given.sort_by_key(|one| one.cylinder);
    if given.len() < 2 {
        return Ok(None);
    }
    let n = given.len() as f64;
    let flow = given.iter().map(|one| one.flow).sum::<f64>() / n;
    let dead = given.iter().map(|one| one.dead).sum::<f64>() / n;
    let pulses = [("idle", ask.idle_ms), ("full load", ask.full_ms)]
        .map(|(name, ms)| rescaled(name, ms, ask, (flow, dead)));
    let [idle, full] = pulses;
    let (idle, full) = (idle?, full?);
    let at_limit = duty(&DutyInput {
        rpm: ask.limit_rpm,
        pulse_ms: full.after_ms,
        stroke_cycle: Some(if ask.two_stroke { 2.0 } else { 4.0 }),
        firings_per_cycle: None,
    })?;
    let tolerance = rules.share(RuleId::FuelApart);
    let confidence = rules.share(RuleId::GuardConfidence);
    let mut lanes = Vec::new();
    for one in &given {
        lanes.push(lane(one, &given, (idle.after_ms, full.after_ms), tolerance, confidence)?);
    }
    let reserve = rules.share(RuleId::DutyReserve);
    let mut advice = Vec::new();
    if at_limit.duty > reserve {
        advice.push(words::rpm_duty_above_leaves(
            trimmed(ask.limit_rpm),
            100.0 * at_limit.duty,
            100.0 * reserve,
            if at_limit.always_open {
                words::INJECTOR_NEVER_CLOSES_CANNOT.to_owned()
            } else {
                words::FIT_LARGER_INJECTORS_LOWER.to_owned()
            },
        ));
    }
    if given.iter().any(|one| !one.swept) {
        advice.push(words::DEAD_TIMES_COME_ONE.to_owned());
    }
    Ok(Some(Fuelling {
        says: says(&lanes, &idle, &full),
        static_ml_min: flow,
        dead_time_ms: dead,
        dead_time_from: match given.iter().filter(|one| one.swept).count() {
            0 => "the shortest pulse".to_owned(),
            swept if swept == given.len() => "the pulse sweep".to_owned(),
            _ => words::PULSE_SWEEP_ONE.to_owned(),
        },
        pulses: vec![idle, full],
        duty: at_limit.duty,
        always_open: at_limit.always_open,
        cylinders: lanes,
        advice,
    }))
}

fn rescaled(
    name: &str,
    before_ms: f64,
    ask: &FuellingAsk,
    (flow, dead): (f64, f64),
) -> Result<Rescaled, CalcError> {
    let after_ms = pulse_rescale(&PulseRescaleInput {
        pulse_ms: before_ms,
        old_static_ml_min: ask.static_ml_min,
        old_offset_ms: ask.dead_time_ms,
        new_static_ml_min: flow,
        new_offset_ms: dead,
    })?
    .pulse_ms;
    let wanted = ask.static_ml_min * (before_ms - ask.dead_time_ms);
    let share = flow * (before_ms - dead).max(0.0) / wanted - 1.0;
    Ok(Rescaled {
        name: name.to_owned(),
        before_ms,
        after_ms,
        share,
        says: format!(
            "({} − {}) × {} ÷ {} + {} = {} ms",
            figures(before_ms),
            shown(ask.dead_time_ms, 0.001),
            shown(ask.static_ml_min, 0.1),
            shown(flow, 0.1),
            shown(dead, 0.001),
            shown(after_ms, 0.001)
        ),
    })
}

fn lane(
    one: &Gives,
    all: &[Gives],
    (idle_ms, full_ms): (f64, f64),
    tolerance: f64,
    confidence: f64,
) -> Result<CylinderFuel, CalcError> {
    let against = |ms: f64| -> Result<(f64, f64, LimitState), CalcError> {
        let n = all.len() as f64;
        let mean = all.iter().map(|other| other.in_pulse(ms).0).sum::<f64>() / n;
        if mean <= 0.0 {
            let says = words::ms_set_injects_nothing(ms);
            return Err(CalcError::Contradiction(says));
        }
        let (q, u) = one.in_pulse(ms);
        let others = all.iter().filter(|other| other.cylinder != one.cylinder);
        let u_others = others.map(|other| other.in_pulse(ms).1.powi(2)).sum::<f64>().sqrt();
        // The one is part of its own mean: its doubt counts by what it is not.
        let u = (u * (n - 1.0) / n).hypot(u_others / n) / mean;
        let share = q / mean - 1.0;
        let state = decide(&DecideInput {
            value: share,
            u,
            lower: Some(-tolerance),
            upper: Some(tolerance),
            confidence: Some(confidence),
            ..DecideInput::default()
        })?
        .state;
        Ok((share, u, state))
    };
    let (idle, u_idle, at_idle) = against(idle_ms)?;
    let (full, u_full, at_full) = against(full_ms)?;
    let runs = match (at_full, at_idle) {
        (LimitState::Below, _) => Runs::LeanFull,
        (LimitState::Above, _) => Runs::RichFull,
        (_, LimitState::Below) => Runs::LeanIdle,
        (_, LimitState::Above) => Runs::RichIdle,
        (LimitState::Within, LimitState::Within) => Runs::Alike,
        (LimitState::Undecided, _) | (_, LimitState::Undecided) => Runs::Unknown,
    };
    Ok(CylinderFuel {
        cylinder: one.cylinder,
        idle,
        u_idle,
        full,
        u_full,
        runs,
        word: runs.word().to_owned(),
        risk: runs.risk().to_owned(),
    })
}

fn says(lanes: &[CylinderFuel], idle: &Rescaled, full: &Rescaled) -> String {
    let of = |runs: Runs| -> Vec<u32> {
        lanes.iter().filter(|lane| lane.runs == runs).map(|lane| lane.cylinder).collect()
    };
    let mut says: Vec<String> = Vec::new();
    for runs in [Runs::LeanFull, Runs::RichFull, Runs::LeanIdle, Runs::RichIdle] {
        let found = of(runs);
        if !found.is_empty() {
            says.push(format!("{}: {}.", cylinders(&found), runs.word()));
        }
    }
    let open = of(Runs::Unknown);
    if !open.is_empty() {
        says.push(words::inconclusive_readings(cylinders(&open)));
    }
    if says.is_empty() {
        says.push(words::NO_CYLINDER_RUNS_LEAN.to_owned());
    }
    if idle.share.abs().max(full.share.abs()) < AS_BEFORE {
        says.push(words::SET_MATCHES_ECU_EXPECTS.to_owned());
    } else {
        says.push(words::without_changing_ecu_idle(
            signed_percent(idle.share),
            signed_percent(full.share),
        ));
    }
    says.join(" ")
}

#[cfg(test)]
mod tests;
