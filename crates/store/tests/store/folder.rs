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
