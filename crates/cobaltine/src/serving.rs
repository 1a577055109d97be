//! Listening, logging, and stopping when asked.

use crate::made::Made;
use crate::settings::Settings;
use crate::words;
use anyhow::Context;
use cobaltine_core::instrument_link::DeviceKind;
use cobaltine_server::{Access, Accounts, AppState, BackupPlan, Backups, DemoDoor, OpenDemo};
use cobaltine_standins::instrument::Device;
use cobaltine_standins::{serve_device, serve_unit};
use cobaltine_store::Store;
use jiff::Timestamp;
use std::io::Write;
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use tokio::net::TcpListener;
use tokio::sync::{Mutex, oneshot};
use tokio::task::JoinHandle;
use tracing_subscriber::EnvFilter;

/// The seed of the demo's instruments: the second injector of its diesel bay is worn.
const DEMO_WORLD: u64 = 9;

/// The control unit that codes are written to.
#[derive(Debug, Clone)]
pub(crate) enum Unit {
    /// There is none.
    None,
    /// At this address.
    At(String),
    /// The stand-in, as a task of this program.
    StandIn,
}

/// Serves the store until Ctrl+C or a termination signal; open requests are finished first.
pub(crate) async fn serve(
    store: Store,
    settings: Settings,
    unit: Unit,
    data: Option<PathBuf>,
) -> anyhow::Result<()> {
    let Settings {
        listen,
        open,
        tls_cert,
        tls_key,
        names,
        log,
        any_address,
        backups,
        backup_every,
        backup_keep,
        ..
    } = settings;
    let tls = match (&tls_cert, &tls_key) {
        (Some(cert), Some(key)) => Some(
            cobaltine_server::acceptor(cert, key)
                .map_err(|error| anyhow::anyhow!("{}", words::no_certificate(error)))?,
        ),
        _ => None,
    };
    let access = if open { Access::Open } else { Access::Accounts(Accounts::new(tls.is_some())) };
    let scheme = if tls.is_some() { "https" } else { "http" };
    let filter = EnvFilter::try_new(&log).with_context(|| words::not_log_level(&log))?;
    tracing_subscriber::fmt().json().with_env_filter(filter).with_writer(std::io::stderr).init();
    let listener = TcpListener::bind(listen)
        .await
        .with_context(|| words::taken_choose_another_address(listen))?;
    let stop = stop()?;
    // On standard output and alone on its line, so that a script can wait for it.
    let mut told = format!("Cobaltine is at {scheme}://{}\n", listener.local_addr()?);
    if !open && !store.has_owner() {
        let link = store.owner_link(Timestamp::now()).await?;
        told.push_str(&words::first_owner(scheme, listener.local_addr()?, &link));
        told.push('\n');
    }
    // Whoever waited for the address may have hung up.
    let _ = std::io::stdout().write_all(told.as_bytes());
    let stand_in = matches!(unit, Unit::StandIn);
    if stand_in {
        stand_in_world(&store).await?;
    }
    let unit = match unit {
        Unit::None => None,
        Unit::At(address) => Some(address),
        Unit::StandIn => Some(stand_in_unit().await?.to_string()),
    };
    let beside = Beside::default();
    let home = listener.local_addr()?;
    // The demo itself has none beside it.
    let demo = match &data {
        Some(data) => DemoDoor::to(beside.door(home, data)),
        None => DemoDoor::default(),
    };
    let backups = match data {
        Some(data) => {
            let to = backups.unwrap_or_else(|| data.join("backups"));
            Backups::by(BackupPlan { data, to, every: backup_every, keep: backup_keep })
        }
        None => Backups::default(),
    };
    let clock = tokio::spawn(backups.clone().by_the_clock());
    let state = AppState {
        access,
        tls,
        backups,
        names,
        unit,
        stand_in,
        any_address,
        demo,
        ..AppState::new(store.clone())
    };
    cobaltine_server::serve(state, listener, stop).await?;
    clock.abort();
    beside.close().await;
    store.close().await;
    tracing::info!("stopped");
    Ok(())
}

/// What others can reach needs accounts, and a line that nobody listens in on.
///
/// # Errors
/// What has to be said otherwise.
pub(crate) fn allowed(settings: &Settings) -> anyhow::Result<()> {
    if settings.listen.ip().is_loopback() {
        return Ok(());
    }
    if settings.open {
        anyhow::bail!(words::OPEN_IS_FOR_ONE_MACHINE);
    }
    if settings.tls_cert.is_none() || settings.tls_key.is_none() {
        anyhow::bail!(words::BEYOND_NEEDS_TLS);
    }
    Ok(())
}

/// How an opened demo is told to stop, and its work to wait for.
type Opened = (oneshot::Sender<()>, JoinHandle<()>);

/// The demo workshop beside the one that is served: opened when it is asked for, closed with it.
#[derive(Debug, Clone, Default)]
struct Beside(Arc<Mutex<Option<Opened>>>);

impl Beside {
    /// Opens it at the same address of this machine, in a folder of its own within this one's.
    fn door(&self, home: SocketAddr, data: &Path) -> OpenDemo {
        let (held, folder) = (self.clone(), data.join("demo-workshop"));
        Arc::new(move || {
            let (held, folder) = (held.clone(), folder.clone());
            Box::pin(
                async move { held.open(home, &folder).await.map_err(|error| format!("{error:#}")) },
            )
        })
    }

    async fn open(&self, home: SocketAddr, folder: &Path) -> anyhow::Result<u16> {
        // Nobody signs in there: it is for this machine alone.
        if !home.ip().is_loopback() {
            anyhow::bail!(words::DEMO_ON_THIS_MACHINE);
        }
        let store = Store::open(folder).await?;
        crate::demo::load(&store).await?;
        let listener = TcpListener::bind(SocketAddr::new(home.ip(), 0)).await?;
        let port = listener.local_addr()?.port();
        let unit = Some(stand_in_unit().await?.to_string());
        stand_in_world(&store).await?;
        let demo = DemoDoor::back(home.port());
        let state = AppState { unit, stand_in: true, demo, ..AppState::new(store.clone()) };
        let (stop, stopped) = oneshot::channel();
        let task = tokio::spawn(async move {
            let stopped = async { drop(stopped.await) };
            if let Err(error) = cobaltine_server::serve(state, listener, stopped).await {
                tracing::warn!(%error, "the demo workshop stopped");
            }
            store.close().await;
        });
        *self.0.lock().await = Some((stop, task));
        Ok(port)
    }

    async fn close(&self) {
        if let Some((stop, task)) = self.0.lock().await.take() {
            // Whoever stopped by himself hears no more.
            let _ = stop.send(());
            let _ = task.await;
        }
    }
}

/// A control unit of the workshop's own, on a port that is free.
async fn stand_in_unit() -> anyhow::Result<SocketAddr> {
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let address = listener.local_addr()?;
    tokio::spawn(serve_unit(listener, crate::demo::control_unit()));
    Ok(address)
}

/// The stand-in as a process of its own.
pub(crate) async fn unit(listen: SocketAddr) -> anyhow::Result<()> {
    let listener = TcpListener::bind(listen)
        .await
        .with_context(|| words::taken_choose_another_address(listen))?;
    println!("{}", words::control_unit_stand(listener.local_addr()?));
    Ok(serve_unit(listener, crate::demo::control_unit()).await?)
}

/// Instruments of a made-up workshop beside this one, listed in its connections.
async fn stand_in_world(store: &Store) -> anyhow::Result<()> {
    let connections = crate::world::open(DEMO_WORLD).await?;
    Ok(store.add_connections(&connections).await?)
}

/// Serves a simulated instrument.
pub(crate) async fn instrument(kind: &str, listen: SocketAddr, made: &Made) -> anyhow::Result<()> {
    let known = || {
        let names: Vec<&str> = DeviceKind::ALL.iter().map(|kind| kind.name()).collect();
        words::no_such_instrument(kind, names.join(", "))
    };
    let kind = DeviceKind::parse(kind).with_context(known)?;
    let device = Device::new(kind, made.engine()?, made.seed);
    let listener = TcpListener::bind(listen)
        .await
        .with_context(|| words::taken_choose_another_address(listen))?;
    println!("{}", words::instrument_stands(kind.word(), listener.local_addr()?));
    Ok(serve_device(listener, device).await?)
}

/// What asks the program to stop. It listens from the moment of the call, not of the first wait: who
/// has read the address may ask at once.
#[cfg(unix)]
fn stop() -> anyhow::Result<impl Future<Output = ()>> {
    use tokio::signal::unix::{SignalKind, signal};
    let mut interrupt = signal(SignalKind::interrupt())?;
    let mut terminate = signal(SignalKind::terminate())?;
    Ok(async move {
        tokio::select! { _ = interrupt.recv() => {}, _ = terminate.recv() => {} }
    })
}

#[cfg(not(unix))]
fn stop() -> anyhow::Result<impl Future<Output = ()>> {
    Ok(async { drop(tokio::signal::ctrl_c().await) })
}
