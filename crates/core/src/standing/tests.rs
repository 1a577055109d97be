//! Untidy jobs, told in a script (`untidy.txt`): facts, then what counts, the marks, and what is said of
//! them. `UNTIDY=write cargo test --workspace --lib untidy` writes the answers anew, to be read one by one.

mod laws;
mod readers;
mod script;

use script::{Script, told};

const JOBS: &str = include_str!("tests/untidy.txt");

#[test]
fn sixty_untidy_jobs_say_what_counts_and_no_two_sentences_contradict() {
    let jobs: Vec<&str> =
        JOBS.split("\n\n").filter(|job| job.trim_start().starts_with('#')).collect();
    assert!(jobs.len() >= 60, "{} jobs", jobs.len());
    let mut written = String::new();
    let mut differ = Vec::new();
    for job in jobs {
        let facts: Vec<&str> = job.lines().filter(|line| !line.starts_with('=')).collect();
        let wanted: Vec<&str> = job.lines().filter(|line| line.starts_with('=')).collect();
        let mut script = Script::default();
        facts[1..].iter().for_each(|line| script.does(line));
        let said = told(&script.file);
        if said != wanted {
            differ.push(format!("{}\n{}", facts.join("\n"), said.join("\n")));
        }
        written.push_str(&format!("{}\n{}\n\n", facts.join("\n"), said.join("\n")));
    }
    if std::env::var("UNTIDY").is_ok_and(|how| how == "write") {
        let path = concat!(env!("CARGO_MANIFEST_DIR"), "/src/standing/tests/untidy.txt");
        std::fs::write(path, written).unwrap();
        return;
    }
    assert!(differ.is_empty(), "{}", differ.join("\n\n"));
}
