//! Work after which something reads otherwise, from the log.

use super::{Stood, Test};
use crate::record::{Event, EventRecord, Injector, JobFile, Moment, Signed};
use crate::tests::property::Deed;
use uuid::Uuid;

/// One piece of work.
#[derive(Debug, Clone, Copy)]
pub(super) struct Done {
    pub deed: Deed,
    /// The injector that it was done to; none where all cylinders shared it.
    pub injector: Option<Uuid>,
    pub signed: Signed,
}

/// All of it, oldest first.
pub(super) fn done(file: &JobFile, stood: &[Stood]) -> Vec<Done> {
    let of = |injector: &Injector| {
        let all = file.deeds(injector.id).into_iter();
        let injector = Some(injector.id);
        all.map(move |(deed, signed)| Done { deed, injector, signed })
    };
    let mut all: Vec<Done> = file.every_injector().flat_map(of).collect();
    all.extend(repaired(stood).map(|signed| Done { deed: Deed::Repair, injector: None, signed }));
    all.sort_by_key(|one| one.signed.moment());
    all
}

/// When a check found a fault gone that it had found before and that all cylinders share.
fn repaired(stood: &[Stood]) -> impl Iterator<Item = Signed> {
    let shared = || stood.iter().filter(|one| one.place.is_none());
    shared().filter(|one| one.said.code.is_good()).filter_map(move |good| {
        let before = shared().rfind(|one| one.test == good.test && one.at() < good.at())?;
        before.said.code.is_fault().then_some(good.signed)
    })
}

/// Events after which injectors sit elsewhere, those that a person took back left out.
pub(super) fn moves(file: &JobFile) -> Vec<&EventRecord> {
    file.happened().filter(|record| record.event.moves()).collect()
}

/// The newest event after this moment that took this injector out of this cylinder.
pub(super) fn taken_out(
    moves: &[&EventRecord],
    cylinder: u32,
    since: Moment,
) -> Option<(bool, Signed)> {
    // A placing may take out any of them.
    let touches = |event: &Event| {
        if let Event::Swapped { one, other } = event {
            *one == cylinder || *other == cylinder
        } else if let Event::Replaced { injector, .. } = event {
            injector.cylinder == cylinder
        } else {
            true
        }
    };
    let mut later = moves.iter().filter(|record| record.signed.moment() > since);
    let first = later.rfind(|record| touches(&record.event))?;
    Some((matches!(first.event, Event::Replaced { .. }), first.signed))
}

/// The deeds that end what this test read of this injector after it was read; the newest first.
pub(super) fn ends<'a>(done: &'a [Done], one: &'a Stood) -> impl Iterator<Item = &'a Done> {
    let ended_by = Test::property(one.test).ended_by;
    done.iter().rev().filter(move |done| {
        ended_by.contains(&done.deed)
            && done.signed.moment() > one.at()
            && done.injector.is_none_or(|injector| one.injector == Some(injector))
    })
}
