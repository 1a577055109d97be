//! Everything that the rules say of a job at once: what views draw and the board shows.

mod on_bench;

pub use on_bench::{BenchCylinder, OnBench};

use crate::calc::CalcError;
use crate::mark::Mark;
use crate::plan::{Known, Plan, plan};
use crate::record::{
    Around, DecisionRecord, Event, JobFile, Moment, Seat, SheetRecord, TestRecord, Timer,
};
use crate::rules::Rules;
use crate::standing::{self, Now, Source, Standing, Stood, Test, Verdicts, now, stood};
use crate::tests::bench::BenchJudged;
use crate::tests::electrical::{ELECTRICAL, Electrical, conclude};
use crate::tests::engine::{Beside, EngineTest};
use crate::tests::side_by_side::{Side, SideBySide, side_by_side};
use crate::tests::swap::{self, SwapInput, SwapVerdict};
use crate::tests::{Lane, Verdict};
use crate::work::Symptom;
use uuid::Uuid;

/// A job judged.
#[derive(Debug)]
pub struct Judged {
    /// One for each return test.
    pub verdicts: Vec<Verdict>,
    /// One for each check that is read cell by cell, or what it refuses.
    pub sheets: Vec<Result<Verdict, CalcError>>,
    /// What the electrical checks say together.
    pub electrical: Option<Electrical>,
    /// Conclusions of swaps, oldest first.
    pub swaps: Vec<SwapVerdict>,
    /// The last two return tests, when there are two.
    pub side_by_side: Option<SideBySide>,
    /// Where each injector sits now.
    pub seats: Vec<Seat>,
    /// Timers on the board.
    pub timers: Vec<Timer>,
    /// The plan as it stands.
    pub plan: Plan,
    /// Every bench session judged, in the order of the file.
    pub benches: Vec<BenchJudged>,
    /// What the newest bench session says of this job's injectors.
    pub bench: Option<OnBench>,
    /// Everything that was read, each with what it is worth now, oldest first.
    pub stood: Vec<Stood>,
    /// Mark and sentence of each place by now.
    pub now: Now,
}

impl Judged {
    /// The newest decision on each cylinder that holds: its ground has not moved, and what was done because
    /// of it did not leave a fault that was read since.
    pub fn decided<'a>(&self, file: &'a JobFile) -> Vec<&'a DecisionRecord> {
        let failed = |held: &DecisionRecord| {
            let seat = self.seats.iter().find(|seat| seat.cylinder == held.cylinder);
            let mut of = self.stood.iter().filter(|one| seat.is_some_and(|seat| one.is_of(seat)));
            of.any(|one| one.here.counts() && one.is_bad() && one.at() > held.signed.moment())
        };
        file.decided().into_iter().filter(|held| !failed(held)).collect()
    }

    /// The verdicts, each as its set was taken.
    pub fn with_verdicts<T>(&self, with: impl FnOnce(Verdicts<'_>) -> T) -> T {
        let sheets: Vec<Option<&Verdict>> =
            self.sheets.iter().map(|sheet| sheet.as_ref().ok()).collect();
        with(Verdicts { returns: &self.verdicts, sheets: &sheets, benches: &self.benches })
    }
}

/// One reading of the set by some test, with the moment of its first and last reading.
struct Series {
    source: Source,
    test: &'static str,
    check: &'static str,
    from: Moment,
    to: Moment,
    /// Deviation from which its own rules see something.
    look: f64,
    /// Deviation from which it is a fault by itself.
    fault: f64,
    shares: Vec<(u32, f64)>,
}

impl JobFile {
    /// Judges everything.
    ///
    /// # Errors
    /// What a return test refuses; cannot happen for readings that came in through the edge.
    pub fn judged(&self) -> Result<Judged, CalcError> {
        let mut verdicts = self
            .return_tests
            .iter()
            .map(|test| self.returned(test))
            .collect::<Result<Vec<_>, _>>()?;
        let mut sheets = self.judge_sheets();
        let read: Vec<(&TestRecord, &Verdict)> =
            self.return_tests.iter().zip(&verdicts).filter(|(_, v)| v.runs > 0).collect();
        let side_by_side = match read.as_slice() {
            [.., before, after] => Some(both(*before, *after)?),
            [] | [_] => None,
        };
        let benches: Vec<BenchJudged> = self.bench.iter().map(|s| s.judged(&[])).collect();
        let each: Vec<Option<&Verdict>> = sheets.iter().map(|sheet| sheet.as_ref().ok()).collect();
        let all = Verdicts { returns: &verdicts, sheets: &each, benches: &benches };
        let stood = stood(self, all);
        let of_now = |source: Source| {
            let mut of = stood.iter().filter(|one| one.source == source && one.place.is_some());
            let says = |one: &Stood| one.here.counts() || one.here == Standing::InDoubt;
            of.clone().next().is_none() || of.any(says)
        };
        let records = self.sheets.iter().zip(&sheets).enumerate();
        let good: Vec<(EngineTest, &Verdict)> = records
            .filter(|(at, _)| of_now(Source::Sheet(*at)))
            .filter_map(|(_, (record, verdict))| Some((record.check, verdict.as_ref().ok()?)))
            .collect();
        let returned = verdicts.iter().enumerate().rfind(|(_, verdict)| verdict.runs > 0);
        let returned = returned.filter(|(at, _)| of_now(Source::Return(*at))).map(|(_, v)| v);
        let wired = self.wired(&stood, all);
        let wired: Vec<_> = wired.iter().map(|(check, verdict)| (*check, verdict)).collect();
        let electrical = conclude(&wired);
        let swaps = self.judge_swaps(&stood, all);
        // A conclusion holds as long as injectors sit as they did when it was drawn.
        let swap = swaps.last().filter(|swap| !self.swapped_since(swap.at));
        let bench = self.newest_bench(&benches);
        let known = Known {
            stood: &stood,
            bench: bench.as_ref().map(|found| found.headline.as_str()),
            sheets: &good,
            returned,
            swaps: if swap.is_some() { &swaps } else { &[] },
            electrical: electrical.as_ref(),
        };
        let plan = plan(self, known);
        let (seats, timers) = (self.seats(None), self.timers());
        // A conclusion holds as long as injectors sit as they did when it was drawn.
        let swap = swaps.last().filter(|swap| !self.swapped_since(swap.at));
        let now =
            now(self, &stood, all, &standing::Beside { electrical: electrical.as_ref(), swap });
        self.stamp(&stood, &mut verdicts, &mut sheets);
        Ok(Judged {
            verdicts,
            sheets,
            electrical,
            swaps,
            side_by_side,
            seats,
            timers,
            plan,
            benches,
            bench,
            stood,
            now,
        })
    }

    /// The electrical checks as they are of each place by now: an injector took its coil along.
    fn wired(&self, stood: &[Stood], verdicts: Verdicts<'_>) -> Vec<(EngineTest, Verdict)> {
        let seats = self.seats(None);
        let of_now = |check: EngineTest| {
            let counts = |one: &&Stood| one.test == Test::Engine(check) && one.here.counts();
            let newest =
                stood.iter().rev().filter(counts).find_map(|one| verdicts.of(one.source))?;
            let lanes = seats.iter().filter_map(|seat| {
                let one = stood.iter().rev().filter(counts).find(|one| one.is_of(seat))?;
                Some(Lane { place: seat.cylinder, ..verdicts.lane(one)?.clone() })
            });
            Some((check, Verdict { lanes: lanes.collect(), ..newest.clone() }))
        };
        ELECTRICAL.into_iter().filter_map(of_now).collect()
    }

    /// A return test, with what was confirmed of its doubtful lanes.
    fn returned(&self, test: &TestRecord) -> Result<Verdict, CalcError> {
        let confirmed = self.events.iter().filter_map(|record| {
            let Event::ReturnConfirmed { test: of, cylinder } = &record.event else { return None };
            (*of == test.id).then_some(*cylinder)
        });
        test.verdict_confirmed(&self.job.intake.layout, confirmed.collect())
    }

    /// Says on each lane why it is not of now.
    fn stamp(
        &self,
        stood: &[Stood],
        verdicts: &mut [Verdict],
        sheets: &mut [Result<Verdict, CalcError>],
    ) {
        for one in stood.iter().filter(|one| !one.here.counts()) {
            let verdict = match one.source {
                Source::Return(at) => verdicts.get_mut(at),
                Source::Sheet(at) => sheets.get_mut(at).and_then(|sheet| sheet.as_mut().ok()),
                Source::Bench(..) => None,
            };
            let lanes = verdict.into_iter().flat_map(|verdict| &mut verdict.lanes);
            for lane in lanes.filter(|lane| Some(lane.place) == one.place) {
                lane.standing = one.label(self);
            }
        }
    }

    /// Every check with what stands beside it: compression by now, and the fuel that pulsing left.
    fn judge_sheets(&self) -> Vec<Result<Verdict, CalcError>> {
        let intake = &self.told();
        let layout = &intake.layout;
        let base = Around {
            fuel: Some(intake.fuel_system),
            dead: intake.symptoms.contains(&Symptom::NoStart),
            ..Around::default()
        };
        let compression = self.sheets.iter().rfind(|s| {
            s.check == EngineTest::Compression && s.readings.iter().any(|r| r.cylinder.is_some())
        });
        let beside: Vec<Beside> = compression
            .and_then(|sheet| sheet.verdict(layout, &base).ok())
            .map(|verdict| Beside { check: EngineTest::Compression, lanes: verdict.lanes })
            .into_iter()
            .collect();
        let mut measures: Vec<(&'static str, f64)> = Vec::new();
        for told in self.sheets.iter().rev().flat_map(SheetRecord::measures) {
            if !measures.iter().any(|(name, _)| *name == told.0) {
                measures.push(told);
            }
        }
        let around = Around { beside, pulsed_s: self.pulsed_s(), measures, ..base };
        self.sheets.iter().map(|sheet| sheet.verdict(layout, &around)).collect()
    }

    /// How long each cylinder was pulsed into since it was last cleared, s.
    pub fn pulsed_s(&self) -> Vec<(u32, f64)> {
        let cleared = self.cleared_at();
        let mut pulsed: Vec<(u32, f64)> = Vec::new();
        let since = |at: Moment| cleared.is_none_or(|cleared| at > cleared);
        for sheet in self.sheets.iter().filter(|s| s.check == EngineTest::PressureDrop) {
            let mut sheet = sheet.clone();
            // Readings before the clearing left fuel that is gone; what it was set to stays.
            sheet.readings.retain(|r| {
                let pulse = r.pulses();
                !pulse || since(r.signed.moment())
            });
            for (cylinder, seconds) in sheet.pulsed_s() {
                match pulsed.iter_mut().find(|(held, _)| *held == cylinder) {
                    Some((_, held)) => *held += seconds,
                    None => pulsed.push((cylinder, seconds)),
                }
            }
        }
        pulsed
    }

    fn judge_swaps(&self, stood: &[Stood], verdicts: Verdicts<'_>) -> Vec<SwapVerdict> {
        let series = self.series(stood, verdicts);
        let mut found = Vec::new();
        for record in self.happened() {
            let Event::Swapped { one, other } = record.event else { continue };
            let at = record.signed.moment();
            // Who sat there until then: an event of the same moment has moved them already.
            let seats = self.seats_before(record.id);
            let sat = |cylinder: u32| {
                let seat = seats.iter().find(|seat| seat.cylinder == cylinder);
                seat.map_or_else(Uuid::nil, |seat| seat.injector)
            };
            // The newest test before that was repeated, as it was repeated last: read since the injectors
            // sat so, and not before an earlier exchange.
            let moved = self.happened().filter(|e| e.event.moves());
            let since = moved.map(|e| e.signed.moment()).filter(|t| *t < at).max();
            let before = series.iter().rfind(|s| {
                s.to <= at
                    && since.is_none_or(|since| s.from >= since)
                    && series.iter().any(|after| after.test == s.test && after.from >= at)
            });
            let Some(before) = before else { continue };
            let next = self.happened().filter(|e| e.event.moves());
            let until = next.map(|e| e.signed.moment()).filter(|t| *t > at).min();
            let after = series.iter().rfind(|s| {
                s.test == before.test && s.from >= at && until.is_none_or(|until| s.to <= until)
            });
            let Some(after) = after else { continue };
            found.push(swap::judge(&SwapInput {
                test: before.test.to_owned(),
                check: before.check.to_owned(),
                at,
                sat_in_one: sat(one),
                sat_in_other: sat(other),
                one,
                other,
                look: before.look,
                fault: before.fault,
                before: before.shares.clone(),
                after: after.shares.clone(),
            }));
        }
        found
    }

    /// Every comparison of the set, in the order of reading.
    fn series(&self, stood: &[Stood], verdicts: Verdicts<'_>) -> Vec<Series> {
        let mut all: Vec<Series> = Vec::new();
        for one in stood.iter().filter(|one| one.place.is_some()) {
            if let Some(held) = all.iter_mut().find(|held| held.source == one.source) {
                (held.from, held.to) = (held.from.min(one.at()), held.to.max(one.at()));
                continue;
            }
            let (Test::Engine(test), Some(verdict)) = (one.test, verdicts.of(one.source)) else {
                continue;
            };
            let (title, look, fault) = if let Source::Return(at) = one.source {
                let rules = &self.return_tests[at].setup.rules;
                (RETURN, rules.look, rules.suspect)
            } else {
                let (Source::Sheet(at), Some(rule)) = (one.source, test.follows()) else {
                    continue;
                };
                // One line only: what lies beyond it is odd, and odd enough.
                let look = Rules::after(self.sheets[at].rules.iter().cloned()).share(rule);
                (test.title(), look, look)
            };
            let lanes = verdict.lanes.iter().filter(|lane| lane.mark != Mark::NotMeasured);
            all.push(Series {
                source: one.source,
                test: title,
                check: test.name(),
                from: one.at(),
                to: one.at(),
                look,
                fault,
                shares: lanes.filter_map(|lane| Some((lane.place, lane.share?))).collect(),
            });
        }
        all.sort_by_key(|series| series.to);
        all
    }
}

/// As the return test is called in a sentence.
const RETURN: &str = "Return test";

fn both<'a>(
    before: (&'a TestRecord, &'a Verdict),
    after: (&'a TestRecord, &'a Verdict),
) -> Result<SideBySide, CalcError> {
    let side = |(test, verdict): (&'a TestRecord, &'a Verdict)| Side {
        regime: test.setup.regime,
        temperature_c: test.setup.temperature_c,
        verdict,
    };
    side_by_side(side(before), side(after), after.0.setup.rules.temperatures_alike_c)
}

#[cfg(test)]
mod tests;
