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
        let (at, _) = self.weights.at(fault.code)?;
        let why = words::fix_repeat_check_nothing(&fault.says);
        let one = self.proposal(at, &[], 0.0, why);
        Some(NextCheck { title: format!("{}, after the repair", one.title), ..one })
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
            let checks = self.weights.checks();
            let Some(at) = checks.iter().position(|check| check.id == id) else { continue };
            let check = &checks[at];
            // What a person left out stays left out, whatever waits for it.
            if !self.can(check) || self.declined(&check.step) {
                continue;
            }
            let of: Vec<u32> =
                asked.iter().filter(|(_, held)| held == id).map(|(c, _)| *c).collect();
            let held = next.iter().position(|one| one.id == id).map(|at| next.remove(at));
            let settled = held.map_or(0.0, |held| held.settles);
            let why = words::decision_waits(cylinders(&of).to_lowercase());
            let one = self.proposal(at, &of, settled, why);
            let again = begun(id) && one.cylinders.is_empty();
            let title = if again { format!("{}, repeated", one.title) } else { one.title };
            next.insert(0, NextCheck { title, ..one });
        }
        next.truncate(MOST);
    }
}
