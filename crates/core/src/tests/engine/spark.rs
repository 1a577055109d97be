//! `spark`: coil or spark plug exchanged with a neighbour; does the misfire move along?
//!
//! One petrol cylinder that misfires is its spark at least as often as its injector, and the
//! exchange costs minutes. No unit; answers are chosen.
//!
//! # Source
//! House rule.

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
use crate::work::Stage;

crate::said::outcomes! {
    SPARK_MOVES = spark_moves,
    SPARK_STAYS = spark_stays,
}

pub(super) const SPEC: Spec = Spec {
    title: "Spark exchanged with a neighbour",
    short: "Spark",
    says: "Ignition off and waited: exchange the coil, then the spark plug, of the misfiring cylinder with a neighbour. Run it again.",
    cautions: &[caution::SPARK, caution::CHARGE, caution::RUNNING, caution::HOT],
    work: Some(Work::Spark),
    start: &[StartId::IgnitionOff, StartId::Parked, StartId::ExtractionOn],
    minutes: 12,
    tools: "Spark plug spanner, insulated gloves",
    stage: Stage::Electrical,
    fits: |fuel| match fuel {
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => true,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[],
    each: &[choice("moved", "The misfire", &["stayed here", "moved with coil or spark plug"])],
    why: |c| {
        (c.rough && !c.dead).then_some(Why {
            says: "One petrol cylinder that misfires may be its spark: an exchange costs minutes, an injector costs money.",
            spared_by: "A misfire that all cylinders share.",
        })
    },
    first: false,
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
        (true, _) => "Exchange coil or spark plug of the one that misfires, and run it.".to_owned(),
        (false, []) => "The misfire stayed: it is not the spark.".to_owned(),
        (false, moved) => format!("{}: its spark, not its injector.", cylinders(moved)),
    };
    Ok(Found { lanes, headline, ..Found::default() })
}

fn lane(cylinder: u32, moved: bool) -> Lane {
    let (mark, code, word, sentence) = if moved {
        (
            Mark::TooLittle,
            outcomes::SPARK_MOVES,
            "spark",
            "The misfire moved along with coil or spark plug.",
        )
    } else {
        (Mark::Inside, outcomes::SPARK_STAYS, "stayed", "The misfire stayed where it was.")
    };
    Lane {
        place: cylinder,
        mark,
        said: code.into(),
        word: word.to_owned(),
        sentence: sentence.to_owned(),
        because: vec![Because::says("What moves along with a part is in that part.")],
        would_change: vec!["The exchange the other way round, and the plug looked at.".to_owned()],
        ..Lane::default()
    }
}
