//! `cutout`: each cylinder disabled in turn; a weak one makes little difference.
//!
//! Numbers by [`crate::calc::cutout`]. Units: rpm. Weak fuel and weak compression look the same
//! here; the compression beside it tells them apart.
//!
//! # Source
//! House rule ([`RuleId::CutoutTolerance`]).

mod words;

use super::words::{cylinders, missing};
use super::{EngineTest, Example, Found, Lane, Sheet, Spec, cell};
use crate::calc::CalcError;
use crate::calc::cutout::{CutoutCylinder, CutoutInput, CutoutOutput, cutout};
use crate::caution;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::quantity::{signed_percent, trimmed};
use crate::rules::RuleId;
use crate::said::Code;
use crate::start::StartId;
use crate::tests::Because;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::units::{self, KPA};
use crate::work::Stage;

crate::said::outcomes! {
    CUT_WEAK = cut_weak (Departs),
    CUT_ALIKE = cut_alike,
}

const SPEED: Field = Field::above_zero("rpm", 50.0, 8000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Cut-out",
    short: "Cut-out",
    says: words::ENGINE_WARM_IDLING_IDLE,
    cautions: &[caution::RUNNING, caution::CHARGE],
    work: None,
    start: &[StartId::Warm, StartId::AccessoriesOff, StartId::Parked, StartId::ExtractionOn],
    minutes: 8,
    tools: "Scan tool",
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
    set: &[cell("base", "Speed, all cylinders", SPEED)],
    each: &[cell("cut", words::SPEED_ONE_CUT, SPEED)],
    why: |c| {
        ((c.rough || c.burns) && !c.dead).then_some(Why {
            says: words::SHOWS_MINUTES_CYLINDER_WEAK,
            spared_by: words::ANOTHER_COMPARISON_ALREADY_POINTS,
        })
    },
    property: Property::RUNNING,
    first: false,
    recorded: None,
    follows: Some(RuleId::CutoutTolerance),
    example: Example { set: &[("base", 800.0)], each: &[("cut", 800.0, -90.0)] },
    table: include_str!("cutout.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read = sheet.read("cut");
    let also = if sheet.beside.is_empty() { "" } else { units::unit(KPA) };
    let mut found = Found { unit: "rpm drop", also, window_word: "in line", ..Found::default() };
    let Some(base) = sheet.of_set("base") else {
        words::NOTE_SPEED_ALL_CYLINDERS.clone_into(&mut found.headline);
        return Ok(found);
    };
    if read.len() < 2 {
        words::CUT_LEAST_TWO_CYLINDERS.clone_into(&mut found.headline);
        return Ok(found);
    }
    let tolerance = sheet.rules.share(RuleId::CutoutTolerance);
    let rpm: Vec<f64> = read.iter().map(|(_, rpm)| *rpm).collect();
    let out = compared(base, &rpm, tolerance)?;
    let weak: Vec<u32> = out
        .cylinders
        .iter()
        .zip(&read)
        .filter(|(one, _)| one.weak == Some(true))
        .map(|(_, (cylinder, _))| *cylinder)
        .collect();
    found.headline = match (out.settled, weak.as_slice()) {
        (false, [_, ..]) => words::do_no_work(cylinders(&weak)),
        (false, []) => words::CYLINDERS_DISAGREE_COMPARISON_CANNOT.to_owned(),
        (true, []) => words::all_make_similar_difference(read.len()),
        (true, some) => {
            words::make_little_difference(cylinders(some), if some.len() == 1 { "s" } else { "" })
        }
    };
    found.advice.extend(missing(sheet, "cut"));
    found.advice.extend(weak.iter().map(|cylinder| beside_compression(sheet, *cylinder).1));
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
                Some(true) if one.vs_reference.is_none() => {
                    let says = words::cutting_changes_nothing(trimmed(one.drop_rpm.max(0.0)));
                    (Mark::TooLittle, "no work", says)
                }
                Some(true) => {
                    let (word, says) = beside_compression(sheet, *cylinder);
                    (Mark::TooLittle, word, words::drop_against_others(&share, &says))
                }
                Some(false) => (Mark::Inside, "in line", words::drop_against_others_2(&share)),
                None => {
                    (Mark::Undecided, "inconclusive", words::COMPARISON_INCONCLUSIVE.to_owned())
                }
            };
            let code = match one.weak {
                Some(true) => outcomes::CUT_WEAK,
                Some(false) => outcomes::CUT_ALIKE,
                None => Code::NO_REFERENCE,
            };
            let mut because = vec![Because::shows(
                words::SPEED_LOST_CUTTING,
                format!("{} − {} = {} rpm", trimmed(base), trimmed(*cut), trimmed(one.drop_rpm)),
            )];
            if one.weak.is_some() {
                because.push(Because::says(words::weak_below_against_agreeing(trimmed(
                    tolerance * 100.0,
                ))));
            }
            because.extend(
                sheet.rules.reasons(&[RuleId::CutoutTolerance]).into_iter().map(Because::says),
            );
            let compression = compression_of(sheet, *cylinder);
            if let Some(beside) = compression {
                because.push(Because::says(words::compression_cylinder(&beside.sentence)));
            }
            Lane {
                place: *cylinder,
                also: compression.map(|beside| beside.shown.clone()).unwrap_or_default(),
                mark,
                said: code.into(),
                word: word.to_owned(),
                value: Some(one.drop_rpm.max(0.0)),
                shown: trimmed(one.drop_rpm),
                share: one.vs_reference,
                sentence,
                because,
                would_change: vec![match compression {
                    None => words::COMPRESSION_CYLINDER_SWAP_NEIGHBOUR.to_owned(),
                    Some(_) => words::SWAP_NEIGHBOUR_DOES_FOLLOW.to_owned(),
                }],
                ..Lane::default()
            }
        })
        .collect();
    Ok(found)
}

/// Cylinders that do no work at all are told from the rest without a reference, and the rest is compared with
/// itself: what loses nothing when it is cut gave nothing, however many they are.
fn compared(base_rpm: f64, rpm: &[f64], tolerance: f64) -> Result<CutoutOutput, CalcError> {
    let of =
        |cut_rpm: Vec<f64>| cutout(&CutoutInput { base_rpm, cut_rpm, tolerance: Some(tolerance) });
    let mut out = of(rpm.to_vec())?;
    let most = out.cylinders.iter().map(|one| one.drop_rpm).fold(0.0, f64::max);
    let idle = |one: &CutoutCylinder| one.drop_rpm <= NO_WORK * most;
    if out.settled || most < LEAST_RPM || !out.cylinders.iter().any(idle) {
        return Ok(out);
    }
    let working: Vec<usize> = (0..rpm.len()).filter(|at| !idle(&out.cylinders[*at])).collect();
    let rest = (working.len() >= 2).then(|| of(working.iter().map(|at| rpm[*at]).collect()));
    let rest = rest.transpose()?;
    for (at, one) in out.cylinders.iter_mut().enumerate() {
        let beside = working.iter().position(|held| *held == at);
        match (beside, &rest) {
            (Some(nth), Some(rest)) => *one = rest.cylinders[nth].clone(),
            (Some(_), None) => {}
            (None, _) => (one.weak, one.vs_reference) = (Some(true), None),
        }
    }
    Ok(out)
}

/// A cylinder does no work whose cut costs less than this share of the largest drop (house rule).
const NO_WORK: f64 = 0.1;
/// Largest drop that this can be told beside, rpm (house rule): idle wanders by less than a tenth of it.
const LEAST_RPM: f64 = 50.0;

fn compression_of(sheet: &Sheet, cylinder: u32) -> Option<&Lane> {
    let beside = sheet.beside.iter().find(|beside| beside.check == EngineTest::Compression)?;
    let read = |lane: &&Lane| lane.place == cylinder && lane.mark != Mark::NotMeasured;
    beside.lanes.iter().find(read)
}

/// The word for a weak cylinder, and what its compression says to that.
fn beside_compression(sheet: &Sheet, cylinder: u32) -> (&'static str, String) {
    match compression_of(sheet, cylinder).map(|lane| lane.mark) {
        None => ("weak", words::weak_fuel_weak_compression(cylinder)),
        Some(Mark::TooLittle) => ("mechanical", words::cylinder_low_compression_too(cylinder)),
        Some(Mark::Inside | Mark::TooMuch) => {
            ("weak fuel", words::compression_cylinder_matches_others(cylinder))
        }
        Some(Mark::Look | Mark::Undecided | Mark::Questioned | Mark::NotMeasured) => {
            ("weak", words::cylinder_compression_inconclusive_retest(cylinder))
        }
    }
}
