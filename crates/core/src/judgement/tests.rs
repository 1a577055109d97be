//! Judgement by written cases, and by what holds for every case.

use super::*;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::record::JobFile;
use crate::said::Code;
use crate::sample::job;
use crate::tests::outcomes;
use crate::work::Symptom;

mod corners;
mod golden;
mod laws;

pub(super) fn weights() -> Weights {
    Weights::read("").unwrap()
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
fn the_weights_that_ship_are_valid_and_every_outcome_moves_something() {
    let weights = weights();
    for code in crate::tests::codes() {
        let factors = Cause::ALL.iter().map(|cause| weights.factor(code, *cause));
        let furthest = factors.map(|f| f.ln().abs()).fold(0.0, f64::max);
        assert!(furthest > 0.2, "{code:?} moves nothing");
    }
    for cause in Cause::ALL {
        let most =
            crate::tests::codes().map(|code| weights.factor(code, *cause)).fold(0.0, f64::max);
        assert!(most > 10.0, "nothing speaks for {cause:?}");
        let fuels = FuelSystem::ALL.iter().map(|fuel| weights.prior(*cause, *fuel).0);
        assert!(fuels.fold(0.0, f64::max) > 0.0, "{cause:?} never happens");
    }
    // Every state of every check is a distribution.
    for at in 0..weights.checks().len() {
        let (check, table) = weights.check(at);
        for state in 0..states::STATES {
            for shared in 0..states::SHARES {
                let sum: f64 = table.chances(state, shared).iter().sum();
                assert!((sum - 1.0).abs() < 1e-9, "{} {state} {shared}: {sum}", check.id);
            }
        }
    }
}

#[test]
fn weights_that_contradict_themselves_are_refused_with_row_and_column() {
    let refused = |own: &str| Weights::read(own).unwrap_err().to_string();
    let row = |check: &str, row: &str| format!("[[check]]\nid = \"{check}\"\n[check.rows]\n{row}");
    assert_eq!(
        refused(&row("return_test", "worn = { of = [99, 12, 74, 4], why = \"braver\" }")),
        "return_test, row worn: adds up to 189; 100 needed."
    );
    assert_eq!(
        refused(&row("return_test", "worn = { of = [26, 0, 70, 4], why = \"braver\" }")),
        "return_test, row worn: column return_raised: 0; 0.01 to 99.99 needed, as no reading is complete proof."
    );
    assert_eq!(
        refused(&row("return_test", "worn = { of = [30, 70], why = \"braver\" }")),
        "return_test, row worn: 2 chances for 4 outcomes (return_high, return_raised, return_alike, return_low)."
    );
    assert_eq!(
        refused(&row("return_test", "wron = { of = [10, 12, 74, 4], why = \"braver\" }")),
        "return_test, row wron: neither sound nor a cause."
    );
    assert_eq!(
        refused(&row("fuel_sample", "worn = { of = [10, 20, 70], why = \"braver\" }")),
        "fuel_sample, row worn: neither sound nor a shared cause."
    );
    assert_eq!(
        refused(&row("return_test", "worn = { of = [10, 12, 74, 4], why = \" \" }")),
        "return_test, row worn: a reason needed."
    );
    assert_eq!(refused("[bounds]\nact = 15"), "bounds: percentages with leave below act needed.");
    assert_eq!(
        refused("[[cause]]\nid = \"restricted\"\nprior = { petrol_port = 70 }"),
        "restricted: a prior from 0 to 60 needed for each fuel system."
    );
    let story = "[[story]]\nwhen = \"usage:lowly\"\ntimes = { worn = 2 }\nreason = \"x\"";
    assert!(refused(story).starts_with("usage:lowly: unknown name; known are symptom:"));
    let cause = "[[cause]]\nid = \"wron\"\nword = \"x\"\nreason = \"x\"\nprior = {}";
    assert!(refused(cause).contains("unknown variant `wron`"), "{}", refused(cause));
}

#[test]
fn rows_of_the_house_lie_over_the_shipped_ones_and_the_others_follow_them() {
    let own = "[bounds]\nleave = 4\n\n[[cause]]\nid = \"worn\"\nprior = { diesel_solenoid = 20 }\n\n\
        [[check]]\nid = \"return_test\"\n[check.rows]\nworn = { of = [40, 12, 44, 4], why = \"seen here\" }";
    let (house, shipped) = (Weights::read(own).unwrap(), weights());
    assert_eq!((house.leave(), house.act()), (0.04, shipped.act()));
    let prior = |weights: &Weights, fuel| weights.prior(Cause::Worn, fuel).0;
    assert_eq!(prior(&house, FuelSystem::DieselSolenoid), 0.2);
    assert_eq!(
        prior(&house, FuelSystem::DieselPiezo),
        prior(&shipped, FuelSystem::DieselPiezo),
        "a fuel system that the house did not name follows"
    );
    // The house says 40 of 100 where 3.9 had shipped, and what a sound one shows goes on as shipped.
    let times = |weights: &Weights| weights.factor(outcomes::RETURN_HIGH, Cause::Worn);
    assert!((times(&house) / times(&shipped) - 40.0 / 3.9).abs() < 1e-9);
    for code in crate::tests::codes()
        .filter(|code| shipped.check_of(*code).is_none_or(|c| c.id != "return_test"))
    {
        for cause in Cause::ALL {
            assert_eq!(house.factor(code, *cause), shipped.factor(code, *cause), "{code:?}");
        }
    }
    // A file from before the tables: its rows of checks are past, its bounds and priors hold.
    let old = "[bounds]\nleave = 4\n[[cause]]\nid = \"worn\"\nwith = \"injector\"\nword = \"worn\"\n\
        [[check]]\nid = \"return_test\"\nfinds = []";
    assert_eq!(Weights::read(old).unwrap().leave(), 0.04);
    assert_eq!(Weights::read("").unwrap(), shipped);
}

#[test]
fn a_check_whose_instrument_is_missing_or_overdue_comes_behind_and_says_so() {
    let job = job(FuelSystem::PetrolPort, &[Symptom::MisfireLoad]);
    let tool = |kind, overdue| Tool { kind, overdue };
    let all = [InstrumentKind::Meter, InstrumentKind::Gauge, InstrumentKind::Bench];
    let at_hand: Vec<Tool> = all.map(|kind| tool(kind, false)).to_vec();
    let free = judge_with(&job, &at_hand).next;
    assert_eq!(judge_with(&job, &[]).next, free, "an empty list says nothing");
    let place = |next: &[NextCheck], id: &str| next.iter().position(|one| one.id == id);
    let first = place(&free, "pressure_drop").expect("the balance settles much");
    assert!(!free[first].why.contains("But:"));
    let no_gauge = [tool(InstrumentKind::Meter, false), tool(InstrumentKind::Bench, false)];
    let behind = judge_with(&job, &no_gauge).next;
    assert!(place(&behind, "pressure_drop").is_none_or(|at| at > first), "{behind:?}");
    let old = [tool(InstrumentKind::Meter, false), tool(InstrumentKind::Gauge, true)];
    let behind = judge_with(&job, &old).next;
    let told = behind.iter().find(|one| one.id == "pressure_drop").is_none_or(|one| {
        one.why.ends_with("But: the calibration of every pressure gauge has run out.")
    });
    assert!(told && place(&behind, "pressure_drop").is_none_or(|at| at > first), "{behind:?}");
}
