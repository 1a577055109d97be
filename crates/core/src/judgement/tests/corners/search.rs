//! The search: it does not stop at a sum of causes, asks nothing a third time, and a fault that all share
//! hides nothing of a place.

use super::*;

fn at(judgement: &Judgement, cylinder: u32) -> &Position {
    judgement.positions.iter().find(|at| at.cylinder == cylinder).unwrap()
}

#[test]
fn a_spark_is_no_fact_without_a_spark_test() {
    let weak = with(job(PetrolPort, ROUGH), vec![cut(1, 3)]);
    let told = judge_file(&weak);
    let ruling = &at(&told, 3).ruling;
    assert_ne!(ruling.why, Why::Ignition, "{}", ruling.sentence);
    assert_ne!(told.step.title, "Decide", "the search goes on: {}", told.headline);
    let mut shown = weak.clone();
    shown.sheets.push(sheet(EngineTest::Spark, 6, &[], &[("moved", &[0.0, 0.0, 1.0])]));
    assert_eq!(at(&judge_file(&shown), 3).ruling.why, Why::Ignition);
}

#[test]
fn a_fault_that_all_share_hides_no_finding_of_a_place() {
    let water = |cylinder: usize, high: f64| {
        let mut levels = [22.0, 23.0, 24.0, 23.0];
        levels[cylinder - 1] = high;
        let mut file = returned(ROUGH, thrice(82.0, levels));
        let cells = [("suffers", 2.0), ("look", 3.0), ("smell", 0.0), ("water", 2.0)];
        file.sheets.push(sheet(EngineTest::FuelSample, 30, &cells, &[]));
        judge_file(&file)
    };
    for cylinder in 1..=4 {
        for high in [60.0, 75.0, 95.0] {
            let told = water(cylinder, high);
            assert!(told.positions.iter().all(|one| one.ruling.why == Why::SharedFault));
            for one in &told.positions {
                let said = one.ruling.beside.iter().any(|says| says.contains("Check again after"));
                assert_eq!(said, one.cylinder == cylinder as u32, "{high} at {cylinder}");
            }
        }
    }
}

#[test]
fn nothing_is_asked_a_third_time_of_the_same_facts() {
    // Near its limit after all runs that money asks for: the same hand carries the same error, however often.
    let again = |times: i64| {
        let mut file = job(DieselSolenoid, ROUGH);
        for nth in 0..times {
            let test = limited(thrice(82.0, [22.0, 24.2, 22.5, 22.0]), 12.0);
            file.return_tests.push(later(test, 10 * (nth + 1)));
        }
        judge_file(&file)
    };
    let once = at(&again(1), 2).ruling.clone();
    assert_eq!(
        (once.why, once.asks.as_deref()),
        (Why::Doubtful, Some("coded")),
        "{}",
        once.sentence
    );
    for times in 1..5 {
        let told = again(times);
        let asked = told.positions.iter().filter_map(|one| one.ruling.asks.as_deref());
        assert!(!asked.clone().any(|check| check == "return_test"), "{times}: {}", told.headline);
        assert!(told.next.iter().all(|check| check.id != "return_test"), "{times}");
        assert_ne!(told.step.check.as_deref(), Some("return_test"), "{times}");
    }
}

#[test]
fn what_all_share_is_acted_on_only_with_a_reading_that_points_to_it() {
    let told = judge_file(&job(DieselSolenoid, &[Symptom::NoStart]));
    assert!(told.positions.iter().all(|one| one.ruling.why != Why::SharedFault));
}

#[test]
fn a_named_cylinder_that_would_be_left_is_not_explained_by_another() {
    let found = returned(ROUGH, limited(thrice(82.0, [22.0, 60.0, 24.0, 23.0]), 24.0));
    let mut named = found.clone();
    named.job.intake.story.cylinders = vec![4];
    let four = at(&judge_file(&named), 4).ruling.clone();
    assert_eq!((four.decision, four.why), (MeasureAgain, Why::NotEnough), "{}", four.sentence);
    assert!(four.asks.is_some(), "the check that could show what the complaint suggests");
    assert_ne!(judge_file(&named).step.title, "Decide", "cylinder 4 was named");
    named.job.intake.story.cylinders = vec![2];
    assert_eq!(
        judge_file(&named).step.title,
        judge_file(&found).step.title,
        "it is what was found"
    );
}
