//! Bench sessions: begun, read round by round.

use crate::extract::today;
use crate::extract::{Doing, Path, Query};
use crate::wire::{
    BeginRoundRequest, BeginSessionRequest, BenchCellRequest, BenchFormParams, BenchParams,
    SessionView, ShimMoveRequest, TagRequest, TubeView,
};
use crate::words;
use crate::{ApiError, AppState, trainer};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use cobaltine_core::job::BenchCommand;
use cobaltine_core::library::ItemDetail;
use cobaltine_core::record::{FieldProblem, JobFile};
use cobaltine_core::rules::{RuleChange, RuleId, Rules};
use cobaltine_core::tests::bench::{
    BenchCell, BenchForm, BenchKind, BenchSetup, BenchTest, FamilyThen, Point, RailPlace, Round,
    RoundStage, SessionRecord, Shim, Spot, Tagged, petrol_points, supply_table,
};
use cobaltine_core::typed::Field;
use cobaltine_store::{BenchPage, StoreError};
use std::collections::HashMap;
use std::collections::hash_map::Entry;
use uuid::Uuid;

/// The tests of a bench, with the cells of each.
#[utoipa::path(get, path = "/bench/forms", params(BenchFormParams), responses((status = 200, body = Vec<BenchForm>)))]
pub(crate) async fn forms(Query(asked): Query<BenchFormParams>) -> Json<Vec<BenchForm>> {
    Json(BenchTest::forms(asked.kind, asked.entry))
}

/// Sessions, newest first.
#[utoipa::path(get, path = "/bench", params(BenchParams), responses((status = 200, body = BenchPage)))]
pub(crate) async fn list(
    State(state): State<AppState>,
    Query(asked): Query<BenchParams>,
) -> Result<Json<BenchPage>, ApiError> {
    let per_page = asked.per_page.unwrap_or(20);
    Ok(Json(state.store.sessions(asked.job, asked.page.unwrap_or(1), per_page).await?))
}

/// Begins a session with the limits, the rules and the bench of today, and its first round.
#[utoipa::path(post, path = "/bench", request_body = BeginSessionRequest, responses((status = 200, body = SessionView)))]
pub(crate) async fn begin(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<BeginSessionRequest>,
) -> Result<Json<SessionView>, ApiError> {
    if state.store.done_before(&act).await? {
        return Ok(Json(SessionView::of(state.store.session(request.id).await?)));
    }
    let (injectors, families, kind) = tagged(&state, &request.injectors).await?;
    let points = match request.plan {
        Some(plan) => match state.store.library_item(plan).await?.detail {
            ItemDetail::TestPlan { points, .. } => points.iter().map(Point::from).collect(),
            ItemDetail::Engine { .. } | ItemDetail::Preset { .. } => {
                return Err(one_field("plan", words::NOT_TEST_PLAN));
            }
        },
        None if kind == BenchKind::Petrol => petrol_points(),
        None => Vec::new(),
    };
    let instrument = match request.bench {
        Some(id) => Some(state.store.instrument(id).await?),
        None => None,
    };
    let typed = |field: &str, text: &str, kept: Option<f64>| match (text.trim(), kept) {
        ("", Some(kept)) => Ok(kept),
        (text, _) => {
            Field::CAPACITY_OR_MARK.read(text).map_err(|error| one_field(field, &error.to_string()))
        }
    };
    let graduation =
        typed("graduation", &request.graduation, instrument.as_ref().map(|i| i.resolution))?;
    let capacity_ml =
        typed("capacity", &request.capacity, instrument.as_ref().and_then(|i| i.capacity_ml))?;
    let exercise = match injectors.first() {
        Some(first) => trainer::bench_of(&*state.store.state(first.job).await?)?,
        None => None,
    };
    let rules = state.store.rule_changes().await?.into_iter().map(RuleChange::from);
    let places = in_order(injectors.len());
    let setup = BenchSetup {
        kind,
        overdue: instrument.as_ref().is_some_and(|i| i.overdue(today()).is_some()),
        bench: instrument,
        graduation,
        capacity_ml,
        entry: request.entry,
        points,
        families,
        rules: rules.collect(),
    };
    let session = SessionRecord {
        id: request.id,
        number: 1,
        // The bench of an exercise is the one that its engine was made for.
        setup: exercise.unwrap_or(setup),
        injectors,
        rounds: vec![Round {
            id: request.round,
            stage: RoundStage::Received,
            number: 1,
            places,
            signed,
        }],
        cells: Vec::new(),
        signed,
    };
    Ok(Json(SessionView::of(state.store.begin_session(&act, &session).await?)))
}

fn in_order(n: usize) -> Vec<RailPlace> {
    (1..=n as u32).map(|n| RailPlace { position: n, tag: n }).collect()
}

fn one_field(field: &str, text: &str) -> ApiError {
    ApiError::Fields(vec![FieldProblem::new(field, text)])
}

/// The injectors with their tags, the families of them, and the bench that they go on.
async fn tagged(
    state: &AppState,
    wanted: &[TagRequest],
) -> Result<(Vec<Tagged>, Vec<FamilyThen>, BenchKind), ApiError> {
    let problem = |text: &str| one_field("injectors", text);
    let (mut injectors, mut families, mut kind) = (Vec::new(), Vec::new(), None);
    // Most of a rail comes from one job: it is read once.
    let mut read: HashMap<Uuid, JobFile> = HashMap::new();
    for (tag, one) in (1..).zip(wanted) {
        let file = match read.entry(one.job) {
            Entry::Occupied(held) => held.into_mut(),
            Entry::Vacant(new) => new.insert(state.store.job(one.job).await?),
        };
        // What sits there now hangs there, not what came in there.
        let seats = file.seats(None);
        let sits = seats.into_iter().find(|seat| seat.cylinder == one.cylinder);
        let injector = sits.ok_or_else(|| problem(words::JOB_NO_SUCH_CYLINDER))?;
        // What was made up hangs with nothing that somebody drives.
        if file.job.exercise.is_some() && wanted.iter().any(|other| other.job != one.job) {
            return Err(problem(words::EXERCISE_ON_ITS_OWN_BENCH));
        }
        let its = BenchKind::of(file.job.intake.fuel_system);
        if *kind.get_or_insert(its) != its {
            return Err(problem(words::PETROL_INJECTORS_DIESEL_INJECTORS));
        }
        if injectors.iter().any(|held: &Tagged| held.injector == injector.injector) {
            return Err(problem(words::INJECTOR_BENCH_TWICE));
        }
        if let (Some(id), Some(name)) = (file.job.intake.family_id, &file.family)
            && !families.iter().any(|held: &FamilyThen| held.name == *name)
        {
            families.push(FamilyThen {
                name: name.clone(),
                detail: state.store.library_family(id).await?.detail,
                limits: state.store.all_newest_limits(id).await?,
            });
        }
        injectors.push(Tagged {
            tag,
            injector: injector.injector,
            job: file.job.id,
            job_number: file.job.number,
            cylinder: injector.cylinder,
            label: injector.label,
            family: file.family.clone(),
        });
    }
    let kind = kind.ok_or_else(|| problem(words::CHOOSE_LEAST_ONE_INJECTOR))?;
    Ok((injectors, families, kind))
}

/// A session with its verdicts.
#[utoipa::path(get, path = "/bench/{session}", responses((status = 200, body = SessionView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(session): Path<Uuid>,
) -> Result<Json<SessionView>, ApiError> {
    Ok(Json(SessionView::of(state.store.session(session).await?)))
}

/// Begins a round: another full set of readings.
#[utoipa::path(post, path = "/bench/{session}/rounds", request_body = BeginRoundRequest, responses((status = 200, body = SessionView)))]
pub(crate) async fn begin_round(
    State(state): State<AppState>,
    Path(session): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<BeginRoundRequest>,
) -> Result<Json<SessionView>, ApiError> {
    let places = if request.places.is_empty() {
        // Where nobody moved anything, all hang as they did.
        let (held, _) = state.store.session(session).await?;
        held.rounds.last().map(|round| round.places.clone()).unwrap_or_default()
    } else {
        request.places
    };
    let round = Round { id: request.id, stage: request.stage, number: 1, places, signed };
    let command = BenchCommand::BeginRound(round);
    Ok(Json(SessionView::of(state.store.apply_bench(session, &act, command, signed).await?)))
}

/// Keeps a reading as typed, or says beside it why not. An empty text takes it back.
#[utoipa::path(post, path = "/bench/{session}/cells", request_body = BenchCellRequest, responses((status = 200, body = TubeView)))]
pub(crate) async fn keep_cell(
    State(state): State<AppState>,
    Path(session): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<BenchCellRequest>,
) -> Result<Json<TubeView>, ApiError> {
    let problem = |text: String| one_field("typed", &text);
    let typed = request.typed.trim();
    let setup = state.store.bench_setup(session).await?;
    let spot = Spot { cell: &request.cell, row: request.row, tag: request.tag };
    let read = request
        .test
        .read(spot, &setup, if typed.is_empty() { "1" } else { typed })
        .ok_or_else(|| problem(words::no_cell_here(&request.cell)))?;
    let read = match typed {
        "" => None,
        _ => Some(read.map_err(|error| problem(error.to_string()))?),
    };
    let shown_by = match state.shown.by(request.shown, typed) {
        // Asked again after the instrument's answer was forgotten: it was kept then.
        Err(_) if state.store.done_before(&act).await? => {
            return TubeView::of(request.id, state.store.session(session).await?);
        }
        shown_by => shown_by?,
    };
    let (value, typed) = read.map_or((None, String::new()), |read| (Some(read.value), read.kept));
    let cell = BenchCell {
        id: request.id,
        round: request.round,
        test: request.test,
        cell: request.cell,
        row: request.row,
        tag: request.tag,
        value,
        typed,
        samples: None,
        shown_by,
        corrects: request.corrects,
        signed,
    };
    let command = BenchCommand::KeepTube(cell);
    TubeView::of(request.id, state.store.apply_bench(session, &act, command, signed).await?)
}

/// Dead time against supply voltage of the newest round that has it, as CSV (RFC 4180).
#[utoipa::path(get, path = "/bench/{session}/supply.csv", responses((status = 200, body = String, content_type = "text/csv")))]
pub(crate) async fn supply_csv(
    State(state): State<AppState>,
    Path(session): Path<Uuid>,
) -> Result<Response, ApiError> {
    let (session, _) = state.store.session(session).await?;
    let mut rows = csv::Writer::from_writer(Vec::new());
    let head = ["tag", "label", "supply_v", "dead_time_ms", "u_ms"];
    let mut wrote = rows.write_record(head);
    for one in supply_table(&session) {
        let label = session.injectors.iter().find(|i| i.tag == one.tag).map(|i| i.label.as_str());
        wrote = wrote.and(rows.write_record([
            &one.tag.to_string(),
            label.unwrap_or_default(),
            &one.volts.to_string(),
            &format!("{:.4}", one.offset_ms),
            &format!("{:.4}", one.u_ms),
        ]));
    }
    // Writing into memory does not fail.
    debug_assert!(wrote.is_ok());
    let name = format!("attachment; filename=\"bench-{}-dead-time.csv\"", session.number);
    let head = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8".to_owned()),
        (header::CONTENT_DISPOSITION, name),
    ];
    Ok((head, rows.into_inner().unwrap_or_default()).into_response())
}

/// Shims on hand.
#[utoipa::path(get, path = "/shims", responses((status = 200, body = Vec<Shim>)))]
pub(crate) async fn shims(State(state): State<AppState>) -> Result<Json<Vec<Shim>>, ApiError> {
    Ok(Json(state.store.shims().await?))
}

/// Puts shims into the drawer, or takes them out.
#[utoipa::path(post, path = "/shims", request_body = ShimMoveRequest, responses((status = 200, body = Vec<Shim>)))]
pub(crate) async fn move_shims(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<ShimMoveRequest>,
) -> Result<Json<Vec<Shim>>, ApiError> {
    let size = Field::<f64>::above_zero("um", 0.5, 20_000.0)
        .read(&request.size)
        .map_err(|error| one_field("size", &error.to_string()))?;
    if request.moved == 0 || request.moved.abs() > 1000 {
        return Err(one_field("moved", words::ENTER_OUT));
    }
    Ok(Json(state.store.move_shims(&act, request.id, size, request.moved, signed).await?))
}

impl TubeView {
    /// A cell of a session that was just kept.
    fn of(id: Uuid, (file, stock): (SessionRecord, Vec<Shim>)) -> Result<Json<Self>, ApiError> {
        let cell = file.cells.iter().find(|cell| cell.id == id).cloned();
        let cell = cell.ok_or(StoreError::NotFound("reading"))?;
        let round = file.rounds.iter().position(|round| round.id == cell.round);
        Ok(Json(Self {
            session: file.id,
            verdicts: file.judged_from(&stock, round.unwrap_or_default()),
            drive_refused: file.drive_refused(),
            stock,
            cell,
        }))
    }
}

impl SessionView {
    /// Judged with the shims on hand.
    pub(crate) fn of((file, stock): (SessionRecord, Vec<Shim>)) -> Self {
        let judged = file.judged(&stock);
        let order = if file.setup.kind == BenchKind::Diesel {
            cobaltine_core::tests::bench::run_order(&file.setup.points)
        } else {
            Vec::new()
        };
        Self {
            points: file.setup.points.iter().map(Point::said).collect(),
            drive_refused: file.drive_refused(),
            verdicts: judged.verdicts,
            newest: file.newest(),
            order,
            asks: cobaltine_core::tests::bench::asks(&file),
            foam_settle_s: Rules::after(file.setup.rules.iter().cloned()).get(RuleId::FoamSettle),
            stock,
            file,
        }
    }
}
