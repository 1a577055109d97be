//! The made-up engine as it is by now: what was swapped, replaced, cleaned, written and put right on the way
//! follows from the log of the job.

use crate::case::Case;
use cobaltine_core::exercise::{ExerciseAct, SharedPart};
use cobaltine_core::record::{Event, JobFile};
use cobaltine_core::tests::bench::{BenchTest, RoundStage};
use cobaltine_engines::engine::{MadeEngine, Shared};
use cobaltine_engines::injector::Injector;
use uuid::Uuid;

/// What a cleaning takes away of the dirt.
const CLEANS: f64 = 0.9;
/// A code that belongs to another injector shifts by this, mm³: model of our own, as for a fault of size 0.2.
const WRONG_CODE_MM3: f64 = 1.0;
/// Before it is warmed up, °C.
pub const COLD_C: f64 = 21.0;

/// The engine of an exercise.
#[derive(Debug, Clone)]
pub struct Bay {
    /// As it is now.
    pub engine: MadeEngine,
    /// It ran until it was warm.
    pub warm: bool,
    /// Which injector of the job each injector of the engine is.
    pub injectors: Vec<Uuid>,
}

impl Bay {
    /// As the log leaves it.
    pub fn of(case: &Case, file: &JobFile) -> Self {
        let injectors: Vec<Uuid> = file.job.injectors.iter().map(|one| one.id).collect();
        let mut bay = Self { engine: case.job.engine.clone(), warm: false, injectors };
        for record in &file.events {
            bay.happened(case, file, &record.event);
        }
        bay.cleaned(file);
        bay.seated(file);
        bay
    }

    /// Coolant and fuel at the injectors, °C.
    pub fn celsius(&self) -> f64 {
        if self.warm { self.engine.warm_c.round() } else { COLD_C }
    }

    fn happened(&mut self, case: &Case, file: &JobFile, event: &Event) {
        if let Event::Exercise(ExerciseAct::WarmedUp) = event {
            self.warm = true;
        } else if let Event::Exercise(ExerciseAct::PutRight { part }) = event {
            put_right(&mut self.engine.shared, *part);
        } else if let Event::WriteEnded(end) = event
            && end.good
        {
            let begun = file.events.iter().find(|held| held.id == end.of);
            let Some(Event::WriteBegun { writes }) = begun.map(|held| &held.event) else { return };
            let at = begun.map(|held| held.signed.moment());
            let seats = file.seats(at);
            for write in writes {
                let seat = seats.iter().find(|seat| seat.cylinder == write.cylinder);
                let Some(at) = seat.and_then(|seat| self.place_of(seat.injector)) else { continue };
                let right = write.code.as_deref() == Some(own_code(case, at).as_str());
                self.engine.injectors[at].code_mm3 = if right { 0.0 } else { WRONG_CODE_MM3 };
            }
        }
    }

    /// Where an injector of the job stands among those of the engine.
    pub fn place_of(&self, injector: Uuid) -> Option<usize> {
        self.injectors.iter().position(|held| *held == injector)
    }

    /// Rounds of the bench that came after a cleaning.
    fn cleaned(&mut self, file: &JobFile) {
        for session in &file.bench {
            for round in session.rounds.iter().filter(|round| round.stage == RoundStage::Cleaned) {
                for tagged in &session.injectors {
                    let left_out = session.cells.iter().rev().find(|cell| {
                        cell.round == round.id
                            && cell.test == BenchTest::Cleaning
                            && cell.cell == "left_out"
                            && cell.tag == Some(tagged.tag)
                    });
                    let stays = left_out.is_some_and(|cell| cell.value == Some(1.0));
                    if let Some(at) = self.place_of(tagged.injector).filter(|_| !stays) {
                        self.engine.injectors[at] = self.engine.injectors[at].cleaned(CLEANS);
                    }
                }
            }
        }
    }

    /// Everyone into the cylinder where it sits now; one from outside is a new one.
    fn seated(&mut self, file: &JobFile) {
        for seat in file.seats(None) {
            let at = self.place_of(seat.injector).unwrap_or_else(|| {
                self.injectors.push(seat.injector);
                self.engine.injectors.push(Injector::new(self.engine.fuel));
                self.injectors.len() - 1
            });
            if let Some(held) = self.engine.seats.get_mut(seat.cylinder as usize - 1) {
                *held = at;
            }
        }
    }
}

fn put_right(shared: &mut Shared, part: SharedPart) {
    let sound = Shared::sound();
    match part {
        SharedPart::Fuel => (shared.foreign, shared.water) = (sound.foreign, sound.water),
        SharedPart::SuctionLine => shared.air = sound.air,
        SharedPart::FeedPressure => shared.feed = sound.feed,
        SharedPart::SupplyVoltage => shared.power = sound.power,
        SharedPart::HighPressure => shared.pump = sound.pump,
        SharedPart::Intake => shared.mixture = sound.mixture,
    }
}

/// The code on the body of an injector, by its place among those of the case.
pub fn own_code(case: &Case, at: usize) -> String {
    let bits = cobaltine_engines::draw::Draw::new(case.job.seed, 900 + at as u64).bits();
    format!("C{:07X}", bits as u32 & 0x0FFF_FFFF)
}

/// What the control unit holds as the engine comes in, cylinder 1 first. Those that are wrong were exchanged
/// among each other; a single one is of an injector that sat here before.
pub fn stored_codes(case: &Case) -> Vec<String> {
    let wrong: Vec<usize> = (0..case.job.engine.seats.len())
        .filter(|cylinder| case.job.engine.injectors[*cylinder].code_mm3 != 0.0)
        .collect();
    (0..case.job.engine.seats.len())
        .map(|cylinder| match wrong.iter().position(|one| *one == cylinder) {
            None => own_code(case, cylinder),
            Some(_) if wrong.len() == 1 => own_code(case, cylinder + 64),
            Some(at) => own_code(case, wrong[(at + 1) % wrong.len()]),
        })
        .collect()
}
