//! Injectors of one family against each other, with what the tubes can tell.
//!
//! The reference set of [`crate::calc::compare_set`]; a share outside the tolerance counts only
//! where the uncertainty of both readings cannot have made it ([`crate::calc::decide`]).

mod words;

use super::ctx::Ctx;
use crate::calc::CalcError;
use crate::calc::compare_set::{CompareSetInput, compare_set};
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::mark::Mark;
pub(super) use crate::quantity::signed_tenths as percent;
use crate::quantity::{figures, trimmed};
use crate::tests::Because;

/// One value of one injector.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Reading {
    pub tag: u32,
    pub value: f64,
    pub u: f64,
}

/// How it stands to the others of its family.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Compared {
    pub tag: u32,
    /// Against the mean of the others that agree, minus 1.
    pub share: Option<f64>,
    pub mark: Mark,
    pub because: Because,
    /// Mean of the others that agree.
    pub mean: Option<f64>,
}

/// Compares within families; what no other hangs beside is not compared.
pub(super) fn compare(
    ctx: &Ctx<'_>,
    readings: &[Reading],
    tolerance: f64,
) -> Result<Vec<Compared>, CalcError> {
    let mut found = Vec::new();
    for (_, tags) in ctx.groups() {
        let read: Vec<Reading> =
            readings.iter().copied().filter(|r| tags.contains(&r.tag)).collect();
        if read.len() < 2 {
            found.extend(read.iter().map(|r| unsettled(r.tag, words::NO_OTHER_FAMILY_SESSION)));
            continue;
        }
        let values: Vec<f64> = read.iter().map(|r| r.value).collect();
        let out = compare_set(&CompareSetInput { values, tolerance })?;
        for (i, one) in read.iter().enumerate() {
            let Some(share) = out.vs_reference[i].filter(|_| out.settled) else {
                found.push(unsettled(
                    one.tag,
                    if out.split { words::SET_SPLITS_INTO_TWO } else { words::TOO_FEW_AGREE_EACH },
                ));
                continue;
            };
            let others: Vec<Reading> =
                out.reference.iter().filter(|j| **j != i).map(|j| read[*j]).collect();
            let n = others.len().max(1) as f64;
            let mean = others.iter().map(|r| r.value).sum::<f64>() / n;
            let u_mean = others.iter().map(|r| r.u * r.u).sum::<f64>().sqrt() / n;
            let u = (one.u / mean).hypot(one.value / mean * u_mean / mean);
            let verdict = decide(&DecideInput {
                value: share,
                u,
                lower: Some(-tolerance),
                upper: Some(tolerance),
                confidence: Some(ctx.rules.share(crate::rules::RuleId::GuardConfidence)),
                ..DecideInput::default()
            })?;
            found.push(Compared {
                tag: one.tag,
                share: Some(share),
                mark: match verdict.state {
                    LimitState::Above => Mark::TooMuch,
                    LimitState::Below => Mark::TooLittle,
                    LimitState::Within => Mark::Inside,
                    LimitState::Undecided => Mark::Undecided,
                },
                because: Because::shows(
                    words::agreeing_others_mean_line(figures(mean), trimmed(tolerance * 100.0)),
                    format!(
                        "{} ÷ {} − 1 = {}, guard {} %",
                        figures(one.value),
                        figures(mean),
                        percent(share),
                        tenths(verdict.guard * 100.0)
                    ),
                ),
                mean: Some(mean),
            });
        }
    }
    Ok(found)
}

fn unsettled(tag: u32, says: &str) -> Compared {
    Compared { tag, share: None, mark: Mark::Undecided, because: Because::says(says), mean: None }
}

pub(super) fn tenths(value: f64) -> String {
    format!("{value:.1}")
}
