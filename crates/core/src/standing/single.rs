//! What each single reading is worth: the lane that it is part of decides, unless it was corrected,
//! excluded, or averaged with others.

use super::{Source, Standing, Stood, Verdicts};
use crate::record::{JobFile, RunRecord, Signed};
use serde::Serialize;
use std::collections::HashMap;
use utoipa::ToSchema;
use uuid::Uuid;

/// A single reading that does not count just as it was taken.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Single {
    /// The reading.
    pub id: Uuid,
    /// What it is worth now.
    pub standing: Standing,
    /// The same in a word.
    pub word: String,
    /// Who made it so, and when; none where it is averaged.
    pub since: Option<Signed>,
    /// The reason that was given; empty where none was asked for.
    pub why: String,
    /// What would make it count again; empty where it counts.
    pub back: String,
}

/// A reading as this room sees it, whatever it was read in.
struct Row<'a> {
    id: Uuid,
    corrects: Option<Uuid>,
    why: Option<&'a str>,
    signed: Signed,
    source: Source,
    place: Option<u32>,
}

/// Every single reading that does not count just as it was taken, in the order of the file.
pub fn singles(file: &JobFile, verdicts: Verdicts<'_>, stood: &[Stood]) -> Vec<Single> {
    let mut found = Vec::new();
    for (at, test) in file.return_tests.iter().enumerate() {
        for run in &test.runs {
            let others =
                || test.counting().filter(|one| one.phase == run.phase && one.id != run.id);
            let joins = |cylinder: Option<u32>| {
                cylinder.is_some() && others().any(|one| reads(one, cylinder))
            };
            let rows = run.readings.iter().map(|one| Row {
                id: one.id,
                corrects: one.corrects,
                why: one.why.as_deref(),
                signed: one.signed,
                source: Source::Return(at),
                place: one.cylinder,
            });
            let rows: Vec<Row<'_>> = rows.collect();
            found.extend(of_set(stood, &rows, |row| match &run.set_aside {
                Some(aside) => {
                    Some((Standing::Excluded, Some(aside.signed), aside.reason.as_str()))
                }
                None => joins(row.place).then_some((Standing::Joined, None, "")),
            }));
        }
    }
    for (at, sheet) in file.sheets.iter().enumerate() {
        let rows = sheet.readings.iter().map(|one| Row {
            id: one.id,
            corrects: one.corrects,
            why: None,
            signed: one.signed,
            source: Source::Sheet(at),
            place: one.cylinder,
        });
        found.extend(of_set(stood, &rows.collect::<Vec<_>>(), |_| None));
    }
    for (nth, session) in file.bench.iter().enumerate() {
        let judged = verdicts.benches.get(nth).map_or(&[][..], |judged| &judged.verdicts);
        for (at, held) in judged.iter().enumerate() {
            let of = session.cells.iter().filter(|c| c.round == held.round && c.test == held.test);
            let rows = of.map(|one| Row {
                id: one.id,
                corrects: one.corrects,
                why: None,
                signed: one.signed,
                source: Source::Bench(nth, at),
                place: one.tag,
            });
            found.extend(of_set(stood, &rows.collect::<Vec<_>>(), |_| None));
        }
    }
    found
}

/// A run in which this cylinder was read.
fn reads(run: &RunRecord, cylinder: Option<u32>) -> bool {
    run.standing().any(|one| one.cylinder == cylinder)
}

/// Readings among which one corrects another; `own` is what their run says of all of them.
fn of_set<'a>(
    stood: &[Stood],
    rows: &[Row<'a>],
    own: impl Fn(&Row<'a>) -> Option<(Standing, Option<Signed>, &'a str)>,
) -> Vec<Single> {
    let corrected: HashMap<Uuid, &Row<'_>> =
        rows.iter().filter_map(|row| Some((row.corrects?, row))).collect();
    let lanes: HashMap<Option<u32>, &Stood> =
        rows.first().map_or_else(HashMap::new, |first| lanes(stood, first.source));
    let of = |row: &Row<'a>| {
        let (standing, since, why) = match (corrected.get(&row.id), own(row)) {
            (Some(by), _) => (Standing::Superseded, Some(by.signed), by.why.unwrap_or_default()),
            (None, Some((Standing::Excluded, since, why))) => (Standing::Excluded, since, why),
            (None, own) => match lanes.get(&row.place).filter(|lane| !lane.here.counts()) {
                Some(lane) => (lane.here, lane.since, ""),
                None => own?,
            },
        };
        Some(Single {
            id: row.id,
            standing,
            word: standing.word().to_owned(),
            since,
            why: why.to_owned(),
            back: standing.back().to_owned(),
        })
    };
    rows.iter().filter_map(of).collect()
}

/// The lanes of a set by their place.
fn lanes(stood: &[Stood], source: Source) -> HashMap<Option<u32>, &Stood> {
    stood
        .iter()
        .filter(|one| one.place.is_some() && one.source == source)
        .map(|one| (one.place, one))
        .collect()
}
