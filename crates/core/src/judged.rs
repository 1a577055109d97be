//! Everything that the rules say of a job at once: what views draw and the board shows.

mod on_bench;

pub use on_bench::{BenchCylinder, OnBench};

use crate::calc::CalcError;
use crate::mark::Mark;
use crate::plan::{Known, Plan, plan};
use crate::record::{
    Around, Event, JobFile, Moment, ReadingKind, Seat, SheetRecord, TestRecord, Timer,
};
use crate::rules::Rules;
use crate::tests::Verdict;
use crate::tests::bench::BenchJudged;
use crate::tests::electrical::{Electrical, conclude};
use crate::tests::engine::{Beside, EngineTest};
use crate::tests::side_by_side::{Side, SideBySide, side_by_side};
use crate::tests::swap::{self, SwapInput, SwapVerdict};
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
}

/// What speaks for a job in one sentence, and the mark of each cylinder.
#[derive(Debug, Clone, PartialEq)]
pub struct Spoken {
    /// The sentence.
    pub headline: String,
    /// Cylinder and mark.
    pub marks: Vec<(u32, Mark)>,
}

impl Judged {
    /// The bench speaks first where it was read last; then a concluded swap, then a return test that was read, then what the electrical
    /// checks name, then the check that found most. A new empty one hides none of them.
    pub fn spoken(&self) -> Option<Spoken> {
        if let Some(bench) = self.bench.as_ref().filter(|bench| bench.newest) {
            let marks = bench.lanes.iter().map(|lane| (lane.cylinder, lane.mark)).collect();
            return Some(Spoken { headline: bench.headline.clone(), marks });
        }
        let read = |marks: &[(u32, Mark)]| marks.iter().any(|(_, mark)| *mark != Mark::NotMeasured);
        let returned = self.verdicts.iter().rev().map(|v| Spoken {
            headline: v.headline.clone(),
            marks: v.lanes.iter().map(|l| (l.place, l.mark)).collect(),
        });
        let mut sheets: Vec<&Verdict> =
            self.sheets.iter().rev().filter_map(|verdict| verdict.as_ref().ok()).collect();
        sheets.sort_by_key(|verdict| std::cmp::Reverse(verdict.outcome));
        let sheets = sheets.into_iter().map(|v| Spoken {
            headline: v.headline.clone(),
            marks: v.lanes.iter().map(|l| (l.place, l.mark)).collect(),
        });
        let mut spoken = returned.chain(sheets).find(|spoken| read(&spoken.marks))?;
        let returned = self.verdicts.iter().any(|v| v.runs > 0);
        if let Some(electrical) =
            self.electrical.as_ref().filter(|e| !returned && !e.named.is_empty())
        {
            spoken.headline.clone_from(&electrical.headline);
        }
        if let Some(swap) = self.swaps.last() {
            spoken.headline.clone_from(&swap.headline);
        }
        Some(spoken)
    }
}

/// One reading of the set by some test, with the moment of its first and last reading.
struct Series {
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
        let layout = &self.job.intake.layout;
        let verdicts =
            self.return_tests.iter().map(|t| t.verdict(layout)).collect::<Result<Vec<_>, _>>()?;
        let sheets = self.judge_sheets();
        let good: Vec<(EngineTest, &Verdict)> = self
            .sheets
            .iter()
            .zip(&sheets)
            .filter_map(|(record, verdict)| Some((record.check, verdict.as_ref().ok()?)))
            .collect();
        let swaps = self.judge_swaps(&verdicts, &sheets);
        let read: Vec<(&TestRecord, &Verdict)> =
            self.return_tests.iter().zip(&verdicts).filter(|(_, v)| v.runs > 0).collect();
        let side_by_side = match read.as_slice() {
            [.., before, after] => Some(both(*before, *after)?),
            [] | [_] => None,
        };
        let electrical = conclude(&good);
        let benches: Vec<BenchJudged> = self.bench.iter().map(|s| s.judged(&[])).collect();
        let bench = self.newest_bench(&benches);
        let known = Known {
            bench: bench.as_ref().map(|found| found.headline.as_str()),
            sheets: &good,
            returned: read.last().map(|(_, v)| *v),
            swaps: &swaps,
            electrical: electrical.as_ref(),
        };
        let plan = plan(self, known);
        let (seats, timers) = (self.seats(None), self.timers());
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
        })
    }

    /// Every check with what stands beside it: compression by now, and the fuel that pulsing left.
    fn judge_sheets(&self) -> Vec<Result<Verdict, CalcError>> {
        let intake = &self.job.intake;
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

    fn judge_swaps(
        &self,
        verdicts: &[Verdict],
        sheets: &[Result<Verdict, CalcError>],
    ) -> Vec<SwapVerdict> {
        let series = self.series(verdicts, sheets);
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
    fn series(&self, verdicts: &[Verdict], sheets: &[Result<Verdict, CalcError>]) -> Vec<Series> {
        let span = |times: Vec<Moment>| Some((*times.iter().min()?, *times.iter().max()?));
        let returns = self.return_tests.iter().zip(verdicts).filter_map(|(test, verdict)| {
            let readings = test.counting().flat_map(|run| &run.readings);
            let levels = readings.filter(|r| r.kind != ReadingKind::RunTime);
            let (from, to) = span(levels.map(|r| r.signed.moment()).collect())?;
            let lanes = verdict.lanes.iter();
            let shares = lanes.filter_map(|l| Some((l.place, l.share?))).collect();
            let (look, fault) = (test.setup.rules.look, test.setup.rules.suspect);
            Some(Series { test: RETURN, check: "return_test", from, to, look, fault, shares })
        });
        let cells = self.sheets.iter().zip(sheets).filter_map(|(sheet, verdict)| {
            let verdict = verdict.as_ref().ok()?;
            let rule = sheet.check.follows()?;
            let look = Rules::after(sheet.rules.iter().cloned()).share(rule);
            let each = sheet.readings.iter().filter(|r| r.cylinder.is_some());
            let (from, to) = span(each.map(|r| r.signed.moment()).collect())?;
            let lanes = verdict.lanes.iter().filter(|l| l.mark != Mark::NotMeasured);
            let shares = lanes.filter_map(|l| Some((l.place, l.share?))).collect();
            let check = sheet.check.name();
            // One line only: what lies beyond it is odd, and odd enough.
            Some(Series { test: sheet.check.title(), check, from, to, look, fault: look, shares })
        });
        let mut all: Vec<Series> = returns.chain(cells).collect();
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
