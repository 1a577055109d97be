//! One row for each place, and how often each outcome was seen with each cause.

use cobaltine_engines::exam::Marked;
use cobaltine_engines::fault::At;
use std::collections::BTreeMap;

/// Columns of a place.
pub(super) const HEADING: &str =
    "seed,fuel system,told,named,cylinder,causes,injector,wanted,call,rule,likeliest,odds";

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
        format!(
            "{},{fuel},{told},{},{},{},{:?},{},{:?},{},{cause},{odds:.3}",
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
        )
    })
}

/// Outcomes counted by check and cause; `sound` where nothing was put in. Places with two causes are left
/// out: they belong to neither.
#[derive(Debug, Default)]
pub(super) struct Counted(BTreeMap<(String, &'static str, &'static str), u64>);

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
            *self.0.entry((seen.check.clone(), seen.outcome, cause)).or_default() += 1;
        }
    }

    pub(super) fn told(&self) -> String {
        let rows = self
            .0
            .iter()
            .map(|((check, outcome, cause), count)| format!("{check},{outcome},{cause},{count}\n"));
        std::iter::once("check,outcome,cause,count\n".to_owned()).chain(rows).collect()
    }
}
