//! No text on a screen decides anything.

use super::bench::{dosers, lifts};
use super::*;

/// Every text of every verdict, replaced.
fn renamed(mut judged: Judged) -> Judged {
    let word = || "zz".to_owned();
    for verdict in &mut judged.verdicts {
        (verdict.headline, verdict.advice, verdict.limit_note) = (word(), vec![word()], word());
        for lane in &mut verdict.lanes {
            (lane.word, lane.sentence, lane.shown) = (word(), word(), word());
            lane.would_change = vec![word()];
        }
    }
    for verdict in judged.sheets.iter_mut().flatten() {
        (verdict.headline, verdict.unit, verdict.also, verdict.window_word) =
            (word(), word(), word(), word());
        verdict.advice = vec![word()];
        for lane in &mut verdict.lanes {
            (lane.word, lane.sentence, lane.shown, lane.also) = (word(), word(), word(), word());
            lane.would_change = vec![word()];
        }
    }
    for held in judged.benches.iter_mut().flat_map(|bench| &mut bench.verdicts) {
        let Some(verdict) = &mut held.verdict else { continue };
        verdict.headline = word();
        for row in &mut verdict.rows {
            (row.name, row.says, row.unit, row.grade) = (word(), word(), word(), word());
        }
        for lane in &mut verdict.lanes {
            (lane.word, lane.sentence, lane.shown) = (word(), word(), word());
            lane.would_change = vec![word()];
        }
    }
    for swap in &mut judged.swaps {
        (swap.test, swap.headline, swap.next) = (word(), word(), word());
    }
    judged
}

#[test]
fn no_decision_changes_when_every_display_word_does() {
    let mut swapped = returned(ROUGH, return_test(82.0, &[&[22.0, 60.0, 24.0, 23.0]]));
    swapped.return_tests.push(later(thrice(80.0, [23.0, 24.0, 57.0, 22.0]), 40));
    swapped.events = vec![event(20, Event::Swapped { one: 2, other: 3 })];
    let set: &[(&str, f64)] = &[("temperature", 20.0), ("leads", 0.1)];
    let electric = with(
        job(PetrolPort, ROUGH),
        vec![
            sheet(
                EngineTest::Supply,
                2,
                &[("battery", 12.6), ("load", 1.0)],
                &[("volts", &[12.4, 0.1, 10.9, 12.4])],
            ),
            sheet(
                EngineTest::Indicator,
                3,
                &[],
                &[("lamp", &[1.0, 1.0, 1.0, 0.0]), ("rod", &[1.0, 0.0, 1.0, 0.0])],
            ),
            coils(&[14.4, 250_000.0, 14.3, 14.4], set, Some([13.0, 16.0])),
            cut(9, 2),
            sheet(
                EngineTest::Compression,
                11,
                &[("method", 1.0)],
                &[("pressure", &[98.0, 97.0, 71.0, 99.0])],
            ),
        ],
    );
    let files = [
        swapped,
        electric,
        benched(
            PetrolPort,
            ROUGH,
            flowed(&[[60.0, 59.0, 45.0, 60.0], [60.0, 59.0, 50.0, 60.0], [60.0, 59.0, 50.2, 60.0]]),
        ),
        dosers(&[&[78.0, 79.0, 77.0], &[80.0, 81.0, 79.5]], &[("pressure", 600.0)]),
        lifts(&[([900.0; 4], [50.0, 62.0, 50.5, 41.0])]),
    ];
    let weights = weights();
    let rules = Rules::default();
    let house = House { weights: &weights, rules: &rules, tools: &[], counted: Counted::default() };
    for file in &files {
        let told = judge(file, &file.judged().unwrap(), house);
        let blind = judge(file, &renamed(file.judged().unwrap()), house);
        for (one, other) in told.positions.iter().zip(&blind.positions) {
            let of = |at: &Position| (at.ruling.decision, at.ruling.why, at.ruling.asks.clone());
            assert_eq!(of(one), of(other));
            let chances =
                |at: &Position| at.ranked.iter().map(|r| (r.cause, r.p)).collect::<Vec<_>>();
            assert_eq!(chances(one), chances(other));
        }
        assert_eq!(told.step.check, blind.step.check);
    }
}

#[test]
fn the_source_compares_no_display_text() {
    // What a rule may not read: the text fields of lanes, rows and verdicts.
    let fields = [
        ".word ==",
        ".word !=",
        ".word.as_str()",
        ".word.starts_with",
        ".word.contains",
        ".word.ends_with",
        ".sentence ==",
        ".headline ==",
        ".unit ==",
    ];
    let mut found = Vec::new();
    let mut folders = vec![std::path::PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("src")];
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(folder).unwrap().flatten() {
            let path = entry.path();
            let name = path.to_string_lossy().into_owned();
            if path.is_dir() {
                folders.push(path);
            } else if name.ends_with(".rs") && !name.contains("test") && !name.contains("/typed") {
                for (i, line) in std::fs::read_to_string(&path).unwrap().lines().enumerate() {
                    if line.contains("#[cfg(test)]") {
                        break;
                    }
                    if fields.iter().any(|field| line.contains(field)) {
                        found.push(format!("{name}:{} {}", i + 1, line.trim()));
                    }
                }
            }
        }
    }
    assert!(found.is_empty(), "{found:#?}");
}
