//! The words that the verdicts of the bench share.

use super::ctx::Ctx;
use crate::tests::verdict::Lane;

/// A lane for each injector, `not read` where the function gives none.
pub(super) fn lanes(ctx: &Ctx<'_>, each: impl Fn(u32) -> Option<Lane>) -> Vec<Lane> {
    ctx.tags().map(|tag| each(tag).unwrap_or_else(|| Lane::not_read(tag))).collect()
}
