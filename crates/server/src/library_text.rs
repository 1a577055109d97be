//! The library as text: CSV (RFC 4180) of limits, JSON of everything. Read row by row, so that
//! each bad cell is named and the good rows are still seen.

use crate::ApiError;
use crate::transfer::unformula;
use crate::wire::RowProblem;
use crate::words;
use cobaltine_core::library::{
    COLUMNS, LIBRARY_FORMAT, LIBRARY_VERSION, LibraryFamily, LibraryFile, LibraryItem, LimitRow,
    ReadRow,
};
use cobaltine_core::record::FieldProblem;
use std::collections::HashMap;

/// The most rows of one file.
const MOST_ROWS: usize = 50_000;

/// What could be read of a file.
#[derive(Debug, Default)]
pub(crate) struct Read {
    pub families: Vec<LibraryFamily>,
    pub rows: Vec<ReadRow>,
    pub items: Vec<LibraryItem>,
}

fn whole(message: impl Into<String>) -> ApiError {
    ApiError::Fields(vec![FieldProblem::new("file", message)])
}

/// Limits from CSV. The first row names the columns, in any order; commas or semicolons.
pub(crate) fn read_csv(text: &str) -> Result<(Read, Vec<RowProblem>), ApiError> {
    let text = text.trim_start_matches('\u{feff}');
    let head = text.lines().next().unwrap_or_default();
    let delimiter = if head.matches(';').count() > head.matches(',').count() { b';' } else { b',' };
    let mut reader = csv::ReaderBuilder::new()
        .delimiter(delimiter)
        .flexible(true)
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes());
    let columns: Vec<String> = reader
        .headers()
        .map_err(|error| whole(words::not_csv(&error)))?
        .iter()
        .map(|name| name.to_lowercase())
        .collect();
    let missing: Vec<&str> = ["family", "check", "source"]
        .into_iter()
        .filter(|name| !columns.iter().any(|column| column == name))
        .collect();
    let unknown: Vec<&str> =
        columns.iter().map(String::as_str).filter(|name| !COLUMNS.contains(name)).collect();
    if !missing.is_empty() || !unknown.is_empty() {
        return Err(whole(words::first_row_names_columns(
            COLUMNS.join(", "),
            or_none(&missing),
            or_none(&unknown),
        )));
    }
    let (mut read, mut problems) = (Read::default(), Vec::new());
    for (n, record) in reader.records().enumerate() {
        // Counted as a spreadsheet counts: the head is row 1.
        let row = n as u32 + 2;
        if n >= MOST_ROWS {
            return Err(whole(words::maximum_rows_one_file(MOST_ROWS)));
        }
        let record = match record {
            Ok(record) => record,
            Err(error) => {
                problems.push(RowProblem {
                    row,
                    field: "row".to_owned(),
                    message: format!("{error}."),
                });
                continue;
            }
        };
        let mut limit = LimitRow::default();
        for (column, cell) in columns.iter().zip(&record) {
            if let Some(held) = limit.cell(column) {
                *held = cell.trim_start_matches('\'').to_owned();
            }
        }
        if record.len() > columns.len() {
            let message = words::cells_but_columns_named(record.len(), columns.len());
            problems.push(RowProblem { row, field: "row".to_owned(), message });
            continue;
        }
        keep(&mut read, &mut problems, row, &limit);
    }
    Ok((read, problems))
}

fn or_none(names: &[&str]) -> String {
    if names.is_empty() { "none".to_owned() } else { names.join(", ") }
}

fn keep(read: &mut Read, problems: &mut Vec<RowProblem>, row: u32, limit: &LimitRow) {
    match limit.read() {
        Ok(one) => read.rows.push(one),
        Err(found) => problems.extend(found.into_iter().map(|problem| RowProblem {
            row,
            field: problem.field,
            message: problem.message,
        })),
    }
}

/// Everything from JSON. Rows are counted from 1 over the limits.
pub(crate) fn read_json(text: &str) -> Result<(Read, Vec<RowProblem>), ApiError> {
    let file: LibraryFile =
        serde_json::from_str(text).map_err(|error| whole(words::not_library_file(&error)))?;
    if file.format != LIBRARY_FORMAT || file.version != LIBRARY_VERSION {
        return Err(whole(words::version_version_needed(
            &file.format,
            file.version,
            LIBRARY_FORMAT,
            LIBRARY_VERSION,
        )));
    }
    if file.limits.len() + file.families.len() + file.items.len() > MOST_ROWS {
        return Err(whole(words::maximum_entries_one_file(MOST_ROWS)));
    }
    let kinds: HashMap<String, _> =
        file.families.iter().map(|f| (f.name.to_lowercase(), f.detail.kind)).collect();
    let mut read = Read { families: file.families, rows: Vec::new(), items: file.items };
    let mut problems = Vec::new();
    for (n, entry) in file.limits.iter().enumerate() {
        let before = read.rows.len();
        keep(&mut read, &mut problems, n as u32 + 1, &LimitRow::from(entry));
        if let Some(row) = read.rows.get_mut(before) {
            row.entry.typed.clone_from(&entry.typed);
            row.kind = kinds.get(&entry.family.to_lowercase()).copied();
        }
    }
    Ok((read, problems))
}

/// The newest limits as CSV, readable by [`read_csv`].
pub(crate) fn write_csv(file: &LibraryFile) -> Vec<u8> {
    let kinds: HashMap<&str, &str> =
        file.families.iter().map(|f| (f.name.as_str(), f.detail.kind.name())).collect();
    let mut writer =
        csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    // Writing into memory cannot fail.
    let _ = writer.write_record(COLUMNS);
    for entry in &file.limits {
        let mut row = LimitRow::from(entry);
        row.kind = kinds.get(entry.family.as_str()).copied().unwrap_or_default().to_owned();
        let cells =
            COLUMNS.map(|column| row.cell(column).map(|c| unformula(c)).unwrap_or_default());
        let _ = writer.write_record(&cells);
    }
    writer.into_inner().unwrap_or_default()
}
