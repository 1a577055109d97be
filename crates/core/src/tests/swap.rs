//! `swap`: the same test before and after two injectors changed places.
//!
//! The fault follows the injector: it is the injector. It stays: line, wiring, cylinder. The
//! disturbance itself changes the numbers (re-priming, a nozzle wiped clean), so shares from the
//! others are compared as a pattern: half of what it was counts as there, less counts as gone.
//!
//! # Source
//! House rule.
//!
//! ```
//! use cobaltine_core::tests::swap::{SwapInput, SwapSays, judge};
//! use cobaltine_core::record::Moment;
//! let verdict = judge(&SwapInput {
//!     test: "Return test".to_owned(), check: "return_test".to_owned(), at: Moment { seq: 0, at: jiff::Timestamp::UNIX_EPOCH },
//!     sat_in_one: uuid::Uuid::nil(), sat_in_other: uuid::Uuid::nil(), one: 2, other: 3, look: 0.15, fault: 0.3,
//!     before: vec![(1, 0.02), (2, 0.85), (3, -0.01), (4, 0.0)],
//!     after: vec![(1, 0.0), (2, 0.03), (3, 0.70), (4, -0.02)],
//! });
//! assert_eq!(verdict.says, SwapSays::Follows);
//! ```

use super::Because;
use crate::moment::Moment;
use crate::quantity::signed_percent;
use crate::tests::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// The tables of its outcomes.
pub(crate) const TABLE: &str = include_str!("swap.toml");

crate::said::outcomes! {
    SWAP_STAYS = swap_stays,
    SWAP_LEFT = swap_left,
    SWAP_FOLLOWS = swap_follows,
    SWAP_CLEARED = swap_cleared,
}

/// Share of the first deviation that counts as still there (house rule).
const THERE: f64 = 0.5;

/// Shares from the others before and after, minus 1, by cylinder.
#[derive(Debug, Clone, PartialEq)]
pub struct SwapInput {
    /// The test that was repeated.
    pub test: String,
    /// Its name in the weights.
    pub check: String,
    /// When they changed places.
    pub at: Moment,
    /// The injector that sat in one of the two cylinders before.
    pub sat_in_one: Uuid,
    /// And in the other.
    pub sat_in_other: Uuid,
    /// One cylinder.
    pub one: u32,
    /// The other.
    pub other: u32,
    /// Deviation from which there is something to follow.
    pub look: f64,
    /// Deviation from which it is a fault by itself.
    pub fault: f64,
    /// Before.
    pub before: Vec<(u32, f64)>,
    /// After.
    pub after: Vec<(u32, f64)>,
}

/// What the swap says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SwapSays {
    /// The fault moved with the injector.
    Follows,
    /// The fault stayed with the cylinder.
    Stays,
    /// Neither, or both: repeat.
    Unclear,
}

/// The conclusion of a swap.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SwapVerdict {
    /// The test that was repeated.
    pub test: String,
    /// Its name in the weights.
    #[serde(default)]
    pub check: String,
    /// When they changed places.
    #[schema(value_type = String, format = DateTime)]
    pub at: Moment,
    /// The injector that was odd before.
    pub injector: Uuid,
    /// The one that it changed places with.
    pub other: Uuid,
    /// The cylinder that was odd before.
    pub from: u32,
    /// The cylinder that its injector went to.
    pub to: u32,
    /// What it says.
    pub says: SwapSays,
    /// What moved or stayed was too little to be a fault by itself: sound ones differ as well.
    #[serde(default)]
    pub slight: bool,
    /// The conclusion in a sentence.
    pub headline: String,
    /// What to do next.
    pub next: String,
    /// The arithmetic.
    pub because: Vec<Because>,
    /// Both, cylinder by cylinder.
    pub lanes: Vec<SwapLane>,
}

/// One cylinder before and after.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SwapLane {
    /// Cylinder number.
    pub cylinder: u32,
    /// Share from the others before, minus 1.
    pub before: Option<f64>,
    /// Share from the others after, minus 1.
    pub after: Option<f64>,
}

/// Judges a swap.
pub fn judge(input: &SwapInput) -> SwapVerdict {
    let of = |list: &[(u32, f64)], cylinder: u32| {
        list.iter().find(|(c, _)| *c == cylinder).map(|(_, share)| *share)
    };
    let first = of(&input.before, input.one).unwrap_or(0.0);
    let second = of(&input.before, input.other).unwrap_or(0.0);
    let (from, to, was, injector, other) = if first.abs() >= second.abs() {
        (input.one, input.other, first, input.sat_in_one, input.sat_in_other)
    } else {
        (input.other, input.one, second, input.sat_in_other, input.sat_in_one)
    };
    let (moved, stayed) = (of(&input.after, to), of(&input.after, from));
    let there = |share: Option<f64>| share.map(|share| share / was >= THERE);
    let unclear = |why: &str| {
        (SwapSays::Unclear, words::swap_inconclusive(why), words::REPEAT_TEST_UNDER_SAME)
    };
    let (says, headline, next) = if was.abs() < input.look {
        unclear(words::NOTHING_STOOD_OUT_BEFORE)
    } else {
        match (there(moved), there(stayed)) {
            (Some(true), Some(false)) => (
                SwapSays::Follows,
                words::fault_followed_injector_cylinder(from, to),
                words::TEST_BENCH_DECIDE_TRIM,
            ),
            (Some(false), Some(true)) => (
                SwapSays::Stays,
                words::fault_stayed_cylinder_line(from),
                words::CHECK_LINE_WIRING_COMPRESSION,
            ),
            (Some(true), Some(true)) => unclear(words::BOTH_STAND_OUT_NOW),
            (Some(false), Some(false)) => unclear(words::NEITHER_STANDS_OUT_NOW),
            (_, _) => unclear(words::ONE_TWO_NOT_READ),
        }
    };
    let slight = was.abs() < input.fault && says != SwapSays::Unclear;
    let next = if slight { words::DIFFERENCE_TOO_SMALL_FAULT } else { next };
    let shown = |share: Option<f64>| share.map_or_else(|| "not read".to_owned(), signed_percent);
    let because = vec![
        Because::shows(words::cylinder_before_against_agreeing(from), shown(Some(was))),
        Because::shows(
            words::injector_now_sits_cylinder(to),
            format!("{} of {}", shown(moved), shown(Some(was))),
        ),
        Because::shows(
            words::cylinder_now_other_injector(from),
            format!("{} of {}", shown(stayed), shown(Some(was))),
        ),
        Because::says(words::HALF_EARLIER_DIFFERENCE_MORE),
    ];
    let mut cylinders: Vec<u32> =
        input.before.iter().chain(&input.after).map(|(cylinder, _)| *cylinder).collect();
    cylinders.sort_unstable();
    cylinders.dedup();
    SwapVerdict {
        test: input.test.clone(),
        check: input.check.clone(),
        at: input.at,
        injector,
        other,
        from,
        to,
        says,
        slight,
        headline,
        next: next.to_owned(),
        because,
        lanes: cylinders
            .into_iter()
            .map(|cylinder| SwapLane {
                cylinder,
                before: of(&input.before, cylinder),
                after: of(&input.after, cylinder),
            })
            .collect(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn swap(before: [f64; 2], after: [Option<f64>; 2]) -> SwapVerdict {
        let read = |cylinder, share: Option<f64>| share.map(|share| (cylinder, share));
        judge(&SwapInput {
            test: "Cut-out".to_owned(),
            check: "cutout".to_owned(),
            at: Moment { seq: 0, at: jiff::Timestamp::UNIX_EPOCH },
            sat_in_one: Uuid::nil(),
            sat_in_other: Uuid::nil(),
            one: 2,
            other: 3,
            look: 0.15,
            fault: 0.3,
            before: vec![(2, before[0]), (3, before[1])],
            after: read(2, after[0]).into_iter().chain(read(3, after[1])).collect(),
        })
    }

    #[test]
    fn follows_stays_and_every_way_of_being_unclear() {
        use SwapSays::{Follows, Stays, Unclear};
        for (before, after, says, word) in [
            ([0.8, 0.0], [Some(0.0), Some(0.7)], Follows, "from cylinder 2 to 3"),
            ([0.0, -0.4], [Some(-0.5), Some(0.1)], Follows, "from cylinder 3 to 2"),
            ([0.8, 0.0], [Some(0.75), Some(0.1)], Stays, "stayed with cylinder 2"),
            ([0.8, 0.0], [Some(0.7), Some(0.7)], Unclear, "both stand out"),
            ([0.8, 0.0], [Some(0.1), Some(0.1)], Unclear, "wiped clean"),
            ([0.1, 0.0], [Some(0.0), Some(0.1)], Unclear, "nothing stood out before"),
            ([0.8, 0.0], [Some(0.0), None], Unclear, "not read again"),
            // The other direction is no trace of the fault.
            ([0.8, 0.0], [Some(0.0), Some(-0.8)], Unclear, "neither"),
        ] {
            let verdict = swap(before, after);
            assert_eq!(verdict.says, says, "{before:?} {after:?}");
            assert!(verdict.headline.contains(word), "{}", verdict.headline);
            assert!(!verdict.slight, "{before:?} {after:?}");
        }
        // A fifth more goes along with the injector, and is no fault by itself: sound ones differ as well.
        let little = swap([0.2, 0.0], [Some(0.0), Some(0.2)]);
        assert!(little.says == Follows && little.slight && little.next.contains("Too small"));
    }

    proptest! {
        #[test]
        fn it_does_not_matter_which_of_the_two_is_named_first_nor_how_large_the_fault_is(
            a in -0.9..2.0_f64, b in -0.9..2.0_f64, c in -0.9..2.0_f64, d in -0.9..2.0_f64,
        ) {
            prop_assume!((a.abs() - b.abs()).abs() > 1e-9);
            let input = |one, other, scale: f64| SwapInput {
                test: String::new(), check: String::new(), at: Moment { seq: 0, at: jiff::Timestamp::UNIX_EPOCH },
                sat_in_one: Uuid::nil(), sat_in_other: Uuid::nil(), one, other, look: 0.15 * scale, fault: 0.3 * scale,
                before: vec![(2, a * scale), (3, b * scale)],
                after: vec![(2, c * scale), (3, d * scale)],
            };
            let said = judge(&input(2, 3, 1.0));
            prop_assert_eq!(judge(&input(3, 2, 1.0)).says, said.says);
            prop_assert_eq!(judge(&input(2, 3, 4.0)).says, said.says, "a pattern, not decimals");
        }
    }
}
