//! `spark`: coil or spark plug exchanged with a neighbour; does the misfire move along?
//!
//! One petrol cylinder that misfires is its spark at least as often as its injector, and the
//! exchange costs minutes. No unit; answers are chosen.
//!
//! # Source
//! House rule.

mod words;

use super::words::cylinders;
use super::{Example, Found, Lane, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::start::StartId;
use crate::tests::Because;
use crate::tests::complaint::Why;
use crate::tests::property::{Deed, Of, Property};
use crate::work::Stage;

crate::said::outcomes! {
    SPARK_MOVES = spark_moves,
    SPARK_STAYS = spark_stays,
}

pub(super) const SPEC: Spec = Spec {
    title: words::SPARK_SWAPPED_NEIGHBOUR,
    short: "Spark",
    says: words::IGNITION_OFF_WAITED_SWAP,
    cautions: &[caution::SPARK, caution::CHARGE, caution::RUNNING, caution::HOT],
    work: Some(Work::Spark),
    start: &[StartId::IgnitionOff, StartId::Parked, StartId::ExtractionOn],
    minutes: 12,
    tools: words::SPARK_PLUG_SPANNER_INSULATED,
    stage: Stage::Electrical,
    fits: |fuel| match fuel {
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => true,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[],
    each: &[choice("moved", "The misfire", &["stayed here", words::MOVED_COIL_SPARK_PLUG])],
    why: |c| {
        (c.rough && !c.dead).then_some(Why {
            says: words::SINGLE_PETROL_MISFIRE_MAY,
            spared_by: words::MISFIRE_SHARED_ALL_CYLINDERS,
        })
    },
    property: Property { of: Of::Cylinder, ended_by: &[Deed::Repair] },
    first: false,
    recorded: None,
    follows: None,
    example: Example { set: &[], each: &[("moved", 0.0, 0.0)] },
    table: include_str!("spark.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read = sheet.read("moved").into_iter();
    let lanes: Vec<Lane> = read.map(|(c, moved)| lane(c, moved == 1.0)).collect();
    let moved: Vec<u32> = lanes
        .iter()
        .filter(|lane| lane.said.code == outcomes::SPARK_MOVES)
        .map(|lane| lane.place)
        .collect();
    let headline = match (lanes.is_empty(), moved.as_slice()) {
        (true, _) => words::SWAP_COIL_SPARK_PLUG.to_owned(),
        (false, []) => words::MISFIRE_STAYED_NOT_SPARK.to_owned(),
        (false, moved) => words::spark_not_injector(cylinders(moved)),
    };
    Ok(Found { lanes, headline, ..Found::default() })
}

fn lane(cylinder: u32, moved: bool) -> Lane {
    let (mark, code, word, sentence) = if moved {
        (Mark::TooLittle, outcomes::SPARK_MOVES, "spark", words::MISFIRE_MOVED_COIL_SPARK)
    } else {
        (Mark::Inside, outcomes::SPARK_STAYS, "stayed", words::MISFIRE_STAYED)
    };
    Lane {
        place: cylinder,
        mark,
        said: code.into(),
        word: word.to_owned(),
        sentence: sentence.to_owned(),
        because: vec![Because::says(words::FAULT_MOVES_PART_PART)],
        would_change: vec![words::SWAP_REVERSED_SPARK_PLUG.to_owned()],
        ..Lane::default()
    }
}
