//! What is wrong with a file of weights, with row and column.

use super::super::cause::Cause;
use super::super::states::SHARED;
use super::{ADDS_UP, Bounds, CheckRow, File, StoryRow, WeightsError, row};
use crate::engine::FuelSystem;
use crate::judgement::words;
use crate::said::Code;

pub(super) fn check_bounds(bounds: &Bounds) -> Result<(), WeightsError> {
    let shares = [bounds.act, bounds.leave, bounds.shown, bounds.unexplained];
    if !(shares.iter().all(|v| *v > 0.0 && *v < 100.0) && bounds.leave < bounds.act) {
        return Err(row("bounds", words::PERCENTAGES_LEAVE_BELOW_ACT));
    }
    let ages = [(bounds.young_h, bounds.old_h), (bounds.young_km, bounds.old_km)];
    if !ages.iter().all(|(young, old)| *young > 0.0 && young < old) {
        return Err(row("bounds", words::YOUNG_BELOW_OLD_NEEDED));
    }
    if !(bounds.removal >= 0.0 && bounds.removal < 1e4) || bounds.reason.trim().is_empty() {
        return Err(row("bounds", words::MINUTES_REASON_NEEDED));
    }
    Ok(())
}

pub(super) fn cause_row(file: &File, cause: Cause) -> Result<usize, WeightsError> {
    let rows: Vec<usize> = (0..file.cause.len()).filter(|at| file.cause[*at].id == cause).collect();
    let [at] = rows.as_slice() else {
        return Err(row(cause.name(), format!("{} rows; one needed", rows.len())));
    };
    let one = &file.cause[*at];
    let known = FuelSystem::ALL
        .iter()
        .all(|fuel| one.prior.get(fuel).is_some_and(|p| (0.0..=60.0).contains(p)));
    if !known {
        return Err(row(cause.name(), words::PRIOR_NEEDED_EACH_FUEL));
    }
    if one.reason.trim().is_empty() || one.word.trim().is_empty() {
        return Err(row(cause.name(), words::WORD_REASON_NEEDED));
    }
    Ok(*at)
}

/// Names that a row of the weights may be about.
pub(in crate::judgement) const KNOWN: &[&str] = &[
    "symptom:misfire_light_load",
    "symptom:misfire_load",
    "symptom:rough_idle",
    "symptom:long_crank_cold",
    "symptom:long_crank_hot",
    "symptom:no_start",
    "symptom:black_smoke",
    "symptom:white_smoke",
    "symptom:blue_smoke",
    "symptom:high_consumption",
    "symptom:knock",
    "symptom:low_power",
    "symptom:check_and_clean",
    "lately:refuelled_elsewhere",
    "lately:ran_dry",
    "lately:filter_changed",
    "lately:injectors_out",
    "lately:other_repair",
    "lately:stood_long",
    "suffers:not_known",
    "suffers:one",
    "suffers:several",
    "suffers:all",
    "affected:here",
    "affected:elsewhere",
    "usage:high",
    "usage:low",
];

pub(super) fn check_story(story: &StoryRow) -> Result<(), WeightsError> {
    if !KNOWN.contains(&story.when.as_str()) {
        let says = words::unknown_name_known(KNOWN.join(", "));
        return Err(row(&story.when, says));
    }
    if !story.times.values().all(|t| *t >= 0.05 && *t <= 20.0) || story.reason.trim().is_empty() {
        return Err(row(&story.when, words::FACTORS_REASON_NEEDED));
    }
    Ok(())
}

/// Row of a table that is no cause.
pub(super) const SOUND: &str = "sound";

pub(super) fn check_row(check: &CheckRow) -> Result<(), WeightsError> {
    let place = |of: &str| format!("{}, row {of}", check.id);
    let known = |name: &str| {
        let causes = if check.shared { &SHARED[..] } else { Cause::ALL };
        name == SOUND || causes.iter().any(|cause| cause.name() == name)
    };
    for (name, one) in &check.rows {
        if !known(name) {
            let kinds = if check.shared { "a shared cause" } else { "a cause" };
            return Err(row(&place(name), format!("neither sound nor {kinds}")));
        }
        if check.compares && SHARED.iter().any(|cause| cause.name() == name) {
            return Err(row(&place(name), words::SHARED_CANCELS));
        }
        if one.of.len() != check.outcomes.len() {
            let says = format!(
                "{} chances for {} outcomes ({})",
                one.of.len(),
                check.outcomes.len(),
                names(&check.outcomes)
            );
            return Err(row(&place(name), says));
        }
        let wrong = one.of.iter().zip(&check.outcomes).find(|(p, _)| !(0.01..=99.99).contains(*p));
        if let Some((p, code)) = wrong {
            let says = words::column_needed_no_reading(code.name(), p);
            return Err(row(&place(name), says));
        }
        let sum: f64 = one.of.iter().sum();
        if (sum - 100.0).abs() > ADDS_UP {
            return Err(row(&place(name), words::adds_up_needed(trim(sum))));
        }
        if one.why.trim().is_empty() {
            return Err(row(&place(name), "a reason needed"));
        }
    }
    if !check.rows.contains_key(SOUND) || check.rows.len() < 2 {
        return Err(row(&check.id, words::ROW_SOUND_ONE_CAUSE));
    }
    if check.alike.is_empty() || !check.alike.iter().all(|code| check.outcomes.contains(code)) {
        return Err(row(&check.id, words::ALIKE_MUST_NAME_OUTCOMES));
    }
    let numbers = check.minutes > 0.0 && check.minutes < 1e4 && check.hazard <= 3;
    let quality = check.quality > 0.0 && check.quality <= 1.0;
    if !numbers || !quality || check.group.is_empty() || check.title.is_empty() {
        let says = words::TITLE_GROUP_MINUTES_ABOVE;
        return Err(row(&check.id, says));
    }
    Ok(())
}

pub(super) fn names(codes: &[Code]) -> String {
    codes.iter().map(|code| code.name()).collect::<Vec<_>>().join(", ")
}

pub(super) fn trim(sum: f64) -> String {
    crate::quantity::trimmed((sum * 1e4).round() / 1e4)
}
