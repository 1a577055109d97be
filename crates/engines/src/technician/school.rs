//! Technicians who follow one school each, with the same hands and the same instruments.
//!
//! # Source
//! The file `schools.toml`, row by row with its reason.

use super::{Call, Work};
use crate::engine::MadeEngine;
use crate::population::{MadeJob, PersonRow};
use crate::reading::{Reads, RunLevel, hand};
use cobaltine_core::tests::bench::BenchTest;
use cobaltine_core::tests::engine::EngineTest;
use serde::Deserialize;
use thiserror::Error;

/// The file that ships with the program.
pub const SHIPPED: &str = include_str!("../../schools.toml");

/// A file that cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("schools file: {0}")]
pub struct SchoolsError(String);

/// One school.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct School {
    /// As called.
    pub name: String,
    diesel: Option<Ground>,
    petrol: Option<Ground>,
    /// Why it does so.
    pub reason: String,
}

#[derive(Debug, Clone, Copy, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
struct Ground {
    rule: Rule,
    at: f64,
    runs: u64,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Rule {
    Others,
    Lowest,
    Limit,
    Drop,
    Ohms,
    Flow,
    Worst,
    Age,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    school: Vec<School>,
}

/// Every school of the file.
///
/// # Errors
/// A file that cannot be used.
pub fn schools(text: &str) -> Result<Vec<School>, SchoolsError> {
    let file: File = toml::from_str(text).map_err(|error| SchoolsError(error.to_string()))?;
    Ok(file.school)
}

impl School {
    /// Does a job by this school alone; nothing is decided where it has no ground.
    pub fn follow(&self, job: &MadeJob, person: &PersonRow) -> Work {
        let engine = &job.engine;
        let mut work = Work { calls: vec![Call::Undecided; engine.seats.len()], ..Work::default() };
        let ground = if engine.is_diesel() { self.diesel } else { self.petrol };
        let Some(ground) = ground else { return work };
        let mut at = At { engine, job, person, work: &mut work };
        at.judge(ground);
        work
    }

    /// It has a ground on such an engine.
    pub fn speaks(&self, engine: &MadeEngine) -> bool {
        if engine.is_diesel() { self.diesel.is_some() } else { self.petrol.is_some() }
    }
}

struct At<'a> {
    engine: &'a MadeEngine,
    job: &'a MadeJob,
    person: &'a PersonRow,
    work: &'a mut Work,
}

impl At<'_> {
    fn hand(&self) -> Box<dyn Reads + '_> {
        hand(self.job, self.engine, self.person)
    }

    fn took(&mut self, minutes: f64, what: &'static str) {
        self.work.minutes += minutes;
        self.work.done.push(what);
    }

    /// What it compares: returned ml/min, or what drops in kPa; none where the engine has neither.
    fn compared(&mut self, runs: u64) -> Option<Vec<f64>> {
        if self.engine.is_diesel() {
            let mut sums = vec![0.0; self.engine.seats.len()];
            for nth in 0..runs {
                let run = self.hand().returned(nth, 120.0, false);
                for (sum, level) in sums.iter_mut().zip(&run.levels) {
                    *sum += match level {
                        RunLevel::Level(ml) => ml / run.seconds * 60.0,
                        RunLevel::FullAfter(seconds) => 100.0 / seconds.max(1.0) * 60.0,
                    } / runs as f64;
                }
            }
            self.took(25.0 + 6.0 * (runs - 1) as f64, "return_test");
            return Some(sums);
        }
        let check = EngineTest::PressureDrop;
        if !check.fits(self.engine.fuel) {
            return None;
        }
        let read = self.hand().sheet(check, 0, &[])?;
        self.took(20.0, "pressure_drop");
        let cell = |name: &str| -> Vec<f64> {
            read.each.iter().filter(|one| one.0 == name).map(|one| one.2).collect()
        };
        let (start, end) = (cell("start"), cell("end"));
        Some(start.iter().zip(&end).map(|(start, end)| start - end).collect())
    }

    fn judge(&mut self, ground: Ground) {
        let calls = match ground.rule {
            Rule::Others => self.compared(ground.runs).map(|values| others(&values, ground.at)),
            Rule::Lowest => self.compared(ground.runs).map(|values| {
                let least = values.iter().copied().fold(f64::INFINITY, f64::min).max(0.5);
                over(&values, least * ground.at)
            }),
            Rule::Limit => {
                let limit = self.job.return_limit;
                self.compared(ground.runs).zip(limit).map(|(values, limit)| over(&values, limit))
            }
            Rule::Drop => self.compared(ground.runs).map(|values| {
                let mean = values.iter().sum::<f64>() / values.len() as f64;
                values
                    .iter()
                    .map(|value| match value - mean {
                        more if more > ground.at => Call::Renew,
                        less if less < -ground.at => Call::Clean,
                        _ => Call::Leave,
                    })
                    .collect()
            }),
            Rule::Worst => self.compared(ground.runs).map(|values| worst(&values, ground.at)),
            Rule::Age if self.job.hours > ground.at => {
                self.took(10.0, "age");
                Some(vec![Call::Renew; self.engine.seats.len()])
            }
            Rule::Age => self.compared(ground.runs).map(|values| worst(&values, 0.3)),
            Rule::Ohms => Some(self.ohms(ground.at)),
            Rule::Flow => Some(self.flow(ground.at)),
        };
        if let Some(calls) = calls {
            self.work.calls = calls;
        }
    }

    /// Lamp or wires first, then the coil against the middle of the set.
    fn ohms(&mut self, share: f64) -> Vec<Call> {
        let fuel = self.engine.fuel;
        let mut calls = vec![Call::Leave; self.engine.seats.len()];
        if EngineTest::Indicator.fits(fuel) {
            let read = self.hand().sheet(EngineTest::Indicator, 0, &[]).unwrap_or_default();
            self.took(6.0, "indicator");
            for (_, cylinder, lit) in read.each.iter().filter(|one| one.0 == "lamp") {
                if *lit == 0.0 {
                    calls[*cylinder as usize - 1] = Call::Harness;
                }
            }
        }
        let (check, cell) = if EngineTest::CoilResistance.fits(fuel) {
            (EngineTest::CoilResistance, "ohms")
        } else {
            (EngineTest::PiezoStack, "microfarads")
        };
        let read = self.hand().sheet(check, 0, &[]).unwrap_or_default();
        self.took(8.0, check.name());
        let values: Vec<f64> =
            read.each.iter().filter(|one| one.0 == cell).map(|one| one.2).collect();
        let middle = median(&values);
        for (at, value) in values.iter().enumerate() {
            if (value / middle - 1.0).abs() > share && calls[at] == Call::Leave {
                calls[at] = Call::Renew;
            }
        }
        calls
    }

    /// All out and cleaned; what is off afterwards is renewed.
    fn flow(&mut self, share: f64) -> Vec<Call> {
        let cleaned = MadeEngine {
            injectors: self.engine.injectors.iter().map(|one| one.cleaned(0.9)).collect(),
            ..self.engine.clone()
        };
        let read = hand(self.job, &cleaned, self.person).on_bench(0);
        self.took(45.0 + 60.0 + 45.0, "bench");
        let (test, cell, row) = if self.engine.is_diesel() {
            (BenchTest::Map, "delivered", Some(4))
        } else {
            (BenchTest::Flow, "volume", Some(6))
        };
        let values: Vec<f64> = read
            .iter()
            .filter(|one| one.test == test && one.cell == cell && one.row == row)
            .map(|one| one.value)
            .collect();
        if values.is_empty() {
            return vec![Call::Clean; self.engine.seats.len()];
        }
        let middle = median(&values).max(0.1);
        let call = |value: &f64| {
            if (value / middle - 1.0).abs() > share { Call::Renew } else { Call::Clean }
        };
        values.iter().map(call).collect()
    }
}

fn median(values: &[f64]) -> f64 {
    let mut sorted = values.to_vec();
    sorted.sort_by(f64::total_cmp);
    sorted.get(sorted.len() / 2).copied().unwrap_or(1.0)
}

fn over(values: &[f64], limit: f64) -> Vec<Call> {
    values.iter().map(|value| if *value > limit { Call::Renew } else { Call::Leave }).collect()
}

/// Against the mean of the others.
fn off_others(values: &[f64]) -> Vec<f64> {
    let sum: f64 = values.iter().sum();
    let rest = (values.len() as f64 - 1.0).max(1.0);
    values.iter().map(|value| value / ((sum - value) / rest).max(0.1) - 1.0).collect()
}

fn others(values: &[f64], share: f64) -> Vec<Call> {
    if values.len() < 2 {
        return vec![Call::Undecided; values.len()];
    }
    off_others(values)
        .into_iter()
        .map(|off| match off {
            more if more > share => Call::Renew,
            less if less < -share => Call::Clean,
            _ => Call::Leave,
        })
        .collect()
}

fn worst(values: &[f64], share: f64) -> Vec<Call> {
    let mut calls = vec![Call::Leave; values.len()];
    let off = off_others(values);
    let at = (0..off.len()).max_by(|a, b| off[*a].abs().total_cmp(&off[*b].abs()));
    if let Some(at) = at.filter(|at| off[*at].abs() > share) {
        calls[at] = Call::Renew;
    }
    calls
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::population::Population;

    #[test]
    fn each_school_does_as_its_row_says() {
        let all = schools(SHIPPED).unwrap();
        assert_eq!(all.len(), 9);
        assert_eq!(
            others(&[20.0, 20.0, 30.0, 13.0], 0.30),
            [Call::Leave, Call::Leave, Call::Renew, Call::Clean]
        );
        assert_eq!(worst(&[20.0, 26.0, 20.0], 0.1), [Call::Leave, Call::Renew, Call::Leave]);
        assert_eq!(over(&[10.0, 31.0], 30.0), [Call::Leave, Call::Renew]);
        let people = Population::shipped().unwrap();
        let job = (0..).map(|seed| people.job(seed)).find(|job| job.engine.is_diesel()).unwrap();
        for school in &all {
            let work = school.follow(&job, &people.person);
            let silent = work.calls.iter().all(|call| *call == Call::Undecided);
            let limited = school.name.contains("limit") && job.return_limit.is_none();
            assert_eq!(silent, !school.speaks(&job.engine) || limited, "{}", school.name);
        }
    }
}
