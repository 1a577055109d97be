//! What comes before every other check: a repair, and what decisions wait for.

use super::super::collect::shared_fault;
use super::{Ask, MOST, NextCheck};
use crate::judgement::words;
use crate::words::cylinders;

impl Ask<'_> {
    /// The repair of a proven shared fault and its own check again: nothing else is asked.
    pub(in crate::judgement) fn only_the_repair(&self) -> Option<NextCheck> {
        self.plan.first.as_ref()?;
        let fault = shared_fault(self.findings)?;
        let check = self.weights.check_of(fault.code)?;
        let why = words::fix_repeat_check_nothing(&fault.says);
        Some(self.proposal(check, format!("{}, after the repair", check.title), 0.0, why))
    }

    /// Puts the checks that decisions wait for before the others.
    pub(in crate::judgement) fn waited_for(
        &self,
        next: &mut Vec<NextCheck>,
        asked: &[(u32, String)],
    ) {
        let mut ids: Vec<&str> = asked.iter().map(|(_, id)| id.as_str()).collect();
        ids.sort_unstable();
        ids.dedup();
        // Most asked for last, so that it ends up first; of two the one that is begun already.
        let begun = |id: &str| self.findings.iter().any(|one| one.check == id);
        ids.sort_by_key(|id| (asked.iter().filter(|(_, held)| held == id).count(), begun(id)));
        for id in ids {
            let Some(check) = self.weights.checks().iter().find(|check| check.id == id) else {
                continue;
            };
            // What a person left out stays left out, whatever waits for it.
            if !self.can(check) || self.declined(&check.step) {
                continue;
            }
            let of: Vec<u32> =
                asked.iter().filter(|(_, held)| held == id).map(|(c, _)| *c).collect();
            let held = next.iter().position(|one| one.id == id).map(|at| next.remove(at));
            let settled = held.map_or(0.0, |held| held.settles);
            let title =
                if begun(id) { format!("{}, repeated", check.title) } else { check.title.clone() };
            let why = words::decision_waits(cylinders(&of).to_lowercase());
            next.insert(0, self.proposal(check, title, settled, why));
        }
        next.truncate(MOST);
    }
}
