//! A check as a view draws it: its words, cautions, start conditions and cells.

use super::EngineTest;
use crate::caution::{self, Caution, Work};
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::named::named;
use crate::start::StartForm;
use crate::tests::cell::{Cell, CellForm};
use crate::work::Stage;
use serde::Serialize;
use utoipa::ToSchema;

named! {
    /// What can be recorded.
    RecordedKind {
        Sound = sound,
        Ramp = ramp,
        Cranking = cranking,
    }
}

/// What is recorded for a check.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct Recorded {
    /// A sound or a current of each injector, or the current of the starter.
    pub kind: RecordedKind,
    /// The condition that says what drove it: a cell of the set.
    pub drive: &'static str,
}

/// A check as a view draws it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct SheetForm {
    /// Which.
    pub id: EngineTest,
    /// Its name.
    pub title: String,
    /// Its name where there is little room.
    pub short: String,
    /// What it measures and how, in a sentence or two.
    pub says: String,
    /// The cautions of its step.
    pub cautions: Vec<Caution>,
    /// What has to be so before it.
    pub start: Vec<StartForm>,
    /// Minutes that it usually takes.
    pub minutes: u32,
    /// What has to be at hand, and what is used up.
    pub tools: String,
    /// The stage that it belongs to.
    pub stage: Stage,
    /// The instrument that it is read with, when that matters.
    pub instrument: Option<InstrumentKind>,
    /// What is recorded for it, in place of typing.
    pub recorded: Option<Recorded>,
    /// Cells of the whole set.
    pub set: Vec<CellForm>,
    /// Cells of each cylinder.
    pub each: Vec<CellForm>,
}

impl EngineTest {
    /// What is recorded for it, in place of typing.
    pub fn recorded(self) -> Option<Recorded> {
        self.spec().recorded
    }

    /// Work of its kind whose hazards depend on the fuel system.
    pub(crate) fn work(self) -> Option<Work> {
        self.spec().work
    }

    /// The cautions of its step on this fuel system.
    pub fn cautions(self, fuel: FuelSystem) -> Vec<Caution> {
        let more = self.work().map(|work| work.cautions(fuel)).unwrap_or_default();
        caution::with(self.spec().cautions, &more)
    }

    /// What a view needs to draw it; with the cautions of a fuel system where one is known.
    pub fn form(self, fuel: Option<FuelSystem>) -> SheetForm {
        let spec = self.spec();
        let cells =
            |cells: &[Cell]| cells.iter().filter(|cell| !cell.retired).map(Cell::form).collect();
        SheetForm {
            id: self,
            title: spec.title.to_owned(),
            short: spec.short.to_owned(),
            says: spec.says.to_owned(),
            cautions: fuel.map_or_else(|| spec.cautions.to_vec(), |fuel| self.cautions(fuel)),
            start: spec.start.iter().map(|id| id.form()).collect(),
            minutes: spec.minutes,
            tools: spec.tools.to_owned(),
            stage: spec.stage,
            instrument: spec.instrument,
            recorded: spec.recorded,
            set: cells(spec.set),
            each: cells(spec.each),
        }
    }
}
