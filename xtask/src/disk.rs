//! A disk that fills up under those who write, and is freed again.

use crate::people::{Answer, Browser};
use crate::running::Running;
use crate::steps::cargo;
use crate::{front_end, shipped};
use anyhow::{Context, bail};
use std::io::Write;
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::Mutex;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::time::{Duration, Instant};

/// Times that the disk is filled, and until writing works once there is room again.
const FILLED: usize = 10;
const AGAIN: Duration = Duration::from_secs(1);

/// `cargo xtask bench disk`: a disk of its own, filled and freed ten times under people who write.
pub(crate) fn disk() -> anyhow::Result<()> {
    front_end::build()?;
    cargo(crate::SHIPPED)?;
    let folder = std::env::temp_dir().join(format!("cobaltine-disk-{}", std::process::id()));
    std::fs::create_dir_all(&folder)?;
    // A disk in memory, seen by this command alone: no right of this machine is needed.
    let inside = Command::new("unshare")
        .args(["--map-root-user", "--mount"])
        .arg(std::env::current_exe()?)
        .args(["bench", "disk-inside"])
        .arg(&folder)
        .status()
        .context("this needs unshare and a kernel that lets it mount")?;
    let _ = std::fs::remove_dir_all(&folder);
    if !inside.success() {
        bail!("the disk was not survived");
    }
    Ok(())
}

/// The same inside: the folder is a disk of 160 MB.
pub(crate) fn disk_inside(folder: &Path) -> anyhow::Result<()> {
    let mount = ["-t", "tmpfs", "-o", "size=160m", "tmpfs"];
    if !Command::new("mount").args(mount).arg(folder).status()?.success() {
        bail!("no disk could be mounted");
    }
    let (data, log) = (folder.join("data"), std::env::temp_dir().join("cobaltine-disk.log"));
    let running = Running::start(&["demo", "--jobs", "200"], &data, &log)?;
    let host = running.host;
    let (over, kept) = (AtomicBool::new(false), Mutex::new(Vec::new()));
    let (wrong, last) = (Mutex::new(Vec::new()), AtomicU64::new(0));
    let begun = Instant::now();
    std::thread::scope(|scope| -> anyhow::Result<()> {
        for number in 0..8 {
            let (over, kept, wrong, last) = (&over, &kept, &wrong, &last);
            scope.spawn(move || {
                while !over.load(Ordering::Relaxed) {
                    if let Err(error) = writes(host, number, over, kept, (last, begun)) {
                        let mut wrong = wrong.lock().unwrap_or_else(|held| held.into_inner());
                        wrong.push(error.to_string());
                    }
                }
            });
        }
        let filled = fills(folder, (&last, begun));
        over.store(true, Ordering::Relaxed);
        filled
    })?;
    running.end()?;
    let out = Command::new(shipped()).args(["export-workshop", "--data"]).arg(&data).output()?;
    let all = String::from_utf8_lossy(&out.stdout);
    let kept = kept.into_inner().unwrap_or_default();
    let lost = kept.iter().filter(|id: &&String| !all.contains(id.as_str())).count();
    println!("{} readings acknowledged, {lost} lost", kept.len());
    let wrong = wrong.into_inner().unwrap_or_default();
    println!("answers that were no refusal for want of room: {:?}", &wrong[..wrong.len().min(3)]);
    let checked = Command::new(shipped()).args(["check", "--data"]).arg(&data).status()?;
    if lost > 0 || !wrong.is_empty() || !checked.success() {
        bail!("nothing acknowledged may be lost");
    }
    Ok(())
}

/// Writes one reading after the other; what is acknowledged is remembered with when that was.
fn writes(
    host: SocketAddr,
    number: u16,
    over: &AtomicBool,
    kept: &Mutex<Vec<String>>,
    (last, begun): (&AtomicU64, Instant),
) -> anyhow::Result<()> {
    let mut person = Browser::new(host, 200 + number);
    person.at_bench()?;
    let refused = |answer: &Answer| {
        let full = answer.status == 503 && ["disk_full", "disk"].contains(&answer.field("code"));
        if full { Ok(()) } else { Err(anyhow::anyhow!("{} {}", answer.status, answer.body)) }
    };
    // A job may have to wait for room as well.
    let test = loop {
        match person.books(&format!("Winch {number}")) {
            Ok((_, test)) => break test,
            Err(error) if error.to_string().contains("503") => {
                std::thread::sleep(Duration::from_millis(20));
            }
            Err(error) => return Err(error),
        }
        if over.load(Ordering::Relaxed) {
            return Ok(());
        }
    };
    let mut runs = 0;
    while !over.load(Ordering::Relaxed) && runs < 12 {
        let (run, answer) = person.begins(&test)?;
        if answer.status != 200 {
            refused(&answer)?;
            std::thread::sleep(Duration::from_millis(20));
            continue;
        }
        runs += 1;
        for cylinder in 1..=4 {
            let (reading, answer) = person.reads(&run, cylinder)?;
            if answer.status == 200 {
                last.store(begun.elapsed().as_micros() as u64, Ordering::Relaxed);
                kept.lock().unwrap_or_else(|held| held.into_inner()).push(reading);
            } else {
                refused(&answer)?;
                std::thread::sleep(Duration::from_millis(20));
            }
        }
    }
    Ok(())
}

/// Fills the disk and frees it, ten times; how long it takes until writing works again.
fn fills(folder: &Path, (last, begun): (&AtomicU64, Instant)) -> anyhow::Result<()> {
    let fill: PathBuf = folder.join("fill");
    let mut longest = Duration::ZERO;
    for _ in 0..FILLED {
        std::thread::sleep(Duration::from_secs(1));
        let mut file = std::fs::File::create(&fill)?;
        // In ever smaller pieces, to the last byte, for as long as others write.
        let full = Instant::now();
        while full.elapsed() < Duration::from_secs(2) {
            for size in [1 << 20, 1 << 12, 1] {
                while file.write_all(&vec![b'x'; size]).is_ok() {}
            }
        }
        let stopped = last.load(Ordering::Relaxed);
        std::thread::sleep(Duration::from_millis(200));
        if last.load(Ordering::Relaxed) != stopped {
            bail!("the disk was not full");
        }
        drop(file);
        std::fs::remove_file(&fill)?;
        let freed = Instant::now();
        while last.load(Ordering::Relaxed) == stopped {
            if freed.elapsed() > 10 * AGAIN {
                bail!("nothing could be written 10 s after there was room again");
            }
            std::thread::sleep(Duration::from_millis(1));
        }
        longest = longest.max(freed.elapsed());
    }
    println!(
        "filled {FILLED} times in {:.0?}; writing works again after {longest:.0?} at most",
        begun.elapsed()
    );
    if longest > AGAIN {
        bail!("writing has to work again within {AGAIN:?}");
    }
    Ok(())
}
