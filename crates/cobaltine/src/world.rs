//! A made-up workshop of simulated instruments, each on a port of this machine.

use crate::demo;
use crate::words;
use anyhow::Context;
use cobaltine_core::connection::Connection;
use cobaltine_core::exercise::CaseRef;
use cobaltine_standins::world::{Standing, bay, world};
use cobaltine_standins::{serve_device, serve_unit};
use jiff::Timestamp;
use std::net::{IpAddr, Ipv4Addr, SocketAddr};
use tokio::net::TcpListener;
use uuid::Uuid;

/// Serves it until the program is stopped; where each stands is printed, a line each.
pub(crate) async fn serve(
    seed: u64,
    case: Option<String>,
    ip: IpAddr,
    port: u16,
) -> anyhow::Result<()> {
    let standing = match case {
        Some(name) => {
            let case = cobaltine_trainer::case::case(&CaseRef::Written { name })?;
            bay(&case.title, case.job.engine, seed)
        }
        None => world(seed),
    };
    let mut next = port;
    let mut take = || {
        let at = SocketAddr::new(ip, next);
        next = if port == 0 { 0 } else { next.saturating_add(1) };
        at
    };
    for standing in standing {
        let (name, kind) = (standing.name.clone(), standing.device.kind().word());
        let at = stand(standing, take()).await?;
        println!("{}", words::stands_in_world(&name, kind, at));
    }
    let at = take();
    let unit =
        TcpListener::bind(at).await.with_context(|| words::taken_choose_another_address(at))?;
    println!("{}", words::control_unit_stand(unit.local_addr()?));
    Ok(serve_unit(unit, demo::control_unit()).await?)
}

/// Opens it on ports that are free, for a program of which it is a part; the connections that lead to it.
pub(crate) async fn open(seed: u64) -> anyhow::Result<Vec<Connection>> {
    let mut connections = Vec::new();
    for (nth, standing) in world(seed).into_iter().enumerate() {
        let (name, kind) = (standing.name.clone(), standing.device.kind());
        let at = stand(standing, SocketAddr::new(Ipv4Addr::LOCALHOST.into(), 0)).await?;
        connections.push(Connection {
            id: Uuid::from_u128(WORLD + nth as u128),
            name,
            kind,
            address: at.to_string(),
            instrument: None,
            removed: false,
            // The ports are others at each start: what was listed before gives way.
            revision: Timestamp::now().as_second().unsigned_abs(),
        });
    }
    Ok(connections)
}

/// The first id of its connections.
const WORLD: u128 = 0x0c0b_a170_0000_7000_8000_0000_0000_0000;

async fn stand(standing: Standing, at: SocketAddr) -> anyhow::Result<SocketAddr> {
    let listener = TcpListener::bind(at).await;
    let listener = listener.with_context(|| words::taken_choose_another_address(at))?;
    let at = listener.local_addr()?;
    tokio::spawn(serve_device(listener, standing.device));
    Ok(at)
}
