//! The flow as it is drawn, lane by lane.

use super::super::compare::{Reading, percent, tenths};
use super::super::conditions::flow_limit;
use super::super::ctx::Ctx;
use super::{Judged, SHORT_MS, grade, outcomes, spread};
use crate::calc::decide::LimitState;
use crate::mark::Mark;
use crate::rules::RuleId;
use crate::said::{Code, Lack};
use crate::tests::Because;
use crate::tests::bench::flow::words;
use crate::tests::verdict::{Lane, Row};
use crate::units;

pub(super) fn drawn(ctx: &Ctx<'_>, one: &Judged, tolerance: f64) -> Row {
    let spread = spread(ctx, &one.row);
    let mean = one.compared.iter().find_map(|c| c.mean.filter(|_| c.mark == Mark::Inside));
    let limit = ctx.tags().find_map(|tag| flow_limit(ctx, tag)).filter(|_| !one.limits.is_empty());
    Row {
        row: one.row.row,
        name: one.row.name.clone(),
        says: match spread {
            Some((spread, u)) => {
                format!("spread {} ± {} %", tenths(spread * 100.0), tenths(u * 100.0))
            }
            None => one.row.says.clone(),
        },
        unit: units::unit(one.row.basis.unit()).to_owned(),
        grade: spread.map(|(spread, u)| grade(ctx, spread, u)).unwrap_or_default(),
        window: match (limit, mean) {
            // Drawn at the reference of the house, where the columns are.
            (Some(held), _) => {
                Some([held.limit.lower, held.limit.upper].map(|end| Some(end? / held.factor)))
            }
            (None, Some(mean)) if ctx.groups().len() == 1 => {
                Some([Some(mean * (1.0 - tolerance)), Some(mean * (1.0 + tolerance))])
            }
            (None, Some(_) | None) => None,
        },
        lanes: one
            .row
            .values
            .iter()
            .map(|value| {
                let Reading { tag, value: flow, u } = value.reading;
                let compared = one.compared.iter().find(|c| c.tag == tag);
                Lane {
                    place: tag,
                    mark: mark_of(one, tag),
                    value: Some(flow),
                    u: Some(u),
                    shown: units::carried(flow, u, one.row.basis.unit()),
                    share: compared.and_then(|c| c.share),
                    sentence: value.questioned.clone().unwrap_or_default(),
                    ..Lane::default()
                }
            })
            .collect(),
        ..Row::default()
    }
}

/// The mark of an injector in one row: a limit that decides comes first.
pub(super) fn mark_of(one: &Judged, tag: u32) -> Mark {
    let limit = one.limits.iter().find(|(held, ..)| *held == tag).map(|(_, state, _)| *state);
    let compared = one.compared.iter().find(|c| c.tag == tag).map(|c| c.mark);
    match (limit, compared) {
        (Some(LimitState::Above), _) => Mark::TooMuch,
        (Some(LimitState::Below), _) => Mark::TooLittle,
        (_, Some(mark)) if mark != Mark::Undecided => mark,
        (Some(LimitState::Within), Some(_)) => Mark::Inside,
        (Some(LimitState::Undecided) | None, Some(mark)) => mark,
        (Some(_) | None, None) => Mark::Questioned,
    }
}

/// What the marks over all regimes say together: how it is wrong, not only that it is.
pub(super) fn lane(ctx: &Ctx<'_>, judged: &[Judged], tag: u32, basis: &str) -> Option<Lane> {
    let read: Vec<(&Judged, Mark)> = judged
        .iter()
        .filter(|one| one.row.values.iter().any(|v| v.reading.tag == tag))
        .map(|one| (one, mark_of(one, tag)))
        .collect();
    if read.is_empty() {
        return None;
    }
    let count = |mark: Mark| read.iter().filter(|(_, m)| *m == mark).count();
    let short = |one: &Judged| one.row.pulse_ms.is_some_and(|ms| ms < SHORT_MS);
    let all_short = |mark: Mark| read.iter().filter(|(_, m)| *m == mark).all(|(one, _)| short(one));
    let (low, high) = (count(Mark::TooLittle), count(Mark::TooMuch));
    let long_fine = read.iter().any(|(one, m)| !short(one) && *m == Mark::Inside);
    let over = read.iter().any(|(one, _)| one.alike_off());
    let (mark, code, word, sentence, next) = if over {
        (
            Mark::Questioned,
            Code::ALL_ALIKE_OFF,
            "all off alike",
            words::OFF_LIMIT_LIKE_ALL,
            words::PRESSURE_FLUID_FAMILY_MASTER,
        )
    } else if low > 0 && high > 0 {
        (
            Mark::Questioned,
            Code::DOUBTFUL,
            "low and high",
            words::LOW_ONE_REGIME_HIGH,
            words::REGIMES_AGAIN_PULSE_SWEEP,
        )
    } else if low > 0 && all_short(Mark::TooLittle) && long_fine {
        (
            Mark::TooLittle,
            outcomes::FLOW_LESS_SHORT,
            "low when short",
            words::LOW_SHORT_PULSES_ONLY,
            words::PULSE_SWEEP_SEE_DEAD,
        )
    } else if low > 0 {
        (
            Mark::TooLittle,
            outcomes::FLOW_LESS,
            "low flow",
            words::FLOWS_LESS_OTHERS_RESTRICTED,
            words::CLEAN_SAME_REGIMES_AGAIN,
        )
    } else if high > 0 && all_short(Mark::TooMuch) && long_fine {
        (
            Mark::TooMuch,
            outcomes::FLOW_MORE,
            "high when short",
            words::HIGH_SHORT_PULSES_ONLY,
            words::PULSE_SWEEP_SPRING_SEAT,
        )
    } else if high > 0 {
        (
            Mark::TooMuch,
            outcomes::FLOW_MORE,
            "high flow",
            words::FLOWS_MORE_OTHERS_WORN,
            words::PART_NUMBER_FIRST_CLEANING,
        )
    } else if count(Mark::Questioned) > 0 {
        (Mark::Questioned, Code::DOUBTFUL, "retest", words::IMPLAUSIBLE_READING, words::TUBE_AGAIN)
    } else if count(Mark::Inside) == 0 {
        (
            Mark::Undecided,
            Code::NO_REFERENCE,
            "inconclusive",
            words::READINGS_INCONCLUSIVE,
            words::LONGER_RUN_KNOWN_GOOD,
        )
    } else if count(Mark::Undecided) > 0 {
        (
            Mark::Undecided,
            Code::TOO_CLOSE,
            "close",
            words::TOO_CLOSE_TOLERANCE_TUBES,
            words::LONGER_RUN_TWICE_VOLUME,
        )
    } else {
        (Mark::Inside, outcomes::FLOW_ALIKE, "in line", words::LINE_OTHERS_EVERY_REGIME, "")
    };
    let worst = read
        .iter()
        .filter_map(|(one, _)| one.compared.iter().find(|c| c.tag == tag)?.share)
        .max_by(|a, b| a.abs().total_cmp(&b.abs()));
    let outside = |state: &LimitState| matches!(state, LimitState::Above | LimitState::Below);
    let limits = || read.iter().flat_map(|(one, _)| &one.limits).filter(|(held, ..)| *held == tag);
    // Within its limit and unlike the others, it is still by the others alone.
    let by_limit = match mark {
        Mark::TooMuch | Mark::TooLittle => limits().any(|(_, state, _)| outside(state)),
        Mark::Inside | Mark::Look | Mark::Undecided | Mark::Questioned | Mark::NotMeasured => {
            limits().next().is_some()
        }
    };
    let mut lane = Lane::new(tag, mark, word, sentence)
        .says(code)
        .lacking(Lack::ByOthers, !by_limit)
        .shown(worst.map(percent).unwrap_or_default())
        .because([Because::shows(words::CORRECTED_WORKSHOP_REFERENCE, basis)]);
    for (one, _) in &read {
        let limit = one.limits.iter().find(|(held, ..)| *held == tag);
        let compared = one.compared.iter().find(|c| c.tag == tag);
        for because in limit.map(|l| &l.2).into_iter().chain(compared.map(|c| &c.because)) {
            let mut because = because.clone();
            because.says = format!("{}: {}", one.row.name, because.says);
            lane.because.push(because);
        }
    }
    let rules = [RuleId::GradeServiceable, RuleId::FlowPressure, RuleId::FlowDensity];
    lane = lane.because(ctx.rules.reasons(&rules).into_iter().map(Because::says));
    Some(if next.is_empty() { lane } else { lane.then(next) })
}
