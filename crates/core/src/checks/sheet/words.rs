//! Words that all of these checks share.

use super::{Cell, Sheet, SheetLane};
use crate::mark::Mark;
use crate::work::join;

/// A cylinder that nothing was read for.
pub(super) fn not_read(cylinder: u32) -> SheetLane {
    SheetLane {
        cylinder,
        mark: Mark::NotMeasured,
        word: "not read".to_owned(),
        value: None,
        u: None,
        shown: String::new(),
        sentence: "Not read yet.".to_owned(),
        because: Vec::new(),
        would_change: Vec::new(),
    }
}

/// `Cylinder 2` or `Cylinders 2 and 4`, in the order of numbering.
pub(super) fn cylinders(numbers: &[u32]) -> String {
    let mut numbers = numbers.to_vec();
    numbers.sort_unstable();
    let noun = if numbers.len() == 1 { "Cylinder" } else { "Cylinders" };
    format!("{noun} {}", join(&numbers))
}

/// The cylinders that are still missing, once something was read.
pub(super) fn missing(sheet: &Sheet, name: &str) -> Option<String> {
    let read: Vec<u32> = sheet.read(name).into_iter().map(|(cylinder, _)| cylinder).collect();
    let open: Vec<u32> = sheet.cylinders.iter().copied().filter(|c| !read.contains(c)).collect();
    (!read.is_empty() && !open.is_empty()).then(|| format!("{} not read yet.", cylinders(&open)))
}

/// A cell that is about ten times the others, or a tenth of them: a decimal that slipped?
/// At least four have to be read, and the others have to agree.
pub(super) fn decimal_slips(cells: &[Cell], sheet: &Sheet) -> Vec<String> {
    let mut found = Vec::new();
    for cell in cells.iter().filter(|cell| cell.choices.is_empty()) {
        let read = sheet.read(cell.name);
        if read.len() < 4 {
            continue;
        }
        for (cylinder, value) in &read {
            let others = read.iter().filter(|(c, _)| c != cylinder).map(|(_, v)| *v);
            let (low, high) =
                others.fold((f64::INFINITY, 0.0_f64), |(low, high), v| (low.min(v), high.max(v)));
            let alike = low > 0.0 && high / low < 1.6;
            let ratio = value / (low * high).sqrt();
            if alike && ((7.0..14.0).contains(&ratio) || (1.0 / 14.0..1.0 / 7.0).contains(&ratio)) {
                found.push(format!(
                    "{} of cylinder {cylinder} is {} the others: did a decimal slip?",
                    cell.word,
                    if ratio > 1.0 { "ten times" } else { "a tenth of" }
                ));
            }
        }
    }
    found
}
