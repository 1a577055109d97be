//! A stand-in on a port of this machine.

use crate::unit::{Reply, Talk, Unit};
use cobaltine_core::unit_link::LONGEST_LINE;
use std::io;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Instant;
use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::Semaphore;

/// Talks at once.
const TALKS: usize = 16;

/// Speaks for a control unit until the listener fails.
///
/// # Errors
/// When the listener fails.
pub async fn serve_unit(listener: TcpListener, unit: Unit) -> io::Result<()> {
    let unit = Arc::new(Mutex::new(unit));
    let (begun, talks) = (Instant::now(), Arc::new(Semaphore::new(TALKS)));
    loop {
        let (stream, _) = listener.accept().await?;
        let Ok(room) = Arc::clone(&talks).try_acquire_owned() else { continue };
        let unit = Arc::clone(&unit);
        tokio::spawn(async move {
            // A talk that breaks off is nothing that a control unit minds.
            drop(talk(stream, &unit, begun).await);
            drop(room);
        });
    }
}

async fn talk(stream: TcpStream, unit: &Mutex<Unit>, begun: Instant) -> io::Result<()> {
    let (read, mut write) = stream.into_split();
    let mut read = BufReader::new(read);
    let mut talk = Talk::default();
    loop {
        let mut line = String::new();
        let got = (&mut read).take(LONGEST_LINE as u64).read_line(&mut line).await?;
        if got == 0 || !line.ends_with('\n') {
            return Ok(());
        }
        let reply = {
            let mut unit = unit.lock().unwrap_or_else(PoisonError::into_inner);
            unit.said(&mut talk, line.trim(), begun.elapsed())
        };
        match reply {
            Reply::Says(answer) => write.write_all(format!("{answer}\n").as_bytes()).await?,
            Reply::HangsUp => return Ok(()),
        }
    }
}
