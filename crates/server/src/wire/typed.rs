//! Families and instruments as they are typed: each field is read by the core, each problem
//! stands beside its field.

use crate::words;
use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::library::{
    CodePattern, FamilyDetail, FamilyKind, ItemDetail, LibraryFamily, LibraryItem, PlanPoint,
    PresetCell, TorqueStage,
};
use cobaltine_core::quantity::{Millilitre, Quantity};
use cobaltine_core::record::FieldProblem;
use cobaltine_core::tests::preset::PresetOf;
use cobaltine_core::typed::{Field, TypedError, date};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// Reads typed fields and collects what cannot be read.
pub(super) struct Reader(pub(super) Vec<FieldProblem>);

impl Reader {
    /// A field that may be empty.
    pub(super) fn number<Q: Quantity>(
        &mut self,
        name: &str,
        field: Field<Q>,
        text: &str,
    ) -> Option<Q> {
        match text.trim() {
            "" => None,
            text => field
                .read(text)
                .map_err(|error| self.0.push(FieldProblem::new(name, error.to_string())))
                .ok(),
        }
    }

    /// A field that may not; zero stands for what could not be read.
    pub(super) fn needed<Q: Quantity>(&mut self, name: &str, field: Field<Q>, text: &str) -> Q {
        if text.trim().is_empty() {
            self.0.push(FieldProblem::new(name, words::ENTER_NUMBER));
        }
        self.number(name, field, text).unwrap_or_else(|| Q::of(0.0))
    }

    /// The value, or everything that could not be read.
    pub(super) fn done<T>(self, value: T) -> Result<T, Vec<FieldProblem>> {
        if self.0.is_empty() { Ok(value) } else { Err(self.0) }
    }
}

/// A family as typed; empty fields are not specified.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FamilyRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The revision that was changed; 0 for a new family.
    pub revision: u64,
    /// Its name.
    pub name: String,
    /// What kind of injector it is.
    pub kind: FamilyKind,
    /// V.
    pub drive_voltage_v: String,
    /// V.
    pub peak_voltage_v: String,
    /// A.
    pub peak_current_a: String,
    /// Characters of its code.
    pub code_length: String,
    /// Characters that can occur in it.
    pub code_alphabet: String,
    /// `iso7064_mod37_36`, `iso7064_mod97_10`, or empty.
    pub code_check: String,
    /// Stages one after the other, such as `8, 12 + 90°` (N·m unless a unit follows).
    pub torque: String,
    /// h.
    pub service_life_h: String,
    /// Cleanings at most; empty for the house rule.
    #[serde(default)]
    pub cleaning_cycles: String,
    /// Whether it may be cleaned.
    pub cleaning: Option<bool>,
    /// Anything else.
    pub note: String,
}

impl FamilyRequest {
    /// The family, or a problem for each field that cannot be read.
    pub(crate) fn read(self) -> Result<LibraryFamily, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let volts = Field::above_zero("V", 0.1, 1000.0);
        let length =
            reader.number("code_length", Field::above_zero("", 1.0, 64.0), &self.code_length);
        let code = length.map(|length: f64| CodePattern {
            length: length as usize,
            alphabet: self.code_alphabet.trim().to_owned(),
            check: Some(self.code_check.trim().to_owned()).filter(|check| !check.is_empty()),
        });
        let detail = FamilyDetail {
            kind: self.kind,
            drive_voltage_v: reader.number("drive_voltage_v", volts, &self.drive_voltage_v),
            peak_voltage_v: reader.number("peak_voltage_v", volts, &self.peak_voltage_v),
            peak_current_a: reader.number(
                "peak_current_a",
                Field::above_zero("A", 0.01, 500.0),
                &self.peak_current_a,
            ),
            code,
            torque: torque(&mut reader, "torque", &self.torque),
            service_life_h: reader.number(
                "service_life_h",
                Field::above_zero("h", 1.0, 1e6),
                &self.service_life_h,
            ),
            cleaning_cycles: reader.number(
                "cleaning_cycles",
                Field::above_zero("", 1.0, 12.0),
                &self.cleaning_cycles,
            ),
            cleaning: self.cleaning,
            note: self.note.trim().to_owned(),
        };
        let (id, name, revision) = (self.id, self.name, self.revision);
        reader.done(LibraryFamily { id, name, revision, detail })
    }
}

/// `8; 12 + 90°` as stages: 8 N·m, 12 N·m, then 90 degrees on.
pub(super) fn torque(reader: &mut Reader, field: &str, text: &str) -> Vec<TorqueStage> {
    let mut stages = Vec::new();
    for stage in text.split([';', '+', '→']).map(str::trim).filter(|stage| !stage.is_empty()) {
        if let Some(angle) = stage.strip_suffix('°').or_else(|| stage.strip_suffix("deg")) {
            let angle = reader.number(field, Field::above_zero("deg", 1.0, 720.0), angle);
            stages.extend(angle.map(|a| TorqueStage { torque_nm: None, angle_deg: Some(a) }));
        } else {
            let torque = reader.number(field, Field::above_zero("Nm", 0.01, 5000.0), stage);
            stages.extend(torque.map(|t| TorqueStage { torque_nm: Some(t), angle_deg: None }));
        }
    }
    stages
}

/// One point of a plan as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PointTyped {
    /// Such as `full load`.
    pub name: String,
    /// Rail pressure.
    pub rail: String,
    /// ms; empty for standing still or held open.
    pub energising: String,
    /// Strokes or pulses that are counted; empty where a time is.
    pub strokes: String,
    /// Seconds that are counted instead; may be empty.
    pub seconds: String,
    /// Of the fluid; may be empty.
    pub temperature: String,
}

/// A bench test plan as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PlanRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The revision that was changed; 0 for a new plan.
    pub revision: u64,
    /// Its name.
    pub name: String,
    /// The family that it is for; may be empty.
    pub family: String,
    /// In the order of running.
    pub points: Vec<PointTyped>,
    /// Anything else.
    pub note: String,
}

impl PlanRequest {
    /// The plan, or a problem for each field that cannot be read.
    pub(crate) fn read(self) -> Result<LibraryItem, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let rail = Field::above_zero("kPa", 1.0, 500_000.0).usually(100.0, 300_000.0);
        let mut points = Vec::new();
        for (i, typed) in self.points.iter().enumerate() {
            let at = |field: &str| format!("{field} {}", i + 1);
            let strokes = Field::<f64>::from_zero("", 1e6);
            let seconds = reader.number(&at("seconds"), Field::RUN_TIME.bare(), &typed.seconds);
            points.push(PlanPoint {
                name: typed.name.trim().to_owned(),
                rail_kpa: reader.needed(&at("rail"), rail, &typed.rail),
                energising_ms: reader
                    .number(&at("energising"), Field::from_zero("ms", 1000.0), &typed.energising)
                    .unwrap_or(0.0),
                strokes: reader.number(&at("strokes"), strokes, &typed.strokes).unwrap_or(0.0)
                    as u32,
                temperature_c: reader.number(
                    &at("temperature"),
                    Field::TEMPERATURE.bare(),
                    &typed.temperature,
                ),
                seconds,
            });
        }
        let (id, revision, name) = (self.id, self.revision, self.name.trim().to_owned());
        let (family, note) = (self.family.trim().to_owned(), self.note.trim().to_owned());
        let detail = ItemDetail::TestPlan { family, points, note };
        reader.done(LibraryItem { id, name, revision, detail })
    }
}

/// Settings of a check that come back, as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PresetRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The revision that was changed; 0 for a new preset.
    pub revision: u64,
    /// Its name.
    pub name: String,
    /// Id of the check.
    pub check: String,
    /// What stands in its cells; empty ones are left out.
    pub cells: Vec<PresetCell>,
    /// What to mind with it.
    #[serde(default)]
    pub note: String,
}

impl PresetRequest {
    /// The preset, or a problem for each cell that cannot be read.
    pub(crate) fn read(self) -> Result<LibraryItem, Vec<FieldProblem>> {
        let of = PresetOf::named(&self.check);
        let of = of.ok_or_else(|| vec![FieldProblem::new("check", words::NO_SUCH_CHECK)])?;
        let cells = of.read(&self.cells)?;
        let (name, note) = (self.name.trim().to_owned(), self.note.trim().to_owned());
        let detail = ItemDetail::Preset { check: self.check, cells, note };
        Ok(LibraryItem { id: self.id, name, revision: self.revision, detail })
    }
}

/// An instrument as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct InstrumentRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The revision that was changed; 0 for a new instrument.
    pub revision: u64,
    /// Its name.
    pub name: String,
    /// What it measures.
    pub kind: InstrumentKind,
    /// Last digit or distance between two marks.
    pub resolution: String,
    /// Percent of reading; may be empty.
    pub accuracy_pct: String,
    /// Digits or marks; may be empty.
    pub accuracy_digits: String,
    /// Leads held together; may be empty.
    pub lead: String,
    /// What a bottle or a tube holds.
    pub capacity: String,
    /// `2031-06-30`; may be empty.
    pub calibration_due: String,
    /// What the certificate says.
    pub certificate: String,
}

impl InstrumentRequest {
    /// The instrument, or a problem for each field that cannot be read.
    pub(crate) fn read(self) -> Result<Instrument, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let unit = match self.kind {
            InstrumentKind::Meter => "ohm",
            InstrumentKind::Gauge => "kPa",
            InstrumentKind::Bottles | InstrumentKind::Bench => "ml",
            InstrumentKind::Timer => "s",
        };
        let resolution =
            reader.needed("resolution", Field::above_zero(unit, 1e-9, 1e9), &self.resolution);
        let accuracy_pct =
            reader.number("accuracy_pct", Field::from_zero("%", 100.0), &self.accuracy_pct);
        let accuracy_digits =
            reader.number("accuracy_digits", Field::from_zero("", 1000.0), &self.accuracy_digits);
        let lead_ohm = reader.number("lead", Field::from_zero("ohm", 100.0), &self.lead);
        let capacity_ml = reader.number("capacity", Field::CAPACITY, &self.capacity);
        let calibration_due = match self.calibration_due.trim() {
            "" => None,
            text => {
                let wrong = |error: TypedError| {
                    reader.0.push(FieldProblem::new("calibration_due", error.to_string()));
                };
                date(text).map_err(wrong).ok()
            }
        };
        let instrument = Instrument {
            id: self.id,
            name: self.name,
            kind: self.kind,
            resolution,
            accuracy_pct: accuracy_pct.unwrap_or(0.0),
            accuracy_digits: accuracy_digits.unwrap_or(0.0),
            lead_ohm,
            capacity_ml: capacity_ml.map(Millilitre::value).filter(|_| self.kind.catches_volume()),
            calibration_due,
            certificate: self.certificate,
            revision: self.revision,
        };
        // The core's own problems come too, so that a form shows all of them at once.
        let unread: Vec<String> = reader.0.iter().map(|p| p.field.clone()).collect();
        let own = instrument.problems().into_iter().map(|mut problem| {
            if problem.field == "capacity_ml" {
                problem.field = "capacity".to_owned();
            }
            problem
        });
        reader.0.extend(own.filter(|problem| !unread.contains(&problem.field)));
        reader.done(instrument)
    }
}
