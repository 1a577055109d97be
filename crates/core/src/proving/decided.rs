//! What was decided on, place by place: by which reading, as it counted when it was decided.

use super::repeat::{Span, fails};
use crate::judged::Judged;
use crate::record::{Event, EventRecord, JobFile, Moment, Seat};
use crate::standing::{Standing, Stood, Test, Verdicts, stood_at};
use crate::work::Decision;
use uuid::Uuid;

/// A place whose repair is to be proven.
#[derive(Debug)]
pub(super) struct Condemned {
    pub cylinder: u32,
    /// What showed the fault; none where the place was not measured before it was worked on.
    pub by: Option<Stood>,
}

/// Places that were decided on or worked on, and those that were left although they had failed.
pub(super) fn condemned(
    file: &JobFile,
    judged: &Judged,
    verdicts: Verdicts<'_>,
    span: &Span,
) -> Vec<Condemned> {
    let fresh = |at: Moment| span.since.is_none_or(|since| at >= since);
    let mut found = Vec::new();
    for cylinder in 1..=file.job.intake.layout.cylinders {
        let decision = file.decisions.iter().rfind(|one| one.cylinder == cylinder);
        let decision = decision.filter(|one| fresh(one.signed.moment()));
        let seats = file.seats(None);
        let Some(now) = seats.iter().find(|seat| seat.cylinder == cylinder) else { continue };
        let touched = work_on(file, now).filter(|(at, _)| fresh(*at)).min_by_key(|(at, _)| *at);
        // Just before the work: the event itself has moved them already.
        let touched = touched.map(|(at, injector)| (at.just_before(), injector));
        let decided = decision.map(|one| (one.signed.moment(), None));
        let works = touched.is_some() || decision.is_some_and(|one| one.decision.works());
        let (mut measured, mut by) = (false, None);
        for (at, injector) in decided.into_iter().chain(touched) {
            let (then, seats) = (stood_at(file, verdicts, at), file.seats(Some(at)));
            let of = |seat: &&Seat| match injector {
                Some(injector) => seat.injector == injector,
                None => seat.cylinder == cylinder,
            };
            let Some(seat) = seats.iter().find(of) else { continue };
            measured |= then.iter().any(|one| is_here(one, seat) && one.here.counts());
            by = by.or_else(|| showed(&then, seat, works));
        }
        if decision.is_none() && touched.is_none() {
            // Nothing was decided yet: what counts now is what a repair would have to answer.
            let own = |one: &Stood| one.counts_for(now.injector);
            let moved = judged.stood.iter().rfind(|one| one.is_bad() && own(one));
            by = showed(&judged.stood, now, false).or_else(|| moved.cloned());
        }
        measured |= judged.stood.iter().any(|one| is_here(one, now) && one.here.counts());
        if by.is_some() || (works && !measured) {
            found.push(Condemned { cylinder, by });
        }
    }
    found
}

/// When the injector of a place was put there, cleaned or set; with the injector, where the work was done to it.
fn work_on<'a>(
    file: &'a JobFile,
    now: &'a Seat,
) -> impl Iterator<Item = (Moment, Option<Uuid>)> + 'a {
    let replaced = file.happened().filter_map(|record| {
        let Event::Replaced { injector, .. } = &record.event else { return None };
        (injector.cylinder == now.cylinder).then_some((record.signed.moment(), None))
    });
    let deeds = file.deeds_here(now.injector).into_iter();
    replaced.chain(deeds.map(|(_, signed)| (signed.moment(), Some(now.injector))))
}

/// What condemned the injector that was taken out by an event: the test and what it showed.
pub(crate) fn condemned_by(
    file: &JobFile,
    judged: &Judged,
    replaced: &EventRecord,
) -> Option<(Test, String)> {
    let Event::Replaced { injector, .. } = &replaced.event else { return None };
    let before = replaced.signed.moment().just_before();
    judged.with_verdicts(|verdicts| {
        let seats = file.seats(Some(before));
        let seat = seats.iter().find(|seat| seat.cylinder == injector.cylinder)?;
        let by = showed(&stood_at(file, verdicts, before), seat, true)?;
        let shown = verdicts.lane(&by)?.shown.clone();
        let unit = verdicts.of(by.source).map(|verdict| verdict.unit.clone()).unwrap_or_default();
        Some((by.test, format!("{shown} {unit}").trim().to_owned()))
    })
}

/// The reading that showed the fault of a place: on the engine before the bench, a fault before a hint, the
/// one furthest off first.
fn showed(then: &[Stood], seat: &Seat, works: bool) -> Option<Stood> {
    let counts = then
        .iter()
        .filter(|one| is_here(one, seat) && (one.here.counts() || one.here == Standing::InDoubt));
    let failed = counts.filter(|one| one.is_bad() || (works && fails(one.mark)));
    failed
        .max_by(|one, other| {
            let engine = |one: &Stood| matches!(one.test, Test::Engine(_));
            let far = |one: &Stood| one.said.sigmas.unwrap_or_default().abs();
            (engine(one), one.is_bad())
                .cmp(&(engine(other), other.is_bad()))
                .then(far(one).total_cmp(&far(other)))
                .then(one.at().cmp(&other.at()))
        })
        .cloned()
}

fn is_here(one: &Stood, seat: &Seat) -> bool {
    one.place.is_some() && one.is_of(seat)
}

impl Decision {
    /// Something is done about the place because of it.
    pub(crate) fn works(self) -> bool {
        match self {
            Self::Clean | Self::Adjust | Self::Recode | Self::Replace | Self::RepairHarness => true,
            Self::Leave | Self::Match | Self::LookElsewhere | Self::MeasureAgain => false,
        }
    }
}
