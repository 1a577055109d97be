//! What holds for every session, whatever was read.

use super::*;
use crate::calc::code_check::{CodeCheckInput, code_check};
use proptest::prelude::*;

const FLOW: BenchTest = BenchTest::Flow;
const AT_REFERENCE: &[(&str, f64)] = &[("pressure", 300.0), ("fluid", 1.0)];

fn port(name: &str) -> FamilyThen {
    family(name, FamilyKind::PetrolPortHigh, Vec::new())
}

/// A set of one family, its tubes in the regimes idle, mid and fully open.
fn flowed(volumes: &[[f64; 3]], scale: f64) -> SessionRecord {
    let mut s = session(BenchKind::Petrol, &[port("F")], &vec!["F"; volumes.len()]);
    s.setup.graduation *= scale;
    s.setup.capacity_ml *= scale;
    s = s.set(FLOW, AT_REFERENCE);
    for (row, i) in [(1, 0), (2, 1), (6, 2)] {
        let tubes: Vec<f64> = volumes.iter().map(|v| v[i] * scale).collect();
        s = s.tubes(FLOW, Some(row), "volume", &tubes);
    }
    s
}

fn volumes() -> impl Strategy<Value = Vec<[f64; 3]>> {
    let one = (10.0..30.0_f64, 20.0..50.0_f64, 40.0..80.0_f64).prop_map(|(a, b, c)| [a, b, c]);
    prop::collection::vec(one, 2..9)
}

/// Marks of every row and every injector.
fn drawn(verdict: &Verdict) -> Vec<(u32, u32, Mark)> {
    let rows = verdict.rows.iter();
    let cells = rows.flat_map(|row| row.lanes.iter().map(move |l| (row.row, l.place, l.mark)));
    cells.chain(verdict.lanes.iter().map(|lane| (0, lane.place, lane.mark))).collect()
}

proptest! {
    #[test]
    fn larger_tubes_and_larger_injectors_change_no_mark(read in volumes(), scale in 0.2..5.0_f64) {
        let (plain, scaled) = (flowed(&read, 1.0).verdict(FLOW), flowed(&read, scale).verdict(FLOW));
        prop_assert_eq!(drawn(&plain), drawn(&scaled));
    }

    #[test]
    fn the_order_in_which_tubes_are_typed_does_not_matter(read in volumes(), seed in any::<u64>()) {
        let s = flowed(&read, 1.0);
        let mut shuffled = s.clone();
        // A small shuffle that the seed decides; what was typed is the same.
        shuffled.cells.sort_by_key(|c| {
            let place = u64::from(c.row.unwrap_or(0)) * 31 + u64::from(c.tag.unwrap_or(0));
            (place + 1).wrapping_mul(seed | 1)
        });
        prop_assert_eq!(s.judged(&[]), shuffled.judged(&[]));
    }

    #[test]
    fn another_family_on_the_rail_moves_nobody(read in volumes(), stranger in 10.0..80.0_f64) {
        let alone = flowed(&read, 1.0);
        let n = read.len() as u32;
        let mut beside = alone.clone();
        let guest = Tagged { tag: n + 1, family: Some("G".to_owned()), ..beside.injectors[0].clone() };
        beside.injectors.push(guest);
        let spot = Spot { cell: "volume", row: Some(6), tag: Some(n + 1) };
        let beside = beside.put(5, FLOW, spot, stranger, "");
        let ours = |v: Verdict| -> Vec<Mark> { v.lanes.into_iter().take(n as usize).map(|l| l.mark).collect() };
        prop_assert_eq!(ours(alone.verdict(FLOW)), ours(beside.verdict(FLOW)));
    }

    #[test]
    fn a_tube_in_question_weighs_no_more_than_one_that_was_not_read(
        read in volumes().prop_filter("three agree", |v| v.len() >= 4),
    ) {
        // The last tube of the open regime holds more than it can: it is left out of the comparison.
        let n = read.len();
        let mut with = flowed(&read, 1.0);
        let last = with.cells.iter().rposition(|c| c.row == Some(6)).unwrap();
        let mut without = with.clone();
        with.cells[last].value = Some(1e4);
        without.cells.remove(last);
        let others = |v: &Verdict| -> Vec<_> {
            drawn(v).into_iter().filter(|(row, tag, _)| *row == 6 && *tag < n as u32).collect()
        };
        let (with, without) = (with.verdict(FLOW), without.verdict(FLOW));
        prop_assert_eq!(others(&with), others(&without));
        prop_assert!(with.flags.iter().any(|f| f.contains("more than the 100 ml that a tube holds")));
    }

    #[test]
    fn the_conditions_of_both_rounds_together_change_no_conclusion(
        first in prop::array::uniform4(40.0..70.0_f64),
        then in prop::array::uniform4(40.0..70.0_f64),
        kpa in 150.0..600.0_f64,
    ) {
        let words_at = |kpa: f64| {
            let mut s = session(BenchKind::Petrol, &[port("F")], &["F"; 4]);
            for (i, tubes) in [first, then].iter().enumerate() {
                if i > 0 {
                    s = s.then(RoundStage::Cleaned);
                }
                s = s.set(FLOW, &[("pressure", kpa), ("fluid", 0.0)]).tubes(FLOW, Some(6), "volume", tubes);
            }
            s.verdict(BenchTest::Cleaning).lanes.into_iter().map(|l| l.word).collect::<Vec<_>>()
        };
        prop_assert_eq!(words_at(300.0), words_at(kpa));
    }

    #[test]
    fn a_shim_that_is_proposed_is_on_hand_and_none_on_hand_comes_nearer(
        lift in 20.0..120.0_f64,
        fitted in 900.0..1100.0_f64,
        sizes in prop::collection::vec(900.0..1100.0_f64, 1..12),
    ) {
        let limit = limit(LimitCheck::Lift, "", [Some(48.0), Some(56.0)]);
        let s = session(BenchKind::Diesel, &[family("F", FamilyKind::DieselSolenoid, vec![limit])], &["F"])
            .tubes(BenchTest::Lift, None, "shim", &[fitted])
            .tubes(BenchTest::Lift, None, "lift", &[lift]);
        let stock: Vec<Shim> = sizes.iter().map(|size_um| Shim { size_um: *size_um, count: 1 }).collect();
        let lane = s.verdict_with(BenchTest::Lift, &stock).lanes.remove(0);
        let off = |size: f64| (lift + 0.8 * (size - fitted) - 52.0).abs();
        if let Some(fit) = lane.fit_um {
            prop_assert!(sizes.contains(&fit));
            prop_assert!(sizes.iter().all(|size| off(*size) >= off(fit) - 1e-9));
            prop_assert!(off(fit) <= 4.0 + 1e-9, "and it reaches the window");
        } else if lane.word == lift::words::NOT_IN_STOCK {
            prop_assert!(sizes.iter().all(|size| off(*size) > 4.0), "{}", lane.sentence);
        } else if lane.word == lift::words::CLOSE_POSSIBLE {
            prop_assert!(off(fitted) <= 4.0 + 1e-9, "inside by value");
            prop_assert!(sizes.iter().all(|size| off(*size) >= off(fitted) - 1e-9), "{}", lane.sentence);
        }
    }

    #[test]
    fn every_code_that_is_made_fits_its_own_pattern(
        pilot in 1.2..2.4_f64, idle in 6.3..7.7_f64, full in 58.0..66.0_f64,
    ) {
        let window = |name: &str, low: f64, high: f64| limit(LimitCheck::Delivered, name, [Some(low), Some(high)]);
        let mut family = family("F", FamilyKind::DieselSolenoid, vec![
            window("pilot", 1.2, 2.4), window("idle", 6.3, 7.7), window("full", 55.8, 68.2),
        ]);
        let alphabet = "0123456789ABCDEFGHJKMNPQRSTVWXYZ".to_owned();
        let check = Some("iso7064_mod97_10".to_owned());
        family.detail.code = Some(CodePattern { length: 7, alphabet: alphabet.clone(), check: check.clone() });
        let mut s = session(BenchKind::Diesel, &[family], &["F"]);
        s.setup.entry = Entry::PerStroke;
        s.setup.points = ["pilot", "idle", "full"].map(|name| Point { name: name.to_owned(), ..Point::default() }).into();
        let mut s = s.then(RoundStage::Final);
        for (row, value) in (1..).zip([pilot, idle, full]) {
            s = s.tubes(BenchTest::Map, Some(row), "delivered", &[value]);
        }
        let code = s.verdict(BenchTest::TrimCode).lanes.remove(0).shown;
        let read = code_check(&CodeCheckInput { code, length: 7, alphabet, check }).unwrap();
        prop_assert!(read.ok, "{:?}", read.problems);
    }

    #[test]
    fn rows_of_a_file_give_the_same_readings_in_any_order(
        rows in prop::collection::vec((1..3_u32, 1..3_u32, 0.0..100.0_f64), 1..60),
    ) {
        let mut s = session(BenchKind::Diesel, &[], &["F", "F"]);
        s.setup.points = ["idle", "full"].map(|name| Point { name: name.to_owned(), ..Point::default() }).into();
        let columns = [("tag", Column::Tag), ("point", Column::Point), ("delivered", Column::Delivered)]
            .map(|(heading, column)| (heading.to_owned(), column));
        let read = |rows: &[(u32, u32, f64)]| {
            let mut importer = Importer::new(&s, &s.rounds[0], &columns).unwrap();
            for (tag, point, value) in rows {
                let fields = [tag.to_string(), point.to_string(), value.to_string()];
                importer.push(1, |column| fields.get(column).map(String::as_str));
            }
            importer.done().unwrap()
        };
        let (plain, mut turned) = (read(&rows), rows.clone());
        turned.reverse();
        for (one, other) in plain.iter().zip(read(&turned)) {
            prop_assert_eq!((one.row, one.tag, one.samples.count), (other.row, other.tag, other.samples.count));
            prop_assert!((one.value - other.value).abs() < 1e-9);
            prop_assert!((one.samples.scatter - other.samples.scatter).abs() < 1e-6);
        }
        prop_assert_eq!(plain.iter().map(|t| t.samples.count as usize).sum::<usize>(), rows.len());
    }

    #[test]
    fn a_session_written_and_read_back_is_the_same_and_has_no_problem(read in volumes()) {
        let s = flowed(&read, 1.0).then(RoundStage::Cleaned).then(RoundStage::Cleaned).then(RoundStage::Final);
        let text = serde_json::to_string(&s).unwrap();
        prop_assert_eq!(&serde_json::from_str::<SessionRecord>(&text).unwrap(), &s);
        prop_assert_eq!(s.problems("bench[0]"), []);
        prop_assert_eq!(s.rounds.iter().map(Round::word).collect::<Vec<_>>(), ["as received", "cleaned", "cleaned 2", "final"]);
    }
}
