//! Exercises on made-up engines over HTTP: taken up, worked on, ended.

use crate::extract::{Doing, Path, Query};
use crate::jobs::kept;
use crate::wire::{
    CaseView, ExerciseState, ExerciseView, ExercisesParams, KeptView, PutRightView, SessionView,
    TakeUpRequest, TrainerAct, TrainerActRequest, TrainerReadRequest, TrainerView,
};
use crate::{ApiError, AppState, words};
use axum::Json;
use axum::extract::State;
use cobaltine_core::exercise::{Exercise, ExerciseAct, SharedPart};
use cobaltine_core::job::{BenchCommand, Command, NewReading};
use cobaltine_core::record::{
    CellReading, Event, EventRecord, FieldProblem, JobFile, ReadingKind, Signed,
};
use cobaltine_core::tests::bench::{BenchCell, BenchSetup};
use cobaltine_core::work::Capture;
use cobaltine_store::{Act, ExerciseLine, JobState, StoreError, TakeIn};
use cobaltine_trainer::bay::{Bay, own_code};
use cobaltine_trainer::case::{Case, CaseError, case, written};
use cobaltine_trainer::marks::{noticed, put_right_words, result};
use cobaltine_trainer::readings::{of_round, of_run, of_sheet, typed};
use cobaltine_trainer::spent::spent;
use cobaltine_trainer::workshop::bench_setup;
use uuid::Uuid;

impl From<CaseError> for ApiError {
    fn from(error: CaseError) -> Self {
        match error {
            CaseError::Unknown => Self::Fields(vec![FieldProblem::new("case", error.to_string())]),
            CaseError::Files(why) => StoreError::Conflict(why).into(),
        }
    }
}

/// The case of an exercise.
fn case_of(file: &JobFile) -> Result<Case, ApiError> {
    let exercise = file.job.exercise.as_ref();
    let exercise = exercise.ok_or(ApiError::Store(StoreError::NotFound("exercise")))?;
    Ok(case(&exercise.case)?)
}

/// The bench of an exercise; none for a job of an engine that somebody drives.
pub(crate) fn bench_of(state: &JobState) -> Result<Option<BenchSetup>, ApiError> {
    Ok(case_if(state)?.as_ref().map(bench_setup))
}

/// The case of a job; none of an engine that somebody drives.
pub(crate) fn case_if(state: &JobState) -> Result<Option<Case>, ApiError> {
    let exercise = state.file.job.exercise.as_ref();
    Ok(exercise.map(|exercise| case(&exercise.case)).transpose()?)
}

async fn name(state: &AppState, person: Option<Uuid>) -> String {
    match person {
        // Whoever is not there any more has no name, and is no reason to refuse a list.
        Some(id) => state.store.person(id).await.map(|one| one.name).unwrap_or_default(),
        None => String::new(),
    }
}

async fn view(state: &AppState, line: ExerciseLine) -> Result<ExerciseView, ApiError> {
    let case = case(&line.exercise.case)?;
    let learner = name(state, Some(line.exercise.learner)).await;
    let set_by = name(state, line.exercise.set_by).await;
    Ok(ExerciseView { title: case.title, level: case.level, learner, set_by, line })
}

/// Cases to choose from, and exercises with their marks.
#[utoipa::path(get, path = "/trainer", params(ExercisesParams), responses((status = 200, body = TrainerView)))]
pub(crate) async fn list(
    State(state): State<AppState>,
    Query(asked): Query<ExercisesParams>,
) -> Result<Json<TrainerView>, ApiError> {
    let (page, per_page) = (asked.page.unwrap_or(0), asked.per_page.unwrap_or(20));
    let held = state.store.exercises(asked.learner, page, per_page).await?;
    let mut exercises = Vec::with_capacity(held.lines.len());
    for line in held.lines {
        // A case of a later version came in with a file: it can be opened, and is in no list.
        exercises.extend(view(&state, line).await.ok());
    }
    let cases = written()?.into_iter().map(|case| CaseView {
        case: case.reference,
        title: case.title,
        level: case.level,
        teaches: case.teaches,
        machine: case.machine,
    });
    Ok(Json(TrainerView { cases: cases.collect(), exercises, total: held.total }))
}

/// Takes a case up, or sets it for somebody: a job on a made-up engine.
#[utoipa::path(post, path = "/trainer/exercises", request_body = TakeUpRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn take_up(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<TakeUpRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let case = case(&request.case)?;
    if let Some(learner) = request.learner {
        state.store.person(learner).await?;
    }
    let exercise = Exercise {
        case: request.case,
        guided: request.guided,
        learner: request.learner.unwrap_or(signed.by),
        set_by: request.learner.map(|_| signed.by),
    };
    let labels = (1..=case.job.engine.seats.len()).map(|n| format!("E{n}")).collect();
    let new = TakeIn { id: request.id, intake: case.intake(), labels, exercise: Some(exercise) };
    Ok(kept(state.store.take_in(&act, &new, signed).await?))
}

/// How an exercise stands; once it is over, what was true and what it was worth.
#[utoipa::path(get, path = "/jobs/{job}/exercise", responses((status = 200, body = ExerciseState)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<ExerciseState>, ApiError> {
    let held = state.store.state(job).await?;
    let file = &held.file;
    let case = case_of(file)?;
    let Some(exercise) = file.job.exercise.clone() else {
        return Err(StoreError::NotFound("exercise").into());
    };
    let rules = state.store.rules().await?;
    let bay = Bay::of(&case, file);
    let marking = match file.marks() {
        // The marks are those of the day; the rest follows from the log.
        Some(marks) => {
            let mut marking = result(&case, file, &rules)?;
            marking.marks = marks.to_vec();
            Some(marking)
        }
        None => None,
    };
    let mistakes =
        if exercise.guided || marking.is_some() { noticed(&case, file)? } else { Vec::new() };
    let done = |part: SharedPart| {
        let event = Event::Exercise(ExerciseAct::PutRight { part });
        file.events.iter().any(|record| record.event == event)
    };
    let put_right = SharedPart::ALL.iter().map(|part| PutRightView {
        part: *part,
        says: put_right_words(*part).to_owned(),
        done: done(*part),
    });
    Ok(Json(ExerciseState {
        learner: name(&state, Some(exercise.learner)).await,
        set_by: name(&state, exercise.set_by).await,
        title: case.title.clone(),
        level: case.level,
        teaches: case.teaches.clone(),
        case: exercise.case,
        guided: exercise.guided,
        coded: case.job.engine.fuel.coded(),
        warm: bay.warm,
        celsius: bay.celsius(),
        spent: spent(file, &rules)?,
        put_right: put_right.collect(),
        mistakes,
        marking,
    }))
}

/// Does something at the engine of an exercise, or ends it.
#[utoipa::path(post, path = "/jobs/{job}/exercise/acts", request_body = TrainerActRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn acts(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<TrainerActRequest>,
) -> Result<Json<KeptView>, ApiError> {
    if state.store.done_before(&act).await? {
        return Ok(kept(state.store.first_answer(job, &act).await?));
    }
    let done = match request.act {
        TrainerAct::WarmUp => ExerciseAct::WarmedUp,
        TrainerAct::PutRight { part } => ExerciseAct::PutRight { part },
        TrainerAct::ScanBodies => {
            let held = state.store.state(job).await?;
            let all = scanned(&held.file, &case_of(&held.file)?, act.id, signed);
            return together(&state, job, &act, all, signed).await;
        }
        TrainerAct::End => {
            let held = state.store.state(job).await?;
            let case = case_of(&held.file)?;
            let marks = result(&case, &held.file, &state.store.rules().await?)?.marks;
            ExerciseAct::Ended { marks }
        }
    };
    let record = EventRecord { id: request.id, event: Event::Exercise(done), signed };
    Ok(kept(state.store.apply(job, &act, Command::Happened(record), signed).await?))
}

/// What the act of this id makes, one after the other: asked again, it makes the same.
fn made(act: Uuid, nth: usize) -> Uuid {
    Uuid::from_u128(act.as_u128().wrapping_add(nth as u128 + 1))
}

/// The codes on the bodies of those that sit in the engine.
fn scanned(file: &JobFile, case: &Case, act: Uuid, signed: Signed) -> Vec<Command> {
    let bay = Bay::of(case, file);
    let seats = file.seats(None).into_iter().enumerate();
    let codes = seats.filter_map(|(nth, seat)| {
        let code = own_code(case, bay.place_of(seat.injector)?);
        let event = Event::CodeCaptured { injector: seat.injector, code, how: Capture::Scanned };
        Some(Command::Happened(EventRecord { id: made(act, nth), event, signed }))
    });
    codes.filter(|_| case.job.engine.fuel.coded()).collect()
}

async fn together(
    state: &AppState,
    job: Uuid,
    act: &Act,
    all: Vec<Command>,
    signed: Signed,
) -> Result<Json<KeptView>, ApiError> {
    if all.is_empty() {
        return Err(StoreError::Conflict(words::NOTHING_LEFT_TO_READ.to_owned()).into());
    }
    Ok(kept(state.store.apply(job, act, Command::Together(all), signed).await?))
}

/// Reads a check at the engine of an exercise: one cell, or all that are open.
#[utoipa::path(post, path = "/sheets/{sheet}/exercise", request_body = TrainerReadRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn read_sheet(
    State(state): State<AppState>,
    Path(sheet): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<TrainerReadRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let job = state.store.job_with(sheet, "check").await?;
    if state.store.done_before(&act).await? {
        return Ok(kept(state.store.first_answer(job, &act).await?));
    }
    let held = state.store.state(job).await?;
    let file = &held.file;
    let record = file.sheets.iter().find(|one| one.id == sheet);
    let record = record.ok_or(StoreError::NotFound("check"))?;
    let one = request.cell.as_deref().map(|cell| (cell, request.cylinder));
    let standing = record.standing();
    let cells = of_sheet(&case_of(file)?, file, record, one)?;
    let all = cells.into_iter().enumerate().map(|(nth, (cell, cylinder, value))| {
        let before = standing.iter().find(|r| r.cell == cell && r.cylinder == cylinder);
        let cell = CellReading {
            id: made(act.id, nth),
            cell,
            cylinder,
            value: Some(value),
            typed: typed(value),
            corrects: before.map(|r| r.id),
            shown_by: None,
            signed,
        };
        Command::KeepCell { sheet, cell }
    });
    together(&state, job, &act, all.collect(), signed).await
}

/// Reads a run at the engine of an exercise: its length, and every bottle that is open.
#[utoipa::path(post, path = "/runs/{run}/exercise", request_body = TrainerReadRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn read_run(
    State(state): State<AppState>,
    Path(run): Path<Uuid>,
    Doing { act, signed, .. }: Doing<TrainerReadRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let job = state.store.job_with(run, "run").await?;
    if state.store.done_before(&act).await? {
        return Ok(kept(state.store.first_answer(job, &act).await?));
    }
    let held = state.store.state(job).await?;
    let file = &held.file;
    let (test, of) = crate::live::run_of(file, run).ok_or(StoreError::NotFound("run"))?;
    let open = |cylinder: Option<u32>, kind: ReadingKind| match kind {
        ReadingKind::RunTime => of.length().is_none(),
        ReadingKind::Level | ReadingKind::Overflow | ReadingKind::Mark | ReadingKind::Void => {
            !of.standing().any(|reading| reading.cylinder == cylinder)
        }
    };
    let read = of_run(&case_of(file)?, file, test, of)?.into_iter();
    let read = read.filter(|(cylinder, kind, _)| open(*cylinder, *kind));
    let all = read.enumerate().map(|(nth, (cylinder, kind, value))| {
        Command::Read(NewReading {
            id: made(act.id, nth),
            run,
            cylinder,
            kind,
            value: Some(value),
            typed: typed(value),
            corrects: None,
            why: None,
            shown_by: None,
        })
    });
    together(&state, job, &act, all.collect(), signed).await
}

/// Reads a round of the bench of an exercise: everything that is open.
#[utoipa::path(post, path = "/bench/{session}/exercise", request_body = TrainerReadRequest, responses((status = 200, body = SessionView)))]
pub(crate) async fn read_bench(
    State(state): State<AppState>,
    Path(session): Path<Uuid>,
    Doing { act, signed, .. }: Doing<TrainerReadRequest>,
) -> Result<Json<SessionView>, ApiError> {
    let (record, stock) = state.store.session(session).await?;
    if state.store.done_before(&act).await? {
        return Ok(Json(SessionView::of((record, stock))));
    }
    let job = record.injectors.first().map(|one| one.job).ok_or(StoreError::NotFound("job"))?;
    let held = state.store.state(job).await?;
    let case = case_of(&held.file)?;
    let round = record.rounds.last().map(|round| round.id).ok_or(StoreError::NotFound("round"))?;
    let read = of_round(&case, &held.file, &record, round)?;
    if read.is_empty() {
        return Err(StoreError::Conflict(words::NOTHING_LEFT_TO_READ.to_owned()).into());
    }
    let cells = read.into_iter().enumerate().map(|(nth, one)| BenchCell {
        id: made(act.id, nth),
        round,
        test: one.test,
        cell: one.cell.to_owned(),
        row: one.row,
        tag: one.tag,
        value: Some(one.value),
        typed: typed(one.value),
        samples: None,
        shown_by: None,
        corrects: None,
        signed,
    });
    let command = BenchCommand::TakeFile(cells.collect());
    Ok(Json(SessionView::of(state.store.apply_bench(session, &act, command, signed).await?)))
}
