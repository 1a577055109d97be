//! The sentences of `server`, and nothing else.

use cobaltine_core::units::FLOW;
use std::fmt::Display;

// assets

pub(super) const DOCTYPE_HTML_TITLE_COBALTINE: &str = "<!doctype html><title>Cobaltine</title><p>The front end was not built into this program. Run <code>cargo xtask demo</code>, which builds it first.</p>";

// bench

pub(super) const NOT_TEST_PLAN: &str = "This is not a test plan.";
pub(super) const JOB_NO_SUCH_CYLINDER: &str = "That job has no such cylinder.";
pub(super) const PETROL_INJECTORS_DIESEL_INJECTORS: &str =
    "Petrol injectors, diesel injectors and dosers need separate bench sessions.";
pub(super) const INJECTOR_BENCH_TWICE: &str = "An injector is on the bench twice.";
pub(super) const CHOOSE_LEAST_ONE_INJECTOR: &str = "Choose at least one injector.";
pub(super) fn no_cell_here(cell: impl Display) -> String {
    format!("No cell \"{cell}\" here.")
}

pub(super) const ENTER_OUT: &str = "Enter 1 to 1000, in or out.";

// bench files

pub(super) const CHOOSE_EACH_COLUMN_MEANS: &str = "Choose what each column means.";
pub(super) const NO_SUCH_ROUND: &str = "No such round.";
pub(super) const FILE_COULD_NOT_READ: &str = "The file could not be read to its end.";
pub(super) fn maximum_rows(most_rows: impl Display) -> String {
    format!("Maximum {most_rows} rows.")
}

pub(super) fn cannot_read_table(error: impl Display) -> String {
    format!("Cannot be read as a table: {error}.")
}

pub(super) const NO_READING_FILE: &str = "No reading in this file.";
pub(super) const NEEDS_HEADING_LEAST_TWO: &str = "Needs a heading and at least two columns.";
pub(super) fn heading_cannot_read(error: impl Display) -> String {
    format!("The heading cannot be read: {error}.")
}

pub(super) fn maximum_columns(most_columns: impl Display) -> String {
    format!("Maximum {most_columns} columns.")
}

// codes

pub(super) const TYPE_SECOND_TIME_HAND: &str =
    "Type it a second time: hand-typed trim codes are entered twice.";
pub(super) const TWO_ENTRIES_DIFFER_CHECK: &str =
    "The two entries differ. Check the body and retype both.";
pub(super) const BENCH_NO_SUCH_TRIM: &str = "The bench has no such trim code for this injector.";
pub(super) const ENGINE_NO_SUCH_INJECTOR: &str = "This engine has no such injector.";
pub(super) const TRIM_CODES_BEING_WRITTEN: &str =
    "Trim codes are being written; they are read back at the end.";
pub(super) const READ_STORED_TRIM_CODES: &str =
    "Read the stored trim codes first: the codes as found must be on record.";
pub(super) const NOTHING_WRITE: &str = "Nothing to write.";
pub(super) const SOMETHING_CHANGED_SINCE_YOU: &str =
    "Something changed since you looked: check the plan again.";
pub(super) const TRIM_CODES_ALREADY_BEING: &str =
    "Trim codes are already being written; wait for the end.";
pub(super) const ONLY_SIMULATED_ECU_SETTINGS: &str = "Only the simulated ECU has settings.";

// connections

pub(super) const INSTRUMENT_ADDRESS_NOT_ALLOWED: &str =
    "This address is not on a private network. Nothing was contacted. Check it in Connections.";
pub(super) fn no_instrument_at(address: impl Display) -> String {
    format!("No instrument answers at {address}. Check its power, cable and address.")
}
pub(super) const INSTRUMENT_SILENT: &str =
    "The instrument does not answer. Nothing saved. Check it, or enter the reading by hand.";
pub(super) const INSTRUMENT_BROKE_OFF: &str =
    "The connection to the instrument was lost. Nothing saved. Check its cable.";
pub(super) const INSTRUMENT_SAID_NO_LINE: &str =
    "The instrument sent something that is no answer. Nothing saved. Restart the instrument.";
pub(super) const BENCH_STILL_RUNNING: &str =
    "The bench is still running. Wait for the end of the run.";
pub(super) const INSTRUMENT_DOES_NOT_SHOW: &str =
    "This instrument does not measure that. Choose another one.";
pub(super) fn instrument_reports(what: impl Display) -> String {
    format!("The instrument reports {what}. Nothing saved.")
}
pub(super) const INSTRUMENT_SHOWED_SOMETHING_ELSE: &str =
    "The instrument showed another value. Take the reading again, or enter it by hand.";
pub(super) const READING_OF_INSTRUMENT_TOO_OLD: &str =
    "This reading of the instrument is too old. Take it again, or enter it by hand.";
pub(super) const TOO_MANY_STREAMS: &str = "too many instruments are being read at once";
pub(super) const INSTRUMENT_IN_USE: &str = "it is reading another run already";
pub(super) const RUN_NOT_READ_BY_INSTRUMENT: &str = "This run is not read by an instrument.";
pub(super) const NO_TRACE_IS_TAKEN: &str = "No trace is being taken. Start one first.";
/// A line of its own in a table.
pub(super) fn gap_in_trace(from_s: f64, to_s: f64, why: &str) -> String {
    format!("gap {from_s:.3} s to {to_s:.3} s: {}", why.replace(['\n', '\r'], " "))
}
pub(super) const TRACE_OF_INSTRUMENT: &str = "taken by an instrument";

// decisions

pub(super) const ENTER_DECISION_LEAST_ONE: &str = "Enter a decision for at least one injector.";

// error

pub(super) const CHECK_MARKED_FIELDS: &str = "Check the marked fields.";
pub(super) const CHOOSE_YOUR_NAME_FIRST: &str = "Choose your name first; every entry is signed.";
pub(super) const SIGN_IN_FIRST: &str = "Sign in first.";
pub(super) const ROLE_DOES_NOT_ALLOW: &str = "Your role does not allow this. Ask the owner.";
pub(super) const ENTER_PASSWORD_AGAIN: &str = "Enter your password again to do this.";
pub(super) fn somebody_else_is_in(name: impl Display) -> String {
    format!("{name} is signed in now. Nothing was saved.")
}
pub(super) const NOBODY_SIGNS_IN_HERE: &str =
    "This workshop is open: nobody signs in. Start without --open to use accounts.";
pub(super) const TOO_MANY_JSON: &str = r#"{"type":"about:blank","status":503,"code":"too_many","detail":"Too many connections from here. Try again in a moment.","fields":[],"current":null}"#;
pub(super) fn too_many_head() -> String {
    format!(
        "HTTP/1.1 503 Service Unavailable\r\ncontent-type: application/problem+json\r\n\
         retry-after: 5\r\nconnection: close\r\ncontent-length: {}\r\n\r\n{TOO_MANY_JSON}",
        TOO_MANY_JSON.len()
    )
}
pub(super) const ONE_HOST: &str = "Name one host.";
pub(super) const NO_BACKUPS_HERE: &str = "This workshop makes no backups: it is the demo.";
pub(super) const PIN_ON_TABLETS_ONLY: &str =
    "PINs work on enrolled tablets only. Use your password.";
pub(super) const SIGNER_LET_YOU_IN: &str =
    "Your account or link was made within a day by whoever decided. Ask somebody else to sign.";
pub(super) const NOTHING_TYPED: &str = "Enter a value or a counter.";
pub(super) const NO_SUCH_CHECK: &str = "No check of this name.";
pub(super) const ONLY_OWN_PIN: &str = "Choose your own name first. Each sets only their own PIN.";
pub(super) const PAGE_NOT_FOUND: &str = "Page not found.";
pub(super) const ADDRESS_DOES_NOT_ACCEPT: &str = "This address does not accept that method.";
pub(super) const UNKNOWN_HOST_NAME_IP: &str =
    "Unknown host name. Use the IP address, or start with --name.";
pub(super) const COBALTINE_MADE_MISTAKE_NOTHING: &str =
    "Cobaltine made a mistake; nothing was saved. See the log.";
pub(super) const COBALTINE_COULD_NOT_NOTHING: &str =
    "Cobaltine could not do this; nothing was saved. See the log.";
pub(super) const ID_ALREADY_EXISTS_RECORD: &str =
    "This id already exists, or a record it refers to is missing.";
pub(super) const TOOK_TOO_LONG: &str =
    "This took too long. Look whether it was saved, then try again.";
pub(super) const TOO_LARGE_ADDRESS: &str = "Too large for this address.";
pub(super) fn not_understood(text: impl Display) -> String {
    format!("Not understood: {text}.")
}

// events

pub(super) const ENTRIES_ECU_COME_ONLY: &str =
    "Entries from an ECU come only from the connection to it.";
pub(super) const TRIM_CODES_BEING_WRITTEN_WAIT: &str =
    "Trim codes are being written; wait for the end.";
pub(super) const CLOSE_JOB_PROVE_STAGE: &str = "Close the job in its Prove stage.";

// extract

pub(super) const REQUEST_MUST_SENT_APPLICATION: &str =
    "The request must be sent as application/json.";
pub(super) fn must_uuid(command: impl Display) -> String {
    format!("{command} must be a UUID.")
}

// instruments

pub(super) const ENTER_LOWER_LIMIT_UPPER: &str = "Enter a lower limit, an upper limit, or both.";
pub(super) const ENTER_LONG_RUN_TAKES: &str = "Enter how long a run takes.";
pub(super) fn you(name: impl Display) -> String {
    format!("{name} can, and you have it.")
}

// library text

pub(super) fn not_csv(error: impl Display) -> String {
    format!("Not CSV: {error}.")
}

// demo

pub(super) const NO_DEMO_HERE: &str = "No demo workshop can be opened from here.";
pub(super) fn demo_not_opened(why: impl Display) -> String {
    format!("The demo workshop could not be opened: {why}")
}

pub(super) fn say_columns(missing: impl Display, twice: impl Display) -> String {
    format!("Choose what each column is. Still missing: {missing}; chosen twice: {twice}.")
}

pub(super) fn maximum_rows_one_file(most_rows: impl Display) -> String {
    format!("Maximum {most_rows} rows in one file.")
}

pub(super) fn cells_but_columns_named(record: impl Display, columns: impl Display) -> String {
    format!("{record} cells, but {columns} columns are named.")
}

pub(super) fn not_library_file(error: impl Display) -> String {
    format!("Not a library file: {error}.")
}

pub(super) fn version_version_needed(
    format: impl Display,
    version: impl Display,
    library_format: impl Display,
    library_version: impl Display,
) -> String {
    format!(
        "This is \"{format}\" version {version}; {library_format} version {library_version} is needed."
    )
}

pub(super) fn maximum_entries_one_file(most_rows: impl Display) -> String {
    format!("Maximum {most_rows} entries in one file.")
}

// matchings

pub(super) fn matchings_already_running_stop(at_work: impl Display) -> String {
    format!("{at_work} matchings are already running; stop one, or wait for it.")
}

pub(super) const COBALTINE_MADE_MISTAKE_SEE: &str = "Cobaltine made a mistake. See the log.";

// transfers

pub(super) fn transfers_running(at_work: impl Display) -> String {
    format!("{at_work} imports and exports are already running. Wait for one, or cancel it.")
}
pub(super) const UPLOAD_BROKE_OFF: &str = "The upload broke off: nothing was imported. Try again.";
pub(super) const CHOOSE_WHAT_TO_EXPORT: &str = "Choose workshop or readings.";

// openapi

pub(super) const COBALTINE_JOB_FILE_VERSION: &str = "Cobaltine job file, version 1";
pub(super) const COBALTINE_LIBRARY_FILE_VERSION: &str = "Cobaltine library file, version 1";
pub(super) const LINE_COBALTINE_WORKSHOP_FILE: &str = "A line of a Cobaltine workshop file";

// places

pub(super) const TEST_TWO_MORE_INJECTORS: &str =
    "Test two or more injectors on the bench first: their flow, or what they deliver at a point.";

// return plan

pub(super) fn workshops_own_reference_proven(
    count: impl Display,
    from: impl Display,
    to: impl Display,
) -> String {
    format!(
        "this workshop's own reference from {count} proven-good injectors, {from} to {to}; not a maker's limit"
    )
}

pub(super) fn most_ml_min(upper_ml_min: impl Display, source: impl Display) -> String {
    format!("At most {upper_ml_min} {FLOW}: {source}.")
}

pub(super) fn librarys_limit_ml_min(upper_ml_min: impl Display) -> String {
    format!("The library's limit of {upper_ml_min} {FLOW} does not apply at this temperature.")
}

pub(super) const LIBRARY_NO_LIMIT_INJECTORS: &str =
    "The library has no limit for this: injectors are compared with one another.";
pub(super) fn run_shows_between_two(planned_s: impl Display, difference: impl Display) -> String {
    format!("A run of {planned_s} shows {difference:.0} % between two bottles.")
}

pub(super) fn show_between_two_bottles(
    difference: impl Display,
    seconds: impl Display,
    rate: impl Display,
) -> String {
    format!(
        "To show {difference:.0} % between two bottles, run for {seconds} (at about {rate:.0} {FLOW})."
    )
}

pub(super) fn show_run_would_take(
    difference: impl Display,
    seconds: impl Display,
    worst_fills_s: impl Display,
) -> String {
    format!(
        "To show {difference:.0} % a run would take {seconds}, but a bad injector fills its bottle in {worst_fills_s}: note when each reaches a mark, or use larger bottles."
    )
}

// router

pub(super) const DEFAULT_SRC_SELF_SCRIPT: &str = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

// traces

pub(super) fn needs_two_columns(second: impl Display) -> String {
    format!("Needs two columns: time and {second}.")
}

pub(super) fn other_quantity(held: &str, wanted: &str) -> String {
    format!("The second column is headed “{held}”: {wanted} is needed.")
}

// recordings

pub(super) const CHECK_TAKES_NO_RECORDING: &str = "This check takes no recording.";
pub(super) const ENTER_FIRING_ORDER: &str = "The peaks name no cylinder by themselves: enter the firing order from the first peak, such as 1-3-4-2.";
pub(super) const FILE_IS_NOT_BASE64: &str = "The file did not arrive whole. Choose it again.";
pub(super) const FILE_IS_NO_TEXT: &str = "This file is no text. Choose a CSV file.";
pub(super) const WAV_OF_ONE_OR_TWO: &str =
    "Choose a WAV file of one channel, or of two with the drive in the second; a minute at most.";
pub(super) fn no_wav(error: impl Display) -> String {
    let error = error.to_string();
    format!("This is no WAV file that can be read: {}.", error.trim_end_matches('.'))
}

// unit

pub(super) const NO_ECU_CONNECTED_HERE: &str =
    "No ECU is connected here. Start the program with --unit ADDRESS.";
pub(super) const ECU_NOT_RESPONDING_CHECK: &str =
    "ECU not responding. Check its connector and supply voltage.";
pub(super) const CONNECTION_ECU_LOST: &str = "Connection to the ECU was lost.";
pub(super) fn ecu_still_writing(percent: impl Display) -> String {
    format!("The ECU is still writing a trim code: {percent} %. Wait, then read again.")
}
pub(super) fn v_ecu_too_low(what: impl Display) -> String {
    format!("{what:.1} V at the ECU: too low to write safely. Connect a support charger first.")
}

// measuring

pub(super) fn no_workshop_reference_yet(error: impl Display) -> String {
    format!("No workshop reference yet: {error}.")
}

// set up

pub(super) const ABOVE_TOP_BOTTLE: &str = "Above the top of the bottle.";
pub(super) const MARKS_FURTHER_APART_BOTTLE: &str =
    "The marks are further apart than the bottle is large.";
pub(super) fn level_line_after_entered(line: impl Display, planned: impl Display) -> String {
    format!("level line {line} after {planned}, as entered")
}

// typed

pub(super) const ENTER_NUMBER: &str = "Enter a number.";

// writings

pub(super) fn codes_read_back_could(error: impl Display) -> String {
    format!("The codes read back could not be saved: {error}")
}

// documented

pub(super) const REFUSED_400: &str = "The question, the body or the host cannot be read.";
pub(super) const REFUSED_401: &str = "Nobody is in, or nobody is chosen as being at the bench.";
pub(super) const REFUSED_403: &str =
    "The role does not allow it, or the password is asked for again.";
pub(super) const REFUSED_404: &str = "There is nothing under this address.";
pub(super) const REFUSED_409: &str =
    "Somebody else was first, or it does not go with what is there.";
pub(super) const REFUSED_413: &str = "More than this address takes.";
pub(super) const REFUSED_415: &str = "Not the kind of body that this address takes.";
pub(super) const REFUSED_421: &str = "Asked for under a name that is not this machine's.";
pub(super) const REFUSED_422: &str = "What cannot be kept or computed as it is, field by field.";
pub(super) const REFUSED_429: &str = "Too many tries.";
pub(super) const REFUSED_431: &str = "More in the head than is read.";
pub(super) const REFUSED_500: &str = "A defect of the program; nothing was saved.";
pub(super) const REFUSED_503: &str = "The disk, or too much at once; nothing was saved.";
pub(super) const HEADER_CACHE_CONTROL: &str = "How long an answer holds.";
pub(super) const HEADER_CONTENT_DISPOSITION: &str = "The name of a file.";
pub(super) const HEADER_CONTENT_SECURITY_POLICY: &str =
    "Where scripts, styles and pictures may come from.";
pub(super) const HEADER_ETAG: &str = "Changes with everything that is written.";
pub(super) const HEADER_REFERRER_POLICY: &str = "Nothing is said to other pages.";
pub(super) const HEADER_RETRY_AFTER: &str = "Seconds after which the same may be asked again.";
pub(super) const HEADER_SET_COOKIE: &str = "The session, renewed.";
pub(super) const HEADER_VARY: &str = "What an answer depends on besides its address.";
pub(super) const HEADER_X_ACCEL_BUFFERING: &str = "Events are passed on as they come.";
pub(super) const HEADER_X_CLOCK: &str = "The clock of the program, ms since 1970, for timers.";
pub(super) const HEADER_X_CONTENT_TYPE_OPTIONS: &str = "The kind is not guessed.";
pub(super) const PARAMETER_IDEMPOTENCY_KEY: &str =
    "UUID of this act, the same for every retry of it.";
pub(super) const PARAMETER_IF_NONE_MATCH: &str = "The tag of the answer that is here already.";
pub(super) const PARAMETER_X_AT_BENCH: &str =
    "UUID of the person whom the page shows as being at the bench.";
pub(super) const PARAMETER_X_UNITS: &str = "The units that stood beside the fields of the page.";
pub(super) const UNCHANGED: &str = "The answer that is here already.";

// trainer

pub(crate) const EXERCISE_ON_ITS_OWN_BENCH: &str =
    "Injectors of an exercise hang on a bench of their own.";
pub(crate) const NOTHING_LEFT_TO_READ: &str =
    "Everything is read here. Decide, or start another check.";
