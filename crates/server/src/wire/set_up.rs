//! Setting a return test up, as it is asked for.

use super::typed::Reader;
use crate::words;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::library::Limit;
use cobaltine_core::quantity::{Millilitre, Second};
use cobaltine_core::record::{FieldProblem, TestSetup};
use cobaltine_core::tests::engine::return_test::HouseRules;
use cobaltine_core::typed::Field;
use cobaltine_core::work::Regime;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// A return test to set up, as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SetUpRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Engine regime.
    pub regime: Regime,
    /// °C unless a unit follows; may be empty.
    pub temperature: String,
    /// rpm; may be empty.
    pub speed: String,
    /// ml unless a unit follows.
    pub capacity: String,
    /// ml unless a unit follows.
    pub graduation: String,
    /// Seconds, or minutes and seconds with a colon.
    pub planned: String,
    /// The bottles, when they are an instrument of the workshop.
    #[serde(default)]
    pub bottles: Option<Uuid>,
    /// The timer, when it is an instrument of the workshop.
    #[serde(default)]
    pub timer: Option<Uuid>,
    /// Judge by the house's own reference where nobody published a limit.
    #[serde(default)]
    pub by_house_reference: bool,
    /// The mark that bottles are timed to, ml; empty to read levels.
    #[serde(default)]
    pub mark: String,
    /// A limit given as a line on the bottle for the planned time, ml; may be empty.
    #[serde(default)]
    pub level_line: String,
    /// What the pump can spare while cranking, ml/min; may be empty.
    #[serde(default)]
    pub pump_spare: String,
}

/// What a set-up refers to, looked up.
#[derive(Debug, Default)]
pub(crate) struct LookedUp {
    /// The bottles chosen.
    pub bottles: Option<Instrument>,
    /// The timer chosen.
    pub timer: Option<Instrument>,
    /// Rules of the house today.
    pub rules: HouseRules,
    /// Its value for timing by hand, s.
    pub timer_u_s: f64,
    /// The limit to judge by.
    pub limit: Option<Limit>,
}

impl SetUpRequest {
    /// Reads every field; collects all that cannot be read.
    pub(crate) fn setup(&self, known: LookedUp) -> Result<TestSetup, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let temperature_c = reader.number("temperature", Field::TEMPERATURE, &self.temperature);
        let speed_rpm = reader.number("speed", Field::SPEED, &self.speed);
        let capacity_ml = reader.needed("capacity", Field::CAPACITY, &self.capacity);
        let graduation_ml = reader.needed("graduation", Field::GRADUATION, &self.graduation);
        let planned_s = reader.needed("planned", Field::RUN_TIME, &self.planned);
        let mark_ml = reader.number("mark", Field::GRADUATION, &self.mark);
        let line_ml = reader.number("level_line", Field::CAPACITY, &self.level_line);
        let spare = Field::above_zero("ml/min", 1.0, 100_000.0);
        let pump_spare_ml_min = reader.number("pump_spare", spare, &self.pump_spare);
        if reader.0.is_empty() {
            for (field, volume) in [("mark", mark_ml), ("level_line", line_ml)] {
                if volume.is_some_and(|volume: Millilitre| volume > capacity_ml) {
                    let message = words::ABOVE_TOP_BOTTLE;
                    reader.0.push(FieldProblem::new(field, message));
                }
            }
        }
        if reader.0.is_empty() && graduation_ml > capacity_ml {
            let message = words::MARKS_FURTHER_APART_BOTTLE;
            reader.0.push(FieldProblem::new("graduation", message));
        }
        let timer_u = known.timer.as_ref().map_or(known.timer_u_s, |timer| timer.u(planned_s.0));
        let today = crate::extract::today();
        reader.done(TestSetup {
            regime: self.regime,
            temperature_c,
            speed_rpm,
            capacity_ml,
            graduation_ml,
            planned_s,
            rules: known.rules,
            timer_u_s: Some(Second(timer_u)),
            accuracy_pct: known.bottles.as_ref().map_or(0.0, |b| b.accuracy_pct),
            accuracy_digits: known.bottles.as_ref().map_or(0.0, |b| b.accuracy_digits),
            instruments: [known.bottles, known.timer]
                .into_iter()
                .flatten()
                .map(|instrument| instrument.used(today))
                .collect(),
            limit: match line_ml {
                Some(line) => Some(level_line(line, planned_s)),
                None => known.limit,
            },
            mark_ml,
            pump_spare_ml_min,
        })
    }
}

/// A line on the bottle for the planned time, as a rate.
pub(super) fn level_line(line: Millilitre, planned: Second) -> Limit {
    Limit {
        upper_ml_min: 60.0 * line.0 / planned.0,
        from_c: None,
        to_c: None,
        source: words::level_line_after_entered(line, planned),
        revision: 0,
    }
}
