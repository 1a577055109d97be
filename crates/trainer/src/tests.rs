//! The expert gets full marks in every case; who stumbles loses exactly the points of the stumble.

use crate::best::{decides, decisions, expert, goes, steps};
use crate::case::{Case, case, written};
use crate::marks::result;
use crate::mistakes::Mistake;
use crate::{CameOut, Learner, Step, Stumble};
use cobaltine_core::exercise::{CaseRef, ExerciseAct, Level, Skill};
use cobaltine_core::record::JobFile;
use cobaltine_core::rules::Rules;
use cobaltine_core::start::StartId;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::Decision;

fn named(name: &str) -> Case {
    case(&CaseRef::Written { name: name.to_owned() }).unwrap()
}

/// Ends it, and gives the marks in the order of the skills.
fn ended(case: &Case, mut one: Learner<'_>) -> ([u32; 5], Vec<Mistake>) {
    let rules = Rules::default();
    let marks = result(case, &one.file, &rules).unwrap().marks;
    one.acts(ExerciseAct::Ended { marks }).unwrap();
    let told = result(case, &one.file, &rules).unwrap();
    let mark = |skill: Skill| told.marks.iter().find(|one| one.skill == skill).unwrap().mark;
    let mistakes = told.mistakes.iter().map(|one| one.mistake).collect();
    let marks = [Skill::Finding, Skill::Evidence, Skill::Measuring, Skill::Safety, Skill::Economy];
    (marks.map(mark), mistakes)
}

#[test]
fn the_expert_gets_full_marks_in_all_ten_written_cases() {
    let all = written().unwrap();
    assert_eq!(all.len(), 10);
    for case in &all {
        let (marks, mistakes) = ended(case, expert(case).unwrap().0);
        assert_eq!((marks, mistakes), ([100; 5], vec![]), "{}: {:?}", case.title, decisions(case));
        assert!(case.teaches.len() > 30 && !case.complaint.is_empty(), "{}", case.title);
    }
}

/// One stumble on the best way of a case.
enum Clumsy {
    Over(Stumble),
    /// A step is left out.
    LeavesOut(Step),
    /// Another decision for a cylinder.
    Decides(u32, Decision),
    /// A step comes before the best way.
    First(Step),
}

fn clumsily(case: &Case, how: Clumsy) -> ([u32; 5], Vec<Mistake>) {
    let mut one = Learner::takes_up(case).unwrap();
    let (mut way, mut decided) = (steps(case), decisions(case));
    match how {
        Clumsy::Over(stumble) => one.stumbles.push(stumble),
        Clumsy::LeavesOut(step) => way.retain(|held| *held != step),
        Clumsy::Decides(cylinder, decision) => decided[cylinder as usize - 1].1 = decision,
        Clumsy::First(step) => way.insert(0, step),
    }
    for step in way {
        goes(&mut one, step).unwrap();
    }
    decides(&mut one, &decided).unwrap();
    ended(case, one)
}

#[test]
fn a_clumsy_learner_loses_exactly_the_points_of_the_mistakes() {
    let lamp = Step::Check(EngineTest::Indicator);
    let balance = Step::Check(EngineTest::PressureDrop);
    let without = |start| Clumsy::Over(Stumble::Without(start));
    // Points off finding, evidence, measuring and safety; economy has a rule of its own.
    let all: Vec<(&str, Clumsy, [u32; 4], Vec<Mistake>)> = vec![
        (
            "first_return_test",
            without(StartId::HosesPurged),
            [0, 0, 30, 0],
            vec![Mistake::Unpurged],
        ),
        (
            "first_return_test",
            without(StartId::ExtractionOn),
            [0, 0, 0, 25],
            vec![Mistake::NotReady],
        ),
        ("first_return_test", Clumsy::LeavesOut(Step::WarmUp), [0, 0, 40, 0], vec![Mistake::Cold]),
        ("first_return_test", Clumsy::Decides(3, Decision::Leave), [100, 0, 0, 0], vec![]),
        (
            "first_return_test",
            Clumsy::Decides(1, Decision::Replace),
            [25, 40, 0, 0],
            vec![Mistake::NoOwnEvidence],
        ),
        ("needs_a_bath", Clumsy::Over(Stumble::NoBracket), [0, 0, 20, 0], vec![Mistake::NoBracket]),
        ("needs_a_bath", Clumsy::Decides(2, Decision::Replace), [50, 0, 0, 0], vec![]),
        ("needs_a_bath", Clumsy::Decides(4, Decision::MeasureAgain), [5, 0, 0, 0], vec![]),
        (
            "dead_cylinder",
            Clumsy::LeavesOut(Step::Check(EngineTest::CoilResistance)),
            [0, 40, 0, 0],
            vec![Mistake::NoOwnEvidence],
        ),
        // A drop from another pressure is no evidence either.
        (
            "needs_a_bath",
            Clumsy::Over(Stumble::AsPrimed),
            [0, 40, 30, 0],
            vec![Mistake::UnequalStart, Mistake::NoOwnEvidence],
        ),
        ("nothing_there", Clumsy::Decides(2, Decision::RepairHarness), [10, 0, 0, 0], vec![]),
        ("nothing_there", Clumsy::First(lamp), [0, 100, 0, 0], vec![Mistake::LampAsProof; 4]),
        // The newer one counts, and it was done properly.
        ("nothing_there", Clumsy::First(balance), [0, 0, 0, 0], vec![]),
        ("all_alike", Clumsy::First(Step::Returns), [0, 0, 40, 0], vec![Mistake::Cold]),
        (
            "after_the_repair",
            Clumsy::Over(Stumble::NoReadBack),
            [0, 40, 0, 0],
            vec![Mistake::NotReadBack],
        ),
    ];
    for (at, (name, how, lost, mistakes)) in all.into_iter().enumerate() {
        let case = named(name);
        let (marks, noticed) = clumsily(&case, how);
        let wanted: Vec<u32> = lost.iter().map(|points| 100 - points).collect();
        assert_eq!((&marks[..4], noticed), (&wanted[..], mistakes), "{at}: {name}");
    }
}

#[test]
fn running_an_engine_on_the_wrong_fuel_is_noticed_as_it_is_begun() {
    let case = named("all_alike");
    let mut one = Learner::takes_up(&case).unwrap();
    one.checks(EngineTest::FuelSample).unwrap();
    one.acts(ExerciseAct::WarmedUp).unwrap();
    one.returns(1).unwrap();
    let (marks, mistakes) = ended(&case, one);
    assert_eq!(mistakes, [Mistake::UnsafeOrder]);
    // Nothing was put right and nothing decided: the shared cause is missed, four are left open.
    assert_eq!(marks[..4], [0, 100, 100, 50]);
}

#[test]
fn parts_thrown_at_a_fault_cost_the_marks_of_economy() {
    let case = named("dead_cylinder");
    let mut one = expert(&case).unwrap().0;
    for cylinder in 2..=4 {
        one.decides(cylinder, Decision::Replace).unwrap();
    }
    let (marks, _) = ended(&case, one);
    assert!(marks[4] == 0 && marks[0] == 25, "{marks:?}");
}

#[test]
fn what_a_case_says_is_true_of_its_engine_whatever_was_drawn() {
    let drawn = (0..25).flat_map(|seed| {
        Level::ALL.iter().map(move |level| CaseRef::Drawn { seed: seed * 7919 + 3, level: *level })
    });
    for reference in drawn {
        let case = case(&reference).unwrap();
        assert_eq!(case, crate::case::case(&reference).unwrap());
        let (marks, mistakes) = ended(&case, expert(&case).unwrap().0);
        let told = result(&case, &expert(&case).unwrap().0.file, &Rules::default()).unwrap();
        assert_eq!((marks, mistakes), ([100; 5], vec![]), "{reference:?} {:?}", case.job.faults);
        let faulty = told.cylinders.iter().filter(|one| one.outcome == CameOut::Found).count();
        assert_eq!(faulty + told.shared.len(), case.job.faults.len(), "{reference:?}");
    }
}

#[test]
fn exercises_of_the_demo_are_marked_as_they_would_be_today() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let mut seen = 0;
    for name in ["first-return-test", "needs-a-bath", "two-of-four"] {
        let text = std::fs::read_to_string(folder.join(format!("job-exercise-{name}.json")));
        let file: JobFile = serde_json::from_str(&text.unwrap()).unwrap();
        let case = case(&file.job.exercise.clone().unwrap().case).unwrap();
        let Some(marks) = file.marks() else { continue };
        assert_eq!(result(&case, &file, &Rules::default()).unwrap().marks, marks, "{name}");
        seen += 1;
    }
    assert_eq!(seen, 2);
}

/// Whoever is taught by the program is not marked by what the program thinks.
#[test]
fn nothing_of_the_judgement_is_known_here() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
    let all: Vec<_> = std::fs::read_dir(folder).unwrap().map(|one| one.unwrap().path()).collect();
    assert!(all.len() > 10, "the folder was read");
    for path in all {
        let text = std::fs::read_to_string(&path).unwrap();
        let known = ["core::", "judgement"].concat();
        assert!(!text.contains(&known), "{} knows {known}", path.display());
    }
}
