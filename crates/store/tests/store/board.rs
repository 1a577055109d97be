//! The board, taking in, and imports of many, against a real file.

use crate::{Shop, winch as job};
use cobaltine_core::job::Command;
use cobaltine_core::record::{JobFile, Note, Signed};
use cobaltine_core::work::{Stage, Tone};
use cobaltine_store::{Act, BoardQuery, StoreError, TakeIn};
use uuid::Uuid;

async fn change(
    shop: &Shop,
    to: &TakeIn,
    revision: u64,
    signed: Signed,
) -> Result<JobFile, StoreError> {
    let (intake, labels) = (Box::new(to.intake.clone()), to.labels.clone());
    let command = Command::ChangeIntake { id: Uuid::now_v7(), revision, intake, labels };
    let kept = shop.store.apply(to.id, &Act::own(), command, signed).await?;
    shop.store.job(kept.job).await
}

#[tokio::test]
async fn pages_follow_the_last_change_and_hold_each_job_once() {
    let shop = Shop::open().await;
    let mut jobs = Vec::new();
    for n in 0..45 {
        let new = job(&format!("Pump number{n}"));
        shop.take_in(&new, shop.at(n)).await.unwrap();
        jobs.push(new);
    }
    let touched = TakeIn { labels: vec![], ..jobs[3].clone() };
    change(&shop, &touched, 1, shop.at(100)).await.unwrap();
    let mut seen = Vec::new();
    for page in 0..3 {
        let query = BoardQuery { page, per_page: 20, ..BoardQuery::default() };
        let board = shop.store.board(&query).await.unwrap();
        assert_eq!((board.total, board.jobs, board.waiting), (45, 45, 45));
        seen.extend(board.cards.into_iter().map(|card| card.machine));
    }
    assert_eq!(seen.len(), 45);
    assert_eq!(&seen[..3], ["Pump number3", "Pump number44", "Pump number43"]);
    let found =
        |words: &str, tone| BoardQuery { words: words.to_owned(), tone, page: 0, per_page: 9 };
    let ask = async |query| shop.store.board(&query).await.unwrap().total;
    assert_eq!(ask(found("pump NUMBER44", None)).await, 1);
    assert_eq!(ask(found("skerry numb", None)).await, 45);
    assert_eq!(ask(found("skerry numb", Some(Tone::Done))).await, 0);
    assert_eq!(ask(found("44", Some(Tone::Waiting))).await, 1, "job number 44");
    shop.take_in(&job("Dredge AB-123 mark 2.0"), shop.at(200)).await.unwrap();
    for words in ["ab-123", "AB-1", "2.0", "dredge ab-123 2.0"] {
        assert_eq!(ask(found(words, None)).await, 1, "{words}: what stands between is no matter");
    }
    assert_eq!(ask(found("123-ab", None)).await, 0, "but the order is");
    assert_eq!(ask(found("'; DROP TABLE jobs --", None)).await, 0);
    assert_eq!(ask(found("", None)).await, 46);
}

#[tokio::test]
async fn asking_twice_makes_one_job_and_another_one_cannot_take_its_id() {
    let shop = Shop::open().await;
    let new = job("Pump");
    let first = shop.take_in(&new, shop.at(0)).await.unwrap();
    let again = shop.take_in(&new, shop.at(5)).await.unwrap();
    assert_eq!(first, again);
    assert_eq!(
        first.job.injectors.iter().map(|i| i.label.as_str()).collect::<Vec<_>>(),
        ["A", "", "", ""]
    );
    let mut other = new.clone();
    other.intake.machine = "Winch".to_owned();
    assert!(matches!(shop.take_in(&other, shop.at(6)).await, Err(StoreError::Reused)));
    let stale = change(&shop, &other, 7, shop.at(7)).await.unwrap_err();
    assert!(matches!(stale, StoreError::Stale(held) if held.intake.machine == "Pump"));
}

#[tokio::test]
async fn an_engine_may_grow_until_something_is_measured() {
    let shop = Shop::open().await;
    let mut new = job("Pump");
    shop.take_in(&new, shop.at(0)).await.unwrap();
    new.intake.layout.cylinders = 6;
    new.intake.layout.banks = 2;
    new.labels = vec!["L1".to_owned(); 1];
    let file = change(&shop, &new, 1, shop.at(1)).await.unwrap();
    assert_eq!(file.job.injectors.len(), 6);
    assert_eq!(file.job.injectors[0].label, "L1");
    assert_eq!(file.job.revision, 2);
}

#[tokio::test]
async fn a_batch_with_one_bad_file_leaves_nothing_behind() {
    let shop = Shop::open().await;
    let good = shop.take_in(&job("Pump"), shop.at(0)).await.unwrap();
    let other = Shop::open().await;
    let mut bad = good.clone();
    bad.job.id = Uuid::now_v7();
    bad.job.intake.machine.clear();
    let refused = other.store.load_jobs(&[good.clone(), bad]).await.unwrap_err();
    assert!(matches!(refused, StoreError::Invalid(_)));
    assert_eq!(other.store.board(&BoardQuery::default()).await.unwrap().jobs, 0);
    assert!(matches!(other.store.job(good.job.id).await, Err(StoreError::NotFound("job"))));
    other.store.load_jobs(std::slice::from_ref(&good)).await.unwrap();
    assert_eq!(other.store.job(good.job.id).await.unwrap(), good);
}

#[tokio::test]
async fn the_board_waits_for_nobody_who_writes_all_the_time() {
    let shop = Shop::open().await;
    let job = shop.job(None).await;
    let asked = std::sync::atomic::AtomicBool::new(false);
    let write = async {
        while !asked.load(std::sync::atomic::Ordering::Relaxed) {
            let note = Note {
                id: Uuid::now_v7(),
                stage: Stage::Prove,
                text: "again".to_owned(),
                signed: shop.signed,
            };
            shop.store.apply(job, &Act::own(), Command::Note(note), shop.signed).await.unwrap();
        }
    };
    let look = async {
        for _ in 0..3 {
            assert_eq!(shop.store.board(&BoardQuery::default()).await.unwrap().jobs, 1);
        }
        asked.store(true, std::sync::atomic::Ordering::Relaxed);
    };
    let both = async { tokio::join!(write, look) };
    tokio::time::timeout(std::time::Duration::from_secs(60), both).await.unwrap();
}
