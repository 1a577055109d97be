//! What was read back against what was written: the only thing that a success is called by.

use super::SlotCode;
use crate::codes::words;
use crate::words::cylinders;

/// What was read back.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Compared {
    /// Every slot holds what it has to, and no other slot changed.
    pub good: bool,
    /// In a sentence or two, slot by slot where something is wrong.
    pub says: String,
}

fn at(codes: &[SlotCode], cylinder: u32) -> Option<&str> {
    codes.iter().find(|one| one.cylinder == cylinder)?.code.as_deref()
}

/// Compares.
///
/// ```
/// use cobaltine_core::codes::{SlotCode, compared};
/// let codes = |of: &[&str]| -> Vec<SlotCode> {
///     (1..).zip(of).map(|(cylinder, code)| SlotCode { cylinder, code: Some(code.to_string()) }).collect()
/// };
/// let before = codes(&["AA", "BB", "CC"]);
/// let write = vec![SlotCode { cylinder: 2, code: Some("XX".to_owned()) }];
/// assert!(compared(&before, &write, &codes(&["AA", "XX", "CC"])).good);
/// let wrong = compared(&before, &write, &codes(&["AA", "BB", "XX"]));
/// assert!(!wrong.good && wrong.says.contains("cylinder 3") && wrong.says.contains("CC"));
/// ```
pub fn compared(before: &[SlotCode], writes: &[SlotCode], after: &[SlotCode]) -> Compared {
    let mut says = Vec::new();
    let written = |cylinder: u32| writes.iter().any(|one| one.cylinder == cylinder);
    let mut explained = Vec::new();
    for one in writes {
        let (wanted, got) = (one.code.as_deref(), at(after, one.cylinder));
        if wanted == got {
            continue;
        }
        let strayed = after.iter().find(|held| {
            !written(held.cylinder)
                && held.code.as_deref() == wanted
                && at(before, held.cylinder) != wanted
        });
        says.push(match strayed {
            Some(held) => {
                explained.push(held.cylinder);
                let was = at(before, held.cylinder).unwrap_or("nothing");
                words::trim_code_cylinder_read(
                    one.cylinder,
                    held.cylinder,
                    one.cylinder,
                    held.cylinder,
                    was,
                )
            }
            None if got == at(before, one.cylinder) => {
                words::cylinder_still_holds_not(one.cylinder, got.unwrap_or("nothing"))
            }
            None => words::cylinder_holds_after_writing(
                one.cylinder,
                got.unwrap_or("nothing"),
                wanted.unwrap_or("nothing"),
            ),
        });
    }
    let changed: Vec<u32> = after
        .iter()
        .filter(|held| !written(held.cylinder) && !explained.contains(&held.cylinder))
        .filter(|held| at(before, held.cylinder) != held.code.as_deref())
        .map(|held| held.cylinder)
        .collect();
    if !changed.is_empty() {
        says.push(words::changed_although_nothing_written(cylinders(&changed)));
    }
    if says.is_empty() {
        let of: Vec<u32> = writes.iter().map(|one| one.cylinder).collect();
        let says = words::written_read_back_compared(cylinders(&of));
        return Compared { good: true, says };
    }
    Compared { good: false, says: says.join(" ") }
}
