//! The mark and the sentence of each place by now, and the one headline of the job.
//!
//! A fault that counts is never hidden by another check that found nothing. Else the check that was read
//! last in the order of the trade speaks: the bench where nothing was read on the engine after it, the
//! return test, then the check that found most. What was read before something changed is not of now: the
//! place then says what it waits for.

use super::{Source, Standing, Stood, Test, Verdicts, is_bad, words};
use crate::mark::Mark;
use crate::record::{JobFile, Seat};
use crate::tests::Verdict;
use crate::tests::electrical::Electrical;
use crate::tests::swap::SwapVerdict;
use crate::words::cylinders;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// One place by now.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PlaceNow {
    /// Cylinder number.
    pub cylinder: u32,
    /// The injector that sits there.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// As the strip draws it.
    pub mark: Mark,
    /// The check that speaks; none where nothing counts.
    pub check: Option<String>,
    /// The word under the mark; what it waits for where nothing counts.
    pub word: String,
    /// In a sentence; may be empty.
    pub sentence: String,
    /// Why what was read there before says nothing by now; none where something counts or nothing was read.
    pub standing: Option<Standing>,
}

/// A job by now.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct Now {
    /// The sentence of the job; empty before anything was read.
    pub headline: String,
    /// In the order of the strip.
    pub places: Vec<PlaceNow>,
}

impl Now {
    /// The mark of a cylinder.
    pub fn mark(&self, cylinder: u32) -> Mark {
        let held = self.places.iter().find(|place| place.cylinder == cylinder);
        held.map_or(Mark::NotMeasured, |place| place.mark)
    }
}

/// What several checks together say besides.
pub(crate) struct Beside<'a> {
    pub electrical: Option<&'a Electrical>,
    /// The newest conclusion of a swap.
    pub swap: Option<&'a SwapVerdict>,
}

/// The job by now.
pub(crate) fn now(
    file: &JobFile,
    all: &[Stood],
    verdicts: Verdicts<'_>,
    beside: &Beside<'_>,
) -> Now {
    let seats = file.seats(None);
    let order = file.job.intake.layout.strip().concat();
    let seats: Vec<&Seat> =
        order.iter().filter_map(|c| seats.iter().find(|seat| seat.cylinder == *c)).collect();
    let speaking = Speaking { all, verdicts, seats: seats.clone() };
    let chosen: Vec<Option<&Stood>> = seats.iter().map(|seat| speaking.of(seat)).collect();
    let places: Vec<PlaceNow> =
        seats.iter().zip(&chosen).map(|(seat, one)| speaking.place(seat, *one)).collect();
    let headline = speaking.headline(&places, &chosen, beside);
    Now { headline, places }
}

struct Speaking<'a> {
    all: &'a [Stood],
    verdicts: Verdicts<'a>,
    seats: Vec<&'a Seat>,
}

impl<'a> Speaking<'a> {
    /// What speaks for a place.
    fn of(&self, seat: &Seat) -> Option<&'a Stood> {
        let here = self.all.iter().filter(|one| {
            let says = one.here.counts() || one.here == Standing::InDoubt;
            says && one.is_of(seat) && one.mark != Mark::NotMeasured
        });
        let pending = self.pending(seat).is_some();
        here.filter(|one| !pending || one.is_bad() || one.here == Standing::InDoubt).min_by_key(
            |one| {
                let pressing = if one.here == Standing::InDoubt {
                    1
                } else if one.is_bad() {
                    0
                } else {
                    2
                };
                (pressing, self.rank(one))
            },
        )
    }

    /// A fault that something was done about, or that another place has now, as long as its test was not
    /// repeated here: no other check speaks in its place. What the bench found of one that was taken out
    /// says nothing of the one that sits here.
    fn pending(&self, seat: &Seat) -> Option<&'a Stood> {
        let repeated = |bad: &Stood| {
            self.all.iter().any(|one| {
                let says = one.here.counts() || one.here == Standing::InDoubt;
                one.test == bad.test && says && one.is_of(seat)
            })
        };
        let left = |one: &Stood| one.here == Standing::Gone && matches!(one.test, Test::Bench(_));
        let ended = self.all.iter().rev().filter(|one| one.is_bad() && one.here.since().is_some());
        ended.filter(|one| one.was_of(seat) && !left(one)).find(|one| !repeated(one))
    }

    /// Who speaks before whom.
    fn rank(
        &self,
        one: &Stood,
    ) -> (u8, std::cmp::Reverse<u8>, std::cmp::Reverse<crate::moment::Moment>) {
        let outcome = self.verdicts.of(one.source).map_or(0, |verdict| verdict.outcome as u8);
        let by_outcome = std::cmp::Reverse(outcome);
        let newest = std::cmp::Reverse(one.at());
        match one.source {
            Source::Bench(..) if self.bench_is_newest() => (0, by_outcome, newest),
            Source::Return(_) => (1, std::cmp::Reverse(0), newest),
            Source::Sheet(_) => (2, by_outcome, newest),
            Source::Bench(..) => (3, by_outcome, newest),
        }
    }

    /// Nothing was read on the engine after it.
    fn bench_is_newest(&self) -> bool {
        self.all.last().is_some_and(|one| matches!(one.source, Source::Bench(..)))
    }

    fn place(&self, seat: &Seat, one: Option<&Stood>) -> PlaceNow {
        let who = cylinders(&[seat.cylinder]);
        let place = PlaceNow {
            cylinder: seat.cylinder,
            injector: seat.injector,
            label: seat.label.clone(),
            mark: Mark::NotMeasured,
            check: None,
            word: String::new(),
            sentence: String::new(),
            standing: None,
        };
        let Some(one) = one else {
            let mut was = self.all.iter().filter(|one| one.was_of(seat));
            let newest = was.rfind(|one| one.here.since().is_some());
            let pending = self.pending(seat);
            let Some(ended) = pending.or(newest) else { return place };
            let what = ended.here.since().unwrap_or_default();
            return PlaceNow {
                word: ended.here.word().to_owned(),
                sentence: match pending {
                    Some(one) => words::not_repeated_since(&who, one.test.title(), what),
                    None => words::not_measured_since(&who, what),
                },
                standing: Some(ended.here),
                ..place
            };
        };
        let check = Some(one.test.title().to_owned());
        if one.here == Standing::InDoubt {
            return PlaceNow {
                mark: Mark::Undecided,
                check,
                word: one.here.word().to_owned(),
                sentence: one.contradiction(),
                standing: Some(one.here),
                ..place
            };
        }
        let lane = self.verdicts.lane(one);
        PlaceNow {
            mark: one.mark,
            check,
            word: lane.map(|lane| lane.word.clone()).unwrap_or_default(),
            sentence: lane.map(|lane| lane.sentence.clone()).unwrap_or_default(),
            ..place
        }
    }

    fn headline(
        &self,
        places: &[PlaceNow],
        chosen: &[Option<&Stood>],
        beside: &Beside<'_>,
    ) -> String {
        let mut says: Vec<String> = Vec::new();
        let leads = chosen.iter().flatten().min_by_key(|one| {
            (u8::from(one.here == Standing::InDoubt), u8::from(!one.is_bad()), self.rank(one))
        });
        let returned = chosen.iter().flatten().any(|one| matches!(one.source, Source::Return(_)));
        let swap = beside.swap;
        let electrical = beside.electrical.filter(|one| {
            let still = leads.is_some_and(|leads| self.still(leads));
            !returned && !one.named.is_empty() && still
        });
        if let Some(swap) = swap {
            says.push(swap.headline.clone());
        } else if let (Some(electrical), true) =
            (electrical, leads.is_some_and(|one| matches!(one.source, Source::Sheet(_))))
        {
            says.push(electrical.headline.clone());
        } else if let Some(leads) = leads {
            says.extend(self.lead(leads));
        }
        let spoken = |one: &Stood| {
            leads.is_some_and(|leads| leads.source == one.source) || electrical.is_some()
        };
        // What else is at fault, what contradicts itself, and what was not measured since.
        for (place, one) in places.iter().zip(chosen) {
            let Some(one) = one else { continue };
            let besides = is_bad(place.mark) && !spoken(one) && swap.is_none();
            if one.here == Standing::InDoubt {
                says.push(place.sentence.clone());
            } else if besides {
                says.push(words::of_place(&cylinders(&[place.cylinder]), &place.sentence));
            }
        }
        says.extend(self.waiting(places));
        says.retain(|one| !one.is_empty());
        says.dedup();
        says.join(" ")
    }

    /// Places that wait for a reading, those that wait for the same together.
    fn waiting(&self, places: &[PlaceNow]) -> Vec<String> {
        let mut by: Vec<(Option<&'static str>, &'static str, Vec<u32>)> = Vec::new();
        for place in places.iter().filter(|place| place.check.is_none()) {
            let Some(what) = place.standing.and_then(Standing::since) else { continue };
            let seat = Seat {
                cylinder: place.cylinder,
                injector: place.injector,
                label: String::new(),
                came_from: place.cylinder,
            };
            let test = self.pending(&seat).map(|one| one.test.title());
            match by.iter_mut().find(|(held, since, _)| (*held, *since) == (test, what)) {
                Some((.., of)) => of.push(place.cylinder),
                None => by.push((test, what, vec![place.cylinder])),
            }
        }
        let says = by.into_iter().map(|(test, what, of)| match test {
            Some(test) => words::not_repeated_since(&cylinders(&of), test, what),
            None => words::not_measured_since(&cylinders(&of), what),
        });
        says.collect()
    }

    /// The sentence of the test that leads: its own where every lane of it counts, else that of its lanes
    /// that do.
    fn lead(&self, leads: &Stood) -> Option<String> {
        let verdict = self.verdicts.of(leads.source)?;
        if leads.here == Standing::InDoubt {
            return None;
        }
        if self.still(leads) {
            return Some(whole(leads.test, verdict));
        }
        // A sentence for each fault; of the rest only what cannot be told, together.
        let (mut faults, mut open): (Vec<String>, Vec<(&str, Vec<u32>)>) = (Vec::new(), Vec::new());
        for one in self.lanes(leads.source).filter(|one| one.here.counts()) {
            let (Some(lane), Some(cylinder)) = (self.verdicts.lane(one), self.sits(one)) else {
                continue;
            };
            match lane.mark {
                Mark::Inside | Mark::NotMeasured => {}
                mark if is_bad(mark) => {
                    faults.push(words::of_place(&cylinders(&[cylinder]), &lane.sentence));
                }
                Mark::TooMuch
                | Mark::TooLittle
                | Mark::Look
                | Mark::Undecided
                | Mark::Questioned => match open.iter_mut().find(|(word, _)| *word == lane.word) {
                    Some((_, of)) => of.push(cylinder),
                    None => open.push((&lane.word, vec![cylinder])),
                },
            }
        }
        let open =
            open.iter().map(|(word, of)| words::of_place(&cylinders(of), &format!("{word}.")));
        faults.extend(open);
        Some(faults.join(" "))
    }

    fn lanes(&self, source: Source) -> impl Iterator<Item = &'a Stood> {
        self.all.iter().filter(move |one| one.source == source && one.place.is_some())
    }

    /// Everything that its test read counts, and sits where it was read: what it says of the set holds.
    fn still(&self, leads: &Stood) -> bool {
        // The bench speaks of tags: of those of another job it is said by cylinder.
        let bench = matches!(leads.source, Source::Bench(..));
        let sits = |one: &Stood| match one.cylinder {
            Some(_) if bench => true,
            cylinder => self.sits(one) == cylinder,
        };
        self.lanes(leads.source).all(|one| one.here.counts() && sits(one))
    }

    /// The cylinder that a reading is of by now.
    fn sits(&self, one: &Stood) -> Option<u32> {
        self.seats.iter().find(|seat| one.is_of(seat)).map(|seat| seat.cylinder)
    }
}

fn whole(test: Test, verdict: &Verdict) -> String {
    match test {
        Test::Engine(_) => verdict.headline.clone(),
        Test::Bench(test) => words::on_bench(&test.title().to_lowercase(), &verdict.headline),
    }
}
