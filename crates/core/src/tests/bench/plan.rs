//! What a session runs: the kind of bench, its points, and the order that costs the least waiting.

mod words;

use super::Ctx;
use crate::engine::FuelSystem;
use crate::library::PlanPoint;
use crate::units::{self, C, KPA};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a bench session is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BenchKind {
    /// Petrol flow bench.
    Petrol,
    /// High-pressure diesel bench.
    Diesel,
    /// Injectors that feed an after-treatment burner.
    Doser,
}

impl BenchKind {
    /// The bench that injectors of this fuel system go on.
    pub fn of(fuel: FuelSystem) -> Self {
        match fuel {
            FuelSystem::PetrolPort | FuelSystem::PetrolDirect => Self::Petrol,
            FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => Self::Diesel,
            FuelSystem::ExhaustDoser => Self::Doser,
        }
    }

    /// As written in the database.
    pub fn name(self) -> &'static str {
        match self {
            Self::Petrol => "petrol",
            Self::Diesel => "diesel",
            Self::Doser => "doser",
        }
    }
}

/// How volumes are typed.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Entry {
    /// Millilitres in a tube.
    #[default]
    Volume,
    /// Percent of the fullest tube: compares, but no limit can be applied.
    Percent,
    /// mm³ per stroke, as a bench with a meter shows.
    PerStroke,
}

/// One row of the session: a regime of a flow bench, or a point of a diesel test plan.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Point {
    /// Such as `mid` or `full load`.
    pub name: String,
    /// Pulse width or energising time, ms; none when it is held open or stands still.
    pub pulse_ms: Option<f64>,
    /// Pulses or strokes that are counted.
    pub count: Option<f64>,
    /// Time instead of a count, s.
    pub seconds: Option<f64>,
    /// Speed, rpm.
    pub rpm: Option<f64>,
    /// Rail pressure of a diesel point, kPa.
    pub rail_kpa: Option<f64>,
    /// Temperature of the fluid, °C.
    pub temperature_c: Option<f64>,
}

impl Point {
    /// Its conditions in the units of the workshop; empty where the plan says none.
    pub fn said(&self) -> PointSaid {
        let said = |value: Option<f64>, canonical| value.map(|v| units::said(v, canonical));
        PointSaid {
            rail: said(self.rail_kpa, KPA).unwrap_or_default(),
            temperature: said(self.temperature_c, C).unwrap_or_default(),
        }
    }

    /// Held open: what is caught over a time is the static flow.
    pub fn open(&self) -> bool {
        self.pulse_ms.is_none()
    }
}

/// Conditions of a point as they are said.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct PointSaid {
    /// Rail pressure.
    pub rail: String,
    /// Temperature of the fluid.
    pub temperature: String,
}

impl From<&PlanPoint> for Point {
    fn from(point: &PlanPoint) -> Self {
        Self {
            name: point.name.clone(),
            pulse_ms: Some(point.energising_ms).filter(|ms| *ms > 0.0),
            count: Some(f64::from(point.strokes)).filter(|_| point.seconds.is_none()),
            seconds: point.seconds,
            rail_kpa: Some(point.rail_kpa),
            temperature_c: point.temperature_c,
            ..Self::default()
        }
    }
}

/// The regimes of a petrol flow bench, in the order of running. House rule.
pub fn petrol_points() -> Vec<Point> {
    let pulsed = |name: &str, rpm: f64, pulse_ms: f64, count: f64| Point {
        name: name.to_owned(),
        rpm: Some(rpm),
        pulse_ms: Some(pulse_ms),
        count: Some(count),
        ..Point::default()
    };
    vec![
        pulsed("idle", 800.0, 2.5, 2000.0),
        pulsed("mid", 2500.0, 4.0, 2000.0),
        pulsed("high", 6000.0, 8.0, 1500.0),
        pulsed(words::SWEEP_UP_DOWN, 3000.0, 5.0, 2000.0),
        pulsed("rapid changes", 3500.0, 3.0, 2000.0),
        Point { name: "fully open".to_owned(), seconds: Some(15.0), ..Point::default() },
    ]
}

/// One step of running a plan.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RunStep {
    /// Row of the session, from 1; none for the warm-up.
    pub row: Option<u32>,
    /// What to do.
    pub says: String,
    /// Wait before counting, s.
    pub settle_s: u32,
}

/// Waiting after a change of pressure: this much, and more for each step of 100 bar. House rule.
const SETTLE_S: f64 = 20.0;
const SETTLE_PER_100_BAR_S: f64 = 3.0;

/// Warm-up first, then by rising rail pressure: the fluid heats with the pressure, so it is
/// never waited for twice. Waiting follows the step in pressure. House rule.
///
/// ```
/// use cobaltine_core::tests::bench::{Point, run_order};
/// let point = |name: &str, bar: f64| Point {
///     name: name.to_owned(), rail_kpa: Some(bar * 100.0), pulse_ms: Some(0.5), ..Point::default()
/// };
/// let order = run_order(&[point("full load", 1350.0), point("idle", 300.0)]);
/// assert_eq!(order.iter().map(|step| step.row).collect::<Vec<_>>(), [None, Some(2), Some(1)]);
/// assert_eq!(order[2].settle_s, 52, "20 s and 3 s for each of ten and a half steps of 100 bar");
/// ```
pub fn run_order(points: &[Point]) -> Vec<RunStep> {
    let mut rows: Vec<(u32, &Point)> = (1..).zip(points).collect();
    rows.sort_by(|a, b| {
        let pressure = |p: &Point| p.rail_kpa.unwrap_or(0.0);
        pressure(a.1).total_cmp(&pressure(b.1)).then(a.0.cmp(&b.0))
    });
    let warm = points.iter().filter_map(|p| p.temperature_c).reduce(f64::max);
    let warm_up = RunStep {
        row: None,
        says: match warm {
            Some(c) => words::warm_up_part_load(units::said(c.round(), C)),
            None => words::WARM_UP_PART_LOAD_UNTIL.to_owned(),
        },
        settle_s: 300,
    };
    let mut before = 0.0;
    let steps = rows.into_iter().map(|(row, point)| {
        let kpa = point.rail_kpa.unwrap_or(0.0);
        let step = (kpa - before).abs() / 10_000.0;
        before = kpa;
        RunStep {
            row: Some(row),
            says: words::at_rail(&point.name, units::said(kpa, KPA)),
            settle_s: (SETTLE_S + SETTLE_PER_100_BAR_S * step).round() as u32,
        }
    });
    std::iter::once(warm_up).chain(steps).collect()
}

/// Pulses that a row gave: its count, else its speed over its time (one in two turns).
pub(super) fn pulses(ctx: &Ctx<'_>, test: super::BenchTest, row: u32) -> Option<f64> {
    let point = ctx.point(row)?;
    let of = |name: &str, kept: Option<f64>| ctx.row(test, row, name).or(kept);
    of("count", point.count).or_else(|| {
        let rpm = of("rpm", point.rpm)?;
        Some(rpm / 120.0 * of("seconds", point.seconds)?)
    })
}
