//! `cutout`: each cylinder disabled in turn; a weak one makes little difference.
//!
//! Numbers by [`crate::calc::cutout`]. Units: rpm. Weak fuel and weak compression look the same
//! here; the compression beside it tells them apart.
//!
//! # Source
//! House rule ([`RuleId::CutoutTolerance`]).

use super::words::{cylinders, missing};
use super::{Found, Sheet, SheetLane, Spec, cell};
use crate::calc::CalcError;
use crate::calc::cutout::{CutoutInput, cutout};
use crate::checks::Because;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::quantity::{signed_percent, trimmed};
use crate::rules::RuleId;
use crate::typed::Field;
use crate::work::Stage;

const SPEED: Field = Field::above_zero("rpm", 50.0, 8000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Cut-out",
    short: "Cut-out",
    says: "Warm and idling, idle control held if it can be: note the speed, disable each cylinder in turn, note the speed again.",
    caution: "Running engine: extraction on, wheels chocked, neutral, brake, no loose clothing. Disable by the tester, never by pulling a plug on a running piezo or direct-injection engine. Trained people only.",
    stage: Stage::OnEngine,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid
        | FuelSystem::DieselPiezo
        | FuelSystem::PetrolPort
        | FuelSystem::PetrolDirect => true,
        FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[cell("base", "Speed with all", SPEED)],
    each: &[cell("cut", "Speed with this one cut", SPEED)],
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read = sheet.read("cut");
    let mut found = Found { unit: "rpm drop", window_word: "alike", ..Found::default() };
    let Some(base) = sheet.of_set("base") else {
        "Note the speed with all cylinders first.".clone_into(&mut found.headline);
        return Ok(found);
    };
    if read.len() < 2 {
        "Cut at least two cylinders to compare them.".clone_into(&mut found.headline);
        return Ok(found);
    }
    let tolerance = sheet.rules.share(RuleId::CutoutTolerance);
    let out = cutout(&CutoutInput {
        base_rpm: base,
        cut_rpm: read.iter().map(|(_, rpm)| *rpm).collect(),
        tolerance: Some(tolerance),
    })?;
    let weak: Vec<u32> = out
        .cylinders
        .iter()
        .zip(&read)
        .filter(|(one, _)| one.weak == Some(true))
        .map(|(_, (cylinder, _))| *cylinder)
        .collect();
    found.headline = match (out.settled, weak.as_slice()) {
        (false, _) => {
            "The cylinders do not agree: comparison cannot say which of them are weak.".to_owned()
        }
        (true, []) => format!("All {} make about the same difference.", read.len()),
        (true, some) => format!(
            "{} make{} little difference.",
            cylinders(some),
            if some.len() == 1 { "s" } else { "" }
        ),
    };
    found.advice.extend(missing(sheet, "cut"));
    if !weak.is_empty() {
        found.advice.push(
            "Weak fuel or weak compression: measure the compression of that cylinder before its injector is blamed.".to_owned(),
        );
    }
    let alike: Vec<f64> = out
        .cylinders
        .iter()
        .filter(|one| one.weak == Some(false))
        .map(|one| one.drop_rpm.max(0.0))
        .collect();
    if !alike.is_empty() {
        let mean = alike.iter().sum::<f64>() / alike.len() as f64;
        found.window = Some([Some(mean * (1.0 - tolerance)), None]);
    }
    found.lanes = out
        .cylinders
        .iter()
        .zip(&read)
        .map(|(one, (cylinder, cut))| {
            let share = one.vs_reference.map(signed_percent).unwrap_or_default();
            let (mark, word, sentence) = match one.weak {
                Some(true) => {
                    (Mark::TooLittle, "weak", format!("Its drop is {share} against the others."))
                }
                Some(false) => {
                    (Mark::Inside, "alike", format!("Its drop is {share} against the others."))
                }
                None => (Mark::Undecided, "undecided", "Comparison cannot tell.".to_owned()),
            };
            let mut because = vec![Because::shows(
                "What cutting it cost",
                format!("{} − {} = {} rpm", trimmed(base), trimmed(*cut), trimmed(one.drop_rpm)),
            )];
            if one.weak.is_some() {
                because.push(Because::says(format!(
                    "Weak is below −{} % against the others that agree (house rule)",
                    trimmed(tolerance * 100.0)
                )));
            }
            because.extend(
                sheet.rules.reasons(&[RuleId::CutoutTolerance]).into_iter().map(Because::says),
            );
            SheetLane {
                cylinder: *cylinder,
                mark,
                word: word.to_owned(),
                value: Some(one.drop_rpm.max(0.0)),
                u: None,
                shown: trimmed(one.drop_rpm),
                sentence,
                because,
                would_change: vec!["Compression beside it, or a swap with a neighbour.".to_owned()],
            }
        })
        .collect();
    Ok(found)
}
