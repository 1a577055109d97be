//! A line between the browser and the program that can be cut after the program has done what was
//! asked: the answer is lost, what was done is not.

use std::io::{Read, Write};
use std::net::{Shutdown, SocketAddr, TcpListener, TcpStream};
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::thread;

/// The line. It ends with the test.
#[derive(Debug)]
pub struct Cutter {
    /// Where the browser goes, without a slash at the end.
    pub address: String,
    left: Arc<AtomicUsize>,
}

impl Cutter {
    /// Stands before the program at this address.
    ///
    /// # Errors
    /// When no port is free or the address cannot be read.
    pub fn before(program: &str) -> anyhow::Result<Self> {
        let program: SocketAddr = program.trim_start_matches("http://").parse()?;
        let listener = TcpListener::bind("127.0.0.1:0")?;
        let address = format!("http://{}", listener.local_addr()?);
        let left = Arc::new(AtomicUsize::new(0));
        let cuts = Arc::clone(&left);
        thread::spawn(move || {
            for page in listener.incoming().flatten() {
                let cuts = Arc::clone(&cuts);
                thread::spawn(move || pass(page, program, &cuts));
            }
        });
        Ok(Self { address, left })
    }

    /// The answers to so many commands from now on are lost.
    pub fn lose(&self, answers: usize) {
        self.left.store(answers, Ordering::SeqCst);
    }

    /// Answers that are still to be lost.
    pub fn left(&self) -> usize {
        self.left.load(Ordering::SeqCst)
    }
}

/// Passes one connection on until either side ends it, or it is cut.
fn pass(mut page: TcpStream, program: SocketAddr, cuts: &AtomicUsize) {
    let Ok(mut there) = TcpStream::connect(program) else { return };
    let (Ok(mut answers), Ok(mut back)) = (there.try_clone(), page.try_clone()) else { return };
    let cut = Arc::new(AtomicUsize::new(0));
    let told = Arc::clone(&cut);
    let answering = thread::spawn(move || {
        let mut bytes = [0; 16 * 1024];
        while let Ok(n @ 1..) = answers.read(&mut bytes) {
            // The first byte of the answer says that it is done.
            if told.load(Ordering::SeqCst) > 0 || back.write_all(&bytes[..n]).is_err() {
                break;
            }
        }
        let _ = back.shutdown(Shutdown::Both);
        let _ = answers.shutdown(Shutdown::Both);
    });
    let mut bytes = [0; 16 * 1024];
    while let Ok(n @ 1..) = page.read(&mut bytes) {
        let head = String::from_utf8_lossy(&bytes[..n.min(2048)]).to_lowercase();
        let command = head.contains("idempotency-key:");
        let loses = |left: usize| left.checked_sub(1);
        if command && cuts.fetch_update(Ordering::SeqCst, Ordering::SeqCst, loses).is_ok() {
            cut.store(1, Ordering::SeqCst);
        }
        if there.write_all(&bytes[..n]).is_err() {
            break;
        }
    }
    let _ = there.shutdown(Shutdown::Write);
    let _ = answering.join();
}
