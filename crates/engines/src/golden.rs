//! Golden jobs: twelve of those that were once decided badly, read as a technician would, and what has to
//! come out of them. The file says of each what was wrong.

use crate::exam::{Exam, Whose};
use crate::population::Shift;
use serde::Deserialize;

const FILE: &str = include_str!("../golden.toml");

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    job: Vec<Golden>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Golden {
    seed: u64,
    /// What is true, in short: the job must still be the one that was read.
    truth: String,
    /// Cylinder by cylinder; "?" is anything but renewing or setting.
    calls: Vec<String>,
    /// What was wrong, and what has to come out.
    reason: String,
}

#[test]
fn the_jobs_that_were_read_one_by_one_come_out_as_a_technician_would_have_it() {
    let file: File = toml::from_str(FILE).unwrap();
    assert_eq!(file.job.len(), 12);
    let exam = Exam::new(&Whose::First(Shift::default()), "").unwrap();
    for golden in file.job {
        let marked = exam.job(golden.seed).unwrap();
        assert_eq!(marked.truth(), golden.truth, "{}", golden.seed);
        assert_eq!(marked.work.calls.len(), golden.calls.len(), "{}", golden.seed);
        for (at, (call, wanted)) in marked.work.calls.iter().zip(&golden.calls).enumerate() {
            let said = format!("{call:?}");
            let fits = if wanted == "?" {
                !["Renew", "Adjust"].contains(&&*said)
            } else {
                said == *wanted
            };
            let reason = &golden.reason;
            assert!(fits, "{}, {}: {said}. {reason}\n{}", golden.seed, at + 1, marked.told());
        }
        assert!(golden.reason.len() > 30);
    }
}
