//! Every address of the program, once: at its handler, with its description.

use crate::{
    AppState, accounts, backups, bench, bench_files, board, calc, calculators, changes, codes,
    connections, customers, decisions, demo, error, events, fitting, instruments, jobs, judgement,
    library, live, matchings, passports, people, places, profile, proving, recordings, reports,
    return_plan, return_tests, rules, sheets, shelf, sign_in, traces, trainer, transfer, transfers,
    workshops,
};
use axum::extract::DefaultBodyLimit;
use utoipa::OpenApi as _;
use utoipa::openapi::OpenApi;
use utoipa_axum::router::{OpenApiRouter, UtoipaMethodRouterExt as _};
use utoipa_axum::routes;

/// Largest file to import.
const IMPORT_LIMIT: usize = 8 * 1024 * 1024;
/// Largest file of bench readings: a log of a quarter of a million rows.
const BENCH_FILE_LIMIT: usize = 24 * 1024 * 1024;

#[derive(utoipa::OpenApi)]
#[openapi(
    info(title = "Cobaltine", description = "Injector work: jobs, readings, verdicts, decisions."),
    components(schemas(error::Problem, cobaltine_store::WorkshopLine))
)]
struct Api;

/// Every address, each standing once: at its handler, with its description.
pub(crate) fn api() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(changes::listen))
        .routes(routes!(board::page))
        .routes(routes!(people::list, people::add))
        .routes(routes!(people::change))
        .routes(routes!(people::set_pin))
        .routes(routes!(accounts::change))
        .routes(routes!(accounts::link))
        .routes(routes!(accounts::tablets, accounts::enrol))
        .routes(routes!(accounts::end_tablet))
        .routes(routes!(backups::read, backups::make))
        .routes(routes!(sign_in::read))
        .routes(routes!(sign_in::by_password, sign_in::new_password))
        .routes(routes!(sign_in::by_pin))
        .routes(routes!(sign_in::join))
        .routes(routes!(sign_in::fresh))
        .routes(routes!(sign_in::here))
        .routes(routes!(sign_in::end))
        .routes(routes!(profile::read, profile::change))
        .routes(routes!(demo::read, demo::open))
        .routes(routes!(people::families))
        .routes(routes!(jobs::layout))
        .routes(routes!(jobs::take_in))
        .routes(routes!(transfer::import).layer(DefaultBodyLimit::max(IMPORT_LIMIT)))
        .routes(routes!(trainer::list))
        .routes(routes!(trainer::take_up))
        .routes(routes!(trainer::read))
        .routes(routes!(trainer::acts))
        .routes(routes!(trainer::read_sheet))
        .routes(routes!(trainer::read_run))
        .routes(routes!(trainer::read_bench))
        .routes(routes!(jobs::read))
        .routes(routes!(jobs::bench_plan))
        .routes(routes!(customers::list, customers::keep))
        .routes(routes!(customers::read))
        .routes(routes!(jobs::change_intake))
        .routes(routes!(return_tests::set_up))
        .routes(routes!(decisions::decide))
        .routes(routes!(judgement::read))
        .routes(routes!(places::propose))
        .routes(routes!(codes::read))
        .routes(routes!(codes::look))
        .routes(routes!(codes::capture))
        .routes(routes!(codes::read_unit))
        .routes(routes!(codes::write))
        .routes(routes!(codes::knob))
        .routes(routes!(fitting::read))
        .routes(routes!(fitting::tighten))
        .routes(routes!(proving::read))
        .routes(routes!(proving::learned))
        .routes(routes!(proving::clear))
        .routes(routes!(proving::by_hand))
        .routes(routes!(proving::close))
        .routes(routes!(reports::read))
        .routes(routes!(passports::find))
        .routes(routes!(passports::read))
        .routes(routes!(workshops::export))
        .routes(routes!(workshops::readings))
        .routes(routes!(transfers::import))
        .routes(routes!(transfers::export))
        .routes(routes!(transfers::list))
        .routes(routes!(transfers::look))
        .routes(routes!(transfers::stop))
        .routes(routes!(transfers::fetch))
        .routes(routes!(shelf::read))
        .routes(routes!(shelf::families))
        .routes(routes!(shelf::keep))
        .routes(routes!(shelf::apart))
        .routes(routes!(matchings::begin))
        .routes(routes!(matchings::look))
        .routes(routes!(matchings::stop))
        .routes(routes!(judgement::weights, judgement::change_weights))
        .routes(routes!(judgement::change_row))
        .routes(routes!(decisions::note))
        .routes(routes!(events::happened))
        .routes(routes!(events::earlier))
        .routes(routes!(transfer::export))
        .routes(routes!(transfer::readings))
        .routes(routes!(return_tests::forms))
        .routes(routes!(return_tests::begin_run))
        .routes(routes!(return_tests::add_reading))
        .routes(routes!(return_tests::set_aside))
        .routes(routes!(return_plan::preview))
        .routes(routes!(return_plan::rejudged))
        .routes(routes!(sheets::forms))
        .routes(routes!(sheets::begin))
        .routes(routes!(sheets::keep_cell))
        .routes(routes!(traces::add).layer(DefaultBodyLimit::max(IMPORT_LIMIT)))
        .routes(routes!(recordings::add).layer(DefaultBodyLimit::max(IMPORT_LIMIT)))
        .routes(routes!(bench::list, bench::begin))
        .routes(routes!(bench::forms))
        .routes(routes!(bench::read))
        .routes(routes!(bench::begin_round))
        .routes(routes!(bench::keep_cell))
        .routes(routes!(bench::supply_csv))
        .routes(routes!(bench_files::read).layer(DefaultBodyLimit::max(BENCH_FILE_LIMIT)))
        .routes(routes!(bench::shims, bench::move_shims))
        .routes(routes!(calc::run))
        .routes(routes!(calculators::list))
        .routes(routes!(calculators::work))
        .routes(routes!(instruments::list, instruments::keep))
        .routes(routes!(instruments::decide))
        .routes(routes!(connections::list, connections::keep))
        .routes(routes!(connections::test))
        .routes(routes!(connections::fault_codes_of))
        .routes(routes!(connections::read))
        .routes(routes!(connections::run))
        .routes(routes!(live::listen))
        .routes(routes!(live::take_up))
        .routes(routes!(live::end_run))
        .routes(routes!(live::begin_trace))
        .routes(routes!(live::end_trace))
        .routes(routes!(live::csv))
        .routes(routes!(rules::list))
        .routes(routes!(rules::change))
        .routes(routes!(library::search))
        .routes(routes!(library::keep_family))
        .routes(routes!(library::family))
        .routes(routes!(library::keep_item))
        .routes(routes!(library::keep_plan))
        .routes(routes!(library::presets))
        .routes(routes!(library::keep_preset))
        .routes(routes!(library::item))
        .routes(routes!(library::preview).layer(DefaultBodyLimit::max(IMPORT_LIMIT)))
        .routes(routes!(library::import).layer(DefaultBodyLimit::max(IMPORT_LIMIT)))
        .routes(routes!(library::export_json))
        .routes(routes!(library::export_csv))
}

/// The description of all of them.
pub(crate) fn described() -> OpenApi {
    let all = OpenApiRouter::<AppState>::with_openapi(Api::openapi());
    let mut all = all
        .routes(routes!(people::health))
        .routes(routes!(people::live))
        .nest("/api", api())
        .into_openapi();
    // Two handlers of one name in two files are two operations: their addresses tell them apart.
    for item in all.paths.paths.values_mut() {
        for operation in [&mut item.get, &mut item.post, &mut item.put].into_iter().flatten() {
            operation.operation_id = None;
        }
    }
    all
}
