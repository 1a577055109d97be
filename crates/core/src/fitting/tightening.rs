//! The stages of tightening in words, every torque in the units that wrenches are marked in.

use crate::calc::convert::{ConvertInput, convert};
use crate::fitting::words;
use crate::library::TorqueStage;
use crate::quantity::trimmed;
use crate::record::{Event, JobFile};
use crate::units::{self, NM};
use serde::Serialize;
use utoipa::ToSchema;

/// How the clamp is tightened.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Tightening {
    /// Stage by stage, each with every unit.
    pub stages: Vec<String>,
    /// Where the figures are from, or that there are none.
    pub source: String,
    /// One stage is an angle: the bolt stretches.
    pub stretched: bool,
    /// There are figures.
    pub known: bool,
}

/// How the clamp of this job is tightened: as typed for it, else as the library knows.
///
/// # Source
/// 1 in·lb = 0.112984829 N·m; through [`crate::calc::convert`].
pub fn tightening(file: &JobFile, family: &[TorqueStage]) -> Tightening {
    let typed = file.events.iter().rev().find_map(|record| {
        let Event::Tightening { stages, source, .. } = &record.event else { return None };
        Some((stages.as_slice(), words::entered_job(source)))
    });
    let of_family = || {
        let name = file.family.clone().unwrap_or_default();
        (!family.is_empty()).then(|| (family, words::library(&name)))
    };
    let Some((stages, source)) = typed.or_else(of_family) else {
        return Tightening {
            stages: Vec::new(),
            source: words::NO_FIGURES_FILE_ENTER.to_owned(),
            stretched: false,
            known: false,
        };
    };
    Tightening {
        stages: stages.iter().map(said).collect(),
        source,
        stretched: stages.iter().any(|stage| stage.angle_deg.is_some()),
        known: true,
    }
}

/// Every stage in words, the workshop's own unit first.
pub fn stages_said(stages: &[TorqueStage]) -> Vec<String> {
    stages.iter().map(said).collect()
}

/// `8 N·m (71 in·lb, 5.9 ft·lb), then 90° on`.
fn said(stage: &TorqueStage) -> String {
    let torque = stage.torque_nm.map(|nm| {
        let to = |unit: &str| {
            let input = ConvertInput {
                value: nm,
                from: "Nm".to_owned(),
                to: unit.to_owned(),
                density_kg_per_m3: None,
            };
            convert(&input).map_or(f64::NAN, |out| out.value)
        };
        let feet = (to("ft_lb") * 10.0).round() / 10.0;
        let nm = (nm * 100.0).round() / 100.0;
        let said = [
            ("Nm", format!("{} N·m", trimmed(nm))),
            ("in_lb", format!("{} in·lb", trimmed(to("in_lb").round()))),
            ("ft_lb", format!("{} ft·lb", trimmed(feet))),
        ];
        // The workshop's own unit leads; the others stand beside it.
        let own = units::chosen(NM);
        let (lead, rest): (Vec<_>, Vec<_>) = said.into_iter().partition(|(unit, _)| *unit == own);
        let text = |list: Vec<(&str, String)>| {
            list.into_iter().map(|(_, text)| text).collect::<Vec<_>>().join(", ")
        };
        format!("{} ({})", text(lead), text(rest))
    });
    let angle = stage.angle_deg.map(|angle| format!("{}° on", trimmed(angle)));
    match (torque, angle) {
        (Some(torque), Some(angle)) => format!("{torque}, then {angle}"),
        (Some(only), None) | (None, Some(only)) => only,
        (None, None) => String::new(),
    }
}
