//! The bench in a data folder: what is kept stays, what was refused left nothing behind.

use crate::{Shop, named};
use cobaltine_core::record::Signed;
use cobaltine_core::tests::bench::{
    BenchCell, BenchKind, BenchSetup, BenchTest, Entry, Point, RailPlace, Round, RoundStage,
    SessionRecord, Tagged,
};
use cobaltine_store::{Act, BenchFile, Store, StoreError};
use uuid::Uuid;

/// A session of four injectors of a job, with one point.
async fn session(shop: &Shop, kind: BenchKind) -> SessionRecord {
    let job = shop.store.job(shop.job(None).await).await.unwrap().job;
    let injectors = job.injectors.iter().map(|one| Tagged {
        tag: one.cylinder,
        injector: one.id,
        job: job.id,
        job_number: job.number,
        cylinder: one.cylinder,
        label: one.label.clone(),
        family: None,
    });
    let point = Point {
        name: "idle".to_owned(),
        pulse_ms: Some(0.5),
        count: Some(1000.0),
        ..Point::default()
    };
    let session = SessionRecord {
        id: Uuid::now_v7(),
        number: 1,
        setup: BenchSetup {
            kind,
            bench: None,
            overdue: false,
            graduation: 0.02,
            capacity_ml: 100.0,
            entry: Entry::Volume,
            points: vec![point],
            families: Vec::new(),
            rules: Vec::new(),
        },
        injectors: injectors.collect(),
        rounds: vec![round(RoundStage::Received, shop.signed)],
        cells: Vec::new(),
        signed: shop.signed,
    };
    shop.begin_session(&session).await.unwrap().0
}

fn round(stage: RoundStage, signed: Signed) -> Round {
    let places = (1..=4).map(|n| RailPlace { position: n, tag: n }).collect();
    Round { id: Uuid::now_v7(), stage, number: 1, places, signed }
}

fn cell(session: &SessionRecord, tag: u32, value: f64) -> BenchCell {
    BenchCell {
        id: Uuid::now_v7(),
        round: session.rounds.last().unwrap().id,
        test: BenchTest::Map,
        cell: "delivered".to_owned(),
        row: Some(1),
        tag: Some(tag),
        value: Some(value),
        typed: value.to_string(),
        samples: None,
        shown_by: None,
        corrects: None,
        signed: session.signed,
    }
}

#[tokio::test]
async fn a_session_survives_the_program_and_its_readings_can_not_be_changed() {
    let shop = Shop::open().await;
    let held = session(&shop, BenchKind::Diesel).await;
    assert_eq!(held.number, 1);
    let first = cell(&held, 1, 7.0);
    let (kept, _) = shop.keep_tube(held.id, &first).await.unwrap();
    assert_eq!(shop.keep_tube(held.id, &first).await.unwrap().0, kept, "asked twice");
    let (again, _) = shop.begin_session(&held).await.unwrap();
    assert_eq!(again, kept, "begun twice");
    let after = round(RoundStage::Adjusted, shop.at(3));
    let (with, _) = shop.begin_round(held.id, &after).await.unwrap();
    let more = round(RoundStage::Adjusted, shop.at(4));
    let (with_two, _) = shop.begin_round(held.id, &more).await.unwrap();
    assert_eq!((with.rounds[1].number, with_two.rounds[2].number), (1, 2), "counted in its stage");
    assert_eq!(shop.begin_round(held.id, &more).await.unwrap().0, with_two);

    let raw = shop.raw().await;
    for sql in [
        "UPDATE log SET seq = 1",
        "DELETE FROM log",
        "UPDATE shim_moves SET moved = 9",
        "DELETE FROM shim_moves",
    ] {
        // An empty table has no row to refuse: one move stands there first.
        if sql.starts_with("UPDATE shim") {
            shop.store
                .move_shims(&Act::own(), Uuid::now_v7(), 1000.0, 3, shop.signed)
                .await
                .unwrap();
        }
        let refused = sqlx::query(sql).execute(&raw).await.unwrap_err();
        assert!(refused.to_string().contains("append-only"), "{sql}: {refused}");
    }
    raw.close().await;
    let Shop { store, folder, .. } = shop;
    store.close().await;
    let store = Store::open(folder.path()).await.unwrap();
    assert_eq!(store.session(held.id).await.unwrap().0, with_two);
    let page = store.sessions(Some(held.injectors[0].job), 1, 5).await.unwrap();
    assert_eq!((page.total, page.lines[0].round.as_str()), (1, "adjusted 2"));
}

#[tokio::test]
async fn a_file_that_cannot_be_kept_leaves_nothing_behind_and_one_that_can_corrects_what_stood() {
    let shop = Shop::open().await;
    let held = session(&shop, BenchKind::Diesel).await;
    let (held, _) = shop.keep_tube(held.id, &cell(&held, 1, 7.0)).await.unwrap();
    let file = BenchFile {
        id: Uuid::now_v7(),
        name: "log.csv",
        text: "Tag,Point,Delivered\n1,idle,7.1\n",
        heading: "Tag,Point,Delivered",
        columns: "[\"tag\",\"point\",\"delivered\"]",
    };
    let act = named(file.id, &file.text);
    let take = async |session, cells| {
        shop.store.import_bench(session, &act, &file, cells, shop.signed).await
    };
    let mut twice = vec![cell(&held, 2, 7.1), cell(&held, 3, 7.2)];
    twice[1].id = twice[0].id;
    assert!(take(held.id, twice).await.is_err(), "an id twice");
    assert_eq!(shop.store.session(held.id).await.unwrap().0, held, "nothing half-imported");
    assert_eq!(shop.store.column_meanings(file.heading).await.unwrap(), None);
    let cells = vec![cell(&held, 1, 7.1), cell(&held, 2, 7.2)];
    let (kept, _) = take(held.id, cells.clone()).await.unwrap();
    assert_eq!(kept.cells.len(), 3);
    assert_eq!(kept.cells[1].corrects, Some(held.cells[0].id), "what stood is named");
    let (same, _) = take(held.id, cells).await.unwrap();
    assert_eq!(same, kept, "the same file again");
    let meant = shop.store.column_meanings(file.heading).await.unwrap();
    assert_eq!(meant.as_deref(), Some(file.columns));
    let nowhere = Uuid::now_v7();
    let missing = take(nowhere, Vec::new()).await.unwrap_err();
    assert!(matches!(missing, StoreError::NotFound(_)));
}

#[tokio::test]
async fn fits_of_two_injectors_share_one_drawer_and_an_emptied_cell_gives_its_shim_back() {
    let shop = Shop::open().await;
    let held = session(&shop, BenchKind::Diesel).await;
    shop.store.move_shims(&Act::own(), Uuid::now_v7(), 1005.0, 1, shop.signed).await.unwrap();
    let (held, _) =
        shop.begin_round(held.id, &round(RoundStage::Adjusted, shop.at(1))).await.unwrap();
    let fit = |tag: u32, value: Option<f64>, corrects: Option<Uuid>| BenchCell {
        test: BenchTest::Lift,
        cell: "shim".to_owned(),
        row: None,
        value,
        corrects,
        ..cell(&held, tag, 0.0)
    };
    let first = fit(1, Some(1005.0), None);
    let (_, stock) = shop.keep_tube(held.id, &first).await.unwrap();
    assert_eq!(stock[0].count, 0);
    let second = fit(2, Some(1005.0), None);
    let refused = shop.keep_tube(held.id, &second).await.unwrap_err();
    assert!(
        matches!(&refused, StoreError::Invalid(p) if p[0].message.contains("the drawer is empty")),
        "{refused:?}"
    );
    let emptied = fit(1, None, Some(first.id));
    let (_, stock) = shop.keep_tube(held.id, &emptied).await.unwrap();
    assert_eq!(stock[0].count, 1, "taken out again");
    let (_, stock) = shop.keep_tube(held.id, &second).await.unwrap();
    assert_eq!(stock[0].count, 0);
    let left = shop.store.move_shims(&Act::own(), Uuid::now_v7(), 1005.0, -1, shop.signed).await;
    assert!(left.is_err(), "nobody takes what is not there");
}
