//! The made-up workshop: open files, loaded through the same import as a user's.

use anyhow::Context;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::library::{LibraryFile, LimitRow, ReadRow};
use cobaltine_core::record::{JobFile, Person};
use cobaltine_store::Store;
use jiff::{SignedDuration, Timestamp};
use rust_embed::RustEmbed;
use serde::Deserialize;
use serde_json::Value;

#[derive(RustEmbed)]
#[folder = "../../demo"]
#[include = "*.json"]
struct Files;

#[derive(Deserialize)]
struct Workshop {
    people: Vec<Person>,
    instruments: Vec<Instrument>,
}

/// Loads people, families and jobs. Loading twice leaves what is there.
pub(crate) async fn load(store: &Store) -> anyhow::Result<()> {
    let mut value = read("workshop.json")?;
    let told_at: Timestamp = serde_json::from_value(value["told_at"].clone())?;
    let later = Timestamp::now().duration_since(told_at);
    move_times(&mut value, later);
    let workshop: Workshop = serde_json::from_value(value)?;
    for person in &workshop.people {
        store.add_person(person).await?;
    }
    store.add_instruments(&workshop.instruments).await?;
    load_library(store).await?;
    for name in Files::iter().filter(|name| name.starts_with("job-")) {
        let mut value = read(&name)?;
        move_times(&mut value, later);
        let file: JobFile = serde_json::from_value(value).with_context(|| name.to_string())?;
        if store.job(file.job.id).await.is_ok() {
            continue;
        }
        match store.import_job(&file).await {
            Ok(_) => {}
            Err(cobaltine_store::StoreError::Invalid(problems)) => {
                anyhow::bail!("{name}: {problems:?}")
            }
            Err(error) => return Err(error).with_context(|| name.to_string()),
        }
    }
    Ok(())
}

/// Families, limits with their older revisions, engines and plans.
async fn load_library(store: &Store) -> anyhow::Result<()> {
    let file: LibraryFile = serde_json::from_value(read("library.json")?)?;
    let rows = file.limits.iter().map(|entry| {
        let mut row =
            LimitRow::from(entry).read().map_err(|problems| anyhow::anyhow!("{problems:?}"))?;
        row.entry.typed.clone_from(&entry.typed);
        Ok(row)
    });
    let rows = rows.collect::<anyhow::Result<Vec<ReadRow>>>()?;
    // The older revisions of a limit would come back as newer ones the second time.
    if store.library_file().await?.limits.is_empty() {
        store.import_library(&file.families, &rows, &file.items, None).await?;
    }
    Ok(())
}

fn read(name: &str) -> anyhow::Result<Value> {
    let file = Files::get(name).with_context(|| format!("{name} is not in the program"))?;
    serde_json::from_slice(&file.data).with_context(|| name.to_owned())
}

/// Moves every time in a file by the same amount.
fn move_times(value: &mut Value, by: SignedDuration) {
    match value {
        Value::Object(map) => {
            for (key, value) in map {
                if let Some(day) = value.as_str().filter(|_| key == "calibration_due") {
                    if let Ok(due) = day.parse::<jiff::civil::Date>() {
                        *value = Value::String(due.saturating_add(by).to_string());
                    }
                    continue;
                }
                let time = value.as_str().filter(|_| key == "at" || key.ends_with("_at"));
                match time.and_then(|text| text.parse::<Timestamp>().ok()) {
                    Some(at) => *value = Value::String((at + by).to_string()),
                    None => move_times(value, by),
                }
            }
        }
        Value::Array(items) => items.iter_mut().for_each(|item| move_times(item, by)),
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {}
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use cobaltine_core::mark::Mark;
    use cobaltine_store::BoardQuery;

    #[tokio::test]
    async fn the_made_up_workshop_tells_every_story_once_and_loads_twice() {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(folder.path()).await.unwrap();
        load(&store).await.unwrap();
        load(&store).await.unwrap();
        let query = BoardQuery { per_page: 50, ..BoardQuery::default() };
        let board = store.board(&query).await.unwrap();
        assert_eq!(board.jobs, 12);
        let story = |machine: &str| {
            let card = board.cards.iter().find(|card| card.machine.starts_with(machine)).unwrap();
            let marks: Vec<Mark> = card.banks.concat().iter().map(|lane| lane.mark).collect();
            (marks, card.waits.words.clone())
        };
        let (bad, _) = story("Pilot cutter");
        assert_eq!(bad.iter().filter(|mark| **mark == Mark::TooMuch).count(), 2);
        let (split, words) = story("Creamery");
        assert_eq!(split, [Mark::Undecided; 4]);
        assert!(words.starts_with("Two camps, 1 and 3 against 2 and 4"));
        assert!(story("Net hauler").1.contains("at least 430 %"), "the overflow is a lower bound");
        assert_eq!(story("Hop sprayer").0[2], Mark::Questioned);
        assert_eq!(story("Malt kiln").0[1], Mark::Undecided);
        assert_eq!(story("Lighthouse").0, [Mark::Inside; 6]);
        assert_eq!(story("Slate crane").0.len(), 12);
        let running = &board.running[0];
        assert!(running.machine == "Reed cutter" && running.timer_ends_at > Some(Timestamp::now()));
    }

    #[tokio::test]
    async fn generated_jobs_are_jobs_like_any_other() {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(folder.path()).await.unwrap();
        load(&store).await.unwrap();
        crate::generate::fill(&store, 520).await.unwrap();
        let query =
            BoardQuery { words: "harbour".to_owned(), per_page: 5, ..BoardQuery::default() };
        let board = store.board(&query).await.unwrap();
        assert_eq!(board.jobs, 532);
        let file = store.job(board.cards[0].id).await.unwrap();
        assert!(file.problems().is_empty());
    }
}
