//! Codes over HTTP: how they stand, captured, read from the unit, written to it.

use crate::extract::{Body, Doing, Path};
use crate::unit::Talk;
use crate::wire::{
    CaptureRequest, CodeTyped, CodesView, KnobRequest, StepRequest, WriteRequest, WriteWhat,
    WritingView,
};
use crate::words;
use crate::writings::{Order, work};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::caution;
use cobaltine_core::codes::{
    BenchCode, Capture, ReadCode, SlotCode, coding, from_bench, read_code,
};
use cobaltine_core::job::Command;
use cobaltine_core::library::CodePattern;
use cobaltine_core::record::{Event, EventRecord, FieldProblem, JobFile};
use cobaltine_core::unit_link::Ask;
use cobaltine_store::StoreError;
use uuid::Uuid;

/// How often a retry looks whether the first asking is on record.
const ON_RECORD: std::time::Duration = std::time::Duration::from_millis(10);

/// `writing` has to be older than `file`: a writing that is over has its end on record by then, while
/// the other way round one that ended in between would read as one without an end.
async fn view(
    state: &AppState,
    file: &JobFile,
    writing: Option<WritingView>,
) -> Result<CodesView, ApiError> {
    let coding = coding(file);
    let mut bench = from_bench(file);
    bench.retain(|made| {
        let slot = coding.slots.iter().find(|slot| slot.injector == made.injector);
        slot.is_none_or(|slot| slot.own.as_deref() != Some(made.code.as_str()))
    });
    Ok(CodesView {
        coding,
        bench,
        pattern: pattern(state, file).await?,
        unit: state.unit.is_some(),
        stand_in: state.stand_in,
        cautions: vec![caution::CODING],
        writing,
    })
}

/// The pattern of the family's codes, where the library has one.
async fn pattern(state: &AppState, file: &JobFile) -> Result<Option<CodePattern>, ApiError> {
    let Some(family) = file.job.intake.family_id else { return Ok(None) };
    Ok(state.store.library_family(family).await?.detail.code)
}

/// How the codes of a job stand.
#[utoipa::path(get, path = "/jobs/{job}/codes", responses((status = 200, body = CodesView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<CodesView>, ApiError> {
    let writing = state.writings.of(job);
    let file = state.store.job(job).await?;
    view(&state, &file, writing).await.map(Json)
}

/// Looks at a code before it is kept.
#[utoipa::path(post, path = "/jobs/{job}/codes/look", request_body = CodeTyped, responses((status = 200, body = ReadCode)))]
pub(crate) async fn look(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Body(request): Body<CodeTyped>,
) -> Result<Json<ReadCode>, ApiError> {
    let file = state.store.job(job).await?;
    Ok(Json(read_code(&request.typed, pattern(&state, &file).await?.as_ref())))
}

/// Keeps the code of an injector. One that does not fit its pattern is refused.
#[utoipa::path(post, path = "/jobs/{job}/codes/captured", request_body = CaptureRequest, responses((status = 200, body = CodesView)))]
pub(crate) async fn capture(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<CaptureRequest>,
) -> Result<Json<CodesView>, ApiError> {
    let writing = state.writings.of(job);
    let file = state.store.job(job).await?;
    if state.store.done_before(&act).await? {
        return view(&state, &file, writing).await.map(Json);
    }
    let pattern = pattern(&state, &file).await?;
    let read = read_code(&request.typed, pattern.as_ref());
    let problem = |field: &str, text: &str| ApiError::Fields(vec![FieldProblem::new(field, text)]);
    if !read.problem.is_empty() {
        return Err(problem("typed", &read.problem));
    }
    if request.how == Capture::TypedTwice && request.again.is_none() {
        return Err(problem("again", words::TYPE_SECOND_TIME_HAND));
    }
    if let Some(again) = &request.again
        && read_code(again, pattern.as_ref()).code != read.code
    {
        return Err(problem("again", words::TWO_ENTRIES_DIFFER_CHECK));
    }
    let made = |one: &BenchCode| one.injector == request.injector && one.code == read.code;
    if request.how == Capture::Bench && !from_bench(&file).iter().any(made) {
        return Err(problem("typed", words::BENCH_NO_SUCH_TRIM));
    }
    if file.injector(request.injector).is_none() {
        return Err(problem("injector", words::ENGINE_NO_SUCH_INJECTOR));
    }
    let event =
        Event::CodeCaptured { injector: request.injector, code: read.code, how: request.how };
    let record = EventRecord { id: request.id, event, signed };
    state.store.apply(job, &act, Command::Happened(record), signed).await?;
    let file = state.store.job(job).await?;
    view(&state, &file, writing).await.map(Json)
}

/// Reads what the unit has stored. The first time these are the codes as found.
#[utoipa::path(post, path = "/jobs/{job}/codes/read", request_body = StepRequest, responses((status = 200, body = CodesView)))]
pub(crate) async fn read_unit(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<StepRequest>,
) -> Result<Json<CodesView>, ApiError> {
    let writing = state.writings.of(job);
    let file = state.store.job(job).await?;
    if state.store.done_before(&act).await? {
        return view(&state, &file, writing).await.map(Json);
    }
    // What is read half-way says nothing about the slots that come after it.
    if state.writings.of(job).is_some_and(|writing| writing.running) {
        let says = words::TRIM_CODES_BEING_WRITTEN.to_owned();
        return Err(StoreError::Conflict(says).into());
    }
    let mut talk = open(&state, &file).await?;
    let slots = talk.codes().await?;
    let record =
        EventRecord { id: request.id, event: Event::CodesRead { slots, by_hand: false }, signed };
    let writing = state.writings.of(job);
    state.store.apply(job, &act, Command::Happened(record), signed).await?;
    let file = state.store.job(job).await?;
    view(&state, &file, writing).await.map(Json)
}

async fn open(state: &AppState, file: &JobFile) -> Result<Talk, ApiError> {
    Ok(Talk::open(state, file).await?)
}

/// Writes what the plan says, or puts back what was there before a writing that was interrupted.
/// The answer comes when it has begun; the end is on record in the job.
#[utoipa::path(post, path = "/jobs/{job}/codes/write", request_body = WriteRequest, responses((status = 200, body = CodesView)))]
pub(crate) async fn write(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<WriteRequest>,
) -> Result<Json<CodesView>, ApiError> {
    let writing = state.writings.of(job);
    let file = state.store.job(job).await?;
    if state.store.done_before(&act).await? {
        return view(&state, &file, writing).await.map(Json);
    }
    let conflict = |says: &str| ApiError::Store(StoreError::Conflict(says.to_owned()));
    let now_stands = coding(&file);
    if !now_stands.read {
        return Err(conflict(words::READ_STORED_TRIM_CODES));
    }
    let planned: Vec<SlotCode> = match request.what {
        WriteWhat::Plan => now_stands
            .plan
            .iter()
            .map(|one| SlotCode { cylinder: one.cylinder, code: Some(one.to.clone()) })
            .collect(),
        WriteWhat::PutBack => now_stands.put_back.clone(),
    };
    if planned.is_empty() {
        return Err(conflict(words::NOTHING_WRITE));
    }
    if planned != request.writes {
        return Err(conflict(words::SOMETHING_CHANGED_SINCE_YOU));
    }
    let seen = WritingView { running: true, of: planned.len(), ..WritingView::default() };
    // The place is taken before the unit is asked: asked twice at once, one of the two writes.
    let place = loop {
        let begun = state.writings.begin(job, act.id, seen.clone());
        if state.store.done_before(&act).await? {
            let file = state.store.job(job).await?;
            return view(&state, &file, state.writings.of(job)).await.map(Json);
        }
        match begun {
            Ok(place) => break place,
            Err(by) if by == act.id => tokio::time::sleep(ON_RECORD).await,
            Err(_) => return Err(conflict(words::TRIM_CODES_ALREADY_BEING)),
        }
    };
    let mut talk = open(&state, &file).await?;
    talk.ready().await?;
    let before = talk.codes().await?;
    let begun = EventRecord {
        id: request.id,
        event: Event::WriteBegun { writes: planned.clone() },
        signed,
    };
    state.store.apply(job, &act, Command::Happened(begun), signed).await?;
    place.keep();
    let file = state.store.job(job).await?;
    let order =
        Order { job, file: file.clone(), begun: request.id, writes: planned, before, signed };
    tokio::spawn(work(state.clone(), order, talk));
    view(&state, &file, Some(seen)).await.map(Json)
}

/// Turns a knob of the stand-in.
#[utoipa::path(post, path = "/jobs/{job}/codes/knob", request_body = KnobRequest, responses((status = 200, body = CodesView)))]
pub(crate) async fn knob(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Body(request): Body<KnobRequest>,
) -> Result<Json<CodesView>, ApiError> {
    let writing = state.writings.of(job);
    let file = state.store.job(job).await?;
    if !state.stand_in {
        let says = words::ONLY_SIMULATED_ECU_SETTINGS.to_owned();
        return Err(StoreError::Conflict(says).into());
    }
    let mut talk = open(&state, &file).await?;
    talk.ask(&Ask::Knob { what: request.what, to: request.to }).await?;
    view(&state, &file, writing).await.map(Json)
}
