//! What was done to the injectors of a job besides moving them.

use super::{JobFile, Moment, Signed};
use crate::tests::property::{Deed, Property};
use uuid::Uuid;

impl JobFile {
    /// What was done to an injector at a bench, oldest first.
    pub(crate) fn deeds(&self, injector: Uuid) -> Vec<(Deed, Signed)> {
        let of = self.bench.iter().flat_map(|session| {
            let tagged = session.injectors.iter().filter(|one| one.injector == injector);
            tagged.flat_map(|one| session.deeds(one.tag)).collect::<Vec<_>>()
        });
        let mut all: Vec<(Deed, Signed)> = of.collect();
        all.sort_by_key(|(_, signed)| signed.moment());
        all
    }

    /// The same since it sits in this engine: what was done to one from elsewhere before is not of this job.
    pub(crate) fn deeds_here(&self, injector: Uuid) -> Vec<(Deed, Signed)> {
        let fitted = self.fitted_at(injector);
        let mut all = self.deeds(injector);
        all.retain(|(_, signed)| fitted.is_none_or(|fitted| signed.moment() > fitted));
        all
    }

    /// When this injector was last cleaned or set, as far as that changes such a property.
    pub(crate) fn worked_at(&self, injector: Uuid, property: Property) -> Option<Moment> {
        let of = self.deeds(injector).into_iter();
        of.rev()
            .find(|(deed, _)| property.ended_by.contains(deed))
            .map(|(_, signed)| signed.moment())
    }

    /// What is read of such a property now is of another set than at that moment: injectors moved, or one
    /// that sits here was worked on.
    pub(crate) fn changed_since(&self, at: Moment, property: Property) -> bool {
        let worked =
            |injector| self.worked_at(injector, property).is_some_and(|worked| worked > at);
        self.swapped_since(at) || self.seats(None).iter().any(|seat| worked(seat.injector))
    }
}
