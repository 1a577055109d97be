//! The sentences of `store`, and nothing else.

use std::fmt::Display;

// bench

pub(super) const SESSION_FULL_BEGIN_ANOTHER: &str = "This session is full. Begin another.";
pub(super) fn job_closed_reopen_reason(number: impl Display) -> String {
    format!("Job {number} is closed. Reopen it with a reason first.")
}

pub(super) fn maximum_bench_sessions_one(sessions: impl Display) -> String {
    format!("Maximum {sessions} bench sessions in one job. Begin another round in one of them.")
}

pub(super) const NOTHING_READ_YET: &str = "Nothing read yet.";

// board

pub(super) const BOARD_TONE: &str = "board WHERE tone = ?";

// error

pub(super) fn no_id(what: impl Display) -> String {
    format!("No {what} with this id.")
}

pub(super) const SOMEONE_CHANGED_JOB_WHILE: &str =
    "Someone changed this job while you had it open. Nothing was overwritten.";
pub(super) const ID_ALREADY_BELONGS_ANOTHER: &str = "This id already belongs to another entry; nothing was saved. Reload the page and enter it again.";
pub(super) const CHECK_MARKED_FIELDS: &str = "Check the marked fields.";
pub(super) fn unexpected_answer_database(what: impl Display) -> String {
    format!("Unexpected answer from the database: {what}")
}

pub(super) fn database_could_not_updated(what: impl Display) -> String {
    format!("The database could not be updated: {what}")
}

pub(super) fn data_folder_could_not(what: impl Display) -> String {
    format!("The data folder could not be used: {what}")
}

pub(super) fn stored_log_cannot_read(what: impl Display) -> String {
    format!("A stored log cannot be read: {what}")
}

pub(super) fn stored_row_cannot_read(what: impl Display) -> String {
    format!("A stored row cannot be read: {what}")
}

// jobs

pub(super) const JOB_FULL_BOOK_ANOTHER: &str =
    "This job is full. Book in another for what follows.";

// library

pub(super) const LIBRARY_WORDS_W_JOIN: &str =
    "library_words w JOIN library_lines l ON l.line_id = w.rowid
             WHERE library_words MATCH ?1 AND (?2 IS NULL OR l.kind = ?2)";
pub(super) const LIBRARY_LINES_L_NULL: &str =
    "library_lines l WHERE ?1 IS NULL AND (?2 IS NULL OR l.kind = ?2)";
pub(super) fn changed_meanwhile_now_revision(
    revision: impl Display,
    given: impl Display,
) -> String {
    format!(
        "Changed meanwhile: now revision {revision}, yours was {given}. Look again; your entry is kept."
    )
}

pub(super) fn already_library(name: impl Display) -> String {
    format!("{name} is already in the library.")
}

// log

pub(super) const LOG_CANNOT_HOLD_MORE: &str = "This log cannot hold more entries.";
pub(super) fn row_not_written_one(n: impl Display, id: impl Display, of: impl Display) -> String {
    format!("Row {n} ({id}, of {of}) is not as it was written, or one before it is missing.")
}

pub(super) fn rows_after_row_missing(at: impl Display) -> String {
    format!("Rows after row {at} are missing.")
}

// people

pub(super) fn enter_name_characters(name: impl Display) -> String {
    format!("Enter a name of 1 to {name} characters.")
}

pub(super) fn already_here(name: impl Display) -> String {
    format!("{name} is already here.")
}

pub(super) const CHOOSE_ANOTHER_NAME_FIRST: &str =
    "You are working under this name. Choose another name first.";
pub(super) const CHOOSE_NAME_STILL_USED: &str = "Choose another name that is still used.";

// accounts

pub(super) const LAST_OWNER_STAYS: &str = "Make another person owner first: one owner must stay.";
pub(super) const LINK_USED_OR_OLD: &str = "This link was used or is too old. Ask for a new one.";
pub(super) const NAME_IS_RETIRED: &str = "This name is retired. Enter another name.";
pub(super) const WRONG_NAME_OR_PASSWORD: &str = "Wrong name or password.";
pub(super) fn password_letters(least: impl Display, most: impl Display) -> String {
    format!("Enter {least} to {most} characters.")
}
pub(super) fn too_many_tries(minutes: impl Display) -> String {
    format!("Too many wrong tries. Try again in {minutes} min.")
}

// faults

pub(super) const DISK_FULL: &str = "Disk full: nothing was saved. Make room; then it saves again.";
pub(super) fn disk_fault(why: impl Display) -> String {
    format!(
        "The disk did not accept this: nothing was saved ({why}). Check the disk and the folder."
    )
}
pub(super) fn part_of_library(rows: impl Display, of: impl Display, why: impl Display) -> String {
    format!(
        "{rows} of {of} rows are imported, then the disk failed ({why}). Import the file again."
    )
}
pub(super) const DATABASE_BUSY: &str = "The database is busy: nothing was saved. Try again.";
pub(super) fn read_only(why: impl Display) -> String {
    format!("Read-only: nothing was saved. {why}")
}
pub(super) fn damaged(why: impl Display) -> String {
    format!("The database is damaged ({why}). Restore the last backup.")
}
pub(super) const DATABASE_GONE: &str = "it is missing or empty, and this folder had one";
pub(super) const NOT_AS_CLOSED: &str = "it is not as Cobaltine closed it";
pub(super) const ROW_NAMES_NOTHING: &str = "a row refers to one that is not there";
pub(super) const ACKNOWLEDGED_ROW_GONE: &str = "entries that were acknowledged are missing";
pub(super) fn restore_from(why: impl Display) -> String {
    format!(
        "The database did not pass its check: {why}. Restore the last backup into an empty folder (cobaltine restore)."
    )
}
pub(super) const NO_BACKUP_HERE: &str = "no backup here, or one that was interrupted";
pub(super) const BACKUP_CHANGED: &str = "the backup is not as it was made";
pub(super) const RESTORE_INTO_EMPTY: &str = "The folder is not empty. Restore into an empty one.";
pub(super) fn made_otherwise(table: impl Display) -> String {
    format!("{table} is not what the log makes of it")
}
pub(super) const NEWER_FOLDER: &str = "This folder was written by a newer Cobaltine. Start that version, or restore a backup from before.";

// doctor

pub(super) const PROGRAM: &str = "Program";
pub(super) const SCHEMA: &str = "Schema";
pub(super) const SIZE: &str = "Size";
pub(super) const ROOM_LEFT: &str = "Room on the disk";
pub(super) const CLOCK: &str = "Clock";
pub(super) const INSTRUMENTS_DUE: &str = "Instruments due";
pub(super) const LAST_BACKUP: &str = "Last backup";
pub(super) const LAST_CHECK: &str = "Last check";
pub(super) const NONE_DUE: &str = "none";
pub(super) const NO_BACKUP_YET: &str = "no backup yet";
pub(super) const NO_CHECK_YET: &str = "no check yet (cobaltine check)";
pub(super) fn versions(program: impl Display, sqlite: impl Display) -> String {
    format!("Cobaltine {program}, SQLite {sqlite}")
}
pub(super) fn schema_of(has: impl Display, ours: impl Display) -> String {
    format!("{has}, this program {ours}")
}
pub(super) fn sizes(database: impl Display, log: impl Display) -> String {
    format!("{database} MiB, {log} MiB not yet in the file")
}
pub(super) fn mebibytes(size: impl Display) -> String {
    format!("{size} MiB")
}
pub(super) fn clock_behind(at: impl Display, newest: impl Display) -> String {
    format!("{at} is before the newest entry ({newest})")
}
pub(super) fn backup_of(at: impl Display, size: impl Display) -> String {
    format!("{at}, {size} MiB")
}
pub(super) fn checked_at(at: impl Display, wrong: &str) -> String {
    if wrong.is_empty() { format!("{at}, nothing wrong") } else { format!("{at}, {wrong}") }
}

// pins

pub(super) fn pin_digits(least: impl Display, most: impl Display) -> String {
    format!("Enter {least} to {most} digits.")
}
pub(super) const ENTER_PIN_SIGN: &str = "Enter your PIN to sign.";
pub(super) const CHOOSE_PIN_FIRST: &str = "Choose your PIN first.";
pub(super) const WRONG_PIN: &str = "Wrong PIN. Nothing was saved.";
pub(super) fn too_many_wrong_pins(minutes: impl Display) -> String {
    format!("Too many wrong PINs. Try again in {minutes} min.")
}

// rules

pub(super) const ENTER_WORKSHOPS_REASON_SHOWS: &str =
    "Enter the workshop's reason; it shows with every result.";
pub(super) fn rule_changed_meanwhile_look(typed: impl Display) -> String {
    format!("This rule was changed to {typed} meanwhile. Look again; your entry is kept.")
}

// shelf

pub(super) fn more_injectors_match_one(most: impl Display) -> String {
    format!("More than {most} injectors: match those of one job.")
}

pub(super) const SET_INJECTORS_EACH_ONCE: &str = "A set has 2 to 16 injectors, each once.";
pub(super) fn maximum_characters(longest_note: impl Display) -> String {
    format!("Maximum {longest_note} characters.")
}

pub(super) const INJECTOR_SET_NOT_SHELF: &str = "An injector of this set is not on this shelf.";
pub(super) fn injector_set_already_set(number: impl Display) -> String {
    format!("An injector of this set is already in set {number}.")
}

// stock

pub(super) fn no_shim_m_stock(size: impl Display, size_um: impl Display) -> String {
    format!("No shim of {size} µm in stock; the nearest on hand is {size_um} µm.")
}

pub(super) fn no_shim_m_stock_drawer(size: impl Display) -> String {
    format!("No shim of {size} µm in stock; the drawer is empty.")
}

// transfer

pub(super) const JOB_ALREADY_HERE_ANOTHER: &str =
    "This job is already here in another state; nothing was overwritten.";
pub(super) fn bench_session_already_here(number: impl Display) -> String {
    format!("Bench session {number} is already here with other content; nothing was imported.")
}

pub(super) const INJECTOR_ROW_FILE_BELONGS: &str =
    "An injector or a row of this file belongs to another job here; nothing was imported.";
pub(super) const JOB_HOLDS_MORE_WORKSHOP: &str = "This job holds more than this workshop accepts.";

// weights

pub(super) const SHIPPED: &str = "As shipped.";
pub(super) const WEIGHTS_CHANGED_MEANWHILE_LOOK: &str =
    "The weights were changed meanwhile. Look again; your entry is kept.";
pub(super) const ENTER_WORKSHOPS_REASON_WEIGHTS: &str =
    "Enter the workshop's reason for these weights.";

// take

pub(super) fn conflicts_existing_data(refused: impl Display) -> String {
    format!("Conflicts with existing data: {refused}.")
}

pub(super) const WORKSHOP_OWN_RULES_NOT: &str =
    "This workshop has its own rules; they are not mixed.";
pub(super) const RULE_NEEDS_NUMBER_REASON: &str = "A rule needs a number and a reason.";
pub(super) const WORKSHOP_OWN_WEIGHTS_NOT: &str =
    "This workshop has its own weights; they are not mixed.";
pub(super) const ENTER_SIZE_M_ABOVE: &str = "Enter a size in µm above zero, and a count.";

// workshop

pub(super) const NOTHING_MAY_FOLLOW_LAST: &str = "Nothing may follow the last line.";
pub(super) fn not_line_workshop_file(error: impl Display) -> String {
    format!("Not a line of a workshop file: {error}.")
}

pub(super) fn version_needed(
    workshop_format: impl Display,
    workshop_version: impl Display,
) -> String {
    format!("{workshop_format} version {workshop_version} is needed.")
}

pub(super) const ANOTHER_FILE_STARTS_HERE: &str = "Another file starts here.";
pub(super) const FIRST_LINE_MUST_SAY: &str = "The first line must say what the file is.";
pub(super) fn lines_written_here(lines: impl Display, before: impl Display) -> String {
    format!("{lines} lines were written, {before} are here.")
}

pub(super) const FILE_INCOMPLETE_LAST_LINE: &str =
    "The file is incomplete: its last line is missing. Nothing was imported.";

pub(super) fn folder_in_use(folder: impl Display) -> String {
    format!(
        "Data folder {folder} is in use by another Cobaltine. Stop that one, or choose another folder with --data."
    )
}

pub(super) const PROFILE_CHANGED: &str =
    "The workshop's details were changed meanwhile. Look again; your entry is kept.";

// customers

pub(super) const CUSTOMER_CHANGED: &str =
    "Someone changed this customer while you had it open. Nothing was overwritten.";

// shelf

pub(super) fn owners_differ(owners: impl Display) -> String {
    format!("These injectors belong to {owners}. Confirm that the owners agree.")
}
