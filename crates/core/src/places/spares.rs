//! What could take the place of an injector that does not go back: the closest of the shelf to those
//! that do.

use crate::matching::FeatureKind;
use crate::places::words;
use crate::quantity::{signed_tenths, trimmed};
use crate::rules::Rules;
use crate::shelf::{ShelfFeature, Tested};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// How many are named.
const NAMED: usize = 5;

/// One that could.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Spare {
    /// The injector.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// Number of its job.
    pub job_number: u64,
    /// Its furthest feature from the middle of those that go back, in the house's tolerances.
    pub off: f64,
    /// Features of the set that it lacks.
    pub missing: usize,
    /// Feature by feature, and whether that is alike.
    pub says: String,
}

/// The closest of the shelf to those of this engine that go back, fewest unknowns and closest first. Only what was read
/// under the same conditions is compared; what an injector lacks of it is said.
pub fn spares(ours: &[Tested], shelf: &[Tested], rules: &Rules) -> Vec<Spare> {
    let good: Vec<&Tested> = ours.iter().filter(|one| one.held_back.is_none()).collect();
    let middles: Vec<(ShelfFeature, f64, &str)> =
        ShelfFeature::ALL.iter().filter_map(|feature| middle(&good, *feature)).collect();
    if middles.is_empty() {
        return Vec::new();
    }
    let known = |one: &&Tested| !ours.iter().any(|held| held.injector == one.injector);
    let free = shelf.iter().filter(known).filter(|one| one.held_back.is_none());
    let mut found: Vec<Spare> = free.filter_map(|one| spare(one, &middles, rules)).collect();
    let key = |one: &Spare| (one.missing, one.off);
    found.sort_by(|a, b| {
        let ((ma, oa), (mb, ob)) = (key(a), key(b));
        ma.cmp(&mb).then(oa.total_cmp(&ob)).then(a.label.cmp(&b.label))
    });
    found.truncate(NAMED);
    found
}

/// Mean of a feature that all of them have under one condition.
fn middle<'a>(good: &[&'a Tested], feature: ShelfFeature) -> Option<(ShelfFeature, f64, &'a str)> {
    let values: Option<Vec<_>> = good.iter().map(|one| one.value(feature)).collect();
    let values = values.filter(|values| values.len() > 1)?;
    let condition = values[0].condition.as_str();
    let alike = values.iter().all(|value| value.condition == condition);
    let mean = values.iter().map(|value| value.value).sum::<f64>() / values.len() as f64;
    (alike && mean > 0.0).then_some((feature, mean, condition))
}

fn spare(one: &Tested, middles: &[(ShelfFeature, f64, &str)], rules: &Rules) -> Option<Spare> {
    let mut off: f64 = 0.0;
    let (mut says, mut missing) = (Vec::new(), Vec::new());
    for (feature, mean, condition) in middles {
        let value = one.value(*feature).filter(|value| value.condition == *condition);
        let Some(value) = value.map(|value| value.value) else {
            missing.push(feature.word());
            continue;
        };
        let (apart, word) = match feature.kind() {
            FeatureKind::Ratio if value > 0.0 => (
                (value / mean).ln().abs() / rules.share(feature.rule()).ln_1p(),
                signed_tenths(value / mean - 1.0),
            ),
            FeatureKind::Ratio => return None,
            FeatureKind::Difference => {
                let apart = value - mean;
                let rounded = (apart * 1000.0).round() / 1000.0;
                let word = format!("{} {}", trimmed(rounded), feature.unit());
                (apart.abs() / rules.get(feature.rule()), word)
            }
        };
        off = off.max(apart);
        says.push(format!("{} {word}", feature.word()));
    }
    if says.is_empty() {
        return None;
    }
    let alike = if off <= 1.0 { "matched" } else { "not matched" };
    if !missing.is_empty() {
        says.push(words::not_measured_same_way(missing.join(", ")));
    }
    Some(Spare {
        injector: one.injector,
        label: one.label.clone(),
        job_number: one.job_number,
        off,
        missing: missing.len(),
        says: format!("{alike}: {}", says.join(", ")),
    })
}
