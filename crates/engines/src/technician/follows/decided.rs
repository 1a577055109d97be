//! What the program says at the end, as calls that can be scored; and what is decided again after a cleaning.

use super::{Desk, Judgement, Tools, Why, With};
use crate::technician::{Call, Seen, Stated};
use cobaltine_core::said::Lack;
use cobaltine_core::work::Decision;

impl Desk<'_> {
    /// What was decided to be cleaned is, and what is still off afterwards is decided again.
    pub(super) fn cleaned(&mut self, tools: &Tools) -> Result<(), String> {
        let calls = self.work.calls.clone();
        let those: Vec<usize> = (0..calls.len())
            .filter(|at| calls[*at] == Call::Clean && !self.done.contains(at))
            .collect();
        if those.is_empty() {
            return Ok(());
        }
        self.clean(&those)?;
        let (after, _) = self.judged(tools)?;
        for at in &after.positions {
            let came = self.engine.seats[at.cylinder as usize - 1];
            let renew = match at.ruling.decision {
                Decision::Replace => true,
                Decision::Adjust => at.ruling.why == Why::MapWorn,
                Decision::Leave
                | Decision::Clean
                | Decision::Recode
                | Decision::Match
                | Decision::RepairHarness
                | Decision::LookElsewhere
                | Decision::MeasureAgain => false,
            };
            if renew && those.contains(&came) {
                self.work.calls[came] = Call::Renew;
                self.work.why[came] = at.ruling.why.name();
            }
        }
        Ok(())
    }

    /// What it says at the end, by the cylinder that an injector came in.
    pub(super) fn decide(&mut self, judgement: &Judgement) {
        self.work.why.resize(self.engine.seats.len(), "");
        let settled = |at: usize| {
            self.done.contains(&at)
                || self.work.put_right.iter().any(|(cylinder, _)| *cylinder == at)
        };
        let settled: Vec<usize> = (0..self.engine.seats.len()).filter(|at| settled(*at)).collect();
        self.work.stated.retain(|one| settled.contains(&one.cylinder));
        let speaks = judgement.findings.iter().filter(|one| one.of_injector && one.of_cylinder);
        // What is asked about is not yet seen.
        let speaks = speaks.filter(|one| !one.lacks.contains(&Lack::LikeSlip));
        self.work.seen = speaks
            .filter_map(|one| {
                // What was read of an injector while it sat elsewhere is not of one place.
                let came =
                    one.injector.and_then(|id| self.came.iter().position(|held| *held == id));
                if one.injector.is_some() && came.is_none() {
                    // One that was fitted since.
                    return None;
                }
                let now = one.cylinder.map(|cylinder| cylinder as usize - 1);
                let cylinder = match (now, came) {
                    (Some(now), Some(came)) if now != came => return None,
                    (now, came) => now.or(came),
                };
                Some(Seen { check: one.check.clone(), outcome: one.code.name(), cylinder })
            })
            .collect();
        for (cylinder, call) in self.work.put_right.clone() {
            self.work.calls[cylinder] = call;
        }
        for at in &judgement.positions {
            let now = at.cylinder as usize - 1;
            let came = self.engine.seats[now];
            if settled.contains(&now) || settled.contains(&came) {
                continue;
            }
            let call = match at.ruling.decision {
                Decision::Leave | Decision::Match => Call::Leave,
                Decision::Clean => Call::Clean,
                // A valve or a guide is not set: what a worn map asks for is reconditioning.
                Decision::Adjust if at.ruling.why == Why::MapWorn => Call::Renew,
                Decision::Adjust => Call::Adjust,
                Decision::Recode => Call::Recode,
                Decision::Replace => Call::Renew,
                Decision::RepairHarness => Call::Harness,
                Decision::LookElsewhere => Call::Elsewhere,
                Decision::MeasureAgain => Call::Undecided,
            };
            // What stays with the place is called there, what goes along at the injector.
            let of_place = matches!(call, Call::Harness | Call::Elsewhere);
            self.work.calls[if of_place { now } else { came }] = call;
            self.work.why[came] = at.ruling.why.name();
            for ranked in &at.ranked {
                let Some(cause) = ranked.cause else { continue };
                let stays = cause.with() == With::Cylinder;
                let cylinder = if stays { now } else { came };
                let cause: &'static str = cause.name();
                self.work.stated.push(Stated { cylinder, cause, odds: ranked.p });
            }
        }
    }
}
