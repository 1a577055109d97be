//! One row for each job, and the sums of stated odds: files that can be put together again.

use super::Bad;
use cobaltine_core::record::Person;
use cobaltine_engines::exam::Marked;
use cobaltine_engines::score::{Calibration, JobScore, TENTHS};
use cobaltine_store::{WORKSHOP_FORMAT, WORKSHOP_VERSION, WorkshopLine};
use uuid::Uuid;

/// Figures of one technician in a row.
const FIGURES: [&str; 11] = [
    "faults",
    "found",
    "good",
    "condemned",
    "judged",
    "undecided",
    "minutes",
    "cost",
    "comeback",
    "unsafe",
    "loops",
];
/// Cells before those of the technicians.
const BEFORE: usize = 3;

pub(super) fn heading(names: &[&str]) -> String {
    let of = |name: &&str| FIGURES.map(|figure| format!("{name}: {figure}")).join(",");
    let technicians: Vec<String> = names.iter().map(of).collect();
    format!("seed,fuel system,truth,{}", technicians.join(","))
}

pub(super) fn row(one: &Marked) -> String {
    let truth = one.truth().replace(',', "");
    let fuel = format!("{:?}", one.job.engine.fuel);
    let scores: Vec<String> = one.scores.iter().map(cells).collect();
    format!("{},{fuel},{truth},{}", one.job.seed, scores.join(","))
}

fn cells(one: &Option<JobScore>) -> String {
    let Some(one) = one else { return ",".repeat(FIGURES.len() - 1) };
    format!(
        "{},{},{},{},{},{},{:.1},{:.2},{},{},{}",
        one.faults,
        one.found,
        one.good,
        one.condemned,
        one.judged,
        one.undecided,
        one.minutes,
        one.cost,
        u8::from(one.comeback),
        one.unsafe_steps,
        u8::from(one.loops)
    )
}

/// The scores of a row; none for a row that is none.
pub(super) fn read(line: &str, technicians: usize) -> Option<Vec<Option<JobScore>>> {
    let cells: Vec<&str> = line.split(',').collect();
    if cells.len() != BEFORE + technicians * FIGURES.len() {
        return None;
    }
    cells[BEFORE..].chunks(FIGURES.len()).map(one).collect()
}

fn one(cells: &[&str]) -> Option<Option<JobScore>> {
    if cells.iter().all(|cell| cell.is_empty()) {
        return Some(None);
    }
    let count = |at: usize| cells.get(at)?.parse::<u32>().ok();
    Some(Some(JobScore {
        faults: count(0)?,
        found: count(1)?,
        good: count(2)?,
        condemned: count(3)?,
        judged: count(4)?,
        undecided: count(5)?,
        minutes: cells.get(6)?.parse().ok()?,
        cost: cells.get(7)?.parse().ok()?,
        comeback: count(8)? == 1,
        unsafe_steps: count(9)?,
        loops: count(10)? == 1,
    }))
}

/// Tenth by tenth: how many statements, their odds in all, how many were true; then the squares, and the
/// intervals of each quantity with how many held.
pub(super) fn odds(all: &Calibration) -> String {
    let tenths = all.tenths.iter().map(|(count, sum, hits)| format!("{count},{sum},{hits}"));
    let tenths: Vec<String> = tenths.collect();
    let intervals = all.intervals.iter().map(|(count, held)| format!("interval,{count},{held}\n"));
    let intervals: String = intervals.collect();
    format!("statements,stated,true\n{}\nsquares,{},\n{intervals}", tenths.join("\n"), all.squares)
}

pub(super) fn read_odds(text: &str) -> Option<Calibration> {
    let mut all = Calibration::default();
    let mut lines = text.lines().skip(1);
    for at in 0..TENTHS {
        let cells: Vec<&str> = lines.next()?.split(',').collect();
        let [count, sum, hits] = cells[..] else { return None };
        all.tenths[at] = (count.parse().ok()?, sum.parse().ok()?, hits.parse().ok()?);
    }
    all.squares = lines.next()?.split(',').nth(1)?.parse().ok()?;
    for held in &mut all.intervals {
        let cells: Vec<&str> = lines.next()?.split(',').collect();
        let [_, count, inside] = cells[..] else { return None };
        *held = (count.parse().ok()?, inside.parse().ok()?);
    }
    Some(all)
}

/// Jobs as a workshop file: imported, they open in the program.
pub(super) fn workshop(worst: &[Bad]) -> anyhow::Result<Vec<String>> {
    let person = Person::new(Uuid::nil(), "Made-up technician");
    let mut lines = vec![
        WorkshopLine::Workshop { format: WORKSHOP_FORMAT.to_owned(), version: WORKSHOP_VERSION },
        WorkshopLine::Person(person.clone()),
    ];
    lines.extend(worst.iter().map(|bad| {
        let mut file = bad.file.clone();
        file.people = vec![person.clone()];
        WorkshopLine::Job(Box::new(file))
    }));
    lines.push(WorkshopLine::End { lines: lines.len() as u64 });
    Ok(lines.iter().map(serde_json::to_string).collect::<Result<_, _>>()?)
}

#[cfg(test)]
mod tests {
    use super::*;
    use cobaltine_engines::exam::{Exam, Whose};
    use cobaltine_engines::population::Shift;

    #[test]
    fn rows_and_odds_come_back_as_they_were_written() {
        let exam = Exam::new(&Whose::First(Shift::default()), "").unwrap();
        let marked = exam.job(Exam::seed(3, 8)).unwrap();
        let read = read(&row(&marked), exam.names().len()).unwrap();
        for (held, back) in marked.scores.iter().zip(&read) {
            assert_eq!(held.map(|one| (one.found, one.judged)), back.map(|b| (b.found, b.judged)));
        }
        assert_eq!(read_odds(&odds(&marked.calibration)), Some(marked.calibration));
        assert!(super::read("1,2,3", 10).is_none());
    }
}
