//! A job as a file, in and out, and its readings as CSV (RFC 4180).

use crate::extract::{Doing, Path};
use crate::wire::ImportView;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use cobaltine_core::record::JobFile;
use cobaltine_core::standing::{Standing, singles};
use cobaltine_store::Imported;
use std::collections::HashMap;
use uuid::Uuid;

/// The job as a file.
#[utoipa::path(get, path = "/jobs/{job}/export.json", responses((status = 200, body = JobFile)))]
pub(crate) async fn export(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Response, ApiError> {
    let file = state.store.job(job).await?;
    let name = format!("attachment; filename=\"job-{}.json\"", file.job.number);
    Ok(([(header::CONTENT_DISPOSITION, name)], Json(file)).into_response())
}

/// Takes a job file in; all of it or nothing.
#[utoipa::path(post, path = "/jobs/import", request_body = JobFile, responses((status = 200, body = ImportView)))]
pub(crate) async fn import(
    State(state): State<AppState>,
    Doing { asked: file, act, signed }: Doing<JobFile>,
) -> Result<Json<ImportView>, ApiError> {
    Ok(Json(match state.store.import_job(&act, &file, signed.into()).await? {
        Imported::New(id) => ImportView { id, already_here: false },
        Imported::AlreadyHere(id) => ImportView { id, already_here: true },
    }))
}

/// All readings of a job, corrected ones included, one row each.
#[utoipa::path(get, path = "/jobs/{job}/readings.csv", responses((status = 200, body = String, content_type = "text/csv")))]
pub(crate) async fn readings(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Response, ApiError> {
    let file = state.store.job(job).await?;
    let head = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8".to_owned()),
        (
            header::CONTENT_DISPOSITION,
            format!("attachment; filename=\"job-{}-readings.csv\"", file.job.number),
        ),
    ];
    let rows = [COLUMNS.map(str::to_owned)].into_iter().chain(rows_of(&file));
    Ok((head, written(rows)).into_response())
}

pub(crate) const COLUMNS: [&str; 16] = [
    "job",
    "test",
    "run",
    "counts",
    "cylinder",
    "injector",
    "kind",
    "value",
    "unit",
    "typed",
    "corrected",
    "why",
    "by",
    "at",
    "reading_id",
    "standing",
];

/// A row for each reading of a job.
pub(crate) fn rows_of(file: &JobFile) -> Vec<[String; 16]> {
    use cobaltine_core::record::ReadingKind;
    let name = |id: Uuid| file.people.iter().find(|p| p.id == id).map_or("", |p| p.name.as_str());
    // One that cannot be judged says nothing of what counts.
    let worth: HashMap<Uuid, String> = match file.judged() {
        Ok(judged) => judged
            .with_verdicts(|verdicts| singles(file, verdicts, &judged.stood))
            .into_iter()
            .map(|one| (one.id, one.word))
            .collect(),
        Err(_) => HashMap::new(),
    };
    let standing =
        |id: Uuid| worth.get(&id).cloned().unwrap_or_else(|| Standing::Counts.word().to_owned());
    let mut rows = Vec::new();
    for (t, test) in file.return_tests.iter().enumerate() {
        for run in &test.runs {
            let newest: Vec<Uuid> = run.standing().map(|r| r.id).collect();
            for reading in &run.readings {
                let injector = file.seat_at(reading.cylinder, reading.signed.moment());
                let reached = reading.mark_ml.map(|mark| format!("mark {mark}"));
                let (kind, unit) = match reading.kind {
                    ReadingKind::Mark => (reached.as_deref().unwrap_or("mark"), "s"),
                    ReadingKind::Level => ("level", "ml"),
                    ReadingKind::Overflow => ("overflow", "s"),
                    ReadingKind::RunTime => ("run_time", "s"),
                    ReadingKind::Void => ("void", ""),
                };
                rows.push([
                    file.job.number.to_string(),
                    (t + 1).to_string(),
                    run.number.to_string(),
                    run.set_aside.is_none().to_string(),
                    reading.cylinder.map(|c| c.to_string()).unwrap_or_default(),
                    injector.as_ref().map(|i| unformula(&i.label)).unwrap_or_default(),
                    kind.to_owned(),
                    reading.value.to_string(),
                    unit.to_owned(),
                    unformula(&reading.typed),
                    (!newest.contains(&reading.id)).to_string(),
                    unformula(reading.why.as_deref().unwrap_or_default()),
                    unformula(name(reading.signed.by)),
                    reading.signed.at.to_string(),
                    reading.id.to_string(),
                    standing(reading.id),
                ]);
            }
        }
    }
    for sheet in &file.sheets {
        let newest: Vec<Uuid> = sheet.standing().iter().map(|r| r.id).collect();
        let form = sheet.check.form(None);
        for reading in &sheet.readings {
            let injector = file.seat_at(reading.cylinder, reading.signed.moment());
            let cells = if reading.cylinder.is_some() { &form.each } else { &form.set };
            let unit = cells.iter().find(|cell| cell.name == reading.cell);
            rows.push([
                file.job.number.to_string(),
                sheet.check.name().to_owned(),
                String::new(),
                true.to_string(),
                reading.cylinder.map(|c| c.to_string()).unwrap_or_default(),
                injector.as_ref().map(|i| unformula(&i.label)).unwrap_or_default(),
                reading.cell.clone(),
                reading.value.map(|v| v.to_string()).unwrap_or_default(),
                unit.map(|cell| cell.unit.clone()).unwrap_or_default(),
                unformula(&reading.typed),
                (!newest.contains(&reading.id)).to_string(),
                String::new(),
                unformula(name(reading.signed.by)),
                reading.signed.at.to_string(),
                reading.id.to_string(),
                standing(reading.id),
            ]);
        }
    }
    for session in &file.bench {
        let superseded: Vec<Uuid> = session.cells.iter().filter_map(|c| c.corrects).collect();
        for cell in &session.cells {
            let tagged = session.injectors.iter().find(|one| Some(one.tag) == cell.tag);
            // Another job may share the session; its injectors are in its own file.
            if tagged.is_some_and(|one| one.job != file.job.id) {
                continue;
            }
            let round = session.rounds.iter().find(|round| round.id == cell.round);
            let row = cell.row.map(|row| format!(" {row}")).unwrap_or_default();
            rows.push([
                file.job.number.to_string(),
                format!("bench {} {}", session.number, cell.test.name()),
                round.map(|round| round.word()).unwrap_or_default(),
                true.to_string(),
                tagged.map(|one| one.cylinder.to_string()).unwrap_or_default(),
                tagged.map(|one| unformula(&one.label)).unwrap_or_default(),
                format!("{}{row}", cell.cell),
                cell.value.map(|v| v.to_string()).unwrap_or_default(),
                String::new(),
                unformula(&cell.typed),
                superseded.contains(&cell.id).to_string(),
                String::new(),
                unformula(name(cell.signed.by)),
                cell.signed.at.to_string(),
                cell.id.to_string(),
                standing(cell.id),
            ]);
        }
    }
    rows
}

/// Rows as CSV.
pub(crate) fn written(rows: impl IntoIterator<Item = [String; 16]>) -> Vec<u8> {
    let mut writer =
        csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    for row in rows {
        // Writing into memory cannot fail.
        let _ = writer.write_record(&row);
    }
    writer.into_inner().unwrap_or_default()
}

/// Text that a spreadsheet would run as a formula is marked as text.
pub(crate) fn unformula(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) {
        format!("'{text}")
    } else {
        text.to_owned()
    }
}
