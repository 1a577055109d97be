//! Where the injectors sit: as they came in, and after everything that moved or replaced one.

use super::{Event, EventRecord, Injector, JobFile, Moment};
use crate::record::words;
use crate::tests::bench::Tagged;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// An injector and the cylinder that it went to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Placing {
    /// The injector.
    pub injector: Uuid,
    /// Cylinder number.
    pub cylinder: u32,
}

/// An injector where it sits now.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Seat {
    /// Cylinder number.
    pub cylinder: u32,
    /// The injector.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// The cylinder that it came in.
    pub came_from: u32,
}

impl JobFile {
    /// What happened, without the swaps that a person took back and the taking back itself.
    pub(crate) fn happened(&self) -> impl Iterator<Item = &EventRecord> {
        let undone: Vec<Uuid> = self
            .events
            .iter()
            .filter_map(|held| {
                let Event::SwapUndone { of, .. } = &held.event else { return None };
                Some(*of)
            })
            .collect();
        self.events.iter().filter(move |held| !undone.contains(&held.id))
    }

    /// The injectors as they sat at a moment; at the end of all events without one.
    pub fn seats(&self, at: Option<Moment>) -> Vec<Seat> {
        self.after(self.happened().filter(|e| at.is_none_or(|at| e.signed.moment() <= at)))
    }

    /// The injectors as they sat just before an event.
    pub fn seats_before(&self, event: Uuid) -> Vec<Seat> {
        self.after(self.happened().take_while(|e| e.id != event))
    }

    fn after<'a>(&'a self, happened: impl Iterator<Item = &'a EventRecord>) -> Vec<Seat> {
        let mut sits: Vec<(u32, &Injector)> =
            self.job.injectors.iter().map(|injector| (injector.cylinder, injector)).collect();
        for event in happened {
            moved(&mut sits, &event.event);
        }
        sits.sort_by_key(|(cylinder, _)| *cylinder);
        sits.into_iter()
            .map(|(cylinder, injector)| Seat {
                cylinder,
                injector: injector.id,
                label: injector.label.clone(),
                came_from: injector.cylinder,
            })
            .collect()
    }

    /// What sat in a cylinder at a moment.
    pub fn seat_at(&self, cylinder: Option<u32>, at: Moment) -> Option<Seat> {
        self.seats(Some(at)).into_iter().find(|seat| Some(seat.cylinder) == cylinder)
    }

    /// The injector that sat in a cylinder at a moment.
    pub fn injector_at(&self, cylinder: Option<u32>, at: Moment) -> Option<Uuid> {
        self.seat_at(cylinder, at).map(|seat| seat.injector)
    }

    /// The injector of this seat came in this job, and in this cylinder.
    pub(crate) fn sits_as_it_came(&self, seat: &Seat) -> bool {
        let came = self.job.injectors.iter().any(|one| one.id == seat.injector);
        came && seat.came_from == seat.cylinder
    }

    /// When injectors last changed places.
    pub fn moved_at(&self) -> Option<Moment> {
        let moved = self.happened().filter(|e| e.event.moves());
        moved.map(|e| e.signed.moment()).max()
    }

    /// Injectors changed places after this moment.
    pub fn swapped_since(&self, at: Moment) -> bool {
        self.moved_at().is_some_and(|moved| moved > at)
    }

    /// Why injectors cannot be placed so, if that is the case: those named have to change places
    /// among themselves.
    pub fn placing_refused(&self, seats: &[Placing]) -> Option<&'static str> {
        let sits = self.seats(None);
        let from = |one: &Placing| sits.iter().find(|s| s.injector == one.injector);
        let from: Option<Vec<u32>> =
            seats.iter().map(|one| from(one).map(|seat| seat.cylinder)).collect();
        let Some(mut from) = from else {
            return Some(words::INJECTOR_NOT_PART_ENGINE);
        };
        let mut to: Vec<u32> = seats.iter().map(|one| one.cylinder).collect();
        from.sort_unstable();
        to.sort_unstable();
        (from != to).then_some(words::TWO_INJECTORS_WOULD_ONE)
    }

    /// It hung on the bench for this job, or was fitted here later.
    pub fn is_ours(&self, one: &Tagged) -> bool {
        one.job == self.job.id || self.fitted_at(one.injector).is_some()
    }

    /// When an injector that did not come in with this job was fitted.
    pub(crate) fn fitted_at(&self, id: Uuid) -> Option<Moment> {
        self.events.iter().find_map(|record| {
            let Event::Replaced { injector, .. } = &record.event else { return None };
            (injector.id == id).then_some(record.signed.moment())
        })
    }

    /// An injector of this job, or one that was fitted in the place of one.
    pub fn injector(&self, id: Uuid) -> Option<&Injector> {
        self.every_injector().find(|one| one.id == id)
    }

    /// All that came in, then all that were fitted in their places.
    pub fn every_injector(&self) -> impl Iterator<Item = &Injector> {
        let fitted = self.events.iter().filter_map(|e| {
            let Event::Replaced { injector, .. } = &e.event else { return None };
            Some(injector)
        });
        self.job.injectors.iter().chain(fitted)
    }
}

/// Moves injectors as an event says; one that does not fit what sits there moves nothing.
fn moved<'a>(sits: &mut [(u32, &'a Injector)], event: &'a Event) {
    if let Event::Swapped { one, other } = event {
        for (cylinder, _) in sits {
            if cylinder == one {
                *cylinder = *other;
            } else if cylinder == other {
                *cylinder = *one;
            }
        }
    } else if let Event::Placed { seats } = event {
        let to = |injector: &Injector| seats.iter().find(|one| one.injector == injector.id);
        let mut from: Vec<u32> =
            sits.iter().filter(|(_, i)| to(i).is_some()).map(|(c, _)| *c).collect();
        let mut into: Vec<u32> = seats.iter().map(|one| one.cylinder).collect();
        from.sort_unstable();
        into.sort_unstable();
        if from == into {
            for (cylinder, injector) in sits {
                *cylinder = to(injector).map_or(*cylinder, |one| one.cylinder);
            }
        }
    } else if let Event::Replaced { injector, .. } = event {
        for (_, held) in sits.iter_mut().filter(|(cylinder, _)| *cylinder == injector.cylinder) {
            *held = injector;
        }
    }
}
