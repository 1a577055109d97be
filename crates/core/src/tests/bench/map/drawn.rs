//! The map as it is drawn, point by point.

use super::super::ctx::Ctx;
use super::patterns::Seen;
use super::{AtPoint, Quantity, outcomes};
use crate::calc::decide::LimitState;
use crate::mark::Mark;
use crate::quantity::shown;
use crate::rules::RuleId;
use crate::said::{Code, Lack};
use crate::tests::Because;
use crate::tests::bench::map::words;
use crate::tests::verdict::{Lane, Row};
use crate::units::{self, KPA};

pub(super) fn worst(at: &AtPoint) -> Mark {
    let has = |state| at.of.iter().any(|q| q.state == Some(state));
    match () {
        () if has(LimitState::Above) => Mark::TooMuch,
        () if has(LimitState::Below) => Mark::TooLittle,
        () if has(LimitState::Undecided) => Mark::Undecided,
        () if has(LimitState::Within) => Mark::Inside,
        () => Mark::Look,
    }
}

pub(super) fn drawn(ctx: &Ctx<'_>, points: &[AtPoint], row: u32) -> Option<Row> {
    let point = ctx.point(row)?;
    let here: Vec<&AtPoint> = points.iter().filter(|p| p.row == row).collect();
    let first = here.first()?;
    let window = first.of.iter().find(|q| q.cell == "delivered").or(first.of.first())?.window;
    Some(Row {
        row,
        name: point.name.clone(),
        says: point.rail_kpa.map(|kpa| units::said(kpa, KPA)).unwrap_or_default(),
        unit: "mm³/stroke".to_owned(),
        window,
        lanes: here
            .iter()
            .map(|at| {
                let main = at.of.iter().find(|q| q.cell == "delivered").or(at.of.first());
                Lane {
                    place: at.tag,
                    mark: worst(at),
                    value: main.map(|q| q.value),
                    u: main.map(|q| q.u),
                    shown: at
                        .of
                        .iter()
                        .map(|q| match q.cell {
                            "returned" => format!("↩ {}", shown(q.value, q.u)),
                            "delay" => format!("{} µs", shown(q.value, q.u)),
                            _ => shown(q.value, q.u),
                        })
                        .collect::<Vec<_>>()
                        .join("\n"),
                    ..Lane::default()
                }
            })
            .collect(),
        ..Row::default()
    })
}

pub(super) fn lane(
    ctx: &Ctx<'_>,
    points: &[AtPoint],
    seen: &[(u32, Vec<Seen>)],
    tag: u32,
) -> Option<Lane> {
    let here: Vec<&AtPoint> = points.iter().filter(|p| p.tag == tag).collect();
    if here.is_empty() {
        return None;
    }
    let mark = [Mark::TooMuch, Mark::TooLittle, Mark::Undecided, Mark::Inside, Mark::Look]
        .into_iter()
        .find(|mark| here.iter().any(|at| worst(at) == *mark))
        .unwrap_or(Mark::Look);
    let seen = &seen.iter().find(|(held, _)| *held == tag)?.1;
    let code = match (seen.first(), mark) {
        (Some(first), _) => first.code,
        (None, Mark::Inside) => outcomes::MAP_WITHIN,
        (None, Mark::Undecided) => Code::TOO_CLOSE,
        (None, Mark::TooMuch | Mark::TooLittle) => outcomes::MAP_ODD,
        (None, Mark::Look | Mark::Questioned | Mark::NotMeasured) => Code::NO_REFERENCE,
    };
    let furthest = here
        .iter()
        .flat_map(|at| &at.of)
        .filter_map(Quantity::off)
        .max_by(|(one, u), (other, v)| (one / u).abs().total_cmp(&(other / v).abs()));
    let (word, sentence) = match (seen.first(), mark) {
        (Some(first), _) => (first.word, first.says.to_owned()),
        (None, Mark::Inside) => ("within", words::WITHIN_ALL_LIMITS_READ.to_owned()),
        (None, Mark::Undecided) => ("inconclusive", words::TOO_CLOSE_LIMIT_BENCH.to_owned()),
        (None, Mark::TooMuch) => ("high", words::ABOVE_LIMITS_NO_PATTERN.to_owned()),
        (None, Mark::TooLittle) => ("low", words::BELOW_LIMITS_NO_PATTERN.to_owned()),
        (None, Mark::Look | Mark::Questioned | Mark::NotMeasured) => {
            ("no limits", words::LIBRARY_NO_LIMITS_POINTS.to_owned())
        }
    };
    let judged = || here.iter().flat_map(|at| &at.of).filter(|q| q.state.is_some());
    let by_others = judged().any(|q| q.others);
    let sentence = match (seen.is_empty(), mark, by_others) {
        (true, Mark::Inside, true) if judged().all(|q| q.others) => {
            words::LIKE_OTHERS_EVERY_POINT.to_owned()
        }
        (true, Mark::Undecided, true) => words::OTHERS_DO_NOT_SETTLE.to_owned(),
        (_, Mark::TooMuch | Mark::TooLittle, true) => words::against_others(sentence),
        (..) => sentence,
    };
    let (off, u) = furthest.unwrap_or((f64::NAN, 1.0));
    let mut lane = Lane::new(tag, mark, word, sentence)
        .says(code)
        .off(off, u)
        .lacking(Lack::ByOthers, by_others)
        .because(seen.iter().map(|s| Because::says(format!("Likely: {}.", s.part))))
        .because(here.iter().flat_map(|at| at.of.iter().filter_map(|q| q.because.clone())))
        .because(ctx.rules.reasons(&[RuleId::BenchU]).into_iter().map(Because::says));
    for one in seen {
        lane = lane.then(one.work);
    }
    Some(match mark {
        Mark::Undecided if seen.is_empty() => lane.then(words::MORE_STROKES_POINT_MEAN),
        Mark::Undecided
        | Mark::Inside
        | Mark::TooMuch
        | Mark::TooLittle
        | Mark::Look
        | Mark::Questioned
        | Mark::NotMeasured => lane,
    })
}
