//! `cobaltine score`: made-up engines with known faults, and how every technician does on them.
//!
//! A folder gets one row for each job (`jobs.csv`) and for each place (`places.csv`), how often each outcome
//! of a check was seen with each cause (`seen.csv`: what the tables of the weights could say), the sums of stated odds (`odds.csv`), a page with
//! pictures (`report.html`) and the jobs worth reading (`worst.jsonl`, a workshop file). Runs of other
//! seeds or machines are put together by `score-merge`.

mod places;
mod report;
mod rows;

use crate::words;
use anyhow::Context;
use cobaltine_core::record::JobFile;
use cobaltine_engines::exam::{Exam, Marked, Results, Whose};
use cobaltine_engines::population::Shift;
use rayon::prelude::*;
use std::fs::File;
use std::io::{BufWriter, Write};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Instant;

/// Jobs that are done at once: results are written in their order, and none is kept longer.
const AT_ONCE: u64 = 256;
/// Jobs that are listed to be read.
const WORST: usize = 50;

/// What is asked for.
#[derive(Debug, clap::Args)]
pub(crate) struct Asked {
    /// How many jobs.
    #[arg(long, default_value_t = 1000)]
    pub jobs: u64,
    /// Seed of the run: the same one makes the same jobs on any machine.
    #[arg(long, default_value_t = 1)]
    pub seed: u64,
    /// The first job of the run, for one that is split over machines.
    #[arg(long, default_value_t = 0)]
    pub from: u64,
    /// File that shifts the population (TOML): `people = 3.0`, `[faults] guide = 2.0`.
    #[arg(long)]
    pub shift: Option<PathBuf>,
    /// Who comes in: the first population, the second (never tuned on), or the second with people who err.
    #[arg(long, value_enum, default_value_t = People::First)]
    pub people: People,
    /// A workshop's own rows, laid over the shipped weights: how they would have done.
    #[arg(long)]
    pub weights: Option<PathBuf>,
    /// Tell how one job was done, by its seed as in jobs.csv, and run nothing else.
    #[arg(long)]
    pub explain: Option<u64>,
    /// Folder that the results are written to.
    #[arg(long, default_value = "score")]
    pub out: PathBuf,
}

/// Who comes in and who reads.
#[derive(Debug, Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
pub(crate) enum People {
    First,
    Second,
    SecondErring,
}

impl Asked {
    fn whose(&self) -> anyhow::Result<Whose> {
        Ok(match self.people {
            People::First => Whose::First(shift(self.shift.as_deref())?),
            People::Second => Whose::Second,
            People::SecondErring => Whose::SecondErring,
        })
    }
}

/// A job worth reading.
pub(crate) struct Bad {
    pub worth: f64,
    pub seed: u64,
    pub truth: String,
    pub file: JobFile,
}

/// Runs until all jobs are done, or until `stop` is set: what was done by then is written.
pub(crate) fn run(asked: &Asked, stop: &Arc<AtomicBool>) -> anyhow::Result<()> {
    let own_rows = asked.weights.as_deref().map_or(Ok(String::new()), held)?;
    let exam = Exam::new(&asked.whose()?, &own_rows)?;
    if let Some(seed) = asked.explain {
        print!("{}", exam.job(seed)?.told());
        return Ok(());
    }
    let names = exam.names();
    std::fs::create_dir_all(&asked.out)?;
    let mut table = BufWriter::new(File::create(asked.out.join("jobs.csv"))?);
    writeln!(table, "{}", rows::heading(&names))?;
    let mut places = BufWriter::new(File::create(asked.out.join("places.csv"))?);
    writeln!(places, "{}", places::HEADING)?;
    let mut seen = places::Counted::default();
    let mut results = Results::of(names.len());
    let mut worst: Vec<Bad> = Vec::new();
    let began = Instant::now();
    let mut done = 0;
    while done < asked.jobs && !stop.load(Ordering::Relaxed) {
        let now = AT_ONCE.min(asked.jobs - done);
        let first = asked.from + done;
        let marked: Vec<Marked> = (first..first + now)
            .into_par_iter()
            .map(|nth| exam.job(Exam::seed(asked.seed, nth)))
            .collect::<Result<_, _>>()?;
        for one in marked {
            writeln!(table, "{}", rows::row(&one))?;
            places::rows(&one).try_for_each(|row| writeln!(places, "{row}"))?;
            seen.add(&one);
            results.add(&one.scores, &one.calibration);
            keep_worst(&mut worst, one);
        }
        done += now;
        let spent = began.elapsed().as_secs_f64();
        let left = spent / done as f64 * (asked.jobs - done) as f64;
        eprint!("\r{}", words::jobs_done(done, asked.jobs, left.ceil()));
    }
    eprintln!();
    table.flush()?;
    places.flush()?;
    std::fs::write(asked.out.join("seen.csv"), seen.told())?;
    std::fs::write(asked.out.join("odds.csv"), rows::odds(&results.calibration))?;
    finish(&asked.out, &names, &results, &worst, done, began.elapsed().as_secs_f64())
}

/// Puts the results of several folders together into one.
pub(crate) fn merge(folders: &[PathBuf], out: &Path) -> anyhow::Result<()> {
    let exam = Exam::new(&Whose::First(Shift::default()), "")?;
    let names = exam.names();
    let mut results = Results::of(names.len());
    std::fs::create_dir_all(out)?;
    let mut table = BufWriter::new(File::create(out.join("jobs.csv"))?);
    writeln!(table, "{}", rows::heading(&names))?;
    let mut places = BufWriter::new(File::create(out.join("places.csv"))?);
    writeln!(places, "{}", places::HEADING)?;
    let mut seen = places::Counted::default();
    let mut jobs = 0;
    for folder in folders {
        for line in held(&folder.join("jobs.csv"))?.lines().skip(1) {
            let scores = rows::read(line, names.len())
                .with_context(|| words::not_score_row(folder.display()))?;
            writeln!(table, "{line}")?;
            results.add(&scores, &cobaltine_engines::score::Calibration::default());
            jobs += 1;
        }
        let odds = rows::read_odds(&held(&folder.join("odds.csv"))?)
            .with_context(|| words::not_score_row(folder.display()))?;
        results.calibration.merge(&odds);
        for line in held(&folder.join("places.csv"))?.lines().skip(1) {
            writeln!(places, "{line}")?;
        }
        seen.read(&held(&folder.join("seen.csv"))?)
            .with_context(|| words::not_score_row(folder.display()))?;
    }
    table.flush()?;
    places.flush()?;
    std::fs::write(out.join("seen.csv"), seen.told())?;
    std::fs::write(out.join("odds.csv"), rows::odds(&results.calibration))?;
    finish(out, &names, &results, &[], jobs, 0.0)
}

fn finish(
    out: &Path,
    names: &[&str],
    results: &Results,
    worst: &[Bad],
    jobs: u64,
    seconds: f64,
) -> anyhow::Result<()> {
    std::fs::write(out.join("report.html"), report::page(names, results, worst, jobs))?;
    if !worst.is_empty() {
        let mut file = BufWriter::new(File::create(out.join("worst.jsonl"))?);
        for line in rows::workshop(worst)? {
            writeln!(file, "{line}")?;
        }
        file.flush()?;
    }
    print!("{}", report::table(names, results));
    println!("{}", words::score_written(jobs, seconds, out.display()));
    Ok(())
}

fn shift(path: Option<&Path>) -> anyhow::Result<Shift> {
    let Some(path) = path else { return Ok(Shift::default()) };
    toml::from_str(&held(path)?).with_context(|| words::not_shift_file(path.display()))
}

fn held(path: &Path) -> anyhow::Result<String> {
    std::fs::read_to_string(path).with_context(|| format!("{} cannot be read", path.display()))
}

fn keep_worst(worst: &mut Vec<Bad>, one: Marked) {
    let worth = one.worth_reading();
    let least = worst.last().map_or(0.0, |held| held.worth);
    if worth <= 0.0 || (worst.len() == WORST && worth <= least) {
        return;
    }
    let at = worst.partition_point(|held| held.worth >= worth);
    let bad = Bad { worth, seed: one.job.seed, truth: one.truth(), file: one.file };
    worst.insert(at, bad);
    worst.truncate(WORST);
}
