//! The test that showed the fault that was decided on, repeated: before and after, place by place, under the
//! same conditions.
//!
//! # Source
//! House rule: a repair is proven by the test that condemned, under the conditions in which it did. A place
//! that was never measured is proven by nothing, and one that nobody touched holds nothing up.

use super::ItemState;
use super::decided::{Condemned, condemned};
use crate::judged::Judged;
use crate::mark::Mark;
use crate::named::named;
use crate::proving::words;
use crate::record::{JobFile, Moment};
use crate::standing::{Source, Standing, Stood, Test, Verdicts};
use crate::tests::engine::EngineTest;
use crate::tests::side_by_side::{Side, side_by_side};
use crate::units;
use crate::words::cylinders;
use serde::Serialize;
use utoipa::ToSchema;

/// The work on the engine that is to be proven, and when injectors sat as they do now.
#[derive(Clone, Copy)]
pub(super) struct Span {
    pub settled: Option<Moment>,
    /// Something was fitted, replaced or written, not only decided.
    pub worked: bool,
    /// When the job last came back: decisions from before it are of work that did not hold.
    pub since: Option<Moment>,
}

named! {
    /// How the repair of one place is proven.
    PlaceProof {
        Proven = proven,
        NotRepeated = not_repeated,
        NeverMeasured = never_measured,
        Unsure = unsure,
        Failed = failed,
    }
}

/// A place that was decided on or worked on, and how its repair is proven.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct PlaceState {
    /// Cylinder number.
    pub cylinder: u32,
    /// How it is proven.
    pub proof: PlaceProof,
}

/// One cylinder before and after.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct RepeatLane {
    /// Cylinder number.
    pub cylinder: u32,
    /// As shown before.
    pub before: String,
    /// Its mark before.
    pub before_mark: Mark,
    /// Label of the injector that sat there then, where another one sits there now.
    pub was: Option<String>,
    /// As shown after; empty while it is not read.
    pub after: String,
    /// Its mark after.
    pub after_mark: Mark,
    /// How its repair is proven; none where nothing was decided on it by this test.
    pub proof: Option<PlaceProof>,
}

/// A failed test and its repetition.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Repeat {
    /// As it is called.
    pub test: String,
    /// The check, where it is one that is read cell by cell; the return test without one.
    pub check: Option<EngineTest>,
    /// It was the bench that condemned.
    pub on_bench: bool,
    /// Another injector was fitted: it was compared on the engine in place of the bench.
    pub compared: bool,
    /// Which of the return tests it was, counted from 0; none for another check.
    pub return_test: Option<usize>,
    /// What the columns show.
    pub unit: String,
    /// When it failed.
    #[schema(value_type = String, format = DateTime)]
    pub before_at: Moment,
    /// When it was repeated.
    #[schema(value_type = Option<String>, format = DateTime)]
    pub after_at: Option<Moment>,
    /// How the conditions of the two compare.
    pub alike: String,
    /// By cylinder.
    pub lanes: Vec<RepeatLane>,
}

/// What is to be repeated, and how that stands.
pub(super) struct Repeated {
    pub repeats: Vec<Repeat>,
    pub places: Vec<PlaceState>,
    pub state: ItemState,
    pub says: String,
}

/// Every test that somebody was condemned by with its repetition, how that stands, and what is said of it.
pub(super) fn repeats(file: &JobFile, judged: &Judged, span: &Span) -> Repeated {
    judged.with_verdicts(|verdicts| {
        let looking = Looking { file, judged, verdicts, span };
        let places = condemned(file, judged, verdicts, span);
        let mut tests: Vec<&Stood> = Vec::new();
        for by in places.iter().filter_map(|place| place.by.as_ref()) {
            if !tests.iter().any(|held| held.source == by.source) {
                tests.push(by);
            }
        }
        let each: Vec<(Repeat, Vec<u32>)> =
            tests.iter().map(|by| looking.repeat(by, &places)).collect();
        let (state, says) = looking.stands(&places, &each);
        let repeats: Vec<Repeat> = each.into_iter().map(|(repeat, _)| repeat).collect();
        let proof = |cylinder: u32| {
            let mut lanes = repeats.iter().flat_map(|repeat| &repeat.lanes);
            lanes.find_map(|lane| lane.proof.filter(|_| lane.cylinder == cylinder))
        };
        let state_of = |place: &Condemned| PlaceState {
            cylinder: place.cylinder,
            proof: proof(place.cylinder).unwrap_or(PlaceProof::NeverMeasured),
        };
        let places = places.iter().map(state_of).collect();
        Repeated { repeats, places, state, says }
    })
}

struct Looking<'a> {
    file: &'a JobFile,
    judged: &'a Judged,
    verdicts: Verdicts<'a>,
    span: &'a Span,
}

impl<'a> Looking<'a> {
    /// The newest reading by which the repair of a place may be proven. Another injector sits there now:
    /// the bench cannot repeat it, a comparison on the engine can.
    fn after(&self, before: &Stood, cylinder: u32) -> Option<&'a Stood> {
        let seats = self.file.seats(None);
        let sits = seats.iter().find(|seat| seat.cylinder == cylinder)?;
        let of_place = self.judged.stood.iter().rev().filter(|one| {
            one.place.is_some()
                && one.is_of(sits)
                && one.at() > before.at()
                && (one.here.counts() || one.here == Standing::InDoubt)
        });
        let assembled = |one: &&Stood| self.span.settled.is_some_and(|settled| one.at() >= settled);
        match before.test {
            Test::Bench(_) if before.injector == Some(sits.injector) => {
                of_place.clone().find(|one| one.test == before.test)
            }
            Test::Bench(_) => {
                let engine = of_place.clone().filter(|one| matches!(one.test, Test::Engine(_)));
                engine.filter(|one| self.compares(one)).find(assembled)
            }
            Test::Engine(_) => {
                of_place.clone().filter(assembled).find(|one| one.test == before.test)
            }
        }
    }

    /// A comparison of what injectors pass or do, and no check of a wire.
    fn compares(&self, one: &Stood) -> bool {
        match one.test {
            Test::Engine(test) => test == EngineTest::ReturnTest || test.follows().is_some(),
            Test::Bench(_) => true,
        }
    }

    /// One test with its repetition, and cylinders at which the repetition failed.
    fn repeat(&self, before: &Stood, places: &[Condemned]) -> (Repeat, Vec<u32>) {
        let (then, now) = (self.file.seats(Some(before.at())), self.file.seats(None));
        let mine = |cylinder: u32| {
            places.iter().find(|place| {
                place.cylinder == cylinder
                    && place.by.as_ref().is_some_and(|by| by.source == before.source)
            })
        };
        let verdict = self.verdicts.of(before.source);
        let lanes = verdict.map_or(&[][..], |verdict| &verdict.lanes);
        let mut after_at: Option<Moment> = None;
        let mut other: Option<Source> = None;
        let mut failed = Vec::new();
        let mut all: Vec<RepeatLane> = Vec::new();
        for lane in lanes {
            let Some(cylinder) = self.cylinder(before, lane.place) else { continue };
            let after = self.after(before, cylinder);
            let (now_in, then_in) = (
                now.iter().find(|seat| seat.cylinder == cylinder),
                then.iter().find(|seat| seat.cylinder == cylinder),
            );
            let was = then_in
                .filter(|was| now_in.is_some_and(|is| is.injector != was.injector))
                .map(|was| was.label.clone());
            let shown =
                after.and_then(|one| self.verdicts.lane(one)).map(|lane| lane.shown.clone());
            if let Some(one) = after {
                after_at = after_at.max(Some(one.at()));
                other = Some(one.source);
            }
            let proof = mine(cylinder).map(|_| self.proof(before, after));
            let bad = after.is_some_and(|one| fails(one.mark));
            if bad {
                failed.push(cylinder);
            }
            all.push(RepeatLane {
                cylinder,
                before: lane.shown.clone(),
                before_mark: lane.mark,
                was,
                after: shown.unwrap_or_default(),
                after_mark: after.map_or(Mark::NotMeasured, |one| {
                    if one.here == Standing::InDoubt { Mark::Undecided } else { one.mark }
                }),
                proof,
            });
        }
        let title = match before.test {
            Test::Engine(EngineTest::ReturnTest) => "Return test".to_owned(),
            Test::Engine(test) => test.title().to_owned(),
            Test::Bench(test) => words::on_bench(test.title()),
        };
        let unit = match before.source {
            Source::Return(_) => units::unit(units::ML_MIN).to_owned(),
            Source::Sheet(_) => verdict.map(|verdict| verdict.unit.clone()).unwrap_or_default(),
            Source::Bench(..) => String::new(),
        };
        let repeat = Repeat {
            test: title,
            check: match before.test {
                Test::Engine(EngineTest::ReturnTest) | Test::Bench(_) => None,
                Test::Engine(test) => Some(test),
            },
            on_bench: matches!(before.test, Test::Bench(_)),
            compared: other.is_some_and(|other| is_bench(before.source) != is_bench(other)),
            return_test: if let Source::Return(at) = before.source { Some(at) } else { None },
            unit,
            before_at: before.at(),
            after_at,
            alike: other.map_or_else(String::new, |other| self.conditions(before, other).0),
            lanes: all,
        };
        (repeat, failed)
    }

    /// The cylinder of a lane: on the bench where the injector sits by now, or came out of.
    fn cylinder(&self, before: &Stood, place: u32) -> Option<u32> {
        let Source::Bench(session, _) = before.source else { return Some(place) };
        let ours = self.file.bench[session].injectors.iter();
        let tagged = ours.filter(|one| self.file.is_ours(one)).find(|one| one.tag == place)?;
        let seats = self.file.seats(None);
        let sits = seats.iter().find(|seat| seat.injector == tagged.injector);
        Some(sits.map_or(tagged.cylinder, |seat| seat.cylinder))
    }

    fn proof(&self, before: &Stood, after: Option<&Stood>) -> PlaceProof {
        let Some(after) = after else { return PlaceProof::NotRepeated };
        if after.here == Standing::InDoubt {
            PlaceProof::Unsure
        } else if fails(after.mark) {
            PlaceProof::Failed
        } else if after.mark == Mark::Inside && self.conditions(before, after.source).1 {
            PlaceProof::Proven
        } else {
            PlaceProof::Unsure
        }
    }

    /// How the conditions compare, and whether they are the same as far as is known.
    fn conditions(&self, before: &Stood, after: Source) -> (String, bool) {
        let (Source::Return(one), Source::Return(other)) = (before.source, after) else {
            let says = if is_bench(before.source) == is_bench(after) {
                words::SAME_CHECK_READ_SAME
            } else {
                words::ANOTHER_INJECTOR_FITTED_COMPARED
            };
            return (says.to_owned(), true);
        };
        let side = |at: usize| {
            let setup = &self.file.return_tests[at].setup;
            let verdict = &self.judged.verdicts[at];
            Side { regime: setup.regime, temperature_c: setup.temperature_c, verdict }
        };
        let alike = self.file.return_tests[other].setup.rules.temperatures_alike_c;
        match side_by_side(side(one), side(other), alike) {
            Ok(both) => {
                let same = both.refused.is_none() && both.factor.is_none();
                (both.refused.unwrap_or(both.label), same)
            }
            Err(error) => (format!("{error}."), false),
        }
    }

    fn stands(&self, places: &[Condemned], each: &[(Repeat, Vec<u32>)]) -> (ItemState, String) {
        let never: Vec<u32> =
            places.iter().filter(|one| one.by.is_none()).map(|one| one.cylinder).collect();
        if places.is_empty() {
            let fresh = |at: Moment| self.span.since.is_none_or(|since| at >= since);
            let mut read = self.judged.stood.iter().filter(|one| one.mark != Mark::NotMeasured);
            let says = match (read.clone().next(), read.any(|one| fresh(one.at()))) {
                (_, true) => return (ItemState::Good, words::NO_TEST_HAD_FAILED.to_owned()),
                (Some(_), false) => words::NOTHING_MEASURED_SINCE,
                (None, false) => words::NOTHING_MEASURED_NOTHING_PROVEN,
            };
            return (ItemState::Open, says.to_owned());
        }
        let mut worst = (ItemState::Good, Vec::new());
        let mut say = |state: ItemState, says: String| {
            if weight(state) > weight(worst.0) {
                worst = (state, vec![says]);
            } else if state == worst.0 {
                worst.1.push(says);
            }
        };
        for (repeat, failed) in each {
            let with = |wanted: PlaceProof| -> Vec<u32> {
                let of = repeat.lanes.iter().filter(|lane| lane.proof == Some(wanted));
                of.map(|lane| lane.cylinder).collect()
            };
            let low = |numbers: &[u32]| cylinders(numbers).to_lowercase();
            let (open, unsure) = (with(PlaceProof::NotRepeated), with(PlaceProof::Unsure));
            let test = &repeat.test;
            if !failed.is_empty() {
                say(ItemState::Failed, words::repeated_failed_fault_not(test, low(failed)));
            } else if !open.is_empty() && repeat.after_at.is_some() {
                say(ItemState::Open, words::restarted_not_read_yet(test, low(&open)));
            } else if !open.is_empty() {
                say(ItemState::Open, words::failed_not_repeated_since(test, low(&open)));
            } else if !unsure.is_empty() {
                let doubtful = repeat.lanes.iter().filter(|lane| {
                    lane.proof == Some(PlaceProof::Unsure) && lane.after_mark != Mark::Inside
                });
                let doubtful: Vec<u32> = doubtful.map(|lane| lane.cylinder).collect();
                let says = if doubtful.is_empty() {
                    words::repeated_within_limits_but(test)
                } else {
                    words::repeated_inconclusive_retest(test, low(&doubtful))
                };
                say(ItemState::Unsure, says);
            } else {
                let proven = low(&with(PlaceProof::Proven));
                let says = if repeat.compared {
                    words::compared_within_limits(test, proven)
                } else {
                    words::repeated_within_limits(test, proven)
                };
                say(ItemState::Good, says);
            }
        }
        if !never.is_empty() {
            say(ItemState::Open, words::never_measured(cylinders(&never)));
        }
        (worst.0, worst.1.join(" "))
    }
}

fn is_bench(source: Source) -> bool {
    matches!(source, Source::Bench(..))
}

fn weight(state: ItemState) -> u8 {
    match state {
        ItemState::Good | ItemState::LeftOut => 0,
        ItemState::Unsure => 1,
        ItemState::Open => 2,
        ItemState::Failed => 3,
    }
}

/// Something is wrong, or has to be looked at.
pub(super) fn fails(mark: Mark) -> bool {
    match mark {
        Mark::TooMuch | Mark::TooLittle | Mark::Look => true,
        Mark::Inside | Mark::Undecided | Mark::Questioned | Mark::NotMeasured => false,
    }
}
