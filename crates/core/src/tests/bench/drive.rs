//! `drive`: the guard before anything is pulsed. A wrong drive destroys the coil.
//!
//! The voltage and the peak current of the chosen bench drive against what each family takes:
//! a higher one is refused, one of an unknown family or of unknown strength is warned of.
//!
//! # Source
//! The family's drive voltage, peak voltage and peak current in the library; the drives are ours.

mod words;

use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::{CalcError, exceeds};
use crate::caution;
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::tests::Because;
use crate::tests::cell::{cell, choice};
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::typed::Field;
use crate::words::{by_number, injectors};

/// Drives to choose from, with the voltage at the injector and the peak current where it is set.
const DRIVES: &[(&str, Option<f64>, Option<f64>)] = &[
    ("plain, 12 V", Some(12.0), None),
    (words::PEAK_HOLD_V, Some(12.0), Some(4.0)),
    (words::PEAK_HOLD_V_2, Some(12.0), Some(2.0)),
    ("boosted, 65 V, 18 A", Some(65.0), Some(18.0)),
    ("piezo, 150 V", Some(150.0), Some(12.0)),
    ("battery, by hand", Some(12.6), None),
    ("another", None, None),
    ("piezo, 120 V", Some(120.0), Some(8.0)),
];
const NAMES: &[&str] = &[
    DRIVES[0].0,
    DRIVES[1].0,
    DRIVES[2].0,
    DRIVES[3].0,
    DRIVES[4].0,
    DRIVES[5].0,
    DRIVES[6].0,
    DRIVES[7].0,
];
const BY_HAND: usize = 5;

crate::said::outcomes! {}

pub(super) const SPEC: Spec = Spec {
    title: "Driver check",
    short: "Drive",
    says: words::CHOOSE_BENCH_DRIVER_BEFORE,
    cautions: &[caution::COIL, caution::CHARGE],
    kinds: &[BenchKind::Petrol, BenchKind::Diesel, BenchKind::Doser],
    pulses: false,
    rows: Rows::None,
    set: &[
        choice("drive", "Bench driver", NAMES),
        choice("polarity", "Polarity", &["not checked", words::MARKED_CONNECTOR]),
        cell("volts", "Voltage, if different", Field::above_zero("V", 0.1, 500.0)).more(),
        cell("amps", words::PEAK_CURRENT_DIFFERENT, Field::above_zero("A", 0.01, 100.0)).more(),
    ],
    row: &[],
    each: &[],
    tubes: &[],
    property: Property::LASTS,
    table: "",
    judge,
};

/// What the drive gives: voltage and peak current, typed ones first.
fn gives(ctx: &Ctx<'_>) -> Option<(usize, Option<f64>, Option<f64>)> {
    let chosen = ctx.carried(BenchTest::Drive, "drive")? as usize;
    let (_, volts, amps) = DRIVES.get(chosen)?;
    let typed = |name| ctx.carried(BenchTest::Drive, name);
    Some((chosen, typed("volts").or(*volts), typed("amps").or(*amps)))
}

/// Why nothing may be pulsed, if the drive is too high for one of the injectors.
pub(super) fn refuses(ctx: &Ctx<'_>) -> Option<String> {
    gives(ctx)?;
    let verdict = judge(ctx).ok()?;
    let bad = marked(&verdict.lanes, &[Mark::TooMuch]);
    (!bad.is_empty()).then_some(verdict.headline)
}

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let Some((chosen, volts, amps)) = gives(ctx) else {
        return Ok(Verdict {
            headline: words::CHOOSE_DRIVER_BEFORE_FIRST.to_owned(),
            lanes: lanes(ctx, |_| None),
            ..Verdict::default()
        });
    };
    let name = DRIVES[chosen].0;
    let lanes = lanes(ctx, |tag| Some(lane(ctx, tag, name, volts, amps)));
    let (bad, unsure) = (marked(&lanes, &[Mark::TooMuch]), marked(&lanes, &[Mark::Questioned]));
    let headline = if !bad.is_empty() {
        words::not_pulse_more(name, lower(&injectors(&bad)), by_number(bad.len(), "takes", "take"))
    } else if !unsure.is_empty() {
        words::no_rating_file(name, lower(&injectors(&unsure)))
    } else {
        words::within_each_injector_takes(name)
    };
    let mut verdict = Verdict { headline, lanes, ..Verdict::default() };
    if chosen == BY_HAND {
        verdict.advice.push(words::BATTERY_HAND_PULSES_HALF.to_owned());
    }
    if !unsure.is_empty() && bad.is_empty() {
        verdict.advice.push(words::START_WEAKEST_DRIVER_OPEN.to_owned());
    }
    if ctx.carried(BenchTest::Drive, "polarity") != Some(1.0) {
        verdict.flags.push(words::POLARITY_NOT_CHECKED.to_owned());
    }
    Ok(verdict.closed())
}

fn lower(named: &str) -> String {
    let mut chars = named.chars();
    chars.next().map(|first| first.to_lowercase().chain(chars).collect()).unwrap_or_default()
}

fn lane(ctx: &Ctx<'_>, tag: u32, name: &str, volts: Option<f64>, amps: Option<f64>) -> Lane {
    let family = ctx.family(tag);
    let known = family.map(|f| (f.detail.peak_voltage_v, f.detail.peak_current_a));
    // A high-resistance coil draws no more than its voltage drives through it, whatever the drive
    // could give.
    let held = family.is_none_or(|f| f.detail.kind.coil_class().needs_hold());
    let amps = amps.filter(|_| held || volts.is_none());
    let who = family.map_or("Its family", |f| f.name.as_str());
    let over = |what: Option<f64>, most: Option<f64>| {
        what.zip(most).is_some_and(|(what, most)| exceeds(what, most))
    };
    match known {
        Some((most_v, most_a)) if over(volts, most_v) || over(amps, most_a) => {
            let mut because = Vec::new();
            for (what, most, unit) in [(volts, most_v, "V"), (amps, most_a, "A")] {
                if let (Some(what), Some(most)) = (what, most) {
                    let sign = if exceeds(what, most) { '>' } else { '≤' };
                    because.push(Because::shows(
                        format!("{name} against what {who} takes"),
                        format!("{} {unit} {sign} {} {unit}", trimmed(what), trimmed(most)),
                    ));
                }
            }
            Lane::new(tag, Mark::TooMuch, "too high", words::DRIVER_WOULD_DESTROY_COIL)
                .because(because)
                .then(words::DRIVER_WITHIN_FAMILY_TAKES)
        }
        Some((Some(most_v), _)) if volts.is_some() => {
            let needs_hold = family.is_some_and(|f| f.detail.kind.coil_class().needs_hold());
            let plain = amps.is_none() && needs_hold;
            // What nobody wrote down is never within.
            if needs_hold && amps.is_some() && known.is_some_and(|(_, most_a)| most_a.is_none()) {
                return Lane::new(tag, Mark::Questioned, "unknown", words::NO_CURRENT_RATING_FILE)
                    .because([Because::says(words::needs_peak_hold_peak(who))])
                    .then(words::PEAK_CURRENT_LIBRARY_UNTIL);
            }
            if plain {
                return Lane::new(
                    tag,
                    Mark::Questioned,
                    "no hold",
                    words::LOW_IMPEDANCE_COIL_PLAIN,
                )
                .because([Because::says(words::needs_peak_hold(who))])
                .then(words::PEAK_HOLD_DRIVER_SERIES);
            }
            let shows = format!("{} V ≤ {} V", trimmed(volts.unwrap_or_default()), trimmed(most_v));
            Lane::new(tag, Mark::Inside, "suitable", words::WITHIN_FAMILY_TAKES)
                .because([Because::shows(format!("{name} against what {who} takes"), shows)])
        }
        Some(_) | None => Lane::new(tag, Mark::Questioned, "unknown", words::NO_RATING_FILE_FAMILY)
            .because([Because::says(words::PEAK_VOLTAGE_FAMILY_VOLTAGE)])
            .then(words::ENTER_BOTH_FAMILY_LIBRARY),
    }
}
