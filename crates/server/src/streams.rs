//! What instruments show, as it happens: one talk for each, however many screens look.
//!
//! A stream begins when somebody looks or catches, and ends a while after nobody does. Screens that take
//! their time miss points and are told how many; what is caught ([`crate::catch`]) misses none. While an
//! instrument says nothing that can be read, the stream says so and why, and takes the talk up again.

use crate::catch::Catch;
use crate::device::{DeviceTalk, InstrumentError};
use crate::extract::now;
use crate::{AppState, words};
use cobaltine_core::connection::{Connection, ShownBy};
use cobaltine_core::instrument_link::{Ask, DeviceKind, Quantity};
use cobaltine_core::trace::Drop;
use serde::Serialize;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};
use tokio::sync::{broadcast, mpsc, oneshot};
use tokio::time::{MissedTickBehavior, interval, sleep};
use utoipa::ToSchema;
use uuid::Uuid;

/// Points that wait for a screen that takes its time: a second and more of them.
const WAITING: usize = 64;
/// A stream that nobody needs goes on for so long.
const LINGERS: Duration = Duration::from_secs(5);
/// A trace that nobody looks at is let go of after so long, and its instrument with it; its points are kept.
const ABANDONED: Duration = Duration::from_secs(300);
/// Streams at once.
const STREAMS: usize = 32;
/// How long it waits before it takes a talk up again that broke off: longer each time.
const PAUSE: Duration = Duration::from_millis(200);
const LONGEST_PAUSE: Duration = Duration::from_secs(2);

/// One look at an instrument.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LiveView {
    /// Goes up by one with each; a screen that misses some sees it.
    pub n: u64,
    /// When, ms since 1970 by the clock of the program.
    pub at_ms: i64,
    /// The unit of the values.
    pub unit: &'static str,
    /// What it showed, channel by channel; empty while it shows nothing that can be read.
    pub values: Vec<f64>,
    /// Why it shows nothing.
    pub silent: Option<String>,
    /// The run or the check that it is kept for.
    pub caught: Option<Uuid>,
    /// Drops of the trace that is taken, when they changed.
    pub drops: Option<Vec<Drop>>,
    /// The trace is full: it takes no more points.
    pub full: bool,
}

/// What is asked of a stream besides looking.
#[derive(Debug)]
enum Order {
    /// Begin: bottles are emptied. What it said that it is comes back.
    Init(oneshot::Sender<Result<ShownBy, InstrumentError>>),
}

/// One instrument that is looked at.
#[derive(Debug)]
pub(crate) struct Stream {
    looks: broadcast::Sender<Arc<LiveView>>,
    orders: mpsc::Sender<Order>,
    catch: Mutex<Option<Catch>>,
    last: Mutex<Option<Arc<LiveView>>>,
    /// When somebody asked for it or needed it last.
    needed: Mutex<Instant>,
    /// When somebody looked last.
    looked: Mutex<Instant>,
    pub quantity: Quantity,
}

/// Streams by their connection and what is looked at.
type All = HashMap<(Uuid, Quantity), Arc<Stream>>;

/// Every stream of the program.
#[derive(Debug, Clone, Default)]
pub struct Streams(Arc<Mutex<All>>);

fn held<T>(of: &Mutex<T>) -> MutexGuard<'_, T> {
    of.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Streams {
    /// The stream of a connection, begun where there is none.
    ///
    /// # Errors
    /// It does not show this; too many at once.
    pub(crate) fn of(
        &self,
        state: &AppState,
        connection: &Connection,
        quantity: Option<Quantity>,
    ) -> Result<Arc<Stream>, InstrumentError> {
        let measures = connection.kind.measures();
        let quantity = quantity.or_else(|| measures.first().copied());
        let quantity = quantity.filter(|of| measures.contains(of));
        let quantity = quantity.ok_or(InstrumentError::OtherQuantity)?;
        let key = (connection.id, quantity);
        let mut all = held(&self.0);
        if let Some(stream) = all.get(&key) {
            // Whoever asked for it has some seconds to make use of it.
            *held(&stream.needed) = Instant::now();
            return Ok(Arc::clone(stream));
        }
        if all.len() >= STREAMS {
            return Err(InstrumentError::Reports(words::TOO_MANY_STREAMS.to_owned()));
        }
        let (orders, wanted) = mpsc::channel(4);
        let stream = Arc::new(Stream {
            looks: broadcast::channel(WAITING).0,
            orders,
            catch: Mutex::new(None),
            last: Mutex::new(None),
            needed: Mutex::new(Instant::now()),
            looked: Mutex::new(Instant::now()),
            quantity,
        });
        all.insert(key, Arc::clone(&stream));
        let task = Task {
            state: state.clone(),
            connection: connection.clone(),
            stream: Arc::clone(&stream),
            orders: wanted,
            n: 0,
        };
        tokio::spawn(task.run());
        Ok(stream)
    }

    /// The stream that catches for this run or check.
    pub(crate) fn catching(&self, of: Uuid) -> Option<Arc<Stream>> {
        held(&self.0).values().find(|stream| stream.catches() == Some(of)).cloned()
    }

    /// Ends what runs with a connection: it was changed.
    pub(crate) fn end(&self, connection: Uuid) {
        held(&self.0).retain(|(of, _), _| *of != connection);
    }

    fn is_held(&self, stream: &Arc<Stream>) -> bool {
        held(&self.0).values().any(|one| Arc::ptr_eq(one, stream))
    }

    /// Takes it off the list where nobody needed it for a while; asked and done in one step, so that nobody gets one that
    /// has ended.
    fn let_go(&self, stream: &Arc<Stream>) -> bool {
        let mut all = held(&self.0);
        if stream.looks.receiver_count() > 0 {
            *held(&stream.looked) = Instant::now();
        } else if held(&stream.looked).elapsed() > ABANDONED {
            // What it showed so far is kept as it is dropped.
            drop(held(&stream.catch).take_if(|catch| catch.is_trace()));
        }
        let used = stream.looks.receiver_count() > 0 || held(&stream.catch).is_some();
        let mut since = held(&stream.needed);
        if used {
            *since = Instant::now();
        }
        let needed = since.elapsed() <= LINGERS;
        if !needed {
            all.retain(|_, one| !Arc::ptr_eq(one, stream));
        }
        !needed
    }
}

impl Stream {
    /// Everything that it shows from now on, and what it showed last.
    pub(crate) fn look(&self) -> (broadcast::Receiver<Arc<LiveView>>, Option<Arc<LiveView>>) {
        let looks = self.looks.subscribe();
        (looks, held(&self.last).clone())
    }

    /// What is being caught with it.
    pub(crate) fn catches(&self) -> Option<Uuid> {
        held(&self.catch).as_ref().map(|catch| catch.of)
    }

    /// Catches from now on what it shows.
    ///
    /// # Errors
    /// It catches for another run or check.
    pub(crate) fn catch(&self, catch: Catch) -> Result<(), InstrumentError> {
        let mut place = held(&self.catch);
        if place.as_ref().is_some_and(|one| one.of != catch.of) {
            return Err(InstrumentError::Reports(words::INSTRUMENT_IN_USE.to_owned()));
        }
        *place = Some(catch);
        Ok(())
    }

    /// Ends the catching for this run or check.
    pub(crate) fn caught(&self, of: Uuid) -> Option<Catch> {
        held(&self.catch).take_if(|catch| catch.of == of)
    }

    /// Has the instrument begin anew for a run, and says what it is.
    ///
    /// # Errors
    /// [`InstrumentError`]: nothing was begun then. Bottles of another run that goes on are not emptied.
    pub(crate) async fn init(&self, run: Uuid) -> Result<ShownBy, InstrumentError> {
        if self.catches().is_some_and(|of| of != run) {
            return Err(InstrumentError::Reports(words::INSTRUMENT_IN_USE.to_owned()));
        }
        let (told, answer) = oneshot::channel();
        let sent = self.orders.send(Order::Init(told)).await;
        sent.map_err(|_| InstrumentError::Silent)?;
        answer.await.unwrap_or(Err(InstrumentError::Silent))
    }
}

/// How often an instrument is asked.
fn pace(kind: DeviceKind) -> Duration {
    match kind {
        DeviceKind::Bottles | DeviceKind::Gauge => Duration::from_millis(20),
        DeviceKind::Meter
        | DeviceKind::PetrolBench
        | DeviceKind::DieselBench
        | DeviceKind::DoserBench
        | DeviceKind::Clamp
        | DeviceKind::Microphone
        | DeviceKind::Scan => Duration::from_millis(200),
    }
}

/// What keeps a stream going.
struct Task {
    state: AppState,
    connection: Connection,
    stream: Arc<Stream>,
    orders: mpsc::Receiver<Order>,
    n: u64,
}

/// Why a talk is not gone on with.
enum Ended {
    /// Nobody needs it.
    Done,
    Wrong(InstrumentError),
}

impl Task {
    async fn run(mut self) {
        let mut pause = PAUSE;
        loop {
            let why = match DeviceTalk::open(&self.connection, self.state.any_address).await {
                Ok(talk) => {
                    let read = self.n;
                    let why = self.poll(talk).await;
                    if self.n > read {
                        pause = PAUSE;
                    }
                    why
                }
                Err(error) => Ended::Wrong(error),
            };
            let Ended::Wrong(error) = why else { return };
            self.show(Err(&error), Instant::now());
            // Who waits for a beginning is told why there is none.
            while let Ok(Order::Init(told)) = self.orders.try_recv() {
                let _ = told.send(Err(error.clone()));
            }
            sleep(pause).await;
            pause = (pause * 2).min(LONGEST_PAUSE);
            if self.is_over() {
                return;
            }
        }
    }

    /// Asks again and again until something is wrong or nobody needs it.
    async fn poll(&mut self, mut talk: DeviceTalk) -> Ended {
        let mut ticks = interval(pace(self.connection.kind));
        // After a stall the pace goes on from there: what was missed is a gap, and is not asked for in a burst.
        ticks.set_missed_tick_behavior(MissedTickBehavior::Delay);
        loop {
            tokio::select! {
                _ = ticks.tick() => {
                    // It shows what it measures when it is asked, however late the answer is taken in.
                    let asked = Instant::now();
                    match talk.reading(self.stream.quantity).await {
                        Ok(values) => self.show(Ok((&talk.shown_by, values)), asked),
                        Err(error) => return Ended::Wrong(error),
                    }
                }
                order = self.orders.recv() => {
                    let Some(Order::Init(told)) = order else { return Ended::Done };
                    let begun = begin(&mut talk).await;
                    let wrong = begun.as_ref().err().cloned();
                    let _ = told.send(begun);
                    if let Some(error) = wrong {
                        return Ended::Wrong(error);
                    }
                }
            }
            if self.is_over() {
                return Ended::Done;
            }
        }
    }

    fn is_over(&self) -> bool {
        self.state.streams.let_go(&self.stream)
            || !self.state.streams.is_held(&self.stream)
            || self.state.closing.is_closed()
    }

    /// Tells everybody, and catches.
    fn show(&mut self, came: Result<(&ShownBy, Vec<f64>), &InstrumentError>, asked: Instant) {
        self.n += 1;
        let at = now();
        let (mut caught, mut drops, mut full) = (None, None, false);
        if let Some(catch) = held(&self.stream.catch).as_mut() {
            caught = Some(catch.of);
            match &came {
                Ok((by, values)) => drops = catch.shows(by, values, asked),
                Err(error) => catch.is_silent(&error.to_string()),
            }
            full = catch.is_full();
        }
        let (values, silent) = match came {
            Ok((_, values)) => (values, None),
            Err(error) => (Vec::new(), Some(error.to_string())),
        };
        let at_ms = at.as_millisecond();
        let view = Arc::new(LiveView {
            n: self.n,
            at_ms,
            unit: self.stream.quantity.unit(),
            values,
            silent,
            caught,
            drops,
            full,
        });
        *held(&self.stream.last) = Some(Arc::clone(&view));
        // Nobody looks: it is only caught.
        let _ = self.stream.looks.send(view);
    }
}

/// Bottles emptied, a run begun: done when the instrument says that it is.
async fn begin(talk: &mut DeviceTalk) -> Result<ShownBy, InstrumentError> {
    talk.tell(&Ask::Init).await?;
    talk.ask(&Ask::Complete.to_string()).await?;
    Ok(talk.shown_by.clone())
}
