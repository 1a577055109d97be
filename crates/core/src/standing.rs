//! What counts now: every reading of a job in the order of its log, each with exactly one standing.
//!
//! A test judges a set as it was taken, and that verdict stays. Whether a lane of it still says something
//! of the injector it was read of, of the cylinder it was read at, or of the place as it is now, is decided
//! here and nowhere else: by who sits where, by what was done since, and by what was read after it.
//!
//! - `read`: what was read, lane by lane, from the log.
//! - `deeds`: work after which something reads otherwise.
//! - `order`: of several readings of one property, which one counts.
//! - `single`: single readings of a lane that were corrected, excluded or averaged.
//! - `now`: the mark and the sentence of each place by now.
//!
//! A test says in its own file whom its readings belong to and what work ends them
//! (`tests::property::Property`); a new test needs no line here.
//!
//! # Source
//! House rule: work ends readings of what it changes and of nothing else; a repeat without work does not
//! lift a failed reading by itself, the third decides.

mod deeds;
mod now;
mod order;
mod read;
mod single;
mod words;

pub(crate) use now::{Beside, now};
pub use now::{Now, PlaceNow};
pub use single::{Single, singles};

use crate::mark::Mark;
use crate::named::named;
use crate::record::{JobFile, Moment, Seat, Signed};
use crate::said::Said;
use crate::tests::bench::{BenchJudged, BenchTest};
use crate::tests::engine::EngineTest;
pub use crate::tests::property::Of;
use crate::tests::property::Property;
use crate::tests::{Lane, Verdict};
use uuid::Uuid;

named! {
    /// What a reading is worth now.
    Standing {
        // It counts.
        Counts = counts,
        // It counts together with others under the same conditions.
        Joined = joined,
        // A correction or a repeat took its place.
        Superseded = superseded,
        // A person set it aside.
        Excluded = excluded,
        // Taken before injectors changed places.
        BeforeSwap = before_swap,
        // Taken before another injector was fitted here.
        BeforeNewPart = before_new_part,
        // Taken before the injector was cleaned.
        BeforeCleaning = before_cleaning,
        // Taken before the injector was set.
        BeforeSetting = before_setting,
        // Taken before what all cylinders share was put right.
        BeforeRepair = before_repair,
        // Of an injector that is no longer on the engine.
        Gone = gone,
        // It and another one say different things, and nothing was done in between.
        InDoubt = in_doubt,
    }
}

impl Standing {
    /// It says something by now.
    pub fn counts(self) -> bool {
        matches!(self, Self::Counts | Self::Joined)
    }
}

/// A test of the engine or of the bench.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Test {
    /// On the engine.
    Engine(EngineTest),
    /// On the bench.
    Bench(BenchTest),
}

impl Test {
    pub(crate) fn property(self) -> Property {
        match self {
            Self::Engine(test) => test.property(),
            Self::Bench(test) => test.property(),
        }
    }

    /// As called in a sentence.
    pub fn title(self) -> &'static str {
        match self {
            Self::Engine(test) => test.title(),
            Self::Bench(test) => test.title(),
        }
    }
}

/// Where a lane is found in the job.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Source {
    /// In a return test, counted from 0.
    Return(usize),
    /// In a check that is read cell by cell, counted from 0.
    Sheet(usize),
    /// In a verdict of a bench session, both counted from 0.
    Bench(usize, usize),
}

/// What one test read of one injector or cylinder, or of what all share, and what that is worth now.
#[derive(Debug, Clone, PartialEq)]
pub struct Stood {
    /// The test.
    pub test: Test,
    /// Where its lane is.
    pub source: Source,
    /// Place of its lane in the verdict: cylinder or tag; none for what all share.
    pub place: Option<u32>,
    /// Cylinder that it was read at, or that the injector came out of.
    pub cylinder: Option<u32>,
    /// Injector that it was read of.
    pub injector: Option<Uuid>,
    /// Who read it, and when: a correction later does not make it younger.
    pub signed: Signed,
    /// As the strip draws it.
    pub mark: Mark,
    /// What it says to the rules.
    pub said: Said,
    /// Rows that it was read in, and of these the ones that were off; none for a test without rows.
    rows: Vec<(String, bool)>,
    /// What it is worth for its injector, wherever that sits; none where it says nothing of one.
    pub of_injector: Option<Standing>,
    /// What it is worth for its cylinder, whatever sits there; none where it says nothing of one.
    pub of_cylinder: Option<Standing>,
    /// What it is worth for the place as it is now: this injector in this cylinder.
    pub here: Standing,
    /// What made it so, and by whom; none where it counts.
    pub since: Option<Signed>,
}

impl Stood {
    /// Whom it belongs to: what a test says of all at once is of all, whatever its lanes are of.
    pub fn of(&self) -> Of {
        if self.place.is_none() { Of::All } else { self.test.property().of }
    }

    /// When it was read.
    pub fn at(&self) -> Moment {
        self.signed.moment()
    }

    /// It says something of this place now.
    pub fn is_of(&self, seat: &Seat) -> bool {
        let injector = self.injector == Some(seat.injector);
        let cylinder = self.cylinder == Some(seat.cylinder);
        match self.of() {
            Of::Injector => injector,
            Of::Cylinder => cylinder,
            Of::Both => injector && cylinder,
            Of::All => false,
        }
    }

    /// As it stands under a reading that is not of now: with its label, where it left the engine.
    pub(crate) fn label(&self, file: &JobFile) -> String {
        let injector = self.injector.and_then(|id| file.injector(id));
        let label = injector.map(|one| one.label.trim()).filter(|label| !label.is_empty());
        match (self.here, label) {
            (Standing::Gone | Standing::BeforeNewPart, Some(label)) => words::removed(label),
            (standing, _) => standing.word().to_owned(),
        }
    }

    /// What is said of two readings of which this is one, where they contradict each other.
    pub(crate) fn contradiction(&self) -> String {
        let who = self.cylinder.map(|cylinder| crate::words::cylinders(&[cylinder]));
        words::contradictory(&who.unwrap_or_default(), self.test.title())
    }

    /// It is of this place, or was of its injector or its cylinder before something changed.
    fn was_of(&self, seat: &Seat) -> bool {
        self.injector == Some(seat.injector) || self.cylinder == Some(seat.cylinder)
    }

    /// It counts for this injector, wherever that is by now, off the engine too.
    pub fn counts_for(&self, injector: Uuid) -> bool {
        let half = self.of_injector.is_some_and(|half| half.counts() || half == Standing::Gone);
        half && self.injector == Some(injector)
    }

    /// A fault, and not only a hint or a doubt.
    pub fn is_bad(&self) -> bool {
        is_bad(self.mark)
    }
}

fn is_bad(mark: Mark) -> bool {
    match mark {
        Mark::TooMuch | Mark::TooLittle => true,
        Mark::Inside | Mark::Look | Mark::Undecided | Mark::Questioned | Mark::NotMeasured => false,
    }
}

/// Verdicts of a job, each as its set was taken.
#[derive(Debug, Clone, Copy)]
pub struct Verdicts<'a> {
    /// One for each return test.
    pub returns: &'a [Verdict],
    /// One for each check that is read cell by cell; none for one that cannot be judged.
    pub sheets: &'a [Option<&'a Verdict>],
    /// One for each bench session.
    pub benches: &'a [BenchJudged],
}

impl<'a> Verdicts<'a> {
    /// The verdict that something was read in.
    pub fn of(&self, source: Source) -> Option<&'a Verdict> {
        match source {
            Source::Return(at) => self.returns.get(at),
            Source::Sheet(at) => self.sheets.get(at).copied().flatten(),
            Source::Bench(session, at) => {
                self.benches.get(session)?.verdicts.get(at)?.verdict.as_ref()
            }
        }
    }

    /// The lane of it.
    pub fn lane(&self, stood: &Stood) -> Option<&'a Lane> {
        self.of(stood.source)?.lanes.iter().find(|lane| Some(lane.place) == stood.place)
    }
}

/// What counts now, oldest first.
pub fn stood(file: &JobFile, verdicts: Verdicts<'_>) -> Vec<Stood> {
    let mut all = read::all(file, verdicts);
    order::settle(file, &mut all, None);
    all
}

/// What counted at a moment: of everything that was read until then, by what had been done until then.
pub fn stood_at(file: &JobFile, verdicts: Verdicts<'_>, at: Moment) -> Vec<Stood> {
    let mut all = read::all(file, verdicts);
    all.retain(|one| one.at() <= at);
    order::settle(file, &mut all, Some(at));
    all
}

#[cfg(test)]
mod tests;
