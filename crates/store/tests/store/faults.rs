//! What a disk and a folder can do: full, flipped, cut off, emptied, older, newer; and the backups that
//! are there for it. Whatever is wrong is named, and nothing is half.

use crate::{Shop, winch};
use cobaltine_core::job::Command;
use cobaltine_core::record::Note;
use cobaltine_core::work::Stage;
use cobaltine_store::{Act, Store, StoreError, back_up, backups, check, restore};
use jiff::Timestamp;
use std::fs;
use std::path::{Path, PathBuf};
use uuid::Uuid;

const DATABASE: &str = "cobaltine.sqlite";

impl Shop {
    async fn note(&self, job: Uuid, text: &str) -> Result<Uuid, StoreError> {
        let id = Uuid::now_v7();
        let note = Note { id, stage: Stage::Bench, text: text.to_owned(), signed: self.signed };
        self.store.apply(job, &Act::own(), Command::Note(note), self.signed).await?;
        Ok(id)
    }

    async fn notes(&self, job: Uuid) -> Vec<Uuid> {
        self.store.job(job).await.unwrap().notes.iter().map(|note| note.id).collect()
    }
}

/// A folder with three jobs and some notes, closed in good order or left as a kill leaves it.
async fn filled(closed: bool) -> (tempfile::TempDir, Uuid) {
    let shop = Shop::open().await;
    let mut job = Uuid::nil();
    for name in ["Winch", "Kiln", "Hauler"] {
        let new = winch(name);
        shop.take_in(&new, shop.signed).await.unwrap();
        job = new.id;
    }
    for i in 0..40 {
        shop.note(job, &format!("note {i}, with some words in it to fill a page or two"))
            .await
            .unwrap();
    }
    let copy = tempfile::tempdir().unwrap();
    if closed {
        shop.store.close().await;
        copy_files(shop.folder.path(), copy.path());
    } else {
        // As a kill leaves it: the files as they are now, the log beside the database.
        copy_files(shop.folder.path(), copy.path());
        shop.store.close().await;
    }
    (copy, job)
}

fn copy_files(from: &Path, to: &Path) {
    for entry in fs::read_dir(from).unwrap() {
        let path = entry.unwrap().path();
        if path.is_file() {
            fs::copy(&path, to.join(path.file_name().unwrap())).unwrap();
        }
    }
}

fn copy_of(folder: &Path) -> tempfile::TempDir {
    let copy = tempfile::tempdir().unwrap();
    copy_files(folder, copy.path());
    copy
}

/// What opening the folder says is wrong; none when it is served as if nothing were.
async fn trouble(folder: &Path) -> Option<String> {
    match Store::open(folder).await {
        Ok(store) => {
            let why = store.read_only().map(str::to_owned);
            store.close().await;
            why
        }
        Err(error) => Some(error.to_string()),
    }
}

#[tokio::test]
async fn a_full_disk_refuses_in_words_loses_nothing_and_saves_again_at_once() {
    let shop = Shop::open().await;
    let job = shop.job(None).await;
    let mut kept = Vec::new();
    for round in 0..10 {
        kept.push(shop.note(job, "before").await.unwrap());
        shop.store.most_pages(Some(1)).await;
        let mut refused = 0;
        for _ in 0..400 {
            if refused == 3 {
                break;
            }
            // Some fit into pages that are there; from the first that does not, none is half there.
            match shop.note(job, &"full ".repeat(390)).await {
                Ok(id) => kept.push(id),
                Err(StoreError::DiskFull) => refused += 1,
                Err(other) => unreachable!("{other:?}"),
            }
        }
        assert_eq!(refused, 3, "round {round}");
        // Several statements at once as well, and lists are still shown.
        let taken = shop.take_in(&winch(&"Long ".repeat(20)), shop.signed).await;
        assert!(matches!(taken, Ok(_) | Err(StoreError::DiskFull)), "{taken:?}");
        assert!(shop.store.state(job).await.is_ok());
        shop.store.most_pages(None).await;
        kept.push(shop.note(job, "after").await.unwrap());
        assert_eq!(shop.notes(job).await, kept, "round {round}");
    }
    assert!(StoreError::DiskFull.to_string().starts_with("Disk full: nothing was saved."));
    assert_eq!(shop.store.check_log().await.unwrap().broken, None);
    let folder = shop.folder;
    shop.store.close().await;
    let store = Store::open(folder.path()).await.unwrap();
    let notes = store.job(job).await.unwrap().notes;
    assert_eq!(notes.iter().map(|note| note.id).collect::<Vec<_>>(), kept);
}

/// One generator, so that what fails can be looked at again.
fn next(state: &mut u64) -> u64 {
    *state ^= *state << 13;
    *state ^= *state >> 7;
    *state ^= *state << 17;
    *state
}

#[tokio::test]
async fn eight_flipped_bits_in_two_hundred_copies_are_never_served_without_a_word() {
    let (folder, _) = filled(true).await;
    let whole = fs::read(folder.path().join(DATABASE)).unwrap();
    let mut dice = 0x9e37_79b9_7f4a_7c15;
    for copy in 0..200 {
        let mut bytes = whole.clone();
        for _ in 0..8 {
            let at = next(&mut dice) as usize % bytes.len();
            bytes[at] ^= 1 << (next(&mut dice) % 8);
        }
        let other = copy_of(folder.path());
        fs::write(other.path().join(DATABASE), bytes).unwrap();
        let why = trouble(other.path()).await;
        assert!(why.is_some(), "copy {copy} was served");
    }
    assert_eq!(trouble(folder.path()).await, None, "the one that nobody touched");
}

#[tokio::test]
async fn what_was_cut_off_emptied_taken_away_or_put_back_is_named() {
    let (closed, job) = filled(true).await;
    let (killed, _) = filled(false).await;
    assert_eq!(trouble(copy_of(killed.path()).path()).await, None, "a kill alone loses nothing");
    let name = |end: &str| PathBuf::from(format!("{DATABASE}{end}"));
    type Change = fn(&Path);
    let cut: Change = |file| {
        let bytes = fs::read(file).unwrap();
        fs::write(file, &bytes[..bytes.len() / 2]).unwrap();
    };
    let empty: Change = |file| fs::write(file, []).unwrap();
    let gone: Change = |file| fs::remove_file(file).unwrap();
    for (folder, file, change, says) in [
        (&closed, name(""), cut, "not as Cobaltine closed it"),
        (&closed, name(""), empty, "missing or empty"),
        (&closed, name(""), gone, "missing or empty"),
        (&killed, name("-wal"), gone, "acknowledged are missing"),
        (&killed, name("-wal"), cut, "acknowledged are missing"),
        (&killed, name(""), empty, "missing or empty"),
    ] {
        let copy = copy_of(folder.path());
        change(&copy.path().join(&file));
        // What was beside an emptied database may be taken for its own by nobody.
        let why = trouble(copy.path()).await.unwrap_or_default();
        assert!(why.contains(says), "{}: {why}", file.display());
    }
    // A copy of yesterday put in the place of today's.
    let store = Store::open(closed.path()).await.unwrap();
    let yesterday = tempfile::tempdir().unwrap();
    copy_files(closed.path(), yesterday.path());
    let signed = store.job(job).await.unwrap().job.taken_in;
    let note = Note { id: Uuid::now_v7(), stage: Stage::Bench, text: "today".into(), signed };
    store.apply(job, &Act::own(), Command::Note(note), signed).await.unwrap();
    store.close().await;
    fs::copy(yesterday.path().join(DATABASE), closed.path().join(DATABASE)).unwrap();
    let why = trouble(closed.path()).await.unwrap();
    assert!(why.contains("not as Cobaltine closed it"), "{why}");
    // It is still read, and nothing is written to it.
    let store = Store::open(closed.path()).await.unwrap();
    assert_eq!(store.job(job).await.unwrap().notes.len(), 40);
    let late = Note { id: Uuid::now_v7(), stage: Stage::Bench, text: "late".into(), signed };
    let told = store.apply(job, &Act::own(), Command::Note(late), signed).await.unwrap_err();
    assert!(told.to_string().starts_with("Read-only: nothing was saved."), "{told}");
    store.close().await;
}

#[tokio::test]
async fn a_folder_of_a_newer_program_is_refused() {
    let (folder, _) = filled(true).await;
    let file = sqlx::sqlite::SqliteConnectOptions::new().filename(folder.path().join(DATABASE));
    let pool = sqlx::SqlitePool::connect_with(file).await.unwrap();
    let sql = "INSERT INTO _sqlx_migrations SELECT 9999, description, installed_on, success, checksum, execution_time FROM _sqlx_migrations LIMIT 1";
    sqlx::query(sql).execute(&pool).await.unwrap();
    pool.close().await;
    // Its own program would have marked it as its own.
    fs::remove_file(folder.path().join("cobaltine.folder")).unwrap();
    let why = trouble(folder.path()).await.unwrap();
    assert!(why.contains("written by a newer Cobaltine"), "{why}");
}

#[tokio::test]
async fn a_backup_taken_while_others_write_restores_to_a_moment_that_was() {
    let shop = Shop::open().await;
    let job = shop.job(None).await;
    let (to, at) = (tempfile::tempdir().unwrap(), shop.signed.at);
    let mut tails = Vec::new();
    for round in 0..3 {
        let (writes, backed) = tokio::join!(
            async {
                for i in 0..30 {
                    shop.note(job, &format!("{round}, {i}")).await.unwrap();
                }
            },
            back_up(shop.folder.path(), to.path(), 2, at + jiff::SignedDuration::from_mins(round)),
        );
        let () = writes;
        tails.push(backed.unwrap().manifest);
    }
    let kept = backups(to.path()).unwrap();
    assert_eq!(kept.len(), 2, "the newest two");
    assert_eq!(kept[0].manifest, tails[2]);

    let (fresh, job_now) = (tempfile::tempdir().unwrap(), shop.notes(job).await);
    let data = fresh.path().join("restored");
    let told = restore(&kept[0].path, &data).await.unwrap();
    let store = Store::open(&data).await.unwrap();
    assert_eq!(store.read_only(), None);
    let log = store.check_log().await.unwrap();
    assert_eq!((log.rows, log.broken), (told.rows, None), "proven by the chain");
    let notes = store.job(job).await.unwrap().notes;
    let notes: Vec<_> = notes.iter().map(|note| note.id).collect();
    assert!(notes.len() >= 60 && job_now.starts_with(&notes), "as it was at one moment");
    store.close().await;
    let again = restore(&kept[0].path, &data).await.unwrap_err();
    assert!(again.to_string().contains("not empty"), "{again}");
    shop.store.close().await;
}

#[tokio::test]
async fn what_is_left_of_an_interrupted_backup_and_a_damaged_one_restore_nothing() {
    let (folder, _) = filled(false).await;
    let to = tempfile::tempdir().unwrap();
    let whole = back_up(folder.path(), to.path(), 3, Timestamp::now()).await.unwrap();
    let files = ["manifest.json", "database.sqlite.gz"];
    // Every stage at which it can be cut off: nothing, the copy, packed by half, packed, described, named
    // but by half. None of them is a backup.
    for stage in 0..4 {
        let cut = to.path().join(format!("cobaltine-20310520T08000{stage}.000Z.part"));
        fs::create_dir(&cut).unwrap();
        if stage > 0 {
            let bytes = fs::read(whole.path.join(files[1])).unwrap();
            let end = if stage == 1 { bytes.len() / 2 } else { bytes.len() };
            fs::write(cut.join(files[1]), &bytes[..end]).unwrap();
        }
        if stage == 3 {
            fs::copy(whole.path.join(files[0]), cut.join(files[0])).unwrap();
        }
        assert_eq!(backups(to.path()).unwrap(), std::slice::from_ref(&whole), "stage {stage}");
    }
    let second = back_up(folder.path(), to.path(), 3, Timestamp::now()).await.unwrap();
    let names: Vec<_> = fs::read_dir(to.path()).unwrap().map(|one| one.unwrap().path()).collect();
    assert_eq!(names.len(), 2, "what was interrupted is cleared away: {names:?}");

    let mut dice = 7;
    for damage in 0..40 {
        let copy = copy_of(&second.path);
        let file = copy.path().join(files[usize::from(damage % 4 != 0)]);
        let mut bytes = fs::read(&file).unwrap();
        match damage % 3 {
            0 => bytes.truncate(bytes.len() / 2),
            _ => {
                let at = next(&mut dice) as usize % bytes.len();
                bytes[at] ^= 1 << (next(&mut dice) % 8);
            }
        }
        fs::write(&file, bytes).unwrap();
        let fresh = tempfile::tempdir().unwrap();
        let data = fresh.path().join("data");
        match restore(copy.path(), &data).await {
            Err(_) => assert!(!data.exists(), "nothing half: {damage}"),
            // A bit of the manifest that says when or by which program: what it holds is whole.
            Ok(_) => assert!(damage % 4 == 0 && trouble(&data).await.is_none(), "{damage}"),
        }
    }
}

#[tokio::test]
async fn a_check_reads_everything_and_makes_anew_what_follows_from_the_log() {
    let (folder, job) = filled(false).await;
    // Opened and closed, everything that follows from the log is made.
    Store::open(folder.path()).await.unwrap().close().await;
    let before = fs::read(folder.path().join(DATABASE)).unwrap();
    let looked = |at: PathBuf| async move {
        let scratch = tempfile::tempdir().unwrap();
        check(&at, scratch.path(), Timestamp::now()).await.unwrap()
    };
    let found = looked(folder.path().to_owned()).await;
    assert_eq!((found.wrong.as_slice(), found.jobs), (&[][..], 3));
    assert!(fs::read(folder.path().join(DATABASE)).unwrap() == before, "it only reads");
    for (change, says) in [
        (format!("UPDATE board SET tone = 'other' WHERE job_id = '{job}'"), "board"),
        (
            format!(
                "DROP TRIGGER log_never_changes; UPDATE log SET entry = replace(entry, 'note 7', 'note 8') WHERE of_id = '{job}'"
            ),
            "not as it was written",
        ),
    ] {
        let copy = copy_of(folder.path());
        let file = sqlx::sqlite::SqliteConnectOptions::new().filename(copy.path().join(DATABASE));
        let pool = sqlx::SqlitePool::connect_with(file).await.unwrap();
        sqlx::raw_sql(sqlx::AssertSqlSafe(change)).execute(&pool).await.unwrap();
        pool.close().await;
        fs::remove_file(copy.path().join("cobaltine.folder")).unwrap();
        let found = looked(copy.path().to_owned()).await;
        assert!(found.wrong.iter().any(|why| why.contains(says)), "{says}: {:?}", found.wrong);
    }
}
