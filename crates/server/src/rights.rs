//! What every address takes of whoever asks: one table. An address that does not stand in it answers
//! nobody.

use axum::http::Method;
use cobaltine_core::role::Right;

/// What an address takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Need {
    /// Nothing: it says who is in, or lets somebody in.
    Nothing,
    /// That somebody is in.
    SignedIn,
    /// A right.
    Right(Right),
}

/// What this address takes; none where it is no address of the table.
pub(crate) fn need(method: &Method, path: &str) -> Option<Need> {
    let head = Method::HEAD;
    let method = if *method == head { Method::GET } else { method.clone() };
    let stands =
        |list: &[(&str, &str)]| list.iter().any(|(of, at)| *at == path && method.as_str() == *of);
    if stands(&NOTHING) {
        return Some(Need::Nothing);
    }
    if stands(&SIGNED_IN) {
        return Some(Need::SignedIn);
    }
    RIGHTS.iter().find(|(_, list)| stands(list)).map(|(right, _)| Need::Right(*right))
}

const NOTHING: [(&str, &str); 9] = [
    ("GET", "/api/sign-in"),
    ("POST", "/api/sign-in/password"),
    ("POST", "/api/sign-in/pin"),
    ("POST", "/api/sign-in/join"),
    ("POST", "/api/sign-in/end"),
    ("GET", "/api/openapi.json"),
    ("GET", "/api/schema/job.json"),
    ("GET", "/api/schema/library.json"),
    ("GET", "/api/schema/workshop-line.json"),
];

const SIGNED_IN: [(&str, &str); 4] = [
    ("POST", "/api/sign-in/here"),
    ("POST", "/api/sign-in/fresh"),
    ("PUT", "/api/sign-in/password"),
    ("PUT", "/api/people/{person}/pin"),
];

const RIGHTS: [(Right, &[(&str, &str)]); 7] = [
    (Right::Look, LOOK),
    (Right::Measure, MEASURE),
    (Right::Work, WORK),
    (Right::Sign, &[]),
    (Right::Rule, RULE),
    (Right::Export, EXPORT),
    (Right::Own, OWN),
];

const LOOK: &[(&str, &str)] = &[
    ("GET", "/api/backups"),
    ("GET", "/api/bench"),
    ("GET", "/api/bench/forms"),
    ("GET", "/api/bench/{session}"),
    ("GET", "/api/bench/{session}/supply.csv"),
    ("GET", "/api/board"),
    ("POST", "/api/calc/{id}"),
    ("GET", "/api/calculators"),
    ("POST", "/api/calculators/{id}"),
    ("GET", "/api/changes"),
    ("GET", "/api/connections"),
    ("GET", "/api/connections/{connection}/live"),
    ("GET", "/api/customers"),
    ("GET", "/api/customers/{customer}"),
    ("GET", "/api/demo"),
    ("POST", "/api/demo"),
    ("GET", "/api/earlier"),
    ("GET", "/api/families"),
    ("GET", "/api/instruments"),
    ("POST", "/api/instruments/can-decide"),
    ("GET", "/api/jobs/{job}"),
    ("GET", "/api/jobs/{job}/bench-plan"),
    ("GET", "/api/jobs/{job}/codes"),
    ("POST", "/api/jobs/{job}/codes/look"),
    ("GET", "/api/jobs/{job}/exercise"),
    ("GET", "/api/jobs/{job}/export.json"),
    ("GET", "/api/jobs/{job}/fitting"),
    ("GET", "/api/jobs/{job}/judgement"),
    ("POST", "/api/jobs/{job}/places"),
    ("GET", "/api/jobs/{job}/proof"),
    ("GET", "/api/jobs/{job}/raw.csv"),
    ("GET", "/api/jobs/{job}/readings.csv"),
    ("GET", "/api/jobs/{job}/report"),
    ("POST", "/api/jobs/{job}/return-tests/preview"),
    ("GET", "/api/jobs/{job}/return-tests/{test}/rejudged"),
    ("POST", "/api/layout"),
    ("GET", "/api/library"),
    ("GET", "/api/library/export.json"),
    ("GET", "/api/library/families/{family}"),
    ("GET", "/api/library/items/{item}"),
    ("GET", "/api/library/limits.csv"),
    ("GET", "/api/library/presets/{check}"),
    ("POST", "/api/library/preview"),
    ("POST", "/api/matchings"),
    ("GET", "/api/matchings/{matching}"),
    ("POST", "/api/matchings/{matching}/stop"),
    ("GET", "/api/passports"),
    ("GET", "/api/passports/{injector}"),
    ("GET", "/api/people"),
    ("GET", "/api/profile"),
    ("GET", "/api/return-tests"),
    ("GET", "/api/rules"),
    ("GET", "/api/sheets"),
    ("GET", "/api/shelf"),
    ("GET", "/api/shelf/families"),
    ("GET", "/api/shims"),
    ("GET", "/api/tablets"),
    ("GET", "/api/weights"),
    ("GET", "/api/trainer"),
];

const MEASURE: &[(&str, &str)] = &[
    ("POST", "/api/bench/{session}/exercise"),
    ("POST", "/api/jobs/{job}/exercise/acts"),
    ("POST", "/api/runs/{run}/exercise"),
    ("POST", "/api/sheets/{sheet}/exercise"),
    ("POST", "/api/trainer/exercises"),
    ("POST", "/api/bench"),
    ("POST", "/api/bench/{session}/cells"),
    ("POST", "/api/bench/{session}/files"),
    ("POST", "/api/bench/{session}/rounds"),
    // Each kind of event takes a right of its own: `Event::right`.
    ("POST", "/api/jobs/{job}/events"),
    ("POST", "/api/connections/{connection}/fault-codes"),
    ("POST", "/api/connections/{connection}/reading"),
    ("POST", "/api/connections/{connection}/run"),
    ("POST", "/api/connections/{connection}/test"),
    ("POST", "/api/jobs/{job}/notes"),
    ("POST", "/api/jobs/{job}/return-tests"),
    ("POST", "/api/jobs/{job}/sheets"),
    ("POST", "/api/return-tests/{test}/runs"),
    ("POST", "/api/runs/{run}/aside"),
    ("POST", "/api/runs/{run}/live"),
    ("POST", "/api/runs/{run}/live/end"),
    ("POST", "/api/runs/{run}/readings"),
    ("POST", "/api/sheets/{sheet}/cells"),
    ("POST", "/api/sheets/{sheet}/live"),
    ("POST", "/api/sheets/{sheet}/live/end"),
    ("POST", "/api/sheets/{sheet}/recordings"),
    ("POST", "/api/sheets/{sheet}/traces"),
];

const WORK: &[(&str, &str)] = &[
    ("PUT", "/api/connections"),
    ("PUT", "/api/customers"),
    ("PUT", "/api/instruments"),
    ("POST", "/api/jobs"),
    ("POST", "/api/jobs/{job}/close"),
    ("POST", "/api/jobs/{job}/codes/captured"),
    ("POST", "/api/jobs/{job}/codes/knob"),
    ("POST", "/api/jobs/{job}/codes/read"),
    ("POST", "/api/jobs/{job}/codes/write"),
    ("POST", "/api/jobs/{job}/decisions"),
    ("POST", "/api/jobs/{job}/fitting/tightening"),
    ("PUT", "/api/jobs/{job}/intake"),
    ("POST", "/api/jobs/{job}/proof/by-hand"),
    ("POST", "/api/jobs/{job}/proof/clear"),
    ("POST", "/api/jobs/{job}/proof/learned"),
    ("PUT", "/api/library/families"),
    ("PUT", "/api/library/items"),
    ("PUT", "/api/library/plans"),
    ("PUT", "/api/library/presets"),
    ("POST", "/api/shelf/sets"),
    ("POST", "/api/shelf/sets/{set}/apart"),
    ("POST", "/api/shims"),
];

const RULE: &[(&str, &str)] = &[
    ("POST", "/api/jobs/import"),
    ("POST", "/api/library/import"),
    ("PUT", "/api/rules/{rule}"),
    ("PUT", "/api/weights"),
    ("PUT", "/api/weights/row"),
];

const EXPORT: &[(&str, &str)] = &[
    ("POST", "/api/backups"),
    ("GET", "/api/workshop/export.jsonl"),
    ("POST", "/api/workshop/exports"),
    ("GET", "/api/workshop/readings.csv"),
    ("GET", "/api/workshop/transfers"),
    ("GET", "/api/workshop/transfers/{transfer}"),
    ("GET", "/api/workshop/transfers/{transfer}/file"),
    ("POST", "/api/workshop/transfers/{transfer}/stop"),
];

const OWN: &[(&str, &str)] = &[
    ("POST", "/api/people"),
    ("PUT", "/api/people/{person}"),
    ("PUT", "/api/people/{person}/account"),
    ("POST", "/api/people/{person}/link"),
    ("PUT", "/api/profile"),
    ("POST", "/api/tablets"),
    ("POST", "/api/tablets/{tablet}/end"),
    ("POST", "/api/workshop/imports"),
];
