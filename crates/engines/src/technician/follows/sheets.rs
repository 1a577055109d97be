//! Checks that are read cell by cell, and trim codes, as they are put into the job.

use super::Desk;
use crate::technician::library;
use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::job::Command;
use cobaltine_core::library::LimitEntry;
use cobaltine_core::record::{CellReading, Event, SheetRecord};
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::{Capture, SlotCode};
use uuid::Uuid;

impl Desk<'_> {
    /// What the control unit holds, and what stands on the bodies.
    pub(super) fn read_codes(&mut self) -> Result<(), String> {
        if !self.engine.fuel.coded() {
            return Ok(());
        }
        let (stored, own) = self.hand().codes();
        let slots =
            (1..).zip(stored).map(|(cylinder, code)| SlotCode { cylinder, code: Some(code) });
        self.happened(Event::CodesRead { slots: slots.collect(), by_hand: false })?;
        let sits = self.file.seats(None);
        for (at, code) in own.into_iter().enumerate() {
            let cylinder = self.engine.seats.iter().position(|came| *came == at).unwrap_or(at);
            let seat = sits.iter().find(|seat| seat.cylinder as usize == cylinder + 1);
            let Some(injector) = seat.map(|seat| seat.injector) else { continue };
            let how = Capture::Scanned;
            self.happened(Event::CodeCaptured { injector, code, how })?;
        }
        self.took(5.0, "trim codes");
        Ok(())
    }

    pub(super) fn sheet(&mut self, check: EngineTest, asked: &[u32]) -> Result<(), String> {
        let nth = self.nth(check.name());
        if check == EngineTest::PressureDrop && nth > 0 {
            // What was pulsed into the cylinders is cleared before more is.
            self.happened(Event::Cleared { how: "spark plugs out, clear-flood crank".to_owned() })?;
            self.took(15.0, "clearing");
        }
        let read = self.hand().sheet(check, nth, asked);
        let read = read.ok_or_else(|| format!("{} is not read so", check.name()))?;
        if check == EngineTest::FuelSample {
            let bad = |cell: &str| read.set.iter().any(|(name, v)| *name == cell && *v > 0.0);
            self.wrong_fuel = bad("smell") || bad("water");
        }
        let (sheet, signed) = (self.id(), self.signed());
        let record = SheetRecord {
            id: sheet,
            check,
            limit: self.limit(check),
            instrument: (check == EngineTest::CoilResistance).then(|| self.meter()),
            overdue: false,
            rules: Vec::new(),
            asks_start: false,
            readings: Vec::new(),
            traces: Vec::new(),
            recordings: Vec::new(),
            raw: Vec::new(),
            signed,
        };
        self.does(Command::BeginSheet(Box::new(record)), signed)?;
        let of_set = read.set.iter().map(|(cell, value)| (*cell, None, *value));
        let each = read.each.iter().map(|(cell, cylinder, value)| (*cell, Some(*cylinder), *value));
        for (cell, cylinder, value) in of_set.chain(each).collect::<Vec<_>>() {
            let mut corrects = None;
            if self.wanders() && cylinder.is_some() && matches!(cell, "pressure" | "cut" | "ohms") {
                // Half of it typed, and then all of it.
                corrects = Some(self.cell(sheet, (cell, cylinder, (value * 0.5).round()), None)?);
            }
            self.cell(sheet, (cell, cylinder, value), corrects)?;
        }
        let minutes = f64::from(check.form(Some(self.engine.fuel)).minutes);
        self.took(minutes, check.name());
        Ok(())
    }

    /// One reading: cell, cylinder, value; as the correction of another.
    fn cell(
        &mut self,
        sheet: Uuid,
        (cell, cylinder, value): (&str, Option<u32>, f64),
        corrects: Option<Uuid>,
    ) -> Result<Uuid, String> {
        let (id, signed) = (self.id(), self.signed());
        let cell = CellReading {
            id,
            cell: cell.to_owned(),
            cylinder,
            value: Some(value),
            typed: value.to_string(),
            corrects,
            shown_by: None,
            signed,
        };
        self.does(Command::KeepCell { sheet, cell }, signed)?;
        Ok(id)
    }

    /// What the library says of a check.
    fn limit(&self, check: EngineTest) -> Option<LimitEntry> {
        let held = self.job.in_library && check == EngineTest::CoilResistance;
        held.then(|| library::coil_limit(self.engine.fuel)).flatten()
    }

    /// The meter that a coil of this kind is read with.
    fn meter(&self) -> Instrument {
        let (accuracy, digit, lead) = crate::reading::meter(self.engine.fuel);
        Instrument {
            id: Uuid::from_u128(0x0E7E_2000),
            name: "made-up meter".to_owned(),
            kind: InstrumentKind::Meter,
            resolution: digit,
            accuracy_pct: accuracy * 100.0,
            accuracy_digits: 0.0,
            lead_ohm: Some(lead),
            capacity_ml: None,
            calibration_due: None,
            certificate: String::new(),
            revision: 1,
        }
    }
}
