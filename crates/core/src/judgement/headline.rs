//! The set in a sentence: what was decided, and what is proposed where nothing is.

use super::Position;
use super::rulings::verb;
use crate::judged::Judged;
use crate::judgement::words;
use crate::record::JobFile;
use crate::words::list;
use crate::work::Decision;

/// What was decided, and what is proposed where nothing is.
pub(super) fn by_now(file: &JobFile, judged: &Judged, positions: &[Position]) -> String {
    let held = judged.decided(file);
    let decision = |at: &Position| held.iter().find(|one| one.cylinder == at.cylinder);
    let decided: Vec<(u32, Decision)> =
        positions.iter().filter_map(|at| Some((at.cylinder, decision(at)?.decision))).collect();
    let open: Vec<(u32, Decision)> = positions
        .iter()
        .filter(|at| decision(at).is_none())
        .map(|at| (at.cylinder, at.ruling.decision))
        .collect();
    match (decided.is_empty(), open.is_empty()) {
        (true, _) => headline(&open, true),
        (false, true) => words::decided(&headline(&decided, true)),
        (false, false) => {
            words::decided_and_open(&headline(&decided, false), &headline(&open, false))
        }
    }
}

/// The set, or some of it, in a sentence: what needs work first.
fn headline(positions: &[(u32, Decision)], whole: bool) -> String {
    const ORDER: [Decision; 9] = [
        Decision::Replace,
        Decision::Adjust,
        Decision::Clean,
        Decision::RepairHarness,
        Decision::Recode,
        Decision::Match,
        Decision::LookElsewhere,
        Decision::MeasureAgain,
        Decision::Leave,
    ];
    let parts: Vec<String> = ORDER
        .into_iter()
        .filter_map(|decision| {
            let deciding = positions.iter().filter(|(_, held)| *held == decision);
            let mut of: Vec<u32> = deciding.map(|(cylinder, _)| *cylinder).collect();
            of.sort_unstable();
            if of.is_empty() {
                return None;
            }
            let all = whole && of.len() == positions.len() && of.len() > 1;
            let which = if all { format!("all {}", of.len()) } else { list(&of) };
            Some(format!("{} {which}", verb(decision)))
        })
        .collect();
    let mut says = parts.join("; ");
    if let Some(first) = says.get_mut(0..1) {
        first.make_ascii_uppercase();
    }
    format!("{says}.")
}
