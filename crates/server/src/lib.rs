//! The HTTP interface of Cobaltine: a router on one screen, one file per noun, the wire types
//! in one module, one [`ApiError`].
//!
//! [`serve`] starts from a listener and ends when told, so that tests start the real thing.

mod accept;
mod access;
mod accounts;
mod addresses;
mod assets;
mod backups;
mod bench;
mod bench_files;
mod board;
mod calc;
mod calculators;
mod catch;
mod changes;
mod codes;
mod connections;
mod customers;
mod decisions;
mod demo;
mod device;
mod documented;
mod error;
mod events;
mod events_sent;
mod extract;
mod fitting;
mod fresh;
mod host;
mod in_time;
mod instruments;
mod jobs;
mod judgement;
mod library;
mod library_text;
mod live;
mod matchings;
mod openapi;
mod passports;
mod path;
mod people;
mod places;
mod profile;
mod proving;
mod recordings;
mod reports;
mod return_plan;
mod return_tests;
mod rights;
mod router;
mod rules;
mod sheets;
mod shelf;
mod shown;
mod sign_in;
mod sign_ins;
mod streams;
mod tls;
mod traces;
mod trainer;
mod transfer;
mod transfers;
mod unit;
mod whole;
pub mod wire;
mod words;
mod works;
mod workshops;
mod writings;

pub use accept::Bounds;
pub use access::{Access, Accounts};
pub use backups::{BackupPlan, Backups};
pub use changes::Closing;
pub use device::InstrumentError;
pub use error::ApiError;
pub use fresh::Answers;
pub use matchings::Matchings;
pub use openapi::{job_schema, library_schema, openapi_json, workshop_schema};
pub use shown::Shown;
pub use streams::{LiveView, Streams};
pub use tls::acceptor;
pub use transfers::Transfers;
pub use unit::UnitError;
pub use writings::Writings;

use cobaltine_store::Store;
pub use demo::{DemoDoor, OpenDemo};
use std::future::Future;
use tokio::net::TcpListener;
use tokio_rustls::TlsAcceptor;

/// What every handler can ask for.
#[derive(Clone)]
pub struct AppState {
    /// The data of the workshop.
    pub store: Store,
    /// How people come in.
    pub access: Access,
    /// The port that it is served at, part of the names of its cookies.
    pub port: u16,
    /// Bounds of its connections.
    pub bounds: Bounds,
    /// The line that nobody listens in on; none where others cannot.
    pub tls: Option<TlsAcceptor>,
    /// Backups of the workshop.
    pub backups: Backups,
    /// Names of this machine that are answered besides its addresses.
    pub names: Vec<String>,
    /// Work that goes on in the background.
    pub matchings: Matchings,
    /// The workshop in and out.
    pub transfers: Transfers,
    /// Codes that are being written.
    pub writings: Writings,
    /// Address of the control unit, where there is one.
    pub unit: Option<String>,
    /// It is the stand-in that ships with the program.
    pub stand_in: bool,
    /// Instruments may be at any address, not only on this machine and private networks.
    pub any_address: bool,
    /// What instruments showed lately.
    pub shown: Shown,
    /// Instruments that are looked at.
    pub streams: Streams,
    /// The demo workshop beside this one.
    pub demo: DemoDoor,
    /// What this run of the program tells its answers apart by.
    pub started: i64,
    /// Answers that hold until something is written.
    pub answers: Answers,
    /// Whether the program ends.
    pub closing: Closing,
}

impl AppState {
    /// A state in which nobody signs in, without names and without a control unit.
    pub fn new(store: Store) -> Self {
        Self {
            store,
            access: Access::Open,
            port: 0,
            bounds: Bounds::default(),
            tls: None,
            backups: Backups::default(),
            names: Vec::new(),
            matchings: Matchings::default(),
            transfers: Transfers::default(),
            writings: Writings::default(),
            unit: None,
            stand_in: false,
            any_address: false,
            shown: Shown::default(),
            streams: Streams::default(),
            demo: DemoDoor::default(),
            started: extract::now().as_millisecond(),
            answers: Answers::default(),
            closing: Closing::default(),
        }
    }
}

/// Serves until `shutdown` is done, then lets open requests finish.
///
/// # Errors
/// When the listener fails.
pub async fn serve(
    mut state: AppState,
    listener: TcpListener,
    shutdown: impl Future<Output = ()> + Send + 'static,
) -> std::io::Result<()> {
    let (matchings, closing) = (state.matchings.clone(), state.closing.clone());
    let transfers = state.transfers.clone();
    let shutdown = async move {
        shutdown.await;
        closing.close();
    };
    transfers.take_up(&state.store).await.map_err(std::io::Error::other)?;
    state.port = listener.local_addr()?.port();
    let (bounds, tls) = (state.bounds, state.tls.clone());
    accept::accept(listener, router::router(state), tls, bounds, shutdown).await;
    matchings.stop_all();
    transfers.stop_all();
    Ok(())
}
