//! One row for each place, and how often each outcome was seen with each cause.

use cobaltine_engines::exam::Marked;
use cobaltine_engines::fault::At;
use std::collections::BTreeMap;

/// Columns of a place.
pub(super) const HEADING: &str =
    "seed,fuel system,told,named,cylinder,causes,injector,wanted,call,rule,likeliest,odds,stated";

/// The places of one job.
pub(super) fn rows(one: &Marked) -> impl Iterator<Item = String> {
    let fuel = format!("{:?}", one.job.engine.fuel);
    let told: Vec<String> = one.job.symptoms.iter().map(|one| format!("{one:?}")).collect();
    let told = told.join("+");
    let named = &one.job.story.cylinders;
    one.places().enumerate().map(move |(at, truth)| {
        let stated = one.work.stated.iter().filter(|stated| stated.cylinder == at);
        let first = stated.max_by(|a, b| a.odds.total_cmp(&b.odds));
        let (cause, odds) = first.map_or(("", 0.0), |first| (first.cause, first.odds));
        let stated: Vec<String> = one
            .work
            .stated
            .iter()
            .filter(|stated| stated.cylinder == at)
            .map(|stated| format!("{}={:.3}", stated.cause, stated.odds))
            .collect();
        format!(
            "{},{fuel},{told},{},{},{},{:?},{},{:?},{},{cause},{odds:.3},{}",
            one.job.seed,
            match (named.is_empty(), named.contains(&(at as u32 + 1))) {
                (true, _) => "",
                (false, true) => "here",
                (false, false) => "elsewhere",
            },
            at + 1,
            truth.causes.join("+"),
            truth.injector,
            truth.wanted.map_or_else(String::new, |remedy| format!("{remedy:?}")),
            one.work.calls[at],
            one.work.why.get(at).copied().unwrap_or_default(),
            stated.join("+"),
        )
    })
}

/// Outcomes counted by check and cause; `sound` where nothing was put in. Places with two causes are left
/// out: they belong to neither.
#[derive(Debug, Default)]
pub(super) struct Counted(BTreeMap<(String, String, String), u64>);

impl Counted {
    pub(super) fn add(&mut self, one: &Marked) {
        let places: Vec<_> = one.places().map(|truth| truth.causes).collect();
        let shared = &one.job.faults.iter().find(|put| put.fault.at() == At::All);
        for seen in &one.work.seen {
            let causes = match seen.cylinder {
                Some(at) => places.get(at).cloned().unwrap_or_default(),
                None if shared.is_some() => places.first().cloned().unwrap_or_default(),
                None => Vec::new(),
            };
            let cause = match causes[..] {
                [] => "sound",
                [cause] => cause,
                _ => continue,
            };
            let row = (seen.check.clone(), seen.outcome.to_owned(), cause.to_owned());
            *self.0.entry(row).or_default() += 1;
        }
    }

    /// Adds what another run counted; none for a text that is no such table.
    pub(super) fn read(&mut self, text: &str) -> Option<()> {
        for line in text.lines().skip(1) {
            let cells: Vec<&str> = line.split(',').collect();
            let [check, outcome, cause, count] = cells[..] else { return None };
            let row = (check.to_owned(), outcome.to_owned(), cause.to_owned());
            *self.0.entry(row).or_default() += count.parse::<u64>().ok()?;
        }
        Some(())
    }

    pub(super) fn told(&self) -> String {
        let rows = self
            .0
            .iter()
            .map(|((check, outcome, cause), count)| format!("{check},{outcome},{cause},{count}\n"));
        std::iter::once("check,outcome,cause,count\n".to_owned()).chain(rows).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use cobaltine_engines::exam::{Exam, Whose};
    use cobaltine_engines::population::Shift;

    #[test]
    fn counts_of_two_runs_add_up_and_every_place_has_its_row() {
        let exam = Exam::new(&Whose::First(Shift::default()), "").unwrap();
        let marked = exam.job(Exam::seed(3, 8)).unwrap();
        assert_eq!(rows(&marked).count(), marked.work.calls.len());
        let (mut one, mut both) = (Counted::default(), Counted::default());
        one.add(&marked);
        for _ in 0..2 {
            both.read(&one.told()).unwrap();
        }
        let sum = |counted: &Counted| counted.0.values().sum::<u64>();
        assert!(sum(&one) > 0 && sum(&both) == 2 * sum(&one));
        assert_eq!(both.read("check\n1,2\n"), None);
    }
}
