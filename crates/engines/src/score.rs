//! How a technician did: every decision against the truth.
//!
//! # Source
//! Brier (1950) for odds, split into reliability and resolution by Murphy (1973).

use crate::fault::Remedy;
use crate::population::MadeJob;
use crate::technician::{Call, Work};
use crate::truth::{State, truth};
use cobaltine_core::rules::{RuleId, Rules};

/// Tenths of stated odds.
pub const TENTHS: usize = 10;

/// Kinds of quantities that are stated with their uncertainty.
pub const QUANTITIES: usize = 3;

/// A place as it is, without its injector.
fn place_remedy(job: &MadeJob, cylinder: usize) -> (State, Option<Remedy>) {
    let place = &job.engine.places[cylinder];
    let off = [
        ((place.leg_ohm - 0.2).max(0.0) / 0.4, Remedy::Harness),
        ((1.0 - place.driver) / 0.25, Remedy::Place),
        ((1.0 - place.line) / 0.12, Remedy::Place),
        ((place.leak_mm2 - 0.35).max(0.0) / 1.2, Remedy::Place),
        (if job.engine.is_diesel() { 0.0 } else { (1.0 - place.spark) / 0.2 }, Remedy::Place),
    ];
    let (off, remedy) =
        off.into_iter().max_by(|a, b| a.0.total_cmp(&b.0)).unwrap_or((0.0, Remedy::Place));
    match off {
        sound if sound <= 1.0 => (State::Sound, None),
        marginal if marginal <= 2.0 => (State::Marginal, Some(remedy)),
        _ => (State::Faulty, Some(remedy)),
    }
}

/// What is to be done at a cylinder, by the injector that came in it.
pub fn wanted(job: &MadeJob, cylinder: usize) -> (State, Option<Remedy>) {
    let injector = truth(&job.engine.injectors[cylinder]);
    let place = place_remedy(job, cylinder);
    if place.0 > injector.state { place } else { (injector.state, injector.remedy) }
}

fn answers(call: Call, remedy: Option<Remedy>) -> bool {
    match remedy {
        None => call == Call::Leave,
        Some(Remedy::Clean) => call == Call::Clean,
        Some(Remedy::Renew) => call == Call::Renew,
        Some(Remedy::Adjust) => call == Call::Adjust,
        Some(Remedy::Recode) => call == Call::Recode,
        Some(Remedy::Harness) => call == Call::Harness,
        Some(Remedy::Place) => call == Call::Elsewhere,
        Some(Remedy::Shared) => false,
    }
}

/// One job of one technician.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct JobScore {
    /// Faults that were there.
    pub faults: u32,
    /// Found, with the right remedy at the right place.
    pub found: u32,
    /// Injectors that are sound.
    pub good: u32,
    /// Of them replaced or reconditioned.
    pub condemned: u32,
    /// Injectors, marginal ones left out.
    pub judged: u32,
    /// Of them not decided.
    pub undecided: u32,
    /// Minutes.
    pub minutes: f64,
    /// Parts and labour by the prices of the house.
    pub cost: f64,
    /// It comes back: a fault was left.
    pub comeback: bool,
    /// Steps that could hurt.
    pub unsafe_steps: u32,
    /// A proposal was made a third time on the same facts.
    pub loops: bool,
}

/// A proposal is made twice at most.
const MOST_PROPOSED: u32 = 2;

/// Scores the work of one job.
pub fn score(job: &MadeJob, work: &Work, rules: &Rules) -> JobScore {
    let mut at = JobScore {
        minutes: work.minutes,
        unsafe_steps: work.unsafe_steps.len() as u32,
        loops: work.proposed > MOST_PROPOSED,
        ..JobScore::default()
    };
    let mut parts = 0.0;
    for (cylinder, call) in work.calls.iter().copied().enumerate() {
        let (state, remedy) = wanted(job, cylinder);
        parts += match call {
            Call::Renew => rules.get(RuleId::CostNew),
            Call::Clean => rules.get(RuleId::CostClean),
            Call::Adjust => rules.get(RuleId::CostRecondition),
            Call::Leave | Call::Recode | Call::Harness | Call::Elsewhere | Call::Undecided => 0.0,
        };
        // An injector that is sound by itself is a good one, whatever is wrong with its place.
        let injector = truth(&job.engine.injectors[cylinder]);
        if injector.state == State::Sound {
            at.good += 1;
            at.condemned += u32::from(matches!(call, Call::Renew | Call::Adjust));
        }
        if state == State::Marginal {
            continue;
        }
        at.judged += 1;
        at.undecided += u32::from(call == Call::Undecided);
        if state == State::Faulty {
            at.faults += 1;
            let right = answers(call, remedy);
            at.found += u32::from(right);
            // A new injector puts right what sits in an injector, dearer than it had to be.
            let dearer = call == Call::Renew
                && matches!(remedy, Some(Remedy::Clean | Remedy::Adjust | Remedy::Recode));
            at.comeback |= !right && !dearer;
        }
    }
    let shared = job.faults.iter().filter(|put| put.fault.at() == crate::fault::At::All).count();
    at.faults += shared as u32;
    let repaired = work.repaired.iter().filter(|(_, there)| *there).count().min(shared);
    at.found += repaired as u32;
    at.comeback |= repaired < shared;
    at.cost = parts + work.minutes / 60.0 * rules.get(RuleId::CostHour);
    at
}

/// All jobs of one technician.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Tally {
    /// Jobs.
    pub jobs: u64,
    /// Sums of each.
    pub sum: Sums,
}

/// Sums over jobs.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Sums {
    /// Faults.
    pub faults: u64,
    /// Found.
    pub found: u64,
    /// Good.
    pub good: u64,
    /// Condemned.
    pub condemned: u64,
    /// Judged.
    pub judged: u64,
    /// Undecided.
    pub undecided: u64,
    /// Minutes.
    pub minutes: f64,
    /// Cost.
    pub cost: f64,
    /// Comebacks.
    pub comebacks: u64,
    /// Unsafe steps.
    pub unsafe_steps: u64,
    /// Jobs in which a proposal was made a third time on the same facts.
    pub loops: u64,
}

impl Tally {
    /// Adds a job.
    pub fn add(&mut self, one: &JobScore) {
        self.jobs += 1;
        let sum = &mut self.sum;
        sum.faults += u64::from(one.faults);
        sum.found += u64::from(one.found);
        sum.good += u64::from(one.good);
        sum.condemned += u64::from(one.condemned);
        sum.judged += u64::from(one.judged);
        sum.undecided += u64::from(one.undecided);
        sum.minutes += one.minutes;
        sum.cost += one.cost;
        sum.comebacks += u64::from(one.comeback);
        sum.unsafe_steps += u64::from(one.unsafe_steps);
        sum.loops += u64::from(one.loops);
    }

    /// Faults found of a hundred.
    pub fn found_pct(&self) -> f64 {
        share(self.sum.found, self.sum.faults)
    }

    /// Good injectors condemned of a hundred.
    pub fn condemned_pct(&self) -> f64 {
        share(self.sum.condemned, self.sum.good)
    }

    /// Jobs in which a proposal was made a third time, of a hundred.
    pub fn loops_pct(&self) -> f64 {
        share(self.sum.loops, self.jobs)
    }

    /// Injectors not decided of a hundred.
    pub fn undecided_pct(&self) -> f64 {
        share(self.sum.undecided, self.sum.judged)
    }
}

fn share(part: u64, of: u64) -> f64 {
    if of == 0 { 0.0 } else { 100.0 * part as f64 / of as f64 }
}

/// Stated odds against what was true, in tenths.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Calibration {
    /// Statements, what they stated in all, and how many were true.
    pub tenths: [(u64, f64, u64); TENTHS],
    /// Sum of squares of what was missed.
    pub squares: f64,
    /// Intervals that were stated for return flow, coil and map, and how many held the true value.
    pub intervals: [(u64, u64); QUANTITIES],
}

/// The cause that a technician would name for each fault.
fn cause_of(fault: crate::fault::Fault) -> &'static str {
    use crate::fault::Fault;
    match fault {
        Fault::Deposits | Fault::Basket => "restricted",
        Fault::Wear => "worn",
        Fault::SeatWear | Fault::SeatDirt => "tip_leak",
        Fault::Gum | Fault::Lift => "slow",
        Fault::Guide | Fault::Valve => "excess_return",
        Fault::CoilOpen => "coil_open",
        Fault::CoilShort | Fault::Body => "coil_off",
        Fault::Washer => "seat_gas",
        Fault::Code => "wrong_code",
        Fault::Wire => "harness_leg",
        Fault::Driver => "driver",
        Fault::Line => "line_restriction",
        Fault::Compression => "mechanical",
        Fault::Spark => "ignition",
        Fault::Fuel | Fault::Air => "air_or_fuel",
        Fault::Feed | Fault::Power => "common_supply",
        Fault::Pressure => "high_pressure",
        Fault::Mixture => "shared_ignition",
    }
}

/// Causes that all share, as they are called.
const SHARED: [&str; 4] = ["air_or_fuel", "common_supply", "high_pressure", "shared_ignition"];

/// Causes that were put in at a cylinder, what all share among them.
pub(crate) fn causes_at(job: &MadeJob, cylinder: usize) -> Vec<&'static str> {
    let here = |put: &&crate::population::Put| {
        put.cylinder == cylinder || put.fault.at() == crate::fault::At::All
    };
    job.faults.iter().filter(here).map(|put| cause_of(put.fault)).collect()
}

impl Calibration {
    /// Adds what was stated of a job. Marginal places are no statement about anything.
    pub fn add(&mut self, job: &MadeJob, work: &Work) {
        for one in &work.intervals {
            let (count, held) = &mut self.intervals[one.quantity as usize];
            *count += 1;
            *held += u64::from(one.holds);
        }
        for one in &work.stated {
            // What all share is said once of a job, not once for each cylinder.
            let shared = SHARED.contains(&one.cause);
            if shared && one.cylinder != 0 {
                continue;
            }
            if !shared && wanted(job, one.cylinder).0 == State::Marginal {
                continue;
            }
            let there = causes_at(job, one.cylinder).contains(&one.cause);
            let tenth = ((one.odds * TENTHS as f64) as usize).min(TENTHS - 1);
            let (count, sum, hits) = &mut self.tenths[tenth];
            *count += 1;
            *sum += one.odds;
            *hits += u64::from(there);
            let missed = one.odds - f64::from(there);
            self.squares += missed * missed;
        }
    }

    /// Adds another part of the same run.
    pub fn merge(&mut self, other: &Self) {
        for (held, more) in self.tenths.iter_mut().zip(&other.tenths) {
            held.0 += more.0;
            held.1 += more.1;
            held.2 += more.2;
        }
        for (held, more) in self.intervals.iter_mut().zip(&other.intervals) {
            held.0 += more.0;
            held.1 += more.1;
        }
        self.squares += other.squares;
    }

    /// Statements in all.
    pub fn statements(&self) -> u64 {
        self.tenths.iter().map(|tenth| tenth.0).sum()
    }

    /// Brier score with its reliability and its resolution: the first is to be small, the last large.
    pub fn brier(&self) -> (f64, f64, f64) {
        let all = self.statements().max(1) as f64;
        let base = self.tenths.iter().map(|tenth| tenth.2).sum::<u64>() as f64 / all;
        let (mut reliability, mut resolution) = (0.0, 0.0);
        for (count, sum, hits) in self.tenths.iter().filter(|tenth| tenth.0 > 0) {
            let count = *count as f64;
            let (stated, seen) = (sum / count, *hits as f64 / count);
            reliability += count * (stated - seen) * (stated - seen) / all;
            resolution += count * (seen - base) * (seen - base) / all;
        }
        (self.squares / all, reliability, resolution)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::population::Population;

    #[test]
    fn a_perfect_technician_scores_all_and_one_who_renews_all_condemns_all() {
        let people = Population::shipped().unwrap();
        let rules = Rules::default();
        let (mut perfect, mut greedy) = (Tally::default(), Tally::default());
        for seed in 0..400 {
            let job = people.job(seed);
            let of = |remedy: Option<Remedy>| match remedy {
                None | Some(Remedy::Shared) => Call::Leave,
                Some(Remedy::Clean) => Call::Clean,
                Some(Remedy::Renew) => Call::Renew,
                Some(Remedy::Adjust) => Call::Adjust,
                Some(Remedy::Recode) => Call::Recode,
                Some(Remedy::Harness) => Call::Harness,
                Some(Remedy::Place) => Call::Elsewhere,
            };
            let count = job.engine.seats.len();
            let calls = (0..count).map(|c| of(wanted(&job, c).1)).collect();
            let shared = job.faults.iter().filter(|p| p.fault.at() == crate::fault::At::All);
            let repaired =
                shared.map(|_| (cobaltine_core::tests::engine::EngineTest::FuelSample, true));
            let work = Work { calls, repaired: repaired.collect(), ..Work::default() };
            perfect.add(&score(&job, &work, &rules));
            let calls = vec![Call::Renew; count];
            greedy.add(&score(&job, &Work { calls, ..Work::default() }, &rules));
        }
        assert_eq!((perfect.found_pct(), perfect.condemned_pct()), (100.0, 0.0));
        assert_eq!(perfect.sum.comebacks, 0);
        assert_eq!(greedy.condemned_pct(), 100.0);
        assert!(greedy.sum.cost > perfect.sum.cost);
    }

    #[test]
    fn odds_that_come_true_as_often_as_stated_are_reliable() {
        let mut all = Calibration::default();
        all.tenths[2] = (100, 25.0, 25);
        all.tenths[8] = (100, 85.0, 85);
        let (_, reliability, resolution) = all.brier();
        assert!(reliability < 1e-9 && (resolution - 0.09).abs() < 1e-9, "{resolution}");
    }
}
