//! The data folder: one program at a time, and what is written stays.

use crate::{Shop, named, winch};
use cobaltine_core::job::Command;
use cobaltine_core::library::FamilyKind;
use cobaltine_core::record::{Note, Person, Signed};
use cobaltine_core::rules::RuleId;
use cobaltine_core::work::Stage;
use cobaltine_store::{Act, LibraryQuery, Store, StoreError, TakeIn, Watch};
use jiff::Timestamp;
use serde_json::Value;
use sqlx::sqlite::SqliteConnectOptions;
use std::path::Path;
use std::sync::Arc;
use uuid::Uuid;

#[tokio::test]
async fn a_second_program_is_refused_until_the_first_is_gone_and_nothing_is_lost() {
    let folder = tempfile::tempdir().unwrap();
    let first = Store::open(folder.path()).await.unwrap();
    first
        .add_person(&Act::own(), &Person::new(Uuid::now_v7(), "Maren"), Timestamp::now())
        .await
        .unwrap();
    let refused = Store::open(folder.path()).await.unwrap_err();
    assert!(matches!(refused, StoreError::InUse(_)));
    assert!(refused.to_string().contains("in use by another Cobaltine. Stop that one"));
    first.close().await;
    let again = Store::open(folder.path()).await.unwrap();
    assert_eq!(again.people().await.unwrap()[0].name, "Maren");
    let taken = Person::new(Uuid::now_v7(), "maren");
    assert!(matches!(
        again.add_person(&Act::own(), &taken, Timestamp::now()).await,
        Err(StoreError::Invalid(_))
    ));
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
        sqlx::query(sqlx::AssertSqlSafe(sql)).execute(&pool).await.unwrap();
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
        sqlx::query(sqlx::AssertSqlSafe(sql)).execute(&pool).await.unwrap();
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
    for sql in ["UPDATE log SET seq = 1", "DELETE FROM log"] {
        let refused = sqlx::query(sql).execute(&raw).await.unwrap_err();
        assert!(refused.to_string().contains("append-only"), "{sql}");
    }
    let broken: Vec<_> = sqlx::query("PRAGMA foreign_key_check").fetch_all(&raw).await.unwrap();
    assert!(broken.is_empty(), "corrections still name their readings");
}

/// All lines of the workshop file.
async fn exported(store: &Store) -> Vec<String> {
    let mut export = store.export_workshop().await.unwrap();
    let mut lines = Vec::new();
    while let Some(line) = export.next().await.unwrap() {
        lines.push(line.trim_end().to_owned());
    }
    lines
}

/// Without what a folder of 0.6.0 did not have: places in a log, and what an intake was before.
fn as_then(value: &mut Value) {
    match value {
        Value::Object(map) => {
            map.remove("seq");
            map.remove("changes");
            map.values_mut().for_each(as_then);
        }
        Value::Array(list) => list.iter_mut().for_each(as_then),
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {}
    }
}

/// The made-up workshop as 0.6.0 wrote it: one log by now, and not a word of its export is lost.
#[tokio::test]
async fn a_folder_of_0_6_0_becomes_one_log_and_its_export_says_what_it_said() {
    let then = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/folder-0.6.0");
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("cobaltine.sqlite");
    std::fs::copy(then.join("cobaltine.sqlite"), &file).unwrap();
    let store = Store::open(folder.path()).await.unwrap();
    let copies = cobaltine_store::backups(&folder.path().join("before-0.6.0")).unwrap();
    assert_eq!(copies.len(), 1, "copied before it was changed");
    let now = exported(&store).await;
    let before = std::fs::read_to_string(then.join("export.jsonl")).unwrap();
    let read = |line: &str| {
        let mut value: Value = serde_json::from_str(line).unwrap();
        as_then(&mut value);
        value
    };
    assert_eq!(now.len(), before.lines().count());
    for (now, before) in now.iter().zip(before.lines()) {
        assert_eq!(read(now), read(before));
    }
    let check = store.check_log().await.unwrap();
    assert!(check.rows > 1000 && check.broken.is_none(), "{check:?}");

    // And the other way: into an empty folder, and out again, byte for byte.
    let other = tempfile::tempdir().unwrap();
    let empty = Store::open(other.path()).await.unwrap();
    let person: Value = serde_json::from_str(&now[1]).unwrap();
    let by = person["of"]["id"].as_str().unwrap().parse().unwrap();
    let signed = Signed::new(by, Timestamp::now());
    let act = Act::own();
    std::fs::write(empty.staged(act.id).unwrap(), now.join("\n")).unwrap();
    let done = empty.import_workshop(&act, signed, &Watch::default()).await.unwrap().unwrap();
    assert!(done.left_out.is_empty() && done.new_jobs > 10, "{done:?}");
    for (line, (back, now)) in exported(&empty).await.iter().zip(&now).enumerate() {
        assert!(back == now, "line {line}: {}", &now[..60]);
    }
    store.close().await;
    let again = Store::open(folder.path()).await.unwrap();
    assert_eq!(exported(&again).await, now, "brought up to date once");
}

/// An import that was stopped leaves nothing, and one that was interrupted is brought to its end by the
/// next start: all of it or nothing, whatever happens to the program.
#[tokio::test(flavor = "multi_thread")]
async fn an_import_that_was_stopped_or_killed_is_in_whole_or_not_at_all() {
    let then = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/folder-0.6.0");
    let file = std::fs::read_to_string(then.join("export.jsonl")).unwrap();
    let person: Value = serde_json::from_str(file.lines().nth(1).unwrap()).unwrap();
    let by = person["of"]["id"].as_str().unwrap().parse().unwrap();
    let signed = Signed::new(by, Timestamp::now());
    let folder = tempfile::tempdir().unwrap();
    let staged = |store: &Store| {
        let act = Act::own();
        std::fs::write(store.staged(act.id).unwrap(), &file).unwrap();
        act
    };
    let mut store = Store::open(folder.path()).await.unwrap();
    let nothing = exported(&store).await;
    let (act, watch) = (staged(&store), Watch::default());
    assert!(watch.stop());
    assert_eq!(store.import_workshop(&act, signed, &watch).await.unwrap(), None);
    assert_eq!(exported(&store).await, nothing);
    assert!(!store.staged(act.id).unwrap().exists(), "nor a file");

    let act = staged(&store);
    let mut changes = store.changes();
    let (own, same, watch) = (store.clone(), act.clone(), Arc::new(Watch::default()));
    let seen = Arc::clone(&watch);
    let import = tokio::spawn(async move { own.import_workshop(&same, signed, &watch).await });
    // Killed once the first lines are in.
    changes.recv().await.unwrap();
    import.abort();
    let _ = import.await;
    assert!(seen.is_switching() && !seen.stop(), "what is switched in is not stopped");
    store.close().await;
    store = Store::open(folder.path()).await.unwrap();
    let left = store.arrivals().await.unwrap().pop().unwrap();
    assert_eq!((left.by(), left.act()), (by, &act));
    let done = store.take_up(left, &Watch::default()).await.unwrap();
    assert_eq!(done.lines as usize, file.lines().count());
    let now = exported(&store).await;
    let read = |line: &str| {
        let mut value: Value = serde_json::from_str(line).unwrap();
        as_then(&mut value);
        value
    };
    assert!(now.iter().zip(file.lines()).all(|(now, then)| read(now) == read(then)));
    // The same again is answered as it was done, and changes nothing.
    let again = store.import_workshop(&act, signed, &Watch::default()).await.unwrap().unwrap();
    assert_eq!(again, done);
    assert!(store.arrivals().await.unwrap().is_empty() && !store.staged(act.id).unwrap().exists());
    assert_eq!(exported(&store).await, now);
    assert_eq!(store.check_log().await.unwrap().broken, None);
}

/// Whatever is changed outside of the program is found, and nothing of the log changes inside of it.
#[tokio::test]
async fn a_row_that_was_changed_outside_is_named_and_the_log_cannot_be_replaced() {
    let shop = Shop::open().await;
    let job = shop.job(None).await;
    for n in 0..3 {
        let note = Note {
            id: Uuid::now_v7(),
            stage: Stage::Prove,
            text: format!("note {n}"),
            signed: shop.signed,
        };
        shop.does(job, Command::Note(note)).await.unwrap();
    }
    let rule = (RuleId::ReturnLook, (12.0, "12"));
    shop.store.change_rule(&Act::own(), rule.0, 0, rule.1, "comebacks", shop.signed).await.unwrap();
    let whole = shop.store.check_log().await.unwrap();
    assert_eq!((whole.rows, whole.broken), (4, None));
    let raw = shop.raw().await;
    for sql in [
        "UPDATE log SET entry = '{}' WHERE n = 2",
        "DELETE FROM log WHERE n = 2",
        "INSERT OR REPLACE INTO log (n, of_id, seq, id, entry, hash) SELECT n, of_id, seq, id, '{}', hash FROM log WHERE n = 2",
        "INSERT OR REPLACE INTO log (of_id, seq, id, entry, hash) SELECT of_id, seq, 'x', '{}', hash FROM log WHERE n = 2",
        "UPDATE commands SET content = 'x'",
        "DELETE FROM commands",
        "INSERT OR REPLACE INTO commands (id, content, at) SELECT id, 'x', at FROM commands LIMIT 1",
        "INSERT OR REPLACE INTO house_rules SELECT revision, rule, 99.0, typed, reason, by_id, at FROM house_rules",
    ] {
        let refused = sqlx::query(sql).execute(&raw).await.unwrap_err().to_string();
        assert!(refused.contains("append-only"), "{sql}: {refused}");
    }
    let broken = async || shop.store.check_log().await.unwrap().broken.unwrap_or_default();
    sqlx::query("DROP TRIGGER log_never_changes").execute(&raw).await.unwrap();
    let change = "UPDATE log SET entry = REPLACE(entry, 'note 0', 'note 9') WHERE n = 2";
    sqlx::query(change).execute(&raw).await.unwrap();
    assert!(broken().await.starts_with("Row 2 "), "{}", broken().await);
    let back = "UPDATE log SET entry = REPLACE(entry, 'note 9', 'note 0') WHERE n = 2";
    sqlx::query(back).execute(&raw).await.unwrap();
    assert_eq!(broken().await, "");
    sqlx::query("DROP TRIGGER log_never_goes").execute(&raw).await.unwrap();
    sqlx::query("DELETE FROM log WHERE n = 4").execute(&raw).await.unwrap();
    assert_eq!(broken().await, "Rows after row 3 are missing.");
}

/// The same id is answered, something else under it is refused, whatever kind it was given to.
#[tokio::test]
async fn an_id_is_one_command_for_ever() {
    let shop = Shop::open().await;
    let job = shop.job(None).await;
    let note = |text: &str| Note {
        id: Uuid::from_u128(77),
        stage: Stage::Prove,
        text: text.to_owned(),
        signed: shop.signed,
    };
    let keep = async |text: &str| {
        let note = note(text);
        let act = named(note.id, &text);
        shop.store.apply(job, &act, Command::Note(note), shop.signed).await
    };
    let first = keep("seen").await.unwrap();
    assert_eq!(keep("seen").await.unwrap(), first);
    assert!(matches!(keep("seen otherwise").await, Err(StoreError::Reused)));
    let other = winch("Other");
    let taken = TakeIn { id: note("").id, ..other };
    assert!(matches!(shop.take_in(&taken, shop.signed).await, Err(StoreError::Reused)));
    let person = Person::new(job, "Tjorven");
    let act = named(job, &person);
    let refused = shop.store.add_person(&act, &person, shop.signed.at).await;
    assert!(matches!(refused, Err(StoreError::Reused)), "nor by another kind");
    assert_eq!(shop.store.job(job).await.unwrap().notes.len(), 1);
}
