//! Sets from the shelf, with what the bench can tell of each.

use super::{ShelfFeature, ShelfValue, Tested};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::matching::{Feature, FeatureKind, Matched, Progress, Shelf, matched};
use crate::quantity::{shown, trimmed};
use crate::shelf::words;
use crate::words::counted;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use std::ops::ControlFlow;
use utoipa::ToSchema;
use uuid::Uuid;

/// The search is repeatable: the same shelf gives the same sets.
const SEED: u64 = 1;

/// One feature that sets have to agree in.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FeatureAsk {
    /// Which.
    pub feature: ShelfFeature,
    /// Share for a ratio, unit of the feature for a difference.
    pub tolerance: f64,
}

/// How sets are to be made.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MatchAsk {
    /// What they have to agree in.
    pub features: Vec<FeatureAsk>,
    /// Members of a set.
    pub size: usize,
    /// Injectors that must stay together.
    pub together: Vec<Vec<Uuid>>,
    /// Left out by hand.
    pub excluded: Vec<Uuid>,
    /// Held back by a test or a decision, and used all the same.
    pub brought_in: Vec<Uuid>,
    /// Sets that are kept. One that is none by what is asked for now stays as it is, out of the way.
    pub pinned: Vec<Vec<Uuid>>,
}

/// One injector of a set.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SetMember {
    /// The injector.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// Number of its job.
    pub job_number: u64,
    /// The cylinder that it came in.
    pub cylinder: u32,
    /// Its values, in the order of the features asked for.
    pub values: Vec<Option<f64>>,
    /// As shown.
    pub shown: Vec<String>,
}

/// How far apart a set is in one feature, and whether the bench can tell that it holds.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SetSpan {
    /// Which.
    pub feature: ShelfFeature,
    /// How far apart it may be: a share, or the unit of the feature.
    pub tolerance: f64,
    /// Largest against smallest, in the same.
    pub apart: f64,
    /// Standard uncertainty of that, from two readings.
    pub u: f64,
    /// Within its tolerance, or undecided with this bench.
    pub state: LimitState,
    /// `1.2 ± 0.4 % of 2 %`.
    pub shown: String,
}

/// A set.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MadeSet {
    /// Pinned before.
    pub pinned: bool,
    /// By the first feature, least first.
    pub members: Vec<SetMember>,
    /// In the order of the features asked for.
    pub spans: Vec<SetSpan>,
    /// What it is, in a sentence.
    pub says: String,
    /// Whom its injectors belong to; more than one has to agree.
    pub owners: Vec<String>,
}

/// One that is left over.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct LeftOnShelf {
    /// The injector.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// Number of its job.
    pub job_number: u64,
    /// The nearest reason.
    pub why: String,
}

/// What was made.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MadeSets {
    /// Pinned ones first.
    pub sets: Vec<MadeSet>,
    /// The others.
    pub leftovers: Vec<LeftOnShelf>,
    /// No more sets than these are possible.
    pub bound: usize,
    /// No choice makes more, or as many with less spread.
    pub exact: bool,
    /// Stopped before it was done.
    pub stopped: bool,
    /// The result in a sentence or two.
    pub says: String,
}

/// Makes sets from the shelf. `told` hears of the progress and may stop it.
///
/// # Errors
/// What [`matched`] refuses.
pub fn sets(
    shelf: &[Tested],
    ask: &MatchAsk,
    told: &mut dyn FnMut(Progress) -> ControlFlow<()>,
) -> Result<MadeSets, CalcError> {
    let asked = Asked::of(shelf, ask);
    let out = matched(&asked.shelf, SEED, told)?;
    let mut sets = Vec::new();
    for (at, set) in out.sets.iter().enumerate() {
        sets.push(asked.made(set, at < asked.shelf.pinned.len())?);
    }
    let leftovers: Vec<LeftOnShelf> = out
        .leftovers
        .iter()
        .map(|left| {
            let one = &shelf[left.index];
            LeftOnShelf {
                injector: one.injector,
                label: one.label.clone(),
                job_number: one.job_number,
                why: asked.why(left.index).unwrap_or_else(|| left.why.clone()),
            }
        })
        .collect();
    let says = summary(&out, &sets, leftovers.len(), ask.size);
    let Matched { bound, exact, stopped, .. } = out;
    Ok(MadeSets { sets, leftovers, bound, exact, stopped, says })
}

/// The shelf as matching takes it, with what it does not know of.
struct Asked<'a> {
    tested: &'a [Tested],
    ask: &'a MatchAsk,
    shelf: Shelf,
    /// The condition that most were read under, for each feature.
    conditions: Vec<String>,
    /// Of kept sets that do not hold by what is asked for now: they stay as they are.
    reserved: Vec<usize>,
}

impl<'a> Asked<'a> {
    fn of(tested: &'a [Tested], ask: &'a MatchAsk) -> Self {
        let at: HashMap<Uuid, usize> =
            tested.iter().enumerate().map(|(index, one)| (one.injector, index)).collect();
        // One that left the shelf in the meantime is no trouble to the rest.
        let places = |group: &Vec<Uuid>| -> Vec<usize> {
            group.iter().filter_map(|injector| at.get(injector).copied()).collect()
        };
        let conditions: Vec<String> =
            ask.features.iter().map(|one| usual_condition(tested, one.feature)).collect();
        let values = tested.iter().map(|one| {
            let of = |(ask, condition): (&FeatureAsk, &String)| {
                let value = one.value(ask.feature)?;
                (value.condition == *condition).then_some(value.value)
            };
            ask.features.iter().zip(&conditions).map(of).collect()
        });
        let values: Vec<Vec<Option<f64>>> = values.collect();
        let kept = ask.pinned.iter().map(places);
        let (pinned, reserved): (Vec<_>, Vec<_>) = kept.partition(|set| holds(ask, &values, set));
        let reserved = reserved.concat();
        let brought_in = places(&ask.brought_in);
        let held_back = (0..tested.len()).filter(|i| tested[*i].held_back.is_some());
        let mut excluded = places(&ask.excluded);
        excluded.extend(held_back.filter(|i| !brought_in.contains(i)));
        excluded.extend(&reserved);
        excluded.sort_unstable();
        excluded.dedup();
        excluded.retain(|i| !pinned.concat().contains(i));
        // One that is left out takes nobody with it.
        let together = ask.together.iter().map(|group| {
            let free = |i: &usize| !excluded.contains(i) && !pinned.concat().contains(i);
            places(group).into_iter().filter(free).collect()
        });
        let together = together.filter(|group: &Vec<usize>| group.len() > 1).collect();
        let features = ask.features.iter().map(|one| Feature {
            name: one.feature.word().to_owned(),
            kind: one.feature.kind(),
            tolerance: one.tolerance,
        });
        let shelf = Shelf {
            features: features.collect(),
            values,
            size: ask.size,
            together,
            excluded,
            pinned,
        };
        Self { tested, ask, shelf, conditions, reserved }
    }

    /// A reason that matching cannot know.
    fn why(&self, index: usize) -> Option<String> {
        let one = &self.tested[index];
        if self.reserved.contains(&index) {
            return Some(words::SAVED_SET.to_owned());
        }
        if self.ask.excluded.contains(&one.injector) {
            return None;
        }
        if let Some(held) = one.held_back.as_ref().filter(|_| self.shelf.excluded.contains(&index))
        {
            return Some(words::not_refitted(held));
        }
        let otherwise = |(ask, condition): (&FeatureAsk, &String)| {
            let value = one.value(ask.feature).filter(|value| value.condition != *condition)?;
            Some(words::measured_differently_others(
                ask.feature.word(),
                &value.condition,
                condition,
            ))
        };
        self.ask.features.iter().zip(&self.conditions).find_map(otherwise)
    }

    fn made(&self, set: &[usize], pinned: bool) -> Result<MadeSet, CalcError> {
        let mut order: Vec<usize> = set.to_vec();
        let first = |i: &usize| self.shelf.values[*i].first().copied().flatten().unwrap_or(0.0);
        order.sort_by(|one, other| first(one).total_cmp(&first(other)).then(one.cmp(other)));
        let mut spans = Vec::new();
        for ask in &self.ask.features {
            let values: Vec<&ShelfValue> =
                set.iter().filter_map(|i| self.tested[*i].value(ask.feature)).collect();
            spans.push(span(ask, &values)?);
        }
        let members = order.iter().map(|i| {
            let one = &self.tested[*i];
            let of = |ask: &FeatureAsk| one.value(ask.feature);
            SetMember {
                injector: one.injector,
                label: one.label.clone(),
                job_number: one.job_number,
                cylinder: one.cylinder,
                values: self.ask.features.iter().map(|ask| of(ask).map(|v| v.value)).collect(),
                shown: self
                    .ask
                    .features
                    .iter()
                    .map(|ask| of(ask).map(|v| shown(v.value, v.u)).unwrap_or_default())
                    .collect(),
            }
        });
        let members = members.collect();
        let mut owners: Vec<String> = set
            .iter()
            .map(|i| self.tested[*i].owner.clone())
            .filter(|owner| !owner.is_empty())
            .collect();
        owners.sort();
        owners.dedup_by(|one, other| one.eq_ignore_ascii_case(other));
        Ok(MadeSet { pinned, members, says: says(&spans), spans, owners })
    }
}

/// Whether a kept set is one by what is asked for now.
fn holds(ask: &MatchAsk, values: &[Vec<Option<f64>>], set: &[usize]) -> bool {
    let alike = |(k, one): (usize, &FeatureAsk)| {
        let read: Option<Vec<f64>> = set.iter().map(|i| values[*i][k]).collect();
        let Some(read) = read else { return false };
        let low = read.iter().copied().fold(f64::INFINITY, f64::min);
        let high = read.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        match one.feature.kind() {
            FeatureKind::Ratio => high <= low * (1.0 + one.tolerance),
            FeatureKind::Difference => high - low <= one.tolerance,
        }
    };
    set.len() == ask.size && ask.features.iter().enumerate().all(alike)
}

/// The condition that most of the shelf were read under; of as many the first by name.
fn usual_condition(tested: &[Tested], feature: ShelfFeature) -> String {
    let mut counts: HashMap<&str, usize> = HashMap::new();
    for value in tested.iter().filter_map(|one| one.value(feature)) {
        *counts.entry(value.condition.as_str()).or_default() += 1;
    }
    let most = counts.into_iter().max_by(|one, other| one.1.cmp(&other.1).then(other.0.cmp(one.0)));
    most.map(|(condition, _)| condition.to_owned()).unwrap_or_default()
}

/// Apart by this, and whether two readings can tell that it is within the tolerance.
fn span(ask: &FeatureAsk, values: &[&ShelfValue]) -> Result<SetSpan, CalcError> {
    let by_value = |one: &&&ShelfValue, other: &&&ShelfValue| one.value.total_cmp(&other.value);
    let (low, high) = (values.iter().min_by(by_value), values.iter().max_by(by_value));
    let (Some(low), Some(high)) = (low, high) else {
        return Err(CalcError::TooFew { what: "values", least: 2, got: values.len() });
    };
    let (apart, u, unit, scale) = match ask.feature.kind() {
        FeatureKind::Ratio => {
            let ratio = high.value / low.value;
            let u = ratio * (high.u / high.value).hypot(low.u / low.value);
            (ratio - 1.0, u, "%", 100.0)
        }
        FeatureKind::Difference => {
            (high.value - low.value, high.u.hypot(low.u), ask.feature.unit(), 1.0)
        }
    };
    // What lies just on its tolerance was let in with a slack: it is no more than undecided.
    let out = decide(&DecideInput {
        value: apart.min(ask.tolerance),
        u,
        upper: Some(ask.tolerance),
        ..DecideInput::default()
    })?;
    Ok(SetSpan {
        feature: ask.feature,
        tolerance: ask.tolerance,
        apart,
        u,
        state: out.state,
        shown: format!(
            "{} ± {} of {} {unit}",
            shown(apart * scale, u * scale),
            shown(u * scale, u * scale),
            trimmed(ask.tolerance * scale)
        ),
    })
}

/// What a set is: alike in everything, or in what the bench cannot tell.
fn says(spans: &[SetSpan]) -> String {
    let open: Vec<&str> = spans
        .iter()
        .filter(|span| span.state != LimitState::Within)
        .map(|span| span.feature.word())
        .collect();
    match open.as_slice() {
        [] => words::MATCHED_BEYOND_BENCH_ERROR.to_owned(),
        open => words::within_tolerance_read_but(open.join(", ")),
    }
}

fn summary(out: &Matched, sets: &[MadeSet], left: usize, size: usize) -> String {
    let many = |n| counted(n, "set", "sets");
    let mut says = match (sets.len(), left) {
        (0, _) => words::no_set_within_tolerances(size),
        (n, 0) => words::nothing_left_over(many(n), size),
        (n, left) => words::left_over(many(n), size, left),
    };
    let most = out.bound.max(sets.len());
    if out.stopped {
        says.push_str(&words::stopped_early_up_possible(most));
    } else if most > sets.len() {
        let gap = 100.0 * out.gap();
        says.push_str(&words::up_possible_gap(most, gap));
    } else if !sets.is_empty() {
        says.push_str(words::NO_MORE_POSSIBLE);
    }
    says
}
