//! Looking after a data folder from the command line: backup, restore, check, doctor.

use crate::words;
use anyhow::bail;
use jiff::Timestamp;
use std::io::Write;
use std::path::Path;

/// A certificate for these names and its key, beside each other in the current folder.
pub(crate) fn certificate(names: Vec<String>) -> anyhow::Result<()> {
    let (cert, key) = (Path::new("cobaltine-cert.pem"), Path::new("cobaltine-key.pem"));
    if cert.exists() || key.exists() {
        bail!(words::NOT_OVER_A_KEY);
    }
    let made = rcgen::generate_simple_self_signed(names)?;
    write_private(key, &made.signing_key.serialize_pem())?;
    std::fs::write(cert, made.cert.pem())?;
    println!("{}", words::certificate_made(cert.display(), key.display()));
    Ok(())
}

/// A file that nobody else on this machine reads.
fn write_private(path: &Path, text: &str) -> std::io::Result<()> {
    let mut options = std::fs::OpenOptions::new();
    options.write(true).create_new(true);
    #[cfg(unix)]
    std::os::unix::fs::OpenOptionsExt::mode(&mut options, 0o600);
    options.open(path)?.write_all(text.as_bytes())
}

pub(crate) async fn backup(data: &Path, to: &Path, keep: usize) -> anyhow::Result<()> {
    let made = cobaltine_store::back_up(data, to, keep, Timestamp::now()).await?;
    let (at, says) = (made.path.display(), made.manifest);
    println!("{}", words::backed_up(at, says.jobs, says.rows));
    Ok(())
}

pub(crate) async fn restore(backup: &Path, data: &Path) -> anyhow::Result<()> {
    let says = cobaltine_store::restore(backup, data).await?;
    println!("{}", words::restored(data.display(), says.at, says.jobs));
    Ok(())
}

pub(crate) async fn check(data: &Path, scratch: Option<&Path>) -> anyhow::Result<()> {
    let copy = match scratch {
        Some(scratch) => tempfile::tempdir_in(scratch)?,
        None => tempfile::tempdir()?,
    };
    let found = cobaltine_store::check(data, copy.path(), Timestamp::now()).await?;
    if !found.wrong.is_empty() {
        bail!("{}", found.wrong.join("\n"));
    }
    println!("{}", words::rows_each_written(found.rows, found.jobs));
    Ok(())
}

pub(crate) async fn doctor(data: &Path, backups: Option<&Path>) -> anyhow::Result<()> {
    let usual = data.join("backups");
    let lines = cobaltine_store::doctor(data, backups.unwrap_or(&usual), Timestamp::now()).await?;
    for line in &lines {
        let mark = if line.fine { ' ' } else { '!' };
        println!("{mark} {:<17} {}", line.what, line.found);
    }
    if lines.iter().any(|line| !line.fine) {
        println!("{}", words::LOOK_INTO_THESE);
    }
    Ok(())
}
