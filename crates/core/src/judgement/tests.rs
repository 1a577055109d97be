//! Judgement by written cases, and by what holds for every case.

use super::*;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::record::JobFile;
use crate::sample::job;
use crate::work::Symptom;

mod golden;
mod laws;

pub(super) fn weights() -> Weights {
    Weights::read(DEFAULT).unwrap()
}

pub(super) fn judge_with(file: &JobFile, tools: &[Tool]) -> Judgement {
    let (weights, rules) = (weights(), Rules::default());
    judge(
        file,
        &file.judged().unwrap(),
        House { weights: &weights, rules: &rules, tools, counted: Counted::default() },
    )
}

pub(crate) fn judge_file(file: &JobFile) -> Judgement {
    judge_with(file, &[])
}

#[test]
fn the_weights_that_ship_are_valid_and_every_finding_moves_something() {
    let weights = weights();
    for code in Code::ALL {
        let factors = Cause::ALL.iter().map(|cause| weights.factor(*code, *cause));
        let furthest = factors.map(|f| f.ln().abs()).fold(0.0, f64::max);
        assert!(furthest > 0.2, "{code:?} moves nothing");
    }
    for cause in Cause::ALL {
        let most = Code::ALL.iter().map(|code| weights.factor(*code, *cause)).fold(0.0, f64::max);
        assert!(most > 10.0, "nothing speaks for {cause:?}");
        let fuels = FuelSystem::ALL.iter().map(|fuel| weights.prior(*cause, *fuel).0);
        assert!(fuels.fold(0.0, f64::max) > 0.0, "{cause:?} never happens");
    }
}

#[test]
fn weights_that_contradict_themselves_are_refused_with_their_row() {
    let refused = |from: &str, to: &str| {
        assert!(DEFAULT.contains(from), "{from}");
        Weights::read(&DEFAULT.replacen(from, to, 1)).unwrap_err().to_string()
    };
    assert_eq!(
        refused("excess_return = 70, worn = 12", "excess_return = 99, worn = 12"),
        "return_test: what excess_return shows adds up to 127; 100 are the most."
    );
    assert_eq!(
        refused("code = \"return_low\"", "code = \"return_high\""),
        "return_test: return_high stands twice."
    );
    assert_eq!(
        refused("reason = \"Tight inside; the nozzle is another matter.\"", "reason = \" \""),
        "return_test: each finding needs a reason."
    );
    assert_eq!(
        refused("act = 80", "act = 15"),
        "bounds: percentages with leave below act are needed."
    );
    assert!(
        refused("usage:low", "usage:lowly")
            .starts_with("usage:lowly: nothing of that name; known are symptom:")
    );
    assert!(refused("id = \"worn\"", "id = \"wron\"").contains("unknown variant `wron`"));
    assert_eq!(
        refused("petrol_port = 20, ", ""),
        "restricted: a prior from 0 to 60 for each fuel system is needed."
    );
}

#[test]
fn a_check_whose_instrument_is_missing_or_overdue_comes_behind_and_says_so() {
    let job = job(FuelSystem::PetrolPort, &[Symptom::MisfireLoad]);
    let tool = |kind, overdue| Tool { kind, overdue };
    let all = [InstrumentKind::Meter, InstrumentKind::Gauge, InstrumentKind::Bench];
    let at_hand: Vec<Tool> = all.map(|kind| tool(kind, false)).to_vec();
    let free = judge_with(&job, &at_hand).next;
    assert_eq!(free[0].id, "supply", "with a meter at hand the supply comes first");
    assert_eq!(judge_with(&job, &[]).next, free, "an empty list says nothing");
    let no_meter = judge_with(&job, &at_hand[1..]).next;
    assert_eq!(no_meter[0].id, "cutout", "without one, what can be done without");
    let old = [tool(InstrumentKind::Meter, false), tool(InstrumentKind::Gauge, true)];
    let of = |next: &[NextCheck], id: &str| next.iter().find(|one| one.id == id).cloned();
    assert_eq!(of(&free, "pressure_drop").map(|one| one.why.contains("But:")), Some(false));
    let behind = judge_with(&job, &old).next;
    let told = of(&behind, "pressure_drop").is_none_or(|one| {
        one.why.ends_with("But: the calibration of every pressure gauge has run out.")
            && behind.last().map(|last| &last.id) == Some(&one.id)
    });
    assert!(told, "{behind:?}");
}
