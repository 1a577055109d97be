//! Judgement by written cases, and by what holds for every case.

use super::*;
use crate::engine::FuelSystem;
use crate::record::JobFile;

mod golden;
mod laws;

pub(super) fn weights() -> Weights {
    Weights::read(DEFAULT).unwrap()
}

pub(super) fn judge_file(file: &JobFile) -> Judgement {
    judge(file, &file.judged().unwrap(), &weights(), &Rules::default())
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
