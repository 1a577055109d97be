//! The library: search, revisions, all or nothing, and what is never changed.

use crate::{Shop, winch};
use cobaltine_core::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};
use cobaltine_core::library::{
    FamilyDetail, FamilyKind, ItemDetail, LibraryFamily, LibraryItem, LimitCheck, LimitEntry,
    LimitRow, ReadRow,
};
use cobaltine_core::quantity::Celsius;
use cobaltine_core::work::Regime;
use cobaltine_store::{Act, Change, LibraryQuery, LineKind, StoreError};
use uuid::Uuid;

fn row(family: &str, check: &str, condition: &str, upper: &str) -> ReadRow {
    let row = LimitRow {
        family: family.to_owned(),
        kind: "diesel_piezo".to_owned(),
        check: check.to_owned(),
        condition: condition.to_owned(),
        upper: upper.to_owned(),
        source: "sheet 9".to_owned(),
        ..LimitRow::default()
    };
    row.read().unwrap()
}

fn words(words: &str) -> LibraryQuery {
    LibraryQuery { words: words.to_owned(), per_page: 10, ..LibraryQuery::default() }
}

#[tokio::test]
async fn a_limit_said_again_is_the_same_one_and_said_otherwise_is_a_new_revision() {
    let shop = Shop::open().await;
    let take = async |rows: &[ReadRow]| {
        let changes = shop
            .store
            .import_library(&Act::own(), &[], rows, &[], Some(shop.signed))
            .await
            .unwrap();
        changes.into_iter().map(|change| (change.change, change.new_family)).collect::<Vec<_>>()
    };
    let first = row("Ostrel Q6", "return_flow", "", "18");
    assert_eq!(take(std::slice::from_ref(&first)).await, [(Change::Adds, true)]);
    assert_eq!(take(std::slice::from_ref(&first)).await, [(Change::Same, false)]);
    // The same limit twice in one file: the second stands on the first.
    let rows =
        [row("ostrel q6", "return_flow", "", "17"), row("Ostrel Q6", "return_flow", "", "16")];
    assert_eq!(take(&rows).await, [(Change::Revises, false); 2]);
    let family = shop.store.families().await.unwrap()[0].id;
    let limits = shop.store.limits_of(family).await.unwrap();
    let kept: Vec<_> = limits.iter().map(|l| (l.revision, l.upper)).collect();
    assert_eq!(kept, [(3, Some(16.0)), (2, Some(17.0)), (1, Some(18.0))]);
    assert_eq!(limits[0].approved, Some(shop.signed), "who approved it is kept");
    assert_eq!(shop.store.library(&words("at most 16")).await.unwrap().total, 1);
    assert_eq!(
        shop.store.library(&words("at most 18")).await.unwrap().total,
        0,
        "only the newest is found"
    );
    assert_eq!(shop.store.families().await.unwrap()[0].return_limit_ml_min, Some(16.0));
}

#[tokio::test]
async fn what_is_written_is_never_changed_behind_the_back_either() {
    let shop = Shop::open().await;
    shop.store
        .import_library(
            &Act::own(),
            &[],
            &[row("A", "return_flow", "", "18")],
            &[],
            Some(shop.signed),
        )
        .await
        .unwrap();
    let rule = cobaltine_core::rules::RuleId::ReturnLook;
    shop.store
        .change_rule(&Act::own(), rule, 0, (12.0, "12"), "comebacks", shop.signed)
        .await
        .unwrap();
    let raw = shop.raw().await;
    for sql in [
        "UPDATE limits SET upper = 99",
        "DELETE FROM limits",
        "UPDATE house_rules SET value = 99",
        "DELETE FROM house_rules",
    ] {
        let refused = sqlx::query(sql).execute(&raw).await.unwrap_err().to_string();
        assert!(refused.contains("append-only"), "{sql}: {refused}");
    }
}

#[tokio::test]
async fn an_import_with_one_bad_family_changes_nothing_at_all() {
    let shop = Shop::open().await;
    let family = |name: &str, drive, peak| LibraryFamily {
        id: Uuid::now_v7(),
        name: name.to_owned(),
        revision: 1,
        detail: FamilyDetail {
            kind: FamilyKind::PetrolPortLow,
            drive_voltage_v: Some(drive),
            peak_voltage_v: Some(peak),
            ..FamilyDetail::default()
        },
    };
    let families = [family("Sollay P1", 12.0, 16.0), family("Sollay P3", 24.0, 16.0)];
    let rows = [row("Ostrel Q6", "return_flow", "", "18")];
    let refused =
        shop.store.import_library(&Act::own(), &families, &rows, &[], None).await.unwrap_err();
    let StoreError::Invalid(problems) = refused else { panic!("{refused}") };
    assert_eq!(problems[0].field, "peak_voltage_v");
    assert_eq!(shop.store.library(&words("")).await.unwrap().entries, 0);
    assert!(shop.store.library_file().await.unwrap().families.is_empty());
}

#[tokio::test]
async fn a_change_of_a_stale_revision_is_refused_and_the_old_state_goes_into_the_history() {
    let shop = Shop::open().await;
    let new = LibraryFamily {
        id: Uuid::now_v7(),
        name: " Kettra 27 ".to_owned(),
        revision: 0,
        detail: FamilyDetail::default(),
    };
    let first = shop.store.keep_family(&Act::own(), &new, shop.signed).await.unwrap();
    assert_eq!((first.name.as_str(), first.revision), ("Kettra 27", 1));
    let mut changed = first.clone();
    changed.detail.cleaning = Some(false);
    let second = shop.store.keep_family(&Act::own(), &changed, shop.signed).await.unwrap();
    assert_eq!(second.revision, 2);
    let stale = shop.store.keep_family(&Act::own(), &changed, shop.signed).await.unwrap_err();
    assert!(stale.to_string().contains("now revision 2, yours was 1"), "{stale}");
    let twin = LibraryFamily { id: Uuid::now_v7(), name: "KETTRA 27".to_owned(), ..new };
    let StoreError::Invalid(taken) =
        shop.store.keep_family(&Act::own(), &twin, shop.signed).await.unwrap_err()
    else {
        panic!("the same name twice")
    };
    assert_eq!(taken[0].field, "name");
    let unknown =
        LibraryFamily { id: Uuid::now_v7(), name: "Other".to_owned(), revision: 3, ..first };
    assert!(matches!(
        shop.store.keep_family(&Act::own(), &unknown, shop.signed).await,
        Err(StoreError::NotFound(_))
    ));
    let raw = shop.raw().await;
    let kept: (i64, String) =
        sqlx::query_as("SELECT revision, detail FROM history").fetch_one(&raw).await.unwrap();
    assert!(kept.0 == 1 && !kept.1.contains("\"cleaning\":false"), "{kept:?}");
}

#[tokio::test]
async fn a_search_finds_beginnings_of_words_in_any_order_by_kind_and_page_by_page() {
    let shop = Shop::open().await;
    let rows: Vec<ReadRow> = (0..45)
        .map(|n| {
            row(&format!("Tarve {n:02}"), "opening_pressure", "cold", &format!("{} bar", 200 + n))
        })
        .collect();
    let engine = LibraryItem {
        id: Uuid::now_v7(),
        name: "Tarve T4".to_owned(),
        revision: 0,
        detail: ItemDetail::Engine {
            fuel_system: FuelSystem::DieselSolenoid,
            layout: Layout {
                cylinders: 4,
                banks: 1,
                first_at: EngineEnd::Flywheel,
                numbering: BankNumbering::BankByBank,
            },
            note: "Tünnel für Öl".to_owned(),
        },
    };
    shop.store.keep_item(&Act::own(), &engine, shop.signed).await.unwrap();
    shop.store.import_library(&Act::own(), &[], &rows, &[], None).await.unwrap();
    let found = async |q: LibraryQuery| shop.store.library(&q).await.unwrap();
    assert_eq!(found(words("")).await.entries, 91, "45 families, 45 limits, one engine");
    assert_eq!(found(words("pres op tar")).await.total, 45);
    assert_eq!(
        found(words("tunnel ol")).await.lines[0].title,
        "Tarve T4",
        "accents are not needed"
    );
    assert_eq!(
        found(words("tarve\" OR 1=1 --")).await.total,
        0,
        "what is typed is no search language"
    );
    let limits = LibraryQuery { kind: Some(LineKind::Limit), ..words("tarve") };
    let (first, last) =
        (found(limits.clone()).await, found(LibraryQuery { page: 4, ..limits }).await);
    assert_eq!((first.lines.len(), last.lines.len(), first.total, first.more), (10, 5, 45, false));
    assert!(first.lines.iter().all(|line| line.kind == LineKind::Limit));
    assert!(first.lines.iter().all(|line| !last.lines.contains(line)));
    assert_eq!(shop.store.library_item(engine.id).await.unwrap().revision, 1);
    assert!(matches!(shop.store.library_item(Uuid::now_v7()).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn the_limit_of_a_return_test_is_the_one_of_its_regime_that_holds_at_its_temperature() {
    let shop = Shop::open().await;
    let at = |condition: &str, upper: &str, from: &str, to: &str| {
        let row = LimitRow {
            family: "Kettra 27".to_owned(),
            check: "return_flow".to_owned(),
            condition: condition.to_owned(),
            upper: upper.to_owned(),
            from_c: from.to_owned(),
            to_c: to.to_owned(),
            source: "sheet".to_owned(),
            ..LimitRow::default()
        };
        row.read().unwrap()
    };
    let rows = [
        at("", "24", "70", "95"),
        at("cold", "30", "-10", "30"),
        at("stepped", "40", "70", "95"),
        at("cranking", "12", "", ""),
    ];
    shop.store.import_library(&Act::own(), &[], &rows, &[], None).await.unwrap();
    let family = shop.store.families().await.unwrap()[0].id;
    let newest = shop.store.newest_limits(family, LimitCheck::ReturnFlow).await.unwrap();
    assert_eq!(newest.len(), 4);
    let pick = |regime, t: Option<f64>| {
        LimitEntry::pick_for_return_test(&newest, regime, t.map(Celsius))
            .map(|limit| limit.upper_ml_min)
    };
    assert_eq!(pick(Regime::IdleOnly, Some(80.0)), Some(24.0));
    assert_eq!(pick(Regime::IdleOnly, Some(10.0)), Some(30.0));
    assert_eq!(pick(Regime::Stepped, Some(80.0)), Some(40.0));
    assert_eq!(pick(Regime::Cranking, None), Some(12.0));
    assert!(pick(Regime::IdleOnly, Some(50.0)).is_some(), "none holds, so the test can say why");
}

/// A preview waits for nobody who writes, and nobody waits for it.
#[tokio::test]
async fn a_preview_needs_no_write_lock_and_a_plan_that_a_file_changes_keeps_its_history() {
    let shop = Shop::open().await;
    let plan = |note: &str| LibraryItem {
        id: Uuid::from_u128(9),
        name: "Plan".to_owned(),
        revision: 1,
        detail: ItemDetail::Engine {
            fuel_system: FuelSystem::DieselSolenoid,
            layout: winch("").intake.layout,
            note: note.to_owned(),
        },
    };
    let take = async |note: &str| {
        let (items, signed) = ([plan(note)], Some(shop.signed));
        shop.store.import_library(&Act::own(), &[], &[], &items, signed).await.unwrap()
    };
    take("first").await;
    let raw = shop.raw().await;
    let mut writer = raw.begin_with("BEGIN IMMEDIATE").await.unwrap();
    sqlx::query("INSERT INTO column_meanings VALUES ('h', '[]')")
        .execute(&mut *writer)
        .await
        .unwrap();
    let seen = shop.store.preview_library(&[], &[], &[plan("second")]).await.unwrap();
    assert_eq!(seen[0].change, Change::Revises);
    writer.rollback().await.unwrap();
    assert_eq!(shop.store.library_item(plan("").id).await.unwrap(), plan("first"));
    take("second").await;
    assert_eq!(shop.store.library_item(plan("").id).await.unwrap().revision, 2);
    let kept: String = sqlx::query_scalar("SELECT detail FROM history WHERE of_id = ?")
        .bind(plan("").id.to_string())
        .fetch_one(&raw)
        .await
        .unwrap();
    assert!(kept.contains("first"), "what was there before stays: {kept}");
}
