//! `lift`: valve lift or air gap brought to its target by shims from the stock, or by the nut.
//!
//! Each round is one fit: the shim that is in, and the lift that it gives. The next shim by
//! [`crate::calc::shim`]; the gain is taken from the fits of the injector itself as soon as two
//! differ enough. It stops when the lift is in its window, and says so when it does not converge.
//!
//! # Source
//! House rule (stack-up is linear over a few shims); JCGM 106 for the window.

pub(super) mod words;

use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::calc::shim::{ShimInput, ShimOutput, gain_from_fits, shim};
use crate::caution;
use crate::library::LimitCheck;
use crate::mark::Mark;
use crate::quantity::{figures, shown, trimmed};
use crate::rules::RuleId;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::{cell, choice};
use crate::tests::property::{Deed, Of, Property};
use crate::tests::verdict::{Lane, Row, Verdict, coded, marked};
use crate::typed::Field;
use crate::words::{counted, injectors};

crate::said::outcomes! {
    LIFT_OFF = lift_off,
    LIFT_WITHIN = lift_within,
}

const MICRON: Field = Field::above_zero("um", 0.5, 20_000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Lift and shims",
    short: "Lift",
    says: words::ENTER_FITTED_SHIM_LIFT,
    cautions: &[caution::CHARGE, caution::BENCH],
    kinds: &[BenchKind::Diesel],
    pulses: false,
    rows: Rows::None,
    set: &[
        choice("by", "Set by", &["shims", "nut"]),
        cell("target", words::TARGET_LIFT_NOT_LIBRARY, MICRON).more(),
        cell("tolerance", "Tolerance", MICRON).more(),
    ],
    row: &[],
    each: &[
        cell("shim", "Shim fitted", MICRON),
        cell("angle", "Nut position", Field::signed("", -3600.0, 3600.0)).more(),
        cell("lift", "Lift measured", MICRON),
    ],
    tubes: &[],
    property: Property { of: Of::Injector, ended_by: &[Deed::Setting] },
    table: include_str!("lift.toml"),
    judge,
};

/// Nut: lift for a degree until its own fits tell, and the largest step at once (house rules).
const NUT_GAIN_UM: f64 = 0.5;
const NUT_STEP_DEG: f64 = 15.0;
/// An error that shrinks by less than this from fit to fit does not converge (house rule).
const SHRINKS: f64 = 0.9;

/// Word of a lift that no shim on hand brings nearer.
const AS_NEAR: &str = words::CLOSE_POSSIBLE;
/// One fit of one injector.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Fit {
    /// Shim in µm, or the nut in degrees.
    at: f64,
    /// Lift, µm.
    lift: f64,
}

/// The fits of an injector up to this round, oldest first; a fit without a lift is not one yet,
/// and the same shim measured again is the same fit.
fn fits(ctx: &Ctx<'_>, tag: u32, by: &str) -> Vec<Fit> {
    let mut fits: Vec<Fit> = Vec::new();
    for round in 0..=ctx.round {
        let of = |name| ctx.at(round).of(BenchTest::Lift, None, tag, name);
        let (Some(at), Some(lift)) = (of(by), of("lift")) else { continue };
        match fits.last_mut().filter(|held| held.at == at) {
            Some(held) => held.lift = lift,
            None => fits.push(Fit { at, lift }),
        }
    }
    fits
}

/// Lift wanted and what it may be off by, with where that comes from.
fn target(ctx: &Ctx<'_>, tag: u32) -> Option<(f64, f64, String)> {
    let set = |name| ctx.carried(BenchTest::Lift, name);
    let limit = ctx.limit(tag, LimitCheck::Lift, "");
    if let Some((lower, upper, limit)) = limit.and_then(|l| Some((l.lower?, l.upper?, l))) {
        let says = format!("{} ({}, revision {})", limit.window(), limit.source, limit.revision);
        return Some((f64::midpoint(lower, upper), (upper - lower) / 2.0, says));
    }
    let (target, tolerance) = (set("target")?, set("tolerance")?);
    Some((
        target,
        tolerance,
        format!("{} ± {} µm, as entered", trimmed(target), trimmed(tolerance)),
    ))
}

/// The lanes as they stand in this round.
pub(super) fn lanes_at(ctx: &Ctx<'_>) -> Result<Vec<Lane>, CalcError> {
    let nut = ctx.carried(BenchTest::Lift, "by") == Some(1.0);
    let mut made = Vec::new();
    for tag in ctx.tags() {
        made.extend(lane(ctx, tag, nut)?);
    }
    Ok(made)
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let made = lanes_at(ctx)?;
    let lanes = lanes(ctx, |tag| made.iter().find(|lane| lane.place == tag).cloned());
    let stuck = coded(&lanes, &[Code::DOUBTFUL]);
    let against = coded(&lanes, &[Code::SHIM_AGAINST]);
    let set = coded(&lanes, &[outcomes::LIFT_WITHIN]);
    let outside = coded(&lanes, &[outcomes::LIFT_OFF, Code::TOO_CLOSE]);
    let open = lanes.iter().find(|lane| outside.contains(&lane.place));
    let headline = if !against.is_empty() {
        words::lift_moved_against_shim(injectors(&against))
    } else if !stuck.is_empty() {
        words::does_not_converge_stop(injectors(&stuck))
    } else if let Some(first) = open {
        match outside.as_slice() {
            [_] => format!("{}: {}", injectors(&[first.place]), first.sentence),
            _ => words::lift_not_set_yet(injectors(&outside)),
        }
    } else if !set.is_empty() {
        words::set_lift_within_limits(injectors(&set))
    } else {
        words::ENTER_FITTED_SHIM_LIFT_GIVES.to_owned()
    };
    let released =
        !set.is_empty() && marked(&lanes, &[Mark::Questioned]).is_empty() && open.is_none();
    let rows = vec![drawn(ctx, &lanes)];
    let mut verdict = Verdict { headline, lanes, rows, ..Verdict::default() };
    if released {
        verdict.advice.push(words::REPEAT_POINTS_AFFECTS_FULL.to_owned());
    }
    Ok(verdict.closed())
}

/// The lifts of this round on one scale, with the window of the first that has one.
fn drawn(ctx: &Ctx<'_>, lanes: &[Lane]) -> Row {
    let u = ctx.rules.get(RuleId::LiftU);
    let window = ctx.tags().find_map(|tag| target(ctx, tag));
    Row {
        row: 1,
        name: "lift".to_owned(),
        unit: "µm".to_owned(),
        window: window.map(|(target, give, _)| [Some(target - give), Some(target + give)]),
        lanes: ctx
            .read(BenchTest::Lift, None, "lift")
            .into_iter()
            .map(|(tag, lift)| Lane {
                place: tag,
                mark: lanes.iter().find(|l| l.place == tag).map_or(Mark::NotMeasured, |l| l.mark),
                value: Some(lift),
                u: Some(u),
                shown: shown(lift, u),
                ..Lane::default()
            })
            .collect(),
        ..Row::default()
    }
}

fn lane(ctx: &Ctx<'_>, tag: u32, nut: bool) -> Result<Option<Lane>, CalcError> {
    let by = if nut { "angle" } else { "shim" };
    let fits = fits(ctx, tag, by);
    let Some(now) = fits.last().copied() else { return Ok(None) };
    let Some((target, tolerance, source)) = target(ctx, tag) else {
        return Ok(Some(
            Lane::new(tag, Mark::Look, "no target", words::LIBRARY_NO_LIFT_FAMILY)
                .then(words::ENTER_TARGET_LIFT_TOLERANCE),
        ));
    };
    let u = ctx.rules.get(RuleId::LiftU);
    let out = decide(&DecideInput {
        value: now.lift,
        u,
        lower: Some(target - tolerance),
        upper: Some(target + tolerance),
        confidence: Some(ctx.rules.share(RuleId::GuardConfidence)),
        ..DecideInput::default()
    })?;
    let because = vec![
        Because::shows(
            source,
            format!(
                "{} ± {} µm, guard band {}; target {}",
                shown(now.lift, u),
                shown(u, u),
                shown(out.guard, u),
                trimmed(target)
            ),
        ),
        Because::shows(words::SHIM_CHANGES_FAR, history(&fits, nut)),
    ];
    let started = |mark, word: &str, says: String| {
        let code = match (mark, out.state) {
            (Mark::Questioned, _) => Code::DOUBTFUL,
            (_, LimitState::Within) => outcomes::LIFT_WITHIN,
            (_, LimitState::Undecided) => Code::TOO_CLOSE,
            (_, LimitState::Above | LimitState::Below) => outcomes::LIFT_OFF,
        };
        let end = if now.lift > target { target + tolerance } else { target - tolerance };
        Lane::new(tag, mark, word, says)
            .says(code)
            .off(now.lift - end, u)
            .shown(format!("{} µm", shown(now.lift, u)))
            .because(because.clone())
            .because(
                ctx.rules
                    .reasons(&[RuleId::ShimGain, RuleId::LiftU])
                    .into_iter()
                    .map(Because::says),
            )
    };
    if out.state == LimitState::Within {
        let n = fits.len();
        let says = words::lift_within_limits_after(counted(n, "fit", "fits"));
        return Ok(Some(started(Mark::Inside, "set", says)));
    }
    if !nut && let Some(says) = against_its_shim(&fits, u, ctx.rules.get(RuleId::ShimGain)) {
        return Ok(Some(
            started(Mark::Questioned, "against its shim", says)
                .says(Code::SHIM_AGAINST)
                .then(words::MEASURE_FITTED_SHIM_ZERO),
        ));
    }
    let errors: Vec<f64> = fits.iter().map(|fit| (fit.lift - target).abs()).collect();
    let stuck = errors.len() >= 3 && errors.windows(2).rev().take(2).all(|w| w[1] > SHRINKS * w[0]);
    if stuck {
        return Ok(Some(
            started(Mark::Questioned, "not converging", words::TWO_SHIM_CHANGES_ROW.to_owned())
                .then(words::DIRT_UNDER_SHIM_BURR),
        ));
    }
    let (mark, side) =
        if now.lift > target { (Mark::TooMuch, "too high") } else { (Mark::TooLittle, "too low") };
    let mark = if out.state == LimitState::Undecided { Mark::Undecided } else { mark };
    if nut {
        return Ok(Some(by_nut(&fits, target, u, started(mark, "fit", String::new()), side)));
    }
    let next = next_shim(ctx, &fits, target, tolerance, u)?;
    let Some(next) = next else {
        return Ok(Some(
            started(mark, words::NOT_IN_STOCK, words::NO_SHIMS_STOCK.to_owned())
                .then(words::SHIMS_STOCK_ENTERED_HERE),
        ));
    };
    Ok(Some(by_shim(now, target, &next, started(mark, "fit", String::new()), side)))
}

/// A shim that moved the lift the other way: a wrong shim, dirt, or a gauge that was not zeroed.
fn against_its_shim(fits: &[Fit], u: f64, gain: f64) -> Option<String> {
    let [.., before, now] = fits else { return None };
    let (shim, lift) = (now.at - before.at, now.lift - before.lift);
    // Only a move that neither reading's uncertainty can have made.
    let against = shim * lift * gain < 0.0 && lift.abs() > 2.0 * std::f64::consts::SQRT_2 * u;
    against.then(|| {
        words::m_shim_moved_lift(
            trimmed(before.at),
            trimmed(now.at),
            figures(before.lift),
            figures(now.lift),
        )
    })
}

fn next_shim(
    ctx: &Ctx<'_>,
    fits: &[Fit],
    target: f64,
    tolerance: f64,
    lift_u: f64,
) -> Result<Option<ShimOutput>, CalcError> {
    let stock: Vec<f64> =
        ctx.stock.iter().filter(|shim| shim.count > 0).map(|shim| shim.size_um).collect();
    let Some(now) = fits.last().filter(|_| !stock.is_empty()) else { return Ok(None) };
    // The newest earlier fit with another shim tells the gain of this injector.
    let before = fits.iter().rev().find(|fit| fit.at != now.at);
    shim(&ShimInput {
        lift_um: now.lift,
        target_um: target,
        tolerance_um: tolerance,
        fitted_um: now.at,
        gain: ctx.rules.get(RuleId::ShimGain),
        stock_um: stock,
        previous_lift_um: before.map(|fit| fit.lift),
        previous_fitted_um: before.map(|fit| fit.at),
        lift_u_um: Some(lift_u),
    })
    .map(Some)
}

fn by_shim(now: Fit, target: f64, next: &ShimOutput, mut lane: Lane, side: &str) -> Lane {
    lane = lane.because([Because::shows(
        words::gain_m_lift_per(figures(next.gain)),
        words::m_lift_becomes_m(
            trimmed(now.at),
            trimmed(target),
            figures(now.lift),
            figures(next.gain),
            figures(next.ideal_um),
            trimmed(next.fit_um),
            figures(next.predicted_lift_um),
        ),
    )]);
    let fit = trimmed(next.fit_um);
    if next.within && next.fit_um != now.at {
        lane.sentence = words::fit_m_giving_m(side, &fit, next.predicted_lift_um);
        lane.fit_um = Some(next.fit_um);
        lane.then(words::SHIM_CHANGE_LIFT_NEW)
    } else if next.within {
        // Inside by value, not by its uncertainty: a shim further off would settle nothing.
        AS_NEAR.clone_into(&mut lane.word);
        lane.sentence = words::but_within_less_uncertainty(side, &fit);
        lane.then(words::LIFT_MEASURED_AGAIN_OTHERWISE)
    } else {
        words::NOT_IN_STOCK.clone_into(&mut lane.word);
        lane.sentence = words::needs_m_nearest_stock(
            side,
            (next.ideal_um / 5.0).round() * 5.0,
            &fit,
            next.predicted_lift_um,
        );
        lane.then(words::SIZE_ORDERED_TWO_SHIMS)
    }
}

/// The nut by small steps: never more than a few degrees at once.
fn by_nut(fits: &[Fit], target: f64, u: f64, mut lane: Lane, side: &str) -> Lane {
    let Some(now) = fits.last() else { return lane };
    let before = fits.iter().rev().find(|fit| fit.at != now.at);
    let measured = before
        .and_then(|b| gain_from_fits((b.at, b.lift), (now.at, now.lift), 2.0 * u / NUT_STEP_DEG));
    let gain = measured.unwrap_or(NUT_GAIN_UM);
    let whole = (target - now.lift) / gain;
    let step = whole.clamp(-NUT_STEP_DEG, NUT_STEP_DEG).round();
    lane = lane.because([Because::shows(
        words::m_lift_per_degree(figures(gain), trimmed(NUT_STEP_DEG)),
        format!(
            "({} − {}) ÷ {} = {} °",
            trimmed(target),
            figures(now.lift),
            figures(gain),
            figures(whole)
        ),
    )]);
    lane.sentence = words::turn_nut_measure(side, format!("{step:+.0} °").replace('-', "−"));
    lane
}

fn history(fits: &[Fit], nut: bool) -> String {
    let unit = if nut { "°" } else { "µm" };
    let each =
        fits.iter().map(|fit| format!("{} {unit} → {} µm", trimmed(fit.at), figures(fit.lift)));
    each.collect::<Vec<_>>().join("; ")
}
