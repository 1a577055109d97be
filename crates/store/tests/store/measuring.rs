//! Rules, instruments, cells, and what the house itself measured.

use crate::Shop;
use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::job::{Command, NewReading, NewRun};
use cobaltine_core::library::LimitRow;
use cobaltine_core::quantity::{Celsius, Millilitre, Second};
use cobaltine_core::record::{
    CellReading, DecisionRecord, ReadingKind, SheetRecord, Signed, TestSetup,
};
use cobaltine_core::rules::RuleId;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::{Decision, Regime};
use cobaltine_store::{Act, StoreError};
use jiff::SignedDuration;
use uuid::Uuid;

#[tokio::test]
async fn a_rule_is_changed_by_revision_and_each_change_is_kept_with_its_reason() {
    let shop = Shop::open().await;
    let change = async |rule, revision, value: f64, reason: &str| {
        shop.store
            .change_rule(
                &Act::own(),
                rule,
                revision,
                (value, &value.to_string()),
                reason,
                shop.signed,
            )
            .await
    };
    change(RuleId::ReturnLook, 0, 12.0, "comebacks").await.unwrap();
    change(RuleId::BalanceSpread, 0, 8.0, "new gauge").await.unwrap();
    change(RuleId::ReturnLook, 1, 14.0, "too many repeats").await.unwrap();
    let stale = change(RuleId::ReturnLook, 1, 20.0, "mine").await.unwrap_err();
    assert!(matches!(&stale, StoreError::Conflict(text) if text.contains("to 14")), "{stale}");
    let empty = change(RuleId::ReturnSuspect, 0, 25.0, "  ").await.unwrap_err();
    assert!(matches!(empty, StoreError::Invalid(_)));
    let rules = shop.store.rules().await.unwrap();
    assert_eq!((rules.share(RuleId::ReturnLook), rules.get(RuleId::BalanceSpread)), (0.14, 8.0));
    assert_eq!(rules.get(RuleId::ReturnSuspect), 30.0, "what was refused changed nothing");
    let changes = shop.store.rule_changes().await.unwrap();
    let told: Vec<_> = changes.iter().map(|c| (c.revision, c.reason.as_str())).collect();
    assert_eq!(told, [(1, "comebacks"), (2, "new gauge"), (3, "too many repeats")]);
}

fn meter(revision: u64) -> Instrument {
    Instrument {
        id: Uuid::from_u128(7),
        name: " Bridge ".to_owned(),
        kind: InstrumentKind::Meter,
        resolution: 0.001,
        accuracy_pct: 0.2,
        accuracy_digits: 2.0,
        lead_ohm: Some(0.01),
        capacity_ml: None,
        calibration_due: Some(jiff::civil::date(2031, 6, 30)),
        certificate: "31-9".to_owned(),
        revision,
    }
}

#[tokio::test]
async fn an_instrument_is_changed_by_revision_and_a_test_keeps_it_as_it_was() {
    let shop = Shop::open().await;
    let first = shop.store.keep_instrument(&Act::own(), &meter(0), shop.signed).await.unwrap();
    assert_eq!((first.name.as_str(), first.revision), ("Bridge", 1));
    let finer = Instrument { resolution: 0.0001, ..first.clone() };
    assert_eq!(
        shop.store.keep_instrument(&Act::own(), &finer, shop.signed).await.unwrap().revision,
        2
    );
    let stale = shop.store.keep_instrument(&Act::own(), &finer, shop.signed).await.unwrap_err();
    assert!(matches!(stale, StoreError::Conflict(_)));
    let coarse = Instrument { resolution: 0.0, revision: 2, ..first.clone() };
    assert!(matches!(
        shop.store.keep_instrument(&Act::own(), &coarse, shop.signed).await,
        Err(StoreError::Invalid(_))
    ));
    assert_eq!(shop.store.instruments().await.unwrap()[0].resolution, 0.0001);

    let job = shop.job(None).await;
    let sheet = sheet(EngineTest::CoilResistance, Some(first), shop.signed);
    let file = shop.begin_sheet(job, &sheet).await.unwrap();
    assert_eq!(
        file.sheets[0].instrument.as_ref().unwrap().resolution,
        0.001,
        "as it was on that day"
    );
}

fn sheet(check: EngineTest, instrument: Option<Instrument>, signed: Signed) -> SheetRecord {
    SheetRecord {
        id: Uuid::now_v7(),
        check,
        limit: None,
        instrument,
        overdue: false,
        rules: Vec::new(),
        asks_start: true,
        readings: Vec::new(),
        traces: Vec::new(),
        recordings: Vec::new(),
        raw: Vec::new(),
        signed,
    }
}

fn cell(
    name: &str,
    cylinder: Option<u32>,
    value: Option<f64>,
    corrects: Option<Uuid>,
    signed: Signed,
) -> CellReading {
    CellReading {
        id: Uuid::now_v7(),
        cell: name.to_owned(),
        cylinder,
        value,
        typed: value.map(|v| v.to_string()).unwrap_or_default(),
        corrects,
        shown_by: None,
        signed,
    }
}

#[tokio::test]
async fn a_cell_is_kept_once_corrected_by_name_emptied_by_name_and_never_changed() {
    let shop = Shop::open().await;
    let job = shop.job(None).await;
    let begun = sheet(EngineTest::Cutout, None, shop.signed);
    shop.begin_sheet(job, &begun).await.unwrap();
    let again = shop.begin_sheet(job, &begun).await.unwrap();
    assert_eq!(again.sheets.len(), 1, "a retry is one check");
    let first = cell("cut", Some(2), Some(700.0), None, shop.signed);
    shop.keep_cell(begun.id, &first).await.unwrap();
    let retried = shop.keep_cell(begun.id, &first).await.unwrap();
    assert_eq!(retried.sheets[0].readings.len(), 1);
    let theirs = cell("cut", Some(2), Some(650.0), None, shop.signed);
    assert!(matches!(shop.keep_cell(begun.id, &theirs).await, Err(StoreError::Conflict(_))));
    let emptied = cell("cut", Some(2), None, Some(first.id), shop.signed);
    let file = shop.keep_cell(begun.id, &emptied).await.unwrap();
    let layout = &file.job.intake.layout;
    assert!(file.sheets[0].sheet(layout).each.is_empty(), "removed");
    let renewed = cell("cut", Some(2), Some(710.0), Some(emptied.id), shop.signed);
    let file = shop.keep_cell(begun.id, &renewed).await.unwrap();
    assert_eq!(file.sheets[0].sheet(layout).each, [(2, "cut".to_owned(), 710.0)]);
    assert_eq!(file.sheets[0].readings.len(), 3, "all three are kept");
    let ninth = cell("cut", Some(9), Some(1.0), None, shop.signed);
    assert!(matches!(shop.keep_cell(begun.id, &ninth).await, Err(StoreError::Invalid(_))));
    let nowhere = cell("cut", Some(1), Some(1.0), None, shop.signed);
    assert!(matches!(shop.keep_cell(Uuid::now_v7(), &nowhere).await, Err(StoreError::NotFound(_))));
    let petrol = sheet(EngineTest::PressureDrop, None, shop.signed);
    assert!(matches!(shop.begin_sheet(job, &petrol).await, Err(StoreError::Invalid(_))));
    let raw = shop.raw().await;
    for sql in ["UPDATE log SET seq = 1", "DELETE FROM log"] {
        assert!(
            sqlx::query(sql).execute(&raw).await.unwrap_err().to_string().contains("append-only")
        );
    }
}

/// A return test of these levels in two minutes, all four decided the same way.
async fn tested(
    shop: &Shop,
    family: Uuid,
    levels: [f64; 4],
    decision: Decision,
    temperature: f64,
) -> Uuid {
    let job = shop.job(Some(family)).await;
    let setup = TestSetup {
        regime: Regime::IdleOnly,
        temperature_c: Some(Celsius(temperature)),
        speed_rpm: None,
        capacity_ml: Millilitre(100.0),
        graduation_ml: Millilitre(2.0),
        planned_s: Second(120.0),
        rules: Default::default(),
        timer_u_s: None,
        accuracy_pct: 0.0,
        accuracy_digits: 0.0,
        instruments: Vec::new(),
        limit: None,
        mark_ml: None,
        pump_spare_ml_min: None,
    };
    let test = Uuid::now_v7();
    let set_up = Command::SetUpTest { id: test, setup: Box::new(setup) };
    shop.does(job, set_up).await.unwrap();
    let run = NewRun {
        id: Uuid::now_v7(),
        test,
        timer: false,
        phase: None,
        bank: None,
        ticked: None,
        caught_by: None,
    };
    let id = run.id;
    shop.does(job, Command::BeginRun(run)).await.unwrap();
    let reading = |cylinder: Option<u32>, value: f64| NewReading {
        id: Uuid::now_v7(),
        run: id,
        cylinder,
        kind: if cylinder.is_some() { ReadingKind::Level } else { ReadingKind::RunTime },
        value: Some(value),
        typed: value.to_string(),
        corrects: None,
        why: None,
        shown_by: None,
    };
    shop.does(job, Command::Read(reading(None, 120.0))).await.unwrap();
    for (level, cylinder) in levels.into_iter().zip(1..) {
        shop.does(job, Command::Read(reading(Some(cylinder), level))).await.unwrap();
    }
    decide(shop, job, decision, 1).await;
    job
}

async fn decide(shop: &Shop, job: Uuid, decision: Decision, later_h: i64) {
    let at = shop.signed.at + SignedDuration::from_hours(later_h);
    let all: Vec<DecisionRecord> = (1..=4)
        .map(|cylinder| DecisionRecord {
            id: Uuid::now_v7(),
            cylinder,
            decision,
            reason: "as seen".to_owned(),
            proposed: None,
            signed: Signed::new(shop.signed.by, at),
        })
        .collect();
    shop.does(job, Command::Decide(all)).await.unwrap();
}

#[tokio::test]
async fn only_injectors_that_were_left_as_good_count_and_a_change_of_mind_takes_them_out_again() {
    let shop = Shop::open().await;
    let row = LimitRow {
        family: "Ostrel L6".to_owned(),
        check: "lift".to_owned(),
        upper: "60".to_owned(),
        source: "card".to_owned(),
        ..LimitRow::default()
    };
    shop.store.import_library(&Act::own(), &[], &[row.read().unwrap()], &[], None).await.unwrap();
    let family = shop.store.families().await.unwrap()[0].id;
    let good = async |t: Option<f64>| {
        let found =
            shop.store.good_return_flows(family, Regime::IdleOnly, t.map(Celsius)).await.unwrap();
        let mut rates: Vec<f64> = found.iter().map(|r| r.value).collect();
        rates.sort_by(f64::total_cmp);
        rates
    };
    let job = tested(&shop, family, [26.0, 28.0, 60.0, 27.0], Decision::Leave, 80.0).await;
    assert_eq!(
        good(None).await,
        [13.0, 13.5, 14.0],
        "the one that returns too much is not proven good"
    );
    tested(&shop, family, [22.0, 22.0, 22.0, 22.0], Decision::Replace, 80.0).await;
    tested(&shop, family, [20.0, 20.0, 20.0, 20.0], Decision::Leave, 20.0).await;
    assert_eq!(good(Some(82.0)).await, [13.0, 13.5, 14.0], "a cold engine is another condition");
    assert_eq!(good(None).await.len(), 7);
    let stepped = shop.store.good_return_flows(family, Regime::Stepped, None).await.unwrap();
    assert!(stepped.is_empty());
    decide(&shop, job, Decision::MeasureAgain, 2).await;
    assert_eq!(good(Some(82.0)).await, Vec::<f64>::new());
}
