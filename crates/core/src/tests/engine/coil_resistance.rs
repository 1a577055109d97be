//! `coil_resistance`: every coil at 20 °C, against the library's limit and against the others.
//!
//! Numbers by [`crate::calc::coil`] with the resolution, accuracy and leads of the meter that was
//! chosen. Units: Ω, °C. Without the temperature nothing is brought to 20 °C and the limit is not
//! applied; without a limit the odd one out is looked at, never condemned, but an open winding is
//! open whatever its family ([`RuleId::CoilOpen`], or `OPEN_TIMES` the others). A meter that is
//! too coarse clears nobody. All off by the same share is no four dead coils: temperature, family,
//! meter or leads are doubted first.
//!
//! # Source
//! JCGM 100 and JCGM 106 through the calcs; odd one out at 10 % and a meter too coarse below an
//! ohm are house rules.

mod words;

use super::words::{cylinders, missing};
use super::{Example, Found, Lane, Sheet, Spec, cell};
use crate::calc::coil::{ALPHA, CoilInput, CoilOutput, coil};
use crate::calc::compare_set::{CompareSetInput, CompareSetOutput, compare_set};
use crate::calc::decide::LimitState;
use crate::calc::{CalcError, exceeds};
use crate::caution;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::library::LimitCheck;
use crate::mark::Mark;
use crate::quantity::{shown, signed_percent, trimmed};
use crate::rules::RuleId;
use crate::said::{Code, Lack, Said};
use crate::start::StartId;
use crate::tests::property::Property;
use crate::tests::{Because, School};
use crate::typed::Field;
use crate::work::Stage;

crate::said::outcomes! {
    COIL_OPEN = coil_open,
    COIL_HIGH = coil_high,
    COIL_LOW = coil_low,
    COIL_ODD = coil_odd,
    COIL_GOOD = coil_good,
}

/// Share from the others that makes an odd one out (house rule).
const ODD: f64 = 0.10;
/// A meter with a coarser last digit than this cannot decide a coil below an ohm, Ω.
const FINE_ENOUGH_OHM: f64 = 0.01;
/// Above this many times the top of its limit, or the others, a coil is open (house rule).
const OPEN_TIMES: f64 = 5.0;
/// Leads that nobody measured matter from this share of the reading on (house rule).
const LEADS_MATTER: f64 = 0.03;
/// Last digit of a meter that nobody chose, Ω.
const UNKNOWN_METER_OHM: f64 = 0.1;

pub(super) const SPEC: Spec = Spec {
    title: "Coil resistance",
    short: "Coils",
    says: words::CONNECTORS_OFF_METER_ZEROED,
    cautions: &[caution::CHARGE],
    work: None,
    start: &[StartId::IgnitionOff, StartId::LeadsZeroed],
    minutes: 8,
    tools: words::METER_MILLIOHM_METER_BELOW,
    stage: Stage::Electrical,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid
        | FuelSystem::PetrolPort
        | FuelSystem::PetrolDirect
        | FuelSystem::ExhaustDoser => true,
        FuelSystem::DieselPiezo => false,
    },
    limit: Some(LimitCheck::CoilResistance),
    instrument: Some(InstrumentKind::Meter),
    set: &[
        cell("temperature", "Coil temperature", Field::TEMPERATURE.bare()),
        cell("leads", "Lead resistance", Field::from_zero("ohm", 100.0)),
    ],
    each: &[cell("ohms", "Meter shows", Field::from_zero("ohm", 1e6))],
    why: |c| c.odd_coil(),
    property: Property::LASTS,
    first: false,
    recorded: None,
    follows: None,
    example: Example {
        set: &[("temperature", 20.0), ("leads", 0.1)],
        each: &[("ohms", 0.0, 12.0)],
    },
    table: include_str!("coil_resistance.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read = sheet.read("ohms");
    let temperature = sheet.of_set("temperature");
    let unit = if temperature.is_some() { "Ω at 20 °C" } else { "Ω as measured" };
    let mut found = Found { unit, window_word: "limit", ..Found::default() };
    if read.is_empty() {
        words::ZERO_LEADS_FIRST_READ.clone_into(&mut found.headline);
        return Ok(found);
    }
    let limit = sheet.limit.as_ref().filter(|_| temperature.is_some());
    let coils = read
        .iter()
        .map(|(_, ohms)| coil(&input(sheet, *ohms, limit.map(|l| (l.lower, l.upper)))))
        .collect::<Result<Vec<_>, _>>()?;
    let values: Vec<f64> = coils.iter().map(|c| c.r20_ohm).collect();
    let open = sheet.rules.get(RuleId::CoilOpen);
    let closed: Vec<usize> = (0..read.len()).filter(|i| read[*i].1 <= open).collect();
    let compared = compare_closed(&values, &closed)?;
    let odd: Vec<u32> = read
        .iter()
        .enumerate()
        .filter(|(i, _)| compared.as_ref().is_some_and(|c| c.high.contains(i) || c.low.contains(i)))
        .map(|(_, (cylinder, _))| *cylinder)
        .collect();
    let coarse = too_coarse(sheet, &values);
    let alike_off = limit.is_some() && all_alike_off(&coils, compared.as_ref());
    let judged = Judged {
        sheet,
        limit: limit.is_some(),
        compared: compared.as_ref(),
        values: &values,
        coarse,
        alike_off,
    };
    found.lanes = read
        .iter()
        .zip(&coils)
        .enumerate()
        .map(|(i, ((cylinder, ohms), coil))| judged.lane(i, *cylinder, *ohms, coil))
        .collect();
    let marked = |marks: &[Mark]| -> Vec<u32> {
        found.lanes.iter().filter(|l| marks.contains(&l.mark)).map(|l| l.place).collect()
    };
    let (outside, unsure) = (marked(&[Mark::TooMuch, Mark::TooLittle]), marked(&[Mark::Undecided]));
    let opened: Vec<u32> = found
        .lanes
        .iter()
        .filter(|lane| lane.said.code == outcomes::COIL_OPEN)
        .map(|lane| lane.place)
        .collect();
    found.headline = match (outside.as_slice(), unsure.as_slice(), odd.as_slice()) {
        _ if !opened.is_empty() => words::winding_open(cylinders(&opened)),
        _ if alike_off => words::ALL_COILS_OFF_SAME.to_owned(),
        ([], unsure, _) if coarse && !unsure.is_empty() => {
            words::METER_CANNOT_DECIDE_COILS.to_owned()
        }
        ([], [], []) => words::all_coils_line(read.len()),
        ([], [], odd) => {
            words::read_unlike_others(cylinders(odd), if odd.len() == 1 { "s" } else { "" })
        }
        ([], unsure, _) if unsure.len() == read.len() && limit.is_some() => {
            words::METER_CANNOT_DECIDE_COILS.to_owned()
        }
        ([], unsure, _) => words::inconclusive_measurement(cylinders(unsure)),
        (outside, ..) => words::out_limits(cylinders(outside)),
    };
    found.advice.extend(missing(sheet, "ohms"));
    if temperature.is_none() && sheet.limit.is_some() {
        found.advice.push(words::LIMIT_APPLIES_C_WITHOUT.to_owned());
    }
    if let Some(limit) = limit {
        found.window = Some([limit.lower, limit.upper]);
    }
    found.schools = schools(&found.lanes, &odd, limit.is_some());
    found.flags = flags(sheet, &values);
    Ok(found)
}

/// Windings that are whole against each other: an open one says nothing about the rest.
fn compare_closed(values: &[f64], closed: &[usize]) -> Result<Option<CompareSetOutput>, CalcError> {
    if closed.len() < 2 {
        return Ok(None);
    }
    let own = closed.iter().map(|i| values[*i]).collect();
    let mut out = compare_set(&CompareSetInput { values: own, tolerance: ODD })?;
    let mut shares = vec![None; values.len()];
    for (at, i) in closed.iter().enumerate() {
        shares[*i] = out.vs_reference[at];
    }
    out.vs_reference = shares;
    for places in [&mut out.reference, &mut out.high, &mut out.low] {
        places.iter_mut().for_each(|at| *at = closed[*at]);
    }
    Ok(Some(out))
}

fn input(sheet: &Sheet, ohms: f64, limit: Option<(Option<f64>, Option<f64>)>) -> CoilInput {
    let meter = sheet.instrument.as_ref();
    CoilInput {
        measured_ohm: ohms,
        temp_c: sheet.of_set("temperature").unwrap_or(20.0),
        resolution_ohm: meter.map_or(UNKNOWN_METER_OHM, |m| m.resolution),
        lead_ohm: sheet.of_set("leads").or(meter.and_then(|m| m.lead_ohm)),
        accuracy_pct: meter.map(|m| m.accuracy_pct),
        accuracy_digits: meter.map(|m| m.accuracy_digits),
        lower_20: limit.and_then(|(lower, _)| lower),
        upper_20: limit.and_then(|(_, upper)| upper),
        unknown_lead_ohm: Some(sheet.rules.get(RuleId::CoilLeads)),
        ..CoilInput::default()
    }
}

fn schools(lanes: &[Lane], odd: &[u32], by_limit: bool) -> Vec<School> {
    let of = |marks: &[Mark]| -> Vec<u32> {
        lanes.iter().filter(|l| marks.contains(&l.mark)).map(|l| l.place).collect()
    };
    vec![
        School {
            name: "Limit at 20 °C".to_owned(),
            condemns: if by_limit { of(&[Mark::TooMuch, Mark::TooLittle]) } else { Vec::new() },
            looks_at: if by_limit { of(&[Mark::Undecided]) } else { Vec::new() },
            silent: (!by_limit).then(|| words::NO_LIMIT_APPLIES_HERE.to_owned()),
            leads: by_limit,
        },
        School {
            name: words::odd_one_out_others(ODD * 100.0),
            condemns: Vec::new(),
            looks_at: odd.to_vec(),
            silent: None,
            leads: !by_limit,
        },
    ]
}

/// Coils below an ohm on a meter whose last digit cannot tell them apart.
fn too_coarse(sheet: &Sheet, values: &[f64]) -> bool {
    let resolution = sheet.instrument.as_ref().map_or(UNKNOWN_METER_OHM, |m| m.resolution);
    let below_an_ohm = values.iter().filter(|v| **v < 1.0).count() * 2 > values.len();
    below_an_ohm && exceeds(resolution, FINE_ENOUGH_OHM)
}

/// Three or more, all outside their limit on the same side and alike among themselves.
fn all_alike_off(coils: &[CoilOutput], compared: Option<&CompareSetOutput>) -> bool {
    let all = |state| coils.iter().all(|coil| coil.state == Some(state));
    let alike = compared.is_some_and(|c| c.settled && c.reference.len() == coils.len());
    coils.len() >= 3 && alike && (all(LimitState::Above) || all(LimitState::Below))
}

fn flags(sheet: &Sheet, values: &[f64]) -> Vec<String> {
    let mut flags = Vec::new();
    let resolution = sheet.instrument.as_ref().map_or(UNKNOWN_METER_OHM, |m| m.resolution);
    if too_coarse(sheet, values) {
        flags.push(words::coils_below_meter_shows(trimmed(resolution)));
    }
    if sheet.instrument.is_none() {
        flags.push(words::no_meter_chosen_last(trimmed(UNKNOWN_METER_OHM)));
    }
    flags
}

struct Judged<'a> {
    sheet: &'a Sheet,
    limit: bool,
    compared: Option<&'a CompareSetOutput>,
    values: &'a [f64],
    /// The meter cannot tell these coils apart.
    coarse: bool,
    /// All are off by the same share.
    alike_off: bool,
}

impl Judged<'_> {
    fn lane(&self, i: usize, cylinder: u32, ohms: f64, coil: &CoilOutput) -> Lane {
        let odd = self.compared.is_some_and(|c| c.high.contains(&i) || c.low.contains(&i));
        let settled = self.compared.is_none_or(|c| c.settled);
        let open = self.open(i, ohms);
        let (mark, code, word, says) = match (coil.state, odd, settled) {
            _ if open => {
                let says = words::WINDING_JOINT_PIN_OPEN;
                (Mark::TooMuch, outcomes::COIL_OPEN, "open", says)
            }
            _ if self.alike_off => {
                let says = words::OFF_LIKE_ALL_OTHERS;
                (Mark::Questioned, Code::ALL_ALIKE_OFF, "all off alike", says)
            }
            (Some(LimitState::Above), ..) => {
                let says = words::TOO_HIGH_EVEN_ALLOWING;
                (Mark::TooMuch, outcomes::COIL_HIGH, "too high", says)
            }
            (Some(LimitState::Below), ..) => {
                let says = words::TOO_LOW_EVEN_ALLOWING;
                (Mark::TooLittle, outcomes::COIL_LOW, "too low", says)
            }
            (Some(LimitState::Undecided), ..) => {
                let says = words::INCONCLUSIVE_METER;
                (Mark::Undecided, Code::TOO_CLOSE, "inconclusive", says)
            }
            _ if self.coarse => {
                let says = words::METER_TOO_COARSE_TELL;
                (Mark::Undecided, Code::CANNOT_DECIDE, "inconclusive", says)
            }
            (_, true, _) => (Mark::Look, outcomes::COIL_ODD, "odd one", words::UNLIKE_OTHERS),
            (Some(LimitState::Within), ..) => (Mark::Inside, outcomes::COIL_GOOD, "within", "."),
            (None, false, true) if self.values.len() > 1 => {
                (Mark::Inside, outcomes::COIL_GOOD, "in line", ".")
            }
            (None, false, _) => (Mark::Undecided, Code::NO_REFERENCE, "inconclusive", "."),
        };
        let number = match coil.r20_ohm {
            // An open winding: its digits tell nothing.
            far if far >= 10_000.0 => format!("{:.0} k", far / 1000.0),
            ohms => format!("{} ", shown(ohms, coil.u_ohm)),
        };
        let number = match self.sheet.of_set("temperature") {
            Some(_) => format!("{number}Ω at 20 °C"),
            None => format!("{number}Ω as measured"),
        };
        let sentence = format!("{number}{says}");
        let number = shown(coil.r20_ohm, coil.u_ohm);
        let lead =
            self.input_lead().map(|lead| format!(" − {}", trimmed(lead))).unwrap_or_default();
        let temperature = self.sheet.of_set("temperature");
        let mut because = vec![Because::shows(
            match temperature {
                Some(_) => words::COPPER_RISES_PER_KELVIN.to_owned(),
                None => words::TEMPERATURE_NOT_READ_NOT.to_owned(),
            },
            match temperature {
                Some(celsius) => format!(
                    "({}{lead}) ÷ (1 + {} × ({} − 20)) = {number} Ω, u = {}",
                    trimmed(ohms),
                    trimmed(ALPHA),
                    trimmed(celsius),
                    shown(coil.u_ohm, coil.u_ohm / 10.0)
                ),
                None => format!(
                    "{}{lead} = {number} Ω, u = {}",
                    trimmed(ohms),
                    shown(coil.u_ohm, coil.u_ohm / 10.0)
                ),
            },
        )];
        if let Some(limit) = self.sheet.limit.as_ref().filter(|_| self.limit) {
            because.push(Because::says(format!(
                "Limit {} ({}, revision {})",
                limit.window(),
                limit.source,
                limit.revision
            )));
        }
        if let Some(share) = self.compared.and_then(|c| c.vs_reference[i]) {
            because.push(Because::says(words::against_agreeing_others(signed_percent(share))));
        }
        because
            .extend(self.sheet.rules.reasons(&[RuleId::CoilLeads]).into_iter().map(Because::says));
        let mut would_change: Vec<String> = coil.warning.iter().cloned().collect();
        if mark == Mark::Undecided && would_change.is_empty() {
            would_change.push(words::FINER_METER_FOUR_WIRES.to_owned());
        }
        if self.alike_off {
            would_change.insert(0, words::COIL_TEMPERATURE_FAMILY_LIBRARY.to_owned());
        }
        Lane {
            place: cylinder,
            mark,
            said: self.said(i, code, coil),
            word: word.to_owned(),
            value: Some(coil.r20_ohm),
            u: Some(coil.u_ohm),
            shown: number,
            share: self.compared.and_then(|c| c.vs_reference[i]),
            sentence,
            because,
            would_change,
            ..Lane::default()
        }
    }

    /// The code with its distance from the nearer end of its limit, else from the others.
    fn said(&self, i: usize, code: Code, coil: &CoilOutput) -> Said {
        let limit = self.sheet.limit.as_ref().filter(|_| self.limit);
        let ends = limit.map(|limit| [limit.lower, limit.upper]).into_iter().flatten().flatten();
        let nearest = ends
            .map(|end| coil.r20_ohm - end)
            .min_by(|one, other| one.abs().total_cmp(&other.abs()));
        let share = self.compared.and_then(|c| c.vs_reference[i]);
        let others = share.map(|share| coil.r20_ohm - coil.r20_ohm / (1.0 + share));
        let unknown = self.sheet.rules.get(RuleId::CoilLeads);
        let leads = self.input_lead().is_none() && unknown > LEADS_MATTER * coil.r20_ohm;
        let unheard = self.sheet.limit.is_some() && self.sheet.of_set("temperature").is_none();
        Said::new(code)
            .off(nearest.or(others).unwrap_or(f64::NAN), coil.u_ohm)
            .lacking(Lack::LeadsNotZeroed, leads)
            .lacking(Lack::NoTemperature, unheard)
    }

    /// Far above its limit, above the others, or above what any winding has.
    fn open(&self, i: usize, ohms: f64) -> bool {
        let top = self.sheet.limit.as_ref().filter(|_| self.limit).and_then(|l| l.upper);
        let mut others: Vec<f64> =
            self.values.iter().enumerate().filter(|(j, _)| *j != i).map(|(_, v)| *v).collect();
        others.sort_by(f64::total_cmp);
        let middle = others.get(others.len() / 2).copied().filter(|_| others.len() >= 2);
        let reach = top.or(middle).map_or(f64::INFINITY, |usual| OPEN_TIMES * usual);
        ohms > self.sheet.rules.get(RuleId::CoilOpen) || ohms > reach
    }

    fn input_lead(&self) -> Option<f64> {
        self.sheet.of_set("leads").or(self.sheet.instrument.as_ref().and_then(|m| m.lead_ohm))
    }
}
