//! The sentences of `codes`, and nothing else.

use std::fmt::Display;

// coding

pub(super) const WRITE_NEVER_FINISHED_RECORD: &str =
    "The write never finished on record: the program or the machine stopped.";
pub(super) fn stored_code_unknown_read(why: impl Display, open: impl Display) -> String {
    format!("{why} {open}: stored code unknown. Read the ECU.")
}

pub(super) const WRITTEN_BUT_NOT_READ: &str = "Written but not read back: stored code unknown.";
pub(super) const TRIM_CODE_NOT_CAPTURED: &str = "Trim code not captured yet.";
pub(super) const ECU_NOT_READ_YET: &str = "ECU not read yet.";
pub(super) const NO_TRIM_CODE_STORED: &str = "No trim code stored.";
pub(super) const READ_BACK_TRIM_CODE: &str = "Read back: the trim code of this injector.";
pub(super) fn trim_code_injector_cylinder(cylinder: impl Display) -> String {
    format!("The trim code of the injector in cylinder {cylinder} is stored here.")
}

pub(super) const DIFFERENT_TRIM_CODE_STORED: &str = "A different trim code is stored.";
pub(super) const KIND_ECU_USES_NO: &str = "This kind of ECU uses no injector trim codes.";
pub(super) const READ_STORED_TRIM_CODES: &str =
    "Read the stored trim codes first: they are the codes as found.";
pub(super) const EVERY_CYLINDER_TRIM_CODE: &str =
    "Every cylinder has the trim code of its own injector stored.";
pub(super) const EVERY_CYLINDER_WORKED_ON: &str =
    "Every cylinder that was worked on has the trim code of its own injector stored.";
pub(super) fn capture_trim_code(missing: impl Display) -> String {
    format!("Capture the trim code of {missing}.")
}

pub(super) fn written(write: impl Display) -> String {
    format!("{write} to be written.")
}

pub(super) fn written_trim_code_still(write: impl Display, missing: impl Display) -> String {
    format!("{write} to be written; trim code of {missing} still missing.")
}

pub(super) fn same_trim_code_unlikely(of: impl Display, code: impl Display) -> String {
    format!("{of} have the same trim code {code}: unlikely. Recheck the bodies.")
}

// compared

pub(super) fn trim_code_cylinder_read(
    cylinder: impl Display,
    cylinder2: impl Display,
    cylinder3: impl Display,
    cylinder4: impl Display,
    was: impl Display,
) -> String {
    format!(
        "The trim code for cylinder {cylinder} was read back in cylinder {cylinder2}, not in {cylinder3}. Cylinder {cylinder4} held {was} before."
    )
}

pub(super) fn cylinder_still_holds_not(cylinder: impl Display, got: impl Display) -> String {
    format!("Cylinder {cylinder} still holds {got}: not written.")
}

pub(super) fn cylinder_holds_after_writing(
    cylinder: impl Display,
    got: impl Display,
    wanted: impl Display,
) -> String {
    format!("Cylinder {cylinder} holds {got} after writing, not {wanted}.")
}

pub(super) fn changed_although_nothing_written(changed: impl Display) -> String {
    format!("{changed} changed although nothing was written there.")
}

pub(super) fn written_read_back_compared(of: impl Display) -> String {
    format!("{of} written, read back and compared.")
}

// codes

pub(super) const TRIM_CODE_LETTERS_DIGITS: &str = "A trim code has 2 to 40 letters and digits.";
pub(super) fn characters_trim_code_family(
    normalised: impl Display,
    length: impl Display,
) -> String {
    format!("{normalised} characters; a trim code of this family has {length}.")
}

pub(super) fn cannot_occur_trim_code(wrong: impl Display) -> String {
    format!("{wrong} cannot occur in a trim code of this family.")
}

pub(super) const CHECK_CHARACTERS_NOT_MATCH: &str =
    "Check characters do not match: at least one character was misread.";
pub(super) const CODES_FROM_THE_OTHER_END: &str = "Every stored trim code belongs to the injector at the other end: which end is cylinder 1? Check before any code is written.";
