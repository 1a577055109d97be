//! The made-up workshop: open files, loaded through the same import as a user's.

use crate::words;
use anyhow::Context;
use cobaltine_core::calc::trim::{TrimInput, trim};
use cobaltine_core::customer::Customer;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::library::{LibraryFile, LimitRow, ReadRow};
use cobaltine_core::profile::Profile;
use cobaltine_core::record::{JobFile, Person, Signed};
use cobaltine_standins::unit::Unit;
use cobaltine_store::{Act, Store};
use jiff::{SignedDuration, Timestamp};
use rust_embed::RustEmbed;
use serde::Deserialize;
use serde_json::Value;
use std::time::Duration;
use uuid::Uuid;

#[derive(RustEmbed)]
#[folder = "../../demo"]
#[include = "*.json"]
struct Files;

#[derive(Deserialize)]
struct Workshop {
    profile: Profile,
    customers: Vec<Customer>,
    people: Vec<Person>,
    instruments: Vec<Instrument>,
    shims: Vec<Shims>,
}

/// What is in the drawer; the id makes loading twice put it in once.
#[derive(Deserialize)]
struct Shims {
    id: Uuid,
    size_um: f64,
    count: i32,
}

/// How long the made-up control unit takes for a code.
const CODE_TAKES: Duration = Duration::from_millis(1500);
/// The dredger's winch, as its unit was delivered: one step of each point for each cylinder.
const WINCH: (&str, [[f64; 4]; 4]) = (
    "230",
    [[0.3, -0.6, 0.9, 0.0], [0.0, 0.3, -0.3, 1.2], [-0.9, 0.0, 0.6, 0.3], [0.6, 0.6, 0.0, -0.3]],
);

/// The tram, whose codes are written, which was cleared and is half-way through its learning drive.
const TRAM: (&str, [[f64; 4]; 4]) = (
    "196",
    [[0.3, 0.3, -0.6, 0.0], [-0.3, 0.9, 0.0, 0.6], [-0.6, 0.3, 0.6, -0.9], [0.0, 0.0, 0.3, -0.3]],
);
const TRAM_DRIVEN: [u32; 3] = [3, 2, 1];

/// The made-up control unit, with the codes that vehicles of the made-up workshop came with.
pub(crate) fn control_unit() -> Unit {
    let mut unit = Unit::new(CODE_TAKES);
    let code = |off: &[f64; 4]| {
        let input = TrimInput {
            nominal_mm3: off.map(|off| 20.0 + off).to_vec(),
            measured_mm3: vec![20.0; 4],
            step_mm3: 0.3,
            release_limits_mm3: None,
        };
        trim(&input).ok().and_then(|out| out.code)
    };
    unit.deliver(WINCH.0, WINCH.1.iter().map(code).collect());
    unit.deliver(TRAM.0, TRAM.1.iter().map(code).collect());
    unit.deliver_driven(TRAM.0, TRAM_DRIVEN);
    unit
}

/// Loads people, families and jobs. Loading twice leaves what is there.
pub(crate) async fn load(store: &Store) -> anyhow::Result<()> {
    let mut value = read("workshop.json")?;
    let told_at: Timestamp = serde_json::from_value(value["told_at"].clone())?;
    let later = Timestamp::now().duration_since(told_at);
    move_times(&mut value, later);
    let workshop: Workshop = serde_json::from_value(value)?;
    for person in &workshop.people {
        store.add_person(&Act::own(), person, told_at + later).await?;
    }
    store.add_instruments(&workshop.instruments).await?;
    if let Some(person) = workshop.people.first() {
        let signed = Signed::new(person.id, told_at + later);
        if store.profile().await?.revision == 0 {
            store.change_profile(&Act::own(), 0, &workshop.profile, signed).await?;
        }
        for customer in &workshop.customers {
            store.add_customer(customer).await?;
        }
        for shim in &workshop.shims {
            store.move_shims(&Act::own(), shim.id, shim.size_um, shim.count, signed).await?;
        }
    }
    load_library(store).await?;
    for name in Files::iter().filter(|name| name.starts_with("job-")) {
        let mut value = read(&name)?;
        move_times(&mut value, later);
        let file: JobFile = serde_json::from_value(value).with_context(|| name.to_string())?;
        if store.job(file.job.id).await.is_ok() {
            continue;
        }
        match store.load_jobs(std::slice::from_ref(&file)).await {
            Ok(()) => {}
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
        store.import_library(&Act::own(), &file.families, &rows, &file.items, None).await?;
    }
    Ok(())
}

fn read(name: &str) -> anyhow::Result<Value> {
    let file = Files::get(name).with_context(|| words::not_program(name))?;
    serde_json::from_slice(&file.data).with_context(|| name.to_owned())
}

/// Moves every time in a file by the same amount.
fn move_times(value: &mut Value, by: SignedDuration) {
    match value {
        Value::Object(map) => {
            for (key, value) in map {
                if let Some(day) =
                    value.as_str().filter(|_| key == "calibration_due" || key == "promised")
                {
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
        assert_eq!(board.jobs, 32);
        let story = |machine: &str| {
            let card = board.cards.iter().find(|card| card.machine.starts_with(machine)).unwrap();
            let marks: Vec<Mark> = card.banks.concat().iter().map(|lane| lane.mark).collect();
            (marks, card.waits.words.clone())
        };
        let (bad, _) = story("Pilot cutter");
        assert_eq!(bad.iter().filter(|mark| **mark == Mark::TooMuch).count(), 2);
        let (split, words) = story("Creamery");
        assert_eq!(split, [Mark::Undecided; 4]);
        assert!(words.starts_with("Two groups, 1 and 3 against 2 and 4"));
        assert!(story("Net hauler").1.contains("at least 430 %"), "the overflow is a lower bound");
        assert_eq!(story("Hop sprayer").0[2], Mark::Questioned);
        assert_eq!(story("Malt kiln").0[1], Mark::Undecided);
        assert_eq!(story("Lighthouse").0, [Mark::Inside; 6]);
        assert_eq!(story("Slate crane").0.len(), 12);
        for (machine, says) in [
            ("Oyster dredge", "fix: Fuel drains back when parked"),
            ("Bog tractor", "Cylinder 3 makes little difference."),
            ("Hay baler", "fix: The fuel is dirty"),
            ("Sluice pump", "Cylinder 3: check the wiring."),
            ("Moor railcar", "Readings drifted during the test: no injector condemned."),
            ("Chain ferry", "The fault followed the injector from cylinder 2 to 3"),
            ("Quarry loader", "The fault stayed with cylinder 4"),
            ("Harbour crane", "At raised speed: cylinder 3: leak-off 124 %"),
            ("Causeway tram", "7 of 11 proven. Next: relearn drive."),
        ] {
            assert!(story(machine).1.starts_with(says), "{machine}: {}", story(machine).1);
        }
        let bench = store.sessions(None, 1, 20).await.unwrap();
        assert_eq!(bench.total, 7, "the set that two jobs share is there once");
        for (session, says) in [
            (1, "Injector 7: too little flow."),
            (2, "Injector 2: recovered. Injector 3: still restricted"),
            (3, "Injector 2: late"),
            (4, "Injector 3: high static leak-off."),
            (5, "Injectors 1, 2, 3 and 4 coded."),
            (6, "Injector 1: Over the limit by less than its uncertainty"),
            (7, "Injector 12: too little flow."),
        ] {
            let line = bench.lines.iter().find(|line| line.number == session).unwrap();
            assert!(line.headline.starts_with(says), "{session}: {} {}", line.test, line.headline);
        }
        assert_eq!(store.shims().await.unwrap().iter().map(|s| s.count).sum::<u32>(), 31);
        let running = &board.running[0];
        assert!(running.machine == "Reed cutter" && running.timers[0].ends_at > Timestamp::now());
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
        assert_eq!(board.jobs, 552);
        let file = store.job(board.cards[0].id).await.unwrap();
        assert!(file.problems().is_empty());
    }
}
