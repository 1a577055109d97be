//! `supply_offset`: dead time against supply voltage, for the table of a control unit.
//!
//! At each voltage two widths on the line: `offset = t1 − V1·(t2 − t1)/(V2 − V1)`, with
//! `u = u_V·√((t2−t1)²·(V2² + V1²))/(V2 − V1)²` from the marks of the tubes.
//!
//! # Source
//! SAE J1832 (offset as the intercept of the linear range); JCGM 100 for `u`.

mod words;

use super::ctx::Ctx;
use super::record::SessionRecord;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::caution;
use crate::mark::Mark;
use crate::quantity::{shown, trimmed};
use crate::rules::Rules;
use crate::tests::Because;
use crate::tests::cell::cell;
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Row, Verdict};
use crate::typed::Field;

const WIDTH: Field = Field::above_zero("ms", 0.05, 100.0);
const TUBE: Field = Field::from_zero("ml", 100_000.0);

crate::said::outcomes! {}

pub(super) const SPEC: Spec = Spec {
    title: words::DEAD_TIME_AGAINST_SUPPLY,
    short: "Supply",
    says: words::TWO_WIDTHS_LINE_EACH,
    cautions: &[caution::BENCH, caution::COIL],
    kinds: &[BenchKind::Petrol],
    pulses: true,
    rows: Rows::UpTo(8),
    set: &[
        cell("short", "Shorter width", WIDTH),
        cell("long", "Longer width", WIDTH),
        cell("count", "Pulses of each", Field::above_zero("", 1.0, 1e6)),
    ],
    row: &[cell("volts", "Supply", Field::above_zero("V", 4.0, 30.0))],
    each: &[cell("short", "Tube, shorter", TUBE), cell("long", "Tube, longer", TUBE)],
    tubes: &[],
    property: Property::PASSES,
    table: "",
    judge,
};

/// Volts, and for each injector dead time and its uncertainty, ms.
struct AtVolts {
    row: u32,
    volts: f64,
    offsets: Vec<(u32, f64, f64)>,
}

fn table(ctx: &Ctx<'_>) -> Vec<AtVolts> {
    let set = |name| ctx.set(BenchTest::SupplyOffset, name);
    let (Some(short), Some(long)) = (set("short"), set("long")) else { return Vec::new() };
    let u = ctx.session.setup.graduation / 12.0_f64.sqrt();
    ctx.rows(BenchTest::SupplyOffset)
        .filter_map(|row| {
            let volts = ctx.row(BenchTest::SupplyOffset, row, "volts")?;
            let of = |tag, name| ctx.of(BenchTest::SupplyOffset, Some(row), tag, name);
            let offsets = ctx.tags().filter_map(|tag| {
                let (v1, v2) = (of(tag, "short")?, of(tag, "long")?);
                let rise = v2 - v1;
                (rise > 0.0 && long > short).then(|| {
                    let offset = short - v1 * (long - short) / rise;
                    (tag, offset, u * (long - short) * v1.hypot(v2) / (rise * rise))
                })
            });
            Some(AtVolts { row, volts, offsets: offsets.collect() })
        })
        .collect()
}

/// One line of the table of a session.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SupplyLine {
    /// Injector.
    pub tag: u32,
    /// Supply, V.
    pub volts: f64,
    /// Dead time, ms.
    pub offset_ms: f64,
    /// Its standard uncertainty, ms.
    pub u_ms: f64,
}

/// The table of the newest round that has one, by injector and voltage.
pub fn supply_table(session: &SessionRecord) -> Vec<SupplyLine> {
    let (cells, rules) = (session.indexed(), Rules::default());
    let at = |round| Ctx::new(session, round, &cells, &rules, &[]);
    let rounds = (0..session.rounds.len()).rev();
    let found = rounds.map(|round| table(&at(round))).find(|table| !table.is_empty());
    let mut lines: Vec<SupplyLine> = found
        .unwrap_or_default()
        .iter()
        .flat_map(|at| {
            at.offsets.iter().map(|(tag, offset_ms, u_ms)| SupplyLine {
                tag: *tag,
                volts: at.volts,
                offset_ms: *offset_ms,
                u_ms: *u_ms,
            })
        })
        .collect();
    lines.sort_by(|a, b| a.tag.cmp(&b.tag).then(a.volts.total_cmp(&b.volts)));
    lines
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let table = table(ctx);
    let rows = table.iter().map(|at| Row {
        row: at.row,
        name: format!("{} V", trimmed(at.volts)),
        unit: "ms dead time".to_owned(),
        lanes: at
            .offsets
            .iter()
            .map(|(tag, offset, u)| Lane {
                place: *tag,
                mark: Mark::Inside,
                value: Some(*offset),
                u: Some(*u),
                shown: shown(*offset, *u),
                ..Lane::default()
            })
            .collect(),
        ..Row::default()
    });
    let lanes = lanes(ctx, |tag| {
        let of: Vec<(f64, f64, f64)> = table
            .iter()
            .filter_map(|at| {
                let (_, offset, u) = at.offsets.iter().find(|(held, ..)| *held == tag)?;
                Some((at.volts, *offset, *u))
            })
            .collect();
        let mut by_volts = of.clone();
        by_volts.sort_by(|a, b| a.0.total_cmp(&b.0));
        // More supply opens a coil sooner; a dead time that grows by more than the doubt is a slip.
        let grows = by_volts.windows(2).any(|w| w[1].1 - w[0].1 > 2.0 * w[0].2.hypot(w[1].2));
        let because = of.iter().map(|(volts, offset, u)| {
            Because::shows(
                format!("At {} V", trimmed(*volts)),
                format!("{} ± {} ms", shown(*offset, *u), shown(*u, *u)),
            )
        });
        let lane = if grows {
            Lane::new(tag, Mark::Questioned, "grows", words::DEAD_TIME_GROWS_SUPPLY)
                .then(words::BOTH_VOLTAGES_AGAIN)
        } else {
            Lane::new(tag, Mark::Inside, "falls", words::DEAD_TIME_FALLS_SUPPLY)
        };
        (!of.is_empty()).then(|| lane.because(because))
    });
    let headline = match table.len() {
        0 => words::ENTER_BOTH_WIDTHS_READ.to_owned(),
        1 => words::ONE_VOLTAGE_FAR_TABLE.to_owned(),
        n => words::dead_time_voltages_export(n),
    };
    Ok(Verdict { headline, rows: rows.collect(), lanes, ..Verdict::default() }.closed())
}
