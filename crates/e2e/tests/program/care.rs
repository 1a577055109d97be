//! Looking after a folder from the command line, as whoever is called on a bad day does.

use crate::cobaltine;
use cobaltine_e2e::Program;
use std::fs;

fn said(out: &std::process::Output) -> String {
    format!("{}{}", String::from_utf8_lossy(&out.stdout), String::from_utf8_lossy(&out.stderr))
}

#[test]
fn a_backup_of_a_workshop_that_is_open_restores_to_the_same_workshop() -> anyhow::Result<()> {
    let mut program = Program::demo()?;
    let data = program.data.path().to_owned();
    let folder = data.to_str().unwrap_or_default();
    let other = tempfile::tempdir()?;
    let (backups, fresh) = (other.path().join("backups"), other.path().join("fresh"));
    let words = ["backup", "--data", folder, "--to", backups.to_str().unwrap_or_default()];
    let made = cobaltine(&words, &data, "")?;
    assert!(made.status.success() && said(&made).contains("checked"), "{}", said(&made));
    let checked = cobaltine(&["check", "--data", folder], &data, "")?;
    assert!(checked.status.success(), "while it is open: {}", said(&checked));
    let doctor = ["doctor", "--data", folder, "--backups", backups.to_str().unwrap_or_default()];
    let told = said(&cobaltine(&doctor, &data, "")?);
    for line in ["SQLite 3.", "Room on the disk", "Clock", "Last backup", "nothing wrong"] {
        assert!(told.contains(line), "{line}: {told}");
    }
    assert!(program.end()?);

    let backup = fs::read_dir(&backups)?.next().unwrap_or_else(|| unreachable!())?.path();
    let target = fresh.to_str().unwrap_or_default();
    let restore = ["restore", "--backup", backup.to_str().unwrap_or_default(), "--data", target];
    let restored = cobaltine(&restore, &data, "")?;
    assert!(restored.status.success(), "{}", said(&restored));
    let all = |folder: &str| cobaltine(&["export-workshop", "--data", folder], &data, "");
    assert!(all(folder)?.stdout == all(target)?.stdout, "the same workshop");
    let again = cobaltine(&restore, &data, "")?;
    assert!(!again.status.success() && said(&again).contains("not empty"), "{}", said(&again));

    // What others can reach needs accounts and TLS; what is open is for this machine.
    let beyond = ["serve", "--data", target, "--listen", "0.0.0.0:0"];
    let refused = said(&cobaltine(&beyond, &data, "")?);
    assert!(refused.contains("--tls-cert"), "{refused}");
    let open = said(&cobaltine(&[&beyond[..], &["--open"]].concat(), &data, "")?);
    assert!(open.contains("--open is for one person on this machine"), "{open}");
    // A bit that fell over: it says so before it serves anything.
    let file = fresh.join("cobaltine.sqlite");
    let mut bytes = fs::read(&file)?;
    let at = bytes.len() / 2;
    bytes[at] ^= 4;
    fs::write(&file, bytes)?;
    let checked = cobaltine(&["check", "--data", target], &data, "")?;
    assert!(!checked.status.success() && said(&checked).contains("not as Cobaltine closed it"));
    let licences = said(&cobaltine(&["licences"], &data, "")?);
    assert!(licences.contains("axum ") && licences.contains("vue "), "crates and packages");
    Ok(())
}
