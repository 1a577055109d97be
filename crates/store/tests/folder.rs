//! The data folder: one program at a time, and what is written stays.

use cobaltine_core::record::Person;
use cobaltine_store::{Store, StoreError};
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
