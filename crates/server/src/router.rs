//! Every route of the program.

use crate::{
    AppState, assets, bench, bench_files, board, calc, calculators, changes, codes, decisions,
    error, events, fitting, fresh, host, instruments, jobs, judgement, library, matchings, openapi,
    passports, people, places, proving, reports, return_plan, return_tests, rules, sheets, shelf,
    traces, transfer, whole, workshops,
};
use axum::Router;
use axum::extract::DefaultBodyLimit;
use axum::http::{HeaderName, HeaderValue, StatusCode, header};
use axum::middleware::{from_fn_with_state, map_response};
use axum::routing::{get, post, put};
use std::time::Duration;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::timeout::TimeoutLayer;
use tower_http::trace::TraceLayer;

/// Largest ordinary request.
const BODY_LIMIT: usize = 256 * 1024;
/// Largest file to import.
const IMPORT_LIMIT: usize = 8 * 1024 * 1024;
/// Largest file of bench readings: a log of a quarter of a million rows.
const BENCH_FILE_LIMIT: usize = 24 * 1024 * 1024;
/// Largest workshop file that comes in over HTTP; a larger one by `cobaltine import-workshop`.
const WORKSHOP_LIMIT: usize = 64 * 1024 * 1024;
/// A request that takes longer is answered with a time-out.
const TIMEOUT: Duration = Duration::from_secs(30);
/// Scripts, fonts and pictures come from here and nowhere else. Styles may be inline: the
/// control library writes its style sheets at run time. No page can be framed.
const POLICY: &str = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; \
    img-src 'self' data:; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; \
    form-action 'self'; frame-ancestors 'none'";

pub(crate) fn router(state: AppState) -> Router {
    let api = Router::new()
        .route("/openapi.json", get(openapi::document))
        .route("/schema/job.json", get(openapi::job_file))
        .route("/changes", get(changes::listen))
        .route("/board", get(board::page))
        .route("/people", get(people::list).post(people::add))
        .route("/families", get(people::families))
        .route("/layout", post(jobs::layout))
        .route("/jobs", post(jobs::take_in))
        .route("/jobs/import", post(transfer::import).layer(DefaultBodyLimit::max(IMPORT_LIMIT)))
        .route("/jobs/{job}", get(jobs::read))
        .route("/jobs/{job}/intake", put(jobs::change_intake))
        .route("/jobs/{job}/return-tests", post(return_tests::set_up))
        .route("/jobs/{job}/decisions", post(decisions::decide))
        .route("/jobs/{job}/judgement", get(judgement::read))
        .route("/jobs/{job}/places", post(places::propose))
        .route("/jobs/{job}/codes", get(codes::read))
        .route("/jobs/{job}/codes/look", post(codes::look))
        .route("/jobs/{job}/codes/captured", post(codes::capture))
        .route("/jobs/{job}/codes/read", post(codes::read_unit))
        .route("/jobs/{job}/codes/write", post(codes::write))
        .route("/jobs/{job}/codes/knob", post(codes::knob))
        .route("/jobs/{job}/fitting", get(fitting::read))
        .route("/jobs/{job}/fitting/tightening", post(fitting::tighten))
        .route("/jobs/{job}/proof", get(proving::read))
        .route("/jobs/{job}/proof/learned", post(proving::learned))
        .route("/jobs/{job}/proof/clear", post(proving::clear))
        .route("/jobs/{job}/close", post(proving::close))
        .route("/jobs/{job}/report", get(reports::read))
        .route("/passports", get(passports::find))
        .route("/passports/{injector}", get(passports::read))
        .route("/workshop/export.jsonl", get(workshops::export))
        .route("/workshop/readings.csv", get(workshops::readings))
        .route(
            "/workshop/import",
            post(workshops::import).layer(DefaultBodyLimit::max(WORKSHOP_LIMIT)),
        )
        .route("/shelf", get(shelf::read))
        .route("/shelf/families", get(shelf::families))
        .route("/shelf/sets", post(shelf::keep))
        .route("/shelf/sets/{set}/apart", post(shelf::apart))
        .route("/matchings", post(matchings::begin))
        .route("/matchings/{matching}", get(matchings::look))
        .route("/matchings/{matching}/stop", post(matchings::stop))
        .route("/weights", get(judgement::weights).put(judgement::change_weights))
        .route("/jobs/{job}/notes", post(decisions::note))
        .route("/jobs/{job}/events", post(events::happened))
        .route("/earlier", get(events::earlier))
        .route("/jobs/{job}/export.json", get(transfer::export))
        .route("/jobs/{job}/readings.csv", get(transfer::readings))
        .route("/return-tests", get(return_tests::forms))
        .route("/return-tests/{test}/runs", post(return_tests::begin_run))
        .route("/runs/{run}/readings", post(return_tests::add_reading))
        .route("/runs/{run}/aside", post(return_tests::set_aside))
        .route("/jobs/{job}/return-tests/preview", post(return_plan::preview))
        .route("/jobs/{job}/return-tests/{test}/rejudged", get(return_plan::rejudged))
        .route("/sheets", get(sheets::forms))
        .route("/jobs/{job}/sheets", post(sheets::begin))
        .route("/sheets/{sheet}/cells", post(sheets::keep_cell))
        .route(
            "/sheets/{sheet}/traces",
            post(traces::add).layer(DefaultBodyLimit::max(IMPORT_LIMIT)),
        )
        .route("/bench", get(bench::list).post(bench::begin))
        .route("/bench/forms", get(bench::forms))
        .route("/bench/{session}", get(bench::read))
        .route("/bench/{session}/rounds", post(bench::begin_round))
        .route("/bench/{session}/cells", post(bench::keep_cell))
        .route("/bench/{session}/supply.csv", get(bench::supply_csv))
        .route(
            "/bench/{session}/files",
            post(bench_files::read).layer(DefaultBodyLimit::max(BENCH_FILE_LIMIT)),
        )
        .route("/shims", get(bench::shims).post(bench::move_shims))
        .route("/calc/{id}", post(calc::run))
        .route("/calculators", get(calculators::list))
        .route("/calculators/{id}", post(calculators::work))
        .route("/instruments", get(instruments::list).put(instruments::keep))
        .route("/instruments/can-decide", post(instruments::decide))
        .route("/rules", get(rules::list))
        .route("/rules/{rule}", put(rules::change))
        .route("/library", get(library::search))
        .route("/library/families", put(library::keep_family))
        .route("/library/families/{family}", get(library::family))
        .route("/library/items", put(library::keep_item))
        .route("/library/items/{item}", get(library::item))
        .route(
            "/library/preview",
            post(library::preview).layer(DefaultBodyLimit::max(IMPORT_LIMIT)),
        )
        .route("/library/import", post(library::import).layer(DefaultBodyLimit::max(IMPORT_LIMIT)))
        .route("/library/export.json", get(library::export_json))
        .route("/library/limits.csv", get(library::export_csv))
        .route("/schema/library.json", get(openapi::library_file))
        .route("/schema/workshop-line.json", get(openapi::workshop_line))
        .fallback(error::no_such_route)
        .method_not_allowed_fallback(error::wrong_method)
        .layer(from_fn_with_state(state.clone(), fresh::tagged))
        .layer(map_response(fresh::clock))
        .layer(from_fn_with_state(state.clone(), whole::whole));
    let fixed = |name: HeaderName, value: &'static str| {
        SetResponseHeaderLayer::if_not_present(name, HeaderValue::from_static(value))
    };
    Router::new()
        .route("/healthz", get(people::health))
        .nest("/api", api)
        .fallback(assets::serve)
        .layer(DefaultBodyLimit::max(BODY_LIMIT))
        .layer(CatchPanicLayer::custom(error::panicked))
        .layer(CompressionLayer::new())
        .layer(TimeoutLayer::with_status_code(StatusCode::SERVICE_UNAVAILABLE, TIMEOUT))
        .layer(fixed(header::CONTENT_SECURITY_POLICY, POLICY))
        .layer(fixed(header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
        .layer(fixed(header::REFERRER_POLICY, "no-referrer"))
        .layer(fixed(header::CACHE_CONTROL, "no-store"))
        .layer(from_fn_with_state(state.clone(), host::known))
        .layer(TraceLayer::new_for_http())
        .with_state(state)
}
