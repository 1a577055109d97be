//! `return_test`: the diesel return (leak-off) test of one job, all runs together.
//!
//! Each run gives a rate per lane ([`crate::calc::return_flow`]). The rates of a lane are
//! averaged over the runs; u comes from [`crate::calc::uncertainty`] with the bottle's marks
//! (as ml/min) as resolution and the timing and the bottles' own accuracy as calibration part, so one run gives exactly
//! the uncertainty of `return_flow`. The means are judged by the same code as a single run:
//! absolute limit where the library has one that holds at this temperature, otherwise
//! comparison. A lane that overflowed in any run stays a lower bound.
//!
//! What makes the reading itself doubtful comes before what it says: one run of three that is out
//! of line with the other two is questioned and left out of the mean; a lane far below the others
//! is a hose, or the others are all high; a whole set over its limit alike is seldom four worn
//! injectors. An engine of one cylinder is judged against the limit alone.
//!
//! Units: ml, s, ml/min, °C. Errors: those of the calcs, in the user's words.
//!
//! # Source
//! House rules ([`HouseRules`]); JCGM 100 and JCGM 106 through the calcs.
//!
//! ```
//! use cobaltine_core::calc::return_flow::Lane;
//! use cobaltine_core::tests::engine::return_test::{HouseRules, ReturnTest, Run, judge};
//! use cobaltine_core::mark::Mark;
//! use cobaltine_core::quantity::{Celsius, Millilitre, Second};
//! use cobaltine_core::work::Regime;
//! let lane = |cylinder, ml: f64| Lane { cylinder, volume_ml: Some(ml), seconds: Some(116.0), overflow_s: None };
//! let test = ReturnTest {
//!     cylinders: vec![1, 2, 3], banks: vec![vec![1, 2, 3]], unticked: Vec::new(), overdue: false, regime: Regime::IdleOnly,
//!     pump_spare_ml_min: None, graduation_ml: Millilitre(2.0), capacity_ml: Millilitre(100.0), timer_u_s: Second(0.3),
//!     accuracy_pct: 0.0, accuracy_digits: 0.0, flags: Vec::new(), confirmed: Vec::new(),
//!     temperature_c: Some(Celsius(82.0)), rules: HouseRules::default(), limit: None,
//!     runs: vec![Run { number: 1, phase: None, bank: None, lanes: vec![lane(1, 22.0), lane(2, 60.0), lane(3, 24.0)] }],
//! };
//! let verdict = judge(&test).unwrap();
//! assert_eq!(verdict.lanes[1].mark, Mark::TooMuch);
//! assert!(verdict.headline.contains("161 %"));
//! ```

mod house_rules;
mod phases;
mod seen;
mod words;

use crate::units::{self, ML_MIN};
pub use phases::judge_phases;

use super::{Example, Found, Sheet, Spec};
use crate::calc::CalcError;
use crate::calc::compare_set::camps;
use crate::calc::return_flow::{
    Bottle, Bounds, Lane as Caught, LaneOutput, LaneRate, ReturnFlowOutput, judge as judge_rates,
    judge_alone,
};
use crate::calc::uncertainty::UncertaintyOutput;
use crate::caution::{self, Work};
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::library::Limit;
use crate::mark::Mark;
use crate::quantity::{Celsius, Millilitre, Second};
use crate::rules::RuleId;
use crate::said::Code;
use crate::start::Missing;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::tests::{Row, Verdict};
use crate::work::{Phase, Regime, Stage};
pub use house_rules::{HouseRules, Leads};
use seen::{SeenSet, average, mark, odd_run};

crate::said::outcomes! {
    CRANK_OVER_SPARE = crank_over_spare,
    CRANK_WITHIN_SPARE = crank_within_spare,
    RETURN_HIGH = return_high (Departs),
    RETURN_RAISED = return_raised (Departs),
    RETURN_ALIKE = return_alike,
    RETURN_LOW = return_low,
    RETURN_OVER_USUAL = return_over_usual (Departs),
    RETURN_USUAL = return_usual,
}

pub(super) const SPEC: Spec = Spec {
    title: "Return test (leak-off)",
    short: "Return",
    says: words::EACH_INJECTOR_LEAKS_OFF,
    cautions: &[caution::JET, caution::RUNNING, caution::HOT, caution::WASTE],
    work: Some(Work::Return),
    start: &[],
    minutes: 25,
    tools: words::BOTTLES_HOSES_BLANKS_RETURN,
    stage: Stage::OnEngine,
    fits: FuelSystem::has_return,
    limit: None,
    instrument: Some(InstrumentKind::Bottles),
    set: &[],
    each: &[],
    why: |c| {
        Some(if c.dead {
            Why { says: words::CRANK_TEST_LEAK_OFF, spared_by: words::RAIL_PRESSURE_REACHED_WHILE }
        } else if c.load {
            Why { says: words::UNDER_LOAD_STEPPED_SOME, spared_by: words::ALL_OTHER_CAUSES_PROVEN }
        } else {
            Why {
                says: words::INTERNAL_WEAR_SHOWS_LEAK,
                spared_by: words::SHARED_CAUSE_FIXED_COMPLAINT,
            }
        })
    },
    property: Property::RUNNING,
    first: false,
    recorded: None,
    follows: Some(RuleId::ReturnLook),
    example: Example { set: &[], each: &[] },
    table: include_str!("return_test.toml"),
    judge: by_runs,
};

/// It has no cells: what was caught is judged run by run ([`judge`]).
fn by_runs(_: &Sheet) -> Result<Found, CalcError> {
    Err(CalcError::Contradiction(words::RETURN_TEST_ASSESSED_RUNS.to_owned()))
}

/// One run that counts.
#[derive(Debug, Clone, PartialEq)]
pub struct Run {
    /// As counted in the job, from 1.
    pub number: u32,
    /// The phase, in a stepped test.
    pub phase: Option<Phase>,
    /// The bank that was run alone.
    pub bank: Option<u32>,
    /// The lanes that were read.
    pub lanes: Vec<Caught>,
}

/// A return test as it stands.
#[derive(Debug, Clone, PartialEq)]
pub struct ReturnTest {
    /// All cylinders of the engine, in strip order.
    pub cylinders: Vec<u32>,
    /// The same, bank by bank.
    pub banks: Vec<Vec<u32>>,
    /// Distance between two marks.
    pub graduation_ml: Millilitre,
    /// What a bottle holds.
    pub capacity_ml: Millilitre,
    /// Standard uncertainty of the timing.
    pub timer_u_s: Second,
    /// Accuracy of the bottles, percent of reading.
    pub accuracy_pct: f64,
    /// Accuracy of the bottles, in marks.
    pub accuracy_digits: f64,
    /// Instruments that were overdue for calibration, named.
    pub flags: Vec<String>,
    /// Start conditions that were not ticked, run by run.
    pub unticked: Vec<Missing>,
    /// The calibration of an instrument had run out.
    pub overdue: bool,
    /// Engine regime.
    pub regime: Regime,
    /// Temperature of the engine at the test.
    pub temperature_c: Option<Celsius>,
    /// What the pump can spare while cranking, ml/min.
    pub pump_spare_ml_min: Option<f64>,
    /// What is judged by.
    pub rules: HouseRules,
    /// The library's limit for this family, if it has one.
    pub limit: Option<Limit>,
    /// Cylinders whose hose is clear and whose injector fires, as somebody looked: next to nothing is a
    /// low return there, and no question.
    pub confirmed: Vec<u32>,
    /// Runs that count, in order.
    pub runs: Vec<Run>,
}

/// A lane with everything that the words are made from.
struct Reading<'a> {
    lane: Option<&'a LaneOutput>,
    cylinder: u32,
    runs: Vec<(u32, &'a Caught, LaneRate)>,
    u: Option<UncertaintyOutput>,
    mark: Mark,
    code: Code,
    /// The run that is out of line with the others of this lane.
    odd_run: Option<u32>,
}

/// Judges a return test.
///
/// # Errors
/// What [`crate::calc::return_flow`] refuses, naming the cylinder.
pub fn judge(test: &ReturnTest) -> Result<Verdict, CalcError> {
    let bottle = Bottle {
        graduation: test.graduation_ml.0,
        capacity: test.capacity_ml.0,
        timer_u: test.timer_u_s.0,
    };
    let limit = test.limit.as_ref().filter(|limit| limit.holds_at(test.temperature_c));
    // The school that does not lead is worked out all the same, and shown beside.
    let leading = limit.filter(|_| test.rules.leads == Leads::Limit);
    let bounds = Bounds {
        look: test.rules.look,
        suspect: test.rules.suspect,
        limit: limit.map(|limit| limit.upper_ml_min),
        confidence: test.rules.confidence,
    };

    let mut per_lane: Vec<Vec<(u32, &Caught, LaneRate)>> = vec![Vec::new(); test.cylinders.len()];
    for run in &test.runs {
        for lane in &run.lanes {
            let place = test.cylinders.iter().position(|c| *c == lane.cylinder);
            let place = place.ok_or_else(|| {
                CalcError::Contradiction(words::engine_no_cylinder(lane.cylinder))
            })?;
            per_lane[place].push((run.number, lane, bottle.rate(lane)?));
        }
    }
    let odd_runs: Vec<Option<u32>> = per_lane.iter().map(|runs| odd_run(runs, test)).collect();
    let averaged = per_lane
        .iter()
        .zip(&odd_runs)
        .map(|(runs, odd)| {
            let even: Vec<_> =
                runs.iter().filter(|(run, ..)| Some(*run) != *odd).copied().collect();
            average(&even, bottle, test)
        })
        .collect::<Result<Vec<_>, _>>()?;
    let rates: Vec<LaneRate> = averaged.iter().flatten().map(|(rate, _)| *rate).collect();
    let judged = match rates.as_slice() {
        [] => None,
        [one] if test.cylinders.len() == 1 => Some(ReturnFlowOutput {
            lanes: vec![judge_alone(one, bounds)?],
            split: false,
            settled: false,
        }),
        [_] => None,
        rates => Some(judge_rates(rates, bounds)?),
    };
    let seen = SeenSet::of(test, judged.as_ref(), leading.is_some());

    let alone = |run: u32, cylinder: u32| -> Option<Mark> {
        let of_run = per_lane.iter().flatten().filter(|(number, ..)| *number == run);
        let rates: Vec<LaneRate> = of_run.map(|(.., rate)| *rate).collect();
        let judged = judge_rates(&rates, bounds).ok()?;
        let lane = judged.lanes.iter().find(|lane| lane.cylinder == cylinder)?;
        Some(mark(lane.grade, lane.limit_state.filter(|_| leading.is_some())))
    };
    let turns = |run: u32, cylinder: u32, with: Mark| {
        let too_much = |mark: Mark| mark == Mark::TooMuch;
        alone(run, cylinder).is_none_or(|alone| too_much(alone) != too_much(with))
    };
    let readings: Vec<Reading<'_>> = test
        .cylinders
        .iter()
        .zip(&per_lane)
        .zip(averaged)
        .zip(odd_runs)
        .map(|(((&cylinder, runs), average), odd_run)| {
            let lane = judged.iter().flat_map(|j| &j.lanes).find(|lane| lane.cylinder == cylinder);
            let by_limit = |lane: &LaneOutput| lane.limit_state.filter(|_| leading.is_some());
            let mark = lane.map_or(Mark::NotMeasured, |lane| mark(lane.grade, by_limit(lane)));
            let (mark, code) = match lane {
                None => (mark, Code::NOT_READ),
                // As many that agree as money asks for carry the verdict without it; so does a run that
                // would have said no more and no less than they do.
                Some(_)
                    if runs.len() <= test.rules.runs_to_replace as usize
                        && odd_run.is_some_and(|run| turns(run, cylinder, mark)) =>
                {
                    (Mark::Questioned, Code::RUN_ODD)
                }
                Some(lane) => match seen.says(lane, mark) {
                    (Mark::Questioned, Code::DOUBTFUL) if test.confirmed.contains(&cylinder) => {
                        (Mark::Inside, outcomes::RETURN_LOW)
                    }
                    said => said,
                },
            };
            Reading {
                lane,
                cylinder,
                runs: runs.clone(),
                u: average.map(|(_, u)| u),
                mark,
                code,
                odd_run,
            }
        })
        .collect();

    let members: Vec<f64> = judged
        .iter()
        .flat_map(|j| &j.lanes)
        .filter(|lane| lane.reference)
        .map(|lane| lane.rate_ml_min)
        .collect();
    let settled = judged.as_ref().is_some_and(|j| j.settled);
    let reference = (settled && !members.is_empty())
        .then(|| members.iter().sum::<f64>() / members.len() as f64);
    let running: Vec<f64> = rates.iter().map(|r| r.rate).filter(|rate| *rate > 0.0).collect();
    let set = words::Set {
        test,
        limit: leading,
        holds: limit,
        settled,
        upper_camp_from: camps(&running, bounds.suspect),
        readings: &readings,
    };
    let band = reference.map(|mean| [mean * (1.0 - bounds.look), mean * (1.0 + bounds.look)]);
    let highest = rates.iter().map(|r| r.rate).fold(0.0, f64::max);
    let (headline, advice) = set.sentences();
    let highest = highest.max(bounds.limit.unwrap_or(0.0)).max(band.map_or(0.0, |b| b[1]));
    let verdict = Verdict {
        headline,
        advice,
        settled,
        unit: units::unit(ML_MIN).to_owned(),
        reference,
        window: band.map(|[from, to]| [Some(from), Some(to)]),
        window_word: "in line".to_owned(),
        limit: bounds.limit,
        limit_note: set.limit_note(),
        flags: test
            .flags
            .iter()
            .chain(test.unticked.iter().map(|open| &open.short))
            .cloned()
            .collect(),
        schools: set.schools(),
        runs: test.runs.len() as u32,
        scale: scale_top(highest),
        lanes: readings.iter().map(|reading| set.lane(reading)).collect(),
        ..Verdict::default()
    };
    Ok(verdict.closed())
}

/// The next of 1, 2, 2.5, 5, 10 … that leaves a tenth of air above the highest.
fn scale_top(highest: f64) -> f64 {
    let wanted = (highest * 1.1).max(1.0);
    let decade = 10.0_f64.powf(wanted.log10().floor());
    let steps = [1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0];
    steps.into_iter().map(|s| s * decade).find(|top| *top >= wanted).unwrap_or(wanted)
}

#[cfg(test)]
mod tests;
