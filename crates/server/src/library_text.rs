//! The library as text: CSV (RFC 4180) of limits, JSON of everything. Read row by row, so that
//! each bad cell is named and the good rows are still seen.

use crate::ApiError;
use crate::transfer::unformula;
use crate::wire::RowProblem;
use crate::words;
use cobaltine_core::library::{
    COLUMNS, DATED, LIBRARY_FORMAT, LIBRARY_VERSION, LibraryFamily, LibraryFile, LibraryItem,
    LimitRow, ReadRow, column_named,
};
use cobaltine_core::record::FieldProblem;
use cobaltine_core::typed::heading_unit;
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

/// The columns of a file: as they are headed, and what each means.
#[derive(Debug, Default)]
pub(crate) struct Columns {
    /// As in the file.
    pub headings: Vec<String>,
    /// One of [`COLUMNS`] for each, empty where it is left out.
    pub means: Vec<String>,
    /// What is still to be told before a row can be read.
    pub refused: Option<String>,
}

impl Columns {
    /// The same heading again means the same.
    pub fn heading(&self) -> String {
        self.headings.join("\u{1f}")
    }
}

fn opened(text: &str) -> csv::Reader<&[u8]> {
    let text = text.trim_start_matches('\u{feff}');
    let head = text.lines().next().unwrap_or_default();
    let count = |mark: char| head.matches(mark).count();
    let delimiter = match () {
        () if count('\t') > count(',').max(count(';')) => b'\t',
        () if count(';') > count(',') => b';',
        () => b',',
    };
    csv::ReaderBuilder::new()
        .delimiter(delimiter)
        .flexible(true)
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes())
}

/// What the columns of a file mean: as told, else as told last time, else by their words.
pub(crate) fn columns(
    text: &str,
    told: &[String],
    last: impl FnOnce(&str) -> Option<Vec<String>>,
) -> Result<Columns, ApiError> {
    let mut reader = opened(text);
    let headings: Vec<String> = reader
        .headers()
        .map_err(|error| whole(words::not_csv(&error)))?
        .iter()
        .map(str::to_owned)
        .collect();
    let mut columns = Columns { headings, ..Columns::default() };
    let known = |means: &[String]| {
        means.len() == columns.headings.len()
            && means
                .iter()
                .all(|one| one.is_empty() || one == DATED || COLUMNS.contains(&one.as_str()))
    };
    columns.means = if known(told) {
        told.to_vec()
    } else {
        let guessed = |heading: &String| column_named(heading).unwrap_or_default().to_owned();
        last(&columns.heading())
            .filter(|means| known(means))
            .unwrap_or_else(|| columns.headings.iter().map(guessed).collect())
    };
    let count = |column: &str| columns.means.iter().filter(|one| *one == column).count();
    let missing: Vec<&str> =
        ["family", "check", "source"].into_iter().filter(|name| count(name) == 0).collect();
    let twice: Vec<&str> =
        COLUMNS.into_iter().chain([DATED]).filter(|name| count(name) > 1).collect();
    if !missing.is_empty() || !twice.is_empty() {
        columns.refused = Some(words::say_columns(or_none(&missing), or_none(&twice)));
    }
    Ok(columns)
}

/// Limits from CSV, tabs, commas or semicolons between the cells.
pub(crate) fn read_csv(text: &str, columns: &Columns) -> Result<(Read, Vec<RowProblem>), ApiError> {
    if let Some(refused) = &columns.refused {
        return Err(whole(refused.clone()));
    }
    let mut reader = opened(text);
    let units: Vec<String> = columns.headings.iter().map(|one| heading_unit(one)).collect();
    let named = columns.headings.len();
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
        for ((column, unit), cell) in columns.means.iter().zip(&units).zip(&record) {
            if let Some(held) = limit.cell(column) {
                let cell = cell.trim_start_matches('\'');
                let bare = cell.ends_with(|c: char| c.is_ascii_digit());
                *held = if bare { format!("{cell}{unit}") } else { cell.to_owned() };
            }
        }
        if record.len() > named {
            let message = words::cells_but_columns_named(record.len(), named);
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
