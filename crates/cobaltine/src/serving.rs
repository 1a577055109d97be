//! Listening, logging, and stopping when asked.

use anyhow::Context;
use cobaltine_server::AppState;
use cobaltine_store::Store;
use std::net::SocketAddr;
use tokio::net::TcpListener;
use tracing_subscriber::EnvFilter;

/// Serves the store until Ctrl+C or a termination signal; open requests are finished first.
pub(crate) async fn serve(
    store: Store,
    listen: SocketAddr,
    names: Vec<String>,
) -> anyhow::Result<()> {
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("info"));
    tracing_subscriber::fmt().json().with_env_filter(filter).with_writer(std::io::stderr).init();
    let listener = TcpListener::bind(listen)
        .await
        .with_context(|| format!("{listen} is taken; choose another address with --listen"))?;
    // On standard output and alone on its line, so that a script can wait for it.
    println!("Cobaltine is at http://{}", listener.local_addr()?);
    let state = AppState { store: store.clone(), names };
    cobaltine_server::serve(state, listener, stop()).await?;
    store.close().await;
    tracing::info!("stopped");
    Ok(())
}

async fn stop() {
    let interrupt = tokio::signal::ctrl_c();
    #[cfg(unix)]
    {
        use tokio::signal::unix::{SignalKind, signal};
        match signal(SignalKind::terminate()) {
            Ok(mut terminate) => {
                tokio::select! { _ = interrupt => {}, _ = terminate.recv() => {} }
            }
            Err(_) => drop(interrupt.await),
        }
    }
    #[cfg(not(unix))]
    drop(interrupt.await);
}
