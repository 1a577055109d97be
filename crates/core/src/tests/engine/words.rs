//! Words that all of these checks share.

use super::{Cell, Found, Lane, Sheet};
use crate::calc::CalcError;
use crate::calc::compare_set::{CompareSetInput, CompareSetOutput, compare_set, median_of_sorted};
use crate::mark::Mark;
use crate::quantity::{signed_percent, trimmed};
use crate::rules::RuleId;
use crate::said::{Code, Said};
use crate::tests::Because;
use crate::tests::slip::{other_unit, slipped};
use crate::units;
pub(super) use crate::words::cylinders;

/// A cylinder that nothing was read for.
pub(super) fn not_read(cylinder: u32) -> Lane {
    Lane {
        place: cylinder,
        word: "not read".to_owned(),
        sentence: "Not read yet.".to_owned(),
        ..Lane::default()
    }
}

/// The cylinders that are still missing, once something was read.
pub(super) fn missing(sheet: &Sheet, name: &str) -> Option<String> {
    let read: Vec<u32> = sheet.read(name).into_iter().map(|(cylinder, _)| cylinder).collect();
    let open: Vec<u32> = sheet.cylinders.iter().copied().filter(|c| !read.contains(c)).collect();
    (!read.is_empty() && !open.is_empty()).then(|| format!("{} not read yet.", cylinders(&open)))
}

/// The middle of what others read; none where they are fewer than these.
pub(super) fn middle_of(others: impl Iterator<Item = f64>, least: usize) -> Option<f64> {
    let mut sorted: Vec<f64> = others.collect();
    sorted.sort_by(f64::total_cmp);
    (sorted.len() >= least).then(|| median_of_sorted(&sorted))
}

/// Cylinders of which a value is about ten times the others, a tenth of them, or as far off as two units are.
pub(super) fn like_slips(cells: &[Cell], sheet: &Sheet) -> Vec<u32> {
    let mut found = Vec::new();
    for cell in asked_of(cells) {
        let read = sheet.read(cell.name);
        found.extend(slipped(&read, 4).into_iter().map(|(cylinder, _)| cylinder));
        let unit = cell.form().kept_unit;
        let other = (0..read.len()).filter(|at| other_unit(&read, *at, &unit).is_some());
        found.extend(other.map(|at| read[at].0));
    }
    found
}

/// Numbers of which a unit or a decimal may be asked about.
fn asked_of(cells: &[Cell]) -> impl Iterator<Item = &Cell> {
    cells.iter().filter(|cell| cell.choices().is_empty() && !cell.wide)
}

/// Cells that are about ten times the others, or a tenth of them. At least four have to be read.
pub(super) fn decimal_slips(cells: &[Cell], sheet: &Sheet) -> Vec<String> {
    let mut found = Vec::new();
    for cell in asked_of(cells) {
        let read = sheet.read(cell.name);
        let unit = cell.form().kept_unit;
        for (at, (cylinder, _)) in read.iter().enumerate() {
            if let Some(asks) = other_unit(&read, at, &unit) {
                found.push(format!("{} of cylinder {cylinder}: {asks}", cell.word));
            }
        }
        for (cylinder, how) in slipped(&read, 4) {
            found.push(format!(
                "{} of cylinder {cylinder} is {how} the others: decimal point slipped?",
                cell.word
            ));
        }
    }
    found
}

/// One figure of each cylinder against the others that agree: headline, lanes and band.
pub(super) fn against_others(
    sheet: &Sheet,
    name: &str,
    tolerance: f64,
    rules: &[RuleId],
    codes: Codes,
    unit: &'static str,
) -> Result<Found, CalcError> {
    let read = sheet.read(name);
    let mut found = Found { window_word: "in line", ..Found::default() };
    if read.len() < 2 {
        "Read at least two cylinders to compare them.".clone_into(&mut found.headline);
        return Ok(found);
    }
    let values: Vec<f64> = read.iter().map(|(_, value)| *value).collect();
    let out = compare_set(&CompareSetInput { values: values.clone(), tolerance })?;
    let of = |indices: &[usize]| -> Vec<u32> { indices.iter().map(|i| read[*i].0).collect() };
    let (high, low) = (of(&out.high), of(&out.low));
    found.headline = match (out.settled, high.as_slice(), low.as_slice()) {
        (false, ..) if out.split => {
            "The set splits into two groups: comparison cannot say which is right.".to_owned()
        }
        (false, ..) => "Too few agree with each other to compare.".to_owned(),
        (true, [], []) => format!("All {} in line.", read.len()),
        (true, high, []) => format!("{}: above the others.", cylinders(high)),
        (true, [], low) => format!("{}: below the others.", cylinders(low)),
        (true, high, low) => {
            format!("{}: above the others. {}: below.", cylinders(high), cylinders(low))
        }
    };
    if out.settled {
        let members: Vec<f64> = out.reference.iter().map(|i| values[*i]).collect();
        let mean = members.iter().sum::<f64>() / members.len() as f64;
        found.window = Some([Some(mean * (1.0 - tolerance)), Some(mean * (1.0 + tolerance))]);
    }
    let reasons = sheet.rules.reasons(rules);
    found.lanes = (0..read.len())
        .map(|i| {
            let mut lane = lane_among(&read, i, &out, tolerance, &reasons, codes, unit);
            let u = sheet.instrument.as_ref().map(|tool| tool.u(read[i].1));
            if let (Some(u), Some(share), Some(value)) = (u, lane.share, lane.value) {
                lane.said = lane.said.off(share, u * (1.0 + share) / value);
            }
            lane
        })
        .collect();
    Ok(found)
}

/// What is little beyond the line is looked at by another check: sound ones reach it now and then.
pub(super) fn near_line(lanes: &mut [Lane], tolerance: f64, odd: &[Code]) {
    for lane in lanes.iter_mut().filter(|lane| odd.contains(&lane.said.code)) {
        if let Some(share) = lane.share {
            lane.said = std::mem::take(&mut lane.said).beyond(share.abs() / tolerance);
        }
    }
}

/// What a comparison says above the others, below them, and among them.
#[derive(Debug, Clone, Copy)]
pub(super) struct Codes {
    pub high: Code,
    pub low: Code,
    pub alike: Code,
}

fn lane_among(
    read: &[(u32, f64)],
    i: usize,
    out: &CompareSetOutput,
    tolerance: f64,
    reasons: &[String],
    codes: Codes,
    unit: &'static str,
) -> Lane {
    let (cylinder, value) = read[i];
    let share = out.vs_reference[i].filter(|_| out.settled);
    let (mark, word, code) = if !out.settled {
        (Mark::Undecided, "inconclusive", Code::NO_REFERENCE)
    } else if out.high.contains(&i) {
        (Mark::TooMuch, "high", codes.high)
    } else if out.low.contains(&i) {
        (Mark::TooLittle, "low", codes.low)
    } else {
        (Mark::Inside, "in line", codes.alike)
    };
    let others: Vec<f64> =
        out.reference.iter().filter(|other| **other != i).map(|other| read[*other].1).collect();
    let mean = others.iter().sum::<f64>() / others.len().max(1) as f64;
    let mean = units::fixed(mean, 1, unit);
    let mut because = match share {
        Some(share) => vec![Because::shows(
            format!(
                "Agreeing others, mean {mean}; in line within {} % (workshop rule)",
                trimmed(tolerance * 100.0)
            ),
            format!("{} ÷ {mean} − 1 = {}", units::reading(value, unit), signed_percent(share)),
        )],
        None => vec![Because::says("No agreeing others to compare with.")],
    };
    because.extend(reasons.iter().cloned().map(Because::says));
    Lane {
        place: cylinder,
        mark,
        said: Said::new(code),
        word: word.to_owned(),
        value: Some(value),
        shown: units::reading(value, unit),
        share,
        sentence: match share {
            Some(share) => format!("{} against the others.", signed_percent(share)),
            None => "Comparison is inconclusive.".to_owned(),
        },
        because,
        would_change: match mark {
            Mark::TooMuch | Mark::TooLittle => {
                vec!["The same reading again, then a swap with a neighbour.".to_owned()]
            }
            Mark::Undecided => vec!["A known good one to compare with.".to_owned()],
            Mark::Inside | Mark::Look | Mark::Questioned | Mark::NotMeasured => Vec::new(),
        },
        ..Lane::default()
    }
}
