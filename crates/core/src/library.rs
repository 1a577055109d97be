//! The library: injector families and their limits, engines, test plans.
//!
//! A missing specification is a normal state: everything of a family but its name and kind may
//! be unknown. A limit belongs to a family, a check and a condition; a newer one is a new
//! revision, and what was judged by an older one stays judged by it.

mod file;
mod limit;
mod row;
mod words;

pub use file::{LIBRARY_FORMAT, LIBRARY_VERSION, LibraryFile};
pub use limit::{Limit, LimitCheck, LimitEntry};
pub use row::{COLUMNS, DATED, LimitRow, ReadRow, column_named};

use crate::calc::code_check::{CodeCheckInput, code_check};
use crate::engine::{FuelSystem, Layout};
use crate::limits::{FieldProblem, TYPED_TEXT};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use words::Wrong;

/// What kind of injector a family is.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FamilyKind {
    /// Petrol, port, high coil resistance.
    PetrolPortHigh,
    /// Petrol, port, low coil resistance.
    PetrolPortLow,
    /// Petrol, direct, solenoid.
    PetrolDirectSolenoid,
    /// Petrol, direct, piezo.
    PetrolDirectPiezo,
    /// Diesel, common rail, solenoid.
    #[default]
    DieselSolenoid,
    /// Diesel, common rail, piezo.
    DieselPiezo,
    /// Exhaust doser.
    ExhaustDoser,
}

/// How its coil is judged.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CoilClass {
    /// An ordinary meter can decide it.
    HighImpedance,
    /// A few ohms: zero the leads.
    LowImpedance,
    /// Well below an ohm: an ordinary meter cannot decide.
    SubOhm,
    /// A stack, judged by capacitance and insulation, never by a coil window.
    Piezo,
}

impl CoilClass {
    /// A plain drive lets it draw more current than it takes: peak and hold.
    pub fn needs_hold(self) -> bool {
        match self {
            Self::LowImpedance | Self::SubOhm => true,
            Self::HighImpedance | Self::Piezo => false,
        }
    }
}

impl FamilyKind {
    /// Every kind.
    pub const ALL: [Self; 7] = [
        Self::PetrolPortHigh,
        Self::PetrolPortLow,
        Self::PetrolDirectSolenoid,
        Self::PetrolDirectPiezo,
        Self::DieselSolenoid,
        Self::DieselPiezo,
        Self::ExhaustDoser,
    ];

    /// As written in files.
    pub fn name(self) -> &'static str {
        match self {
            Self::PetrolPortHigh => "petrol_port_high",
            Self::PetrolPortLow => "petrol_port_low",
            Self::PetrolDirectSolenoid => "petrol_direct_solenoid",
            Self::PetrolDirectPiezo => "petrol_direct_piezo",
            Self::DieselSolenoid => "diesel_solenoid",
            Self::DieselPiezo => "diesel_piezo",
            Self::ExhaustDoser => "exhaust_doser",
        }
    }

    /// What it is fitted to.
    pub fn fuel_system(self) -> FuelSystem {
        match self {
            Self::PetrolPortHigh | Self::PetrolPortLow => FuelSystem::PetrolPort,
            Self::PetrolDirectSolenoid | Self::PetrolDirectPiezo => FuelSystem::PetrolDirect,
            Self::DieselSolenoid => FuelSystem::DieselSolenoid,
            Self::DieselPiezo => FuelSystem::DieselPiezo,
            Self::ExhaustDoser => FuelSystem::ExhaustDoser,
        }
    }

    /// How its coil is judged.
    pub fn coil_class(self) -> CoilClass {
        match self {
            Self::PetrolPortHigh | Self::ExhaustDoser => CoilClass::HighImpedance,
            Self::PetrolPortLow | Self::PetrolDirectSolenoid => CoilClass::LowImpedance,
            Self::DieselSolenoid => CoilClass::SubOhm,
            Self::PetrolDirectPiezo | Self::DieselPiezo => CoilClass::Piezo,
        }
    }
}

/// The pattern of a family's trim code.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CodePattern {
    /// Characters.
    pub length: usize,
    /// Characters that can occur.
    pub alphabet: String,
    /// `iso7064_mod37_36`, `iso7064_mod97_10`, or none.
    pub check: Option<String>,
}

/// One stage of tightening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TorqueStage {
    /// N·m; none for a stage by angle alone.
    pub torque_nm: Option<f64>,
    /// Degrees to turn on.
    pub angle_deg: Option<f64>,
}

impl TorqueStage {
    /// It has a torque or an angle, each above zero.
    pub fn is_sound(&self) -> bool {
        let fine = |value: Option<f64>| value.is_none_or(|v| v.is_finite() && v > 0.0 && v < 1e6);
        (self.torque_nm.is_some() || self.angle_deg.is_some())
            && fine(self.torque_nm)
            && fine(self.angle_deg)
    }
}

/// What is known of a family besides its limits.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct FamilyDetail {
    /// What kind of injector it is.
    pub kind: FamilyKind,
    /// Voltage that it is driven with, V.
    pub drive_voltage_v: Option<f64>,
    /// Highest voltage that it takes, V.
    pub peak_voltage_v: Option<f64>,
    /// Highest current that it takes, A.
    pub peak_current_a: Option<f64>,
    /// Its code.
    pub code: Option<CodePattern>,
    /// Tightening of its clamp, in order.
    pub torque: Vec<TorqueStage>,
    /// Service life, h.
    pub service_life_h: Option<f64>,
    /// Whether it may be cleaned.
    pub cleaning: Option<bool>,
    /// Cleanings at most, where its maker or the house says so; the house rule without.
    pub cleaning_cycles: Option<f64>,
    /// Anything else.
    pub note: String,
}

/// A family of the library.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LibraryFamily {
    /// Identity.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// Goes up with every change.
    pub revision: u64,
    /// What is known of it.
    pub detail: FamilyDetail,
}

/// What else the library holds.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum ItemDetail {
    /// An engine.
    Engine {
        /// What feeds its injectors.
        fuel_system: FuelSystem,
        /// Cylinders, banks, numbering.
        layout: Layout,
        /// Anything else.
        note: String,
    },
    /// A bench test plan of a family.
    TestPlan {
        /// The family's name.
        family: String,
        /// Points in the order of running.
        points: Vec<PlanPoint>,
        /// Anything else.
        note: String,
    },
    /// Settings of a check that come back: pulses of a balance test, a cleaning fluid.
    Preset {
        /// Id of the check.
        check: String,
        /// What stands in its cells.
        cells: Vec<PresetCell>,
        /// What to mind with it.
        note: String,
    },
}

/// One cell of a preset.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PresetCell {
    /// Its name.
    pub cell: String,
    /// As kept: a bare number is in the canonical unit of the cell.
    pub typed: String,
}

/// One point of a test plan.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PlanPoint {
    /// Such as `full load`.
    pub name: String,
    /// Rail pressure, kPa.
    pub rail_kpa: f64,
    /// Energising time, ms; 0 for a static return.
    pub energising_ms: f64,
    /// Strokes that are counted.
    pub strokes: u32,
    /// Temperature of the fluid, °C.
    pub temperature_c: Option<f64>,
    /// A time that is counted instead of strokes, s: a petrol injector that is held open.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seconds: Option<f64>,
}

/// An engine or a test plan.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LibraryItem {
    /// Identity.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// Goes up with every change.
    pub revision: u64,
    /// What it is.
    pub detail: ItemDetail,
}

fn name_problem(name: &str) -> Option<FieldProblem> {
    let length = name.trim().chars().count();
    (!(1..=80).contains(&length)).then(|| Wrong::Name.at("name"))
}

fn positive(field: &str, value: Option<f64>) -> Option<FieldProblem> {
    value
        .filter(|v| !(v.is_finite() && *v > 0.0 && *v < 1e9))
        .map(|_| Wrong::NotAboveZero.at(field))
}

impl LibraryFamily {
    /// Everything that is wrong with it, field by field.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let detail = &self.detail;
        let mut found: Vec<FieldProblem> = name_problem(&self.name).into_iter().collect();
        found.extend(positive("drive_voltage_v", detail.drive_voltage_v));
        found.extend(positive("peak_voltage_v", detail.peak_voltage_v));
        found.extend(positive("peak_current_a", detail.peak_current_a));
        found.extend(positive("service_life_h", detail.service_life_h));
        found.extend(positive("cleaning_cycles", detail.cleaning_cycles));
        for stage in &detail.torque {
            found.extend(positive("torque", stage.torque_nm));
            found.extend(positive("torque", stage.angle_deg));
        }
        if detail.torque.len() > 8 || detail.note.chars().count() > 2000 {
            found.push(Wrong::MoreThanAFamily.at("note"));
        }
        if let Some(code) = &detail.code {
            let tried = code_check(&CodeCheckInput {
                code: String::new(),
                length: code.length,
                alphabet: code.alphabet.clone(),
                check: code.check.clone(),
            });
            if let Err(error) = tried {
                found.push(FieldProblem::new("code", error.to_string()));
            }
            if code.length > 64 || code.alphabet.chars().count() > 64 {
                found.push(Wrong::LongerThan(64).at("code"));
            }
        }
        if let (Some(drive), Some(peak)) = (detail.drive_voltage_v, detail.peak_voltage_v)
            && drive > peak
        {
            found.push(Wrong::DrivenOverPeak.at("peak_voltage_v"));
        }
        found
    }
}

impl LibraryItem {
    /// Everything that is wrong with it, field by field.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found: Vec<FieldProblem> = name_problem(&self.name).into_iter().collect();
        match &self.detail {
            ItemDetail::Engine { layout, .. } => {
                found.extend(
                    layout.check().err().map(|e| FieldProblem::new("layout", e.to_string())),
                );
            }
            ItemDetail::Preset { check, cells, note } => {
                let long = |text: &str| text.chars().count() > TYPED_TEXT;
                if cells.is_empty() || cells.len() > 40 || long(check) {
                    found.push(Wrong::NoCells.at("cells"));
                }
                if cells.iter().any(|one| long(&one.cell) || long(&one.typed)) {
                    found.push(Wrong::LongerThan(TYPED_TEXT).at("cells"));
                }
                if note.chars().count() > 2000 {
                    found.push(Wrong::LongerThan(2000).at("note"));
                }
            }
            ItemDetail::TestPlan { points, .. } => {
                if points.is_empty() || points.len() > 40 {
                    found.push(Wrong::Points.at("points"));
                }
                for point in points {
                    found.extend(positive("points", Some(point.rail_kpa)));
                    let energised = point.energising_ms.is_finite() && point.energising_ms >= 0.0;
                    let counted = point.strokes > 0 || point.seconds.is_some_and(|s| s > 0.0);
                    if !counted || !energised || point.name.trim().is_empty() {
                        found.push(Wrong::Point(&point.name).at("points"));
                    }
                }
            }
        }
        found
    }
}
