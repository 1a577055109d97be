//! What a bench knows of an injector besides whether it is alike: the numbers that sets are made by.
//!
//! Only a round that was read counts.

use super::compare::Reading;
use super::conditions::basis;
use super::ctx::Ctx;
use super::flow::{FlowBasis, flow_rows};
use super::parts::METER_OHM;
use super::plan::Point;
use super::record::SessionRecord;
use super::{BenchKind, BenchTest, map, sweep};
use crate::calc::CalcError;
use crate::moment::Moment;
use crate::named::named;
use crate::quantity::trimmed;
use crate::rules::Rules;
use crate::units::{self, KPA};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

named! {
    /// What injectors are put together by.
    ShelfFeature {
        StaticFlow = static_flow,
        ShortPulse = short_pulse,
        DeadTime = dead_time,
        FullDelivery = full_delivery,
        SmallDelivery = small_delivery,
        StaticReturn = static_return,
        Resistance = resistance,
    }
}

/// One value.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ShelfValue {
    /// What it is a value of.
    pub feature: ShelfFeature,
    /// In the unit of the feature.
    pub value: f64,
    /// Its standard uncertainty, same unit.
    pub u: f64,
    /// As shown, with the digits that the uncertainty allows.
    pub shown: String,
    /// Length of the pulse, where there is one, ms.
    pub pulse_ms: Option<f64>,
    /// Under which conditions: only alike ones are compared.
    pub condition: String,
}

impl SessionRecord {
    /// Values of an injector in each round that was read, oldest first, with the time of the round.
    ///
    /// # Errors
    /// What a computation refuses.
    pub(crate) fn values(&self, tag: u32) -> Result<Vec<(Moment, ShelfValue)>, CalcError> {
        let cells = self.indexed();
        let rules = Rules::after(self.setup.rules.iter().cloned());
        let mut found = Vec::new();
        for (at, round) in self.rounds.iter().enumerate() {
            let ctx = Ctx::new(self, at, &cells, &rules, &[]);
            let values = match self.setup.kind {
                BenchKind::Petrol => petrol(&ctx, tag)?,
                BenchKind::Diesel => diesel(&ctx, tag)?,
                BenchKind::Doser => Vec::new(),
            };
            found.extend(values.into_iter().map(|value| (round.signed.moment(), value)));
        }
        Ok(found)
    }
}

impl ShelfFeature {
    /// The test that it is a value of: what work ends it is said there.
    pub(crate) fn test(self) -> BenchTest {
        match self {
            Self::StaticFlow | Self::ShortPulse => BenchTest::Flow,
            Self::DeadTime => BenchTest::Sweep,
            Self::FullDelivery | Self::SmallDelivery | Self::StaticReturn => BenchTest::Map,
            Self::Resistance => BenchTest::Parts,
        }
    }
}

fn value(feature: ShelfFeature, reading: Reading, condition: String) -> ShelfValue {
    let Reading { value, u, .. } = reading;
    ShelfValue {
        feature,
        value,
        u,
        shown: units::carried(value, u, feature.unit()),
        pulse_ms: None,
        condition,
    }
}

/// Static flow held open; the shortest pulse that was run; the dead time.
fn petrol(ctx: &Ctx<'_>, tag: u32) -> Result<Vec<ShelfValue>, CalcError> {
    let basis = basis(ctx, BenchTest::Flow)?;
    let as_measured = if basis.missing.is_some() { ", as measured" } else { "" };
    let rows = flow_rows(ctx, basis.factor);
    let read = |row: &super::flow::FlowRow| {
        let of = row.values.iter().find(|v| v.reading.tag == tag && v.questioned.is_none());
        of.map(|v| v.reading)
    };
    let mut found = Vec::new();
    let open = rows.iter().find(|row| row.open && row.basis == FlowBasis::Flow);
    found.extend(open.and_then(read).map(|reading| {
        value(ShelfFeature::StaticFlow, reading, format!("held open{as_measured}"))
    }));
    let pulsed = rows.iter().filter(|row| row.basis == FlowBasis::PerPulse);
    let shortest = pulsed
        .filter_map(|row| Some((row.pulse_ms?, row)))
        .min_by(|one, other| one.0.total_cmp(&other.0));
    found.extend(shortest.and_then(|(pulse_ms, row)| {
        let condition = format!("{} ms{as_measured}", trimmed(pulse_ms));
        let short = value(ShelfFeature::ShortPulse, read(row)?, condition);
        Some(ShelfValue { pulse_ms: Some(pulse_ms), ..short })
    }));
    if let Some(out) = sweep::fits(ctx)?.into_iter().find(|one| one.tag == tag).map(|one| one.out) {
        let of = |value, u| Some(Reading { tag, value: value?, u: u? });
        found.extend(
            of(out.offset_ms, out.u_offset_ms)
                .map(|reading| value(ShelfFeature::DeadTime, reading, "the sweep".to_owned())),
        );
    }
    Ok(found)
}

/// Deliveries at the longest and the shortest energising, what returns at standstill, the coil.
fn diesel(ctx: &Ctx<'_>, tag: u32) -> Result<Vec<ShelfValue>, CalcError> {
    let points = map::points(ctx)?;
    let read = |row: u32, cell: &str| {
        let at = points.iter().find(|at| at.row == row && at.tag == tag)?;
        let quantity = at.of.iter().find(|quantity| quantity.cell == cell)?;
        Some(Reading { tag, value: quantity.value, u: quantity.u })
    };
    let plan: Vec<(u32, &Point)> = (1..).zip(&ctx.session.setup.points).collect();
    let pulsed = plan.iter().filter_map(|(row, point)| Some((*row, point.pulse_ms?, *point)));
    let longest = pulsed.clone().max_by(|one, other| one.1.total_cmp(&other.1));
    let shortest = pulsed.min_by(|one, other| one.1.total_cmp(&other.1));
    let still = plan.iter().find(|(_, point)| point.pulse_ms.is_none());
    let mut found = Vec::new();
    for (feature, at) in
        [(ShelfFeature::FullDelivery, longest), (ShelfFeature::SmallDelivery, shortest)]
    {
        found.extend(at.and_then(|(row, _, point)| {
            Some(value(feature, read(row, "delivered")?, at_point(point)))
        }));
    }
    found.extend(still.and_then(|(row, point)| {
        Some(value(ShelfFeature::StaticReturn, read(*row, "returned")?, at_point(point)))
    }));
    let coil = ctx.of(BenchTest::Parts, None, tag, "coil");
    found.extend(coil.map(|value| {
        let u = METER_OHM / 12.0_f64.sqrt();
        self::value(ShelfFeature::Resistance, Reading { tag, value, u }, "on the bench".to_owned())
    }));
    Ok(found)
}

/// `full load, 1350 bar, 1.2 ms`.
fn at_point(point: &Point) -> String {
    let mut says = point.name.clone();
    if let Some(kpa) = point.rail_kpa {
        says.push_str(&format!(", {}", units::said(kpa, KPA)));
    }
    if let Some(ms) = point.pulse_ms {
        says.push_str(&format!(", {} ms", trimmed(ms)));
    }
    says
}
