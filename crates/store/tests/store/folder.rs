//! The data folder: one program at a time, and what is written stays.

use cobaltine_core::library::FamilyKind;
use cobaltine_core::record::Person;
use cobaltine_store::{LibraryQuery, Store, StoreError};
use sqlx::sqlite::SqliteConnectOptions;
use uuid::Uuid;

#[tokio::test]
async fn a_second_program_is_refused_until_the_first_is_gone_and_nothing_is_lost() {
    let folder = tempfile::tempdir().unwrap();
    let first = Store::open(folder.path()).await.unwrap();
    first.add_person(&Person { id: Uuid::now_v7(), name: "Maren".to_owned() }).await.unwrap();
    let refused = Store::open(folder.path()).await.unwrap_err();
    assert!(matches!(refused, StoreError::InUse(_)));
    assert!(refused.to_string().contains("in use by another Cobaltine. Stop that one first"));
    first.close().await;
    let again = Store::open(folder.path()).await.unwrap();
    assert_eq!(again.people().await.unwrap()[0].name, "Maren");
    let taken = Person { id: Uuid::now_v7(), name: "maren".to_owned() };
    assert!(matches!(again.add_person(&taken).await, Err(StoreError::Invalid(_))));
}

/// A data folder of the first release: its limit goes on holding, and is found by the search.
#[tokio::test]
async fn a_folder_of_an_older_program_is_brought_up_to_date_without_losing_a_limit() {
    let folder = tempfile::tempdir().unwrap();
    let file = SqliteConnectOptions::new()
        .filename(folder.path().join("cobaltine.sqlite"))
        .create_if_missing(true);
    let pool = sqlx::SqlitePool::connect_with(file).await.unwrap();
    let mut first = sqlx::migrate!("./migrations");
    first.migrations = first.migrations[..1].to_vec().into();
    first.run(&pool).await.unwrap();
    let id = Uuid::now_v7();
    for sql in [
        format!("INSERT INTO families VALUES ('{id}', 'Ostrel Q6', 'diesel_piezo')"),
        format!("INSERT INTO return_limits VALUES ('{id}', 1, 20.0, 70.0, 95.0, 'table 8')"),
        format!("INSERT INTO return_limits VALUES ('{id}', 2, 18.0, 70.0, 95.0, 'table 9')"),
    ] {
        sqlx::query(&sql).execute(&pool).await.unwrap();
    }
    pool.close().await;

    let store = Store::open(folder.path()).await.unwrap();
    let limits = store.limits_of(id).await.unwrap();
    let kept: Vec<_> = limits.iter().map(|l| (l.revision, l.upper, l.source.as_str())).collect();
    assert_eq!(kept, [(2, Some(18.0), "table 9"), (1, Some(20.0), "table 8")]);
    let family = store.library_family(id).await.unwrap();
    assert_eq!(family.detail.kind, FamilyKind::DieselPiezo);
    let words = "ostr at most 18".to_owned();
    let query = LibraryQuery { words, per_page: 5, ..LibraryQuery::default() };
    assert_eq!(store.library(&query).await.unwrap().lines.len(), 1);
}

/// The readings' table is made anew by a later migration: rows, corrections and triggers survive.
#[tokio::test]
async fn readings_of_an_older_program_survive_with_their_corrections_and_stay_append_only() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("cobaltine.sqlite");
    let file = SqliteConnectOptions::new().filename(&path).create_if_missing(true);
    let pool = sqlx::SqlitePool::connect_with(file).await.unwrap();
    let mut older = sqlx::migrate!("./migrations");
    older.migrations = older.migrations[..3].to_vec().into();
    older.run(&pool).await.unwrap();
    let ids: Vec<Uuid> = (0..6).map(|_| Uuid::now_v7()).collect();
    let [who, job, test, run, first, second] = ids[..] else { unreachable!() };
    let layout = r#"{"cylinders":1,"banks":1,"first_at":"pulley","numbering":"bank_by_bank"}"#;
    let setup = r#"{"regime":"idle_only","temperature_c":null,"speed_rpm":null,"capacity_ml":100.0,"graduation_ml":2.0,"planned_s":120.0,"rules":{"look":0.15,"suspect":0.3,"lowest_multiple":3.0,"confidence":0.95,"runs_to_replace":3},"limit":null}"#;
    let at = "2031-05-20T08:00:00.000000000Z";
    for sql in [
        format!("INSERT INTO people VALUES ('{who}', 'Maren')"),
        format!(
            "INSERT INTO jobs VALUES ('{job}', 7, 1, '', 'Winch', '', '', 'diesel_solenoid', '{layout}', NULL, '[]', 'x', '{who}', '{at}')"
        ),
        format!("INSERT INTO injectors VALUES ('{}', '{job}', 1, '')", Uuid::now_v7()),
        format!("INSERT INTO return_tests VALUES ('{test}', '{job}', '{setup}', '{who}', '{at}')"),
        format!("INSERT INTO runs VALUES ('{run}', '{test}', 1, NULL, '{who}', '{at}')"),
        format!(
            "INSERT INTO readings VALUES (1, '{first}', '{run}', NULL, 1, 'level', 22.0, '22', NULL, NULL, '{who}', '{at}')"
        ),
        format!(
            "INSERT INTO readings VALUES (2, '{second}', '{run}', NULL, 1, 'level', 24.0, '24', '{first}', 'misread', '{who}', '{at}')"
        ),
    ] {
        sqlx::query(&sql).execute(&pool).await.unwrap();
    }
    pool.close().await;

    let store = Store::open(folder.path()).await.unwrap();
    let held = store.job(job).await.unwrap();
    let readings = &held.return_tests[0].runs[0].readings;
    let kept: Vec<_> = readings.iter().map(|r| (r.value, r.corrects, r.mark_ml)).collect();
    assert_eq!(kept, [(22.0, None, None), (24.0, Some(first), None)]);
    assert!(held.events.is_empty() && held.job.intake.story == Default::default());
    assert_eq!(held.return_tests[0].runs[0].ticked, None, "nobody was asked then");
    let raw = sqlx::SqlitePool::connect(&format!("sqlite:{}", path.display())).await.unwrap();
    for sql in ["UPDATE readings SET value = 1", "DELETE FROM readings"] {
        let refused = sqlx::query(sql).execute(&raw).await.unwrap_err();
        assert!(refused.to_string().contains("append-only"), "{sql}");
    }
    let broken: Vec<_> = sqlx::query("PRAGMA foreign_key_check").fetch_all(&raw).await.unwrap();
    assert!(broken.is_empty(), "corrections still name their readings");
}
