//! Stand-ins on a port of this machine.

use crate::instrument::{Device, Said};
use crate::unit::{Reply, Talk, Unit};
use cobaltine_core::instrument_link;
use cobaltine_core::unit_link::LONGEST_LINE;
use std::io;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Instant;
use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::tcp::OwnedReadHalf;
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
    let begun = Instant::now();
    talks(listener, move |stream| talk_of_unit(stream, Arc::clone(&unit), begun)).await
}

/// Speaks for an instrument until the listener fails.
///
/// # Errors
/// When the listener fails.
pub async fn serve_device(listener: TcpListener, device: Device) -> io::Result<()> {
    let device = Arc::new(Mutex::new(device));
    let begun = Instant::now();
    talks(listener, move |stream| talk_of_device(stream, Arc::clone(&device), begun)).await
}

/// Takes on talks, a bounded number at once.
async fn talks<T>(listener: TcpListener, talk: impl Fn(TcpStream) -> T) -> io::Result<()>
where
    T: Future<Output = io::Result<()>> + Send + 'static,
{
    let talks = Arc::new(Semaphore::new(TALKS));
    loop {
        let (stream, _) = listener.accept().await?;
        let Ok(room) = Arc::clone(&talks).try_acquire_owned() else { continue };
        let talk = talk(stream);
        tokio::spawn(async move {
            // A talk that breaks off is nothing that a device minds.
            drop(talk.await);
            drop(room);
        });
    }
}

/// A line with its end; none where the talk is over or a line is too long.
async fn line(read: &mut BufReader<OwnedReadHalf>, longest: usize) -> io::Result<Option<String>> {
    let mut line = String::new();
    let got = read.take(longest as u64).read_line(&mut line).await?;
    Ok((got > 0 && line.ends_with('\n')).then(|| line.trim().to_owned()))
}

async fn talk_of_unit(stream: TcpStream, unit: Arc<Mutex<Unit>>, begun: Instant) -> io::Result<()> {
    let (read, mut write) = stream.into_split();
    let mut read = BufReader::new(read);
    let mut talk = Talk::default();
    while let Some(line) = line(&mut read, LONGEST_LINE).await? {
        let reply = {
            let mut unit = unit.lock().unwrap_or_else(PoisonError::into_inner);
            unit.said(&mut talk, &line, begun.elapsed())
        };
        match reply {
            Reply::Says(answer) => write.write_all(format!("{answer}\n").as_bytes()).await?,
            Reply::HangsUp => return Ok(()),
        }
    }
    Ok(())
}

async fn talk_of_device(
    stream: TcpStream,
    device: Arc<Mutex<Device>>,
    begun: Instant,
) -> io::Result<()> {
    stream.set_nodelay(true)?;
    let (read, mut write) = stream.into_split();
    let mut read = BufReader::new(read);
    while let Some(line) = line(&mut read, instrument_link::LONGEST_LINE).await? {
        let (said, delay) = {
            let mut device = device.lock().unwrap_or_else(PoisonError::into_inner);
            (device.said(&line, begun.elapsed()), device.delay())
        };
        tokio::time::sleep(delay).await;
        match said {
            Said::Nothing => {}
            Said::Line(line) => write.write_all(format!("{line}\n").as_bytes()).await?,
            Said::Bytes(bytes) => write.write_all(&bytes).await?,
            Said::Breaks(bytes) => return write.write_all(&bytes).await,
        }
    }
    Ok(())
}
