//! Readings of a bench from a CSV file: looked at first, then taken in whole or not at all.

use crate::extract::{Doing, Path};
use crate::wire::{BenchFileRequest, BenchFileView, SessionView};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::record::{FieldProblem, Signed};
use cobaltine_core::tests::bench::import::{Column, Importer, LineProblem, Taken};
use cobaltine_core::tests::bench::{BenchCell, Round, SessionRecord, Spot};
use cobaltine_store::BenchFile;
use uuid::Uuid;

/// The most rows and columns of a file.
const MOST_ROWS: u64 = 250_000;
const MOST_COLUMNS: usize = 64;

/// Looks at a file of readings, or takes it in: all of it, or nothing with the lines that are wrong.
#[utoipa::path(post, path = "/bench/{session}/files", request_body = BenchFileRequest, responses((status = 200, body = BenchFileView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(session): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<BenchFileRequest>,
) -> Result<Json<BenchFileView>, ApiError> {
    let (held, _) = state.store.session(session).await?;
    let separator = separator(&request.text).map_err(|text| problem(&text))?;
    let headings = headings(&request.text, separator).map_err(|text| problem(&text))?;
    let heading = headings.join("\u{1f}");
    let meant = state.store.column_meanings(&heading).await?;
    let meant: Option<Vec<Column>> = meant.and_then(|text| serde_json::from_str(&text).ok());
    let remembered = request.columns.is_empty() && meant.is_some();
    let columns = match request.columns.as_slice() {
        [] => meant.unwrap_or_else(|| headings.iter().map(|h| Column::guessed(h)).collect()),
        said => said.to_vec(),
    };
    if columns.len() != headings.len() {
        return Err(problem(words::CHOOSE_EACH_COLUMN_MEANS));
    }
    let round = held.rounds.iter().find(|round| round.id == request.round).cloned();
    let round = round.ok_or_else(|| problem(words::NO_SUCH_ROUND))?;
    // A long file is read off the threads that answer others.
    let (text, named) = (request.text, headings.iter().cloned().zip(columns.iter().copied()));
    let (named, file) = (named.collect::<Vec<_>>(), held.clone());
    let work = move || (parse(&file, &round, &named, &text, separator), text, round);
    let (parsed, text, round) =
        tokio::task::spawn_blocking(work).await.map_err(|_| problem(words::FILE_COULD_NOT_READ))?;
    let mut view = BenchFileView {
        headings,
        columns,
        remembered,
        rows: 0,
        readings: 0,
        corrects: 0,
        refused: None,
        problems: Vec::new(),
        problem_count: 0,
        session: None,
    };
    match parsed {
        Parsed::Refused(refused) => view.refused = Some(refused),
        Parsed::Wrong { rows, count, problems } => {
            view.rows = rows;
            view.problem_count = count;
            view.problems = problems;
        }
        Parsed::Read { rows, taken } => {
            view.rows = rows;
            view.readings = taken.len() as u64;
            let cells =
                cells(&round, Importer::test(held.setup.kind), &taken, &request.name, signed);
            let stands = |cell: &&BenchCell| {
                let spot = Spot { cell: &cell.cell, row: cell.row, tag: cell.tag };
                held.standing(cell.round, cell.test, spot).is_some_and(|s| s.value.is_some())
            };
            view.corrects = cells.iter().filter(stands).count() as u64;
            if request.take {
                let columns = serde_json::to_string(&view.columns).unwrap_or_default();
                let file = BenchFile {
                    id: request.id,
                    name: &request.name.chars().take(120).collect::<String>(),
                    text: &text,
                    heading: &heading,
                    columns: &columns,
                };
                let kept = state.store.import_bench(session, &act, &file, cells, signed).await?;
                view.session = Some(SessionView::of(kept));
            }
        }
    }
    Ok(Json(view))
}

fn problem(text: &str) -> ApiError {
    ApiError::Fields(vec![FieldProblem::new("text", text)])
}

enum Parsed {
    Refused(String),
    Wrong { rows: u64, count: u64, problems: Vec<LineProblem> },
    Read { rows: u64, taken: Vec<Taken> },
}

fn parse(
    session: &SessionRecord,
    round: &Round,
    columns: &[(String, Column)],
    text: &str,
    separator: u8,
) -> Parsed {
    let mut importer = match Importer::new(session, round, columns) {
        Ok(importer) => importer,
        Err(refused) => return Parsed::Refused(refused),
    };
    let mut reader = reader(text, separator);
    let mut record = csv::StringRecord::new();
    let mut rows = 0;
    loop {
        match reader.read_record(&mut record) {
            Ok(false) => break,
            Ok(true) => {
                rows += 1;
                if rows > MOST_ROWS {
                    return Parsed::Refused(words::maximum_rows(MOST_ROWS));
                }
                if record.iter().all(str::is_empty) {
                    continue;
                }
                let line = record.position().map_or(rows + 1, csv::Position::line);
                importer.push(line, |column| record.get(column));
            }
            Err(error) => {
                return Parsed::Refused(words::cannot_read_table(&error));
            }
        }
    }
    match importer.done() {
        Ok(taken) if taken.is_empty() => Parsed::Refused(words::NO_READING_FILE.to_owned()),
        Ok(taken) => Parsed::Read { rows, taken },
        Err((count, problems)) => Parsed::Wrong { rows, count, problems },
    }
}

fn reader(text: &str, separator: u8) -> csv::Reader<&[u8]> {
    csv::ReaderBuilder::new()
        .delimiter(separator)
        .flexible(true)
        .from_reader(text.trim_start_matches('\u{feff}').as_bytes())
}

fn separator(text: &str) -> Result<u8, String> {
    let first = text.lines().next().unwrap_or_default().as_bytes();
    [b'\t', b';', b',']
        .into_iter()
        .find(|mark| first.contains(mark))
        .ok_or_else(|| words::NEEDS_HEADING_LEAST_TWO.to_owned())
}

fn headings(text: &str, separator: u8) -> Result<Vec<String>, String> {
    let mut reader = reader(text, separator);
    let headings = reader.headers().map_err(|error| words::heading_cannot_read(&error))?;
    if headings.len() > MOST_COLUMNS {
        return Err(words::maximum_columns(MOST_COLUMNS));
    }
    Ok(headings.iter().map(|h| h.trim().chars().take(80).collect()).collect())
}

fn cells(
    round: &Round,
    test: cobaltine_core::tests::bench::BenchTest,
    taken: &[Taken],
    name: &str,
    signed: Signed,
) -> Vec<BenchCell> {
    let typed: String = name.chars().take(60).collect();
    taken
        .iter()
        .map(|one| BenchCell {
            id: Uuid::now_v7(),
            round: round.id,
            test,
            cell: one.cell.to_owned(),
            row: Some(one.row),
            tag: Some(one.tag),
            value: Some(one.value),
            typed: typed.clone(),
            samples: Some(one.samples),
            shown_by: None,
            corrects: None,
            signed,
        })
        .collect()
}
