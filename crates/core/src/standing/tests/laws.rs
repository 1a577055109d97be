//! What holds of the standing of readings whatever happens in which order.

use super::script::Script;
use crate::judgement::tests::judge_file;
use crate::mark::Mark;
use crate::plain::plain;
use crate::proving::{ItemState, PlaceProof, ProveId, proof};
use crate::sample::Draw;
use crate::standing::Standing;

/// Sequences that are tried; each has its seed.
const SEQUENCES: u64 = 2000;

/// A fact of any kind, sensible in the job as it is by then.
fn any(script: &Script, draw: &mut Draw) -> String {
    let cylinder = 1 + draw.below(4);
    let other = 1 + (cylinder + draw.below(3)) % 4;
    let level = |draw: &mut Draw| ["21", "22", "23", "60", "21.5"][draw.below(5)];
    let four = |draw: &mut Draw| (0..4).map(|_| level(draw)).collect::<Vec<_>>().join(" ");
    let file = &script.file;
    let read = file.return_tests.last().is_some_and(|test| test.counting().next().is_some());
    let swapped =
        file.happened().any(|one| matches!(one.event, crate::record::Event::Swapped { .. }));
    match draw.below(21) {
        0..=3 => format!("return {}", four(draw)),
        4 if read => format!("correct {cylinder} {}", level(draw)),
        5 if read => "exclude".to_owned(),
        6 if other != cylinder => format!("swap {cylinder} {other}"),
        7 if swapped => "undo-swap".to_owned(),
        8 => format!("replace {cylinder} N{}", draw.below(1000)),
        9 => "bench".to_owned(),
        10 if !file.bench.is_empty() => "round cleaned".to_owned(),
        11 | 12 if !file.bench.is_empty() => {
            let flows = ["50", "50.5", "41", "49.5"];
            let each: Vec<&str> = (0..4).map(|_| flows[draw.below(4)]).collect();
            format!("flow {}", each.join(" "))
        }
        13 if !file.bench.is_empty() => format!("skip {cylinder}"),
        14 => {
            format!("decide {cylinder} {}", draw.one(&["leave", "replace", "clean"]))
        }
        15 => format!("coil 0.40 0.41 {} 0.40", ["0.40", "9.0", "0.41"][draw.below(3)]),
        16 => format!("fit {cylinder}"),
        17 if read => format!("confirm {cylinder}"),
        18 => format!("figure smoke {}", level(draw)),
        19 => format!("from-elsewhere {cylinder} {other}"),
        _ => "prove".to_owned(),
    }
}

/// Strip mark, Decide, board, proof and report read one standing: whatever happened, none says of a place
/// what another one denies.
#[test]
fn no_two_views_contradict_each_other_whatever_happens_in_which_order() {
    for seed in 0..SEQUENCES {
        let mut draw = Draw(seed);
        let mut script = Script::default();
        let mut facts = Vec::new();
        for _ in 0..4 + draw.below(8) {
            let fact = any(&script, &mut draw);
            script.does(&fact);
            facts.push(fact);
        }
        let says = |what: &str| format!("{what} (seed {seed})\n{}", facts.join("\n"));
        let file = &script.file;
        let judged = file.judged().unwrap();
        let seats = file.seats(None);
        for one in judged.stood.iter().filter(|one| one.place.is_some()) {
            let here = seats.iter().any(|seat| one.is_of(seat));
            assert!(
                !one.here.counts() || here,
                "{}",
                says("what counts is of somebody who sits there")
            );
            assert!(
                one.here.counts() == one.since.is_none(),
                "{}",
                says("what ended has its moment")
            );
        }
        for place in &judged.now.places {
            let seat = seats.iter().find(|seat| seat.cylinder == place.cylinder).unwrap();
            let of = || judged.stood.iter().filter(|one| one.place.is_some() && one.is_of(seat));
            let bad = of().any(|one| one.here.counts() && one.is_bad());
            let counts = of().any(|one| one.here.counts() || one.here == Standing::InDoubt);
            let marked = matches!(place.mark, Mark::TooMuch | Mark::TooLittle);
            assert_eq!(marked, bad, "{}", says("a fault that counts is drawn, and no other"));
            assert!(
                counts || place.mark == Mark::NotMeasured,
                "{}",
                says("no mark without a reading")
            );
        }
        let judgement = judge_file(file);
        let marks = judgement.positions.iter().map(|at| (at.cylinder, at.mark));
        for (cylinder, mark) in marks {
            assert_eq!(
                mark,
                judged.now.mark(cylinder),
                "{}",
                says("Decide draws the strip's mark")
            );
        }
        let proof = proof(file, &judged, &[]);
        let item = proof.items.iter().find(|item| item.id == ProveId::FailedTest).unwrap();
        let lanes = || proof.repeats.iter().flat_map(|repeat| &repeat.lanes);
        if item.state == ItemState::Good {
            let open = |lane: &PlaceProof| *lane != PlaceProof::Proven;
            let any = lanes().filter_map(|lane| lane.proof.as_ref()).any(open);
            assert!(!any, "{}", says("nothing is proven that was not repeated"));
            let measured = !judged.stood.is_empty() || !proof.figures.is_empty();
            assert!(measured, "{}", says("nothing measured is never proven"));
        }
        for lane in lanes().filter(|lane| lane.proof == Some(PlaceProof::Proven)) {
            let mark = judged.now.mark(lane.cylinder);
            let other = judged.stood.iter().any(|one| {
                one.cylinder == Some(lane.cylinder) && one.here.counts() && one.is_bad()
            });
            let fine =
                mark == Mark::Inside || other || mark == Mark::Look || mark == Mark::Undecided;
            assert!(fine, "{}", says("what is proven is not drawn as a fault of its own"));
        }
        let customer = plain(file, &judged, &crate::fitting::fitting(file, &[]), &proof);
        for line in customer.done.iter().filter(|line| line.contains("no fault found")) {
            let cylinders = judged.now.places.iter().filter(|place| {
                line.contains(&format!(" {}", place.cylinder)) && place.mark == Mark::NotMeasured
            });
            assert_eq!(
                cylinders.count(),
                0,
                "{}: {line}",
                says("no fault found of one that was measured")
            );
        }
    }
}
