//! Whether what is off follows the injector or stays with a position on the rail.
//!
//! Two rounds of one stage with the injectors hung otherwise: the shares of each regime are taken
//! once by injector and once by position. Where the sum of what changed is smaller by position,
//! and something is off at all, it is the rail or the tube.
//!
//! # Source
//! House rule: the swap test, with the rail in the place of the engine.

use super::{FlowRow, flow_rows, percent};
use crate::calc::CalcError;
use crate::rules::RuleId;
use crate::tests::bench::BenchTest;
use crate::tests::bench::compare::{Reading, compare};
use crate::tests::bench::conditions::basis;
use crate::tests::bench::ctx::Ctx;
use crate::tests::bench::flow::words;

/// By position has to be better than by injector by this factor.
const CLEARLY: f64 = 0.5;

/// What stays with a position, in words.
pub(super) fn position_effect(ctx: &Ctx<'_>) -> Result<Option<String>, CalcError> {
    let rounds = &ctx.session.rounds;
    let now = &rounds[ctx.round];
    let before = (0..ctx.round).rev().find(|at| {
        let other = &rounds[*at];
        other.stage == now.stage && other.places != now.places && ctx.at(*at).any(BenchTest::Flow)
    });
    let Some(before) = before else { return Ok(None) };
    let (first, second) = (shares(&ctx.at(before))?, shares(ctx)?);
    let at = |round: usize, tag: u32| {
        rounds[round].places.iter().find(|p| p.tag == tag).map(|p| p.position)
    };
    let (mut by_tag, mut by_position, mut n) = (0.0, 0.0, 0);
    let mut worst: Option<(u32, f64)> = None;
    for (row, tag, share) in &second {
        let of = |tag: u32| first.iter().find(|f| f.0 == *row && f.1 == tag).map(|f| f.2);
        let Some(position) = at(ctx.round, *tag) else { continue };
        let hung = ctx.tags().find(|other| at(before, *other) == Some(position));
        let (Some(own), Some(there)) = (of(*tag), hung.and_then(of)) else { continue };
        by_tag += (share - own).abs();
        by_position += (share - there).abs();
        n += 1;
        if worst.is_none_or(|(_, held)| share.abs() > held.abs()) {
            worst = Some((position, *share));
        }
    }
    let tolerance = ctx.rules.share(RuleId::GradeServiceable);
    Ok(worst
        .filter(|(_, share)| n >= 3 && share.abs() > tolerance && by_position < CLEARLY * by_tag)
        .map(|(position, share)| {
            words::position_reads_whichever_injector(position, percent(share))
        }))
}

/// Row, tag and share of every injector that could be compared.
fn shares(ctx: &Ctx<'_>) -> Result<Vec<(u32, u32, f64)>, CalcError> {
    let rows: Vec<FlowRow> = flow_rows(ctx, basis(ctx, BenchTest::Flow)?.factor);
    let mut found = Vec::new();
    for row in &rows {
        let good: Vec<Reading> =
            row.values.iter().filter(|v| v.questioned.is_none()).map(|v| v.reading).collect();
        let compared = compare(ctx, &good, ctx.rules.share(RuleId::GradeServiceable))?;
        found.extend(compared.iter().filter_map(|c| Some((row.row, c.tag, c.share?))));
    }
    Ok(found)
}
