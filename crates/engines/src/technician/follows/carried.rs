//! What was decided is carried out, and whoever drives is asked whether the complaint is gone; the search goes on
//! where it is not.

use super::{Desk, Judgement};
use crate::injector::Injector;
use crate::technician::Call;
use cobaltine_core::job::Command;
use cobaltine_core::record::{
    DecisionRecord, Event, EventRecord, Injector as Fitted, Part, WriteEnd,
};
use cobaltine_core::work::{ComplaintNow, Decision, SlotCode};

/// Minutes for the search after work that left the complaint, at least.
const AGAIN: f64 = 120.0;

impl Desk<'_> {
    /// Carries out what was decided and asks; whether there is more to look for.
    pub(super) fn goes_on(&mut self, judgement: &Judgement) -> Result<bool, String> {
        let did = self.carried_out(judgement)?;
        if !did || !self.file.told().complains() {
            return Ok(false);
        }
        let gone = self.asked()? == ComplaintNow::Gone;
        if !gone {
            // What was done makes new facts: what was asked before may be asked again.
            self.proposed.clear();
            self.budget = self.budget.max(self.work.minutes + AGAIN);
        }
        Ok(!gone)
    }

    /// Everything that is decided is signed, and what is to be done is done; whether anything was.
    fn carried_out(&mut self, judgement: &Judgement) -> Result<bool, String> {
        let mut decisions = Vec::with_capacity(judgement.positions.len());
        for at in &judgement.positions {
            let came = self.engine.seats[at.cylinder as usize - 1];
            if self.done.contains(&came) {
                continue;
            }
            let (id, signed) = (self.id(), self.signed());
            // What its cleaning did not help is replaced, whatever was decided before it.
            let renewed = self.work.calls[came] == Call::Renew;
            let decision = if renewed { Decision::Replace } else { at.ruling.decision };
            let (cylinder, reason) = (at.cylinder, "as proposed".to_owned());
            let proposed = None;
            decisions.push(DecisionRecord { id, cylinder, decision, reason, proposed, signed });
        }
        if let Some(signed) = decisions.last().map(|one| one.signed) {
            self.does(Command::Decide(decisions), signed)?;
        }
        let before = self.work.put_right.len();
        self.places(judgement);
        let mut did = self.work.put_right.len() > before;
        for cylinder in 0..self.engine.seats.len() {
            let came = self.engine.seats[cylinder];
            if self.done.contains(&came) {
                continue;
            }
            match self.work.calls[came] {
                // What stays with the place was put right there, where it was named.
                Call::Leave | Call::Undecided | Call::Harness | Call::Elsewhere => continue,
                // Done with the bench.
                Call::Clean => {}
                Call::Renew | Call::Adjust => self.renewed(cylinder, came)?,
                Call::Recode => self.recoded(cylinder, came)?,
            }
            self.done.push(came);
            did = true;
        }
        Ok(did)
    }

    /// A new one in its place.
    fn renewed(&mut self, cylinder: usize, came: usize) -> Result<(), String> {
        let (id, cylinder) = (self.id(), cylinder as u32 + 1);
        let label = format!("N{}-{cylinder}", self.job.seed);
        let injector = Fitted { id, cylinder, label };
        self.happened(Event::Replaced { injector, part: Part::New })?;
        self.engine.injectors[came] = Injector::new(self.engine.fuel);
        if self.engine.fuel.coded() { self.recoded(cylinder as usize - 1, came) } else { Ok(()) }
    }

    /// Its own code is captured, written and read back.
    fn recoded(&mut self, cylinder: usize, came: usize) -> Result<(), String> {
        self.engine.injectors[came].code_mm3 = 0.0;
        let (_, own) = self.hand().codes();
        let slot = SlotCode { cylinder: cylinder as u32 + 1, code: own.get(came).cloned() };
        let (of, signed) = (self.id(), self.signed());
        let event = Event::WriteBegun { writes: vec![slot] };
        self.does(Command::Happened(EventRecord { id: of, event, signed }), signed)?;
        let says = "read back".to_owned();
        self.happened(Event::WriteEnded(WriteEnd { of, good: true, says }))?;
        self.read_codes()
    }
}
