//! Laws of the checks that are read cell by cell, and of what is typed into a library.

use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::library::{COLUMNS, LimitCheck, LimitRow};
use cobaltine_core::mark::Mark;
use cobaltine_core::tests::engine::{EngineTest, Outcome, Sheet};
use proptest::prelude::*;

fn marks(id: EngineTest, sheet: &Sheet) -> Vec<Mark> {
    id.judge(sheet).unwrap().lanes.iter().map(|lane| lane.mark).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]
    #[test]
    fn where_a_cylinder_sits_in_the_strip_and_when_it_was_read_changes_no_mark(
        factors in prop::collection::vec(0.3..1.9_f64, 3..9), turn in 0..9_usize,
    ) {
        for id in EngineTest::sheets() {
            let plain = id.example(&factors);
            let mut turned = plain.clone();
            let turn = turn % factors.len();
            turned.cylinders.rotate_left(turn);
            turned.each.reverse();
            let (mut before, after) = (marks(id, &plain), marks(id, &turned));
            before.rotate_left(turn);
            prop_assert_eq!(before, after, "{}", id.name());
        }
    }

    #[test]
    fn a_verdict_always_covers_every_cylinder_and_fits_its_scale(
        factors in prop::collection::vec(0.0..3.0_f64, 2..12),
    ) {
        for id in EngineTest::sheets() {
            let mut sheet = id.example(&factors);
            sheet.cylinders.push(99);
            let Ok(verdict) = id.judge(&sheet) else { continue };
            prop_assert_eq!(verdict.lanes.len(), sheet.cylinders.len());
            prop_assert_eq!(verdict.lanes.last().unwrap().mark, Mark::NotMeasured);
            prop_assert!(verdict.scale > 0.0 && verdict.scale.is_finite());
            for lane in &verdict.lanes {
                prop_assert!(lane.value.is_none_or(|v| v.is_finite() && v <= verdict.scale));
                prop_assert_eq!(lane.mark == Mark::NotMeasured, lane.because.is_empty(), "{}: {:?}", id.name(), lane);
            }
        }
    }

    #[test]
    fn a_set_of_equals_condemns_nobody(n in 2..12_usize, factor in 0.6..1.0_f64) {
        for id in EngineTest::sheets().filter(|id| *id != EngineTest::Supply) {
            let verdict = id.judge(&id.example(&vec![factor; n])).unwrap();
            prop_assert_eq!(verdict.outcome, Outcome::Clear, "{}: {}", id.name(), verdict.headline);
            let expected = if id.form(None).each.is_empty() { Mark::NotMeasured } else { Mark::Inside };
            for lane in verdict.lanes {
                prop_assert_eq!(lane.mark, expected, "{}", id.name());
            }
        }
    }

    #[test]
    fn a_limit_written_to_a_file_and_read_again_is_the_same(
        check in 0..LimitCheck::ALL.len(), lower in prop::option::of(0.0..1e6_f64), width in 0.0..1e6_f64,
        warm in prop::option::of((-20.0..60.0_f64, 0.0..80.0_f64)), condition in "[a-z ]{0,20}",
    ) {
        let text = |value: Option<f64>| value.map(|v| v.to_string()).unwrap_or_default();
        let row = LimitRow {
            family: "Any 1".to_owned(),
            check: LimitCheck::ALL[check].name().to_owned(),
            condition,
            lower: text(lower),
            upper: (lower.unwrap_or(0.0) + width).to_string(),
            from_c: text(warm.map(|w| w.0)),
            to_c: text(warm.map(|w| w.0 + w.1)),
            source: "sheet".to_owned(),
            ..LimitRow::default()
        };
        let first = row.read().unwrap().entry;
        let again = LimitRow::from(&first).read().unwrap().entry;
        prop_assert!(first.says_the_same(&again));
        prop_assert!(!first.window().contains("no limits"));
    }

    #[test]
    fn no_row_of_a_file_panics(cells in prop::collection::vec(".{0,16}", 11)) {
        let mut row = LimitRow::default();
        for (column, cell) in COLUMNS.iter().zip(&cells) {
            *row.cell(column).unwrap() = cell.clone();
        }
        if let Err(problems) = row.read() {
            prop_assert!(!problems.is_empty());
            prop_assert!(problems.iter().all(|p| COLUMNS.contains(&p.field.as_str()) && p.message.ends_with(['.', '!'])), "{:?}", problems);
        }
    }

    #[test]
    fn an_instrument_is_never_better_than_its_marks_nor_worse_for_a_smaller_reading(
        resolution in 1e-4..10.0_f64, pct in 0.0..5.0_f64, digits in 0.0..5.0_f64, value in 0.0..1e4_f64, less in 0.0..1.0_f64,
    ) {
        let meter = Instrument {
            id: uuid::Uuid::nil(), name: "M".to_owned(), kind: InstrumentKind::Meter, resolution,
            accuracy_pct: pct, accuracy_digits: digits, lead_ohm: None, capacity_ml: None,
            calibration_due: None, certificate: String::new(), revision: 1,
        };
        prop_assert!(meter.u(value) >= resolution / 12.0_f64.sqrt() * (1.0 - 1e-12));
        prop_assert!(meter.u(value * less) <= meter.u(value));
        let with_leads = Instrument { lead_ohm: Some(0.1), ..meter.clone() };
        prop_assert!(with_leads.u(value) >= meter.u(value), "two readings are not better than one");
        prop_assert!(meter.problems().is_empty());
    }
}

#[test]
fn calibration_runs_out_the_day_after_it_is_due() {
    let due = jiff::civil::date(2031, 6, 30);
    let meter = Instrument {
        id: uuid::Uuid::nil(),
        name: "M".to_owned(),
        kind: InstrumentKind::Gauge,
        resolution: 1.0,
        accuracy_pct: 0.0,
        accuracy_digits: 0.0,
        lead_ohm: None,
        capacity_ml: None,
        calibration_due: Some(due),
        certificate: String::new(),
        revision: 4,
    };
    assert_eq!(meter.overdue(due), None, "on the day itself it still holds");
    let used = meter.used(due.tomorrow().unwrap());
    assert_eq!((used.overdue_since, used.revision), (Some(due), 4));
    let bottles = Instrument { kind: InstrumentKind::Bottles, ..meter };
    assert_eq!(bottles.problems()[0].field, "capacity_ml", "bottles hold something");
}
