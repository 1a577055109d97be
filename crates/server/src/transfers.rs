//! The whole workshop in and out in the background, told how far it is, while others work on.

use crate::extract::{AtBench, Body, Path, named};
use crate::wire::{ExportRequest, TransferState, TransferView, TransferWhat};
use crate::words;
use crate::works::{Stage, Work, Works};
use crate::workshops::{Export, Parts, streamed};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::{Request, State};
use axum::http::{StatusCode, header};
use axum::response::Response;
use cobaltine_core::record::FieldProblem;
use cobaltine_store::{Act, Store, StoreError, Watch, WorkshopImported, breathe};
use sha2::{Digest, Sha256};
use std::future::Future;
use std::path::PathBuf;
use std::sync::Arc;
use std::time::{Duration, Instant};
use tokio::fs::File;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio_stream::StreamExt;
use uuid::Uuid;

/// At work at once; one more is refused, as this machine has other things to do.
const AT_WORK: usize = 3;
/// Largest workshop file that comes in.
const LARGEST: u64 = 512 * 1024 * 1024;
/// Lines that are written between two pauses.
const BEFORE_A_PAUSE: u64 = 16;
/// Bytes of a file that are read at once.
const PART: usize = 64 * 1024;
/// A small workshop is done before anyone looks: the first answer waits this long for it.
const AT_ONCE: Duration = Duration::from_millis(150);

/// The imports and exports of this program.
#[derive(Debug, Clone, Default)]
pub struct Transfers(Works<Transfer>);

/// One that is at work or over.
#[derive(Debug)]
struct Transfer {
    what: TransferWhat,
    by: Uuid,
    /// An import under its id asks for this.
    act: Act,
    watch: Arc<Watch>,
    over: Option<Over>,
}

#[derive(Debug)]
enum Over {
    Imported(WorkshopImported),
    Exported(Scrap, u64),
    Stopped,
    Refused(String, Vec<FieldProblem>),
}

impl Stage for Transfer {
    const NAME: &'static str = "transfer";

    fn is_running(&self) -> bool {
        self.over.is_none()
    }

    fn stop(&self) {
        self.watch.stop();
    }

    fn fails(&mut self, problem: &str) {
        self.over = Some(Over::Refused(problem.to_owned(), Vec::new()));
    }
}

impl Transfers {
    /// Stops what can be stopped: the program ends.
    pub(crate) fn stop_all(&self) {
        self.0.stop_all();
    }

    /// Goes on with what was being switched in when the program ended.
    pub(crate) async fn take_up(&self, store: &Store) -> Result<(), StoreError> {
        for arrival in store.arrivals().await? {
            let (by, act) = (arrival.by(), arrival.act().clone());
            let first = Transfer::new(TransferWhat::Import, by, &act);
            let watch = Arc::clone(&first.watch);
            let Some(work) = self.0.add(act.id, usize::MAX, first) else { continue };
            let store = store.clone();
            let go = async move { imported(store.take_up(arrival, &watch).await.map(Some)) };
            let _ = background(&work, go, Duration::ZERO).await;
        }
        Ok(())
    }

    fn begin(&self, what: TransferWhat, by: Uuid, act: &Act) -> Result<Begun, ApiError> {
        if let Some(held) = self.0.find(act.id) {
            let same = held.stage().act == *act;
            return if same { Ok(Begun::Before(held)) } else { Err(StoreError::Reused.into()) };
        }
        let work = self.0.add(act.id, AT_WORK, Transfer::new(what, by, act));
        let says = || StoreError::Conflict(words::transfers_running(AT_WORK));
        Ok(Begun::Now(work.ok_or_else(says)?))
    }
}

impl Transfer {
    fn new(what: TransferWhat, by: Uuid, act: &Act) -> Self {
        Self { what, by, act: act.clone(), watch: Arc::default(), over: None }
    }
}

enum Begun {
    Now(Arc<Work<Transfer>>),
    Before(Arc<Work<Transfer>>),
}

/// A file that goes with whoever holds it.
#[derive(Debug)]
struct Scrap(PathBuf);

impl Drop for Scrap {
    fn drop(&mut self) {
        // Taken away at the next start where it cannot be now.
        let _ = std::fs::remove_file(&self.0);
    }
}

fn view(work: &Work<Transfer>) -> TransferView {
    let stage = work.stage();
    let (done, of) = stage.watch.progress();
    let state = match (&stage.over, stage.what) {
        (Some(Over::Imported(_) | Over::Exported(..)), _) => TransferState::Done,
        (Some(Over::Stopped), _) => TransferState::Stopped,
        (Some(Over::Refused(..)), _) => TransferState::Refused,
        (None, TransferWhat::Import) if stage.watch.is_switching() => TransferState::Importing,
        (None, TransferWhat::Import) => TransferState::Checking,
        (None, TransferWhat::Workshop | TransferWhat::Readings) => TransferState::Exporting,
    };
    let mut view = TransferView {
        id: work.id,
        what: stage.what,
        by: stage.by,
        state,
        done: (done as f64 / of.max(1) as f64).min(1.0),
        imported: None,
        bytes: None,
        problem: String::new(),
        fields: Vec::new(),
    };
    match &stage.over {
        Some(Over::Imported(done)) => (view.imported, view.done) = (Some(done.clone()), 1.0),
        Some(Over::Exported(_, bytes)) => (view.bytes, view.done) = (Some(*bytes), 1.0),
        Some(Over::Refused(says, fields)) => {
            (view.problem, view.fields) = (says.clone(), fields.clone());
        }
        Some(Over::Stopped) | None => {}
    }
    view
}

fn refused(error: StoreError) -> Over {
    let (problem, _) = ApiError::from(error).problem();
    Over::Refused(problem.detail, problem.fields)
}

fn imported(done: Result<Option<WorkshopImported>, StoreError>) -> Over {
    match done {
        Ok(Some(done)) => Over::Imported(done),
        Ok(None) => Over::Stopped,
        Err(error) => refused(error),
    }
}

type Accepted = (StatusCode, Json<TransferView>);

/// Goes on with it in the background.
async fn background(
    work: &Arc<Work<Transfer>>,
    go: impl Future<Output = Over> + Send + 'static,
    moment: Duration,
) -> Accepted {
    let at_work = Arc::clone(work);
    let task = tokio::spawn(async move {
        let over = go.await;
        at_work.stage().over = Some(over);
    });
    work.goes_on(task, moment).await;
    (StatusCode::ACCEPTED, Json(view(work)))
}

/// Takes a workshop file in, in the background: it is looked at whole, then switched in. All of it or
/// nothing.
#[utoipa::path(post, path = "/workshop/imports", request_body(content = String, content_type = "application/jsonl"), responses((status = 202, body = TransferView)))]
pub(crate) async fn import(
    State(state): State<AppState>,
    bench: AtBench,
    request: Request,
) -> Result<Accepted, ApiError> {
    let (by, signed) = (bench.0.id, bench.signs());
    let id = named(request.headers())?.unwrap_or_else(Uuid::now_v7);
    let upload = Scrap(state.store.staged(Uuid::now_v7())?);
    let sum = keep(&upload, request).await?;
    let act = Act::new(id, format!("POST /api/workshop/imports\n{by}\n{sum}").as_bytes());
    if let Err(error @ StoreError::Reused) = state.store.done_before(&act).await {
        return Err(error.into());
    }
    let work = match state.transfers.begin(TransferWhat::Import, by, &act)? {
        Begun::Before(work) => return Ok((StatusCode::ACCEPTED, Json(view(&work)))),
        Begun::Now(work) => work,
    };
    let watch = Arc::clone(&work.stage().watch);
    let store = state.store.clone();
    let go = async move {
        let staged = store.staged(act.id).and_then(|to| Ok(std::fs::rename(&upload.0, to)?));
        if let Err(error) = staged {
            return refused(error);
        }
        imported(store.import_workshop(&act, signed, &watch).await)
    };
    Ok(background(&work, go, AT_ONCE).await)
}

/// Writes a body to a file as it comes: its SHA-256.
async fn keep(upload: &Scrap, request: Request) -> Result<String, ApiError> {
    let mut parts = request.into_body().into_data_stream();
    let mut file = File::create(&upload.0).await.map_err(StoreError::from)?;
    let (mut sum, mut bytes) = (Sha256::new(), 0);
    while let Some(part) = parts.next().await {
        let part = part.map_err(|_| ApiError::Body {
            status: StatusCode::BAD_REQUEST,
            detail: words::UPLOAD_BROKE_OFF.to_owned(),
        })?;
        bytes += part.len() as u64;
        if bytes > LARGEST {
            return Err(ApiError::Body {
                status: StatusCode::PAYLOAD_TOO_LARGE,
                detail: words::TOO_LARGE_ADDRESS.to_owned(),
            });
        }
        sum.update(&part);
        file.write_all(&part).await.map_err(StoreError::from)?;
    }
    file.sync_all().await.map_err(StoreError::from)?;
    Ok(sum.finalize().iter().map(|byte| format!("{byte:02x}")).collect())
}

/// Writes the workshop or its readings to a file, in the background; it can be fetched when it is done.
#[utoipa::path(post, path = "/workshop/exports", request_body = ExportRequest, responses((status = 202, body = TransferView)))]
pub(crate) async fn export(
    State(state): State<AppState>,
    bench: AtBench,
    Body(request): Body<ExportRequest>,
) -> Result<Accepted, ApiError> {
    let by = bench.0.id;
    let store = state.store.clone();
    let act = Act::new(request.id, format!("{by} {:?}", request.what).as_bytes());
    let mut export = match request.what {
        TransferWhat::Workshop => Export::workshop(&store).await?,
        TransferWhat::Readings => Export::readings(&store).await?,
        TransferWhat::Import => {
            return Err(StoreError::field("what", words::CHOOSE_WHAT_TO_EXPORT).into());
        }
    };
    let work = match state.transfers.begin(request.what, by, &act)? {
        Begun::Before(work) => return Ok((StatusCode::ACCEPTED, Json(view(&work)))),
        Begun::Now(work) => work,
    };
    let watch = Arc::clone(&work.stage().watch);
    let go = async move {
        match written(&store, request.id, &mut export, &watch).await {
            Ok(Some((file, bytes))) => Over::Exported(file, bytes),
            Ok(None) => Over::Stopped,
            Err(error) => refused(error),
        }
    };
    Ok(background(&work, go, AT_ONCE).await)
}

/// Writes an export to its file; none when it was stopped.
async fn written(
    store: &Store,
    id: Uuid,
    export: &mut Export,
    watch: &Watch,
) -> Result<Option<(Scrap, u64)>, StoreError> {
    let scrap = Scrap(store.leaving(id)?);
    let mut file = tokio::io::BufWriter::new(File::create(&scrap.0).await?);
    let (mut bytes, mut begun, mut parts) = (0, Instant::now(), 0);
    while let Some(part) = export.next().await? {
        if watch.is_stopped() {
            return Ok(None);
        }
        parts += 1;
        if parts % BEFORE_A_PAUSE == 0 {
            breathe(begun).await;
            begun = Instant::now();
        }
        file.write_all(&part).await?;
        bytes += part.len() as u64;
        let (done, of) = export.progress();
        watch.at(done, of);
    }
    file.flush().await?;
    Ok(Some((scrap, bytes)))
}

/// Imports and exports since the program began, newest first.
#[utoipa::path(get, path = "/workshop/transfers", responses((status = 200, body = Vec<TransferView>)))]
pub(crate) async fn list(State(state): State<AppState>) -> Json<Vec<TransferView>> {
    Json(state.transfers.0.all().iter().map(|work| view(work)).collect())
}

/// How far it is.
#[utoipa::path(get, path = "/workshop/transfers/{transfer}", responses((status = 200, body = TransferView)))]
pub(crate) async fn look(
    State(state): State<AppState>,
    Path(transfer): Path<Uuid>,
) -> Result<Json<TransferView>, ApiError> {
    Ok(Json(view(&*state.transfers.0.named(transfer)?)))
}

/// Stops it. What is being switched in is brought to its end.
#[utoipa::path(post, path = "/workshop/transfers/{transfer}/stop", responses((status = 200, body = TransferView)))]
pub(crate) async fn stop(
    State(state): State<AppState>,
    Path(transfer): Path<Uuid>,
) -> Result<Json<TransferView>, ApiError> {
    let work = state.transfers.0.named(transfer)?;
    work.stage().stop();
    Ok(Json(view(&work)))
}

/// A file, a part at a time.
struct Reading {
    file: File,
    /// Kept until it was read, whoever else makes room meanwhile.
    _work: Arc<Work<Transfer>>,
}

impl Parts for Reading {
    async fn next(&mut self) -> Result<Option<Vec<u8>>, StoreError> {
        let mut part = vec![0; PART];
        let read = self.file.read(&mut part).await?;
        part.truncate(read);
        Ok((read > 0).then_some(part))
    }
}

/// What was exported.
#[utoipa::path(get, path = "/workshop/transfers/{transfer}/file", responses(
    (status = 200, content((String = "application/jsonl"), (String = "text/csv")))))]
pub(crate) async fn fetch(
    State(state): State<AppState>,
    Path(transfer): Path<Uuid>,
) -> Result<Response, ApiError> {
    let work = state.transfers.0.named(transfer)?;
    let found = {
        let stage = work.stage();
        match &stage.over {
            Some(Over::Exported(file, _)) => Some((file.0.clone(), stage.what)),
            Some(Over::Imported(_) | Over::Stopped | Over::Refused(..)) | None => None,
        }
    };
    let (path, what) = found.ok_or(StoreError::NotFound("export"))?;
    let file = File::open(path).await.map_err(StoreError::from)?;
    let (kind, name) = match what {
        TransferWhat::Readings => ("text/csv; charset=utf-8", "readings.csv"),
        TransferWhat::Workshop | TransferWhat::Import => ("application/jsonl", "workshop.jsonl"),
    };
    let head = [
        (header::CONTENT_TYPE, kind.to_owned()),
        (header::CONTENT_DISPOSITION, format!("attachment; filename=\"{name}\"")),
    ];
    Ok(streamed(head, Reading { file, _work: work }))
}
