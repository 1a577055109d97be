//! Pressure traces from a CSV file.

use crate::extract::{Doing, Path};
use crate::jobs::kept;
use crate::wire::{KeptView, TraceRequest};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::job::Command;
use cobaltine_core::record::{FieldProblem, Trace};
use cobaltine_core::trace::{find_drops, thinned};
use cobaltine_core::typed::{Field, heading_unit};
use cobaltine_core::units::{Units, within};
use uuid::Uuid;

/// The most rows of a file.
const MOST_ROWS: usize = 200_000;
/// Points that are kept: what a wide screen can show.
pub(crate) const KEPT: usize = 1600;

/// Keeps a trace with the drops that were found in it.
#[utoipa::path(post, path = "/sheets/{sheet}/traces", request_body = TraceRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn add(
    State(state): State<AppState>,
    Path(sheet): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<TraceRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let problem = |text: String| ApiError::Fields(vec![FieldProblem::new("text", text)]);
    // A machine wrote it: a bare number is canonical, whatever the workshop reads.
    let points = within(Units::default(), || columns(&request.text, PRESSURE)).map_err(problem)?;
    let drops = find_drops(&points).map_err(|error| problem(format!("{error}.")))?;
    let trace = Trace {
        id: request.id,
        name: request.name.chars().take(120).collect(),
        points: thinned(&points, KEPT),
        drops,
        order: request.order,
        signed,
    };
    let job = state.store.job_with(sheet, "check").await?;
    let command = Command::KeepTrace { sheet, trace };
    Ok(kept(state.store.apply(job, &act, command, signed).await?))
}

/// What a pressure trace holds besides time.
const PRESSURE: (Field, &str) = (Field::from_zero("kPa", 500_000.0), "pressure");

/// Quantities that recordings hold: a column that names another one is refused, with a unit or without.
const NAMES: [&str; 3] = ["current", "pressure", "volt"];

/// Time in s and a second quantity from the first two columns; units by the heading, else s and its own.
pub(crate) fn columns(text: &str, second: (Field, &str)) -> Result<Vec<[f64; 2]>, String> {
    let text = text.trim_start_matches('\u{feff}');
    let separator = [b'\t', b';', b',']
        .into_iter()
        .find(|mark| text.lines().next().is_some_and(|line| line.as_bytes().contains(mark)))
        .ok_or_else(|| words::needs_two_columns(second.1))?;
    let mut rows = csv::ReaderBuilder::new()
        .delimiter(separator)
        .has_headers(false)
        .flexible(true)
        .from_reader(text.as_bytes());
    let time = Field::from_zero("s", 1e6);
    let (mut units, mut points) = ([String::new(), String::new()], Vec::new());
    for (i, row) in rows.records().enumerate() {
        let row = row.map_err(|error| format!("Row {}: {error}.", i + 1))?;
        if i > MOST_ROWS {
            return Err(words::maximum_rows(MOST_ROWS));
        }
        let cell = |c: usize| row.get(c).map(str::trim).unwrap_or_default();
        if i == 0 && !cell(0).starts_with(|c: char| c.is_ascii_digit() || c == '.' || c == '-') {
            let head = cell(1).to_lowercase();
            if NAMES.iter().any(|name| *name != second.1 && head.contains(name)) {
                return Err(words::other_quantity(cell(1), second.1));
            }
            units = [heading_unit(cell(0)), heading_unit(cell(1))];
            continue;
        }
        if cell(0).is_empty() && cell(1).is_empty() {
            continue;
        }
        let value = |field: Field, c: usize, name: &str| {
            // A machine wrote this: where commas do not part the cells, one is a decimal comma.
            let number = cell(c).replace(',', ".");
            let number = number.parse::<f64>().map_or(number, |value| value.to_string());
            field
                .read(&format!("{number}{}", units[c]))
                .map_err(|error| format!("Row {}, {name}: {error}", i + 1))
        };
        points.push([value(time, 0, "time")?, value(second.0, 1, second.1)?]);
    }
    Ok(points)
}
