//! Jobs held in memory between two writes, each with what the rules make of it, judged once.

use crate::{Recent, Store, StoreError, job_file, log, profile, weights};
use cobaltine_core::calc::CalcError;
use cobaltine_core::judged::Judged;
use cobaltine_core::judgement::{NextStep, Overtaken, Weights, next_step, overtaken};
use cobaltine_core::limits::PEOPLE;
use cobaltine_core::record::{JobFile, Person};
use cobaltine_core::units::{Units, within};
use sqlx::SqliteConnection;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, OnceLock, PoisonError};
use uuid::Uuid;

/// So many bytes of logs are held, counted as they are kept; in memory they take several times that.
const MOST_BYTES: usize = 8 << 20;
/// Jobs that were only read are held in this number.
const MOST_LOOKED: usize = 64;
/// Entries whose log is remembered.
const MOST_PLACES: usize = 10_000;

/// What a job is judged by, and said in.
#[derive(Debug, Clone)]
pub(crate) struct JudgedBy {
    pub weights: Arc<Weights>,
    pub units: Units,
}

/// A job as it is now.
#[derive(Debug)]
pub struct JobState {
    /// Everything that is kept.
    pub file: JobFile,
    /// What its own log takes, bytes.
    pub(crate) bytes: usize,
    /// The greatest place in its log and in those that are read with it.
    pub(crate) last: u64,
    by: JudgedBy,
    opinion: OnceLock<Result<Opinion, CalcError>>,
}

/// What the rules say of a job.
#[derive(Debug)]
pub struct Opinion {
    /// Every verdict, the plan, the timers.
    pub judged: Judged,
    /// The one next step.
    pub step: NextStep,
    /// Decisions whose ground changed since they were signed.
    pub overtaken: Vec<Overtaken>,
}

impl JobState {
    pub(crate) fn new(file: JobFile, bytes: usize, last: u64, by: JudgedBy) -> Self {
        Self { file, bytes, last, by, opinion: OnceLock::new() }
    }

    /// The weights that it is judged by.
    pub fn weights(&self) -> &Arc<Weights> {
        &self.by.weights
    }

    pub(crate) fn by(&self) -> &JudgedBy {
        &self.by
    }

    /// What the rules say, worked out at the first look.
    ///
    /// # Errors
    /// What a return test refuses; cannot happen for readings that came in through the edge.
    pub fn opinion(&self) -> Result<&Opinion, CalcError> {
        let made = self.opinion.get_or_init(|| within(self.by.units, || self.judge()));
        made.as_ref().map_err(Clone::clone)
    }

    fn judge(&self) -> Result<Opinion, CalcError> {
        let mut judged = self.file.judged()?;
        let step = next_step(&self.file, &judged, &self.by.weights);
        // One next step, the same everywhere.
        judged.plan.next.clone_from(&step.step);
        Ok(Opinion { judged, step, overtaken: overtaken(&self.file) })
    }

    /// The same off the threads that answer.
    pub(crate) async fn judged(self: &Arc<Self>) {
        if self.opinion.get().is_none() {
            let state = Arc::clone(self);
            // One that panics is judged again where it is asked for.
            let _ = tokio::task::spawn_blocking(move || state.opinion().is_ok()).await;
        }
    }
}

#[derive(Debug)]
struct Kept {
    /// As the last writer left them: what the next one begins with.
    jobs: HashMap<Uuid, (Arc<JobState>, u64)>,
    bytes: usize,
    used: u64,
    /// As somebody read them, and at which revision: good until anything is written.
    looked: Recent<Uuid, (Arc<JobState>, u64)>,
    /// The log that an entry stands in.
    places: Recent<Uuid, Uuid>,
    /// People who signed lately.
    people: Recent<Uuid, Person>,
}

impl Default for Kept {
    fn default() -> Self {
        Self {
            jobs: HashMap::new(),
            bytes: 0,
            used: 0,
            looked: Recent::new(MOST_LOOKED),
            places: Recent::new(MOST_PLACES),
            people: Recent::new(PEOPLE),
        }
    }
}

/// What is held in memory.
#[derive(Debug, Default)]
pub(crate) struct Held(Mutex<Kept>);

impl Held {
    fn lock(&self) -> MutexGuard<'_, Kept> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    pub fn get(&self, id: Uuid) -> Option<Arc<JobState>> {
        let mut kept = self.lock();
        kept.used += 1;
        let used = kept.used;
        let (state, at) = kept.jobs.get_mut(&id)?;
        *at = used;
        Some(Arc::clone(state))
    }

    /// Holds what was just written. Only the writer does, in its turn.
    pub fn put(&self, state: &Arc<JobState>) {
        let mut kept = self.lock();
        kept.used += 1;
        let (id, used) = (state.file.job.id, kept.used);
        kept.looked.remove(&id);
        kept.bytes += state.bytes;
        if let Some((before, _)) = kept.jobs.insert(id, (Arc::clone(state), used)) {
            kept.bytes -= before.bytes;
        }
        while kept.bytes > MOST_BYTES {
            let others = kept.jobs.iter().filter(|(held, _)| **held != id);
            let oldest = others.min_by_key(|(_, (_, used))| *used).map(|(id, _)| *id);
            let Some(oldest) = oldest else { break };
            kept.drop_job(oldest);
        }
    }

    /// Lets go of a job that is written to, so that its writer is the only one who holds it.
    pub fn take(&self, id: Uuid) {
        self.lock().drop_job(id);
    }

    fn looked(&self, id: Uuid, revision: u64) -> Option<Arc<JobState>> {
        let mut kept = self.lock();
        let (state, at) = kept.looked.get(&id)?;
        (*at == revision).then(|| Arc::clone(state))
    }

    fn look(&self, state: &Arc<JobState>, revision: u64) {
        self.lock().looked.insert(state.file.job.id, (Arc::clone(state), revision));
    }

    /// Forgets these; all, when none is named.
    pub fn forget(&self, of: &[Uuid]) {
        let mut kept = self.lock();
        if of.is_empty() {
            kept.jobs.clear();
            kept.bytes = 0;
            kept.looked.clear();
            kept.people.clear();
            return;
        }
        of.iter().for_each(|id| kept.drop_job(*id));
    }

    pub fn person(&self, id: Uuid) -> Option<Person> {
        self.lock().people.get(&id).cloned()
    }

    pub fn remember_person(&self, person: &Person) {
        self.lock().people.insert(person.id, person.clone());
    }

    pub fn place(&self, entry: Uuid) -> Option<Uuid> {
        self.lock().places.get(&entry).copied()
    }

    pub fn remember_place(&self, entry: Uuid, of: Uuid) {
        self.lock().places.insert(entry, of);
    }
}

impl Kept {
    fn drop_job(&mut self, id: Uuid) {
        if let Some((state, _)) = self.jobs.remove(&id) {
            self.bytes -= state.bytes;
        }
    }
}

/// A job as the database has it.
pub(crate) async fn loaded(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<JobState, StoreError> {
    let (file, bytes) = job_file::with_size(connection, id).await?;
    let last = log::last_place(connection, id).await?;
    let weights = weights::weights_of(connection).await?;
    let by = JudgedBy { weights, units: profile::units_of(connection).await? };
    Ok(JobState::new(file, bytes, last, by))
}

impl Store {
    /// A job as it is now, from memory where it is held.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn state(&self, id: Uuid) -> Result<Arc<JobState>, StoreError> {
        if let Some(state) = self.shared.held.get(id) {
            return Ok(state);
        }
        let revision = self.revision();
        if let Some(state) = self.shared.held.looked(id, revision) {
            return Ok(state);
        }
        let mut tx = self.pool.begin().await?;
        let state = Arc::new(loaded(&mut tx, id).await?);
        // Written meanwhile it may be old: then nobody finds it at the revision of that time.
        self.shared.held.look(&state, revision);
        Ok(state)
    }

    /// The same, judged already.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn judged(&self, id: Uuid) -> Result<Arc<JobState>, StoreError> {
        let state = self.state(id).await?;
        state.judged().await;
        Ok(state)
    }
}
